package logbook

const KindLeakChecked Kind = "leak.checked"

// LeakChecked is a second look at a leak.
type LeakChecked struct {
	Leak string `json:"leak"`
	Dry  bool   `json:"dry"`
}

func (b LeakChecked) check() error { return id("body.leak", b.Leak) }

// applyLeakChecked closes a leak that is found dry after it was plugged, and opens it again
// where it is found wet.
func (b LeakChecked) apply(a *Area, e settled) {
	leak := a.leak(e, b.Leak)
	if leak == nil {
		return
	}
	switch {
	case !b.Dry:
		leak.Dry, leak.Plugged, leak.Open = nil, nil, true
	case leak.Plugged == nil:
		a.deviate(e.Entry, "deviation.leak_not_plugged", "surface", leak.Surface)
	default:
		leak.Dry, leak.Open = &Signed{Entry: e.ID, At: e.At, By: e.By}, false
	}
}

func (b LeakChecked) under(a *Area) (string, bool) { return a.firstStep(), true }
