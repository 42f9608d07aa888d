package logbook

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/strict"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

const KindPlan Kind = "plan"

// Plan accepts a system for a survey, with the printings and rules it used.
type Plan struct {
	Survey  string        `json:"survey"` // id of the survey entry
	System  system.System `json:"system"`
	Used    []system.Used `json:"used"`           // the printings of its products
	Left    []string      `json:"left,omitempty"` // keys of products that are not taken
	Rules   rules.Profile `json:"rules"`
	Texture string        `json:"texture"`

	Choices map[string]string `json:"choices,omitempty"` // made of the system's options

	From []string `json:"from,omitempty"` // plans it was made from or chosen over

	Against *Against `json:"against,omitempty"` // hard stops that it was accepted against

	Sheet  sheet.Sheet            `json:"-"` // of what makes the area tight
	built  system.Built           // what it comes to
	sheets map[string]sheet.Sheet // by the system's keys
	older  bool                   // of a Dusha whose sheets carried the recipe: it says no system
	added  []string               // figures that its printings were read for since: "key.figure"
}

// Resolve works out what a plan's system and printings come to; its order has to be one that can be followed.
func (b *Plan) Resolve() error {
	chosen, err := b.System.Chosen(b.Choices)
	if err != nil {
		return err
	}
	built, err := system.Build(chosen, b.Used, b.Left...)
	b.built, b.Sheet, b.sheets = built, built.Film, built.Sheets()
	return err
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
	if len(b.Used) > mostList || len(b.Left) > mostList {
		return fault.At("body.used", "list.too_long", "most", mostList)
	}
	for _, u := range b.Used {
		if err := u.Sheet.Check("body.used." + u.Key); err != nil {
			return err
		}
		if u.Outside && (strings.TrimSpace(u.Reason) == "" || u.Person == "") {
			return fault.At("body.used."+u.Key, "plan.outside_without_reason", "name", u.Sheet.Name)
		}
	}
	if b.Against != nil {
		if err := first(list("body.against.stops", b.Against.Stops), line("body.against.reason", b.Against.Reason, true), id("body.against.person", b.Against.Person)); err != nil {
			return err
		}
	}
	return first(id("body.survey", b.Survey), under("body.system.", b.System.Check()), b.Resolve())
}

// under names a fault's field by what it lies in.
func under(path string, err error) error {
	if err == nil {
		return nil
	}
	f := *fault.Of(err)[0]
	f.Field = path + f.Field
	return &f
}

// ofOlderDusha tells whether a plan was kept when a membrane's sheet carried its recipe.
func ofOlderDusha(body json.RawMessage) bool {
	var members map[string]json.RawMessage
	if strict.DecodeKept("body", body, &members) != nil {
		return false
	}
	_, sheet := members["sheet"]
	_, system := members["system"]
	return sheet && !system
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
	for _, c := range plan.built.With {
		if c.Sheet.Invented() {
			return fault.At("companions."+c.Role, "plan.sample_not_for_work", "sheet", c.Sheet.Name)
		}
	}
	return nil
}

// adoptPlan takes a plan up, worked out before where neither it nor what it is made from is another one.
func (a *Area) adoptPlan(e settled, before *Area) {
	plan := e.body.(Plan)
	if plan.older {
		a.deviate(e.Entry, "deviation.older_plan")
		return
	}
	plan.decideOnSite(a.settled)
	for _, name := range plan.goOn(a.Job.own) {
		a.deviate(e.Entry, "deviation.sheet_corrected", "name", name)
	}
	if err := plan.Resolve(); err != nil {
		a.deviate(e.Entry, "deviation.plan_unreadable", "detail", err.Error())
		return
	}
	if err := MayAccept(plan, a.Job); err != nil {
		a.deviate(e.Entry, "deviation.plan_on_sample")
		return
	}
	a.Plan, a.PlanID, a.Order = &plan, e.ID, plan.built.Order
	if plan.Against != nil {
		a.deviate(e.Entry, "deviation.against_stop", "name", plan.System.Name, "reason", plan.Against.Reason, "person", plan.Against.Person)
	}
	if a.Geometry == nil || plan.Survey != a.SurveyID {
		a.deviate(e.Entry, "deviation.plan_of_earlier_survey")
		return
	}
	in := a.PlanInputs(plan)
	if before != nil && before.Takeoff != nil && before.PlanID == e.ID && maps.Equal(before.Plan.Choices, plan.Choices) && slices.Equal(before.Plan.added, plan.added) && before.Geometry == a.Geometry && slices.Equal(before.planned, in.Leaks) {
		a.Takeoff, a.planned, a.Order = before.Takeoff, before.planned, before.Order
		return
	}
	made, err := takeoff.MakePlan(in)
	if err != nil {
		a.deviate(e.Entry, "deviation.plan_unreadable", "detail", err.Error())
		return
	}
	a.Takeoff, a.planned = &made, in.Leaks
	a.Order = plan.orderFor(in, made)
}

// goOn takes the figures that the plan's copies of its printings were not read for from the job's own, which were since. It
// gives the names of those that say something otherwise now: the plan keeps what it was accepted with.
func (b *Plan) goOn(library []sheet.Sheet) (corrected []string) {
	b.Used = slices.Clone(b.Used)
	for i, u := range b.Used {
		at := slices.IndexFunc(library, func(s sheet.Sheet) bool { return s.ID == u.Sheet.ID })
		if at < 0 {
			continue
		}
		whole, added, differs := u.Sheet.ReadOn(library[at])
		if b.Used[i].Sheet = whole; differs {
			corrected = append(corrected, whole.Name)
		}
		for _, name := range added {
			b.added = append(b.added, u.Key+"."+name)
		}
	}
	return corrected
}

// orderFor is the order of a plan in its area: without steps of places that it has none of. Where details are laid and
// none of them is a piece, a person says that it is done.
func (b Plan) orderFor(in takeoff.Inputs, made takeoff.Plan) system.Order {
	pieces := func(s system.Step) bool {
		return slices.ContainsFunc(made.Pieces, func(p takeoff.Piece) bool { return p.Layer == "" || slices.Contains(s.Layers(), p.Layer) })
	}
	o := b.built.Order.For(func(s system.Step) bool {
		taken := len(made.WorksOf(s.ID)) > 0 || slices.ContainsFunc(made.Items, func(i takeoff.Item) bool {
			return slices.ContainsFunc(i.Portions, func(p takeoff.Portion) bool { return p.Step == s.ID })
		})
		lays := s.Does == system.Place || s.Does == system.Lay && !s.Coats() && len(s.Of) > 0
		return (len(s.At) == 0 || in.Lies(s.At)) && (!lays || pieces(s) || taken)
	})
	o = ofPlace(o, in.Area)
	coated := slices.ContainsFunc(in.Area.Patches, func(p wetarea.Patch) bool { return p.OldCoating != "" && p.OldCoating != "none" })
	for i, stage := range o.Stages {
		for k, s := range stage.Steps {
			if !coated && slices.ContainsFunc(s.Asks, func(q system.Question) bool { return q.When == system.WhenOldCoating }) {
				o.Stages[i].Steps = slices.Clone(o.Stages[i].Steps)
				o.Stages[i].Steps[k].Asks = slices.DeleteFunc(slices.Clone(s.Asks), func(q system.Question) bool { return q.When == system.WhenOldCoating })
			}
			if s.Does == system.Place && !pieces(s) {
				o.Stages[i].Steps = slices.Clone(o.Stages[i].Steps)
				o.Stages[i].Steps[k].Does = system.Lay
			}
		}
	}
	return o
}

// PlanInputs are what a plan of the area is worked out from.
func (a *Area) PlanInputs(plan Plan) takeoff.Inputs {
	return takeoff.Inputs{
		Survey: *a.Survey, SurveyRef: a.SurveyID, Area: *a.Geometry, Built: plan.built, Rules: plan.Rules, Texture: plan.Texture, Leaks: a.unplugged(),
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

func (b Plan) under(a *Area) (string, bool) { return a.firstOf(system.Plan) }

func (b Plan) replaces() []string { return b.From }

func (Plan) still() {}

func (Plan) worksBack() {}

// Films are the printings of what makes the area tight, one a zone.
func (b Plan) Films() (list []sheet.Sheet) {
	for _, part := range b.built.System.Parts() {
		film, _ := part.Membrane()
		if of, there := b.sheets[film.Key]; there {
			list = append(list, of)
		}
	}
	return list
}

// Companions are what goes with what makes the area tight.
func (b Plan) Companions() []system.Companion { return b.built.With }

// Order is the order of the work.
func (b Plan) Order() system.Order { return b.built.Order }

// Printings are the sheets by the system's keys.
func (b Plan) Printings() map[string]sheet.Sheet { return b.sheets }

// ofPlace adds what the place itself asks: edges to fall from, a closed tank that nobody enters without a permit and a gas test.
func ofPlace(o system.Order, area wetarea.Area) system.Order {
	tank := slices.Contains([]string{"round_tank", "box_tank"}, area.Shape)
	closed := tank && slices.ContainsFunc(area.Surfaces, func(s wetarea.Surface) bool { return s.Kind == "soffit" })
	caution := ""
	switch {
	case tank:
		caution = "confined"
	case area.Shape == "deck":
		caution = "height"
	}
	if caution == "" {
		return o
	}
	stages := slices.Clone(o.Stages)
	for i, stage := range stages {
		stages[i].Steps = slices.Clone(stage.Steps)
		for k, s := range stages[i].Steps {
			if s.Hold() || s.Does == system.Survey || s.Does == system.Plan || s.Does == system.PlanTest || s.Does == system.Milestone {
				continue
			}
			if !slices.Contains(s.Cautions, caution) {
				stages[i].Steps[k].Cautions = append(slices.Clip(s.Cautions), caution)
			}
			if closed && s.Permit == "" {
				stages[i].Steps[k].Permit = inConfinedSpace
			}
		}
	}
	o.Stages = stages
	return o
}
