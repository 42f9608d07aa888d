package logbook

import (
	"slices"

	"dusha/core/fault"
)

const KindLeakFound Kind = "leak.found"

// LeakFound is water that comes in at a place.
type LeakFound struct {
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
	State   string  `json:"state"` // one of LeakStates
	Note    string  `json:"note,omitempty"`
}

// LeakStates are how water can come in.
var LeakStates = []string{"running", "dripping", "damp"}

func (b LeakFound) check() error {
	if !slices.Contains(LeakStates, b.State) {
		return fault.At("body.state", "choice.unknown", "typed", fault.Short(b.State))
	}
	return first(place("body", b.Surface, b.Along, b.Up), line("body.note", b.Note, false))
}

func (b LeakFound) apply(a *Area, e settled) {
	if !a.knownSurfaces(e.Entry, []string{b.Surface}) {
		return
	}
	a.Leaks = append(a.Leaks, Leak{Entry: e.ID, LeakFound: b, Found: Signed{Entry: e.ID, At: e.At, By: e.By}, Open: true})
	a.shutBase(e)
}

func (b LeakFound) under(a *Area) (string, bool) { return a.firstStep(), true }

func (LeakFound) worksBack() {}
