package takeoff

import (
	"math"
	"slices"
	"strings"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/wetarea"
)

// Item is one product an area takes, with what it is for.
type Item struct {
	ID       string         `json:"id"` // "<role>.<sheet>", of a part bought by itself "<role>.<sheet>.<part>"
	Role     string         `json:"role"`
	Sheet    string         `json:"sheet"` // id
	Name     string         `json:"name"`
	Revision string         `json:"revision"`
	Part     string         `json:"part,omitempty"` // name of the part
	Title    string         `json:"title"`          // product and part, as it is asked for over the counter; "" where no sheet is there
	Sample   bool           `json:"sample"`
	Outside  bool           `json:"outside"` // not tested with the system
	Reason   string         `json:"reason,omitempty"`
	Unit     string         `json:"unit"`     // "kg", "m", "m2" or "count"
	Need     *figure.Figure `json:"need"`     // with waste; null where it cannot be worked out
	Places   []string       `json:"places"`   // surfaces, junctions, corners and fittings it goes on
	Portions []Portion      `json:"portions"` // the need by steps of the recipe
	Sizes    []sheet.Pack   `json:"sizes"`    // packs it is sold in
	Cut      *Rolled        `json:"-"`        // of what is cut from rolls: what they must give
	Fault    *fault.Fault   `json:"fault"`    // the figure that is missing
}

// Rolled is what must be cut from rolls of one width.
type Rolled struct {
	cutting.Bands
	Width float64  // mm
	Steps []string // of each run: the step that takes it
}

// Portion is what a step takes of an item.
type Portion struct {
	Step   string  `json:"step"`
	Amount float64 `json:"amount"` // in the item's unit, with waste
}

// Check is a rule the plan was held against.
type Check struct {
	Key    string         `json:"key"` // wording, "check.<key>"
	Place  string         `json:"place"`
	Fine   bool           `json:"fine"`
	Args   map[string]any `json:"args,omitempty"`
	Figure *figure.Figure `json:"figure"` // what is asked for
}

// addItems lists what goes with the membrane, each product by what it is for.
func (p *Plan) addItems(in Inputs, n numbers) {
	p.addMembrane(in, n)
	for _, c := range in.Companions {
		make := needs[c.Role]
		if slices.Contains(cutRoles, c.Role) {
			make = p.cutNeed
		}
		if make != nil {
			p.addItem(in, n, c, make)
		}
	}
	for _, with := range in.Missing {
		p.Items = append(p.Items, Item{
			ID: with.Role + "." + with.Product, Role: with.Role, Places: []string{}, Portions: []Portion{}, Sizes: []sheet.Pack{}, Unit: sheet.Sheet{Role: with.Role}.SoldIn(),
			Fault: fault.At("sheet."+with.Role, "plan.no_sheet_for", "role", with.Role),
		})
	}
}

// need is what a product is needed for: net figures that add up, and where it goes.
type need struct {
	cut    *Rolled
	parts  []figure.Figure
	places []string
	waste  bool // waste comes on top
}

// needs works out what each role takes that is not cut from rolls. A role that is not here is had by
// you and not counted.
var needs = map[string]func(in Inputs, n numbers, c sheet.Companion) (need, error){
	"primer":           primerNeed,
	"corner":           func(in Inputs, _ numbers, _ sheet.Companion) (need, error) { return in.cornerNeed(), nil },
	"collar":           func(in Inputs, _ numbers, _ sheet.Companion) (need, error) { return in.fittingNeed(false), nil },
	"flange":           func(in Inputs, _ numbers, _ sheet.Companion) (need, error) { return in.fittingNeed(true), nil },
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

func (p *Plan) addItem(in Inputs, n numbers, c sheet.Companion, make func(Inputs, numbers, sheet.Companion) (need, error)) {
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
		if step := stepUsing(in.Sheet.Recipe, c.Role); step != "" {
			item.Portions = []Portion{{Step: step, Amount: sum.Value}}
		}
	}
	p.Items = append(p.Items, item)
}

func itemOf(s sheet.Sheet) Item {
	item := Item{
		ID: s.Is() + "." + s.ID, Role: s.Is(), Sheet: s.ID, Name: s.Name, Title: s.Name, Revision: s.Revision, Sample: s.Sample,
		Unit: s.SoldIn(), Places: []string{}, Portions: []Portion{}, Sizes: s.Packs,
	}
	if item.Sizes == nil {
		item.Sizes = []sheet.Pack{}
	}
	return item
}

// stepUsing is the first step of a recipe that takes a material.
func stepUsing(r sheet.Recipe, role string) string {
	for _, s := range r.Steps() {
		if slices.Contains(s.Uses, role) {
			return s.ID
		}
	}
	return ""
}

// addMembrane lists the membrane itself: as kits, or part by part where the parts are sold in
// packs of their own, whose multiples need not match.
func (p *Plan) addMembrane(in Inputs, n numbers) {
	total, found := p.Figure("plan.mass.total")
	if !found {
		return
	}
	var portions []Portion
	last := 0
	for _, s := range in.Sheet.Recipe.Steps() {
		last = max(last, s.Coat)
	}
	for _, s := range in.Sheet.Recipe.Steps() {
		if bedding, is := p.Figure("plan.mass.bedding"); is && s.Lays() && !s.Coats() {
			portions = append(portions, Portion{Step: s.ID, Amount: bedding.Value})
		}
		for _, coat := range p.Coats {
			if s.Coats() && (coat.Number == s.Coat || s.Coat == last && coat.Number > last) {
				portions = append(portions, Portion{Step: s.ID, Amount: coat.Need.Value})
			}
		}
	}
	var places []string
	for _, s := range in.Area.Surfaces {
		places = append(places, s.ID)
	}
	whole := itemOf(in.Sheet)
	whole.Places, whole.Portions, whole.Need = places, portions, &total
	if len(whole.Sizes) == 0 && n["kit"].Value > 0 {
		whole.Sizes = []sheet.Pack{{Size: n["kit"].Value, Unit: "kg", Says: n["kit"].Source.Says}}
	}
	apart := slices.ContainsFunc(in.Sheet.Packs, func(k sheet.Pack) bool { return k.Part != "" })
	if !apart {
		p.Items = append(p.Items, whole)
		return
	}
	shares, err := in.Sheet.PartShares()
	if err != nil {
		whole.Fault = fault.Of(err)[0]
		p.Items = append(p.Items, whole)
		return
	}
	sum := 0.0
	var leaves []figure.Figure
	for i, part := range in.Sheet.Parts {
		sum += shares[i]
		if leaf, err := in.Sheet.Number("part_" + part.ID); err == nil {
			leaves = append(leaves, leaf)
		}
	}
	for i, part := range in.Sheet.Parts {
		sizes := slices.DeleteFunc(slices.Clone(in.Sheet.Packs), func(k sheet.Pack) bool { return k.Part != part.ID })
		if len(sizes) == 0 {
			continue // water, or what comes with another part
		}
		share := shares[i] / sum
		need := figure.Worked("plan.item.part", total.Value*share, "kg", "mass.part", append([]figure.Figure{total}, leaves...)...).With("name", in.Sheet.Name, "part", part.Name)
		item := whole
		item.ID, item.Part, item.Sizes, item.Need = whole.ID+"."+part.ID, part.Name, sizes, &need
		item.Title = whole.Name + ", " + part.Name
		item.Portions = nil
		for _, portion := range portions {
			item.Portions = append(item.Portions, Portion{portion.Step, portion.Amount * share})
		}
		p.Items = append(p.Items, item)
	}
}

// Figure finds a line of the plan by its name.
func (p Plan) Figure(name string) (figure.Figure, bool) {
	i := slices.IndexFunc(p.Lines, func(l Line) bool { return l.Figure.Name == name })
	if i < 0 {
		return figure.Figure{}, false
	}
	return p.Lines[i].Figure, true
}

// ground is a part of a surface with its area as a figure.
func (in Inputs) ground(g wetarea.Ground) figure.Figure {
	return figure.Worked("plan.area.ground", g.Area, "m2", "area.ground", in.measured(g.Surface)...).With("surface", g.Surface, "material", g.Material)
}

// primerNeed is area × rate × coats of the grounds the primer is for, and its margin past the
// film's free edges once. A base of which nothing was said takes the sheet's first primer.
func primerNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
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
	i := slices.IndexFunc(in.Companions, func(c sheet.Companion) bool { return c.Role == "primer" })
	if i < 0 || in.Sheet.Recipe.Schools["key"] != "primer" {
		return "" // water is the key, or only a patch takes a primer
	}
	return in.Companions[i].Sheet.ID
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
func (in Inputs) layers(c sheet.Companion) (figure.Figure, error) {
	if own, err := in.Sheet.Number("layers"); err == nil {
		return own, nil
	}
	return figure.Read("sheet.layers", 1, "count", figure.Source{Kind: "sheet", Ref: c.Sheet.ID, Says: "-"}), nil
}

// filletNeed is a triangular fillet in every inner corner of floor and walls, by its angle, where
// the recipe builds the junction rigid.
func filletNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	got := need{waste: true}
	if in.Sheet.Recipe.Schools["junction"] == "flexible" {
		return got, nil
	}
	leg, err := c.Sheet.Number("fillet_leg")
	if err != nil {
		return got, err
	}
	density, err := c.Sheet.Number("mixed_density")
	if err != nil {
		return got, err
	}
	for _, j := range in.Area.Junctions {
		if j.Turn != "internal" || j.Kind != "floor_wall" && j.Kind != "wall_wall" && j.Kind != "box" {
			continue
		}
		section := Section{Section: "triangle", Leg: leg.Value, Angle: in.angle(j), Length: j.Length / 1000, Density: density.Value}
		filled, err := section.Measure()
		if err != nil {
			return got, err
		}
		got.parts = append(got.parts, figure.Worked("plan.item.fillet", filled.Mass, "kg", "mass.fillet", in.run(j), leg, density).With("junction", j.ID, "angle", section.Angle))
		got.places = append(got.places, j.ID)
	}
	return got, nil
}

// angle between the surfaces of a junction, degrees: that of the corner where two walls meet.
func (in Inputs) angle(j wetarea.Junction) float64 {
	if walls, is := strings.CutPrefix(j.ID, "wall_wall."); is {
		for _, c := range in.Area.Corners {
			if c.ID == "corner."+walls && c.Angle > 0 && c.Angle < 180 {
				return c.Angle
			}
		}
	}
	return 90
}

// sealantNeed is a bead round every pipe and fitting and along every joint that moves.
func sealantNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	got := need{waste: true}
	var said []figure.Figure
	for _, name := range []string{"bead_width", "bead_depth", "mixed_density"} {
		f, err := c.Sheet.Number(name)
		if err != nil {
			return got, err
		}
		said = append(said, f)
	}
	bead := func(place string, mm float64, from figure.Figure) error {
		filled, err := Section{Section: "bead", Width: said[0].Value, Depth: said[1].Value, Length: mm / 1000, Density: said[2].Value}.Measure()
		if err != nil {
			return err
		}
		got.parts = append(got.parts, figure.Worked("plan.item.bead", filled.Mass, "kg", "mass.bead", append([]figure.Figure{from}, said...)...).With("place", place))
		got.places = append(got.places, place)
		return nil
	}
	for _, pen := range in.Area.Penetrations {
		round := math.Pi * pen.Diameter
		if pen.Ends != nil {
			round = 2 * math.Hypot(pen.Ends[1][0]-pen.Ends[0][0], pen.Ends[1][1]-pen.Ends[0][1])
		}
		if round <= 0 {
			continue
		}
		from := figure.Worked("plan.item.round", round/1000, "m", "length.round", in.measured(pen.ID)...).With("fitting", pen.ID)
		if err := bead(pen.ID, round, from); err != nil {
			return got, err
		}
	}
	for _, j := range in.Area.Junctions {
		if moves(j) {
			if err := bead(j.ID, j.Length, in.run(j)); err != nil {
				return got, err
			}
		}
	}
	return got, nil
}

// moves tells whether a junction opens and shuts.
func moves(j wetarea.Junction) bool {
	return j.Kind == "movement" || j.Kind == "control" || j.Kind == "crack_live"
}

// leakNeed is a piece of plugging cement for each leak that is open.
func leakNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	var got need
	if len(in.Leaks) == 0 {
		return got, nil
	}
	each, err := c.Sheet.Number("per_piece")
	if err != nil {
		return got, err
	}
	for _, leak := range in.Leaks {
		found := figure.Read("plan.item.leak", 1, "count", figure.Source{Kind: "entry", Ref: leak.ID, Says: leak.Surface})
		got.parts = append(got.parts, figure.Worked("plan.item.plug", each.Value, "kg", "mass.plug", found, each).With("surface", leak.Surface))
		got.places = append(got.places, leak.Surface)
	}
	return got, nil
}

// spreadNeed is area × rate over every surface, of what is laid over the film.
func spreadNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
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
func aggregateNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	var got need
	if dose, err := c.Sheet.Number("dose"); err == nil {
		i := slices.IndexFunc(in.Companions, func(c sheet.Companion) bool { return c.Role == "top_coat" })
		if i < 0 {
			return got, nil
		}
		coats, err := spreadNeed(in, n, in.Companions[i])
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
func doseNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
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
func overlayNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
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

func protectionNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	got := need{waste: true}
	for _, s := range in.Area.Surfaces {
		if s.Kind == "floor" {
			got.parts = append(got.parts, in.surface(s))
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}

func maskingNeed(in Inputs, n numbers, c sheet.Companion) (need, error) {
	got := need{waste: true}
	if in.Area.Termination > 0 {
		got.parts = []figure.Figure{in.edge()}
		for _, s := range in.Area.Surfaces {
			got.places = append(got.places, s.ID)
		}
	}
	return got, nil
}

// addChecks holds the system against the water that presses and the joints that move.
func (p *Plan) addChecks(in Inputs) {
	p.Checks = []Check{}
	factor := in.Rules.Limit("pressure_factor")
	for _, h := range in.Area.Heads {
		p.Checks = append(p.Checks, in.pressure(h, factor)...)
	}
	for _, f := range in.Area.Features {
		if f.Movement > 0 {
			p.Checks = append(p.Checks, in.movement(f))
		}
	}
	for _, c := range in.Companions {
		least, err1 := c.Sheet.Number("overlay_least")
		most, err2 := c.Sheet.Number("overlay_most")
		if err1 == nil && err2 == nil && in.Area.Falls != nil && in.Area.Falls.Screed != nil {
			slope := in.Area.Falls.Rule
			run, err := Overlay{Least: least.Value, Greatest: most.Value, Slope: slope, Run: in.Area.Falls.Screed.Farthest}.Reach()
			if err != nil {
				continue
			}
			worked := figure.Worked("plan.check.run", run.Longest, "mm", "overlay.run", least, most)
			p.Checks = append(p.Checks, Check{Key: "overlay", Place: "floor", Fine: !run.Refused, Figure: &worked,
				Args: map[string]any{"name": c.Sheet.Name, "run": in.Area.Falls.Screed.Farthest, "most": run.Longest}})
		}
	}
}
