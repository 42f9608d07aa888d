package logbook

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/mixing"
	"dusha/core/sheet"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Area is what an area's book says, before a clock is looked at.
type Area struct {
	ID         string
	Job        Job
	Name       string
	Recipe     sheet.Recipe
	Survey     *wetarea.Survey
	SurveyID   string
	Geometry   *wetarea.Area
	Plan       *Plan
	PlanID     string
	Takeoff    *takeoff.Plan
	Done       map[string]Signed // check and accept steps that were finished, by step
	Overrides  map[string]Signed
	Stale      map[string]string // accepted steps signed before a correction → the correction
	Bedded     map[string]bool
	Cuts       []CutLook
	Laid       map[string][]Lay // by step
	Readings   map[string][]Reading
	Batches    []Batch
	Climate    []ClimateReading
	Touched    map[string]Touch
	Remedied   map[string]bool
	Tests      []WaterTest
	Signatures []Signature
	Leaks      []Leak
	History    *History
	Begun      *Begun
	Conflicts  []Conflict
	Withdrawn  []Withdrawn
	Deviations []Deviation
	Place      string // of its air, "" where it is its own

	place   map[string]int       // of a step in the recipe
	begunAt map[string]time.Time // of a step: its first work
	endedAt map[string]time.Time // of a step: its last work
	layer   map[string]int       // of step and surface: layers laid on a skinned film
	short   map[string]bool      // of a hold: accepted on a film that is not enough
	ways    map[string]way       // what stands before a step, until something moves it
	settled []settled
	own     []Entry
	unread  []Entry // not read whole

	base, air, humidity readings
	forecasts           []ForecastRead
	remedies            map[string][]time.Time // of a step: when one was recorded
	windows             map[string][]wait      // of a step, until something moves them
	filmExplained       map[string]Signed      // of a coat: why it took less than its teeth say
	grid                map[string][]wetarea.Point
	all                 []Entry             // of the whole job
	neighbours          []*Area             // other areas that take from the same stock
	answers             map[string][]string // of a step: what was answered for by name
	startSaid           map[string]bool     // of step, check and answer: said already
	stock               []takeoff.Stock     // what is left of the count, worked out once a look
	lives               takeoff.OpenLives
}

// Signed is who finished, accepted or overrode a step, and when.
type Signed struct {
	Entry  string `json:"entry"`
	At     string `json:"at"`
	By     string `json:"by"`
	Note   string `json:"note,omitempty"`
	Person string `json:"person,omitempty"`

	when time.Time
}

// Lay is a stretch of a coat that was laid.
type Lay struct {
	Entry    string    `json:"entry"`
	Surfaces []string  `json:"surfaces"`
	Kg       float64   `json:"kg"`
	Batch    string    `json:"batch"`
	TopsUp   string    `json:"tops_up"`
	When     time.Time `json:"at"`
}

// Reading is a comb-gauge reading at its place.
type Reading struct {
	Entry   string  `json:"entry"`
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
	film.Bracket
	Layer      int  `json:"layer"`      // 0, or a later layer on the skinned film
	Superseded bool `json:"superseded"` // of another film: more was laid into the wet film after it, or it is older than the coat

	when time.Time
}

// Batch is one bucket from the scale to its end.
type Batch struct {
	ID       string               `json:"id"`
	Number   int                  `json:"number"`
	Step     string               `json:"step"`
	Kg       float64              `json:"kg"`
	Temp     float64              `json:"temp_C"`
	Bucket   float64              `json:"bucket_L"`
	Surfaces []string             `json:"surfaces"`
	Parts    []PartWeight         `json:"parts"`
	Weighed  time.Time            `json:"weighed_at"`
	Marks    map[string]time.Time `json:"marks"`
}

// Conflict is two versions made from the same one; a person chooses.
type Conflict struct {
	Kind    string   `json:"kind"`
	Entries []string `json:"entries"`
}

// Beginning is the recipe of an area before a system is chosen.
func Beginning() sheet.Recipe {
	return sheet.Recipe{Stages: []sheet.Stage{
		{ID: "survey", Title: "Survey", Steps: []sheet.Step{{ID: "survey", Title: "Measure the room", Does: "survey", Why: "Every quantity comes from these numbers."}}},
		{ID: "plan", Title: "Plan", Steps: []sheet.Step{{ID: "plan", Title: "Choose the system and accept the plan", Does: "plan", Why: "The system brings its own order of the work."}}},
	}}
}

// FoldArea reads an area's book. Entries of other books are passed over.
func FoldArea(id string, entries []Entry, job Job) Area {
	own := slices.DeleteFunc(slices.Clone(entries), func(e Entry) bool { return e.AreaID != id })
	m := mend(own)
	a := Area{
		ID: id, Job: job, Recipe: Beginning(),
		Done: map[string]Signed{}, Overrides: map[string]Signed{}, Stale: map[string]string{},
		Bedded: map[string]bool{}, Laid: map[string][]Lay{}, Readings: map[string][]Reading{},
		Batches: []Batch{}, Conflicts: []Conflict{}, Withdrawn: append([]Withdrawn{}, m.withdrawn...),
		Deviations: append([]Deviation{}, m.deviations...),
		Climate:    []ClimateReading{}, Touched: map[string]Touch{}, Remedied: map[string]bool{}, Tests: []WaterTest{}, Signatures: []Signature{}, Leaks: []Leak{},
		begunAt: map[string]time.Time{}, endedAt: map[string]time.Time{}, layer: map[string]int{}, remedies: map[string][]time.Time{}, filmExplained: map[string]Signed{}, grid: map[string][]wetarea.Point{}, windows: map[string][]wait{}, answers: map[string][]string{}, startSaid: map[string]bool{}, short: map[string]bool{}, ways: map[string]way{}, settled: m.settled, own: own, all: entries,
	}
	a.chooseVersions()
	a.readAir(entries)
	a.place = map[string]int{}
	for i, s := range a.Recipe.Steps() {
		a.place[s.ID] = i
	}
	for _, e := range m.settled {
		a.apply(e)
	}
	a.staleAcceptances(m.corrections)
	a.doubt(job)
	return a
}

// chooseVersions settles which survey and plan count before anything is read against them:
// the last of each by (time, id) that no other names as its source.
func (a *Area) chooseVersions() {
	surveys := a.heads("survey", func(body any) ([]string, bool) { b, ok := body.(surveyBody); return b.From, ok })
	if len(surveys) > 0 {
		head := surveys[len(surveys)-1]
		survey := head.body.(surveyBody).Survey
		a.Survey, a.SurveyID = &survey, head.ID
		geometry, err := survey.Read()
		if err != nil {
			a.deviate(head.Entry, "deviation.survey_unreadable", "detail", err.Error())
		}
		a.Geometry = geometry
	}
	plans := a.heads("plan", func(body any) ([]string, bool) { b, ok := body.(Plan); return b.From, ok })
	if len(plans) > 0 {
		a.adoptPlan(plans[len(plans)-1])
	}
}

// heads are the versions of a kind that no other version was made from; two or more made
// from the same one are a conflict.
func (a *Area) heads(kind string, from func(any) ([]string, bool)) []settled {
	var versions []settled
	replaced := map[string]bool{}
	for _, e := range a.settled {
		if sources, ok := from(e.body); ok {
			versions = append(versions, e)
			for _, source := range sources {
				replaced[source] = true
			}
		}
	}
	heads := slices.DeleteFunc(versions, func(e settled) bool { return replaced[e.ID] })
	if len(heads) > 1 {
		c := Conflict{Kind: kind}
		for _, head := range heads {
			c.Entries = append(c.Entries, head.ID)
		}
		a.Conflicts = append(a.Conflicts, c)
	}
	return heads
}

func (a *Area) adoptPlan(e settled) {
	plan := e.body.(Plan)
	if err := MayAccept(plan, a.Job); err != nil {
		a.deviate(e.Entry, "deviation.plan_on_sample")
		return
	}
	a.Plan, a.PlanID, a.Recipe = &plan, e.ID, plan.Sheet.Recipe
	if plan.Against != nil {
		a.deviate(e.Entry, "deviation.against_stop", "name", plan.Sheet.Name, "reason", plan.Against.Reason, "person", plan.Against.Person)
	}
	if a.Geometry == nil || plan.Survey != a.SurveyID {
		a.deviate(e.Entry, "deviation.plan_of_earlier_survey")
		return
	}
	made, err := takeoff.MakePlan(a.PlanInputs(plan))
	if err != nil {
		a.deviate(e.Entry, "deviation.plan_unreadable", "detail", err.Error())
		return
	}
	a.Takeoff = &made
}

// PlanInputs are what a plan of the area is worked out from.
func (a *Area) PlanInputs(plan Plan) takeoff.Inputs {
	return takeoff.Inputs{
		Survey: *a.Survey, SurveyRef: a.SurveyID, Area: *a.Geometry,
		Sheet: plan.Sheet, Rules: plan.Rules, Texture: plan.Texture, Companions: plan.Companions, Missing: plan.Missing, Leaks: a.unplugged(),
	}
}

// unplugged are the leaks that were found and never plugged.
func (a *Area) unplugged() []wetarea.OpenLeak {
	var leaks []wetarea.OpenLeak
	plugged := map[string]bool{}
	for _, e := range a.settled {
		if body, is := e.body.(LeakPlugged); is {
			plugged[body.Leak] = true
		}
	}
	for _, e := range a.settled {
		if body, is := e.body.(LeakFound); is && !plugged[e.ID] {
			leaks = append(leaks, wetarea.OpenLeak{ID: e.ID, Surface: body.Surface})
		}
	}
	return leaks
}

// MayAccept refuses a plan on sample figures outside the demo: the pack's own sheet is
// asked for, with the sample as the form to fill.
func MayAccept(plan Plan, job Job) error {
	if job.Demo {
		return nil
	}
	if plan.Sheet.Invented() {
		return fault.At("sheet", "plan.sample_not_for_work", "sheet", plan.Sheet.Name)
	}
	for _, c := range plan.Companions {
		if c.Sheet.Invented() {
			return fault.At("companions."+c.Role, "plan.sample_not_for_work", "sheet", c.Sheet.Name)
		}
	}
	return nil
}

func (a *Area) deviate(e Entry, key string, pairs ...any) {
	a.Deviations = append(a.Deviations, deviation(e, key, pairs...))
}

// apply reads one entry into the state, after judging it against the state before it. A comb
// reading finishes no step and moves no window; everything else may.
func (a *Area) apply(e settled) {
	if combed, combs := e.body.(Read); !combs {
		defer clear(a.ways)
		defer clear(a.windows)
	} else {
		maps.DeleteFunc(a.windows, func(_ string, list []wait) bool { // how thick it lies is part of its wait
			return slices.ContainsFunc(list, func(w wait) bool { return w.After == combed.Step })
		})
	}
	switch body := e.body.(type) {
	case AreaOpened:
		a.Name, a.Begun = body.Name, body.Begun
	case LeakFound:
		a.applyLeakFound(e, body)
	case LeakPlugged:
		a.applyLeakPlugged(e, body)
	case LeakChecked:
		a.applyLeakChecked(e, body)
	case History:
		a.History = &body
	case Done:
		if a.step(e.Entry, body.Step, "check") {
			a.Done[body.Step] = Signed{Entry: e.ID, At: e.At, By: e.By}
			a.endedAt[body.Step] = e.when
		}
	case Accepted:
		if a.step(e.Entry, body.Step, "accept") {
			delete(a.Stale, body.Step)
			a.acceptFilm(e, body.Step)
			step, _ := a.Recipe.Step(body.Step)
			a.acceptBase(e, step)
			a.Done[body.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Note: body.Note}
			a.endedAt[body.Step] = e.when
		}
	case Overridden:
		if _, known := a.place[body.Step]; !known {
			a.deviate(e.Entry, "deviation.unknown_step", "step", body.Step)
			return
		}
		if step, is := a.Recipe.Step(body.Step); is {
			a.answer(step, e.when)
		}
		a.Overrides[body.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Note: body.Reason, Person: body.Person, when: e.when}
		a.deviate(e.Entry, "deviation.overridden", "step", body.Step, "reason", body.Reason, "person", body.Person)
	case Bedded:
		a.applyBedded(e, body)
	case CutPlanned:
		a.applyCut(e, body)
	case CutDone:
		a.applyCutDone(e, body)
	case CutSpoilt:
		a.applyCutSpoilt(e, body)
	case Weighed:
		a.applyWeighed(e, body)
	case Marked:
		a.applyMarked(e, body)
	case Laid:
		a.applyLaid(e, body)
	case Read:
		a.applyRead(e, body)
	case Touched:
		a.applyTouched(e, body)
	case Remedied:
		a.Remedied[body.Step] = true
		a.remedies[body.Step] = append(a.remedies[body.Step], e.when)
	case FilmExplained:
		a.applyFilmExplained(e, body)
	case TestPlanned:
		a.applyTestPlanned(e, body)
	case TestFilled:
		a.applyTestFilled(e, body)
	case TestRead:
		a.applyTestRead(e, body)
	case TestLooked:
		a.applyTestLooked(e, body)
	case TestRained:
		a.applyTestRained(e, body)
	case TestExplained:
		a.applyTestExplained(e, body)
	case TestRepaired:
		a.applyTestRepaired(e, body)
	case SignedBody:
		a.applySigned(e, body)
	}
}

// acceptFilm judges the film of a coat as it is accepted: every surface at Enough. Where one
// falls short the hold stays shut until the film is mended and accepted again, or the hold
// is passed with a name and a reason.
func (a *Area) acceptFilm(e settled, id string) {
	delete(a.short, id)
	step, _ := a.Recipe.Step(id)
	if step.Coat == 0 {
		return
	}
	if enough, surface := a.filmEnough(step); !enough {
		a.short[id] = true
		a.deviate(e.Entry, "deviation.accepted_short", "step", id, "surface", surface)
	}
}

// step tells whether the recipe knows the step and it is finished by this kind of entry;
// work recorded behind a shut hold, before an earlier step or inside a wait is kept and
// said.
func (a *Area) step(e Entry, id, kindOfStep string) bool {
	step, known := a.Recipe.Step(id)
	if !known || step.Does != kindOfStep {
		a.deviate(e, "deviation.unknown_step", "step", id)
		return false
	}
	way := a.wayTo(step)
	switch {
	case way.blocked && way.earlier.Hold():
		a.deviate(e, "deviation.behind_hold", "step", id, "earlier", way.earlier.ID)
	case way.blocked:
		a.deviate(e, "deviation.before_earlier_step", "step", id, "earlier", way.earlier.ID)
	case way.waits && !a.passed(id) && !(way.known && !e.when.Before(way.opens)):
		a.judgeEarly(e, id, way)
	}
	return true
}

// judgeEarly says that work was done before its wait was over, or could be told.
func (a *Area) judgeEarly(e Entry, id string, way way) {
	key := ""
	for _, w := range way.list {
		switch {
		case !w.known || w.judged(e.when).State == NotKnown:
			key = cmp.Or(key, "deviation.wait_not_known")
		case w.judged(e.when).State == cure.TooEarly:
			key = "deviation.too_early"
		}
	}
	switch {
	case key == "":
	case way.known:
		a.deviate(e, "deviation.too_early", "step", id, "opens", stamp(way.opens))
	case key == "deviation.too_early":
		a.deviate(e, "deviation.too_early_yet", "step", id)
	default:
		a.deviate(e, key, "step", id)
	}
}

// way is what stands before a step: an earlier one that is open, or a wait.
type way struct {
	earlier sheet.Step
	blocked bool
	opens   time.Time
	waits   bool
	known   bool   // when it opens can be told
	list    []wait // the waits themselves
}

// wayTo works out what stands before a step, once until something moves it.
func (a *Area) wayTo(step sheet.Step) way {
	if known, is := a.ways[step.ID]; is {
		return known
	}
	var w way
	if w.earlier, w.blocked = a.firstOpenBefore(step.ID); !w.blocked {
		w.opens, w.waits, w.known = a.opensAt(step)
		w.list = a.waitsOf(step)
	}
	a.ways[step.ID] = w
	return w
}

// firstOpenBefore finds the first step before another that is neither finished nor passed.
func (a *Area) firstOpenBefore(id string) (sheet.Step, bool) {
	for _, earlier := range a.Recipe.Steps() {
		if earlier.ID == id {
			break
		}
		if !a.finished(earlier) && !a.passed(earlier.ID) {
			return earlier, true
		}
	}
	return sheet.Step{}, false
}

// passed tells whether a person answered for going on without the step, on all that is known
// of it now.
func (a *Area) passed(id string) bool {
	_, answered := a.Overrides[id]
	step, known := a.Recipe.Step(id)
	return answered && (!known || !a.inDoubt(step))
}

// finished tells whether a step has all that ends it.
func (a *Area) finished(s sheet.Step) bool {
	done, of := a.progress(s)
	return of > 0 && done >= of
}

// progress counts what a step has of what it needs.
func (a *Area) progress(s sheet.Step) (done, of int) {
	switch s.Does {
	case "survey":
		return one(a.Geometry != nil && len(a.Geometry.Gaps) == 0), 1
	case "plan":
		return one(a.Takeoff != nil), 1
	case "plan_test":
		return one(len(a.Tests) > 0), 1
	case "test":
		return one(a.passedTest() && !a.inDoubt(s)), 1
	case "check", "accept", "sign":
		_, signed := a.Done[s.ID]
		_, stale := a.Stale[s.ID]
		return one(signed && !stale && !a.short[s.ID] && !a.inDoubt(s)), 1
	case "bed":
		if a.Takeoff == nil {
			return 0, 1
		}
		for _, piece := range a.Takeoff.Pieces {
			done += one(a.Bedded[piece.ID])
		}
		return done, len(a.Takeoff.Pieces)
	case "coat":
		if a.Geometry == nil {
			return 0, 1
		}
		covered := a.covered(s.ID)
		for _, surface := range a.Geometry.Surfaces {
			done += one(covered[surface.ID])
		}
		return done, len(a.Geometry.Surfaces)
	}
	return 0, 1
}

func one(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// covered are the surfaces a coat lies on.
func (a *Area) covered(step string) map[string]bool {
	covered := map[string]bool{}
	for _, lay := range a.Laid[step] {
		for _, surface := range lay.Surfaces {
			covered[surface] = true
		}
	}
	return covered
}

func (a *Area) applyBedded(e settled, body Bedded) {
	if !a.step(e.Entry, body.Step, "bed") || a.Takeoff == nil {
		return
	}
	step, _ := a.Recipe.Step(body.Step)
	a.judgeStart(e, step)
	for _, id := range body.Pieces {
		if !slices.ContainsFunc(a.Takeoff.Pieces, func(p takeoff.Piece) bool { return p.ID == id }) {
			a.deviate(e.Entry, "deviation.unknown_piece", "piece", id)
			continue
		}
		a.Bedded[id] = true
	}
	a.endedAt[body.Step] = e.when
}

func (a *Area) applyWeighed(e settled, body Weighed) {
	if !a.step(e.Entry, body.Step, "coat") {
		return
	}
	if slices.ContainsFunc(a.Batches, func(b Batch) bool { return b.ID == body.Batch }) {
		a.deviate(e.Entry, "deviation.batch_twice", "batch", body.Batch)
		return
	}
	a.Batches = append(a.Batches, Batch{
		ID: body.Batch, Number: len(a.Batches) + 1, Step: body.Step, Kg: body.Kg, Temp: body.Temp, Bucket: body.Bucket,
		Surfaces: body.Surfaces, Parts: body.Parts, Weighed: e.when, Marks: map[string]time.Time{},
	})
	a.judgeRatio(e.Entry, body)
}

// judgeRatio says when the parts as weighed miss the ratio by more than the tolerance.
func (a *Area) judgeRatio(e Entry, body Weighed) {
	if a.Plan == nil {
		return
	}
	want, err := RatioParts(a.Plan.Sheet, body.Kg)
	if err != nil {
		return
	}
	tolerance := Tolerance(a.Plan.Sheet, a.Plan.Rules)
	weighed := map[string]float64{}
	total := 0.0
	for _, part := range body.Parts {
		weighed[part.Part] += part.Kg
		total += part.Kg
	}
	for _, part := range a.Plan.Sheet.Parts {
		share := want[part.ID] / body.Kg
		if total == 0 || math.Abs(weighed[part.ID]/total-share)/share > tolerance/100 {
			a.deviate(e, "deviation.ratio_missed", "part", part.Name, "kg", weighed[part.ID], "wanted", share*total, "tolerance", tolerance)
			return
		}
	}
}

func (a *Area) applyMarked(e settled, body Marked) {
	i := slices.IndexFunc(a.Batches, func(b Batch) bool { return b.ID == body.Batch })
	if i < 0 {
		a.deviate(e.Entry, "deviation.unknown_batch", "batch", body.Batch)
		return
	}
	if _, twice := a.Batches[i].Marks[body.Mark]; !twice {
		a.Batches[i].Marks[body.Mark] = e.when
	}
}

func (a *Area) applyLaid(e settled, body Laid) {
	if !a.step(e.Entry, body.Step, "coat") || !a.knownSurfaces(e.Entry, body.Surfaces) {
		return
	}
	step, _ := a.Recipe.Step(body.Step)
	a.judgeWindow(e, step)
	a.judgeStart(e, step)
	a.topUpLaid(body)
	a.leaveOlderReadings(e, body)
	a.Laid[body.Step] = append(a.Laid[body.Step], Lay{Entry: e.ID, Surfaces: body.Surfaces, Kg: body.Kg, Batch: body.Batch, TopsUp: body.TopsUp, When: e.when})
	if _, begun := a.begunAt[body.Step]; !begun {
		a.begunAt[body.Step] = e.when
	}
	a.endedAt[body.Step] = e.when
	a.judgeUseBy(e.Entry, body)
}

// topUpLaid settles what readings made before a top-up are worth: none where more was laid
// into the wet film; those of the layer below where it was laid on a skinned one.
func (a *Area) topUpLaid(body Laid) {
	for _, surface := range body.Surfaces {
		switch body.TopsUp {
		case film.Wet:
			for i, r := range a.Readings[body.Step] {
				if r.Surface == surface && r.Layer == a.layer[body.Step+surface] {
					a.Readings[body.Step][i].Superseded = true
				}
			}
		case film.Skinned:
			a.layer[body.Step+surface]++
		}
	}
}

// layingTakes is how long a share of a coat may have been laid, and read, before it was recorded, where
// no bucket tells when it began.
const layingTakes = 2 * time.Hour

// leaveOlderReadings leaves out readings of a surface that are older than the coat on it.
func (a *Area) leaveOlderReadings(e settled, body Laid) {
	begun := e.when.Add(-layingTakes)
	if i := slices.IndexFunc(a.Batches, func(b Batch) bool { return b.ID == body.Batch }); i >= 0 {
		begun = a.Batches[i].Weighed
	}
	for _, surface := range body.Surfaces {
		if slices.ContainsFunc(a.Laid[body.Step], func(l Lay) bool { return slices.Contains(l.Surfaces, surface) }) {
			continue
		}
		for i, r := range a.Readings[body.Step] {
			if r.Surface == surface && r.when.Before(begun) {
				a.Readings[body.Step][i].Superseded = true
				a.deviate(e.Entry, "deviation.read_before_coat", "surface", surface, "at", stamp(r.when))
			}
		}
	}
}

// judgeUseBy says when material was laid past the use-by time of its batch.
func (a *Area) judgeUseBy(e Entry, body Laid) {
	i := slices.IndexFunc(a.Batches, func(b Batch) bool { return b.ID == body.Batch })
	if i < 0 || a.Plan == nil {
		return
	}
	if useBy, known := a.useBy(a.Batches[i]); known && e.when.After(useBy) {
		a.deviate(e, "deviation.laid_late", "batch", a.Batches[i].Number, "use_by", stamp(useBy))
	}
}

// useBy is the end of a batch's pot life: it counts from the first contact of the parts,
// at the temperature noted.
func (a *Area) useBy(b Batch) (time.Time, bool) {
	contact, mixed := b.Marks["contact"]
	if !mixed || a.Plan == nil {
		return time.Time{}, false
	}
	minutes, _, _, err := mixing.PotLife(a.Plan.Sheet.Table("pot_life"), b.Temp)
	if err != nil {
		return time.Time{}, false
	}
	return contact.Add(minutesOf(minutes)), true
}

func minutesOf(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }

func (a *Area) knownSurfaces(e Entry, ids []string) bool {
	for _, id := range ids {
		if a.Geometry == nil {
			return false
		}
		if _, known := a.Geometry.Surface(id); !known {
			a.deviate(e, "deviation.unknown_surface", "surface", id)
			return false
		}
	}
	return true
}

func (a *Area) applyRead(e settled, body Read) {
	if !a.step(e.Entry, body.Step, "coat") || !a.knownSurfaces(e.Entry, []string{body.Surface}) {
		return
	}
	surface, _ := a.Geometry.Surface(body.Surface)
	if !surface.Contains(wetarea.Point{body.Along, body.Up}) {
		a.deviate(e.Entry, "deviation.off_surface", "surface", body.Surface, "along", body.Along, "up", body.Up)
		return
	}
	a.Readings[body.Step] = append(a.Readings[body.Step], Reading{
		Entry: e.ID, Surface: body.Surface, Along: body.Along, Up: body.Up,
		Bracket: film.Bracket{Lower: body.LastWet, Upper: body.NextDry}, Layer: a.layer[body.Step+body.Surface], when: e.when,
	})
}

// staleAcceptances shuts a hold again where something it covers was corrected or withdrawn
// after it was signed.
func (a *Area) staleAcceptances(corrections []correction) {
	for _, s := range a.Recipe.Steps() {
		signed, is := a.Done[s.ID]
		if !s.Hold() || !is {
			continue
		}
		i := slices.IndexFunc(a.settled, func(e settled) bool { return e.ID == signed.Entry })
		acceptance := a.settled[i]
		for _, c := range corrections {
			after := c.entry.when.After(acceptance.when)
			under, known := a.stepUnder(c.root)
			covered := known && c.root.when.Before(acceptance.when) && a.place[under] <= a.place[s.ID]
			if after && covered && c.root.ID != signed.Entry {
				a.Stale[s.ID] = c.entry.ID
				a.deviate(acceptance.Entry, "deviation.signed_before_correction", "step", s.ID, "correction", c.entry.ID)
				break
			}
		}
	}
}

// stepUnder is the step that an entry is part of what was accepted with: its own, the one its
// batch or its product belongs to, or the first, where it says something of the area itself.
func (a *Area) stepUnder(e Entry) (string, bool) {
	if step := stepOf(e); step != "" {
		return step, true
	}
	steps := a.Recipe.Steps()
	ofSheet := func(sheet string) (string, bool) {
		for _, list := range a.CutLists() {
			if list.Sheet == sheet {
				return list.Step, true
			}
		}
		return "plan", true
	}
	switch body := e.body.(type) {
	case Marked:
		i := slices.IndexFunc(a.Batches, func(b Batch) bool { return b.ID == body.Batch })
		if i < 0 {
			return "", false
		}
		return a.Batches[i].Step, true
	case CutPlanned:
		return ofSheet(body.Sheet)
	case CutDone:
		return a.stepOfCut(body.Cut, ofSheet)
	case CutSpoilt:
		return a.stepOfCut(body.Cut, ofSheet)
	case Climate, LeakFound, LeakPlugged, LeakChecked, History:
		return steps[0].ID, true
	}
	return "", false
}

// stepOfCut is the step that takes what a cut plan cuts.
func (a *Area) stepOfCut(cut string, ofSheet func(string) (string, bool)) (string, bool) {
	for _, c := range a.Cuts {
		if c.Entry == cut {
			return ofSheet(c.Sheet)
		}
	}
	return "", false
}

// stepOf is the step an entry belongs to; the survey and the plan are under everything.
func stepOf(e Entry) string {
	switch body := e.body.(type) {
	case surveyBody:
		return "survey"
	case Plan:
		return "plan"
	case Done:
		return body.Step
	case Accepted:
		return body.Step
	case Bedded:
		return body.Step
	case Weighed:
		return body.Step
	case Laid:
		return body.Step
	case Read:
		return body.Step
	case Touched:
		return body.Step
	case FilmExplained:
		return body.Step
	case TestPlanned:
		return body.Step
	case TestFilled:
		return body.Step
	case TestRead:
		return body.Step
	case TestLooked:
		return body.Step
	case TestRained:
		return body.Step
	case TestExplained:
		return body.Step
	case TestRepaired:
		return body.Step
	case SignedBody:
		return body.Step
	}
	return ""
}

// RatioParts splits a batch by the sheet's parts, kg by part id.
func RatioParts(s sheet.Sheet, kg float64) (map[string]float64, error) {
	shares, err := s.PartShares()
	if err != nil {
		return nil, err
	}
	var components []mixing.Component
	for i, part := range s.Parts {
		components = append(components, mixing.Component{Name: part.ID, Parts: shares[i]})
	}
	masses, _, err := mixing.Split(kg, components)
	return masses, err
}
