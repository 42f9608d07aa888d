package system_test

import (
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// joined is a room whose walls follow one system and whose floor another.
func joined(t *testing.T, floor, walls string) (system.System, map[string]sheet.Sheet) {
	t.Helper()
	s, used := systemtest.Joined(floor, walls)
	return s, system.Sheets(used)
}

// Walls and floor of one room may follow two systems: each is keyed, bedded, coated, waited for and accepted by itself, the
// base, the test and the handing over are done once.
func TestWallsAndFloorMayFollowTwoSystems(t *testing.T) {
	s, sheets := joined(t, "sample.flexible_cementitious", "sample.acrylic_dispersion")
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	o, err := system.MakeOrder(s, sheets)
	if err != nil {
		t.Fatal(err)
	}
	var said []string
	for _, stage := range o.Stages {
		var ids []string
		for _, step := range stage.Steps {
			if step.Mends == "" {
				ids = append(ids, step.ID)
			}
		}
		said = append(said, stage.ID+": "+strings.Join(ids, " "))
	}
	want := []string{
		"survey: survey", "plan: plan", "prepare: prepare_floor prepare_walls substrate_accepted", "prime: prime_walls",
		"detail: bands_floor details_accepted_floor beads_walls bands_walls details_accepted_walls",
		"coat: coat_1_floor coat_1_accepted_floor coat_2_floor coat_2_accepted_floor coat_1_walls coat_1_accepted_walls coat_2_walls coat_2_accepted_walls",
		"cure: cure_complete_floor cure_complete_walls", "water_test: test_plan test test_signed", "protect: protect_floor protect_walls", "hand_over: handed_over",
	}
	if !slices.Equal(said, want) {
		t.Errorf("\n%s\nwant\n%s", strings.Join(said, "\n"), strings.Join(want, "\n"))
	}
	second, _ := o.Step("coat_2_walls")
	if second.Coat != 4 || len(second.After) != 1 || second.After[0].Step != "coat_1_walls" || second.After[0].Least.Of != "walls_membrane.recoat" {
		t.Errorf("the second coat on the walls: %+v", second)
	}
	if floor, _ := o.Step("prepare_floor"); floor.Face != "damp" || !strings.HasSuffix(floor.Title, ": floor") {
		t.Errorf("the floor is prepared %+v", floor)
	}
	if walls, _ := o.Step("prepare_walls"); walls.Face != "dry" {
		t.Errorf("the walls are prepared %+v", walls)
	}
	if parts := s.Parts(); len(system.MixedWays(parts[0], parts[1])) == 0 {
		t.Error("a damp base beside a dry one is not said")
	}
}

// A way may hold for a place alone: the same products are worked in two ways in one room.
func TestAWayMayHoldForAPlace(t *testing.T) {
	s, used := systemtest.Of("sample.flexible_cementitious")
	s.Ways = append(s.Ways, system.Way{School: "details", Way: "wet_on_wet", Where: &system.Where{On: "field", Faces: []string{"upright"}}},
		system.Way{School: "base", Way: "ssd", Where: &system.Where{On: "field", Faces: []string{"upright"}}})
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	o, err := system.MakeOrder(s, system.Sheets(used))
	if err != nil {
		t.Fatal(err)
	}
	face := func(id string) string { step, _ := o.Step(id); return step.Face }
	waits := func(id string) int { step, _ := o.Step(id); return len(step.After) }
	if face("prepare_else") != "damp" || face("prepare_upright") != "ssd" {
		t.Errorf("prepared %s and %s", face("prepare_else"), face("prepare_upright"))
	}
	if waits("coat_1_else") == 0 || waits("coat_1_upright") != 0 {
		t.Errorf("the first coat waits for %d things on the floor, %d on the walls", waits("coat_1_else"), waits("coat_1_upright"))
	}
	b, err := system.Build(s, used)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := system.MakeOrder(b.System, b.Sheets()); err != nil || len(again.Steps()) != len(o.Steps()) {
		t.Errorf("a built system is split once more: %v", err)
	}
}

func TestZonesThatCannotBe(t *testing.T) {
	one, _ := systemtest.Of("sample.flexible_cementitious")
	other, _ := systemtest.Of("sample.acrylic_dispersion")
	_, err := system.Join("both", "Both", system.Part{ID: "a", Title: "floor and walls", Faces: []string{"floor", "wall"}, System: one}, system.Part{ID: "b", Title: "walls", Faces: []string{"upright"}, System: other})
	if err == nil || fault.Of(err)[0].Key != "system.two_on_one_face" || fault.Of(err)[0].Args["face"] != "wall" {
		t.Errorf("two systems on the walls: %v", err)
	}
	upright := &system.Where{On: "field", Faces: []string{"upright"}}
	for key, ways := range map[string][]system.Way{
		"system.zone_nowhere":    {{School: "base", Way: "dry", Where: &system.Where{On: "field"}}},
		"choice.unknown":         {{School: "base", Way: "dry", Where: &system.Where{On: "field", Faces: []string{"ceiling"}}}},
		"system.two_on_one_face": {{School: "base", Way: "dry", Where: upright}, {School: "mist", Way: "mist", Where: &system.Where{On: "field", Faces: []string{"wall"}}}},
	} {
		own := one
		own.Ways = append(slices.Clone(own.Ways), ways...)
		if err := own.Check(); err == nil || fault.Of(err)[0].Key != key {
			t.Errorf("wanted %s, got %v", key, err)
		}
	}
}

// What goes with a film is held against the film of its own zone.
func TestWhatGoesWithAZoneIsTestedWithItsOwnFilm(t *testing.T) {
	s, _ := joined(t, "sample.flexible_cementitious", "sample.rapid_dispersion")
	film, _ := sheet.Sample("sample.flexible_cementitious")
	used, left := s.Take(film, sheet.Samples(), nil, true)
	if len(left) != 0 || len(used) != len(s.Products) {
		t.Fatalf("%d of %d products, left %v", len(used), len(s.Products), left)
	}
	for _, u := range used {
		if u.Outside {
			t.Errorf("%s is said not to be tested with its film", u.Key)
		}
	}
	swapped, _ := s.Take(film, sheet.Samples(), []system.Swap{{Product: "sample.mineral_band", Sheet: "sample.fleece_band", Reason: "at hand", Person: "p"}}, true)
	if i := slices.IndexFunc(swapped, func(u system.Used) bool { return u.Outside }); i < 0 {
		t.Error("a band of another family is not said")
	}
}

// What a layer carries on the floor alone is not carried on the walls.
func TestWhatIsCarriedStaysOnItsFaces(t *testing.T) {
	s, _ := joined(t, "sample.flexible_cementitious", "sample.polyurethane")
	for _, l := range s.Layers {
		for _, c := range l.Carries {
			if c.Product == "walls_aggregate" {
				t.Errorf("%s strews sand on the walls: %+v", l.ID, c.Where)
			}
		}
	}
	s, _ = joined(t, "sample.polyurethane", "sample.flexible_cementitious")
	i := slices.IndexFunc(s.Layers, func(l system.Layer) bool { return l.ID == "floor_top_coat" })
	if i < 0 || len(s.Layers[i].Carries) != 1 || !slices.Equal(s.Layers[i].Carries[0].Where[0].Faces, []string{"floor"}) {
		t.Errorf("sand on the floor: %+v", s.Layers[i])
	}
}
