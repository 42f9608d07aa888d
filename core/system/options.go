package system

import (
	"maps"
	"slices"
	"strings"

	"dusha/core/fault"
)

// Chosen is the system with the choices made of its options: what belongs to another choice is left out. An option that is
// decided at planning has to be chosen; one that is decided on the site counts as its first choice until then.
func (s System) Chosen(choices map[string]string) (System, error) {
	if len(s.Options) == 0 {
		if len(choices) > 0 {
			return s, fault.At("choices", "system.unknown_option", "option", fault.Short(slices.Sorted(maps.Keys(choices))[0]))
		}
		return s, nil
	}
	taken := map[string]bool{"": true}
	for _, o := range s.Options {
		choice, made := choices[o.ID]
		switch {
		case !made && o.Decided != OnSite:
			return s, fault.At("choices."+o.ID, "system.option_not_chosen", "line", o.Line)
		case !made:
			choice = o.Choices[0]
		case !slices.Contains(o.Choices, choice):
			return s, fault.At("choices."+o.ID, "choice.unknown", "typed", fault.Short(choice))
		}
		taken[o.ID+"."+choice] = true
	}
	for id := range choices {
		if !slices.ContainsFunc(s.Options, func(o Option) bool { return o.ID == id }) {
			return s, fault.At("choices", "system.unknown_option", "option", fault.Short(id))
		}
	}
	s.Products = slices.DeleteFunc(slices.Clone(s.Products), func(p Product) bool { return !taken[p.In] })
	s.Layers = slices.DeleteFunc(slices.Clone(s.Layers), func(l Layer) bool { return !taken[l.In] })
	s.Stages, s.Edits = stagesOf(s.Stages, taken), editsOf(s.Edits, taken)
	s.Zones = slices.Clone(s.Zones)
	for i, z := range s.Zones {
		s.Zones[i].Stages, s.Zones[i].Edits = stagesOf(z.Stages, taken), editsOf(z.Edits, taken)
	}
	return s, nil
}

// stagesOf are stages without the steps and links of choices that were not made.
func stagesOf(stages []Stage, taken map[string]bool) []Stage {
	own := slices.Clone(stages)
	for i, stage := range own {
		steps := slices.DeleteFunc(slices.Clone(stage.Steps), func(step Step) bool { return !taken[step.In] })
		for k, step := range steps {
			steps[k].After = slices.DeleteFunc(slices.Clone(step.After), func(l Link) bool { return !taken[l.In] })
		}
		own[i].Steps = steps
	}
	return own
}

// editsOf are the changes by hand without those that add something of a choice that was not made.
func editsOf(edits []Edit, taken map[string]bool) []Edit {
	return slices.DeleteFunc(slices.Clone(edits), func(e Edit) bool {
		return e.Add != nil && !taken[e.Add.In] || e.Link != nil && !taken[e.Link.In]
	})
}

// When an option is decided.
const (
	AtPlanning = "plan"
	OnSite     = "site"
)

// FirstChoices are the first choice of each option.
func (s System) FirstChoices() map[string]string {
	choices := map[string]string{}
	for _, o := range s.Options {
		choices[o.ID] = o.Choices[0]
	}
	return choices
}

// checkOptions checks the options, and that what belongs to a choice names one.
func (s System) checkOptions() error {
	known := map[string]bool{"": true}
	for _, o := range s.Options {
		field := "options." + o.ID
		switch {
		case strings.TrimSpace(o.ID) == "" || strings.Contains(o.ID, ".") || strings.TrimSpace(o.Line) == "":
			return fault.At("options", "system.option_without_name")
		case len(o.Choices) < 2:
			return fault.At(field, "system.option_without_choice", "line", o.Line)
		case o.Decided != AtPlanning && o.Decided != OnSite:
			return fault.At(field, "choice.unknown", "typed", fault.Short(o.Decided))
		}
		for _, c := range o.Choices {
			if known[o.ID+"."+c] {
				return fault.At(field, "system.option_twice", "option", o.ID, "choice", c)
			}
			known[o.ID+"."+c] = true
		}
	}
	var ins []string
	for _, p := range s.Products {
		ins = append(ins, p.In)
	}
	for _, l := range s.Layers {
		ins = append(ins, l.In)
	}
	for _, stage := range s.Stages {
		for _, step := range stage.Steps {
			ins = append(ins, step.In)
		}
	}
	for _, in := range ins {
		if !known[in] {
			return fault.At("options", "system.unknown_option", "option", fault.Short(in))
		}
	}
	return nil
}

// everyChoice lists the choices to check: the first of each option, and each other one of one option beside them.
func (s System) everyChoice() (list []map[string]string) {
	list = append(list, s.FirstChoices())
	for _, o := range s.Options {
		for _, c := range o.Choices[1:] {
			other := s.FirstChoices()
			other[o.ID] = c
			list = append(list, other)
		}
	}
	return list
}

// laterLayers are the ids of layers that only a later visit lays.
func (s System) laterLayers() (list []string) {
	for _, stage := range s.Stages {
		if stage.Visit == nil {
			continue
		}
		for _, step := range stage.Steps {
			list = append(list, step.Layers()...)
		}
	}
	return list
}
