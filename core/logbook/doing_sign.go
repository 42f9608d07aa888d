package logbook

import (
	"time"

	"dusha/core/system"
)

// signing is a hold that a person of the job signs with a drawn line.
type signing struct{ said }

func (signing) by() []Kind { return []Kind{KindSigned} }

func (signing) look(a *Area, l *StepLook, now time.Time) { l.NoSign = a.MaySign(l.Step, now) }

// signsTest tells whether a signature stands for the water test before it: no other
// signature comes between.
func (a *Area) signsTest(id string) bool { return a.provedBefore(id, system.Test) != nil }

// provedBefore is the proof of a kind that a signature stands for: the last one before it, no other signature between.
func (a *Area) provedBefore(id string, kind system.Doing) (proof *system.Step) {
	for i, s := range a.steps {
		switch {
		case s.ID == id:
			return proof
		case s.Does == kind:
			proof = &a.steps[i]
		case s.Does == system.Sign:
			proof = nil
		}
	}
	return nil
}

// MaySign tells whether a step can be signed as things stand, and if not why, as a wording
// key.
func (a *Area) MaySign(s system.Step, now time.Time) (why string) {
	switch spray := a.provedBefore(s.ID, system.SprayTest); {
	case a.block(s, a.materials(s, now), now) != nil:
		return "sign.blocked"
	case a.signsTest(s.ID) && !a.passedTest(), spray != nil && !a.finished(*spray):
		return "sign.no_verdict"
	}
	return ""
}
