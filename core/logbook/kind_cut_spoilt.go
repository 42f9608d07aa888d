package logbook

const KindCutSpoilt Kind = "cut.spoilt"

// CutSpoilt gives a piece up: it is cut again.
type CutSpoilt struct {
	Cut   string `json:"cut"`
	Piece string `json:"piece"`
}

func (b CutSpoilt) check() error { return first(id("body.cut", b.Cut), name("body.piece", b.Piece)) }

func (b CutSpoilt) apply(a *Area, e settled) {
	if c := a.ofCut(b.Cut); c != nil {
		if !c.Spoil(b.Piece) {
			a.deviate(e.Entry, "deviation.unknown_piece", "piece", b.Piece)
		}
		c.Began = true
	}
}

func (b CutSpoilt) under(a *Area) (string, bool) { return a.stepOfCut(b.Cut) }
