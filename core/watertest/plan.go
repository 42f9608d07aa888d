package watertest

import (
	"math"

	"dusha/core/fault"
)

// Duration is how long a test must run.
type Duration struct {
	Sigma        float64  `json:"sigma_mm"`
	Readings     int      `json:"readings"`
	Hours        float64  `json:"duration_h"`
	Need         float64  `json:"need_mm_per_h"`           // what this many readings can tell
	NeedOneFewer *float64 `json:"need_one_fewer_mm_per_h"` // nil with three readings
	FloorGoverns bool     `json:"floor_governs"`           // the gauge's rounding, not the scatter
}

// Plan is what the least duration depends on: the gauge, how often it is read, and the
// tolerance that is left after the doubt that is expected.
type Plan struct {
	Resolution float64 `json:"resolution_mm" minimum:"0"`
	Sigma      float64 `json:"sigma_mm,omitempty" minimum:"0"`
	Interval   float64 `json:"interval_h"`
	Tolerance  float64 `json:"tolerance_mm_per_h"`
}

// mostReadings is where planning ends: no one reads a gauge more often.
const mostReadings = 100_000

// need is the smallest loss that n readings in equal steps tell from none, mm/h: nine tight
// basins in ten then pass.
func (p Plan) need(n int) (need float64, floorGoverns bool) {
	sxx, length := equalSteps(n, p.Interval)
	scatter, floor := sigma(p.Sigma, p.Resolution)/math.Sqrt(sxx), floorOfGauge*p.Resolution/length
	dof := float64(n - 2)
	return (Quantile(sureAtEnd, dof) + Quantile(power, dof)) * math.Sqrt2 * max(scatter, floor), floor > scatter
}

// equalSteps gives S_xx and the length of n readings at an interval in h.
func equalSteps(n int, interval float64) (sxx, length float64) {
	m := float64(n)
	return interval * interval * m * (m*m - 1) / 12, (m - 1) * interval
}

// Duration finds the least number of readings that tell the tolerance.
func (p Plan) Duration() (Duration, error) {
	switch {
	case !(p.Tolerance > 0):
		return Duration{}, fault.At("tolerance_mm_per_h", "watertest.tolerance_not_positive", "value", p.Tolerance)
	case !(p.Resolution > 0):
		return Duration{}, fault.At("resolution_mm", "watertest.resolution_not_positive", "value", p.Resolution)
	case !(p.Interval > 0):
		return Duration{}, fault.At("interval_h", "watertest.interval_not_positive", "value", p.Interval)
	}
	n, found := leastN(leastReadings, func(n int) bool { need, _ := p.need(n); return need <= p.Tolerance })
	if !found {
		return Duration{}, fault.At("tolerance_mm_per_h", "watertest.no_length_will_do", "value", p.Tolerance)
	}
	d := Duration{Sigma: sigma(p.Sigma, p.Resolution), Readings: n}
	_, d.Hours = equalSteps(n, p.Interval)
	d.Need, d.FloorGoverns = p.need(n)
	if n > leastReadings {
		fewer, _ := p.need(n - 1)
		d.NeedOneFewer = &fewer
	}
	return d, nil
}

// leastN is the least n, not below from, for which a test that only ever turns true holds.
func leastN(from int, holds func(int) bool) (int, bool) {
	if holds(from) {
		return from, true
	}
	low, high := from, 2*from
	for !holds(high) {
		if high > mostReadings {
			return 0, false
		}
		low, high = high, 2*high
	}
	for high-low > 1 {
		if middle := (low + high) / 2; holds(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	return high, true
}

// Gauge is the coarsest gauge that brings a test under a wished time.
type Gauge struct {
	Readings int      `json:"readings"`
	Coarsest *float64 `json:"coarsest_mm"`        // nil: the scatter alone forbids it
	Listed   *float64 `json:"coarsest_listed_mm"` // of the gauges at hand; nil: none of them
}

// GaugeFor finds the coarsest resolution with which the test is no longer than wished, h.
func (p Plan) GaugeFor(wished float64, gauges []float64) (Gauge, error) {
	if !(p.Tolerance > 0) || !(p.Interval > 0) {
		return Gauge{}, fault.At("tolerance_mm_per_h", "watertest.tolerance_not_positive", "value", p.Tolerance)
	}
	g := Gauge{Readings: int(math.Floor(wished/p.Interval+slackHours)) + 1}
	if g.Readings < leastReadings {
		return g, nil
	}
	scatterOnly := Plan{Sigma: p.Sigma, Interval: p.Interval, Tolerance: p.Tolerance}
	if need, _ := scatterOnly.need(g.Readings); p.Sigma > 0 && need > p.Tolerance {
		return g, nil
	}
	// Where the scatter does not bind, what can be told is in proportion to the resolution.
	need, _ := Plan{Resolution: 1, Interval: p.Interval, Tolerance: p.Tolerance}.need(g.Readings)
	coarsest := p.Tolerance / need
	g.Coarsest = &coarsest
	for _, each := range gauges {
		if each <= coarsest && (g.Listed == nil || each > *g.Listed) {
			g.Listed = &each
		}
	}
	return g, nil
}

// Stand is a paired test at equal steps as far as it has come.
type Stand struct {
	Interval   float64 `json:"interval_h"`
	Readings   int     `json:"readings"`
	Scatter    float64 `json:"scatter_mm" minimum:"0"` // s of the differences
	Resolution float64 `json:"resolution_mm" minimum:"0"`
	Sigma      float64 `json:"sigma_mm,omitempty" minimum:"0"` // scatter of a single reading, where known
	Loss       float64 `json:"r_mm_per_h"`
	RMax       float64 `json:"r_max_mm_per_h" minimum:"0"`
	PanDoubt   float64 `json:"pan_doubt_mm_per_h" minimum:"0"`
	Hold       float64 `json:"hold_h" minimum:"0"`
}

// StillNeeded is how much longer a test must run to be decided, if it can be.
type StillNeeded struct {
	SENow        float64  `json:"se_now_mm_per_h"`
	CannotDecide bool     `json:"cannot_decide"`
	Why          *string  `json:"why"` // "gauge" or "pan", where no length of test helps
	Readings     *int     `json:"readings"`
	Hours        *float64 `json:"duration_h"`
	Still        *float64 `json:"still_h"`
}

func (s Stand) se(n int) float64 {
	sxx, length := equalSteps(n, s.Interval)
	return max(s.Scatter/math.Sqrt(sxx), math.Sqrt2*least(sigma(s.Sigma, s.Resolution), s.Resolution, sxx, length))
}

// StillNeeded finds the least length at which the distance to the tolerance exceeds the
// doubt: with the same interval and scatter, and not below the hold time where the loss
// lies under the tolerance.
func (s Stand) StillNeeded() (StillNeeded, error) {
	if s.Readings < leastReadings || !(s.Interval > 0) {
		return StillNeeded{}, fault.At("readings", "watertest.too_few_readings", "value", s.Readings, "least", leastReadings)
	}
	out := StillNeeded{SENow: s.se(s.Readings)}
	distance := math.Abs(s.Loss - s.RMax)
	cannot := func(why string) (StillNeeded, error) {
		out.CannotDecide, out.Why = true, &why
		return out, nil
	}
	if distance <= out.SENow {
		return cannot("gauge")
	}
	if distance <= s.PanDoubt {
		return cannot("pan")
	}
	n, found := leastN(s.Readings, func(n int) bool {
		return distance > Quantile(sureAtEnd, float64(n-2))*s.se(n)+s.PanDoubt
	})
	if !found {
		return cannot("gauge")
	}
	if s.Loss < s.RMax {
		n = max(n, int(math.Ceil(s.Hold/s.Interval-slackHours))+1)
	}
	hours := float64(n-1) * s.Interval
	still := hours - float64(s.Readings-1)*s.Interval
	out.Readings, out.Hours, out.Still = &n, &hours, &still
	return out, nil
}

// Standing reads the state of a paired test from its readings: the step is the mean one.
func (t Test) Standing(j Judged) Stand {
	n := len(t.Water.Times)
	return Stand{
		Interval: t.length() / float64(n-1), Readings: n, Scatter: j.Scatter,
		Resolution: t.Water.Resolution, Sigma: t.Water.Sigma, Loss: j.Loss, RMax: t.RMax, PanDoubt: j.Doubt, Hold: t.Hold,
	}
}
