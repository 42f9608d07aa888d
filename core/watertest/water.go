package watertest

import "slices"

const (
	gravity     = 9.81   // m/s²
	waterWeight = 1000.0 // kg/m³, for loads
)

// Load is what a depth of water in mm puts on the floor, kPa.
func Load(depth float64) float64 { return waterWeight * gravity * depth / 1e6 }

// LoadMass is the same as mass, kg/m².
func LoadMass(depth float64) float64 { return waterWeight * depth / 1000 }

// Density of water at a temperature in °C, kg/m³ (Tanaka et al. 2001).
func Density(temp float64) float64 {
	return 999.975 * (1 - (temp-3.983)*(temp-3.983)*(temp+301.797)/(522528.9*(temp+69.349)))
}

// Swelling is what a level rises by as the water warms from the first temperature, mm, for
// a height of water of volume over surface in mm.
func Swelling(height, first, temp float64) float64 {
	return height * (Density(first)/Density(temp) - 1)
}

// correctForTemperature lessens the levels by what the water swelled, where it is deep and
// its temperature was logged.
func (t Test) correctForTemperature(r *Readings) {
	if t.Depth <= deepWater || len(r.Temps) == 0 || t.Area <= 0 {
		return
	}
	height := 1000 * t.Volume / t.Area
	r.Levels = slices.Clone(r.Levels)
	for i, temp := range r.Temps {
		r.Levels[i] -= Swelling(height, r.Temps[0], temp)
	}
}
