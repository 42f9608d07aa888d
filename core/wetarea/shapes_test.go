package wetarea_test

import (
	"maps"
	"math"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

var (
	lRoom    = wetareatest.LRoom
	pool     = wetareatest.Pool
	shapes   = wetareatest.Shapes
	complete = wetareatest.Complete
)

// outlined is the area within a surface's outlines less its holes, m².
func outlined(s wetarea.Surface) float64 {
	sum := 0.0
	for _, outline := range s.Outlines {
		sum += math.Abs(wetarea.SignedArea(outline))
	}
	for _, hole := range s.Holes {
		sum -= math.Abs(wetarea.SignedArea(hole))
	}
	return sum / 1e6
}

func near(a, b, within float64) bool { return math.Abs(a-b) <= within }

func TestSurfacesAndJunctionsOfEveryShapeAddUp(t *testing.T) {
	for name, shape := range shapes {
		t.Run(name, func(t *testing.T) {
			area := complete(t, shape.Form, shape.Typed)
			total, ids := 0.0, map[string]bool{}
			for _, s := range area.Surfaces {
				total += s.Area
				within := 1e-6
				if shape.Form == "round_tank" {
					within = s.Area * 0.002 // the circle is drawn with 64 corners
				}
				if got := outlined(s); !near(got, s.Area, within) {
					t.Errorf("%s: outlines hold %.6f m², area %.6f", s.ID, got, s.Area)
				}
				if ids[s.ID] {
					t.Errorf("two surfaces are called %s", s.ID)
				}
				ids[s.ID] = true
			}
			if !near(total, area.Takeoff.TotalMembrane, 1e-6) {
				t.Errorf("surfaces add up to %.6f m², total %.6f", total, area.Takeoff.TotalMembrane)
			}
			sums := map[string]float64{}
			for _, j := range area.Junctions {
				sums[j.Kind+" "+j.Turn] += j.Length
				if j.Length <= 0 || len(j.Lines) == 0 || ids[j.ID] {
					t.Errorf("junction %s: length %v, %d lines, twice: %v", j.ID, j.Length, len(j.Lines), ids[j.ID])
				}
				ids[j.ID] = true
				for _, line := range j.Lines {
					if _, known := area.Surface(line.Surface); !known {
						t.Errorf("%s lies on %s, which is no surface", j.ID, line.Surface)
					}
				}
			}
			take := area.Takeoff
			for kind, want := range map[string]float64{
				"floor_wall internal": take.FloorWall, "threshold internal": take.Threshold, "wall_wall internal": take.WallWallInternal, "wall_wall external": take.WallWallExternal,
				"niche internal": take.NicheInternal, "niche external": take.NicheExternal,
			} {
				if !near(sums[kind], want, 1e-6) {
					t.Errorf("%s: junctions add up to %.3f mm, takeoff %.3f", kind, sums[kind], want)
				}
			}
			if shape.Form == "room" {
				if got, want := sums["box internal"]+sums["box external"], take.BoxFoot+take.BoxToWall+take.BoxEdge; !near(got, want, 1e-6) {
					t.Errorf("boxes: junctions add up to %.3f mm, takeoff %.3f", got, want)
				}
			}
		})
	}
}

// placed is a surface's outlines as they lie in the net.
func placed(s wetarea.Surface) [][]wetarea.Point {
	var list [][]wetarea.Point
	for _, outline := range s.Outlines {
		var laid []wetarea.Point
		for _, p := range outline {
			laid = append(laid, s.Laid.Place(p))
		}
		list = append(list, laid)
	}
	return list
}

// inPolygon by crossing number; points of interest keep clear of edges.
func inPolygon(outline []wetarea.Point, p wetarea.Point) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < a[0]+(p[1]-a[1])*(b[0]-a[0])/(b[1]-a[1]) {
			in = !in
		}
	}
	return in
}

func TestNothingOverlapsInTheNet(t *testing.T) {
	for name, shape := range shapes {
		t.Run(name, func(t *testing.T) {
			area := complete(t, shape.Form, shape.Typed)
			for i, s := range area.Surfaces {
				for _, other := range area.Surfaces[i+1:] {
					if at, found := shared(s, other); found {
						t.Errorf("%s and %s lie over each other at %.0f", s.ID, other.ID, at)
					}
				}
			}
		})
	}
}

// shared looks for a point of a grid, slightly askew, that lies in both surfaces.
func shared(a, b wetarea.Surface) (wetarea.Point, bool) {
	const cells = 60
	for _, p := range placed(a) {
		for _, q := range placed(b) {
			low, high := wetarea.Point{math.Inf(1), math.Inf(1)}, wetarea.Point{math.Inf(-1), math.Inf(-1)}
			for _, v := range p {
				for k := range v {
					low[k], high[k] = min(low[k], v[k]), max(high[k], v[k])
				}
			}
			for i := range cells {
				for j := range cells {
					at := wetarea.Point{low[0] + (high[0]-low[0])*(float64(i)+0.4321)/cells, low[1] + (high[1]-low[1])*(float64(j)+0.5678)/cells}
					if inPolygon(p, at) && inPolygon(q, at) {
						return at, true
					}
				}
			}
		}
	}
	return wetarea.Point{}, false
}

func TestARunThatDoesNotClose(t *testing.T) {
	asked, _ := wetarea.Ask("room", lRoom(map[string]string{"walls.a.length": "2612"}))
	if asked.Run == nil || !near(asked.Run.Gap, 12, 1e-9) || asked.Run.Closed {
		t.Fatalf("the gap of 12 mm is not seen: %+v", asked.Run)
	}
	if next := asked.Form.Next(); next != "closing" {
		t.Errorf("asked next is %q, not how to share the gap out", next)
	}
	for how, want := range map[string]bool{wetarea.ShareLengths: true, wetarea.ShareCorners: false} {
		area := complete(t, "room", lRoom(map[string]string{"walls.a.length": "2612", "closing": how}))
		square := true
		for _, angle := range area.Takeoff.VertexAngles {
			square = square && (near(angle, 90, 1e-9) || near(angle, 270, 1e-9))
		}
		if square != want {
			t.Errorf("shared by %s: angles %v", how, area.Takeoff.VertexAngles)
		}
	}
	// 12 mm over 2612 against 1100 + 1500: each gives in proportion to its length.
	area := complete(t, "room", lRoom(map[string]string{"walls.a.length": "2612", "closing": "lengths"}))
	wall, _ := area.Surface("wall.a")
	if want := 2612 * (1 - 12.0/(2612+1100+1500)); !near(wall.Length, want, 1e-6) {
		t.Errorf("wall A is %.3f mm after sharing, want %.3f", wall.Length, want)
	}
}

func TestWhatIsWrongNamesItsWall(t *testing.T) {
	for _, c := range []struct {
		name, form string
		typed      map[string]string
		field, key string
	}{
		{"a run far from closing", "room", lRoom(map[string]string{"walls.a.length": "4600", "closing": "lengths"}), "closing", "outline.does_not_close"},
		{"walls that cross", "room", map[string]string{"outline": "points", "points": "0 0; 2000 1500; 2000 0; 0 1500"}, "points", "outline.self_crossing.walls"},
		{"a wall of no length", "room", lRoom(map[string]string{"walls.c.length": "0"}), "walls.c.length", "length.too_small"},
		{"a negative length", "room", lRoom(map[string]string{"walls.c.length": "-100"}), "walls.c.length", "length.too_small"},
		{"an opening wider than its wall", "room", lRoom(map[string]string{"openings": "1", "openings.1.wall": "b", "openings.1.from_left": "0", "openings.1.width": "1200", "openings.1.height": "2000"}), "openings.1.width", "part.wider_than_wall"},
		{"a niche over the film", "room", lRoom(map[string]string{"niches": "1", "niches.1.wall": "b", "niches.1.from_left": "0", "niches.1.width": "300", "niches.1.sill": "900", "niches.1.height": "300", "niches.1.depth": "90"}), "niches.1.height", "niche.over_the_film"},
		{"a bench outside", "room", lRoom(map[string]string{"boxes": "1", "boxes.1.wall": "b", "boxes.1.from_left": "0", "boxes.1.width": "500", "boxes.1.depth": "2700", "boxes.1.height": "400"}), "boxes.1.depth", "box.outside"},
		{"a bench in the doorway", "room", lRoom(map[string]string{"openings": "1", "openings.1.wall": "e", "openings.1.from_left": "300", "openings.1.width": "900", "openings.1.height": "2000", "boxes": "1", "boxes.1.wall": "f", "boxes.1.from_left": "0", "boxes.1.width": "500", "boxes.1.depth": "1300", "boxes.1.height": "400"}), "boxes.1.from_left", "box.in_doorway"},
		{"a drain in the notch", "room", lRoom(map[string]string{"drains": "1", "drains.1.wall": "e", "drains.1.along": "700", "drains.1.out": "2300", "drains.1.diameter": "110"}), "drains.1.along", "feature.off_surface"},
		{"stations out of order", "basin", pool(map[string]string{"stations.2.at": "1300"}), "stations.3.at", "basin.stations_out_of_order"},
		{"stations that do not cover the plan", "basin", pool(map[string]string{"stations.4.at": "2800"}), "stations.4.at", "basin.stations_do_not_cover"},
		{"a fall over the threshold", "deck", func() map[string]string {
			typed := maps.Clone(shapes["flat roof"].Typed)
			typed["fall.height"] = "40"
			return typed
		}(), "fall.n", "falls.over_the_threshold"},
		{"a fall without a drain", "room", lRoom(map[string]string{"fall": "to_lay", "fall.n": "60", "fall.least": "20"}), "fall", "falls.no_drain"},
		{"too many corners", "room", map[string]string{"outline": "points", "points": strings.Repeat("1 1; ", 3000)}, "points", "outline.too_many_corners"},
		{"more water than tank", "round_tank", map[string]string{"diameter": "1800", "tank_height": "1600", "water_depth": "1700"}, "water_depth", "tank.water_over_height"},
		{"a strip wider than the panel", "wall_run", map[string]string{"walls.count": "2", "walls.a.length": "400", "walls.b.corner": "internal", "walls.b.length": "400", "height": "2000", "strip": "500"}, "strip", "run.strip_too_wide"},
	} {
		t.Run(c.name, func(t *testing.T) {
			asked, err := wetarea.Ask(c.form, c.typed)
			if err != nil {
				t.Fatal(err)
			}
			faults := asked.Form.Faults()
			if asked.Area != nil || !slices.ContainsFunc(faults, func(f *fault.Fault) bool { return f.Field == c.field && f.Key == c.key }) {
				t.Errorf("faults are %v, want %s at %s", faults, c.key, c.field)
			}
		})
	}
}

func TestVolumeIsTheIntegralOfTheDepth(t *testing.T) {
	area := complete(t, "basin", pool(nil))
	// 0.9 × 1.2 + (1.1 + 1.5)/2 × 1.8 over 2 m, less the step of 0.3 × 2 × 0.25 m.
	if want := 1000 * (2*(0.9*1.2+1.3*1.8) - 0.3*2*0.25); !near(area.Water.Volume, want, 1e-6) {
		t.Errorf("the pool holds %.3f L, want %.3f", area.Water.Volume, want)
	}
	for i, level := range area.Water.Levels[1:] {
		if level.Volume >= area.Water.Levels[i].Volume {
			t.Errorf("the volume does not shrink with the level: %+v", area.Water.Levels)
		}
	}
	if last := area.Water.Levels[len(area.Water.Levels)-1]; !near(last.Volume, 0, 1e-9) {
		t.Errorf("empty at the floor, not %.3f L", last.Volume)
	}
}

func TestWaterPressesByItsHead(t *testing.T) {
	area := complete(t, "wall_run", shapes["cellar wall"].Typed)
	for _, h := range area.Heads {
		if h.Positive != 0 || h.Negative != 1500 || !near(h.NegativeBar, 0.0981*1.5, 1e-12) {
			t.Errorf("%+v", h)
		}
	}
	if len(area.Heads) != len(area.Surfaces) {
		t.Errorf("%d heads for %d surfaces", len(area.Heads), len(area.Surfaces))
	}
}

func TestAGapInTheTanking(t *testing.T) {
	typed := maps.Clone(shapes["L-shaped room with niche, window and bench"].Typed)
	delete(typed, "openings.1.water_stop")
	typed["walls.b.kind"] = "open"
	typed["zones"] = ""
	area := complete(t, "room", typed)
	if want := []string{"edge.b", "opening.1"}; !slices.Equal(slices.Sorted(slices.Values(area.Gaps)), want) {
		t.Errorf("gaps are %v, want %v", area.Gaps, want)
	}
}

func TestSurfacesKeepTheirNamesWhenASizeChanges(t *testing.T) {
	shape := shapes["L-shaped room with niche, window and bench"]
	before := complete(t, shape.Form, shape.Typed)
	typed := maps.Clone(shape.Typed)
	typed["walls.a.length"], typed["walls.c.length"], typed["openings"] = "2700", "1200", "3"
	after := complete(t, shape.Form, typed)
	var names [2][]string
	for k, area := range []*wetarea.Area{before, after} {
		for _, s := range area.Surfaces {
			names[k] = append(names[k], s.ID)
		}
	}
	if !slices.Equal(names[0], names[1]) {
		t.Errorf("surfaces were %v, are %v", names[0], names[1])
	}
	before2, _ := before.Surface("wall.a")
	after2, _ := after.Surface("wall.a")
	if before2.Length == after2.Length {
		t.Error("the size did not change")
	}
}

func TestAreasAreTheSameTurnedAndRenumbered(t *testing.T) {
	points := []wetarea.Point{{0, 0}, {3200, 0}, {3200, 1400}, {1500, 1400}, {1500, 2600}, {0, 2600}}
	measure := func(turn float64, first int) wetarea.Takeoff {
		sin, cos := math.Sincos(turn)
		var v []wetarea.Point
		for k := range points {
			p := points[(k+first)%len(points)]
			v = append(v, wetarea.Point{cos*p[0] - sin*p[1] + 100, sin*p[0] + cos*p[1] - 70})
		}
		edges := make([]wetarea.Edge, len(v))
		for i := range edges {
			edges[i] = wetarea.Edge{Kind: "wall", Height: 200}
		}
		got, err := wetarea.Room{Vertices: v, Edges: edges}.Measure()
		if err != nil {
			t.Fatal(err)
		}
		return got
	}
	want := measure(0, 0)
	for turn := 0.0; turn < 6; turn += 0.37 {
		for first := range points {
			got := measure(turn, first)
			if !near(got.TotalMembrane, want.TotalMembrane, 1e-9) || !near(got.FloorWall, want.FloorWall, 1e-6) || got.InternalCorners != want.InternalCorners || got.ExternalCorners != want.ExternalCorners {
				t.Fatalf("turned by %.2f from corner %d: %+v, want %+v", turn, first, got, want)
			}
		}
	}
}

func FuzzAsk(f *testing.F) {
	for _, shape := range shapes {
		for id, text := range shape.Typed {
			f.Add(shape.Form, id, text)
		}
	}
	f.Fuzz(func(t *testing.T, form, id, text string) {
		for _, shape := range shapes {
			typed := maps.Clone(shape.Typed)
			typed[id] = text
			asked, err := wetarea.Ask(shape.Form, typed)
			if err != nil {
				t.Fatal(err)
			}
			if asked.Area == nil && len(asked.Form.Faults()) == 0 {
				t.Fatalf("%s with %s = %q is neither read nor refused", shape.Form, id, text)
			}
		}
	})
}

func TestLevelsThatMissTheRuleAreFound(t *testing.T) {
	typed := maps.Clone(shapes["flat roof"].Typed)
	maps.Copy(typed, map[string]string{"fall": "found", "fall.n": "60", "fall.drain_level": "-5", "levels": "1 2",
		// 400 mm from wall F and 400 along it is the drain; 1200 further along, 20 or 19.9 mm over it
		"levels.1.wall": "f", "levels.1.along": "1600", "levels.1.out": "400", "levels.1.height": "15",
		"levels.2.wall": "f", "levels.2.along": "1600", "levels.2.out": "400", "levels.2.height": "14.9"})
	area := complete(t, "deck", typed)
	if area.Falls.Misses != 1 || area.Falls.Levels[0].Misses || !area.Falls.Levels[1].Misses || area.Falls.LeastAt != "2" {
		t.Errorf("1 in 60 is 20 mm in 1.2 m: %+v", area.Falls)
	}
}

func TestAMovementJointIsCutOutOfNoSurfaceAndGetsABand(t *testing.T) {
	area := complete(t, "room", shapes["L-shaped room with niche, window and bench"].Typed)
	i := slices.IndexFunc(area.Junctions, func(j wetarea.Junction) bool { return j.ID == "line.1" })
	if i < 0 || area.Junctions[i].Kind != "movement" || area.Junctions[i].Length != 800 || area.Features[0].Movement != 2 {
		t.Errorf("%+v, %+v", area.Junctions, area.Features)
	}
}
