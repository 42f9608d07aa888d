// Package film holds wet-film readings taken with a comb gauge.
//
// A comb brackets the film: last wetted tooth ≤ wet thickness < next dry tooth. Both are
// kept; the lower counts for acceptance, the middle for means. No tooth wetted counts as 0
// to the first tooth; all wetted as the last tooth and more: such a reading has no middle.
package film

// Bracket is one reading in mm; Upper is nil when every tooth was wetted.
type Bracket struct {
	Lower float64  `json:"lower_mm"`
	Upper *float64 `json:"upper_mm"`
}

// Middle is the mean of both teeth; ok is false for a reading without one.
func (b Bracket) Middle() (mm float64, ok bool) {
	if b.Upper == nil || b.Lower == 0 {
		return 0, false
	}
	return (b.Lower + *b.Upper) / 2, true
}

// Comb is a usual gauge: teeth in mm, used where a job names no other.
func Comb() []float64 {
	return []float64{0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6}
}
