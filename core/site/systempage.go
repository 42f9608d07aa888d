package site

import (
	"slices"

	"dusha/core/choice"
	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
)

// SystemPage is a system as it is read on paper: the section, what each layer is, the order with its waits, the ways.
type SystemPage struct {
	System system.System
	Build  []choice.Layer         // from the base up
	Order  system.Order           // with the times that no sheet states
	Sheets map[string]sheet.Sheet // printings that it is worked by, by the system's keys
}

// SystemPage reads a system of the job by its own printings, or the samples'. It refuses one that the job does not have, or
// of which no film is there.
func (s *Site) SystemPage(id string) (SystemPage, error) {
	all := s.Job().Revisions()
	i := slices.IndexFunc(all, func(of system.System) bool { return of.ID == id })
	if i < 0 {
		return SystemPage{}, fault.At("system", "system.unknown", "typed", fault.Short(id))
	}
	of, err := all[i].Chosen(all[i].FirstChoices())
	if err != nil {
		return SystemPage{}, err
	}
	used, left, is := s.take(of)
	if !is {
		return SystemPage{}, fault.At("system", "plan.no_membrane", "name", of.Name)
	}
	built, err := system.Build(of, used, left...)
	if err != nil {
		return SystemPage{}, err
	}
	page := SystemPage{System: all[i], Build: choice.BuildUp(built, nil), Order: built.Order, Sheets: built.Sheets()}
	page.Order.AskBack(page.Sheets)
	return page, nil
}

// take finds the printings of a system in the job's library, the samples' where it has none of its own; is tells whether
// one that makes it tight is there.
func (s *Site) take(of system.System) (used []system.Used, left []string, is bool) {
	library := sheet.Latest(s.Job().Sheets())
	film, is := filmOf(of, library)
	if is {
		used, left = of.Take(film, library, nil, true)
	}
	return used, left, is
}

// PrintingsOf are the printings that a system is worked by here, by its keys; none where nothing makes it tight.
func (s *Site) PrintingsOf(of system.System) map[string]sheet.Sheet {
	used, _, _ := s.take(of)
	return system.Sheets(used)
}

// filmOf is the printing of a library that makes a system tight: one's own before a sample.
func filmOf(of system.System, library []sheet.Sheet) (film sheet.Sheet, is bool) {
	for _, printing := range library {
		if of.MadeTightBy(printing) && (!is || film.Sample && !printing.Sample) {
			film, is = printing, true
		}
	}
	return film, is
}
