package site

import (
	"cmp"
	"strconv"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/order"
)

// DayCards are the days of one crew by the plan that was accepted last, or of all.
type DayCards struct {
	Name  string // of the crew; of the job where it is all
	Crew  string // id; "" of all
	Cards []DayCard
}

// DayCard is one step on a card: where, until when it had to begin, and what is carried there.
type DayCard struct {
	Area  string
	Title string
	Crew  string // name; "" where nobody is bound
	Start time.Time
	End   time.Time
	Shuts time.Time // zero: it never does
	Hold  bool
	Done  bool
	Carry []logbook.Material
}

// DayCards reads them; a crew that is not there, or no plan that was accepted, is a fault.
func (s *Site) DayCards(crew string, now time.Time) (DayCards, error) {
	job := s.Job()
	names := map[string]string{}
	for _, c := range job.Crews {
		names[c.Crew] = c.Name
	}
	out := DayCards{Name: job.Name, Crew: crew, Cards: []DayCard{}}
	if crew != "" {
		name, known := names[crew]
		if !known {
			return out, fault.At("crew", "schedule.unknown_crew")
		}
		out.Name = name
	}
	if len(job.Accepted) == 0 {
		return out, fault.At("plan", "schedule.nothing_accepted")
	}
	open := map[string]bool{} // steps still to be done, of the areas asked so far
	asked := map[string]bool{}
	for _, start := range job.Accepted[len(job.Accepted)-1].Starts {
		if crew != "" && start.Crew != crew {
			continue
		}
		area := s.Area(start.Area)
		step, known := area.StepAhead(start.Step)
		if !known {
			continue // the area was planned anew since
		}
		card := DayCard{Area: area.Name, Title: step.Title, Crew: names[start.Crew], Hold: step.Hold(), Carry: area.Takes(step, now)}
		if start.Part > 0 {
			card.Title += " " + strconv.Itoa(start.Part)
		}
		card.Start, _ = time.Parse(time.RFC3339, start.Start)
		card.End, _ = time.Parse(time.RFC3339, start.End)
		card.Shuts, _ = time.Parse(time.RFC3339, start.Shuts)
		if !asked[area.ID] {
			asked[area.ID] = true
			for _, h := range area.StillOpen(now) {
				open[area.ID+h.Step.ID] = true
			}
		}
		card.Done = !open[area.ID+step.ID]
		out.Cards = append(out.Cards, card)
	}
	order.By(out.Cards, func(a, b DayCard) int { return cmp.Or(a.Start.Compare(b.Start), cmp.Compare(a.Area, b.Area)) })
	return out, nil
}
