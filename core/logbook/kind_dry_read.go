package logbook

import "time"

const KindDryRead Kind = "dry.read"

// DryRead is a direct reading of the dry film at a place: by a gauge or on a sample cut out.
type DryRead struct {
	Step    string  `json:"step"`
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
	Dry     float64 `json:"dry_mm"`
}

// DryReading is one in the book of an area.
type DryReading struct {
	DryRead
	Entry string    `json:"entry"`
	When  time.Time `json:"at"`
}

func (b DryRead) check() error {
	return first(name("body.step", b.Step), place("body", b.Surface, b.Along, b.Up), within("body.dry_mm", b.Dry, 0.001, mostTooth))
}

func (b DryRead) apply(a *Area, e settled) {
	if a.step(e.Entry, b.Step) && a.onSurface(e.Entry, b.Surface, b.Along, b.Up) {
		a.DryRead[b.Step] = append(a.DryRead[b.Step], DryReading{b, e.ID, e.when})
	}
}

func (DryRead) still() {}

func (b DryRead) stepOf() string { return b.Step }
