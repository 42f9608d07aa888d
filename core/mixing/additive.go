package mixing

import (
	"cmp"
	"slices"

	"dusha/core/fault"
)

// Additive is what is stirred into a mix by volume: mL to the litre or to the kilogram of it.
type Additive struct {
	Base        float64 `json:"base_mass_kg"`
	BaseDensity float64 `json:"base_density_kg_per_L,omitempty"` // needed for mL to the litre
	PerL        float64 `json:"mL_per_L,omitempty" minimum:"0"`
	PerKg       float64 `json:"mL_per_kg,omitempty" minimum:"0"`
	Density     float64 `json:"additive_density_kg_per_L"`
}

// Added is what comes on top of a mix.
type Added struct {
	ML    float64 `json:"additive_mL"`
	Kg    float64 `json:"additive_kg"`
	Total float64 `json:"total_kg"`
}

// Measure works an additive out: mL/L × base mass / its density, or mL/kg × base mass; it comes on top of the batch.
func (a Additive) Measure() (Added, error) {
	switch {
	case !(a.Base > 0):
		return Added{}, fault.At("base_mass_kg", "number.not_positive", "value", a.Base)
	case !(a.Density > 0):
		return Added{}, fault.At("additive_density_kg_per_L", "number.not_positive", "value", a.Density)
	case a.PerL > 0 && !(a.BaseDensity > 0):
		return Added{}, fault.At("base_density_kg_per_L", "number.not_positive", "value", a.BaseDensity)
	case !(a.PerL > 0) && !(a.PerKg > 0):
		return Added{}, fault.At("mL_per_kg", "number.not_positive", "value", a.PerKg)
	}
	const mlPerL = 1000
	var added Added
	if a.PerL > 0 {
		added.ML += a.PerL * a.Base / a.BaseDensity
	}
	added.ML += a.PerKg * a.Base
	added.Kg = added.ML / mlPerL * a.Density
	added.Total = a.Base + added.Kg
	return added, nil
}

// Dose is a catalyst's share of the resin at a temperature.
type Dose struct {
	Temp    float64 `json:"temp_C"`
	Percent float64 `json:"percent" minimum:"0"`
}

// Catalyst is the share of a catalyst at a temperature, percent: between two of the sheet's temperatures on a straight line
// from one to the other. Outside the table it is refused.
func Catalyst(table []Dose, temp float64) (percent float64, refused bool) {
	table = slices.SortedFunc(slices.Values(table), func(a, b Dose) int { return cmp.Compare(a.Temp, b.Temp) })
	for i, at := range table {
		switch {
		case at.Temp == temp:
			return at.Percent, false
		case i > 0 && table[i-1].Temp < temp && temp < at.Temp:
			below := table[i-1]
			return below.Percent + (at.Percent-below.Percent)*(temp-below.Temp)/(at.Temp-below.Temp), false
		}
	}
	return 0, true
}
