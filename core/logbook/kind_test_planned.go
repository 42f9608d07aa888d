package logbook

import (
	"dusha/core/fault"
	"dusha/core/units"
	"dusha/core/watertest"
)

const KindTestPlanned Kind = "test.planned"

// TestPlanned settles a water test: depth, load, gauge and hours, as typed.
type TestPlanned struct {
	Step    string                   `json:"step"`
	Answers map[string]units.Measure `json:"answers"`
}

func (b TestPlanned) check() error {
	if len(b.Answers) == 0 || len(b.Answers) > mostList {
		return fault.At("body.answers", "list.empty")
	}
	return name("body.step", b.Step)
}

func (b TestPlanned) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || a.Geometry == nil || a.Plan == nil {
		return
	}
	typed := make(map[string]string, len(b.Answers))
	for id, answer := range b.Answers {
		typed[id] = answer.Typed
	}
	asked := watertest.Ask(*a.Geometry, a.Plan.Rules, a.built(), typed)
	if asked.Read == nil || asked.Fill == nil {
		a.deviate(e.Entry, "deviation.test_plan_unreadable", "detail", asked.Form.Faults().Error())
		return
	}
	a.Tests = append(a.Tests, WaterTest{
		Entry: e.ID, Step: b.Step, At: e.when, Answers: b.Answers, Chosen: *asked.Read, Fill: *asked.Fill, Runs: []TestRun{}, Looks: []Sighting{}, Repairs: []Signed{},
	})
	for _, key := range asked.Read.Refused {
		a.deviate(e.Entry, "deviation.test_plan_refused", "fault", key)
	}
	a.endedAt[b.Step] = e.when
}

func (b TestPlanned) stepOf() string { return b.Step }
