package wetarea

import "math"

// DistanceToSegment is how far a point lies from the stretch from a to b, mm.
func DistanceToSegment(p, a, b Point) float64 {
	along := b.minus(a)
	share := 0.0
	if l := dot(along, along); l > 0 {
		share = min(max(dot(p.minus(a), along)/l, 0), 1)
	}
	return p.minus(a.plus(along.times(share))).length()
}

// clip keeps the part of a polygon where a linear measure is not negative (Sutherland &
// Hodgman 1974). Edges that come to lie on each other cancel in a signed integral.
func clip(polygon []Point, measure func(Point) float64) []Point {
	var kept []Point
	for i, p := range polygon {
		q := polygon[(i+1)%len(polygon)]
		from, to := measure(p), measure(q)
		if from >= 0 {
			kept = append(kept, p)
		}
		if from < 0 != (to < 0) {
			kept = append(kept, p.plus(q.minus(p).times(from/(from-to))))
		}
	}
	return kept
}

// plane is the integral of a linear measure over a polygon: its area times the measure of
// its centroid, summed over triangles.
func plane(polygon []Point, measure func(Point) float64) float64 {
	sum := 0.0
	for i := 1; i+1 < len(polygon); i++ {
		triangle := polygon[0:1:1]
		triangle = append(triangle, polygon[i], polygon[i+1])
		mean := (measure(triangle[0]) + measure(triangle[1]) + measure(triangle[2])) / 3
		sum += SignedArea(triangle) * mean
	}
	return sum
}

// cone is the integral of the distance to an apex over a polygon: for each edge the sector
// to the apex, h³/6 · (sec·tan + asinh tan) between the edge's ends, h its distance.
func cone(polygon []Point, apex Point) float64 {
	sum := 0.0
	for i, p := range polygon {
		q := polygon[(i+1)%len(polygon)]
		edge := q.minus(p)
		length := edge.length()
		if length == 0 {
			continue
		}
		u := edge.times(1 / length)
		h := (p[0]-apex[0])*u[1] - (p[1]-apex[1])*u[0]
		if h == 0 {
			continue
		}
		part := func(v Point) float64 {
			tan := dot(v.minus(apex), u) / math.Abs(h)
			return tan*math.Sqrt(1+tan*tan) + math.Asinh(tan)
		}
		sum += math.Copysign(1, h) * math.Pow(math.Abs(h), 3) / 6 * (part(q) - part(p))
	}
	return sum
}
