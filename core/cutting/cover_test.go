package cutting_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"dusha/core/cutting"
	"dusha/core/wetarea"
)

func surface(kind string, outline ...wetarea.Point) wetarea.Surface {
	return wetarea.Surface{ID: "floor", Kind: kind, Outlines: [][]wetarea.Point{outline}}
}

func rectangle(a, b float64) wetarea.Surface {
	return surface("floor", wetarea.Point{0, 0}, wetarea.Point{a, 0}, wetarea.Point{a, b}, wetarea.Point{0, b})
}

// Over a rectangle strips come to what the rule for fields says: number, pieces, length, area and
// direction.
func TestCoverAgreesWithTheField(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 500 {
		lap := float64(r.IntN(120))
		f := cutting.Field{A: float64(400 + r.IntN(9000)), B: float64(400 + r.IntN(9000)), Width: float64(500 + r.IntN(700)), Lap: lap,
			Roll: float64(2500 + r.IntN(9000)), EndLap: lap, Layers: 1 + r.IntN(3)}
		f.SideTurnUp = float64(r.IntN(150))
		f.EndTurnUp = f.SideTurnUp
		want, err := f.Lay()
		if err != nil {
			t.Fatal(err)
		}
		got, err := cutting.Goods{Width: f.Width, Lap: lap, Roll: f.Roll, TurnUp: f.SideTurnUp, Layers: f.Layers}.Cover(rectangle(f.A, f.B), nil)
		if err != nil {
			t.Fatal(err)
		}
		chosen := map[string]cutting.Strips{"x": want.X, "y": want.Y}[want.Chosen]
		rows := map[int]map[int]bool{}
		for _, s := range got.Strips {
			if rows[s.Layer] == nil {
				rows[s.Layer] = map[int]bool{}
			}
			rows[s.Layer][s.Row] = true
		}
		extra := math.Abs(got.Area - chosen.Area) // staggered rows may take one lap more
		if got.Along != want.Chosen && math.Abs(want.X.Area-want.Y.Area) > 0.3 || len(rows[1]) != chosen.Strips && got.Along == want.Chosen {
			t.Fatalf("%+v: %s in %d rows, the rule says %s in %d", f, got.Along, len(rows[1]), want.Chosen, chosen.Strips)
		}
		if got.Along == want.Chosen && extra > float64(chosen.Strips)*lap*f.Width/1e6+1e-6 {
			t.Fatalf("%+v: %v m² of roll, the rule says %v", f, got.Area, chosen.Area)
		}
		if got.Along == want.Chosen && want.Second != nil && len(rows[2]) != want.Second.Strips {
			t.Fatalf("%+v: a second layer of %d, the rule says %d", f, len(rows[2]), want.Second.Strips)
		}
		if want.Warn != nil && got.Clear == *want.Warn {
			t.Fatalf("%+v: laps clear %v", f, got.Clear)
		}
	}
}

// Every place of a room of any form lies under a piece of each layer, no piece is wider than the
// roll or longer, and neighbours overlap by the lap.
func TestEveryPlaceIsCovered(t *testing.T) {
	l := surface("floor", wetarea.Point{0, 0}, wetarea.Point{5200, 0}, wetarea.Point{5200, 1500}, wetarea.Point{2100, 1500}, wetarea.Point{2100, 4300}, wetarea.Point{0, 4300})
	skew := surface("floor", wetarea.Point{0, 0}, wetarea.Point{4000, 300}, wetarea.Point{3300, 3100}, wetarea.Point{-400, 2600})
	r := rand.New(rand.NewPCG(9, 2))
	for _, s := range []wetarea.Surface{l, skew} {
		for _, g := range []cutting.Goods{
			{Width: 1000, Lap: 100, Roll: 50000, Layers: 1}, {Width: 1000, Lap: 50, Roll: 2000, Layers: 2}, {Width: 600, Lap: 0, Roll: 1300, Layers: 3, TurnUp: 80},
		} {
			c, err := g.Cover(s, nil)
			if err != nil {
				t.Fatal(err)
			}
			for _, p := range c.Strips {
				if p.Length > g.Roll+1e-6 || p.Width > g.Width+1e-6 || p.Length <= 0 || p.Width <= 0 {
					t.Fatalf("%+v: a piece of %v × %v", g, p.Length, p.Width)
				}
			}
			for i, p := range c.Strips {
				for _, q := range c.Strips[i+1:] {
					wide, tall := min(p.To[0], q.To[0])-max(p.From[0], q.From[0]), min(p.To[1], q.To[1])-max(p.From[1], q.From[1])
					if p.Layer == q.Layer && min(wide, tall) > g.Lap+1e-6 {
						t.Fatalf("%+v: two pieces of a layer overlap by %v × %v", g, wide, tall)
					}
				}
			}
			for range 4000 {
				at := wetarea.Point{float64(r.IntN(6000) - 500), float64(r.IntN(4500))}
				if !s.Contains(at) {
					continue
				}
				layers := map[int]bool{}
				for _, p := range c.Strips {
					if at[0] >= p.From[0]-1e-6 && at[0] <= p.To[0]+1e-6 && at[1] >= p.From[1]-1e-6 && at[1] <= p.To[1]+1e-6 {
						layers[p.Layer] = true
					}
				}
				if len(layers) != g.Layers {
					t.Fatalf("%+v: at %v lie %d layers of %d", g, at, len(layers), g.Layers)
				}
			}
		}
	}
}

// End laps of neighbouring rows, and of the layer above, do not meet.
func TestEndLapsAreStaggered(t *testing.T) {
	for _, length := range []float64{3000, 3900, 3950, 4000, 5600, 7700, 9000} {
		g := cutting.Goods{Width: 1000, Lap: 50, Roll: 2000, Layers: 1}
		c, err := g.Cover(rectangle(length, 5000), nil)
		if err != nil {
			t.Fatal(err)
		}
		axis := map[string]int{"x": 0, "y": 1}[c.Along]
		laps := map[int][]float64{}
		end := map[int]float64{}
		for _, p := range c.Strips {
			if last, more := end[p.Row]; more {
				laps[p.Row] = append(laps[p.Row], p.From[axis])
				if math.Abs(last-p.From[axis]-g.Lap) > 1e-6 {
					t.Errorf("%v: pieces of row %d overlap by %v", length, p.Row, last-p.From[axis])
				}
			}
			end[p.Row] = p.To[axis]
		}
		if len(laps) == 0 {
			t.Errorf("%v: no end laps", length)
		}
		for row, mine := range laps {
			for _, a := range mine {
				for _, b := range laps[row+1] {
					if math.Abs(a-b) < g.Lap {
						t.Errorf("%v: end laps of rows %d and %d meet at %v and %v", length, row, row+1, a, b)
					}
				}
			}
		}
	}
}

// A pipe is found on the piece it goes through, and on both where it stands in their lap.
func TestPipesAreLocated(t *testing.T) {
	g := cutting.Goods{Width: 1000, Lap: 100, Roll: 50000, Layers: 1, TurnUp: 60}
	pipes := []wetarea.Penetration{
		{ID: "pipe.1", Surface: "floor", At: wetarea.Point{700, 500}, Diameter: 50},
		{ID: "pipe.2", Surface: "floor", At: wetarea.Point{2000, 890}, Diameter: 110},
		{ID: "pipe.3", Surface: "wall.a", At: wetarea.Point{700, 500}, Diameter: 50},
	}
	c, err := g.Cover(rectangle(3000, 1700), pipes)
	if err != nil {
		t.Fatal(err)
	}
	found := map[string][]cutting.Hole{}
	for _, p := range c.Strips {
		for _, h := range p.Holes {
			found[h.Fitting] = append(found[h.Fitting], h)
		}
	}
	if c.Along != "x" || len(c.Strips) != 2 || len(found["pipe.3"]) != 0 {
		t.Fatalf("%s, %d strips, %+v", c.Along, len(c.Strips), found)
	}
	if h := found["pipe.1"]; len(h) != 1 || h[0] != (cutting.Hole{Fitting: "pipe.1", Along: 760, Across: 560, Diameter: 50}) {
		t.Errorf("pipe 1: %+v", h)
	}
	if h := found["pipe.2"]; len(h) != 2 || h[0].Across != 950 || h[1].Across != 50 {
		t.Errorf("pipe 2: %+v", h)
	}
}

// Tape lies over every joint of butt-jointed sheets.
func TestSeams(t *testing.T) {
	c, err := cutting.Goods{Width: 1000, Roll: 2500, Layers: 1}.Cover(rectangle(4000, 2600), nil)
	if err != nil {
		t.Fatal(err)
	}
	sum := 0.0
	for _, s := range c.Seams {
		sum += s.Length()
	}
	field, err := cutting.Field{A: 4000, B: 2600, Width: 1000, Roll: 2500, Layers: 1}.Lay()
	if err != nil || field.SeamTape == nil {
		t.Fatal(err)
	}
	// Four strips of 2.60 m beside each other, each with one joint across.
	if want := 3*2600.0 + 4*1000; sum != want || *field.SeamTape != want || c.Along != "y" {
		t.Errorf("%v mm of tape along %s, wanted %v (the rule for fields says %v)", sum, c.Along, want, *field.SeamTape)
	}
}

func TestLapsOverLaps(t *testing.T) {
	for _, row := range []struct {
		lap    float64
		layers int
		clear  bool
	}{{200, 2, true}, {201, 2, false}, {150, 3, true}, {151, 3, false}} {
		g := cutting.Goods{Width: 600, Lap: row.lap, Roll: 20000, Layers: row.layers}
		if c, err := g.Cover(rectangle(2000, 1500), nil); err != nil || c.Clear != row.clear {
			t.Errorf("lap %v of 600 in %d layers: clear %v, %v", row.lap, row.layers, c.Clear, err)
		}
	}
}

func TestGoodsThatCoverNothing(t *testing.T) {
	good := cutting.Goods{Width: 1000, Lap: 50, Roll: 50000, Layers: 1}
	for name, change := range map[string]func(*cutting.Goods){
		"no width": func(g *cutting.Goods) { g.Width = 0 }, "a lap as wide": func(g *cutting.Goods) { g.Lap = 1000 },
		"a roll within its laps": func(g *cutting.Goods) { g.Roll = 100 }, "no layer": func(g *cutting.Goods) { g.Layers = 0 },
		"a strip of threads": func(g *cutting.Goods) { g.Width, g.Lap = 51, 50 },
	} {
		g := good
		change(&g)
		if _, err := g.Cover(rectangle(4000, 3000), nil); err == nil {
			t.Errorf("%s is let pass", name)
		}
	}
}

// A room and its mirror image take the same strips: they may begin at either side.
func TestAMirroredFloorTakesAsMuch(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 7))
	for range 200 {
		a, b := float64(2000+r.IntN(4000)), float64(2000+r.IntN(4000))
		x, y := a*(0.3+r.Float64()*0.4), b*(0.3+r.Float64()*0.4)
		outline := []wetarea.Point{{0, 0}, {a, 0}, {a, y}, {x, y}, {x, b}, {0, b}}
		mirrored := make([]wetarea.Point, len(outline))
		for i, p := range outline {
			mirrored[len(outline)-1-i] = wetarea.Point{a - p[0], p[1]}
		}
		goods := cutting.Goods{Width: 1000, Lap: 80, Roll: 15000, Layers: 1}
		one, err1 := goods.Cover(surface("floor", outline...), nil)
		two, err2 := goods.Cover(surface("floor", mirrored...), nil)
		if err1 != nil || err2 != nil || math.Abs(one.Area-two.Area) > 1e-9 || one.Laps != two.Laps {
			t.Fatalf("%v: %v m² and %v laps, mirrored %v and %v (%v %v)", outline, one.Area, one.Laps, two.Area, two.Laps, err1, err2)
		}
	}
}
