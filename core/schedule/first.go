package schedule

import "cmp"

// leeway is how much later than the first of all a step may begin and still be taken before it by another rule, min.
const leeway = 120

// candidate is a step that may come next, on the crew that ends it first.
type candidate struct {
	step, crew, start, end int
}

// rules say which step comes next among those that may: the one that begins first, the one with the longest way behind it,
// that ends first, that takes longest, or whose area is listed first. Those that begin much later wait in any case.
var rules = []func(r *ready, tails []int, a, b candidate) int{
	func(_ *ready, tails []int, a, b candidate) int {
		return cmp.Or(cmp.Compare(a.start, b.start), cmp.Compare(tails[b.step], tails[a.step]))
	},
	func(_ *ready, tails []int, a, b candidate) int {
		return cmp.Or(cmp.Compare(tails[b.step], tails[a.step]), cmp.Compare(a.start, b.start))
	},
	func(_ *ready, tails []int, a, b candidate) int {
		return cmp.Or(cmp.Compare(a.end, b.end), cmp.Compare(tails[b.step], tails[a.step]))
	},
	func(r *ready, tails []int, a, b candidate) int {
		return cmp.Or(cmp.Compare(r.Steps[b.step].Minutes, r.Steps[a.step].Minutes), cmp.Compare(tails[b.step], tails[a.step]))
	},
	func(r *ready, _ []int, a, b candidate) int {
		return cmp.Or(cmp.Compare(r.area[a.step], r.area[b.step]), cmp.Compare(a.start, b.start))
	},
}

// first is a good plan at once: the best that the rules come to. nil where none comes to one.
func (r *ready) first(root node) (best *node) {
	for _, rule := range rules {
		n := root.with(append([]int{}, root.crews...), nil)
		n.ends = nil
		if r.dispatch(&n, r.behind, rule) && r.bounded(&n) && n.beats(best) {
			best = &n
		}
	}
	return best
}

// dispatch gives one step after the other to a crew, each as early as it may.
func (r *ready) dispatch(n *node, tails []int, rule func(*ready, []int, candidate, candidate) int) bool {
	waits := make([][]int, len(r.Steps))
	for _, l := range r.links {
		waits[l.after] = append(waits[l.after], l.before)
	}
	placed := make([]bool, len(r.Steps))
	last := make([]int, len(r.Crews))
	for c := range last {
		last[c] = nobody
	}
	if !r.raise(n) {
		return false
	}
	for range r.Steps {
		var next []candidate
		soonest := never
		for i := range r.Steps {
			if placed[i] || !all(waits[i], placed) {
				continue
			}
			c := candidate{step: i, crew: nobody, start: n.starts[i], end: n.ends[i]}
			if r.Steps[i].byHands() {
				c.end = never
				for _, crew := range r.able[i] {
					from := n.starts[i]
					if before := last[crew]; before != nobody {
						from = max(from, n.ends[before]+r.between(before, i))
					}
					if start := r.next(i, crew, from); start < never && r.end(i, crew, start) < c.end {
						c.crew, c.start, c.end = crew, start, r.end(i, crew, start)
					}
				}
				if c.end == never {
					return false
				}
			}
			soonest = min(soonest, c.start)
			next = append(next, c)
		}
		if len(next) == 0 {
			return false // a ring of links
		}
		var pick *candidate
		for k := range next {
			if c := &next[k]; c.start <= soonest+leeway && (pick == nil || rule(r, tails, *c, *pick) < 0) {
				pick = c
			}
		}
		placed[pick.step] = true
		if pick.crew >= 0 {
			n.crews[pick.step] = pick.crew
			if before := last[pick.crew]; before != nobody {
				n.order = append(n.order, [2]int{before, pick.step})
			}
			last[pick.crew] = pick.step
		}
		n.starts[pick.step] = max(n.starts[pick.step], pick.start)
		if !r.raise(n) {
			return false
		}
	}
	return true
}

func all(steps []int, placed []bool) bool {
	for _, i := range steps {
		if !placed[i] {
			return false
		}
	}
	return true
}

// tails are how long the way behind each step is at least, by fixed waits, min.
func (r *ready) tails() []int {
	tails := make([]int, len(r.Steps))
	for range r.Steps { // as often as a chain can be long
		moved := false
		for _, l := range r.links {
			if l.Anchor == "start" {
				continue
			}
			if way := l.Least + r.Steps[l.after].Minutes + tails[l.after]; way > tails[l.before] {
				tails[l.before], moved = way, true
			}
		}
		if !moved {
			break
		}
	}
	return tails
}
