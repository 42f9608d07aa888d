package wetarea

import (
	"cmp"
	"dusha/core/order"
	"math"
	"slices"
)

// freeEdges is the length of a surface's film edges that end against nothing, mm: its outline and the
// rims of its openings less what other surfaces meet. A wall meets its neighbour up to the lower of
// both.
func (a *Area) freeEdges(s Surface) float64 {
	sum := 0.0
	for _, outline := range slices.Concat(s.Outlines, s.Holes) {
		for i := range outline {
			p, q := edgeEnds(outline, i)
			long := q.minus(p).length()
			var met [][2]float64
			for _, m := range a.meets(s) {
				if from, to, along := m.overlap(p, q); along {
					met = append(met, [2]float64{from, to})
				}
			}
			sum += long - union(met)
		}
	}
	return sum
}

// meets are the lines on which other surfaces meet one: junctions, a soffit at its top, and the boxes
// that stand against it.
func (a *Area) meets(s Surface) (lines []Line) {
	for _, j := range a.Junctions {
		for k, l := range j.Lines {
			if l.Surface != s.ID {
				continue
			}
			highest := a.reach(j, k)
			for _, at := range []*Point{&l.From, &l.To} {
				at[1] = min(at[1], highest)
				if j.Kind == "wall_soffit" && s.Kind == "wall" {
					at[1] = s.Height
				}
			}
			lines = append(lines, l)
		}
	}
	if s.Kind != "wall" || s.Edge < 0 {
		return lines
	}
	for _, b := range a.Room.Boxes {
		for _, span := range a.Room.against(s.Edge, b) {
			left, right := Point{span[0], b.Height}, Point{span[1], b.Height}
			lines = append(lines, Line{s.ID, left, right}, Line{s.ID, Point{span[0], 0}, left}, Line{s.ID, Point{span[1], 0}, right})
		}
	}
	return lines
}

// reach is how high a junction's line on one surface is met by the others: a corner of two walls only
// as high as the lower one stands there.
func (a *Area) reach(j Junction, line int) float64 {
	highest := math.Inf(1)
	if j.Kind != "wall_wall" {
		return highest
	}
	for k, l := range j.Lines {
		other, known := a.Surface(l.Surface)
		if k == line || !known {
			continue
		}
		top := 0.0
		for _, outline := range other.Outlines {
			for _, p := range outline {
				if math.Abs(p[0]-l.From[0]) < 1 {
					top = max(top, p[1])
				}
			}
		}
		highest = min(highest, top)
	}
	return highest
}

// overlap is the stretch of an edge from p to q, from p on, that a line lies on.
func (l Line) overlap(p, q Point) (from, to float64, is bool) {
	const near = 0.5 // mm
	way, long := q.minus(p), q.minus(p).length()
	if long < near {
		return 0, 0, false
	}
	way = way.times(1 / long)
	if math.Abs(cross(way, l.From.minus(p))) > near || math.Abs(cross(way, l.To.minus(p))) > near {
		return 0, 0, false
	}
	a, b := dot(l.From.minus(p), way), dot(l.To.minus(p), way)
	from, to = max(0, min(a, b)), min(long, max(a, b))
	return from, to, to-from > near
}

// union is the length that stretches cover together.
func union(stretches [][2]float64) (sum float64) {
	order.By(stretches, func(a, b [2]float64) int { return cmp.Compare(a[0], b[0]) })
	end := math.Inf(-1)
	for _, s := range stretches {
		if from := max(s[0], end); s[1] > from {
			sum += s[1] - from
			end = s[1]
		}
	}
	return sum
}
