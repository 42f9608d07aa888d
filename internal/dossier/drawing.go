package dossier

import (
	"fmt"
	"math"

	"codeberg.org/go-pdf/fpdf"

	"dusha/core/wetarea"
	"dusha/draw"
)

// look is how a style of a drawing is put on paper, in black and white: a tone, a pattern,
// a line. Widths and dashes are in px of the drawing, as on the screen.
type look struct {
	fill    int    // grey 0 to 255; noFill: none
	pattern string // "", "dots", "waves", "bars", "crosses", "lying" or "upright"
	line    float64
	grey    int // of the line
	dash    []float64
	size    float64 // of letters, px
	bold    bool
	mono    bool
	plate   bool // letters on white, so that a pattern does not run through them
}

const noFill = -1

func filled(grey int) look              { return look{fill: grey} }
func outlined(grey int, w float64) look { return look{fill: grey, line: w} }
func lined(w float64, dash ...float64) look {
	return look{fill: noFill, line: w, dash: dash}
}
func patterned(pattern string, w float64) look {
	return look{fill: 255, pattern: pattern, line: w}
}
func lettered(size float64, bold, plate bool) look {
	return look{fill: noFill, size: size, bold: bold, plate: plate}
}
func lettering(size float64) look { return look{fill: noFill, size: size, mono: true, plate: true} }

const white, pale, mid, black = 255, 232, 190, 0

// looks are all styles of the drawings that go on paper. What lies under the hand on the
// screen (chosen, asked, next) is drawn plain.
var looks = map[string]look{
	"dot": filled(170), "floor": filled(240), "wall": filled(white),
	"coat_one_way": patterned("lying", 0), "coat_across": patterned("upright", 0), "thin": patterned("bars", 0),
	"cut": lined(2.6), "fold": lined(2, 13, 5), "threshold": lined(5),
	"hole": outlined(white, 1.5), "niche": outlined(pale, 1.5), "station": lined(1.2, 6, 4), "gap": lined(6, 4, 4), "leader": {fill: noFill, line: 1.2, grey: 120, dash: []float64{4, 4}},
	"channel": outlined(white, 2), "slot": lined(2), "fall": {fill: noFill, line: 1.6, grey: 90}, "level": outlined(white, 1.8), "level_missed": filled(black),
	"joint": lined(1.2, 3, 3), "joint_side": lined(1.8), "joint_cold": lined(1.4, 10, 4), "crack": lined(1.8), "material": lined(1.6, 14, 4, 2, 4), "trim": lined(4),
	"patch": patterned("bars", 0.8), "way": lined(2.6), "way_mark": filled(black), "leak": filled(black), "leak_dry": outlined(white, 2),
	"profile_1": patterned("profile1", 0.8), "profile_2": patterned("profile2", 0.8), "profile_3": patterned("profile3", 0.8), "profile_4": patterned("profile4", 0.8), "profile_5": patterned("profile5", 0.8),
	"profile_6": patterned("profile6", 0.8), "profile_7": patterned("profile7", 0.8), "profile_8": patterned("profile8", 0.8), "profile_9": patterned("profile9", 0.8),
	"band": outlined(pale, 1.2), "band_bedded": outlined(120, 1), "band_next": outlined(pale, 1.2), "band_cut": outlined(mid, 1.2), "diagonal": lined(1.5),
	"drain": outlined(white, 2), "pipe": outlined(white, 2.2), "hair": lined(1.5),
	"dimension": lined(1.5), "tick": lined(2.4), "plate": filled(white),
	"ring": outlined(white, 1.8), "ring_thin": outlined(mid, 1.8), "flag": outlined(white, 1.8), "flag_thin": outlined(mid, 1.8), "pile": outlined(white, 1.8),
	"number_open": outlined(white, 1.8), "number_bedded": outlined(white, 1.8), "number_next": outlined(white, 1.8), "number_cut": outlined(white, 1.8),
	"strip_to_cut": lined(1.4), "strip_cut": lined(1.4), "strip_next": lined(1.4), "strip_hole": outlined(white, 1.4), "seam_to_cut": lined(3), "seam_cut": lined(3), "seam_next": lined(3),
	"roll_to_cut": outlined(white, 1.6), "roll_cut": outlined(pale, 1.6), "roll_next": outlined(white, 1.6), "roll_spoilt": patterned("crosses", 1.6), "roll_rest": lined(1.2, 7, 5), "roll_break": lined(1.6), "roll_hole": outlined(white, 1.6), "roll_slit": lined(1.6),
	"roll_head": lettered(18, true, false), "roll_word": lettered(19, true, false), "roll_word_on": lettered(19, true, false), "roll_word_next": lettered(19, true, false), "roll_small": lettered(15, true, false),
	"name": lettered(22, true, true), "small_name": lettered(16, true, true), "measure": lettering(16), "dimension_text": lettering(16),
	"number": lettered(16, true, false), "number_here": lettered(16, true, false), "flag_text": {fill: noFill, size: 14, mono: true},

	"sec_base": filled(pale), "sec_ground": lined(2.6), "sec_primer": outlined(pale, 1.4), "sec_band": outlined(120, 1.4), "sec_coat_one": outlined(pale, 1.8), "sec_coat_across": outlined(mid, 1.8),
	"sec_fleece": patterned("bars", 1.4), "sec_sheet": patterned("crosses", 1.4), "sec_top": outlined(white, 1.8), "sec_board": outlined(white, 1.4), "sec_leader": {fill: noFill, line: 1.2, grey: 120}, "sec_word": lettered(17, false, true),

	"night": filled(236), "hour": {fill: noFill, line: 0.8, grey: 170}, "midnight": {fill: noFill, line: 1.4, grey: 90}, "depth_line": {fill: noFill, line: 0.8, grey: 170},
	"axis_hour": lettering(15), "axis_depth": lettering(15), "axis_day": lettered(16, true, true),
	"band_of_water": filled(mid), "band_of_pan": filled(pale), "line_of_water": lined(3), "line_of_pan": lined(2.4, 9, 6),
	"mark_water": filled(black), "mark_pan": outlined(white, 2.2), "mark_wanted": outlined(white, 2), "mark_outside": outlined(mid, 2),
	"mark_explained": outlined(white, 2), "line_of_rain": lined(1.6, 2, 4), "word_of_rain": lettered(16, true, true), "scale_levels_only": lined(2, 7, 5),
	"line_word_water": lettered(17, true, true), "line_word_pan": lettered(17, true, true),
	"scale_holds": patterned("waves", 2), "scale_leaks": patterned("crosses", 2), "scale_limit": lined(3.6),
	"scale_interval_edge": lined(20), "scale_interval": {fill: noFill, line: 15, grey: white}, "scale_loss": filled(black),
	"scale_word": lettered(16, true, false), "scale_word_holds": lettered(17, true, false), "scale_word_leaks": lettered(17, true, false),
}

// plot is a drawing placed on the page.
type plot struct {
	p     *paper
	box   draw.Box
	left  float64 // of the drawing's box on the page, mm
	top   float64
	scale float64 // mm on paper a unit of the drawing
	px    float64 // mm on paper a px of the drawing
}

// leastOfDrawing is how much smaller than it might be a drawing is put on a page that has no room for all of it, rather
// than leave that room empty.
const leastOfDrawing = 0.65

// drawing puts a drawing on the page, as large as the given room takes it, centred.
func (p *paper) drawing(d draw.Drawing, wide, tall float64, say func(draw.Say) string) {
	scale := min(wide/d.Box.Width, tall/d.Box.Height)
	if left := (p.left() - 2) / (d.Box.Height * scale); left < 1 && left >= leastOfDrawing {
		scale *= left
	}
	p.need(d.Box.Height*scale + 2)
	g := plot{p: p, box: d.Box, left: marginLeft + (wide-d.Box.Width*scale)/2, top: p.GetY(), scale: scale, px: d.MmPerPx * scale}
	for _, item := range d.Items {
		style, known := looks[item.Style]
		if !known {
			continue
		}
		switch item.Kind {
		case "path":
			g.path(style, item)
		case "lines":
			for k := 0; k+1 < len(item.Points); k += 2 {
				g.path(style, draw.Item{Points: item.Points[k : k+2]})
			}
		case "disc":
			g.disc(style, item)
		case "dots":
			for y := math.Ceil(g.box.Y/item.Step) * item.Step; y < g.box.Y+g.box.Height; y += item.Step {
				for x := math.Ceil(g.box.X/item.Step) * item.Step; x < g.box.X+g.box.Width; x += item.Step {
					g.disc(style, draw.Item{At: wetarea.Point{x, y}, Radius: item.Radius})
				}
			}
		case "text":
			g.letters(style, item, say)
		}
	}
	p.SetDashPattern(nil, 0)
	p.SetLineCapStyle("butt")
	p.SetDrawColor(0, 0, 0)
	p.SetFillColor(0, 0, 0)
	p.SetXY(marginLeft, g.top+d.Box.Height*scale+2)
}

func (g plot) at(point wetarea.Point) fpdf.PointType {
	return fpdf.PointType{X: g.left + (point[0]-g.box.X)*g.scale, Y: g.top + (point[1]-g.box.Y)*g.scale}
}

func (g plot) pen(style look) {
	g.p.SetLineWidth(max(style.line*g.px, 0.1))
	g.p.SetDrawColor(style.grey, style.grey, style.grey)
	dash := make([]float64, len(style.dash))
	for i, length := range style.dash {
		dash[i] = length * g.px
	}
	g.p.SetDashPattern(dash, 0)
	cap := "butt"
	if style.line >= roundPx {
		cap = "round"
	}
	g.p.SetLineCapStyle(cap)
}

// roundPx is from which width on a line is a thing of its own, with round ends.
const roundPx = 12

func (g plot) path(style look, item draw.Item) {
	points := make([]fpdf.PointType, len(item.Points))
	for i, point := range item.Points {
		points[i] = g.at(point)
	}
	if len(points) < 2 {
		return
	}
	if item.Closed && style.fill != noFill {
		g.p.SetFillColor(style.fill, style.fill, style.fill)
		g.p.Polygon(points, "F")
		g.hatch(style.pattern, points)
	}
	if style.line == 0 {
		return
	}
	g.pen(style)
	if item.Closed {
		g.p.Polygon(points, "D")
		return
	}
	g.p.MoveTo(points[0].X, points[0].Y)
	for _, point := range points[1:] {
		g.p.LineTo(point.X, point.Y)
	}
	g.p.DrawPath("D")
}

func (g plot) disc(style look, item draw.Item) {
	at, radius := g.at(item.At), item.Radius*g.scale
	if style.fill != noFill {
		g.p.SetFillColor(style.fill, style.fill, style.fill)
		g.p.Circle(at.X, at.Y, radius, "F")
	}
	if style.line > 0 {
		g.pen(style)
		g.p.Circle(at.X, at.Y, radius, "D")
	}
}

// hatch draws a pattern inside an outline.
func (g plot) hatch(pattern string, outline []fpdf.PointType) {
	if pattern == "" {
		return
	}
	low, high := outline[0], outline[0]
	for _, point := range outline {
		low.X, low.Y = min(low.X, point.X), min(low.Y, point.Y)
		high.X, high.Y = max(high.X, point.X), max(high.Y, point.Y)
	}
	p, step := g.p, 2.2
	p.ClipPolygon(outline, false)
	p.SetDashPattern(nil, 0)
	p.SetLineWidth(0.18)
	p.SetDrawColor(110, 110, 110)
	switch pattern {
	case "lying":
		p.SetDashPattern([]float64{7, 2.5}, 0)
		for y := low.Y + step/2; y < high.Y; y += step {
			p.Line(low.X, y, high.X, y)
		}
	case "upright":
		p.SetDashPattern([]float64{7, 2.5}, 0)
		for x := low.X + step/2; x < high.X; x += step {
			p.Line(x, low.Y, x, high.Y)
		}
	case "bars":
		p.SetLineWidth(0.7)
		for x := low.X - (high.Y - low.Y); x < high.X; x += step * 1.4 {
			p.Line(x, high.Y, x+high.Y-low.Y, low.Y)
		}
	case "waves":
		for y := low.Y + 1; y < high.Y; y += step {
			p.MoveTo(low.X, y)
			for x, up := low.X, -0.7; x < high.X; x, up = x+1.4, -up {
				p.LineTo(x+1.4, y+up)
			}
			p.DrawPath("D")
		}
	case "crosses":
		for y := low.Y; y < high.Y; y += step {
			for x := low.X; x < high.X; x += step {
				p.Line(x, y, x+1, y+1)
				p.Line(x+1, y, x, y+1)
			}
		}
	default: // profiles: the rougher the base, the larger the grains
		var grade int
		if _, err := fmt.Sscanf(pattern, "profile%d", &grade); err == nil {
			p.SetFillColor(110, 110, 110)
			for row, y := 0, low.Y; y < high.Y; row, y = row+1, y+step {
				for x := low.X + float64(row%2)*step/2; x < high.X; x += step {
					p.Circle(x, y, 0.1+0.08*float64(grade), "F")
				}
			}
		}
	}
	p.ClipEnd()
	p.SetDashPattern(nil, 0)
}

// ptPerMm turns a size on paper into that of letters.
const ptPerMm = 72 / 25.4

func (g plot) letters(style look, item draw.Item, say func(draw.Say) string) {
	if item.Say == nil {
		return
	}
	text := say(*item.Say)
	size := max(style.size*g.px*ptPerMm, 6.5)
	family, weight := "go", ""
	if style.bold {
		weight = "B"
	}
	if style.mono {
		family = "mono"
	}
	g.p.SetFont(family, weight, size)
	at, wide := g.at(item.At), g.p.GetStringWidth(text)
	switch item.Anchor {
	case "middle":
		at.X -= wide / 2
	case "end":
		at.X -= wide
	}
	if style.plate {
		tall := size / ptPerMm
		g.p.SetFillColor(255, 255, 255)
		g.p.Rect(at.X-0.4, at.Y-tall*0.78, wide+0.8, tall*0.98, "F")
	}
	g.p.SetTextColor(0, 0, 0)
	g.p.Text(at.X, at.Y, text)
}
