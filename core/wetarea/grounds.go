package wetarea

import "math"

// Ground is a part of a surface with one kind of base: texture, primer and gates follow it.
type Ground struct {
	Surface  string
	Patch    string  // id; "" where nothing was said of the base
	Material string  // "" where nothing was said
	Profile  float64 // found, 1 (smooth) to 9 (open); 0: not said
	Area     float64 // m²
}

// Grounds parts a surface by its patches: a rectangle goes before the whole surface, that before
// "walls" and "all"; of two alike the later one counts. The areas add up to the surface's.
func (a Area) Grounds(s Surface) []Ground {
	rest := Ground{Surface: s.ID, Area: s.Area}
	rank := 0
	var parts []Ground
	for _, p := range a.Patches {
		of := 0
		switch {
		case p.Surface == s.ID && p.From != nil && p.To != nil:
			part := Ground{Surface: s.ID, Patch: p.ID, Material: p.Material, Profile: p.ProfileFound, Area: s.within(*p.From, *p.To)}
			parts = append(parts, part)
			continue
		case p.Surface == s.ID:
			of = 3
		case p.Surface == "walls" && s.Kind == "wall":
			of = 2
		case p.Surface == "all":
			of = 1
		}
		if of > 0 && of >= rank {
			rank, rest.Patch, rest.Material, rest.Profile = of, p.ID, p.Material, p.ProfileFound
		}
	}
	var list []Ground
	for _, part := range parts {
		if part.Area = min(part.Area, rest.Area); part.Area > 0 {
			rest.Area -= part.Area
			list = append(list, part)
		}
	}
	if rest.Area > 0 || len(list) == 0 {
		list = append([]Ground{rest}, list...)
	}
	return list
}

// within is the area of a surface inside a rectangle, m²: its outlines less its holes, each cut
// by the rectangle's four sides (Sutherland and Hodgman 1974).
func (s Surface) within(one, other Point) float64 {
	low := Point{min(one[0], other[0]), min(one[1], other[1])}
	high := Point{max(one[0], other[0]), max(one[1], other[1])}
	covered := 0.0
	for _, outline := range s.Outlines {
		covered += math.Abs(SignedArea(Clip(outline, low, high)))
	}
	for _, hole := range s.Holes {
		covered -= math.Abs(SignedArea(Clip(hole, low, high)))
	}
	const mm2PerM2 = 1e6
	return max(0, covered/mm2PerM2)
}

// Clip is what of an outline lies inside a box, mm; nothing where they do not meet.
func Clip(outline []Point, low, high Point) []Point {
	for axis := range 2 {
		outline = cutAt(outline, axis, low[axis], 1)
		outline = cutAt(outline, axis, high[axis], -1)
	}
	return outline
}

// cutAt keeps what lies on one side of a line across an axis: sign 1 above it, -1 below.
func cutAt(outline []Point, axis int, at, sign float64) []Point {
	var kept []Point
	for i, p := range outline {
		q := outline[(i+1)%len(outline)]
		dp, dq := sign*(p[axis]-at), sign*(q[axis]-at)
		if dp >= 0 {
			kept = append(kept, p)
		}
		if dp*dq < 0 {
			kept = append(kept, p.plus(q.minus(p).times(dp/(dp-dq))))
		}
	}
	return kept
}

// Between is the area of a surface between two heights over its foot, m²; high 0: to its top.
func (s Surface) Between(low, high float64) float64 {
	const far = 1e9
	if high <= 0 {
		high = far
	}
	return s.within(Point{-far, low}, Point{far, high})
}
