package wetarea_test

import (
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/wetarea"
)

func walls(heights ...float64) []wetarea.Edge {
	var edges []wetarea.Edge
	for _, height := range heights {
		edges = append(edges, wetarea.Edge{Kind: "wall", Height: height})
	}
	return edges
}

var square = []wetarea.Point{{0, 0}, {2000, 0}, {2000, 2000}, {0, 2000}}

func TestOutlinesThatAreNoFloor(t *testing.T) {
	rows := []struct {
		name     string
		vertices []wetarea.Point
		key      string
	}{
		{"no corner", nil, "outline.too_few_vertices"},
		{"two corners", square[:2], "outline.too_few_vertices"},
		{"a corner twice", []wetarea.Point{{0, 0}, {0, 0}, {2000, 0}, {0, 2000}}, "outline.zero_length_edge"},
		{"a wall that folds back", []wetarea.Point{{0, 0}, {2000, 0}, {1000, 0}, {1000, 1000}}, "outline.self_crossing"},
		{"walls that cross", []wetarea.Point{{0, 0}, {2000, 2000}, {2000, 0}, {0, 2000}}, "outline.self_crossing"},
		{"a corner on another wall", []wetarea.Point{{0, 0}, {2000, 0}, {2000, 1000}, {1000, 0}, {0, 1000}}, "outline.self_crossing"},
		{"a square", square, ""},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			faults := fault.Of(wetarea.CheckOutline(row.vertices))
			if row.key == "" != (len(faults) == 0) || row.key != "" && faults[0].Key != row.key {
				t.Errorf("got %v, want %s", faults, row.key)
			}
		})
	}
}

func TestOpeningsTakeWhatLiesBelowTheMembrane(t *testing.T) {
	rows := []struct {
		name                   string
		opening                wetarea.Opening
		wall, reveals, toFloor float64 // m², m², mm
	}{
		{"a door to above the membrane has two jambs", wetarea.Opening{Width: 800, Height: 2500, Reveal: 100}, 2*2 - 0.8*2, 2 * 2 * 0.1, 800},
		{"a lower door has a head too", wetarea.Opening{Width: 800, Height: 1900, Reveal: 100}, 2*2 - 0.8*1.9, 2*1.9*0.1 + 0.8*0.1, 800},
		{"a window partly above has a sill", wetarea.Opening{Sill: 1500, Width: 800, Height: 900, Reveal: 100}, 2*2 - 0.8*0.5, 2*0.5*0.1 + 0.8*0.1, 0},
		{"a window above the membrane takes nothing", wetarea.Opening{Sill: 2100, Width: 800, Height: 500, Reveal: 100}, 4, 0, 0},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			row.opening.From = 500
			room := wetarea.Room{Vertices: square, Edges: walls(2000, 2000, 2000, 2000), Openings: []wetarea.Opening{row.opening}}
			got, err := room.Measure()
			if err != nil || math.Abs(got.WallAreas[0]-row.wall) > 1e-9 || math.Abs(got.OpeningReveals-row.reveals) > 1e-9 || got.Threshold != row.toFloor {
				t.Errorf("wall %v, reveals %v, threshold %v, %v; want %v, %v, %v", got.WallAreas[0], got.OpeningReveals, got.Threshold, err, row.wall, row.reveals, row.toFloor)
			}
		})
	}
}

func TestGapsInTheTanking(t *testing.T) {
	edges := []wetarea.Edge{{Kind: "open"}, {Kind: "open", Trim: true}, {Kind: "threshold"}, {Kind: "threshold", WaterStop: 20}}
	got, err := wetarea.Room{Vertices: square, Edges: edges}.Measure()
	if err != nil || len(got.Gaps) != 2 || got.Gaps[0] != 0 || got.Gaps[1] != 2 {
		t.Errorf("gaps at %v, %v; want the untrimmed edge and the threshold without stop", got.Gaps, err)
	}
}

func TestCornersByTheirAngle(t *testing.T) {
	bent := []wetarea.Point{{0, 0}, {2000, 0}, {2000, 1000}, {1000, 1000}, {1000, 2000}, {0, 2000}}
	got, err := wetarea.Room{Vertices: bent, Edges: walls(200, 200, 200, 200, 200, 200)}.Measure()
	if err != nil || got.InternalCorners != 5 || got.ExternalCorners != 1 || got.FoldedByHand != 0 || got.PreformedExternal != 1 {
		t.Errorf("an L-shaped room: %+v, %v", got, err)
	}
	oblique := []wetarea.Point{{0, 0}, {2000, 0}, {2500, 1500}, {0, 1500}}
	got, err = wetarea.Room{Vertices: oblique, Edges: walls(200, 200, 200, 200)}.Measure()
	if err != nil || got.PreformedInternal != 2 || got.FoldedByHand != 2 {
		t.Errorf("an oblique wall: %d preformed, %d folded, %v", got.PreformedInternal, got.FoldedByHand, err)
	}
}
