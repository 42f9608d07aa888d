package film

import "math"

// Touch is a reading at its place on a surface, mm.
type Touch struct {
	Along, Up float64
	Bracket
}

// SamePlace is how near a reading lies to an earlier place to join it, mm; on a group under 1.5 m²
// half of √(area ÷ readings asked).
func SamePlace(groupArea float64, asked int) float64 {
	const usual, small = 300.0, 1.5
	if groupArea >= small || asked < 1 {
		return usual
	}
	return math.Sqrt(groupArea*1e6/float64(asked)) / 2
}

// Places joins readings that lie within the radius of an earlier place. A place counts its least lower
// value, and the mean of its middles; one without a middle keeps none.
func Places(touches []Touch, radius float64) (places []Bracket, members [][]int) {
	type place struct {
		along, up float64
		of        []int
	}
	var found []place
	for i, t := range touches {
		at := -1
		for k, p := range found {
			if math.Hypot(t.Along-p.along, t.Up-p.up) <= radius {
				at = k
				break
			}
		}
		if at < 0 {
			found = append(found, place{along: t.Along, up: t.Up})
			at = len(found) - 1
		}
		found[at].of = append(found[at].of, i)
	}
	for _, p := range found {
		places, members = append(places, joined(touches, p.of)), append(members, p.of)
	}
	return places, members
}

func joined(touches []Touch, of []int) Bracket {
	if len(of) == 1 {
		return touches[of[0]].Bracket
	}
	least, sum, whole := math.Inf(1), 0.0, true
	var worst Bracket
	for _, i := range of {
		b := touches[i].Bracket
		middle, ok := b.Middle()
		if !ok && (whole || b.Lower < worst.Lower) {
			worst, whole = b, false
		}
		least, sum = min(least, b.Lower), sum+middle
	}
	if !whole { // a reading without a middle leaves the place without one
		worst.Lower = min(worst.Lower, least)
		return worst
	}
	upper := 2*sum/float64(len(of)) - least
	return Bracket{Lower: least, Upper: &upper}
}

// Reach is how far round a place the film counts as read, mm, by how many m² the local rule gives a
// reading.
func Reach(perM2 float64) float64 {
	const least, share = 1200.0, 1.2
	if perM2 <= 0 {
		return least
	}
	return max(least, share*1000*math.Sqrt(1/perM2))
}

// MostUnread of a surface that may lie beyond the reach of its places, share of its area.
const MostUnread = 0.05

// Sample is a film thickness at a place of a surface.
type Sample struct {
	Along, Up, Thickness float64
}

// At is the thickness at a place by inverse distance, power 2, over all samples of its surface; nil
// farther than the sampling distance from the nearest of them: not measured.
func At(samples []Sample, along, up, sampling float64) *float64 {
	nearest, sum, weights := math.Inf(1), 0.0, 0.0
	for _, s := range samples {
		d := math.Hypot(s.Along-along, s.Up-up)
		if d == 0 {
			return &s.Thickness
		}
		nearest = min(nearest, d)
		sum, weights = sum+s.Thickness/(d*d), weights+1/(d*d)
	}
	if nearest > sampling {
		return nil
	}
	value := sum / weights
	return &value
}

// micron takes a thickness in mm to the whole 0.001 mm.
func micron(mm float64) int { return int(math.Round(mm * 1000)) }

// Strengths with which a film is said to be enough.
const (
	Shown  = "shown"   // the tolerance statement lies at or above the least
	ByRule = "by_rule" // the rule of acceptance alone
)

// mostMore places are looked for; more are not laid out on one surface.
const mostMore = 500

// MoreFor is how many more places with this mean and spread would show the least; nil where no number
// would.
func (v Verdict) MoreFor(least float64) *int {
	if v.Mean == nil || v.SUsed == nil || *v.Mean <= least {
		return nil
	}
	for n := max(v.Count, leastForStatement); n <= v.Count+mostMore; n++ {
		if micron(*v.Mean-Factor(n, share, confidence)**v.SUsed) >= micron(least) {
			more := n - v.Count
			return &more
		}
	}
	return nil
}
