package film

import "math"

// Stretch is what was laid on a part of a coat that is accepted by consumption.
type Stretch struct {
	Kg    float64  `json:"kg"`
	Area  float64  `json:"area_m2"`
	Asked float64  `json:"asked_kg_per_m2"`
	Least *float64 `json:"least_kg_per_m2"` // the sheet's own, where it states one
}

// mayLack is how much less than asked is still accepted where the sheet states no least, percent.
const mayLack = 5

// ByMass is the verdict on a stretch: Enough or Thin, with the kg/m² that lie there, the least of them, and the kg that
// are missing up to it. Grams decide.
func (s Stretch) ByMass() (says string, perM2, least, missing float64) {
	least = s.Asked * (1 - mayLack/100.0)
	if s.Least != nil {
		least = *s.Least
	}
	if !(s.Area > 0) {
		return NotKnown, 0, least, 0
	}
	perM2 = s.Kg / s.Area
	gram := func(kg float64) float64 { return math.Round(kg * 1000) }
	if gram(perM2) >= gram(least) {
		return Enough, perM2, least, 0
	}
	return Thin, perM2, least, (least - perM2) * s.Area
}

// Dry is a film that is accepted by direct readings of its dry thickness, mm.
type Dry struct {
	Readings []float64 `json:"readings_mm"`
	Target   float64   `json:"target_mm"`
	Wanted   int       `json:"wanted"`
}

// leastDryShare is how much of the target a single dry reading must reach, percent.
const leastDryShare = 80

// Judge is the verdict: TooFew under the wanted readings, Enough where their mean reaches the target and none lies under
// 80 % of it, else Thin.
func (d Dry) Judge() (says string, mean, least float64) {
	if len(d.Readings) == 0 || len(d.Readings) < d.Wanted {
		says = TooFew
	}
	least = math.Inf(1)
	for _, r := range d.Readings {
		mean += r / float64(len(d.Readings))
		least = min(least, r)
	}
	switch {
	case says != "":
	case micron(mean) >= micron(d.Target) && micron(least) >= micron(d.Target*leastDryShare/100):
		says = Enough
	default:
		says = Thin
	}
	return says, mean, least
}
