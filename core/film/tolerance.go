package film

import (
	"math"

	"gonum.org/v1/gonum/mathext"
)

// Tolerance is the one-sided statement "with 95 % confidence at least 95 % of this surface
// is above x mm". Its values are nil where no statement can be made.
type Tolerance struct {
	K     *float64 `json:"tolerance_k"`
	SUsed *float64 `json:"s_used_mm"`
	X     *float64 `json:"tolerance_x_mm"` // nil alone when it comes out below 0
}

const (
	share, confidence = 0.95, 0.95
	leastForStatement = 5 // readings
)

// Factor is k of the one-sided tolerance statement for n readings, share p and confidence
// gamma (Natrella 1963, Experimental Statistics, section 2-10; an approximation of the
// noncentral t). n must be at least 2.
func Factor(n int, p, gamma float64) float64 {
	zp, zg := normal(p), normal(gamma)
	a := 1 - zg*zg/(2*float64(n-1))
	b := zp*zp - zg*zg/float64(n)
	return (zp + math.Sqrt(zp*zp-a*b)) / a
}

func normal(p float64) float64 { return mathext.NormalQuantile(p) }

// state makes the statement from n readings: the deviation counts as no less than the mean
// width of the brackets over √12, since equal readings do not prove an equal film.
func state(mean float64, deviation *float64, width float64, n int) Tolerance {
	if n < leastForStatement {
		return Tolerance{}
	}
	k := Factor(n, share, confidence)
	s := max(*deviation, width/math.Sqrt(12))
	t := Tolerance{K: &k, SUsed: &s}
	if x := mean - k*s; x >= 0 {
		t.X = &x
	}
	return t
}
