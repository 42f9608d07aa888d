package logbook

import (
	"slices"
	"time"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// WorkLook is what a step lays beside the coats of the film, with what of it lies.
type WorkLook struct {
	takeoff.Laying
	Laid []string `json:"laid"` // ids of the places where it lies
	Used float64  `json:"used"` // so far, in the work's unit
	Lays []Lay    `json:"lays"`
}

// workKey names a work in the book of an area.
func workKey(w takeoff.Laying) string { return w.Step + " " + w.ID + " " + w.Coat }

// worksOf are what a step lays beside the coats of the film.
func (a *Area) worksOf(s system.Step) []takeoff.Laying {
	if a.Takeoff == nil {
		return nil
	}
	if a.memo.works == nil {
		a.memo.works = map[string][]takeoff.Laying{}
		for _, w := range a.Takeoff.Works {
			a.memo.works[w.Step] = append(a.memo.works[w.Step], w)
		}
	}
	return a.memo.works[s.ID]
}

// ownWorks are those that lie for themselves, and are not bedded piece by piece.
func (a *Area) ownWorks(s system.Step) (list []takeoff.Laying) {
	for _, w := range a.worksOf(s) {
		if !w.Beds {
			list = append(list, w)
		}
	}
	return list
}

// workLaid are the places where a work lies.
func (a *Area) workLaid(w takeoff.Laying) (laid []string) {
	for _, lay := range a.Works[workKey(w)] {
		for _, id := range lay.Surfaces {
			if !slices.Contains(laid, id) {
				laid = append(laid, id)
			}
		}
	}
	return laid
}

// worksDone counts the places of a step's works that are laid.
func (a *Area) worksDone(s system.Step) (done, of int) {
	if known, is := a.memo.done[s.ID]; is {
		return known[0], known[1]
	}
	defer func() { a.memo.done[s.ID] = [2]int{done, of} }()
	for _, w := range a.ownWorks(s) {
		laid := a.workLaid(w)
		for _, p := range w.Places {
			done += one(slices.Contains(laid, p.ID))
		}
		of += len(w.Places)
	}
	return done, of
}

// workLooks show the works of a step.
func (a *Area) workLooks(s system.Step) []WorkLook {
	list := []WorkLook{}
	for _, w := range a.worksOf(s) {
		l := WorkLook{Laying: w, Laid: append([]string{}, a.workLaid(w)...), Lays: append([]Lay{}, a.Works[workKey(w)]...)}
		for _, lay := range l.Lays {
			l.Used += lay.used(w)
		}
		list = append(list, l)
	}
	return list
}

// used is what a share of a work took, in its unit: of what is not weighed and was not counted, what the plan asks for.
func (l Lay) used(w takeoff.Laying) (sum float64) {
	switch {
	case w.Unit == "kg":
		return l.Kg
	case l.Amount != nil:
		return *l.Amount
	}
	for _, p := range w.Places {
		if slices.Contains(l.Surfaces, p.ID) {
			sum += p.Need
		}
	}
	return sum
}

// usedIn is what the works of a step took of a printing after a moment; none of its works is of it: false.
func (a *Area) usedIn(s system.Step, of string, after time.Time) (sum float64, is bool) {
	for _, w := range a.ownWorks(s) {
		if a.Plan.sheets[w.Product].ID != of {
			continue
		}
		is = true
		for _, lay := range a.Works[workKey(w)] {
			if lay.When.After(after) {
				sum += lay.used(w)
			}
		}
	}
	return sum, is
}

// starting are the printings of what a step still has to lay whose start is asked: those that a sheet gives temperatures for.
func (a *Area) toStart(s system.Step) (list []sheet.Sheet) {
	for _, w := range a.worksOf(s) {
		of, there := a.Plan.sheets[w.Product]
		known := slices.ContainsFunc(list, func(other sheet.Sheet) bool { return other.ID == of.ID })
		if there && !known && of.Asks("temp_least") {
			list = append(list, of)
		}
	}
	return list
}

// layWork takes up that a work lies on places.
func (a *Area) layWork(e settled, s system.Step, w takeoff.Laying, b Laid) {
	for _, id := range b.Surfaces {
		if !slices.ContainsFunc(w.Places, func(p takeoff.WorkPlace) bool { return p.ID == id }) {
			a.deviate(e.Entry, "deviation.work_not_there", "step", s.ID, "place", id, "name", w.Name)
		}
	}
	a.judgeWindow(e, s, b.Surfaces)
	a.judgeStart(e, s)
	a.judgeLaid(e.Entry, s, b, w.Layer, w.Coat)
	a.judgeUseBy(e.Entry, b)
	asked := 0.0
	for _, p := range w.Places {
		if slices.Contains(b.Surfaces, p.ID) {
			asked += p.Need
		}
	}
	lay := b.lay(e)
	if w.Unit == "kg" {
		a.judgeAmount(e.Entry, b, asked)
	}
	a.Works[workKey(w)] = append(a.Works[workKey(w)], lay)
	delete(a.memo.done, s.ID)
	a.noteWork(b.Step, e.when)
}

// noteWork takes up when a step was worked on.
func (a *Area) noteWork(step string, when time.Time) {
	if _, begun := a.begunAt[step]; !begun {
		a.begunAt[step] = when
	}
	a.endedAt[step] = when
	a.waitsMoved(step)
}

// tookIn adds what the works of a step took of a counted product since; false where none of them is of it.
func (a *Area) tookIn(s system.Step, c Counted, used *float64) bool {
	sum, is := a.usedIn(s, c.Sheet, c.when)
	*used += sum
	return is
}
