package cure

import (
	"math"

	"dusha/core/climate"
	"dusha/core/fault"
)

// Stretch is a time over which the climate is taken as constant: a mean of an hour, or what
// a thermometer showed until it was read again.
type Stretch struct {
	Hours float64
	climate.Air
}

// Wait is a stage to be reached: how fast it is approached in a climate, and the shortest
// time it takes whatever the climate. Progress is Σ Δt / t, and the stage is reached at 1
// (the maturity method of ASTM C1074: the same as equivalent age at the reference).
type Wait struct {
	Rate     func(climate.Air) float64 // of progress, 1/h
	Shortest float64                   // h; 0 for a latest time
	// HumidEarly is +1 where humid air brings the stage forward (moisture-curing), −1 where
	// it puts it back (drying), 0 where it plays no part.
	HumidEarly float64
}

// Kinds of a time that a sheet prints.
const (
	Least  = "minimum" // earliest next coat, overlay, water test, rain-safe
	Latest = "latest"  // latest next coat, latest overlay
)

// ByTable is the law of cementitious, resin and solvent-borne films: t(T) of the film from
// the table. Least times count heat above the warmest printed entry as that entry and are
// never shorter than the shortest printed time; latest times go on shortening.
func ByTable(t Table, counts string) (Wait, error) {
	if err := t.check(); err != nil {
		return Wait{}, err
	}
	c := t.curve()
	w := Wait{Rate: func(a climate.Air) float64 { return 1 / c.counted(a.Base, counts) }}
	if counts != Latest {
		w.Shortest = t.shortest()
	}
	return w, nil
}

// Moisture is the law of moisture-curing polyurethane: t(T) of the film over the square
// root of the air's absolute humidity against the reference.
func Moisture(t Table, counts string, reference climate.Air) (Wait, error) {
	w, err := ByTable(t, counts)
	if err != nil {
		return Wait{}, err
	}
	byTemp := w.Rate
	w.Rate = func(a climate.Air) float64 { return byTemp(a) * climate.HumidityFactor(a, reference) }
	w.HumidEarly = 1
	return w, nil
}

// Drying is a water-borne film that dries in so many hours at the reference climate.
type Drying struct {
	Needed      float64     // h at the reference
	Reference   climate.Air // air and base alike
	FilmForming float64     // °C of the base below which no film forms
	Wet         float64     // mm laid
	Nominal     float64     // mm the sheet counts with
	Exponent    float64     // of the thickness, 1 to 2; 0 means 1
	Shortest    float64     // shortest printed time, h; 0: Needed
}

// ForThisFilm is the time a film of this thickness needs at the reference, h: thicker films
// need (WFT/nominal)^m times as long, thinner ones gain nothing.
func (d Drying) ForThisFilm() float64 {
	if d.Wet <= d.Nominal || d.Nominal <= 0 {
		return d.Needed
	}
	m := d.Exponent
	if m == 0 {
		m = 1
	}
	return d.Needed * math.Pow(d.Wet/d.Nominal, m)
}

// Wait gives the law of the film.
func (d Drying) Wait(counts string) (Wait, error) {
	if d.Needed <= 0 {
		return Wait{}, fault.At("needed_h", "number.too_small", "value", d.Needed, "least", 0)
	}
	needed := d.ForThisFilm()
	w := Wait{HumidEarly: -1, Rate: func(a climate.Air) float64 {
		rate, _ := climate.DryingRate(a, d.Reference, d.FilmForming)
		return rate / needed
	}}
	if counts != Latest {
		w.Shortest = d.Needed
		if d.Shortest > 0 {
			w.Shortest = d.Shortest
		}
	}
	return w, nil
}

// Slower takes two laws of one film together: of a least time the slower counts at each moment, of a
// latest time the faster.
func Slower(one, other Wait, counts string) Wait {
	both := other
	both.Rate = func(a climate.Air) float64 {
		if counts == Latest {
			return max(one.Rate(a), other.Rate(a))
		}
		return min(one.Rate(a), other.Rate(a))
	}
	both.Shortest = max(one.Shortest, other.Shortest)
	return both
}

// counted is the time at a film temperature for a kind of time.
func (c curve) counted(temp float64, counts string) float64 {
	if counts != Latest {
		temp = min(temp, c.entries[len(c.entries)-1].Temp)
	}
	time, _ := c.at(temp)
	return time
}

func (t Table) shortest() float64 {
	shortest := t.Entries[0].Time
	for _, e := range t.Entries {
		shortest = min(shortest, e.Time)
	}
	return shortest
}

// Progress is how far a stage has come after some hours; 1 is reached.
func (w Wait) Progress(series []Stretch, until float64) float64 {
	return w.sums(series).progress(until)
}

// When is the time at which the progress first reaches an amount, h from the start of the
// series; reached is false when the series ends before. The shortest time is left out.
func (w Wait) When(series []Stretch, amount float64) (hours float64, reached bool) {
	return w.sums(series).when(amount)
}

// Reached is when the stage is reached, never sooner than its shortest time.
func (w Wait) Reached(series []Stretch) (hours float64, reached bool) {
	hours, reached = w.When(series, 1)
	return max(hours, w.Shortest), reached
}

// How far a forecast is taken to be off.
const (
	offTemp     = 2.0  // K
	offHumidity = 10.0 // points
)

// Band gives the early and the late edge of a stage under a forecast that may be off by
// ±2 K and ±10 points of humidity; nil where the series ends before.
func (w Wait) Band(series []Stretch) (early, late *float64) {
	edge := func(side float64) *float64 {
		off := make([]Stretch, len(series))
		for i, s := range series {
			s.Temp += side * offTemp
			s.Base += side * offTemp
			s.Humidity = min(max(s.Humidity+side*w.HumidEarly*offHumidity, 0), 100)
			off[i] = s
		}
		if hours, reached := w.Reached(off); reached {
			return &hours
		}
		return nil
	}
	return edge(+1), edge(-1)
}
