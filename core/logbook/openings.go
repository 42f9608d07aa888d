package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// opening is a window that a step waits for: one that its recipe states, or one that the sheet of a
// primer, of the bedding or of a top coat before it states.
type opening struct {
	sheet.Opening
	sheet sheet.Sheet
	own   bool // of the recipe
}

// openings are all windows of a step.
func (a *Area) openings(s sheet.Step) (list []opening) {
	if a.Plan == nil {
		return nil
	}
	if s.Opens != nil {
		list = append(list, opening{*s.Opens, a.Plan.Sheet, true})
	}
	return append(list, a.impliedOpenings(s)...)
}

// impliedOpenings are the waits after a primer or a top coat by its own sheet, before what is laid
// next, and after bedding that is to be dry before the field.
func (a *Area) impliedOpenings(s sheet.Step) (list []opening) {
	if !s.Lays() && !s.Said() {
		return nil
	}
	before, is := a.before(s)
	if !is {
		return nil
	}
	of := func(role string, sh sheet.Sheet, least, latest string) {
		if len(sh.Table(least).Entries) == 0 {
			return
		}
		o := opening{sheet.Opening{After: before.ID, Table: least}, sh, false}
		if len(sh.Table(latest).Entries) > 0 {
			o.Latest = latest
		}
		list = append(list, o)
	}
	for _, role := range []string{"primer", "top_coat"} {
		if !slices.Contains(before.Uses, role) || s.Said() && role == "primer" {
			continue
		}
		for _, c := range a.Plan.Companions {
			if c.Role == role && a.taken(c.Sheet.ID, before.ID) {
				of(role, c.Sheet, map[string]string{"primer": "recoat", "top_coat": "cure"}[role], "recoat_latest")
			}
		}
	}
	if before.Lays() && !before.Coats() && s.Coats() && s.Opens == nil && a.Recipe.Schools["details"] == "first_and_dry" {
		of("bedding", a.Plan.Sheet, "recoat", "")
	}
	return list
}

// before is the last step before another that lays something, or that a person says is done.
func (a *Area) before(s sheet.Step) (before sheet.Step, is bool) {
	for _, earlier := range a.steps {
		if earlier.ID == s.ID {
			break
		}
		if earlier.Lays() || earlier.Said() && len(earlier.Uses) > 0 {
			before, is = earlier, true
		}
	}
	return before, is
}

// taken tells whether the plan takes a product at a step.
func (a *Area) taken(sheetID, step string) bool {
	return a.Takeoff != nil && slices.ContainsFunc(a.Takeoff.Items, func(i takeoff.Item) bool {
		return i.Sheet == sheetID && i.Need != nil && slices.ContainsFunc(i.Portions, func(p takeoff.Portion) bool { return p.Step == step })
	})
}

// anchorOf is what the times of a window count from, where the sheet or its recipe says so; else a
// least time counts from the end of the work and a latest from its beginning.
func (a *Area) anchorOf(o opening) string {
	if from := o.sheet.Choices["recoat_from"]; from != "" && o.Table == "recoat" {
		return from
	}
	return o.Anchor
}
