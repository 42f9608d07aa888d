package schedule

import (
	"slices"
	"sort"
)

// Of a step: nobody is bound, or no crew is chosen yet.
const (
	nobody    = -2
	undecided = -1
)

// never is later than any horizon.
const never = 1 << 40

// ready is a problem with everything by number.
type ready struct {
	Problem
	area   []int
	able   [][]int // crews that can do each step
	links  []linked
	kin    []int   // the first crew that is like each one: same shifts, able to the same
	behind []int   // how long the way behind each step is at least, min
	into   [][]int // links that end at each step
	outOf  [][]int // and that begin there
	rank   []int   // of a step among those that come before it
	areas  int
	moves  int // steps that were looked at again, all in all
	bounds     // of a search alone
}

type linked struct {
	Link
	before, after int
}

func readyOf(p Problem) *ready {
	r := &ready{Problem: p, area: make([]int, len(p.Steps)), able: make([][]int, len(p.Steps)), kin: make([]int, len(p.Crews))}
	index, areas := map[string]int{}, map[string]int{}
	for i, s := range p.Steps {
		index[s.ID] = i
		if _, known := areas[s.Area]; !known {
			areas[s.Area] = len(areas)
		}
		r.area[i] = areas[s.Area]
		if !s.ByHands() {
			continue
		}
		for c, crew := range p.Crews {
			if crew.Can(s) {
				r.able[i] = append(r.able[i], c)
			}
		}
	}
	for _, l := range p.Links {
		r.links = append(r.links, linked{l, index[l.Before], index[l.After]})
	}
	r.into, r.outOf = make([][]int, len(p.Steps)), make([][]int, len(p.Steps))
	for k, l := range r.links {
		r.into[l.after] = append(r.into[l.after], k)
		r.outOf[l.before] = append(r.outOf[l.before], k)
	}
	for c := range p.Crews {
		r.kin[c] = slices.IndexFunc(p.Crews, func(other Crew) bool { return r.alike(other, p.Crews[c]) })
	}
	r.behind, r.rank, r.areas = r.tails(), r.ranks(), len(areas)
	return r
}

// Can tells whether a crew is as many as a step needs, with its licence.
func (c Crew) Can(s Step) bool {
	return c.People >= s.People && (s.Licence == "" || slices.Contains(c.Licences, s.Licence))
}

// alike tells whether two crews have the same shifts and can do the same steps.
func (r *ready) alike(a, b Crew) bool {
	return slices.Equal(a.Shifts, b.Shifts) && !slices.ContainsFunc(r.Steps, func(s Step) bool { return a.Can(s) != b.Can(s) })
}

func onGrid(t int) int { return (t + grid - 1) / grid * grid }

// next is the least start of a step from a time on, by one crew or by itself.
func (r *ready) next(i, crew, t int) int {
	s := r.Steps[i]
	t = onGrid(max(t, s.NotBefore, 0))
	for t <= r.Horizon {
		if crew >= 0 {
			if t = r.inShift(s, crew, t); t > r.Horizon {
				return never
			}
		}
		end := r.end(i, crew, t)
		moved := false
		for _, shut := range s.Closed {
			if shut[0] < shut[1] && t < shut[1] && end+s.ClosedAfter > shut[0] {
				t, moved = onGrid(shut[1]), true
				break
			}
		}
		if !moved {
			return t
		}
	}
	return never
}

// inShift is the least start from t on that lies in a shift of the crew: with all of the step, where it may not pause.
func (r *ready) inShift(s Step, crew, t int) int {
	for _, shift := range r.shiftsFrom(crew, t) {
		start := max(t, onGrid(shift[0]))
		if s.Pauses && start < shift[1] || !s.Pauses && start+s.Minutes <= shift[1] {
			return start
		}
	}
	return never
}

// shiftsFrom are those of a crew that end after a time.
func (r *ready) shiftsFrom(crew, t int) [][2]int {
	shifts := r.Crews[crew].Shifts
	return shifts[sort.Search(len(shifts), func(k int) bool { return shifts[k][1] > t }):]
}

// end is when a step ends that starts at a time.
func (r *ready) end(i, crew, start int) int {
	s := r.Steps[i]
	if crew < 0 || !s.Pauses {
		return start + s.Minutes
	}
	left := s.Minutes
	for _, shift := range r.shiftsFrom(crew, start) {
		from := max(start, shift[0])
		if worked := shift[1] - from; worked < left {
			left -= worked
			continue
		}
		return from + left
	}
	return never
}

// earliest is the least start of a step from a time on by the crew that is chosen, else by any that is able.
func (r *ready) earliest(i, crew, t int) int {
	if crew != undecided {
		return r.next(i, crew, t)
	}
	least := never
	for _, c := range r.able[i] {
		least = min(least, r.next(i, c, t))
	}
	return least
}

// ends is the least end of a step that begins at a time or later.
func (r *ready) ends(i, crew, start int) int {
	if crew != undecided || !r.Steps[i].Pauses {
		return r.end(i, crew, start)
	}
	least := never
	for _, c := range r.able[i] {
		if begin := r.next(i, c, start); begin < never {
			least = min(least, r.end(i, c, begin))
		}
	}
	return least
}

// reaching is the least start from a time on with which a step's anchor is no earlier than x.
func (r *ready) reaching(i, crew, from, x int, ofStart bool) int {
	s := r.Steps[i]
	switch {
	case ofStart:
		return r.earliest(i, crew, max(from, x))
	case crew < 0 && !s.Pauses || crew == nobody:
		return r.earliest(i, crew, max(from, x-s.Minutes))
	}
	crews := []int{crew}
	if crew == undecided {
		crews = r.able[i]
	}
	least := never
	for _, c := range crews {
		start := 0 // of any crew: what comes before counts too while none is chosen
		if crew != undecided {
			start = from
		}
		if !s.Pauses {
			start = max(start, x-s.Minutes)
		}
		for start = r.next(i, c, start); start < never && r.end(i, c, start) < x; {
			start = r.next(i, c, start+grid)
		}
		least = min(least, start)
	}
	if least == never {
		return never
	}
	return r.earliest(i, crew, max(from, least))
}

// between is how long a crew is on its way from one step to another.
func (r *ready) between(a, b int) int {
	if r.area[a] == r.area[b] {
		return 0
	}
	return r.Travel
}

// raise moves starts later until every condition holds: links, the order on each crew, shifts, closed stretches. It gives
// the ends, and false where a step would end after the horizon or begin after its latest.
func (r *ready) raise(n *node) bool {
	if n.ends == nil {
		n.ends = make([]int, len(n.starts))
	}
	all := make([]int, len(n.starts))
	for i := range all {
		if all[i] = i; !r.set(n, i, n.starts[i]) {
			return false
		}
	}
	return r.settle(n, all)
}

// set lets a step begin no earlier than a time; false where it then ends after the horizon or begins after its latest.
func (r *ready) set(n *node, i, start int) bool {
	if start = r.earliest(i, n.crews[i], start); start == never {
		return false
	}
	n.starts[i], n.ends[i] = start, r.ends(i, n.crews[i], start)
	latest := r.Steps[i].NotAfter
	return n.ends[i] <= r.Horizon && (latest == nil || start <= *latest)
}

// settle moves what the steps that moved make others do, those in turn, and so on. All else has to hold already.
func (r *ready) settle(n *node, moved []int) bool {
	waiting := make([]bool, len(n.starts))
	for _, i := range moved {
		waiting[i] = true
	}
	follows := make([][]int, len(n.starts)) // on the same crew
	for _, pair := range n.order {
		follows[pair[0]] = append(follows[pair[0]], pair[1])
	}
	later := func(i, start int) bool {
		if start <= n.starts[i] {
			return true
		}
		if !waiting[i] {
			waiting[i] = true
			moved = append(moved, i)
		}
		return r.set(n, i, start)
	}
	for len(moved) > 0 {
		i := moved[0]
		moved, waiting[i] = moved[1:], false
		r.moves++
		for _, k := range r.into[i] {
			if !r.openFor(n, r.links[k], later) {
				return false
			}
		}
		for _, k := range r.outOf[i] {
			l := r.links[k]
			if !later(l.after, l.opens(l.from(n.starts[i], n.ends[i]))) || !r.openFor(n, l, later) {
				return false
			}
		}
		for _, next := range follows[i] {
			if !later(next, n.ends[i]+r.between(i, next)) {
				return false
			}
		}
	}
	return true
}

// openFor moves the step before a link later where it has shut before the step after begins.
func (r *ready) openFor(n *node, l linked, later func(i, start int) bool) bool {
	before := l.before
	latest, shuts := l.shuts(l.from(n.starts[before], n.ends[before]))
	if !shuts || latest >= n.starts[l.after] {
		return true
	}
	need, possible := l.anchorFor(n.starts[l.after], r.Horizon)
	if !possible {
		return false
	}
	start := r.reaching(before, n.crews[before], n.starts[before], need, l.Anchor == "start")
	return start < never && later(before, start)
}
