package schedule

import (
	"cmp"
	"slices"

	"dusha/core/order"
)

// build is a plan in the making: who does what, in which order.
type build struct {
	crews []int
	seq   [][]int // by crew
}

func (r *ready) empty(root node) build {
	return build{slices.Clone(root.crews), make([][]int, len(r.Crews))}
}

// buildOf is a plan taken apart again.
func (r *ready) buildOf(n *node) build {
	b := build{slices.Clone(n.crews), make([][]int, len(r.Crews))}
	for c := range r.Crews {
		b.seq[c] = n.inTurn(c, n.starts)
	}
	return b
}

func (b build) clone() build {
	seq := make([][]int, len(b.seq))
	for c, own := range b.seq {
		seq[c] = slices.Clone(own)
	}
	return build{slices.Clone(b.crews), seq}
}

// without takes the steps of some areas out.
func (b build) without(r *ready, gone map[int]bool) build {
	b = b.clone()
	for c := range b.seq {
		b.seq[c] = slices.DeleteFunc(b.seq[c], func(i int) bool { return gone[r.area[i]] })
	}
	for i := range b.crews {
		if gone[r.area[i]] && r.Steps[i].ByHands() && len(r.able[i]) > 1 {
			b.crews[i] = undecided
		}
	}
	return b
}

// node is the build as a node: pairs of steps that follow each other on a crew. from are starts that are known to be no later.
func (r *ready) node(b build, from []int) node {
	n := node{crews: b.crews, starts: make([]int, len(r.Steps))}
	copy(n.starts, from)
	for _, own := range b.seq {
		n.follow(own)
	}
	return n
}

// follow adds that some steps are done one after the other.
func (n *node) follow(own []int) {
	for k := 1; k < len(own); k++ {
		n.order = append(n.order, [2]int{own[k-1], own[k]})
	}
}

// place puts a step where it ends first, no sooner than a time, into a gap of a crew that is able; false where none leaves a plan.
func (r *ready) place(b *build, n *node, i, from int) bool {
	type gap struct{ crew, at, start, end int }
	var gaps []gap
	for _, c := range r.able[i] {
		own := b.seq[c]
		for at := len(own); at >= 0; at-- {
			begin := max(n.starts[i], from)
			if at > 0 {
				begin = max(begin, n.ends[own[at-1]]+r.between(own[at-1], i))
			}
			if at < len(own) && n.starts[own[at]] < begin+r.Steps[i].Minutes {
				if n.ends[own[at]] <= n.starts[i] {
					break // all gaps before lie too early
				}
				continue
			}
			start := r.next(i, c, begin)
			if start == never {
				continue
			}
			end := r.end(i, c, start)
			if at < len(own) && end+r.between(i, own[at]) > n.starts[own[at]] {
				continue
			}
			gaps = append(gaps, gap{c, at, start, end})
		}
	}
	order.By(gaps, func(x, y gap) int { return cmp.Or(cmp.Compare(x.end, y.end), cmp.Compare(y.start, x.start)) })
	for _, g := range gaps[:min(len(gaps), mostTries)] {
		with := b.clone()
		with.crews[i] = g.crew
		with.seq[g.crew] = slices.Insert(with.seq[g.crew], g.at, i)
		child := r.node(with, n.starts)
		child.ends = slices.Clone(n.ends)
		if r.set(&child, i, g.start) && r.settle(&child, []int{i}) {
			*b, *n = with, child
			return true
		}
	}
	return false
}

// insert puts the steps of an area into the gaps of a plan, one after the other. Where a step finds no place in its window the one
// that opened it is laid later, again and again.
func (r *ready) insert(b *build, n *node, area int) bool {
	steps := r.inArea(area)
	type stand struct {
		b build
		n node
	}
	before := make([]stand, len(steps)+1)
	from := make([]int, len(steps))
	const most, later = 60, 60
	tries := 0
	for k := 0; k < len(steps); {
		before[k] = stand{*b, *n} // a step that is placed makes new ones
		if r.place(b, n, steps[k], from[k]) {
			k++
			continue
		}
		j := r.opener(steps, k)
		if tries++; j < 0 || tries > most {
			return false
		}
		from[j] = n.starts[steps[j]] + later
		*b, *n = before[j].b, before[j].n
		for x := j + 1; x < len(steps); x++ {
			from[x] = 0
		}
		k = j
	}
	return true
}

// opener is the step before one whose latest it stands under, else the one right before it; −1 where there is none.
func (r *ready) opener(steps []int, k int) int {
	for _, at := range r.into[steps[k]] {
		l := r.links[at]
		if _, shuts := l.shuts(0); shuts {
			if j := slices.Index(steps, l.before); j >= 0 && j < k {
				return j
			}
		}
	}
	return k - 1
}

// inArea are the steps by hands of an area, each after those that it waits for.
func (r *ready) inArea(area int) (list []int) {
	for i, s := range r.Steps {
		if r.area[i] == area && s.ByHands() {
			list = append(list, i)
		}
	}
	order.By(list, func(a, b int) int { return cmp.Compare(r.rank[a], r.rank[b]) })
	return list
}

// ranks are how many steps come before each one at the most; a ring of links ends the count.
func (r *ready) ranks() []int {
	rank := make([]int, len(r.Steps))
	for range r.Steps {
		moved := false
		for _, l := range r.links {
			if rank[l.after] <= rank[l.before] && rank[l.before] < len(r.Steps) {
				rank[l.after], moved = rank[l.before]+1, true
			}
		}
		if !moved {
			break
		}
	}
	return rank
}

// inserted is a plan made area by area, in an order of areas.
func (r *ready) inserted(root node, b build, areas []int) *node {
	n := r.node(b, root.starts)
	if !r.raise(&n) {
		return nil
	}
	for _, area := range areas {
		if !r.insert(&b, &n, area) {
			return nil
		}
	}
	if !r.bounded(&n) {
		return nil
	}
	return &n
}
