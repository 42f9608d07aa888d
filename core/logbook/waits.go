package logbook

import (
	"math"
	"slices"
	"time"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/sheet"
	"dusha/core/system"
)

// ahead is how far a wait looks, h; a wait that is not over by then is not known.
const ahead = 2 * 365 * 24

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
func (a *Area) waitOf(s system.Step) (w wait, waits bool) {
	list := a.waitsOf(s)
	if len(list) == 0 {
		return w, false
	}
	return list[0], true
}

// waitsOf are all windows of a step, its own first.
func (a *Area) waitsOf(s system.Step) (list []wait) {
	if a.Plan == nil {
		return list
	}
	if known, is := a.memo.windows[s.ID]; is {
		return known
	}
	list = a.waitsOn(s, a.uncovered(s))
	a.memo.windows[s.ID] = list
	return list
}

// waitsOn are the windows of a step on some surfaces, each by when its own was laid.
func (a *Area) waitsOn(s system.Step, surfaces []string) (list []wait) {
	for _, o := range a.openings(s) {
		if w, is := a.waitFor(o, surfaces); is {
			list = append(list, w)
		}
	}
	return list
}

// uncovered are the places that a coat, or what else a step lays, has still to be laid on; all of them once it lies.
func (a *Area) uncovered(s system.Step) (left []string) {
	all := []string{}
	coat, is := a.coatOf(s)
	if is {
		covered := a.covered(s.ID)
		for _, share := range coat.Surface {
			all = append(all, share.Surface)
			if !covered[share.Surface] {
				left = append(left, share.Surface)
			}
		}
	}
	for _, w := range a.ownWorks(s) {
		laid := a.workLaid(w)
		for _, p := range w.Places {
			all = append(all, p.ID)
			if !slices.Contains(laid, p.ID) {
				left = append(left, p.ID)
			}
		}
	}
	if len(left) == 0 {
		return all
	}
	return left
}

// laidOn is when what a step lays came first onto some places, and last.
func (a *Area) laidOn(step string, surfaces []string) (began, ended time.Time, is bool) {
	lays := a.Laid[step]
	if s, known := a.stepBy(step); known {
		for _, w := range a.ownWorks(s) {
			lays = append(slices.Clip(lays), a.Works[workKey(w)]...)
		}
	}
	for _, lay := range lays {
		if !slices.ContainsFunc(lay.Surfaces, func(s string) bool { return slices.Contains(surfaces, s) }) {
			continue
		}
		if !is || lay.When.Before(began) {
			began = lay.When
		}
		if lay.When.After(ended) {
			ended = lay.When
		}
		is = true
	}
	return began, ended, is
}

func (a *Area) waitFor(o opening, surfaces []string) (w wait, waits bool) {
	w = wait{opening: o, law: o.sheet.Law()}
	ended, over := a.endedAt[o.After]
	began, begun := a.begunAt[o.After]
	if !o.All && len(surfaces) > 0 {
		if first, last, is := a.laidOn(o.After, surfaces); is {
			began, ended = first, last
		}
	}
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
	if w = a.anchored(w, began, ended); w.known {
		w.strict, w.knownTo = w.over(ahead)
		w.last = &lastAsked{ahead, w.strict}
	}
	return w
}

// anchored is a wait with its times and the climate from its beginning on, not summed up yet.
func (a *Area) anchored(w wait, began, ended time.Time) wait {
	wet, nominal := a.filmOf(w.After)
	earliest := atOnce()
	if w.Table != "" {
		own, err := w.sheet.Wait(w.Table, cure.Least, wet, nominal)
		if err != nil {
			return w
		}
		earliest = own
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
	}
	return w
}

// atOnce is no wait at all.
func atOnce() cure.Wait {
	const perHour = 1e6
	return cure.Wait{Rate: func(climate.Air) float64 { return perHour }}
}

// over reckons the window with what is known up to some hours, a forecast behind.
func (w wait) over(now float64) (by cure.Reckoning, knownTo float64) {
	e, knownTo := w.edges(now)
	return w.window.Over(e), knownTo
}

// edges are the climate from the beginning on, to the slow side and to the fast, as known up to some hours.
func (w wait) edges(now float64) (e cure.Edges, knownTo float64) {
	minds := w.law.MindsOf("humidity")
	damp := w.law.Damp
	e.Cold, knownTo = w.readings.Series(ahead, now, cure.Side{Temp: -1, Humidity: damp}, minds)
	e.Warm, _ = w.readings.Series(ahead, now, cure.Side{Temp: 1, Humidity: -damp}, minds)
	return e, knownTo
}

// asOf is the same, as it was asked last where that was of the same moment.
func (w wait) asOf(now float64) cure.Reckoning {
	if w.last.hours != now {
		by, _ := w.over(now)
		*w.last = lastAsked{now, by}
	}
	return w.last.by
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
func (a *Area) opensAt(s system.Step) (at time.Time, waits, known bool) {
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
	warm := a.supposing()
	warm.base, warm.air = a.base.warmer(now, kelvin), a.air.warmer(now, kelvin)
	return warm
}

// supposing is the area once more, to be looked at under another climate: what moves with it is worked out anew.
func (a *Area) supposing() *Area {
	other, memo := *a, *a.memo
	memo.windows, memo.ways = map[string][]wait{}, map[string]way{}
	other.memo = &memo
	return &other
}

// curedAt is when what was laid at a moment has cured.
func (a *Area) curedAt(laid time.Time) (at time.Time, known bool) {
	for _, s := range a.steps {
		own, is := a.ownOpening(s)
		if !is || own.Table != "cure" {
			continue
		}
		w := a.reckon(wait{opening: own, law: own.sheet.Law()}, laid, laid)
		if w.known {
			return w.time(w.strict.Opens())
		}
	}
	return at, false
}

// confirmed tells whether a person confirmed every state that the step asks for, after the
// last of what it waits for was laid.
func (a *Area) confirmed(s system.Step) bool {
	touched, is := a.Touched[s.ID]
	own, waits := a.ownOpening(s)
	if !waits || len(own.Confirm) == 0 {
		return true
	}
	return is && !touched.When.Before(a.endedAt[own.After]) && (touched.Passed || a.mendedSince(s, touched, own))
}

// judgeWindow says when work was done after its window had shut, or without the touch test.
func (a *Area) judgeWindow(e settled, s system.Step, surfaces []string) {
	if a.passed(s.ID) {
		return
	}
	if !a.confirmed(s) {
		a.deviate(e.Entry, "deviation.no_touch_test", "step", s.ID)
	}
	for _, w := range a.waitsOn(s, surfaces) {
		if w.known && w.judged(e.when).State == cure.TooLate && !a.remedied(s.ID, w, e.when) {
			a.deviate(e.Entry, "deviation.too_late", "step", s.ID)
		}
		if at, is := w.frozen(); is && at.Before(e.when) {
			a.deviate(e.Entry, "deviation.frozen", "step", s.ID, "at", stamp(at))
		}
	}
}

// remedied tells whether the remedy of a window that had shut stands at a moment.
func (a *Area) remedied(step string, w wait, at time.Time) bool {
	_, is := a.openedAgain(step, w, at)
	return is
}

// openedAgain is a window that had shut as its remedy opened it once more, for as long as the latest time leaves: recorded
// after it had shut, and standing at a moment.
func (a *Area) openedAgain(step string, w wait, at time.Time) (again wait, is bool) {
	for _, r := range a.remedies[step] {
		if r.After(at) || w.judged(r).State != cure.TooLate {
			continue
		}
		again = a.reckon(wait{opening: w.opening, law: w.law}, r, r)
		if again.window.Earliest = atOnce(); again.known {
			again.strict, again.knownTo = again.over(ahead)
			again.last = &lastAsked{ahead, again.strict}
		}
		if !again.known || again.judged(at).State != cure.TooLate {
			return again, true
		}
	}
	return again, false
}

func stamp(at time.Time) string { return at.UTC().Format(time.RFC3339) }
