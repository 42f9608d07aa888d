package logbook

import (
	"math"
	"slices"
	"time"

	"dusha/core/fault"
)

const KindWeatherDay Kind = "weather.day"

// WeatherDay is what a person read of the weather of a day ahead. Temperatures and humidity come together or not at all; nil of
// the wind: it was not read.
type WeatherDay struct {
	Date     string   `json:"date"` // 2006-01-02
	Coldest  *float64 `json:"coldest_C,omitempty"`
	Warmest  *float64 `json:"warmest_C,omitempty"`
	Humidity *float64 `json:"rh_percent,omitempty"`
	Wind     *float64 `json:"wind_m_per_s,omitempty"`
	Rain     []Hours  `json:"rain" maxItems:"12"` // none: dry
	From     string   `json:"from"`               // where it was read
}

// WeatherSaid is one with when it was read.
type WeatherSaid struct {
	WeatherDay
	At time.Time `json:"at"`
}

func (b WeatherDay) check() error {
	if _, err := time.Parse(time.DateOnly, b.Date); err != nil {
		return fault.At("body.date", "date.unreadable", "typed", fault.Short(b.Date))
	}
	const storm = 60
	for _, of := range []struct {
		field       string
		value       *float64
		least, most float64
	}{
		{"body.coldest_C", b.Coldest, coldest, hottest}, {"body.warmest_C", b.Warmest, coldest, hottest}, {"body.rh_percent", b.Humidity, 0, 100},
		{"body.wind_m_per_s", b.Wind, 0, storm},
	} {
		if of.value == nil {
			continue
		}
		if err := within(of.field, *of.value, of.least, of.most); err != nil {
			return err
		}
	}
	read := b.Coldest != nil
	if (b.Warmest != nil) != read || (b.Humidity != nil) != read {
		return fault.At("body.warmest_C", "weather.three_together")
	}
	if read && *b.Warmest < *b.Coldest {
		return fault.At("body.warmest_C", "weather.warmest_below")
	}
	return first(checkHours("body.rain", b.Rain), name("body.from", b.From))
}

// keep lays what was read over what was read of that day before.
func (b WeatherDay) keep(j *Job, e settled) {
	j.Weather = append(slices.DeleteFunc(j.Weather, func(d WeatherSaid) bool { return d.Date == b.Date }), WeatherSaid{b, e.when})
}

// WeatherOn is what was read of a day; nil where nobody read it.
func (j *Job) WeatherOn(day time.Time) *WeatherSaid {
	i := slices.IndexFunc(j.Weather, func(d WeatherSaid) bool { return d.Date == day.Format(time.DateOnly) })
	if i < 0 {
		return nil
	}
	return &j.Weather[i]
}

// warmestAt is when a day is warmest, h.
const warmestAt = 15

// Ahead are the hours of the day between two midnights: between its coldest and its warmest as a wave that is highest in the
// afternoon, the humidity as it was read. None where no temperature was.
func (b WeatherDay) Ahead(from, to time.Time) (list []Foreseen) {
	if b.Coldest == nil {
		return nil
	}
	mean, half := (*b.Coldest+*b.Warmest)/2, (*b.Warmest-*b.Coldest)/2
	for at := from; at.Before(to); at = at.Add(time.Hour) {
		hour := at.Sub(from).Hours()
		list = append(list, Foreseen{At: at, Temp: mean + half*math.Cos(2*math.Pi*(hour-warmestAt)/24), Humidity: *b.Humidity})
	}
	return append(list, Foreseen{At: to, Temp: mean, Humidity: *b.Humidity})
}
