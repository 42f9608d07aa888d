package wetarea

import (
	"dusha/core/ask"
	"dusha/core/fault"
)

func (s *site) wallRun() (*Area, error) {
	f := s.f
	count, ok := f.Count("walls.count", 1, mostWalls)
	if !ok {
		return nil, nil
	}
	lengths, corners, known := s.chain(count)
	height, okHeight := f.Length("height", leastHeight, mostHeight, upright)
	strip := f.LengthOr("strip", 0, mostSide, 0, ask.Shapes{"floor"})
	if known < count || !okHeight {
		return nil, nil
	}
	w := WallRun{Lengths: lengths, Corners: corners, Strip: strip}
	s.room = Room{Edges: make([]Edge, count), panels: lengths}
	for k := range count {
		name := WallName(k)
		own := f.LengthOr("walls."+name+".height", leastHeight, mostHeight, height, ofWall, up(name), "wall", name)
		w.Heights = append(w.Heights, own)
		s.names = append(s.names, name)
		s.room.Edges[k] = Edge{Name: name, Kind: "wall", Height: own}
	}
	s.zones()
	s.openings()
	s.niches()
	zones := map[int][]Part{}
	for k, e := range s.room.Edges {
		zones[k] = e.Parts
	}
	area, err := deriveRun(w, s.room.Openings, s.room.Niches, zones)
	if err != nil {
		return nil, err
	}
	return &area, nil
}

func faultStrip(k int, wide float64) error {
	return fault.At("strip", "run.strip_too_wide", "wall", WallName(k), "value", wide)
}
