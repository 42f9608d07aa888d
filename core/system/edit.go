package system

import (
	"slices"
	"strings"

	"dusha/core/fault"
)

// guarded tells whether moving or dropping a step asks a reason and a name: a hold, the check of the base, the proof.
func guarded(s Step) bool { return s.Hold() || s.Proves() || s.Does == Prepare }

// apply changes an order by hand, and says where it cannot.
func (o *Order) apply(e Edit) error {
	field := "edits." + e.Step
	stage, at, known := o.find(e.Step)
	switch e.Does {
	case "add":
		if known || e.Add == nil || e.Add.ID != e.Step {
			return fault.At(field, "system.edit_adds_nothing", "step", fault.Short(e.Step))
		}
		return o.insert(field, *e.Add, e)
	case "move", "drop", "link", "unlink":
		if !known {
			return fault.At(field, "system.edit_of_nothing", "step", fault.Short(e.Step))
		}
	default:
		return fault.At(field, "choice.unknown", "typed", fault.Short(e.Does))
	}
	step := &o.Stages[stage].Steps[at]
	switch e.Does {
	case "link":
		if e.Link == nil {
			return fault.At(field, "system.edit_adds_nothing", "step", step.Title)
		}
		step.After = append(slices.Clone(step.After), *e.Link)
		return nil
	case "unlink":
		if e.Link == nil {
			return fault.At(field, "system.edit_of_nothing", "step", step.Title)
		}
		// Some waits are there only where a printing states their time: one that is not there is none, as was wanted.
		if _, _, there := o.find(e.Link.Step); !there && !slices.ContainsFunc(step.After, e.Link.same) {
			return fault.At(field, "system.edit_of_nothing", "step", step.Title)
		}
		step.After = slices.DeleteFunc(slices.Clone(step.After), e.Link.same)
		return nil
	}
	if guarded(*step) && (strings.TrimSpace(e.Reason) == "" || e.Person == "") {
		return fault.At(field, "system.guard_without_reason", "step", step.Title)
	}
	moved := *step
	o.Stages[stage].Steps = slices.Delete(slices.Clone(o.Stages[stage].Steps), at, at+1)
	if e.Does == "drop" {
		o.unlink(moved.ID)
		o.sweep()
		return nil
	}
	err := o.insert(field, moved, e)
	o.sweep()
	return err
}

// same tells whether two links wait for the same.
func (l Link) same(other Link) bool { return l.Step == other.Step && l.Layer == other.Layer }

// insert puts a step before another, or at the end of a stage.
func (o *Order) insert(field string, step Step, e Edit) error {
	if stage, at, known := o.find(e.Before); known {
		o.Stages[stage].Steps = slices.Insert(slices.Clone(o.Stages[stage].Steps), at, step)
		return nil
	}
	i := slices.IndexFunc(o.Stages, func(s Stage) bool { return s.ID == e.Stage })
	if e.Before != "" || i < 0 {
		return fault.At(field, "system.edit_of_nothing", "step", fault.Short(e.Before+e.Stage))
	}
	o.Stages[i].Steps = append(slices.Clone(o.Stages[i].Steps), step)
	return nil
}

// unlink takes away what waits for a step that is gone.
func (o *Order) unlink(id string) {
	for i, stage := range o.Stages {
		for k, step := range stage.Steps {
			o.Stages[i].Steps[k].After = slices.DeleteFunc(slices.Clone(step.After), func(l Link) bool { return l.Step == id })
		}
	}
}

// For is the order in an area: steps that it has nothing for are left out. What waited for one of them waits for what it
// waited for itself, of the same product.
func (o Order) For(has func(Step) bool) Order {
	gone := map[string][]Link{}
	for _, s := range o.Steps() {
		if !has(s) {
			gone[s.ID] = s.After
		}
	}
	if len(gone) == 0 {
		return o
	}
	for _, s := range o.Steps() {
		if _, is := gone[s.Mends]; is {
			gone[s.ID] = nil
		}
	}
	own := Order{Asked: o.Asked}
	for _, stage := range o.Stages {
		stage.Steps = slices.DeleteFunc(slices.Clone(stage.Steps), func(s Step) bool { _, is := gone[s.ID]; return is })
		for i, s := range stage.Steps {
			stage.Steps[i].After = nil
			for _, link := range s.After {
				if link, is := link.past(gone); is {
					stage.Steps[i].After = append(stage.Steps[i].After, link)
				}
			}
		}
		own.Stages = append(own.Stages, stage)
	}
	own.sweep()
	return own
}

// past is a link that waits for none of the steps that are gone.
func (l Link) past(gone map[string][]Link) (Link, bool) {
	for {
		before, is := gone[l.Step]
		if !is {
			return l, true
		}
		i := slices.IndexFunc(before, func(b Link) bool { return b.of() == l.of() })
		if i < 0 {
			return l, false
		}
		l.Step = before[i].Step
	}
}

// of is the product by whose sheet a link waits.
func (l Link) of() string {
	for _, f := range []*Figure{l.Least, l.Latest} {
		if f != nil {
			key, _ := f.Product()
			return key
		}
	}
	return ""
}

// sweep takes away stages that have no step left.
func (o *Order) sweep() {
	o.Stages = slices.DeleteFunc(o.Stages, func(s Stage) bool { return len(s.Steps) == 0 && s.Visit == nil })
}

func (o Order) find(id string) (stage, at int, known bool) {
	for i, s := range o.Stages {
		if at := slices.IndexFunc(s.Steps, func(step Step) bool { return step.ID == id }); at >= 0 {
			return i, at, true
		}
	}
	return 0, 0, false
}

// Answered is a change of the order that somebody answers for by name: a hold, the check of the base or a proof that was
// moved or dropped, or no proof at all.
type Answered struct {
	Does   string `json:"does"`  // "move", "drop" or "no_proof"
	Title  string `json:"title"` // of the step
	Reason string `json:"reason"`
	Person string `json:"person,omitempty"`
}

// Answered are the changes that somebody answered for: they stand on page one of the dossier.
func (s System) Answered() []Answered {
	list := []Answered{}
	edited := s.Parts()
	if len(s.Zones) > 0 {
		edited = append(edited, s)
	}
	for _, part := range edited {
		if len(part.Edits) == 0 {
			continue
		}
		before := part
		before.Edits = nil
		usual, _ := MakeOrder(before, nil)
		for _, e := range part.Edits {
			if step, is := usual.Step(e.Step); e.Person != "" && (e.Does == "move" || e.Does == "drop") {
				if !is {
					step.Title = e.Step
				}
				list = append(list, Answered{e.Does, step.Title, e.Reason, e.Person})
			}
		}
	}
	for _, p := range s.Proofs {
		if p.Kind == "none" {
			list = append(list, Answered{Does: "no_proof", Reason: p.Reason})
		}
	}
	return list
}
