package takeoff

import (
	"slices"

	"dusha/core/figure"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// cutNeed is what must be cut of a product: bands with their laps, m; strips at the roll's whole width,
// m²; tape over seams and moving joints, m; and corners to fold and patches off the same roll.
func (p *Plan) cutNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	var got need
	i := slices.IndexFunc(p.Cuts, func(l CutList) bool { return l.Role == c.Role && l.Sheet == c.Sheet.ID })
	if i < 0 {
		return got, nil
	}
	l := p.Cuts[i]
	if l.Fault != nil {
		return got, l.Fault
	}
	width, err := c.Sheet.Number("band_width")
	if err != nil {
		return got, err
	}
	got.cut = &Rolled{Bands: l.Bands, Width: l.Width, Steps: slices.Repeat([]string{l.Step}, len(l.Wants))}
	got.waste = l.Role == "seam_tape" || l.Role == "bond_breaker"
	junctions := map[string]wetarea.Junction{}
	for _, j := range in.Area.Junctions {
		junctions[j.ID] = j
	}
	covered := map[string][]Want{} // strips and seams by surface
	for _, w := range l.Wants {
		switch w.Kind {
		case "strip", "seam":
			covered[w.Place] = append(covered[w.Place], w)
			continue
		case "band":
			got.parts = append(got.parts, in.bandPiece(junctions[w.Place], n))
		case "breaker":
			got.parts = append(got.parts, in.run(junctions[w.Place]))
		default:
			got.parts = append(got.parts, in.offRoll(w, l, width))
		}
		got.places = append(got.places, w.Place)
	}
	if len(covered) == 0 {
		return got, nil
	}
	said, err := in.laidFrom(c)
	if err != nil {
		return got, err
	}
	for _, s := range in.Area.Surfaces {
		if wants := covered[s.ID]; len(wants) > 0 {
			got.parts = append(got.parts, in.covered(s, wants, l, said))
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}

// laidFrom are the figures that strips, and the seams between them, come from: width, roll, lap and layers
// of what is laid.
func (in Inputs) laidFrom(c system.Companion) ([]figure.Figure, error) {
	laid := c
	if i := slices.IndexFunc(in.With, func(c system.Companion) bool { return c.Role == "sheet" }); i >= 0 && c.Role == "seam_tape" {
		laid = in.With[i]
	}
	var said []figure.Figure
	for _, read := range []func() (figure.Figure, error){
		func() (figure.Figure, error) { return laid.Sheet.Number("band_width") },
		func() (figure.Figure, error) { return laid.Sheet.Number("band_roll") },
		laid.Sheet.Lap,
		func() (figure.Figure, error) { return in.layers(laid) },
	} {
		f, err := read()
		if err != nil {
			return nil, err
		}
		said = append(said, f)
	}
	return said, nil
}

// offRoll is a corner to fold or a patch: its length, m, off a band; off a wide roll its length at
// the whole width, m².
func (in Inputs) offRoll(w Want, l CutList, width figure.Figure) figure.Figure {
	from := append(in.measured(w.Place), width)
	if l.Layers > 0 {
		return figure.Worked("plan.item.off_roll", w.Length*l.Width/mm2PerM2, "m2", "layer.patch", from...).With("place", w.Place)
	}
	return figure.Worked("plan.item.off_roll", w.Length/1000, "m", "band.patch", from...).With("place", w.Place)
}

const mm2PerM2 = 1e6

// covered is what the strips of a surface take at the roll's whole width, m², or the tape over its
// seams, m.
func (in Inputs) covered(s wetarea.Surface, wants []Want, l CutList, said []figure.Figure) figure.Figure {
	total := 0.0
	for _, w := range wants {
		if w.Seam != nil {
			total += w.Seam.Length() / 1000
		} else {
			total += l.Width * w.Strip.Length / mm2PerM2
		}
	}
	from := append([]figure.Figure{in.surface(s)}, said...)
	if l.Layers == 0 {
		return figure.Worked("plan.item.seam", total, "m", "layer.seams", from...).With("surface", s.ID)
	}
	return figure.Worked("plan.item.layer", total, "m2", "layer.strips", from...).With("surface", s.ID, "strips", len(wants))
}
