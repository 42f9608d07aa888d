package takeoff

import (
	"math"
	"slices"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/rules"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// Inputs are what a plan is made from.
type Inputs struct {
	Survey    wetarea.Survey
	SurveyRef string // id of the survey entry, the source of every measured leaf
	Area      wetarea.Area
	system.Built
	Rules   rules.Profile
	Texture string // one of rules.Textures, where a patch does not say its profile

	Leaks []wetarea.OpenLeak // to be plugged
}

// Plan is what an area needs, each number with its origin.
type Plan struct {
	Sample  bool           `json:"sample"` // made from sample figures: not for work
	Lines   []Line         `json:"lines"`
	Pieces  []Piece        `json:"pieces"`
	Coats   []Coat         `json:"coats"`
	Works   []Laying       `json:"works"`   // what is laid beside them
	Items   []Item         `json:"items"`   // what it takes, product by product
	Checks  []Check        `json:"checks"`  // against pressure, movement and the limits of an overlay
	Mixed   []system.Mixed `json:"mixed"`   // ways of working that meet in it
	Outside int            `json:"outside"` // products not tested with the system: the guarantee's condition is missing
	Cuts    []CutList      `json:"-"`       // what is cut from rolls, product by product
}

// Line is one figure of the plan in its group.
type Line struct {
	Group  string        `json:"group"` // "area", "junction", "piece", "mass", "base" or "buy"
	Figure figure.Figure `json:"figure"`
}

// Piece is one thing to bed: a band, a corner, a collar or a flange.
type Piece struct {
	ID     string  `json:"id"`                  // "band.<junction>", "corner.a.b", "pipe.1", "drain.1"
	Kind   string  `json:"kind"`                // "band", "corner", "fold" (a corner that no bought piece fits), "collar" or "flange"
	Number int     `json:"number"`              // from 1, in the order of bedding
	Length float64 `json:"length_mm,omitempty"` // of a band, laps included

	Layer string `json:"layer,omitempty"` // that beds it

	key   string // product that is bought or cut; "": cut from whatever roll is wide enough
	place string
}

// Coat is what one coat asks for.
type Coat struct {
	Number  int           `json:"number"`
	Layer   string        `json:"layer"`
	Coat    string        `json:"coat"`      // of the layer
	Product string        `json:"product"`   // key
	Fills   bool          `json:"fills"`     // the texture of the base: it is the first on its surfaces
	Wet     figure.Figure `json:"wet"`       // wet thickness to lay, mm
	Rate    float64       `json:"kg_m2"`     // that must lie there, without texture and waste; 0 where no sheet states it
	PerM2   figure.Figure `json:"per_m2"`    // with texture and waste, kg/m²
	Need    figure.Figure `json:"need"`      // whole area with waste, kg
	Surface []Share       `json:"surfaces"`  // the same by surface
	Least   figure.Figure `json:"least_wft"` // least single reading accepted, mm
}

// Share is a surface's part of a coat.
type Share struct {
	Surface string  `json:"surface"`
	Area    float64 `json:"area_m2"`
	Mass    float64 `json:"kg"` // with waste
}

// MakePlan works a plan out, layer by layer. A number of the film that the sheet or the profile does not state is a
// fault that names it; what is missing of another product is said at that product.
func MakePlan(in Inputs) (Plan, error) {
	m := newMaker(in)
	m.plan = &Plan{Sample: in.Film.Sample, Mixed: []system.Mixed{}, Items: []Item{}}
	if _, err := in.Film.Number("kit"); err != nil && !in.Film.SoldByPart() {
		return Plan{}, err
	}
	var err error
	if m.waste, err = in.Rules.Number("waste"); err != nil {
		return Plan{}, err
	}
	if m.texture, err = in.Rules.Number("texture_" + in.Texture); err != nil {
		return Plan{}, err
	}
	m.unsaid = in.System.UnsaidPrimers()
	total := m.addAreas()
	m.addJunctions()
	m.measureLayers()
	m.unwoven = slices.DeleteFunc(m.unwoven, func(s *strips) bool { return len(s.uses) == 0 })
	for _, make := range []func() error{m.addPieces, func() error { m.plan.Cuts = m.cutLists(); return m.addCoats(total) }, m.addMasses, m.addBand} {
		if err := make(); err != nil {
			return Plan{}, err
		}
	}
	m.doses()
	m.addWorks()
	m.addItems()
	m.addBase()
	m.addChecks()
	for _, c := range in.With {
		m.plan.Sample = m.plan.Sample || c.Sheet.Sample
		if c.Outside {
			m.plan.Outside++
		}
	}
	return *m.plan, nil
}

// addBase says what lies under the film or over it: screed to fall, fill of a sunken floor.
func (m *maker) addBase() {
	p, in := m.plan, m.Inputs
	floor := m.measured("floor")
	if falls := in.Area.Falls; falls != nil && falls.Screed != nil {
		p.add("base", figure.Worked("plan.base.screed", falls.Screed.Volume, "L", "base.screed", floor...))
		p.add("base", figure.Worked("plan.base.screed_weight", falls.Weight, "kg", "base.weight", floor...))
		if falls.Left != nil {
			p.add("base", figure.Worked("plan.base.height_left", *falls.Left, "mm", "base.height_left", floor...))
		}
	}
	if fill := in.Area.Fill; fill != nil {
		p.add("base", figure.Worked("plan.base.fill", fill.Volume, "L", "base.fill", floor...))
		p.add("base", figure.Worked("plan.base.fill_weight", fill.Weight, "kg", "base.weight", floor...))
	}
}

func (p *Plan) add(group string, f figure.Figure) figure.Figure {
	p.Lines = append(p.Lines, Line{Group: group, Figure: f})
	return f
}

// measured gives the leaves of the survey that a surface, junction or fitting came from.
func (m *maker) measured(id string) []figure.Figure {
	if known, is := m.leaves[id]; is {
		return known
	}
	in := m.Inputs
	var leaves []figure.Figure
	for _, from := range in.Area.Origin(id) {
		kept := in.Survey.Answers[from.Answer]
		leaves = append(leaves, figure.Read("survey."+from.Answer, kept.Value, from.Unit, figure.Source{Kind: "entry", Ref: in.SurveyRef, Says: kept.Typed}))
	}
	leaves = slices.Clip(leaves) // many append to it
	m.leaves[id] = leaves
	return leaves
}

// areaRules name the rule that gives the area of each kind of surface.
var areaRules = map[string]string{
	"floor": "area.floor", "wall": "area.wall", "soffit": "area.floor", "riser": "area.floor",
	"reveal": "area.reveal", "niche": "area.niche", "box": "area.box",
}

func (m *maker) addAreas() figure.Figure {
	p, in := m.plan, m.Inputs
	var areas []figure.Figure
	for _, s := range in.Area.Surfaces {
		areas = append(areas, p.add("area", m.surface(s)))
	}
	return p.add("area", figure.Sum("plan.area.total", "area.total", areas...))
}

// surface is the area of a surface, m².
func (m *maker) surface(s wetarea.Surface) figure.Figure {
	return figure.Worked("plan.area.surface", s.Area, "m2", areaRules[s.Kind], m.measured(s.ID)...).With("surface", s.ID)
}

// junctionKinds in the order in which a plan lists them.
var junctionKinds = []string{
	"floor_wall", "wall_wall", "threshold", "wall_soffit", "niche", "reveal", "box", "riser",
	"movement", "control", "crack_live", "material", "trim", "cold", "crack_dead",
}

// addJunctions lists the runs by kind, and their total length, m.
func (m *maker) addJunctions() {
	p, in := m.plan, m.Inputs
	var sums []figure.Figure
	for _, kind := range junctionKinds {
		var runs []figure.Figure
		for _, j := range in.Area.Junctions {
			if j.Kind == kind {
				runs = append(runs, m.run(j))
			}
		}
		if len(runs) > 0 {
			sums = append(sums, p.add("junction", figure.Sum("plan.junction."+kind, "junction.sum", runs...)))
		}
	}
	p.add("junction", figure.Sum("plan.junction.total", "junction.total", sums...))
}

// run is the length of one junction, m.
func (m *maker) run(j wetarea.Junction) figure.Figure {
	known, is := m.runs[j.ID]
	if !is {
		known = figure.Worked("plan.junction.run", j.Length/1000, "m", "junction.run", m.measured(j.ID)...).With("junction", j.ID)
		m.runs[j.ID] = known
	}
	return known
}

// addPieces lists what is bedded: a band over each junction that one is laid over, a corner where corners or bands are
// laid, and at each fitting the piece of the layer that lies there. Where no piece is bought it is cut from a roll.
func (m *maker) addPieces() error {
	p := m.plan
	ranks := map[string]int{}
	piece := func(own Piece, over string) {
		p.Pieces = append(p.Pieces, own)
		ranks[own.ID] = otherBands
		if rank, is := bedOrder[over]; is {
			ranks[own.ID] = rank
		}
	}
	for _, j := range m.Area.Junctions {
		if err := m.bandsOver(j, func(own Piece) { piece(own, j.Kind) }); err != nil {
			return err
		}
	}
	counted := map[string][]figure.Figure{}
	single := func(kind, id, layer, bought string) {
		piece(Piece{ID: id, Kind: kind, Layer: layer, key: bought, place: id}, kind)
		arg := map[bool]string{true: "corner", false: "fitting"}[kind == "corner" || kind == "fold"]
		counted[kind] = append(counted[kind], count("plan.piece.one_"+kind, arg, id, m.measured(id)))
	}
	for _, c := range m.Area.Corners {
		layer, key := m.pieceAt("corners", c.ID)
		switch {
		case key == "" && m.bands() == nil:
		case c.Preformed:
			single("corner", c.ID, layer, key)
		default:
			single("fold", c.ID, m.foldedWith(c.Surface), "")
		}
	}
	for _, pen := range m.Area.Penetrations {
		layer, key := m.pieceAt("fittings", pen.ID)
		bought, _ := m.System.ProductOf(key)
		switch {
		case key == "" && (pen.Kind == "fixing" || len(m.unwoven) == 0):
		case bought.Role == "flange" || key == "" && (pen.Drains() || pen.Kind == "outlet"):
			single("flange", pen.ID, layer, key)
		default:
			single("collar", pen.ID, layer, key)
		}
	}
	order.By(p.Pieces, func(a, b Piece) int { return ranks[a.ID] - ranks[b.ID] })
	for i := range p.Pieces {
		p.Pieces[i].Number = i + 1
	}
	for _, kind := range []string{"corner", "fold", "collar", "flange"} {
		if ones := counted[kind]; len(ones) > 0 {
			p.add("piece", figure.Sum("plan.piece."+kind, "piece.count", ones...))
		}
	}
	return nil
}

// bandsOver are the bands that layers lay over a junction, each with its laps.
func (m *maker) bandsOver(j wetarea.Junction, piece func(Piece)) error {
	id := "band." + j.ID
	for _, s := range m.unwoven {
		for _, u := range s.uses {
			if u.kind != "band" || !slices.ContainsFunc(u.places, func(p place) bool { return p.id == j.ID }) {
				continue
			}
			lap, err := s.sheet.Lap()
			if err != nil {
				return err
			}
			piece(Piece{ID: id, Kind: "band", Length: j.Length + 2*lap.Value, key: s.key, Layer: u.layer, place: j.ID})
			id += "." + s.key
		}
	}
	return nil
}

// foldedWith is the layer of bands that a corner is folded with: one on the same face.
func (m *maker) foldedWith(surface string) string {
	for _, l := range m.System.Layers {
		if l.Lies("joints") && len(l.Carries) > 0 && slices.ContainsFunc(l.Where, func(w system.Where) bool { return system.OnFace(w.Faces, m.kindOf(surface)) }) {
			return l.ID
		}
	}
	return ""
}

// pieceAt is the layer, and its product, that is bought for a corner or a fitting; "": none is.
func (m *maker) pieceAt(on, id string) (layer, key string) {
	for _, l := range m.System.Layers {
		t := l.Coats[0].Target
		if !l.Lies(on) || t == nil || t.Kind != "pieces" || !m.bought(l.Product) {
			continue
		}
		if m.lies(l, on, id) {
			return l.ID, l.Product
		}
	}
	return "", ""
}

// bought tells whether a product of the system is taken, though perhaps no sheet of it is there yet.
func (m *maker) bought(key string) bool {
	_, there := m.sheets[key]
	return there || slices.ContainsFunc(m.Missing, func(n system.Named) bool { return n.Key == key })
}

// bedOrder is what is bedded after what: bands lap onto flanges, collars and corners; joints that
// move come before the bands that end on them, bands along floors before upright ones.
var bedOrder = map[string]int{"flange": 0, "collar": 1, "corner": 2, "fold": 2, "movement": 3, "control": 3, "crack_live": 3, "cold": 3, "crack_dead": 3, "wall_wall": 5}

const otherBands = 4

func count(name, arg, id string, from []figure.Figure) figure.Figure {
	return figure.Worked(name, 1, "count", "piece.one", from...).With(arg, id)
}

// addCoats works out the coats of what makes it tight, one after the other as they are laid.
func (m *maker) addCoats(total figure.Figure) error {
	filled := map[string]bool{} // surfaces whose texture a coat has filled
	for _, l := range m.System.FieldLayers() {
		first := len(m.plan.Coats)
		for i, c := range l.Coats {
			coat, net, err := m.coat(l, i, total, filled)
			if err != nil {
				return err
			}
			m.plan.Coats = append(m.plan.Coats, coat)
			if len(coat.Surface) == 0 {
				continue // of faces that the area lacks
			}
			if net.Name == "" { // it is not known how much it takes
				m.unknown = true
				continue
			}
			m.plan.add("mass", coat.Need)
			a := amount{key: l.Product, layer: l.ID, step: m.stepLaying(l.ID, c.ID), parts: []figure.Figure{net}, waste: true}
			for _, s := range coat.Surface {
				a.places = append(a.places, s.Surface)
			}
			m.amounts = append(m.amounts, a)
		}
		for _, c := range l.Carries {
			m.splitOver(l, c, m.plan.Coats[first:])
		}
	}
	for _, part := range m.System.Parts() { // of a zone too
		lies := slices.ContainsFunc(m.plan.Coats, func(c Coat) bool {
			_, own := part.LayerOf(c.Layer)
			return own && len(c.Surface) > 0
		})
		if !lies {
			return fault.At("system", "plan.layer_nowhere", "name", part.Name)
		}
	}
	return nil
}

// splitOver says how much of the coats that something is laid into lies below it and above.
func (m *maker) splitOver(l system.Layer, c system.Carries, coats []Coat) {
	if c.How != "laid_in" || c.ShareBelow == nil || !m.bought(c.Product) {
		return
	}
	share, err := m.said(c.ShareBelow)
	if err != nil {
		return
	}
	var in []Coat
	var needs []figure.Figure
	for i, coat := range l.Coats {
		if slices.Contains(c.InCoat, coat.ID) {
			in, needs = append(in, coats[i]), append(needs, coats[i].Need)
		}
	}
	if len(needs) == 0 || needs[0].Value == 0 {
		return
	}
	whole := needs[0]
	if len(needs) > 1 {
		whole = figure.Sum("plan.mass.in_coats", "mass.sum", needs...)
	}
	below, above := SplitOverFleece(whole.Value, share.Value/percent)
	m.plan.add("mass", figure.Worked("plan.mass.below_fleece", below, "kg", "mass.fleece", whole, share).With("coat", in[0].Number))
	m.plan.add("mass", figure.Worked("plan.mass.above_fleece", above, "kg", "mass.fleece", whole, share).With("coat", in[0].Number))
}

// addMasses adds up the mixed material of the film: its coats, and what of it is laid at joints and fittings.
func (m *maker) addMasses() error {
	p := m.plan
	film, _ := m.System.Membrane()
	var nets, beside []figure.Figure
	for _, a := range m.amountsOf("", film.Key) {
		if a.err != nil {
			return a.err
		}
		nets = append(nets, a.parts...)
		if !slices.ContainsFunc(p.Coats, func(c Coat) bool { return c.Layer == a.layer }) {
			beside = append(beside, a.parts...)
		}
	}
	if len(beside) > 0 {
		net := figure.Sum("plan.mass.bedding_net", "mass.sum", beside...)
		p.add("mass", figure.Worked("plan.mass.bedding", withWaste(net.Value, m.waste.Value), "kg", "mass.waste", net, m.waste))
	}
	if m.unknown {
		return nil // no total is claimed
	}
	sum := figure.Sum("plan.mass.net", "mass.sum", nets...)
	need := p.add("mass", figure.Worked("plan.mass.total", gram(withWaste(sum.Value, m.waste.Value)), "kg", "mass.waste", sum, m.waste).Rounded("to_gram"))
	kit, err := m.Film.Number("kit")
	if err != nil { // sold part by part
		return nil
	}
	bought, err := Buy(sum.Value, m.waste.Value, int(math.Round(kit.Value*1000)))
	if err != nil {
		return err
	}
	p.add("buy", figure.Worked("plan.buy.kits", float64(bought.Packs), "count", "buy.kits", need, kit).Rounded("up_to_whole").With("kit", kit.Value))
	p.add("buy", figure.Worked("plan.buy.leftover", float64(bought.Leftover)/1000, "kg", "buy.leftover", need, kit))
	return nil
}

// fill is what the first coat fills of a surface's texture, L: area × R by its grounds. A
// ground whose profile was found takes that, any other the texture picked.
func (m *maker) fill(s wetarea.Surface) ([]figure.Figure, float64, error) {
	in := m.Inputs
	var parts []figure.Figure
	volume := 0.0
	for _, g := range in.Area.Grounds(s) {
		r := m.texture
		if g.Profile > 0 {
			own, err := in.Rules.Number("texture_" + textureOf(g.Profile))
			if err != nil {
				return nil, 0, err
			}
			r = own
		}
		filled := g.Area * r.Value
		volume += filled
		parts = append(parts, figure.Worked("plan.mass.texture_part", filled, "L", "mass.texture", m.ground(g), r).With("surface", s.ID))
	}
	return parts, volume, nil
}

// textureOf names the texture of a surface profile, 1 (smooth) to 9 (open).
func textureOf(profile float64) string {
	const smooth, fine, rough = 2, 5, 7
	switch {
	case profile <= smooth:
		return rules.Textures[0]
	case profile <= fine:
		return rules.Textures[1]
	case profile <= rough:
		return rules.Textures[2]
	}
	return rules.Textures[3]
}

// coat works out one coat of a layer; net is its mass before waste. The first coat on a surface fills its texture.
// unrated tells whether a coat is laid until it covers, or runs, of a product whose sheet says no rate: how much it takes is not
// known before.
func (m *maker) unrated(l system.Layer, i int) bool {
	t := l.Coats[i].Target
	_, rate := m.sheets[l.Product].Number("rate")
	return rate != nil && t != nil && (t.Kind == "covered" || t.Kind == "until_it_runs")
}

// coatUnrated is such a coat: its surfaces, and no mass.
func (m *maker) coatUnrated(l system.Layer, i int) Coat {
	none := func(name, unit string) figure.Figure {
		return figure.Read(name, 0, unit, figure.Source{Kind: "system", Ref: m.System.ID, Says: m.System.Name})
	}
	number := len(m.plan.Coats) + 1
	coat := Coat{
		Number: number, Layer: l.ID, Coat: l.Coats[i].ID, Product: l.Product, Wet: none("plan.mass.wet", "mm"), PerM2: none("plan.mass.per_m2", "kg/m2").With("coat", number),
		Need: none("plan.mass.coat", "kg").With("coat", number), Least: none("plan.film.least", "mm"), Surface: []Share{},
	}
	for _, p := range m.on(l) {
		if p.on == "field" && system.OnFace(l.Coats[i].Faces, p.kind) && !slices.ContainsFunc(coat.Surface, func(s Share) bool { return s.Surface == p.id }) {
			coat.Surface = append(coat.Surface, Share{Surface: p.id, Area: p.size.Value})
		}
	}
	return coat
}

func (m *maker) coat(l system.Layer, i int, total figure.Figure, filled map[string]bool) (coat Coat, net figure.Figure, err error) {
	spread, err := m.spread(l, i)
	if err != nil && m.unrated(l, i) {
		return m.coatUnrated(l, i), net, nil
	}
	if err != nil {
		return coat, net, err
	}
	density, err := m.sheets[l.Product].Number("mixed_density")
	if err != nil {
		return coat, net, err
	}
	least, err := m.Rules.Number("least_share")
	if err != nil {
		return coat, net, err
	}
	number := len(m.plan.Coats) + 1
	coat = Coat{Number: number, Layer: l.ID, Coat: l.Coats[i].ID, Product: l.Product, Wet: *spread.wet, Rate: spread.perM2.Value}
	volume, area := 0.0, 0.0
	var textures, sizes []figure.Figure
	for _, p := range m.on(l) {
		at := slices.IndexFunc(m.Area.Surfaces, func(s wetarea.Surface) bool { return p.on == "field" && s.ID == p.id })
		if at < 0 || !system.OnFace(l.Coats[i].Faces, p.kind) {
			continue
		}
		s, rough := m.Area.Surfaces[at], 0.0
		if !filled[s.ID] {
			filled[s.ID] = true
			var parts []figure.Figure
			if parts, rough, err = m.fill(s); err != nil {
				return Coat{}, net, err
			}
			textures = append(textures, parts...)
		}
		volume += rough
		area += p.size.Value
		sizes = append(sizes, p.size)
		mass, err := CoatMass(p.size.Value, Film{WetTotal: coat.Wet.Value}, density.Value, rough, m.waste.Value)
		if err != nil {
			return Coat{}, net, err
		}
		coat.Surface = append(coat.Surface, Share{Surface: s.ID, Area: p.size.Value, Mass: mass.WithWaste})
	}
	if len(sizes) == 0 {
		return coat, net, nil
	}
	if len(sizes) < len(m.Area.Surfaces) || area < total.Value {
		total = figure.Sum("plan.area.coated", "area.total", sizes...)
	}
	inputs := []figure.Figure{total, coat.Wet, density}
	if coat.Fills = len(textures) > 0; coat.Fills {
		inputs = append(inputs, figure.Sum("plan.mass.texture", "mass.texture", textures...))
	}
	net = figure.Worked("plan.mass.coat_net", (total.Value*coat.Wet.Value+volume)*density.Value, "kg", "mass.coat", inputs...).With("coat", number)
	coat.Need = figure.Worked("plan.mass.coat", withWaste(net.Value, m.waste.Value), "kg", "mass.waste", net, m.waste).With("coat", number)
	coat.PerM2 = figure.Worked("plan.mass.per_m2", coat.Need.Value/total.Value, "kg/m2", "mass.per_m2", coat.Need, total).With("coat", number)
	coat.Least = figure.Worked("plan.film.least", coat.Wet.Value*least.Value/percent, "mm", "film.least", coat.Wet, least)
	return coat, net, nil
}

// addBand says how many rolls of band give all that is cut from it.
func (m *maker) addBand() error {
	s := m.bands()
	if s == nil {
		return nil
	}
	if s.list.Fault != nil {
		return s.list.Fault
	}
	roll, err := s.sheet.Number("band_roll")
	if err != nil {
		return err
	}
	lap, err := s.sheet.Lap()
	if err != nil {
		return err
	}
	parts, _, _ := m.cutNeed(*s)
	need := m.plan.add("buy", figure.Sum("plan.buy.band_need", "band.sum", parts...))
	cut := Rolled{Bands: s.list.Bands}
	rolls, err := cut.Rolls()
	if err != nil {
		return err
	}
	m.plan.add("buy", figure.Worked("plan.buy.band", float64(rolls)*roll.Value, "m", "band.rolls", need, roll, lap, m.Rules.Limit("join_clear")).
		Rounded("up_to_whole").With("rolls", rolls, "roll", roll.Value))
	return nil
}
