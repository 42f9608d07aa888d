package cutting

import (
	"dusha/core/fault"
	"dusha/core/order"
)

// Check holds a plan against what was asked for, knowing nothing of how it was found: every run
// is covered from end to end once, pieces overlap by the lap and clear of what they must, no roll
// gives more than it has and no offcut is cut twice. The fault says what is wrong, and where.
func Check(b Bands, rolls []Roll) error {
	wrong := func(what string, pairs ...any) error {
		return fault.At("rolls", "cutting.wrong."+what, pairs...)
	}
	used := map[int]bool{}
	byRun := make([][]Piece, len(b.Runs))
	for i, roll := range rolls {
		switch {
		case roll.Offcut < -1 || roll.Offcut >= len(b.Offcuts):
			return wrong("no_such_offcut", "roll", i+1)
		case roll.Offcut >= 0 && used[roll.Offcut]:
			return wrong("offcut_twice", "roll", i+1)
		case roll.Offcut < 0 && roll.Length != b.Roll, roll.Offcut >= 0 && roll.Length != b.Offcuts[roll.Offcut]:
			return wrong("roll_length", "roll", i+1, "value", roll.Length)
		}
		used[roll.Offcut] = roll.Offcut >= 0
		left := roll.Length
		for _, p := range roll.Pieces {
			if p.Run < 0 || p.Run >= len(b.Runs) {
				return wrong("no_such_run", "run", p.Run+1)
			}
			if p.Length() <= 0 {
				return wrong("empty_piece", "run", p.Run+1)
			}
			left -= p.Length()
			byRun[p.Run] = append(byRun[p.Run], p)
		}
		if left < 0 {
			return wrong("overfull", "roll", i+1, "value", -left)
		}
		if left != roll.Rest {
			return wrong("rest", "roll", i+1, "value", roll.Rest)
		}
	}
	for i, pieces := range byRun {
		if what, at := b.Runs[i].wrong(b, pieces); what != "" {
			return wrong(what, "run", i+1, "value", at)
		}
	}
	return nil
}

// wrong tells how pieces fail to deliver a run, and where along it.
func (r Run) wrong(b Bands, pieces []Piece) (what string, at int) {
	order.By(pieces, func(a, b Piece) int { return a.From - b.From })
	if len(pieces) == 0 || pieces[0].From != 0 {
		return "not_covered", 0
	}
	if len(pieces) > 1 && r.Whole {
		return "joined", pieces[0].To
	}
	last := len(pieces) - 1
	for i, p := range pieces[:last] {
		next := pieces[i+1]
		overlap := p.To - next.From
		switch {
		case overlap != b.Lap:
			return "lap", next.From
		case next.From < b.JoinClear || p.To > r.Length-b.JoinClear:
			return "join_at_end", next.From
		case i > 0 && p.Length() < b.LeastPiece:
			return "short_piece", p.From
		}
		for _, at := range r.KeepClear {
			if p.To > at-b.JoinClear && next.From < at+b.JoinClear {
				return "join_at_penetration", at
			}
		}
	}
	if pieces[last].To != r.Length {
		return "not_covered", pieces[last].To
	}
	return "", 0
}

// Measured is what a plan comes to.
type Measured struct {
	Rolls   int `json:"rolls"` // new ones
	Joins   int `json:"joins"`
	Longest int `json:"longest_offcut_mm"` // the longest rest on one new roll that was opened
}

// Measure counts a plan that Check finds nothing wrong with.
func Measure(b Bands, rolls []Roll) Measured {
	m := Measured{Joins: -len(b.Runs)}
	for _, roll := range rolls {
		m.Joins += len(roll.Pieces)
		if roll.Offcut < 0 && len(roll.Pieces) > 0 {
			m.Rolls++
			m.Longest = max(m.Longest, roll.Rest)
		}
	}
	return m
}

// better tells whether a plan comes to less: fewer rolls, then joins, then a longer rest.
func (m Measured) better(than Measured) bool {
	switch {
	case m.Rolls != than.Rolls:
		return m.Rolls < than.Rolls
	case m.Joins != than.Joins:
		return m.Joins < than.Joins
	}
	return m.Longest > than.Longest
}
