package logbook

import (
	"cmp"
	"slices"
	"time"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/fault"
)

// What a thermometer and a hygrometer showed. The air belongs to a named place that areas may share;
// the temperature of the base is each area's own.
type (
	// Climate is what was read in the area: its air, and its own base.
	Climate struct {
		climate.Air
		Since
	}
	// AirRead is what was read of a place of air that areas share.
	AirRead struct {
		Place    string  `json:"place"`
		Temp     float64 `json:"air_C"`
		Humidity float64 `json:"rh_percent"`
		Since
	}
	// AirPlace says whose air an area has; Outside is the air of the open.
	AirPlace struct {
		Place string `json:"place"`
	}
	// Since is what a gauge that remembers showed since the reading before, and whether the room
	// stays shut from then on.
	Since struct {
		Coldest *float64 `json:"coldest_C,omitempty"`
		Warmest *float64 `json:"warmest_C,omitempty"`
		Dampest *float64 `json:"dampest_percent,omitempty"`
		Driest  *float64 `json:"driest_percent,omitempty"`
		Shut    bool     `json:"shut,omitempty"`
	}
	// Forecast is what a person read of the weather ahead.
	Forecast struct {
		DryUntil string  `json:"dry_until"` // RFC 3339
		Coldest  float64 `json:"coldest_C"`
		Wind     float64 `json:"wind_m_per_s"`
		From     string  `json:"from"` // where it was read
	}
)

// Outside is the place of air of what lies in the open.
const Outside = "outside"

func (b Climate) check() error {
	if _, _, err := climate.Humidity(b.Humidity); err != nil {
		return fault.At("body.rh_percent", "climate.humidity_out_of_range", "value", b.Humidity)
	}
	return first(within("body.air_C", b.Temp, coldest, hottest), within("body.substrate_C", b.Base, coldest, hottest), b.Since.check(b.Humidity, b.Temp, b.Base))
}

func (b AirRead) check() error {
	if _, _, err := climate.Humidity(b.Humidity); err != nil {
		return fault.At("body.rh_percent", "climate.humidity_out_of_range", "value", b.Humidity)
	}
	return first(name("body.place", b.Place), within("body.air_C", b.Temp, coldest, hottest), b.Since.check(b.Humidity, b.Temp))
}

func (b AirPlace) check() error { return name("body.place", b.Place) }

func (b Forecast) check() error {
	const storm = 60
	if _, err := momentOf("body.dry_until", b.DryUntil); err != nil {
		return err
	}
	return first(within("body.coldest_C", b.Coldest, coldest, hottest), within("body.wind_m_per_s", b.Wind, 0, storm), name("body.from", b.From))
}

// check refuses what was remembered beside what was read: the coldest over it, the dampest under it.
func (s Since) check(humidity float64, temps ...float64) error {
	for _, each := range []struct {
		field string
		value *float64
		least float64
		most  float64
	}{
		{"body.coldest_C", s.Coldest, coldest, slices.Min(temps)}, {"body.warmest_C", s.Warmest, slices.Min(temps), hottest},
		{"body.dampest_percent", s.Dampest, min(humidity, 100), 102}, {"body.driest_percent", s.Driest, 0.1, humidity},
	} {
		if each.value == nil {
			continue
		}
		if err := within(each.field, *each.value, each.least, each.most); err != nil {
			return err
		}
	}
	return nil
}

// ClimateReading is what was read in the area by hand: air, base and humidity.
type ClimateReading struct {
	Entry string    `json:"entry"`
	When  time.Time `json:"at"`
	climate.Air
	Since
}

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
	slices.SortStableFunc(r, func(a, b reading) int { return cmp.Or(a.when.Compare(b.when), cmp.Compare(a.entry, b.entry)) })
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
	return cure.Readings{Base: a.base.track(from), Air: a.air.track(from), Humidity: a.humidity.track(from)}
}

// climateSince are the area's own readings from the last one before a moment on.
func (a *Area) climateSince(from time.Time) []ClimateReading {
	first := 0
	for first+1 < len(a.Climate) && !a.Climate[first+1].When.After(from) {
		first++
	}
	return append([]ClimateReading{}, a.Climate[min(first, len(a.Climate)):]...)
}

// readAir takes all that was read of the area's climate, before anything is judged by it: what is
// found later works back. Entries are those of the whole job.
func (a *Area) readAir(entries []Entry) {
	shared := func(entry string, when time.Time, temp, humidity float64, s Since) {
		a.air.add(reading{entry: entry, when: when, value: temp, low: s.Coldest, high: s.Warmest, shut: s.Shut})
		a.humidity.add(reading{entry: entry, when: when, value: min(humidity, 100), low: s.Driest, high: s.Dampest, shut: s.Shut})
	}
	for _, e := range a.settled {
		switch body := e.body.(type) {
		case AirPlace:
			a.Place = body.Place
		case Climate:
			a.Climate = append(a.Climate, ClimateReading{Entry: e.ID, When: e.when, Air: body.Air, Since: body.Since})
			shared(e.ID, e.when, body.Temp, body.Humidity, body.Since)
			a.base.add(reading{entry: e.ID, when: e.when, value: body.Base, low: body.Coldest, high: body.Warmest, shut: body.Shut})
		case Weighed: // the temperature of air and base, noted at the bucket
			a.base.add(reading{entry: e.ID, when: e.when, value: body.Temp})
			a.air.add(reading{entry: e.ID, when: e.when, value: body.Temp})
		case Forecast:
			a.forecasts = append(a.forecasts, ForecastRead{Entry: e.ID, When: e.when, Forecast: body})
		}
	}
	if a.Place != "" {
		a.readPlace(entries, shared)
	}
	for _, list := range []readings{a.base, a.air, a.humidity} {
		list.sort()
	}
	slices.SortStableFunc(a.Climate, func(x, y ClimateReading) int { return x.When.Compare(y.When) })
}

// ForecastRead is a forecast with when it was read.
type ForecastRead struct {
	Entry string    `json:"entry"`
	When  time.Time `json:"at"`
	Forecast
}

// readPlace takes what was read of the area's air elsewhere: in the job's own book, and in other areas
// of the same air.
func (a *Area) readPlace(entries []Entry, shared func(string, time.Time, float64, float64, Since)) {
	byArea := map[string][]Entry{}
	for _, e := range entries {
		if e.AreaID != a.ID {
			byArea[e.AreaID] = append(byArea[e.AreaID], e)
		}
	}
	for area, list := range byArea {
		m := mend(list)
		place := ""
		for _, e := range m.settled {
			if body, is := e.body.(AirPlace); is {
				place = body.Place
			}
		}
		for _, e := range m.settled {
			switch body := e.body.(type) {
			case AirRead:
				if body.Place == a.Place {
					shared(e.ID, e.when, body.Temp, body.Humidity, body.Since)
				}
			case Climate:
				if area != "" && place == a.Place {
					shared(e.ID, e.when, body.Temp, body.Humidity, body.Since)
				}
			}
		}
	}
}

// LastBase is the temperature of the base as it was read last, °C; nil where nobody did.
func (a *Area) LastBase() *float64 {
	if len(a.base) == 0 {
		return nil
	}
	return &a.base[len(a.base)-1].value
}

// outdoors tells whether the area lies in the open.
func (a *Area) outdoors() bool {
	return a.Place == Outside || a.Geometry != nil && a.Geometry.Shape == "deck"
}
