package logbook

import (
	"slices"
	"time"

	"dusha/core/sheet"
	"dusha/core/system"
)

// doing is what the fold knows of one thing that a step may be there for.
type doing interface {
	// by are the kinds of entry that work on it.
	by() []Kind
	// progress counts what a step has of what it needs.
	progress(a *Area, s system.Step) (done, of int)
	// worked gives the times of its first and last work, zero where there is none.
	worked(a *Area, s system.Step) (began, ended time.Time)
	// lays are the products whose start is asked before it.
	lays(a *Area, s system.Step) []sheet.Sheet
	// next says how it stands once nothing is in its way.
	next(a *Area, n *Next, now time.Time)
	// because adds what a permission of it stands on beside what every step stands on.
	because(b *because)
	// look shows what is its own.
	look(a *Area, l *StepLook, now time.Time)
	// figures tells whether it is filled in and not worked at: an entry that cannot be read makes no doubt of it.
	figures() bool
}

// doingOf is the table: a new doing is a file and a row.
var doingOf = map[system.Doing]doing{
	system.Survey:   surveying{},
	system.Plan:     planning{},
	system.Place:    bedding{},
	system.Lay:      coating{},
	system.Embed:    coating{},
	system.AcceptIt: accepting{},
	system.PlanTest: planningTest{},
	system.Test:     testing{},
	system.Sign:     signing{},

	system.Milestone: reaching{},
	system.SprayTest: spraying{},
}

// plainly is a doing of which nothing more is known.
type plainly struct{}

func (plainly) worked(a *Area, s system.Step) (began, ended time.Time) {
	began, ended = a.endedAt[s.ID], a.endedAt[s.ID]
	if at, is := a.begunAt[s.ID]; is {
		began = at
	}
	return began, ended
}
func (plainly) lays(*Area, system.Step) []sheet.Sheet { return nil }
func (plainly) next(*Area, *Next, time.Time)          {}
func (plainly) because(*because)                      {}
func (plainly) look(*Area, *StepLook, time.Time)      {}
func (plainly) figures() bool                         { return false }

// said is a doing that one entry ends.
type said struct{ plainly }

func (said) progress(a *Area, s system.Step) (done, of int) {
	_, signed := a.Done[s.ID]
	_, stale := a.Stale[s.ID]
	return one(signed && !stale && !a.short[s.ID] && !a.inDoubt(s)), 1
}

// progress counts what a step has of what it needs: what it is there for, and what else is laid in it.
func (a *Area) progress(s system.Step) (done, of int) {
	switch {
	case a.dropped(s):
		return 1, 1
	case a.undecided(s):
		return 0, 1
	}
	done, of = doingFor(s).progress(a, s)
	laid, works := a.worksDone(s)
	if s.Lays() && len(s.Asks) > 0 { // of what is said by itself they count already
		done, of = done+len(s.Asks)-len(a.openQuestions(s)), of+len(s.Asks)
	}
	return done + laid, of + works
}

// doingFor is what the fold knows of what a step is there for; what a person says is done is checked.
func doingFor(s system.Step) doing {
	if known, is := doingOf[s.Does]; is && !s.Said() {
		return known
	}
	return checking{}
}

// finished tells whether a step has all that ends it.
func (a *Area) finished(s system.Step) bool {
	done, of := a.progress(s)
	return of > 0 && done >= of
}

// takes tells whether a kind of entry works on a step.
func (a *Area) takes(s system.Step, k Kind) bool {
	works := (k == KindWeighed || k == KindLaid) && len(a.worksOf(s)) > 0
	asks := k == KindDone && (s.OnlyIf != nil || s.Lays() && len(s.Asks) > 0)
	return works || asks || slices.Contains(doingFor(s).by(), k)
}

// firstOf is the first step that is there for something.
func (a *Area) firstOf(d system.Doing) (string, bool) {
	for _, s := range a.steps {
		if s.Does == d {
			return s.ID, true
		}
	}
	return "", false
}

func one(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// stampOf is a moment as it is shown, "" where there is none.
func stampOf(at time.Time) string {
	if at.IsZero() {
		return ""
	}
	return stamp(at)
}
