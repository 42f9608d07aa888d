package logbook

import (
	"slices"
	"time"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/figure"
	"dusha/core/sheet"
)

// ClimateReading is what was read in the area by hand: air, base and humidity.
type ClimateReading struct {
	Entry string    `json:"entry"`
	When  time.Time `json:"at"`
	climate.Air
}

// ahead is how far a wait looks, h; a wait that is not over by then is not known.
const ahead = 2 * 365 * 24

// offTemp is how far the temperature may be off from the last reading on, K.
const offTemp = 2.0

// wait is the window of a step with the climate it moves with.
type wait struct {
	from   time.Time // beginning of the step waited for: the latest counts from it
	window cure.Window
	edges  cure.Edges
	known  bool // a temperature was noted: without one no time can be told
	temp   float64
}

// waitOf gives the window of a step; waits is false where the recipe knows none.
func (a *Area) waitOf(s sheet.Step) (w wait, waits bool) {
	if s.Opens == nil {
		return w, false
	}
	ended, over := a.endedAt[s.Opens.After]
	began, begun := a.begunAt[s.Opens.After]
	if !over || !begun || a.Plan == nil {
		return w, true
	}
	switch a.anchorOf(s) {
	case "coat_begun":
		ended = began
	case "coat_ended":
		began = ended
	}
	readings := a.climateFrom(s.Opens.After, began)
	if len(readings) == 0 {
		return w, true
	}
	earliest, err := cure.ByTable(a.Plan.Sheet.Table(s.Opens.Table), cure.Least)
	if err != nil {
		return w, true
	}
	w = wait{from: began, known: true, temp: readings[len(readings)-1].Base}
	w.window = cure.Window{Earliest: earliest, Lag: ended.Sub(began).Hours()}
	if s.Opens.Latest != "" {
		if latest, err := cure.ByTable(a.Plan.Sheet.Table(s.Opens.Latest), cure.Latest); err == nil {
			w.window.Latest = &latest
		}
	}
	w.edges = cure.Edges{Cold: stretched(readings, began, -offTemp), Warm: stretched(readings, began, offTemp)}
	return w, true
}

// anchorOf is what the times of a step's window count from, where the sheet or its recipe says so;
// else a least time counts from the end of the work and a latest from its beginning.
func (a *Area) anchorOf(s sheet.Step) string {
	if from := a.Plan.Sheet.Choices["recoat_from"]; from != "" && s.Opens.Table == "recoat" {
		return from
	}
	return s.Opens.Anchor
}

// climateFrom is the climate from a time on: the lowest base temperature noted with the
// batches of the step, or the last reading before it, then each reading until the next.
func (a *Area) climateFrom(step string, from time.Time) []ClimateReading {
	var readings []ClimateReading
	if temp, noted := a.coldest(step); noted {
		readings = append(readings, ClimateReading{When: from, Air: climate.Air{Temp: temp, Base: temp}})
	}
	for _, r := range a.Climate {
		switch {
		case r.When.After(from):
			readings = append(readings, r)
		case len(readings) == 0 || readings[0].Entry != "":
			readings = []ClimateReading{r}
		}
	}
	if supposed, is := a.supposed[step]; is && supposed.When.After(from) {
		readings = append(readings, supposed)
	}
	return readings
}

// Suppose takes the area to be some K warmer from a moment on: does a heater help?
func (a *Area) Suppose(now time.Time, kelvin float64) {
	if kelvin == 0 {
		return
	}
	supposed := map[string]ClimateReading{}
	for _, s := range a.Recipe.Steps() {
		if s.Opens == nil {
			continue
		}
		if readings := a.climateFrom(s.Opens.After, a.begunAt[s.Opens.After]); len(readings) > 0 {
			last := readings[len(readings)-1]
			last.When, last.Temp, last.Base = now, last.Temp+kelvin, last.Base+kelvin
			supposed[s.Opens.After] = last
		}
	}
	a.supposed = supposed
}

// stretched makes a series from readings; from the last one on it is a forecast, taken to
// be off by some K.
func stretched(readings []ClimateReading, from time.Time, off float64) []cure.Stretch {
	var series []cure.Stretch
	at := from
	for i, r := range readings {
		s := cure.Stretch{Hours: ahead, Air: r.Air}
		if i+1 < len(readings) {
			s.Hours = readings[i+1].When.Sub(at).Hours()
			at = readings[i+1].When
		} else {
			s.Temp, s.Base = s.Temp+off, s.Base+off
		}
		series = append(series, s)
	}
	return series
}

// at tells how the window stands at a moment.
func (w wait) at(now time.Time) cure.Standing {
	return w.window.At(w.edges, now.Sub(w.from).Hours())
}

// time is a moment some hours after the beginning.
func (w wait) time(hours *float64) (at time.Time, known bool) {
	if hours == nil {
		return at, false
	}
	return w.from.Add(time.Duration(*hours * float64(time.Hour))), true
}

// opensAt is when a step's least wait has passed. Where no temperature was noted the wait
// cannot be told: known is false.
func (a *Area) opensAt(s sheet.Step) (at time.Time, waits, known bool) {
	w, waits := a.waitOf(s)
	if !waits || !w.known {
		return at, waits, !waits
	}
	at, known = w.time(w.at(w.from).Opens)
	return at, true, known
}

// confirmed tells whether a person confirmed every state that the step asks for, after the
// last of what it waits for was laid.
func (a *Area) confirmed(s sheet.Step) bool {
	touched, is := a.Touched[s.ID]
	return s.Opens == nil || len(s.Opens.Confirm) == 0 || is && touched.Passed && !touched.When.Before(a.endedAt[s.Opens.After])
}

// Touch is a touch test: which states a person found.
type Touch struct {
	Entry  string    `json:"entry"`
	By     string    `json:"by"`
	When   time.Time `json:"at"`
	Found  []string  `json:"found"`
	Passed bool      `json:"passed"`
}

func (a *Area) applyTouched(e settled, body Touched) {
	step, known := a.Recipe.Step(body.Step)
	if !known || step.Opens == nil {
		a.deviate(e.Entry, "deviation.unknown_step", "step", body.Step)
		return
	}
	t := Touch{Entry: e.ID, By: e.By, When: e.when, Found: body.Found, Passed: true}
	for _, state := range step.Opens.Confirm {
		t.Passed = t.Passed && slices.Contains(body.Found, state)
	}
	a.Touched[body.Step] = t
}

// judgeWindow says when work was done after its window had shut, or without the touch test.
func (a *Area) judgeWindow(e settled, s sheet.Step) {
	w, waits := a.waitOf(s)
	if !waits || a.passed(s.ID) {
		return
	}
	if !a.confirmed(s) {
		a.deviate(e.Entry, "deviation.no_touch_test", "step", s.ID)
	}
	if w.known && w.at(e.when).State == cure.TooLate && !a.Remedied[s.ID] {
		a.deviate(e.Entry, "deviation.too_late", "step", s.ID)
	}
}

// TidePoint is how ready the next step is at a time.
type TidePoint struct {
	At    string  `json:"at"`
	Level float64 `json:"level"` // 0 to 1
	State string  `json:"state"`
}

// Tide is the window of the next step, drawn over the hours round now.
type Tide struct {
	Step      string           `json:"step"`
	Title     string           `json:"title"` // of the step
	Known     bool             `json:"known"` // false: no temperature was noted
	State     string           `json:"state"` // "too early", "open", "closing" or "too late"
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

// What the tide shows round now, h, and how finely.
const (
	tideBack, tideAhead = 12, 48
	tideStep            = 20 * time.Minute
)

// tide shows the window of a step at a moment, nil where it has none.
func (a *Area) tide(s sheet.Step, now time.Time) *Tide {
	w, waits := a.waitOf(s)
	if !waits {
		return nil
	}
	t := Tide{
		Step: s.ID, Title: s.Title, Known: w.known, State: cure.TooEarly, Points: []TidePoint{}, Climate: []ClimateReading{},
		Confirm: append([]string{}, s.Opens.Confirm...), Confirmed: a.confirmed(s), Remedy: s.Opens.Remedy, Figures: []figure.Figure{},
	}
	if touched, is := a.Touched[s.ID]; is {
		t.Touch = &touched
	}
	if !w.known {
		return &t
	}
	standing := w.at(now)
	t.State, t.Temp, t.Since = standing.State, w.temp, stamp(w.from)
	t.Climate = a.climateFrom(s.Opens.After, w.from)
	opens, isOpen := w.time(standing.Opens)
	shuts, isShut := w.time(standing.Closes)
	if isOpen {
		t.Opens = stamp(opens)
		t.Figures = append(t.Figures, a.figureOfOpening(s, w, *standing.Opens))
	}
	if closing, is := w.time(standing.Closing); is {
		t.Closing = stamp(closing)
	}
	if isShut {
		lead := a.leadTime(s)
		t.Shuts = stamp(shuts)
		t.LastSafe = stamp(shuts.Add(-minutesOf(lead.Value)))
		t.Figures = append(t.Figures, a.figureOfShutting(s, w, *standing.Closes), lead)
	}
	begin := now.Add(-tideBack * time.Hour)
	if began := w.from.Add(minutesOf(w.window.Lag * 60)); began.After(begin) {
		begin = began
	}
	for _, at := range tideTimes(begin, now.Add(tideAhead*time.Hour), t.Opens, t.Closing, t.Shuts) {
		level, state := w.window.Level(w.edges, at.Sub(w.from).Hours())
		t.Points = append(t.Points, TidePoint{stamp(at), level, state})
	}
	return &t
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
	slices.SortFunc(times, time.Time.Compare)
	return times
}

func stamp(at time.Time) string { return at.UTC().Format(time.RFC3339) }

// tableLeaves are the printed times of a table.
func (a *Area) tableLeaves(prefix string) []figure.Figure {
	var leaves []figure.Figure
	for _, name := range a.Plan.Sheet.TableNames(prefix) {
		if leaf, err := a.Plan.Sheet.Number(name); err == nil {
			leaves = append(leaves, leaf)
		}
	}
	return leaves
}

// climateLeaves are the base temperatures that a wait is reckoned with.
func (a *Area) climateLeaves(step string, from time.Time) []figure.Figure {
	var leaves []figure.Figure
	for _, r := range a.climateFrom(step, from) {
		source := figure.Source{Kind: "entry", Ref: r.Entry}
		name := "wait.base_read"
		if r.Entry == "" {
			name, source = "wait.base_of_batch", figure.Source{Kind: "measure", Ref: step}
		}
		leaves = append(leaves, figure.Read(name, r.Base, "C", source).With("at", stamp(r.When)))
	}
	return leaves
}

func (a *Area) figureOfOpening(s sheet.Step, w wait, hours float64) figure.Figure {
	inputs := append(a.tableLeaves(s.Opens.Table), a.climateLeaves(s.Opens.After, w.from)...)
	at, _ := w.time(&hours)
	return figure.Worked("wait.opens", hours-w.window.Lag, "h", "cure.earliest", inputs...).With("at", stamp(at))
}

func (a *Area) figureOfShutting(s sheet.Step, w wait, hours float64) figure.Figure {
	inputs := append(a.tableLeaves(s.Opens.Latest), a.climateLeaves(s.Opens.After, w.from)...)
	at, _ := w.time(&hours)
	return figure.Worked("wait.shuts", hours, "h", "cure.latest", inputs...).With("at", stamp(at))
}

// leadTime is what must be off the end of a window for the work to end inside it, min:
// weighing, mixing, standing, laying, walking and a margin.
func (a *Area) leadTime(s sheet.Step) figure.Figure {
	limits := a.Plan.Rules
	inputs := []figure.Figure{limits.Limit("weigh")}
	for _, name := range []string{"mix", "stand"} {
		if said, err := a.Plan.Sheet.Number(name); err == nil {
			inputs = append(inputs, said)
		}
	}
	if s.Does == "coat" && a.Takeoff != nil && s.Coat <= len(a.Takeoff.Coats) {
		area := figure.Read("wait.area_left", a.areaLeft(s), "m2", figure.Source{Kind: "measure", Ref: s.ID})
		rate := limits.Limit("crew_rate")
		inputs = append(inputs, figure.Worked("wait.laying", 60*area.Value/rate.Value, "min", "wait.laying", area, rate))
	}
	inputs = append(inputs, limits.Limit("walk"), limits.Limit("start_margin"))
	return figure.Sum("wait.lead", "wait.last_safe_start", inputs...)
}

// areaLeft is what a coat still has to cover, m².
func (a *Area) areaLeft(s sheet.Step) float64 {
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
	for _, step := range a.Recipe.Steps() {
		if step.Opens == nil {
			continue
		}
		if _, over := a.endedAt[step.Opens.After]; !over {
			continue
		}
		w, _ := a.waitOf(step)
		l := WaitLook{Step: step.ID, Title: step.Title, Known: w.known, Temp: w.temp, Confirm: append([]string{}, step.Opens.Confirm...), Remedied: a.Remedied[step.ID]}
		if touched, is := a.Touched[step.ID]; is {
			l.Touch = &touched
		}
		if override, is := a.Overrides[step.ID]; is {
			l.Overridden = &override
		}
		standing := w.at(w.from)
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
			state := w.at(begun).State
			l.Kept = w.known && (state == cure.Open || state == cure.Closing || state == cure.TooLate && l.Remedied)
		}
		looks = append(looks, l)
	}
	return looks
}
