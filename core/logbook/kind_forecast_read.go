package logbook

import "time"

const KindForecast Kind = "forecast.read"

// Forecast is what a person read of the weather ahead.
type Forecast struct {
	DryUntil string  `json:"dry_until"` // RFC 3339
	Coldest  float64 `json:"coldest_C"`
	Wind     float64 `json:"wind_m_per_s"`
	From     string  `json:"from"` // where it was read
}

// Dry is until when it says that it stays dry; its shape was checked.
func (b Forecast) Dry() time.Time {
	at, _ := time.Parse(time.RFC3339, b.DryUntil)
	return at
}

// ForecastRead is a forecast with when it was read.
type ForecastRead struct {
	Entry string    `json:"entry"`
	When  time.Time `json:"at"`
	Forecast
}

func (b Forecast) check() error {
	const storm = 60
	if _, err := momentOf("body.dry_until", b.DryUntil); err != nil {
		return err
	}
	return first(within("body.coldest_C", b.Coldest, coldest, hottest), within("body.wind_m_per_s", b.Wind, 0, storm), name("body.from", b.From))
}

// apply has nothing left to do: readAir takes the weather before anything is judged by it.
func (b Forecast) apply(*Area, settled) {}

func (b Forecast) air(a *Area, e settled) {
	a.forecasts = append(a.forecasts, ForecastRead{Entry: e.ID, When: e.when, Forecast: b})
}

// LastForecast is what was read last of the weather ahead of an area; nil where nothing was.
func (a *Area) LastForecast(now time.Time) *ForecastRead {
	for i := len(a.forecasts) - 1; i >= 0; i-- {
		if !a.forecasts[i].When.After(now) {
			return &a.forecasts[i]
		}
	}
	return nil
}

func (b Forecast) under(a *Area) (string, bool) { return a.firstStep(), true }

func (Forecast) still() {}

func (Forecast) worksBack() {}
