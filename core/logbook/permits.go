package logbook

import (
	"strings"
	"time"

	"dusha/core/system"
)

// missing is what a step asks of people and permits and nobody has given at a moment: one reason each.
func (a *Area) missing(s system.Step, now time.Time, say func(kind, says, key, remedy string, args map[string]any)) {
	if s.Permit != "" {
		a.permitMissing(s, now, say)
	}
	m := a.Manned[s.ID]
	if s.People > len(m.People) && s.People > 1 {
		say("people", Unknown, "why.people", "look.people", map[string]any{"n": s.People, "named": len(m.People)})
	}
	if s.Licence != "" && (m.Holder == "" || strings.TrimSpace(m.Licence) == "") {
		say("licence", Unknown, "why.licence", "look.licence", map[string]any{"licence": s.Licence})
	}
}

func (a *Area) permitMissing(s system.Step, now time.Time, say func(kind, says, key, remedy string, args map[string]any)) {
	var last *Permit
	for i := range a.Permits {
		if p := &a.Permits[i]; p.Permit == s.Permit && !p.From.After(now) && (last == nil || p.until.After(last.until)) {
			last = p
		}
	}
	switch {
	case last == nil:
		say("permit", Unknown, "why.permit", "look.permit", map[string]any{"permit": s.Permit})
	case !now.Before(last.until):
		say("permit", No, "why.permit_over", "look.permit", map[string]any{"permit": s.Permit, "until": stamp(last.until)})
	}
	if s.Permit != inConfinedSpace {
		return
	}
	var test *GasTest
	for i := range a.GasTests {
		if t := &a.GasTests[i]; !t.At.After(now) && (test == nil || t.At.After(test.At)) {
			test = t
		}
	}
	switch {
	case test == nil || now.Sub(test.At) > gasTestStands:
		say("gas", Unknown, "why.gas", "look.gas", nil)
	case !test.Fine:
		say("gas", No, "why.gas_not_fine", "remedy.gas", map[string]any{"oxygen": test.Oxygen, "explosive": test.Explosive})
	}
}

// without is what a step was worked on without, by what was missing.
var without = map[string]string{
	"permit": "deviation.without_permit", "gas": "deviation.without_gas", "people": "deviation.without_people", "licence": "deviation.without_licence",
}

// judgeMissing says that a step was worked on without its permit, its second person or its licence.
func (a *Area) judgeMissing(e settled, s system.Step) {
	if a.passed(s.ID) {
		return
	}
	a.missing(s, e.when, func(kind, _, _, _ string, _ map[string]any) {
		if key := s.ID + kind; !a.startSaid[key] {
			a.startSaid[key] = true
			a.deviate(e.Entry, without[kind], "step", s.ID)
		}
	})
}
