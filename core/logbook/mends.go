package logbook

import (
	"maps"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/system"
)

// A window that has shut is opened once more by its product's remedy, and a state that nobody found is made good by it. Where the system lists the steps of it, they stand in
// the order from then on, before the step that came too late, and are done like any other.

// atMoment looks at the area at a moment: what time has finished, and what it has shut.
func (a *Area) atMoment(now time.Time) {
	a.clock = now
	called := map[string]bool{}
	for _, s := range a.steps {
		if mended, known := a.stepBy(s.Mends); s.Mends != "" && known && a.missed(mended, s.Missed, now) {
			called[s.ID] = true
		}
	}
	if !maps.Equal(a.called, called) {
		a.called = called
		clear(a.memo.ways)
	}
}

// missed tells whether a step that was not begun came too late for a time, and nothing was done about it.
func (a *Area) missed(s system.Step, figure string, now time.Time) bool {
	if _, begun := a.begunAt[s.ID]; begun {
		return false
	}
	return slices.ContainsFunc(a.waitsOf(s), func(w wait) bool {
		return w.missed == figure && w.known && w.at(now).State == cure.TooLate && !a.remedied(s.ID, w, now)
	}) || slices.Contains(a.notFound(s, now), figure)
}

// notFound are the states that the last touch test before a step did not find, as remedies name them, and that nothing was
// done about since.
func (a *Area) notFound(s system.Step, now time.Time) (list []string) {
	touched, is := a.Touched[s.ID]
	own, asks := a.ownOpening(s)
	if !is || !asks || touched.When.After(now) || touched.When.Before(a.endedAt[own.After]) ||
		slices.ContainsFunc(a.remedies[s.ID], touched.When.Before) {
		return nil
	}
	for _, state := range own.Confirm {
		if !slices.Contains(touched.Found, state) {
			list = append(list, own.link.StateOf(state))
		}
	}
	return list
}

// mendedSince tells whether every state that a touch test did not find was made good after it, by the steps that the
// system lists for it.
func (a *Area) mendedSince(s system.Step, touched Touch, own opening) bool {
	for _, state := range own.Confirm {
		if !slices.Contains(touched.Found, state) && !slices.ContainsFunc(a.steps, func(other system.Step) bool {
			return other.Mends == s.ID && other.Missed == own.link.StateOf(state)
		}) {
			return false
		}
	}
	return slices.ContainsFunc(a.remedies[s.ID], touched.When.Before)
}

// mended takes up that a step of a remedy was done: with the last of them the window is open once more.
func (a *Area) mended(s system.Step, at time.Time) {
	if s.Mends == "" {
		return
	}
	for _, other := range a.steps {
		if other.Mends == s.Mends && other.Missed == s.Missed && (!a.mending[other.ID] || !a.finished(other)) {
			return
		}
	}
	a.Remedied[s.Mends] = true
	a.remedies[s.Mends] = append(a.remedies[s.Mends], at)
}
