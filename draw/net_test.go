package draw_test

import (
	"math"
	"slices"
	"testing"

	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/wetarea"
	"dusha/draw"
)

func shower(t *testing.T) wetarea.Area {
	t.Helper()
	asked, err := wetarea.Ask("rectangle", map[string]string{
		"length": "2400", "width": "1800", "walls.a.height": "2100", "walls.b.height": "1500", "walls.c.height": "300", "walls.d.height": "900",
		"doorway.wall": "c", "doorway.from_left": "600", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1200", "drain.from_a": "400", "drain.diameter": "110", "pipes.count": "1",
		"pipes.1.surface": "wall.b", "pipes.1.along": "500", "pipes.1.up": "1000", "pipes.1.diameter": "22",
	})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	return *asked.Area
}

func net(t *testing.T, in draw.NetInputs) draw.Drawing {
	t.Helper()
	if in.View.Width == 0 {
		in.View = draw.View{Width: 700, Height: 600}
	}
	d, err := draw.Net(in)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

// The net is to scale: each surface's drawn area is its true area, and the floor's edge is
// the fold of the wall beside it.
func TestTheNetIsToScale(t *testing.T) {
	area := shower(t)
	d := net(t, draw.NetInputs{Area: area})
	drawn := 0.0
	for _, item := range d.Items {
		if item.Style == "floor" || item.Style == "wall" {
			drawn += math.Abs(wetarea.SignedArea(item.Points)) / 1e6
		}
	}
	if math.Abs(drawn-area.Takeoff.TotalMembrane) > 1e-9 {
		t.Errorf("drawn %v m², surveyed %v", drawn, area.Takeoff.TotalMembrane)
	}
	for _, item := range d.Items {
		for _, p := range item.Points {
			if item.Closed && (p[0] < d.Box.X || p[0] > d.Box.X+d.Box.Width || p[1] < d.Box.Y || p[1] > d.Box.Y+d.Box.Height) {
				t.Errorf("%s at %v lies outside the view %+v", item.Style, p, d.Box)
			}
		}
	}
}

// Places as read on the net: each is worked by hand from floor at the origin, x right and y
// down, wall A folded up, B right, C down, D left.
func TestAPointOfTheNetIsAPlaceOnASurface(t *testing.T) {
	area := shower(t)
	rows := []struct {
		name string
		x, y float64
		want draw.Spot
	}{
		{"floor, 500 from wall D and 400 from wall C", 500, -400, draw.Spot{Surface: "floor", Along: 500, Up: 400}},
		{"wall A, from its left end", 300, -1800 - 700, draw.Spot{Surface: "wall.a", Along: 300, Up: 700}},
		{"wall B begins at wall A", 2400 + 1000, -1800 + 500, draw.Spot{Surface: "wall.b", Along: 500, Up: 1000}},
		{"wall C begins at wall B", 2400 - 200, 150, draw.Spot{Surface: "wall.c", Along: 200, Up: 150}},
		{"wall D begins at wall C", -450, -300, draw.Spot{Surface: "wall.d", Along: 300, Up: 450}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if got, err := draw.Under(area, wetarea.Point{row.x, row.y}); err != nil || got != row.want {
				t.Errorf("got %+v, %v, want %+v", got, err, row.want)
			}
		})
	}
	for name, at := range map[string][2]float64{"in the doorway": {2400 - 900, 150}, "beside the net": {9000, 0}} {
		if spot, err := draw.Under(area, wetarea.Point{at[0], at[1]}); err == nil {
			t.Errorf("%s: got %+v", name, spot)
		}
	}
}

func TestTheTwinSaysWhatTheDrawingShows(t *testing.T) {
	area := shower(t)
	pieces := []logbook.PieceLook{}
	number := 0
	for _, j := range area.Junctions {
		number++
		p := logbook.PieceLook{Bedded: number == 1}
		p.ID, p.Kind, p.Number = "band."+j.ID, "band", number
		pieces = append(pieces, p)
	}
	d := net(t, draw.NetInputs{Area: area, Shown: draw.Shown{Layers: []string{"bands", "numbers"}, NextID: pieces[1].ID}, Lying: draw.Lying{Pieces: pieces}})
	said := map[string]bool{}
	for _, line := range d.Twin {
		said[line.ID] = true
	}
	for _, tap := range d.Taps {
		if !said[tap.ID] {
			t.Errorf("%s can be touched, but the twin does not say it", tap.ID)
		}
	}
	styles := map[string]int{}
	for _, item := range d.Items {
		styles[item.Style]++
	}
	if styles["band_bedded"] == 0 || styles["band_next"] == 0 || styles["band"] == 0 {
		t.Errorf("styles are %v: bedded, next and open bands must differ", styles)
	}
}

// From any tap the arrow keys reach every other one.
func TestTheArrowKeysReachEverything(t *testing.T) {
	d := net(t, draw.NetInputs{Area: shower(t), Shown: draw.Shown{Layers: []string{"dims"}, Asking: "length"}})
	for _, start := range d.Taps {
		reached, open := map[string]bool{start.ID: true}, []string{start.ID}
		for len(open) > 0 {
			i := slices.IndexFunc(d.Taps, func(tap draw.Tap) bool { return tap.ID == open[0] })
			open = open[1:]
			w := d.Taps[i].Walk
			for _, next := range []string{w.Left, w.Right, w.Up, w.Down} {
				if next != "" && !reached[next] {
					reached[next] = true
					open = append(open, next)
				}
			}
		}
		if len(reached) != len(d.Taps) {
			t.Errorf("from %s only %d of %d are reached", start.ID, len(reached), len(d.Taps))
		}
	}
}

func TestTapsAreLargeEnoughForGloves(t *testing.T) {
	d := net(t, draw.NetInputs{Area: shower(t), Shown: draw.Shown{Layers: []string{"dims"}}})
	for _, tap := range d.Taps {
		low, high := tap.Outline[0], tap.Outline[2]
		if wide, tall := (high[0]-low[0])/d.MmPerPx, (high[1]-low[1])/d.MmPerPx; wide < 55.9 || tall < 55.9 {
			t.Errorf("%s is %.0f × %.0f px", tap.ID, wide, tall)
		}
	}
}

func TestThinSurfacesAndReadingsAreDrawn(t *testing.T) {
	upper := 1.0
	coat := logbook.CoatLook{Number: 1, Surfaces: []logbook.SurfaceLook{{Laid: true, Film: film.Verdict{Says: film.Thin}}, {Laid: true}}}
	coat.Surfaces[0].Surface, coat.Surfaces[1].Surface = "wall.d", "floor"
	coat.Least = 0.96
	coat.Readings = []logbook.Reading{{Entry: "r1", Surface: "wall.d", Along: 300, Up: 300, Bracket: film.Bracket{Lower: 0.9, Upper: &upper}}}
	d := net(t, draw.NetInputs{Area: shower(t), Shown: draw.Shown{Layers: []string{"coat", "film"}}, Lying: draw.Lying{Coat: &coat}})
	styles := map[string]int{}
	for _, item := range d.Items {
		styles[item.Style]++
	}
	if styles["thin"] != 1 || styles["coat_one_way"] != 1 || styles["flag_thin"] != 1 {
		t.Errorf("styles are %v", styles)
	}
}

func TestWhatCannotBeDrawnIsRefused(t *testing.T) {
	for name, in := range map[string]draw.NetInputs{
		"no area":       {Shown: draw.Shown{View: draw.View{Width: 100, Height: 100}}},
		"no view":       {Area: shower(t)},
		"a huge view":   {Area: shower(t), Shown: draw.Shown{View: draw.View{Width: 1e9, Height: 10}}},
		"a view of NaN": {Area: shower(t), Shown: draw.Shown{View: draw.View{Width: math.NaN(), Height: 10}}},
	} {
		if _, err := draw.Net(in); len(fault.Of(err)) == 0 {
			t.Errorf("%s was drawn", name)
		}
	}
}

// drawn are the styles of a drawing's items.
func drawn(d draw.Drawing) map[string]int {
	styles := map[string]int{}
	for _, item := range d.Items {
		styles[item.Style]++
	}
	return styles
}

func says(d draw.Drawing, key string) bool {
	return slices.ContainsFunc(d.Twin, func(s draw.Say) bool { return s.Key == key })
}

// notched is a U-shaped room whose walls across the notch would lie over each other, with a
// linear drain, a crack, a doorway without a stop and a patch of base.
var notched = map[string]string{
	"outline": "points", "points": "0 0; 4000 0; 4000 2500; 2900 2500; 2900 900; 1200 900; 1200 2500; 0 2500", "height": "1500",
	"drains": "1", "drains.1.kind": "channel", "drains.1.wall": "a", "drains.1.along": "2000", "drains.1.out": "200", "drains.1.length": "900", "drains.1.diameter": "70",
	"lines": "1 2", "lines.1.kind": "crack_live", "lines.1.surface": "wall.a", "lines.1.from.along": "100", "lines.1.from.up": "100", "lines.1.to.along": "900", "lines.1.to.up": "900", "lines.1.movement": "1",
	"lines.2.kind": "movement", "lines.2.surface": "floor", "lines.2.from.wall": "a", "lines.2.from.along": "500", "lines.2.from.out": "0", "lines.2.to.wall": "a", "lines.2.to.along": "500", "lines.2.to.out": "2500", "lines.2.movement": "2",
	"openings": "1", "openings.1.wall": "b", "openings.1.from_left": "300", "openings.1.width": "900", "openings.1.height": "2000",
	"patches": "1", "patches.1.surface": "walls", "patches.1.material": "plaster", "patches.1.profile_found": "3",
}

func TestASurveyIsDrawnAsItIsTyped(t *testing.T) {
	shown := draw.Shown{View: draw.View{Width: 900, Height: 700}, Layers: []string{"dims", "patches"}}
	d, err := draw.Survey(draw.SurveyInputs{Form: "room", Typed: notched, Shown: shown})
	if err != nil {
		t.Fatal(err)
	}
	styles := drawn(d)
	for _, style := range []string{"channel", "slot", "crack", "joint", "joint_side", "gap", "leader", "profile_3", "fall", "fold", "cut"} {
		if styles[style] == 0 {
			t.Errorf("nothing is drawn as %s", style)
		}
	}
	for _, key := range []string{"twin.channel", "twin.line", "twin.gap", "twin.moved", "twin.patch"} {
		if !says(d, key) {
			t.Errorf("the twin does not say %s", key)
		}
	}
	var asked []string
	for _, tap := range d.Taps {
		if tap.Kind == "dimension" {
			asked = append(asked, tap.ID)
		}
	}
	if !slices.Equal(asked, []string{"ask.height", "ask.openings.1.width"}) {
		t.Errorf("dimensions are %v, only what was typed is wanted", asked)
	}
	if i := slices.IndexFunc(d.Items, func(item draw.Item) bool { return item.Kind == "dots" }); i < 0 || d.Items[i].Step != 500 {
		t.Error("no dots show the scale")
	}
	if _, err := draw.Survey(draw.SurveyInputs{Form: "room", Typed: map[string]string{}, Shown: shown}); err == nil {
		t.Error("an area that is not known is drawn")
	}
}

func TestAPartOfTheNetIsSeenNearer(t *testing.T) {
	at := func(zoom float64, centre *wetarea.Point) draw.Drawing {
		d, err := draw.Survey(draw.SurveyInputs{Form: "room", Typed: notched, Shown: draw.Shown{View: draw.View{Width: 900, Height: 700}, Zoom: zoom, Centre: centre}})
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	whole, near := at(1, nil), at(3, nil)
	if math.Abs(near.Box.Width*3-whole.Box.Width) > 1e-6 || math.Abs(near.MmPerPx*3-whole.MmPerPx) > 1e-9 || len(near.Taps) != len(whole.Taps) {
		t.Errorf("three times as near: box %v of %v", near.Box, whole.Box)
	}
	corner := at(3, &wetarea.Point{-1e6, 1e6})
	if corner.Box.X < whole.Box.X-1e-6 || corner.Box.Y+corner.Box.Height > whole.Box.Y+whole.Box.Height+1e-6 {
		t.Errorf("what is seen leaves the drawing: %v of %v", corner.Box, whole.Box)
	}
	if far := at(1000, nil); far.Box.Width < whole.Box.Width/12-1e-6 {
		t.Errorf("as near as %v", far.Box)
	}
}

func TestAWalkThatDoesNotCloseIsDrawnWithItsGap(t *testing.T) {
	run := wetarea.Run{Points: []wetarea.Point{{0, 0}, {2000, 0}, {2000, -1500}, {10, -1500}}, Gap: 1500}
	d, err := draw.Run(draw.RunInputs{Run: run, View: draw.View{Width: 600, Height: 500}, Asking: "walls.b.length"})
	if err != nil {
		t.Fatal(err)
	}
	if styles := drawn(d); styles["gap"] != 1 || styles["dimension_asked"] != 1 || styles["cut"] != 3 || !says(d, "twin.run_gap") {
		t.Errorf("%v", drawn(d))
	}
	run.Closed = true
	if d, _ := draw.Run(draw.RunInputs{Run: run, View: draw.View{Width: 600, Height: 500}}); drawn(d)["gap"] != 0 {
		t.Error("a walk that closes is drawn with a gap")
	}
}

func TestLeaksAndTheWayOfTheWaterAreDrawn(t *testing.T) {
	shown := draw.Shown{View: draw.View{Width: 900, Height: 700}, Way: []logbook.Spot{{Surface: "floor", Along: 100, Up: 100}, {Surface: "wall.a", Along: 900, Up: 900}}}
	lying := draw.Lying{Leaks: []logbook.Leak{{Entry: "1", LeakFound: logbook.LeakFound{Surface: "wall.a", Along: 500, Up: 300, State: "damp"}, Open: true}, {Entry: "2", LeakFound: logbook.LeakFound{Surface: "floor", Along: 300, Up: 300}}}}
	asked, err := wetarea.Ask("room", notched)
	if err != nil {
		t.Fatal(err)
	}
	d, err := draw.Net(draw.NetInputs{Area: *asked.Sketch, Shown: shown, Lying: lying})
	if err != nil {
		t.Fatal(err)
	}
	if styles := drawn(d); styles["leak"] != 1 || styles["leak_dry"] != 1 || styles["way"] == 0 || !says(d, "twin.way") {
		t.Errorf("%v", drawn(d))
	}
}

// However crowded it is, no number is cut off by the edge of the sheet.
func TestNumbersStayOnTheSheet(t *testing.T) {
	area := shower(t)
	var pieces []logbook.PieceLook
	for i, j := range area.Junctions {
		var p logbook.PieceLook
		p.ID, p.Kind, p.Number = "band."+j.ID, "band", i+1
		pieces = append(pieces, p)
	}
	for _, size := range []float64{160, 240, 600} {
		d, err := draw.Net(draw.NetInputs{Area: area, Shown: draw.Shown{View: draw.View{Width: size, Height: size}, Layers: []string{"bands", "numbers"}}, Lying: draw.Lying{Pieces: pieces}})
		if err != nil {
			t.Fatal(err)
		}
		for _, n := range items(d, "number_open") {
			at, reach := n.At, 13*d.MmPerPx
			if at[0]-reach < d.Box.X || at[0]+reach > d.Box.X+d.Box.Width || at[1]-reach < d.Box.Y || at[1]+reach > d.Box.Y+d.Box.Height {
				t.Errorf("%v px: a number at %v of %+v", size, at, d.Box)
			}
		}
	}
}
