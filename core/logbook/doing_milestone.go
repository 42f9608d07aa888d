package logbook

import (
	"time"

	"dusha/core/system"
)

// reaching is a milestone: walked on, tiled from, in water, in service. Time and state finish it, no tick.
type reaching struct{ plainly }

func (reaching) by() []Kind { return []Kind{KindTouched} }

// progress tells whether it is reached at the area's clock: all that it waits for is over, and what a person has to find
// was found. One that waits for nothing is reached with the step before it.
func (reaching) progress(a *Area, s system.Step) (done, of int) {
	opens, waits, known := a.opensAt(s)
	return one(!waits || known && !a.clock.Before(opens) && a.confirmed(s)), 1
}

func (reaching) worked(a *Area, s system.Step) (began, ended time.Time) {
	if opens, waits, known := a.opensAt(s); waits && known && !a.clock.Before(opens) {
		return opens, opens
	}
	return began, ended
}

// next says when it comes.
func (reaching) next(_ *Area, n *Next, _ time.Time) { n.State, n.Why = "waiting", "next.milestone" }

// timed tells whether an area has steps that time finishes: what stands before its steps is then asked anew each time.
func (a *Area) timed() bool {
	for _, s := range a.steps {
		if s.Does == system.Milestone || s.Again != nil {
			return true
		}
	}
	return false
}
