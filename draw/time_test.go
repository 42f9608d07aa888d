package draw_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/cure"
	"dusha/core/logbook"
	"dusha/core/watertest"
	"dusha/draw"
)

var (
	drawnAt = time.Date(2026, 3, 4, 10, 0, 0, 0, time.UTC)
	wide    = draw.View{Width: 900, Height: 300}
)

func at(hours float64) string {
	return drawnAt.Add(time.Duration(hours * float64(time.Hour))).Format(time.RFC3339)
}

// tide opens at 14:00, closes from 02:00 and shuts at 06:00.
func tide() logbook.Tide {
	t := logbook.Tide{Known: true, State: cure.TooEarly, Opens: at(4), Closing: at(16), Shuts: at(20), LastSafe: at(17)}
	for hours := -2.0; hours <= 48; hours += 0.5 {
		state, level := cure.TooEarly, (hours+2)/6
		switch {
		case hours >= 20:
			state, level = cure.TooLate, 0.1
		case hours >= 16:
			state, level = cure.Closing, 1-0.15*(hours-16)
		case hours >= 4:
			state, level = cure.Open, 1
		}
		t.Points = append(t.Points, logbook.TidePoint{At: at(hours), Level: level, State: state})
	}
	return t
}

func items(d draw.Drawing, style string) (found []draw.Item) {
	for _, item := range d.Items {
		if item.Style == style {
			found = append(found, item)
		}
	}
	return found
}

// extent is the box of all points of a style.
func extent(t *testing.T, d draw.Drawing, style string) (left, right, top, foot float64) {
	t.Helper()
	left, top, right, foot = math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, item := range items(d, style) {
		for _, p := range append(item.Points, item.At) {
			if item.Kind == "path" && p == item.At {
				continue
			}
			left, right, top, foot = min(left, p[0]), max(right, p[0]), min(top, p[1]), max(foot, p[1])
		}
	}
	if math.IsInf(left, 1) {
		t.Fatalf("nothing is drawn as %s", style)
	}
	return left, right, top, foot
}

func TestATideIsItsStatesOneBesideTheOther(t *testing.T) {
	d, err := draw.Tide(draw.TideInputs{Tide: tide(), Now: drawnAt, View: wide})
	if err != nil {
		t.Fatal(err)
	}
	end := 0.0
	for i, style := range []string{"tide_early", "tide_open", "tide_closing", "tide_late"} {
		left, right, top, foot := extent(t, d, style)
		if i > 0 && math.Abs(left-end) > 1e-6 {
			t.Errorf("%s begins at %v, the one before ends at %v", style, left, end)
		}
		if end = right; left < 0 || right > wide.Width || top < 0 || foot > wide.Height {
			t.Errorf("%s lies outside its view: %v to %v, %v to %v", style, left, right, top, foot)
		}
	}
	_, _, open, _ := extent(t, d, "tide_open")
	_, _, late, _ := extent(t, d, "tide_late")
	if late <= open {
		t.Error("too late stands as high as open")
	}
	// The coming hours are drawn wider than those of the next day.
	times := items(d, "axis_hour")
	if first, last := times[1].At[0]-times[0].At[0], times[len(times)-1].At[0]-times[len(times)-2].At[0]; first == last {
		t.Errorf("all hours are %v px wide", first)
	}
	x := items(d, "last_safe")[0].Points[0][0]
	openLeft, _, _, _ := extent(t, d, "tide_open")
	if _, right, _, _ := extent(t, d, "tide_closing"); x <= openLeft || x >= right {
		t.Errorf("the last safe start is at %v", x)
	}
	var said []string
	for _, line := range d.Twin {
		said = append(said, line.Key)
	}
	if want := []string{"tide.too_early", "tide.says.opens", "tide.says.closing", "tide.says.last_safe", "tide.says.shuts"}; !slices.Equal(said, want) {
		t.Errorf("in words: %v, want %v", said, want)
	}
}

func TestALittleTideHasNoWords(t *testing.T) {
	d, err := draw.Tide(draw.TideInputs{Tide: tide(), Now: drawnAt, Hours: 7, Mini: true, View: draw.View{Width: 216, Height: 104}})
	if err != nil {
		t.Fatal(err)
	}
	if slices.ContainsFunc(d.Items, func(i draw.Item) bool { return i.Kind == "text" }) {
		t.Error("a little tide carries words")
	}
	if len(d.Twin) == 0 {
		t.Error("and says nothing")
	}
	for _, bad := range []draw.TideInputs{{Tide: tide(), Now: drawnAt}, {Tide: tide(), Now: drawnAt, View: wide, Hours: -1}, {Tide: tide(), Now: drawnAt, View: wide, Hours: 1000}} {
		if _, err := draw.Tide(bad); err == nil {
			t.Errorf("drawn in %+v over %d h", bad.View, bad.Hours)
		}
	}
}

// levels is a test that loses as much as its pan, read every hour.
func levels(count int) logbook.TestLook {
	run := logbook.TestRun{At: drawnAt}
	var looks []logbook.Sighting
	for i := range count {
		pan := 50 - 0.1*float64(i)
		outside := "dry"
		if i == 3 {
			outside = "damp"
		}
		at := drawnAt.Add(time.Duration(i) * time.Hour)
		run.Levels = append(run.Levels, logbook.Level{At: at, Water: 80 - 0.1*float64(i), Pan: &pan, Outside: outside})
		looks = append(looks, logbook.Sighting{At: at, Outside: outside, Where: "below"})
	}
	looks = append(looks, logbook.Sighting{At: drawnAt.Add(90 * time.Minute), Outside: "damp", Where: "wall", Explained: &logbook.Explained{}},
		logbook.Sighting{At: drawnAt.Add(-time.Hour), Outside: "damp", Before: true})
	run.Rained = []logbook.Rain{{At: drawnAt.Add(150 * time.Minute), Mm: 3}}
	look := logbook.TestLook{Finding: logbook.FindsCannot, SoFar: true, Ends: at(24), Judged: &watertest.Judged{}, Reason: logbook.Reason{Key: "test.why.across", Args: map[string]any{}}}
	look.Looks = looks
	look.Runs, look.Chosen = []logbook.TestRun{run}, watertest.Chosen{Interval: 1}
	for i := 0; i <= 24; i += 6 {
		look.Water = append(look.Water, watertest.Edge{T: float64(i), Mid: 80 - 0.1*float64(i), Low: 79.9 - 0.1*float64(i), High: 80.1 - 0.1*float64(i)})
		look.PanLine = append(look.PanLine, watertest.Edge{T: float64(i), Mid: 50 - 0.1*float64(i), Low: 49.9 - 0.1*float64(i), High: 50.1 - 0.1*float64(i)})
	}
	return look
}

func TestLevelsAreDrawnDownwards(t *testing.T) {
	d, err := draw.Levels(draw.LevelsInputs{Test: levels(7), Now: drawnAt.Add(6 * time.Hour), View: wide})
	if err != nil {
		t.Fatal(err)
	}
	for style, want := range map[string]int{"mark_water": 7, "mark_pan": 7, "mark_outside": 1, "mark_explained": 1, "line_of_rain": 1, "word_of_rain": 1, "band_of_water": 1, "line_of_pan": 1, "now": 1, "line_word_water": 1, "line_word_pan": 1} {
		if got := len(items(d, style)); got != want {
			t.Errorf("%d × %s, want %d", got, style, want)
		}
	}
	water := items(d, "mark_water")
	for i := 1; i < len(water); i++ {
		if water[i].Points[0][1] <= water[i-1].Points[0][1] || water[i].Points[0][0] <= water[i-1].Points[0][0] {
			t.Errorf("reading %d does not lie below and after the one before", i+1)
		}
	}
	// The readings still wanted: one an hour, until the end.
	if got := len(items(d, "mark_wanted")); got != 18 {
		t.Errorf("%d readings are still wanted, want 18", got)
	}
	if len(d.Twin) != 12 || !strings.HasPrefix(d.Twin[0].Key, "levels.reading") {
		t.Errorf("in words: %+v", d.Twin)
	}
	paper, err := draw.Levels(draw.LevelsInputs{Test: levels(7), Now: drawnAt, View: wide, Paper: true})
	if err != nil || len(items(paper, "now")) > 0 {
		t.Errorf("on paper there is a now: %v", err)
	}
	empty, err := draw.Levels(draw.LevelsInputs{Test: logbook.TestLook{}, Now: drawnAt, View: wide})
	if err != nil || len(empty.Items) > 0 || empty.Twin[0].Key != "levels.none" {
		t.Errorf("nothing was read: %+v, %v", empty, err)
	}
}

func TestTheScaleDecidesInView(t *testing.T) {
	scale := func(loss, lower, upper float64) draw.Drawing {
		d, err := draw.Scale(draw.ScaleInputs{Judged: watertest.Judged{Loss: loss, Lower: lower, Upper: upper}, Limit: 0.05, View: draw.View{Width: 360, Height: 90}})
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	for _, c := range []struct {
		finding, verdict string
		dashed           int
	}{{"holds", "holds", 0}, {"cannot tell", "holds", 1}, {"leaks", "holds", 1}, {"cannot tell", "cannot tell", 0}, {"", "holds", 0}} {
		d, err := draw.Scale(draw.ScaleInputs{Judged: watertest.Judged{Lower: 0, Upper: 0.02, Verdict: c.verdict}, Limit: 0.05, Finding: c.finding, View: wide})
		if err != nil || len(items(d, "scale_levels_only")) != c.dashed || len(items(d, "scale_holds")) != 1-c.dashed {
			t.Errorf("%+v: %v", c, err)
		}
	}
	for name, c := range map[string]struct {
		d           draw.Drawing
		left, right bool // of the limit, the interval's ends
	}{
		"holds":       {scale(0.01, 0, 0.02), true, true},
		"leaks":       {scale(0.2, 0.15, 0.25), false, false},
		"cannot tell": {scale(0.05, 0.03, 0.07), true, false},
	} {
		limit := items(c.d, "scale_limit")[0].Points[0][0]
		left, right, _, _ := extent(t, c.d, "scale_interval")
		if (left < limit) != c.left || (right < limit) != c.right {
			t.Errorf("%s: the interval lies from %v to %v, the limit at %v", name, left, right, limit)
		}
		if left < 0 || right > 360 {
			t.Errorf("%s: the interval lies outside its view", name)
		}
	}
}
