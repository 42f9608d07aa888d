package cutting

import (
	"cmp"
	"dusha/core/order"
	"slices"
)

// task is what is asked for, made ready for the search: runs longest first, so that the answer
// does not depend on the order they were given in.
type task struct {
	Bands
	order  []int // which of the runs asked for
	least  []int // joins each cannot do without
	twin   []bool
	free   [][]span   // where overlaps may begin
	ends   [][][]span // where a run can be finished from, by joins after it
	sum    int        // of all lengths
	forced int        // joins no plan can do without

	spreads map[[2]int]spread // by run, the first of those alike, and number of joins
	held    int               // stretches in them
}

// spread are the ways of a run with a number of joins.
type spread struct {
	ways [][]span
	all  bool
}

// mostHeld bounds the memory of all spreads, in stretches of 16 bytes: those of an area's runs
// are a few thousand. Beyond it they are worked out anew.
const mostHeld = 1_000_000

func newTask(b Bands) *task {
	t := &task{Bands: b, spreads: map[[2]int]spread{}}
	for i := range b.Runs {
		t.order = append(t.order, i)
	}
	run := func(i int) Run { return b.Runs[i] }
	order.By(t.order, func(i, j int) int {
		a, b := run(i), run(j)
		return cmp.Or(cmp.Compare(b.Length, a.Length), slices.Compare(a.KeepClear, b.KeepClear), cmp.Compare(flag(a.Whole), flag(b.Whole)))
	})
	longest := b.longest()
	t.Runs = nil
	for k, i := range t.order {
		r := run(i)
		t.Runs = append(t.Runs, r)
		t.sum += r.Length
		t.free = append(t.free, b.joinable(r))
		t.ends = append(t.ends, b.finishes(r, longest))
		t.least = append(t.least, b.leastJoins(r, longest, t.ends[k]))
		t.forced += t.least[k]
		same := k > 0 && r.Length == t.Runs[k-1].Length && r.Whole == t.Runs[k-1].Whole && slices.Equal(r.KeepClear, t.Runs[k-1].KeepClear)
		t.twin = append(t.twin, same)
	}
	return t
}

// longest is the longest piece there can be: a roll, or a longer offcut.
func (b Bands) longest() int {
	longest := b.Roll
	for _, length := range b.Offcuts {
		longest = max(longest, length)
	}
	return longest
}

func flag(is bool) int {
	if is {
		return 1
	}
	return 0
}

// mostWays bounds the ways in which the joins of one run are spread over its free stretches; a
// run with more is searched in part, and nothing is called proven then.
const mostWays = 400

// mostTries bounds how many spreads are looked at for them: most may not fit.
const mostTries = 20_000

// ways lists, for a run laid with a number of joins, the stretches in which its overlaps may
// begin, each as tight as the pieces between them allow.
func (t *task) ways(run, joins int) (ways [][]span, all bool, tried int) {
	longest, least := t.longest()-t.Lap, t.LeastPiece-t.Lap
	length := t.Runs[run].Length
	var chosen []span
	all = true
	var pick func(from int)
	pick = func(from int) {
		if tried++; len(ways) >= mostWays || tried > mostTries {
			all = false
			return
		}
		if len(chosen) == joins {
			tight := slices.Clone(chosen)
			last := joins - 1
			tight[0].high = min(tight[0].high, longest)
			tight[last].low = max(tight[last].low, length-longest-t.Lap)
			for k := 1; k <= last; k++ {
				tight[k] = span{max(tight[k].low, tight[k-1].low+least), min(tight[k].high, tight[k-1].high+longest)}
			}
			for k := last - 1; k >= 0; k-- {
				tight[k] = span{max(tight[k].low, tight[k+1].low-longest), min(tight[k].high, tight[k+1].high-least)}
			}
			if !slices.ContainsFunc(tight, func(s span) bool { return s.low > s.high }) {
				ways = append(ways, tight)
			}
			return
		}
		for i := from; i < len(t.free[run]); i++ {
			chosen = append(chosen, t.free[run][i])
			pick(i)
			chosen = chosen[:len(chosen)-1]
		}
	}
	pick(0)
	return ways, all, tried
}
