package sheet

import (
	"dusha/core/fault"
)

// Rate is a consumption as a sheet prints it, in any form; it reduces to wet thickness and
// mixed mass. 1 mm over 1 m² is 1 L.
type Rate struct {
	Rate       float64 `json:"rate"`
	Unit       string  `json:"unit"` // one of RateUnits
	Coats      int     `json:"coats"`
	Per        string  `json:"per"`   // "coat", or "all_coats" together
	Basis      string  `json:"basis"` // "wet", "dry_film", "powder" or "unknown"
	Density    float64 `json:"density_kg_per_L"`
	DryToWet   float64 `json:"dry_to_wet_f,omitempty"`              // cured film over wet film
	DryDensity float64 `json:"dry_film_density_kg_per_L,omitempty"` // for a mass of cured film
	Powder     float64 `json:"powder_mass_share,omitempty"`         // powder part over the sum of parts
	Pack       float64 `json:"pack_kg,omitempty"`                   // of a rate that says what a pack covers
}

// Reduced is a rate as wet, mixed material. Where the basis is unknown both readings are given,
// and the larger is ordered.
type Reduced struct {
	WetPerCoat *float64 `json:"wft_per_coat_mm,omitempty"`
	PerCoat    *float64 `json:"kg_per_m2_per_coat,omitempty"`
	WetTotal   *float64 `json:"wft_total_mm,omitempty"`
	Total      *float64 `json:"kg_per_m2_total,omitempty"`
	IfWet      *float64 `json:"kg_per_m2_total_if_wet,omitempty"`
	IfDry      *float64 `json:"kg_per_m2_total_if_dry_film,omitempty"`
	Ordered    *float64 `json:"ordered_kg_per_m2_total,omitempty"`
}

// US units as defined.
const (
	litresPerGallon = 3.785411784
	m2PerFt2        = 0.09290304
	kgPerLb         = 0.45359237
	mmPerMil        = 0.0254
	gramsPerKg      = 1000
)

// RateUnits are the forms a rate is printed in: mass, volume or thickness on an area, or the
// area that a quantity covers.
var RateUnits = []string{"kg/m2", "g/m2", "L/m2", "m2/L", "m2/kg", "m2/pack", "ft2/gal", "ft2/L", "ft2/lb", "ft2/kg", "lb/ft2", "gal/ft2", "mm", "mil"}

// perM2 is the rate on a m², as kg or as L; covering forms are turned over.
func (r Rate) perM2() (amount float64, mass bool, err error) {
	if !(r.Rate > 0) {
		return 0, false, fault.At("rate", "number.too_small", "value", r.Rate, "least", 0)
	}
	switch r.Unit {
	case "kg/m2":
		return r.Rate, true, nil
	case "g/m2":
		return r.Rate / gramsPerKg, true, nil
	case "L/m2", "mm":
		return r.Rate, false, nil
	case "mil":
		return r.Rate * mmPerMil, false, nil
	case "m2/L":
		return 1 / r.Rate, false, nil
	case "m2/kg":
		return 1 / r.Rate, true, nil
	case "m2/pack":
		if !(r.Pack > 0) {
			return 0, true, fault.At("pack_kg", "sheet.rate_without_pack")
		}
		return r.Pack / r.Rate, true, nil
	case "ft2/kg":
		return 1 / (r.Rate * m2PerFt2), true, nil
	case "ft2/L":
		return 1 / (r.Rate * m2PerFt2), false, nil
	case "lb/ft2":
		return r.Rate * kgPerLb / m2PerFt2, true, nil
	case "gal/ft2":
		return r.Rate * litresPerGallon / m2PerFt2, false, nil
	case "ft2/gal":
		return litresPerGallon / (r.Rate * m2PerFt2), false, nil
	case "ft2/lb":
		return kgPerLb / (r.Rate * m2PerFt2), true, nil
	}
	return 0, false, fault.At("unit", "choice.unknown", "typed", r.Unit)
}

// mass tells whether the rate weighs what lies on an area.
func (r Rate) mass() bool {
	_, mass, _ := r.perM2()
	return mass
}

// Reduce gives the rate as wet thickness and mixed mass, a coat and in all.
func (r Rate) Reduce() (Reduced, error) {
	if r.Coats < 1 {
		return Reduced{}, fault.At("coats", "number.too_small", "value", r.Coats, "least", 1)
	}
	if !(r.Density > 0) {
		return Reduced{}, fault.At("density_kg_per_L", "number.too_small", "value", r.Density, "least", 0)
	}
	amount, mass, err := r.perM2()
	if err != nil {
		return Reduced{}, err
	}
	coats := float64(r.Coats)
	switch r.Per {
	case "all_coats":
		amount /= coats
	case "coat":
	default:
		return Reduced{}, fault.At("per", "choice.unknown", "typed", r.Per)
	}
	if r.Basis == "unknown" {
		return r.bothWays(amount, mass)
	}
	wet, err := r.wet(amount, mass, r.Basis)
	if err != nil {
		return Reduced{}, err
	}
	perCoat, wetTotal, total := wet*r.Density, wet*coats, wet*r.Density*coats
	return Reduced{WetPerCoat: &wet, PerCoat: &perCoat, WetTotal: &wetTotal, Total: &total}, nil
}

// bothWays reads a rate whose basis is not printed as wet and as cured film.
func (r Rate) bothWays(amount float64, mass bool) (Reduced, error) {
	asWet, err := r.wet(amount, mass, "wet")
	if err != nil {
		return Reduced{}, err
	}
	asDry, err := r.wet(amount, mass, "dry_film")
	if err != nil {
		return Reduced{}, err
	}
	ifWet, ifDry := asWet*r.Density*float64(r.Coats), asDry*r.Density*float64(r.Coats)
	ordered := max(ifWet, ifDry)
	return Reduced{IfWet: &ifWet, IfDry: &ifDry, Ordered: &ordered}, nil
}

// wet is the wet thickness of an amount on a m², mm.
func (r Rate) wet(amount float64, mass bool, basis string) (float64, error) {
	switch basis {
	case "wet":
		if mass {
			return amount / r.Density, nil
		}
		return amount, nil
	case "powder":
		if !(r.Powder > 0 && r.Powder <= 1) || !mass {
			return 0, fault.At("powder_mass_share", "number.too_small", "value", r.Powder, "least", 0)
		}
		return amount / r.Powder / r.Density, nil
	case "dry_film":
		if !(r.DryToWet > 0) {
			return 0, fault.At("dry_to_wet_f", "sheet.dry_to_wet_missing")
		}
		if !mass {
			return amount / r.DryToWet, nil
		}
		if !(r.DryDensity > 0) {
			return 0, fault.At("dry_film_density_kg_per_L", "sheet.dry_density_missing")
		}
		return amount / r.DryDensity / r.DryToWet, nil
	}
	return 0, fault.At("basis", "choice.unknown", "typed", basis)
}

// mostDisagreement is how far a sheet may disagree with itself before it is said, percent.
const mostDisagreement = 5
