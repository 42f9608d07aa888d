// Package takeoff turns surfaces and junctions into kilograms, kits and metres.
//
// 1 mm over 1 m² is 1 L, so a coat weighs m = A · t · ρ. Texture of the base adds A · R to
// the first coat. Waste is added once. Before any rounding up, quantities are taken in
// whole grams and millimetres, film thicknesses in whole 0.001 mm.
package takeoff

import (
	"math"

	"dusha/core/fault"
)

// Film is the wet film asked for: coats of one wet thickness, or a total dry thickness
// with the dry-to-wet ratio f.
type Film struct {
	Coats       int     `json:"coats,omitempty" minimum:"0"`
	WetPerCoat  float64 `json:"wft_per_coat_mm,omitempty"`
	WetTotal    float64 `json:"wet_total_mm,omitempty"`
	DryTotal    float64 `json:"dft_total_mm,omitempty"`
	DryToWet    float64 `json:"dry_to_wet_f,omitempty"`
	GreatestWet float64 `json:"greatest_wft_per_coat_mm,omitempty"`
	SheetCoats  int     `json:"sheet_coats,omitempty" minimum:"0"`
}

// Wet is the wet thickness in all, mm.
func (f Film) Wet() (float64, error) {
	switch {
	case f.DryTotal > 0 && !(f.DryToWet > 0 && f.DryToWet <= 1):
		return 0, fault.At("dry_to_wet_f", "film.dry_to_wet_out_of_range", "value", f.DryToWet)
	case f.DryTotal > 0:
		return f.DryTotal / f.DryToWet, nil
	case f.WetTotal > 0:
		return f.WetTotal, nil
	case f.WetPerCoat > 0 && f.Coats > 0:
		return float64(f.Coats) * f.WetPerCoat, nil
	}
	return 0, fault.At("film", "film.no_thickness")
}

// Mass is what coats weigh.
type Mass struct {
	WetTotal  float64 `json:"wet_total_mm"`
	Texture   float64 `json:"texture_L"`
	Net       float64 `json:"net_kg"`
	Volume    float64 `json:"net_L"`
	WithWaste float64 `json:"with_waste_kg"`
}

// CoatMass is the mass of coats over an area in m²: (A · wet total + filled) · ρ, filled being the litres
// that the first coat gives to the texture of the surface (A · R, R its mean depth in mm); waste in
// percent.
func CoatMass(area float64, film Film, density, filled, waste float64) (Mass, error) {
	wet, err := film.Wet()
	if err != nil {
		return Mass{}, err
	}
	if !(density > 0) {
		return Mass{}, fault.At("density_kg_per_L", "number.not_positive", "value", density)
	}
	m := Mass{WetTotal: wet, Texture: filled, Volume: area*wet + filled}
	m.Net = m.Volume * density
	m.WithWaste = withWaste(m.Net, waste)
	return m, nil
}

// SplitOverFleece is what of a coat that wets a fleece lies below and above it, kg.
func SplitOverFleece(kg, shareBelow float64) (below, above float64) {
	return kg * shareBelow, kg * (1 - shareBelow)
}

func withWaste(kg, percent float64) float64 { return kg * (1 + percent/100) }

// Bedding is the material under and over a band.
type Bedding struct {
	Area      float64 `json:"area_m2"`
	Below     float64 `json:"below_kg"`
	Above     float64 `json:"above_kg"`
	WithWaste float64 `json:"with_waste_kg"`
}

// BedBand is length × (width + margin of both sides together) × the rates below and above,
// on top of the field coat; lengths in mm, rates in kg/m², waste in percent.
func BedBand(length, width, margin, rateBelow, rateAbove, waste float64) Bedding {
	area := length * (width + margin) / 1e6
	b := Bedding{Area: area, Below: area * rateBelow, Above: area * rateAbove}
	b.WithWaste = withWaste(b.Below+b.Above, waste)
	return b
}

// Purchase is a need in packs of one size, all in whole grams.
type Purchase struct {
	Need     int `json:"need_g"`
	Packs    int `json:"packs"`
	Bought   int `json:"bought_g"`
	Leftover int `json:"leftover_g"`
}

// Buy takes a need in kg with its waste to the nearest gram and rounds up to packs.
func Buy(need, waste float64, packGrams int) (Purchase, error) {
	if packGrams <= 0 {
		return Purchase{}, fault.At("pack_g", "number.not_positive", "value", packGrams)
	}
	p := Purchase{Need: int(math.Round(withWaste(need, waste) * 1000))}
	p.Packs = (p.Need + packGrams - 1) / packGrams
	p.Bought = p.Packs * packGrams
	p.Leftover = p.Bought - p.Need
	return p, nil
}
