// Package wetareatest has surveys for tests.
package wetareatest

import (
	"maps"
	"testing"

	"dusha/core/wetarea"
)

// Shape is a survey as it is typed.
type Shape struct {
	Form  string
	Typed map[string]string
}

// LRoom is an L-shaped room walked wall after wall from the far wall, clockwise, changed.
func LRoom(changes map[string]string) map[string]string {
	typed := map[string]string{
		"outline": "walls", "walls.count": "6",
		"walls.a.length": "2600", "walls.b.corner": "internal", "walls.b.length": "1100", "walls.c.corner": "internal", "walls.c.length": "1100",
		"walls.d.corner": "external", "walls.d.length": "1100", "walls.e.corner": "internal", "walls.e.length": "1500", "walls.f.corner": "internal", "walls.f.length": "2200",
		"height": "150", "walls.a.height": "2100", "walls.f.height": "2100",
	}
	maps.Copy(typed, changes)
	return typed
}

// Pool is a rectangular pool with a riser and a step, changed.
func Pool(changes map[string]string) map[string]string {
	typed := map[string]string{
		"outline": "rectangle", "length": "3000", "width": "2000", "stations": "1 2 3 4", "stations.1.at": "0", "stations.1.depth": "900",
		"stations.2.at": "1200", "stations.2.depth": "900", "stations.3.at": "1200", "stations.3.depth": "1100", "stations.4.at": "3000", "stations.4.depth": "1500", "freeboard": "100",
		"boxes": "1", "boxes.1.kind": "step", "boxes.1.wall": "d", "boxes.1.from_left": "0", "boxes.1.width": "2000", "boxes.1.depth": "300", "boxes.1.height": "250",
	}
	maps.Copy(typed, changes)
	return typed
}

// Shapes are surveys of every form that are complete.
var Shapes = map[string]Shape{
	"L-shaped room with niche, window and bench": {"room", LRoom(map[string]string{
		"niches": "1", "niches.1.wall": "a", "niches.1.from_left": "300", "niches.1.width": "600", "niches.1.sill": "1000", "niches.1.height": "300", "niches.1.depth": "100",
		"openings": "1 3", "openings.1.wall": "e", "openings.1.from_left": "300", "openings.1.width": "900", "openings.1.height": "2000", "openings.1.water_stop": "20",
		"openings.3.wall": "f", "openings.3.from_left": "500", "openings.3.width": "600", "openings.3.sill": "1200", "openings.3.height": "500", "openings.3.reveal": "120",
		"boxes": "1", "boxes.1.wall": "f", "boxes.1.from_left": "800", "boxes.1.width": "700", "boxes.1.depth": "400", "boxes.1.height": "450",
		"drains": "1", "drains.1.kind": "channel", "drains.1.wall": "a", "drains.1.along": "1300", "drains.1.out": "100", "drains.1.length": "800", "drains.1.diameter": "70",
		"lines": "1", "lines.1.kind": "movement", "lines.1.surface": "floor", "lines.1.from.wall": "a", "lines.1.from.along": "1500", "lines.1.from.out": "200", "lines.1.to.wall": "a", "lines.1.to.along": "1500", "lines.1.to.out": "1000", "lines.1.movement": "2",
		"zones": "1", "zones.1.wall": "b", "zones.1.from_left": "0", "zones.1.width": "600", "zones.1.height": "2100", "soffit": "yes",
	})},
	"pool with a riser and a step": {"basin", Pool(nil)},
	"L-shaped pool":                {"basin", LRoom(map[string]string{"height": "", "stations": "1 2", "stations.1.at": "0", "stations.1.depth": "800", "stations.2.at": "2600", "stations.2.depth": "1200", "freeboard": "100"})},
	"round cistern":                {"round_tank", map[string]string{"diameter": "1800", "tank_height": "1600", "water_depth": "1450", "soffit": "yes"}},
	"box tank":                     {"box_tank", LRoom(map[string]string{"tank_height": "1800", "water_depth": "1600"})},
	"flat roof": {"deck", LRoom(map[string]string{"walls.a.kind": "wall", "walls.b.kind": "trim", "walls.c.kind": "trim", "walls.d.kind": "wall", "walls.e.kind": "threshold", "walls.e.water_stop": "150", "walls.f.kind": "wall",
		"drains": "1", "drains.1.wall": "f", "drains.1.along": "400", "drains.1.out": "400", "drains.1.diameter": "110", "fall": "to_lay", "fall.n": "60", "fall.least": "20", "fall.height": "90"})},
	"cellar wall":  {"wall_run", map[string]string{"walls.count": "3", "walls.a.length": "4000", "walls.b.corner": "internal", "walls.b.length": "2500", "walls.c.corner": "external", "walls.c.length": "1200", "height": "2200", "strip": "300", "water_behind": "1500"}},
	"sunken floor": {"sunken", map[string]string{"outline": "rectangle", "length": "2000", "width": "1500", "tray_depth": "250", "upstand": "150"}},
}

// Complete is the area of a survey that has to be complete.
func Complete(t *testing.T, form string, typed map[string]string) *wetarea.Area {
	t.Helper()
	asked, err := wetarea.Ask(form, typed)
	if err != nil {
		t.Fatal(err)
	}
	if asked.Area == nil {
		t.Fatalf("%s is not complete: %v", form, asked.Form.Faults())
	}
	return asked.Area
}
