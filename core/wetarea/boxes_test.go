package wetarea_test

import (
	"maps"
	"math"
	"strings"
	"testing"

	"dusha/core/wetarea"
)

// What stands on a floor of 3 by 2 m: its corner pieces by place and turn, its faces, and which runs
// go round it, each counted by hand.
func TestCornersOfWhatStandsOnTheFloor(t *testing.T) {
	room := map[string]string{"outline": "rectangle", "length": "3000", "width": "2000", "height": "300"}
	rows := []struct {
		name, kind, wall, left, out string
		corners                     map[string]int
		area                        float64 // m²
		inner, outer                float64 // m of runs that turn in, and out
		ofRoom                      int     // corners of the room on its floor
	}{
		{"a bench along a wall", "bench", "a", "1000", "0", map[string]int{"foot internal": 2, "foot external": 2, "top saddle": 2, "top external": 2},
			0.6*0.4 + (0.4+0.6+0.4)*0.45, 0.4 + 0.6 + 0.4 + 0.6 + 2*0.45, 0.4 + 0.6 + 0.4 + 2*0.45, 4},
		{"a bench in a corner", "bench", "a", "0", "0", map[string]int{"foot internal": 2, "foot external": 1, "top saddle": 2, "top external": 1},
			0.6*0.4 + (0.6+0.4)*0.45, 0.6 + 0.4 + 0.6 + 0.4 + 2*0.45, 0.6 + 0.4 + 0.45, 3},
		{"a block that stands free", "hob", "a", "1000", "700", map[string]int{"foot external": 4, "top external": 4},
			0.6*0.4 + 2*(0.6+0.4)*0.45, 2 * (0.6 + 0.4), 2*(0.6+0.4) + 4*0.45, 4},
		{"a column that stands free", "column", "a", "1000", "700", map[string]int{"foot external": 4},
			2 * (0.6 + 0.4) * 0.45, 2 * (0.6 + 0.4), 4 * 0.45, 4},
		{"a shaft along a wall", "column", "a", "1000", "0", map[string]int{"foot internal": 2, "foot external": 2},
			(0.4 + 0.6 + 0.4) * 0.45, 0.4 + 0.6 + 0.4 + 2*0.45, 2 * 0.45, 4},
		{"a shaft in a corner", "column", "a", "0", "0", map[string]int{"foot internal": 2, "foot external": 1},
			(0.6 + 0.4) * 0.45, 0.6 + 0.4 + 2*0.45, 0.45, 3},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			typed := maps.Clone(room)
			maps.Copy(typed, map[string]string{"boxes": "1", "boxes.1.kind": row.kind, "boxes.1.wall": row.wall, "boxes.1.from_left": row.left, "boxes.1.out": row.out,
				"boxes.1.width": "600", "boxes.1.depth": "400", "boxes.1.height": "450"})
			asked, err := wetarea.Ask("room", typed)
			if err != nil || asked.Area == nil {
				t.Fatal(err, asked.Form.Faults())
			}
			a, corners, ofRoom := asked.Area, map[string]int{}, 0
			for _, c := range a.Corners {
				part := strings.Split(c.ID, ".")
				if part[1] != "box" {
					if c.Surface == "floor" {
						ofRoom++
					} else if c.Surface != "box.1" {
						t.Errorf("%s lies on %s", c.ID, c.Surface)
					}
					continue
				}
				corners[part[3]+" "+c.Turn]++
				if on, known := a.Surface(c.Surface); !known || !on.Contains(c.At) && c.Surface != "floor" {
					t.Errorf("%s is not on %s", c.ID, c.Surface)
				}
				if c.Preformed != (c.Turn != "saddle") {
					t.Errorf("%s: a bought corner fits: %v", c.ID, c.Preformed)
				}
			}
			if !maps.Equal(corners, row.corners) || ofRoom != row.ofRoom {
				t.Errorf("corners %v and %d of the room, want %v and %d", corners, ofRoom, row.corners, row.ofRoom)
			}
			inner, outer := 0.0, 0.0
			for _, j := range a.Junctions {
				if j.Kind == "box" && j.Turn == "internal" {
					inner += j.Length / 1000
				} else if j.Kind == "box" {
					outer += j.Length / 1000
				}
			}
			on, _ := a.Surface("box.1")
			if math.Abs(on.Area-row.area) > 1e-9 || math.Abs(a.Takeoff.BoxArea-row.area) > 1e-9 || math.Abs(inner-row.inner) > 1e-9 || math.Abs(outer-row.outer) > 1e-9 {
				t.Errorf("%.4f m² (%.4f), %.3f m inside, %.3f m outside; want %.4f, %.3f, %.3f", on.Area, a.Takeoff.BoxArea, inner, outer, row.area, row.inner, row.outer)
			}
		})
	}
}

// A cold joint and a dead crack are runs of their own, told from those that move.
func TestJointsThatDoNotMoveAreRunsOfTheirOwn(t *testing.T) {
	typed := map[string]string{"outline": "rectangle", "length": "3000", "width": "2000", "height": "300", "lines": "1 2 3"}
	for id, kind := range map[string]string{"1": "cold", "2": "crack_dead", "3": "crack_live"} {
		maps.Copy(typed, map[string]string{"lines." + id + ".kind": kind, "lines." + id + ".surface": "floor", "lines." + id + ".movement": "0.3"})
		for end, out := range map[string]string{"from": "200", "to": "1700"} {
			maps.Copy(typed, map[string]string{"lines." + id + "." + end + ".wall": "a", "lines." + id + "." + end + ".along": id + "00", "lines." + id + "." + end + ".out": out})
		}
	}
	asked, err := wetarea.Ask("room", typed)
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	kinds := map[string]string{}
	for _, j := range asked.Area.Junctions {
		if strings.HasPrefix(j.ID, "line.") {
			kinds[j.ID] = j.Kind
			if j.Turn != "flat" || math.Abs(j.Length-1500) > 1e-9 {
				t.Errorf("%s: %s, %v mm", j.Kind, j.Turn, j.Length)
			}
		}
	}
	if want := map[string]string{"line.1": "cold", "line.2": "crack_dead", "line.3": "crack_live"}; !maps.Equal(kinds, want) {
		t.Errorf("runs of %v, want %v", kinds, want)
	}
}
