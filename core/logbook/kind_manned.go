package logbook

import (
	"slices"

	"dusha/core/fault"
)

const KindManned Kind = "manned"

// Manned names who works on a step that asks for a second person, or for somebody with a licence.
type Manned struct {
	Step    string   `json:"step"`
	People  []string `json:"people"`            // ids
	Holder  string   `json:"holder,omitempty"`  // who of them holds the licence
	Licence string   `json:"licence,omitempty"` // its number
}

func (b Manned) check() error {
	for _, who := range b.People {
		if err := id("body.people", who); err != nil {
			return err
		}
	}
	if b.Holder != "" && !slices.Contains(b.People, b.Holder) {
		return fault.At("body.holder", "manned.holder_not_there")
	}
	return first(name("body.step", b.Step), list("body.people", b.People), line("body.licence", b.Licence, b.Holder != ""))
}

func (b Manned) apply(a *Area, e settled) {
	step, known := a.stepBy(b.Step)
	if !known || step.People == 0 && step.Licence == "" {
		a.deviate(e.Entry, "deviation.unknown_step", "step", b.Step)
		return
	}
	for _, who := range b.People {
		if !slices.ContainsFunc(a.Job.People, func(p Person) bool { return p.ID == who }) {
			a.deviate(e.Entry, "deviation.manned_by_nobody", "step", b.Step)
			return
		}
	}
	a.Manned[b.Step] = b
}

func (b Manned) stepOf() string { return b.Step }

func (Manned) still() {}
