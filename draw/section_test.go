package draw_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"dusha/core/choice"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/takeoff"
	"dusha/draw"
)

func TestASectionStacksItsLayers(t *testing.T) {
	layers := []choice.Layer{{Kind: "base"}, {Kind: "primer", Name: "P", Dry: 0.1}, {Kind: "coat", Name: "M", Dry: 1, N: 1}, {Kind: "coat", Name: "M", Dry: 2, N: 2}}
	d, err := draw.Section(draw.SectionInputs{Layers: layers, View: draw.View{Width: 300, Height: 300}})
	if err != nil {
		t.Fatal(err)
	}
	_, _, top1, foot1 := extent(t, d, "sec_coat_one")
	_, _, top2, foot2 := extent(t, d, "sec_coat_across")
	_, _, topP, footP := extent(t, d, "sec_primer")
	_, _, topB, _ := extent(t, d, "sec_base")
	if footP != topB || foot1 != topP || foot2 != top1 {
		t.Errorf("layers do not lie on each other: %v %v %v %v", topB, footP, foot1, foot2)
	}
	// Beyond the least height that all have, thickness is to one scale.
	least := footP - topP - 0.1*((foot2-top2)-(foot1-top1))
	if one, two := foot1-top1-least, foot2-top2-least; math.Abs(two-2*one) > 1e-6 {
		t.Errorf("1 mm is %v px, 2 mm %v px", one, two)
	}
	if top2 < 0 || len(d.Twin) != len(layers) {
		t.Errorf("top at %v, %d lines of words", top2, len(d.Twin))
	}
	last := math.Inf(1)
	for _, word := range items(d, "sec_word") {
		if word.At[1] > last-20 {
			t.Errorf("words run into each other at %v", word.At)
		}
		last = word.At[1]
	}
	if _, err := draw.Section(draw.SectionInputs{Layers: layers}); err == nil {
		t.Error("drawn on no view")
	}
}

func TestAContradictionIsDrawnAsLinesThatDoNotMeet(t *testing.T) {
	film := func(rate string) sheet.Film {
		_, s := sheet.Read(sheet.Samples()[0], "own", map[string]string{"wft_per_coat": "1 mm", "rate": rate, "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"})
		return s.Film()
	}
	drawn := func(f sheet.Film) draw.Drawing {
		d, err := draw.Film(draw.FilmInputs{Film: f, View: draw.View{Width: 400, Height: 230}})
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	torn, whole := drawn(film("2 kg/m²")), drawn(film("1.5 kg/m²"))
	lines := items(torn, "dimension")
	if len(lines) != 2 || lines[0].Points[1][1]-lines[1].Points[1][1] < 10 {
		t.Errorf("lines end at %v", lines)
	}
	_, _, top, foot := extent(t, torn, "sec_gap")
	if top != lines[1].Points[1][1] || foot != lines[0].Points[1][1] {
		t.Errorf("the gap runs from %v to %v", top, foot)
	}
	if len(items(whole, "sec_gap")) != 0 || len(items(whole, "dimension")) != 2 {
		t.Error("a sheet that agrees with itself is drawn torn")
	}
	if used := items(torn, "sec_figure_used"); len(used) != 1 || used[0].Say.Args["mm"] != film("2 kg/m²").Wet.Value {
		t.Errorf("what counts is %+v", used)
	}
	if last := torn.Twin[len(torn.Twin)-1]; last.Key != "film.contradicts" {
		t.Errorf("in words: %+v", last)
	}
	if empty := drawn(sheet.Film{}); len(empty.Items) != 0 || empty.Twin[0].Key != "film.nothing" {
		t.Errorf("nothing to draw: %+v", empty)
	}
}

func TestAShelfIsFullAsFarAsTheWorkTakesIt(t *testing.T) {
	need := figure.Read("need", 25, "kg", figure.Source{Kind: "sheet", Ref: "s", Says: "25"})
	line := takeoff.Shopping{
		Item: takeoff.Item{ID: "membrane.s", Role: "membrane", Name: "Membrane", Unit: "kg", Need: &need}, Left: 25, ToBuy: 25, Bought: 40,
		Packs: []takeoff.Packs{{Says: "20 kg", Size: 20, Count: 2}},
	}
	other := takeoff.Shopping{Item: takeoff.Item{ID: "corner.c", Role: "corner", Name: "Corner", Unit: "count", Need: &need}, Left: 4, ToBuy: 4, Bought: 4, Packs: []takeoff.Packs{{Says: "1", Size: 1, Count: 4}}}
	for _, wide := range []float64{800, 360} {
		d, err := draw.Shelf(draw.ShelfInputs{Lines: []takeoff.Shopping{line, other}, Lit: "corner.c", View: draw.View{Width: wide, Height: 400}})
		if err != nil {
			t.Fatal(err)
		}
		packs, full := items(d, "shelf_buy"), items(d, "shelf_full")
		if len(packs) != 6 || len(full) != 6 {
			t.Fatalf("%d packs, %d of them with something needed", len(packs), len(full))
		}
		tall := func(i draw.Item) float64 { return i.Points[len(i.Points)-1][1] - i.Points[0][1] }
		if a, b := tall(full[0])/tall(packs[0]), tall(full[1])/tall(packs[1]); math.Abs(a-1) > 1e-9 || math.Abs(b-0.25) > 1e-9 {
			t.Errorf("of 25 kg the first bucket holds %v, the second %v", a, b)
		}
		for _, p := range packs {
			if p.Points[1][0] > wide {
				t.Errorf("a pack stands beyond the shelf at %v of %v", p.Points[1][0], wide)
			}
		}
		if len(d.Taps) != 2 || len(d.Twin) != 2 || d.Taps[0].Walk.Down != "corner.c" || len(items(d, "shelf_here")) != 1 {
			t.Errorf("taps %+v", d.Taps)
		}
		for _, name := range items(d, "shelf_need") {
			if strings.Contains(name.Say.Key, "missing") {
				t.Errorf("%+v", name.Say)
			}
		}
	}
	// Packs stand clear of a long name.
	line.Title = "Bituminous felt in hot bitumen, two layers"
	long, _ := draw.Shelf(draw.ShelfInputs{Lines: []takeoff.Shopping{line}, View: draw.View{Width: 680, Height: 100}})
	if left := items(long, "shelf_buy")[0].Points[0][0]; left < 8+9*42 {
		t.Errorf("the first pack stands at %v under a name of 42 letters", left)
	}
	// Many packs are drawn smaller and stay on the board.
	line.Packs[0].Count = 200
	d, _ := draw.Shelf(draw.ShelfInputs{Lines: []takeoff.Shopping{line}, View: draw.View{Width: 800, Height: 100}})
	drawn := items(d, "shelf_buy")
	if right := drawn[len(drawn)-1].Points[1][0]; right > 700 || len(drawn) != 24 {
		t.Errorf("the last of %d packs stands at %v", len(drawn), right)
	}
	more := slices.IndexFunc(d.Items, func(i draw.Item) bool { return i.Say != nil && i.Say.Key == "shelf.more" })
	if more < 0 || d.Items[more].Say.Args["n"] != 176 {
		t.Error("the packs that are not drawn are not counted")
	}
}

func TestWhatAProductIsForLightsUp(t *testing.T) {
	area := shower(t)
	d, err := draw.Net(draw.NetInputs{Area: area, Shown: draw.Shown{View: draw.View{Width: 600, Height: 500}, Lit: []string{"floor", "wall_wall.a.b", "drain.1"}}})
	if err != nil {
		t.Fatal(err)
	}
	if surfaces, lines := items(d, "lit"), items(d, "lit_line"); len(surfaces) != 1 || len(lines) < 3 {
		t.Errorf("%d surfaces and %d lines and rings lit", len(surfaces), len(lines))
	}
}
