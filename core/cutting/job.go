package cutting

import (
	"cmp"
	"dusha/core/order"
	"fmt"
	"slices"
)

// States of a piece.
const (
	ToCut  = "to_cut"
	IsCut  = "cut"
	Spoilt = "spoilt"
)

// Work is a plan on its way from the rolls to the pieces: what is cut, what was spoilt and is to be
// cut once more.
type Work struct {
	Rolls []WorkRoll `json:"rolls"`
	roll  int
}

// WorkRoll is a roll or offcut with its pieces in cutting order.
type WorkRoll struct {
	Offcut int         `json:"offcut"` // which of the offcuts, from 0; -1: a new roll
	Length int         `json:"length_mm"`
	Rest   int         `json:"rest_mm"`
	Pieces []WorkPiece `json:"pieces"`
}

// WorkPiece is a piece with how it stands.
type WorkPiece struct {
	Piece
	ID     string `json:"id"`    // "<mark of the run>/<piece of it>", that from 1
	Label  string `json:"label"` // number of what it is for, with a letter where that is joined
	State  string `json:"state"` // "to_cut", "cut" or "spoilt"
	Length int    `json:"length_mm"`
	Start  int    `json:"start_mm"` // on the roll
	Again  bool   `json:"again"`    // the one before it was spoilt
}

// Mark is what a run is called: what it is for, and the number on its label.
type Mark struct {
	ID     string `json:"id"`
	Number int    `json:"number"`
}

// Start takes a plan to work. marks are those of the runs; roll is the length of a new roll, mm.
func Start(plan []Roll, marks []Mark, roll int) Work {
	w := Work{roll: roll}
	byRun := map[int][]Piece{}
	for _, r := range plan {
		for _, p := range r.Pieces {
			byRun[p.Run] = append(byRun[p.Run], p)
		}
	}
	for _, pieces := range byRun {
		order.By(pieces, func(a, b Piece) int { return cmp.Compare(a.From, b.From) })
	}
	for _, r := range plan {
		on := WorkRoll{Offcut: r.Offcut, Length: r.Length, Rest: r.Length, Pieces: []WorkPiece{}}
		for _, p := range r.Pieces {
			of := byRun[p.Run]
			i := slices.IndexFunc(of, func(o Piece) bool { return o == p })
			mark := Mark{fmt.Sprint(p.Run + 1), p.Run + 1}
			if p.Run < len(marks) {
				mark = marks[p.Run]
			}
			piece := WorkPiece{Piece: p, ID: fmt.Sprintf("%s/%d", mark.ID, i+1), Label: fmt.Sprint(mark.Number), State: ToCut}
			if len(of) > 1 {
				piece.Label += letters(i)
			}
			on.take(piece)
		}
		w.Rolls = append(w.Rolls, on)
	}
	return w
}

// letters are a, b … z, aa, ab …
func letters(i int) string {
	const alphabet = 26
	if i >= alphabet {
		return letters(i/alphabet-1) + letters(i%alphabet)
	}
	return string(rune('a' + i))
}

// take puts a piece at the end of what is cut from a roll.
func (r *WorkRoll) take(p WorkPiece) {
	p.Length = p.To - p.From
	p.Start = r.Length - r.Rest
	r.Rest -= p.Length
	r.Pieces = append(r.Pieces, p)
}

// find gives the piece of an id that is not spoilt.
func (w *Work) find(id string) *WorkPiece {
	for r := range w.Rolls {
		for i := range w.Rolls[r].Pieces {
			if p := &w.Rolls[r].Pieces[i]; p.ID == id && p.State != Spoilt {
				return p
			}
		}
	}
	return nil
}

// Tick marks a piece as cut; false: there is no such piece.
func (w *Work) Tick(id string) bool {
	p := w.find(id)
	if p == nil {
		return false
	}
	p.State = IsCut
	return true
}

// Spoil gives a piece up. It is cut again from the shortest rest that gives it, else from a new roll.
func (w *Work) Spoil(id string) bool {
	p := w.find(id)
	if p == nil {
		return false
	}
	p.State = Spoilt
	again := *p
	again.State, again.Again = ToCut, true
	best := -1
	for r, roll := range w.Rolls {
		if roll.Rest >= again.Length && (best < 0 || roll.Rest < w.Rolls[best].Rest) {
			best = r
		}
	}
	if best < 0 {
		w.Rolls = append(w.Rolls, WorkRoll{Offcut: -1, Length: max(w.roll, again.Length), Rest: max(w.roll, again.Length), Pieces: []WorkPiece{}})
		best = len(w.Rolls) - 1
	}
	w.Rolls[best].take(again)
	return true
}

// Left is how many pieces are still to cut, of how many in all.
func (w Work) Left() (left, of int) {
	for _, r := range w.Rolls {
		for _, p := range r.Pieces {
			left += flag(p.State == ToCut)
			of += flag(p.State != Spoilt)
		}
	}
	return left, of
}

// Cut tells whether every piece of a run is cut.
func (w Work) Cut(run int) bool {
	pieces := 0
	for _, r := range w.Rolls {
		for _, p := range r.Pieces {
			if p.Run == run && p.State == ToCut {
				return false
			}
			pieces += flag(p.Run == run && p.State == IsCut)
		}
	}
	return pieces > 0
}

// Rests are what is left of rolls that were cut from, if it is at least so long.
func (w Work) Rests(least int) []int {
	rests := []int{}
	for _, r := range w.Rolls {
		begun := slices.ContainsFunc(r.Pieces, func(p WorkPiece) bool { return p.State != ToCut })
		if begun && r.Rest >= least {
			rests = append(rests, r.Rest)
		}
	}
	return rests
}
