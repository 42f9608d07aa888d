package logbook

import (
	"cmp"
	"math"
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/order"
	"dusha/core/watertest"
)

const KindTestRead Kind = "test.read"

// TestRead is a level reading with the pan's and the look outside.
type TestRead struct {
	Step    string   `json:"step"`
	Water   float64  `json:"water_mm"`
	Pan     *float64 `json:"pan_mm"`            // null: there is none, or it was not read
	ReadAt  string   `json:"read_at,omitempty"` // RFC 3339; empty: when the entry was made
	Outside string   `json:"outside"`
	Where   string   `json:"where,omitempty"`   // where it is damp or wet, in words
	Damp    string   `json:"damp,omitempty"`    // one of Damps, of what is damp
	Temp    *float64 `json:"water_C,omitempty"` // of the water at mid-depth
}

func (b TestRead) check() error {
	const deepest = 20000 // mm
	if b.Pan != nil {
		if err := within("body.pan_mm", *b.Pan, -deepest, deepest); err != nil {
			return err
		}
	}
	if b.ReadAt != "" {
		if _, err := momentOf("body.read_at", b.ReadAt); err != nil {
			return err
		}
	}
	if b.Temp != nil {
		if err := within("body.water_C", *b.Temp, 0.1, 60); err != nil {
			return err
		}
	}
	return first(name("body.step", b.Step), within("body.water_mm", b.Water, -deepest, deepest), seen(b.Outside, b.Where, b.Damp))
}

// clockSlack is how far ahead of its entry a reading may lie: clocks are not read to the
// second.
const clockSlack = 2 * time.Minute

func (b TestRead) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	test := a.test()
	if test == nil || len(test.Runs) == 0 {
		a.deviate(e.Entry, "deviation.read_before_filling")
		return
	}
	at := e.when
	if b.ReadAt != "" {
		at, _ = time.Parse(time.RFC3339, b.ReadAt) // its shape was checked
		at = at.Add(time.Duration(e.ClockOffset) * time.Millisecond)
	}
	run := &test.Runs[len(test.Runs)-1]
	switch {
	case at.After(e.when.Add(clockSlack)):
		a.deviate(e.Entry, "deviation.reading_in_future", "at", stamp(at))
		return
	case at.Before(run.At.Truncate(time.Minute)): // a clock is typed in whole minutes
		a.deviate(e.Entry, "deviation.reading_before_filling", "at", stamp(at))
		return
	case slices.ContainsFunc(run.Levels, func(l Level) bool { return l.At.Equal(at) }):
		a.deviate(e.Entry, "deviation.reading_twice", "at", stamp(at))
		return
	}
	if b.Pan == nil && test.Chosen.Pan != watertest.None {
		a.deviate(e.Entry, "deviation.pan_not_read", "at", stamp(at))
	}
	run.Levels = append(run.Levels, Level{Entry: e.ID, At: at, By: e.By, Water: b.Water, Pan: b.Pan, Outside: b.Outside, Where: b.Where, Temp: b.Temp})
	test.look(Sighting{Entry: e.ID, At: at, By: e.By, Outside: b.Outside, Where: b.Where, Damp: b.Damp})
	order.By(run.Levels, func(x, y Level) int { return cmp.Compare(x.At.UnixNano(), y.At.UnixNano()) })
}

// LevelReading is a reading as it is typed, before it is kept.
type LevelReading struct {
	Step    string   `json:"step"`
	Water   float64  `json:"water_mm"`
	Pan     *float64 `json:"pan_mm"`
	ReadAt  string   `json:"read_at"`
	Outside string   `json:"outside"`
	Where   string   `json:"where"`
	Damp    string   `json:"damp,omitempty"`
	Temp    *float64 `json:"water_C,omitempty"`
}

// CheckReading refuses a level reading that cannot be right beside those before it, naming
// the field: in the future, before the filling or the last reading, a pan without a level.
func (a *Area) CheckReading(in LevelReading, now time.Time) error {
	test := a.test()
	if test == nil || len(test.Runs) == 0 {
		return fault.At("read_at", "watertest.not_filled")
	}
	at := now
	if in.ReadAt != "" {
		read, err := time.Parse(time.RFC3339, in.ReadAt)
		if err != nil {
			return fault.At("read_at", "entry.not_a_time", "typed", fault.Short(in.ReadAt))
		}
		at = read
	}
	run := test.Runs[len(test.Runs)-1]
	var faults fault.Faults
	add := func(field, key string, pairs ...any) { faults = append(faults, fault.At(field, key, pairs...)) }
	switch {
	case at.After(now.Add(clockSlack)):
		add("read_at", "watertest.in_the_future", "at", stamp(at))
	case at.Before(run.At.Truncate(time.Minute)):
		add("read_at", "watertest.before_filling", "at", stamp(at), "filled", stamp(run.At))
	case len(run.Levels) > 0 && !at.After(run.Levels[len(run.Levels)-1].At):
		add("read_at", "watertest.before_last", "at", stamp(at), "last", stamp(run.Levels[len(run.Levels)-1].At))
	}
	if n := len(run.Levels); n > 0 {
		last := run.Levels[n-1]
		if inCentimetres(in.Water, last.Water) {
			add("water_mm", "watertest.in_centimetres", "value", in.Water, "last", last.Water)
		}
		if in.Pan != nil && last.Pan != nil && inCentimetres(*in.Pan, *last.Pan) {
			add("pan_mm", "watertest.in_centimetres", "value", *in.Pan, "last", *last.Pan)
		}
	}
	if in.Pan == nil && test.Chosen.Pan != watertest.None {
		add("pan_mm", "watertest.pan_without_level")
	}
	if !slices.Contains(Outsides, in.Outside) {
		add("outside", "choice.missing")
	} else if in.Outside != "dry" && in.Where == "" {
		add("where", "watertest.where_wet")
	}
	if len(faults) > 0 {
		return faults
	}
	return nil
}

// inCentimetres tells whether a level stands to the one before it as centimetres to millimetres.
func inCentimetres(level, last float64) bool {
	const deep, near = 20, 2 // mm
	return last >= deep && math.Abs(10*level-last) <= near
}

func (b TestRead) stepOf() string { return b.Step }
