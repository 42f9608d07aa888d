package takeoff

import (
	"slices"

	"dusha/core/figure"
	"dusha/core/wetarea"
)

// cutOf are the strips of a product, where something is cut of it.
func (m *maker) cutOf(key string) *strips {
	i := slices.IndexFunc(m.unwoven, func(s *strips) bool {
		return s.key == key && (len(s.list.Wants) > 0 || s.list.Fault != nil)
	})
	if i < 0 {
		return nil
	}
	return m.unwoven[i]
}

// cutNeed is what must be cut of a product: bands with their laps, m; strips at the roll's whole width,
// m²; tape over seams and moving joints, m; and corners to fold and patches off the same roll.
func (m *maker) cutNeed(s strips) (parts []figure.Figure, places []string, waste bool) {
	l := s.list
	width, _ := s.sheet.Number("band_width")
	lap, _ := s.sheet.Lap()
	waste = !s.has("band") && !s.has("strip")
	covered := map[string][]Want{} // strips and seams by surface
	for _, w := range l.Wants {
		switch w.Kind {
		case "strip", "seam":
			covered[w.Place] = append(covered[w.Place], w)
			continue
		case "band":
			j := m.junction(w.Place)
			parts = append(parts, l.wide(figure.Worked("plan.buy.band_piece", (j.Length+2*lap.Value)/1000, "m", "band.piece", m.run(j), lap).With("junction", j.ID), width))
		case "breaker":
			parts = append(parts, l.wide(m.run(m.junction(w.Place)), width))
		default:
			from := append(m.measured(w.Place), width)
			rule := map[bool]string{true: "layer.patch", false: "band.patch"}[l.Layers > 0]
			parts = append(parts, l.wide(figure.Worked("plan.item.off_roll", w.Length/1000, "m", rule, from...).With("place", w.Place), width))
		}
		places = append(places, w.Place)
	}
	if len(covered) == 0 {
		return parts, places, waste
	}
	said := m.laidFrom(s)
	for _, surface := range m.Area.Surfaces {
		if wants := covered[surface.ID]; len(wants) > 0 {
			parts = append(parts, m.coveredWith(surface, wants, l, said))
			places = append(places, surface.ID)
		}
	}
	return parts, places, waste
}

// wide is a length as it is bought: of a wide roll at its whole width, m².
func (l CutList) wide(length, width figure.Figure) figure.Figure {
	if l.Layers == 0 {
		return length
	}
	if length.Rule == "layer.patch" {
		length.Value, length.Unit = length.Value*l.Width/1000, "m2"
		return length
	}
	return figure.Worked("plan.item.layer_run", length.Value*l.Width/1000, "m2", "layer.run", length, width)
}

// laidFrom are the figures that strips, and the seams between them, come from: width, roll, lap and layers
// of what is laid.
func (m *maker) laidFrom(s strips) []figure.Figure {
	laid := s
	if i := slices.IndexFunc(m.unwoven, func(s *strips) bool { return s.has("strip") }); i >= 0 && s.has("seam") {
		laid = *m.unwoven[i]
	}
	width, _ := laid.sheet.Number("band_width")
	roll, _ := laid.sheet.Number("band_roll")
	lap, _ := laid.sheet.Lap()
	return []figure.Figure{width, roll, lap, m.layersOf(laid)}
}

const mm2PerM2 = 1e6

// coveredWith is what the strips of a surface take at the roll's whole width, m², or the tape over its
// seams, m.
func (m *maker) coveredWith(s wetarea.Surface, wants []Want, l CutList, said []figure.Figure) figure.Figure {
	total := 0.0
	for _, w := range wants {
		if w.Seam != nil {
			total += w.Seam.Length() / 1000
		} else {
			total += l.Width * w.Strip.Length / mm2PerM2
		}
	}
	from := append([]figure.Figure{m.surface(s)}, said...)
	if l.Layers == 0 {
		return figure.Worked("plan.item.seam", total, "m", "layer.seams", from...).With("surface", s.ID)
	}
	return figure.Worked("plan.item.layer", total, "m2", "layer.strips", from...).With("surface", s.ID, "strips", len(wants))
}
