package wetarea_test

import (
	"maps"
	"math"
	"slices"
	"strconv"
	"testing"

	"dusha/core/ask"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

// sizes are those of all pieces by their names.
func sizes(a *wetarea.Area) map[string]float64 {
	all := map[string]float64{}
	for _, s := range a.Surfaces {
		all[s.ID] = s.Area * 1e6
	}
	for _, j := range a.Junctions {
		all[j.ID] = j.Length
	}
	for _, p := range a.Penetrations {
		all[p.ID] = p.At[0] + 31*p.At[1] + 1009*p.Diameter
	}
	return all
}

// standing names the pieces that are there at all.
func standing(all map[string]float64) []string {
	return slices.DeleteFunc(slices.Sorted(maps.Keys(all)), func(id string) bool { return all[id] == 0 })
}

// Every answer is moved a little: each piece that changes names it as its origin.
func TestAPieceNamesTheAnswersItCameFrom(t *testing.T) {
	shapes := maps.Clone(wetareatest.Shapes)
	shapes["rectangle"] = wetareatest.Shape{Form: "rectangle", Typed: shower(nil)}
	moved := 0
	for name, shape := range shapes {
		before, err := wetarea.Ask(shape.Form, shape.Typed)
		if err != nil || before.Area == nil {
			t.Fatalf("%s: %v", name, err)
		}
		was := sizes(before.Area)
		for _, q := range before.Form.Questions {
			value, err := strconv.ParseFloat(q.Typed, 64)
			if err != nil || q.Kind == "count" || q.Kind == "list" || q.Kind == "choice" {
				continue
			}
			typed := maps.Clone(shape.Typed)
			typed[q.ID] = strconv.FormatFloat(value+3, 'f', -1, 64)
			after, err := wetarea.Ask(shape.Form, typed)
			if err != nil || after.Area == nil {
				continue // it no longer fits together: another answer would be asked
			}
			now := sizes(after.Area)
			if !slices.Equal(standing(was), standing(now)) {
				continue // other pieces now
			}
			for id, size := range now {
				if math.Abs(size-was[id]) < 1e-6 {
					continue
				}
				moved++
				if !slices.ContainsFunc(before.Area.Origin(id), func(o wetarea.Origin) bool { return o.Answer == q.ID && o.Unit == q.Unit }) {
					t.Errorf("%s: %s moves %s from %v to %v and is not among its origins %v", name, q.ID, id, was[id], size, before.Area.Origin(id))
				}
			}
		}
	}
	if moved < 100 {
		t.Errorf("%d pieces moved: the test looks at too little", moved)
	}
}

func TestShapesByName(t *testing.T) {
	shapes := ask.Shapes{"wall.a", "=threshold.c", "corner.*.b"}
	for id, want := range map[string]bool{
		"wall.a": true, "wall.a.1": true, "wall.b": false, "wall": false, "threshold.c": true, "threshold.c.1": false,
		"corner.a.b": true, "corner.b.a": false, "corner.c.b.x": true,
	} {
		if shapes.Has(id) != want {
			t.Errorf("%s: %v", id, !want)
		}
	}
}
