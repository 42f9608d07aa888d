package draw

import (
	"cmp"
	"slices"
	"strings"

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
	Layers   []string       `json:"layers"`           // "dims", "bands", "coat", "film", "patches"
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
	leastRingPx  = 6.0
	ringsBelowPx = 500 // a narrower drawing shows readings as rings
	leastNamesPx = 200 // a drawing narrower than this carries no names and fittings
)

// frame lays a surface out in the drawing: a place (along, up) lands at
// origin + along·right + up·up.
type frame struct{ origin, right, up wetarea.Point }

func (f frame) place(p wetarea.Point) wetarea.Point {
	return wetarea.Point{
		f.origin[0] + p[0]*f.right[0] + p[1]*f.up[0],
		f.origin[1] + p[0]*f.right[1] + p[1]*f.up[1],
	}
}

// back is the place on the surface that lands at a point of the drawing; right and up are
// unit vectors at right angles.
func (f frame) back(p wetarea.Point) wetarea.Point {
	x, y := p[0]-f.origin[0], p[1]-f.origin[1]
	return wetarea.Point{x*f.right[0] + y*f.right[1], x*f.up[0] + y*f.up[1]}
}

func (f frame) all(points []wetarea.Point) []wetarea.Point {
	placed := make([]wetarea.Point, len(points))
	for i, p := range points {
		placed[i] = f.place(p)
	}
	return placed
}

// frames turns where each surface lies in the net to the drawing's y, which runs down.
func frames(area wetarea.Area) map[string]frame {
	down := func(p wetarea.Point) wetarea.Point { return wetarea.Point{p[0], -p[1]} }
	laid := map[string]frame{}
	for _, s := range area.Surfaces {
		laid[s.ID] = frame{origin: down(s.Laid.Origin), right: down(s.Laid.Right), up: down(s.Laid.Up)}
	}
	return laid
}

// net is a drawing under way.
type net struct {
	Drawing
	in     NetInputs
	frames map[string]frame
	px     float64 // mm a pixel

	whole   Box             // of the drawing that is zoomed into
	numbers []wetarea.Point // of pieces, as placed
	tags    []tag           // numbers to be drawn over everything
}

// tag is a piece's number where it is drawn.
type tag struct {
	at     wetarea.Point
	number int
	state  string // "open", "cut", "next" or "bedded"
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
	n.drawNames()
	for _, t := range n.tags {
		n.disc("number_"+t.state, t.at, 13*n.px)
		word := "number"
		if t.state == "next" {
			word = "number_here"
		}
		n.text(word, wetarea.Point{t.at[0], t.at[1] + 6*n.px}, "middle", "drawing.number", "number", t.number)
	}
	if n.layer("dims") {
		n.drawDimensions()
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

// fit sets the scale so that the net and its margins fill the view, centred.
func (n *net) fit() {
	var all []wetarea.Point
	for _, s := range n.in.Area.Surfaces {
		for _, outline := range s.Outlines {
			all = append(all, n.frames[s.ID].all(outline)...)
		}
	}
	n.fitTo(all)
	n.zoomIn()
}

// fitTo sets the scale so that some points and the margins fill the view, centred.
func (n *net) fitTo(all []wetarea.Point) {
	low, high := extent(all)
	margin := nakedPx
	switch {
	case n.layer("dims"):
		margin = marginPx
	case n.layer("numbers"):
		margin = numberedPx
	}
	margin = min(margin, n.in.View.Width/4, n.in.View.Height/4)
	wide, tall := high[0]-low[0], high[1]-low[1]
	n.px = max(wide/(n.in.View.Width-2*margin), tall/(n.in.View.Height-2*margin))
	n.MmPerPx = n.px
	n.Box = Box{Width: n.in.View.Width * n.px, Height: n.in.View.Height * n.px}
	n.Box.X = low[0] - (n.Box.Width-wide)/2
	n.Box.Y = low[1] - (n.Box.Height-tall)/2
}

// mostZoom is how far a drawing can be brought near.
const mostZoom = 12

// zoomIn shows a part of the drawing at a larger scale, kept within the whole.
func (n *net) zoomIn() {
	n.whole = n.Box
	zoom := min(n.in.Zoom, mostZoom)
	if zoom <= 1 {
		return
	}
	at := wetarea.Point{n.Box.X + n.Box.Width/2, n.Box.Y + n.Box.Height/2}
	if n.in.Centre != nil {
		at = *n.in.Centre
	}
	n.px /= zoom
	n.MmPerPx = n.px
	wide, tall := n.Box.Width/zoom, n.Box.Height/zoom
	n.Box = Box{
		X:     min(max(at[0]-wide/2, n.whole.X), n.whole.X+n.whole.Width-wide),
		Y:     min(max(at[1]-tall/2, n.whole.Y), n.whole.Y+n.whole.Height-tall),
		Width: wide, Height: tall,
	}
}

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

// strip is a band of a given width along a line, on the inner side of its surface.
func (n *net) strip(line wetarea.Line, width float64) []wetarea.Point {
	f := n.frames[line.Surface]
	s, _ := n.in.Area.Surface(line.Surface)
	a, b, middle := f.place(line.From), f.place(line.To), f.place(wetarea.Point{s.Length / 2, s.Height / 2})
	dx, dy := b[0]-a[0], b[1]-a[1]
	long := max(abs(dx), abs(dy))
	if long == 0 {
		return nil
	}
	across := wetarea.Point{-dy / long * width, dx / long * width}
	if (middle[0]-a[0])*across[0]+(middle[1]-a[1])*across[1] < 0 {
		across = wetarea.Point{-across[0], -across[1]}
	}
	return []wetarea.Point{a, b, {b[0] + across[0], b[1] + across[1]}, {a[0] + across[0], a[1] + across[1]}}
}

func (n *net) drawBands() {
	width := max(bandWidthMm/2, leastBandPx*n.px)
	for _, j := range n.in.Area.Junctions {
		style, number := n.pieceStyle("band." + j.ID)
		for _, line := range j.Lines {
			if strip := n.strip(line, width); strip != nil {
				n.path(style, true, strip...)
			}
		}
		longest := slices.MaxFunc(j.Lines, func(a, b wetarea.Line) int { return cmp.Compare(a.Length(), b.Length()) })
		at := centre(n.strip(longest, width))
		n.tapPiece("band."+j.ID, "twin.band", at, number, "junction", j.ID, "length", j.Length)
	}
	for _, c := range n.in.Area.Corners {
		style, number := n.pieceStyle(c.ID)
		at, half := n.frames[c.Surface].place(c.At), max(bandWidthMm/2, cornerPx*n.px)
		n.path(style, true, box(at[0]-half, at[1]-half, 2*half, 2*half)...)
		n.path("diagonal", false, wetarea.Point{at[0] - half, at[1] - half}, wetarea.Point{at[0] + half, at[1] + half})
		n.tapPiece(c.ID, "twin.corner", at, number, "corner", c.ID, "angle", c.Angle)
	}
	for _, p := range n.in.Area.Penetrations {
		style, number := n.pieceStyle(p.ID)
		at := n.frames[p.Surface].place(p.At)
		half := max(p.Diameter/2+bandWidthMm/2, 2*cornerPx*n.px)
		if p.Ends != nil {
			n.drawChannel(p)
		}
		n.path(style, true, box(at[0]-half, at[1]-half, 2*half, 2*half)...)
		beside := wetarea.Point{at[0] + half + 14*n.px, at[1]} // the fitting itself stays in sight
		n.tapPiece(p.ID, "twin."+twinOf(p), beside, number, "fitting", p.ID, "surface", p.Surface, "diameter", p.Diameter)
	}
}

// piece finds a piece and how it stands: "open", "cut", "next" or "bedded".
func (n *net) piece(id string) (piece logbook.PieceLook, state string, found bool) {
	i := slices.IndexFunc(n.in.Pieces, func(p logbook.PieceLook) bool { return p.ID == id })
	switch {
	case i < 0:
		return piece, "open", false
	case n.in.Pieces[i].Bedded:
		state = "bedded"
	case id == n.in.NextID:
		state = "next"
	case n.in.Pieces[i].Cut:
		state = "cut"
	default:
		state = "open"
	}
	return n.in.Pieces[i], state, true
}

// pieceStyle is how a piece is drawn: still to bed, next, or bedded.
func (n *net) pieceStyle(id string) (style string, number int) {
	piece, state, _ := n.piece(id)
	if state == "open" {
		return "band", piece.Number
	}
	return "band_" + state, piece.Number
}

func (n *net) tapPiece(id, key string, at wetarea.Point, number int, pairs ...any) {
	say := words(key, append(pairs, "number", number)...)
	if piece, state, found := n.piece(id); found {
		say.Args["bedded"], say.Args["cut"] = piece.Bedded, piece.Cut
		at = n.besides(at)
		half := touchPx / 2 * n.px
		n.Taps = append(n.Taps, Tap{ID: id, Kind: "piece", Label: say, Outline: box(at[0]-half, at[1]-half, 2*half, 2*half)})
		if n.layer("numbers") {
			n.tags = append(n.tags, tag{at, number, state})
		}
	}
	say.ID = id
	n.Twin = append(n.Twin, say)
}

// besides moves a number so that it covers none placed before it and stays on the sheet.
func (n *net) besides(at wetarea.Point) wetarea.Point {
	const stepPx = 28
	free := func(p wetarea.Point) bool {
		edge := stepPx / 2 * n.px
		on := p[0] >= n.whole.X+edge && p[0] <= n.whole.X+n.whole.Width-edge && p[1] >= n.whole.Y+edge && p[1] <= n.whole.Y+n.whole.Height-edge
		return on && !slices.ContainsFunc(n.numbers, func(q wetarea.Point) bool {
			return max(abs(p[0]-q[0]), abs(p[1]-q[1])) < (stepPx-1)*n.px
		})
	}
	placed := at // where all is taken
search:
	for ring := 0.0; ring < 5; ring++ {
		for _, way := range []wetarea.Point{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}} {
			if by := (wetarea.Point{at[0] + ring*way[0]*stepPx*n.px, at[1] + ring*way[1]*stepPx*n.px}); free(by) {
				placed = by
				break search
			}
		}
	}
	n.numbers = append(n.numbers, placed)
	return placed
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
		n.path("hair", false, wetarea.Point{at[0] - reach, at[1]}, wetarea.Point{at[0] + reach, at[1]})
		n.path("hair", false, wetarea.Point{at[0], at[1] - reach}, wetarea.Point{at[0], at[1] + reach})
		if !n.layer("bands") {
			n.Twin = append(n.Twin, words("twin."+twinOf(p), "fitting", p.ID, "surface", p.Surface, "diameter", p.Diameter, "along", p.At[0], "up", p.At[1]))
		}
	}
}

// drawNames writes each surface's name, and its area where there is room, where it covers
// no fitting and no reading.
func (n *net) drawNames() {
	crowded := n.layer("film") && n.in.View.Width < ringsBelowPx // rings fill it; the twin names the walls
	if n.in.View.Width < leastNamesPx || crowded {
		return
	}
	taken := n.takenPlaces()
	for _, s := range n.in.Area.Surfaces {
		low, high := extent(n.frames[s.ID].all(largest(s.Outlines)))
		wide, tall := (high[0]-low[0])/n.px, (high[1]-low[1])/n.px
		if wide < 18 || tall < 16 {
			continue // the twin still says it
		}
		on := func(p wetarea.Point) bool { return s.Contains(n.frames[s.ID].back(p)) }
		at := n.clearest(low, high, taken, on)
		if wide < 110 || tall < 60 {
			if s.Kind != "wall" && s.Kind != "floor" && wide < 110 {
				continue
			}
			if letter, wall := strings.CutPrefix(s.ID, "wall."); wall && wide < 72 {
				n.text("small_name", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.only_letter", "letter", letter)
				continue
			}
			n.text("small_name", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.letter", "surface", s.ID)
			continue
		}
		n.text("name", at, "middle", "drawing.surface", "surface", s.ID)
		n.text("measure", wetarea.Point{at[0], at[1] + 22*n.px}, "middle", "drawing.area", "area", s.Area)
	}
}

// largest is the outline with the greatest area.
func largest(outlines [][]wetarea.Point) []wetarea.Point {
	return slices.MaxFunc(outlines, func(a, b []wetarea.Point) int {
		return cmp.Compare(abs(wetarea.SignedArea(a)), abs(wetarea.SignedArea(b)))
	})
}

// takenPlaces are the points that a name should not cover.
func (n *net) takenPlaces() []wetarea.Point {
	var taken []wetarea.Point
	for _, p := range n.in.Area.Penetrations {
		taken = append(taken, n.frames[p.Surface].place(p.At))
	}
	for _, t := range n.tags {
		taken = append(taken, t.at)
	}
	if n.layer("dims") {
		inside := append(n.doorwayDimension(dimensionPx*n.px), n.partDimensions()...)
		if len(n.in.Area.Room.Edges) == 0 { // the diameter lies across a round floor
			floor := n.in.Area.Surfaces[0]
			taken = append(taken, n.frames[floor.ID].place(wetarea.Point{floor.Length / 2, floor.Height / 2}))
		}
		for _, d := range inside {
			taken = append(taken, wetarea.Point{(d.from[0] + d.to[0]) / 2, (d.from[1] + d.to[1]) / 2})
		}
	}
	if n.in.Coat == nil || !n.layer("film") {
		return taken
	}
	for _, r := range n.in.Coat.Readings {
		if f, known := n.frames[r.Surface]; known {
			at := f.place(wetarea.Point{r.Along, r.Up})
			taken = append(taken, wetarea.Point{at[0], at[1] - 20*n.px})
		}
	}
	return taken
}

// clearest is the first of a few places in a box, its middle first, that lies on the surface
// and keeps clear of what is taken; where none does, the one that keeps farthest away.
func (n *net) clearest(low, high wetarea.Point, taken []wetarea.Point, on func(wetarea.Point) bool) wetarea.Point {
	const clearPx = 62
	best, bestGap := wetarea.Point{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}, -1.0
	for _, share := range []wetarea.Point{{.5, .5}, {.5, .3}, {.5, .75}, {.28, .5}, {.72, .5}, {.28, .25}, {.72, .25}, {.28, .8}, {.72, .8}, {.5, .12}, {.5, .9}} {
		at := wetarea.Point{low[0] + share[0]*(high[0]-low[0]), low[1] + share[1]*(high[1]-low[1])}
		if side := 30 * n.px; !on(at) || !on(wetarea.Point{at[0] - side, at[1]}) || !on(wetarea.Point{at[0] + side, at[1]}) {
			continue
		}
		gap := 1e9
		for _, t := range taken {
			gap = min(gap, max(abs(t[0]-at[0])/1.3, abs(t[1]-at[1]-8*n.px)*1.6))
		}
		if gap > clearPx*n.px {
			return at
		}
		if gap > bestGap {
			best, bestGap = at, gap
		}
	}
	return best
}

// drawReadings flags each reading with its bracket, at its place.
func (n *net) drawReadings() {
	for i, r := range n.in.Coat.Readings {
		f, known := n.frames[r.Surface]
		if !known {
			continue
		}
		at := f.place(wetarea.Point{r.Along, r.Up})
		pairs := []any{"number", i + 1, "surface", r.Surface, "along", r.Along, "up", r.Up, "lower", r.Lower}
		if r.Upper != nil {
			pairs = append(pairs, "upper", *r.Upper)
		}
		half, top, foot := 34*n.px, at[1]-34*n.px, at[1]-9*n.px
		thin := r.Lower < n.in.Coat.Least
		if n.in.View.Width < ringsBelowPx {
			half, top, foot = 15*n.px, at[1]-15*n.px, at[1]+15*n.px
			n.ring(at, half, thin, r.Lower)
		} else {
			n.flag(at, half, thin, pairs)
		}
		say := words("twin.reading", pairs...)
		say.ID = "reading." + r.Entry
		// As large as it is drawn and no larger: the surface round it stays free for new spots.
		n.Taps = append(n.Taps, Tap{ID: say.ID, Kind: "reading", Label: say, Outline: box(at[0]-half, top, 2*half, foot-top)})
		n.Twin = append(n.Twin, say)
	}
}

// drawNext marks where each surface that wants more readings is read next.
func (n *net) drawNext() {
	for _, s := range n.in.Coat.Surfaces {
		f, known := n.frames[s.Surface]
		wants := s.Film.Says == film.TooFew && s.Laid
		if !known || !wants || s.Unread.At == nil {
			continue
		}
		n.disc("next", f.place(*s.Unread.At), 9*n.px)
		n.Twin = append(n.Twin, words("twin.next", "surface", s.Surface, "along", s.Unread.At[0], "up", s.Unread.At[1]))
	}
}

// ring is a reading where there is no room for a flag: its lower value alone.
func (n *net) ring(at wetarea.Point, radius float64, thin bool, lower float64) {
	style := "ring"
	if thin {
		style = "ring_thin"
	}
	n.disc(style, at, radius)
	n.text("flag_text", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.lower", "lower", lower)
}

// flag is a reading with its bracket, standing on its place.
func (n *net) flag(at wetarea.Point, half float64, thin bool, pairs []any) {
	style := "flag"
	if thin {
		style = "flag_thin"
	}
	top, foot, slot := at[1]-34*n.px, at[1]-9*n.px, 6*n.px
	n.path(style, true, wetarea.Point{at[0] - half, top}, wetarea.Point{at[0] + half, top}, wetarea.Point{at[0] + half, foot},
		wetarea.Point{at[0] + slot, foot}, at, wetarea.Point{at[0] - slot, foot}, wetarea.Point{at[0] - half, foot})
	n.text("flag_text", wetarea.Point{at[0], at[1] - 16*n.px}, "middle", "drawing.bracket", pairs...)
}

func (n *net) drawSpot() {
	if n.in.Spot == nil {
		return
	}
	f, known := n.frames[n.in.Spot.Surface]
	if !known {
		return
	}
	at := f.place(wetarea.Point{n.in.Spot.Along, n.in.Spot.Up})
	n.disc("spot", at, 11*n.px)
	n.path("spot_hair", false, wetarea.Point{at[0] - 20*n.px, at[1]}, wetarea.Point{at[0] + 20*n.px, at[1]})
	n.path("spot_hair", false, wetarea.Point{at[0], at[1] - 20*n.px}, wetarea.Point{at[0], at[1] + 20*n.px})
}
