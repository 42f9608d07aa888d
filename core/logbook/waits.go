package logbook

import (
	"math"
	"slices"
	"time"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// ahead is how far a wait looks, h; a wait that is not over by then is not known.
const ahead = 2 * 365 * 24

// opening is a window that a step waits for: one that its recipe states, or one that the sheet of a
// primer, of the bedding or of a top coat before it states.
type opening struct {
	sheet.Opening
	sheet sheet.Sheet
	own   bool // of the recipe
}

// openings are all windows of a step.
func (a *Area) openings(s sheet.Step) (list []opening) {
	if a.Plan == nil {
		return nil
	}
	if s.Opens != nil {
		list = append(list, opening{*s.Opens, a.Plan.Sheet, true})
	}
	return append(list, a.impliedOpenings(s)...)
}

// impliedOpenings are the waits after a primer or a top coat by its own sheet, before what is laid
// next, and after bedding that is to be dry before the field.
func (a *Area) impliedOpenings(s sheet.Step) (list []opening) {
	if !s.Lays() && !s.Said() {
		return nil
	}
	before, is := a.before(s)
	if !is {
		return nil
	}
	of := func(role string, sh sheet.Sheet, least, latest string) {
		if len(sh.Table(least).Entries) == 0 {
			return
		}
		o := opening{sheet.Opening{After: before.ID, Table: least}, sh, false}
		if len(sh.Table(latest).Entries) > 0 {
			o.Latest = latest
		}
		list = append(list, o)
	}
	for _, role := range []string{"primer", "top_coat"} {
		if !slices.Contains(before.Uses, role) || s.Said() && role == "primer" {
			continue
		}
		for _, c := range a.Plan.Companions {
			if c.Role == role && a.taken(c.Sheet.ID, before.ID) {
				of(role, c.Sheet, map[string]string{"primer": "recoat", "top_coat": "cure"}[role], "recoat_latest")
			}
		}
	}
	if before.Lays() && !before.Coats() && s.Coats() && s.Opens == nil && a.Recipe.Schools["details"] == "first_and_dry" {
		of("bedding", a.Plan.Sheet, "recoat", "")
	}
	return list
}

// before is the last step before another that lays something, or that a person says is done.
func (a *Area) before(s sheet.Step) (before sheet.Step, is bool) {
	for _, earlier := range a.steps {
		if earlier.ID == s.ID {
			break
		}
		if earlier.Lays() || earlier.Said() && len(earlier.Uses) > 0 {
			before, is = earlier, true
		}
	}
	return before, is
}

// taken tells whether the plan takes a product at a step.
func (a *Area) taken(sheetID, step string) bool {
	return a.Takeoff != nil && slices.ContainsFunc(a.Takeoff.Items, func(i takeoff.Item) bool {
		return i.Sheet == sheetID && i.Need != nil && slices.ContainsFunc(i.Portions, func(p takeoff.Portion) bool { return p.Step == step })
	})
}

// wait is the window of a step with the climate it moves with.
type wait struct {
	opening
	from     time.Time // beginning of the step waited for: the latest counts from it
	window   cure.Window
	readings cure.Readings // from then on
	law      sheet.Law
	known    bool           // its base was read at all: without a reading no time can be told
	strict   cure.Reckoning // by all that was read, nothing supposed beyond it
	knownTo  float64        // h from then on that the climate is known
	temp     float64
	last     *lastAsked
}

// lastAsked is what a window was reckoned with last: many ask of one moment.
type lastAsked struct {
	hours float64
	by    cure.Reckoning
}

// waitOf gives the window of a step that its recipe states, else the first of the others; waits is
// false where there is none.
func (a *Area) waitOf(s sheet.Step) (w wait, waits bool) {
	list := a.waitsOf(s)
	if len(list) == 0 {
		return w, false
	}
	return list[0], true
}

// waitsOf are all windows of a step, its own first.
func (a *Area) waitsOf(s sheet.Step) (list []wait) {
	if a.Plan == nil {
		if s.Opens != nil {
			list = append(list, wait{})
		}
		return list
	}
	if known, is := a.memo.windows[s.ID]; is {
		return known
	}
	for _, o := range a.openings(s) {
		if w, is := a.waitFor(o); is {
			list = append(list, w)
		}
	}
	a.memo.windows[s.ID] = list
	return list
}

func (a *Area) waitFor(o opening) (w wait, waits bool) {
	w = wait{opening: o, law: o.sheet.Law()}
	ended, over := a.endedAt[o.After]
	began, begun := a.begunAt[o.After]
	if !over && !o.own { // it was gone on without
		return w, false
	}
	if over && !begun && !o.own { // a step that is only said to be done begins as it ends
		began, begun = ended, true
	}
	if !over || !begun {
		return w, true
	}
	switch a.anchorOf(o) {
	case "coat_begun":
		ended = began
	case "coat_ended":
		began = ended
	}
	return a.reckon(w, began, ended), true
}

// reckon works a wait out that counts from the beginning and the end of what is waited for.
func (a *Area) reckon(w wait, began, ended time.Time) wait {
	wet, nominal := a.filmOf(w.After)
	earliest, err := w.sheet.Wait(w.Table, cure.Least, wet, nominal)
	if err != nil {
		return w
	}
	w.from = began
	w.window = cure.Window{Earliest: earliest, Lag: ended.Sub(began).Hours()}
	if w.Latest != "" {
		if latest, err := w.sheet.Wait(w.Latest, cure.Latest, wet, nominal); err == nil {
			w.window.Latest = &latest
		}
	}
	w.readings = a.readingsFrom(began)
	w.known = len(w.readings.Base) > 0 && (!w.law.MindsOf("humidity") || len(w.readings.Humidity) > 0 && len(w.readings.Air) > 0)
	if w.known {
		w.temp = w.readings.Base[len(w.readings.Base)-1].Value
		w.strict, w.knownTo = w.over(ahead)
		w.last = &lastAsked{ahead, w.strict}
	}
	return w
}

// over reckons the window with what is known up to some hours, a forecast behind.
func (w wait) over(now float64) (by cure.Reckoning, knownTo float64) {
	var e cure.Edges
	minds := w.law.MindsOf("humidity")
	damp := w.law.Damp
	e.Cold, knownTo = w.readings.Series(ahead, now, cure.Side{Temp: -1, Humidity: damp}, minds)
	e.Warm, _ = w.readings.Series(ahead, now, cure.Side{Temp: 1, Humidity: -damp}, minds)
	return w.window.Over(e), knownTo
}

// asOf is the same, as it was asked last where that was of the same moment.
func (w wait) asOf(now float64) cure.Reckoning {
	if w.last.hours != now {
		by, _ := w.over(now)
		*w.last = lastAsked{now, by}
	}
	return w.last.by
}

// anchorOf is what the times of a window count from, where the sheet or its recipe says so; else a
// least time counts from the end of the work and a latest from its beginning.
func (a *Area) anchorOf(o opening) string {
	if from := o.sheet.Choices["recoat_from"]; from != "" && o.Table == "recoat" {
		return from
	}
	return o.Anchor
}

// filmOf is how thick a coat lies where it is thickest, as far as it was read, and how thick it was
// asked for, mm; 0 where that is not known.
func (a *Area) filmOf(id string) (wet, nominal float64) {
	step, _ := a.stepBy(id)
	coat, is := a.coatOf(step)
	if !is {
		return 0, 0
	}
	for _, share := range coat.Surface {
		if v := a.judge(step, share.Surface, 0); v.Mean != nil {
			wet = max(wet, *v.Mean)
		}
	}
	return wet, coat.Wet.Value
}

// at tells how the window stands at a moment, by what is known then.
func (w wait) at(now time.Time) cure.Standing {
	hours := now.Sub(w.from).Hours()
	return w.standing(w.asOf(hours), hours)
}

// judged tells the same by all that was read, before the moment and after it, and nothing supposed
// beyond it: what is recorded is judged by it.
func (w wait) judged(at time.Time) cure.Standing { return w.standing(w.strict, at.Sub(w.from).Hours()) }

// NotKnown is a window of which nobody read the climate it needs.
const NotKnown = "not known"

func (w wait) standing(by cure.Reckoning, hours float64) cure.Standing {
	s := by.At(hours)
	if hours > w.knownTo+slackOfReading && s.State == cure.TooEarly || s.State == cure.TooEarly && s.Opens == nil && w.knownTo < hours {
		s.State = NotKnown
	}
	return s
}

const slackOfReading = 1e-6 // h

// time is a moment some hours after the beginning.
func (w wait) time(hours *float64) (at time.Time, known bool) {
	if hours == nil {
		return at, false
	}
	return w.from.Add(time.Duration(*hours * float64(time.Hour))), true
}

// opensAt is when a step's least wait has passed by what was read, the latest of its waits. Where the
// climate was not read the wait cannot be told: known is false.
func (a *Area) opensAt(s sheet.Step) (at time.Time, waits, known bool) {
	list := a.waitsOf(s)
	known = true
	for _, w := range list {
		if !w.known {
			return at, true, false
		}
		opens, is := w.time(w.strict.Opens())
		known = known && is
		if opens.After(at) {
			at = opens
		}
	}
	return at, len(list) > 0, known
}

// frozen is when the base froze before a wait was over, of what minds frost.
func (w wait) frozen() (at time.Time, is bool) {
	if !w.known || !w.law.MindsOf("frost") {
		return at, false
	}
	over := math.Inf(1)
	if opens := w.strict.Opens(); opens != nil {
		over = *opens
	}
	for _, p := range w.readings.Base {
		cold := p.Value
		if p.Low != nil {
			cold = min(cold, *p.Low)
		}
		if p.At > w.window.Lag && p.At < over && cold <= 0 {
			hours := p.At
			return w.from.Add(time.Duration(hours * float64(time.Hour))), true
		}
	}
	return at, false
}

// Warmer is the area as if it were some K warmer from a moment on: does a heater help?
func (a *Area) Warmer(now time.Time, kelvin float64) *Area {
	warm := *a
	warm.base, warm.air = a.base.warmer(now, kelvin), a.air.warmer(now, kelvin)
	memo := *a.memo
	memo.windows, memo.ways = map[string][]wait{}, map[string]way{}
	warm.memo = &memo
	return &warm
}

// curedAt is when what was laid at a moment has cured.
func (a *Area) curedAt(laid time.Time) (at time.Time, known bool) {
	for _, s := range a.steps {
		if s.Opens == nil || s.Opens.Table != "cure" || a.Plan == nil {
			continue
		}
		w := a.reckon(wait{opening: opening{*s.Opens, a.Plan.Sheet, true}, law: a.Plan.Sheet.Law()}, laid, laid)
		if w.known {
			return w.time(w.strict.Opens())
		}
	}
	return at, false
}

// confirmed tells whether a person confirmed every state that the step asks for, after the
// last of what it waits for was laid.
func (a *Area) confirmed(s sheet.Step) bool {
	touched, is := a.Touched[s.ID]
	return s.Opens == nil || len(s.Opens.Confirm) == 0 || is && touched.Passed && !touched.When.Before(a.endedAt[s.Opens.After])
}

// judgeWindow says when work was done after its window had shut, or without the touch test.
func (a *Area) judgeWindow(e settled, s sheet.Step) {
	if a.passed(s.ID) {
		return
	}
	if !a.confirmed(s) {
		a.deviate(e.Entry, "deviation.no_touch_test", "step", s.ID)
	}
	for _, w := range a.waitsOf(s) {
		if w.known && w.judged(e.when).State == cure.TooLate && !a.remedied(s.ID, w, e.when) {
			a.deviate(e.Entry, "deviation.too_late", "step", s.ID)
		}
		if at, is := w.frozen(); is && at.Before(e.when) {
			a.deviate(e.Entry, "deviation.frozen", "step", s.ID, "at", stamp(at))
		}
	}
}

// remedied tells whether the remedy of a window that had shut stands at a moment: it was recorded
// after the window had shut and opens it once more, for as long as the latest time leaves.
func (a *Area) remedied(step string, w wait, at time.Time) bool {
	for _, r := range a.remedies[step] {
		if r.After(at) || w.judged(r).State != cure.TooLate {
			continue
		}
		again := a.reckon(wait{opening: w.opening, law: w.law}, r, r)
		again.window.Earliest = cure.Wait{Rate: func(climate.Air) float64 { return 0 }}
		if !again.known || again.judged(at).State != cure.TooLate {
			return true
		}
	}
	return false
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
		Step: s.ID, Title: s.Title, Known: w.known, State: NotKnown, Look: a.lookFor(w), Points: []TidePoint{}, Climate: []ClimateReading{},
		Confirm: []string{}, Confirmed: a.confirmed(s), Figures: []figure.Figure{},
	}
	if s.Opens != nil {
		t.Confirm, t.Remedy = append(t.Confirm, s.Opens.Confirm...), s.Opens.Remedy
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
	slices.SortFunc(times, time.Time.Compare)
	return times
}

func stamp(at time.Time) string { return at.UTC().Format(time.RFC3339) }

// tableLeaves are the printed times of a table.
func tableLeaves(of sheet.Sheet, prefix string) []figure.Figure {
	var leaves []figure.Figure
	for _, name := range of.TableNames(prefix) {
		if leaf, err := of.Number(name); err == nil {
			leaves = append(leaves, leaf)
		}
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
func (a *Area) leadTime(s sheet.Step) figure.Figure {
	limits := a.Plan.Rules
	inputs := []figure.Figure{limits.Limit("weigh")}
	for _, name := range []string{"mix", "stand"} {
		if said, err := a.Plan.Sheet.Number(name); err == nil {
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
	for _, step := range a.steps {
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
