package logbook

import (
	"slices"

	"dusha/core/fault"
)

const KindMarked Kind = "marked"

// Marked is a moment in the life of a batch.
type Marked struct {
	Batch string `json:"batch"`
	Mark  string `json:"mark"`
}

// Marks of a batch in their order: the parts touch, the powder is taken up and mixing
// counts, mixing ended and it stands, it is stirred again and in use, it is used up or
// thrown away.
var Marks = []string{"contact", "mixing", "standing", "ready", "empty", "spoilt"}

func (b Marked) check() error {
	if !slices.Contains(Marks, b.Mark) {
		return fault.At("body.mark", "choice.unknown", "typed", fault.Short(b.Mark))
	}
	return id("body.batch", b.Batch)
}

func (b Marked) apply(a *Area, e settled) {
	i := a.batchAt(b.Batch)
	if i < 0 {
		a.deviate(e.Entry, "deviation.unknown_batch", "batch", b.Batch)
		return
	}
	if _, twice := a.Batches[i].Marks[b.Mark]; !twice {
		a.Batches[i].Marks[b.Mark] = e.when
	}
}

// under is the step of the bucket.
func (b Marked) under(a *Area) (string, bool) {
	if i := a.batchAt(b.Batch); i >= 0 {
		return a.Batches[i].Step, true
	}
	return "", false
}

func (Marked) still() {}
