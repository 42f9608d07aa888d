package wetarea

import (
	"dusha/core/ask"
	"dusha/core/fault"
)

// site is a survey form under way.
type site struct {
	f     *ask.Form
	shape string
	room  Room
	sized bool // the plan is known
	run   *Run
	names []string // of the walls in walking order
	turn  bool     // the outline came in clockwise
}

// Kinds of what stands on an edge of a room or deck.
var edgeKinds = []string{"wall", "threshold", "trim", "open"}

// plan asks a room, a deck or a sunken floor.
func (s *site) plan() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	var fill Fill
	height := s.heights(&fill)
	for _, wall := range s.names {
		i, _ := s.room.edgeNamed(wall)
		e := &s.room.Edges[i]
		args := []any{ofWall, "wall", wall, up(wall)}
		field := "walls." + wall + "."
		kind := "wall"
		if s.shape == "deck" {
			kind, _ = s.f.Choice(field+"kind", edgeKinds, args...)
		} else if s.shape == "room" {
			kind = s.f.ChoiceOr(field+"kind", edgeKinds, "wall", args...)
		}
		switch kind {
		case "wall", "":
			e.Kind = "wall"
			e.Height = s.f.LengthOr(field+"height", leastHeight, mostHeight, height, args...)
		case "threshold":
			e.Kind = kind
			e.WaterStop = s.f.LengthOr(field+"water_stop", 0, mostStop, 0, append(args, ask.Shapes{"=threshold." + wall})...)
		case "trim":
			e.Kind, e.Trim = "open", true
		case "open":
			e.Kind = "open"
		}
	}
	s.parts()
	if s.shape == "room" {
		s.room.Soffit = s.f.ChoiceOr("soffit", yesNo, "no") == "yes"
	}
	area, err := deriveRoom(s.room)
	if err != nil {
		return nil, err
	}
	area.Shape, area.Takeoff.TurnedRound = s.shape, s.turn
	if s.shape == "sunken" {
		fill.Volume = area.Takeoff.PlanArea * fill.Depth // 1 m² × 1 mm = 1 L
		fill.Weight *= fill.Volume / 1000
		area.Fill = &fill
	}
	return &area, nil
}

var yesNo = []string{"no", "yes"}

// heights asks how high the film stands where nothing else is said.
func (s *site) heights(fill *Fill) float64 {
	f := s.f
	if s.shape != "sunken" {
		height, ok := f.Length("height", leastHeight, mostHeight, upright)
		if !ok {
			return sketchHeight
		}
		return height
	}
	depth, okDepth := f.Length("tray_depth", leastHeight, mostHeight, upright)
	fill.Depth = f.LengthOr("fill_depth", 0, mostHeight, depth)
	fill.Weight = f.NumberOr("fill_density", "kg/m3", 100, 4000, 1600)
	upstand, okUpstand := f.Length("upstand", leastHeight, mostHeight, upright)
	if !okDepth || !okUpstand {
		return sketchHeight
	}
	if fill.Depth > depth {
		f.Reject(fault.At("fill_depth", "sunken.fill_over_tray", "value", fill.Depth, "most", depth))
	}
	return depth + upstand
}
