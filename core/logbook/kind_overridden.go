package logbook

const KindOverridden Kind = "overridden"

// Overridden lets work pass a hold or a wait, with the reason and who answers for it.
type Overridden struct {
	Step   string `json:"step"`
	Person string `json:"person"`
	Reason string `json:"reason"`
}

func (b Overridden) check() error {
	return first(name("body.step", b.Step), id("body.person", b.Person), line("body.reason", b.Reason, true))
}

func (b Overridden) apply(a *Area, e settled) {
	step, known := a.stepBy(b.Step)
	if !known {
		a.deviate(e.Entry, "deviation.unknown_step", "step", b.Step)
		return
	}
	a.answer(step, e.when)
	a.Overrides[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.Reason, Person: b.Person, when: e.when}
	a.deviate(e.Entry, "deviation.overridden", "step", b.Step, "title", step.Title, "reason", b.Reason, "person", b.Person)
}

func (b Overridden) stepOf() string { return b.Step }
