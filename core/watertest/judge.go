package watertest

import (
	"math"

	"dusha/core/fault"
)

// Readings are levels of one water, in the order of reading.
type Readings struct {
	Times      []float64 `json:"t_h"`
	Levels     []float64 `json:"level_mm"`
	Resolution float64   `json:"resolution_mm" minimum:"0"`      // of the gauge
	Sigma      float64   `json:"sigma_mm,omitempty" minimum:"0"` // scatter of a single reading, where known
	Temps      []float64 `json:"temp_C,omitempty"`               // of the water at mid-depth
}

// Pan is the control pan: what evaporation and rain do alone.
type Pan struct {
	Readings
	Place string   `json:"place"`                   // "afloat" in the water or "beside" it
	Doubt *float64 `json:"p,omitempty" minimum:"0"` // share of the pan's own loss; nil: by the place
}

// Shares of its own loss that a pan may be off, by its place: one beside the water may evaporate
// a third more than the water does.
const (
	Afloat, Beside           = "afloat", "beside"
	doubtAfloat, doubtBeside = 0.05, 0.25
)

// ShareOf is the share of its own loss that a pan in a place may be off; without one the whole.
func ShareOf(place string) float64 {
	if place == None {
		return 1
	}
	return Pan{Place: place}.doubt()
}

func (p Pan) doubt() float64 {
	switch {
	case p.Doubt != nil:
		return *p.Doubt
	case p.Place == Beside:
		return doubtBeside
	}
	return doubtAfloat
}

// LocalRule is a rule that asks only for depth, hours and a dry outside.
type LocalRule struct {
	Depth float64 `json:"depth_mm" minimum:"0"`
	Hours float64 `json:"hours" minimum:"0"`
}

// Test is a water test as far as it was read.
type Test struct {
	Water         Readings   `json:"test"`
	Pan           *Pan       `json:"pan,omitempty"`
	Evaporation   float64    `json:"evaporation_mm_per_h,omitempty" minimum:"0"` // estimated, without a pan
	EvaporationPM *float64   `json:"evaporation_pm_percent,omitempty" minimum:"0"`
	RMax          float64    `json:"r_max_mm_per_h" minimum:"0"` // tolerance
	Hold          float64    `json:"hold_h" minimum:"0"`         // least time
	Planned       float64    `json:"planned_h" minimum:"0"`      // planned duration
	Area          float64    `json:"area_m2" minimum:"0"`        // of the water
	Depth         float64    `json:"water_depth_mm,omitempty" minimum:"0"`
	Volume        float64    `json:"water_volume_m3,omitempty" minimum:"0"`
	VisibleWater  bool       `json:"visible_water,omitempty"` // outside, not explained
	DampRose      bool       `json:"damp_rose,omitempty"`     // a damp reading past its limit
	Soak          bool       `json:"soak,omitempty"`          // times count from the end of filling
	LocalRule     *LocalRule `json:"local_rule,omitempty"`
	Rain          []float64  `json:"rain_mm,omitempty"` // fallen into both waters before each reading, where they are read together
}

// Verdicts of a water test.
const (
	Leaks      = "leaks"
	Holds      = "holds"
	CannotTell = "cannot tell"
)

// Judged is the verdict with all it rests on. Loss and bounds are mm/h.
type Judged struct {
	Method          string   `json:"method"` // "paired", "apart" or "no pan"
	Loss            float64  `json:"r_mm_per_h"`
	TestSlope       *float64 `json:"b_test_mm_per_h"`
	PanSlope        *float64 `json:"b_pan_mm_per_h"`
	SE              float64  `json:"se_mm_per_h"`
	SETest          *float64 `json:"se_test_mm_per_h"`
	SEPan           *float64 `json:"se_pan_mm_per_h"`
	DOF             float64  `json:"dof"`
	Confidence      float64  `json:"confidence"`
	T               float64  `json:"t"`
	Doubt           float64  `json:"doubt_mm_per_h"` // the pan's own, or the estimate's
	Lower           float64  `json:"lower_mm_per_h"`
	Upper           float64  `json:"upper_mm_per_h"`
	Verdict         string   `json:"verdict"`
	SoFar           bool     `json:"so_far"` // before the planned end: not a verdict yet
	Gained          bool     `json:"gained"` // it gained water, or the pan is no fair control
	FloatThePan     bool     `json:"float_the_pan"`
	Weaker          bool     `json:"weaker"`
	LeastDetectable float64  `json:"least_detectable_mm_per_h"`
	LeakLitres      float64  `json:"leak_L_per_h"`
	LocalTestMet    bool     `json:"local_test_met"`
	LocalTestPerDay *float64 `json:"local_test_mm_per_day"`
	SoakUsed        bool     `json:"soak_used"`
	SoakCoefficient *float64 `json:"soak_coefficient_mm_per_sqrt_h"`
	Scatter         float64  `json:"scatter_mm"` // s of the line judged
}

const (
	sureAtEnd, sureBefore = 0.95, 0.99 // many looks: 99 % before the planned end
	power                 = 0.90
	togetherWithin        = 5.0 / 60 // h: a pair is read within 5 min
	deepWater             = 300.0    // mm above which the water's temperature counts
	defaultPM             = 30.0     // percent, of an estimated evaporation
	leastReadings         = 3
	slackHours            = 1e-9
)

// Check refuses what cannot be judged, naming the field.
func (t Test) Check() error {
	if !(t.RMax > 0) {
		return fault.At("r_max_mm_per_h", "watertest.tolerance_not_positive", "value", t.RMax)
	}
	if err := t.Water.check("test"); err != nil {
		return err
	}
	if t.Pan != nil {
		if err := t.Pan.check("pan"); err != nil {
			return err
		}
		if t.Pan.Place != Afloat && t.Pan.Place != Beside && t.Pan.Doubt == nil {
			return fault.At("pan.place", "choice.unknown", "typed", t.Pan.Place)
		}
	}
	if len(t.Rain) > 0 && (t.Pan == nil || !t.together() || len(t.Rain) != len(t.Water.Levels)) {
		return fault.At("rain_mm", "watertest.rain_without_pan")
	}
	for i, mm := range t.Rain {
		if !(mm >= 0) {
			return fault.At("rain_mm", "number.too_small", "value", mm, "least", 0, "reading", i+1)
		}
	}
	if len(t.Water.Temps) > 0 && len(t.Water.Temps) != len(t.Water.Levels) {
		return fault.At("test.temp_C", "watertest.temperatures_missing", "value", len(t.Water.Temps), "wanted", len(t.Water.Levels))
	}
	return nil
}

func (r Readings) check(field string) error {
	switch {
	case len(r.Times) != len(r.Levels):
		return fault.At(field+".level_mm", "watertest.levels_missing", "value", len(r.Levels), "wanted", len(r.Times))
	case len(r.Times) < leastReadings:
		return fault.At(field+".level_mm", "watertest.too_few_readings", "value", len(r.Times), "least", leastReadings)
	case !(r.Resolution > 0):
		return fault.At(field+".resolution_mm", "watertest.resolution_not_positive", "value", r.Resolution)
	}
	for i := range r.Times {
		if math.IsNaN(r.Levels[i]) || math.IsInf(r.Levels[i], 0) {
			return fault.At(field+".level_mm", "watertest.no_level", "reading", i+1)
		}
		if i > 0 && !(r.Times[i] > r.Times[i-1]) {
			return fault.At(field+".t_h", "watertest.out_of_order", "reading", i+1)
		}
	}
	return nil
}

// Judge judges the test as far as it was read.
func (t Test) Judge() (Judged, error) {
	if err := t.Check(); err != nil {
		return Judged{}, err
	}
	water := t.Water
	t.correctForTemperature(&water)
	var j Judged
	switch {
	case t.Pan == nil:
		j = t.withoutPan(water)
	case t.together():
		j = t.paired(water)
	default:
		j = t.apart(water)
	}
	t.bounds(&j)
	t.decide(&j)
	return j, nil
}

func (t Test) length() float64 { return t.Water.Times[len(t.Water.Times)-1] - t.Water.Times[0] }

// together tells whether test and pan were read in pairs.
func (t Test) together() bool {
	if len(t.Water.Times) != len(t.Pan.Times) {
		return false
	}
	for i := range t.Water.Times {
		if math.Abs(t.Water.Times[i]-t.Pan.Times[i]) > togetherWithin+slackHours {
			return false
		}
	}
	return true
}

// own is the slope, standard error and degrees of freedom of one water by itself.
type own struct{ slope, se, dof, scatter float64 }

func (r Readings) alone() own {
	l := fit(r.Times, r.Levels)
	floor := least(sigma(r.Sigma, r.Resolution), r.Resolution, l.sxx, l.length)
	return own{l.slope, max(l.scatter/math.Sqrt(l.sxx), floor), float64(l.n - 2), l.scatter}
}

// drinking is the same with √t beside the line, where the base drinks.
func (t Test) drinking(r Readings, levels []float64, j *Judged) (own, bool) {
	if !t.Soak {
		return own{}, false
	}
	s, fitted := fitSoak(r.Times, levels)
	if !fitted {
		return own{}, false
	}
	j.SoakCoefficient = &s.root
	if j.SoakUsed = s.root < 0; !j.SoakUsed {
		return own{}, false
	}
	scatter := math.Sqrt(s.squares / float64(len(levels)-3))
	return own{s.slope, scatter * math.Sqrt(s.cbb), float64(len(levels) - 3), scatter}, true
}

// soakFloor is the least standard error that a gauge allows beside √t.
func soakFloor(r Readings, times []float64, levels []float64) float64 {
	s, _ := fitSoak(times, levels)
	sxx, length := spanOf(times)
	return max(sigma(r.Sigma, r.Resolution)*math.Sqrt(s.cbb), floorOfGauge*r.Resolution/length*math.Sqrt(s.cbb*sxx))
}

func (t Test) paired(water Readings) Judged {
	j := Judged{Method: "paired"}
	pan := t.Pan.alone()
	if len(t.Rain) > 0 {
		dry := t.Pan.Readings
		dry.Levels = t.dryLevels()
		pan = dry.alone()
	}
	j.PanSlope = &pan.slope
	difference := make([]float64, len(water.Levels))
	for i := range difference {
		difference[i] = water.Levels[i] - t.Pan.Levels[i]
	}
	l := fit(water.Times, difference)
	se, slope, floor := l.scatter/math.Sqrt(l.sxx), l.slope, 0.0
	j.DOF, j.Scatter = float64(l.n-2), l.scatter
	if o, used := t.drinking(water, difference, &j); used {
		se, slope, j.DOF, j.Scatter = o.se, o.slope, o.dof, o.scatter
		floor = math.Hypot(soakFloor(water, water.Times, difference), soakFloor(t.Pan.Readings, water.Times, difference))
	} else {
		sxxPan, lengthPan := spanOf(t.Pan.Times)
		floor = math.Hypot(
			least(sigma(water.Sigma, water.Resolution), water.Resolution, l.sxx, l.length),
			least(sigma(t.Pan.Sigma, t.Pan.Resolution), t.Pan.Resolution, sxxPan, lengthPan))
	}
	j.Loss, j.SE = -slope, max(se, floor)
	return j
}

func (t Test) apart(water Readings) Judged {
	j := Judged{Method: "apart"}
	pan := t.Pan.alone()
	test := t.testAlone(water, &j)
	j.TestSlope, j.PanSlope, j.SETest, j.SEPan = &test.slope, &pan.slope, &test.se, &pan.se
	j.Loss, j.SE = pan.slope-test.slope, math.Hypot(test.se, pan.se)
	fourth := func(x float64) float64 { return x * x * x * x }
	j.DOF = fourth(j.SE) / (fourth(test.se)/test.dof + fourth(pan.se)/pan.dof) // Welch–Satterthwaite
	j.Scatter = test.scatter
	return j
}

func (t Test) withoutPan(water Readings) Judged {
	j := Judged{Method: "no pan"}
	test := t.testAlone(water, &j)
	j.TestSlope, j.SETest = &test.slope, &test.se
	j.Loss, j.SE, j.DOF, j.Scatter = -test.slope-t.Evaporation, test.se, test.dof, test.scatter
	return j
}

// testAlone is the test's own slope, with √t where the base drinks.
func (t Test) testAlone(water Readings, j *Judged) own {
	o, used := t.drinking(water, water.Levels, j)
	if !used {
		return water.alone()
	}
	o.se = max(o.se, soakFloor(water, water.Times, water.Levels))
	return o
}

func (t Test) bounds(j *Judged) {
	if t.Pan != nil {
		j.Doubt = t.Pan.doubt() * math.Abs(*j.PanSlope)
		j.FloatThePan = j.Doubt > t.RMax
		j.Doubt += t.rainDoubt()
	} else {
		pm := defaultPM
		if t.EvaporationPM != nil {
			pm = *t.EvaporationPM
		}
		j.Doubt = t.Evaporation * pm / 100
	}
	j.Confidence = sureAtEnd
	if j.SoFar = t.length() < max(t.Hold, t.Planned)-slackHours; j.SoFar {
		j.Confidence = sureBefore
	}
	j.T = Quantile(j.Confidence, j.DOF)
	j.Lower = j.Loss - j.T*j.SE - j.Doubt
	j.Upper = j.unseen(t, j.T)
	j.LeastDetectable = t.RMax + (Quantile(sureAtEnd, j.DOF)+Quantile(power, j.DOF))*j.SE + j.Doubt
	j.LeakLitres = j.Loss * t.Area
	j.Weaker = t.Pan == nil || t.Depth > deepWater && len(t.Water.Temps) == 0
}

// unseen is the greatest loss that the readings leave room for at a number of standard errors,
// mm/h: nothing is taken off for an evaporation that was only estimated.
func (j Judged) unseen(t Test, errors float64) float64 {
	if t.Pan == nil {
		return -*j.TestSlope + errors*j.SE
	}
	return j.Loss + errors*j.SE + j.Doubt
}

func (t Test) decide(j *Judged) {
	held := t.length() >= t.Hold-slackHours
	switch {
	case j.Lower > t.RMax || t.VisibleWater || t.DampRose:
		j.Verdict = Leaks
	case j.Upper < -t.RMax:
		j.Verdict, j.Gained = CannotTell, true
	case j.Upper <= t.RMax && held && !j.FloatThePan:
		j.Verdict = Holds
	default:
		j.Verdict = CannotTell
	}
	rule := t.LocalRule
	if rule == nil || j.Verdict != CannotTell || j.Gained || j.Loss > t.RMax || t.Depth < rule.Depth || t.length() < rule.Hours-slackHours {
		return
	}
	unseen := 24 * j.unseen(t, Quantile(sureAtEnd, j.DOF))
	j.LocalTestMet, j.LocalTestPerDay = true, &unseen
}
