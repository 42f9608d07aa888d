package site

import (
	"dusha/core/logbook"
	"dusha/core/takeoff"
)

// Layout is all that an area cuts.
type Layout struct {
	Name   string      `json:"name"`
	Plan   string      `json:"plan"` // id of the plan entry; "" without a plan
	Sample bool        `json:"sample"`
	Lists  []LayoutOne `json:"lists"`
}

// LayoutOne is one product of a layout.
type LayoutOne struct {
	takeoff.CutList
	Offcuts []logbook.Offcut `json:"offcuts"` // that lie there, in the order of the bands' offcuts
	Cut     *logbook.CutLook `json:"cut"`     // the plan that was kept
	Done    []bool           `json:"done"`    // of each want: all of it is cut
}

// Layout lists what an area's plan cuts from each product, and what became of it.
func (s *Site) Layout(area string) (Layout, error) {
	folded, err := s.opened(area)
	if err != nil {
		return Layout{}, err
	}
	out := Layout{Name: folded.Name, Lists: []LayoutOne{}}
	if folded.Takeoff == nil {
		return out, nil
	}
	out.Plan, out.Sample = folded.PlanID, folded.Takeoff.Sample
	cuts := folded.CutLooks()
	for _, list := range folded.CutLists() {
		one := LayoutOne{CutList: list, Offcuts: []logbook.Offcut{}, Done: []bool{}}
		for i := range cuts {
			if cuts[i].Sheet == list.Sheet {
				one.Cut = &cuts[i]
			}
		}
		for run := range list.Wants {
			one.Done = append(one.Done, one.Cut != nil && one.Cut.Work.Cut(run))
		}
		one.Bands.Offcuts = nil
		for _, o := range s.Job().Offcuts {
			if o.Sheet == list.Sheet && (o.Taken == "" || o.Taken == area) {
				one.Offcuts = append(one.Offcuts, o)
				one.Bands.Offcuts = append(one.Bands.Offcuts, o.Length)
			}
		}
		out.Lists = append(out.Lists, one)
	}
	return out, nil
}
