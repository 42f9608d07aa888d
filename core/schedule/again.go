package schedule

import (
	"slices"
	"sort"
)

// nodeOf is a plan as its crews and the order on each of them.
func (r *ready) nodeOf(plan Plan) (n node, is bool) {
	if len(plan.Starts) != len(r.Steps) {
		return n, false
	}
	n = node{crews: make([]int, len(r.Steps)), starts: make([]int, len(r.Steps))}
	crewAt := map[string]int{}
	for c, crew := range r.Crews {
		crewAt[crew.ID] = c
	}
	starts := make([]int, len(r.Steps))
	for i, s := range plan.Starts {
		starts[i] = s.Start
		if n.crews[i] = nobody; s.Crew != nil {
			c, known := crewAt[*s.Crew]
			if !known || !slices.Contains(r.able[i], c) {
				return n, false
			}
			n.crews[i] = c
		}
		if s.Step != r.Steps[i].ID || (s.Crew == nil) == r.Steps[i].ByHands() {
			return n, false
		}
	}
	for c := range r.Crews {
		n.follow(n.inTurn(c, starts))
	}
	return n, true
}

// plan says a node that was raised.
func (r *ready) plan(n node) (p Plan) {
	for i, s := range r.Steps {
		start := Start{Step: s.ID, Start: n.starts[i], End: n.ends[i], Held: r.held(n, i)}
		if c := n.crews[i]; c >= 0 {
			start.Crew = &r.Crews[c].ID
		}
		p.Starts = append(p.Starts, start)
	}
	end, sum := r.endOf(n)
	p.Found, p.End, p.Sum = true, &end, &sum
	return p
}

// Again is the same crews doing the same steps in the same order under other conditions; false where that cannot be.
func Again(p Problem, plan Plan) (Plan, bool) {
	r := readyOf(p)
	n, is := r.nodeOf(plan)
	if !is || !r.raise(&n) {
		return Plan{Starts: []Start{}}, false
	}
	return r.plan(n), true
}

// Slacks are how much later each step may begin, min, with all crews and orders as planned and the end of all unmoved.
func Slacks(p Problem, plan Plan) map[string]int {
	slacks := map[string]int{}
	r := readyOf(p)
	base, is := r.nodeOf(plan)
	if !is || !r.raise(&base) {
		return slacks
	}
	end, _ := r.endOf(base)
	r.Horizon = end
	for i := range r.Steps {
		fits := func(later int) bool {
			n := base.with(base.crews, base.order)
			return r.set(&n, i, base.starts[i]+later) && r.settle(&n, []int{i})
		}
		least, most := 0, grid // doubled until it does not fit, then looked for in between
		for fits(most) {
			least, most = most, 2*most
		}
		least += grid * sort.Search((most-least)/grid-1, func(k int) bool { return !fits(least + grid*(k+1)) })
		slacks[r.Steps[i].ID] = least
	}
	return slacks
}

// Window is from when and until when a step may begin as its plan stands, by the waits that it has: the latest of what opens it
// and the earliest of what shuts it; nil where nothing does.
type Window struct{ Opens, Shuts *int }

// Windows are those of all steps of a plan.
func Windows(p Problem, plan Plan) map[string]Window {
	at, windows := map[string]Start{}, map[string]Window{}
	for _, s := range plan.Starts {
		at[s.Step] = s
	}
	for _, s := range p.Steps {
		windows[s.ID] = Window{Shuts: s.NotAfter}
	}
	for _, l := range p.Links {
		before, there := at[l.Before]
		if !there {
			continue
		}
		w, x := windows[l.After], l.from(before.Start, before.End)
		if opens := l.opens(x); (l.Least > 0 || len(l.Opens) > 0) && (w.Opens == nil || opens > *w.Opens) {
			w.Opens = &opens
		}
		if shuts, is := l.shuts(x); is && (w.Shuts == nil || shuts < *w.Shuts) {
			w.Shuts = &shuts
		}
		windows[l.After] = w
	}
	return windows
}

// Fixed is a problem of which crews and orders are given, to be asked often.
type Fixed struct{ r *ready }

// Nobody is bound to a step that runs by itself; Undecided is who does one of which nothing is chosen yet.
const (
	Nobody    = nobody
	Undecided = undecided
)

// Fix makes a problem ready.
func Fix(p Problem) Fixed { return Fixed{readyOf(p)} }

// Ends are the end of all and the sum of the areas' ends with a crew for each step and pairs of steps that one crew does one after
// the other; false where that cannot be.
func (f Fixed) Ends(crews []int, order [][2]int) (end, sum int, is bool) {
	n := node{crews: crews, order: order, starts: make([]int, len(f.r.Steps))}
	for i, c := range crews {
		if c == undecided && len(f.r.able[i]) == 0 {
			return 0, 0, false
		}
	}
	if !f.r.raise(&n) {
		return 0, 0, false
	}
	end, sum = f.r.endOf(n)
	return end, sum, true
}

// endOf is the end of all, and the sum of the areas' ends.
func (r *ready) endOf(n node) (end, sum int) {
	last := make([]int, r.areas)
	for i, e := range n.ends {
		end, last[r.area[i]] = max(end, e), max(last[r.area[i]], e)
	}
	for _, e := range last {
		sum += e
	}
	return end, sum
}
