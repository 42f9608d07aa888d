package logbook

import (
	"time"

	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// CoatLook is a coat with what was laid and read.
type CoatLook struct {
	Step        string            `json:"step"`
	Number      int               `json:"number"`
	Target      float64           `json:"target_mm"` // wet film asked; the plan has the figures with their origin
	Least       float64           `json:"least_mm"`  // least single reading accepted
	Need        float64           `json:"need_kg"`
	Used        float64           `json:"used_kg"`
	Enough      bool              `json:"enough"` // every surface is
	Surfaces    []SurfaceLook     `json:"surfaces"`
	Readings    []Reading         `json:"readings"`
	Consumption *film.Consumption `json:"consumption"` // once all is laid and read
	By          string            `json:"by"`          // what accepts it: one of system.AcceptedBy
	DryRead     []DryReading      `json:"dry_readings"`
	Explained   *Signed           `json:"explained"` // why it took less than the teeth say
}

// SurfaceLook is one surface of a coat: need, whether laid, and the verdict on its film.
type SurfaceLook struct {
	takeoff.Share
	Laid    bool            `json:"laid"`
	Asked   int             `json:"asked"` // readings
	Film    film.Verdict    `json:"film"`
	Unread  Unread          `json:"unread"`
	Dry     *float64        `json:"dry_mm"`       // predicted, of the coats so far
	DryAsks *float64        `json:"dry_asked_mm"` // of the coats so far
	TopUp   *TopUpLook      `json:"top_up"`       // where the film is thin
	ByMass  *MassLook       `json:"mass"`         // where consumption accepts it
	Look    *FilmLook       `json:"look"`         // the last one, where a look accepts it
	Figures []figure.Figure `json:"figures"`
}

// TopUpLook is how much more to lay on a thin surface, and how.
type TopUpLook struct {
	State string   `json:"state"` // "wet" or "skinned"
	Extra float64  `json:"extra_wft_mm"`
	Kg    *float64 `json:"kg"`   // nil at a low reading: its patch is not measured
	Part  string   `json:"part"` // "whole", or "low" round the lowest reading
}

func (a *Area) coat(step system.Step, now time.Time) CoatLook {
	asked := a.Takeoff.Coats[step.Coat-1]
	l := CoatLook{
		Step: step.ID, Number: step.Coat, Target: asked.Wet.Value, Least: asked.Least.Value, Need: asked.Need.Value,
		Surfaces: []SurfaceLook{}, Readings: append([]Reading{}, a.Readings[step.ID]...), Enough: true,
	}
	for _, lay := range a.Laid[step.ID] {
		l.Used += lay.Kg
	}
	l.By, l.DryRead = a.acceptedBy(step), append([]DryReading{}, a.DryRead[step.ID]...)
	covered, wanted := a.covered(step.ID), a.readingsAsked(step, asked)
	for _, share := range asked.Surface {
		s := SurfaceLook{Share: share, Laid: covered[share.Surface], Asked: wanted[share.Surface], Figures: []figure.Figure{}}
		s.Film, s.Unread = a.verdict(step, share.Surface, s.Asked)
		l.Enough = l.Enough && s.Laid && s.Film.Says == film.Enough
		a.addDry(&s, step)
		if l.By == byConsumption {
			a.addMass(&s, step, asked)
		}
		if looked, is := a.lookedAt[filmKey{step.ID, share.Surface}]; is {
			s.Look = &looked
		}
		if l.By == byComb && s.Laid && s.Film.Says == film.Thin {
			s.TopUp = a.topUp(step, share, s.Film, asked, now)
		}
		a.addFilmFigures(&s, step, asked)
		l.Surfaces = append(l.Surfaces, s)
	}
	if l.By == byComb {
		l.Consumption = a.consumption(step, l)
	}
	if said, is := a.filmExplained[step.ID]; is {
		l.Explained = &said
	}
	return l
}

// filmGroups are surfaces that are read together: reveals, niches and boxes with the walls.
var filmGroups = map[string]string{"floor": "floor", "riser": "floor", "soffit": "soffit"}

// filmEnough tells whether the film of a coat is enough on every surface; thin is the first
// that is not.
func (a *Area) filmEnough(step system.Step) (enough bool, short string) {
	for _, s := range a.coated(step) {
		coat, is := a.coatOf(s)
		if !is || a.Geometry == nil {
			return false, ""
		}
		wanted, covered := a.readingsAsked(s, coat), a.covered(s.ID)
		for _, share := range coat.Surface {
			if !covered[share.Surface] {
				return false, share.Surface
			}
			if v, _ := a.verdict(s, share.Surface, wanted[share.Surface]); v.Says != film.Enough {
				return false, share.Surface
			}
		}
	}
	return true, ""
}

// addDry predicts the dry film of a surface over the coats so far, where the sheet says
// what a wet film dries to.
func (a *Area) addDry(s *SurfaceLook, step system.Step) {
	ratio, err := a.sheetOf(step).Number("dry_to_wet")
	if err != nil {
		return
	}
	var laid, asked []film.Coat
	for _, other := range a.steps {
		coat, is := a.coatOf(other)
		if !is || other.Coat > step.Coat {
			continue
		}
		v := a.judge(other, s.Surface, 0)
		if v.Mean == nil {
			return
		}
		laid = append(laid, film.Coat{DryToWet: ratio.Value, MeanWet: *v.Mean})
		asked = append(asked, film.Coat{DryToWet: ratio.Value, MeanWet: coat.Wet.Value})
	}
	dry, wanted := film.PredictDry(laid), film.PredictDry(asked)
	s.Dry, s.DryAsks = &dry, &wanted
}

// topUp is how much more a thin surface needs in this coat: what its mean lacks over the
// whole surface, or where only a low reading falls short, what is missing there.
func (a *Area) topUp(step system.Step, share takeoff.Share, v film.Verdict, asked takeoff.Coat, now time.Time) *TopUpLook {
	up := TopUpLook{State: film.Skinned, Part: "low", Extra: asked.Wet.Value - *v.Least}
	if now.Before(a.workableUntil(step.ID, share.Surface)) {
		up.State = film.Wet
	}
	missing := film.Missing{Minimum: asked.Wet.Value, DryToWet: 1} // wet against wet
	if least, err := a.sheetOf(step).Number("least_wft"); err == nil {
		missing.LeastCoat = least.Value
	}
	density, err := a.sheetOf(step).Number("mixed_density")
	if err != nil || v.Mean == nil {
		if up.State == film.Skinned {
			up.Extra = max(up.Extra, missing.LeastCoat)
		}
		return &up
	}
	missing.Density = density.Value
	more, err := film.TopUpFor(film.Deficient{Area: share.Area, Predicted: *v.Mean, State: up.State}, missing)
	if err == nil && more.Part != nil {
		up.Extra, up.Kg, up.Part = more.ExtraWet, &more.Kg, *more.Part
	} else if up.State == film.Skinned {
		up.Extra = max(up.Extra, missing.LeastCoat)
	}
	return &up
}

// workableUntil is the use-by time of the last bucket laid on a surface: until then the coat
// is wet, after it it has skinned. Without a bucket the coat counts as skinned.
func (a *Area) workableUntil(step, surface string) (until time.Time) {
	for _, lay := range a.Laid[step] {
		for _, on := range lay.Surfaces {
			if on != surface {
				continue
			}
			for _, b := range a.Batches {
				if b.ID == lay.Batch {
					until, _ = a.useBy(b)
				}
			}
		}
	}
	return until
}

// consumption compares the mass used with the gauges, once a coat is laid and read whole.
func (a *Area) consumption(step system.Step, l CoatLook) *film.Consumption {
	density, err := a.sheetOf(step).Number("mixed_density")
	if err != nil {
		return nil
	}
	area, volume := 0.0, 0.0
	for _, s := range l.Surfaces {
		if !s.Laid || s.Film.Mean == nil {
			return nil
		}
		area, volume = area+s.Area, volume+s.Area**s.Film.Mean
	}
	waste := a.Plan.Rules.Limit("waste").Value
	texture := a.Plan.Rules.Limit("texture_" + a.Plan.Texture).Value
	c, err := film.Used{
		Kg: l.Used, Waste: l.Used * waste / (100 + waste), Area: area, Density: density.Value,
		Texture: texture, FirstCoat: a.Takeoff.Coats[step.Coat-1].Fills, GaugeMean: volume / area,
	}.Check()
	if err != nil {
		return nil
	}
	return &c
}

// addFilmFigures gives the verdict's numbers with their origin.
func (a *Area) addFilmFigures(s *SurfaceLook, step system.Step, asked takeoff.Coat) {
	if s.Film.Count == 0 {
		return
	}
	readings := a.filmReadings(filmKey{step.ID, s.Surface})
	add := func(value *float64, name, unit string, inputs ...figure.Figure) {
		if value != nil {
			s.Figures = append(s.Figures, figure.Worked(name, *value, unit, name, inputs...).With("surface", s.Surface))
		}
	}
	add(s.Film.Mean, "film.mean", "mm", readings...)
	add(s.Film.Least, "film.lowest", "mm", readings...)
	add(s.Film.X, "film.tolerance", "mm", readings...)
	if s.Film.Mean == nil {
		return
	}
	mean := s.Figures[0]
	if ratio, err := a.sheetOf(step).Number("dry_to_wet"); err == nil {
		add(s.Dry, "film.dry", "mm", ratio, mean)
	}
	if s.TopUp != nil {
		area := figure.Read("film.area", s.Area, "m2", figure.Source{Kind: "measure", Ref: s.Surface})
		density, _ := a.sheetOf(step).Number("mixed_density")
		add(s.TopUp.Kg, "film.top_up", "kg", area, asked.Wet, mean, density)
	}
}

// filmReadings are the readings of a surface in a coat that count, as figures.
func (a *Area) filmReadings(of filmKey) []figure.Figure {
	known := a.memo.films[of]
	if known.readings != nil {
		return known.readings
	}
	readings := []figure.Figure{}
	for r := range a.counted(of) {
		value := r.Lower
		if middle, ok := r.Middle(); ok {
			value = middle
		}
		leaf := figure.Read("film.reading", value, "mm", figure.Source{Kind: "entry", Ref: r.Entry})
		low := r.Lower
		leaf.Low, leaf.High = &low, r.Upper
		readings = append(readings, leaf)
	}
	known.readings = readings
	a.memo.films[of] = known
	return readings
}

// CoatLook is the coat that a step lays at a moment, by all that was recorded of it.
func (a *Area) CoatLook(id string, now time.Time) (CoatLook, bool) {
	step, _ := a.stepBy(id)
	if _, is := a.coatOf(step); !is {
		return CoatLook{}, false
	}
	return a.coat(step, now), true
}
