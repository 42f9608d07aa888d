package takeoff

import (
	"slices"

	"dusha/core/figure"
	"dusha/core/system"
)

// spreadNeed is area × rate over every surface, of what is laid over the film.
func spreadNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	perM2, err := spreadRate(c.Sheet)
	if err != nil {
		return got, err
	}
	for _, s := range in.Area.Surfaces {
		got.parts = append(got.parts, figure.Worked("plan.item.spread", s.Area*perM2.Value, "kg", "mass.spread", in.surface(s), perM2).With("surface", s.ID))
		got.places = append(got.places, s.ID)
	}
	return got, nil
}

// aggregateNeed is sand strewn on the floor with the surplus that is swept off, or beads stirred
// into the top coat in percent of it.
func aggregateNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	var got need
	if dose, err := c.Sheet.Number("dose"); err == nil {
		i := slices.IndexFunc(in.With, func(c system.Companion) bool { return c.Role == "top_coat" })
		if i < 0 {
			return got, nil
		}
		coats, err := spreadNeed(in, n, in.With[i])
		for _, f := range coats.parts {
			got.parts = append(got.parts, figure.Worked("plan.item.beads", f.Value*dose.Value/1000, "kg", "mass.dose", f, dose))
		}
		got.places = coats.places
		return got, err
	}
	perM2, err := spreadRate(c.Sheet)
	if err != nil {
		return got, err
	}
	surplus, err := c.Sheet.Number("surplus")
	if err != nil {
		return got, err
	}
	for _, s := range in.Area.Surfaces {
		if s.Kind == "floor" {
			got.parts = append(got.parts, figure.Worked("plan.item.strewn", withWaste(s.Area*perM2.Value, surplus.Value), "kg", "mass.aggregate", in.surface(s), perM2, surplus).With("surface", s.ID))
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}

// doseNeed is what is stirred into the membrane, or cleans up after it, by its mass.
func doseNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	var got need
	dose, err := c.Sheet.Number("dose")
	if err != nil {
		return got, err
	}
	total := n["total"]
	kg, inputs := total.Value*dose.Value/1000, []figure.Figure{total, dose}
	if dose.Unit == "mL/kg" {
		density, err := c.Sheet.Number("mixed_density")
		if err != nil {
			return got, err
		}
		kg, inputs = kg*density.Value, append(inputs, density)
	}
	got.parts = []figure.Figure{figure.Worked("plan.item.dose", kg, "kg", "mass.dose", inputs...)}
	for _, s := range in.Area.Surfaces {
		got.places = append(got.places, s.ID)
	}
	return got, nil
}

// overlayNeed is the additive of a bed over floor and walls at its least thickness.
func overlayNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	dose, err := c.Sheet.Number("dose")
	if err != nil {
		return got, err
	}
	least, err := c.Sheet.Number("overlay_least")
	if err != nil {
		return got, err
	}
	const bed = 1.6 // kg/L of a fresh tile bed, about
	density := figure.Read("plan.item.bed_density", bed, "kg/L", figure.Source{Kind: "rules", Ref: "generic", Says: "generic: fresh tile bed, about 1.6 kg/L"})
	for _, s := range in.Area.Surfaces {
		got.parts = append(got.parts, figure.Worked("plan.item.overlay", s.Area*least.Value*bed*dose.Value/1000, "kg", "mass.overlay", in.surface(s), least, density, dose).With("surface", s.ID))
		got.places = append(got.places, s.ID)
	}
	return got, nil
}

func protectionNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	for _, s := range in.Area.Surfaces {
		if s.Kind == "floor" {
			got.parts = append(got.parts, in.surface(s))
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}

func maskingNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	if in.Area.Termination > 0 {
		got.parts = []figure.Figure{in.edge()}
		for _, s := range in.Area.Surfaces {
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}
