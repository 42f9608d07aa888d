package site

import (
	"slices"
	"strconv"
	"time"

	"dusha/core/order"
)

// Mend is something that would bring the end forward, or bring a plan about at all: tried, and what came of it.
type Mend struct {
	Try    string    `json:"try"`      // "crew", "people", "longer", "weekends", "heater_3", "heater_5" or "split"
	Area   string    `json:"area"`     // of a heater, or of the step that is split
	Name   string    `json:"name"`     // of that area
	Step   string    `json:"step"`     // that is laid in two stretches
	Title  string    `json:"title"`    // of that step
	End    time.Time `json:"end"`      // with it
	Sooner float64   `json:"sooner_h"` // 0 where less could be laid out without it
}

// longerBy is how much longer a shift is tried, min.
const longerBy = 120

// Mend tries what could bring the end of a plan forward, each by itself, and gives what helps, the most first. Each is searched
// as far as the plan itself is asked to be.
func (s *Site) Mend(in Asked) ([]Mend, error) {
	in.From = nil
	base, err := s.Days(in)
	if err != nil {
		return []Mend{}, err
	}
	list := []Mend{}
	try := func(m Mend, with Asked) error {
		got, err := s.Days(with)
		if err != nil || !got.Found || got.End == nil {
			return err
		}
		if m.End = *got.End; base.Found && len(got.Left) >= len(base.Left) { // with more laid out it may end later, and helps
			if base.End == nil {
				return nil
			}
			if m.Sooner = base.End.Sub(m.End).Hours(); m.Sooner <= 0 {
				return nil
			}
		}
		list = append(list, m)
		return nil
	}
	crew, people, longer, weekends := in, in, in, in
	crew.Crews++
	people.People++
	longer.Longer += longerBy
	weekends.Weekends = true
	tries := []struct {
		name string
		with Asked
	}{{"crew", crew}, {"people", people}, {"longer", longer}, {"weekends", weekends}}
	for _, t := range tries {
		if err := try(Mend{Try: t.name}, t.with); err != nil {
			return list, err
		}
	}
	held := map[string]bool{} // only where a wait holds the end does warmth help
	for _, row := range base.Rows {
		if !slices.Contains(base.Chain, row.ID) {
			continue
		}
		held[row.Area] = true
		if row.Part == 0 && s.lays(row.StepOf) {
			if err := try(splitOf(row.StepOf, row.Name, row.Title), in.splitting(row.StepOf)); err != nil {
				return list, err
			}
		}
	}
	for _, left := range base.Left { // what no shift holds, or whose window nobody meets
		of := StepOf{left.Area, left.Step}
		held[left.Area] = true
		if !s.lays(of) {
			continue
		}
		if err := try(splitOf(of, left.Name, left.Title), in.splitting(of)); err != nil {
			return list, err
		}
	}
	for _, id := range s.Areas() {
		if base.Found && !held[id] || s.Job().AreaAway(id) || s.Area(id).Takeoff == nil || s.Area(id).Outdoors() {
			continue
		}
		for _, kelvin := range []float64{3, 5} {
			warm := in
			warm.Heater = append(append([]Heater{}, in.Heater...), Heater{id, kelvin})
			if err := try(Mend{Try: "heater_" + strconv.Itoa(int(kelvin)), Area: id, Name: s.Area(id).Name}, warm); err != nil {
				return list, err
			}
		}
	}
	order.By(list, func(a, b Mend) int { return a.End.Compare(b.End) })
	return list, nil
}

// lays tells whether a step lays something that may be laid in stretches.
func (s *Site) lays(of StepOf) bool {
	area := s.Area(of.Area)
	step, known := area.Order.Step(of.Step)
	return known && area.Lays(step)
}

func splitOf(of StepOf, name, title string) Mend {
	return Mend{Try: "split", Area: of.Area, Name: name, Step: of.Step, Title: title}
}

// splitting is the same with one more step laid in two stretches.
func (in Asked) splitting(of StepOf) Asked {
	in.Split = append(slices.Clip(in.Split), of)
	return in
}
