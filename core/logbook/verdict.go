package logbook

import (
	"cmp"
	"math"
	"slices"
	"time"

	"dusha/core/system"
	"dusha/core/watertest"
)

// The verdict of a water test: what the numbers say, and what the numbers cannot see.

// built is what the plan itself puts on the floor, kPa: screed, fill and film.
func (a *Area) built() float64 {
	if a.Takeoff == nil || a.Geometry == nil || a.Geometry.Takeoff.PlanArea <= 0 {
		return 0
	}
	kg := 0.0
	for _, name := range []string{"plan.base.screed_weight", "plan.base.fill_weight"} {
		if f, is := a.Takeoff.Figure(name); is {
			kg += f.Value
		}
	}
	for _, coat := range a.Takeoff.Coats {
		for _, share := range coat.Surface {
			if share.Surface == "floor" {
				kg += share.Mass
			}
		}
	}
	return watertest.Load(kg / a.Geometry.Takeoff.PlanArea) // 1 kg/m² weighs what 1 mm of water does
}

// testOf is the test an entry speaks of, nil where there is none.
func (a *Area) testOf(e settled, step string) *WaterTest {
	if !a.step(e.Entry, step) {
		return nil
	}
	test := a.test()
	if test == nil {
		a.deviate(e.Entry, "deviation.test_without_plan")
	}
	return test
}

// testVerdict is a verdict with all it was made from.
type testVerdict struct {
	finding string
	run     TestRun
	test    watertest.Test
	judged  *watertest.Judged
	reason  Reason
	notes   []Reason
	still   *watertest.StillNeeded
	decides string
}

const (
	deepWater = 300.0 // mm, over which the water's temperature counts
	leastPan  = 3     // readings, under which there was no pan
	dayHours  = 24.0
	wholeDays = 2   // of deep water without a logged temperature
	daySlack  = 0.5 // h that a whole day may be off
)

// judged gives the verdict of a test: of its last run, with what was seen outside and what became
// of the runs before it.
func (a *Area) judged(t WaterTest) testVerdict {
	t, soaking := t.soaked()
	runs := t.stretches()
	v := testVerdict{finding: FindsNothing, test: a.asTest(t, TestRun{}), notes: []Reason{}, reason: Reason{Key: "test.why.too_few", Args: map[string]any{}}}
	if len(runs) > 0 {
		v = a.judgeRun(t, runs[len(runs)-1])
	}
	if n := len(t.Runs); n > 0 && !soaking.IsZero() {
		v.note("test.note.soak", "hours", t.Chosen.Soak, "until", stamp(soaking))
		if len(t.Runs[n-1].Levels) == 0 {
			v.reason = Reason{Key: "test.why.soaking", Args: map[string]any{"until": stamp(soaking)}, Remedy: "test.remedy.wait"}
		}
	}
	a.sayWeaker(t, &v)
	a.sayRunsBefore(t, runs, &v)
	t.sayOutside(&v)
	if at, is := a.filmChanged(t); is {
		v.cap("test.why.film_changed", "test.remedy.fill_again", map[string]any{"at": stamp(at)})
	}
	if len(t.Chosen.Refused) > 0 {
		v.cap("test.why.plan_refused", "test.remedy.plan", map[string]any{"faults": t.Chosen.Refused})
	}
	return v
}

// filmChanged tells when the film was worked on after the test was filled for the last time.
func (a *Area) filmChanged(t WaterTest) (at time.Time, is bool) {
	if len(t.Runs) == 0 {
		return at, false
	}
	filled := t.Runs[len(t.Runs)-1].At
	for _, lays := range a.Laid {
		for _, l := range lays {
			if l.When.After(filled) && (!is || l.When.Before(at)) {
				at, is = l.When, true
			}
		}
	}
	for _, r := range t.Repairs {
		if r.when.After(filled) && (!is || r.when.Before(at)) {
			at, is = r.when, true
		}
	}
	return at, is
}

// soaked is the test as it is measured, without the readings of the soak, which stay in the record; and
// until when the base of a pool or tank takes up water after its last filling, zero where none is waited out.
func (t WaterTest) soaked() (measured WaterTest, until time.Time) {
	measured = t
	measured.Runs = slices.Clone(t.Runs)
	for i, run := range t.Runs {
		if t.Chosen.Soak > 0 && (run.Why == "filled" || until.IsZero()) {
			until = run.At.Add(time.Duration(t.Chosen.Soak * float64(time.Hour)))
		}
		measured.Runs[i].Levels = slices.DeleteFunc(slices.Clone(run.Levels), func(l Level) bool { return l.At.Before(until) })
	}
	return measured, until
}

// cap lets a test neither hold nor be called met.
func (v *testVerdict) cap(key, remedy string, args map[string]any) {
	if v.finding == FindsHolds || v.finding == FindsLocalMet {
		v.finding, v.reason = FindsCannot, Reason{Key: key, Args: args, Remedy: remedy}
		v.still, v.decides = nil, ""
	}
}

func (v *testVerdict) note(key string, pairs ...any) {
	args := map[string]any{}
	for i := 0; i+1 < len(pairs); i += 2 {
		args[pairs[i].(string)] = pairs[i+1]
	}
	v.notes = append(v.notes, Reason{Key: key, Args: args})
}

// stretches are the runs of a test, a run parted where the water rose, or rain fell, and no pan was
// read together with it.
func (t WaterTest) stretches() (runs []TestRun) {
	for _, run := range t.Runs {
		paired := t.Chosen.Pan != watertest.None && !slices.ContainsFunc(run.Levels, func(l Level) bool { return l.Pan == nil })
		if paired || len(run.Levels) == 0 {
			runs = append(runs, run)
			continue
		}
		water := watertest.Readings{Resolution: t.Chosen.Resolution}
		for _, l := range run.Levels {
			water.Levels = append(water.Levels, l.Water)
		}
		cuts := water.Rises()
		for _, rain := range run.Rained {
			for i, l := range run.Levels {
				if i > 0 && l.At.After(rain.At) && !run.Levels[i-1].At.After(rain.At) {
					cuts = append(cuts, i)
				}
			}
		}
		slices.Sort(cuts)
		part, from := run, 0
		for _, cut := range append(slices.Compact(cuts), len(run.Levels)) {
			if part.Levels = run.Levels[from:cut]; len(part.Levels) == 0 {
				continue
			}
			runs = append(runs, part)
			part.At, part.Why, part.Explained, from = run.Levels[min(cut, len(run.Levels)-1)].At, "rain", nil, cut
		}
	}
	return runs
}

// hours are the times of a run's readings, h: from its first, or from the end of the filling.
func (r TestRun) hours(filled bool) []float64 {
	times := make([]float64, len(r.Levels))
	for i, l := range r.Levels {
		from := r.Levels[0].At
		if filled && r.At.Before(from) {
			from = r.At
		}
		times[i] = l.At.Sub(from).Hours()
	}
	return times
}

// asTest is what the readings of a run are judged as by the numbers alone.
func (a *Area) asTest(t WaterTest, run TestRun) watertest.Test {
	c := t.Chosen
	test := watertest.Test{
		RMax: c.Tolerance, Hold: c.Hold, Planned: c.Planned, Area: c.Surface, Depth: c.Depth, Volume: t.Fill.Volume / 1000,
		Evaporation: c.Evaporation, LocalRule: &watertest.LocalRule{Depth: a.Plan.Rules.Limit("test_depth").Value, Hours: a.Plan.Rules.Limit("test_hours").Value},
	}
	if len(run.Levels) == 0 {
		return test
	}
	test.Water = watertest.Readings{Times: run.hours(false), Resolution: c.Resolution}
	pan := watertest.Pan{Place: c.Pan, Readings: watertest.Readings{Resolution: c.Resolution}}
	for i, l := range run.Levels {
		test.Water.Levels = append(test.Water.Levels, l.Water)
		if l.Pan != nil {
			pan.Times, pan.Levels = append(pan.Times, test.Water.Times[i]), append(pan.Levels, *l.Pan)
		}
		if l.Temp != nil {
			test.Water.Temps = append(test.Water.Temps, *l.Temp)
		}
	}
	if len(test.Water.Temps) < len(run.Levels) {
		test.Water.Temps = nil
	}
	if c.Pan != watertest.None && len(pan.Levels) >= leastPan {
		test.Pan = &pan
		if len(pan.Levels) == len(run.Levels) {
			test.Rain = run.rain(test.Water)
		}
	}
	return test
}

// rain is what fell into both waters before each reading, mm: what was recorded, else what the
// level rose by.
func (r TestRun) rain(water watertest.Readings) []float64 {
	rain, any := make([]float64, len(r.Levels)), false
	for _, i := range water.Rises() {
		rain[i], any = water.Levels[i]-water.Levels[i-1], true
	}
	for _, fallen := range r.Rained {
		for i, l := range r.Levels {
			if i > 0 && l.At.After(fallen.At) && !r.Levels[i-1].At.After(fallen.At) {
				rain[i], any = max(rain[i], fallen.Mm), true
			}
		}
	}
	if !any {
		return nil
	}
	return rain
}

// judgeRun judges one run by its numbers.
func (a *Area) judgeRun(t WaterTest, run TestRun) testVerdict {
	v := testVerdict{finding: FindsNothing, run: run, notes: []Reason{}, reason: Reason{Args: map[string]any{}}}
	warm := t.Chosen.Depth > deepWater && slices.ContainsFunc(run.Levels, func(l Level) bool { return l.Temp == nil })
	short := false
	if warm { // whole days only: the water warms and cools with the day
		whole := 0
		for i, l := range run.Levels {
			hours := l.At.Sub(run.Levels[0].At).Hours()
			days := math.Round(hours / dayHours)
			if days >= wholeDays && math.Abs(hours-days*dayHours) <= daySlack {
				whole = i + 1
			}
		}
		if short = whole == 0; !short {
			run.Levels = run.Levels[:whole]
		}
	}
	j, used, odd, err := a.asTest(t, run).AsRead(t.Chosen.Drinks, run.hours(true))
	if v.test = used; err != nil {
		v.reason.Key = "test.why.too_few"
		return v
	}
	if j.SoakUsed {
		v.note("test.note.drinks")
	}
	v.judged = &j
	if v.finding = j.Verdict; j.LocalTestMet && !j.SoFar {
		v.finding = FindsLocalMet
	}
	if still, err := v.test.Standing(j).StillNeeded(); err == nil {
		v.still = &still
		if still.Hours != nil {
			v.decides = stamp(run.Levels[0].At.Add(time.Duration(max(*still.Hours, t.Chosen.Planned) * float64(time.Hour))))
		}
	}
	v.reason = v.byNumbers(t, run)
	if odd.Fell > 0 {
		v.note("test.note.step", "mm", odd.Fell)
		if v.finding == FindsCannot {
			v.reason = Reason{Key: "test.why.step", Args: map[string]any{"mm": odd.Fell}, Remedy: "test.remedy.explain"}
		}
	}
	if odd.Missing > 0 {
		v.reason = Reason{Key: "test.why.drinks", Args: map[string]any{"n": odd.Missing}, Remedy: "test.remedy.wait"}
	}
	if short {
		v.cap("test.why.deep", "test.remedy.temperature", map[string]any{"depth": t.Chosen.Depth})
	}
	return v
}

// byNumbers says why, with the bound and the limit that decided and what would change it.
func (v testVerdict) byNumbers(t WaterTest, run TestRun) Reason {
	j := v.judged
	r := Reason{Args: map[string]any{
		"loss": j.Loss, "lower": j.Lower, "upper": j.Upper, "limit": v.test.RMax, "litres": j.LeakLitres,
		"least": j.LeastDetectable, "confidence": 100 * j.Confidence, "decides": v.decides,
		"ends": stamp(run.Levels[0].At.Add(time.Duration(t.Chosen.Planned * float64(time.Hour)))),
	}}
	switch {
	case v.finding == FindsLeaks:
		r.Key, r.Remedy = "test.why.leaks", "test.remedy.repair"
	case j.Gained:
		r.Key, r.Remedy = "test.why.gained", "test.remedy.pan"
	case j.FloatThePan:
		r.Key, r.Remedy = "test.why.pan_doubt", "test.remedy.pan"
	case v.finding == FindsLocalMet:
		r.Key, r.Args["per_day"], r.Args["hours"], r.Args["depth"] = "test.why.local_met", *j.LocalTestPerDay, v.test.LocalRule.Hours, v.test.Depth
	case v.finding == FindsHolds:
		r.Key = "test.why.holds"
	case v.still != nil && v.still.CannotDecide && *v.still.Why == "pan" && v.test.Pan == nil:
		r.Key, r.Remedy = "test.why.no_pan", "test.remedy.pan_asked"
	case v.still != nil && v.still.CannotDecide && *v.still.Why == "pan":
		r.Key, r.Remedy = "test.why.pan_cannot", "test.remedy.pan"
	case v.still != nil && v.still.CannotDecide:
		r.Key, r.Remedy = "test.why.gauge_cannot", "test.remedy.gauge"
	case j.Upper <= v.test.RMax:
		r.Key, r.Remedy, r.Args["hold"] = "test.why.too_short", "test.remedy.wait", v.test.Hold
	default:
		r.Key, r.Remedy = "test.why.across", "test.remedy.wait"
	}
	return r
}

// sayWeaker says what makes the verdict weaker than it looks.
func (a *Area) sayWeaker(t WaterTest, v *testVerdict) {
	if t.Chosen.WeakerWhy != "" {
		v.note("test.note.weaker_rule", "what", t.Chosen.Weaker, "by", t.Chosen.WeakerBy, "why", t.Chosen.WeakerWhy)
	}
	switch {
	case v.judged == nil || !v.judged.Weaker:
	case v.test.Pan == nil && t.Chosen.Pan != watertest.None:
		v.note("test.note.pan_not_read")
	case v.test.Pan == nil:
		v.note("test.note.no_pan")
	default:
		v.note("test.note.deep", "depth", t.Chosen.Depth)
	}
}

// sayRunsBefore holds a run against those before it: one that leaked, also so far, or was called
// off, lets no later one hold before it was repaired and has cured, or is explained with a photo.
func (a *Area) sayRunsBefore(t WaterTest, runs []TestRun, v *testVerdict) {
	for i, run := range runs[:max(0, len(runs)-1)] {
		next := runs[i+1]
		before := a.judgeRun(t, run)
		leaked := before.finding == FindsLeaks
		calledOff := next.Why != "rain" && next.Why != "topped_up" && len(run.Levels) > 0
		if !leaked && !calledOff {
			continue
		}
		key := "test.note.called_off"
		if leaked {
			key = "test.note.leaked_before"
		}
		v.note(key, "at", stamp(run.At), "loss", lossOf(before))
		if run.Explained != nil && len(run.Explained.Photos) > 0 {
			v.note("test.note.explained", "why", run.Explained.Note, "person", run.Explained.Person)
			continue
		}
		begun := runs[len(runs)-1].At
		at := slices.IndexFunc(t.Repairs, func(r Signed) bool { return r.when.After(run.At) && r.when.Before(begun) })
		if at < 0 {
			v.cap("test.why.not_repaired", "test.remedy.explain", map[string]any{"at": stamp(run.At)})
			continue
		}
		repaired := t.Repairs[at]
		v.note("test.note.repaired", "did", repaired.Note, "at", repaired.At)
		if cured, known := a.curedAt(repaired.when); !known || begun.Before(cured) {
			v.cap("test.why.repair_not_cured", "test.remedy.cure", map[string]any{"at": repaired.At})
		}
	}
}

func lossOf(v testVerdict) float64 {
	if v.judged == nil {
		return 0
	}
	return v.judged.Loss
}

// sayOutside holds what was seen outside against the film. Damp that was there before the filling
// and has not grown is said; new damp is looked at again before the next reading; what has grown,
// is wet, or was not explained then, is a leak.
func (t WaterTest) sayOutside(v *testVerdict) {
	damp, wetBefore := false, ""
	for _, s := range t.Looks {
		if s.Before && s.Outside != "dry" {
			damp, wetBefore = true, cmp.Or(s.Where, wetBefore)
		}
	}
	leaks := func(key string, s Sighting) {
		v.finding, v.reason = FindsLeaks, Reason{Key: key, Args: map[string]any{"where": s.Where, "at": stamp(s.At)}, Remedy: "test.remedy.repair"}
		v.still, v.decides = nil, ""
	}
	for i, s := range t.Looks {
		if s.Before || s.Outside == "dry" {
			continue
		}
		if s.Outside == "damp" && damp && s.Damp == "as_before" {
			continue
		}
		later := slices.IndexFunc(t.Looks[i+1:], func(l Sighting) bool { return true })
		dried := later >= 0 && t.Looks[i+1+later].Outside == "dry"
		explained := s.Explained != nil && len(s.Explained.Photos) > 0 && dried
		switch {
		case explained:
			v.note("test.note.explained", "why", s.Explained.Note, "person", s.Explained.Person)
		case s.Outside == "wet":
			leaks("test.why.wet_outside", s)
			return
		case s.Damp == "grown", later >= 0:
			leaks("test.why.damp_outside", s)
			return
		default:
			if v.finding != FindsLeaks {
				v.finding, v.reason = FindsCannot, Reason{Key: "test.why.look_again", Args: map[string]any{"where": s.Where, "at": stamp(s.At)}, Remedy: "test.remedy.look_again"}
				v.still, v.decides = nil, ""
			}
		}
	}
	if damp {
		v.note("test.note.damp_before", "where", wetBefore)
	}
}

// passedTest tells whether the last test may be signed; where bays are tested one by one, the last of each.
func (a *Area) passedTest() bool {
	t := a.test()
	if t == nil || t.Bays == 0 && a.byBays() {
		return false
	}
	if t.Bays == 0 {
		return a.passes(*t)
	}
	return len(a.openBays()) == 0
}

func (a *Area) passes(t WaterTest) bool {
	v := a.judged(t)
	return v.judged != nil && !v.judged.SoFar && (v.finding == FindsHolds || v.finding == FindsLocalMet)
}

// byBays tells whether the system has its roof tested bay by bay.
func (a *Area) byBays() bool {
	return a.Plan != nil && slices.ContainsFunc(a.Plan.built.System.Proofs, func(p system.Proof) bool { return p.Kind == "bays" })
}

// openBays are the bays that no test has shown to hold, by number.
func (a *Area) openBays() (open []int) {
	t := a.test()
	if t == nil {
		return nil
	}
	for bay := 1; bay <= t.Bays; bay++ {
		var last *WaterTest
		for i := range a.Tests {
			if a.Tests[i].Bay == bay {
				last = &a.Tests[i]
			}
		}
		if last == nil || !a.passes(*last) {
			open = append(open, bay)
		}
	}
	return open
}
