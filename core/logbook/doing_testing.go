package logbook

import (
	"slices"
	"time"

	"dusha/core/system"
)

// testing fills the area with water and reads the level: done once a test holds.
type testing struct{ plainly }

func (testing) by() []Kind {
	return []Kind{KindTestFilled, KindTestRead, KindTestLooked, KindTestRained, KindTestExplained, KindTestRepaired}
}

func (testing) progress(a *Area, s system.Step) (done, of int) {
	return one(a.passedTest() && !a.inDoubt(s)), 1
}

func (testing) worked(a *Area, _ system.Step) (began, ended time.Time) {
	t := a.test()
	if t == nil || len(t.Runs) == 0 {
		return began, ended
	}
	last := t.Runs[len(t.Runs)-1]
	ended = last.At
	if n := len(last.Levels); n > 0 {
		ended = last.Levels[n-1].At
	}
	return t.Runs[0].At, ended
}

// next says how a test stands: to be filled, to be read at a time, or leaking.
func (testing) next(a *Area, n *Next, now time.Time) {
	t := a.test()
	if t == nil {
		return
	}
	l := a.testLook(*t)
	if open := a.openBays(); len(open) > 0 && !slices.Contains(open, t.Bay) { // this one holds: the next
		n.Why, n.Args["bay"], n.Args["bays"] = "next.bay", open[0], t.Bays
		return
	}
	if l.Reason.Key == "test.why.look_again" {
		n.Why = "next.look_again"
		return
	}
	due, _ := time.Parse(time.RFC3339, l.NextAt)
	switch {
	case len(t.Runs) == 0:
		n.Why, n.Args["litres"], n.Args["hours"] = "next.fill", t.Fill.Volume, t.Fill.Hours
	case l.Finding == FindsLeaks:
		n.State, n.Why = "held", "next.leaks"
	case now.Before(due):
		n.State, n.Why, n.Until = "waiting", "next.reading_due", l.NextAt
	default:
		n.Why = "next.read_level"
	}
	if l.Decides != "" {
		n.Args["decides"] = l.Decides
	}
}

func (testing) because(b *because) { b.verdict() }
