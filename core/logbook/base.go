package logbook

import (
	"slices"
	"time"

	"dusha/core/gates"
	"dusha/core/rules"
	"dusha/core/wetarea"
)

// What is found on the base before anything is laid: leaks, the history of the damage, and
// the gates that stop an area until they are lifted.

// Leak is one place of water with what became of it.
type Leak struct {
	Entry string `json:"entry"`
	LeakFound
	Found   Signed  `json:"found"`
	Plugged *Signed `json:"plugged"` // with what stands in its note
	Dry     *Signed `json:"dry"`     // found dry after it was plugged
	Open    bool    `json:"open"`
}

// shutBase shuts the base again that was accepted before a leak was found, and says what was begun
// on it since.
func (a *Area) shutBase(e settled) {
	base := slices.IndexFunc(a.steps, a.acceptsBase)
	if base < 0 {
		return
	}
	id := a.steps[base].ID
	if _, signed := a.Done[id]; !signed {
		return
	}
	since := []string{}
	for _, s := range a.steps {
		if _, begun := a.endedAt[s.ID]; begun && s.Lays() {
			since = append(since, s.ID)
		}
	}
	a.Stale[id] = e.ID
	a.deviate(e.Entry, "deviation.leak_after_acceptance", "step", id, "since", since)
}

// leak finds the leak an entry is about; one that names none is kept and said.
func (a *Area) leak(e settled, id string) *Leak {
	i := slices.IndexFunc(a.Leaks, func(l Leak) bool { return l.Entry == id })
	if i < 0 {
		a.deviate(e.Entry, "deviation.unknown_leak")
		return nil
	}
	return &a.Leaks[i]
}

// Rules are the area's local rules: those of its plan, else the job's own, else generic.
func (a *Area) Rules() rules.Profile {
	if a.Plan != nil {
		return a.Plan.Rules
	}
	return a.Job.Rules()
}

// Rules are the local rules that a job's plans are made with: the profile kept last, else the
// generic one.
func (j *Job) Rules() rules.Profile {
	if n := len(j.Profiles); n > 0 {
		return j.Profiles[n-1]
	}
	return rules.Generic()
}

// Gates are what stops the area at a moment.
func (a *Area) Gates(now time.Time) []gates.Gate {
	if a.Geometry == nil {
		return []gates.Gate{}
	}
	with := gates.Findings{Rules: a.Rules(), Now: now}
	for _, e := range a.settled {
		if e.ID == a.SurveyID {
			const day = 24 * time.Hour
			with.Days = max(0, now.Sub(e.when).Hours()/day.Hours())
		}
	}
	if a.Plan != nil {
		with.Base = true
		for _, film := range a.Plan.Films() { // of two the stricter counts
			if _, err := film.Number("negative_rating"); err != nil {
				with.PositiveOnly = true
			}
			if age, stated := film.Numbers["age_least"]; stated {
				_, high := age.Ends()
				with.SheetAge = max(with.SheetAge, high)
			}
			if most, stated := lowOf(film, "moisture_most"); stated && (with.MoistureMost == nil || most < *with.MoistureMost) {
				with.MoistureMost = &most
			}
		}
	}
	for _, l := range a.Leaks {
		if l.Open {
			with.Leaks = append(with.Leaks, wetarea.OpenLeak{ID: l.Entry, Surface: l.Surface, Plugged: l.Plugged != nil})
		}
	}
	return gates.Of(*a.Geometry, with)
}

// shutting are the gates that stop work.
func shutting(list []gates.Gate) []gates.Gate {
	return slices.DeleteFunc(slices.Clone(list), func(g gates.Gate) bool { return !g.Hold })
}
