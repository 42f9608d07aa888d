package site

import (
	"time"

	"dusha/core/logbook"
)

// foreseen are the hours ahead in the open: as handed in, else by what was read of the days.
func (p *planner) foreseen() (list []logbook.Foreseen) {
	if len(p.in.Foreseen) > 0 {
		return p.in.Foreseen
	}
	for day := range len(p.in.Midnights) - 1 {
		said := p.Job().WeatherOn(p.in.date(day))
		if said == nil {
			continue
		}
		for _, hour := range said.Ahead(p.in.Midnights[day], p.in.Midnights[day+1]) {
			if hour.At.Before(p.in.Now.Add(-time.Hour)) {
				continue
			}
			if last := len(list) - 1; last >= 0 && list[last].At.Equal(hour.At) { // the end of one day is the beginning of the next
				list = list[:last]
			}
			list = append(list, hour)
		}
	}
	return list
}

// closedOutside are the stretches that keep a step in the open off: rain, of what is laid a stormy day, of what minds it frost.
func (p *planner) closedOutside(area *logbook.Area, h logbook.Ahead) (list [][2]int) {
	shut := func(from, to int) {
		if from = max(0, from); to > from {
			list = append(list, [2]int{from, to})
		}
	}
	for _, r := range p.in.Rain {
		shut(p.min(r.From), p.min(r.To))
	}
	forecast := area.LastForecast(p.in.Now)
	for day := range len(p.in.Midnights) - 1 {
		from, to := p.in.Midnights[day], p.in.Midnights[day+1]
		said := p.Job().WeatherOn(p.in.date(day))
		if forecast != nil && (said == nil || said.At.Before(forecast.When)) {
			if dry := forecast.Dry(); !dry.Before(from) && dry.Before(to) { // nobody said when it ends: that day at the soonest
				shut(p.min(dry), p.min(to))
			}
			if h.Lays && day == 0 && forecast.Wind > logbook.StormyWind {
				shut(p.min(from), p.min(to))
			}
		}
		if said == nil {
			continue
		}
		for _, r := range said.Rain {
			begin, end, _ := r.Minutes()
			shut(p.clock(day, begin), p.clock(day, end))
		}
		if h.Lays && said.Wind != nil && *said.Wind > logbook.StormyWind {
			shut(p.min(from), p.min(to))
		}
		if !h.Frost {
			continue
		}
		for _, hour := range said.Ahead(from, to) {
			if hour.Temp <= 0 {
				shut(p.min(hour.At), p.min(hour.At.Add(time.Hour)))
			}
		}
	}
	return list
}

// weatherRead tells whether the weather was read of the day on which a time lies, or that it stays dry until then.
func (p *planner) weatherRead(area *logbook.Area, at time.Time) bool {
	if f := area.LastForecast(p.in.Now); f != nil && at.Before(f.Dry()) {
		return true
	}
	for day := range len(p.in.Midnights) - 1 {
		if !at.Before(p.in.Midnights[day]) && at.Before(p.in.Midnights[day+1]) {
			return p.Job().WeatherOn(p.in.date(day)) != nil
		}
	}
	return false
}
