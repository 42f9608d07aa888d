package logbook

import (
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/units"
	"dusha/core/watertest"
)

// WaterTest is one test from its plan to its end; a failed one is followed by another, and
// all stay in the record.
type WaterTest struct {
	Entry   string                   `json:"entry"`
	Step    string                   `json:"step"`
	Bay     int                      `json:"bay"` // from 1; 0: the whole is tested at once
	Bays    int                      `json:"bays"`
	At      time.Time                `json:"at"`
	Answers map[string]units.Measure `json:"answers"`
	Chosen  watertest.Chosen         `json:"chosen"`
	Fill    watertest.Fill           `json:"fill"`
	Runs    []TestRun                `json:"runs"`
	Looks   []Sighting               `json:"looks"`   // outside, in order; those of readings among them
	Repairs []Signed                 `json:"repairs"` // what was done after a run that leaked
}

// TestRun is a stretch of readings at one filling: rain, a top-up or a knock begins a new
// one, kept beside the old.
type TestRun struct {
	Entry  string    `json:"entry"`
	Why    string    `json:"why"` // one of RunReasons
	At     time.Time `json:"at"`
	Levels []Level   `json:"levels"`
	Rained []Rain    `json:"rained,omitempty"`

	Explained *Explained `json:"explained,omitempty"` // why its end is no leak
}

// Rain is how much fell up to a moment, since the reading before.
type Rain struct {
	At time.Time `json:"at"`
	Mm float64   `json:"rain_mm"`
}

// Sighting is a look at the outside.
type Sighting struct {
	Entry   string    `json:"entry"`
	At      time.Time `json:"at"`
	By      string    `json:"by"`
	Outside string    `json:"outside"` // one of Outsides
	Where   string    `json:"where"`
	Damp    string    `json:"damp"`   // one of Damps, "" where it was not said
	Before  bool      `json:"before"` // before the filling

	Explained *Explained `json:"explained,omitempty"`
}

// Explained is why something is no leak, by whom, with photos.
type Explained struct {
	Signed
	Photos []Photo `json:"photos"`
}

// Level is a reading of the test's level and the pan's, with the look outside.
type Level struct {
	Entry   string    `json:"entry"`
	At      time.Time `json:"at"`
	By      string    `json:"by"`
	Water   float64   `json:"water_mm"`
	Pan     *float64  `json:"pan_mm"`
	Outside string    `json:"outside"` // "dry", "damp" or "wet"
	Where   string    `json:"where"`
	Temp    *float64  `json:"water_C,omitempty"`
}

// test is the test under way or ended last, nil before the first plan.
func (a *Area) test() *WaterTest {
	if len(a.Tests) == 0 {
		return nil
	}
	return &a.Tests[len(a.Tests)-1]
}

// Findings of a water test, as its verdict is said.
const (
	FindsNothing  = "" // not filled or not read yet
	FindsHolds    = "holds"
	FindsLeaks    = "leaks"
	FindsCannot   = "cannot tell"
	FindsLocalMet = "local test met"
)

// TestLook is a test with its verdict and what it rests on.
type TestLook struct {
	WaterTest
	Finding string                 `json:"finding"`
	SoFar   bool                   `json:"so_far"`
	Reason  Reason                 `json:"reason"`
	Notes   []Reason               `json:"notes"`  // what the verdict says beside it: weaker, damp before, runs before
	Judged  *watertest.Judged      `json:"judged"` // nil with fewer than three readings
	Still   *watertest.StillNeeded `json:"still"`
	Plan    []figure.Figure        `json:"plan"`    // volume, load, duration
	Figures []figure.Figure        `json:"figures"` // loss, limit, least detectable leak
	Begun   string                 `json:"begun"`   // first reading of the run, RFC 3339
	Ends    string                 `json:"ends"`    // planned end
	NextAt  string                 `json:"next_at"` // when the next reading is due
	Decides string                 `json:"decides"` // when it will be decided, as things stand
	Damp    bool                   `json:"damp"`    // damp was seen outside
	Water   []watertest.Edge       `json:"water"`   // fitted lines with their bands, from the first reading
	PanLine []watertest.Edge       `json:"pan_line"`
}

// Reason is why a verdict is what it is: rule, bound, limit and what would change it.
type Reason struct {
	Key    string         `json:"key"`
	Args   map[string]any `json:"args"`
	Remedy string         `json:"remedy"` // wording key, "" where none is needed
}

func (a *Area) testLook(t WaterTest) TestLook {
	v := a.judged(t)
	l := TestLook{
		WaterTest: t, Plan: a.planFigures(t), Figures: []figure.Figure{}, Finding: v.finding, Judged: v.judged, Reason: v.reason, Notes: v.notes,
	}
	interval := time.Duration(t.Chosen.Interval * float64(time.Hour))
	if len(t.Runs) > 0 {
		measured, until := t.soaked()
		run := measured.Runs[len(t.Runs)-1]
		l.NextAt = stamp(run.At)
		if until.After(run.At) {
			l.NextAt = stamp(until)
		}
		if n := len(run.Levels); n > 0 {
			l.Begun, l.NextAt = stamp(run.Levels[0].At), stamp(run.Levels[n-1].At.Add(interval))
			l.Ends = stamp(run.Levels[0].At.Add(time.Duration(t.Chosen.Planned * float64(time.Hour))))
		}
	}
	l.Damp = slices.ContainsFunc(t.Looks, func(s Sighting) bool { return s.Outside == "damp" })
	if v.judged != nil {
		l.SoFar = v.judged.SoFar
		l.Figures = a.testFigures(t, v)
		if v.finding == FindsCannot || v.judged.SoFar && v.finding == FindsHolds {
			l.Still, l.Decides = v.still, v.decides
		}
	}
	until := t.Chosen.Planned
	if l.Still != nil && l.Still.Hours != nil {
		until = max(until, *l.Still.Hours)
	}
	l.Water = append([]watertest.Edge{}, v.test.Water.Band(until)...)
	l.PanLine = []watertest.Edge{}
	if v.test.Pan != nil {
		l.PanLine = append(l.PanLine, v.test.Pan.Band(until)...)
	}
	return l
}

// planFigures are the numbers of the fill plan with their origin.
func (a *Area) planFigures(t WaterTest) []figure.Figure {
	c := t.Chosen
	area := figure.Read("film.area", c.Surface, "m2", figure.Source{Kind: "measure", Ref: "floor"})
	heights := []figure.Figure{t.typed("depth", c.Depth, "mm"), t.typed("falls", c.Falls, "mm")}
	if a.Geometry != nil && a.Geometry.Water != nil { // filled to its water line
		heights = []figure.Figure{figure.Read("test.depth", c.Depth, "mm", figure.Source{Kind: "entry", Ref: a.SurveyID})}
	}
	load := figure.Worked("test.load_of_water", t.Fill.GreatestLoad, "kPa", "test.load", heights...)
	places := []figure.Figure{area}
	if a.Geometry != nil {
		for _, p := range a.Geometry.Penetrations {
			if p.Drains() && p.Surface == "floor" {
				source := figure.Source{Kind: "entry", Ref: a.SurveyID}
				places = append(places, figure.Read("test.drain_along", p.At[0], "mm", source), figure.Read("test.drain_up", p.At[1], "mm", source))
			}
		}
	}
	volume := figure.Worked("test.volume", t.Fill.Volume, "L", "test.volume", append(places, heights...)...)
	figures := []figure.Figure{
		volume,
		figure.Worked("test.fill_time", t.Fill.Hours, "h", "test.fill_time", volume,
			figure.Read("test.tap", tapOf(t), "L/min", figure.Source{Kind: "entry", Ref: t.Entry, Says: t.Answers["tap"].Typed})),
		figure.Sum("test.greatest_load", "test.load_sum", load, t.typed("standing", c.Standing, "kPa"),
			figure.Read("test.built", c.Built, "kPa", figure.Source{Kind: "entry", Ref: a.PlanID})),
		t.typed("allowance", c.Allowance, "kPa"),
		figure.Worked("test.duration", c.Planned, "h", "test.duration", t.typed("resolution", c.Resolution, "mm"),
			t.typed("interval", c.Interval, "h"), t.typed("tolerance", c.Tolerance, "mm/h"), t.typed("hold", c.Hold, "h"),
			t.typed("evaporation", c.Evaporation, "mm/h"), panShare(c.Pan)),
	}
	if c.Soak > 0 {
		figures = append(figures, t.typed("soak", c.Soak, "h"))
	}
	return figures
}

// typed is a figure of the test's plan as somebody typed it.
func (t WaterTest) typed(field string, value float64, unit string) figure.Figure {
	return figure.Read("test."+field, value, unit, figure.Source{Kind: "entry", Ref: t.Entry, Says: t.Answers[field].Typed})
}

// panShare is how much of the pan's own loss is in doubt, by where it stands.
func panShare(place string) figure.Figure {
	return figure.Read("test.pan_share", watertest.ShareOf(place), "ratio", figure.Source{Kind: "rules", Ref: "test.pan_share"})
}

func tapOf(t WaterTest) float64 { return t.Answers["tap"].Value }

// ruleOfLoss names the rule of a net loss by how test and pan were read.
var ruleOfLoss = map[string]string{"paired": "test.loss_paired", "apart": "test.loss_apart", "no pan": "test.loss_no_pan"}

// testFigures are the numbers of the verdict with their origin.
func (a *Area) testFigures(t WaterTest, v testVerdict) []figure.Figure {
	run, test, j := v.run, v.test, *v.judged
	var levels, pans []figure.Figure
	for _, l := range run.Levels {
		source := figure.Source{Kind: "entry", Ref: l.Entry}
		levels = append(levels, figure.Read("test.level", l.Water, "mm", source).With("at", stamp(l.At)))
		if l.Pan != nil {
			pans = append(pans, figure.Read("test.pan_level", *l.Pan, "mm", source).With("at", stamp(l.At)))
		}
	}
	inputs := append(append(levels, pans...), t.typed("resolution", test.Water.Resolution, "mm"))
	if test.Pan == nil {
		inputs = append(inputs, t.typed("evaporation", test.Evaporation, "mm/h"))
	} else {
		inputs = append(inputs, panShare(test.Pan.Place))
	}
	loss := figure.Worked("test.loss", j.Loss, "mm/h", ruleOfLoss[j.Method], inputs...)
	loss.Low, loss.High = &j.Lower, &j.Upper
	limit := t.typed("tolerance", test.RMax, "mm/h")
	surface := figure.Read("test.surface", t.Chosen.Surface, "m2", figure.Source{Kind: "measure", Ref: "floor"})
	figures := []figure.Figure{loss, limit, figure.Worked("test.least_detectable", j.LeastDetectable, "mm/h", "test.least_detectable", limit, loss)}
	if j.Verdict == watertest.Leaks {
		figures = append(figures, figure.Worked("test.leak", j.LeakLitres, "L/h", "test.leak", loss, surface))
	}
	return figures
}

// AskTest reads the form of a water test on this area.
func (a *Area) AskTest(typed map[string]string) (watertest.Asked, error) {
	if a.Geometry == nil || a.Plan == nil {
		return watertest.Asked{}, fault.At("plan", "card.no_plan")
	}
	return watertest.Ask(*a.Geometry, a.Plan.Rules, a.built(), typed), nil
}
