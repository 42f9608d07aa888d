package wetarea_test

import (
	"math"
	"testing"

	"dusha/core/wetarea"
)

// lFloor is an L: the far leg is hidden from a drain deep in the other.
var lFloor = []wetarea.Point{{0, 0}, {3000, 0}, {3000, 1200}, {1400, 1200}, {1400, 2500}, {0, 2500}}

// wayByHand is the shortest way in the L to a drain: straight where the corner at (1400, 1200)
// does not stand between, else by that corner.
func wayByHand(p, drain wetarea.Point) float64 {
	corner := wetarea.Point{1400, 1200}
	side := (corner[0]-drain[0])*(p[1]-drain[1]) - (corner[1]-drain[1])*(p[0]-drain[0])
	hidden := p[1] > 1200 && drain[0] > 1400 && side < 0
	if !hidden {
		return math.Hypot(p[0]-drain[0], p[1]-drain[1])
	}
	return math.Hypot(p[0]-corner[0], p[1]-corner[1]) + math.Hypot(corner[0]-drain[0], corner[1]-drain[1])
}

func TestScreedIsTheIntegralOfTheWayToTheNearestDrain(t *testing.T) {
	for _, drains := range [][]wetarea.Point{{{2700, 600}}, {{2700, 300}, {200, 2300}}, {{700, 600}, {2500, 900}, {300, 2200}}} {
		got, err := wetarea.Screed{Vertices: lFloor, Drains: drains, Least: 20, Slope: 80}.Measure()
		if err != nil {
			t.Fatal(err)
		}
		sum, step := 0.0, 5.0
		for x := step / 2; x < 3000; x += step {
			for y := step / 2; y < 2500; y += step {
				if x > 1400 && y > 1200 {
					continue
				}
				least := math.Inf(1)
				for _, d := range drains {
					least = min(least, wayByHand(wetarea.Point{x, y}, d))
				}
				sum += (20 + least/80) * step * step
			}
		}
		if want := sum / 1e6; math.Abs(got.Volume-want) > want*1e-4 {
			t.Errorf("drains at %v: %.4f L, the sum over a fine grid is %.4f", drains, got.Volume, want)
		}
	}
}

func TestScreedTurnedAndMirroredIsTheSame(t *testing.T) {
	drain := wetarea.Point{2700, 600}
	want, err := wetarea.Screed{Vertices: lFloor, Drains: []wetarea.Point{drain}, Least: 15, Slope: 60}.Measure()
	if err != nil {
		t.Fatal(err)
	}
	for turn := 0.3; turn < 6; turn += 1.1 {
		sin, cos := math.Sincos(turn)
		at := func(p wetarea.Point) wetarea.Point { return wetarea.Point{cos*p[0] + sin*p[1], sin*p[0] - cos*p[1]} }
		var v []wetarea.Point
		for _, p := range lFloor {
			v = append(v, at(p))
		}
		got, err := wetarea.Screed{Vertices: v, Drains: []wetarea.Point{at(drain)}, Least: 15, Slope: 60}.Measure()
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(got.Volume-want.Volume) > want.Volume*1e-6 || math.Abs(got.Greatest-want.Greatest) > 1e-6 {
			t.Errorf("turned by %.1f: %+v, want %+v", turn, got, want)
		}
	}
}

func TestFallsThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		name   string
		screed wetarea.Screed
	}{
		{"no drain", wetarea.Screed{Vertices: lFloor, Slope: 80}},
		{"a drain outside", wetarea.Screed{Vertices: lFloor, Drains: []wetarea.Point{{2500, 2000}}, Slope: 80}},
		{"no slope", wetarea.Screed{Vertices: lFloor, Drains: []wetarea.Point{{700, 600}}}},
	} {
		if _, err := c.screed.Measure(); err == nil {
			t.Errorf("%s is taken", c.name)
		}
	}
}
