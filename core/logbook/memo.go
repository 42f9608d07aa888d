package logbook

import (
	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// memo is what was worked out of an area, each until an entry moves what it was made from.
type memo struct {
	facts   map[int]*coatFacts // by coat; of plan and survey alone
	grid    map[string][]wetarea.Point
	films   map[filmKey]filmKnown
	mass    map[string]massKnown        // by step
	covered map[string]map[string]bool  // by step
	ways    map[string]way              // what stands before a step
	windows map[string][]wait           // of a step
	works   map[string][]takeoff.Laying // of a step; of the plan alone
	done    map[string][2]int           // places of a step's works that are laid, and all of them
}

func newMemo() *memo {
	return &memo{
		facts: map[int]*coatFacts{}, grid: map[string][]wetarea.Point{}, films: map[filmKey]filmKnown{}, mass: map[string]massKnown{},
		covered: map[string]map[string]bool{}, ways: map[string]way{}, windows: map[string][]wait{}, done: map[string][2]int{},
	}
}

// filmKey is a surface in a coat, by its step.
type filmKey struct{ step, surface string }

// filmKnown is what is known of the film there.
type filmKnown struct {
	wanted   [2]int // readings that a verdict was made for, and one more
	verdicts [2]*film.Verdict
	unread   *Unread
	readings []figure.Figure
}

func (f filmKnown) judged(wanted int) (v film.Verdict, is bool) {
	for i, known := range f.verdicts {
		if known != nil && f.wanted[i] == wanted {
			return *known, true
		}
	}
	return v, false
}

func (f filmKnown) with(wanted int, v film.Verdict) filmKnown {
	i := 0
	if f.verdicts[0] != nil {
		i = 1
	}
	f.wanted[i], f.verdicts[i] = wanted, &v
	return f
}

type massKnown struct {
	wet float64
	low bool
}

// filmMoved forgets the film of some surfaces in a coat, and what the whole coat makes of it.
func (a *Area) filmMoved(step string, surfaces ...string) {
	for _, surface := range surfaces {
		delete(a.memo.films, filmKey{step, surface})
	}
	delete(a.memo.mass, step)
	delete(a.memo.covered, step)
	a.waitsMoved(step)
}

// waitsMoved forgets what stands before a step and those behind it: their windows count from it, its own goes by what is
// left to lay.
func (a *Area) waitsMoved(step string) {
	at, known := a.place[step]
	if !known {
		return
	}
	for _, s := range a.steps[at:] {
		delete(a.memo.ways, s.ID)
		delete(a.memo.windows, s.ID)
	}
}
