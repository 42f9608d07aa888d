package site

import (
	"slices"

	"dusha/core/choice"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// Trial is a system held against an area before anybody keeps it.
type Trial struct {
	System string         `json:"system"` // id
	Name   string         `json:"name"`
	Sheet  string         `json:"sheet"`   // name of the printing that makes it tight; "": none is there
	Takes  []TrialTake    `json:"takes"`   // what is laid, with waste
	Steps  int            `json:"steps"`   // of the whole order
	Holds  int            `json:"holds"`   // of them: somebody signs
	Hours  *float64       `json:"hours"`   // until its test may begin; null where a time is not stated
	Whole  *float64       `json:"whole_h"` // of all waits and the proof, from the first to the last; null where a time is not stated
	Cost   *int           `json:"cost_cents"`
	Layers int            `json:"layers"`
	Build  []choice.Layer `json:"build"` // from the base up
	Fault  *fault.Fault   `json:"fault"` // why no quantities come of it
}

// TrialTake is one product of a trial; the same one has the same id in every trial.
type TrialTake struct {
	ID   string   `json:"id"` // of the product, and its part where it is bought by itself
	Name string   `json:"name"`
	Need *float64 `json:"need"` // null where a figure is missing
	Unit string   `json:"unit"`
}

// TrySystems holds systems against an area, each by its own printings or the samples', and each by itself: what is wrong
// with one is said of it alone.
func (s *Site) TrySystems(id string, systems []system.System) ([]Trial, error) {
	if s.Area(id).Geometry == nil {
		return nil, fault.At("survey", "plan.no_survey")
	}
	trials := []Trial{}
	for _, of := range systems {
		trials = append(trials, s.trySystem(s.Area(id), of))
	}
	return trials, nil
}

func (s *Site) trySystem(area *logbook.Area, of system.System) Trial {
	library := sheet.Latest(s.Job().Sheets())
	t := Trial{System: of.ID, Name: of.Name, Takes: []TrialTake{}, Build: []choice.Layer{}}
	fail := func(err error) Trial {
		t.Fault = fault.Of(err)[0]
		return t
	}
	if err := of.Followed(); err != nil {
		return fail(err)
	}
	film, is := filmOf(of, library)
	if !is {
		return fail(fault.At("system", "plan.no_membrane", "name", of.Name))
	}
	t.Sheet = film.Name
	plan := logbook.Plan{Survey: area.SurveyID, System: of, Choices: of.FirstChoices(), Rules: s.Job().Rules(), Texture: "fine"}
	plan.Used, plan.Left = of.Take(film, library, nil, true)
	if err := plan.Resolve(); err != nil {
		return fail(err)
	}
	for _, step := range plan.Order().Steps() {
		if step.Mends != "" {
			continue
		}
		if t.Steps++; step.Hold() {
			t.Holds++
		}
	}
	t.Whole = wholeOf(plan.Order(), plan.Printings(), s.Job().Rules())
	_, asked := choice.Ask(*area.Geometry, nil, area.LastBase())
	options := choice.Rank(choice.Ground{
		Area: *area.Geometry, Rules: s.Job().Rules(), Asked: asked, Library: library, Systems: []system.System{of}, Samples: true,
		Inputs: func(system.System, sheet.Sheet, []system.Used) takeoff.Inputs { return area.PlanInputs(plan) },
	})
	if i := slices.IndexFunc(options, func(o choice.Option) bool { return o.Sheet == film.ID }); i >= 0 {
		o := options[i]
		t.Cost, t.Layers, t.Build = o.Cost, o.Layers, o.Build
		if o.Hours != nil {
			t.Hours = &o.Hours.Value
		}
	}
	made, err := takeoff.MakePlan(area.PlanInputs(plan))
	if err != nil {
		return fail(err)
	}
	for _, item := range made.Items {
		if item.Need == nil && item.Fault == nil {
			continue
		}
		take := TrialTake{ID: item.ID, Name: item.Title, Unit: item.Unit}
		if item.Need != nil {
			take.Need = &item.Need.Value
		} else if take.Name == "" {
			take.Name = item.Name
		}
		t.Takes = append(t.Takes, take)
	}
	return t
}

// wholeOf are the hours of all waits of an order, of each step the longest, with the water test; null where a printing does not
// state one. What hands take comes on top.
func wholeOf(order system.Order, sheets map[string]sheet.Sheet, local rules.Profile) *float64 {
	longest := map[string]float64{}
	for _, tide := range order.Tides(sheets) {
		step, _ := order.Step(tide.Step)
		if step.Mends != "" {
			continue
		}
		if tide.Least == nil && tide.Latest == nil {
			return nil
		}
		if tide.Least != nil {
			longest[tide.Step] = max(longest[tide.Step], *tide.Least)
		}
	}
	total := 0.0
	for _, step := range order.Steps() {
		if total += longest[step.ID]; step.Does == system.Test {
			total += local.Limit("test_hours").Value
		}
	}
	return &total
}
