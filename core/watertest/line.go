// Package watertest plans a test with standing water and judges it.
//
// Levels are mm, up is positive; times are h; a loss is mm/h, positive when water goes. An
// open pan beside or in the water, the control pan, shows what evaporation and rain do
// alone; the net loss is what the test loses beyond it. Bounds are one-sided, by Student's t
// of an ordinary least-squares line whose standard error is never below what the gauge's
// resolution allows: rounded readings of a slow fall repeat the same error, and reading
// more often must not shrink the doubt.
package watertest

import (
	"math"

	"gonum.org/v1/gonum/mathext"
)

// Quantile is Student's t of one-sided probability p for any positive degrees of freedom (Abramowitz and
// Stegun, 26.5.27 and 26.7.1: the regularized incomplete beta function).
func Quantile(p, dof float64) float64 {
	if p == 0.5 {
		return 0
	}
	sign, tail := 1.0, 1-p
	if p < 0.5 {
		sign, tail = -1, p
	}
	x := mathext.InvRegIncBeta(dof/2, 0.5, 2*tail)
	t := math.Sqrt(dof * (1 - x) / x)
	// The library's inverse is good to about 1e-8; two steps of Newton make it exact.
	atDof, _ := math.Lgamma((dof + 1) / 2)
	below, _ := math.Lgamma(dof / 2)
	for range 2 {
		density := math.Exp(atDof-below-(dof+1)/2*math.Log(1+t*t/dof)) / math.Sqrt(dof*math.Pi)
		t += (mathext.RegIncBeta(dof/2, 0.5, dof/(dof+t*t))/2 - tail) / density
	}
	return sign * t
}

// floorOfGauge is how much of the resolution a slope over the whole test may be off, however
// many readings there are.
const floorOfGauge = 0.6

// line is a fitted line of levels on times.
type line struct {
	slope   float64
	scatter float64 // s, of the residuals
	sxx     float64
	length  float64 // last time less the first, h
	n       int
}

// spanOf gives the sum of squares of the times about their mean, and their length.
func spanOf(times []float64) (sxx, length float64) {
	mean := 0.0
	for _, t := range times {
		mean += t / float64(len(times))
	}
	for _, t := range times {
		sxx += (t - mean) * (t - mean)
	}
	return sxx, times[len(times)-1] - times[0]
}

func fit(times, levels []float64) line {
	n := float64(len(times))
	meanT, meanY := 0.0, 0.0
	for i := range times {
		meanT, meanY = meanT+times[i]/n, meanY+levels[i]/n
	}
	sxy, squares := 0.0, 0.0
	l := line{n: len(times)}
	l.sxx, l.length = spanOf(times)
	for i := range times {
		sxy += (times[i] - meanT) * (levels[i] - meanY)
	}
	l.slope = sxy / l.sxx
	for i := range times {
		rest := levels[i] - meanY - l.slope*(times[i]-meanT)
		squares += rest * rest
	}
	if l.n > 2 {
		l.scatter = math.Sqrt(squares / (n - 2))
	}
	return l
}

// Edge is a fitted line at a time with the band that holds it with 95 % confidence on each
// side, mm.
type Edge struct {
	T    float64 `json:"t_h"`
	Mid  float64 `json:"mid_mm"`
	Low  float64 `json:"low_mm"`
	High float64 `json:"high_mm"`
}

// Band draws the line of one water by itself over some hours, nil with fewer than three
// readings. Its slope is no surer than the gauge allows.
func (r Readings) Band(until float64) []Edge {
	if r.check("") != nil {
		return nil
	}
	l, o := fit(r.Times, r.Levels), r.alone()
	n, meanT, meanY := float64(l.n), 0.0, 0.0
	for i := range r.Times {
		meanT, meanY = meanT+r.Times[i]/n, meanY+r.Levels[i]/n
	}
	scatter := max(l.scatter, sigma(r.Sigma, r.Resolution))
	const parts = 24
	var edges []Edge
	for i := range parts + 1 {
		t := r.Times[0] + (until-r.Times[0])*float64(i)/parts
		mid := meanY + l.slope*(t-meanT)
		half := Quantile(sureAtEnd, o.dof) * math.Hypot(scatter/math.Sqrt(n), o.se*(t-meanT))
		edges = append(edges, Edge{t, mid, mid - half, mid + half})
	}
	return edges
}

// sigma is the scatter of a single reading: no less than the resolution over √12.
func sigma(stated, resolution float64) float64 { return max(stated, resolution/math.Sqrt(12)) }

// least is the least standard error of a slope that a gauge allows.
func least(s, resolution, sxx, length float64) float64 {
	return max(s/math.Sqrt(sxx), floorOfGauge*resolution/length)
}

// soak is the fit level = a + S√t + b·t for a base that drinks.
type soak struct {
	root, slope float64
	squares     float64 // of the residuals
	cbb         float64 // of the inverse of XᵀX, for b
}

// leastForSoak is how many readings the fit with √t needs.
const leastForSoak = 12

// fitSoak fits √t beside the line; fitted is false where there are too few readings. Where
// S is not below 0 the base does not drink, and the plain line stands.
func fitSoak(times, levels []float64) (s soak, fitted bool) {
	if len(times) < leastForSoak || times[0] < 0 {
		return s, false
	}
	var m [3][4]float64 // normal equations with the right side
	for i, t := range times {
		x := [3]float64{1, math.Sqrt(t), t}
		for a := range 3 {
			for b := range 3 {
				m[a][b] += x[a] * x[b]
			}
			m[a][3] += x[a] * levels[i]
		}
	}
	inverse, ok := invert(m)
	if !ok {
		return s, false
	}
	var beta [3]float64
	for a := range 3 {
		for b := range 3 {
			beta[a] += inverse[a][b] * m[b][3]
		}
	}
	for i, t := range times {
		rest := levels[i] - beta[0] - beta[1]*math.Sqrt(t) - beta[2]*t
		s.squares += rest * rest
	}
	s.root, s.slope, s.cbb = beta[1], beta[2], inverse[2][2]
	return s, true
}

// invert gives the inverse of a symmetric 3 × 3 matrix by cofactors.
func invert(m [3][4]float64) (inverse [3][3]float64, ok bool) {
	cofactor := func(r, c int) float64 {
		a, b, d, e := (r+1)%3, (r+2)%3, (c+1)%3, (c+2)%3
		return m[a][d]*m[b][e] - m[a][e]*m[b][d]
	}
	determinant := 0.0
	for c := range 3 {
		determinant += m[0][c] * cofactor(0, c)
	}
	if determinant == 0 {
		return inverse, false
	}
	for r := range 3 {
		for c := range 3 {
			inverse[c][r] = cofactor(r, c) / determinant
		}
	}
	return inverse, true
}
