package wetarea_test

import (
	"cmp"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"dusha/core/wetarea"
)

// measured is what an area measures, with what hangs on names of the two forms made alike.
func measured(t *testing.T, form string, typed map[string]string) string {
	t.Helper()
	asked, err := wetarea.Ask(form, typed)
	if err != nil || asked.Area == nil {
		t.Fatalf("%s %v: %v %v", form, typed, err, asked.Form.Faults())
	}
	a := asked.Area
	alike := func(id string) string {
		switch {
		case strings.HasPrefix(id, "threshold."):
			return id[:len("threshold.a")]
		case strings.HasPrefix(id, "pipe."):
			return "fitting." + strings.TrimPrefix(id, "pipe.")
		}
		return id
	}
	var lines []string
	for _, s := range a.Surfaces {
		lines = append(lines, fmt.Sprintf("%s %.6f %v", s.ID, s.Area, s.Outlines))
	}
	for _, j := range a.Junctions {
		lines = append(lines, fmt.Sprintf("%s %s %s %.3f", alike(j.ID), j.Kind, j.Turn, j.Length))
	}
	for _, p := range a.Penetrations {
		lines = append(lines, fmt.Sprintf("%s %s %s %.3f %.3f %.1f", alike(p.ID), p.Kind, p.Surface, p.At[0], p.At[1], p.Diameter))
	}
	slices.Sort(lines)
	return fmt.Sprintf("%s\nstop %v\n%+v", strings.Join(lines, "\n"), a.WaterStop, a.Takeoff)
}

// The quick way and the room form measure the same room.
func TestARectangleIsARoomAskedInFewWords(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 11))
	between := func(least, most int) string { return fmt.Sprint(least + random.IntN(most-least+1)) }
	for range 200 {
		wall := string("abcd"[random.IntN(4)])
		typed := map[string]string{
			"length": between(2000, 4000), "width": between(2000, 4000),
			"walls.a.height": between(1500, 2400), "walls.b.height": between(300, 2400), "walls.c.height": between(300, 2400), "walls.d.height": between(1500, 2400),
			"doorway.wall": wall, "doorway.from_left": between(0, 900), "doorway.width": between(600, 1000), "doorway.height": between(1900, 2100), "doorway.water_stop": between(5, 40),
			"drain.from_d": between(200, 1800), "drain.from_a": between(200, 1800), "drain.diameter": between(50, 150), "pipes.count": "2",
			"pipes.1.surface": "wall." + cmp.Or(map[string]string{"a": "d"}[wall], "a"), "pipes.1.along": between(200, 1800), "pipes.1.up": between(200, 1400), "pipes.1.diameter": between(10, 60),
			"pipes.2.surface": "floor", "pipes.2.along": between(200, 1800), "pipes.2.up": between(200, 1800), "pipes.2.diameter": between(10, 120),
		}
		if quick, room := measured(t, "rectangle", typed), measured(t, "room", wetarea.Reshape("rectangle", "room", typed)); quick != room {
			t.Fatalf("%v\n%s\nis not\n%s", typed, quick, room)
		}
	}
}

func TestWhatWasAskedGoesAlongWithTheShape(t *testing.T) {
	now := wetarea.Reshape("rectangle", "room", shower(map[string]string{"openings": "2", "niches": "1"}))
	for id, want := range map[string]string{
		"outline": "rectangle", "length": "2400", "width": "1,8 m", "height": "2100", "walls.c.height": "300", "niches": "1",
		"openings": "2 3", "openings.3.wall": "c", "openings.3.water_stop": "20",
		"drains": "1", "drains.1.wall": "a", "drains.1.along": "1200", "drains.1.out": "400",
		"fittings": "1 2", "fittings.1.surface": "wall.a", "fittings.1.up": "1000", "fittings.2.wall": "a", "fittings.2.along": "300", "fittings.2.out": "300",
	} {
		if now[id] != want {
			t.Errorf("%s: %q, want %q", id, now[id], want)
		}
	}
	for id := range now {
		if strings.HasPrefix(id, "doorway.") || strings.HasPrefix(id, "drain.") || strings.HasPrefix(id, "pipes.") {
			t.Errorf("%s is left of the other form", id)
		}
	}
	begun := map[string]string{"length": "2400"}
	if now := wetarea.Reshape("rectangle", "room", begun); !reflect.DeepEqual(now, map[string]string{"length": "2400", "outline": "rectangle"}) {
		t.Errorf("a form begun: %v", now)
	}
	for _, to := range []string{"round_tank", "wall_run"} {
		if now := wetarea.Reshape("rectangle", to, begun); !reflect.DeepEqual(now, begun) {
			t.Errorf("%s: %v", to, now)
		}
	}
	if now := wetarea.Reshape("rectangle", "room", nil); !reflect.DeepEqual(now, map[string]string{"outline": "rectangle"}) {
		t.Errorf("of nothing typed: %v", now)
	}
}
