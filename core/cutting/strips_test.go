package cutting_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/wetarea"
)

func field() cutting.Field {
	return cutting.Field{A: 4000, B: 3000, Width: 1000, Lap: 50, Roll: 50000, EndLap: 100}
}

// Strips side by side, less their laps, always cover the field, and one fewer never does.
func TestStripsCoverAndNoneIsTooMany(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 9))
	for range 2000 {
		f := cutting.Field{
			A: float64(50 + r.IntN(12000)), B: float64(50 + r.IntN(12000)), Width: float64(200 + r.IntN(1300)), Lap: float64(r.IntN(150)),
			Roll: float64(3000 + r.IntN(40000)), EndLap: float64(r.IntN(200)), SideTurnUp: float64(r.IntN(200)), EndTurnUp: float64(r.IntN(200)), Layers: 1 + r.IntN(3),
		}
		l, err := f.Lay()
		if err != nil {
			t.Fatal(err)
		}
		for _, way := range []struct {
			s             cutting.Strips
			along, across float64
		}{{l.X, f.A, f.B}, {l.Y, f.B, f.A}} {
			wide := func(n int) float64 { return float64(n)*f.Width - float64(n-1)*f.Lap }
			if w := way.across + 2*f.SideTurnUp; wide(way.s.Strips) < w || way.s.Strips > 1 && wide(way.s.Strips-1) >= w {
				t.Fatalf("%+v: %d strips over %v mm", f, way.s.Strips, w)
			}
			if piece := (way.s.Laid-float64(way.s.Pieces-1)*f.EndLap)/float64(way.s.Pieces) + f.EndLap*float64(way.s.Pieces-1)/float64(way.s.Pieces); piece > f.Roll+1e-6 {
				t.Fatalf("%+v: a piece of %v mm", f, piece)
			}
		}
		least := min(l.X.Area, l.Y.Area)
		chosen := map[string]cutting.Strips{"x": l.X, "y": l.Y}[l.Chosen]
		if chosen.Area > least+1e-9 {
			t.Fatalf("%+v: %s takes %v m², the other way %v", f, l.Chosen, chosen.Area, least)
		}
		if (f.Layers > 1) != (l.Second != nil) || (f.Layers > 2) != (l.Third != nil) || l.Warn != nil && *l.Warn == l.Second.Clear {
			t.Fatalf("%+v: layers %+v %+v", f, l.Second, l.Third)
		}
	}
}

func TestARollThatCoversNothing(t *testing.T) {
	rows := []struct {
		name, field string
		change      func(*cutting.Field)
	}{
		{"a lap as wide as the roll", "lap_mm", func(f *cutting.Field) { f.Lap = 1000 }},
		{"a lap below nothing", "lap_mm", func(f *cutting.Field) { f.Lap = -1 }},
		{"a roll within its end lap", "roll_length_mm", func(f *cutting.Field) { f.Roll = 100 }},
		{"no width", "roll_width_mm", func(f *cutting.Field) { f.Width = 0 }},
		{"no field", "a_mm", func(f *cutting.Field) { f.B = 0 }},
		{"four layers", "layers", func(f *cutting.Field) { f.Layers = 4 }},
		{"a number that is none", "a_mm", func(f *cutting.Field) { f.A = math.NaN() }},
	}
	for _, row := range rows {
		f := field()
		row.change(&f)
		_, err := f.Lay()
		if faults := fault.Of(err); len(faults) != 1 || faults[0].Field != row.field {
			t.Errorf("%s: %v", row.name, err)
		}
	}
}

// Whatever the outline, the strips hold its area, and a rectangle takes what the field takes.
func TestStripsOverAFloor(t *testing.T) {
	bent := []wetarea.Point{{0, 0}, {4000, 0}, {4000, 1500}, {1800, 1500}, {1800, 3200}, {0, 3200}}
	for _, direction := range []string{"x", "y"} {
		c, err := cutting.Floor{Vertices: bent, Direction: direction, Width: 1000, Lap: 50}.Cover()
		if err != nil || c.Area < wetarea.SignedArea(bent)/1e6 || c.Strips != len(c.Lengths) {
			t.Errorf("%s: %+v, %v", direction, c, err)
		}
	}
	whole := []wetarea.Point{{0, 0}, {4000, 0}, {4000, 3000}, {0, 3000}}
	l, _ := field().Lay()
	for direction, want := range map[string]cutting.Strips{"x": l.X, "y": l.Y} {
		c, err := cutting.Floor{Vertices: whole, Direction: direction, Width: 1000, Lap: 50}.Cover()
		if err != nil || c.Strips != want.Strips || math.Abs(c.Area-want.Area) > 1e-9 {
			t.Errorf("%s: %+v, want %+v", direction, c, want)
		}
	}
	if _, err := (cutting.Floor{Vertices: whole, Direction: "z", Width: 1000}).Cover(); err == nil {
		t.Error("strips run along z")
	}
	if _, err := (cutting.Floor{Vertices: whole[:2], Direction: "x", Width: 1000}).Cover(); err == nil {
		t.Error("a line was covered")
	}
}

func ExampleField_Lay() {
	l, _ := cutting.Field{A: 4000, B: 3000, Width: 1000, Lap: 50, Roll: 50000, EndLap: 100}.Lay()
	fmt.Printf("along %s: %d strips of %.0f mm, %.1f m² of roll\n", l.Chosen, l.Y.Strips, l.Y.Laid, l.Y.Area)
	// Output: along y: 5 strips of 3000 mm, 15.0 m² of roll
}
