package wetarea_test

import (
	"math"
	"testing"

	"dusha/core/wetarea"
)

func TestGroundsOfASurface(t *testing.T) {
	floor := wetarea.Surface{ID: "floor", Kind: "floor", Area: 6 - 0.25, Outlines: [][]wetarea.Point{{{0, 0}, {3000, 0}, {3000, 2000}, {0, 2000}}}, Holes: [][]wetarea.Point{{{500, 500}, {1000, 500}, {1000, 1000}, {500, 1000}}}}
	notched := wetarea.Surface{ID: "wall.a", Kind: "wall", Area: 5, Outlines: [][]wetarea.Point{{{0, 0}, {3000, 0}, {3000, 2000}, {2000, 2000}, {2000, 1000}, {1000, 1000}, {1000, 2000}, {0, 2000}}}}
	part := func(id, surface string, x0, y0, x1, y1 float64) wetarea.Patch {
		return wetarea.Patch{ID: id, Surface: surface, Material: "tiles", From: &wetarea.Point{x0, y0}, To: &wetarea.Point{x1, y1}}
	}
	whole := func(id, surface, material string) wetarea.Patch {
		return wetarea.Patch{ID: id, Surface: surface, Material: material}
	}
	rows := []struct {
		name    string
		surface wetarea.Surface
		patches []wetarea.Patch
		want    map[string]float64 // material → m²
	}{
		{"nothing said", floor, nil, map[string]float64{"": 5.75}},
		{"everywhere", floor, []wetarea.Patch{whole("1", "all", "screed")}, map[string]float64{"screed": 5.75}},
		{"walls are not the floor", floor, []wetarea.Patch{whole("1", "walls", "plaster")}, map[string]float64{"": 5.75}},
		{"the surface before walls and everywhere", notched, []wetarea.Patch{whole("1", "wall.a", "board"), whole("2", "walls", "plaster"), whole("3", "all", "screed")}, map[string]float64{"board": 5}},
		{"the later of two alike", floor, []wetarea.Patch{whole("1", "floor", "board"), whole("2", "floor", "metal")}, map[string]float64{"metal": 5.75}},
		{"a part is cut out", floor, []wetarea.Patch{whole("1", "all", "screed"), part("2", "floor", 1000, 0, 3000, 1000)}, map[string]float64{"tiles": 2, "screed": 3.75}},
		{"a hole does not count", floor, []wetarea.Patch{part("1", "floor", 0, 0, 1000, 2000)}, map[string]float64{"tiles": 1.75, "": 4}},
		{"nothing beyond the edge", floor, []wetarea.Patch{part("1", "floor", 2500, 1500, 9000, 9000)}, map[string]float64{"tiles": 0.25, "": 5.5}},
		{"across a notch", notched, []wetarea.Patch{part("1", "wall.a", 500, 500, 2500, 1500)}, map[string]float64{"tiles": 1.5, "": 3.5}},
		{"given from the other corner", floor, []wetarea.Patch{part("1", "floor", 3000, 1000, 1000, 0)}, map[string]float64{"tiles": 2, "": 3.75}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			got, total := map[string]float64{}, 0.0
			for _, g := range (wetarea.Area{Patches: row.patches}).Grounds(row.surface) {
				got[g.Material] += g.Area
				total += g.Area
			}
			for material, want := range row.want {
				if math.Abs(got[material]-want) > 1e-9 {
					t.Errorf("%q: %v m², want %v", material, got[material], want)
				}
			}
			if len(got) != len(row.want) || math.Abs(total-row.surface.Area) > 1e-9 {
				t.Errorf("%v add up to %v of %v m²", got, total, row.surface.Area)
			}
		})
	}
}
