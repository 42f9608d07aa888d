package wetarea

import (
	"math"

	"dusha/core/fault"
)

// Screed is a floor built to fall: thickness t0 + d/n, d being the shortest way inside the
// floor to the nearest drain, or to the channel as a segment.
type Screed struct {
	Vertices []Point    `json:"vertices_mm"`
	Drains   []Point    `json:"drains_mm,omitempty" maxItems:"40"`
	Channel  *[2]Point  `json:"channel_mm,omitempty"`
	Channels [][2]Point `json:"channels_mm,omitempty" maxItems:"40"` // more than one
	Least    float64    `json:"t0_mm" minimum:"0"`                   // at the drain
	Slope    float64    `json:"slope_1_in_n"`
}

// Screeded is what a floor to fall takes.
type Screeded struct {
	FloorArea float64 `json:"floor_area_m2"`
	Volume    float64 `json:"screed_volume_L"`
	Mean      float64 `json:"mean_thickness_mm"`
	Greatest  float64 `json:"max_thickness_mm"`
	LeastFall float64 `json:"least_fall"`
	Farthest  float64 `json:"farthest_mm"` // from its drain, along the way
}

// Measure works out volume and thickness of the floor, to better than 0.1 %.
func (s Screed) Measure() (Screeded, error) {
	if err := CheckOutline(s.Vertices); err != nil {
		return Screeded{}, err
	}
	if s.Slope <= 0 {
		return Screeded{}, fault.At("slope_1_in_n", "number.too_small", "value", s.Slope, "least", 0)
	}
	ways, err := newWays(s.Vertices, s.sources())
	if err != nil {
		return Screeded{}, err
	}
	area := math.Abs(SignedArea(s.Vertices))
	integral, whole := ways.integral()
	if !whole {
		return Screeded{}, fault.At("vertices_mm", "falls.too_many_ways", "corners", len(s.Vertices), "drains", len(s.sources()))
	}
	out := Screeded{FloorArea: area / mm2PerM2, LeastFall: 1 / s.Slope}
	for _, v := range s.Vertices {
		d, _ := ways.to(v)
		out.Farthest = max(out.Farthest, d)
	}
	out.Volume = (area*s.Least + integral/s.Slope) / mm3PerL
	out.Mean = out.Volume * mm3PerL / area
	out.Greatest = s.Least + out.Farthest/s.Slope
	return out, nil
}

func (s Screed) sources() [][2]Point {
	list := append([][2]Point{}, s.Channels...)
	for _, d := range s.Drains {
		list = append(list, [2]Point{d, d})
	}
	if s.Channel != nil {
		list = append(list, *s.Channel)
	}
	return list
}

// ways finds the shortest way inside a floor to the nearest of its drains. A way that the
// straight line would take out of the floor bends at vertices whose inner angle is over
// 180°; each of them is then the apex of a cone that starts at its own distance.
type ways struct {
	outline []Point // counter-clockwise
	sources [][2]Point
	bends   []bend
	looked  int // at edges of the outline, so far
}

type bend struct {
	at   Point
	away float64 // shortest way from it to a drain, mm
}

// apex is what a place runs down to: a bend or, where at is below 0, a source.
type apex struct {
	bend, source int
	part         int // of a segment: its first end, its second, or the plane beside it
}

func newWays(vertices []Point, sources [][2]Point) (*ways, error) {
	w := &ways{outline: vertices, sources: sources}
	if SignedArea(vertices) < 0 {
		w.outline = reversed(vertices)
	}
	if len(sources) == 0 {
		return nil, fault.At("drains_mm", "falls.no_drain")
	}
	for i, s := range sources {
		for _, end := range s {
			if !w.holds(end) {
				return nil, fault.At("drains_mm", "falls.drain_outside", "drain", i+1)
			}
		}
	}
	for i := range w.outline {
		if interiorAngle(w.outline, i) > straight+angleSlack {
			w.bends = append(w.bends, bend{w.outline[i], math.Inf(1)})
		}
	}
	w.settle()
	return w, nil
}

func reversed(points []Point) []Point {
	out := make([]Point, len(points))
	for i, p := range points {
		out[len(points)-1-i] = p
	}
	return out
}

// settle gives every bend its distance, the nearest first (Dijkstra 1959).
func (w *ways) settle() {
	done := make([]bool, len(w.bends))
	for i := range w.bends {
		w.bends[i].away, _ = w.straight(w.bends[i].at)
	}
	for range w.bends {
		nearest := -1
		for i := range w.bends {
			if !done[i] && (nearest < 0 || w.bends[i].away < w.bends[nearest].away) {
				nearest = i
			}
		}
		done[nearest] = true
		from := w.bends[nearest]
		for i := range w.bends {
			if further := from.away + w.bends[i].at.minus(from.at).length(); !done[i] && further < w.bends[i].away && w.sees(from.at, w.bends[i].at) {
				w.bends[i].away = further
			}
		}
	}
}

// straight is the distance to the nearest drain in sight, infinite where none is.
func (w *ways) straight(p Point) (best float64, found apex) {
	best = math.Inf(1)
	for i, s := range w.sources {
		foot, part := footOn(p, s)
		if d := p.minus(foot).length(); d < best && w.sees(p, foot) {
			best, found = d, apex{bend: -1, source: i, part: part}
		}
	}
	return best, found
}

// footOn is the nearest point of a segment, and whether it is its first end, its second or between.
func footOn(p Point, s [2]Point) (Point, int) {
	along := s[1].minus(s[0])
	l := dot(along, along)
	if l == 0 {
		return s[0], 0
	}
	share := dot(p.minus(s[0]), along) / l
	switch {
	case share <= 0:
		return s[0], 0
	case share >= 1:
		return s[1], 1
	}
	return s[0].plus(along.times(share)), 2
}

// to is the shortest way from a place to a drain, mm, and what it runs down to first.
func (w *ways) to(p Point) (best float64, found apex) {
	best, found = w.straight(p)
	for i, b := range w.bends {
		if d := b.away + p.minus(b.at).length(); d < best && w.sees(p, b.at) {
			best, found = d, apex{bend: i}
		}
	}
	return best, found
}

// holds tells whether a point lies in the floor, a hair's breadth outside included.
func (w *ways) holds(p Point) bool {
	if inside(w.outline, p) {
		return true
	}
	for i := range w.outline {
		a, b := edgeEnds(w.outline, i)
		if DistanceToSegment(p, a, b) < 1e-6 {
			return true
		}
	}
	return false
}

// sees tells whether the straight line between two places stays inside the floor.
func (w *ways) sees(p, q Point) bool {
	const hair = 1e-9
	w.looked += len(w.outline)
	long := q.minus(p).length()
	for i := range w.outline {
		a, b := edgeEnds(w.outline, i)
		tolerance := hair * (1 + long + b.minus(a).length())
		past := func(x float64, scale float64) float64 {
			if math.Abs(x) <= tolerance*scale {
				return 0
			}
			return x
		}
		wall := b.minus(a).length()
		if signOpposite(past(side(a, b, p), wall), past(side(a, b, q), wall)) && signOpposite(past(side(p, q, a), long), past(side(p, q, b), long)) {
			return false
		}
	}
	for _, share := range []float64{0.5, 0.01, 0.99} {
		if !w.holds(p.plus(q.minus(p).times(share))) {
			return false
		}
	}
	return true
}

// mostSplits bounds how often a triangle is cut where its corners run down to different
// apexes. The surfaces meet without a step there, so a cut of 1/256 leaves an error far
// below 0.1 %.
const mostSplits = 8

// mostLooked bounds the work on one floor: many times what a hall with every corner and drain
// takes, and seconds at most.
const mostLooked = 20_000_000

// integral of the way over the floor, mm³; not whole: the floor has more ways than can be gone.
func (w *ways) integral() (sum float64, whole bool) {
	for _, piece := range w.cells() {
		for _, t := range Triangles(piece) {
			sum += w.over(t, mostSplits)
			if w.looked > mostLooked {
				return 0, false
			}
		}
	}
	return sum, true
}

// cells cuts the floor along the lines on which the way surely changes: square to a channel
// at its ends, the channel itself, and half way between two drains.
func (w *ways) cells() [][]Point {
	var cuts []func(Point) float64
	for i, s := range w.sources {
		if along := s[1].minus(s[0]); along.length() > 0 {
			u := along.times(1 / along.length())
			for _, end := range s {
				cuts = append(cuts, func(p Point) float64 { return dot(p.minus(end), u) })
			}
			cuts = append(cuts, func(p Point) float64 { return cross(u, p.minus(s[0])) })
		}
		for _, other := range w.sources[:i] {
			middle, way := s[0].plus(other[0]).times(0.5), s[0].minus(other[0])
			if s[0] == s[1] && other[0] == other[1] && way.length() > 0 {
				cuts = append(cuts, func(p Point) float64 { return dot(p.minus(middle), way) })
			}
		}
	}
	pieces := Triangles(w.outline)
	for _, cut := range cuts {
		var halves [][]Point
		for _, piece := range pieces {
			for _, sign := range []float64{1, -1} {
				if half := clip(piece, func(p Point) float64 { return sign * cut(p) }); len(half) >= 3 && math.Abs(SignedArea(half)) > 1e-9 {
					halves = append(halves, half)
				}
			}
		}
		pieces = halves
	}
	return pieces
}

// over integrates over a triangle: at once where its corners and its middle run down to the
// same apex, else in four parts.
func (w *ways) over(t []Point, splits int) float64 {
	middle := t[0].plus(t[1]).plus(t[2]).times(1.0 / 3)
	_, found := w.to(middle)
	same := true
	for _, corner := range t {
		// just inside the corner, where two apexes do not tie
		if _, other := w.to(corner.plus(middle.minus(corner).times(1e-3))); other != found {
			same = false
		}
	}
	if same || splits == 0 || w.looked > mostLooked {
		return w.down(t, found)
	}
	ab, bc, ca := t[0].plus(t[1]).times(0.5), t[1].plus(t[2]).times(0.5), t[2].plus(t[0]).times(0.5)
	sum := 0.0
	for _, part := range [][]Point{{t[0], ab, ca}, {ab, t[1], bc}, {ca, bc, t[2]}, {ab, bc, ca}} {
		sum += w.over(part, splits-1)
	}
	return sum
}

// down integrates the way to one apex over a piece of floor.
func (w *ways) down(piece []Point, to apex) float64 {
	if to.bend >= 0 {
		b := w.bends[to.bend]
		return SignedArea(piece)*b.away + cone(piece, b.at)
	}
	s := w.sources[to.source]
	if to.part < 2 {
		return cone(piece, s[to.part])
	}
	u := s[1].minus(s[0]).times(1 / s[1].minus(s[0]).length())
	off := func(p Point) float64 { return cross(u, p.minus(s[0])) }
	return math.Abs(plane(piece, off))
}

// Triangles cuts a simple counter-clockwise outline into triangles by its ears (Meisters 1975).
func Triangles(outline []Point) [][]Point {
	left := append([]Point{}, outline...)
	var list [][]Point
	for len(left) > 3 {
		cut := false
		for i := range left {
			n := len(left)
			a, b, c := left[(i+n-1)%n], left[i], left[(i+1)%n]
			if side(a, b, c) <= 0 || anyInside(left, a, b, c) {
				continue
			}
			list = append(list, []Point{a, b, c})
			left = append(left[:i:i], left[i+1:]...)
			cut = true
			break
		}
		if !cut { // only straight vertices are left to cut
			for i := range left {
				n := len(left)
				if side(left[(i+n-1)%n], left[i], left[(i+1)%n]) == 0 {
					left = append(left[:i:i], left[i+1:]...)
					cut = true
					break
				}
			}
		}
		if !cut {
			break
		}
	}
	if len(left) == 3 && side(left[0], left[1], left[2]) > 0 {
		list = append(list, left)
	}
	return list
}

func anyInside(points []Point, a, b, c Point) bool {
	for _, p := range points {
		if p == a || p == b || p == c {
			continue
		}
		if side(a, b, p) >= 0 && side(b, c, p) >= 0 && side(c, a, p) >= 0 {
			return true
		}
	}
	return false
}

// Level is a surveyed height, mm, and how far its water runs to the drain, mm.
type Level struct{ Height, Away float64 }

// Fallen is how a floor falls.
type Fallen struct {
	Falls  []float64 `json:"falls"`
	Least  float64   `json:"least_fall"`
	Worst  int       `json:"worst_spot"`
	Passes bool      `json:"passes"`
}

// JudgeLevels gives the fall from each level, (height − drain's height)/way to it, against 1 : rule. A
// level in the drain itself is refused.
func JudgeLevels(drain, rule float64, levels []Level) (Fallen, error) {
	if len(levels) == 0 {
		return Fallen{}, fault.At("spots", "falls.no_levels")
	}
	if rule <= 0 {
		return Fallen{}, fault.At("rule_n", "number.too_small", "value", rule, "least", 0)
	}
	f := Fallen{Falls: []float64{}, Least: math.Inf(1)}
	for i, l := range levels {
		if l.Away == 0 {
			return Fallen{}, fault.At("spots", "falls.level_in_the_drain", "spot", i+1)
		}
		fall := (l.Height - drain) / l.Away
		f.Falls = append(f.Falls, fall)
		if fall < f.Least {
			f.Least, f.Worst = fall, i
		}
	}
	f.Passes = !misses(f.Least, rule)
	return f, nil
}

// misses tells whether a fall is less than 1 : rule.
func misses(fall, rule float64) bool { return fall < 1/rule }
