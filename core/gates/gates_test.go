package gates_test

import (
	"maps"
	"slices"
	"testing"
	"time"

	"dusha/core/ask"
	"dusha/core/gates"
	"dusha/core/rules"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

// patched is an L-shaped room with one patch of base all over.
func patched(t *testing.T, patch map[string]string) wetarea.Area {
	t.Helper()
	typed := wetareatest.LRoom(map[string]string{"patches": "1", "patches.1.surface": "all", "patches.1.material": "screed"})
	for field, text := range patch {
		typed["patches.1."+field] = text
	}
	return *wetareatest.Complete(t, "room", typed)
}

func keys(of []gates.Gate, hold bool) []string {
	var list []string
	for _, g := range of {
		if g.Hold == hold {
			list = append(list, g.Key)
		}
	}
	return list
}

func TestGatesStopAnAreaUntilTheyAreLifted(t *testing.T) {
	generic := gates.Findings{Rules: rules.Generic()}
	for _, c := range []struct {
		name  string
		patch map[string]string
		with  gates.Findings
		stops []string
		looks []string
	}{
		{"a sound base", map[string]string{"age": "40", "soundness": "sound", "base": "stiff"}, generic, nil, nil},
		{"what was not checked stops nothing", nil, generic, nil, nil},
		{"a screed of 27 days", map[string]string{"age": "27"}, generic, []string{"gate.too_young"}, nil},
		{"a screed of 27 days, a day later", map[string]string{"age": "27"}, gates.Findings{Rules: rules.Generic(), Days: 1}, nil, nil},
		{"a screed cast 27 days ago", map[string]string{"cast": "2026-03-01"}, gates.Findings{Rules: rules.Generic(), Now: time.Date(2026, 3, 28, 8, 0, 0, 0, time.UTC)}, []string{"gate.too_young"}, nil},
		{"a screed cast 28 days ago", map[string]string{"cast": "2026-03-01"}, gates.Findings{Rules: rules.Generic(), Now: time.Date(2026, 3, 29, 8, 0, 0, 0, time.UTC)}, nil, nil},
		{"a hollow screed", map[string]string{"soundness": "hollow"}, generic, []string{"gate.weak"}, nil},
		{"a screed on bare earth", map[string]string{"base": "bare_earth"}, generic, []string{"gate.bare_earth"}, nil},
		{"concrete on bare earth", map[string]string{"material": "concrete", "base": "bare_earth"}, generic, nil, nil},
		{"a flexing base", map[string]string{"base": "flexing"}, generic, []string{"gate.flexing"}, nil},
		{"reflective paint", map[string]string{"surfacing": "reflective"}, generic, []string{"gate.surfacing"}, nil},
		{"water under an old sheet", map[string]string{"trapped": "yes"}, generic, []string{"gate.trapped_water"}, nil},
		{"water from behind, system rated for it", map[string]string{"water_side": "negative"}, generic, nil, nil},
		{"water from behind, system for one side only", map[string]string{"water_side": "negative"}, gates.Findings{Rules: rules.Generic(), PositiveOnly: true}, []string{"gate.from_behind"}, nil},
		{"another profile than wanted", map[string]string{"profile_wanted": "4", "profile_found": "2"}, generic, nil, []string{"gate.profile"}},
		{"3 mm under the straightedge", map[string]string{"flatness": "3"}, generic, nil, nil},
		{"4 mm under the straightedge", map[string]string{"flatness": "4"}, generic, nil, []string{"gate.flatness"}},
		{"salts, dirt and an old coating", map[string]string{"salts": "heavy", "contamination": "oil", "old_coating": "strip"}, generic, nil, []string{"gate.salts", "gate.contamination", "gate.strip"}},
		{"a leak", nil, gates.Findings{Rules: rules.Generic(), Leaks: []wetarea.OpenLeak{{ID: "1", Surface: "floor"}}}, []string{"gate.leak"}, nil},
		{"a plugged leak", nil, gates.Findings{Rules: rules.Generic(), Leaks: []wetarea.OpenLeak{{ID: "1", Surface: "floor", Plugged: true}}}, []string{"gate.leak_unchecked"}, nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			list := gates.Of(patched(t, c.patch), c.with)
			if stops := keys(list, true); !slices.Equal(stops, c.stops) {
				t.Errorf("stops are %v, want %v", stops, c.stops)
			}
			if looks := keys(list, false); !slices.Equal(looks, c.looks) {
				t.Errorf("to look at are %v, want %v", looks, c.looks)
			}
		})
	}
}

func TestTheSurveyIsHeldAgainstTheLocalRules(t *testing.T) {
	generic := gates.Findings{Rules: rules.Generic()}
	low := wetareatest.Complete(t, "room", wetareatest.LRoom(map[string]string{"walls.c.height": "90"}))
	if looks := keys(gates.Of(*low, generic), false); !slices.Equal(looks, []string{"gate.low_upstand"}) {
		t.Errorf("an upstand of 90 mm: %v", looks)
	}
	if looks := keys(gates.Of(*wetareatest.Complete(t, "basin", wetareatest.Pool(map[string]string{"freeboard": "80"})), generic), false); !slices.Equal(looks, []string{"gate.low_freeboard"}) {
		t.Errorf("a freeboard of 80 mm: %v", looks)
	}
	flat := maps.Clone(wetareatest.Shapes["flat roof"].Typed)
	flat["fall.n"] = "100"
	if looks := keys(gates.Of(*wetareatest.Complete(t, "deck", flat), generic), false); !slices.Equal(looks, []string{"gate.flat_fall"}) {
		t.Errorf("a fall of 1 in 100: %v", looks)
	}
}

func TestAWalkThatMissesClosingByMuchIsSaid(t *testing.T) {
	for gap, said := range map[string]bool{"2608": false, "2625": true} {
		area := wetareatest.Complete(t, "room", wetareatest.LRoom(map[string]string{"walls.a.length": gap, "closing": "lengths"}))
		if got := slices.Contains(keys(gates.Of(*area, gates.Findings{Rules: rules.Generic()}), false), "gate.closing"); got != said {
			t.Errorf("wall A %s mm, a gap of %.0f: said is %v", gap, area.Closing, got)
		}
	}
}

// What lifts a gate is asked by the same form that raised it: a tap leads there.
func TestEachGateLeadsToItsQuestion(t *testing.T) {
	everything := gates.Findings{Rules: rules.Generic(), PositiveOnly: true, Base: true, SheetAge: 28, MoistureMost: new(4.0)}
	led := 0
	look := func(form string, typed map[string]string) {
		read, err := wetarea.Ask(form, typed)
		if err != nil || read.Area == nil {
			t.Fatalf("%s is not whole: %v", form, err)
		}
		for _, g := range gates.Of(*read.Area, everything) {
			asked := slices.ContainsFunc(read.Form.Questions, func(q ask.Question) bool { return slices.Contains(g.Ask, q.ID) })
			if asked {
				led++
			} else if len(g.Ask) > 0 {
				t.Errorf("%s: %s at %s leads to %v, which nobody asks", form, g.Key, g.Place, g.Ask)
			} else if g.Key != "gate.closing" && g.Key != "gate.level_misses" && g.Key != "gate.from_behind" {
				t.Errorf("%s: %s at %s leads nowhere", form, g.Key, g.Place)
			}
		}
	}
	for _, patch := range []map[string]string{
		{}, {"age": "3"}, {"soundness": "weak"}, {"base": "bare_earth"}, {"base": "flexing"}, {"surfacing": "reflective"}, {"trapped": "yes"},
		{"water_side": "negative"}, {"profile_wanted": "4", "profile_found": "2"}, {"flatness": "9"}, {"salts": "heavy", "contamination": "oil", "old_coating": "strip"},
		{"moisture": "9", "method": "carbide"},
	} {
		typed := wetareatest.LRoom(map[string]string{"patches": "1", "patches.1.surface": "all", "patches.1.material": "screed", "walls.c.kind": "open"})
		for field, text := range patch {
			typed["patches.1."+field] = text
		}
		look("room", typed)
	}
	for _, shape := range wetareatest.Shapes {
		look(shape.Form, shape.Typed)
	}
	look("rectangle", map[string]string{
		"length": "2400", "width": "1800", "walls.a.height": "300", "walls.b.height": "2100", "walls.c.height": "2100", "walls.d.height": "2100",
		"doorway.wall": "c", "doorway.from_left": "300", "doorway.width": "800", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "600", "drain.from_a": "600", "drain.diameter": "110", "pipes.count": "0",
	})
	if led < 25 {
		t.Errorf("only %d ways were seen", led)
	}
}
