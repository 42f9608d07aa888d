package schedule

import (
	"cmp"
	"slices"

	"dusha/core/order"
)

// leeway is how much later than the first of all a step may begin and still be taken before it by another rule, min.
const leeway = 120

// candidate is a step that may come next, on the crew that ends it first.
type candidate struct {
	step, crew, start, end int
}

// rules say which step comes next among those that may: the one that begins first, the one with the longest way behind it,
// that ends first, that takes longest, or whose area is listed first. Those that begin much later wait in any case.
var rules = []func(r *ready, a, b candidate) int{
	func(r *ready, a, b candidate) int {
		return cmp.Or(cmp.Compare(a.start, b.start), cmp.Compare(r.behind[b.step], r.behind[a.step]))
	},
	func(r *ready, a, b candidate) int {
		return cmp.Or(cmp.Compare(r.behind[b.step], r.behind[a.step]), cmp.Compare(a.start, b.start))
	},
	func(r *ready, a, b candidate) int {
		return cmp.Or(cmp.Compare(a.end, b.end), cmp.Compare(r.behind[b.step], r.behind[a.step]))
	},
	func(r *ready, a, b candidate) int {
		return cmp.Or(cmp.Compare(r.Steps[b.step].Minutes, r.Steps[a.step].Minutes), cmp.Compare(r.behind[b.step], r.behind[a.step]))
	},
	func(r *ready, a, b candidate) int {
		return cmp.Or(cmp.Compare(r.area[a.step], r.area[b.step]), cmp.Compare(a.start, b.start))
	},
}

// first is a good plan at once: the best that the rules come to, or that is made area by area. nil where none comes to one.
func (r *ready) first(root node) (best *node) {
	for _, rule := range rules {
		n := root.with(append([]int{}, root.crews...), nil)
		n.ends = nil
		if r.dispatch(&n, rule) && r.bounded(&n) && n.beats(best) {
			best = &n
		}
	}
	if n := r.inserted(root, r.empty(root), r.areasBy(func(int) int { return 0 })); n != nil && n.beats(best) {
		best = n
	}
	return best
}

// areasBy are the areas in an order, as listed where that is the same.
func (r *ready) areasBy(key func(area int) int) []int {
	list := make([]int, r.areas)
	for a := range list {
		list[a] = a
	}
	order.By(list, func(a, b int) int { return cmp.Compare(key(a), key(b)) })
	return list
}

// Of a large problem plans are looked for beside the nodes: as dear as so many of them is one.
const (
	large      = 40  // steps
	dispatchOf = 10  // nodes
	worst      = 400 // min
)

// polish looks for a better plan by taking a few areas out of one and putting them in again in another order, or by beginning
// anew with another order of all while there is none. It goes on from a plan that is a little worse too, less and less so: past a
// hill may lie a better one. It is the same each time for one number.
func (r *ready) polish(root node, best *node, tries int, number int) *node {
	random := lcg(number)
	at := best
	for try := range tries {
		order := map[int]int{}
		for a := range r.areas {
			order[a] = random.below(1 << 20)
		}
		areas := r.areasBy(func(a int) int { return order[a] })
		b := r.empty(root)
		if at != nil {
			areas = areas[:min(len(areas), 1+random.below(4))]
			if last := r.lastArea(at); !slices.Contains(areas, last) && random.below(4) > 0 {
				areas = append([]int{last}, areas...)
			}
			gone := map[int]bool{}
			for _, a := range areas {
				gone[a] = true
			}
			b = r.buildOf(at).without(r, gone)
		}
		n := r.inserted(root, b, areas)
		if n == nil {
			continue
		}
		if n.beats(best) {
			best = n
		}
		if worse := worst * (tries - try) / tries; at == nil || n.end+n.sum <= at.end+at.sum+worse {
			at = n
		}
	}
	return best
}

// lastArea is the area that ends last.
func (r *ready) lastArea(n *node) (area int) {
	end := -1
	for i, e := range n.ends {
		if e > end {
			end, area = e, r.area[i]
		}
	}
	return area
}

// lcg is a stream of numbers that look like chance (Knuth, MMIX).
type lcg uint64

func (l *lcg) below(n int) int {
	*l = *l*6364136223846793005 + 1442695040888963407
	return int(uint64(*l)>>33) % n
}

// dispatch gives one step after the other to a crew, each as early as it may.
func (r *ready) dispatch(n *node, rule func(r *ready, a, b candidate) int) bool {
	placed := make([]bool, len(r.Steps))
	last := make([]int, len(r.Crews))
	for c := range last {
		last[c] = nobody
	}
	if !r.raise(n) {
		return false
	}
	most := r.moves + mostMoves*len(r.Steps)
	for range r.Steps {
		if r.moves > most {
			return false
		}
		var next []candidate
		soonest := never
		for i := range r.Steps {
			if placed[i] || !r.free(i, placed) {
				continue
			}
			c := candidate{step: i, crew: nobody, start: n.starts[i], end: n.ends[i]}
			if r.Steps[i].ByHands() {
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
		// Of what may come now: what shuts soon goes first, then by the rule; one that leaves no plan makes room for the next.
		next = slices.DeleteFunc(next, func(c candidate) bool { return c.start > soonest+leeway })
		order.By(next, func(a, b candidate) int {
			return cmp.Or(cmp.Compare(r.urgent(*n, a), r.urgent(*n, b)), rule(r, a, b))
		})
		placedOne := false
		for _, c := range next[:min(len(next), mostTries)] {
			child := n.with(slices.Clone(n.crews), slices.Clip(n.order))
			if c.crew >= 0 {
				child.crews[c.step] = c.crew
				if before := last[c.crew]; before != nobody {
					child.order = append(child.order, [2]int{before, c.step})
				}
			}
			if !r.set(&child, c.step, max(child.starts[c.step], c.start)) || !r.settle(&child, []int{c.step}) {
				continue
			}
			*n, placed[c.step], placedOne = child, true, true
			if c.crew >= 0 {
				last[c.crew] = c.step
			}
			break
		}
		if !placedOne {
			return false
		}
	}
	return true
}

// mostTries is how many steps are tried at one place of a plan before it is given up.
const mostTries = 6

// mostMoves is how often the steps that are placed may be moved on, for each step, before a rule is given up: in a large problem
// latests can drive each other on and on.
const mostMoves = 50

// urgent is when a step has to begin whose window shuts within a day of its start; one that does not comes after all that do.
func (r *ready) urgent(n node, c candidate) int {
	const soon = 24 * 60
	shuts := never
	for _, k := range r.into[c.step] {
		l := r.links[k]
		if latest, is := l.shuts(l.from(n.starts[l.before], n.ends[l.before])); is {
			shuts = min(shuts, latest)
		}
	}
	if shuts-c.start > soon {
		return never
	}
	return shuts
}

// free tells whether all that a step waits for is placed.
func (r *ready) free(step int, placed []bool) bool {
	return !slices.ContainsFunc(r.into[step], func(k int) bool { return !placed[r.links[k].before] })
}

// tails are how long the way behind each step is at least, min.
func (r *ready) tails() []int {
	tails := make([]int, len(r.Steps))
	for range r.Steps { // as often as a chain can be long
		moved := false
		for _, l := range r.links {
			if l.Anchor == "start" {
				continue
			}
			if way := l.wait() + r.Steps[l.after].Minutes + tails[l.after]; way > tails[l.before] {
				tails[l.before], moved = way, true
			}
		}
		if !moved {
			break
		}
	}
	return tails
}
