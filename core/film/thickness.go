package film

import (
	"math"

	"dusha/core/fault"
)

// Coat is what a coat adds to the dry film: its mean wet thickness in mm and the sheet's
// ratio of dry to wet.
type Coat struct {
	DryToWet float64 `json:"dry_to_wet_f" minimum:"0"`
	MeanWet  float64 `json:"mean_wft_mm" minimum:"0"`
}

// PredictDry is the dry film predicted from the wet ones, Σ f · WFT, mm.
func PredictDry(coats []Coat) float64 {
	sum := 0.0
	for _, c := range coats {
		sum += c.DryToWet * c.MeanWet
	}
	return sum
}

// States of a coat that is to be topped up.
const (
	Wet     = "wet"     // still workable: just what is missing
	Skinned = "skinned" // not less than the sheet's least coat, inside its recoat window
)

// TopUp is how much more to lay on a surface.
type TopUp struct {
	ExtraWet float64 `json:"extra_wft_mm"`
	Kg       float64 `json:"kg"`   // without waste
	Part     *string `json:"part"` // "whole" or "mapped", nil when none is needed
}

// Deficient is a surface whose predicted dry film is to be brought up.
type Deficient struct {
	Area      float64  `json:"area_m2" minimum:"0"`
	Mapped    *float64 `json:"mapped_area_m2,omitempty" minimum:"0"` // the part that is thin, where it was mapped
	Predicted float64  `json:"predicted_dft_mm" minimum:"0"`
	State     string   `json:"state,omitempty"`
}

// Missing says how thick the film must become and what it is made of.
type Missing struct {
	Minimum   float64 `json:"minimum_dft_mm" minimum:"0"`
	DryToWet  float64 `json:"dry_to_wet_f" minimum:"0"`
	LeastCoat float64 `json:"least_coat_wft_mm" minimum:"0"`
	Density   float64 `json:"density_kg_per_L" minimum:"0"`
}

// TopUpFor is the extra wet film and its mass for a surface: deficit / f while the coat is
// wet, and not less than the least coat once it has skinned.
func TopUpFor(s Deficient, m Missing) (TopUp, error) {
	if m.DryToWet <= 0 || m.DryToWet > 1 {
		return TopUp{}, fault.At("dry_to_wet_f", "film.dry_to_wet_out_of_range", "value", m.DryToWet)
	}
	const nothing = 1e-9 // mm
	deficit := m.Minimum - s.Predicted
	if deficit <= nothing {
		return TopUp{}, nil
	}
	extra := deficit / m.DryToWet
	if s.State == Skinned {
		extra = max(extra, m.LeastCoat)
	}
	area, part := s.Area, "whole"
	if s.Mapped != nil {
		area, part = *s.Mapped, "mapped"
	}
	return TopUp{ExtraWet: extra, Kg: area * extra * m.Density, Part: &part}, nil
}

// Consumption is the mean wet film that the mass used would make, against the gauges.
type Consumption struct {
	FromMass   float64 `json:"wft_from_mass_mm"`
	Difference float64 `json:"difference_percent"`
	AsksWhy    bool    `json:"asks_why"`
}

// Used is what went into a coat.
type Used struct {
	Kg        float64 `json:"used_kg" minimum:"0"`
	Leftover  float64 `json:"leftover_kg" minimum:"0"`
	Waste     float64 `json:"waste_kg" minimum:"0"`
	Area      float64 `json:"area_m2" minimum:"0"`
	Density   float64 `json:"density_kg_per_L" minimum:"0"`
	Texture   float64 `json:"texture_R_mm" minimum:"0"`
	FirstCoat bool    `json:"first_coat"`
	GaugeMean float64 `json:"gauge_mean_mm"`
}

// greatestDifference between mass and gauges that needs no explaining, percent.
const greatestDifference = 15

// Check compares mass and gauges: (used − leftover − waste)/(A·ρ), less the texture that
// the first coat fills, against the mean of the gauges.
func (u Used) Check() (Consumption, error) {
	if u.Area <= 0 || u.Density <= 0 || u.GaugeMean <= 0 {
		return Consumption{}, fault.At("area_m2", "film.nothing_to_compare")
	}
	wet := (u.Kg - u.Leftover - u.Waste) / (u.Area * u.Density)
	if u.FirstCoat {
		wet -= u.Texture
	}
	difference := 100 * (wet - u.GaugeMean) / u.GaugeMean
	return Consumption{FromMass: wet, Difference: difference, AsksWhy: math.Abs(difference) > greatestDifference}, nil
}

// Count is how many readings are asked.
type Count struct {
	PerGroup    []int `json:"per_group"`
	PerJunction []int `json:"per_junction"`
	Total       int   `json:"total"`
}

const (
	leastPerGroup = 5
	runPerReading = 3000.0 // mm of junction
	slack         = 1e-9   // of a reading
)

// ReadingsFor is how many readings surface groups (m²) and junction runs (mm) ask for: by
// the local rule's number per m², at least five a group; one for each 3 m of a run, at
// least one.
func ReadingsFor(groups, runs []float64, perM2 float64) Count {
	c := Count{PerGroup: []int{}, PerJunction: []int{}}
	for _, area := range groups {
		n := max(leastPerGroup, perArea(area, perM2))
		c.PerGroup, c.Total = append(c.PerGroup, n), c.Total+n
	}
	for _, run := range runs {
		n := max(1, int(math.Ceil(run/runPerReading-slack)))
		c.PerJunction, c.Total = append(c.PerJunction, n), c.Total+n
	}
	return c
}

func perArea(area, perM2 float64) int { return int(math.Ceil(area*perM2 - slack)) }

// Share is how many readings fall to each surface of a group (m²): by area, and in turn,
// the first surface first, until the group has what it needs.
func Share(areas []float64, perM2 float64) []int {
	if len(areas) == 0 {
		return nil
	}
	shares, whole, sum := make([]int, len(areas)), 0.0, 0
	for i, area := range areas {
		shares[i] = perArea(area, perM2)
		whole, sum = whole+area, sum+shares[i]
	}
	for i := 0; sum < ReadingsFor([]float64{whole}, nil, perM2).Total; i++ {
		shares[i%len(shares)]++
		sum++
	}
	return shares
}
