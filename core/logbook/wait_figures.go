package logbook

import (
	"dusha/core/cure"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
)

// tableLeaves are the printed times of a table.
func tableLeaves(of sheet.Sheet, prefix string) []figure.Figure {
	var leaves []figure.Figure
	for _, name := range of.TableNames(prefix) {
		leaf, err := of.Number(name)
		if err != nil {
			continue
		}
		if prefix == linkLeast || prefix == linkLatest {
			leaf.Source.Kind = "system"
		}
		leaves = append(leaves, leaf)
	}
	return leaves
}

// climateLeaves are the readings that a wait is reckoned with: the base's temperature, and of a film
// that minds it the air.
func (a *Area) climateLeaves(w wait) []figure.Figure {
	var leaves []figure.Figure
	add := func(name, unit string, list readings) {
		for _, r := range list.since(w.from) {
			leaf := figure.Read(name, r.value, unit, figure.Source{Kind: "entry", Ref: r.entry}).With("at", stamp(r.when))
			leaf.Low, leaf.High = r.low, r.high
			leaves = append(leaves, leaf)
		}
	}
	add("wait.base_read", "C", a.base)
	if w.law.MindsOf("humidity") {
		add("wait.air_read", "C", a.air)
		add("wait.humidity_read", "percent", a.humidity)
	}
	return leaves
}

func (a *Area) figureOfOpening(w wait, hours float64) figure.Figure {
	inputs := append(tableLeaves(w.sheet, w.Table), a.climateLeaves(w)...)
	at, _ := w.time(&hours)
	return figure.Worked("wait.opens", hours-w.window.Lag, "h", "cure.earliest", inputs...).With("at", stamp(at))
}

func (a *Area) figureOfShutting(w wait, hours float64) figure.Figure {
	inputs := append(tableLeaves(w.sheet, w.Latest), a.climateLeaves(w)...)
	at, _ := w.time(&hours)
	return figure.Worked("wait.shuts", hours, "h", "cure.latest", inputs...).With("at", stamp(at))
}

// leadTime is what must be off the end of a window for the work to end inside it, min:
// weighing, mixing, standing, laying, walking and a margin.
func (a *Area) leadTime(s system.Step) figure.Figure {
	limits := a.Plan.Rules
	inputs := []figure.Figure{limits.Limit("weigh")}
	for _, name := range []string{"mix", "stand"} {
		if said, err := a.sheetOf(s).Number(name); err == nil {
			inputs = append(inputs, said)
		}
	}
	if _, is := a.coatOf(s); is {
		area := figure.Read("wait.area_left", a.areaLeft(s), "m2", figure.Source{Kind: "measure", Ref: s.ID})
		rate := limits.Limit("crew_rate")
		inputs = append(inputs, figure.Worked("wait.laying", 60*area.Value/rate.Value, "min", "wait.laying", area, rate))
	}
	inputs = append(inputs, limits.Limit("walk"), limits.Limit("start_margin"))
	return figure.Sum("wait.lead", "wait.last_safe_start", inputs...)
}

// areaLeft is what a coat still has to cover, m².
func (a *Area) areaLeft(s system.Step) float64 {
	left, covered := 0.0, a.covered(s.ID)
	for _, share := range a.Takeoff.Coats[s.Coat-1].Surface {
		if !covered[share.Surface] {
			left += share.Area
		}
	}
	return left
}

// WaitLook is what became of a window: when it opened and shut, when the work began, and
// whether the wait was kept.
type WaitLook struct {
	Step       string   `json:"step"`
	Title      string   `json:"title"`
	Known      bool     `json:"known"` // a temperature was noted
	Temp       float64  `json:"temp_C"`
	Opened     string   `json:"opened"` // times are RFC 3339, "" where there is none
	Shut       string   `json:"shut"`
	Begun      string   `json:"begun"`      // "" while nothing was done
	Kept       bool     `json:"kept"`       // begun inside the window
	Touch      *Touch   `json:"touch"`      // nil where none was made
	Confirm    []string `json:"confirm"`    // states that the touch test asks for
	Remedied   bool     `json:"remedied"`   // the base was made ready again after the window had shut
	Overridden *Signed  `json:"overridden"` // who went on all the same
}

// waits are all windows whose wait has begun, in the order of the recipe.
func (a *Area) waits() []WaitLook {
	looks := []WaitLook{}
	for _, step := range a.steps {
		own, is := a.ownOpening(step)
		if !is {
			continue
		}
		if _, over := a.endedAt[own.After]; !over {
			continue
		}
		w, _ := a.waitOf(step)
		l := WaitLook{Step: step.ID, Title: step.Title, Known: w.known, Temp: w.temp, Confirm: append([]string{}, own.Confirm...), Remedied: a.Remedied[step.ID]}
		if touched, is := a.Touched[step.ID]; is {
			l.Touch = &touched
		}
		if override, is := a.Overrides[step.ID]; is {
			l.Overridden = &override
		}
		standing := w.strict.At(0)
		if opened, is := w.time(standing.Opens); is && w.known {
			l.Opened = stamp(opened)
		}
		if shut, is := w.time(standing.Closes); is && w.known {
			l.Shut = stamp(shut)
		}
		begun, is := a.begunAt[step.ID]
		if !is { // an acceptance has no beginning but its own moment
			begun, is = a.endedAt[step.ID]
		}
		if is {
			l.Begun = stamp(begun)
			state := w.judged(begun).State
			l.Kept = w.known && (state == cure.Open || state == cure.Closing || state == cure.TooLate && l.Remedied)
		}
		looks = append(looks, l)
	}
	return looks
}
