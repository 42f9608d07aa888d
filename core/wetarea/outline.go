package wetarea

import (
	"math"

	"dusha/core/fault"
)

// Point is a place in plan, mm, x to the right and y up.
type Point [2]float64

func (p Point) minus(q Point) Point          { return Point{p[0] - q[0], p[1] - q[1]} }
func (p Point) plus(q Point) Point           { return Point{p[0] + q[0], p[1] + q[1]} }
func (p Point) times(k float64) Point        { return Point{p[0] * k, p[1] * k} }
func (p Point) length() float64              { return math.Sqrt(p[0]*p[0] + p[1]*p[1]) } // mm: no overflow to fear
func cross(a, b Point) float64               { return a[0]*b[1] - a[1]*b[0] }
func dot(a, b Point) float64                 { return a[0]*b[0] + a[1]*b[1] }
func side(a, b, p Point) float64             { return cross(b.minus(a), p.minus(a)) }
func onSegment(a, b, p Point) bool           { return side(a, b, p) == 0 && dot(p.minus(a), p.minus(b)) <= 0 }
func signOpposite(a, b float64) bool         { return a > 0 && b < 0 || a < 0 && b > 0 }
func next(i, n int) int                      { return (i + 1) % n }
func edgeEnds(v []Point, i int) (a, b Point) { return v[i], v[next(i, len(v))] }

// SignedArea is the shoelace area of a closed outline in mm², positive when the
// vertices run counter-clockwise.
func SignedArea(vertices []Point) float64 {
	area := 0.0
	for i := range vertices {
		a, b := edgeEnds(vertices, i)
		area += cross(a, b)
	}
	return area / 2
}

// CheckOutline refuses what cannot be a floor: fewer than three vertices, an edge of
// no length, or edges that cross, touch or fold back. The fault names the edges by
// their input number ("edges": [i] or [i, j]).
func CheckOutline(vertices []Point) error {
	n := len(vertices)
	if n < 3 {
		return fault.At("vertices", "outline.too_few_vertices", "count", n)
	}
	for i := range vertices {
		if a, b := edgeEnds(vertices, i); a == b {
			return fault.At("vertices", "outline.zero_length_edge", "edges", []int{i})
		}
	}
	boxes := make([]rect, n)
	for i := range vertices {
		a, b := edgeEnds(vertices, i)
		boxes[i] = rect{min(a[0], b[0]), min(a[1], b[1]), max(a[0], b[0]), max(a[1], b[1])}
	}
	for i := range vertices {
		a, b := edgeEnds(vertices, i)
		for j := i + 1; j < n; j++ {
			if boxes[i].apart(boxes[j]) {
				continue
			}
			c, d := edgeEnds(vertices, j)
			if meet(a, b, c, d, j == i+1, i == 0 && j == n-1) {
				return fault.At("vertices", "outline.self_crossing", "edges", []int{i, j})
			}
		}
	}
	return nil
}

// meet tells whether edge ab meets edge cd anywhere but at the vertex they share.
// follows: cd begins where ab ends; closes: cd ends where ab begins.
func meet(a, b, c, d Point, follows, closes bool) bool {
	switch {
	case follows:
		return onSegment(a, b, d) || onSegment(c, d, a)
	case closes:
		return onSegment(a, b, c) || onSegment(c, d, b)
	}
	if signOpposite(side(a, b, c), side(a, b, d)) && signOpposite(side(c, d, a), side(c, d, b)) {
		return true
	}
	return onSegment(a, b, c) || onSegment(a, b, d) || onSegment(c, d, a) || onSegment(c, d, b)
}

// interiorAngle is the angle inside the outline at vertex i, in degrees; the vertices
// run counter-clockwise.
func interiorAngle(vertices []Point, i int) float64 {
	n := len(vertices)
	before := vertices[(i+n-1)%n].minus(vertices[i])
	after := vertices[next(i, n)].minus(vertices[i])
	angle := math.Atan2(cross(after, before), dot(after, before)) * 180 / math.Pi
	if angle < 0 {
		angle += 360
	}
	return angle
}

// inside tells whether a point lies within an outline or on its edge (ray to the right).
func inside(outline []Point, p Point) bool {
	in := false
	for i := range outline {
		a, b := edgeEnds(outline, i)
		if onSegment(a, b, p) {
			return true
		}
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < a[0]+(p[1]-a[1])*(b[0]-a[0])/(b[1]-a[1]) {
			in = !in
		}
	}
	return in
}
