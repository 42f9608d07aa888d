package logbook

const KindTestRepaired Kind = "test.repaired"

// TestRepaired says what was done after a run that leaked.
type TestRepaired struct {
	Step string `json:"step"`
	Did  string `json:"did"`
}

func (b TestRepaired) check() error {
	return first(name("body.step", b.Step), line("body.did", b.Did, true))
}

func (b TestRepaired) apply(a *Area, e settled) {
	if test := a.testOf(e, b.Step); test != nil {
		test.Repairs = append(test.Repairs, Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.Did, when: e.when})
	}
}

func (b TestRepaired) stepOf() string { return b.Step }
