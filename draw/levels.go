package draw

import (
	"math"
	"slices"
	"time"

	"dusha/core/logbook"
	"dusha/core/watertest"
	"dusha/core/wetarea"
)

// LevelsInputs ask for the chart of a water test: levels below the start mark, downwards.
type LevelsInputs struct {
	Test   logbook.TestLook `json:"test"`
	Now    time.Time        `json:"now"`
	Offset int              `json:"offset_min" minimum:"-840" maximum:"840"`
	View   View             `json:"view"`
	Paper  bool             `json:"paper,omitempty"` // without the now line
}

// Room round the chart, px.
const (
	levelsLeft, levelsRight = 44, 18
	levelsTop, levelsFoot   = 34, 30
	markPx                  = 6.0
)

// longestTest is the longest stretch a chart shows; no water stands in a room for two months.
const longestTest = 60 * 24 * time.Hour

// chart is one run of a test on its axes.
type chart struct {
	axis
	top, foot  float64
	deepest    float64 // mm below the start mark at the foot
	begun      time.Time
	water, pan float64 // start marks
}

// Levels draws the test as filled squares with a solid line, the pan as rings with a dashed
// one, each with its band, dotted on to the hour of the verdict; triangles are the readings
// still wanted.
func Levels(in LevelsInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	if len(in.Test.Runs) == 0 || len(in.Test.Runs[len(in.Test.Runs)-1].Levels) == 0 {
		d.Twin = append(d.Twin, words("levels.none"))
		return d, nil
	}
	run := in.Test.Runs[len(in.Test.Runs)-1]
	c := chartOf(in, run)
	d.grid(c.axis, c.top, c.foot, in.View.Height-8)
	d.depths(c)
	d.band(c, in.Test.PanLine, c.pan, "pan")
	d.band(c, in.Test.Water, c.water, "water")
	d.marks(c, run)
	d.unseen(c, in.Test, run)
	d.wanted(c, in.Test, run)
	d.lineWords(c, in.Test)
	if now := c.now; !in.Paper && c.shows(now) {
		d.flag(c.axis, c.top, c.foot)
	}
	d.levelsTwin(in.Test, run)
	return d, nil
}

func chartOf(in LevelsInputs, run logbook.TestRun) chart {
	first, last := run.Levels[0], run.Levels[len(run.Levels)-1]
	c := chart{
		axis: axis{
			from: first.At, to: last.At.Add(time.Hour), now: in.Now, zone: zoneOf(in.Offset),
			left: levelsLeft, right: in.View.Width - levelsRight,
		},
		top: levelsTop, foot: in.View.Height - levelsFoot, begun: first.At, water: first.Water,
	}
	if begun, err := time.Parse(time.RFC3339, in.Test.Begun); err == nil { // the lines begin after the soak
		c.begun = begun
	}
	for _, at := range []string{in.Test.Ends, in.Test.Decides} {
		if end, err := time.Parse(time.RFC3339, at); err == nil && end.After(c.to) {
			c.to = end
		}
	}
	if c.to.Sub(c.from) > longestTest {
		c.to = c.from.Add(longestTest)
	}
	lowest := 1.0 // mm: a chart of nothing still has a scale
	for _, l := range run.Levels {
		if l.Pan != nil && c.pan == 0 {
			c.pan = *l.Pan
		}
		lowest = max(lowest, c.water-l.Water)
		if l.Pan != nil {
			lowest = max(lowest, c.pan-*l.Pan)
		}
	}
	for _, e := range in.Test.Water {
		lowest = max(lowest, c.water-e.Mid)
	}
	c.deepest = lowest * 1.12
	if slices.ContainsFunc(in.Test.Looks, func(s logbook.Sighting) bool { return s.Outside != "dry" }) {
		c.deepest = lowest * 1.3 // room for their marks at the foot
	}
	return c
}

// y is the place of a depth below the start mark, mm.
func (c chart) y(below float64) float64 {
	return c.top + (c.foot-c.top)*min(max(below, -0.06*c.deepest), c.deepest)/c.deepest
}

func (c chart) hour(h float64) float64 {
	return c.x(c.inside(c.begun.Add(time.Duration(h * float64(time.Hour)))))
}

// depths draws the scale at the left: steps of 1, 2 or 5 that leave the numbers apart.
func (d *Drawing) depths(c chart) {
	const apart = 40
	step := 0.01
	for i := 0; c.y(step)-c.y(0) < apart && i < 20; i++ {
		step *= []float64{2, 2.5, 2}[i%3]
	}
	for below := 0.0; below <= c.deepest; below += step {
		d.path("depth_line", false, wetarea.Point{c.left, c.y(below)}, wetarea.Point{c.right, c.y(below)})
		d.text("axis_depth", wetarea.Point{c.left - 8, c.y(below) + 5}, "end", "axis.mm", "mm", math.Round(below*100)/100)
	}
}

// band draws a fitted line with its band; past the last reading it is dotted.
func (d *Drawing) band(c chart, edges []watertest.Edge, start float64, name string) {
	if len(edges) == 0 {
		return
	}
	var upper, lower, line []wetarea.Point
	for _, e := range edges {
		x := c.hour(e.T)
		upper = append(upper, wetarea.Point{x, c.y(start - e.High)})
		lower = append([]wetarea.Point{{x, c.y(start - e.Low)}}, lower...)
		line = append(line, wetarea.Point{x, c.y(start - e.Mid)})
	}
	d.path("band_of_"+name, true, append(upper, lower...)...)
	d.path("line_of_"+name, false, line...)
}

// lineWords name the two lines at their ends, over all marks: the deeper one below, the other
// above, clear of its whole length under the word.
func (d *Drawing) lineWords(c chart, t logbook.TestLook) {
	const word, clear, below, line = 150.0, 14.0, 34.0, 24.0 // px: longest word, room over the marks, below the end, a line of letters
	end := func(edges []watertest.Edge, start float64) wetarea.Point {
		if len(edges) == 0 {
			return wetarea.Point{}
		}
		e := edges[len(edges)-1]
		return wetarea.Point{c.hour(e.T), c.y(start - e.Mid)}
	}
	highest := func(edges []watertest.Edge, start float64) (top float64) {
		top = c.foot
		for _, e := range edges {
			if c.hour(e.T) >= end(edges, start)[0]-word {
				top = min(top, c.y(start-e.Mid))
			}
		}
		return top
	}
	water, pan := end(t.Water, c.water), end(t.PanLine, c.pan)
	const overMarks = 22.0 // px above the foot
	const beside = 72.0    // px: a short line has its word beside it
	waterY, panY := min(water[1]+below, c.foot-overMarks), highest(t.PanLine, c.pan)-clear
	if pan[1] > water[1] {
		waterY, panY = highest(t.Water, c.water)-clear, min(pan[1]+below, c.foot-overMarks)
		waterY = min(waterY, panY-line)
	} else {
		panY = min(panY, waterY-line)
	}
	// In a low drawing neither leaves it at the top, and one stands under the other.
	if waterY, panY = max(waterY, line), max(panY, line); math.Abs(waterY-panY) < line {
		if waterY <= panY {
			panY = waterY + line
		} else {
			waterY = panY + line
		}
	}
	if len(t.Water) > 0 {
		d.text("line_word_water", wetarea.Point{max(water[0]-4, c.left+beside), waterY}, "end", "levels.water")
	}
	if len(t.PanLine) > 0 {
		d.text("line_word_pan", wetarea.Point{max(pan[0]-4, c.left+beside), panY}, "end", "levels.pan")
	}
}

func (d *Drawing) marks(c chart, run logbook.TestRun) {
	for _, l := range run.Levels {
		x := c.x(l.At)
		if l.Pan != nil {
			d.disc("mark_pan", wetarea.Point{x, c.y(c.pan - *l.Pan)}, markPx)
		}
		y := c.y(c.water - l.Water)
		d.path("mark_water", true, box(x-markPx+1, y-markPx+1, 2*markPx-2, 2*markPx-2)...)
	}
}

// unseen marks what the levels do not show: a drop at the foot where it was damp or wet outside, open
// where that was explained, and a line where rain fell.
func (d *Drawing) unseen(c chart, t logbook.TestLook, run logbook.TestRun) {
	for _, s := range t.Looks {
		if x := c.x(s.At); s.Outside != "dry" && c.shows(s.At) {
			style := "mark_outside"
			if s.Explained != nil {
				style = "mark_explained"
			}
			d.path(style, true, wetarea.Point{x, c.foot - 16}, wetarea.Point{x + 8, c.foot - 4}, wetarea.Point{x - 8, c.foot - 4})
		}
	}
	for _, r := range run.Rained {
		if x := c.x(r.At); c.shows(r.At) {
			d.path("line_of_rain", false, wetarea.Point{x, c.top}, wetarea.Point{x, c.foot})
			side, anchor := 6.0, "start"
			if x > (c.left+c.right)/2 {
				side, anchor = -side, "end"
			}
			d.text("word_of_rain", wetarea.Point{x + side, c.top + 18}, anchor, "levels.rain", "mm", r.Mm)
		}
	}
}

// wanted draws a triangle for each reading still wanted until the verdict.
func (d *Drawing) wanted(c chart, t logbook.TestLook, run logbook.TestRun) {
	interval := time.Duration(t.Chosen.Interval * float64(time.Hour))
	if t.Judged != nil && !t.SoFar && t.Finding != logbook.FindsCannot || interval <= 0 {
		return
	}
	const most = 60
	for i, at := 0, run.Levels[len(run.Levels)-1].At.Add(interval); i < most && !at.After(c.to); i, at = i+1, at.Add(interval) {
		x := c.x(at)
		d.path("mark_wanted", true, wetarea.Point{x - 6, c.top - 4}, wetarea.Point{x + 6, c.top - 4}, wetarea.Point{x, c.top + 6})
	}
}

func (d *Drawing) levelsTwin(t logbook.TestLook, run logbook.TestRun) {
	for _, l := range run.Levels {
		key, args := "levels.reading", []any{"at", l.At.UTC().Format(time.RFC3339), "water", l.Water, "outside", l.Outside}
		if l.Pan != nil {
			key, args = "levels.reading_pan", append(args, "pan", *l.Pan)
		}
		d.Twin = append(d.Twin, words(key, args...))
	}
	for _, s := range t.Looks {
		if s.Outside != "dry" {
			d.Twin = append(d.Twin, words("levels.outside", "at", s.At.UTC().Format(time.RFC3339), "outside", s.Outside, "where", s.Where))
		}
	}
	for _, r := range run.Rained {
		d.Twin = append(d.Twin, words("levels.rained", "at", r.At.UTC().Format(time.RFC3339), "mm", r.Mm))
	}
	if t.Judged != nil {
		d.Twin = append(d.Twin, Say{Key: t.Reason.Key, Args: t.Reason.Args})
	}
}

// ScaleInputs ask for the scale that decides: the loss with its interval against the limit.
type ScaleInputs struct {
	Judged  watertest.Judged `json:"judged"`
	Limit   float64          `json:"limit_mm_per_h"`
	Finding string           `json:"finding,omitempty"` // of the test, which may stand against its levels
	View    View             `json:"view"`
}

// unseen tells that the verdict goes by what levels do not show.
func (in ScaleInputs) unseen() bool {
	return in.Judged.Verdict == watertest.Holds && (in.Finding == logbook.FindsCannot || in.Finding == logbook.FindsLeaks)
}

// Scale draws the interval of the net loss on a scale with the limit in the middle third:
// the whole interval left of it holds, right of it leaks, across it cannot tell. Where the levels
// alone would hold and the test does not, their part is an empty dashed basin.
func Scale(in ScaleInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	j := in.Judged
	low := min(j.Lower, 0, -0.1*in.Limit)
	high := max(j.Upper, 2*in.Limit)
	low, high = low-0.05*(high-low), high+0.05*(high-low)
	const side, tall = 2.0, 30.0
	x := func(r float64) float64 { return side + (in.View.Width-2*side)*(r-low)/(high-low) }
	top := 22.0
	holds, word := "scale_holds", "scale.holds"
	if in.unseen() {
		holds, word = "scale_levels_only", "scale.levels_only"
		d.Twin = append(d.Twin, words("scale.unseen"))
	}
	d.path(holds, true, box(x(low), top, x(in.Limit)-x(low), tall)...)
	d.path("scale_leaks", true, box(x(in.Limit), top, x(high)-x(in.Limit), tall)...)
	d.path("scale_limit", false, wetarea.Point{x(in.Limit), top - 12}, wetarea.Point{x(in.Limit), top + tall + 6})
	middle := top + tall/2
	d.path("scale_interval_edge", false, wetarea.Point{x(j.Lower), middle}, wetarea.Point{x(j.Upper), middle})
	d.path("scale_interval", false, wetarea.Point{x(j.Lower), middle}, wetarea.Point{x(j.Upper), middle})
	d.disc("scale_loss", wetarea.Point{x(j.Loss), middle}, 8)
	words3 := top + tall + 22
	d.text("scale_word_holds", wetarea.Point{side + 4, words3}, "start", word)
	d.text("scale_word_leaks", wetarea.Point{in.View.Width - side - 4, words3}, "end", "scale.leaks")
	d.text("scale_word", wetarea.Point{min(max(x(in.Limit), 110), in.View.Width-110), words3}, "middle", "scale.limit", "limit", in.Limit)
	d.Twin = append(d.Twin, words("scale.says", "loss", j.Loss, "lower", j.Lower, "upper", j.Upper, "limit", in.Limit))
	return d, nil
}
