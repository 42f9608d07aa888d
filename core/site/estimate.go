package site

import (
	"time"

	"dusha/core/ask"
	"dusha/core/takeoff"
)

// Estimate is what work comes to for a client, with the areas it is for.
type Estimate struct {
	takeoff.Estimate
	Area  float64    `json:"area_m2"`
	Waste float64    `json:"waste_percent"` // in the material
	Areas []AreaName `json:"areas"`
}

// Estimate works out an estimate of an area or, where none is named, of the whole job, with what was
// typed for it.
func (s *Site) Estimate(area string, now time.Time, typed map[string]string) (*ask.Form, Estimate) {
	materials := s.purchase(area, now, true)
	limits := s.Job().Rules()
	out := Estimate{Areas: materials.Areas, Waste: limits.Limit("waste").Value}
	work := takeoff.Work{Rate: limits.Limit("crew_rate").Value}
	coated := 0.0
	for _, a := range materials.Areas {
		plan := s.Area(a.ID).Takeoff
		area, _ := plan.Figure("plan.area.total")
		runs, _ := plan.Figure("plan.junction.total")
		work.Area, work.Runs = work.Area+area.Value, work.Runs+runs.Value
		coated += area.Value * float64(len(plan.Coats))
		for _, w := range plan.Works {
			for _, p := range w.Places {
				if p.Unit == "m2" && !w.Beds {
					work.Else += p.Size
				}
			}
		}
	}
	if work.Area > 0 {
		work.Coats = int(coated/work.Area + 0.5)
	}
	out.Area = work.Area
	var form *ask.Form
	form, out.Estimate = takeoff.AskEstimate(work, materials.Cost, typed)
	return form, out
}
