package logbook

import (
	"slices"
	"time"

	"dusha/core/fault"
)

const KindSprayed Kind = "sprayed"

// Sprayed is a spray test of standing surfaces: for how long, with how much water, and what both sides showed.
type Sprayed struct {
	Step     string   `json:"step"`
	Surfaces []string `json:"surfaces"`
	Minutes  float64  `json:"minutes"`
	Flow     float64  `json:"L_per_min_m"` // litres a minute to each metre of width
	Front    string   `json:"front"`       // one of Fronts: the film itself
	Behind   string   `json:"behind"`      // one of Behinds
	Where    string   `json:"where,omitempty"`
}

// Fronts and Behinds are what the two sides of a sprayed surface may show.
var (
	Fronts  = []string{"sound", "faulty"}
	Behinds = []string{"dry", "damp", "wet", "not_seen"}
)

// SprayRun is a spray test in the book of an area.
type SprayRun struct {
	Sprayed
	Entry string    `json:"entry"`
	By    string    `json:"by"`
	When  time.Time `json:"at"`
	Says  string    `json:"says"` // FindsHolds, FindsLeaks or FindsCannot
	Why   string    `json:"why"`  // wording key
}

func (b Sprayed) check() error {
	switch {
	case !slices.Contains(Fronts, b.Front):
		return fault.At("body.front", "choice.unknown", "typed", fault.Short(b.Front))
	case !slices.Contains(Behinds, b.Behind):
		return fault.At("body.behind", "choice.unknown", "typed", fault.Short(b.Behind))
	}
	return first(name("body.step", b.Step), list("body.surfaces", b.Surfaces), within("body.minutes", b.Minutes, 0, 1440),
		within("body.L_per_min_m", b.Flow, 0, 1000), line("body.where", b.Where, b.Behind == "wet" || b.Behind == "damp" || b.Front == "faulty"))
}

func (b Sprayed) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || !a.knownSurfaces(e.Entry, b.Surfaces) {
		return
	}
	run := SprayRun{Sprayed: b, Entry: e.ID, By: e.By, When: e.when}
	run.Says, run.Why = a.sprayFinds(b)
	if run.Says == FindsLeaks {
		a.deviate(e.Entry, "deviation.spray_leaks", "where", b.Where)
	}
	a.Sprays = append(a.Sprays, run)
	if _, begun := a.begunAt[b.Step]; !begun {
		a.begunAt[b.Step] = e.when.Add(-time.Duration(b.Minutes * float64(time.Minute)))
	}
	a.endedAt[b.Step] = e.when
}

// sprayFinds is the finding of a spray test: water or a fault that was seen leaks, whatever the time; it holds only as long and
// as hard as the local rule asks, with both sides seen.
func (a *Area) sprayFinds(b Sprayed) (says, why string) {
	switch {
	case b.Front == "faulty" || b.Behind == "wet" || b.Behind == "damp":
		return FindsLeaks, "spray.why.seen"
	case b.Behind == "not_seen":
		return FindsCannot, "spray.why.not_seen"
	case b.Minutes < a.Rules().Limit("spray_minutes").Value:
		return FindsCannot, "spray.why.short"
	case b.Flow < a.Rules().Limit("spray_flow").Value:
		return FindsCannot, "spray.why.weak"
	}
	return FindsHolds, "spray.why.holds"
}

func (b Sprayed) stepOf() string { return b.Step }
