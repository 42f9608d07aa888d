package cutting

import (
	"dusha/core/fault"
	"dusha/core/order"
)

// Bands asks for runs of band out of rolls, all lengths in whole mm. Rolls are alike and as many
// as needed; offcuts are rests that lie there: they are cut like a roll and cost none.
//
// A run is delivered in one piece or in several laid in a row. Each join overlaps two pieces by
// the lap, and the whole overlap keeps clear of the run's ends and of what the run passes; inner
// pieces have a least length, so that neighbouring overlaps never meet.
type Bands struct {
	Roll       int   `json:"roll_mm"`
	Lap        int   `json:"lap_mm"`
	LeastPiece int   `json:"min_piece_mm"`  // of a piece between two joins
	JoinClear  int   `json:"join_clear_mm"` // of an overlap from ends and penetrations
	Runs       []Run `json:"runs"`
	Offcuts    []int `json:"offcuts_mm,omitempty"`
}

// Run is one length to be covered, its end laps included.
type Run struct {
	Length    int   `json:"length_mm"`
	KeepClear []int `json:"keep_clear_at_mm,omitempty"` // penetrations, from the run's start
	Whole     bool  `json:"whole,omitempty"`            // never joined
}

// Roll is a roll or offcut with the pieces cut from it, in cutting order.
type Roll struct {
	Offcut int     `json:"offcut"` // which of the offcuts, from 0; -1: a new roll
	Length int     `json:"length_mm"`
	Pieces []Piece `json:"pieces"`
	Rest   int     `json:"rest_mm"`
}

// Piece is a stretch of a run, its overlaps included.
type Piece struct {
	Run  int `json:"run"` // from 0
	From int `json:"from_mm"`
	To   int `json:"to_mm"`
}

// Length of the piece, mm.
func (p Piece) Length() int { return p.To - p.From }

const (
	mostRuns = 1000
	// MostOffcuts is how many offcuts a plan may use.
	MostOffcuts = mostRuns
	mostLength  = 1_000_000 // mm
	mostClear   = 200       // penetrations along a run
	mostJoins   = 200       // in one run
	mostPieces  = 2000      // in all
)

// check refuses what no plan can be made of.
func (b Bands) check() error {
	least := max(b.LeastPiece, b.JoinClear+b.Lap)
	switch {
	case b.Roll <= 0 || b.Roll > mostLength:
		return fault.At("roll_mm", "cutting.roll_out_of_range", "value", b.Roll, "most", mostLength)
	case b.Lap < 0 || b.Lap >= b.Roll:
		return fault.At("lap_mm", "cutting.lap_longer_than_roll", "value", b.Lap, "roll", b.Roll)
	case b.LeastPiece < 0 || b.JoinClear < 0:
		return fault.At("min_piece_mm", "number.not_positive", "value", min(b.LeastPiece, b.JoinClear))
	case b.Roll < least:
		return fault.At("roll_mm", "cutting.roll_shorter_than_piece", "value", b.Roll, "least", least)
	case len(b.Runs) == 0:
		return fault.At("runs", "list.empty")
	case len(b.Runs) > mostRuns:
		return fault.At("runs", "cutting.too_many_runs", "value", len(b.Runs), "most", mostRuns)
	case len(b.Offcuts) > mostRuns:
		return fault.At("offcuts_mm", "list.too_long", "most", mostRuns)
	}
	for i, r := range b.Runs {
		switch {
		case r.Length <= 0 || r.Length > mostLength:
			return fault.At("runs", "cutting.run_out_of_range", "run", i+1, "value", r.Length, "most", mostLength)
		case len(r.KeepClear) > mostClear:
			return fault.At("runs", "list.too_long", "most", mostClear)
		case b.unavoidable(r.Length) > mostJoins:
			return fault.At("runs", "cutting.too_many_joins", "run", i+1, "value", b.unavoidable(r.Length), "most", mostJoins)
		}
	}
	for _, length := range b.Offcuts {
		if length <= 0 || length > mostLength {
			return fault.At("offcuts_mm", "cutting.roll_out_of_range", "value", length, "most", mostLength)
		}
	}
	return nil
}

// joins a run of a length cannot be laid without: ⌈(L − lap)/(roll − lap)⌉ − 1.
func (b Bands) unavoidable(length int) int {
	return max(0, ceilDiv(length-b.Lap, b.Roll-b.Lap)-1)
}

// Bound is the number of new rolls that no plan can do without:
// ⌈(Σ lengths + unavoidable laps − offcuts)/roll⌉, at least 1 where there is no offcut.
func (b Bands) Bound() int {
	sum := 0
	for _, r := range b.Runs {
		sum += r.Length + b.unavoidable(r.Length)*b.Lap
	}
	for _, length := range b.Offcuts {
		sum -= length
	}
	least := 1
	if len(b.Offcuts) > 0 {
		least = 0
	}
	return max(least, ceilDiv(sum, b.Roll))
}

func ceilDiv(a, b int) int {
	if a <= 0 {
		return 0
	}
	return (a + b - 1) / b
}

// span is a stretch of whole mm, both ends included.
type span struct{ low, high int }

// joinable are the places where an overlap may begin in a run: the whole overlap lies clear of
// the ends and of every penetration.
func (b Bands) joinable(r Run) []span {
	if r.Whole {
		return nil
	}
	free := meet([]span{{b.JoinClear, r.Length - b.JoinClear - b.Lap}}, 0, r.Length)
	for _, at := range r.KeepClear {
		free = append(meet(free, 0, at-b.JoinClear-b.Lap), meet(free, at+b.JoinClear, r.Length)...)
	}
	return free
}

// meet are the places of a list within a stretch.
func meet(list []span, low, high int) []span {
	var out []span
	for _, s := range list {
		if l, h := max(s.low, low), min(s.high, high); l <= h {
			out = append(out, span{l, h})
		}
	}
	return out
}

// merged puts overlapping and touching stretches together.
func merged(list []span) []span {
	order.By(list, func(a, b span) int { return a.low - b.low })
	var out []span
	for _, s := range list {
		if n := len(out); n > 0 && s.low <= out[n-1].high+1 {
			out[n-1].high = max(out[n-1].high, s.high)
			continue
		}
		out = append(out, s)
	}
	return out
}

// finishes are the overlap places from which a run can still be finished with pieces no longer
// than a length, by the number of joins after it; none where it never can.
func (b Bands) finishes(r Run, longest int) [][]span {
	free := b.joinable(r)
	var by [][]span
	reach := meet(free, r.Length-longest, r.Length)
	most := min(r.Length/max(1, b.LeastPiece-b.Lap)+2, 2*mostJoins)
	for len(reach) > 0 && len(by) <= most {
		by = append(by, reach)
		var next []span
		for _, s := range reach { // the next overlap lies within a piece's reach of this one
			next = append(next, meet(free, s.low-longest+b.Lap, s.high-b.LeastPiece+b.Lap)...)
		}
		reach = merged(next)
	}
	return by
}

// leastJoins is how few joins a run takes in pieces no longer than a length, from where it can be
// finished; -1: no rule permits it.
func (b Bands) leastJoins(r Run, longest int, finishes [][]span) int {
	if r.Length <= longest {
		return 0
	}
	for k, places := range finishes {
		if len(meet(places, 0, longest-b.Lap)) > 0 {
			return k + 1
		}
	}
	return -1
}
