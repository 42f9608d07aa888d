package logbook

import (
	"slices"
	"time"

	"dusha/core/fault"
)

const KindTouched Kind = "touched"

// Touched is the touch test before a step: which states the person found.
type Touched struct {
	Step  string   `json:"step"` // the step it may open
	Found []string `json:"found"`
}

// Touch is a touch test: which states a person found.
type Touch struct {
	Entry  string    `json:"entry"`
	By     string    `json:"by"`
	When   time.Time `json:"at"`
	Found  []string  `json:"found"`
	Passed bool      `json:"passed"`
}

func (b Touched) check() error {
	if len(b.Found) > mostList {
		return fault.At("body.found", "list.too_long", "most", mostList)
	}
	return name("body.step", b.Step)
}

func (b Touched) apply(a *Area, e settled) {
	step, known := a.stepBy(b.Step)
	own, waits := a.ownOpening(step)
	if !known || !waits {
		a.deviate(e.Entry, "deviation.unknown_step", "step", b.Step)
		return
	}
	t := Touch{Entry: e.ID, By: e.By, When: e.when, Found: b.Found, Passed: true}
	for _, state := range own.Confirm {
		t.Passed = t.Passed && slices.Contains(b.Found, state)
	}
	a.Touched[b.Step] = t
}

func (b Touched) stepOf() string { return b.Step }
