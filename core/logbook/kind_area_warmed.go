package logbook

import "time"

const KindAreaWarmed Kind = "area.warmed"

// AreaWarmed is how much warmer than it was read last an area will be kept, K; 0: no more. A later reading has the warmth in it.
type AreaWarmed struct {
	K float64 `json:"K"`
}

func (b AreaWarmed) check() error {
	const most = 40
	return within("body.K", b.K, 0, most)
}

func (b AreaWarmed) apply(a *Area, e settled) { a.warmed, a.warmedAt = b.K, e.when }

func (b AreaWarmed) under(a *Area) (string, bool) { return a.firstStep(), true }

func (AreaWarmed) still() {}

// KeptWarmer is how much warmer an area will be than it was read last, K: once it was read after that, not at all.
func (a *Area) KeptWarmer(now time.Time) float64 {
	if last, is := a.base.last(now); is && last.when.After(a.warmedAt) {
		return 0
	}
	return a.warmed
}
