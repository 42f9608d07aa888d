package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/system"
)

// checking is what a person says is done, line by line: preparing, priming, protecting.
type checking struct{ said }

func (checking) by() []Kind { return []Kind{KindDone} }

// lays are the primer or the top coat that the step takes.
func (checking) lays(a *Area, s system.Step) (list []sheet.Sheet) {
	for _, c := range a.Plan.Companions() {
		if (c.Role == "primer" || c.Role == "top_coat") && slices.Contains(s.Uses, c.Role) && a.taken(c.Sheet.ID, s.ID) {
			list = append(list, c.Sheet)
		}
	}
	return list
}
