package choice

import (
	"math"
	"time"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// noDay is a day on which no opened pack is too old: a choice counts no stock.
var noDay time.Time

// Thicknesses of layers that no sheet prints, mm: only the drawing is made from them.
const (
	primerFilm  = 0.1
	bandBody    = 0.6
	fleeceBody  = 0.5
	sheetBody   = 0.8
	boardBody   = 4.0
	topCoatFilm = 0.2
)

// build lists the layers of a system from the base up: what the plan takes, or what the sheet
// names where there is no plan.
func build(of system.System, s sheet.Sheet, with []system.Companion, plan *takeoff.Plan) []Layer {
	layers := []Layer{{Kind: "base"}}
	goes := func(c system.Companion) bool {
		if plan == nil {
			return true
		}
		for _, item := range plan.Items {
			if item.Sheet == c.Sheet.ID && item.Need != nil {
				return true
			}
		}
		return false
	}
	add := func(role, kind string, mm float64) {
		for _, c := range with {
			if c.Role == role && goes(c) {
				layers = append(layers, Layer{Kind: kind, Name: c.Sheet.Name, Dry: mm})
			}
		}
	}
	add("primer", "primer", primerFilm)
	fieldFirst := of.WayOf("details") == "field_first"
	if !fieldFirst {
		add("band", "band", bandBody)
	}
	film := s.Film()
	coats := 1
	if n, err := s.Number("coats"); err == nil {
		coats = int(math.Round(n.Value))
	}
	inner := 1
	if n, err := s.Number("layers"); err == nil {
		inner = int(math.Round(n.Value))
	}
	for n := 1; n <= coats; n++ {
		layer := Layer{Kind: "coat", Name: s.Name, N: n}
		switch {
		case film.Dry != nil:
			layer.Dry = film.Dry.Value
		case film.Wet != nil:
			layer.Dry, layer.Wet = film.Wet.Value, true
		}
		layers = append(layers, layer)
		if n == 1 {
			for range inner {
				add("fleece", "fleece", fleeceBody)
				add("mesh", "fleece", fleeceBody)
				add("sheet", "sheet", sheetBody)
				if s.OverEachLayer() {
					layers = append(layers, layer)
				}
			}
		}
	}
	if fieldFirst {
		add("band", "band", bandBody)
	}
	add("top_coat", "top_coat", topCoatFilm)
	add("protection", "protection", boardBody)
	return layers
}
