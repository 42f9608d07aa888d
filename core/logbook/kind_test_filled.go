package logbook

import (
	"slices"

	"dusha/core/fault"
)

const KindTestFilled Kind = "test.filled"

// TestFilled begins a run of readings: the area was filled, topped up, or disturbed.
type TestFilled struct {
	Step      string   `json:"step"`
	Why       string   `json:"why"`
	Confirmed []string `json:"confirmed,omitempty"`
}

// RunReasons are why a run of readings begins.
var RunReasons = []string{"filled", "topped_up", "rain", "disturbed"}

func (b TestFilled) check() error {
	if !slices.Contains(RunReasons, b.Why) {
		return fault.At("body.why", "choice.unknown", "typed", fault.Short(b.Why))
	}
	return name("body.step", b.Step)
}

func (b TestFilled) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	test := a.test()
	if test == nil {
		a.deviate(e.Entry, "deviation.test_without_plan")
		return
	}
	test.Runs = append(test.Runs, TestRun{Entry: e.ID, Why: b.Why, At: e.when, Levels: []Level{}})
}

func (b TestFilled) stepOf() string { return b.Step }
