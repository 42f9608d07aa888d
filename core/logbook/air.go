package logbook

import (
	"cmp"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/order"
)

// What a thermometer and a hygrometer showed. The air belongs to a named place that areas may share;
// the temperature of the base is each area's own.

// Outside is the place of air of what lies in the open.
const Outside = "outside"

// reading is one value read at a moment.
type reading struct {
	entry     string
	when      time.Time
	value     float64
	low, high *float64
	shut      bool
	supposed  bool
}

// readings of one thing, in order.
type readings []reading

func (r *readings) add(one reading) { *r = append(*r, one) }

func (r readings) sort() {
	order.By(r, func(a, b reading) int { return cmp.Or(a.when.Compare(b.when), cmp.Compare(a.entry, b.entry)) })
}

// track is what was read, in hours from a moment; of what lies before, the last alone counts.
func (r readings) track(from time.Time) (t cure.Track) {
	for _, one := range r {
		t = append(t, cure.Point{At: one.when.Sub(from).Hours(), Value: one.value, Low: one.low, High: one.high, Shut: one.shut})
	}
	before := 0
	for before+1 < len(t) && t[before+1].At <= 0 {
		before++
	}
	return t[before:]
}

// since are the readings from the last one before a moment on.
func (r readings) since(from time.Time) readings {
	first := 0
	for first+1 < len(r) && !r[first+1].when.After(from) {
		first++
	}
	return r[first:]
}

// last is the newest reading up to a moment.
func (r readings) last(now time.Time) (reading, bool) {
	for i := len(r) - 1; i >= 0; i-- {
		if !r[i].when.After(now) {
			return r[i], true
		}
	}
	return reading{}, false
}

// warmer supposes the last value some K warmer from a moment on.
func (r readings) warmer(now time.Time, kelvin float64) readings {
	last, is := r.last(now)
	if !is {
		return r
	}
	last.when, last.value, last.low, last.high, last.supposed = now, last.value+kelvin, nil, nil, true
	return append(slices.DeleteFunc(slices.Clone(r), func(one reading) bool { return one.when.After(now) }), last)
}

func (a *Area) readingsFrom(from time.Time) cure.Readings {
	of := cure.Readings{Base: a.base.track(from), Air: a.air.track(from), Humidity: a.humidity.track(from)}
	if len(a.foreseen[0]) > 0 {
		of.Foreseen = &cure.Readings{Base: a.foreseen[0].track(from), Air: a.foreseen[1].track(from), Humidity: a.foreseen[2].track(from)}
	}
	return of
}

// climateSince are the area's own readings from the last one before a moment on.
func (a *Area) climateSince(from time.Time) []ClimateReading {
	first := 0
	for first+1 < len(a.Climate) && !a.Climate[first+1].When.After(from) {
		first++
	}
	return append([]ClimateReading{}, a.Climate[min(first, len(a.Climate)):]...)
}

// Breath is one reading of air: temperature, °C, and humidity, %, with what the gauge remembered.
type Breath struct {
	entry    string
	when     time.Time
	temp     float64
	humidity float64
	since    Since
}

// breathe takes a reading of the area's air.
func (a *Area) breathe(b Breath) {
	a.air.add(reading{entry: b.entry, when: b.when, value: b.temp, low: b.since.Coldest, high: b.since.Warmest, shut: b.since.Shut})
	a.humidity.add(reading{entry: b.entry, when: b.when, value: min(b.humidity, 100), low: b.since.Driest, high: b.since.Dampest, shut: b.since.Shut})
}

// readAir takes all that was read of the area's climate, before anything is judged by it: what is
// found later works back.
func (a *Area) readAir() {
	a.Place = a.own.place
	for _, e := range a.settled {
		if of, is := e.body.(airs); is {
			of.air(a, e)
		}
	}
	if a.Place != "" {
		for _, b := range a.rest.Breaths(a.Place, a.ID) {
			a.breathe(b)
		}
	}
	for _, list := range []readings{a.base, a.air, a.humidity} {
		list.sort()
	}
	order.By(a.Climate, func(x, y ClimateReading) int { return x.When.Compare(y.When) })
}

// LastBase is the temperature of the base as it was read last, °C; nil where nobody did.
func (a *Area) LastBase() *float64 {
	if len(a.base) == 0 {
		return nil
	}
	return &a.base[len(a.base)-1].value
}

// Outdoors tells whether the area lies in the open.
func (a *Area) Outdoors() bool {
	return a.Place == Outside || a.Geometry != nil && a.Geometry.Shape == "deck"
}
