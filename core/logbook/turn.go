package logbook

import (
	"cmp"
	"time"

	"dusha/core/order"
	"dusha/core/system"
)

// Turn is what an area wants next, as it is looked at across the areas of a job.
type Turn struct {
	Step    string         `json:"step"`
	Stage   string         `json:"stage"`
	Title   string         `json:"title"`
	Does    system.Doing   `json:"does"`
	State   string         `json:"state"` // as Next
	Why     string         `json:"why"`
	Args    map[string]any `json:"args"`
	Kg      *float64       `json:"kg"`       // what a coat still needs
	Minutes *float64       `json:"minutes"`  // mixing, laying and walking
	StartBy string         `json:"start_by"` // last safe start, RFC 3339; "" with no window
	Until   string         `json:"until"`    // end of a wait
	PastOf  []string       `json:"past_of"`  // areas whose last safe start this work would run past
	ToCut   int            `json:"to_cut"`   // things to cut, dry, before the step that takes them
}

// Glance is an area as it is seen beside others.
type Glance struct {
	Next   Next
	Stage  *StageLook // the one under way, nil when finished
	Coated string     // step of the last coat with something laid, "" while there is none
	Tide   *Tide
	Turn   Turn
	Flood  float64 // how deep water stands in it for a test, mm; 0: none does
}

// Glance shows the area at a moment, in short.
func (a *Area) Glance(now time.Time) Glance {
	a.recount()
	a.atMoment(now)
	g := Glance{Next: a.next(now), Tide: a.nextTide(now)}
	for _, stage := range a.Order.Stages {
		if stage.ID == g.Next.Stage {
			under := a.stage(stage, g.Next, now)
			g.Stage = &under
		}
	}
	for _, step := range a.steps {
		if _, is := a.coatOf(step); is && len(a.Laid[step.ID]) > 0 {
			g.Coated = step.ID
		}
	}
	step, _ := a.stepBy(g.Next.Step)
	if t := a.test(); t != nil && len(t.Runs) > 0 && a.takes(step, KindTestFilled) {
		g.Flood = t.Chosen.Depth
	}
	g.Turn = a.TurnOf(g.Next, g.Tide, now)
	return g
}

// TurnOf is what the area wants at a moment, by its next step and the tide that is shown.
func (a *Area) TurnOf(n Next, tide *Tide, now time.Time) Turn {
	t := Turn{Step: n.Step, Stage: n.Stage, State: n.State, Why: n.Why, Args: n.Args, Until: n.Until, PastOf: []string{}, ToCut: a.toCut()}
	step, known := a.stepBy(n.Step)
	if !known {
		return t
	}
	t.Title, t.Does = step.Title, step.Does
	if step.Said() {
		t.Does = system.Check
	}
	if tide == nil || tide.Step != step.ID { // the look shows the tide of a later step
		tide = a.tide(step, now)
	}
	if tide != nil {
		t.StartBy = tide.LastSafe
	}
	if coat, is := a.coatOf(step); is {
		covered, kg := a.covered(step.ID), 0.0
		for _, share := range coat.Surface {
			if !covered[share.Surface] {
				kg += share.Mass
			}
		}
		minutes := a.leadTime(step).Value - a.Plan.Rules.Limit("start_margin").Value
		t.Kg, t.Minutes = &kg, &minutes
	}
	return t
}

// toCut counts what is still to cut for steps that are not finished.
func (a *Area) toCut() int {
	left, cut := 0, a.cutWants()
	for _, list := range a.CutLists() {
		if step, is := a.stepBy(list.Step); is && a.finished(step) {
			continue
		}
		for _, want := range list.Wants {
			if !cut[want.ID] {
				left++
			}
		}
	}
	return left
}

// Board is the areas of a job by what can be done: now, soonest to shut first, then what
// has no window, where something is not known that has to be looked at too; and what has to
// wait, soonest first. Finished areas are in neither.
type Board struct {
	Now   []string `json:"now"`
	Waits []string `json:"waits"`
}

// BoardOf sorts the turns of a job's areas, and notes in each turn which others would be
// too late if its work were begun at that moment.
func BoardOf(ids []string, turns map[string]*Turn, now time.Time) Board {
	b := Board{Now: []string{}, Waits: []string{}}
	for _, id := range ids {
		switch turns[id].State {
		case "open", "closing", "late", "held", "not_known":
			b.Now = append(b.Now, id)
		case "waiting":
			b.Waits = append(b.Waits, id)
		}
	}
	byTime := func(of func(*Turn) string) func(x, y string) int {
		return func(x, y string) int {
			tx, ty := of(turns[x]), of(turns[y])
			if (tx == "") != (ty == "") { // what has no time comes last
				return cmp.Compare(len(ty), len(tx))
			}
			return cmp.Compare(tx, ty)
		}
	}
	order.By(b.Now, byTime(func(t *Turn) string { return t.StartBy }))
	order.By(b.Waits, byTime(func(t *Turn) string { return t.Until }))
	for _, id := range b.Now {
		t := turns[id]
		if t.Minutes == nil {
			continue
		}
		ends := stamp(now.Add(minutesOf(*t.Minutes)))
		for _, other := range b.Now {
			if o := turns[other]; other != id && o.StartBy != "" && o.StartBy > stamp(now) && o.StartBy < ends {
				t.PastOf = append(t.PastOf, other)
			}
		}
	}
	return b
}
