package cutting

import (
	"cmp"
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
	slices.SortStableFunc(t.order, func(i, j int) int {
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

// The network: material comes from above for each cut run, runs down its pieces one join after
// the other, and lands in the rolls. What a pipe must carry at least is drawn off at its head and
// fed in again at its foot.
const (
	above = iota
	below
	landed
	firstBin
)

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
		slices.SortFunc(r.Pieces, func(a, b Piece) int {
			return cmp.Or(cmp.Compare(b.Length(), a.Length()), cmp.Compare(a.Run, b.Run), cmp.Compare(a.From, b.From))
		})
	}
	slices.SortStableFunc(rolls, func(a, b Roll) int {
		return cmp.Or(cmp.Compare(flag(a.Offcut < 0), flag(b.Offcut < 0)), cmp.Compare(a.Rest, b.Rest))
	})
	return rolls
}
