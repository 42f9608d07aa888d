package logbook

import (
	"slices"

	"dusha/core/takeoff"
)

const KindBedded Kind = "bedded"

// Bedded says which pieces lie in their bed.
type Bedded struct {
	Step   string   `json:"step"`
	Pieces []string `json:"pieces"`
}

func (b Bedded) check() error { return first(name("body.step", b.Step), list("body.pieces", b.Pieces)) }

func (b Bedded) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || a.Takeoff == nil {
		return
	}
	step, _ := a.stepBy(b.Step)
	a.judgeStart(e, step)
	for _, id := range b.Pieces {
		if !slices.ContainsFunc(a.Takeoff.Pieces, func(p takeoff.Piece) bool { return p.ID == id }) {
			a.deviate(e.Entry, "deviation.unknown_piece", "piece", id)
			continue
		}
		a.Bedded[id] = true
	}
	a.endedAt[b.Step] = e.when
}

func (b Bedded) stepOf() string { return b.Step }

func (Bedded) takesStock() {}
