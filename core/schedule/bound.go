package schedule

import (
	"cmp"
	"slices"
	"sort"

	"dusha/core/order"
)

// bounds are what the least end of a part of all plans is reckoned by.
type bounds struct {
	setUp    []int   // what the crew of each step leaves free before it, unless it is the first of its shift: its way, or a wait, min
	byBehind []int   // steps by hands, those with the longest way behind them first
	alone    []hours // of each crew by itself
	shared   []team  // crews that alone can do the same steps
	teams    []team  // the same with all that nobody else can do; and all crews
}

// team are some crews by their hours, and steps that they do, those with the longest way behind them first.
type team struct {
	hours hours
	steps []int
}

func (r *ready) reckoned() (b bounds) {
	b.setUp = r.setUps()
	for i, s := range r.Steps {
		if s.ByHands() {
			b.byBehind = append(b.byBehind, i)
		}
	}
	order.By(b.byBehind, func(x, y int) int { return cmp.Compare(r.behind[y], r.behind[x]) })
	stepsOf := func(does func(i int) bool) (steps []int) {
		for _, i := range b.byBehind {
			if does(i) {
				steps = append(steps, i)
			}
		}
		return steps
	}
	var known [][]int // crews
	for _, i := range b.byBehind {
		able := r.able[i]
		if len(able) < 2 || slices.ContainsFunc(known, func(other []int) bool { return slices.Equal(other, able) }) {
			continue
		}
		known = append(known, able)
		of := func(c int) bool { return slices.Contains(able, c) }
		h := r.hoursOf(of)
		b.shared = append(b.shared, team{h, stepsOf(func(i int) bool { return slices.Equal(r.able[i], able) })})
		b.teams = append(b.teams, team{h, stepsOf(func(i int) bool {
			return !slices.ContainsFunc(r.able[i], func(c int) bool { return !of(c) })
		})})
	}
	b.teams = append(b.teams, team{r.hoursOf(func(int) bool { return true }), b.byBehind})
	for c := range r.Crews {
		h := r.hoursOf(func(other int) bool { return other == c })
		b.alone = append(b.alone, h)
		b.teams = append(b.teams, team{h, stepsOf(func(i int) bool { return len(r.able[i]) == 1 && r.able[i][0] == c })})
	}
	return b
}

// handsEnd is the least time by which hands can have done everything: on each crew what is given to it, one after the
// other, and by all crews together what only they can do.
func (r *ready) handsEnd(n node) (end int) {
	for c := range r.Crews {
		var given []int
		for _, i := range r.byBehind {
			if n.crews[i] == c {
				given = append(given, i)
			}
		}
		end = max(end, r.workedBy(r.alone[c], n, given))
	}
	for _, t := range r.shared {
		end = max(end, r.workedBy(t.hours, n, t.steps))
	}
	return end
}

// tailCuts is for how many lengths of the way behind them the steps of a crew are added up by themselves.
const tailCuts = 3

// workedBy is the least end that some crews together leave: they work the minutes of some steps, none before it may begin,
// and behind the last of them lies the shortest way that is left behind any. Steps with long ways behind them, which come first,
// count by themselves too.
func (r *ready) workedBy(h hours, n node, steps []int) (end int) {
	sum := toWork{first: never}
	for k, i := range steps {
		sum.add(r, n, i)
		if done := k + 1; done*tailCuts/len(steps) > k*tailCuts/len(steps) {
			end = max(end, h.worked(sum)+r.behind[i])
		}
	}
	return end
}

// floor is a time before which no plan of all ends; never where there is no plan at all. It asks of an end whether all that
// would have to be done by some time, counted back from it, can be done by then.
func (r *ready) floor(root node) int {
	root = root.with(root.crews, root.order)
	root.ends = nil
	if !r.raise(&root) {
		return never
	}
	least, _ := r.endOf(root)
	later := sort.Search(r.Horizon-least+1, func(later int) bool { return r.mayEnd(root, least+later) })
	if least+later > r.Horizon {
		return never
	}
	return least + later
}

// mayEnd tells whether hands suffice for an end of all: of all crews, and of those that alone can do some steps; between each day
// and each time by which some steps have to be done.
func (r *ready) mayEnd(root node, end int) bool {
	by, is := r.deadlines(root, end)
	if !is {
		return false
	}
	const day = 24 * 60
	for _, t := range r.teams {
		steps := slices.Clone(t.steps)
		order.By(steps, func(a, b int) int { return cmp.Compare(by[a], by[b]) })
		for from := 0; from < end; from += day {
			sum := toWork{first: never}
			for _, i := range steps {
				if root.starts[i] < from {
					continue
				}
				if sum.add(r, root, i); t.hours.worked(sum) > by[i] {
					return false
				}
			}
		}
	}
	return true
}

// deadlines are when each step has to have ended so that all end by a time; false where one cannot. Closed stretches are left
// out of it: without them they are later.
func (r *ready) deadlines(root node, end int) (by []int, is bool) {
	by, starts := make([]int, len(r.Steps)), make([]int, len(r.Steps))
	steps := make([]int, len(r.Steps))
	for i, s := range r.Steps {
		steps[i], by[i], starts[i] = i, end, end
		if s.NotAfter != nil {
			starts[i] = *s.NotAfter
		}
	}
	order.By(steps, func(a, b int) int { return cmp.Compare(r.rank[b], r.rank[a]) })
	for moved := true; moved; {
		moved = false
		for _, i := range steps {
			start, done := starts[i], by[i]
			for _, k := range r.outOf[i] {
				l := r.links[k]
				if anchor := l.openedBy(starts[l.after], end); l.Anchor == "start" {
					start = min(start, anchor)
				} else {
					done = min(done, anchor)
				}
			}
			for _, k := range r.into[i] {
				l := r.links[k]
				if shuts, is := l.shuts(l.from(starts[l.before], by[l.before])); is {
					start = min(start, shuts)
				}
			}
			if start, done = r.latest(i, start, done); start < root.starts[i] {
				return nil, false
			}
			moved = moved || start < starts[i] || done < by[i]
			starts[i], by[i] = start, done
		}
	}
	return by, true
}

// latest is when a step begins at the latest, and then ends, in some shift of a crew that is able, no later than it may.
func (r *ready) latest(i, start, by int) (int, int) {
	s := r.Steps[i]
	if !s.ByHands() {
		start = min(start, by-s.Minutes)
		return start, start + s.Minutes
	}
	begins, ends := -1, -1
	for _, c := range r.able[i] {
		left := s.Minutes
		for _, shift := range slices.Backward(r.Crews[c].Shifts) {
			to := min(shift[1], by)
			if to <= shift[0] {
				continue
			}
			at := min(start, to-left)
			if s.Pauses {
				ends = max(ends, to)
				if left -= to - shift[0]; left > 0 {
					continue
				}
			} else if at = at / grid * grid; at < shift[0] {
				continue
			}
			begins = max(begins, at)
			break
		}
	}
	if !s.Pauses {
		ends = begins + s.Minutes
	}
	return begins, ends
}

// setUps are what a crew leaves free before each step at least: the way from another area, or what the step waits for after any of
// its own area that may come right before it; nothing where one waits for nothing.
func (r *ready) setUps() []int {
	free := make([]int, len(r.Steps))
	for i := range free {
		free[i] = r.Travel
	}
	sorted := slices.Clone(r.links) // each after those that it builds on
	order.By(sorted, func(a, b linked) int { return cmp.Compare(r.rank[a.after], r.rank[b.after]) })
	inside := make([][]linked, r.areas)
	for _, l := range sorted {
		if area := r.area[l.after]; r.area[l.before] == area {
			inside[area] = append(inside[area], l)
		}
	}
	for area, links := range inside {
		steps := r.inArea(area)
		waits := map[[2]int]int{} // of a step after one before it
		for _, j := range steps {
			for _, l := range links {
				gap := 0
				if way, behind := waits[[2]int{j, l.before}]; behind {
					gap = way + l.wait()
					if l.Anchor != "start" {
						gap += r.Steps[l.before].Minutes
					}
				} else if l.before != j {
					continue
				} else if l.Anchor != "start" {
					gap = l.wait()
				}
				waits[[2]int{j, l.after}] = max(gap, waits[[2]int{j, l.after}])
			}
		}
		for _, i := range steps {
			for _, j := range steps {
				if _, later := waits[[2]int{i, j}]; j != i && !later {
					free[i] = min(free[i], waits[[2]int{j, i}])
				}
			}
		}
	}
	return free
}

// wait is how long after its anchor a link opens at least.
func (l Link) wait() int {
	if len(l.Opens) == 0 {
		return l.Least
	}
	least := never
	for _, point := range l.Opens {
		least = min(least, point[1]-point[0])
	}
	return least
}

// hours are what some crews together can have worked by when, min: after each of some times so many of them are at work. What is
// free before the first step of a shift lies in the break, so each shift counts as if it began a way sooner.
type hours struct{ at, done, by []int }

// hoursOf are those of some crews.
func (r *ready) hoursOf(of func(crew int) bool) (h hours) {
	var edges [][2]int
	for c, crew := range r.Crews {
		for _, shift := range crew.Shifts {
			if of(c) {
				edges = append(edges, [2]int{shift[0] - r.Travel, 1}, [2]int{shift[1], -1})
			}
		}
	}
	order.By(edges, func(a, b [2]int) int { return cmp.Compare(a[0], b[0]) })
	for k, e := range edges {
		done, by := 0, e[1]
		if k > 0 {
			done, by = h.done[k-1]+h.by[k-1]*(e[0]-h.at[k-1]), h.by[k-1]+e[1]
		}
		h.at, h.done, h.by = append(h.at, e[0]), append(h.done, done), append(h.by, by)
	}
	return h
}

// toWork are some steps together: the first of them begins no sooner than a time, and they take so many minutes with what their crews leave
// free before each one.
type toWork struct{ first, minutes, way int }

func (t *toWork) add(r *ready, n node, i int) {
	t.first, t.minutes = min(t.first, n.starts[i]), t.minutes+r.setUp[i]+r.Steps[i].Minutes
	t.way = r.Travel
}

// worked is when that can be done.
func (h hours) worked(t toWork) int {
	from := t.first - t.way
	k := sort.SearchInts(h.at, from+1) - 1 // the last that is no later
	minutes := t.minutes
	if k >= 0 {
		minutes += h.done[k] + h.by[k]*(from-h.at[k])
	}
	k = max(0, sort.SearchInts(h.done, minutes)-1)
	if k+1 >= len(h.at) { // beyond the last shift
		return never
	}
	return h.at[k] + (minutes-h.done[k]+h.by[k]-1)/h.by[k]
}
