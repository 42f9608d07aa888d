package site

import (
	"cmp"
	"time"

	"dusha/core/logbook"
	"dusha/core/order"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// Purchase is what to buy for an area or a whole job.
type Purchase struct {
	Lines    []takeoff.Shopping `json:"lines"`
	Areas    []AreaName         `json:"areas"`    // whose plans are in it
	Unplaced []AreaName         `json:"unplaced"` // areas without a plan
	Cost     *int               `json:"cost_cents"`
	Weight   float64            `json:"weight_kg"` // to carry
	Sample   bool               `json:"sample"`
	Stages   []StageKit         `json:"stages"` // tools, protective gear and cleaning
}

// AreaName is an area by its name.
type AreaName struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// StageKit is what a stage asks to have by you, as keys of the wording.
type StageKit struct {
	Area     string   `json:"area"`
	Stage    string   `json:"stage"`
	Title    string   `json:"title"`
	Tools    []string `json:"tools"`
	Gear     []string `json:"gear"`
	Cleaning []string `json:"cleaning"`
}

// Materials adds up what the accepted plans of an area, or where none is named of all, still take,
// with the stock used first.
func (s *Site) Materials(area string, now time.Time) Purchase {
	return s.purchase(area, now, false)
}

// Purchases is what an area makes one buy or, where none is named, the whole job, then each of its
// planned areas.
func (s *Site) Purchases(area string, now time.Time) []Purchase {
	lists := []Purchase{s.Materials(area, now)}
	if area != "" {
		return lists
	}
	for _, a := range lists[0].Areas {
		lists = append(lists, s.Materials(a.ID, now))
	}
	return lists
}

// purchase is the same; whole: all that the plans take, whatever is done or lies there.
func (s *Site) purchase(only string, now time.Time, whole bool) Purchase {
	out := Purchase{Areas: []AreaName{}, Unplaced: []AreaName{}, Stages: []StageKit{}}
	byArea, asked := map[string][]takeoff.Item{}, []string{}
	done := map[string]float64{}
	var all []*logbook.Area
	for _, id := range s.Areas() {
		area := s.Area(id)
		all = append(all, area)
		if only != "" && id != only || only == "" && s.Job().AreaAway(id) {
			continue
		}
		if area.Takeoff == nil {
			out.Unplaced = append(out.Unplaced, AreaName{id, area.Name})
			continue
		}
		out.Areas = append(out.Areas, AreaName{id, area.Name})
		asked = append(asked, id)
		byArea[id] = area.Takeoff.Items
		out.Sample = out.Sample || area.Takeoff.Sample
		for _, step := range area.Order.Steps() {
			if !whole {
				done[id+"."+step.ID] = area.Done01(step)
			}
		}
		out.Stages = append(out.Stages, kitsOf(area)...)
	}
	items, areas := takeoff.Merge(byArea, asked)
	var stock []takeoff.Stock
	if !whole {
		stock = s.Job().Stock(all...)
	}
	out.Lines = takeoff.Shop(items, stock, s.Job().OpenLives(), done, now)
	order.By(out.Lines, func(a, b takeoff.Shopping) int { return cmp.Compare(laid(a), laid(b)) })
	for i := range out.Lines {
		out.Lines[i].Areas = areas[out.Lines[i].ID]
		out.Weight += out.Lines[i].Weight
	}
	out.Cost = takeoff.Cost(out.Lines)
	return out
}

// laid puts what is no longer needed behind the rest.
func laid(line takeoff.Shopping) int {
	if line.Need != nil && line.Left == 0 {
		return 1
	}
	return 0
}

// kitsOf lists for each stage of an area what to have by you.
func kitsOf(area *logbook.Area) []StageKit {
	var kits []StageKit
	for _, stage := range area.Order.Stages {
		kit := StageKit{Area: area.ID, Stage: stage.ID, Title: stage.Title, Tools: []string{}, Gear: []string{}, Cleaning: []string{}}
		for _, step := range stage.Steps {
			kit.Tools = unique(kit.Tools, step.Tools...)
			for _, caution := range step.Cautions {
				kit.Gear = unique(kit.Gear, sheet.Gear(caution)...)
			}
			if step.Lays() {
				kit.Gear = unique(kit.Gear, area.Plan.Sheet.Gear()...)
				kit.Cleaning = area.Plan.Sheet.Cleaning()
			}
		}
		if len(kit.Tools)+len(kit.Gear)+len(kit.Cleaning) > 0 {
			kits = append(kits, kit)
		}
	}
	return kits
}
