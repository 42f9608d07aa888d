package watertest

import (
	"math"
	"slices"
)

// What a line through the levels does not see: rain, a sudden drop, a base that drinks.

// jumpOf is the least change between two levels that scatter and rounding do not make, mm.
func (r Readings) jumpOf() float64 { return 3 * math.Sqrt2 * sigma(r.Sigma, r.Resolution) }

// Rises are the places of readings whose level lies higher than the one before by more than
// scatter and rounding make: rain, or somebody filled up.
func (r Readings) Rises() (places []int) {
	for i := 1; i < len(r.Levels); i++ {
		if r.Levels[i]-r.Levels[i-1] > r.jumpOf() {
			places = append(places, i)
		}
	}
	return places
}

// rainShare of the rain's depth that may have fallen on the one water and not on the other.
const rainShare = 0.25

// dryLevels are the pan's levels without the rain's steps.
func (t Test) dryLevels() []float64 {
	levels, fallen := slices.Clone(t.Pan.Levels), 0.0
	for i := range levels {
		if i < len(t.Rain) {
			fallen += t.Rain[i]
		}
		levels[i] -= fallen
	}
	return levels
}

// rainDoubt is what rain that was read together with a pan adds to the doubt, mm/h.
func (t Test) rainDoubt() float64 {
	sum := 0.0
	for _, mm := range t.Rain {
		sum += mm
	}
	return rainShare * sum / t.length()
}

// Alone are the levels that the test's line goes through: less the pan's where they were read
// together.
func (t Test) Alone() Readings {
	water := t.Water
	t.correctForTemperature(&water)
	if t.Pan == nil || !t.together() {
		return water
	}
	water.Levels = slices.Clone(water.Levels)
	for i := range water.Levels {
		water.Levels[i] -= t.Pan.Levels[i]
	}
	water.Sigma = math.Hypot(sigma(water.Sigma, water.Resolution), sigma(t.Pan.Sigma, t.Pan.Resolution)) // both scatter
	return water
}

// Step finds a sudden drop: the one jump that, added to the line or to the soak fit, leaves the
// least behind. It is one where it falls by more than scatter and rounding make and stands above
// its own doubt at 99 %. fell is its depth in mm, at the place of the reading after it.
func (t Test) Step() (place int, fell float64, found bool) {
	r := t.Alone()
	base := func(hours float64) []float64 { return []float64{1, hours} }
	if s, fitted := fitSoak(r.Times, r.Levels); fitted && s.root < 0 {
		base = func(hours float64) []float64 { return []float64{1, math.Sqrt(hours), hours} }
	}
	n, columns := len(r.Times), len(base(0))+1
	if n < columns+leastReadings-2 {
		return 0, 0, false
	}
	const beside = 2 // readings on either side: one alone is an outlier
	least := math.Inf(1)
	for at := beside; at <= n-beside; at++ {
		rows := make([][]float64, n)
		for i, hours := range r.Times {
			jump := 0.0
			if i >= at {
				jump = 1
			}
			rows[i] = append(base(hours), jump)
		}
		coefficients, inverse, squares, ok := regress(rows, r.Levels)
		if !ok || squares >= least {
			continue
		}
		least = squares
		dof := float64(n - columns)
		jump := coefficients[columns-1]
		doubt := math.Sqrt(squares / dof * inverse[columns-1][columns-1])
		place, fell = at, -jump
		found = fell > r.jumpOf() && fell > Quantile(sureBefore, dof)*doubt
	}
	return place, fell, found
}

// Drinks tells whether the level falls faster in the first third of the readings than in the last
// by more than the doubt of both.
func (t Test) Drinks() bool {
	r := t.Alone()
	third := len(r.Times) / 3
	if third < leastReadings {
		return false
	}
	part := func(from, to int) own {
		return Readings{Times: r.Times[from:to], Levels: r.Levels[from:to], Resolution: r.Resolution, Sigma: r.Sigma}.alone()
	}
	first, last := part(0, third), part(len(r.Times)-third, len(r.Times))
	return last.slope-first.slope > Quantile(sureAtEnd, first.dof+last.dof)*math.Hypot(first.se, last.se)
}

// Odd is what a line alone would not have seen.
type Odd struct {
	Fell    float64 // depth of a step, mm; 0: there is none
	Drinks  bool    // the base drinks, and the soak fit was asked
	Missing int     // readings that the soak fit still needs
}

// AsRead judges a test with what its numbers show beside a line: a step never holds, and of a base that
// drinks nothing is told before the soak can be fitted. drinks is what is known of the base;
// sinceFilling are the times of the readings from the end of the filling, h.
func (t Test) AsRead(drinks bool, sinceFilling []float64) (j Judged, used Test, odd Odd, err error) {
	if j, err = t.Judge(); err != nil {
		return j, t, odd, err
	}
	_, fell, stepped := t.Step()
	if stepped {
		odd.Fell = fell
	}
	odd.Drinks = !stepped && (drinks || t.Drinks())
	if odd.Drinks {
		odd.Missing = max(0, leastForSoak-len(t.Water.Times))
	}
	if odd.Drinks && odd.Missing == 0 {
		soaked := t
		soaked.Soak, soaked.Water.Times = true, sinceFilling
		if t.Pan != nil && len(t.Pan.Times) == len(sinceFilling) {
			pan := *t.Pan
			pan.Times = sinceFilling
			soaked.Pan = &pan
		}
		if by, wrong := soaked.Judge(); wrong == nil && by.SoakUsed {
			j, t = by, soaked
		}
	}
	if odd.Missing > 0 || stepped && j.Verdict != Leaks {
		j.Verdict, j.LocalTestMet, j.LocalTestPerDay = CannotTell, false, nil
	}
	return j, t, odd, nil
}

// regress fits levels to columns by least squares; squares is what is left.
func regress(rows [][]float64, levels []float64) (coefficients []float64, inverse [][]float64, squares float64, ok bool) {
	n := len(rows[0])
	normal := make([][]float64, n)
	for a := range normal {
		normal[a] = make([]float64, 2*n+1) // the matrix, the identity, the right side
		normal[a][n+a] = 1
		for i, row := range rows {
			for b := range n {
				normal[a][b] += row[a] * row[b]
			}
			normal[a][2*n] += row[a] * levels[i]
		}
	}
	for a := range n { // Gauss and Jordan, with the greatest pivot
		pivot := a
		for b := a + 1; b < n; b++ {
			if math.Abs(normal[b][a]) > math.Abs(normal[pivot][a]) {
				pivot = b
			}
		}
		normal[a], normal[pivot] = normal[pivot], normal[a]
		const nothing = 1e-12
		if math.Abs(normal[a][a]) < nothing {
			return nil, nil, 0, false
		}
		for b := range normal[a] {
			if b != a {
				normal[a][b] /= normal[a][a]
			}
		}
		normal[a][a] = 1
		for other := range n {
			if other == a {
				continue
			}
			factor := normal[other][a]
			for b := range normal[other] {
				normal[other][b] -= factor * normal[a][b]
			}
		}
	}
	for a := range n {
		coefficients = append(coefficients, normal[a][2*n])
		inverse = append(inverse, normal[a][n:2*n])
	}
	for i, row := range rows {
		rest := levels[i]
		for a, x := range row {
			rest -= coefficients[a] * x
		}
		squares += rest * rest
	}
	return coefficients, inverse, squares, true
}
