package logbook

import (
	"slices"

	"dusha/core/cutting"
	"dusha/core/takeoff"
)

// What is cut, and what is left of it for other areas.

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

// CutLists lists what the area's plan cuts.
func (a *Area) CutLists() []takeoff.CutList {
	if a.Plan == nil || a.Takeoff == nil {
		return []takeoff.CutList{}
	}
	return a.Takeoff.Cuts
}

// ofCut finds the plan that a tick or a spoilt piece belongs to; one that was replaced is passed over.
func (a *Area) ofCut(entry string) *CutLook {
	i := slices.IndexFunc(a.Cuts, func(c CutLook) bool { return c.Entry == entry })
	if i < 0 {
		return nil
	}
	return &a.Cuts[i]
}

// CutLooks are the cut plans as they stand.
func (a *Area) CutLooks() []CutLook {
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
