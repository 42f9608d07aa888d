package cutting

import (
	"cmp"
	"math"
	"slices"

	"dusha/core/fault"
	"dusha/core/order"
	"dusha/core/wetarea"
)

// Goods are fleece, mesh, sheet or felt from a roll, lengths in mm.
type Goods struct {
	Width  float64 `json:"width_mm"`
	Lap    float64 `json:"lap_mm"` // 0: butt-jointed
	Roll   float64 `json:"roll_mm"`
	TurnUp float64 `json:"turn_up_mm"` // at the edges of a floor
	Layers int     `json:"layers"`
}

// Strip is one piece as it is cut and where it lies: a rectangle on its surface, turn-ups and laps
// included.
type Strip struct {
	Surface string        `json:"surface"`
	Layer   int           `json:"layer"` // from 1, the lowest
	Row     int           `json:"row"`   // from 1
	Along   string        `json:"along"` // "x" or "y" of the surface
	From    wetarea.Point `json:"from_mm"`
	To      wetarea.Point `json:"to_mm"`
	Length  float64       `json:"length_mm"`
	Width   float64       `json:"width_mm"` // the roll's, or what is left of it beside the edge
	Holes   []Hole        `json:"holes"`
}

// Hole is where something passes through a piece, measured on the piece: from the end that is laid
// first and from its edge nearer the surface's origin.
type Hole struct {
	Fitting  string  `json:"fitting"`
	Along    float64 `json:"along_mm"`
	Across   float64 `json:"across_mm"`
	Diameter float64 `json:"diameter_mm"`
}

// Seam is a joint of butt-jointed pieces, to be taped.
type Seam struct {
	Surface string        `json:"surface"`
	From    wetarea.Point `json:"from_mm"`
	To      wetarea.Point `json:"to_mm"`
}

// Length of the seam, mm.
func (s Seam) Length() float64 { return math.Hypot(s.To[0]-s.From[0], s.To[1]-s.From[1]) }

// Covering is a surface laid with strips.
type Covering struct {
	Along  string  `json:"along"`
	Strips []Strip `json:"strips"`
	Seams  []Seam  `json:"seams"`
	Area   float64 `json:"roll_area_m2"` // the roll's whole width, of the lowest layer
	Laps   int     `json:"laps"`         // of the lowest layer, side and end
	Clear  bool    `json:"laps_clear"`   // no lap lies over a lap
}

// mostStrips bounds what one surface is cut into.
const mostStrips = 500

// Cover lays strips over a surface, in the direction that takes the least area of roll, then the
// fewest laps, then along its x. Strips have the extent of the outline under them; a floor's turn
// up at its edges. Upper layers are shifted by equal parts of a strip, and the end laps of rows
// beside or over each other are staggered.
func (g Goods) Cover(s wetarea.Surface, fittings []wetarea.Penetration) (Covering, error) {
	switch {
	case !(g.Width > 0):
		return Covering{}, fault.At("width_mm", "number.not_positive", "value", g.Width)
	case g.Lap < 0 || g.Lap >= g.Width:
		return Covering{}, fault.At("lap_mm", "cutting.lap_wider_than_roll", "value", g.Lap, "width", g.Width)
	case !(g.Roll > 2*g.Lap):
		return Covering{}, fault.At("roll_mm", "sheet.roll_within_lap", "value", g.Roll, "lap", g.Lap)
	case g.Layers < 1 || g.Layers > 3:
		return Covering{}, fault.At("layers", "number.too_large", "value", g.Layers, "most", 3)
	}
	var best Covering
	for axis := range 2 {
		for _, far := range []bool{false, true} { // strips may begin at either side
			c, err := g.along(axis, far, s, fittings)
			if err != nil {
				return c, err
			}
			const grain = 1e-9
			if axis == 0 && !far || best.Area-c.Area > grain || math.Abs(best.Area-c.Area) <= grain && c.Laps < best.Laps {
				best = c
			}
		}
	}
	return best, nil
}

// along lays all layers in one direction, the first strip at the near or the far side.
func (g Goods) along(axis int, far bool, s wetarea.Surface, fittings []wetarea.Penetration) (Covering, error) {
	c := Covering{Along: []string{"x", "y"}[axis], Strips: []Strip{}, Seams: []Seam{}, Clear: true}
	turn := 0.0
	if s.Kind == "floor" {
		turn = g.TurnUp
	}
	effective := g.Width - g.Lap
	if g.Layers > 1 {
		c.Clear = g.Lap <= effective/float64(g.Layers)
	}
	row := 0
	for _, outline := range s.Outlines {
		low, high := wetarea.Extent(outline)
		across := 1 - axis
		wide := high[across] - low[across] + 2*turn
		for layer := range g.Layers {
			shift := effective * float64(layer) / float64(g.Layers)
			rows := count(wide-g.Lap+shift, effective)
			if rows > mostStrips {
				return c, fault.At("width_mm", "cutting.too_many_strips", "surface", s.ID, "value", rows, "most", mostStrips)
			}
			for i := range rows {
				row++
				from := low[across] - turn - shift + float64(i)*effective
				if far {
					from = high[across] + turn + shift - g.Width - float64(i)*effective
				}
				g.row(&c, outline, axis, turn, from, strip{layer + 1, row, i + layer})
			}
			if layer == 0 {
				c.Laps += rows - 1
			}
		}
	}
	for i := range c.Strips {
		c.Strips[i].Surface = s.ID
		c.Strips[i].find(fittings)
	}
	for i := range c.Seams {
		c.Seams[i].Surface = s.ID
	}
	return c, nil
}

// strip is where a row stands: its layer, its number, and what its end laps are staggered by.
type strip struct{ layer, row, turn int }

// row lays one strip in as many pieces as a roll asks for.
func (g Goods) row(c *Covering, outline []wetarea.Point, axis int, turn, from float64, at strip) {
	across := 1 - axis
	low, high := wetarea.Extent(outline)
	edge := low[across] - turn
	end := high[across] + turn
	begin, stop := max(from, edge), min(from+g.Width, end)
	under := box(low, high, across, begin, stop)
	clipped := wetarea.Clip(outline, under[0], under[1])
	if len(clipped) == 0 {
		return
	}
	least, most := wetarea.Extent(clipped)
	first, last := least[axis]-turn, most[axis]+turn
	for i, part := range g.parts(last-first, at.turn) {
		piece := Strip{Layer: at.layer, Row: at.row, Along: c.Along, Length: part[1] - part[0], Width: stop - begin, Holes: []Hole{}}
		piece.From[axis], piece.To[axis] = first+part[0], first+part[1]
		piece.From[across], piece.To[across] = begin, stop
		c.Strips = append(c.Strips, piece)
		const mm2PerM2 = 1e6
		if at.layer == 1 {
			c.Area += g.Width * piece.Length / mm2PerM2
			c.Laps += min(i, 1)
		}
		if g.Lap > 0 {
			continue
		}
		if i > 0 { // across the strip
			s := Seam{From: piece.From, To: piece.To}
			s.To[axis] = piece.From[axis]
			c.Seams = append(c.Seams, s)
		}
		if begin > edge { // beside the strip before it
			s := Seam{From: piece.From, To: piece.To}
			s.To[across] = begin
			c.Seams = append(c.Seams, s)
		}
	}
}

// box is the stretch of an outline's extent under a strip; where the strip lies wholly in a
// turn-up, the edge it turns up at.
func box(low, high wetarea.Point, across int, from, to float64) [2]wetarea.Point {
	const sliver = 0.5 // mm
	low[across], high[across] = min(max(from, low[across]), high[across]-sliver), max(min(to, high[across]), low[across]+sliver)
	return [2]wetarea.Point{low, high}
}

// parts cuts a strip where it is longer than the roll. Every second row and layer begins with the
// short piece, or with half a roll where that would put lap beside lap.
func (g Goods) parts(length float64, turn int) [][2]float64 {
	if length <= g.Roll {
		return [][2]float64{{0, length}}
	}
	n := count(length-g.Lap, g.Roll-g.Lap)
	last := length - float64(n-1)*(g.Roll-g.Lap)
	lengths := slices.Repeat([]float64{g.Roll}, n)
	lengths[n-1] = last
	if turn%2 == 1 {
		apart := math.Abs(g.Roll - last)
		if apart < 2*max(g.Lap, g.Roll/20) {
			half := g.Roll / 2
			lengths = append([]float64{half}, lengths[:n-1]...)
			lengths = append(lengths, last+g.Roll-half-(g.Roll-g.Lap))
			if rest := lengths[len(lengths)-1]; rest <= g.Lap { // the half and the last piece make up a roll
				lengths = lengths[:len(lengths)-1]
				lengths[len(lengths)-1] += rest - g.Lap
			}
		} else {
			slices.Reverse(lengths)
		}
	}
	var parts [][2]float64
	from := 0.0
	for _, l := range lengths {
		parts = append(parts, [2]float64{from, from + l})
		from += l - g.Lap
	}
	return parts
}

// find locates what passes through the piece.
func (s *Strip) find(fittings []wetarea.Penetration) {
	axis := map[string]int{"x": 0, "y": 1}[s.Along]
	for _, f := range fittings {
		if f.Surface != s.Surface {
			continue
		}
		places := []wetarea.Point{f.At}
		if f.Ends != nil {
			places = f.Ends[:]
		}
		for _, at := range places {
			half := f.Diameter / 2
			if at[0]+half <= s.From[0] || at[0]-half >= s.To[0] || at[1]+half <= s.From[1] || at[1]-half >= s.To[1] {
				continue
			}
			s.Holes = append(s.Holes, Hole{Fitting: f.ID, Along: at[axis] - s.From[axis], Across: at[1-axis] - s.From[1-axis], Diameter: f.Diameter})
		}
	}
	order.By(s.Holes, func(a, b Hole) int { return cmp.Compare(a.Along, b.Along) })
}
