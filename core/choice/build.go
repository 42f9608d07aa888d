package choice

import (
	"slices"
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

// drawnAs is what a layer over the field is drawn as, by the role of its product; what a person lays beside is drawn as a
// top coat.
var drawnAs = map[string]string{"primer": "primer", "membrane": "coat", "sheet": "sheet", "fleece": "fleece", "mesh": "fleece", "top_coat": "top_coat", "protection": "protection"}

// bodies are how thick a thing is drawn that no sheet prints a thickness of, mm.
var bodies = map[string]float64{"primer": primerFilm, "band": bandBody, "fleece": fleeceBody, "sheet": sheetBody, "top_coat": topCoatFilm, "protection": boardBody}

// BuildUp lists the layers of a system from the base up: what the plan takes, or what the system lists where there is none.
func BuildUp(b system.Built, plan *takeoff.Plan) []Layer {
	layers := []Layer{{Kind: "base"}}
	sheets := b.Sheets()
	taken := func(key string) bool {
		_, there := sheets[key]
		return there && (plan == nil || slices.ContainsFunc(plan.Items, func(i takeoff.Item) bool { return i.Sheet == sheets[key].ID && i.Need != nil }))
	}
	add := func(key, kind string) {
		if taken(key) {
			layers = append(layers, Layer{Kind: kind, Name: sheets[key].Name, Dry: bodies[kind]})
		}
	}
	coats := 0
	film := map[string]bool{}
	for _, l := range b.System.FieldLayers() {
		film[l.ID] = true
	}
	for _, l := range b.System.Layers {
		p, _ := b.System.ProductOf(l.Product)
		switch {
		case film[l.ID]:
			for _, c := range l.Coats {
				coats++
				layers = append(layers, coatOf(sheets[l.Product], plan, coats))
				for _, in := range l.Carries {
					carried, _ := b.System.ProductOf(in.Product)
					if in.How == "laid_in" && slices.Contains(in.InCoat, c.ID) {
						add(in.Product, drawnAs[carried.Role])
					}
				}
			}
		case l.Lies("joints"):
			for _, in := range l.Carries {
				add(in.Product, "band")
			}
		case l.Lies("field") && p.Role != "overlay_additive":
			kind := drawnAs[p.Role]
			if kind == "" || kind == "coat" {
				kind = "top_coat"
			}
			add(l.Product, kind)
		}
	}
	return layers
}

// coatOf is a coat of the film as thick as it cures, where its sheet says how; else as it is laid.
func coatOf(s sheet.Sheet, plan *takeoff.Plan, number int) Layer {
	layer := Layer{Kind: "coat", Name: s.Name, N: number, Wet: true}
	if film := s.Film(); film.Wet != nil {
		layer.Dry = film.Wet.Value
	}
	if plan != nil && number <= len(plan.Coats) {
		layer.Dry = plan.Coats[number-1].Wet.Value
	}
	if ratio, err := s.Number("dry_to_wet"); err == nil {
		layer.Dry, layer.Wet = layer.Dry*ratio.Value, false
	}
	return layer
}
