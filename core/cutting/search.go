package cutting

import (
	"cmp"
	"dusha/core/order"
	"slices"
)

// cutRun is a run that is laid in several pieces.
type cutRun struct {
	run, way int
	joins    []span // where its overlaps begin
}

// part is a piece of a run that is cut; how long it is, is settled last.
type part struct {
	cut, number int
	low         int // least length
	floor       int // of which the rules ask for this much, the rest follows from the joins
	bin         int
	length      int // as settled
}

// search looks through all plans with a number of new rolls and of joins for the one with the
// longest single rest. It walks a tree depth first: which runs are cut and where about, in which
// rolls their pieces lie, where the uncut runs go. The way it came is a list of choices, by which
// it goes on where it stopped.
type search struct {
	*task
	rolls, joins int
	caps         []int // offcuts, then new rolls

	partial  bool // some run had too many ways
	cuts     []cutRun
	parts    []part
	lengths  []int // of the cut runs, laps included
	whole    []int // runs in one piece, longest first
	left     []int // sum of the lengths from here on
	at       []int // roll of each
	fixed    []int // by roll: in whole runs
	low      []int // by roll: the least its parts take
	group    []int // rolls that share cut runs
	slack    []int // by group
	takes    []bool
	fits     [][]int // by depth: rolls to try
	best     int     // longest rest found, -1: nothing yet
	found    []Roll
	steps    int
	most     int
	trail    []int
	resume   []int
	moved    bool
	enough   bool // no plan of this search can be better
	greatest int  // no rest is longer
}

func (t *task) search(rolls, joins int) *search {
	s := &search{task: t, rolls: rolls, joins: joins, best: -1}
	s.caps = append(s.caps, t.Offcuts...)
	s.greatest = -t.sum - joins*t.Lap
	for range rolls {
		s.caps = append(s.caps, t.Roll)
	}
	for _, length := range s.caps {
		s.greatest += length
	}
	bins := len(s.caps)
	s.fixed, s.low, s.group, s.slack, s.takes = make([]int, bins), make([]int, bins), make([]int, bins), make([]int, bins), make([]bool, bins)
	s.at = make([]int, len(t.Runs))
	return s
}

// go on for some steps from where the trail ends; done: nothing is left to look at.
func (s *search) run(steps int, from []int) (done bool) {
	if s.greatest < 0 {
		return true
	}
	s.most, s.resume, s.trail, s.moved = s.steps+steps, slices.Clone(from), s.trail[:0], false
	done = s.chooseCuts(0, s.joins) || s.enough
	return done
}

// step counts one and tells whether there was one left. The way back to where the search stopped
// is free, and so is the first step from there: however few there are, it gets on.
func (s *search) step() bool {
	if len(s.trail) < len(s.resume) {
		return !s.enough
	}
	s.steps++
	first := !s.moved
	s.moved = true
	return (first || s.steps <= s.most) && !s.enough
}

// begin enters a node and gives the choice to begin with.
func (s *search) begin() (depth, first int) {
	depth = len(s.trail)
	if depth < len(s.resume) {
		first = s.resume[depth]
	}
	s.trail = append(s.trail, first)
	return depth, first
}

// try notes a choice on the trail and follows it.
func (s *search) try(depth, choice int, follow func() bool) bool {
	s.trail[depth] = choice
	if !follow() {
		return false
	}
	s.resume = nil
	s.trail = s.trail[:depth+1]
	return true
}

func (s *search) waysOf(run, joins int) [][]span {
	for run > 0 && s.twin[run] {
		run--
	}
	key := [2]int{run, joins}
	found, known := s.spreads[key]
	if !known {
		tried := 0
		found.ways, found.all, tried = s.task.ways(run, joins)
		if s.held += len(found.ways) * joins; s.held > mostHeld {
			clear(s.spreads)
			s.held = len(found.ways) * joins
		}
		s.spreads[key] = found
		s.cost(tried * joins)
	}
	s.partial = s.partial || !found.all
	return found.ways
}

// cost counts work beyond a node's usual in steps, so that a step takes as long for many runs as
// for few.
func (s *search) cost(work int) {
	const usual = 32
	if s.moved {
		s.steps += work / usual
	}
}

// chooseCuts chooses the next run that is laid in several pieces, from a run on.
func (s *search) chooseCuts(from, joins int) bool {
	need := 0
	for _, k := range s.least[from:] {
		need += k
	}
	s.cost(len(s.least) - from)
	if need > joins {
		return true
	}
	if joins == 0 {
		return s.lay()
	}
	if !s.step() {
		return false
	}
	depth, first := s.begin()
	choice := 0
	for run := from; run < len(s.Runs); run++ {
		need -= s.least[run]
		before := len(s.cuts) - 1
		cutBefore := before >= 0 && s.cuts[before].run == run-1
		if s.twin[run] && !cutBefore && run > from {
			continue // the one like it was left whole
		}
		for k := max(1, s.least[run]); k <= joins-need; k++ {
			for w, way := range s.waysOf(run, k) {
				if s.twin[run] && cutBefore && (k > len(s.cuts[before].joins) || k == len(s.cuts[before].joins) && w > s.cuts[before].way) {
					continue
				}
				if choice++; choice-1 < first {
					continue
				}
				s.cuts = append(s.cuts, cutRun{run: run, way: w, joins: way})
				on := s.try(depth, choice-1, func() bool { return s.chooseCuts(run+1, joins-k) })
				s.cuts = s.cuts[:len(s.cuts)-1]
				if !on {
					return false
				}
			}
		}
		if s.least[run] > 0 {
			break // it has to be cut
		}
	}
	s.trail = s.trail[:depth]
	return true
}

// plan writes down what stands: whole runs and settled parts, by roll.
func (s *search) plan() []Roll {
	rolls := make([]Roll, len(s.caps))
	for b, length := range s.caps {
		rolls[b] = Roll{Offcut: -1, Length: length, Rest: length}
		if b < len(s.Offcuts) {
			rolls[b].Offcut = b
		}
	}
	put := func(b, run, from, length int) {
		rolls[b].Pieces = append(rolls[b].Pieces, Piece{Run: s.order[run], From: from, To: from + length})
		rolls[b].Rest -= length
	}
	for k, run := range s.whole {
		put(s.at[k], run, 0, s.Runs[run].Length)
	}
	from := 0
	for _, p := range s.parts {
		if p.number == 0 {
			from = 0
		}
		put(p.bin, s.cuts[p.cut].run, from, p.length)
		from += p.length - s.Lap
	}
	return tidy(rolls)
}

// tidy leaves out rolls that are not cut, and orders pieces and rolls as they are cut: offcuts
// first, the fullest rolls next, the longest piece of each first.
func tidy(rolls []Roll) []Roll {
	rolls = slices.DeleteFunc(rolls, func(r Roll) bool { return len(r.Pieces) == 0 })
	for _, r := range rolls {
		order.By(r.Pieces, func(a, b Piece) int {
			return cmp.Or(cmp.Compare(b.Length(), a.Length()), cmp.Compare(a.Run, b.Run), cmp.Compare(a.From, b.From))
		})
	}
	order.By(rolls, func(a, b Roll) int {
		return cmp.Or(cmp.Compare(flag(a.Offcut < 0), flag(b.Offcut < 0)), cmp.Compare(a.Rest, b.Rest))
	})
	return rolls
}
