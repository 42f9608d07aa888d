package takeoff

import (
	"math"

	"dusha/core/fault"
)

// Section is the cross-section of a fillet or bead: triangular legs a, a concave radius r,
// or a bead of width and depth, laid along a junction.
type Section struct {
	Section string  `json:"section"` // "triangle", "concave", "bead" or "bead_triangle"
	Leg     float64 `json:"a_mm,omitempty" minimum:"0"`
	Radius  float64 `json:"r_mm,omitempty" minimum:"0"`
	Width   float64 `json:"width_mm,omitempty" minimum:"0"`
	Depth   float64 `json:"depth_mm,omitempty" minimum:"0"`
	Angle   float64 `json:"angle_deg,omitempty"` // between the surfaces; 0: square
	Length  float64 `json:"length_m"`
	Density float64 `json:"density_kg_per_L,omitempty" minimum:"0"`
	Waste   float64 `json:"waste_percent,omitempty" minimum:"0"`
}

// Fillet is what a section takes.
type Fillet struct {
	Section   float64 `json:"section_mm2"`
	Volume    float64 `json:"volume_L"`
	Mass      float64 `json:"mass_kg"`
	WithWaste float64 `json:"with_waste_kg"`
}

// Measure works a fillet or bead out: legs (a²/2)·sin θ; radius r²(cot(θ/2) − (π−θ)/2), which
// is r²(1 − π/4) on a square corner; mm² × m / 1000 = L.
func (s Section) Measure() (Fillet, error) {
	if !(s.Length > 0) {
		return Fillet{}, fault.At("length_m", "length.too_small", "value", s.Length, "least", 0)
	}
	angle := s.Angle
	if angle == 0 {
		angle = 90
	}
	if !(angle > 0 && angle < 180) {
		return Fillet{}, fault.At("angle_deg", "fillet.no_inner_corner", "value", angle)
	}
	theta := angle * math.Pi / 180
	var f Fillet
	switch s.Section {
	case "triangle":
		f.Section = s.Leg * s.Leg / 2 * math.Sin(theta)
	case "concave":
		f.Section = s.Radius * s.Radius * (1/math.Tan(theta/2) - (math.Pi-theta)/2)
	case "bead":
		f.Section = s.Width * s.Depth
	case "bead_triangle":
		f.Section = s.Leg * s.Leg / 2
	default:
		return Fillet{}, fault.At("section", "choice.unknown", "typed", s.Section)
	}
	if !(f.Section > 0) {
		return Fillet{}, fault.At("section", "number.too_small", "value", f.Section, "least", 0)
	}
	f.Volume = f.Section * s.Length / 1000
	f.Mass = f.Volume * s.Density
	f.WithWaste = withWaste(f.Mass, s.Waste)
	return f, nil
}

// Primer is an area to prime; the primer runs a margin past the termination, where it stays to
// be seen.
type Primer struct {
	Area        float64 `json:"area_m2" minimum:"0"`
	Rate        float64 `json:"rate_kg_per_m2" minimum:"0"`
	Coats       int     `json:"coats"`
	Termination float64 `json:"termination_mm,omitempty" minimum:"0"`
	Margin      float64 `json:"margin_mm,omitempty" minimum:"0"`
}

// Primed is what a primer covers and takes.
type Primed struct {
	Area float64 `json:"area_m2"`
	Kg   float64 `json:"kg"`
}

// Measure works a primer out: area × rate × coats.
func (p Primer) Measure() (Primed, error) {
	if p.Coats < 1 {
		return Primed{}, fault.At("coats", "number.too_small", "value", p.Coats, "least", 1)
	}
	const mm2PerM2 = 1e6
	area := p.Area + p.Termination*p.Margin/mm2PerM2
	return Primed{Area: area, Kg: area * p.Rate * float64(p.Coats)}, nil
}

// Overlay is a screed or bed to fall between its least and greatest thickness.
type Overlay struct {
	Least    float64 `json:"t_min_mm" minimum:"0"`
	Greatest float64 `json:"t_max_mm"`
	Slope    float64 `json:"slope_1_in_n"`
	Run      float64 `json:"run_mm" minimum:"0"`
}

// Run is how long an overlay can fall.
type Run struct {
	Longest float64 `json:"longest_run_mm"`
	Refused bool    `json:"refused"` // the run, in whole mm, is longer
}

// Reach works out the longest run, (t_max − t_min)·n.
func (o Overlay) Reach() (Run, error) {
	if o.Greatest < o.Least {
		return Run{}, fault.At("t_max_mm", "number.too_small", "value", o.Greatest, "least", o.Least)
	}
	if !(o.Slope > 0) {
		return Run{}, fault.At("slope_1_in_n", "number.too_small", "value", o.Slope, "least", 0)
	}
	longest := (o.Greatest - o.Least) * o.Slope
	return Run{Longest: longest, Refused: math.Round(o.Run) > math.Round(longest)}, nil
}
