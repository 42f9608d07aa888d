package logbook

import (
	"slices"
	"strings"
	"time"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/system"
)

// Next is the step to take, and why it is open, waiting or held.
type Next struct {
	Step  string         `json:"step"`  // "" when nothing is left
	Stage string         `json:"stage"` // its stage
	State string         `json:"state"` // "open", "closing", "waiting", "late", "held", "not_known" or "finished"
	Why   string         `json:"why"`   // wording key
	Args  map[string]any `json:"args"`
	Until string         `json:"until"` // RFC 3339 end of a wait that is known
}

// next finds the first step that is neither finished nor passed, and says how it stands.
func (a *Area) next(now time.Time) Next {
	for _, stage := range a.Order.Stages {
		if stage.Visit != nil && !a.begun(stage) {
			continue
		}
		for _, step := range stage.Steps {
			if a.finished(step) || step.Hold() && a.passed(step.ID) {
				continue
			}
			n := Next{Step: step.ID, Stage: stage.ID, State: "open", Why: "next.open", Args: map[string]any{"step": step.Title, "why": step.Why}}
			a.judgeNext(&n, step, now)
			return n
		}
	}
	return Next{State: "finished", Why: "next.finished", Args: map[string]any{}}
}

// begun tells whether something of a stage was worked on: a later visit is under way.
func (a *Area) begun(stage system.Stage) bool {
	return slices.ContainsFunc(stage.Steps, func(s system.Step) bool { _, is := a.begunAt[s.ID]; _, done := a.endedAt[s.ID]; return is || done })
}

// hoursOf is a time that a system states, or that stands on a sheet in days or hours.
func (a *Area) hoursOf(f *system.Figure) (hours float64, stated bool) {
	if f == nil || f.Of == "" || a.Plan == nil {
		return f.Hours()
	}
	key, name := f.Product()
	said, err := a.Plan.sheets[key].Number(name)
	if err != nil {
		return 0, false
	}
	own := system.Figure{Value: &said.Value, Unit: said.Unit}
	return own.Hours()
}

// visitDue is when a later visit is due: so long after the last step before it.
func (a *Area) visitDue(stage system.Stage) (at time.Time, known bool) {
	hours, stated := a.hoursOf(stage.Visit.Every)
	last := time.Time{}
	for _, s := range a.Order.Stages {
		if s.Visit != nil {
			continue
		}
		for _, step := range s.Steps {
			if ended := a.endedAt[step.ID]; ended.After(last) {
				last = ended
			}
			if !a.finished(step) && !a.passed(step.ID) {
				return at, false
			}
		}
	}
	return last.Add(time.Duration(hours * float64(time.Hour))), stated && !last.IsZero()
}

// judgeNext says whether a step is open, waits for its window, a touch or a reading, or is
// held.
func (a *Area) judgeNext(n *Next, step system.Step, now time.Time) {
	if doubt, is := a.doubtOf(step); is {
		n.State, n.Why = "held", "next.not_known"
		n.Args["entry"], n.Args["kind"], n.Args["by"], n.Args["at"] = doubt.ID, fault.Short(string(doubt.Kind)), doubt.By, doubt.At
		return
	}
	closing := false
	for _, w := range a.waitsOf(step) {
		if !w.known {
			continue
		}
		standing := w.at(now)
		n.Args["temp"], n.Args["after"] = w.temp, stamp(a.endedAt[w.After])
		if shuts, is := w.time(standing.Closes); is {
			n.Args["shuts"] = stamp(shuts)
		}
		closing = closing || standing.State == cure.Closing
	}
	left := a.answered(step, a.reasons(step, a.materials(step, now), now))
	if len(left) > 0 {
		a.nextOf(n, left[0], step)
	} else {
		switch repeats := a.again(step, now); {
		case repeats != nil && repeats.Late:
			n.State, n.Why, n.Args["due"] = "late", "next.again_late", repeats.Due
		case repeats != nil && len(repeats.Times) > 0:
			n.Why, n.Args["state"], n.Args["due"], n.Args["times"] = "next.again", repeats.State, repeats.Due, len(repeats.Times)
		case a.undecided(step):
			n.Why, n.Args["question"] = "next.only_if", step.OnlyIf.Line
		case slices.ContainsFunc(a.openQuestions(step), func(q OpenQuestion) bool { return q.Why == "asks.no" }):
			n.State, n.Why = "held", "next.answered_no"
		case a.Stale[step.ID] != "":
			n.State, n.Why = "held", "next.stale"
		case step.Hold():
			n.State, n.Why = "held", "next.held"
		default:
			doingFor(step).next(a, n, now)
		}
	}
	if n.Until != "" {
		n.Args["until"] = n.Until
	}
	if n.State == "open" && closing {
		n.State = "closing"
	}
}

// nextOf says what stands before the next step.
func (a *Area) nextOf(n *Next, b Block, step system.Step) {
	for name, value := range b.Args {
		n.Args[name] = value
	}
	n.Args["remedy_key"] = b.Remedy
	switch b.Kind {
	case "wait":
		n.State, n.Why = "not_known", "next.wait_unknown"
		if b.Says == No {
			n.State, n.Why = "waiting", "next.wait"
			n.Until, _ = b.Args["opens"].(string)
		}
	case "late":
		n.State, n.Why = "late", "next.late"
		if own, is := a.ownOpening(step); is {
			n.Args["remedy"] = own.Remedy
		}
	case "touch":
		n.Why = "next.touch"
	default:
		n.State, n.Why = "held", "next."+b.Kind
		if b.Says == Unknown {
			n.State, n.Why = "not_known", "next."+b.Kind+"_unknown"
		}
		if b.Kind == "start" {
			n.Why = "next." + strings.TrimPrefix(b.Key, "why.")
		}
	}
}

// Block is what stands before a step: a shut hold, an earlier step, a wait, a window that
// has shut, a touch test that was not made, material that does not last for it, or an entry
// that could not be read and might concern it.
type Block struct {
	Kind   string         `json:"kind"` // "hold", "earlier", "wait", "late", "frost", "touch", "leak", "start", "short" or "not_known"
	Says   string         `json:"says"` // "no", or "not_known" where something has to be looked at
	Step   string         `json:"step"` // the hold or earlier step; else the step itself
	Title  string         `json:"title"`
	Key    string         `json:"key"`    // wording key of the sentence
	Args   map[string]any `json:"args"`   // its values
	Remedy string         `json:"remedy"` // wording key of what mends it, or of the one thing to look at
}

// block names what stands before a step at a moment: the first thing that nobody answered for.
func (a *Area) block(step system.Step, takes []Material, now time.Time) *Block {
	if earlier, found := a.firstOpenBefore(step.ID); found {
		b := Block{Kind: "earlier", Says: No, Step: earlier.ID, Title: earlier.Title, Key: "why.earlier", Remedy: "remedy.earlier"}
		if earlier.Hold() {
			b.Kind, b.Key, b.Remedy = "hold", "why.hold", "remedy.hold"
		}
		return &b
	}
	if left := a.answered(step, a.reasons(step, takes, now)); len(left) > 0 {
		return &left[0]
	}
	return nil
}

// expected is when a step's waits are over as far as can be said now, the climate from now on
// supposed to stay as it was read last; "" where it cannot be told.
func (a *Area) expected(step system.Step, now time.Time) string {
	var last time.Time
	for _, w := range a.waitsOf(step) {
		if !w.known {
			return ""
		}
		standing := w.at(now)
		opens, is := w.time(standing.Opens)
		if !is || standing.State == NotKnown {
			return ""
		}
		if opens.After(last) {
			last = opens
		}
	}
	if last.IsZero() {
		return ""
	}
	return stamp(last)
}
