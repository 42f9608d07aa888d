package logbook

import (
	"dusha/core/system"
)

// planningTest settles a water test before it is filled.
type planningTest struct{ plainly }

func (planningTest) by() []Kind { return []Kind{KindTestPlanned} }

func (planningTest) progress(a *Area, _ system.Step) (done, of int) { return one(len(a.Tests) > 0), 1 }
