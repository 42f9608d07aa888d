package logbook

import (
	"dusha/core/sheet"
	"dusha/core/system"
)

// checking is what a person says is done, line by line, beside what is laid in it: preparing, priming, protecting.
type checking struct{ said }

func (checking) by() []Kind { return []Kind{KindDone} }

// progress counts what is said of it; a step that only lays has nothing to say.
func (c checking) progress(a *Area, s system.Step) (done, of int) {
	if len(s.Asks) == 0 && len(a.ownWorks(s)) > 0 {
		return 0, 0
	}
	if len(a.openQuestions(s)) > 0 {
		return 0, 1
	}
	if s.Again != nil {
		return one(a.againOver(s)), 1
	}
	return c.said.progress(a, s)
}

func (checking) lays(a *Area, s system.Step) []sheet.Sheet { return a.toStart(s) }
