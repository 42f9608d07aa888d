package cure

import "slices"

// States of a window, in the order in which they follow each other.
const (
	TooEarly = "too early" // trapped water, blisters, pulled mesh
	Open     = "open"
	Closing  = "closing"
	TooLate  = "too late" // the sheet's remedy becomes a step
)

// closingShare of what the latest time had left at opening is used when a window closes.
const closingShare = 0.75

// Window is the time between the earliest and the latest of a next step. A nil Latest
// leaves it open at the end. Lag is the time from the latest's anchor, where the series
// begins, to the earliest's.
type Window struct {
	Earliest Wait
	Latest   *Wait
	Lag      float64 // h
}

// Crossed finds a printed temperature, °C, at which a latest time is not after the earliest: between
// them nothing would ever be open.
func Crossed(earliest, latest Table) (temp, opens, shuts float64, crossed bool) {
	for _, e := range slices.Concat(latest.Entries, earliest.Entries) {
		opens, _, err1 := earliest.At(e.Temp)
		shuts, _, err2 := latest.At(e.Temp)
		if err1 == nil && err2 == nil && shuts <= opens {
			return e.Temp, opens, shuts, true
		}
	}
	return 0, 0, 0, false
}

// Edges are the series that judge a window: where a forecast may be off, the cold one
// judges what opens it and the warm one what shuts it.
type Edges struct{ Cold, Warm []Stretch }

// Standing is where a window stands at a time, h from the start of the series. Times are
// nil where the series ends before.
type Standing struct {
	Early   float64  `json:"earliest_progress"`
	Late    float64  `json:"latest_progress"`
	Opens   *float64 `json:"opens_h"`
	Closing *float64 `json:"closing_h"`
	Closes  *float64 `json:"closes_h"`
	State   string   `json:"state"`
}

// At tells where the window stands. It is closing once the latest time's progress has used
// three quarters of what it had left at opening.
func (w Window) At(e Edges, now float64) Standing {
	cold := after(e.Cold, w.Lag)
	s := Standing{Early: w.Earliest.Progress(cold, now-w.Lag)}
	if opens, reached := w.Earliest.Reached(cold); reached {
		opens += w.Lag
		s.Opens = &opens
	}
	if w.Latest != nil {
		s.Late = w.Latest.Progress(e.Warm, now)
		if closes, reached := w.Latest.When(e.Warm, 1); reached {
			s.Closes = &closes
		}
		if s.Opens != nil {
			q := w.Latest.Progress(e.Warm, *s.Opens)
			if closing, reached := w.Latest.When(e.Warm, q+closingShare*(1-q)); reached {
				s.Closing = &closing
			}
		}
	}
	switch {
	case s.Late > 1:
		s.State = TooLate
	case s.Opens == nil || now < *s.Opens:
		s.State = TooEarly
	case s.Closing != nil && now >= *s.Closing:
		s.State = Closing
	default:
		s.State = Open
	}
	return s
}

// after leaves out the first hours of a series.
func after(series []Stretch, hours float64) []Stretch {
	for i, s := range series {
		if s.Hours > hours {
			rest := append([]Stretch{{Hours: s.Hours - hours, Air: s.Air}}, series[i+1:]...)
			return rest
		}
		hours -= s.Hours
	}
	return nil
}

// Levels of the tide: how ready the next step is, 0 to 1.
const (
	levelClosed = 0.4
	levelLate   = 0.1
)

// Level is how high the tide stands at a time: before the earliest its progress, 1 while
// open, falling to 0.4 with what is left while closing, and a flat 0.1 when it is too late.
func (w Window) Level(e Edges, at float64) (level float64, state string) {
	s := w.At(e, at)
	switch s.State {
	case TooEarly:
		return min(s.Early, 1), s.State
	case TooLate:
		return levelLate, s.State
	case Closing:
		left := 0.0
		if whole := 1 - w.Latest.Progress(e.Warm, *s.Closing); whole > 0 {
			left = max(0, 1-s.Late) / whole
		}
		return levelClosed + (1-levelClosed)*left, s.State
	}
	return 1, s.State
}
