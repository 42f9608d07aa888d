package logbook

import (
	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/sheet"
)

const KindTrialMade Kind = "trial.made"

// TrialMade is a trial patch: what a product took on an area of this job's base. It gives the
// job's own rate.
type TrialMade struct {
	Sheet   string  `json:"sheet"`
	Kg      float64 `json:"kg"`
	Area    float64 `json:"area_m2"`
	Density float64 `json:"kg_per_L,omitempty"` // a litre of the mix, where it was weighed
}

func (b TrialMade) check() error {
	const mostArea = 100
	if b.Density != 0 {
		if err := within("body.kg_per_L", b.Density, 0.3, 5); err != nil {
			return err
		}
	}
	return first(name("body.sheet", b.Sheet), within("body.kg", b.Kg, 0.001, mostKg), within("body.area_m2", b.Area, 0.01, mostArea))
}

func (b TrialMade) keep(j *Job, e settled) {
	j.trials = append(j.trials, sheet.Trial{Entry: e.ID, Sheet: b.Sheet, Kg: b.Kg, Area: b.Area, Density: b.Density})
}

// AskTrial works out what a product took on a patch, mass used / area, as far as it is typed: the film
// with the rate of the patch, and what is ready to be kept.
func AskTrial(of sheet.Sheet, typed map[string]string) (f *ask.Form, film sheet.Film, body *TrialMade) {
	f = &ask.Form{Typed: typed}
	const mostArea = 100
	kg, ok1 := f.Number("trial.kg", "kg", 0.001, mostTrialKg)
	area, ok2 := f.Number("trial.area", "m2", 0.01, mostArea)
	density := f.NumberOr("trial.litre", "kg/L", 0.3, 5, 0)
	film = of.Film()
	if ok1 && ok2 {
		film = of.Tried(sheet.Trial{Entry: "trial", Sheet: of.ID, Kg: kg, Area: area, Density: density}).Film()
		const mostWet = 30
		if wet := film.Wet; wet != nil && wet.Value > mostWet {
			f.Reject(fault.At("trial.kg", "sheet.film_absurd", "value", wet.Value, "most", mostWet))
		}
	}
	if len(f.Faults()) == 0 {
		body = &TrialMade{Sheet: of.ID, Kg: kg, Area: area, Density: density}
	}
	return f, film, body
}

const mostTrialKg = 500
