package wetarea

import (
	"cmp"
	"math"

	"dusha/core/order"
)

// gapMm is left between what was moved apart in the net.
const gapMm = 60.0

// unfold moves apart what would overlap in the net: every pair of outlines is tested, the
// lower surface stays and the higher one slides outward along its edge's normal. Reveals,
// niches, boxes and whatever else hangs on no edge is set out below in a row. What was moved
// remembers where it belongs.
func (a *Area) unfold() {
	walk := make([]int, 0, len(a.Surfaces))
	for i := range a.Surfaces {
		walk = append(walk, i)
	}
	rank := func(s Surface) float64 {
		if s.Kind != "wall" {
			return 0
		}
		return s.Height
	}
	order.By(walk, func(i, j int) int { return cmp.Compare(rank(a.Surfaces[i]), rank(a.Surfaces[j])) })
	var placed []piece
	for _, i := range walk {
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
func (p *piece) apart(by Point, other *piece) bool {
	return p.low[0]+by[0] >= other.high[0] || p.high[0]+by[0] <= other.low[0] || p.low[1]+by[1] >= other.high[1] || p.high[1]+by[1] <= other.low[1]
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

// clearance is how far pieces have to slide along a direction until they overlap nothing. Only
// what lies across the slide counts, the nearest first; passing it again changes nothing once
// no piece has moved.
func clearance(pieces, placed []piece, way Point) float64 {
	if !anyOverlap(pieces, placed) {
		return 0
	}
	across := Point{-way[1], way[0]}
	var all []Point
	for _, own := range pieces {
		all = append(all, own.points...)
	}
	left, right := spread(all, across)
	near, _ := spread(all, way)
	type stander struct {
		*piece
		near, far float64
	}
	var inWay []stander
	for k := range placed {
		if low, high := placed[k].boxSpread(across); high <= left || low >= right {
			continue // its box alone lies beside the slide
		}
		low, high := spread(placed[k].points, across)
		first, last := spread(placed[k].points, way)
		if high > left && low < right && last > near {
			inWay = append(inWay, stander{&placed[k], first, last})
		}
	}
	order.By(inWay, func(a, b stander) int { return cmp.Compare(a.near, b.near) })
	shift := 0.0
	for moved := true; moved; {
		moved = false
		for _, other := range inWay {
			for i := range pieces {
				own := &pieces[i]
				by := way.times(shift)
				if own.apart(by, other.piece) || !overlap(own.movedBy(by), other.points) {
					continue
				}
				begins, _ := spread(own.points, way)
				shift, moved = other.far-begins+gapMm, true
			}
		}
	}
	return shift
}

func anyOverlap(pieces, placed []piece) bool {
	for i := range pieces {
		for k := range placed {
			if !pieces[i].apart(Point{}, &placed[k]) && overlap(pieces[i].points, placed[k].points) {
				return true
			}
		}
	}
	return false
}

// boxSpread is the spread of the box round a piece: never less than its own.
func (p *piece) boxSpread(way Point) (low, high float64) {
	middle, half := p.low.plus(p.high).times(0.5), p.high.minus(p.low).times(0.5)
	at, reach := dot(middle, way), math.Abs(half[0]*way[0])+math.Abs(half[1]*way[1])
	return at - reach, at + reach
}

func (p *piece) movedBy(by Point) []Point {
	moved := make([]Point, len(p.points))
	for i, q := range p.points {
		moved[i] = q.plus(by)
	}
	return moved
}

func spread(points []Point, way Point) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, p := range points {
		d := dot(p, way)
		if d < low {
			low = d
		}
		if d > high {
			high = d
		}
	}
	return low, high
}

// overlap tells whether two convex pieces share more than an edge (separating axes).
func overlap(a, b []Point) bool {
	return !parted(a, b) && !parted(b, a)
}

// parted tells whether one of a's edges has b wholly on its other side, touching let pass.
func parted(a, b []Point) bool {
	const touching = 0.5 // mm
	for i, p := range a {
		q := a[0]
		if i+1 < len(a) {
			q = a[i+1]
		}
		normal := Point{p[1] - q[1], q[0] - p[0]} // inward of a counter-clockwise piece
		long := normal.length()
		own, aLow, aHigh := dot(p, normal), 0.0, 0.0
		for _, v := range a {
			d := dot(v, normal) - own
			if d < aLow {
				aLow = d
			}
			if d > aHigh {
				aHigh = d
			}
		}
		within := touching * long
		below, above := true, true
		for _, v := range b {
			d := dot(v, normal) - own
			below = below && d < aLow+within
			above = above && d > aHigh-within
		}
		if long > 0 && (below || above) {
			return true
		}
	}
	return false
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
