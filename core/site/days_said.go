package site

import (
	"cmp"
	"time"

	"dusha/core/logbook"
	"dusha/core/order"
	"dusha/core/schedule"
	"dusha/core/system"
)

// What is said of a plan that was found.

// write says what the search found.
func (p *planner) write(plan schedule.Plan) {
	out := p.out
	out.Found, out.Proven, out.EndProven, out.Nodes, out.From = plan.Found, plan.Proven, plan.EndProven, plan.Nodes, plan.From
	if plan.End == nil { // none was found, or there is nothing to lay out
		return
	}
	end := p.time(*plan.End)
	if out.End = &end; plan.Bound != nil {
		bound := p.time(*plan.Bound)
		out.Bound = &bound
	}
	var slacks map[string]int
	if p.in.Slacks {
		slacks = schedule.Slacks(p.problem, plan)
	}
	windows := schedule.Windows(p.problem, plan)
	for _, s := range plan.Starts {
		row := p.rows[s.Step]
		row.Start, row.End = p.time(s.Start), p.time(s.End)
		if s.Crew != nil {
			row.Crew = *s.Crew
		}
		if slack, is := slacks[s.Step]; is {
			row.Slack = &slack
		}
		row.Unread = row.outside && !p.weatherRead(p.areas[row.Area], row.Start)
		row.Held = p.heldBy(s)
		row.Opens, row.Shuts = p.when(windows[s.Step].Opens), p.when(windows[s.Step].Shuts)
		if at, is := p.opened[s.Step]; is && row.Opens == nil { // its wait runs already
			row.Opens = &at
		}
		p.rows[s.Step] = row
		out.Rows = append(out.Rows, row)
	}
	order.By(out.Rows, func(a, b Row) int { return cmp.Or(a.Start.Compare(b.Start), cmp.Compare(a.Name, b.Name)) })
	p.promise(plan)
	p.chain(plan)
	p.changes()
}

func (p *planner) heldBy(s schedule.Start) HeldBy {
	if s.Held.By == "not_before" {
		held := p.not[s.Step]
		if held.Step != "" {
			step, _ := p.areas[held.Area].Order.Step(held.Step)
			held.Name, held.Title = p.areas[held.Area].Name, step.Title
		}
		return held
	}
	h := HeldBy{By: s.Held.By}
	if other, is := p.rows[s.Held.Step]; is {
		h.StepOf, h.Name, h.Title = other.StepOf, other.Name, other.Title
	}
	return h
}

// promise gives times to others: milestones, water that stands, steps that others do, and the end of each area; late as planned, early as the same crews come to it
// in the same order if the climate is kinder.
func (p *planner) promise(plan schedule.Plan) {
	kinder := p.problem
	kinder.Links = p.early
	early, is := schedule.Again(kinder, plan)
	if !is {
		early = plan
	}
	last := map[string]Promise{}
	var areas []string
	for i, s := range plan.Starts {
		row := p.rows[s.Step]
		least := min(early.Starts[i].End, s.End)
		if end := last[row.Area]; end.Late.Before(row.End) {
			if end.Name == "" {
				areas = append(areas, row.Area)
			}
			last[row.Area] = Promise{row.Area, row.Name, "", false, p.time(least), row.End}
		}
		if p.concerns(row) {
			p.out.Promises = append(p.out.Promises, Promise{row.Area, row.Name, row.Title, p.does(row) == system.Test, p.time(min(early.Starts[i].Start, s.Start)), row.Start})
		}
	}
	for _, id := range areas {
		p.out.Promises = append(p.out.Promises, last[id])
	}
}

func (p *planner) does(row Row) system.Doing {
	step, _ := p.areas[row.Area].Order.Step(row.Step)
	return step.Does
}

// concerns tells whether others wait for a step, do it themselves, or must stay away while it lasts.
func (p *planner) concerns(row Row) bool {
	step, _ := p.areas[row.Area].Order.Step(row.Step)
	return step.Does == system.Milestone || step.Does == system.Test || step.By == "inspector" || step.By == "other_trade"
}

// chain goes back from the last step along what holds each one.
func (p *planner) chain(plan schedule.Plan) {
	at := map[string]schedule.Start{}
	last := plan.Starts[0]
	for _, s := range plan.Starts {
		at[s.Step] = s
		if s.End > last.End {
			last = s
		}
	}
	for seen := map[string]bool{}; !seen[last.Step]; {
		seen[last.Step] = true
		p.out.Chain = append(p.out.Chain, last.Step)
		next, is := at[last.Held.Step]
		if !is {
			return
		}
		last = next
	}
}

// accepted says when the plans that were accepted end.
func (p *planner) accepted() {
	list := p.Job().Accepted
	if len(list) == 0 {
		return
	}
	ends := [2]*time.Time{}
	for i, plan := range []logbook.AcceptedPlan{list[0], list[len(list)-1]} {
		if at, err := time.Parse(time.RFC3339, plan.End); err == nil {
			ends[i] = &at
		}
	}
	p.out.First, p.out.Accepted = ends[0], ends[1]
}

// changes says what runs otherwise than in the plan that was accepted last.
func (p *planner) changes() {
	list := p.Job().Accepted
	if len(list) == 0 {
		return
	}
	const little = 30 * time.Minute
	for _, was := range list[len(list)-1].Starts {
		row, open := p.rows[keyOf(was.Area, was.Step, was.Part)]
		before, err := time.Parse(time.RFC3339, was.Start)
		if !open || err != nil || row.Start.IsZero() {
			continue
		}
		other := was.Crew != "" && row.Crew != was.Crew
		if off := row.Start.Sub(before).Abs(); off < little && !other {
			continue
		}
		p.out.Changes = append(p.out.Changes, DayChange{
			ID: row.ID, StepOf: row.StepOf, Name: row.Name, Title: row.Title, Before: before, Now: row.Start, Crew: other,
			Tell: p.concerns(row),
		})
	}
	order.By(p.out.Changes, func(a, b DayChange) int { return cmp.Compare(b.Now.Sub(b.Before).Abs(), a.Now.Sub(a.Before).Abs()) })
}
