package watertest_test

import (
	"math"
	"slices"
	"strconv"
	"testing"

	"dusha/core/ask"
	"dusha/core/rules"
	"dusha/core/watertest"
	"dusha/core/wetarea"
)

// washroom is 3.2 × 2.4 m with a film of 100 mm round it and a water stop of 20 mm.
func washroom(t *testing.T) wetarea.Area {
	t.Helper()
	asked, err := wetarea.Ask("rectangle", map[string]string{
		"length": "3200", "width": "2400", "walls.a.height": "100", "walls.b.height": "100", "walls.c.height": "100", "walls.d.height": "100",
		"doorway.wall": "c", "doorway.from_left": "1000", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1600", "drain.from_a": "500", "drain.diameter": "110", "pipes.count": "0",
	})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	return *asked.Area
}

// typed is a plan of a test that fits, with changes; an empty text takes an answer away.
func typed(changes map[string]string) map[string]string {
	answers := map[string]string{
		"depth": "40", "falls": "35", "dam": "90", "tap": "10", "standing": "0.2", "allowance": "2", "allowed_by": "Engineer", "allowed_from": "letter",
		"goes_to": "foul drain", "tolerance": "0.05", "resolution": "0.1", "interval": "1", "hold": "24", "pan": "afloat", "evaporation": "0.08",
	}
	for field, text := range changes {
		answers[field] = text
	}
	return answers
}

func TestAPlanOfATestIsMadeFromItsAnswers(t *testing.T) {
	asked := watertest.Ask(washroom(t), rules.Generic(), 0, typed(nil))
	if asked.Chosen == nil {
		t.Fatal(asked.Form.Faults())
	}
	c := *asked.Chosen
	if c.Depth != 40 || c.Tolerance != 0.05 || c.Pan != watertest.Afloat || c.Planned < c.Hold || math.Abs(c.Surface-7.68) > 1e-9 {
		t.Errorf("%+v", c)
	}
	// 40 mm over the highest point and falls of 35 mm: between 40 and 75 mm on 7.68 m².
	if v := asked.Fill.Volume; v < 40*7.68 || v > 75*7.68 {
		t.Errorf("%v L", v)
	}
	if load := 0.00981*75 + 0.2; math.Abs(*asked.Load-load) > 1e-9 {
		t.Errorf("load %v kPa, want %v", *asked.Load, load)
	}
	if want := asked.Fill.Volume / 600; math.Abs(asked.Fill.Hours-want) > 1e-9 {
		t.Errorf("filled in %v h, want %v", asked.Fill.Hours, want)
	}
	// A finer gauge never takes longer.
	before := math.Inf(1)
	for _, gauge := range asked.Gauges {
		hours := math.Inf(1)
		if gauge.Hours != nil {
			hours = *gauge.Hours
		}
		if hours > before || hours < c.Hold {
			t.Errorf("reading to %v mm takes %v h, the coarser gauge %v", gauge.Resolution, hours, before)
		}
		before = hours
	}
	flat := watertest.Ask(washroom(t), rules.Generic(), 0, typed(map[string]string{"falls": "0"}))
	if math.Abs(flat.Fill.Volume-40*7.68) > 1e-6 {
		t.Errorf("a level floor takes %v L, want %v", flat.Fill.Volume, 40*7.68)
	}
}

func TestAPlanThatDoesNotFitIsRefusedAtItsField(t *testing.T) {
	for name, c := range map[string]struct {
		changes    map[string]string
		field, key string
	}{
		"no drop is no number":                   {map[string]string{"tolerance": "0"}, "tolerance", "watertest.tolerance_not_positive"},
		"words for a number":                     {map[string]string{"depth": "a hand"}, "depth", "length.not_a_number"},
		"over the film":                          {map[string]string{"depth": "100"}, "depth", "watertest.above_the_film"},
		"the dam stands below the water":         {map[string]string{"dam": "40"}, "dam", "watertest.dam_too_low"},
		"over the load allowed":                  {map[string]string{"allowance": "0.5"}, "allowance", "watertest.over_allowance"},
		"a load that nobody knows":               {map[string]string{"allowance": ""}, "allowance", "number.missing"},
		"nobody allowed it":                      {map[string]string{"allowed_by": ""}, "allowed_by", "text.missing"},
		"the water goes nowhere":                 {map[string]string{"goes_to": " "}, "goes_to", "text.missing"},
		"a gauge that reads to nothing":          {map[string]string{"resolution": "0"}, "resolution", "number.too_small"},
		"a pan somewhere else":                   {map[string]string{"pan": "outside"}, "pan", "choice.unknown"},
		"no pan and no evaporation":              {map[string]string{"pan": "none", "evaporation": "-"}, "evaporation", "number.not_a_number"},
		"the estimate alone is over the limit":   {map[string]string{"pan": "none", "evaporation": "0.2"}, "evaporation", "watertest.doubt_over_tolerance"},
		"a pan beside in a wind is over it, too": {map[string]string{"pan": "beside", "evaporation": "0.3"}, "evaporation", "watertest.doubt_over_tolerance"},
	} {
		asked := watertest.Ask(washroom(t), rules.Generic(), 0, typed(c.changes))
		faults := asked.Form.Faults()
		if asked.Chosen != nil || len(faults) != 1 || faults[0].Field != c.field || faults[0].Key != c.key {
			t.Errorf("%s: %v, want %s at %s", name, faults, c.key, c.field)
		}
	}
}

func TestTheFormAsksForADamOnlyWhereWaterStandsOverTheStop(t *testing.T) {
	asks := func(depth string) bool {
		asked := watertest.Ask(washroom(t), rules.Generic(), 0, map[string]string{"depth": depth})
		for _, q := range asked.Form.Questions {
			if q.ID == "dam" {
				return true
			}
		}
		return false
	}
	if asks("15") || !asks("20") || !asks("60") {
		t.Errorf("a dam is asked at 15 mm: %v, 20: %v, 60: %v", asks("15"), asks("20"), asks("60"))
	}
	begun := watertest.Ask(washroom(t), rules.Generic(), 0, nil)
	if begun.Form.Next() != "depth" || begun.Fill != nil || begun.Chosen != nil {
		t.Errorf("nothing typed: next %s", begun.Form.Next())
	}
	if q := begun.Form.Questions[0]; q.Args["suggest"] != rules.Generic().Limit("test_depth").Value || q.Args["says"] == "" {
		t.Errorf("the local rule suggests %v", q.Args)
	}
}

func TestATankIsFilledToItsWaterLine(t *testing.T) {
	asked, err := wetarea.Ask("round_tank", map[string]string{"diameter": "2000", "tank_height": "1800", "water_depth": "1500"})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	got := watertest.Ask(*asked.Area, rules.Generic(), 0, map[string]string{"tap": "10"})
	for _, q := range got.Form.Questions {
		if q.ID == "depth" || q.ID == "dam" || q.ID == "falls" {
			t.Errorf("a tank is asked for its %s", q.ID)
		}
	}
	if i := slices.IndexFunc(got.Form.Questions, func(q ask.Question) bool { return q.ID == "soak" }); i < 0 || got.Form.Questions[i].Value != 48 || !got.Form.Questions[i].Assumed {
		t.Error("the hours of its soak are not offered as the rule has them")
	}
	// π m² × 1.5 m, at 600 L an hour; 1.5 m of water press with 14.7 kPa.
	if f := got.Fill; f == nil || math.Abs(f.Volume-math.Pi*1500) > 1e-6 || math.Abs(f.Hours-math.Pi*2.5) > 1e-9 || math.Abs(f.GreatestLoad-14.715) > 1e-9 {
		t.Errorf("%+v", got.Fill)
	}
}

func TestAWallRunHasNoFloorToFlood(t *testing.T) {
	asked, err := wetarea.Ask("wall_run", map[string]string{"walls.count": "1", "walls.a.length": "3000", "height": "2000"})
	if err != nil || asked.Area == nil {
		t.Fatal(err)
	}
	got := watertest.Ask(*asked.Area, rules.Generic(), 0, map[string]string{"depth": "40"})
	if faults := got.Form.Faults(); len(faults) == 0 || faults[0].Key != "watertest.no_floor" {
		t.Errorf("%v", faults)
	}
}

// A test weaker than the local rule takes a reason and a name, asked one after the other.
func TestAWeakerTestIsAnsweredForByNameAndReason(t *testing.T) {
	for _, c := range []struct {
		changes map[string]string
		faults  []string // field and key
		weaker  int
	}{
		{map[string]string{"tolerance": "0.08"}, []string{"weaker_why watertest.weaker", "weaker_by text.missing"}, 1},
		{map[string]string{"tolerance": "0.08", "weaker_why": "a coarse gauge"}, []string{"weaker_by text.missing"}, 1},
		{map[string]string{"tolerance": "0.08", "weaker_by": "Inspector"}, []string{"weaker_why watertest.weaker"}, 1},
		{map[string]string{"tolerance": "0.08", "hold": "12", "weaker_why": "a coarse gauge", "weaker_by": "Inspector"}, nil, 2},
		{map[string]string{"tolerance": "0.05"}, nil, 0},
	} {
		asked := watertest.Ask(washroom(t), rules.Generic(), 0, typed(c.changes))
		var faults []string
		for _, f := range asked.Form.Faults() {
			faults = append(faults, f.Field+" "+f.Key)
		}
		if !slices.Equal(faults, c.faults) || (asked.Chosen != nil) != (c.faults == nil) {
			t.Errorf("%v: %v, want %v", c.changes, faults, c.faults)
		}
		if asked.Chosen != nil && len(asked.Chosen.Weaker) != c.weaker {
			t.Errorf("%v: weaker in %v", c.changes, asked.Chosen.Weaker)
		}
	}
}

// The time there is for a test says how fine the gauge has to be.
func TestTheTimeThereIsAsksForAGauge(t *testing.T) {
	plain := watertest.Ask(washroom(t), rules.Generic(), 0, typed(nil))
	if plain.Gauge != nil || *plain.Weight != plain.Fill.GreatestDepth {
		t.Errorf("nothing was said of the time: %+v; %v kg/m² at %v mm", plain.Gauge, *plain.Weight, plain.Fill.GreatestDepth)
	}
	before := math.Inf(1)
	for _, hours := range []string{"400", "100", "30"} { // the shorter, the finer
		asked := watertest.Ask(washroom(t), rules.Generic(), 0, typed(map[string]string{"wished": hours}))
		if asked.Gauge == nil || asked.Gauge.Listed == nil || *asked.Gauge.Listed > before {
			t.Fatalf("%s h: %+v", hours, asked.Gauge)
		}
		before = *asked.Gauge.Listed
		for _, line := range asked.Gauges { // it agrees with what each gauge makes of the duration
			wished, _ := strconv.ParseFloat(hours, 64)
			if line.Resolution == before && (line.Hours == nil || *line.Hours > max(wished, 24)) {
				t.Errorf("%s h: %v mm takes %v h", hours, before, *line.Hours)
			}
		}
	}
	if asked := watertest.Ask(washroom(t), rules.Generic(), 0, typed(map[string]string{"wished": "2"})); asked.Gauge == nil || asked.Gauge.Listed != nil {
		t.Errorf("in two hours: %+v", asked.Gauge)
	}
}

// A tank is filled no faster than it may rise.
func TestATankRisesNoFasterThanItMay(t *testing.T) {
	tank := wetarea.Area{Water: &wetarea.Water{Line: 1500, Volume: 6000}}
	tank.Takeoff.PlanArea = 4
	for rate, want := range map[string]float64{"": 6000 / 600.0, "0": 6000 / 600.0, "50": 30, "150": 10, "400": 10} {
		asked := watertest.Ask(tank, rules.Generic(), 0, map[string]string{"tap": "10", "fill_rate": rate})
		if asked.Fill == nil || math.Abs(asked.Fill.Hours-want) > 1e-9 || asked.Fill.ByRate != (rate == "50") || math.Abs(asked.Fill.GreatestLoad-14.715) > 1e-9 || math.Abs(asked.Fill.MeanLoad-14.715) > 1e-9 {
			t.Errorf("rise %q: %+v, want %v h", rate, asked.Fill, want)
		}
	}
	if asked := watertest.Ask(tank, rules.Generic(), 0, map[string]string{"tap": "10", "fill_rate": "fast"}); asked.Fill != nil {
		t.Error("a rise that cannot be read was taken for none")
	}
}
