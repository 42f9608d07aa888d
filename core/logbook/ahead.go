package logbook

import (
	"math"
	"slices"
	"strings"
	"time"

	"dusha/core/cure"
	"dusha/core/gates"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// What of an area is still to be done, as a plan of the days asks it: how long each step takes, who does it, what it waits for.

// Ahead is a step that is still open.
type Ahead struct {
	Step      system.Step
	Minutes   int
	Stated    bool // somebody said how long it takes here
	SetUp     int  // of it, what each stretch of it takes anew, min
	Stretches int  // in which it is laid, each by itself; 1 at least
	Beside    bool // it waits for nothing in the area and is done any time before the next one
	Hands     bool // somebody is bound; else it runs by itself
	Pauses    bool // it may be left over night and gone on with
	Outside   bool // rain keeps it off, until it is safe from it
	RainSafe  float64
	Lays      bool      // wind keeps it off too
	Frost     bool      // and frost
	NotBefore time.Time // zero: whenever
	NotAfter  time.Time // zero: it never shuts
	Opened    string    // the step done before that its times count from
	Aged      time.Time // when the base is old enough for it; zero: it is
	Waits     []AheadWait
	Short     []Material // what was counted and does not last for it
}

// AheadWait is a window that counts from a step which is open too.
type AheadWait struct {
	After        string
	Opens, Shuts string // what the least and the latest count from: "start" or "end"
	wait         wait
	area         *Area
}

// From is when a step may begin whose wait counts from a moment, with the earliest that it could be if the climate is kinder, and
// until when; zero where the times end before, or where it never shuts.
func (w AheadWait) From(now, at time.Time) (opens, early, shuts time.Time) {
	made := w.area.anchored(wait{opening: w.wait.opening, law: w.wait.law}, at, at)
	if !made.known {
		return opens, early, shuts
	}
	edges, _ := made.edges(now.Sub(made.from).Hours())
	by := made.window.Over(edges)
	opens, _ = made.time(by.Opens())
	shuts, _ = made.time(by.At(0).Closes)
	early, _ = made.time(cure.Window{Earliest: made.window.Earliest}.Over(cure.Edges{Cold: edges.Warm}).Opens())
	return opens, early, shuts
}

// Foreseen is the climate of an hour ahead: of air and base, °C, and percent.
type Foreseen struct {
	At       time.Time `json:"at"`
	Temp     float64   `json:"air_C" minimum:"-60" maximum:"80"`
	Humidity float64   `json:"rh_percent" minimum:"0" maximum:"100"`
}

// Foresee is the area as if the climate ahead were as somebody foresees it, and some K warmer. Where nothing was read yet, it
// counts from now on as foreseen; with nothing foreseen either it stays unknown.
func (a *Area) Foresee(now time.Time, list []Foreseen, warmer float64) *Area {
	if len(list) == 0 && warmer != 0 {
		return a.Warmer(now, warmer)
	}
	other := a.supposing()
	if len(list) == 0 {
		return other
	}
	var base, air, humidity readings
	for _, f := range list {
		base.add(reading{when: f.At, value: f.Temp + warmer, supposed: true})
		air.add(reading{when: f.At, value: f.Temp + warmer, supposed: true})
		humidity.add(reading{when: f.At, value: f.Humidity, supposed: true})
	}
	other.foreseen = [3]readings{base, air, humidity}
	for i, track := range []*readings{&other.base, &other.air, &other.humidity} {
		if len(*track) == 0 {
			first := other.foreseen[i][0]
			first.when = now
			*track = readings{first}
		}
	}
	return other
}

// ClimateRead tells whether the climate was read here that waits are reckoned by.
func (a *Area) ClimateRead() bool { return len(a.base) > 0 }

// StillOpen are the steps of an area that are still to be done, in their order; those of a later visit are not among them.
func (a *Area) StillOpen(now time.Time) (list []Ahead) {
	a.clock = now
	open := map[string]bool{}
	for _, stage := range a.Order.Stages {
		if stage.Visit != nil {
			continue
		}
		for _, s := range stage.Steps {
			if a.finished(s) || s.Hold() && a.passed(s.ID) || a.dropped(s) || s.Does == system.Survey || s.Does == system.Plan {
				continue
			}
			open[s.ID] = true
			list = append(append(list, a.cutsFor(s)...), a.aheadOf(s, open, now))
		}
	}
	return list
}

// cutFor begins the id of what cuts a product for the step that lays it.
const cutFor = "cut "

// cutsFor is what has to be cut yet for a step, product by product.
func (a *Area) cutsFor(s system.Step) (list []Ahead) {
	for _, c := range a.CutLists() {
		if c.Step != s.ID {
			continue
		}
		left := len(c.Wants)
		if i := slices.IndexFunc(a.Cuts, func(own CutLook) bool { return own.Sheet == c.Sheet }); i >= 0 {
			left, _ = a.Cuts[i].Work.Left()
		}
		if left == 0 {
			continue
		}
		const setUp, perPiece = 15, 2 // min
		h := Ahead{Step: cutStep(c), Minutes: setUp + perPiece*left, Hands: true, Pauses: true, Beside: true, Stretches: 1, Waits: []AheadWait{}}
		if said := a.Timed[h.Step.ID].Minutes; said > 0 {
			h.Minutes, h.Stated = said, true
		}
		list = append(list, h)
	}
	return list
}

func cutStep(c takeoff.CutList) system.Step {
	return system.Step{ID: cutFor + c.Sheet, Title: "Cut " + c.Name, Does: system.Cut}
}

// StepAhead is a step of the order, or what cuts for one, by its id.
func (a *Area) StepAhead(id string) (system.Step, bool) {
	for _, c := range a.CutLists() {
		if own := cutStep(c); own.ID == id {
			return own, true
		}
	}
	return a.Order.Step(id)
}

func (a *Area) aheadOf(s system.Step, open map[string]bool, now time.Time) Ahead {
	h := Ahead{
		Step: s, Hands: s.By != "inspector" && s.By != "other_trade", Pauses: slices.Contains(pausing, s.Does), Outside: a.Outdoors() && !s.Hold(), Waits: []AheadWait{},
		Short: slices.DeleteFunc(a.materials(s, now), func(m Material) bool { return !m.Short }),
	}
	said := a.Timed[s.ID]
	h.Minutes, h.Stretches = said.Minutes, max(1, said.Stretches)
	if h.Stated = said.Minutes > 0; !h.Stated {
		h.Minutes = a.reckoned(s, now)
		h.SetUp = int(a.paceOf(s).setUp)
	}
	if slices.Contains(unattended, s.Does) || s.Again != nil {
		h.Hands = false
	}
	for _, of := range doingFor(s).lays(a, s) {
		c := starting{Area: a, step: s, of: of, now: now}
		safe, _ := c.safeAfter("rain_safe")
		h.Lays, h.Frost, h.RainSafe = true, h.Frost || c.mindsFrost(), max(h.RainSafe, safe)
	}
	if a.acceptsBase(s) {
		h.Aged = a.agedAt(now)
	}
	for _, o := range a.openings(s) {
		anchor := a.anchorOf(o)
		w := AheadWait{After: o.After, Opens: "end", Shuts: "start", wait: wait{opening: o, law: o.sheet.Law()}, area: a}
		switch anchor {
		case "coat_begun":
			w.Opens = "start"
		case "coat_ended":
			w.Shuts = "end"
		}
		if open[o.After] {
			h.Waits = append(h.Waits, w)
			continue
		}
		running, is := a.waitFor(o, a.uncovered(s))
		if !is || !running.known {
			continue
		}
		standing := running.at(now)
		if opens, is := running.time(standing.Opens); is && opens.After(h.NotBefore) {
			h.NotBefore, h.Opened = opens, o.After
		}
		if shuts, is := running.time(standing.Closes); is && (h.NotAfter.IsZero() || shuts.Before(h.NotAfter)) && !a.remedied(s.ID, running, now) {
			h.NotAfter = shuts
		}
	}
	return h
}

// agedAt is when no part of the base is too young any more; zero where none is, or it never comes within a year.
func (a *Area) agedAt(now time.Time) (at time.Time) {
	const year = 366
	young := func(days int) bool {
		return slices.ContainsFunc(a.Gates(now.AddDate(0, 0, days)), func(g gates.Gate) bool { return g.Key == tooYoung })
	}
	if !young(0) || young(year) {
		return at
	}
	least, most := 0, year
	for most-least > 1 {
		if mid := (least + most) / 2; young(mid) {
			least = mid
		} else {
			most = mid
		}
	}
	return now.AddDate(0, 0, most)
}

// tooYoung is the gate of a base that is not old enough.
const tooYoung = "gate.too_young"

var (
	// pausing is work that may be left and gone on with.
	pausing = []system.Doing{system.Prepare, system.Cut, system.Mask, system.Protect, system.Unprotect}
	// unattended runs by itself.
	unattended = []system.Doing{system.Wait, system.Test, system.Milestone}
)

// pace is how long a step takes until somebody says otherwise: setting up, and so much an hour.
type pace struct {
	setUp float64 // min
	perH  float64 // m² an hour; 0: it takes its setting up alone
}

// paces are what a usual crew comes to. They are the trade's rough figures: a person says what it takes here.
var paces = map[system.Doing]pace{
	system.Prepare: {30, 10}, system.Check: {20, 0}, system.Cut: {15, 30}, system.Wet: {10, 60}, system.Place: {30, 6}, system.Mask: {15, 40},
	system.Unmask: {15, 0}, system.Mist: {10, 0}, system.PlanTest: {10, 0}, system.Fill: {30, 0}, system.SprayTest: {45, 0}, system.Drain: {45, 0},
	system.Rinse: {30, 0}, system.Protect: {15, 30}, system.Unprotect: {15, 40}, system.AcceptIt: {15, 0}, system.Sign: {15, 0},
}

// reckoned is how long what is left of a step takes, min: by the local rules where they say it, else as a usual crew does.
func (a *Area) reckoned(s system.Step, now time.Time) int {
	if a.Plan == nil {
		return 1
	}
	switch {
	case s.Does == system.Test:
		return a.testLeft(now)
	case s.Does == system.Milestone || s.Does == system.Wait:
		return 1
	case s.Again != nil:
		return a.againLeft(s, now)
	}
	p := a.paceOf(s)
	left := a.stillToDo(s)
	minutes := p.setUp * left
	if p.perH > 0 {
		minutes = p.setUp + 60*a.sizeOf(s)*left/p.perH
	}
	const step = 5 // nobody reckons closer
	return max(step, int(math.Ceil(minutes/step))*step)
}

// paceOf is that of a step: of what is laid by the local rules.
func (a *Area) paceOf(s system.Step) pace {
	if p, known := paces[s.Does]; known || a.Plan == nil {
		return p
	}
	return pace{a.Plan.Rules.Limit("weigh").Value + a.Plan.Rules.Limit("walk").Value, a.Plan.Rules.Limit("crew_rate").Value}
}

// sizeOf is how large what a step works on is, m²: its coat, what else it lays, else the whole field.
func (a *Area) sizeOf(s system.Step) (size float64) {
	if coat, is := a.coatOf(s); is {
		for _, share := range coat.Surface {
			size += share.Area
		}
		return size
	}
	const perPiece, perMetre = 0.3, 0.2 // as much work as so many m²
	for _, w := range a.ownWorks(s) {
		for _, p := range w.Places {
			size += p.Size * map[string]float64{"m2": 1, "m": perMetre, "count": perPiece}[p.Unit]
		}
	}
	if s.Does == system.Place || s.Does == system.Cut {
		return size + perPiece*float64(len(a.PieceLooks()))
	}
	if size > 0 || a.Takeoff == nil || len(a.Takeoff.Coats) == 0 {
		return size
	}
	for _, share := range a.Takeoff.Coats[0].Surface {
		size += share.Area
	}
	return size
}

// testLeft is how long the water has still to stand, min: as planned, else as the local rules ask.
func (a *Area) testLeft(now time.Time) int {
	hours := a.Plan.Rules.Limit("test_hours").Value
	if a.Geometry != nil && a.Geometry.Water != nil {
		hours += a.Plan.Rules.Limit("test_soak").Value
	}
	if t := a.test(); t != nil && t.Chosen.Planned > 0 {
		hours = t.Chosen.Planned + t.Chosen.Soak
		if n := len(t.Runs); n > 0 {
			hours = max(0, hours-now.Sub(t.Runs[n-1].At).Hours())
		}
	}
	return max(1, int(math.Ceil(60*hours)))
}

// againLeft is how long a step goes on coming back, min: by the time that ends it.
func (a *Area) againLeft(s system.Step, now time.Time) int {
	if at, is := a.endsAt(s); is {
		return max(1, int(math.Ceil(at.Sub(now).Minutes())))
	}
	if strings.Contains(s.Again.Until, ".") {
		until := system.Figure{Of: s.Again.Until}
		key, table := until.Product()
		if least, _ := a.Plan.sheets[key].Hours(table); least != nil {
			return max(1, int(math.Ceil(60**least)))
		}
	}
	return 1
}

// Lays tells whether a step lays something of a product.
func (a *Area) Lays(s system.Step) bool { return len(doingFor(s).lays(a, s)) > 0 }

// Takes are the materials that what is left of a step takes.
func (a *Area) Takes(s system.Step, now time.Time) []Material { return a.materials(s, now) }
