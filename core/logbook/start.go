package logbook

import (
	"strings"
	"time"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/sheet"
	"dusha/core/system"
)

// May we start? Every check answers with what was read, the limit, where the limit comes from, and
// what would mend it most cheaply. What was not read, or too long ago, is not known: shut like a no.

// Answers of a check.
const (
	Go        = "go"
	WaitUntil = "wait"
	Stop      = "stop"
	NotRead   = "not_known"
)

// StartCheck is one question before a step of work.
type StartCheck struct {
	Check  string   `json:"check"`          // wording key
	Says   string   `json:"says"`           // "go", "wait", "stop" or "not_known"
	Value  *float64 `json:"value"`          // nil where nothing was read
	Limit  *float64 `json:"limit"`          // nil where nothing states one
	Most   *float64 `json:"most,omitempty"` // upper limit, where there are two
	Unit   string   `json:"unit"`
	Source string   `json:"source"` // of the limit: "sheet", "rules", "system" or "method"
	Sheet  string   `json:"sheet"`  // name of the sheet, where it is that
	Entry  string   `json:"entry"`  // of the reading
	At     string   `json:"at"`     // when it was read, RFC 3339
	Until  string   `json:"until"`  // of a wait, RFC 3339
	Remedy string   `json:"remedy"` // wording key, "" where none is needed
}

// How long a reading stands for a start.
const (
	freshIndoors  = 2 * time.Hour
	freshOutdoors = 30 * time.Minute
	freshForecast = 12 * time.Hour
)

// StormyWind is over which nothing thin is laid or rolled out in the open, m/s.
const StormyWind = 10.0

// starts tells whether a step is work that asks whether it may start.
func (a *Area) starts(s system.Step) bool {
	return a.Plan != nil && len(doingFor(s).lays(a, s)) > 0
}

// MayStart are the checks before a step of work at a moment, nil where it is none.
func (a *Area) MayStart(s system.Step, now time.Time) []StartCheck {
	list := []StartCheck{}
	if !a.starts(s) {
		return list
	}
	for _, of := range doingFor(s).lays(a, s) {
		c := starting{Area: a, of: of, step: s, now: now, list: &list}
		c.temperature("start.base", a.base)
		c.temperature("start.air", a.air)
		c.damp()
		c.weather()
	}
	return list
}

// starting asks the checks of one product.
type starting struct {
	*Area
	of   sheet.Sheet
	step system.Step
	now  time.Time
	list *[]StartCheck
}

func (c starting) add(check StartCheck) { *c.list = append(*c.list, check) }

// fresh is the last reading where it still stands.
func (c starting) fresh(list readings) (r reading, is bool) {
	age := freshIndoors
	if c.Outdoors() {
		age = freshOutdoors
	}
	if r, is = list.last(c.now); is && c.now.Sub(r.when) > age {
		is = false
	}
	return r, is
}

// base begins a check with what was read, not known where that no longer stands.
func (c starting) base(name, unit string, list readings) (check StartCheck, read bool) {
	check = StartCheck{Check: name, Says: NotRead, Unit: unit, Sheet: c.of.Name, Remedy: "look.air_and_base"}
	r, is := c.fresh(list)
	if old, was := list.last(c.now); was {
		check.Entry, check.At = old.entry, stamp(old.when)
	}
	if is {
		check.Value, check.Says, check.Remedy = &r.value, Go, ""
	}
	return check, is
}

func (c starting) temperature(name string, list readings) {
	check, read := c.base(name, "C", list)
	check.Source = "sheet"
	least, okLeast := lowOf(c.of, "temp_least")
	most, okMost := lowOf(c.of, "temp_most")
	if okLeast {
		check.Limit = &least
	}
	if okMost {
		check.Most = &most
	}
	switch {
	case !read:
	case okLeast && *check.Value < least:
		check.Says, check.Remedy = Stop, "remedy.warm"
	case okMost && *check.Value > most:
		check.Says, check.Remedy = Stop, "remedy.cool"
	case !okLeast || !okMost:
		check.Says, check.Remedy = NotRead, "look.sheet_temperature"
	}
	c.add(check)
}

// lowOf is the smaller end of a figure of a sheet.
func lowOf(s sheet.Sheet, name string) (float64, bool) {
	said, stated := s.Numbers[name]
	low, _ := said.Ends()
	return low, stated
}

// damp asks the air's humidity and the dew on the base.
func (c starting) damp() {
	law := c.of.Law()
	most, stated := lowOf(c.of, "rh_most")
	if !stated && law.TooDamp > 0 {
		most, stated = law.TooDamp, true
	}
	if stated {
		check, read := c.base("start.humidity", "percent", c.humidity)
		check.Source, check.Most = "sheet", &most
		if _, said := c.of.Numbers["rh_most"]; !said {
			check.Source = "method"
		}
		if read && *check.Value > most {
			check.Says, check.Remedy = Stop, "remedy.air"
		}
		c.add(check)
	}
	wants := c.step.Face
	if wants == "" {
		wants = c.of.Choices["base_state"]
	}
	if !law.MindsOf("dew") && wants != "dry" {
		return
	}
	asked, margin, source := climate.Start{Wanted: wants, RainSafe: 1}, climate.DewMargin, "method"
	if said, stated := lowOf(c.of, "dew_margin"); stated {
		margin, source = said, "sheet"
		asked.Margin = &said
	}
	if wants != "dry" {
		margin = 0 // no water may condense on it now
	}
	check := StartCheck{Check: "start.dew", Says: NotRead, Limit: &margin, Unit: "K", Source: source, Sheet: c.of.Name, Remedy: "look.air_and_base"}
	base, ok1 := c.fresh(c.Area.base)
	air, ok2 := c.fresh(c.air)
	humidity, ok3 := c.fresh(c.humidity)
	if ok1 && ok2 && ok3 {
		asked.Hours = []climate.Air{{Temp: air.value, Base: base.value, Humidity: humidity.value}}
		started := climate.MayStart(asked)
		check.Value, check.Says, check.Remedy, check.Entry, check.At = &started.Margin, Go, "", humidity.entry, stamp(humidity.when)
		if !started.OK {
			check.Says, check.Remedy = Stop, "remedy.dew"
		}
	}
	c.add(check)
}

// weather asks, in the open, what a person read of the weather ahead: dry until the film is
// rain-safe, and no frost before.
func (c starting) weather() {
	if !c.Outdoors() {
		return
	}
	ask := func(name, unit string) StartCheck {
		return StartCheck{Check: name, Says: NotRead, Unit: unit, Source: "method", Sheet: c.of.Name, Remedy: "look.forecast"}
	}
	f := c.LastForecast(c.now)
	rain, frost, wind := ask("start.rain", "h"), ask("start.frost", "C"), ask("start.wind", "m/s")
	defer func() { c.add(rain); c.add(frost); c.add(wind) }()
	if f == nil || c.now.Sub(f.When) > freshForecast {
		return
	}
	for _, check := range []*StartCheck{&rain, &frost, &wind} {
		check.Entry, check.At, check.Says, check.Remedy = f.Entry, stamp(f.When), Go, ""
	}
	dry := f.Dry().Sub(c.now).Hours()
	rain.Value, rain.Source = &dry, "sheet"
	safe, known := c.safeAfter("rain_safe")
	if until, is := c.minds("rain"); is {
		rain.Source = "system"
		if safe, known = c.safeAfter(until); !known { // a state that comes while it is laid
			safe, known = c.leadTime(c.step).Value/60, true
		}
	}
	switch {
	case !known:
		rain.Says, rain.Remedy = NotRead, "look.sheet_rain"
	default:
		if rain.Limit = &safe; dry < safe {
			rain.Says, rain.Remedy = Stop, "remedy.dry_spell"
		}
	}
	none := 0.0
	if frost.Value, frost.Limit = &f.Coldest, &none; f.Coldest <= 0 && c.mindsFrost() {
		frost.Says, frost.Remedy = Stop, "remedy.frost"
	}
	storm := StormyWind
	if wind.Value, wind.Most = &f.Wind, &storm; f.Wind > StormyWind {
		wind.Says, wind.Remedy = WaitUntil, "remedy.wind"
	}
}

// minds is until when a coat of the step minds something of the weather: a state, or a time of its sheet. False where its
// system says nothing of it.
func (c starting) minds(what string) (until string, is bool) {
	for _, of := range c.step.Of {
		l, _ := c.Plan.built.System.LayerOf(of)
		_, id, whole := strings.Cut(of, ".")
		for _, coat := range l.Coats {
			for _, m := range coat.Minds {
				if m.What == what && (!whole || coat.ID == id) {
					return m.Until, true
				}
			}
		}
	}
	return "", false
}

func (c starting) mindsFrost() bool {
	_, is := c.minds("frost")
	return is || c.of.Law().MindsOf("frost")
}

// safeAfter is after how many hours a time of the sheet has passed, by its late edge.
func (c starting) safeAfter(table string) (hours float64, known bool) {
	w, err := c.of.Wait(table, cure.Least, 0, 0)
	if err != nil {
		return 0, false
	}
	minds := c.of.Law().MindsOf("humidity")
	series, _ := c.readingsFrom(c.now).Series(ahead, 0, cure.Side{Temp: -1, Humidity: 1}, minds)
	return w.Reached(series)
}

// why is the sentence that says what a check that is not go found.
func (c StartCheck) why() string {
	switch {
	case c.Value == nil:
		return "why.start.not_read"
	case c.Says == NotRead:
		return "why.start.not_stated"
	case c.Most != nil && *c.Value > *c.Most:
		return "why.start.high"
	default:
		return "why.start.low"
	}
}

// args are the values of that sentence.
func (c StartCheck) args() map[string]any {
	args := map[string]any{"check": c.Check, "at": c.At, "unit": c.Unit}
	for name, value := range map[string]*float64{"value": c.Value, "limit": c.Limit, "most": c.Most} {
		if value != nil {
			args[name] = *value
		}
	}
	return args
}

// notGo are the checks that keep a step from starting.
func notGo(checks []StartCheck) (list []StartCheck) {
	for _, c := range checks {
		if c.Says != Go {
			list = append(list, c)
		}
	}
	return list
}

// judgeStart says that work was begun though a check was against it, or nobody had looked: once a
// step and check.
func (a *Area) judgeStart(e settled, s system.Step) {
	a.judgeMissing(e, s)
	if a.passed(s.ID) {
		return
	}
	for _, c := range notGo(a.MayStart(s, e.when)) {
		if key := s.ID + c.Check + c.Says; !a.startSaid[key] {
			a.startSaid[key] = true
			name := "deviation.start_stopped"
			if c.Says == NotRead {
				name = "deviation.start_not_known"
			}
			a.deviate(e.Entry, name, "step", s.ID, "check", c.Check)
		}
	}
}
