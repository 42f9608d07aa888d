package draw_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
	"dusha/draw"
)

// No two marks of readings lie over each other, however many there are; each reading is in one mark, which
// shows the least of those that count.
func TestReadingsThatWouldLieOverEachOtherAreOneMark(t *testing.T) {
	asked, err := wetarea.Ask("room", wetareatest.LRoom(nil))
	if err != nil || asked.Area == nil {
		t.Fatal(err)
	}
	random := rand.New(rand.NewPCG(3, 5))
	coat := &logbook.CoatLook{Least: 1}
	lowest := map[string]float64{}
	for i := range 300 {
		surface := asked.Area.Surfaces[random.IntN(len(asked.Area.Surfaces))]
		r := logbook.Reading{Entry: fmt.Sprintf("r%03d", i), Surface: surface.ID, Along: surface.Length * random.Float64(), Up: surface.Height * random.Float64(), Bracket: film.Bracket{Lower: float64(random.IntN(20)) / 10}, Superseded: i%9 == 0}
		lowest[r.Entry] = r.Lower
		if r.Superseded {
			lowest[r.Entry] += 100
		}
		coat.Readings = append(coat.Readings, r)
	}
	for _, view := range []draw.View{{Width: 900, Height: 700}, {Width: 360, Height: 400}} {
		for _, zoom := range []float64{0, 6} {
			drawing, err := draw.Net(draw.NetInputs{Area: *asked.Area, Shown: draw.Shown{View: view, Zoom: zoom, Layers: []string{"coat", "film"}}, Lying: draw.Lying{Coat: coat}})
			if err != nil {
				t.Fatal(err)
			}
			var marks []draw.Tap
			seen := map[string]bool{}
			for _, tap := range drawing.Taps {
				if tap.Kind != "reading" {
					continue
				}
				marks = append(marks, tap)
				of := tap.Of
				if len(of) == 0 {
					of = []string{tap.ID[len("reading."):]}
				} else if tap.Label.Args["n"] != len(of) || tap.ID != "reading."+of[0] {
					t.Errorf("%s says %v of %d", tap.ID, tap.Label.Args["n"], len(of))
				}
				for _, entry := range of {
					if seen[entry] {
						t.Errorf("%s is in two marks", entry)
					}
					if seen[entry] = true; lowest[entry] < lowest[of[0]] {
						t.Errorf("%s shows %v and holds %v", tap.ID, lowest[of[0]], lowest[entry])
					}
				}
			}
			if len(seen) != len(coat.Readings) {
				t.Errorf("%v at %v: %d readings are drawn of %d", view, zoom, len(seen), len(coat.Readings))
			}
			for i, a := range marks {
				for _, b := range marks[i+1:] {
					if over(a.Outline, b.Outline) {
						t.Errorf("%v at %v: %s lies over %s", view, zoom, a.ID, b.ID)
					}
				}
			}
			if zoom == 0 && !slices.ContainsFunc(marks, func(tap draw.Tap) bool { return len(tap.Of) > 1 }) {
				t.Errorf("%v: nothing is piled", view)
			}
		}
	}
}

// over tells whether two boxes lie over each other.
func over(a, b []wetarea.Point) bool {
	const touch = 0.02 // rounding, mm
	return a[0][0] < b[2][0]-touch && b[0][0] < a[2][0]-touch && a[0][1] < b[2][1]-touch && b[0][1] < a[2][1]-touch
}
