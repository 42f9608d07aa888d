package system_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// A system is changed act by act; to take one back is to leave it out.
func TestASystemIsChangedActByAct(t *testing.T) {
	base, _ := systemtest.Of("sample.flexible_cementitious")
	film, _ := base.Film()
	reason := "as this crew lays it"
	rows := []struct {
		what string
		acts []system.Act
		is   func(s system.System) bool
	}{
		{"another base", []system.Act{{Does: "way", School: "base", Way: "ssd"}}, func(s system.System) bool { return s.WayOf("base") == "ssd" }},
		{"wet on wet", []system.Act{{Does: "way", School: "coats", Way: "wet_on_wet"}}, func(s system.System) bool { return s.Reads().Coats == "wet_on_wet" }},
		{"one way", []system.Act{{Does: "way", School: "strokes", Way: "one_way"}}, func(s system.System) bool { return s.Reads().Strokes == "one_way" }},
		{"by mass", []system.Act{{Does: "way", School: "thickness", Way: "consumption"}}, func(s system.System) bool { return s.Reads().Thickness == "consumption" }},
		{"three coats", []system.Act{{Does: "coats", Layer: film.ID, Coats: 3}}, func(s system.System) bool { l, _ := s.Film(); return len(l.Coats) == 3 && l.Coats[2].ID == "3" }},
		{"one coat", []system.Act{{Does: "coats", Layer: film.ID, Coats: 1}}, func(s system.System) bool { l, _ := s.Film(); return len(l.Coats) == 1 }},
		{"a rate of its own", []system.Act{{Does: "target", Layer: film.ID, Kind: "kg_m2", Value: 2, Says: "2 kg/m²", Reason: reason}}, func(s system.System) bool {
			l, _ := s.Film()
			f := l.Coats[0].Target.Figure
			return f.Value != nil && *f.Value == 2 && l.Coats[1].Target.Kind == "kg_m2"
		}},
		{"a top coat laid in", []system.Act{{Does: "lay_in", Role: "top_coat", On: "field"}}, func(s system.System) bool {
			last := s.Layers[len(s.Layers)-1]
			p, _ := s.ProductOf(last.Product)
			return p.Role == "top_coat" && last.Where[0].On == "field"
		}},
		{"a sealant where it is usual", []system.Act{{Does: "lay_in", Role: "sealant"}}, func(s system.System) bool {
			l, is := s.LayerOf("sealant_2")
			return is && l.Where[0].On == "joints" && l.Coats[0].Target.Kind == "bead_mm"
		}},
		{"a primer under the film", []system.Act{{Does: "lay_in", Role: "primer", On: "field", Before: film.ID}}, func(s system.System) bool {
			at := slices.IndexFunc(s.Layers, func(l system.Layer) bool { return l.ID == film.ID })
			p, _ := s.ProductOf(s.Layers[at-1].Product)
			return p.Role == "primer"
		}},
		{"no corners", []system.Act{{Does: "drop", Layer: "corners"}}, func(s system.System) bool {
			_, layer := s.LayerOf("corners")
			_, product := s.ProductOf("corner")
			return !layer && !product
		}},
		{"a fleece laid into the film", []system.Act{{Does: "lay_in", Role: "fleece"}}, func(s system.System) bool {
			l, _ := s.Film()
			_, own := s.LayerOf("fleece")
			return !own && len(l.Carries) == 1 && l.Carries[0].How == "laid_in" && l.Carries[0].InCoat[0] == "1"
		}},
		{"a second band, bedded in the membrane", []system.Act{{Does: "lay_in", Role: "band"}}, func(s system.System) bool {
			l, is := s.LayerOf("bands_2")
			return is && l.Product == "membrane" && l.Carries[0].Product == "band_2"
		}},
		{"another primer", []system.Act{{Does: "product", Layer: "primer", Product: "own.primer"}}, func(s system.System) bool { p, _ := s.ProductOf("primer"); return p.Product == "own.primer" }},
		{"protection on the walls too", []system.Act{{Does: "place", Layer: "protection", On: "field"}}, func(s system.System) bool { l, _ := s.LayerOf("protection"); return len(l.Where[0].Faces) == 0 }},
		{"protection only if wanted", []system.Act{{Does: "optional", Layer: "protection", Decided: "plan"}}, func(s system.System) bool {
			without, err := s.Chosen(map[string]string{"with_protection": "without"})
			_, laid := without.LayerOf("protection")
			return err == nil && !laid && len(s.Options) == 1
		}},
		{"one of two finishes", []system.Act{
			{Does: "lay_in", Role: "top_coat"}, {Does: "lay_in", Role: "grip_coat"}, {Does: "optional", Layer: "top_coat", Decided: "site"},
			{Does: "optional", Layer: "grip_coat", Decided: "plan", Other: "top_coat"},
		}, func(s system.System) bool {
			laid := func(choice, layer string) bool {
				of, err := s.Chosen(map[string]string{"grip_coat_or_top_coat": choice})
				_, is := of.LayerOf(layer)
				return err == nil && is
			}
			return len(s.Options) == 1 && laid("top_coat", "top_coat") && laid("grip_coat", "grip_coat") && !laid("top_coat", "grip_coat") && !laid("grip_coat", "top_coat")
		}},
		{"of two finishes the one that is left", []system.Act{
			{Does: "lay_in", Role: "top_coat"}, {Does: "lay_in", Role: "grip_coat"},
			{Does: "optional", Layer: "grip_coat", Decided: "plan", Other: "top_coat"}, {Does: "drop", Layer: "grip_coat"},
		}, func(s system.System) bool {
			l, is := s.LayerOf("top_coat")
			return is && l.In == "" && len(s.Options) == 0
		}},
		{"by spray", []system.Act{{Does: "proof", Kind: "spray"}}, func(s system.System) bool { return s.Proofs[0].Kind == "spray" }},
		{"a step of one's own", []system.Act{{Does: "order", Edit: &system.Edit{Does: "add", Step: "owner", Before: "cure_complete", Add: &system.Step{ID: "owner", Title: "The owner looks", Does: system.Check}}}}, func(s system.System) bool {
			o, err := system.MakeOrder(s, nil)
			_, there := o.Step("owner")
			return err == nil && there
		}},
	}
	for _, row := range rows {
		made, err := base.Revise(row.acts)
		if err != nil || !row.is(made) {
			t.Errorf("%s: %v", row.what, err)
			continue
		}
		if err := made.Check(); err != nil {
			t.Errorf("%s cannot be followed: %v", row.what, err)
		}
		if row.is(base) && row.what != "another base" {
			t.Errorf("%s was so before: the row proves nothing", row.what)
		}
	}
	unlike, _ := systemtest.Of("sample.inch_slurry")
	made, err := unlike.Revise([]system.Act{{Does: "coats", Layer: "film", Coats: 3}})
	if l, _ := made.Film(); err != nil || len(l.Coats) != 3 || *l.Coats[2].Target.Figure.Value != *l.Coats[1].Target.Figure.Value {
		t.Errorf("a further coat is not like the last: %v, %+v", err, l.Coats)
	}
	for what, act := range map[string]system.Act{
		"unknown_layer": {Does: "drop", Layer: "nowhere"}, "no_layer": {Does: "coats", Layer: film.ID + ".1", Coats: 2}, "drops_the_film": {Does: "drop", Layer: film.ID}, "unknown": {Does: "way", School: "base", Way: "wet"},
		"on_nothing": {Does: "place", Layer: film.ID, On: "roofs"}, "no_product": {Does: "product", Layer: film.ID}, "film_optional": {Does: "optional", Layer: film.ID, Decided: "plan"},
		"film_or_other": {Does: "optional", Layer: "protection", Decided: "plan", Other: film.ID}, "or_itself": {Does: "optional", Layer: "protection", Decided: "plan", Other: "protection"},
		"out_of_range": {Does: "coats", Layer: film.ID, Coats: 40}, "missing": {Does: "target", Layer: film.ID, Kind: "kg_m2", Value: 2},
	} {
		_, err := base.Revise([]system.Act{{Does: "way", School: "base", Way: "ssd"}, act})
		if err == nil || fault.Of(err)[0].Field != "acts.2" {
			t.Errorf("%s: %v", what, err)
		}
	}
}

// What is read off the layers is chosen by editing them: whatever was there before, it comes out as chosen, and can be followed.
func TestAWayThatIsReadOffTheLayersIsWrittenIntoThem(t *testing.T) {
	for _, base := range system.Samples() {
		for school, ways := range system.ChosenWays() {
			if _, stored := system.Schools[school]; stored {
				continue
			}
			for _, way := range ways {
				made, err := base.Revise([]system.Act{{Does: "way", School: school, Way: way}})
				if err != nil {
					t.Errorf("%s, %s %s: %v", base.ID, school, way, err)
					continue
				}
				if err := made.Check(); err != nil {
					t.Errorf("%s, %s %s cannot be followed: %v", base.ID, school, way, err)
				}
				film, _ := made.Film()
				if got := made.AllWays()[school]; got != way && (school != "coats" || len(film.Coats) > 1) {
					t.Errorf("%s, %s: %s was chosen, and it is %s", base.ID, school, way, got)
				}
			}
		}
	}
}

// A system from nothing: it lacks a proof, and that is named; with one, its order is complete.
func TestASystemFromNothing(t *testing.T) {
	for _, film := range sheet.Samples() {
		blank, err := system.Blank(film)
		if film.Is() != "membrane" {
			if err == nil {
				t.Errorf("%s makes nothing tight", film.ID)
			}
			continue
		}
		if err != nil {
			t.Fatal(err)
		}
		if err := blank.Check(); err == nil || fault.Of(err)[0].Key != "system.no_proof" {
			t.Errorf("%s: without a proof: %v", film.ID, err)
		}
		want := film.Choices["base_state"]
		if want == "" {
			want = "any"
		}
		if got := blank.WayOf("base"); got != want {
			t.Errorf("%s wants its base %s, and it is begun on one that is %s", film.ID, want, got)
		}
		made, err := blank.Revise([]system.Act{
			{Does: "name", Text: "As we lay it"}, {Does: "lay_in", Role: "primer", Product: "own.primer", Before: "film"}, {Does: "coats", Layer: "film", Coats: 2},
			{Does: "lay_in", Role: "band", Before: "film"}, {Does: "proof", Kind: "water"},
		})
		if err == nil {
			err = made.Check()
		}
		if err != nil {
			t.Fatalf("%s: %v", film.ID, err)
		}
		o, _ := system.MakeOrder(made, nil)
		if got := order(o); !strings.Contains(got, "coat: coat_1 coat_1_accepted coat_2 coat_2_accepted") {
			t.Errorf("%s: %s", film.ID, got)
		}
	}
}

// What is kept is the next revision of one's own system; of a sample, and of nothing, the first.
func TestAChangedSystemIsTheNextRevision(t *testing.T) {
	own := system.System{ID: "own", Revision: "3"}
	for what, row := range map[string]struct {
		base     system.System
		revision string
		replaces string
		copied   string
	}{
		"one's own": {own, "4", "own", ""},
		"a sample":  {system.System{ID: "s", Sample: true, Revision: "7"}, "1", "", "s"},
		"nothing":   {system.System{ID: system.BlankID, Revision: "0"}, "1", "", ""},
		"of a file": {system.System{ID: "f", Revision: "spring"}, "1", "f", ""},
	} {
		got := system.System{}.After(row.base)
		if got.Revision != row.revision || got.Replaces != row.replaces || got.CopiedFrom != row.copied || got.Sample {
			t.Errorf("%s: %+v", what, got)
		}
	}
}

// On a base that may be as it is nobody is asked to have made it damp.
func TestABaseThatMayBeAsItIsIsNotMadeDamp(t *testing.T) {
	base := system.Samples()[0]
	for way, damp := range map[string]bool{"damp": true, "dry": false, "any": false} {
		made, err := base.Revise([]system.Act{{Does: "way", School: "base", Way: way}})
		if err != nil {
			t.Fatal(err)
		}
		o, _ := system.MakeOrder(made, nil)
		step, _ := o.Step("prepare")
		if asks := fmt.Sprint(step.Asks); strings.Contains(asks, "Damp") != damp || len(step.Asks) < 4 {
			t.Errorf("%s: %s", way, asks)
		}
	}
}
