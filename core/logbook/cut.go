package logbook

import (
	"slices"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/takeoff"
)

// What is cut, and what is left of it for other areas.
type (
	// CutPlanned keeps a plan by which one product is cut; the last one of a product stands.
	CutPlanned struct {
		Plan    string         `json:"plan"`  // id of the plan entry
		Sheet   string         `json:"sheet"` // id of the product's sheet
		Runs    []string       `json:"runs"`  // what is cut, by id; pieces name them by their place here
		Rolls   []cutting.Roll `json:"rolls"`
		Offcuts []OffcutUsed   `json:"offcuts,omitempty"` // that rolls name by their place here
	}
	// OffcutUsed is a rest from another area that a plan cuts from.
	OffcutUsed struct {
		ID     string `json:"id"`
		Length int    `json:"length_mm"`
	}
	// CutDone ticks pieces off as they are cut.
	CutDone struct {
		Cut    string   `json:"cut"` // id of the cut.planned entry
		Pieces []string `json:"pieces"`
	}
	// CutSpoilt gives a piece up: it is cut again.
	CutSpoilt struct {
		Cut   string `json:"cut"`
		Piece string `json:"piece"`
	}
	// OffcutKept puts what is left of a roll into the job's stock.
	OffcutKept struct {
		Sheet  string `json:"sheet"`
		Length int    `json:"length_mm"`
		Area   string `json:"area"` // it was left over in
		Cut    string `json:"cut"`
	}
	// OffcutTaken takes an offcut for an area.
	OffcutTaken struct {
		Offcut string `json:"offcut"` // id of the offcut.kept entry
		Area   string `json:"area"`
	}
)

// Offcut is a rest that lies on the job.
type Offcut struct {
	ID     string `json:"id"`
	Sheet  string `json:"sheet"`
	Length int    `json:"length_mm"`
	Area   string `json:"area"` // left over in
	Cut    string `json:"cut"`
	Taken  string `json:"taken"` // area that it was taken for, "" while it lies there
}

// CutLook is a product's plan on its way.
type CutLook struct {
	cutting.Work
	Entry string `json:"entry"`
	Sheet string `json:"sheet"`
	Left  int    `json:"left"`  // pieces to cut
	Of    int    `json:"of"`    // pieces in all
	Rests []int  `json:"rests"` // long enough to keep
	Kept  bool   `json:"kept"`  // the rests are in the job's stock
	Began bool   `json:"began"` // something is cut or spoilt
}

const (
	mostRolls  = 2000
	mostOnRoll = 2000
)

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

func (b CutDone) check() error   { return first(id("body.cut", b.Cut), list("body.pieces", b.Pieces)) }
func (b CutSpoilt) check() error { return first(id("body.cut", b.Cut), name("body.piece", b.Piece)) }

func (b OffcutKept) check() error {
	const longest = 1_000_000
	return first(name("body.sheet", b.Sheet), id("body.area", b.Area), id("body.cut", b.Cut), within("body.length_mm", float64(b.Length), 1, longest))
}

func (b OffcutTaken) check() error {
	return first(id("body.offcut", b.Offcut), id("body.area", b.Area))
}

// keep puts an offcut into the stock of the job.
func (j *Job) keep(e settled, body OffcutKept) {
	j.Offcuts = append(j.Offcuts, Offcut{ID: e.ID, Sheet: body.Sheet, Length: body.Length, Area: body.Area, Cut: body.Cut})
}

// take marks an offcut as used; twice is a deviation: someone will miss it.
func (j *Job) take(e settled, body OffcutTaken) {
	i := slices.IndexFunc(j.Offcuts, func(o Offcut) bool { return o.ID == body.Offcut })
	switch {
	case i < 0:
		j.Deviations = append(j.Deviations, deviation(e.Entry, "deviation.no_such_offcut"))
	case j.Offcuts[i].Taken != "" && j.Offcuts[i].Taken != body.Area:
		j.Deviations = append(j.Deviations, deviation(e.Entry, "deviation.offcut_twice", "length", j.Offcuts[i].Length))
	default:
		j.Offcuts[i].Taken = body.Area
	}
}

// CutLists lists what the area's plan cuts.
func (a *Area) CutLists() []takeoff.CutList {
	if a.Plan == nil || a.Takeoff == nil {
		return []takeoff.CutList{}
	}
	return a.Takeoff.Cuts
}

// applyCut takes a cut plan up, after the checker has seen it. One of an earlier plan of the area is
// left aside.
func (a *Area) applyCut(e settled, body CutPlanned) {
	if body.Plan != a.PlanID {
		return
	}
	lists := a.CutLists()
	i := slices.IndexFunc(lists, func(l takeoff.CutList) bool { return l.Sheet == body.Sheet })
	if i < 0 {
		a.deviate(e.Entry, "deviation.nothing_to_cut")
		return
	}
	asked := lists[i].Bands
	for _, used := range body.Offcuts {
		asked.Offcuts = append(asked.Offcuts, used.Length)
		known := slices.ContainsFunc(a.Job.Offcuts, func(o Offcut) bool { return o.ID == used.ID && o.Length == used.Length })
		if !known {
			a.deviate(e.Entry, "deviation.no_such_offcut")
		}
	}
	rolls, err := lists[i].Reorder(body.Rolls, body.Runs)
	if err == nil {
		err = cutting.Check(asked, rolls)
	}
	if err != nil {
		a.deviate(e.Entry, "deviation.cut_plan_wrong", "name", lists[i].Name, "detail", fault.Of(err)[0].Key)
		return
	}
	a.Cuts = slices.DeleteFunc(a.Cuts, func(c CutLook) bool { return c.Sheet == body.Sheet })
	a.Cuts = append(a.Cuts, CutLook{Work: lists[i].Start(rolls), Entry: e.ID, Sheet: body.Sheet})
}

// ofCut finds the plan that a tick or a spoilt piece belongs to; one that was replaced is passed over.
func (a *Area) ofCut(entry string) *CutLook {
	i := slices.IndexFunc(a.Cuts, func(c CutLook) bool { return c.Entry == entry })
	if i < 0 {
		return nil
	}
	return &a.Cuts[i]
}

func (a *Area) applyCutDone(e settled, body CutDone) {
	if c := a.ofCut(body.Cut); c != nil {
		for _, piece := range body.Pieces {
			if !c.Tick(piece) {
				a.deviate(e.Entry, "deviation.unknown_piece", "piece", piece)
			}
			c.Began = true
		}
	}
}

func (a *Area) applyCutSpoilt(e settled, body CutSpoilt) {
	if c := a.ofCut(body.Cut); c != nil {
		if !c.Spoil(body.Piece) {
			a.deviate(e.Entry, "deviation.unknown_piece", "piece", body.Piece)
		}
		c.Began = true
	}
}

// cutLooks are the cut plans as they stand.
func (a *Area) cutLooks() []CutLook {
	looks := []CutLook{}
	for _, c := range a.Cuts {
		c.Left, c.Of = c.Work.Left()
		c.Rests = c.Work.Rests(int(a.Plan.Rules.Limit("join_clear").Value))
		c.Kept = slices.ContainsFunc(a.Job.Offcuts, func(o Offcut) bool { return o.Cut == c.Entry })
		looks = append(looks, c)
	}
	return looks
}

// cutWants are the things of which every piece is cut, by id.
func (a *Area) cutWants() map[string]bool {
	done := map[string]bool{}
	for _, c := range a.Cuts {
		i := slices.IndexFunc(a.CutLists(), func(l takeoff.CutList) bool { return l.Sheet == c.Sheet })
		for run, want := range a.CutLists()[i].Wants {
			done[want.ID] = c.Cut(run)
		}
	}
	return done
}
