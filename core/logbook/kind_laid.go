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

// Laid says that a coat, or another work of a step, lies on places, with what it took and how it was laid. A top-up on a
// thin film names the state of the coat it was laid on: into a wet one, or as a layer on a skinned one.
type Laid struct {
	Step     string   `json:"step"`
	Layer    string   `json:"layer,omitempty"`  // of a work that is no coat of the film: its id
	Coat     string   `json:"coat,omitempty"`   // of that layer, where it has several
	Surfaces []string `json:"surfaces"`         // ids of surfaces, junctions, corners, fittings
	Kg       float64  `json:"kg,omitempty"`     // of what is weighed
	Amount   *float64 `json:"amount,omitempty"` // of what goes by the metre, the m² or the piece, in its unit
	Batch    string   `json:"batch,omitempty"`
	TopsUp   string   `json:"tops_up,omitempty"` // "", "wet" or "skinned"

	Strokes string   `json:"strokes,omitempty"` // as it was laid: one of system.Strokes
	Colour  string   `json:"colour,omitempty"`
	Face    string   `json:"face,omitempty"` // state of the base under it: one of system.Faces
	Tool    string   `json:"tool,omitempty"`
	People  []string `json:"people,omitempty"` // ids of who laid it
}

func (b Laid) check() error {
	if b.Batch != "" {
		if err := id("body.batch", b.Batch); err != nil {
			return err
		}
	}
	for _, c := range []struct {
		field, value string
		of           []string
	}{{"tops_up", b.TopsUp, []string{film.Wet, film.Skinned}}, {"strokes", b.Strokes, system.Strokes}, {"face", b.Face, system.Faces}} {
		if c.value != "" && !slices.Contains(c.of, c.value) {
			return fault.At("body."+c.field, "choice.unknown", "typed", fault.Short(c.value))
		}
	}
	if b.Amount != nil {
		if err := within("body.amount", *b.Amount, 0.001, mostKg); err != nil {
			return err
		}
	}
	for _, who := range b.People {
		if err := id("body.people", who); err != nil {
			return err
		}
	}
	least := 0.001
	if b.Layer != "" {
		least = 0 // of what is not weighed
	}
	return first(name("body.step", b.Step), line("body.layer", b.Layer, false), line("body.coat", b.Coat, false), list("body.surfaces", b.Surfaces), within("body.kg", b.Kg, least, mostKg),
		line("body.colour", b.Colour, false), line("body.tool", b.Tool, false))
}

// lay is what the book keeps of it.
func (b Laid) lay(e settled) Lay {
	return Lay{
		Entry: e.ID, Layer: b.Layer, Surfaces: b.Surfaces, Kg: b.Kg, Amount: b.Amount, Batch: b.Batch, TopsUp: b.TopsUp, When: e.when,
		Strokes: b.Strokes, Colour: b.Colour, Face: b.Face, Tool: b.Tool, People: append([]string{}, b.People...),
	}
}

func (b Laid) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	step, _ := a.stepBy(b.Step)
	if b.Layer != "" || !step.Coats() {
		w, is := a.workOf(step, b)
		if !is {
			a.deviate(e.Entry, "deviation.no_such_work", "step", b.Step, "layer", b.Layer)
			return
		}
		a.layWork(e, step, w, b)
		return
	}
	if !a.knownSurfaces(e.Entry, b.Surfaces) {
		return
	}
	a.judgeWindow(e, step, b.Surfaces)
	a.judgeStart(e, step)
	a.judgeFaces(e.Entry, step, b.Surfaces)
	a.topUpLaid(b)
	a.leaveOlderReadings(e, b)
	if coat, is := a.coatOf(step); is {
		a.judgeLaid(e.Entry, step, b, coat.Layer, coat.Coat)
		asked := 0.0
		for _, share := range coat.Surface {
			if slices.Contains(b.Surfaces, share.Surface) {
				asked += share.Mass
			}
		}
		if b.TopsUp == "" {
			a.judgeAmount(e.Entry, b, asked)
		}
	}
	a.Laid[b.Step] = append(a.Laid[b.Step], b.lay(e))
	a.noteWork(b.Step, e.when)
	a.filmMoved(b.Step, b.Surfaces...)
	a.judgeUseBy(e.Entry, b)
}

// workOf finds the work that an entry speaks of: by its layer, or the only one of its step.
func (a *Area) workOf(s system.Step, b Laid) (found takeoff.Laying, is bool) {
	list := a.ownWorks(s)
	for _, w := range list {
		if (b.Layer == "" && len(list) == 1 || w.ID == b.Layer) && (b.Coat == "" || w.Coat == b.Coat) {
			return w, true
		}
	}
	return found, false
}

// judgeLaid says where something was laid in another way than its layer asks: strokes, colour, the state of the base.
func (a *Area) judgeLaid(e Entry, s system.Step, b Laid, layer, coat string) {
	l, _ := a.Plan.built.System.LayerOf(layer)
	i := slices.IndexFunc(l.Coats, func(c system.Coat) bool { return c.ID == coat })
	if i < 0 {
		return
	}
	asked := l.Coats[i]
	if b.Strokes != "" && asked.Strokes != "" && asked.Strokes != "any" && b.Strokes != asked.Strokes {
		a.deviate(e, "deviation.strokes_otherwise", "step", s.ID, "strokes", b.Strokes, "asked", asked.Strokes)
	}
	face := asked.Face
	if coated, is := a.coatOf(s); face == "" && is && coated.Fills { // it lies on the base itself
		face = a.Plan.System.BaseFace()
	}
	if b.Face != "" && face != "" && b.Face != face {
		a.deviate(e, "deviation.face_otherwise", "step", s.ID, "face", b.Face, "asked", face)
	}
	switch {
	case b.Colour == "" || asked.Colour == "":
	case asked.Colour != "contrast" && b.Colour != asked.Colour:
		a.deviate(e, "deviation.colour_otherwise", "step", s.ID, "colour", b.Colour, "asked", asked.Colour)
	case asked.Colour == "contrast" && i > 0 && a.colourUnder(l, i) == b.Colour:
		a.deviate(e, "deviation.colour_same", "step", s.ID, "colour", b.Colour)
	}
}

// colourUnder is the colour that the coat under another one of its layer was laid in.
func (a *Area) colourUnder(l system.Layer, i int) (colour string) {
	under := l.ID + "." + l.Coats[i-1].ID
	for _, s := range a.steps {
		if !s.Hold() && slices.Contains(s.Of, under) {
			for _, lay := range a.Laid[s.ID] {
				colour = lay.Colour
			}
		}
	}
	return colour
}

// judgeAmount says when more was laid than was mixed, or less than half of what was asked for.
func (a *Area) judgeAmount(e Entry, b Laid, asked float64) {
	if asked > 0 && b.Kg < asked/2 {
		a.deviate(e, "deviation.laid_half", "step", b.Step, "kg", b.Kg, "asked", asked)
	}
	i := a.batchAt(b.Batch)
	if i < 0 {
		return
	}
	mixed, laid := 0.0, b.Kg
	for _, part := range a.Batches[i].Parts {
		mixed += part.Kg
	}
	for _, lists := range []map[string][]Lay{a.Laid, a.Works} {
		for _, lays := range lists {
			for _, lay := range lays {
				if lay.Batch == b.Batch {
					laid += lay.Kg
				}
			}
		}
	}
	const slack = 1.01 // of the scale
	if laid > mixed*slack {
		a.deviate(e, "deviation.laid_more_than_mixed", "batch", a.Batches[i].Number, "kg", laid, "mixed", mixed)
	}
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
