package wetarea

import (
	"math"

	"dusha/core/fault"
)

// boxKinds are what can stand on a floor.
var boxKinds = []string{"bench", "step", "hob", "column"}

// boxes asks benches, steps and hobs: along a wall from its left end, and how far out.
func (s *site) boxes() {
	for _, id := range s.f.List("boxes", mostItems) {
		field := "boxes." + id
		kind := s.f.ChoiceOr(field+".kind", boxKinds, "bench", "box", id)
		edge, left, width, ok := s.onWall(field, leastWall, "box", id, "kind", kind, with(itself("box."+id), "floor", "floor_wall."+s.f.Typed[field+".wall"]))
		args := []any{"box", id, "kind", kind, with(itself("box."+id), "floor", "floor_wall", "wall", "wall_wall")}
		out := s.f.LengthOr(field+".out", 0, mostSide, 0, args...)
		depth, okDepth := s.f.Length(field+".depth", leastWall, mostSide, args...)
		height, okHeight := s.f.Length(field+".height", leastHeight, mostHeight, args...)
		if !ok || !okDepth || !okHeight {
			continue
		}
		area := Area{Room: s.room}
		f := area.hang(edge)
		if math.Abs(f.Right[0]*f.Right[1]) > 1e-9 {
			s.f.Reject(fault.At(field+".wall", "box.at_an_angle", "wall", s.room.Edges[edge].Name))
			continue
		}
		a, b := f.Place(Point{left, -out}), f.Place(Point{left + width, -out - depth})
		box := Box{ID: id, Kind: kind, CornerA: tidy(a), CornerB: tidy(b), Height: height}
		if !s.holds(box) {
			s.f.Reject(fault.At(field+".depth", "box.outside", "wall", s.room.Edges[edge].Name, "value", out+depth))
			continue
		}
		if wall, stands := s.inDoorway(box); stands {
			s.f.Reject(fault.At(field+".from_left", "box.in_doorway", "wall", wall, "value", left))
			continue
		}
		s.room.Boxes = append(s.room.Boxes, box)
	}
}

// tidy takes rounding noise off a plan point, mm.
func tidy(p Point) Point {
	const grain = 1e6
	return Point{math.Round(p[0]*grain) / grain, math.Round(p[1]*grain) / grain}
}

// holds tells whether a box lies within the plan and on no other box.
func (s *site) holds(box Box) bool {
	corners := box.corners()
	inner := &ways{outline: s.room.Vertices}
	for k := range corners {
		p, q := edgeEnds(corners, k)
		if !inner.sees(p, q) {
			return false
		}
	}
	for _, other := range s.room.Boxes {
		if overlap(corners, other.corners()) {
			return false
		}
	}
	return true
}

// inDoorway names the wall whose opening or niche a box would stand in.
func (s *site) inDoorway(box Box) (wall string, stands bool) {
	for i, e := range s.room.Edges {
		for _, span := range s.room.against(i, box) {
			covers := func(from, width, sill float64) bool {
				left := s.room.leftOf(i, from, width)
				return span[0] < left+width && left < span[1] && sill < box.Height
			}
			for _, o := range s.room.Openings {
				stands = stands || o.Edge == i && covers(o.From, o.Width, o.Sill)
			}
			for _, n := range s.room.Niches {
				stands = stands || n.Edge == i && covers(n.From, n.Width, n.Sill)
			}
			if stands {
				return e.Name, true
			}
		}
	}
	return "", false
}
