package logbook

import "time"

const KindGasTested Kind = "gas.tested"

// GasTested is what a gas meter showed before a confined space was entered, or while it was worked in.
type GasTested struct {
	Oxygen    float64 `json:"oxygen_percent"`
	Explosive float64 `json:"explosive_percent"` // of the lower explosive limit
	Meter     string  `json:"meter,omitempty"`
}

// GasTest is a gas test in the book of an area.
type GasTest struct {
	GasTested
	Entry string    `json:"entry"`
	At    time.Time `json:"at"`
	Fine  bool      `json:"fine"`
}

// Limits of a gas test, the usual ones of confined-space rules; local rules stand above them.
const (
	leastOxygen   = 19.5 // percent
	mostOxygen    = 23.5
	mostExplosive = 10.0 // percent of the lower explosive limit
	gasTestStands = time.Hour
)

// inConfinedSpace is the permit that asks for a gas test too.
const inConfinedSpace = "confined_space"

func (b GasTested) check() error {
	return first(within("body.oxygen_percent", b.Oxygen, 0, 100), within("body.explosive_percent", b.Explosive, 0, 100), line("body.meter", b.Meter, false))
}

func (b GasTested) apply(a *Area, e settled) {
	fine := b.Oxygen >= leastOxygen && b.Oxygen <= mostOxygen && b.Explosive <= mostExplosive
	a.GasTests = append(a.GasTests, GasTest{b, e.ID, e.when, fine})
	if !fine {
		a.deviate(e.Entry, "deviation.gas_not_fine", "oxygen", b.Oxygen, "explosive", b.Explosive)
	}
}

func (b GasTested) under(a *Area) (string, bool) { return a.firstStep(), true }

func (GasTested) still() {}
