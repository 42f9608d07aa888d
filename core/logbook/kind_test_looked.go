package logbook

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/order"
)

const KindTestLooked Kind = "test.looked"

// TestLooked is a look at the outside of a test without a reading; before the filling it says
// what was damp already.
type TestLooked struct {
	Step    string `json:"step"`
	Outside string `json:"outside"`
	Where   string `json:"where,omitempty"`
	Damp    string `json:"damp,omitempty"` // one of Damps, of what is damp
}

// Damps are what may be said of something damp beside the look before the filling.
var Damps = []string{"as_before", "new", "grown"}

// Outsides are what is seen outside the test.
var Outsides = []string{"dry", "damp", "wet"}

func (b TestLooked) check() error {
	return first(name("body.step", b.Step), seen(b.Outside, b.Where, b.Damp))
}

// seen refuses a look outside that is none.
func seen(outside, where, damp string) error {
	switch {
	case !slices.Contains(Outsides, outside):
		return fault.At("body.outside", "choice.unknown", "typed", fault.Short(outside))
	case damp != "" && !slices.Contains(Damps, damp):
		return fault.At("body.damp", "choice.unknown", "typed", fault.Short(damp))
	}
	return line("body.where", where, false)
}

func (b TestLooked) apply(a *Area, e settled) {
	if test := a.testOf(e, b.Step); test != nil {
		test.look(Sighting{Entry: e.ID, At: e.when, By: e.By, Outside: b.Outside, Where: b.Where, Damp: b.Damp})
	}
}

// look keeps a look outside in its place.
func (t *WaterTest) look(s Sighting) {
	s.Before = len(t.Runs) == 0
	t.Looks = append(t.Looks, s)
	order.By(t.Looks, func(x, y Sighting) int { return x.At.Compare(y.At) })
}

func (b TestLooked) stepOf() string { return b.Step }
