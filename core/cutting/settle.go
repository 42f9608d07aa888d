package cutting

// leaf finds the longest single rest of a full plan, and keeps the plan when it is the best.
func (s *search) leaf() {
	longest, where := -1, -1
	for b := len(s.Offcuts); b < len(s.caps); b++ {
		rest := s.caps[b] - s.fixed[b]
		switch {
		case s.low[b] == 0 && s.fixed[b] == 0:
			continue // never opened
		case s.low[b] > 0:
			if rest <= longest {
				continue
			}
			least, fits := s.settle(b, 0)
			if !fits {
				return // the joins cannot be placed so that every roll has room
			}
			rest -= least
		}
		if rest > longest {
			longest, where = rest, b
		}
	}
	if longest <= s.best && where >= 0 || where < 0 && s.best >= 0 {
		return
	}
	if len(s.cuts) > 0 && !s.settleParts(where, longest) {
		return
	}
	s.best, s.found = max(0, longest), s.plan()
	s.enough = s.best >= s.greatest || where < 0
}

// settle asks whether joins can be placed so that every roll has room for its parts, with as
// little as possible in one of them (none: -1): how much that is.
func (s *search) settle(lean, leanRoom int) (least int, fits bool) {
	if s.moved {
		const each = 4 // a network takes as long as some nodes
		s.steps += each * len(s.parts)
	}
	f, need, _ := s.pipes(lean, leanRoom)
	missing := need - f.send(above, below)
	s.cost(f.work)
	if lean < 0 {
		return 0, missing == 0
	}
	return missing, missing <= s.caps[lean]-s.fixed[lean]
}

// settleParts fixes the lengths of all parts, one roll having a rest as long as was found.
func (s *search) settleParts(lean, rest int) bool {
	room := 0
	if lean >= 0 {
		room = s.caps[lean] - s.fixed[lean] - rest
	}
	f, need, pipes := s.pipes(lean, room)
	if f.send(above, below) != need {
		return false
	}
	for i := range s.parts {
		s.parts[i].length = s.parts[i].floor + f.sent(pipes[i])
	}
	return true
}

func (s *search) pipes(lean, leanRoom int) (f *flow, need int, parts []int) {
	f = newFlow(firstBin + len(s.caps) + len(s.parts))
	total := 0
	atLeast := func(from, to, least, most int) int {
		if least > 0 {
			f.pipe(above, to, least)
			f.pipe(from, below, least)
			need += least
		}
		return f.pipe(from, to, most-least)
	}
	for b := range s.caps {
		room := s.caps[b] - s.fixed[b]
		if b == lean {
			room = leanRoom
		}
		if s.low[b] > 0 {
			f.pipe(firstBin+b, landed, room)
		}
	}
	for i, p := range s.parts {
		cut := s.cuts[p.cut]
		node := firstBin + len(s.caps) + i
		if p.number == len(cut.joins) {
			all := s.lengths[p.cut]
			f.pipe(above, node, all)
			need, total = need+all, total+all
		}
		parts = append(parts, atLeast(node, firstBin+p.bin, p.floor, mostLength))
		if p.number > 0 {
			before := cut.joins[p.number-1]
			laps := p.number * s.Lap
			atLeast(node, node-1, before.low+laps, before.high+laps)
		}
	}
	f.pipe(landed, below, total)
	return f, need, parts
}

// The network: material comes from above for each cut run, runs down its pieces one join after
// the other, and lands in the rolls. What a pipe must carry at least is drawn off at its head and
// fed in again at its foot.
const (
	above = iota
	below
	landed
	firstBin
)
