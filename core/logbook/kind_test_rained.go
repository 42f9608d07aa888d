package logbook

const KindTestRained Kind = "test.rained"

// TestRained says how much rain fell since the reading before.
type TestRained struct {
	Step string  `json:"step"`
	Rain float64 `json:"rain_mm"`
}

func (b TestRained) check() error {
	const most = 500
	return first(name("body.step", b.Step), within("body.rain_mm", b.Rain, 0.1, most))
}

func (b TestRained) apply(a *Area, e settled) {
	test := a.testOf(e, b.Step)
	if test == nil {
		return
	}
	if len(test.Runs) == 0 {
		a.deviate(e.Entry, "deviation.read_before_filling")
		return
	}
	run := &test.Runs[len(test.Runs)-1]
	run.Rained = append(run.Rained, Rain{e.when, b.Rain})
}

func (b TestRained) stepOf() string { return b.Step }
