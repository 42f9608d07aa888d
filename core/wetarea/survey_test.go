package wetarea_test

import (
	"fmt"
	"maps"
	"math"
	"testing"

	"dusha/core/wetarea"
)

// shower is a survey as typed: 2.4 × 1.8 m, doorway in wall C, a drain and two pipes.
func shower(changes map[string]string) map[string]string {
	typed := map[string]string{
		"length": "2400", "width": "1,8 m", "walls.a.height": "2100", "walls.b.height": "2.1 m", "walls.c.height": "300", "walls.d.height": "1200",
		"doorway.wall": "c", "doorway.from_left": "750", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1200", "drain.from_a": "400", "drain.diameter": "110", "pipes.count": "2",
		"pipes.1.surface": "wall.a", "pipes.1.along": "1100", "pipes.1.up": "1000", "pipes.1.diameter": "22",
		"pipes.2.surface": "floor", "pipes.2.along": "300", "pipes.2.up": "300", "pipes.2.diameter": "50",
	}
	maps.Copy(typed, changes)
	return typed
}

func read(t *testing.T, changes map[string]string) wetarea.Asked {
	t.Helper()
	asked, err := wetarea.Ask("rectangle", shower(changes))
	if err != nil {
		t.Fatal(err)
	}
	return asked
}

func TestAShowerRoomFromTheTape(t *testing.T) {
	area := read(t, nil).Area
	if area == nil {
		t.Fatal("the survey is complete, but there is no area")
	}
	areas := map[string]float64{"floor": 2.4 * 1.8, "wall.a": 2.4 * 2.1, "wall.b": 1.8 * 2.1, "wall.c": 1.5 * 0.3, "wall.d": 1.8 * 1.2}
	for _, s := range area.Surfaces {
		if math.Abs(s.Area-areas[s.ID]) > 1e-9 {
			t.Errorf("%s: %v m², want %v", s.ID, s.Area, areas[s.ID])
		}
	}
	lengths := map[string]float64{
		"floor_wall.a.1": 2400, "floor_wall.b.1": 1800, "floor_wall.c.1": 750, "threshold.c": 900, "floor_wall.c.2": 750, "floor_wall.d.1": 1800,
		"wall_wall.a.b": 2100, "wall_wall.b.c": 2100, "wall_wall.c.d": 1200, "wall_wall.d.a": 2100,
	}
	for _, j := range area.Junctions {
		if want, known := lengths[j.ID]; !known || j.Length != want {
			t.Errorf("%s: %v mm, want %v", j.ID, j.Length, want)
		}
		delete(lengths, j.ID)
	}
	if len(lengths) > 0 {
		t.Errorf("junctions missing: %v", lengths)
	}
	if len(area.Corners) != 4 || len(area.Penetrations) != 3 {
		t.Errorf("%d corners and %d penetrations, want 4 and 3", len(area.Corners), len(area.Penetrations))
	}
}

// A sum over the junctions must be what the room's geometry says, and each surface's
// outline must enclose its area.
func TestJunctionsAndOutlinesAgreeWithTheGeometry(t *testing.T) {
	for _, changes := range []map[string]string{
		nil,
		{"doorway.from_left": "0"},
		{"doorway.from_left": "1500"},
		{"doorway.wall": "a", "doorway.height": "1900", "pipes.1.surface": "wall.b"},
		{"doorway.wall": "b", "doorway.width": "1800", "doorway.from_left": "0"},
		{"length": "3217.5", "width": "1205", "doorway.height": "2500"},
	} {
		area := read(t, changes).Area
		if area == nil {
			t.Errorf("%v: no area: %v", changes, read(t, changes).Form.Faults())
			continue
		}
		sums := map[string]float64{}
		for _, j := range area.Junctions {
			sums[j.Kind] += j.Length
		}
		for kind, want := range map[string]float64{"floor_wall": area.Takeoff.FloorWall, "threshold": area.Takeoff.Threshold, "wall_wall": area.Takeoff.WallWallInternal} {
			if math.Abs(sums[kind]-want) > 1e-9 {
				t.Errorf("%v: %s runs add up to %v, geometry says %v", changes, kind, sums[kind], want)
			}
		}
		for _, s := range area.Surfaces {
			drawn := 0.0
			for _, outline := range s.Outlines {
				drawn += wetarea.SignedArea(outline) / 1e6
			}
			if math.Abs(drawn-s.Area) > 1e-9 {
				t.Errorf("%v: %s is drawn with %v m², taken off with %v", changes, s.ID, drawn, s.Area)
			}
		}
	}
}

func TestWhatCannotBeIsNamed(t *testing.T) {
	rows := []struct {
		name       string
		changes    map[string]string
		field, key string
	}{
		{"text where a length belongs", map[string]string{"width": "wide"}, "width", "length.not_a_number"},
		{"a negative size", map[string]string{"length": "-2400"}, "length", "length.too_small"},
		{"an absurd size", map[string]string{"length": "2400 m"}, "length", "length.too_large"},
		{"a height asked back", map[string]string{"walls.a.height": "2,100"}, "walls.a.height", "length.ambiguous"},
		{"a doorway wider than its wall", map[string]string{"doorway.width": "2500"}, "doorway.width", "doorway.wider_than_wall"},
		{"a doorway past the end of its wall", map[string]string{"doorway.from_left": "1501"}, "doorway.from_left", "doorway.past_wall_end"},
		{"a doorway in no wall", map[string]string{"doorway.wall": "e"}, "doorway.wall", "choice.unknown"},
		{"a pipe above its wall's membrane", map[string]string{"pipes.1.up": "2095"}, "pipes.1.up", "pipe.off_surface"},
		{"a pipe past its wall", map[string]string{"pipes.1.along": "2395"}, "pipes.1.along", "pipe.off_surface"},
		{"a pipe off the floor", map[string]string{"pipes.2.up": "1790"}, "pipes.2.up", "pipe.off_surface"},
		{"a pipe in the doorway", map[string]string{"pipes.1.surface": "wall.c", "pipes.1.up": "150", "pipes.1.along": "800"}, "pipes.1.along", "pipe.in_doorway"},
		{"a drain under the wall", map[string]string{"drain.from_a": "20"}, "drain.from_a", "drain.off_floor"},
		{"half a pipe", map[string]string{"pipes.count": "1.5"}, "pipes.count", "number.not_whole"},
		{"a thousand pipes", map[string]string{"pipes.count": "1000"}, "pipes.count", "number.too_large"},
		{"nothing typed", map[string]string{"drain.diameter": ""}, "drain.diameter", "length.missing"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			asked := read(t, row.changes)
			if asked.Area != nil {
				t.Error("an area was made of it")
			}
			faults := asked.Form.Faults()
			if len(faults) == 0 || faults[0].Field != row.field || faults[0].Key != row.key {
				t.Fatalf("got %v, want %s at %s", faults, row.key, row.field)
			}
			for _, q := range asked.Form.Questions {
				if typed := shower(row.changes)[q.ID]; q.Typed != typed {
					t.Errorf("%s: what was typed, %q, became %q", q.ID, typed, q.Typed)
				}
			}
		})
	}
	if _, err := wetarea.Ask("dome", nil); err == nil {
		t.Error("an unknown form was read")
	}
}

func TestTheSketchGrowsWithTheAnswers(t *testing.T) {
	if read(t, map[string]string{"width": ""}).Sketch != nil {
		t.Error("a room of one side was drawn")
	}
	asked := read(t, map[string]string{"walls.a.height": "", "pipes.2.along": "9999", "doorway.width": "x"})
	if asked.Sketch == nil || len(asked.Sketch.Penetrations) != 1 || asked.Form.Next() != "walls.a.height" {
		t.Errorf("sketch %v, next %s", asked.Sketch, asked.Form.Next())
	}
	if !asked.Form.Fine("pipes.1.") {
		t.Error("a pipe is called off its wall before the wall's height is known")
	}
}

func TestAKeptSurveyReadsTheSame(t *testing.T) {
	asked := read(t, nil)
	kept := wetarea.Survey{Form: "rectangle", Answers: asked.Form.Answers()}
	area, err := kept.Read()
	if err != nil || area.Takeoff.TotalMembrane != asked.Area.Takeoff.TotalMembrane {
		t.Errorf("got %v, %v", area, err)
	}
	width := kept.Answers["width"]
	width.Value = 1700
	kept.Answers["width"] = width
	if _, err := kept.Read(); err == nil {
		t.Error("a value that is not what was typed was read")
	}
}

// Areas and angles do not change when a room is turned, or its walls numbered from another.
func TestGeometryIsTheSameFromEveryWall(t *testing.T) {
	room := wetarea.Room{
		Vertices: []wetarea.Point{{0, 0}, {3200, 0}, {3200, 1400}, {1500, 1400}, {1500, 2600}, {0, 2600}},
		Edges:    []wetarea.Edge{{Kind: "wall", Height: 1800}, {Kind: "wall", Height: 900}, {Kind: "threshold", WaterStop: 20}, {Kind: "wall", Height: 150}, {Kind: "wall", Height: 700}, {Kind: "wall", Height: 2100}},
	}
	want, err := room.Measure()
	if err != nil {
		t.Fatal(err)
	}
	n := len(room.Vertices)
	for shift := range n {
		turned := wetarea.Room{}
		angle := float64(shift) * 0.37
		for i := range n {
			v := room.Vertices[(i+shift)%n]
			turned.Vertices = append(turned.Vertices, wetarea.Point{v[0]*math.Cos(angle) - v[1]*math.Sin(angle), v[0]*math.Sin(angle) + v[1]*math.Cos(angle)})
			turned.Edges = append(turned.Edges, room.Edges[(i+shift)%n])
		}
		got, err := turned.Measure()
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(got.TotalMembrane-want.TotalMembrane) > 1e-9 || got.InternalCorners != want.InternalCorners || got.ExternalCorners != want.ExternalCorners ||
			math.Abs(got.WallWallInternal+got.WallWallExternal-want.WallWallInternal-want.WallWallExternal) > 1e-9 {
			t.Errorf("from wall %d: %+v, want %+v", shift, got, want)
		}
	}
}

func ExampleAsk() {
	asked, _ := wetarea.Ask("rectangle", map[string]string{"length": "2400", "width": "1.8 m"})
	fmt.Println("floor", asked.Sketch.Surfaces[0].Area, "m²; next:", asked.Form.Next())
	// Output: floor 4.32 m²; next: walls.a.height
}

func TestTheMiddleOfASurfaceLiesOnIt(t *testing.T) {
	square := func(x, y, wide, tall float64) []wetarea.Point {
		return []wetarea.Point{{x, y}, {x + wide, y}, {x + wide, y + tall}, {x, y + tall}}
	}
	for name, c := range map[string]struct {
		outlines [][]wetarea.Point
		near     wetarea.Point
		off      float64 // how far from there at most, mm
	}{
		"a wall":                    {[][]wetarea.Point{square(0, 0, 2400, 2100)}, wetarea.Point{1200, 1050}, 1},
		"a wall with a doorway":     {[][]wetarea.Point{square(0, 0, 750, 300), square(1650, 0, 750, 300)}, wetarea.Point{700, 150}, 100},
		"an angle round the middle": {[][]wetarea.Point{{{0, 0}, {3000, 0}, {3000, 600}, {600, 600}, {600, 3000}, {0, 3000}}}, wetarea.Point{550, 1500}, 60},
	} {
		s := wetarea.Surface{ID: name, Outlines: c.outlines}
		at, found := s.Middle()
		if !found || !s.Contains(at) {
			t.Errorf("%s: %v is not on it", name, at)
		}
		// Left and right of a doorway lie equally near.
		if c.off > 1 && at[0] > 1200 {
			at[0] = 2400 - at[0]
		}
		if math.Hypot(at[0]-c.near[0], at[1]-c.near[1]) > c.off {
			t.Errorf("%s: %v, want about %v", name, at, c.near)
		}
	}
}
