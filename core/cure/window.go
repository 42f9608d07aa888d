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
func (w Window) At(e Edges, now float64) Standing { return w.Over(e).At(now) }

// Reckoning is a window over one pair of series, summed up once to be asked often.
type Reckoning struct {
	window                 Window
	early, late            sums
	opens, closing, closes *float64
}

// Over reckons the window over a pair of series.
func (w Window) Over(e Edges) Reckoning {
	r := Reckoning{window: w, early: w.Earliest.sums(after(e.Cold, w.Lag))}
	if opens, reached := r.early.when(1); reached {
		opens = max(opens, w.Earliest.Shortest) + w.Lag
		r.opens = &opens
	}
	if w.Latest == nil {
		return r
	}
	r.late = w.Latest.sums(e.Warm)
	if closes, reached := r.late.when(1); reached {
		r.closes = &closes
	}
	if r.opens != nil {
		q := r.late.progress(*r.opens)
		if closing, reached := r.late.when(q + closingShare*(1-q)); reached {
			r.closing = &closing
		}
	}
	return r
}

// Opens is when the window opens, h from the start of the series, nil where it ends before.
func (r Reckoning) Opens() *float64 { return r.opens }

// At tells where the window stands.
func (r Reckoning) At(now float64) Standing {
	s := Standing{Early: r.early.progress(now - r.window.Lag), Opens: r.opens, Closing: r.closing, Closes: r.closes}
	if r.window.Latest != nil {
		s.Late = r.late.progress(now)
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

// sums are the progress of a wait over a series, up to the beginning of each stretch.
type sums struct{ at, sum, rate, hours []float64 }

func (w Wait) sums(series []Stretch) sums {
	s := sums{make([]float64, len(series)), make([]float64, len(series)), make([]float64, len(series)), make([]float64, len(series))}
	sum, at := 0.0, 0.0
	for i, stretch := range series {
		rate := w.Rate(stretch.Air)
		s.at[i], s.sum[i], s.rate[i], s.hours[i] = at, sum, rate, stretch.Hours
		sum += rate * stretch.Hours
		at += stretch.Hours
	}
	return s
}

// progress is how far a stage has come after some hours.
func (s sums) progress(until float64) float64 {
	i, _ := slices.BinarySearch(s.at, until) // the first stretch that begins then or later
	if i == 0 {
		return 0
	}
	i--
	return s.sum[i] + s.rate[i]*min(s.hours[i], until-s.at[i])
}

// when is the time at which the progress first reaches an amount.
func (s sums) when(amount float64) (hours float64, reached bool) {
	for i, rate := range s.rate {
		if rate > 0 && s.sum[i]+rate*s.hours[i] >= amount {
			return s.at[i] + max(0, amount-s.sum[i])/rate, true
		}
	}
	return 0, false
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
func (r Reckoning) Level(at float64) (level float64, state string) {
	s := r.At(at)
	switch s.State {
	case TooEarly:
		return min(s.Early, 1), s.State
	case TooLate:
		return levelLate, s.State
	case Closing:
		left := 0.0
		if whole := 1 - r.late.progress(*s.Closing); whole > 0 {
			left = max(0, 1-s.Late) / whole
		}
		return levelClosed + (1-levelClosed)*left, s.State
	}
	return 1, s.State
}
