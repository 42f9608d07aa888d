package logbook

const KindCutDone Kind = "cut.done"

// CutDone ticks pieces off as they are cut.
type CutDone struct {
	Cut    string   `json:"cut"` // id of the cut.planned entry
	Pieces []string `json:"pieces"`
}

func (b CutDone) check() error { return first(id("body.cut", b.Cut), list("body.pieces", b.Pieces)) }

func (b CutDone) apply(a *Area, e settled) {
	if c := a.ofCut(b.Cut); c != nil {
		for _, piece := range b.Pieces {
			if !c.Tick(piece) {
				a.deviate(e.Entry, "deviation.unknown_piece", "piece", piece)
			}
			c.Began = true
		}
	}
}

func (b CutDone) under(a *Area) (string, bool) { return a.stepOfCut(b.Cut) }
