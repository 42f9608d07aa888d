package logbook

import "dusha/core/system"

const KindTimed Kind = "step.timed"

// Timed is how long a step takes here, as whoever knows says; 0: as it is reckoned.
type Timed struct {
	Step    string `json:"step"`
	Minutes int    `json:"minutes"`
}

func (b Timed) check() error {
	const longest = 90 * 24 * 60
	return first(name("body.step", b.Step), within("body.minutes", float64(b.Minutes), 0, longest))
}

func (b Timed) apply(a *Area, _ settled) {
	if a.Timed == nil {
		a.Timed = map[string]int{}
	}
	if a.Timed[b.Step] = b.Minutes; b.Minutes == 0 {
		delete(a.Timed, b.Step)
	}
}

func (b Timed) under(a *Area) (string, bool) { return a.firstOf(system.Plan) }

func (Timed) still() {}
