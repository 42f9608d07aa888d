package draw

import (
	"math"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/wetarea"
)

// TideInputs ask for the tide of a window: readiness over time, higher is readier.
type TideInputs struct {
	Tide   logbook.Tide `json:"tide"`
	Now    time.Time    `json:"now"`
	Offset int          `json:"offset_min" minimum:"-840" maximum:"840"` // local time, minutes east of Greenwich
	Hours  int          `json:"hours,omitempty"`                         // shown after now; 0: 48
	View   View         `json:"view"`
	Mini   bool         `json:"mini,omitempty"` // without words: beside a row that has them
}

// Where the tide lies in its view, px.
const (
	tideMarks = 26 // room for the axis above
	tideFoot  = 32 // room for the clock times below
	tideSide  = 6
	shownBack = 12
)

var tideStyles = map[string]string{
	cure.TooEarly: "tide_early", cure.Open: "tide_open", cure.Closing: "tide_closing", cure.TooLate: "tide_late",
}

var tideWords = map[string]string{
	cure.TooEarly: "tide.too_early", cure.Open: "tide.open", cure.Closing: "tide.closing", cure.TooLate: "tide.too_late",
}

// Tide draws a window: dots rising too early, solid open, slanted falling closing, a flat
// bed of crosses too late; under it the clock times and the last safe start.
func Tide(in TideInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	if in.Hours == 0 {
		in.Hours = 48
	}
	if in.Hours < 1 || in.Hours > 240 {
		return Drawing{}, fault.At("hours", "number.too_large", "value", in.Hours, "most", 240)
	}
	back := shownBack * time.Hour
	if in.Mini {
		back = time.Hour
	}
	a := axis{
		from: in.Now.Add(-back), to: in.Now.Add(time.Duration(in.Hours) * time.Hour), now: in.Now, zone: zoneOf(in.Offset),
		left: tideSide, right: in.View.Width - tideSide,
	}
	top, foot := 2*float64(tideMarks)+8, in.View.Height-tideFoot
	if in.Mini {
		top, foot = 4, in.View.Height-14
	} else {
		a.wide = 8 * time.Hour
		d.grid(a, tideMarks, foot, tideMarks-7)
	}
	d.water(a, in.Tide, top+tideMarks, foot, in.Mini)
	d.path("tide_foot", false, wetarea.Point{a.left, foot}, wetarea.Point{a.right, foot})
	d.tideTimes(a, in.Tide, foot, in.Mini)
	if in.Mini {
		d.path("now", false, wetarea.Point{a.x(a.now), 0}, wetarea.Point{a.x(a.now), foot + 4})
	} else {
		d.path("veil", true, box(a.left, tideMarks, a.x(a.now)-a.left, foot-tideMarks)...)
		d.flag(a, 2*tideMarks, foot)
	}
	d.tideTwin(in.Tide)
	return d, nil
}

// water draws the curve in lengths of one state.
func (d *Drawing) water(a axis, t logbook.Tide, top, foot float64, mini bool) {
	y := func(level float64) float64 { return foot - level*(foot-top) }
	for i := 0; i < len(t.Points); {
		j := i
		var line []wetarea.Point
		for ; j < len(t.Points) && t.Points[j].State == t.Points[i].State; j++ {
			line = append(line, a.point(t.Points[j].At, y(t.Points[j].Level)))
		}
		if j < len(t.Points) { // the next state begins where this one ends
			next := a.point(t.Points[j].At, 0)
			line = append(line, wetarea.Point{next[0], line[len(line)-1][1]})
		}
		begin, end := line[0][0], line[len(line)-1][0]
		state := t.Points[i].State
		i = j
		if end-begin < 0.5 {
			continue
		}
		area := append(append([]wetarea.Point{{begin, foot}}, line...), wetarea.Point{end, foot})
		d.path(tideStyles[state], true, area...)
		d.path(tideStyles[state]+"_line", false, line...)
		const roomForWord = 84
		if !mini && end-begin > roomForWord {
			d.text("tide_word", wetarea.Point{(begin + end) / 2, foot - 10}, "middle", tideWords[state])
		}
	}
}

func (a axis) point(at string, y float64) wetarea.Point {
	when, err := time.Parse(time.RFC3339, at)
	if err != nil {
		when = a.from
	}
	return wetarea.Point{a.x(a.inside(when)), y}
}

// tideTimes marks opening, closing and shutting, with the last safe start as a triangle;
// their clock times stand below as far as there is room, the ones to act on first.
func (d *Drawing) tideTimes(a axis, t logbook.Tide, foot float64, mini bool) {
	var taken []float64
	for _, mark := range []string{t.LastSafe, t.Opens, t.Shuts, t.Closing} {
		at, err := time.Parse(time.RFC3339, mark)
		if err != nil || !a.shows(at) {
			continue
		}
		x := a.x(at)
		if mark == t.LastSafe {
			d.path("last_safe", true, wetarea.Point{x, foot + 1}, wetarea.Point{x + 8, foot + 13}, wetarea.Point{x - 8, foot + 13})
		} else {
			d.path("tide_mark", false, wetarea.Point{x, foot - 6}, wetarea.Point{x, foot + 5})
		}
		place := min(max(x, a.left+24), a.right-24)
		near := slices.ContainsFunc(taken, func(other float64) bool { return math.Abs(other-place) < labelPx+6 })
		if mini || near {
			continue
		}
		taken = append(taken, place)
		d.text("tide_time", wetarea.Point{place, foot + 27}, "middle", "axis.clock", "at", at.In(a.zone).Format(time.RFC3339))
	}
}

// tideTwin says the same in words.
func (d *Drawing) tideTwin(t logbook.Tide) {
	d.Twin = append(d.Twin, words(tideWords[t.State]))
	for _, each := range []struct{ key, at string }{
		{"tide.says.opens", t.Opens}, {"tide.says.closing", t.Closing}, {"tide.says.last_safe", t.LastSafe}, {"tide.says.shuts", t.Shuts},
	} {
		if each.at != "" {
			d.Twin = append(d.Twin, words(each.key, "at", each.at))
		}
	}
}
