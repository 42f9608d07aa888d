package wetarea

import (
	"cmp"
	"math"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/order"
)

// parts asks what walls and floor carry: higher parts, openings, niches and boxes.
func (s *site) parts() {
	s.zones()
	s.openings()
	s.niches()
	s.boxes()
}

// onWall asks a wall and a stretch along it; ok is false until both are known and fit.
func (s *site) onWall(field string, least float64, args ...any) (edge int, left, width float64, ok bool) {
	f := s.f
	wall, okWall := f.Choice(field+".wall", s.names, append([]any{namesWall}, args...)...)
	args = append(args, "wall", wall, ask.Shapes{"wall." + wall})
	left, okLeft := f.Length(field+".from_left", 0, mostSide, append([]any{fromLeft}, args...)...)
	width, okWidth := f.Length(field+".width", least, mostSide, args...)
	if !okWall {
		return 0, left, width, false
	}
	edge, _ = s.room.edgeNamed(wall)
	long := s.room.edgeLength(edge)
	switch {
	case okWidth && width > long:
		f.Reject(fault.At(field+".width", "part.wider_than_wall", "wall", wall, "value", width, "most", long))
		okWidth = false
	case okLeft && okWidth && left+width > long+1e-6:
		f.Reject(fault.At(field+".from_left", "part.past_wall_end", "wall", wall, "value", left, "most", long-width))
		okLeft = false
	}
	return edge, left, width, okLeft && okWidth
}

// zones are stretches of a wall with a film height of their own, as round a shower.
func (s *site) zones() {
	at := map[int][]Part{}
	for _, id := range s.f.List("zones", mostItems) {
		field := "zones." + id
		edge, left, width, ok := s.onWall(field, leastWall, "zone", id)
		height, okHeight := s.f.Length(field+".height", leastHeight, mostHeight, "zone", id, up(s.f.Typed[field+".wall"]))
		if !ok || !okHeight || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		for _, other := range at[edge] {
			if from < other.To && other.From < from+width {
				s.f.Reject(fault.At(field+".from_left", "zone.overlaps", "wall", s.room.Edges[edge].Name, "value", left))
				ok = false
			}
		}
		if ok {
			at[edge] = append(at[edge], Part{From: from, To: from + width, Height: height})
		}
	}
	for edge, zones := range at {
		s.room.Edges[edge].Parts = s.room.partsWith(edge, zones)
	}
}

// partsWith fills a wall's own height in between its zones.
func (r Room) partsWith(i int, zones []Part) []Part {
	order.By(zones, func(a, b Part) int { return cmp.Compare(a.From, b.From) })
	var parts []Part
	at, long := 0.0, r.edgeLength(i)
	for _, z := range zones {
		if z.From > at+1e-6 {
			parts = append(parts, Part{at, z.From, r.Edges[i].Height})
		}
		parts, at = append(parts, z), z.To
	}
	if at < long-1e-6 {
		parts = append(parts, Part{at, long, r.Edges[i].Height})
	}
	return parts
}

func (s *site) openings() {
	for _, id := range s.f.List("openings", mostItems) {
		field := "openings." + id
		edge, left, width, ok := s.onWall(field, leastWall, "opening", id, with(on(s.f.Typed[field+".wall"]), "threshold.*."+id, "reveal."+id))
		wall := ""
		if ok {
			wall = s.room.Edges[edge].Name
		}
		args := []any{"opening", id, "wall", wall, ask.Shapes{"threshold.*." + id, "reveal." + id, "wall." + wall}}
		sill := s.f.LengthOr(field+".sill", 0, mostHeight, 0, args...)
		height, okHeight := s.f.Length(field+".height", leastWall, mostHeight, args...)
		reveal := s.f.LengthOr(field+".reveal", 0, 1000, 0, args...)
		stop := 0.0
		if sill == 0 {
			stop = s.f.LengthOr(field+".water_stop", 0, mostStop, 0, args...)
		}
		if !ok || !okHeight || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		for _, other := range s.room.Openings {
			if other.Edge == edge && from < other.From+other.Width && other.From < from+width && sill < other.Sill+other.Height && other.Sill < sill+height {
				s.f.Reject(fault.At(field+".from_left", "opening.overlaps", "wall", wall, "value", left))
				ok = false
			}
		}
		if ok {
			s.room.Openings = append(s.room.Openings, Opening{ID: id, Edge: edge, From: from, Sill: sill, Width: width, Height: height, Reveal: reveal, Stop: stop})
		}
	}
}

func (s *site) niches() {
	for _, id := range s.f.List("niches", mostItems) {
		field, niche := "niches."+id, itself("niche."+id)
		edge, left, width, ok := s.onWall(field, leastWall, "niche", id, niche)
		sill, okSill := s.f.Length(field+".sill", 0, mostHeight, "niche", id, niche)
		height, okHeight := s.f.Length(field+".height", leastWall, mostHeight, "niche", id, niche)
		depth, okDepth := s.f.Length(field+".depth", 10, 1000, "niche", id, niche)
		if !ok || !okSill || !okHeight || !okDepth || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		least := math.Inf(1)
		for _, part := range s.room.parts(edge) {
			if part.From < from+width && from < part.To {
				least = min(least, part.Height)
			}
		}
		if sill+height > least {
			s.f.Reject(fault.At(field+".height", "niche.over_the_film", "wall", s.room.Edges[edge].Name, "value", sill+height, "most", least))
			continue
		}
		s.room.Niches = append(s.room.Niches, Niche{ID: id, Edge: edge, From: from, Sill: sill, Width: width, Height: height, Depth: depth})
	}
}
