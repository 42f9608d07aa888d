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
	All     bool     // counted from the last of what it waits for, not place by place
	Confirm []string // states a person confirms: the clock alone releases nothing
	Remedy  string   // what makes it good when it is too late
	missed  string   // then: the latest time by the system's name of it
	link    system.Link
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

// Names of the times that a link states itself.
const (
	linkLeast  = "link"
	linkLatest = "link_latest"
)

// openingOf is the window of a link by the printing that states its times, or by what the system states.
func (a *Area) openingOf(link system.Link) (o opening, is bool) {
	before, there := a.stepOfLink(link)
	if link.Least == nil && link.Latest == nil || !there {
		return o, false
	}
	o = opening{link: link, After: before.ID, Confirm: link.States, Remedy: link.Otherwise, sheet: a.sheetOf(before), own: before.Coats(), All: link.Per == "all"}
	if link.Latest != nil {
		o.missed = link.Latest.Of
	}
	for _, f := range []*system.Figure{link.Latest, link.Least} {
		if f == nil || f.Of == "" {
			continue
		}
		key, _ := f.Product()
		if of, known := a.Plan.sheets[key]; known {
			o.sheet = of
		} else if f == link.Least {
			return o, false
		}
	}
	stated := func(f *system.Figure, name string) string {
		if f == nil {
			return ""
		}
		if hours, is := f.Hours(); is {
			o.sheet = o.sheet.Timed(name, sheet.Said{Value: hours, Unit: "h", Says: f.Says})
			return name
		}
		_, table := f.Product()
		return table
	}
	o.Table, o.Latest = stated(link.Least, linkLeast), stated(link.Latest, linkLatest)
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
