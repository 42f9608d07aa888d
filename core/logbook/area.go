package logbook

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/film"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Area is what an area's book says, before a clock is looked at.
type Area struct {
	ID         string
	Job        *Job
	Name       string
	Order      system.Order
	Survey     *wetarea.Survey
	SurveyID   string
	Geometry   *wetarea.Area
	Plan       *Plan
	PlanID     string
	Takeoff    *takeoff.Plan
	Done       map[string]Signed             // check and accept steps that were finished, by step
	Replies    map[string]map[string]Replied // answers by step and question
	Overrides  map[string]Signed
	Stale      map[string]string // accepted steps signed before a correction → the correction
	Bedded     map[string]bool
	Cuts       []CutLook
	Laid       map[string][]Lay // of the film, by step
	Works      map[string][]Lay // of what else is laid, by work
	Readings   map[string][]Reading
	DryRead    map[string][]DryReading // by step
	Batches    []Batch
	Climate    []ClimateReading
	Touched    map[string]Touch
	Remedied   map[string]bool
	Tests      []WaterTest
	Signatures []Signature
	Sprays     []SprayRun
	Permits    []Permit
	GasTests   []GasTest
	Manned     map[string]Manned // by step
	Timed      map[string]Timed  // how long a step takes, as somebody said
	Leaks      []Leak
	History    *History
	Begun      *Begun
	Conflicts  []Conflict
	Withdrawn  []Withdrawn
	Deviations []Deviation
	Place      string // of its air, "" where it is its own

	place   map[string]int       // of a step in the order of the work
	begunAt map[string]time.Time // of a step: its first work
	endedAt map[string]time.Time // of a step: its last work
	layer   map[string]int       // of step and surface: layers laid on a skinned film
	short   map[string]bool      // of a hold: accepted on a film that is not enough
	settled []settled
	own     *Own
	unread  []Entry // not read whole

	base, air, humidity readings
	foreseen            [3]readings // the same ahead, as somebody foresees it
	warmed              float64     // K over what was read last, from a moment on
	warmedAt            time.Time
	forecasts           []ForecastRead
	remedies            map[string][]time.Time // of a step: when one was recorded
	filmExplained       map[string]Signed      // of a coat: why it took less than its teeth say
	bare                bare
	planned             []wetarea.OpenLeak // the open leaks that its plan was made with
	memo                *memo
	read                map[filmKey][]int // places of its readings in Readings
	rest                Rest
	steps               []system.Step
	answers             map[string]answer // of a step: what was answered for by name
	startSaid           map[string]bool   // of step, check and answer: said already
	stock               []takeoff.Stock   // what is left of the count, worked out once a look
	lives               takeoff.OpenLives
	lookedAt            map[filmKey]FilmLook
	clock               time.Time              // what time finishes is judged by it
	mending             map[string]bool        // steps of a remedy that somebody worked on
	called              map[string]bool        // steps of remedies that are needed at the clock
	times               map[string][]time.Time // of a repeated step: when it was done
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
	Layer    string    `json:"layer"` // "" of a coat of the film
	Surfaces []string  `json:"surfaces"`
	Kg       float64   `json:"kg"`
	Amount   *float64  `json:"amount"`
	Batch    string    `json:"batch"`
	TopsUp   string    `json:"tops_up"`
	When     time.Time `json:"at"`
	Strokes  string    `json:"strokes"`
	Colour   string    `json:"colour"`
	Face     string    `json:"face"`
	Tool     string    `json:"tool"`
	People   []string  `json:"people"`
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

// Conflict is two versions made from the same one; a person chooses.
type Conflict struct {
	Kind    Kind     `json:"kind"`
	Entries []string `json:"entries"`
}

// Beginning is the recipe of an area before a system is chosen.
func Beginning() system.Order {
	return system.Order{Stages: []system.Stage{
		{ID: "survey", Title: "Survey", Steps: []system.Step{{ID: "survey", Title: "Measure the room", Does: "survey", Why: "Every quantity comes from these numbers."}}},
		{ID: "plan", Title: "Plan", Steps: []system.Step{{ID: "plan", Title: "Choose the system and accept the plan", Does: "plan", Why: "The system brings its own order of the work."}}},
	}}
}

// Rest is what an area asks of the rest of its job.
type Rest interface {
	// Job is what the job's own book says.
	Job() *Job
	// Breaths are what was read of a place of air elsewhere than in an area, in no order.
	Breaths(place, but string) []Breath
	// Users are the other areas that took of the job's stock since it was counted.
	Users(but string) []*Area
}

// FoldArea reads an area's book. What it was before the last entry of its book came, nil where there
// was nothing, spares measuring and planning it again.
func FoldArea(own *Own, rest Rest, before *Area) *Area {
	a := &Area{
		ID: own.ID, Job: rest.Job(), rest: rest, own: own, settled: own.settled, Order: Beginning(),
		Done: map[string]Signed{}, Replies: map[string]map[string]Replied{}, Overrides: map[string]Signed{}, Stale: map[string]string{},
		Bedded: map[string]bool{}, Laid: map[string][]Lay{}, Works: map[string][]Lay{}, Readings: map[string][]Reading{}, DryRead: map[string][]DryReading{},
		Batches: []Batch{}, Conflicts: []Conflict{}, Withdrawn: append([]Withdrawn{}, own.withdrawn...),
		Deviations: append([]Deviation{}, own.deviations...),
		Climate:    []ClimateReading{}, Touched: map[string]Touch{}, Remedied: map[string]bool{}, Tests: []WaterTest{}, Sprays: []SprayRun{}, Permits: []Permit{}, GasTests: []GasTest{}, Manned: map[string]Manned{}, Signatures: []Signature{}, Leaks: []Leak{},
		begunAt: map[string]time.Time{}, endedAt: map[string]time.Time{}, layer: map[string]int{}, remedies: map[string][]time.Time{}, filmExplained: map[string]Signed{},
		memo: newMemo(), read: map[filmKey][]int{}, answers: map[string]answer{}, startSaid: map[string]bool{}, short: map[string]bool{}, mending: map[string]bool{}, times: map[string][]time.Time{}, lookedAt: map[filmKey]FilmLook{},
	}
	a.chooseVersions(before)
	a.readAir()
	a.steps, a.place = a.Order.Steps(), map[string]int{}
	for i, s := range a.steps {
		a.place[s.ID] = i
	}
	for _, e := range a.settled {
		a.clock = e.when
		a.apply(e)
	}
	a.settle()
	return a
}

// Append reads one more entry that its book has just taken up, where it works on nothing before it. False:
// the area has to be folded anew.
func (a *Area) Append() bool {
	e := a.own.settled[len(a.own.settled)-1]
	if _, back := e.body.(worksBack); back || e.body == nil || e.unread != nil {
		return false
	}
	a.settled = a.own.settled
	a.Stale, a.Deviations, a.unread = a.bare.stale, slices.Clip(a.Deviations[:a.bare.deviations]), nil
	clear(a.memo.ways)
	a.clock = e.when
	a.apply(e)
	a.settle()
	return true
}

// bare is what an area was before corrections and doubts were laid over all that is in its book.
type bare struct {
	stale      map[string]string
	deviations int
}

// settle lays corrections and doubts over what was applied.
func (a *Area) settle() {
	a.bare = bare{maps.Clone(a.Stale), len(a.Deviations)}
	a.staleAcceptances()
	a.doubt()
}

// chooseVersions settles which survey and plan count before anything is read against them:
// the last of each by (time, id) that no other names as its source.
func (a *Area) chooseVersions(before *Area) {
	if surveys := a.heads(KindSurvey); len(surveys) > 0 {
		head := surveys[len(surveys)-1]
		survey := head.body.(surveyBody).Survey
		a.Survey, a.SurveyID = &survey, head.ID
		if before != nil && before.SurveyID == head.ID && before.Geometry != nil {
			a.Geometry = before.Geometry
		} else {
			geometry, err := survey.Read()
			if err != nil {
				a.deviate(head.Entry, "deviation.survey_unreadable", "detail", err.Error())
			}
			a.Geometry = geometry
		}
	}
	if plans := a.heads(KindPlan); len(plans) > 0 {
		a.adoptPlan(plans[len(plans)-1], before)
	}
}

// versioned is a body that replaces others of its kind.
type versioned interface{ replaces() []string }

// heads are the versions of a kind that no other version was made from; two or more made
// from the same one are a conflict.
func (a *Area) heads(kind Kind) []settled {
	var versions []settled
	replaced := map[string]bool{}
	for _, e := range a.settled {
		if of, is := e.body.(versioned); is && e.Kind == kind {
			versions = append(versions, e)
			for _, source := range of.replaces() {
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

// whenOf is when an entry that counts was made, zero where there is none of that id.
func (a *Area) whenOf(id string) time.Time {
	for _, e := range a.settled {
		if e.ID == id {
			return e.when
		}
	}
	return time.Time{}
}

// batchAt finds a bucket by its id, -1 where there is none.
func (a *Area) batchAt(id string) int {
	return slices.IndexFunc(a.Batches, func(b Batch) bool { return b.ID == id })
}

// stepBy finds a step of the area's order by its id.
func (a *Area) stepBy(id string) (system.Step, bool) {
	if at, known := a.place[id]; known {
		return a.steps[at], true
	}
	return system.Step{}, false
}

// firstStep is under everything that says something of the area itself.
func (a *Area) firstStep() string { return a.steps[0].ID }

func (a *Area) deviate(e Entry, key string, pairs ...any) {
	a.Deviations = append(a.Deviations, deviation(e, key, pairs...))
}

// step tells whether the recipe knows the step and it is finished by this kind of entry;
// work recorded behind a shut hold, before an earlier step or inside a wait is kept and
// said.
func (a *Area) step(e Entry, id string) bool {
	step, known := a.stepBy(id)
	if !known || !a.takes(step, e.Kind) {
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
	earlier system.Step
	blocked bool
	opens   time.Time
	waits   bool
	known   bool   // when it opens can be told
	list    []wait // the waits themselves
}

// wayTo works out what stands before a step, once until something moves it.
func (a *Area) wayTo(step system.Step) way {
	if known, is := a.memo.ways[step.ID]; is && !a.timed() {
		return known
	}
	var w way
	if w.earlier, w.blocked = a.firstOpenBefore(step.ID); !w.blocked {
		w.opens, w.waits, w.known = a.opensAt(step)
		w.list = a.waitsOf(step)
	}
	a.memo.ways[step.ID] = w
	return w
}

// firstOpenBefore finds the first step before another that is neither finished nor passed.
func (a *Area) firstOpenBefore(id string) (system.Step, bool) {
	for _, earlier := range a.steps {
		if earlier.ID == id {
			break
		}
		if earlier.Mends == id { // it is shut by what was missed
			continue
		}
		if !a.finished(earlier) && !a.passed(earlier.ID) {
			return earlier, true
		}
	}
	return system.Step{}, false
}

// passed tells whether a person answered for going on without the step, on all that is known
// of it now.
func (a *Area) passed(id string) bool {
	if _, answered := a.Overrides[id]; !answered {
		return false
	}
	step, known := a.stepBy(id)
	return !known || !a.inDoubt(step)
}

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

// staleAcceptances shuts a hold again where something it covers was corrected or withdrawn
// after it was signed.
func (a *Area) staleAcceptances() {
	for _, s := range a.steps {
		signed, is := a.Done[s.ID]
		if !s.Hold() || !is {
			continue
		}
		i := slices.IndexFunc(a.settled, func(e settled) bool { return e.ID == signed.Entry })
		acceptance := a.settled[i]
		for _, c := range a.corrections() {
			after := c.entry.when.After(acceptance.when)
			under, known := a.under(c.root.body)
			covered := known && c.root.when.Before(acceptance.when) && a.place[under] <= a.place[s.ID]
			if after && covered && c.root.ID != signed.Entry {
				a.Stale[s.ID] = c.entry.ID
				a.deviate(acceptance.Entry, "deviation.signed_before_correction", "step", s.ID, "correction", c.entry.ID)
				break
			}
		}
	}
}

// corrections are those of the area's own book, and of its air that was read elsewhere.
func (a *Area) corrections() []correction {
	list := a.own.corrections
	for _, c := range a.Job.corrections {
		if b, is := c.root.body.(AirRead); is && a.Place != "" && b.Place == a.Place {
			list = append(slices.Clip(list), c)
		}
	}
	return list
}
