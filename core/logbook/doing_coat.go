package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// coating lays a coat of the film: done once it lies on every surface.
type coating struct{ plainly }

func (coating) by() []Kind {
	return []Kind{KindWeighed, KindLaid, KindRead, KindDryRead, KindFilmLooked, KindFilmExplained}
}

func (coating) progress(a *Area, s system.Step) (done, of int) {
	coat, is := a.coatOf(s)
	if a.Geometry == nil || !is {
		return 0, 1
	}
	covered := a.covered(s.ID)
	for _, share := range coat.Surface {
		if covered[share.Surface] {
			done++
		}
	}
	return done, len(coat.Surface)
}

func (coating) lays(a *Area, s system.Step) []sheet.Sheet { return []sheet.Sheet{a.sheetOf(s)} }

// sheetOf is the printing of what a step lays: of its layer, or of the film where it names none.
func (a *Area) sheetOf(s system.Step) sheet.Sheet {
	return a.Plan.printing(s, func(system.Layer) bool { return true })
}

// coatOf is what the plan asks of a step that lays a coat.
func (a *Area) coatOf(s system.Step) (coat takeoff.Coat, is bool) {
	if !s.Coats() || a.Takeoff == nil || s.Coat < 1 || s.Coat > len(a.Takeoff.Coats) {
		return coat, false
	}
	return a.Takeoff.Coats[s.Coat-1], true
}

// coated are the steps that lay the coat which a hold accepts.
func (a *Area) coated(hold system.Step) (list []system.Step) {
	for _, s := range a.steps {
		if s.Coats() && (s.Coat == hold.Coat || len(s.Of) > 0 && slices.Contains(hold.Of, s.Of[0])) {
			list = append(list, s)
		}
	}
	return list
}

// covered are the surfaces of the area that a coat lies on.
func (a *Area) covered(step string) map[string]bool {
	if known := a.memo.covered[step]; known != nil {
		return known
	}
	covered := map[string]bool{}
	for _, lay := range a.Laid[step] {
		for _, surface := range lay.Surfaces {
			covered[surface] = true
		}
	}
	a.memo.covered[step] = covered
	return covered
}
