package logbook

import (
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

const KindPlan Kind = "plan"

// Plan accepts a system for a survey, with the sheet and rules it used.
type Plan struct {
	Survey  string        `json:"survey"` // id of the survey entry
	Sheet   sheet.Sheet   `json:"sheet"`
	Rules   rules.Profile `json:"rules"`
	Texture string        `json:"texture"`
	From    []string      `json:"from,omitempty"` // plans it was made from or chosen over

	Companions []sheet.Companion `json:"companions,omitempty"` // what goes with the membrane, in the revisions used
	Missing    []sheet.With      `json:"missing,omitempty"`    // what it names and no sheet is there for
	Against    *Against          `json:"against,omitempty"`    // hard stops that it was accepted against
}

// Against is why a system is used where something stops it, and who answers for it.
type Against struct {
	Stops  []string `json:"stops"` // wording keys
	Reason string   `json:"reason"`
	Person string   `json:"person"`
}

func (b Plan) check() error {
	if !slices.Contains(rules.Textures, b.Texture) {
		return fault.At("body.texture", "choice.unknown", "typed", fault.Short(b.Texture))
	}
	if len(b.Companions) > mostList || len(b.Missing) > mostList {
		return fault.At("body.companions", "list.too_long", "most", mostList)
	}
	for _, c := range b.Companions {
		if err := c.Sheet.Check("body.companions." + c.Role); err != nil {
			return err
		}
		if c.Outside && (strings.TrimSpace(c.Reason) == "" || c.Person == "") {
			return fault.At("body.companions."+c.Role, "plan.outside_without_reason", "name", c.Sheet.Name)
		}
	}
	if b.Against != nil {
		if err := first(list("body.against.stops", b.Against.Stops), line("body.against.reason", b.Against.Reason, true), id("body.against.person", b.Against.Person)); err != nil {
			return err
		}
	}
	return first(id("body.survey", b.Survey), b.Sheet.Check("body.sheet"))
}

// MayAccept refuses a plan on sample figures outside the demo: the pack's own sheet is
// asked for, with the sample as the form to fill.
func MayAccept(plan Plan, job *Job) error {
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

// adoptPlan takes a plan up, worked out before where neither it nor what it is made from is another one.
func (a *Area) adoptPlan(e settled, before *Area) {
	plan := e.body.(Plan)
	if err := MayAccept(plan, a.Job); err != nil {
		a.deviate(e.Entry, "deviation.plan_on_sample")
		return
	}
	a.Plan, a.PlanID, a.Recipe = &plan, e.ID, plan.Sheet.Work()
	if plan.Against != nil {
		a.deviate(e.Entry, "deviation.against_stop", "name", plan.Sheet.Name, "reason", plan.Against.Reason, "person", plan.Against.Person)
	}
	if a.Geometry == nil || plan.Survey != a.SurveyID {
		a.deviate(e.Entry, "deviation.plan_of_earlier_survey")
		return
	}
	in := a.PlanInputs(plan)
	if before != nil && before.Takeoff != nil && before.PlanID == e.ID && before.Geometry == a.Geometry && slices.Equal(before.planned, in.Leaks) {
		a.Takeoff, a.planned = before.Takeoff, before.planned
		return
	}
	made, err := takeoff.MakePlan(in)
	if err != nil {
		a.deviate(e.Entry, "deviation.plan_unreadable", "detail", err.Error())
		return
	}
	a.Takeoff, a.planned = &made, in.Leaks
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

// apply has nothing left to do: which plan counts is settled before anything is read against it.
func (b Plan) apply(*Area, settled) {}

func (b Plan) under(a *Area) (string, bool) { return a.firstOf(sheet.ToPlan) }

func (b Plan) replaces() []string { return b.From }

func (Plan) still() {}

func (Plan) worksBack() {}
