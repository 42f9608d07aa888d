package wetarea

import (
	"cmp"
	"math"
	"slices"
)

// gapMm is left between what was moved apart in the net.
const gapMm = 60.0

// unfold moves apart what would overlap in the net: every pair of outlines is tested, the
// lower surface stays and the higher one slides outward along its edge's normal. Reveals,
// niches, boxes and whatever else hangs on no edge is set out below in a row. What was moved
// remembers where it belongs.
func (a *Area) unfold() {
	order := make([]int, 0, len(a.Surfaces))
	for i := range a.Surfaces {
		order = append(order, i)
	}
	rank := func(s Surface) float64 {
		if s.Kind != "wall" {
			return 0
		}
		return s.Height
	}
	slices.SortStableFunc(order, func(i, j int) int { return cmp.Compare(rank(a.Surfaces[i]), rank(a.Surfaces[j])) })
	var placed []piece
	for _, i := range order {
		s := &a.Surfaces[i]
		if satellite(*s) {
			continue
		}
		boxes := s.quads()
		if s.Kind == "wall" || a.Shape == "wall_run" {
			if shift := clearance(boxes, placed, s.Laid.Up); shift > 0 {
				from := s.Laid.Origin
				s.Moved, s.Laid.Origin = &from, from.plus(s.Laid.Up.times(shift))
				boxes = s.quads()
			}
		}
		placed = append(placed, boxes...)
	}
	a.setOut(placed)
}

// satellite surfaces hang on no edge of the plan.
func satellite(s Surface) bool { return s.Kind == "reveal" || s.Kind == "niche" || s.Kind == "box" }

// piece is a convex part of a surface in the net, with the box round it.
type piece struct {
	points    []Point
	low, high Point
}

// apart tells by their boxes alone that two pieces, the first moved, cannot overlap.
func (p piece) apart(by Point, other piece) bool {
	for k := range by {
		if p.low[k]+by[k] >= other.high[k] || p.high[k]+by[k] <= other.low[k] {
			return true
		}
	}
	return false
}

// quads are the convex pieces by which a surface is tested: a wall by the box round each
// outline, a floor by its triangles.
func (s Surface) quads() []piece {
	var list []piece
	for _, outline := range s.Outlines {
		pieces := [][]Point{outline}
		if s.Kind == "wall" || len(outline) > 60 {
			low, high := extent(outline)
			pieces = [][]Point{{low, {high[0], low[1]}, high, {low[0], high[1]}}}
		} else if s.Kind == "floor" || s.Kind == "soffit" {
			pieces = Triangles(counterClockwise(outline))
		}
		for _, convex := range pieces {
			placed := make([]Point, len(convex))
			for i, p := range convex {
				placed[i] = s.Laid.Place(p)
			}
			low, high := extent(placed)
			list = append(list, piece{placed, low, high})
		}
	}
	return list
}

func counterClockwise(outline []Point) []Point {
	if SignedArea(outline) < 0 {
		return reversed(outline)
	}
	return outline
}

// clearance is how far pieces have to slide along a direction until they overlap nothing.
func clearance(pieces, placed []piece, way Point) float64 {
	shift := 0.0
	for moved := true; moved; {
		moved = false
		for _, own := range pieces {
			by := way.times(shift)
			here := make([]Point, len(own.points))
			for i, p := range own.points {
				here[i] = p.plus(by)
			}
			for _, other := range placed {
				if own.apart(by, other) || !overlap(here, other.points) {
					continue
				}
				_, far := spread(other.points, way)
				near, _ := spread(here, way)
				shift += far - near + gapMm
				moved = true
				break
			}
			if moved {
				break
			}
		}
	}
	return shift
}

func spread(points []Point, way Point) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range points {
		d := dot(p, way)
		low, high = min(low, d), max(high, d)
	}
	return low, high
}

// overlap tells whether two convex pieces share more than an edge (separating axes).
func overlap(a, b []Point) bool {
	const touching = 0.5 // mm
	for _, piece := range [][]Point{a, b} {
		for i := range piece {
			p, q := edgeEnds(piece, i)
			edge := q.minus(p)
			long := edge.length()
			if long == 0 {
				continue
			}
			normal := Point{-edge[1] / long, edge[0] / long}
			aLow, aHigh := spread(a, normal)
			bLow, bHigh := spread(b, normal)
			if aHigh < bLow+touching || bHigh < aLow+touching {
				return false
			}
		}
	}
	return true
}

// setOut lays the surfaces that hang on no edge in rows below the net.
func (a *Area) setOut(placed []piece) {
	low, high := placed[0].low, placed[0].high
	for _, p := range placed {
		for k := range low {
			low[k], high[k] = min(low[k], p.low[k]), max(high[k], p.high[k])
		}
	}
	x, y, tall := low[0], low[1]-2*gapMm, 0.0
	for i := range a.Surfaces {
		s := &a.Surfaces[i]
		if !satellite(*s) {
			continue
		}
		from, to := extent(s.Outlines...)
		wide, high2 := to[0]-from[0], to[1]-from[1]
		if x > low[0] && x+wide > high[0] {
			x, y, tall = low[0], y-tall-2*gapMm, 0
		}
		home := s.Laid.Origin
		s.Moved = &home
		s.Laid = Frame{Origin: Point{x - from[0], y - high2 - from[1]}, Right: Point{1, 0}, Up: Point{0, 1}}
		x, tall = x+wide+4*gapMm, max(tall, high2)
	}
}
