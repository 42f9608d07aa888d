package logbook

const KindDone Kind = "done"

// Done finishes a check step.
type Done struct {
	Step      string   `json:"step"`
	Confirmed []string `json:"confirmed,omitempty"`
}

func (b Done) check() error { return name("body.step", b.Step) }

func (b Done) apply(a *Area, e settled) {
	if a.step(e.Entry, b.Step) {
		a.Done[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By}
		a.endedAt[b.Step] = e.when
	}
}

func (b Done) stepOf() string { return b.Step }

func (Done) takesStock() {}
