package logbook

import (
	"maps"
	"slices"

	"dusha/core/fault"
	"dusha/core/system"
)

const KindDecided Kind = "decided"

// Decided makes a choice of an option that a system leaves to the site.
type Decided struct {
	Option string `json:"option"`
	Choice string `json:"choice"`
}

func (b Decided) check() error {
	return first(name("body.option", b.Option), name("body.choice", b.Choice))
}

func (b Decided) apply(a *Area, e settled) {
	if a.Plan == nil || !a.Plan.leavesToSite(b) {
		a.deviate(e.Entry, "deviation.unknown_option", "option", fault.Short(b.Option), "choice", fault.Short(b.Choice))
	}
}

func (b Decided) under(a *Area) (string, bool) { return a.firstOf(system.Plan) }

func (Decided) worksBack() {}

// leavesToSite tells whether a plan's system leaves an option to the site, and has the choice.
func (b Plan) leavesToSite(d Decided) bool {
	return slices.ContainsFunc(b.System.Options, func(o system.Option) bool {
		return o.ID == d.Option && o.Decided == system.OnSite && slices.Contains(o.Choices, d.Choice)
	})
}

// decideOnSite lays what was decided on the site over the choices of a plan.
func (b *Plan) decideOnSite(settled []settled) {
	choices := map[string]string{}
	maps.Copy(choices, b.Choices)
	for _, e := range settled {
		if d, is := e.body.(Decided); is && b.leavesToSite(d) {
			choices[d.Option] = d.Choice
		}
	}
	if len(choices) > 0 {
		b.Choices = choices
	}
}
