package logbook

import (
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/system"
	"dusha/core/takeoff"
)

const KindLaid Kind = "laid"

// Laid says that a coat lies on surfaces, with what it took. A top-up on a thin film names
// the state of the coat it was laid on: into a wet one, or as a layer on a skinned one.
type Laid struct {
	Step     string   `json:"step"`
	Surfaces []string `json:"surfaces"`
	Kg       float64  `json:"kg"`
	Batch    string   `json:"batch,omitempty"`
	TopsUp   string   `json:"tops_up,omitempty"` // "", "wet" or "skinned"
}

func (b Laid) check() error {
	if b.Batch != "" {
		if err := id("body.batch", b.Batch); err != nil {
			return err
		}
	}
	if b.TopsUp != "" && b.TopsUp != film.Wet && b.TopsUp != film.Skinned {
		return fault.At("body.tops_up", "choice.unknown", "typed", fault.Short(b.TopsUp))
	}
	return first(name("body.step", b.Step), list("body.surfaces", b.Surfaces), within("body.kg", b.Kg, 0.001, mostKg))
}

func (b Laid) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || !a.knownSurfaces(e.Entry, b.Surfaces) {
		return
	}
	step, _ := a.stepBy(b.Step)
	a.judgeWindow(e, step, b.Surfaces)
	a.judgeStart(e, step)
	a.judgeFaces(e.Entry, step, b.Surfaces)
	a.topUpLaid(b)
	a.leaveOlderReadings(e, b)
	a.Laid[b.Step] = append(a.Laid[b.Step], Lay{Entry: e.ID, Surfaces: b.Surfaces, Kg: b.Kg, Batch: b.Batch, TopsUp: b.TopsUp, When: e.when})
	if _, begun := a.begunAt[b.Step]; !begun {
		a.begunAt[b.Step] = e.when
	}
	a.endedAt[b.Step] = e.when
	a.filmMoved(b.Step, b.Surfaces...)
	a.judgeUseBy(e.Entry, b)
}

// judgeFaces says when a coat was laid where the system has none.
func (a *Area) judgeFaces(e Entry, s system.Step, surfaces []string) {
	coat, is := a.coatOf(s)
	for _, surface := range surfaces {
		if is && !slices.ContainsFunc(coat.Surface, func(share takeoff.Share) bool { return share.Surface == surface }) {
			a.deviate(e, "deviation.coat_not_there", "step", s.ID, "surface", surface)
		}
	}
}

// topUpLaid settles what readings made before a top-up are worth: none where more was laid
// into the wet film; those of the layer below where it was laid on a skinned one.
func (a *Area) topUpLaid(body Laid) {
	for _, surface := range body.Surfaces {
		switch body.TopsUp {
		case film.Wet:
			for _, i := range a.read[filmKey{body.Step, surface}] {
				if r := &a.Readings[body.Step][i]; r.Layer == a.layer[body.Step+surface] {
					r.Superseded = true
				}
			}
		case film.Skinned:
			a.layer[body.Step+surface]++
		}
	}
}

// layingTakes is how long a share of a coat may have been laid, and read, before it was recorded, where
// no bucket tells when it began.
const layingTakes = 2 * time.Hour

// leaveOlderReadings leaves out readings of a surface that are older than the coat on it.
func (a *Area) leaveOlderReadings(e settled, body Laid) {
	begun := e.when.Add(-layingTakes)
	if i := a.batchAt(body.Batch); i >= 0 {
		begun = a.Batches[i].Weighed
	}
	for _, surface := range body.Surfaces {
		if slices.ContainsFunc(a.Laid[body.Step], func(l Lay) bool { return slices.Contains(l.Surfaces, surface) }) {
			continue
		}
		for _, i := range a.read[filmKey{body.Step, surface}] {
			if r := &a.Readings[body.Step][i]; r.when.Before(begun) {
				r.Superseded = true
				a.deviate(e.Entry, "deviation.read_before_coat", "surface", surface, "at", stamp(r.when))
			}
		}
	}
}

// judgeUseBy says when material was laid past the use-by time of its batch.
func (a *Area) judgeUseBy(e Entry, body Laid) {
	i := a.batchAt(body.Batch)
	if i < 0 || a.Plan == nil {
		return
	}
	if useBy, known := a.useBy(a.Batches[i]); known && e.when.After(useBy) {
		a.deviate(e, "deviation.laid_late", "batch", a.Batches[i].Number, "use_by", stamp(useBy))
	}
}

func (b Laid) stepOf() string { return b.Step }

func (Laid) takesStock() {}
