package cure

import (
	"math"
	"slices"

	"dusha/core/climate"
)

// Track is one thing read by hand, a temperature in °C or a humidity in percent, in order of time.
type Track []Point

// Point is a reading.
type Point struct {
	At    float64 // h from the beginning of the series
	Value float64
	Low   *float64 // least and greatest since the reading before, where a gauge that remembers showed them
	High  *float64
	Shut  bool // the room stays shut from then on
}

// How readings by hand stand for the time between them (domain rule "what a permission needs").
const (
	asRead  = 6.0  // h: between two readings so close a value runs straight; after the last it stands
	shutFor = 16.0 // h of a room that stayed shut
	atMost  = 24.0 // h after the last reading, and before the first, that anything is known
)

// Side is to which side a doubtful value is taken: −1 colder or drier, +1 warmer or damper.
type Side struct{ Temp, Humidity float64 }

// offs are how far a value may be off over a gap in a shut room, and else, in the track's unit.
type offs struct{ near, far float64 }

var (
	tempOff     = offs{2, 5}
	humidityOff = offs{5, 15}
)

// mean is the value over a stretch that no reading lies in: straight between close readings, at the
// side's edge over a gap and at the open end. Known is false where nothing tells it.
func (t Track) mean(from, to, side float64, off offs) (value float64, known bool) {
	middle := (from + to) / 2
	i, _ := slices.BinarySearchFunc(t, middle, func(p Point, at float64) int {
		if p.At <= at {
			return -1
		}
		return 1
	})
	edge := func(value, hours float64, shut bool) float64 {
		if shut && hours <= shutFor {
			return value + side*off.near
		}
		return value + side*off.far
	}
	switch {
	case len(t) == 0:
		return 0, false
	case i == len(t): // after the last
		last := t[i-1]
		switch since := middle - last.At; {
		case since <= asRead:
			return last.Value, true
		case since <= atMost:
			return edge(last.Value, since, last.Shut), true
		}
		return 0, false
	case i == 0: // before the first
		switch until := t[0].At - middle; {
		case until <= asRead:
			return t[0].Value, true
		case until <= atMost:
			return edge(t[0].Value, until, false), true
		}
		return 0, false
	}
	before, after := t[i-1], t[i]
	gap := after.At - before.At
	if gap <= asRead {
		return before.Value + (after.Value-before.Value)*(middle-before.At)/gap, true
	}
	worse := min(before.Value, after.Value)
	remembered := after.Low
	if side > 0 {
		worse, remembered = max(before.Value, after.Value), after.High
	}
	if remembered != nil {
		return *remembered, true
	}
	return edge(worse, gap, before.Shut), true
}

// Readings are the tracks that a wait moves with, and those that are foreseen: each of their values holds from its time to
// the next one's.
type Readings struct {
	Base, Air, Humidity Track
	Foreseen            *Readings
}

// Needs tells what a law reads: a film that minds the air needs its temperature and humidity.
func (r Readings) tracks(minds bool) []Track {
	if minds {
		return []Track{r.Base, r.Air, r.Humidity}
	}
	return []Track{r.Base}
}

// Series is the climate from 0 to some hours, an hour at a time or less, taken to a side where it
// was not read. From `now` on it is a forecast: the last values, off by 2 K and 10 points. KnownTo is
// how far it was known by readings.
func (r Readings) Series(until, now float64, side Side, minds bool) (series []Stretch, knownTo float64) {
	cuts, last := []float64{}, 0.0
	add := func(at float64) {
		if at > 0 && at < until {
			cuts = append(cuts, at)
		}
	}
	for _, t := range r.tracks(minds) {
		for _, p := range t {
			last = max(last, p.At+atMost)
			for _, after := range []float64{0, asRead, shutFor, atMost} {
				add(p.At + after)
			}
			add(p.At - asRead)
			add(p.At - atMost)
		}
	}
	foreseen := r
	if r.Foreseen != nil {
		foreseen = *r.Foreseen
		for _, t := range foreseen.tracks(minds) {
			for _, p := range t {
				add(p.At)
			}
		}
	}
	add(now)
	for at := 1.0; at < min(now, last, until); at++ { // farther out nothing changes any more
		add(at)
	}
	slices.Sort(cuts)
	cuts = append(slices.Compact(cuts), until)
	from, known := 0.0, true
	for _, to := range cuts {
		var a climate.Air
		a.Humidity = 50 // read by no law that does not mind it
		values := []struct {
			into *float64
			of   Track
			side float64
			off  offs

			foreseen Track
		}{{&a.Base, r.Base, side.Temp, tempOff, foreseen.Base}, {&a.Temp, r.Air, side.Temp, tempOff, foreseen.Air}, {&a.Humidity, r.Humidity, side.Humidity, humidityOff, foreseen.Humidity}}
		if !minds {
			values = values[:1]
		}
		dark := false
		for _, v := range values {
			if from >= now {
				last, is := v.foreseen.at(ahead(now, from, r.Foreseen != nil))
				if dark = dark || !is; is {
					*v.into = last + v.side*map[bool]float64{true: offHumidity, false: offTemp}[v.into == &a.Humidity]
				}
				continue
			}
			value, is := v.of.mean(from, to, v.side, v.off)
			dark = dark || !is
			*v.into = value
		}
		if !minds {
			a.Temp = a.Base
		}
		a.Humidity = min(max(a.Humidity, 1), 100)
		if dark && from < now {
			known = false
		}
		if known && to <= now {
			knownTo = to
		}
		if !dark {
			series = append(series, Stretch{Hours: to - from, Air: a})
		} else {
			series = append(series, Stretch{Hours: to - from, Air: climate.Air{Temp: math.NaN(), Base: math.NaN()}})
		}
		from = to
	}
	return series, knownTo
}

// ahead is the time whose value stands for a stretch that begins at a time and was not read: now, or itself where the climate
// is foreseen.
func ahead(now, from float64, foreseen bool) float64 {
	if foreseen {
		return from
	}
	return now
}

// at is the last value read up to a time, else the first one.
func (t Track) at(hours float64) (float64, bool) {
	if len(t) == 0 {
		return 0, false
	}
	value := t[0].Value
	for _, p := range t {
		if p.At <= hours {
			value = p.Value
		}
	}
	return value, true
}

// Knowing lets a wait go on only where the climate is known.
func (w Wait) Knowing() Wait {
	rate := w.Rate
	w.Rate = func(a climate.Air) float64 {
		if math.IsNaN(a.Base) {
			return 0
		}
		return rate(a)
	}
	return w
}
