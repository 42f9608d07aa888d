package logbook

import (
	"time"

	"dusha/core/system"
)

// planning chooses the system: done once a plan of it can be worked out.
type planning struct{ plainly }

func (planning) by() []Kind { return []Kind{KindPlan} }

func (planning) progress(a *Area, _ system.Step) (done, of int) { return one(a.Takeoff != nil), 1 }

func (planning) worked(a *Area, _ system.Step) (began, ended time.Time) {
	at := a.whenOf(a.PlanID)
	return at, at
}

func (planning) figures() bool { return true }
