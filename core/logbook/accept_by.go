package logbook

import (
	"time"

	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// By what the film of a coat is accepted, where it is not the comb: by what was laid, by direct readings of the dry film, or by
// a look. What is not combed is never asked to be.

// By what a layer is accepted: one of system.AcceptedBy.
const (
	byComb        = "comb"
	byConsumption = "consumption"
	byDryFilm     = "dry_film"
	byWetted      = "wetted_through"
	byLook        = "look"
)

// acceptedBy is by what the coat of a step is accepted: as its layer says, else by the comb.
func (a *Area) acceptedBy(s system.Step) string {
	coat, is := a.coatOf(s)
	if !is {
		return byComb
	}
	l, _ := a.Plan.built.System.LayerOf(coat.Layer)
	if l.Accept == nil || l.Accept.By == "" {
		return byComb
	}
	return l.Accept.By
}

// readingsAsked are how many readings each surface of a coat wants: of the comb by the local rule, of the dry film as the layer
// says, else by the rule too; none where neither decides.
func (a *Area) readingsAsked(s system.Step, coat takeoff.Coat) map[string]int {
	wanted := a.factsOf(coat).wanted
	switch a.acceptedBy(s) {
	case byComb:
		return wanted
	case byDryFilm:
		l, _ := a.Plan.built.System.LayerOf(coat.Layer)
		if l.Accept.Readings == 0 {
			return wanted
		}
		own := map[string]int{}
		for surface := range wanted {
			own[surface] = l.Accept.Readings
		}
		return own
	}
	return map[string]int{}
}

// byOther is the verdict on a surface of a coat that no comb decides.
func (a *Area) byOther(s system.Step, surface string, wanted int) film.Verdict {
	coat, _ := a.coatOf(s)
	if !a.covered(s.ID)[surface] {
		return film.Verdict{Says: film.NotKnown}
	}
	switch a.acceptedBy(s) {
	case byConsumption:
		says, _, _, _ := a.stretch(s, coat, surface).ByMass()
		return film.Verdict{Says: says, Accepted: says == film.Enough}
	case byDryFilm:
		d := a.dryFilm(s, coat, surface)
		d.Wanted = wanted
		says, mean, least := d.Judge()
		v := film.Verdict{Says: says, Accepted: says == film.Enough, Count: len(d.Readings)}
		if v.Count > 0 {
			v.Mean, v.Least = &mean, &least
		}
		return v
	}
	l, is := a.lookedAt[filmKey{s.ID, surface}]
	switch {
	case !is || l.When.Before(a.laidLast(s.ID, surface)):
		return film.Verdict{Says: film.NotKnown}
	case l.Fine:
		return film.Verdict{Says: film.Enough, Accepted: true}
	}
	return film.Verdict{Says: film.Thin}
}

// stretch is what was laid on a surface of a coat: of a share that covers several, by their areas.
func (a *Area) stretch(s system.Step, coat takeoff.Coat, surface string) film.Stretch {
	areas := map[string]float64{}
	for _, share := range coat.Surface {
		areas[share.Surface] = share.Area
	}
	st := film.Stretch{Area: areas[surface], Asked: coat.Rate}
	for _, lay := range a.Laid[s.ID] {
		all, here := 0.0, false
		for _, on := range lay.Surfaces {
			all += areas[on]
			here = here || on == surface
		}
		if here && all > 0 {
			st.Kg += lay.Kg * areas[surface] / all
		}
	}
	of := a.Plan.sheets[coat.Product]
	least, err1 := of.Number("least_wft")
	density, err2 := of.Number("mixed_density")
	if err1 == nil && err2 == nil {
		own := least.Value * density.Value * a.layersOf(coat)
		st.Least = &own
	}
	return st
}

// dryFilm are the direct readings of the dry film of a coat on a surface, against what the coats so far dry to.
func (a *Area) dryFilm(s system.Step, coat takeoff.Coat, surface string) film.Dry {
	d := film.Dry{Target: a.dryTarget(coat)}
	for _, r := range a.DryRead[s.ID] {
		if r.Surface == surface && !r.When.Before(a.laidLast(s.ID, surface)) {
			d.Readings = append(d.Readings, r.Dry)
		}
	}
	return d
}

// dryTarget is how thick the coats of a layer so far have to lie once they are dry, mm: as they are asked for, or what their wet
// film dries to.
func (a *Area) dryTarget(coat takeoff.Coat) (mm float64) {
	ratio, err := a.Plan.sheets[coat.Product].Number("dry_to_wet")
	if err != nil {
		return 0
	}
	for _, c := range a.Takeoff.Coats[:coat.Number] {
		if c.Layer == coat.Layer {
			mm += c.Wet.Value * ratio.Value
		}
	}
	return mm
}

// laidLast is when a coat came last onto a surface.
func (a *Area) laidLast(step, surface string) time.Time {
	_, ended, _ := a.laidOn(step, []string{surface})
	return ended
}

// addMass adds to a surface what was laid there against what is asked, of a coat that is accepted by consumption.
func (a *Area) addMass(l *SurfaceLook, s system.Step, coat takeoff.Coat) {
	st := a.stretch(s, coat, l.Surface)
	_, perM2, least, missing := st.ByMass()
	l.ByMass = &MassLook{PerM2: perM2, Least: least, Asked: coat.Rate, Missing: missing}
	if l.Laid {
		l.Figures = append(l.Figures, figure.Worked("film.mass_laid", perM2, "kg/m2", "film.by_mass",
			figure.Read("film.laid", st.Kg, "kg", figure.Source{Kind: "entry", Ref: s.ID}),
			figure.Read("film.area", st.Area, "m2", figure.Source{Kind: "measure", Ref: l.Surface})).With("surface", l.Surface))
	}
}

// MassLook is what of a coat lies on a surface, kg/m², where consumption accepts it.
type MassLook struct {
	PerM2   float64 `json:"kg_m2"`
	Asked   float64 `json:"asked_kg_m2"`
	Least   float64 `json:"least_kg_m2"`
	Missing float64 `json:"missing_kg"` // up to the least
}
