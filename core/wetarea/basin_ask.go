package wetarea

import (
	"math"

	"dusha/core/fault"
)

// basin asks a pool, trough or planter: plan, depths along wall A from its left end, freeboard.
func (s *site) basin() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	f := s.f
	for i := range s.room.Edges {
		s.room.Edges[i].Kind = "wall"
	}
	axis := f.ChoiceOr("axis", s.names, "a", namesWall)
	edge, _ := s.room.edgeNamed(axis)
	area := Area{Room: s.room}
	hung := area.hang(edge)
	b := Basin{Vertices: s.room.Vertices, Axis: Axis{From: hung.Origin, To: hung.Origin.plus(hung.Right)}}
	bottom := with(upright, "floor", "floor_wall", "riser")
	items, whole := f.List("stations", mostItems, "wall", axis), true
	low, high := b.reach()
	if len(items) == 0 { // one depth all over
		depth, ok := f.Length("basin_depth", leastDepth, mostDepth, with(upright, "floor"))
		b.Stations, whole = []Station{{low, depth}, {high, depth}}, ok
	}
	for _, id := range items {
		at, okAt := f.Length("stations."+id+".at", 0, mostSide, atStation, bottom, "station", id, "wall", axis, "most", high)
		depth, okDepth := f.Length("stations."+id+".depth", leastDepth, mostDepth, bottom, "station", id)
		whole = whole && okAt && okDepth
		b.Stations = append(b.Stations, Station{at, depth})
	}
	var okFree bool
	if b.Freeboard, okFree = f.Length("freeboard", 0, 2000, upright); !whole || !okFree {
		return nil, nil
	}
	if len(b.Stations) == 1 {
		f.Reject(fault.At("stations", "basin.too_few_stations", "count", 1))
		return nil, nil
	}
	b.toTheEnds(low, high)
	if err := b.check(); err != nil {
		return nil, s.stationFault(err, items)
	}
	s.boxes()
	b.Boxes = s.room.Boxes
	derived, err := deriveBasin(b, s.room)
	derived.Takeoff.TurnedRound = s.turn
	if err != nil {
		return nil, err
	}
	return &derived, nil
}

// toTheEnds carries the first and last depth on to the ends of the plan where they lie inside
// it by a rounding of the tape.
func (b *Basin) toTheEnds(low, high float64) {
	const slack = 5.0 // mm
	last := len(b.Stations) - 1
	if math.Abs(b.Stations[0].At-low) <= slack {
		b.Stations[0].At = low
	}
	if math.Abs(b.Stations[last].At-high) <= slack {
		b.Stations[last].At = high
	}
}

// stationFault hangs a fault of the stations on the station's own question.
func (s *site) stationFault(err error, items []string) error {
	each := fault.Of(err)[0]
	if n, is := each.Args["station"].(int); is && n <= len(items) {
		each.Field = "stations." + items[n-1] + ".at"
	} else if len(items) > 0 {
		each.Field = "stations." + items[len(items)-1] + ".at"
	}
	return each
}

func (s *site) boxTank() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	height, okHeight := s.f.Length("tank_height", leastDepth, mostDepth, upright)
	water, okWater := s.f.Length("water_depth", 0, mostDepth)
	if !okHeight || !okWater {
		return nil, nil
	}
	area, err := deriveBox(BoxTank{Vertices: s.room.Vertices, Height: height, Water: water}, s.room)
	area.Takeoff.TurnedRound = s.turn
	return tank(area, err)
}

func (s *site) roundTank() (*Area, error) {
	diameter, okDiameter := s.f.Length("diameter", leastSide, mostSide, plan)
	height, okHeight := s.f.Length("tank_height", leastDepth, mostDepth, upright)
	water, okWater := s.f.Length("water_depth", 0, mostDepth)
	soffit := s.f.ChoiceOr("soffit", yesNo, "no") == "yes"
	if !okDiameter || !okHeight || !okWater {
		return nil, nil
	}
	return tank(deriveRound(RoundTank{Diameter: diameter, Height: height, Water: water, Soffit: soffit}))
}

// tank hangs a tank's faults on the questions of the form.
func tank(area Area, err error) (*Area, error) {
	if err == nil {
		return &area, nil
	}
	each := fault.Of(err)[0]
	each.Field = map[string]string{"water_depth_mm": "water_depth", "height_mm": "tank_height", "diameter_mm": "diameter"}[each.Field]
	return nil, each
}
