package system_test

import (
	"slices"
	"testing"

	"dusha/core/fault"
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
			l, is := s.LayerOf("sealant")
			return is && l.Where[0].On == "joints"
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
		"out_of_range": {Does: "coats", Layer: film.ID, Coats: 40}, "missing": {Does: "target", Layer: film.ID, Kind: "kg_m2", Value: 2},
	} {
		_, err := base.Revise([]system.Act{{Does: "way", School: "base", Way: "ssd"}, act})
		if err == nil || fault.Of(err)[0].Field != "acts.2" {
			t.Errorf("%s: %v", what, err)
		}
	}
}
