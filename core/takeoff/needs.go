package takeoff

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// need is what a product is needed for: net figures that add up, and where it goes.
type need struct {
	cut    *Rolled
	parts  []figure.Figure
	places []string
	waste  bool // waste comes on top
}

// needs works out what each role takes that is not cut from rolls. A role that is not here is had by
// you and not counted.
var needs = map[string]func(in Inputs, n numbers, c system.Companion) (need, error){
	"primer":           primerNeed,
	"corner":           func(in Inputs, _ numbers, _ system.Companion) (need, error) { return in.cornerNeed(), nil },
	"collar":           func(in Inputs, _ numbers, _ system.Companion) (need, error) { return in.fittingNeed(false), nil },
	"flange":           func(in Inputs, _ numbers, _ system.Companion) (need, error) { return in.fittingNeed(true), nil },
	"fillet_mortar":    filletNeed,
	"sealant":          sealantNeed,
	"leak_plug":        leakNeed,
	"top_coat":         spreadNeed,
	"grip_coat":        spreadNeed,
	"aggregate":        aggregateNeed,
	"catalyst":         doseNeed,
	"accelerator":      doseNeed,
	"thickener":        doseNeed,
	"cleaner":          doseNeed,
	"overlay_additive": overlayNeed,
	"protection":       protectionNeed,
	"masking":          maskingNeed,
	"repair_mortar":    nil,
	"gauging_liquid":   nil,
}

// byPiece are roles that are counted from the survey alone.
var byPiece = []string{"corner", "collar", "flange"}

func (p *Plan) addItem(in Inputs, n numbers, c system.Companion, make func(Inputs, numbers, system.Companion) (need, error)) {
	item := itemOf(c.Sheet)
	item.Role, item.Outside, item.Reason = c.Role, c.Outside, c.Reason
	item.ID = c.Role + "." + c.Sheet.ID
	got, err := make(in, n, c)
	switch {
	case err != nil:
		item.Fault = fault.Of(err)[0]
	case len(got.parts) == 0:
		return // nothing of it is needed here
	default:
		sum := figure.Sum("plan.item.net", "item.sum", got.parts...)
		if got.waste {
			sum = figure.Worked("plan.item.need", withWaste(sum.Value, n["waste"].Value), sum.Unit, "mass.waste", sum, n["waste"])
		}
		sum = sum.With("name", c.Sheet.Name)
		item.Need, item.Unit = &sum, sum.Unit
		item.Places, item.Cut = got.places, got.cut
		if step := stepUsing(in.Order, c.Role); step != "" {
			item.Portions = []Portion{{Step: step, Amount: sum.Value}}
		}
	}
	p.Items = append(p.Items, item)
}

// stepUsing is the first step of a recipe that takes a material.
func stepUsing(r system.Order, role string) string {
	for _, s := range r.Steps() {
		if slices.Contains(s.Uses, role) {
			return s.ID
		}
	}
	return ""
}

// ground is a part of a surface with its area as a figure.
func (in Inputs) ground(g wetarea.Ground) figure.Figure {
	return figure.Worked("plan.area.ground", g.Area, "m2", "area.ground", in.measured(g.Surface)...).With("surface", g.Surface, "material", g.Material)
}

// primerNeed is area × rate × coats of the grounds the primer is for, and its margin past the
// film's free edges once. A base of which nothing was said takes the sheet's first primer.
func primerNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	perM2, err := spreadRate(c.Sheet)
	if err != nil {
		return got, err
	}
	margin, hasMargin := c.Sheet.Numbers["margin"]
	first := in.firstPrimer()
	whole := true
	for _, s := range in.Area.Surfaces {
		for _, g := range in.Area.Grounds(s) {
			mine := slices.Contains(c.On, g.Material) || g.Material == "" && first == c.Sheet.ID || len(c.On) == 0
			if !mine {
				whole = false
				continue
			}
			primed, err := Primer{Area: g.Area, Rate: perM2.Value, Coats: 1}.Measure()
			if err != nil {
				return got, err
			}
			got.parts = append(got.parts, figure.Worked("plan.item.primer", primed.Kg, "kg", "mass.primer", in.ground(g), perM2).With("surface", s.ID))
			if !slices.Contains(got.places, s.ID) {
				got.places = append(got.places, s.ID)
			}
		}
	}
	if len(got.parts) > 0 && hasMargin && whole && in.Area.Termination > 0 {
		edge := in.edge()
		wide, _ := c.Sheet.Number("margin")
		primed, err := Primer{Rate: perM2.Value, Coats: 1, Termination: in.Area.Termination, Margin: margin.Value}.Measure()
		if err != nil {
			return got, err
		}
		got.parts = append(got.parts, figure.Worked("plan.item.margin", primed.Kg, "kg", "mass.primer", edge, wide, perM2))
	}
	return got, nil
}

func (in Inputs) firstPrimer() string {
	i := slices.IndexFunc(in.With, func(c system.Companion) bool { return c.Role == "primer" })
	if i < 0 || in.System.Reads().Key != "primer" {
		return "" // water is the key, or only a patch takes a primer
	}
	return in.With[i].Sheet.ID
}

// edge is the length of the film's free edges, m.
func (in Inputs) edge() figure.Figure {
	var from []figure.Figure
	for _, s := range in.Area.Surfaces {
		from = append(from, in.measured(s.ID)...)
	}
	return figure.Worked("plan.item.edge", in.Area.Termination/1000, "m", "length.edge", from...)
}

// spreadRate is what a product takes on a m² in all its coats, kg.
func spreadRate(s sheet.Sheet) (figure.Figure, error) {
	said, err := s.Number("rate")
	if err != nil {
		return figure.Figure{}, err
	}
	rate := s.PrintedRate()
	inputs := []figure.Figure{said}
	if coats, err := s.Number("coats"); err == nil {
		inputs = append(inputs, coats)
	}
	if density, err := s.Number("mixed_density"); err == nil {
		inputs = append(inputs, density)
	} else if rate.Density = 1; rate.Unit != "kg/m2" && rate.Unit != "g/m2" && rate.Unit != "m2/kg" && rate.Unit != "ft2/lb" {
		return figure.Figure{}, err
	}
	// A range is taken at its dearer end, whichever way round the form counts.
	total := 0.0
	low, high := s.Numbers["rate"].Ends()
	for _, value := range []float64{low, high} {
		rate.Rate = value
		reduced, err := rate.Reduce()
		if err != nil {
			return figure.Figure{}, err
		}
		switch {
		case reduced.Total != nil:
			total = max(total, *reduced.Total)
		case reduced.Ordered != nil:
			total = max(total, *reduced.Ordered)
		}
	}
	return figure.Worked("plan.item.per_m2", total, "kg/m2", "rate.per_m2", inputs...), nil
}

func (in Inputs) cornerNeed() need {
	var got need
	for _, c := range in.Area.Corners {
		if c.Preformed {
			got.parts = append(got.parts, count("plan.piece.one_corner", "corner", c.ID, in.measured(c.ID)))
			got.places = append(got.places, c.ID)
		}
	}
	return got
}

func (in Inputs) fittingNeed(drains bool) need {
	var got need
	for _, pen := range in.Area.Penetrations {
		if pen.Drains() == drains {
			kind := map[bool]string{true: "flange", false: "collar"}[drains]
			got.parts = append(got.parts, count("plan.piece.one_"+kind, "fitting", pen.ID, in.measured(pen.ID)))
			got.places = append(got.places, pen.ID)
		}
	}
	return got
}

// layers is how many of a fleece, mesh or sheet lie over each other: the membrane's figure, or one.
func (in Inputs) layers(c system.Companion) (figure.Figure, error) {
	if own, err := in.Film.Number("layers"); err == nil {
		return own, nil
	}
	return figure.Read("sheet.layers", 1, "count", figure.Source{Kind: "sheet", Ref: c.Sheet.ID, Says: "-"}), nil
}
