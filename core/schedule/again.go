package schedule

import (
	"cmp"
	"slices"

	"dusha/core/order"
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
	for i, s := range plan.Starts {
		if n.crews[i] = nobody; s.Crew != nil {
			c, known := crewAt[*s.Crew]
			if !known || !slices.Contains(r.able[i], c) {
				return n, false
			}
			n.crews[i] = c
		}
		if s.Step != r.Steps[i].ID || (s.Crew == nil) == r.Steps[i].byHands() {
			return n, false
		}
	}
	for c := range r.Crews {
		own := n.given(c)
		order.By(own, func(a, b int) int { return cmp.Compare(plan.Starts[a].Start, plan.Starts[b].Start) })
		for k := 1; k < len(own); k++ {
			n.order = append(n.order, [2]int{own[k-1], own[k]})
		}
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
			n.starts[i] = base.starts[i] + later
			return r.raise(&n)
		}
		least, most := 0, grid // in steps of the grid: doubled until it does not fit, then halved in between
		for fits(most) && most < end {
			least, most = most, 2*most
		}
		for most-least > grid {
			if mid := onGrid(least + (most-least)/2); mid < most && fits(mid) {
				least = mid
			} else if mid == most {
				break
			} else {
				most = mid
			}
		}
		slacks[r.Steps[i].ID] = least
	}
	return slacks
}

// Window is from when and until when a step may begin as its plan stands, by the waits that it has: the latest of what opens it
// and the earliest of what shuts it; nil where nothing does.
func Window(p Problem, plan Plan, step string) (opens, shuts *int) {
	for i, s := range p.Steps {
		if s.ID == step && s.NotAfter != nil && i < len(plan.Starts) {
			shuts = s.NotAfter
		}
	}
	at := map[string]Start{}
	for _, s := range plan.Starts {
		at[s.Step] = s
	}
	for _, l := range p.Links {
		before, there := at[l.Before]
		if l.After != step || !there {
			continue
		}
		x := before.End
		if l.Anchor == "start" {
			x = before.Start
		}
		if waits := l.Least > 0 || len(l.Opens) > 0; waits && (opens == nil || l.opens(x) > *opens) {
			v := l.opens(x)
			opens = &v
		}
		if v, is := l.shuts(x); is && (shuts == nil || v < *shuts) {
			shuts = &v
		}
	}
	return opens, shuts
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
