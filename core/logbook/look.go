package logbook

import (
	"slices"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/gates"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Look is an area as it stands at a moment: what the page shows.
type Look struct {
	ID         string           `json:"id"`
	Name       string           `json:"name"`
	Job        JobLook          `json:"job"`
	Sample     bool             `json:"sample"` // made from sample figures: not for work
	Stages     []StageLook      `json:"stages"`
	Next       Next             `json:"next"`
	Survey     *wetarea.Survey  `json:"survey"`
	SurveyID   string           `json:"survey_id"`
	Geometry   *wetarea.Area    `json:"geometry"`
	System     *System          `json:"system"`
	PlanID     string           `json:"plan_id"`
	Planned    bool             `json:"planned"` // a plan of it can be worked out
	Plan       *takeoff.Plan    `json:"plan"`    // null in a lean look: it is asked by itself
	Pieces     []PieceLook      `json:"pieces"`
	Cuts       []CutLook        `json:"cuts"` // by product: what is cut, and what is left to cut
	Coats      []CoatLook       `json:"coats"`
	Batches    []BatchLook      `json:"batches"`
	Tide       *Tide            `json:"tide"`  // of the next step that has a window
	Waits      []WaitLook       `json:"waits"` // what became of each window so far
	Climate    []ClimateReading `json:"climate"`
	Place      string           `json:"place"`     // of its air, "" where it is its own
	Built      float64          `json:"built_kPa"` // what the plan puts on the floor
	Test       *TestLook        `json:"test"`      // under way or ended last
	Earlier    []TestLook       `json:"earlier_tests"`
	OpenBays   []int            `json:"open_bays"` // of a roof tested bay by bay: those that no test has shown to hold
	Sprays     []SprayRun       `json:"sprays"`
	Permits    []Permit         `json:"permits"`
	GasTests   []GasTest        `json:"gas_tests"`
	Signatures []Signature      `json:"signatures"`
	Leaks      []Leak           `json:"leaks"`
	History    *History         `json:"history"`
	Gates      []gates.Gate     `json:"gates"` // what stops the area, and what is to be looked at
	Rules      rules.Profile    `json:"rules"` // local rules in use
	Begun      *Begun           `json:"begun"` // what it was begun with, null where it was begun bare
	Conflicts  []Conflict       `json:"conflicts"`
	Withdrawn  []Withdrawn      `json:"withdrawn"`
	Deviations []Deviation      `json:"deviations"`
	Deviated   int              `json:"deviation_count"`
}

// JobLook is what a view of an area needs of its job.
type JobLook struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Demo   bool     `json:"demo"`
	People []Person `json:"people"`

	TimeZone string `json:"time_zone"` // IANA; times are shown in it
	Papers   Papers `json:"papers"`
}

// System is what the plan was made with.
type System struct {
	ID      string        `json:"id"`    // of the system; of one whose walls follow another "floor+walls"
	Sheet   string        `json:"sheet"` // id
	Name    string        `json:"name"`
	Papers  []PaperUsed   `json:"papers"` // the printings it was made by, the membrane's first
	Texture string        `json:"texture"`
	Rules   rules.Profile `json:"rules"`

	Ways     map[string]string `json:"ways"`     // how it is worked, by school
	Proofs   []string          `json:"proofs"`   // by what the whole is shown to be tight
	Options  []OptionLook      `json:"options"`  // that are left to the site
	Answered []system.Answered `json:"answered"` // what of its order somebody answers for by name
}

// OptionLook is an option that a system leaves to the site.
type OptionLook struct {
	system.Option
	Chosen string   `json:"chosen"` // what stands: the first choice until somebody decides
	Said   bool     `json:"said"`   // somebody decided
	Steps  []string `json:"steps"`  // that are of it
}

// siteOptions are the options of the plan that are left to the site, each with what was decided.
func (a *Area) siteOptions() []OptionLook {
	list := []OptionLook{}
	for _, o := range a.Plan.System.Options {
		if o.Decided != system.OnSite {
			continue
		}
		l := OptionLook{Option: o, Chosen: o.Choices[0], Steps: []string{}}
		if choice, said := a.Plan.Choices[o.ID]; said {
			l.Chosen, l.Said = choice, true
		}
		of := func(in string) bool { return strings.HasPrefix(in, o.ID+".") }
		for _, s := range a.steps {
			if of(s.In) || slices.ContainsFunc(s.Layers(), func(id string) bool { layer, _ := a.Plan.System.LayerOf(id); return of(layer.In) }) {
				l.Steps = append(l.Steps, s.ID)
			}
		}
		list = append(list, l)
	}
	return list
}

// PaperUsed is a printing that a plan was made by.
type PaperUsed struct {
	Role     string `json:"role"`
	Name     string `json:"name"`
	Revision string `json:"revision"`
	Printed  string `json:"printed,omitempty"`
	Language string `json:"language,omitempty"`
	Sample   bool   `json:"sample"`
	Outside  bool   `json:"outside"` // not tested with the system
	Reason   string `json:"reason,omitempty"`
	Person   string `json:"person,omitempty"`
}

// papers are the printings of a plan.
func (p Plan) papers() []PaperUsed {
	of := func(s sheet.Sheet) PaperUsed {
		return PaperUsed{Role: s.Is(), Name: s.Name, Revision: s.Revision, Printed: s.Printed, Language: s.Language, Sample: s.Sample}
	}
	list := []PaperUsed{of(p.Sheet)}
	for _, c := range p.Companions() {
		used := of(c.Sheet)
		used.Role, used.Outside, used.Reason, used.Person = c.Role, c.Outside, c.Reason, c.Person
		list = append(list, used)
	}
	return list
}

// StageLook is one length of the spine.
type StageLook struct {
	ID    string     `json:"id"`
	Title string     `json:"title"`
	State string     `json:"state"` // "done", "current" or "to_come"
	Done  int        `json:"done"`  // of what the step under way needs
	Of    int        `json:"of"`
	Coat  int        `json:"coat"`  // coat under way, 0 if none
	Coats int        `json:"coats"` // coats in the stage
	Visit string     `json:"visit"` // of a later visit: "due" or "later"; "": it is none
	Due   string     `json:"due"`   // of a later visit: when, RFC 3339; "" while it cannot be told
	Steps []StepLook `json:"steps"`
}

// StepLook is one step with what became of it.
type StepLook struct {
	system.Step
	State    string       `json:"state"` // "done", "next" or "to_come"
	Hold     string       `json:"hold"`  // of an accept step: "shut", "released", "overridden", "stale" or "not_known"; else ""
	Done     int          `json:"done"`
	Of       int          `json:"of"`
	Began    string       `json:"began"` // first work, RFC 3339; "" while there is none
	Ended    string       `json:"ended"` // last work so far
	Signed   *Signed      `json:"signed"`
	Override *Signed      `json:"override"`
	OpensAt  string       `json:"opens_at"` // RFC 3339; "" when there is no wait or it cannot be told
	Block    *Block       `json:"block"`    // what stands before it now, nil when it may begin
	Short    string       `json:"short"`    // of a hold on a coat: the first surface whose film is not enough
	Accepts  []string     `json:"accepts"`  // of a hold on coats: the steps that laid them
	NoSign   string       `json:"no_sign"`  // of a signature: wording key of why it cannot be given yet
	Gates    []gates.Gate `json:"gates"`    // of the hold on the base: what keeps it shut
	Takes    []Material   `json:"takes"`    // what is left to take of it, against the stock counted
	Start    []StartCheck `json:"start"`    // may it start now? empty where it is no work
	Works    []WorkLook   `json:"works"`    // what it lays beside the coats of the film

	Replies []Replied      `json:"replies"`  // to what it asks
	ToSpray []string       `json:"to_spray"` // surfaces that a spray test has still to prove
	Open    []OpenQuestion `json:"open"`     // questions that keep it from being done
	Dropped bool           `json:"dropped"`  // not needed here: somebody said so
	Repeats *AgainLook     `json:"repeats"`  // of a step that comes back; null: it does not
}

// PieceLook is a piece with whether it lies in its bed.
type PieceLook struct {
	takeoff.Piece
	Bedded bool   `json:"bedded"`
	Step   string `json:"step"` // that beds it
	Cut    bool   `json:"cut"`  // all of it, by the plan that was kept
}

// At shows the area at a moment.
func (a *Area) At(now time.Time) Look {
	a.recount()
	a.atMoment(now)
	l := Look{
		ID: a.ID, Name: a.Name, Job: JobLook{a.Job.ID, a.Job.Name, a.Job.Demo, a.Job.People, a.Job.TimeZone, a.Job.Papers}, Survey: a.Survey, SurveyID: a.SurveyID, Geometry: a.Geometry,
		PlanID: a.PlanID, Planned: a.Takeoff != nil, Plan: a.Takeoff, Pieces: a.PieceLooks(), Cuts: a.CutLooks(), Coats: []CoatLook{}, Batches: []BatchLook{},
		Conflicts: a.Conflicts, Withdrawn: a.Withdrawn, Deviations: append([]Deviation{}, a.Deviations...), Deviated: len(a.Deviations),
		Stages: []StageLook{}, Climate: a.Climate, Place: a.Place, Built: a.built(), Earlier: []TestLook{}, OpenBays: append([]int{}, a.openBays()...), Sprays: a.Sprays, Permits: a.Permits, GasTests: a.GasTests, Signatures: a.Signatures,
		Leaks: a.Leaks, History: a.History, Gates: a.Gates(now), Rules: a.Rules(), Begun: a.Begun,
	}
	if a.Plan != nil {
		s := a.Plan.Sheet
		proofs := []string{}
		for _, p := range a.Plan.built.System.Proofs {
			proofs = append(proofs, p.Kind)
		}
		l.System = &System{Options: a.siteOptions(), Ways: a.Plan.System.AllWays(), ID: a.Plan.System.ID, Proofs: proofs, Sheet: s.ID, Name: s.Name, Papers: a.Plan.papers(), Texture: a.Plan.Texture, Rules: a.Plan.Rules, Answered: a.Plan.System.Answered()}
		l.Sample = s.Sample
	}
	l.Next = a.next(now)
	for _, stage := range a.Order.Stages {
		l.Stages = append(l.Stages, a.stage(stage, l.Next, now))
	}
	if a.Takeoff != nil {
		for _, step := range a.steps {
			if _, is := a.coatOf(step); is {
				l.Coats = append(l.Coats, a.coat(step, now))
			}
		}
	}
	for _, b := range a.Batches {
		l.Batches = append(l.Batches, a.batch(b, now))
	}
	for i, t := range a.Tests {
		look := a.testLook(t)
		if i == len(a.Tests)-1 {
			l.Test = &look
		} else {
			l.Earlier = append(l.Earlier, look)
		}
	}
	l.Tide, l.Waits = a.nextTide(now), a.waits()
	return l
}

func (a *Area) stage(stage system.Stage, next Next, now time.Time) StageLook {
	l := StageLook{ID: stage.ID, Title: stage.Title, State: "to_come", Steps: []StepLook{}}
	if stage.Visit != nil {
		l.Visit = "later"
		if at, known := a.visitDue(stage); known {
			if l.Due = stamp(at); !now.Before(at) {
				l.Visit = "due"
			}
		}
	}
	finished := 0
	for _, step := range stage.Steps {
		if step.Mends != "" && a.dropped(step) { // nothing was missed
			finished++
			continue
		}
		s := a.stepLook(step, next, now)
		finished += one(s.State == "done")
		l.Coats += one(step.Coats())
		if step.ID == next.Step {
			l.State, l.Done, l.Of, l.Coat = "current", s.Done, s.Of, step.Coat
		}
		l.Steps = append(l.Steps, s)
	}
	if finished == len(stage.Steps) {
		l.State = "done"
	}
	return l
}

func (a *Area) stepLook(step system.Step, next Next, now time.Time) StepLook {
	s := StepLook{Step: step, State: "to_come", Accepts: []string{}, Gates: []gates.Gate{}, Takes: a.materials(step, now)}
	s.Block, s.Start, s.Works = a.block(step, s.Takes, now), a.MayStart(step, now), a.workLooks(step)
	if a.acceptsBase(step) {
		s.Gates = shutting(a.Gates(now))
	}
	s.Replies, s.Open, s.Dropped = a.repliesLook(step), append([]OpenQuestion{}, a.openQuestions(step)...), a.dropped(step)
	s.Done, s.Of = a.progress(step)
	s.Repeats, s.ToSpray = a.again(step, now), []string{}
	if step.Does == system.SprayTest {
		for _, id := range a.toSpray(step) {
			if a.sprayed(step.ID, id) != FindsHolds {
				s.ToSpray = append(s.ToSpray, id)
			}
		}
	}
	began, ended := doingFor(step).worked(a, step)
	s.Began, s.Ended = stampOf(began), stampOf(ended)
	if signed, is := a.Done[step.ID]; is {
		s.Signed = &signed
	}
	if override, is := a.Overrides[step.ID]; is {
		s.Override = &override
	}
	doingFor(step).look(a, &s, now)
	if step.Hold() {
		s.Hold = "shut"
		switch {
		case a.inDoubt(step):
			s.Hold = "not_known"
		case a.Stale[step.ID] != "":
			s.Hold = "stale"
		case a.finished(step):
			s.Hold = "released"
		case a.passed(step.ID):
			s.Hold = "overridden"
		}
	}
	s.OpensAt = a.expected(step, now)
	switch {
	case step.ID == next.Step:
		s.State = "next"
	case a.finished(step) || s.Hold == "overridden":
		s.State = "done"
	}
	return s
}

// SurfaceOf finds a surface of the area as it was surveyed.
func (a *Area) SurfaceOf(id string) (wetarea.Surface, error) {
	if a.Geometry == nil {
		return wetarea.Surface{}, fault.At("survey", "plan.no_survey")
	}
	s, known := a.Geometry.Surface(id)
	if !known {
		return s, fault.At("surface", "choice.unknown", "typed", fault.Short(id))
	}
	return s, nil
}

// PieceLooks are the pieces of the plan, with whether each is cut and lies in its bed.
func (a *Area) PieceLooks() []PieceLook {
	list := []PieceLook{}
	if a.Takeoff == nil {
		return list
	}
	cut := a.cutWants()
	for _, piece := range a.Takeoff.Pieces {
		list = append(list, PieceLook{Piece: piece, Bedded: a.Bedded[piece.ID], Step: a.bedsAt(piece), Cut: cut[piece.ID]})
	}
	return list
}
