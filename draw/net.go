package draw

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/wetarea"
)

// NetInputs ask for the unfolded drawing of a wet area: the floor in the middle and each
// wall folded outward on its own edge, to scale.
type NetInputs struct {
	Area wetarea.Area
	Shown
	Lying
}

// Lying is what is known to lie on an area.
type Lying struct {
	Leaks  []logbook.Leak
	Pieces []logbook.PieceLook
	Sewn   []Sewn // strips and seams on their surfaces
	Coat   *logbook.CoatLook
}

// Shown is how an area is to be seen: layers, scale and what is chosen in it.
type Shown struct {
	View     View           `json:"view"`
	Layers   []string       `json:"layers"`           // "dims", "bands", "coat", "film", "patches", "leaks"
	Zoom     float64        `json:"zoom,omitempty"`   // 0 or 1: the whole net
	Centre   *wetarea.Point `json:"centre,omitempty"` // of what is seen of a larger drawing
	Asked    []string       `json:"asked,omitempty"`  // questions of the form: only their dimensions are drawn
	Wide     bool           `json:"wide,omitempty"`   // labels hold feet and inches
	Way      []logbook.Spot `json:"way,omitempty"`    // of the water, from where it enters to where it shows
	Asking   string         `json:"asking,omitempty"`
	Missing  []string       `json:"missing,omitempty"` // questions not answered yet
	NextID   string         `json:"next_piece,omitempty"`
	Selected []string       `json:"selected,omitempty"`
	Lit      []string       `json:"lit,omitempty"`  // places that a product goes on
	Spot     *Spot          `json:"spot,omitempty"` // where a reading is about to be taken
}

// View is the size of the sheet in px that the drawing is to fill.
type View struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// check refuses a view that nothing can be drawn in.
func (v View) check() error {
	if !(v.Width >= 1 && v.Height >= 1 && v.Width <= mostSheetPx && v.Height <= mostSheetPx) {
		return fault.At("view", "draw.no_view")
	}
	return nil
}

// Spot is a place on a surface.
type Spot struct {
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
}

const (
	marginPx     = 64.0 // room for dimensions around the net
	nakedPx      = 14.0 // the same without dimensions
	numberedPx   = 30.0 // the same with numbers of pieces, which stand beside small ones
	dimensionPx  = 26.0 // from an edge to its dimension line
	tickPx       = 7.0
	leastBandPx  = 5.0 // a thin thing is never drawn thinner
	touchPx      = 56.0
	dotMm        = 500.0 // a dot each half metre shows the scale
	mostDots     = 4000
	mostSheetPx  = 10000
	bandWidthMm  = 120.0
	cornerPx     = 9.0
	spotPx       = 20.0 // half of the hairs of a spot
	numberPx     = 13.0 // radius of a piece's number
	leastRingPx  = 6.0
	ringsBelowPx = 500 // a narrower drawing shows readings as rings
	leastNamesPx = 200 // a drawing narrower than this carries no names and fittings
	leastDimsPx  = 200 // a lower one only the dimension that is asked
)

// net is a drawing under way.
type net struct {
	Drawing
	in     NetInputs
	frames map[string]frame
	px     float64 // mm a pixel

	marks []pile // of readings
	taken []rect // by labels and marks that were placed
	tags  []tag  // numbers to be drawn over everything
}

// tag is a piece's number where it is drawn.
type tag struct {
	at      wetarea.Point
	belongs wetarea.Point // where its piece lies
	number  int
	state   string // "open", "cut", "next" or "bedded"
}

// Net draws an area unfolded.
func Net(in NetInputs) (Drawing, error) {
	if len(in.Area.Surfaces) == 0 {
		return Drawing{}, fault.At("area", "draw.no_area")
	}
	if err := in.View.check(); err != nil {
		return Drawing{}, err
	}
	if err := in.Area.CheckWhole("area"); err != nil {
		return Drawing{}, err
	}
	n := &net{in: in, frames: frames(in.Area)}
	n.Drawing = Drawing{Items: []Item{}, Taps: []Tap{}, Twin: []Say{}}
	n.fit()
	n.drawDots()
	n.drawSurfaces()
	if n.layer("patches") {
		n.drawPatches()
	}
	n.drawSewn()
	n.drawLit()
	n.drawEdges()
	n.drawLeaders()
	if in.View.Width >= leastNamesPx {
		n.drawFalls()
	}
	n.drawFeatures()
	if n.layer("bands") {
		n.drawBands()
	}
	if in.View.Width >= leastNamesPx {
		n.drawPenetrations()
	}
	if n.layer("film") && in.Coat != nil {
		n.takeReadings()
	}
	n.takeSpot()
	if n.layer("dims") {
		n.drawDimensions()
	}
	n.drawNames()
	for _, t := range n.tags {
		if !n.inView(t.at) {
			continue
		}
		n.tie(t.at, wetarea.Point{numberPx * n.px, numberPx * n.px}, t.belongs)
		n.disc("number_"+t.state, t.at, numberPx*n.px)
		word := "number"
		if t.state == "next" {
			word = "number_here"
		}
		n.text(word, wetarea.Point{t.at[0], t.at[1] + 6*n.px}, "middle", "drawing.number", "number", t.number)
	}
	if n.layer("film") && in.Coat != nil {
		n.drawNext()
		n.drawReadings()
	}
	n.drawWater()
	n.drawSpot()
	n.linkWalks()
	n.tidy()
	return n.Drawing, nil
}

func (n *net) layer(name string) bool { return slices.Contains(n.in.Layers, name) }

// drawDots lays a dot each half metre over the whole drawing: one item, however many there are.
func (n *net) drawDots() {
	if n.Box.Width/dotMm*n.Box.Height/dotMm > mostDots || n.in.View.Width < 300 {
		return
	}
	n.Items = append(n.Items, Item{Kind: "dots", Style: "dot", Radius: 1.5 * n.px, Step: dotMm})
}

func (n *net) drawSurfaces() {
	for _, s := range n.in.Area.Surfaces {
		style, twin := n.surfaceStyle(s)
		var hull []wetarea.Point
		for _, outline := range s.Outlines {
			placed := n.frames[s.ID].all(outline)
			n.path(style, true, placed...)
			hull = append(hull, placed...)
		}
		for _, hole := range s.Holes {
			n.path("hole", true, n.frames[s.ID].all(hole)...)
		}
		if slices.Contains(n.in.Selected, s.ID) {
			for _, outline := range s.Outlines {
				n.path("chosen", true, n.frames[s.ID].all(outline)...)
			}
		}
		low, high := extent(hull)
		n.Taps = append(n.Taps, Tap{
			ID: s.ID, Kind: "surface", Label: twin,
			Outline: n.touchable(low, high),
		})
		twin.ID = s.ID
		n.Twin = append(n.Twin, twin)
	}
}

// surfaceStyle names the look of a surface and says it in words.
func (n *net) surfaceStyle(s wetarea.Surface) (style string, twin Say) {
	twin = words("twin.surface", "surface", s.ID, "area", s.Area, "length", s.Length, "height", s.Height)
	style = "wall"
	if s.Kind == "floor" || s.Kind == "riser" {
		style = "floor"
	}
	if n.in.Coat == nil || !n.layer("coat") {
		return style, twin
	}
	i := slices.IndexFunc(n.in.Coat.Surfaces, func(c logbook.SurfaceLook) bool { return c.Surface == s.ID })
	if i < 0 {
		return style, twin
	}
	c := n.in.Coat.Surfaces[i]
	twin.Key = "twin.coat"
	twin.Args["coat"], twin.Args["laid"], twin.Args["n"], twin.Args["film"] = n.in.Coat.Number, c.Laid, c.Film.Count, c.Film.Says
	if c.Film.Mean != nil {
		twin.Args["mean"] = *c.Film.Mean
	}
	switch {
	case !c.Laid:
	case c.Laid && c.Film.Says == film.Thin:
		style = "thin"
	case n.in.Coat.Number%2 == 1:
		style = "coat_one_way"
	default:
		style = "coat_across"
	}
	return style, twin
}

// touchable widens a box to what a gloved finger hits.
func (n *net) touchable(low, high wetarea.Point) []wetarea.Point {
	least := touchPx * n.px
	for k := range low {
		if missing := least - (high[k] - low[k]); missing > 0 {
			low[k], high[k] = low[k]-missing/2, high[k]+missing/2
		}
	}
	return box(low[0], low[1], high[0]-low[0], high[1]-low[1])
}

func (n *net) drawPenetrations() {
	for _, p := range n.in.Area.Penetrations {
		at := n.frames[p.Surface].place(p.At)
		ring := max(p.Diameter/2, leastRingPx*n.px)
		reach := ring + 5*n.px
		if p.Ends != nil {
			n.drawChannel(p)
			continue
		}
		if p.Kind == "point_drain" || p.Kind == "leg" {
			n.path("drain", true, box(at[0]-ring, at[1]-ring, 2*ring, 2*ring)...)
		}
		n.disc("pipe", at, ring)
		n.take(around(at, wetarea.Point{reach, reach}))
		n.path("hair", false, wetarea.Point{at[0] - reach, at[1]}, wetarea.Point{at[0] + reach, at[1]})
		n.path("hair", false, wetarea.Point{at[0], at[1] - reach}, wetarea.Point{at[0], at[1] + reach})
		if !n.layer("bands") {
			n.Twin = append(n.Twin, words("twin."+twinOf(p), "fitting", p.ID, "surface", p.Surface, "diameter", p.Diameter, "along", p.At[0], "up", p.At[1]))
		}
	}
}
