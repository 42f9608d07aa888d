package takeoff

import (
	"math"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// maker makes one plan.
type maker struct {
	Inputs
	plan    *Plan
	sheets  map[string]sheet.Sheet // by the system's keys
	waste   figure.Figure
	texture figure.Figure // what the first coat fills of a base of which no profile was found
	unsaid  []string      // layers that a base takes of which nothing was said
	unwoven []*strips     // what is cut from rolls, product by product
	amounts []amount

	leaves  map[string][]figure.Figure // measured, by surface, junction or fitting
	runs    map[string]figure.Figure   // by junction
	angles  map[string]float64         // between walls that meet, by junction, degrees
	kinds   map[string]string          // of surfaces
	laid    map[string][]place         // by layer, or what it carries
	lying   map[string]map[string]bool // the same, to be looked up
	laying  map[string]string          // step by "layer.coat", or layer
	later   []string                   // steps of later visits
	unknown bool                       // of some coat of the film nobody can say how much it takes
}

func newMaker(in Inputs) *maker {
	m := &maker{Inputs: in, sheets: in.Sheets(), kinds: map[string]string{}, leaves: map[string][]figure.Figure{}, runs: map[string]figure.Figure{}, angles: map[string]float64{}, laid: map[string][]place{}, lying: map[string]map[string]bool{}, laying: map[string]string{}}
	for _, s := range in.Area.Surfaces {
		m.kinds[s.ID] = s.Kind
	}
	const flat = 180
	for _, c := range in.Area.Corners {
		if walls, is := strings.CutPrefix(c.ID, "corner."); is && c.Angle > 0 && c.Angle < flat {
			m.angles["wall_wall."+walls] = c.Angle
		}
	}
	for _, stage := range in.Order.Stages {
		for _, s := range stage.Steps {
			if stage.Visit != nil {
				m.later = append(m.later, s.ID)
			}
		}
	}
	for _, s := range in.Order.Steps() {
		for _, of := range s.Of {
			if _, twice := m.laying[of]; !twice && !s.Hold() {
				m.laying[of] = s.ID
			}
		}
	}
	return m
}

// amount is what a step of a layer takes of one product.
type amount struct {
	key    string // product
	layer  string
	coat   string // of the layer; "": all of them
	step   string
	parts  []figure.Figure
	places []string
	at     []atPlace // what goes where
	waste  bool      // waste comes on top
	shares []Portion // of what is stirred into several steps: of the whole
	err    error
	later  bool // of a later visit: it is bought then
}

// atPlace is what goes on one place, before waste.
type atPlace struct {
	id     string
	amount float64
}

// lay adds what goes on a place.
func (a *amount) lay(part figure.Figure, id string) {
	a.parts = append(a.parts, part)
	a.at = append(a.at, atPlace{id, part.Value})
	if n := len(a.places); n == 0 || a.places[n-1] != id { // parts of one surface follow each other
		a.places = append(a.places, id)
	}
}

// net is an amount before waste.
func (a amount) net() float64 {
	sum := 0.0
	for _, part := range a.parts {
		sum += part.Value
	}
	return sum
}

// stepLaying is the step of the order that lays a coat of a layer.
func (m *maker) stepLaying(layer, coat string) string {
	if step, is := m.laying[layer+"."+coat]; is {
		return step
	}
	return m.laying[layer]
}

// measureLayers works out what each layer takes, but for the coats of the film.
func (m *maker) measureLayers() {
	film := m.System.FieldLayers()
	for _, l := range m.System.Layers {
		coats := slices.ContainsFunc(film, func(f system.Layer) bool { return f.ID == l.ID })
		if _, there := m.sheets[l.Product]; there && !coats {
			for _, a := range m.layer(l) {
				m.take(a)
			}
		}
		for _, c := range l.Carries {
			_, there := m.sheets[c.Product]
			if _, own := m.Film.Numbers["band_width"]; there || own && c.How == "laid_in" && l.Lies("joints") {
				m.carry(l, c)
			}
		}
	}
}

func (m *maker) take(a amount) {
	if a.err != nil || len(a.parts) > 0 {
		a.later = slices.Contains(m.later, a.step)
		m.amounts = append(m.amounts, a)
	}
}

// layer is what a layer takes of its product, coat by coat where coats differ in place or step.
func (m *maker) layer(l system.Layer) (list []amount) {
	of := m.sheets[l.Product]
	if l.Seams() {
		s := m.rolled(l.Product)
		s.uses = append(s.uses, use{layer: l.ID, kind: "seam", step: m.stepLaying(l.ID, l.Coats[0].ID)})
	}
	places := m.on(l)
	if len(places) == 0 {
		return nil
	}
	first := l.Coats[0].Target
	if first == nil {
		first = l.Total
	}
	a := amount{key: l.Product, layer: l.ID, step: m.stepLaying(l.ID, l.Coats[0].ID), waste: true}
	switch first.Kind {
	case "bead_mm", "fillet_leg", "fillet_radius":
		a.err = m.section(&a, of, *first, places)
	case "pieces":
		a.err = m.pieces(&a, *first, places)
	case "strip":
		m.strip(&a, l, of, places)
	case "covered":
		m.cover(&a, of, places)
	case "fall":
		a.err = m.bed(&a, of, *first, places)
	default:
		return m.coatings(l, of, places)
	}
	return []amount{a}
}

// section is a bead or a fillet along its places: section × length × density. A fillet lies in inner corners alone.
func (m *maker) section(a *amount, of sheet.Sheet, t system.Target, places []place) error {
	density, err := of.Number("mixed_density")
	if err != nil {
		return err
	}
	said, err := m.said(t.Figure)
	if err != nil {
		return err
	}
	from := []figure.Figure{said}
	section := Section{Section: "triangle", Leg: said.Value, Density: density.Value}
	name, rule := "plan.item.fillet", "mass.fillet"
	switch t.Kind {
	case "fillet_radius":
		section = Section{Section: "concave", Radius: said.Value, Density: density.Value}
	case "bead_mm":
		deep, err := m.said(t.Second)
		if err != nil {
			return err
		}
		section = Section{Section: "bead", Width: said.Value, Depth: deep.Value, Density: density.Value}
		name, rule, from = "plan.item.bead", "mass.bead", append(from, deep)
	}
	for _, p := range places {
		if p.size.Unit != "m" || p.size.Value <= 0 || t.Kind != "bead_mm" && p.turn != "internal" {
			continue
		}
		section.Length = p.size.Value
		if t.Kind != "bead_mm" {
			section.Angle = p.edge
		}
		filled, err := section.Measure()
		if err != nil {
			return err
		}
		a.lay(figure.Worked(name, filled.Mass, "kg", rule, append([]figure.Figure{p.size}, append(from, density)...)...).
			With("place", p.id, "junction", p.id, "angle", p.edge), p.id)
	}
	return nil
}

// pieces are counted, one a place; of what is mixed, each takes so much. A bought corner goes where one fits.
func (m *maker) pieces(a *amount, t system.Target, places []place) error {
	a.waste = false
	each := figure.Figure{}
	if t.Figure != nil {
		said, err := m.said(t.Figure)
		if err != nil {
			return err
		}
		each = said
	}
	for _, p := range places {
		switch {
		case p.on == "corners" && !m.preformed(p.id):
			continue
		case t.Figure != nil:
			a.lay(figure.Worked("plan.item.plug", p.size.Value*each.Value, each.Unit, "mass.plug", p.size, each).With("surface", p.id), p.id)
		case p.on == "fittings":
			a.lay(count("plan.piece.one_fitting", "fitting", p.id, m.measured(p.id)), p.id)
		default:
			a.lay(p.size, p.id)
		}
	}
	return nil
}

func (m *maker) preformed(corner string) bool {
	in := m.Inputs
	return slices.ContainsFunc(in.Area.Corners, func(c wetarea.Corner) bool { return c.ID == corner && c.Preformed })
}

// strip is what is cut to length: from its rolls where the sheet says how wide and long they are, else by the metre.
func (m *maker) strip(a *amount, l system.Layer, of sheet.Sheet, places []place) {
	if onRolls(of) && places[0].on != "edges" {
		m.lay(l.Product, l, []string{l.Coats[0].ID}, of.Is() == "band", places)
		return
	}
	for _, p := range places {
		if p.size.Unit == "m" {
			a.lay(p.size, p.id)
		}
	}
}

// onRolls tells whether a product comes on rolls that it is cut from.
func onRolls(of sheet.Sheet) bool {
	return slices.Contains(cutRoles, of.Is())
}

// cover is what covers its places once: boards by the m², of what is mixed its rate.
func (m *maker) cover(a *amount, of sheet.Sheet, places []place) {
	for _, p := range places {
		if p.size.Unit != "m2" {
			continue
		}
		part := p.size
		if of.SoldIn() == "kg" {
			perM2, err := printedSpread(of)
			a.err = err
			part = figure.Worked("plan.item.spread", part.Value*perM2.Value, "kg", "mass.spread", part, perM2).With("surface", p.id)
		}
		a.lay(part, p.id)
	}
}

// bed is a bed or screed to fall at its least thickness: of an additive its dose of it, else the whole.
func (m *maker) bed(a *amount, of sheet.Sheet, t system.Target, places []place) error {
	least, err := m.said(t.Figure)
	if err != nil {
		return err
	}
	const usual = 1.6 // kg/L of a fresh tile bed, about
	density := figure.Read("plan.item.bed_density", usual, "kg/L", figure.Source{Kind: "rules", Ref: "generic", Says: "generic: fresh tile bed, about 1.6 kg/L"})
	dose, dosed := of.Number("dose")
	if own, err := of.Number("mixed_density"); err == nil && dosed != nil {
		density = own
	}
	for _, p := range places {
		if p.size.Unit != "m2" {
			continue
		}
		kg, inputs, rule := p.size.Value*least.Value*density.Value, []figure.Figure{p.size, least, density}, "mass.bed"
		if dosed == nil {
			kg, inputs, rule = kg*dose.Value/1000, append(inputs, dose), "mass.overlay"
		}
		a.lay(figure.Worked("plan.item.overlay", kg, "kg", rule, inputs...).With("surface", p.id), p.id)
	}
	return nil
}

// coatings are the coats of a layer over its places, by rate or thickness; the margin past the film's free edges once.
func (m *maker) coatings(l system.Layer, of sheet.Sheet, places []place) (list []amount) {
	for i, c := range l.Coats {
		a := amount{key: l.Product, layer: l.ID, coat: c.ID, step: m.stepLaying(l.ID, c.ID), waste: true}
		spread, err := m.spread(l, i)
		if err != nil {
			a.err = err
			return append(list, a)
		}
		var runs []place
		for _, p := range places {
			switch {
			case p.on == "field" && system.OnFace(c.Faces, p.kind):
				primed, err := Primer{Area: p.size.Value, Rate: spread.perM2.Value, Coats: 1}.Measure()
				a.err = err
				a.lay(figure.Worked("plan.item.spread", primed.Kg, "kg", "mass.spread", p.size, spread.perM2).With("surface", p.id), p.id)
			case p.on == "fittings":
				if area := m.wrap(p); area.Value > 0 {
					a.lay(figure.Worked("plan.item.at_fitting", area.Value*spread.perM2.Value, "kg", "mass.spread", area, spread.perM2).With("fitting", p.id), p.id)
				}
			case p.on == "joints" || p.on == "edges":
				runs = append(runs, p)
			}
		}
		if a.err == nil {
			a.err = m.along(&a, l, of, runs, spread)
		}
		if a.err == nil {
			m.margin(&a, l, of, spread)
		}
		list = append(list, a)
	}
	return list
}

// along is what a coat takes over runs: length × (width + margin of both sides together) × its rate, by the width of
// what is laid into it, or of the layer itself.
func (m *maker) along(a *amount, l system.Layer, of sheet.Sheet, runs []place, spread spread) error {
	type wide struct {
		width, margin figure.Figure
		runs          []figure.Figure
		at            []string
	}
	var groups []wide
	for _, p := range runs {
		width, margin, err := m.widthAt(l, of, p)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(groups, func(g wide) bool { return g.width.Value == width.Value })
		if i < 0 {
			i, groups = len(groups), append(groups, wide{width: width, margin: margin})
		}
		groups[i].runs, groups[i].at = append(groups[i].runs, p.size), append(groups[i].at, p.id)
		a.places = append(a.places, p.id)
	}
	for _, g := range groups {
		length := figure.Sum("plan.junction.total", "junction.total", g.runs...)
		bed := BedBand(length.Value*1000, g.width.Value, g.margin.Value, spread.perM2.Value, 0, 0)
		inputs := []figure.Figure{length, g.width}
		if g.margin.Name != "" {
			inputs = append(inputs, g.margin)
		}
		a.parts = append(a.parts, figure.Worked("plan.mass.bedding_net", bed.Below, "kg", "mass.bedding", append(inputs, spread.perM2)...))
		for i, run := range g.runs {
			a.at = append(a.at, atPlace{g.at[i], bed.Below * run.Value / length.Value})
		}
	}
	return nil
}

// widthAt is how wide a layer lies over a run: as said, or as the band that it carries there with the margin that the
// layer's product asks for.
func (m *maker) widthAt(l system.Layer, of sheet.Sheet, p place) (width, margin figure.Figure, err error) {
	if wide := p.where.Width; wide > 0 {
		return figure.Read("plan.item.width", wide, "mm", figure.Source{Kind: "system", Ref: m.System.ID, Says: m.System.Name}), margin, nil
	}
	i := slices.IndexFunc(l.Carries, func(c system.Carries) bool { return m.carriedAt(l, c, p) })
	if i < 0 {
		return width, margin, fault.At("layers."+l.ID, "plan.no_width", "layer", l.ID)
	}
	band := l.Carries[i].Product
	if width, err = m.bandSheet(band).Number("band_width"); err != nil {
		if p, _ := m.System.ProductOf(band); m.sheets[band].ID == "" {
			err = fault.At("companions."+p.Role, "plan.no_sheet_for")
		}
		return width, margin, err
	}
	margin, err = of.Number("band_margin")
	return width, margin, err
}

// bandSheet is the printing of a band; the film's own sheet states one where no other is taken.
func (m *maker) bandSheet(key string) sheet.Sheet {
	if own, there := m.sheets[key]; there {
		return own
	}
	return m.Film
}

// carriedAt tells whether what a layer carries lies on one of its places.
func (m *maker) carriedAt(l system.Layer, c system.Carries, p place) bool {
	if c.How != "laid_in" {
		return false
	}
	if len(c.Where) == 0 {
		return true
	}
	return slices.ContainsFunc(m.carriedOn(l, c), func(at place) bool { return at.on == p.on && at.id == p.id })
}

// margin is what a layer takes past the film's free edges, once and not each time it is laid again, where it lies on the whole
// field.
func (m *maker) margin(a *amount, l system.Layer, of sheet.Sheet, spread spread) {
	wide, stated := of.Number("margin")
	if stated != nil || m.Area.Termination <= 0 || len(a.parts) == 0 || l.Before != "" || !m.whole(l) {
		return
	}
	edge := m.edge()
	past, err := Primer{Rate: spread.perM2.Value, Coats: 1, Termination: m.Area.Termination, Margin: wide.Value}.Measure()
	a.err = err
	a.parts = append(a.parts, figure.Worked("plan.item.margin", past.Kg, "kg", "mass.primer", edge, wide, spread.perM2))
}

// whole tells whether a layer lies on every part of the field.
func (m *maker) whole(l system.Layer) bool {
	covered := 0.0
	for _, p := range m.on(l) {
		if p.on == "field" {
			covered += p.size.Value
		}
	}
	all := 0.0
	for _, s := range m.Area.Surfaces {
		all += s.Area
	}
	const tiny = 1e-9
	return covered > all-tiny
}

// carry is what a layer carries: cut from rolls where it is laid in, strewn with what is swept off again, or stirred in.
func (m *maker) carry(l system.Layer, c system.Carries) {
	step := m.stepLaying(l.ID, c.InCoat[0])
	if c.How == "laid_in" {
		if places := m.carriedOn(l, c); len(places) > 0 {
			m.lay(c.Product, l, c.InCoat, true, places)
		}
		return
	}
	a := amount{key: c.Product, layer: l.ID, step: step}
	of := m.sheets[c.Product]
	_, unrated := of.Number("rate")
	_, undosed := of.Number("dose")
	switch {
	case c.How == "mixed_in" || unrated != nil && undosed == nil: // beads instead of sand
		a.err = m.stirred(&a, l, c, of)
	default:
		a.err = m.strewn(&a, l, c, of)
	}
	m.take(a)
}

// angle between the surfaces of a junction, degrees: that of the corner where two walls meet.
func (m *maker) angle(j wetarea.Junction) float64 {
	const square = 90
	if own, is := m.angles[j.ID]; is {
		return own
	}
	return square
}

// gram rounds kg to the whole gram.
func gram(kg float64) float64 { return math.Round(kg*1000) / 1000 }
