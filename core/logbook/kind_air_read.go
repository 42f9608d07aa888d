package logbook

import (
	"dusha/core/climate"
	"dusha/core/fault"
)

const KindAirRead Kind = "air.read"

// AirRead is what was read of a place of air that areas share.
type AirRead struct {
	Place    string  `json:"place"`
	Temp     float64 `json:"air_C"`
	Humidity float64 `json:"rh_percent"`
	Since
}

func (b AirRead) check() error {
	if _, _, err := climate.Humidity(b.Humidity); err != nil {
		return fault.At("body.rh_percent", "climate.humidity_out_of_range", "value", b.Humidity)
	}
	return first(name("body.place", b.Place), within("body.air_C", b.Temp, coldest, hottest), b.Since.check(b.Humidity, b.Temp))
}

// keep collects what was read of shared air; each area takes that of its own place.
func (b AirRead) keep(j *Job, e settled) {
	j.breaths[b.Place] = append(j.breaths[b.Place], Breath{e.ID, e.when, b.Temp, b.Humidity, b.Since})
}

func (b AirRead) under(a *Area) (string, bool) { return a.firstStep(), true }
