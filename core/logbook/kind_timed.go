package logbook

import "dusha/core/system"

const KindTimed Kind = "step.timed"

// Timed is how long a step takes here, as whoever knows says, and in how many stretches it is laid, each by itself.
type Timed struct {
	Step      string `json:"step"`
	Minutes   int    `json:"minutes"`             // 0: as it is reckoned
	Stretches int    `json:"stretches,omitempty"` // 0: in one
}

func (b Timed) check() error {
	const longest, most = 90 * 24 * 60, 4
	return first(name("body.step", b.Step), within("body.minutes", float64(b.Minutes), 0, longest), within("body.stretches", float64(b.Stretches), 0, most))
}

func (b Timed) apply(a *Area, _ settled) {
	if a.Timed == nil {
		a.Timed = map[string]Timed{}
	}
	a.Timed[b.Step] = b
}

func (b Timed) under(a *Area) (string, bool) { return a.firstOf(system.Plan) }

func (Timed) still() {}
