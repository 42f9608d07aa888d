package cutting

import (
	"dusha/core/order"
	"math/bits"
	"math/rand/v2"
	"slices"
)

// stretch is what is still to be laid of a run, from an overlap on.
type stretch struct{ run, from int }

// greedy fills one roll after the other and cuts a run only where the rest would be missed. It
// gives a plan within a number of new rolls, or none. spare is the share of what may be left over
// in all that one roll may leave; chance takes the runs in another order each time.
type greedy struct {
	*task
	spare  float64
	strict bool       // a rest of more than a lap is never left: a join costs no more
	chance *rand.Rand // nil: every roll as full as whole runs make it, the longest first
}

// plan lays the runs into offcuts and a number of new rolls; rolls < 0: as many as it takes,
// joining only what is longer than any roll.
func (g greedy) plan(rolls int) ([]Roll, bool) {
	open := make([]stretch, len(g.Runs))
	for i := range open {
		open[i].run = i
	}
	var plan []Roll
	offcuts := make([]int, len(g.Offcuts))
	for i := range offcuts {
		offcuts[i] = i
	}
	room := rolls * g.Roll
	for _, i := range offcuts {
		room += g.Offcuts[i]
	}
	for i := 0; len(open) > 0; i++ {
		roll := Roll{Offcut: -1, Length: g.Roll}
		if i < len(offcuts) {
			roll.Offcut, roll.Length = offcuts[i], g.Offcuts[offcuts[i]]
		} else if rolls >= 0 && i-len(offcuts) >= rolls {
			return nil, false
		}
		over := mostLength * mostRuns // of what is there, beyond what is left to lay
		if rolls >= 0 {
			over = room
			for _, s := range open {
				over -= g.Runs[s.run].Length - s.from
			}
			if over < 0 {
				return nil, false
			}
		}
		room -= roll.Length
		roll.Rest = roll.Length
		leave := int(float64(over) * g.spare)
		if g.strict {
			leave = min(leave, g.Lap)
		}
		open = g.fill(&roll, open, leave)
		if len(roll.Pieces) == 0 && roll.Offcut < 0 {
			return nil, false
		}
		plan = append(plan, roll)
	}
	return tidy(plan), true
}

// fill cuts what it can from a roll and gives what is left to lay.
func (g greedy) fill(roll *Roll, open []stretch, spare int) []stretch {
	length := func(s stretch) int { return g.Runs[s.run].Length - s.from }
	cut := func(s stretch, to int) {
		roll.Pieces = append(roll.Pieces, Piece{Run: g.order[s.run], From: s.from, To: to})
		roll.Rest -= to - s.from
	}
	for _, s := range open { // what is longer than any roll first, and what was begun
		if length(s) > g.longest() {
			if to := g.reach(s, roll.Rest); to > 0 {
				cut(s, to)
				open = slices.DeleteFunc(open, func(o stretch) bool { return o.run == s.run })
				open = append(open, stretch{s.run, to - g.Lap})
				break
			}
		}
	}
	begun := map[int]bool{}
	for _, p := range roll.Pieces {
		begun[slices.Index(g.order, p.Run)] = true
	}
	var free []stretch
	for _, s := range open {
		if !begun[s.run] {
			free = append(free, s)
		}
	}
	lengths := make([]int, len(free))
	rank := make([]int, len(g.Runs))
	for _, s := range free {
		rank[s.run] = length(s)
		if g.chance != nil {
			const third = 3
			rank[s.run] += g.chance.IntN(length(s)*2/third+1) - length(s)/third
		}
	}
	order.By(free, func(a, b stretch) int { return rank[b.run] - rank[a.run] })
	for i, s := range free {
		lengths[i] = length(s)
	}
	chosen := fullest(lengths, roll.Rest)
	taken := map[int]bool{}
	take := func() {
		for _, i := range chosen {
			cut(free[i], g.Runs[free[i].run].Length)
			taken[free[i].run] = true
		}
		open = slices.DeleteFunc(open, func(s stretch) bool { return taken[s.run] })
	}
	rest := roll.Rest
	for _, i := range chosen {
		rest -= lengths[i]
	}
	if rest <= spare {
		take()
		return open
	}
	// A run is begun in the rest; where the rest is too short for that, the shortest piece goes.
	for range 3 {
		best, to := -1, 0
		for i, s := range free {
			if slices.Contains(chosen, i) {
				continue
			}
			if end := g.reach(s, rest); end > 0 && (best < 0 || end-s.from > to-free[best].from) {
				best, to = i, end
			}
			if best >= 0 && len(free) > many {
				break // the first that will do
			}
		}
		if best >= 0 {
			take()
			cut(free[best], to)
			open = slices.DeleteFunc(open, func(s stretch) bool { return s.run == free[best].run })
			return append(open, stretch{free[best].run, to - g.Lap})
		}
		if len(chosen) < 2 {
			break
		}
		shortest := slices.MinFunc(chosen, func(i, j int) int { return lengths[i] - lengths[j] })
		chosen = slices.DeleteFunc(chosen, func(i int) bool { return i == shortest })
		rest += lengths[shortest]
	}
	take()
	return open
}

// reach is how far along its run a piece of a length can go and be joined on, 0 where it cannot.
func (g greedy) reach(s stretch, length int) (to int) {
	least := 0
	if s.from > 0 {
		least = s.from + g.LeastPiece - g.Lap
	}
	most := s.from + length - g.Lap
	for _, places := range g.ends[s.run] {
		for _, p := range places {
			if high := min(p.high, most); high >= max(p.low, least) {
				to = max(to, high+g.Lap)
			}
		}
	}
	return to
}

// fullest chooses lengths that fill a room as far as they can, the first one among them where it
// fits (sums by bit set). Earlier lengths are preferred.
func fullest(lengths []int, room int) []int {
	if room <= 0 {
		return nil
	}
	var forced []int
	for i, length := range lengths {
		if length <= room {
			forced = append(forced, i)
			room -= length
			break
		}
	}
	if len(forced) == 0 || room == 0 {
		return forced
	}
	if len(lengths) > many { // more than one area has: one after the other as they fit
		for i, length := range lengths {
			if i > forced[0] && length <= room {
				forced = append(forced, i)
				room -= length
			}
		}
		return forced
	}
	const word = 64
	words := room/word + 1
	sums := make([]uint64, words)
	by := make([]int16, words*word)
	sums[0] = 1
	for i, length := range lengths {
		if i <= forced[0] || length > room {
			continue
		}
		shift, rest := length/word, uint(length%word)
		for w := words - 1; w >= shift; w-- {
			add := sums[w-shift] << rest
			if rest > 0 && w > shift {
				add |= sums[w-shift-1] >> (word - rest)
			}
			for fresh := add &^ sums[w]; fresh != 0; fresh &= fresh - 1 {
				by[w*word+bits.TrailingZeros64(fresh)] = int16(i)
			}
			sums[w] |= add
		}
	}
	for sum := room; sum > 0; sum-- {
		if sums[sum/word]&(1<<(sum%word)) == 0 {
			continue
		}
		for rest := sum; rest > 0; {
			i := int(by[rest])
			forced = append(forced, i)
			rest -= lengths[i]
		}
		break
	}
	return forced
}
