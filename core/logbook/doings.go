package logbook

import (
	"slices"
	"time"

	"dusha/core/sheet"
)

// doing is what the fold knows of one thing that a step may be there for.
type doing interface {
	// by are the kinds of entry that work on it.
	by() []Kind
	// progress counts what a step has of what it needs.
	progress(a *Area, s sheet.Step) (done, of int)
	// worked gives the times of its first and last work, zero where there is none.
	worked(a *Area, s sheet.Step) (began, ended time.Time)
	// lays are the products whose start is asked before it.
	lays(a *Area, s sheet.Step) []sheet.Sheet
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
var doingOf = map[sheet.Doing]doing{
	sheet.ToSurvey:   surveying{},
	sheet.ToPlan:     planning{},
	sheet.ToCheck:    checking{},
	sheet.ToBed:      bedding{},
	sheet.ToCoat:     coating{},
	sheet.ToAccept:   accepting{},
	sheet.ToPlanTest: planningTest{},
	sheet.ToTest:     testing{},
	sheet.ToSign:     signing{},
}

// plainly is a doing of which nothing more is known.
type plainly struct{}

func (plainly) worked(a *Area, s sheet.Step) (began, ended time.Time) {
	began, ended = a.endedAt[s.ID], a.endedAt[s.ID]
	if at, is := a.begunAt[s.ID]; is {
		began = at
	}
	return began, ended
}
func (plainly) lays(*Area, sheet.Step) []sheet.Sheet { return nil }
func (plainly) next(*Area, *Next, time.Time)         {}
func (plainly) because(*because)                     {}
func (plainly) look(*Area, *StepLook, time.Time)     {}
func (plainly) figures() bool                        { return false }

// said is a doing that one entry ends.
type said struct{ plainly }

func (said) progress(a *Area, s sheet.Step) (done, of int) {
	_, signed := a.Done[s.ID]
	_, stale := a.Stale[s.ID]
	return one(signed && !stale && !a.short[s.ID] && !a.inDoubt(s)), 1
}

// progress counts what a step has of what it needs.
func (a *Area) progress(s sheet.Step) (done, of int) { return doingOf[s.Does].progress(a, s) }

// finished tells whether a step has all that ends it.
func (a *Area) finished(s sheet.Step) bool {
	done, of := a.progress(s)
	return of > 0 && done >= of
}

// takes tells whether a kind of entry works on a step.
func takes(s sheet.Step, k Kind) bool {
	of, known := doingOf[s.Does]
	return known && slices.Contains(of.by(), k)
}

// firstOf is the first step that is there for something.
func (a *Area) firstOf(d sheet.Doing) (string, bool) {
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
