package site

import (
	"slices"
	"strings"
	"time"

	"dusha/core/ask"
	"dusha/core/choice"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// Rank holds every system of the library against an area: the best first, stopped ones last. Typed is
// what the area asks for beside its survey.
func (s *Site) Rank(id, texture string, typed map[string]string) (*ask.Form, []choice.Option, error) {
	area := s.Area(id)
	if area.Geometry == nil {
		return nil, nil, fault.At("survey", "plan.no_survey")
	}
	limits := s.Job().Rules()
	form, asked := choice.Ask(*area.Geometry, typed, area.LastBase())
	return form, choice.Rank(choice.Ground{
		Area: *area.Geometry, Rules: limits, Asked: asked, Library: s.Job().Sheets(), Systems: s.Job().Systems(), Samples: true,
		Inputs: func(of system.System, _ sheet.Sheet, used []system.Used) takeoff.Inputs {
			plan := logbook.Plan{System: of, Choices: of.FirstChoices(), Used: used, Rules: limits, Texture: texture}
			_ = plan.Resolve() // an order that cannot be followed is said where the plan is tried
			return area.PlanInputs(plan)
		},
	}), nil
}

// Needs are the figures of a sheet that an area stands still without, where a system takes it.
func (s *Site) Needs(id, systemID, sheetID string) ([]string, error) {
	area, job := s.Area(id), s.Job()
	if area.Geometry == nil {
		return nil, fault.At("survey", "plan.no_survey")
	}
	form, known := job.Sheet(sheetID)
	if !known {
		return nil, fault.At("sheet", "sheet.unknown", "typed", fault.Short(sheetID))
	}
	takes := func(of system.System) (key string, is bool) {
		i := slices.IndexFunc(of.Products, func(p system.Product) bool { return system.Fits(form, p.Product) })
		if i < 0 {
			return "", false
		}
		return of.Products[i].Key, true
	}
	for _, of := range job.Systems() {
		key, is := takes(of)
		if !is || systemID != "" && of.ID != systemID {
			continue
		}
		of, err := of.Chosen(of.FirstChoices())
		if err != nil {
			return nil, err
		}
		film, _ := of.Membrane()
		tight := form
		if film.Key != key {
			tight, _ = sheet.Sample(film.Product)
		}
		used, _ := of.Take(tight, append([]sheet.Sheet{form}, sheet.Samples()...), nil, true)
		sheets := system.Sheets(used)
		sheets[key] = form
		return choice.Needs(*area.Geometry, of, key, sheets), nil
	}
	return nil, fault.At("system", "system.none_for_sheet", "name", form.Name)
}

// Choice is a system picked for an area.
type Choice struct {
	System  string        `json:"system,omitempty"` // id; "": the first that the sheet makes tight
	Sheet   string        `json:"sheet"`            // id of a sheet of the job: the printing that makes it tight
	Walls   string        `json:"walls,omitempty"`  // id of the system that what stands follows, where it is another one
	Texture string        `json:"texture"`
	Swaps   []system.Swap `json:"swaps,omitempty"`

	Choices map[string]string `json:"choices,omitempty"` // of the system's options
	Out     string            `json:"out,omitempty"`     // way out of a clash that is taken
	Typed   map[string]string `json:"typed,omitempty"`   // what the area asks for beside its survey
	Against *logbook.Against  `json:"against,omitempty"` // reason and name, where something stops it
}

// Tried is what can be chosen and, once sheet and texture are picked, the plan.
type Tried struct {
	Plan      *takeoff.Plan `json:"plan"`
	Body      *logbook.Plan `json:"body"` // ready to be kept; null when it may not be accepted
	MayAccept bool          `json:"may_accept"`
	Refusal   *fault.Fault  `json:"refusal"` // why not
	Stops     []choice.Stop `json:"stops"`   // what stops it here
	Order     system.Order  `json:"order"`   // of the work, with the figures that no sheet states

	Options []system.Option `json:"options"` // that the system leaves open
	Clashes []system.Clash  `json:"clashes"` // what cannot all be kept, with the ways out

	Ways       map[string]string `json:"ways,omitempty"` // how it is worked, by school
	With       []WithLine        `json:"with"`           // what goes with the membrane
	Textures   []sheet.Said      `json:"textures"`
	TextureIDs []string          `json:"texture_ids"`
	Rules      string            `json:"rules"`
	RulesNote  string            `json:"rules_note"`
	Cost       *int              `json:"cost_cents"` // of what is to buy for it alone
}

// WithLine is one product that a membrane names, and what could be taken instead.
type WithLine struct {
	Role    string      `json:"role"`
	Product string      `json:"product"`
	Sheet   string      `json:"sheet"` // id of the one taken, "" where there is none
	Name    string      `json:"name"`
	Outside bool        `json:"outside"`
	Others  []SheetLine `json:"others"`
}

// SheetLine is a sheet by its name.
type SheetLine struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Revision string `json:"revision"`
	Role     string `json:"role"`
	Sample   bool   `json:"sample"`
}

// Try works a plan out before it is accepted.
func (s *Site) Try(id string, in Choice) (Tried, error) {
	area, job := s.Area(id), s.Job()
	profile := job.Rules()
	out := Tried{Rules: profile.Name, RulesNote: profile.Note, TextureIDs: rules.Textures, With: []WithLine{}, Stops: []choice.Stop{}, Order: system.Order{Stages: []system.Stage{}, Asked: []system.Asked{}}, Options: []system.Option{}, Clashes: []system.Clash{}}
	library := sheet.Latest(job.Sheets())
	for _, name := range rules.Textures {
		out.Textures = append(out.Textures, profile.Numbers["texture_"+name])
	}
	if in.Sheet == "" {
		return out, nil
	}
	chosen, known := job.Sheet(in.Sheet)
	if !known || chosen.Is() != "membrane" {
		return out, fault.At("sheet", "sheet.unknown", "typed", in.Sheet)
	}
	if area.Geometry == nil {
		return out, fault.At("survey", "plan.no_survey")
	}
	of, known := job.SystemFor(in.System, chosen)
	if !known {
		return out, fault.At("system", "system.none_for_sheet", "name", chosen.Name)
	}
	if in.Walls != "" {
		joined, err := s.withWalls(of, in.Walls)
		if err != nil {
			return out, err
		}
		of = joined
	}
	of = of.Out(in.Out)
	body := logbook.Plan{Survey: area.SurveyID, System: of, Choices: of.FirstChoices(), Rules: profile, Texture: in.Texture}
	for option, choice := range in.Choices {
		if _, known := body.Choices[option]; known { // else of a system that was picked before
			body.Choices[option] = choice
		}
	}
	out.Options = append(out.Options, of.Options...)
	body.Used, body.Left = of.Take(chosen, library, in.Swaps, job.Demo || chosen.Sample)
	if err := body.Resolve(); err != nil {
		return out, err
	}
	out.Order, out.Ways = body.Order(), of.AllWays()
	out.Order.AskBack(system.Sheets(body.Used))
	if area.PlanID != "" {
		body.From = []string{area.PlanID}
	}
	out.With = withLines(library, body)
	if in.Out == "" {
		if made, err := of.Chosen(body.Choices); err == nil {
			out.Clashes = made.Clashes(system.Sheets(body.Used), profile.Limit("test_hours").Value)
		}
	}
	plan, err := takeoff.MakePlan(area.PlanInputs(body))
	if err != nil {
		if f := fault.Of(err)[0]; strings.HasPrefix(f.Field, "companions.") { // its sheet is to be read: said with what else there is
			out.Refusal = f
			return out, nil
		}
		return out, err
	}
	plan.Mixed = append(plan.Mixed, area.MixedWithLaid(of)...)
	if parts := of.Parts(); len(parts) > 1 {
		plan.Mixed = append(plan.Mixed, system.MixedWays(parts[0], parts[1])...)
	}
	out.Plan = &plan
	out.Cost = takeoff.Cost(takeoff.Shop(plan.Items, job.Stock(append(s.Users(id), area)...), job.OpenLives(), nil, time.Time{}))
	for _, o := range of.Options {
		if _, made := in.Choices[o.ID]; !made && o.Decided != system.OnSite {
			out.Refusal = fault.At("choices."+o.ID, "system.option_not_chosen", "line", o.Line)
			return out, nil
		}
	}
	if out.Refusal = mayNot(body, job); out.Refusal != nil {
		return out, nil
	}
	_, asked := choice.Ask(*area.Geometry, in.Typed, area.LastBase())
	for _, film := range body.Films() {
		for _, stop := range (choice.Ground{Area: *area.Geometry, Rules: profile, Asked: asked}).Stops(film, body.Companions()) {
			if !slices.ContainsFunc(out.Stops, func(s choice.Stop) bool { return sheet.Same(s, stop) }) {
				out.Stops = append(out.Stops, stop)
			}
		}
	}
	if len(out.Stops) > 0 {
		if in.Against == nil || strings.TrimSpace(in.Against.Reason) == "" || in.Against.Person == "" {
			out.Refusal = fault.At("sheet", "plan.against_stop", "name", chosen.Name)
			return out, nil
		}
		body.Against = &logbook.Against{Reason: strings.TrimSpace(in.Against.Reason), Person: in.Against.Person}
		for _, stop := range out.Stops {
			body.Against.Stops = append(body.Against.Stops, stop.Key)
		}
	}
	out.MayAccept, out.Body = true, &body
	return out, nil
}

// withWalls lets what stands follow another system than what lies.
func (s *Site) withWalls(floor system.System, walls string) (system.System, error) {
	all := s.Job().Systems()
	i := slices.IndexFunc(all, func(other system.System) bool { return other.ID == walls })
	if i < 0 {
		return floor, fault.At("walls", "system.unknown", "typed", fault.Short(walls))
	}
	other := all[i]
	return system.Join(floor.ID+"+"+other.ID, floor.Name+"; walls: "+other.Name,
		system.Part{ID: "floor", Title: "floor", Faces: []string{"flat"}, System: floor},
		system.Part{ID: "walls", Title: "walls", Faces: []string{"upright"}, System: other})
}

// mayNot is why a plan may not be accepted for itself, whatever stands against it here.
func mayNot(body logbook.Plan, job *logbook.Job) *fault.Fault {
	if err := logbook.MayAccept(body, job); err != nil {
		return fault.Of(err)[0]
	}
	for _, c := range body.Companions() {
		if c.Outside && (c.Reason == "" || c.Person == "") {
			return fault.At("companions."+c.Role, "plan.outside_without_reason", "name", c.Sheet.Name)
		}
	}
	return nil
}

// withLines lists what goes with a membrane and what else the library has for each role.
func withLines(library []sheet.Sheet, plan logbook.Plan) []WithLine {
	lines := []WithLine{}
	film, _ := plan.System.Membrane()
	for _, with := range plan.System.Products {
		if with.Key == film.Key || slices.ContainsFunc(lines, func(l WithLine) bool { return l.Product == with.Product }) {
			continue
		}
		line := WithLine{Role: with.Role, Product: with.Product, Others: []SheetLine{}}
		for _, s := range library {
			if s.Is() == with.Role {
				line.Others = append(line.Others, SheetLine{s.ID, s.Name, s.Revision, s.Is(), s.Sample})
			}
			if s.Of() == with.Product && line.Name == "" {
				line.Name = s.Name
			}
		}
		for _, u := range plan.Used {
			if u.Key == with.Key {
				line.Sheet, line.Name, line.Outside = u.Sheet.ID, u.Sheet.Name, u.Outside
			}
		}
		lines = append(lines, line)
	}
	return lines
}
