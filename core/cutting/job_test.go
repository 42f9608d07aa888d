package cutting_test

import (
	"testing"

	"dusha/core/cutting"
)

func started(t *testing.T) cutting.Work {
	t.Helper()
	b := bands(5000, 4000, 4000, 1500)
	return cutting.Start(solved(t, b, 10_000).Plan, []cutting.Mark{{ID: "a", Number: 7}, {ID: "b", Number: 8}, {ID: "c", Number: 12}}, b.Roll)
}

// Every mm of a roll is a piece or its rest, and pieces lie one after the other.
func adds(t *testing.T, w cutting.Work) {
	t.Helper()
	for i, r := range w.Rolls {
		at := 0
		for _, p := range r.Pieces {
			if p.Start != at || p.Length != p.To-p.From {
				t.Errorf("roll %d: piece %s begins at %d, wanted %d", i, p.Label, p.Start, at)
			}
			at += p.Length
		}
		if at+r.Rest != r.Length || r.Rest < 0 {
			t.Errorf("roll %d: %d in pieces and %d left of %d", i, at, r.Rest, r.Length)
		}
	}
}

func TestLabels(t *testing.T) {
	w := started(t)
	labels := map[string]bool{}
	for _, r := range w.Rolls {
		for _, p := range r.Pieces {
			labels[p.Label] = true
		}
	}
	adds(t, w)
	// 9.5 m from two rolls of 5 m: one run is joined.
	if left, of := w.Left(); left != 4 || of != 4 || len(labels) != 4 || !labels["12"] {
		t.Errorf("%d of %d left: %v", left, of, labels)
	}
}

func TestASpoiltPieceIsCutAgain(t *testing.T) {
	w := started(t)
	whole := w.Rolls[0].Pieces[0].ID
	if !w.Tick(whole) || w.Tick("d/1") || w.Spoil("d/1") {
		t.Fatal("ticking")
	}
	if left, _ := w.Left(); left != 3 {
		t.Errorf("%d left after one was cut", left)
	}
	before := len(w.Rolls)
	if !w.Spoil(whole) {
		t.Fatal("spoiling")
	}
	adds(t, w)
	if left, of := w.Left(); left != 4 || of != 4 || len(w.Rolls) != before+1 {
		t.Errorf("%d of %d left on %d rolls: no rest gives it, a new roll does", left, of, len(w.Rolls))
	}
	// The one cut again is ticked, the spoilt one stays what it is.
	if !w.Tick(whole) || w.Rolls[0].Pieces[0].State != cutting.Spoilt {
		t.Errorf("the spoilt piece is %s", w.Rolls[0].Pieces[0].State)
	}
	last := w.Rolls[len(w.Rolls)-1]
	if p := last.Pieces[0]; p.State != cutting.IsCut || !p.Again {
		t.Errorf("the second one: %+v", p)
	}
	// Spoilt once more it comes from the shortest rest that gives it: now the new roll has one.
	short := w.Rolls[0].Pieces[len(w.Rolls[0].Pieces)-1]
	if short.Length < last.Rest && w.Spoil(short.ID) && len(w.Rolls) != before+1 {
		t.Error("a rest would have given it")
	}
	adds(t, w)
	run := w.Rolls[0].Pieces[0].Run
	if !w.Cut(run) || w.Cut(run+1) && w.Cut(run+2) || w.Cut(99) {
		t.Error("what is cut")
	}
	if rests := w.Rests(100); len(rests) == 0 {
		t.Error("nothing is left of the rolls that were cut from")
	}
	if rests := w.Rests(100_000); len(rests) != 0 {
		t.Errorf("too short to keep: %v", rests)
	}
}

func TestLettersGoOn(t *testing.T) {
	b := cutting.Bands{Roll: 1000, Lap: 0, LeastPiece: 300, JoinClear: 300, Runs: []cutting.Run{{Length: 28_000}}}
	w := cutting.Start(solved(t, b, 1000).Plan, nil, b.Roll)
	labels := map[string]bool{}
	for _, r := range w.Rolls {
		for _, p := range r.Pieces {
			labels[p.Label] = true
		}
	}
	if !labels["1a"] || !labels["1z"] || !labels["1ab"] || len(labels) != 28 {
		t.Errorf("%v", labels)
	}
}

func TestTheShortestRestThatGivesIt(t *testing.T) {
	w := cutting.Start([]cutting.Roll{
		{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 0, From: 0, To: 1200}}, Rest: 3800},
		{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 1, From: 0, To: 3500}}, Rest: 1500},
		{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 2, From: 0, To: 3900}}, Rest: 1100},
	}, nil, 5000)
	w.Spoil("1/1")
	if w.Rolls[1].Rest != 300 || len(w.Rolls) != 3 {
		t.Errorf("1.20 m is cut from the wrong rest: %+v", w.Rolls)
	}
}
