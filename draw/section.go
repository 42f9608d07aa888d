package draw

import (
	"math"

	"dusha/core/choice"
	"dusha/core/sheet"
	"dusha/core/wetarea"
)

// SectionInputs ask for the section through a build-up, from the base up.
type SectionInputs struct {
	Layers []choice.Layer `json:"layers"`
	View   View           `json:"view"`
}

// Room in a section, px.
const (
	sectionEdge   = 10.0
	sectionBase   = 34.0 // of the base under the layers
	thinnestLayer = 9.0  // a thinner one is drawn thicker and keeps its number
	sectionLine   = 26.0 // between the words beside it
	narrowSection = 320.0
)

// layerStyles are the looks of the layers.
var layerStyles = map[string]string{
	"primer": "sec_primer", "band": "sec_band", "fleece": "sec_fleece", "sheet": "sec_sheet", "top_coat": "sec_top", "protection": "sec_board",
}

// Section draws the layers of a build-up to one enlarged scale, names and thicknesses beside them.
func Section(in SectionInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil || len(in.Layers) == 0 {
		return d, err
	}
	right, narrow := math.Round(in.View.Width*0.3), in.View.Width < narrowSection
	if narrow {
		right = math.Round(in.View.Width * 0.22)
	}
	room := in.View.Height - 2*sectionEdge - sectionBase
	heights := layerHeights(in.Layers[1:], room)
	foot := in.View.Height - sectionEdge - sectionBase
	d.path("sec_base", true, box(0, foot, right, sectionBase)...)
	d.path("sec_ground", false, wetarea.Point{0, foot}, wetarea.Point{right, foot})
	y := foot
	type label struct {
		at    float64
		layer choice.Layer
	}
	labels := []label{{foot + sectionBase/2, in.Layers[0]}}
	for i, layer := range in.Layers[1:] {
		top := y - heights[i]
		style := layerStyles[layer.Kind]
		if layer.Kind == "coat" {
			style = "sec_coat_one"
			if layer.N%2 == 0 {
				style = "sec_coat_across"
			}
		}
		wide := right
		if layer.Kind == "band" {
			wide = right * 0.6 // over the joint alone
		}
		d.path(style, true, box(0, top, wide, heights[i])...)
		labels = append(labels, label{(y + top) / 2, layer})
		y = top
	}
	last := in.View.Height
	for _, l := range labels {
		at := min(l.at, last-sectionLine)
		last = at
		x := right + 22
		d.path("sec_leader", false, wetarea.Point{right, l.at}, wetarea.Point{right + 12, at}, wetarea.Point{x - 4, at})
		key := "section." + l.layer.Kind
		if narrow && l.layer.Kind == "coat" {
			key = "section.coat_short"
		}
		args := []any{"name", l.layer.Name, "mm", math.Round(l.layer.Dry*100) / 100, "n", l.layer.N}
		d.text("sec_word", wetarea.Point{x, at + 5}, "start", key, args...)
		if l.layer.Kind == "coat" {
			args = append(args, "state", map[bool]string{true: "wet", false: "cured"}[l.layer.Wet])
		}
		d.Twin = append(d.Twin, words("section.twin."+l.layer.Kind, args...))
	}
	return d, nil
}

// layerHeights share the room out by thickness; what would be too thin to see is drawn thicker.
func layerHeights(layers []choice.Layer, room float64) []float64 {
	total := 0.0
	for _, l := range layers {
		total += l.Dry
	}
	heights := make([]float64, len(layers))
	const largest = 60.0 // px to the mm: a thin build-up is not blown up past that
	scale := min(largest, (room-thinnestLayer*float64(len(layers)))/max(total, 0.01))
	for i, l := range layers {
		heights[i] = thinnestLayer + max(0, l.Dry*scale)
	}
	return heights
}

// FilmInputs ask for the section through the film that a sheet's figures make.
type FilmInputs struct {
	Film sheet.Film `json:"film"`
	View View       `json:"view"`
}

// Film draws the wet film of one coat with a dimension line for each statement of the sheet: where
// it contradicts itself the lines end at different heights, and the gap between them is striped.
func Film(in FilmInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	film := in.Film
	if len(film.Implied) == 0 {
		d.Twin = append(d.Twin, words("film.nothing"))
		return d, nil
	}
	const left, head, base = 6.0, 64.0, 30.0
	foot := in.View.Height - base
	thickest := 0.0
	for _, i := range film.Implied {
		thickest = max(thickest, i.High)
	}
	y := func(mm float64) float64 { return foot - (foot-head)*mm/thickest }
	d.path("sec_base", true, box(left, foot, in.View.Width-2*left, base-2)...)
	d.path("sec_ground", false, wetarea.Point{left, foot}, wetarea.Point{in.View.Width - left, foot})
	if film.Wet != nil {
		top := y(film.Wet.Value)
		d.path("sec_film", true, box(left, top, in.View.Width-2*left, foot-top)...)
		if film.Dry != nil {
			d.path("sec_dry", false, wetarea.Point{left, y(film.Dry.Value)}, wetarea.Point{in.View.Width - left, y(film.Dry.Value)})
			d.text("sec_dry_word", wetarea.Point{left + 6, y(film.Dry.Value) + 18}, "start", "film.cured", "mm", film.Dry.Value)
		}
	}
	if film.Contradicts {
		low, high := math.Inf(1), 0.0
		for _, i := range film.Implied {
			low, high = min(low, i.High), max(high, i.High)
		}
		d.path("sec_gap", true, box(left, y(high), in.View.Width-2*left, y(low)-y(high))...)
	}
	column := (in.View.Width - 2*left) / float64(len(film.Implied))
	for k, i := range film.Implied {
		x := left + column*(float64(k)+0.5)
		d.path("dimension", false, wetarea.Point{x, foot}, wetarea.Point{x, y(i.High)})
		for _, end := range []float64{foot, y(i.High)} {
			d.path("tick", false, wetarea.Point{x - 7, end + 7}, wetarea.Point{x + 7, end - 7})
		}
		if i.Low < i.High {
			d.path("tick", false, wetarea.Point{x - 7, y(i.Low) + 7}, wetarea.Point{x + 7, y(i.Low) - 7})
		}
		style := "sec_figure"
		if i.From == film.Used {
			style = "sec_figure_used"
		}
		key := "film.mm"
		if i.Low < i.High {
			key = "film.mm_range"
		}
		d.text(style, wetarea.Point{x, max(42, y(i.High)-10)}, "middle", key, "low", i.Low, "mm", i.High)
		d.text("sec_word_small", wetarea.Point{x, 16}, "middle", "film.short."+i.From)
		said := "film.twin"
		if i.From == film.Used {
			said = "film.twin_used"
		}
		d.Twin = append(d.Twin, words(said, "from", i.From, "low", i.Low, "mm", i.High))
	}
	if film.Contradicts {
		d.Twin = append(d.Twin, words("film.contradicts", "percent", film.Disagreement))
	}
	return d, nil
}
