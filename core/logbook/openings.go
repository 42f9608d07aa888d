package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// opening is a window that a step waits for: a link of its order, with the sheet whose times it goes by.
type opening struct {
	After   string   // step that starts the times
	Table   string   // prefix of the sheet's numbers, least hours by °C
	Latest  string   // the same of the latest; "": stays open
	Anchor  string   // what the times count from, where it is said
	Confirm []string // states a person confirms: the clock alone releases nothing
	Remedy  string   // what makes it good when it is too late
	sheet   sheet.Sheet
	own     bool // of the film: it stands also where the work waited for was gone on without
}

// openings are all windows of a step, those of the film first.
func (a *Area) openings(s system.Step) (list []opening) {
	if a.Plan == nil {
		return nil
	}
	for _, link := range s.After {
		o, is := a.openingOf(link)
		switch {
		case !is || !o.own && !a.taken(o.sheet.ID, o.After):
		case o.own:
			list = slices.Insert(list, 0, o)
		default:
			list = append(list, o)
		}
	}
	return list
}

// ownOpening is the window of a step after the film under it.
func (a *Area) ownOpening(s system.Step) (opening, bool) {
	for _, o := range a.openings(s) {
		if o.own {
			return o, true
		}
	}
	return opening{}, false
}

// openingOf is the window of a link by the printing that states its times.
func (a *Area) openingOf(link system.Link) (o opening, is bool) {
	if link.Least == nil {
		return o, false
	}
	key, table := link.Least.Product()
	of, known := a.Plan.sheets[key]
	before, there := a.stepOfLink(link)
	if !known || !there {
		return o, false
	}
	o = opening{After: before.ID, Table: table, Confirm: link.States, Remedy: link.Otherwise, sheet: of, own: before.Coats()}
	if link.Latest != nil {
		_, o.Latest = link.Latest.Product()
	}
	o.Anchor = map[string]string{"start": "coat_begun", "end": "coat_ended"}[link.Anchor]
	return o, true
}

// stepOfLink is the step that a link waits for: by its id, or the last that lays the layer.
func (a *Area) stepOfLink(link system.Link) (found system.Step, is bool) {
	if link.Step != "" {
		return a.stepBy(link.Step)
	}
	for _, s := range a.steps {
		if !s.Hold() && slices.Contains(s.Layers(), link.Layer) {
			found, is = s, true
		}
	}
	return found, is
}

// taken tells whether the plan takes a product at a step.
func (a *Area) taken(sheetID, step string) bool {
	return a.Takeoff != nil && slices.ContainsFunc(a.Takeoff.Items, func(i takeoff.Item) bool {
		return i.Sheet == sheetID && i.Need != nil && slices.ContainsFunc(i.Portions, func(p takeoff.Portion) bool { return p.Step == step })
	})
}

// anchorOf is what the times of a window count from, where the sheet or the link says so; else a
// least time counts from the end of the work and a latest from its beginning.
func (a *Area) anchorOf(o opening) string {
	if from := o.sheet.Choices["recoat_from"]; from != "" && o.Table == "recoat" {
		return from
	}
	return o.Anchor
}
