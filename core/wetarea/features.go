package wetarea

import (
	"math"

	"dusha/core/fault"
	"dusha/core/pressure"
)

// fittings asks what is fixed on the surfaces: drains, pipes and fittings, joints and cracks,
// falls, water from behind, and the substrate by patches.
func (s *site) fittings(a *Area) {
	f := s.f
	if s.shape != "rectangle" {
		for _, id := range f.List("drains", mostPipes) {
			s.drain(a, id)
		}
	}
	for _, id := range f.List("fittings", mostItems) {
		s.fitting(a, id)
	}
	for _, id := range f.List("lines", mostItems) {
		s.line(a, id)
	}
	if s.shape != "wall_run" && s.shape != "round_tank" {
		s.falls(a)
	}
	s.heads(a)
	for _, id := range f.List("patches", mostItems) {
		s.patch(a, id)
	}
}

// place asks where on a surface something is: on a wall from its left end and up; on a floor
// with walls along one of them and out from it.
func (s *site) place(a *Area, field, surface string, args ...any) (at Point, ok bool) {
	f := s.f
	if surface != "floor" || len(s.names) == 0 || a.Shape == "wall_run" {
		along, okAlong := f.Length(field+"along", 0, mostSide*4, append([]any{alongIt}, args...)...)
		up, okUp := f.Length(field+"up", 0, mostSide, args...)
		return Point{along, up}, okAlong && okUp
	}
	wall, okWall := f.Choice(field+"wall", s.names, append([]any{namesWall}, args...)...)
	args = append([]any{"wall", wall}, args...)
	along, okAlong := f.Length(field+"along", 0, mostSide, append([]any{alongIt}, args...)...)
	out, okOut := f.Length(field+"out", 0, mostSide, args...)
	if !okWall || !okAlong || !okOut {
		return at, false
	}
	edge, _ := a.Room.edgeNamed(wall)
	return tidy(a.floorAt(a.planPlace(edge, along, out))), true
}

// planPlace is the plan point along a wall from its left end and out from it.
func (a *Area) planPlace(edge int, along, out float64) Point {
	right, left := a.ends(edge)
	way := right.minus(left).times(1 / a.Room.edgeLength(edge))
	return left.plus(way.times(along)).plus(Point{way[1], -way[0]}.times(out))
}

// surfaceNames are the surfaces a feature can lie on.
func (a *Area) surfaceNames() []string {
	var names []string
	for _, s := range a.Surfaces {
		names = append(names, s.ID)
	}
	return names
}

// within rejects a round thing that does not lie on its surface.
func (s *site) within(a *Area, field, surface string, at Point, radius float64) bool {
	on, known := a.Surface(surface)
	fits := known && on.Contains(at)
	const rim = 8
	for k := range rim {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / rim)
		fits = fits && on.Contains(at.plus(Point{cos, sin}.times(radius*(1-1e-9))))
	}
	if !fits {
		s.f.Reject(fault.At(field+"along", "feature.off_surface", "surface", surface, "along", at[0], "up", at[1]))
	}
	return fits
}

func (s *site) drain(a *Area, id string) {
	field := "drains." + id + "."
	kind := s.f.ChoiceOr(field+"kind", []string{"point_drain", "channel"}, "point_drain", "drain", id)
	surface := "floor"
	args := []any{"drain", id, "kind", kind, itself("drain." + id)}
	if a.Shape == "wall_run" {
		surface, _ = s.f.Choice(field+"surface", a.surfaceNames(), append([]any{namesOn}, args...)...)
	}
	at, ok := s.place(a, field, surface, args...)
	size, okSize := s.f.Length(field+"diameter", leastBore, mostBore, args...)
	p := Penetration{ID: "drain." + id, Kind: kind, Surface: surface, At: at, Diameter: size}
	if kind == "channel" {
		long, okLong := s.f.Length(field+"length", 50, mostSide, args...)
		edge, _ := a.Room.edgeNamed(s.f.Typed[field+"wall"])
		if !ok || !okLong || !okSize || edge < 0 {
			return
		}
		// It lies along the wall that it is measured from, its middle at the place.
		along := a.hang(edge).Right.times(long / 2)
		plan := a.planPlace(edge, s.value(field+"along"), s.value(field+"out"))
		ends := [2]Point{tidy(a.floorAt(plan.minus(along))), tidy(a.floorAt(plan.plus(along)))}
		p.Ends = &ends
		if !s.within(a, field, surface, ends[0], 0) || !s.within(a, field, surface, ends[1], 0) {
			return
		}
		a.Penetrations = append(a.Penetrations, p)
		return
	}
	if ok && okSize && s.within(a, field, surface, at, size/2) {
		a.Penetrations = append(a.Penetrations, p)
	}
}

// value is the answer to a length question that was asked before, mm.
func (s *site) value(id string) float64 { return s.f.Answers()[id].Value }

// fittingKinds are what can pass through a film beside drains.
var fittingKinds = []string{"pipe", "fitting", "leg", "outlet", "fixing"}

func (s *site) fitting(a *Area, id string) {
	field := "fittings." + id + "."
	kind := s.f.ChoiceOr(field+"kind", fittingKinds, "pipe", "fitting", id)
	args := []any{"fitting", id, "kind", kind, itself("fitting." + id)}
	surface, okSurface := s.f.Choice(field+"surface", a.surfaceNames(), append([]any{namesOn}, args...)...)
	if !okSurface {
		return
	}
	args = append(args, "surface", surface)
	at, ok := s.place(a, field, surface, args...)
	size, okSize := s.f.Length(field+"diameter", 2, mostBore, args...)
	p := Penetration{ID: "fitting." + id, Kind: kind, Surface: surface, At: at, Diameter: size}
	if kind == "leg" {
		p.Height, _ = s.f.Length(field+"height", leastHeight, mostHeight, args...)
		p.Collar = s.f.LengthOr(field+"collar", 0, mostHeight, 0, args...)
	}
	if ok && okSize && s.within(a, field, surface, at, size/2) {
		a.Penetrations = append(a.Penetrations, p)
	}
}

// LineKinds are joints, cracks, changes of material and trims.
var LineKinds = []string{"movement", "control", "cold", "crack_live", "crack_dead", "material", "trim"}

func (s *site) line(a *Area, id string) {
	field := "lines." + id + "."
	kind, okKind := s.f.Choice(field+"kind", LineKinds, "line", id)
	args := []any{"line", id, "kind", kind, itself("line." + id)}
	surface, okSurface := s.f.Choice(field+"surface", a.surfaceNames(), append([]any{namesOn}, args...)...)
	if !okKind || !okSurface {
		return
	}
	args = append(args, "surface", surface)
	from, okFrom := s.place(a, field+"from.", surface, args...)
	to, okTo := s.place(a, field+"to.", surface, args...)
	feature := Feature{ID: "line." + id, Kind: kind, Line: Line{surface, from, to}}
	if kind != "material" && kind != "trim" {
		feature.Width = s.f.LengthOr(field+"gap", 0, 200, 0, args...)
	}
	if kind == "movement" || kind == "control" || kind == "crack_live" {
		movement, _ := s.f.Length(field+"movement", 0, 100, args...)
		feature.Movement = movement
	}
	if !okFrom || !okTo || !s.within(a, field+"from.", surface, from, 0) || !s.within(a, field+"to.", surface, to, 0) {
		return
	}
	if from == to {
		s.f.Reject(fault.At(field+"to.along", "line.no_length", "line", id))
		return
	}
	a.Features = append(a.Features, feature)
	a.Junctions = append(a.Junctions, Junction{ID: feature.ID, Kind: kind, Turn: "flat", Length: feature.Line.Length(), Lines: []Line{feature.Line}})
}

// falls asks how the floor falls to its drains: to be laid, or as it was found by levels.
func (s *site) falls(a *Area) {
	f := s.f
	how := f.ChoiceOr("fall", []string{"none", "to_lay", "found"}, "none")
	if how == "none" {
		return
	}
	rule, okRule := f.Number("fall.n", "count", 10, 500)
	out := Falls{Rule: rule}
	screed := Screed{Vertices: a.Room.Vertices, Slope: rule}
	for _, p := range a.Penetrations {
		switch {
		case p.Ends != nil:
			screed.Channels = append(screed.Channels, *p.Ends)
		case p.Kind == "point_drain":
			screed.Drains = append(screed.Drains, p.At)
		}
	}
	if len(screed.Drains)+len(screed.Channels) == 0 {
		f.Reject(fault.At("fall", "falls.no_drain"))
	}
	if how == "found" {
		s.levels(a, screed, out, okRule)
		return
	}
	least, okLeast := f.Length("fall.least", 0, 500)
	density := f.NumberOr("fall.density", "kg/m3", 100, 4000, 2000)
	most := f.LengthOr("fall.height", 0, 2000, 0)
	screed.Least = least
	if !okRule || !okLeast || !f.Fine("fall") {
		return
	}
	laid, err := screed.Measure()
	if err != nil {
		f.Reject(fault.At("fall", fault.Of(err)[0].Key))
		return
	}
	out.Screed, out.Weight = &laid, laid.Volume/1000*density
	if most > 0 {
		left := most - laid.Greatest
		out.Left = &left
		if left < 0 {
			f.Reject(fault.At("fall.n", "falls.over_the_threshold", "value", laid.Greatest, "most", most, "farthest", laid.Farthest))
		}
	}
	a.Falls = &out
}

// levels asks surveyed heights, each with its place, against the drain's.
func (s *site) levels(a *Area, screed Screed, out Falls, okRule bool) {
	f := s.f
	drain, okDrain := f.Number("fall.drain_level", "mm", -1000, 1000)
	var spots []LevelFall
	for _, id := range f.List("levels", mostItems) {
		field := "levels." + id + "."
		at, ok := s.place(a, field, "floor", "level", id)
		level, okLevel := f.Number(field+"height", "mm", -1000, 1000, "level", id)
		if ok && okLevel && s.within(a, field, "floor", at, 0) {
			spots = append(spots, LevelFall{ID: id, At: at, Level: level})
		}
	}
	if !okRule || !okDrain || !f.Fine("fall") || len(spots) == 0 {
		return
	}
	ways, err := newWays(screed.Vertices, screed.sources())
	if err != nil {
		f.Reject(fault.At("fall", fault.Of(err)[0].Key))
		return
	}
	var levels []Level
	for _, spot := range spots {
		away, _ := ways.to(spot.At)
		if away == 0 {
			f.Reject(fault.At("levels."+spot.ID+".along", "falls.level_in_the_drain", "spot", spot.ID))
			continue
		}
		levels, out.Levels = append(levels, Level{spot.Level, away}), append(out.Levels, spot)
	}
	if fallen, err := JudgeLevels(drain, out.Rule, levels); err == nil { // else each was said
		out.LeastAt = out.Levels[fallen.Worst].ID
		for i, fall := range fallen.Falls {
			spot := &out.Levels[i]
			spot.Fall, spot.Misses = fall, misses(fall, out.Rule)
			if spot.Misses {
				out.Misses++
			}
		}
	}
	a.Falls = &out
}

// heads asks how high water stands outside and works out what presses on each surface at its
// lowest point.
func (s *site) heads(a *Area) {
	behind := s.f.LengthOr("water_behind", 0, mostDepth, 0)
	line := 0.0
	if a.Water != nil {
		line = a.Water.Line
	}
	if behind == 0 && line == 0 {
		return
	}
	const mmPerM = 1000
	for _, on := range a.Surfaces {
		low := a.lowest(on)
		h := Head{Surface: on.ID, Positive: max(0, line-low), Negative: max(0, behind-low)}
		h.PositiveBar, h.NegativeBar = pressure.BarPerMetre*h.Positive/mmPerM, pressure.BarPerMetre*h.Negative/mmPerM
		a.Heads = append(a.Heads, h)
	}
}

// lowest is the height of a surface's lowest point over the lowest floor, mm.
func (a *Area) lowest(s Surface) float64 {
	low, _ := extent(s.Outlines...)
	switch s.Kind {
	case "wall":
		return low[1]
	case "soffit":
		highest := 0.0
		for _, wall := range a.Surfaces {
			if wall.Kind == "wall" {
				highest = max(highest, wall.Height)
			}
		}
		return highest
	}
	return 0
}
