package logbook

import (
	"time"

	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/system"
)

// TidePoint is how ready the next step is at a time.
type TidePoint struct {
	At    string  `json:"at"`
	Level float64 `json:"level"` // 0 to 1
	State string  `json:"state"`
}

// Tide is the window of the next step, drawn over the hours round now.
type Tide struct {
	Step      string           `json:"step"`
	Title     string           `json:"title"`  // of the step
	Known     bool             `json:"known"`  // false: the climate was not read
	State     string           `json:"state"`  // "too early", "open", "closing", "too late" or "not known"
	Look      string           `json:"look"`   // wording key of what to look at where it is not known
	Frozen    string           `json:"frozen"` // when the base froze before it was over, RFC 3339
	Points    []TidePoint      `json:"points"`
	Since     string           `json:"since"` // beginning of what is waited for
	Opens     string           `json:"opens"` // times are RFC 3339, "" where there is none
	Closing   string           `json:"closing"`
	Shuts     string           `json:"shuts"`
	LastSafe  string           `json:"last_safe_start"`
	Temp      float64          `json:"temp_C"` // the wait is reckoned with from now on
	Climate   []ClimateReading `json:"climate"`
	Confirm   []string         `json:"confirm"` // states that the touch test asks for
	Touch     *Touch           `json:"touch"`
	Confirmed bool             `json:"confirmed"`
	Remedy    string           `json:"remedy"`
	Figures   []figure.Figure  `json:"figures"`
}

// tide shows the window of a step at a moment, nil where it has none.
func (a *Area) tide(s system.Step, now time.Time) *Tide {
	w, waits := a.waitOf(s)
	if !waits {
		return nil
	}
	if again, is := a.openedAgain(s.ID, w, now); is && again.known {
		w = again
	}
	t := Tide{
		Step: s.ID, Title: s.Title, Known: w.known, State: NotKnown, Look: a.lookFor(w), Points: []TidePoint{}, Climate: []ClimateReading{},
		Confirm: []string{}, Confirmed: a.confirmed(s), Figures: []figure.Figure{},
	}
	if own, is := a.ownOpening(s); is {
		t.Confirm, t.Remedy = append(t.Confirm, own.Confirm...), own.Remedy
	}
	if touched, is := a.Touched[s.ID]; is {
		t.Touch = &touched
	}
	if !w.known {
		return &t
	}
	by := w.asOf(now.Sub(w.from).Hours())
	standing := w.standing(by, now.Sub(w.from).Hours())
	t.State, t.Temp, t.Since = standing.State, w.temp, stamp(w.from)
	if t.State != NotKnown {
		t.Look = ""
	}
	if at, is := w.frozen(); is {
		t.Frozen = stamp(at)
	}
	t.Climate = a.climateSince(w.from)
	opens, isOpen := w.time(standing.Opens)
	shuts, isShut := w.time(standing.Closes)
	if isOpen && t.State != NotKnown {
		t.Opens = stamp(opens)
		t.Figures = append(t.Figures, a.figureOfOpening(w, *standing.Opens))
	}
	if closing, is := w.time(standing.Closing); is {
		t.Closing = stamp(closing)
	}
	if isShut {
		lead := a.leadTime(s)
		t.Shuts = stamp(shuts)
		t.LastSafe = stamp(shuts.Add(-minutesOf(lead.Value)))
		t.Figures = append(t.Figures, a.figureOfShutting(w, *standing.Closes), lead)
	}
	begin := now.Add(-tideBack * time.Hour)
	if began := w.from.Add(minutesOf(w.window.Lag * 60)); began.After(begin) {
		begin = began
	}
	for _, at := range tideTimes(begin, now.Add(tideAhead*time.Hour), t.Opens, t.Closing, t.Shuts) {
		level, state := by.Level(at.Sub(w.from).Hours())
		t.Points = append(t.Points, TidePoint{stamp(at), level, state})
	}
	return &t
}

// lookFor is what has to be read for a wait to be told.
func (a *Area) lookFor(w wait) string {
	if w.law.MindsOf("humidity") {
		return "look.air_and_base"
	}
	return "look.base"
}

// tideTimes are the moments a tide is worked out for: at even steps, and right before and
// at each change of its state.
func tideTimes(from, to time.Time, changes ...string) []time.Time {
	var times []time.Time
	for at := from; !at.After(to); at = at.Add(tideStep) {
		times = append(times, at)
	}
	for _, change := range changes {
		if at, err := time.Parse(time.RFC3339, change); err == nil && at.After(from) && at.Before(to) {
			times = append(times, at.Add(-time.Second), at.Add(time.Second))
		}
	}
	order.By(times, time.Time.Compare)
	return times
}

// nextTide is the window of the first step, not finished and not passed, that has one
// whose wait has begun.
func (a *Area) nextTide(now time.Time) *Tide {
	for _, step := range a.steps {
		own, is := a.ownOpening(step)
		if !is || a.finished(step) || a.passed(step.ID) {
			continue
		}
		if _, over := a.endedAt[own.After]; over {
			return a.tide(step, now)
		}
	}
	return nil
}

// What the tide shows round now, h, and how finely.
const (
	tideBack, tideAhead = 12, 48
	tideStep            = 20 * time.Minute
)
