package film

import "math"

// Verdicts on the film of a surface, in the order in which they are looked for. Thick is said beside
// thin, never instead of it.
const (
	TooFew   = "too few" // fewer places than asked, or a part of it not read
	Thin     = "thin"
	Thick    = "thick"     // an upper value over the sheet's greatest per coat
	NotKnown = "not known" // mass and teeth disagree, and nobody said why
	Enough   = "enough"
)

// leastShare of the target is the least lower value where the sheet names none of its own.
const leastShare = 0.8

// Asked is what the readings of a surface are judged against, mm of wet film.
type Asked struct {
	Readings   int      `json:"readings_asked" minimum:"0"`
	Target     float64  `json:"target_mm" minimum:"0"`
	Minimum    float64  `json:"minimum_mm,omitempty" minimum:"0"`      // for the share below it; 0: not asked
	SheetLeast *float64 `json:"sheet_least_mm,omitempty" minimum:"0"`  // least single reading; nil: 80 % of the target
	Greatest   *float64 `json:"greatest_wft_mm,omitempty" minimum:"0"` // greatest per coat; nil: no limit
}

// Least is the least lower value accepted, mm.
func (a Asked) Least() float64 {
	if a.SheetLeast != nil {
		return *a.SheetLeast
	}
	return leastShare * a.Target
}

// Verdict is what the readings of one surface amount to. Thick stands beside thin in the
// fields below it: a film can be both, and then both are said.
type Verdict struct {
	Count        int      `json:"n"`
	Marked       []int    `json:"marked"` // places of readings without a middle
	Mean         *float64 `json:"mean_mm"`
	Deviation    *float64 `json:"sd_mm"`
	MeanOfLowers *float64 `json:"mean_of_lowers_mm"`
	Least        *float64 `json:"least_mm"`
	ShareBelow   float64  `json:"share_below_minimum"` // 0 to 1, of the lower values
	Accepted     bool     `json:"accepted"`            // mean and least are reached
	Over         bool     `json:"over"`                // a reading is over the greatest per coat
	Says         string   `json:"verdict"`
	Strength     string   `json:"strength"`    // "shown" or "by_rule" where it is enough
	More         *int     `json:"more_places"` // that would show it, nil where none would or it is shown
	About        bool     `json:"about"`       // fewer than ten places: the statement is said as about
	Tolerance
}

// Judge judges comb readings: mean of the middles at or above the target, and no lower
// value below the least allowed. The mean and the deviation are of the readings with a
// middle.
func Judge(readings []Bracket, asked Asked) Verdict {
	v := Verdict{Count: len(readings), Marked: []int{}}
	var middles []float64
	lowers, width, below := 0.0, 0.0, 0
	for i, r := range readings {
		if middle, ok := r.Middle(); ok {
			middles = append(middles, middle)
			width += *r.Upper - r.Lower
		} else {
			v.Marked = append(v.Marked, i)
		}
		lowers += r.Lower
		if v.Least == nil || r.Lower < *v.Least {
			v.Least = &r.Lower
		}
		if micron(r.Lower) < micron(asked.Minimum) {
			below++
		}
		v.Over = v.Over || asked.Greatest != nil && (r.Upper == nil || micron(*r.Upper) > micron(*asked.Greatest))
	}
	if v.Count > 0 {
		mean := lowers / float64(v.Count)
		v.MeanOfLowers, v.ShareBelow = &mean, float64(below)/float64(v.Count)
	}
	v.Mean, v.Deviation = spread(middles)
	v.Accepted = v.Mean != nil && micron(*v.Mean) >= micron(asked.Target) && micron(*v.Least) >= micron(asked.Least())
	if len(v.Marked) == 0 && v.Mean != nil {
		v.Tolerance = state(*v.Mean, v.Deviation, width/float64(v.Count), v.Count)
	}
	switch {
	case v.Count < asked.Readings || v.Count == 0:
		v.Says = TooFew
	case !v.Accepted:
		v.Says = Thin
	case v.Over:
		v.Says = Thick
	default:
		v.Says = Enough
	}
	v.strength(asked)
	return v
}

// strength tells how strongly enough is said, and how many more places would show it.
func (v *Verdict) strength(asked Asked) {
	v.Strength, v.More, v.About = "", nil, v.Count < surely
	if !v.Accepted || v.Says == TooFew {
		return
	}
	v.Strength = ByRule
	if v.X != nil && micron(*v.X) >= micron(asked.Least()) {
		v.Strength = Shown
	} else {
		v.More = v.MoreFor(asked.Least())
	}
}

// surely is how many places a statement needs not to be said as "about".
const surely = 10

// spread gives the mean and, from two values on, the standard deviation (n − 1).
func spread(values []float64) (mean, deviation *float64) {
	if len(values) == 0 {
		return nil, nil
	}
	m := 0.0
	for _, x := range values {
		m += x / float64(len(values))
	}
	if len(values) < 2 {
		return &m, nil
	}
	squares := 0.0
	for _, x := range values {
		squares += (x - m) * (x - m)
	}
	s := math.Sqrt(squares / float64(len(values)-1))
	return &m, &s
}
