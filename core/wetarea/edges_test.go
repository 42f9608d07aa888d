package wetarea_test

import (
	"math"
	"testing"

	"dusha/core/wetarea"
)

// Film edges end against nothing: tops, steps, rims, what of a wall stands above its neighbour, and
// the ends of a run.
func TestFilmEdgesAreThoseThatMeetNothing(t *testing.T) {
	for name, c := range map[string]struct {
		form  string
		typed map[string]string
		want  float64 // mm
	}{
		// tops 3.2 + 2.4 + 2.4 + (1.0 + 1.3), jambs of the door 2 × 0.3, walls beside the low one 2 × 1.8 m
		"a low wall beside high ones": {"rectangle", map[string]string{
			"length": "3200", "width": "2400", "walls.a.height": "2100", "walls.b.height": "2100", "walls.c.height": "300", "walls.d.height": "2100",
			"doorway.wall": "c", "doorway.from_left": "1000", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
			"drain.from_d": "1600", "drain.from_a": "500", "drain.diameter": "110", "pipes.count": "0",
		}, 14500},
		// top 3.0 and two ends of 2.0 m; the strip's far side 3.0 and its ends 2 × 0.5 m
		"a wall with a strip of floor": {"wall_run", map[string]string{"walls.count": "1", "walls.a.length": "3000", "height": "2000", "strip": "500"}, 11000},
		// the rim of 8 × 4 m, whatever the floor does
		"a pool whose floor falls": {"basin", map[string]string{
			"outline": "rectangle", "length": "8000", "width": "4000", "stations": "1 2", "stations.1.at": "0", "stations.1.depth": "1000", "stations.2.at": "8000",
			"stations.2.depth": "1800", "freeboard": "100",
		}, 24000},
		// tops 2 × (3.2 + 2.4), the doorway's jambs and head 2 × 2.0 + 0.9 m; the bench ends against floor and wall
		"a room with a bench": {"room", map[string]string{
			"outline": "rectangle", "length": "3200", "width": "2400", "height": "2100", "openings": "1", "openings.1.wall": "c", "openings.1.from_left": "1000",
			"openings.1.width": "900", "openings.1.height": "2000", "openings.1.water_stop": "20",
			"boxes": "1", "boxes.1.wall": "a", "boxes.1.from_left": "800", "boxes.1.width": "700", "boxes.1.depth": "400", "boxes.1.height": "450",
			"drains": "1", "drains.1.wall": "d", "drains.1.along": "1200", "drains.1.out": "1500", "drains.1.diameter": "110",
		}, 16100},
	} {
		asked, err := wetarea.Ask(c.form, c.typed)
		if err != nil || asked.Area == nil {
			t.Fatalf("%s: %v %v", name, err, asked.Form.Faults())
		}
		if got := asked.Area.Termination; math.Abs(got-c.want) > 1e-6 {
			t.Errorf("%s: %v mm, want %v", name, got, c.want)
		}
	}
}
