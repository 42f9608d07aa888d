package watertest

import (
	"math"
	"slices"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/rules"
	"dusha/core/wetarea"
)

// Chosen is a test as it was planned. Lengths mm, rates mm/h, times h, loads kPa.
type Chosen struct {
	Depth       float64 `json:"depth_mm"` // over the highest floor point
	Falls       float64 `json:"falls_mm"` // highest floor point over the drain
	Dam         float64 `json:"dam_mm"`   // at the threshold; 0: the water stop is high enough
	Tolerance   float64 `json:"tolerance_mm_per_h"`
	Resolution  float64 `json:"resolution_mm"`
	Interval    float64 `json:"interval_h"`
	Hold        float64 `json:"hold_h"`
	Soak        float64 `json:"soak_h"`      // from the filling of a pool or tank until it is measured
	Pan         string  `json:"pan"`         // "afloat", "beside" or "none"
	Evaporation float64 `json:"evaporation"` // expected, mm/h; 0 where not given
	Standing    float64 `json:"standing_kPa"`
	Allowance   float64 `json:"allowance_kPa"`
	AllowedBy   string  `json:"allowed_by"`
	AllowedFrom string  `json:"allowed_from"` // drawing, letter, calculation
	GoesTo      string  `json:"goes_to"`      // where the water is let go
	Planned     float64 `json:"planned_h"`    // the later of hold time and least duration
	Surface     float64 `json:"surface_m2"`   // of the water
	Built       float64 `json:"built_kPa"`    // what the plan itself puts on the floor

	Drinks    bool     `json:"drinks"`               // the base is known to drink
	Weaker    []string `json:"weaker,omitempty"`     // what is weaker than the local rule: "depth_mm", "tolerance_mm_per_h", "hold_h"
	WeakerWhy string   `json:"weaker_why,omitempty"` // why, and who answers for it
	WeakerBy  string   `json:"weaker_by,omitempty"`
	Refused   []string `json:"refused,omitempty"` // wording keys of what the form refused and an entry kept all the same
}

// None is the choice of a test without a control pan.
const None = "none"

// Asked is a test's form as far as it has been typed, with what follows from it.
type Asked struct {
	Form     *ask.Form
	Fill     *Fill
	Load     *float64 // greatest load with what else stands there, kPa
	Weight   *float64 // of the water alone where it stands deepest, kg/m²
	Gauge    *Gauge   // the coarsest that comes to a verdict in the time there is
	Duration *Duration
	Gauges   []GaugeLine
	Chosen   *Chosen // once all answers are there and fit together
	Read     *Chosen // the same, also where only weakness or water over the film is against it
}

// GaugeLine is what another gauge would make of the duration; Hours is nil where no length
// of test would do.
type GaugeLine struct {
	Resolution float64  `json:"resolution_mm"`
	Hours      *float64 `json:"duration_h"`
}

// gauges that are usual on site, mm: rule, folding rule with vernier, hook gauges.
var gauges = []float64{1, 0.5, 0.2, 0.1, 0.05, 0.02}

const (
	leastDepth, mostDepth = 5.0, 3000.0
	mostFalls             = 500.0
	mostTolerance         = 20.0
	leastGauge, mostGauge = 0.01, 10.0
	mostLoad              = 100.0
	mostHold              = 2000.0
	mostRise              = 5000.0
)

// Ask reads the form of a water test on an area, every question in the order in which it
// is settled. A tolerance of 0 is refused: "no drop" must be given a number. Without an
// allowance there is no filling, and a load above it stops: ask an engineer. Built is what the
// plan itself puts on the floor, kPa. What is weaker than the local rule is refused until a person
// answers for it; water over the film always is.
func Ask(area wetarea.Area, limits rules.Profile, built float64, typed map[string]string) Asked {
	f := &ask.Form{Typed: typed}
	a := Asked{Form: f, Gauges: []GaugeLine{}}
	suggest := func(rule string) []any {
		said := limits.Limit(rule)
		return []any{"suggest", said.Value, "says", said.Source.Says}
	}
	c := Chosen{Built: built}
	var okDepth, okFalls, okTap bool
	if area.Water != nil { // a basin or tank is filled to its water line
		c.Depth = area.Water.Line
	} else {
		c.Depth, okDepth = f.Length("depth", leastDepth, mostDepth, suggest("test_depth")...)
		c.Falls, okFalls = f.Length("falls", 0, mostFalls)
		if okDepth {
			c.Dam = askDam(f, area, c.Depth)
		}
		if len(area.Room.Vertices) == 0 {
			f.Reject(fault.At("depth", "watertest.no_floor"))
		}
	}
	tap, okTap := f.Number("tap", "L/min", 0.1, 1000)
	if area.Water != nil {
		rate := f.NumberOr("fill_rate", "mm/h", 0, mostRise, 0)
		if okTap && f.Fine("fill_rate") {
			a.Fill = fillWater(*area.Water, area.Takeoff.PlanArea, tap, rate)
		}
	}
	if okDepth && okFalls && okTap && f.Fine("depth") {
		if filled, err := floorOf(area, c, tap).Fill(); err == nil {
			a.Fill = &filled
		}
	}
	c.Standing, _ = f.Number("standing", "kPa", 0, mostLoad)
	var okAllowance bool
	c.Allowance, okAllowance = f.Number("allowance", "kPa", 0.01, mostLoad)
	if a.Fill != nil && f.Fine("standing") {
		load := a.Fill.GreatestLoad + c.Standing + c.Built
		weight := LoadMass(a.Fill.GreatestDepth)
		a.Load, a.Weight = &load, &weight
		if okAllowance && load > c.Allowance {
			f.Reject(fault.At("allowance", "watertest.over_allowance", "load", load, "value", c.Allowance))
		}
	}
	const mostText = 80
	c.AllowedBy, _ = f.Text("allowed_by", mostText)
	c.AllowedFrom, _ = f.Text("allowed_from", mostText)
	c.GoesTo, _ = f.Text("goes_to", mostText)
	a.askTiming(&c, suggest)
	if area.Water != nil {
		rule := limits.Limit("test_soak")
		c.Soak = f.NumberOr("soak", "h", 0, mostHold, rule.Value, suggest("test_soak")...)
	}
	c.Drinks = f.ChoiceOr("drinks", []string{"yes", "no"}, "no") == "yes"
	a.askWeaker(&c, area, limits)
	faults := f.Faults()
	if !slices.ContainsFunc(faults, func(each *fault.Fault) bool { return !ofPerson[each.Key] && !ofPerson[each.Field] }) {
		c.Planned = max(c.Hold, a.Duration.Hours)
		c.Surface = area.Takeoff.PlanArea
		for _, each := range faults {
			c.Refused = append(c.Refused, each.Key)
		}
		a.Read = &c
	}
	if len(faults) == 0 {
		a.Chosen = &c
	}
	return a
}

// ofPerson are the faults, by key or field, that say nothing against the figures themselves.
var ofPerson = map[string]bool{"watertest.weaker": true, "watertest.above_the_film": true, "weaker_why": true, "weaker_by": true}

// askWeaker holds depth, tolerance and time against the local rule.
func (a *Asked) askWeaker(c *Chosen, area wetarea.Area, limits rules.Profile) {
	f := a.Form
	for _, each := range []struct {
		field, says, rule string
		value, sign       float64
	}{{"depth", "depth_mm", "test_depth", c.Depth, 1}, {"tolerance", "tolerance_mm_per_h", "test_tolerance", c.Tolerance, -1}, {"hold", "hold_h", "test_hours", c.Hold, 1}} {
		if limit := limits.Limit(each.rule).Value; each.value > 0 && each.sign*each.value < each.sign*limit && !(area.Water != nil && each.field == "depth") {
			c.Weaker = append(c.Weaker, each.says)
		}
	}
	if len(c.Weaker) == 0 {
		return
	}
	const mostText = 200
	c.WeakerWhy, _ = f.Text("weaker_why", mostText)
	c.WeakerBy, _ = f.Text("weaker_by", mostText)
	for i, q := range f.Questions {
		if q.ID == "weaker_why" && q.State == "missing" {
			f.Questions[i].Fault = fault.At(q.ID, "watertest.weaker", "what", c.Weaker, "depth", limits.Limit("test_depth").Value,
				"tolerance", limits.Limit("test_tolerance").Value, "hours", limits.Limit("test_hours").Value)
		}
	}
}

// fillWater is the filling of a basin or tank to its water line, no faster than a rate in mm/h, 0
// as the tap runs; plan is its water face, m².
func fillWater(w wetarea.Water, plan, tap, rate float64) *Fill {
	if rate == 0 {
		rate = math.Inf(1)
	}
	filled, err := FillTank(w.Volume, plan, w.Line, tap, rate)
	if err != nil {
		return nil
	}
	return &Fill{Volume: w.Volume, GreatestDepth: w.Line, GreatestLoad: filled.Pressure, MeanLoad: Load(w.Volume / plan), Hours: filled.Hours, ByRate: filled.ByRate} // 1 L on 1 m² stands 1 mm deep
}

// askDam asks for the dam where the water stands above the water stop, and keeps the water
// below the film's edges.
func askDam(f *ask.Form, area wetarea.Area, depth float64) (dam float64) {
	lowest := math.Inf(1)
	for i, edge := range area.Room.Edges {
		if edge.Kind != "wall" {
			continue
		}
		if len(edge.Parts) == 0 {
			lowest = min(lowest, edge.Height)
		}
		for _, part := range edge.Parts {
			lowest = min(lowest, part.Height)
		}
		for _, opening := range area.Room.Openings {
			if opening.Edge == i && opening.Sill > 0 {
				lowest = min(lowest, opening.Sill)
			}
		}
	}
	if depth >= lowest {
		f.Reject(fault.At("depth", "watertest.above_the_film", "value", depth, "most", lowest))
		return 0
	}
	if depth < area.WaterStop {
		return 0
	}
	dam, ok := f.Length("dam", 0, mostDepth, "depth", depth, "stop", area.WaterStop)
	if ok && dam <= depth {
		f.Reject(fault.At("dam", "watertest.dam_too_low", "value", dam, "least", depth))
	}
	return dam
}

// floorOf is the floor as it is filled: the falls rise evenly from the drain or channel to
// its farthest point.
func floorOf(area wetarea.Area, c Chosen, tap float64) Floor {
	floor := Floor{Vertices: area.Room.Vertices, Depth: c.Depth, Tap: tap}
	for _, p := range area.Penetrations {
		switch {
		case p.Kind == "point_drain" && p.Surface == "floor":
			floor.Drains = append(floor.Drains, p.At)
		case p.Ends != nil && p.Surface == "floor":
			floor.Channels = append(floor.Channels, *p.Ends)
		}
	}
	if c.Falls > 0 && len(floor.Drains)+len(floor.Channels) > 0 {
		floor.Slope = 1 // to learn how far the farthest point is
		if way, err := floor.built().Measure(); err == nil {
			floor.Slope = way.Farthest / c.Falls
		}
	}
	return floor
}

func (a *Asked) askTiming(c *Chosen, suggest func(string) []any) {
	f := a.Form
	var ok [5]bool
	if c.Tolerance, ok[0] = f.Number("tolerance", "mm/h", 0, mostTolerance, suggest("test_tolerance")...); ok[0] && c.Tolerance == 0 {
		f.Reject(fault.At("tolerance", "watertest.tolerance_not_positive", "value", c.Tolerance))
		ok[0] = false
	}
	c.Resolution, ok[1] = f.Number("resolution", "mm", leastGauge, mostGauge)
	c.Interval, ok[2] = f.Number("interval", "h", 0.1, 48, suggest("test_interval")...)
	c.Hold, ok[3] = f.Number("hold", "h", 0.5, mostHold, suggest("test_hours")...)
	c.Pan, ok[4] = f.Choice("pan", []string{Afloat, Beside, None})
	if c.Pan == None {
		c.Evaporation, _ = f.Number("evaporation", "mm/h", 0, mostTolerance)
	} else {
		c.Evaporation, _ = f.Stated("evaporation", "mm/h", 0, mostTolerance)
	}
	if !ok[0] || !ok[1] || !ok[2] || !ok[3] || !ok[4] || !f.Fine("evaporation") {
		return
	}
	left := c.Tolerance - c.doubt()
	if left <= 0 {
		f.Reject(fault.At("evaporation", "watertest.doubt_over_tolerance", "doubt", c.doubt(), "most", c.Tolerance))
		return
	}
	plan := Plan{Resolution: c.Resolution, Interval: c.Interval, Tolerance: left}
	d, err := plan.Duration()
	if err != nil {
		f.Reject(fault.At("resolution", "watertest.no_length_will_do", "value", left))
		return
	}
	a.Duration = &d
	if wished := f.NumberOr("wished", "h", 0, mostHold, 0); wished > 0 {
		if g, err := plan.GaugeFor(wished, gauges); err == nil {
			a.Gauge = &g
		}
	}
	for _, each := range gauges {
		plan.Resolution = each
		l := GaugeLine{Resolution: each}
		if d, err := plan.Duration(); err == nil {
			hours := max(d.Hours, c.Hold)
			l.Hours = &hours
		}
		a.Gauges = append(a.Gauges, l)
	}
}

// doubt that is expected of the pan, or of the estimate, mm/h.
func (c Chosen) doubt() float64 {
	if c.Pan == None {
		return c.Evaporation // an estimate never makes a basin hold
	}
	return Pan{Place: c.Pan}.doubt() * c.Evaporation
}
