package logbook

import (
	"slices"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/system"
	"dusha/core/takeoff"
)

const KindCutPlanned Kind = "cut.planned"

// CutPlanned keeps a plan by which one product is cut; the last one of a product stands.
type CutPlanned struct {
	Plan    string         `json:"plan"`  // id of the plan entry
	Sheet   string         `json:"sheet"` // id of the product's sheet
	Runs    []string       `json:"runs"`  // what is cut, by id; pieces name them by their place here
	Rolls   []cutting.Roll `json:"rolls"`
	Offcuts []OffcutUsed   `json:"offcuts,omitempty"` // that rolls name by their place here
}

// OffcutUsed is a rest from another area that a plan cuts from.
type OffcutUsed struct {
	ID     string `json:"id"`
	Length int    `json:"length_mm"`
}

const mostRolls = 2000

const mostOnRoll = 2000

func (b CutPlanned) check() error {
	if len(b.Rolls) == 0 || len(b.Rolls) > mostRolls {
		return fault.At("body.rolls", "list.too_long", "most", mostRolls)
	}
	for _, r := range b.Rolls {
		if len(r.Pieces) > mostOnRoll {
			return fault.At("body.rolls.pieces", "list.too_long", "most", mostOnRoll)
		}
	}
	if len(b.Runs) == 0 || len(b.Runs) > mostRolls*mostOnRoll {
		return fault.At("body.runs", "list.too_long", "most", mostRolls*mostOnRoll)
	}
	for _, run := range b.Runs {
		if err := name("body.runs", run); err != nil {
			return err
		}
	}
	if len(b.Offcuts) > mostList {
		return fault.At("body.offcuts", "list.too_long", "most", mostList)
	}
	return first(id("body.plan", b.Plan), name("body.sheet", b.Sheet))
}

// applyCut takes a cut plan up, after the checker has seen it. One of an earlier plan of the area is
// left aside.
func (b CutPlanned) apply(a *Area, e settled) {
	if b.Plan != a.PlanID {
		return
	}
	lists := a.CutLists()
	i := slices.IndexFunc(lists, func(l takeoff.CutList) bool { return l.Sheet == b.Sheet })
	if i < 0 {
		a.deviate(e.Entry, "deviation.nothing_to_cut")
		return
	}
	asked := lists[i].Bands
	for _, used := range b.Offcuts {
		asked.Offcuts = append(asked.Offcuts, used.Length)
		known := slices.ContainsFunc(a.Job.Offcuts, func(o Offcut) bool { return o.ID == used.ID && o.Length == used.Length })
		if !known {
			a.deviate(e.Entry, "deviation.no_such_offcut")
		}
	}
	rolls, err := lists[i].Reorder(b.Rolls, b.Runs)
	if err == nil {
		err = cutting.Check(asked, rolls)
	}
	if err != nil {
		a.deviate(e.Entry, "deviation.cut_plan_wrong", "name", lists[i].Name, "detail", fault.Of(err)[0].Key)
		return
	}
	a.Cuts = slices.DeleteFunc(a.Cuts, func(c CutLook) bool { return c.Sheet == b.Sheet })
	a.Cuts = append(a.Cuts, CutLook{Work: lists[i].Start(rolls), Entry: e.ID, Sheet: b.Sheet})
}

func (b CutPlanned) under(a *Area) (string, bool) { return a.stepCutting(b.Sheet), true }

// stepCutting is the step that takes what is cut of a product.
func (a *Area) stepCutting(sheetID string) string {
	for _, list := range a.CutLists() {
		if list.Sheet == sheetID {
			return list.Step
		}
	}
	step, _ := a.firstOf(system.Plan)
	return step
}

// stepOfCut is the step that takes what a cut plan cuts.
func (a *Area) stepOfCut(entry string) (string, bool) {
	if c := a.ofCut(entry); c != nil {
		return a.stepCutting(c.Sheet), true
	}
	return "", false
}
