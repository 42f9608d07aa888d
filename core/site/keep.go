package site

import (
	"encoding/json"
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
)

// Kept is an entry that makes true what was only supposed.
type Kept struct {
	Kind logbook.Kind    `json:"kind"`
	Area string          `json:"area"` // "" of the job's own book
	Body json.RawMessage `json:"body"`
}

// Keeping is what is kept of all that is supposed.
type Keeping struct {
	What string `json:"what"`           // "crew", "people", "longer", "weekends", "heater", "rain" or "split"
	Area string `json:"area,omitempty"` // of a heater, or of a step that is split
	Step string `json:"step,omitempty"`
	ID   string `json:"id,omitempty"`   // of a new crew
	Name string `json:"name,omitempty"` // of a new crew; of rain: who said so
}

// Keep gives the entries that make what is supposed true, as the crews, hours, weather and areas stand.
func (s *Site) Keep(in Asked, of Keeping) ([]Kept, error) {
	k := keeper{s, []Kept{}}
	if len(s.Job().Crews) == 0 {
		return k.list, fault.At("crews", "schedule.no_crew")
	}
	switch of.What {
	case "crew":
		like := s.Job().Crews[largest(s.Job().Crews)].CrewSet
		like.Crew, like.Name = of.ID, of.Name
		k.add(logbook.KindCrewSet, "", like)
	case "people":
		for _, c := range s.Job().Crews {
			c.People += in.People
			k.add(logbook.KindCrewSet, "", c.CrewSet)
		}
	case "longer":
		for _, c := range s.Job().Crews {
			c.Shifts = longerWeek(c.CrewSet, in.Longer)
			k.add(logbook.KindCrewSet, "", c.CrewSet)
		}
	case "weekends":
		return k.list, k.daysOff(in)
	case "heater":
		warmer := s.Area(of.Area).KeptWarmer(in.Now)
		for _, h := range in.Heater {
			if of.Area == h.Area {
				warmer += h.K
			}
		}
		k.add(logbook.KindAreaWarmed, of.Area, logbook.AreaWarmed{K: warmer})
	case "rain":
		k.rain(in, of.Name)
	case "split":
		for _, step := range in.Split {
			if of.Area == step.Area && of.Step == step.Step {
				said := s.Area(step.Area).Timed[step.Step]
				said.Step, said.Stretches = step.Step, 2
				k.add(logbook.KindTimed, step.Area, said)
			}
		}
	default:
		return k.list, fault.At("what", "choice.unknown", "typed", fault.Short(of.What))
	}
	return k.list, nil
}

type keeper struct {
	*Site
	list []Kept
}

func (k *keeper) add(kind logbook.Kind, area string, body any) {
	text, _ := json.Marshal(body) // a body of our own
	k.list = append(k.list, Kept{kind, area, text})
}

// longerWeek is the week of a crew whose days all end some minutes later, by midnight at the latest; days alike stand together.
func longerWeek(c logbook.CrewSet, by int) (week []logbook.Shift) {
	const lastMinute, sunday = 24 * 60, 7
	for day := 1; day <= sunday; day++ {
		own := logbook.HoursOn(c.Shifts, day)
		for i, h := range own {
			if i == len(own)-1 {
				_, to, _ := h.Minutes()
				h.To = logbook.ClockOf(min(lastMinute, to+by))
			}
			if at := slices.IndexFunc(week, func(s logbook.Shift) bool { return s.Hours == h }); at >= 0 {
				week[at].Days = append(week[at].Days, day)
			} else {
				week = append(week, logbook.Shift{Days: []int{day}, Hours: h})
			}
		}
	}
	return week
}

// daysOff are the days off on which the plan has a crew work, at the hours of the day that it worked before.
func (k *keeper) daysOff(in Asked) error {
	in.Weekends = true
	plan, err := k.Days(in)
	if err != nil {
		return err
	}
	for _, c := range k.Job().Crews {
		for day, hours := range in.hours(c) {
			from, to := in.Midnights[day], in.Midnights[day+1]
			if hours.off && slices.ContainsFunc(plan.Rows, func(r Row) bool { return r.Crew == c.Crew && r.Start.Before(to) && r.End.After(from) }) {
				k.add(logbook.KindCrewDay, "", logbook.CrewDay{Crew: c.Crew, Date: in.date(day).Format(time.DateOnly), Shifts: hours.list})
			}
		}
	}
	return nil
}

// rain lays the stretches over the weather that was read of their days.
func (k *keeper) rain(in Asked, from string) {
	for day := range len(in.Midnights) - 1 {
		begin, end := in.Midnights[day], in.Midnights[day+1]
		noon := in.date(day)
		body := logbook.WeatherDay{Date: noon.Format(time.DateOnly), From: from}
		if said := k.Job().WeatherOn(noon); said != nil {
			body = said.WeatherDay
			body.Rain = nil // said anew
		}
		for _, r := range in.Rain {
			clock := func(at time.Time) string { return logbook.ClockOf(int(min(at.Sub(begin), 24*time.Hour).Minutes())) }
			if r.From.Before(end) && r.To.After(begin) {
				from := r.From
				if from.Before(begin) {
					from = begin
				}
				body.Rain = append(body.Rain, logbook.Hours{From: clock(from), To: clock(r.To)})
			}
		}
		if len(body.Rain) > 0 {
			k.add(logbook.KindWeatherDay, "", body)
		}
	}
}
