// Package everyway tries every plan of small cutting tasks on a grid, for tests and measurements: it
// knows nothing of how the solver searches.
package everyway

import (
	"slices"

	"dusha/core/cutting"
)

// Grid is how finely runs are cut, mm: lengths, laps and rolls of a task are multiples of it, so
// that some best plan lies on it.
const Grid = 100

const none = 1 << 20

// Rolls tries every way to cut with a number of joins in all, and every way to lay the pieces into
// offcuts and rolls: the fewest new rolls, -1 where there is no way.
func Rolls(b cutting.Bands, joins int) int {
	best := none
	each(b, joins, func(pieces []int) {
		var need []int
		if len(b.Offcuts) == 0 {
			need = byFill(b.Roll, pieces)
		} else {
			need = bySubset(b, pieces)
		}
		best = min(best, need[len(need)-1])
	})
	if best == none {
		return -1
	}
	return best
}

// Longest is the longest rest on one roll of all plans with so many joins and new rolls; it is for
// tasks without offcuts.
func Longest(b cutting.Bands, joins, rolls int) int {
	longest := -1
	each(b, joins, func(pieces []int) {
		need := byFill(b.Roll, pieces)
		all := len(need) - 1
		for sub := 1; sub <= all; sub++ {
			sum := 0
			for i, length := range pieces {
				if sub>>i&1 == 1 {
					sum += length
				}
			}
			if sum <= b.Roll && 1+need[all&^sub] <= rolls {
				longest = max(longest, b.Roll-sum)
			}
		}
	})
	return longest
}

// byFill is the fewest rolls for every set of pieces, and of these the least in the last roll.
func byFill(roll int, pieces []int) []int {
	n := 1 << len(pieces)
	need, fill := make([]int, n), make([]int, n)
	for mask := 1; mask < n; mask++ {
		need[mask], fill[mask] = none, none
		for i, length := range pieces {
			if mask>>i&1 == 0 || length > roll {
				continue
			}
			rolls, in := need[mask&^(1<<i)], fill[mask&^(1<<i)]
			if rolls == 0 || in+length > roll {
				rolls, in = rolls+1, 0
			}
			if in += length; rolls < need[mask] || rolls == need[mask] && in < fill[mask] {
				need[mask], fill[mask] = rolls, in
			}
		}
	}
	return need
}

// bySubset is the fewest new rolls for every set of pieces beside the offcuts.
func bySubset(b cutting.Bands, pieces []int) []int {
	need := byFill(b.Roll, pieces)
	n := len(need)
	sum := make([]int, n)
	for mask := 1; mask < n; mask++ {
		for i, length := range pieces {
			if mask>>i&1 == 1 {
				sum[mask] += length
			}
		}
	}
	for _, offcut := range b.Offcuts {
		with := slices.Clone(need)
		for mask := 1; mask < n; mask++ {
			for sub := mask; sub > 0; sub = (sub - 1) & mask {
				if sum[sub] <= offcut {
					with[mask] = min(with[mask], need[mask&^sub])
				}
			}
		}
		need = with
	}
	return need
}

// each goes through all pieces that the runs can be cut into with a number of joins in all.
func each(b cutting.Bands, joins int, consider func(pieces []int)) {
	var pieces []int
	var run func(i, left int)
	var piece func(i, from, left int)
	piece = func(i, from, left int) { // the one that begins at from, and those after it
		r := b.Runs[i]
		pieces = append(pieces, r.Length-from)
		run(i+1, left)
		pieces = pieces[:len(pieces)-1]
		if left == 0 || r.Whole {
			return
		}
	places:
		for at := b.JoinClear; at+b.Lap+b.JoinClear <= r.Length; at += Grid {
			if at <= from || from > 0 && at+b.Lap-from < b.LeastPiece {
				continue
			}
			for _, clear := range r.KeepClear {
				if at+b.Lap > clear-b.JoinClear && at < clear+b.JoinClear {
					continue places
				}
			}
			pieces = append(pieces, at+b.Lap-from)
			piece(i, at, left-1)
			pieces = pieces[:len(pieces)-1]
		}
	}
	run = func(i, left int) {
		if i < len(b.Runs) {
			piece(i, 0, left)
		} else if left == 0 {
			consider(pieces)
		}
	}
	run(0, joins)
}
