package cutting

import "slices"

// lay sets out the parts and the whole runs of a choice of cuts.
func (s *search) lay() bool {
	s.parts, s.whole, s.left, s.lengths = s.parts[:0], s.whole[:0], s.left[:0], s.lengths[:0]
	s.cost(len(s.Runs) + len(s.caps))
	isCut := map[int]bool{}
	for c := range s.cuts {
		cut := &s.cuts[c]
		isCut[cut.run] = true
		last := len(cut.joins)
		s.lengths = append(s.lengths, s.Runs[cut.run].Length+last*s.Lap)
		for k := 0; k <= last; k++ {
			p := part{cut: c, number: k, bin: -1}
			switch {
			case k == 0:
				p.low = cut.joins[0].low + s.Lap
			case k == last:
				p.low = s.Runs[cut.run].Length - cut.joins[k-1].high
			default:
				p.floor = s.LeastPiece
				p.low = max(p.floor, cut.joins[k].low+s.Lap-cut.joins[k-1].high)
			}
			s.parts = append(s.parts, p)
		}
	}
	for run := range s.Runs {
		if !isCut[run] {
			s.whole = append(s.whole, run)
		}
	}
	s.left = slices.Grow(s.left, len(s.whole)+1)[:len(s.whole)+1]
	s.left[len(s.whole)] = 0
	for k := len(s.whole) - 1; k >= 0; k-- {
		s.left[k] = s.left[k+1] + s.Runs[s.whole[k]].Length
	}
	for len(s.fits) <= len(s.whole) {
		s.fits = append(s.fits, make([]int, len(s.caps)))
	}
	for b := range s.caps {
		s.fixed[b], s.low[b] = 0, 0
	}
	return s.placePart(0)
}

// placePart puts a part in a roll; two parts that follow each other never share one.
func (s *search) placePart(k int) bool {
	if k > 0 && (k == len(s.parts) || s.parts[k].number == 0) && !s.groups(k) {
		return true // the runs that are placed do not fit
	}
	if k == len(s.parts) {
		if k == 0 {
			s.groups(0)
		}
		return !s.settles() || s.placeWhole(0)
	}
	if !s.step() {
		return false
	}
	s.cost(len(s.caps))
	p := &s.parts[k]
	depth, first := s.begin()
	for b := first; b < len(s.caps); b++ {
		if p.number > 0 && s.parts[k-1].bin == b || s.low[b]+p.low > s.caps[b] || s.low[b] == 0 && s.likeEmptyBefore(b) {
			continue
		}
		p.bin = b
		s.low[b] += p.low
		on := s.try(depth, b, func() bool { return s.placePart(k + 1) })
		s.low[b] -= p.low
		p.bin = -1
		if !on {
			return false
		}
	}
	s.trail = s.trail[:depth]
	return true
}

// likeEmptyBefore tells whether an empty roll of the same length comes before this one.
func (s *search) likeEmptyBefore(b int) bool {
	for i := range b {
		if s.caps[i] == s.caps[b] && s.low[i] == 0 {
			return true
		}
	}
	return false
}

// groups joins the rolls that share cut runs, as far as parts are placed; false: the cut runs alone
// do not fit.
func (s *search) groups(placed int) bool {
	s.cost(len(s.caps) + placed)
	for b, length := range s.caps {
		s.group[b], s.slack[b] = b, length
	}
	find := func(b int) int {
		for s.group[b] != b {
			s.group[b] = s.group[s.group[b]]
			b = s.group[b]
		}
		return b
	}
	for i := range s.parts[:placed] {
		p := &s.parts[i]
		if p.number == 0 {
			s.slack[find(p.bin)] -= s.lengths[p.cut]
			continue
		}
		one, other := find(s.parts[i-1].bin), find(p.bin)
		if one != other {
			s.group[other] = one
			s.slack[one] += s.slack[other]
		}
	}
	for b := range s.group {
		s.group[b] = find(b)
		if s.group[b] == b && s.slack[b] < 0 {
			return false
		}
	}
	return true
}

// settles tells whether the joins of all cut runs can be placed at once.
func (s *search) settles() bool {
	if len(s.cuts) == 0 {
		return true
	}
	_, fits := s.settle(-1, 0)
	return fits
}

// placeWhole puts a whole run in a roll, the fullest first.
func (s *search) placeWhole(k int) bool {
	if k == len(s.whole) {
		s.leaf()
		return !s.enough
	}
	if !s.step() {
		return false
	}
	if s.hopeless(k) {
		return true
	}
	s.cost(len(s.caps))
	length := s.Runs[s.whole[k]].Length
	after := 0 // of runs alike, each lies in the roll of the one before it or a later one
	if k > 0 && s.Runs[s.whole[k-1]].Length == length {
		after = s.at[k-1]
	}
	fits := s.fits[k][:0]
	for b := after; b < len(s.caps); b++ {
		if s.room(b) < length {
			continue
		}
		at := len(fits)
		fits = append(fits, b)
		for ; at > 0 && s.room(fits[at-1]) > s.room(b); at-- { // few: sorted by hand
			fits[at], fits[at-1] = fits[at-1], b
		}
		if s.alike(fits[:at], b) {
			fits = slices.Delete(fits, at, at+1)
		}
	}
	depth, first := s.begin()
	for i := first; i < len(fits); i++ {
		b := fits[i]
		s.at[k] = b
		s.fixed[b] += length
		s.slack[s.group[b]] -= length
		on := s.try(depth, i, func() bool { return s.placeWhole(k + 1) })
		s.fixed[b] -= length
		s.slack[s.group[b]] += length
		if !on {
			return false
		}
	}
	s.trail = s.trail[:depth]
	return true
}

// room is what a roll still takes in whole runs.
func (s *search) room(b int) int {
	return min(s.caps[b]-s.fixed[b]-s.low[b], s.slack[s.group[b]])
}

// alike tells whether one of the rolls before it, sorted by room, stands just like this one, both
// without parts.
func (s *search) alike(before []int, b int) bool {
	for i := len(before) - 1; i >= 0 && s.low[b] == 0; i-- {
		other := before[i]
		if s.room(other) != s.room(b) {
			return false
		}
		if s.low[other] == 0 && s.caps[other] == s.caps[b] && s.fixed[other] == s.fixed[b] {
			return true
		}
	}
	return false
}

// hopeless tells that the runs left cannot go where they still fit, or that no rest will be
// longer than the best one so far.
func (s *search) hopeless(k int) bool {
	smallest := s.Runs[s.whole[len(s.whole)-1]].Length
	for b := range s.caps {
		s.takes[b] = false
	}
	for b := range s.caps {
		if s.room(b) >= smallest {
			s.takes[s.group[b]] = true
		}
	}
	alive, dead := 0, 0 // slack of groups that still take a run; longest rest in the others
	for b := range s.caps {
		switch g := s.group[b]; {
		case s.takes[g] && g == b:
			alive += s.slack[g]
		case !s.takes[g] && b >= len(s.Offcuts):
			dead = max(dead, s.room(b))
		}
	}
	if alive < s.left[k] {
		return true
	}
	return max(dead, alive-s.left[k]) <= s.best
}
