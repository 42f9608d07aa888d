package logbook

const KindLeakPlugged Kind = "leak.plugged"

// LeakPlugged says with what a leak was stopped.
type LeakPlugged struct {
	Leak string `json:"leak"` // entry that found it
	With string `json:"with"`
}

func (b LeakPlugged) check() error {
	return first(id("body.leak", b.Leak), line("body.with", b.With, true))
}

func (b LeakPlugged) apply(a *Area, e settled) {
	if leak := a.leak(e, b.Leak); leak != nil {
		leak.Plugged, leak.Dry, leak.Open = &Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.With}, nil, true
	}
}

func (b LeakPlugged) under(a *Area) (string, bool) { return a.firstStep(), true }

func (LeakPlugged) worksBack() {}
