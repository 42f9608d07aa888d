package draw

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/ops"
	"dusha/core/wetarea"
)

// twinOf names what a penetration is in words.
func twinOf(p wetarea.Penetration) string {
	if p.Kind == "channel" || p.Kind == "point_drain" {
		return p.Kind
	}
	return "pipe"
}

// drawEdges draws where surfaces fold, where they end, and the gaps in the tanking. An edge
// that no junction lies on is a free one.
func (n *net) drawEdges() {
	folds := map[string][]wetarea.Line{}
	for _, j := range n.in.Area.Junctions {
		if slices.Contains([]string{"wall_wall", "niche", "reveal"}, j.Kind) { // cut open in the net
			continue
		}
		for _, line := range j.Lines {
			folds[line.Surface] = append(folds[line.Surface], line)
		}
	}
	// Lines of one style are one item, however many there are: a page is quicker for it.
	lines := map[string][]wetarea.Point{}
	for _, s := range n.in.Area.Surfaces {
		f := n.frames[s.ID]
		for _, outline := range append(slices.Clone(s.Outlines), s.Holes...) {
			for i, p := range outline {
				q := outline[(i+1)%len(outline)]
				switch {
				case onFold(folds[s.ID], p, q):
				case s.Kind == "floor" && n.in.Area.Shape == "basin":
					lines["station"] = append(lines["station"], f.place(p), f.place(q))
				case s.Kind == "wall" && p[1] == 0 && q[1] == 0: // where a box or a doorway stands
				default:
					lines["cut"] = append(lines["cut"], f.place(p), f.place(q))
				}
			}
		}
	}
	for _, j := range n.in.Area.Junctions {
		style := map[string]string{
			"floor_wall": "fold", "threshold": "threshold", "wall_soffit": "fold", "box": "fold", "riser": "fold", "trim": "trim",
		}[j.Kind]
		for _, line := range j.Lines {
			on, _ := n.in.Area.Surface(line.Surface)
			apart := on.Moved != nil || on.Kind == "soffit" || n.in.Area.Shape == "round_tank"
			if style != "" && (line.Surface == j.Lines[0].Surface || apart) {
				lines[style] = append(lines[style], n.frames[line.Surface].place(line.From), n.frames[line.Surface].place(line.To))
			}
		}
	}
	for _, style := range []string{"station", "cut", "fold", "threshold", "trim"} {
		if len(lines[style]) > 0 {
			n.Items = append(n.Items, Item{Kind: "lines", Style: style, Points: lines[style]})
		}
	}
	n.drawGaps()
	for _, c := range n.in.Area.Room.Niches {
		wall := "wall." + n.in.Area.Room.Edges[c.Edge].Name
		if s, known := n.in.Area.Surface(wall); known {
			left := s.Length - c.From - c.Width
			n.path("niche", true, n.frames[wall].all([]wetarea.Point{{left, c.Sill}, {left + c.Width, c.Sill}, {left + c.Width, c.Sill + c.Height}, {left, c.Sill + c.Height}})...)
		}
	}
}

// onFold tells whether an edge's middle lies on one of the lines.
func onFold(lines []wetarea.Line, p, q wetarea.Point) bool {
	middle := wetarea.Point{(p[0] + q[0]) / 2, (p[1] + q[1]) / 2}
	return slices.ContainsFunc(lines, func(l wetarea.Line) bool { return wetarea.DistanceToSegment(middle, l.From, l.To) < 1 })
}

// drawGaps marks each edge and doorway where the tanking has a gap, and says so.
func (n *net) drawGaps() {
	room := n.in.Area.Room
	for _, gap := range n.in.Area.Gaps {
		kind, id, _ := strings.Cut(gap, ".")
		f := n.frames["floor"]
		var line wetarea.Line
		switch kind {
		case "edge":
			i := slices.IndexFunc(room.Edges, func(e wetarea.Edge) bool { return e.Name == id })
			if i < 0 || len(room.Vertices) == 0 {
				continue
			}
			line = wetarea.Line{From: room.Vertices[i], To: room.Vertices[(i+1)%len(room.Vertices)]}
		default:
			i := slices.IndexFunc(n.in.Area.Junctions, func(j wetarea.Junction) bool {
				return j.Kind == "threshold" && strings.HasSuffix(j.ID, "."+id)
			})
			if i < 0 {
				continue
			}
			line = n.in.Area.Junctions[i].Lines[0]
		}
		a, b := f.place(line.From), f.place(line.To)
		n.path("gap", false, a, b)
		n.Twin = append(n.Twin, words("twin.gap", "place", gap))
	}
}

// drawLeaders ties what was moved apart in the net to where it belongs.
func (n *net) drawLeaders() {
	for _, s := range n.in.Area.Surfaces {
		if s.Moved == nil {
			continue
		}
		from, to := *s.Moved, s.Laid.Origin
		if s.Kind == "wall" || s.Kind == "floor" {
			along := wetarea.Point{s.Laid.Right[0] * s.Length / 2, s.Laid.Right[1] * s.Length / 2}
			from, to = add(from, along), add(to, along)
		} else {
			low, high := extent(slices.Concat(s.Outlines...))
			to = s.Laid.Place(wetarea.Point{(low[0] + high[0]) / 2, high[1]})
		}
		n.path("leader", false, wetarea.Point{from[0], -from[1]}, wetarea.Point{to[0], -to[1]})
		n.Twin = append(n.Twin, words("twin.moved", "surface", s.ID))
	}
}

func (n *net) drawChannel(p wetarea.Penetration) {
	f := n.frames[p.Surface]
	a, b := f.place(p.Ends[0]), f.place(p.Ends[1])
	half := max(p.Diameter/2, 4*n.px)
	dx, dy := b[0]-a[0], b[1]-a[1]
	long := math.Hypot(dx, dy)
	if long == 0 {
		return
	}
	across := wetarea.Point{-dy / long * half, dx / long * half}
	n.path("channel", true, add(a, across), add(b, across), wetarea.Point{b[0] - across[0], b[1] - across[1]}, wetarea.Point{a[0] - across[0], a[1] - across[1]})
	const slots = 8
	for k := 1; k < slots; k++ {
		at := wetarea.Point{a[0] + dx*float64(k)/slots, a[1] + dy*float64(k)/slots}
		n.path("slot", false, wetarea.Point{at[0] + across[0]*.5, at[1] + across[1]*.5}, wetarea.Point{at[0] - across[0]*.5, at[1] - across[1]*.5})
	}
	if !n.layer("bands") {
		n.Twin = append(n.Twin, words("twin.channel", "fitting", p.ID, "surface", p.Surface, "length", long, "along", p.At[0], "up", p.At[1]))
	}
}

// drawFalls draws arrows down the fall to the nearest drain, and surveyed levels with their
// fall; one that misses the rule is marked.
func (n *net) drawFalls() {
	floor, known := n.in.Area.Surface("floor")
	if !known || n.layer("film") || n.layer("bands") {
		return
	}
	f := n.frames["floor"]
	var drains []wetarea.Point
	for _, p := range n.in.Area.Penetrations {
		if p.Drains() && p.Surface == "floor" {
			drains = append(drains, p.At)
		}
	}
	if len(drains) == 0 {
		return
	}
	if n.in.Area.Shape != "basin" {
		for _, v := range floor.Outlines[0] {
			to := slices.MinFunc(drains, func(a, b wetarea.Point) int {
				return cmp.Compare(math.Hypot(a[0]-v[0], a[1]-v[1]), math.Hypot(b[0]-v[0], b[1]-v[1]))
			})
			n.arrow("fall", f.place(between(v, to, .22)), f.place(between(v, to, .5)))
		}
	}
	if n.in.Area.Falls == nil {
		return
	}
	for _, l := range n.in.Area.Falls.Levels {
		style, at := "level", f.place(l.At)
		if l.Misses {
			style = "level_missed"
		}
		n.disc(style, at, 7*n.px)
		key := "drawing.fall"
		if l.Fall <= 0 {
			key = "drawing.no_fall"
		}
		around := func(x, y float64) wetarea.Point { return add(at, wetarea.Point{x * n.px, y * n.px}) }
		n.label("measure", []wetarea.Point{around(0, -18), around(0, 20), around(48, 0), around(-48, 0)}, at, key, "n", 1/l.Fall)
		n.Twin = append(n.Twin, words("twin.level", "level", l.ID, "height", l.Level, "percent", l.Fall*100, "misses", l.Misses))
	}
}

func between(a, b wetarea.Point, share float64) wetarea.Point {
	return wetarea.Point{a[0] + (b[0]-a[0])*share, a[1] + (b[1]-a[1])*share}
}

func (n *net) arrow(style string, from, to wetarea.Point) {
	dx, dy := to[0]-from[0], to[1]-from[1]
	long := math.Hypot(dx, dy)
	if long < 24*n.px {
		return
	}
	u, head := wetarea.Point{dx / long, dy / long}, 9*n.px
	n.path(style, false, from, to)
	n.path(style, false, wetarea.Point{to[0] - head*(u[0]+u[1]*.6), to[1] - head*(u[1]-u[0]*.6)}, to, wetarea.Point{to[0] - head*(u[0]-u[1]*.6), to[1] - head*(u[1]+u[0]*.6)})
}

// featureStyles are how lines on a surface are drawn.
var featureStyles = map[string]string{
	"movement": "joint", "control": "joint", "cold": "joint_cold", "crack_live": "crack", "crack_dead": "crack", "material": "material", "trim": "trim",
}

func (n *net) drawFeatures() {
	for _, l := range n.in.Area.Features {
		f, known := n.frames[l.Line.Surface]
		if !known {
			continue
		}
		a, b := f.place(l.Line.From), f.place(l.Line.To)
		style := featureStyles[l.Kind]
		if style == "crack" {
			n.crack(a, b)
		} else {
			n.path(style, false, a, b)
		}
		if style == "joint" { // a moving joint is two lines with the gap between
			dx, dy := b[0]-a[0], b[1]-a[1]
			long, off := math.Hypot(dx, dy), max(l.Width/2, 3*n.px)
			side := wetarea.Point{-dy / long * off, dx / long * off}
			n.path("joint_side", false, add(a, side), add(b, side))
			n.path("joint_side", false, wetarea.Point{a[0] - side[0], a[1] - side[1]}, wetarea.Point{b[0] - side[0], b[1] - side[1]})
		}
		say := words("twin.line", "line", l.Kind, "surface", l.Line.Surface, "length", l.Line.Length(), "movement", l.Movement)
		n.Twin = append(n.Twin, say)
	}
}

// crack is a line that staggers.
func (n *net) crack(a, b wetarea.Point) {
	const steps = 8
	dx, dy := b[0]-a[0], b[1]-a[1]
	long := math.Hypot(dx, dy)
	points := []wetarea.Point{a}
	for k := 1; k < steps; k++ {
		off := 4 * n.px
		if k%2 == 0 {
			off = -off
		}
		at := between(a, b, float64(k)/steps)
		points = append(points, wetarea.Point{at[0] - dy/long*off, at[1] + dx/long*off})
	}
	n.path("crack", false, append(points, b)...)
}

// drawPatches hatches the patches of the base, each in the pattern of the profile found on it.
func (n *net) drawPatches() {
	for _, p := range n.in.Area.Patches {
		style := "patch"
		if p.ProfileFound > 0 {
			style = fmt.Sprintf("profile_%d", int(p.ProfileFound))
		}
		for _, s := range n.in.Area.Surfaces {
			if p.Surface != "all" && p.Surface != s.ID && !(p.Surface == "walls" && s.Kind == "wall") {
				continue
			}
			f := n.frames[s.ID]
			if p.From != nil && p.To != nil {
				low, high := extent([]wetarea.Point{*p.From, *p.To})
				n.path(style, true, f.all(box(low[0], low[1], high[0]-low[0], high[1]-low[1]))...)
				continue
			}
			for _, outline := range s.Outlines {
				n.path(style, true, f.all(outline)...)
			}
			for _, hole := range s.Holes {
				n.path("hole", true, f.all(hole)...)
			}
		}
		n.Twin = append(n.Twin, words("twin.patch", "patch", p.ID, "surface", p.Surface, "material", p.Material))
	}
}

// drawWater draws leaks as drops and the way of the water as a line with an arrow.
func (n *net) drawWater() {
	var way []wetarea.Point
	for _, spot := range n.in.Way {
		if f, known := n.frames[spot.Surface]; known {
			way = append(way, f.place(wetarea.Point{spot.Along, spot.Up}))
		}
	}
	for i := 1; i < len(way); i++ {
		n.arrow("way", way[i-1], way[i])
	}
	if len(way) > 0 {
		n.disc("way_mark", way[0], 8*n.px)
		n.Twin = append(n.Twin, words("twin.way", "from", n.in.Way[0].Surface, "to", n.in.Way[len(n.in.Way)-1].Surface, "n", len(way)))
	}
	for i, l := range n.in.Leaks {
		n.drawLeak(i+1, l)
	}
}

func (n *net) drawLeak(number int, l logbook.Leak) {
	f, known := n.frames[l.Surface]
	if !known {
		return
	}
	at, r := f.place(wetarea.Point{l.Along, l.Up}), 11*n.px
	style := "leak"
	if !l.Open {
		style = "leak_dry"
	}
	drop := []wetarea.Point{{at[0], at[1] - 2*r}}
	for k := 0; k <= 8; k++ {
		sin, cos := math.Sincos(math.Pi * (float64(k)/8*1.5 - 0.25))
		drop = append(drop, wetarea.Point{at[0] + r*cos, at[1] + r*sin})
	}
	n.path(style, true, drop...)
	say := words("twin.leak", "number", number, "surface", l.Surface, "state", l.State, "open", l.Open)
	say.ID = "leak." + l.Entry
	half := touchPx / 2 * n.px
	n.Taps = append(n.Taps, Tap{ID: say.ID, Kind: "leak", Label: say, Outline: box(at[0]-half, at[1]-half, 2*half, 2*half)})
	n.Twin = append(n.Twin, say)
}

// RunInputs ask for the drawing of walls laid one after the other that do not close yet.
type RunInputs struct {
	Run    wetarea.Run `json:"run"`
	View   View        `json:"view"`
	Asking string      `json:"asking,omitempty"`
}

// Run draws a chain of walls in plan, each with its length, and the gap that is left.
func Run(in RunInputs) (Drawing, error) {
	if err := in.View.check(); err != nil {
		return Drawing{}, err
	}
	n := &net{in: NetInputs{Shown: Shown{View: in.View, Asking: in.Asking, Layers: []string{"dims"}}}}
	n.Drawing = Drawing{Items: []Item{}, Taps: []Tap{}, Twin: []Say{}}
	var points []wetarea.Point
	for _, p := range in.Run.Points {
		points = append(points, wetarea.Point{p[0], -p[1]})
	}
	if len(points) < 2 {
		return n.Drawing, nil
	}
	n.fitTo(points)
	n.drawDots()
	for i := 1; i < len(points); i++ {
		a, b := points[i-1], points[i]
		n.path("cut", false, a, b)
		dx, dy := b[0]-a[0], b[1]-a[1]
		long := math.Hypot(dx, dy)
		if long == 0 {
			continue
		}
		out := wetarea.Point{dy / long, -dx / long} // walked clockwise, outside is to the left
		away := wetarea.Point{out[0] * dimensionPx * n.px, out[1] * dimensionPx * n.px}
		letter := wetarea.WallName(i - 1)
		d := dimension{id: "walls." + letter + ".length", from: add(a, away), to: add(b, away), value: long, out: out}
		n.drawDimension(d, false)
		at := add(between(a, b, .5), wetarea.Point{-away[0] * .7, -away[1] * .7})
		n.label("small_name", []wetarea.Point{at}, at, "drawing.only_letter", "letter", letter)
	}
	first, last := points[0], points[len(points)-1]
	n.disc("way_mark", first, 7*n.px)
	if !in.Run.Closed && len(points) > 2 {
		n.path("gap", false, last, first)
		middle := between(last, first, .5)
		n.label("dimension_text", []wetarea.Point{middle}, middle, "drawing.mm", "mm", in.Run.Gap)
		n.Twin = append(n.Twin, words("twin.run_gap", "gap", in.Run.Gap))
	}
	n.linkWalks()
	return n.Drawing, nil
}

// SurveyInputs ask for the net of a survey that is being typed.
type SurveyInputs struct {
	ops.AreaBook                   // the area it is of: its leaks are drawn
	Form         string            `json:"form"`
	Typed        map[string]string `json:"typed"`
	Shown
}

// Survey draws what can be drawn of a survey so far, in one call: the area does not leave the
// core in between, and what is missing and what is asked are the form's. Before there is an
// area it is a fault, and the page keeps its last drawing.
func Survey(in SurveyInputs) (Drawing, error) {
	asked, err := wetarea.Ask(in.Form, in.Typed)
	if err != nil {
		return Drawing{}, err
	}
	if asked.Sketch == nil {
		return Drawing{}, fault.At("form", "draw.no_area")
	}
	for _, q := range asked.Form.Questions {
		if q.State != "answered" {
			in.Missing = append(in.Missing, q.ID)
		}
		if !q.Assumed || q.ID == in.Asking { // what stands as usual is not drawn
			in.Asked = append(in.Asked, q.ID)
		}
	}
	net := NetInputs{Area: *asked.Sketch, Shown: in.Shown}
	if in.Area != "" {
		_, area := in.Of()
		net.Leaks = in.leaks(area)
	}
	return Net(net)
}
