package cure

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
// leaves it open at the end.
type Window struct {
	Earliest Wait
	Latest   *Wait
}

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
func (w Window) At(series []Stretch, now float64) Standing {
	s := Standing{Early: w.Earliest.Progress(series, now)}
	if opens, reached := w.Earliest.Reached(series); reached {
		s.Opens = &opens
	}
	if w.Latest != nil {
		s.Late = w.Latest.Progress(series, now)
		if closes, reached := w.Latest.When(series, 1); reached {
			s.Closes = &closes
		}
		if s.Opens != nil {
			q := w.Latest.Progress(series, *s.Opens)
			if closing, reached := w.Latest.When(series, q+closingShare*(1-q)); reached {
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

// Levels of the tide: how ready the next step is, 0 to 1.
const (
	levelClosed = 0.4
	levelLate   = 0.1
)

// Level is how high the tide stands at a time: before the earliest its progress, 1 while
// open, falling to 0.4 with what is left while closing, and a flat 0.1 when it is too late.
func (w Window) Level(series []Stretch, at float64) float64 {
	s := w.At(series, at)
	switch s.State {
	case TooEarly:
		return min(s.Early, 1)
	case TooLate:
		return levelLate
	case Closing:
		return levelClosed + (1-levelClosed)*(1-s.Late)/(1-w.Latest.Progress(series, *s.Closing))
	}
	return 1
}
