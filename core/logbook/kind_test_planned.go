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
	Bay     int                      `json:"bay,omitempty"`  // of a roof that is tested bay by bay, from 1
	Bays    int                      `json:"bays,omitempty"` // how many there are
}

func (b TestPlanned) check() error {
	if len(b.Answers) == 0 || len(b.Answers) > mostList {
		return fault.At("body.answers", "list.empty")
	}
	if b.Bay < 0 || b.Bays < 0 || b.Bay > b.Bays || b.Bays > mostList || b.Bays > 0 && b.Bay == 0 {
		return fault.At("body.bay", "number.too_large", "value", b.Bay, "most", b.Bays)
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
		Bay: b.Bay, Bays: b.Bays, Entry: e.ID, Step: b.Step, At: e.when, Answers: b.Answers, Chosen: *asked.Read, Fill: *asked.Fill, Runs: []TestRun{}, Looks: []Sighting{}, Repairs: []Signed{},
	})
	for _, key := range asked.Read.Refused {
		a.deviate(e.Entry, "deviation.test_plan_refused", "fault", key)
	}
	a.endedAt[b.Step] = e.when
}

func (b TestPlanned) stepOf() string { return b.Step }
