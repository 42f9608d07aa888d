package logbook

import (
	"strings"
	"time"

	"dusha/core/system"
)

// AgainLook is a step that comes back: how often it was done, when it is due, and whether it is over.
type AgainLook struct {
	Times []string `json:"times"` // RFC 3339
	State string   `json:"state"` // that asks for it; "" where a time does
	Due   string   `json:"due"`   // RFC 3339; "" where a state says it, or nothing was done yet
	Late  bool     `json:"late"`
	Until string   `json:"until"` // RFC 3339, of what ends by a time; "" where a state ends it or it cannot be told
	Over  bool     `json:"over"`
}

// endsAt is when a repeated step is over by a table of a sheet; false where a state ends it, or it cannot be told.
func (a *Area) endsAt(s system.Step) (at time.Time, is bool) {
	if !strings.Contains(s.Again.Until, ".") {
		return at, false
	}
	before := ""
	for _, other := range a.steps {
		if other.ID == s.ID {
			break
		}
		if other.Lays() {
			before = other.ID
		}
	}
	o, is := a.openingOf(system.Link{Step: before, Per: "all", Least: &system.Figure{Of: s.Again.Until}})
	if !is {
		return at, false
	}
	w, waits := a.waitFor(o, nil)
	if !waits || !w.known {
		return at, false
	}
	return w.time(w.strict.Opens())
}

// againOver tells whether a repeated step has come to its end at the area's clock: its time is over, or a person found the
// state that ends it.
func (a *Area) againOver(s system.Step) bool {
	if strings.Contains(s.Again.Until, ".") {
		at, is := a.endsAt(s)
		return is && !a.clock.Before(at) && len(a.times[s.ID]) > 0
	}
	return a.Replies[s.ID][s.Again.Until].Says == SaysYes
}

// again shows a repeated step at a moment.
func (a *Area) again(s system.Step, now time.Time) *AgainLook {
	if s.Again == nil {
		return nil
	}
	l := AgainLook{Times: []string{}, State: s.Again.State, Over: a.againOver(s)}
	for _, at := range a.times[s.ID] {
		l.Times = append(l.Times, stamp(at))
	}
	if at, is := a.endsAt(s); is {
		l.Until = stamp(at)
	}
	if hours, is := a.hoursOf(s.Again.Every); is && len(a.times[s.ID]) > 0 && !l.Over {
		due := a.times[s.ID][len(a.times[s.ID])-1].Add(time.Duration(hours * float64(time.Hour)))
		l.Due, l.Late = stamp(due), now.After(due)
	}
	return &l
}
