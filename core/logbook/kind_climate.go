package logbook

import (
	"slices"
	"time"

	"dusha/core/climate"
	"dusha/core/fault"
)

const KindClimate Kind = "climate"

// Climate is what was read in the area: its air, and its own base.
type Climate struct {
	climate.Air
	Since
}

// Since is what a gauge that remembers showed since the reading before, and whether the room
// stays shut from then on.
type Since struct {
	Coldest *float64 `json:"coldest_C,omitempty"`
	Warmest *float64 `json:"warmest_C,omitempty"`
	Dampest *float64 `json:"dampest_percent,omitempty"`
	Driest  *float64 `json:"driest_percent,omitempty"`
	Shut    bool     `json:"shut,omitempty"`
}

func (b Climate) check() error {
	if _, _, err := climate.Humidity(b.Humidity); err != nil {
		return fault.At("body.rh_percent", "climate.humidity_out_of_range", "value", b.Humidity)
	}
	return first(within("body.air_C", b.Temp, coldest, hottest), within("body.substrate_C", b.Base, coldest, hottest), b.Since.check(b.Humidity, b.Temp, b.Base))
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

// apply has nothing left to do: readAir takes the readings before anything is judged by them.
func (b Climate) apply(*Area, settled) {}

func (b Climate) air(a *Area, e settled) {
	a.Climate = append(a.Climate, ClimateReading{Entry: e.ID, When: e.when, Air: b.Air, Since: b.Since})
	a.breathe(b.breath(e))
	a.base.add(reading{entry: e.ID, when: e.when, value: b.Base, low: b.Coldest, high: b.Warmest, shut: b.Shut})
}

func (b Climate) under(a *Area) (string, bool) { return a.firstStep(), true }

func (b Climate) breath(e settled) Breath { return Breath{e.ID, e.when, b.Temp, b.Humidity, b.Since} }

func (b Climate) share(own *Own, e settled) { own.breaths = append(own.breaths, b.breath(e)) }

func (Climate) still() {}

func (Climate) worksBack() {}
