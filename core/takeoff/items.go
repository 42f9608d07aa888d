package takeoff

import (
	"slices"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
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

// addItems lists what the area takes, the film first, each product by what it is for.
func (m *maker) addItems() {
	m.addMembrane()
	for _, c := range m.With {
		if item, is := m.item(c); is {
			m.plan.Items = append(m.plan.Items, item)
		}
	}
	for _, with := range m.Missing {
		m.addMissing(with)
	}
}

// addMissing lists what the system names and no sheet is there for; what goes by the piece is counted all
// the same.
func (m *maker) addMissing(with system.Named) {
	item := Item{
		ID: with.Role + "." + with.Product, Role: with.Role, Places: []string{}, Portions: []Portion{}, Sizes: []sheet.Pack{}, Unit: sheet.Sheet{Role: with.Role}.SoldIn(),
		Fault: fault.At("sheet."+with.Role, "plan.no_sheet_for", "role", with.Role),
	}
	counted, a := false, amount{}
	for _, l := range m.System.Layers {
		if t := l.Coats[0].Target; l.Product == with.Key && t != nil && t.Kind == "pieces" && t.Figure == nil {
			counted = true
			a.err = m.pieces(&a, *t, m.on(l))
		}
	}
	if counted && len(a.parts) == 0 {
		return // nothing of it is needed here
	}
	if counted && a.err == nil {
		sum := figure.Sum("plan.item.net", "item.sum", a.parts...).With("name", with.Product)
		item.Need, item.Places = &sum, a.places
	}
	m.plan.Items = append(m.plan.Items, item)
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

// addMembrane lists the membrane itself: as kits, or part by part where the parts are sold in
// packs of their own, whose multiples need not match.
func (m *maker) addMembrane() {
	p, in := m.plan, m.Inputs
	if m.unknown { // it is on the list, and the list says why it has no amount
		item := itemOf(in.Film)
		item.Fault = fault.At("sheet.rate", "sheet.not_stated", "number", "rate", "sheet", in.Film.Name)
		for _, s := range in.Area.Surfaces {
			item.Places = append(item.Places, s.ID)
		}
		p.Items = append(p.Items, item)
		return
	}
	total, found := p.Figure("plan.mass.total")
	if !found {
		return
	}
	film, _ := m.System.Membrane()
	all := Item{}
	for _, a := range m.amountsOf("", film.Key) {
		all.portion(a.step, withWaste(a.net(), m.waste.Value))
	}
	portions := all.Portions
	var places []string
	for _, s := range in.Area.Surfaces {
		places = append(places, s.ID)
	}
	whole := itemOf(in.Film)
	whole.Places, whole.Portions, whole.Need = places, portions, &total
	if kit, err := in.Film.Number("kit"); err == nil && len(whole.Sizes) == 0 && kit.Value > 0 {
		whole.Sizes = []sheet.Pack{{Size: kit.Value, Unit: "kg", Says: kit.Source.Says}}
	}
	apart := slices.ContainsFunc(in.Film.Packs, func(k sheet.Pack) bool { return k.Part != "" })
	if !apart {
		p.Items = append(p.Items, whole)
		return
	}
	shares, err := in.Film.PartShares()
	if err != nil {
		whole.Fault = fault.Of(err)[0]
		p.Items = append(p.Items, whole)
		return
	}
	sum := 0.0
	var leaves []figure.Figure
	for i, part := range in.Film.Parts {
		sum += shares[i]
		if leaf, err := in.Film.Number("part_" + part.ID); err == nil {
			leaves = append(leaves, leaf)
		}
	}
	for i, part := range in.Film.Parts {
		sizes := slices.DeleteFunc(slices.Clone(in.Film.Packs), func(k sheet.Pack) bool { return k.Part != part.ID })
		if len(sizes) == 0 {
			continue // water, or what comes with another part
		}
		share := shares[i] / sum
		need := figure.Worked("plan.item.part", total.Value*share, "kg", "mass.part", append([]figure.Figure{total}, leaves...)...).With("name", in.Film.Name, "part", part.Name)
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

// item is all that an area takes of a product; nothing where it takes none.
func (m *maker) item(c system.Companion) (item Item, is bool) {
	item = itemOf(c.Sheet)
	item.Role, item.Outside, item.Reason = c.Role, c.Outside, c.Reason
	item.ID = c.Role + "." + c.Sheet.ID
	var plain, wasted []figure.Figure
	for _, a := range m.amountsOf("", c.Key) {
		if a.err != nil {
			item.Fault = fault.Of(a.err)[0]
			return item, true
		}
		value := a.net()
		if a.waste {
			wasted = append(wasted, a.parts...)
			value = withWaste(value, m.waste.Value)
		} else {
			plain = append(plain, a.parts...)
		}
		for _, id := range a.places {
			if !slices.Contains(item.Places, id) {
				item.Places = append(item.Places, id)
			}
		}
		item.portion(a.step, value)
		for _, share := range a.shares {
			item.portion(share.Step, value*share.Amount)
		}
	}
	cut := m.cutOf(c.Key)
	if cut != nil {
		if cut.list.Fault != nil {
			item.Fault = cut.list.Fault
			return item, true
		}
		parts, places, waste := m.cutNeed(*cut)
		item.Cut = &Rolled{Bands: cut.list.Bands, Width: cut.list.Width, Steps: cut.steps}
		if waste {
			wasted = append(wasted, parts...)
		} else {
			plain = append(plain, parts...)
		}
		item.Places = append(item.Places, places...)
	}
	if len(plain)+len(wasted) == 0 {
		return item, false
	}
	sums := plain
	if len(wasted) > 0 {
		net := figure.Sum("plan.item.net", "item.sum", wasted...)
		sums = append(slices.Clip(plain), figure.Worked("plan.item.need", withWaste(net.Value, m.waste.Value), net.Unit, "mass.waste", net, m.waste))
	}
	sum := figure.Sum("plan.item.net", "item.sum", sums...)
	if len(sums) == 1 {
		sum = sums[0]
	}
	sum = sum.With("name", c.Sheet.Name)
	item.Need, item.Unit = &sum, sum.Unit
	if cut != nil && cut.list.Step != "" {
		item.portion(cut.list.Step, sum.Value)
	}
	return item, true
}

// portion adds what a step takes.
func (i *Item) portion(step string, value float64) {
	if step == "" || value == 0 {
		return
	}
	k := slices.IndexFunc(i.Portions, func(p Portion) bool { return p.Step == step })
	if k < 0 {
		i.Portions = append(i.Portions, Portion{Step: step, Amount: value})
		return
	}
	i.Portions[k].Amount += value
}

// Figure finds a line of the plan by its name.
func (p Plan) Figure(name string) (figure.Figure, bool) {
	i := slices.IndexFunc(p.Lines, func(l Line) bool { return l.Figure.Name == name })
	if i < 0 {
		return figure.Figure{}, false
	}
	return p.Lines[i].Figure, true
}

// addChecks holds the system against the water that presses and the joints that move.
func (m *maker) addChecks() {
	p, in := m.plan, m.Inputs
	p.Checks = []Check{}
	m.addPotLife()
	factor := in.Rules.Limit("pressure_factor")
	for _, h := range in.Area.Heads {
		p.Checks = append(p.Checks, m.pressure(h, factor)...)
	}
	for _, f := range in.Area.Features {
		if f.Movement > 0 {
			p.Checks = append(p.Checks, m.movement(f))
		}
	}
	for _, c := range in.With {
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
