package takeoff

import (
	"math"
	"slices"

	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/rules"
	"dusha/core/sheet"
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
}

// Coat is what one coat asks for.
type Coat struct {
	Number  int           `json:"number"`
	Wet     figure.Figure `json:"wet"`       // wet thickness to lay, mm
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

// numbers are the figures of the sheet that a plan needs.
type numbers map[string]figure.Figure

// MakePlan works a plan out. A number that the sheet or the profile does not state is a
// fault that names it.
func MakePlan(in Inputs) (Plan, error) {
	n := numbers{}
	for _, name := range []string{"mixed_density", "coats", "wft_per_coat", "band_margin", "bed_below", "bed_above"} {
		read, err := in.Film.Number(name)
		if err != nil {
			return Plan{}, err
		}
		n[name] = read
	}
	for _, name := range []string{"greatest_wft", "kit", "coats_wall"} {
		if read, err := in.Film.Number(name); err == nil {
			n[name] = read
		}
	}
	if n["kit"].Name == "" && !in.Film.SoldByPart() {
		_, err := in.Film.Number("kit")
		return Plan{}, err
	}
	band := in.Film
	if i := slices.IndexFunc(in.With, func(c system.Companion) bool { return c.Role == "band" }); i >= 0 {
		band = in.With[i].Sheet
	}
	for _, name := range []string{"band_width", "band_roll"} {
		read, err := band.Number(name)
		if err != nil {
			return Plan{}, err
		}
		n[name] = read
	}
	lap, err := band.Lap()
	if err != nil {
		return Plan{}, err
	}
	n["band_lap"] = lap
	for _, name := range []string{"waste", "texture_" + in.Texture, "least_share"} {
		read, err := in.Rules.Number(name)
		if err != nil {
			return Plan{}, err
		}
		n[name] = read
	}
	n["texture"] = n["texture_"+in.Texture]
	plan := Plan{Sample: in.Film.Sample}
	total := plan.addAreas(in)
	bands := plan.addJunctions(in)
	plan.addPieces(in, n)
	plan.Cuts = in.cutLists(plan)
	if err := plan.addMasses(in, n, total, bands); err != nil {
		return Plan{}, err
	}
	if err := plan.addBand(in, n, band); err != nil {
		return Plan{}, err
	}
	n["total"], _ = plan.Figure("plan.mass.total")
	plan.Items = []Item{}
	plan.addItems(in, n)
	plan.addBase(in)
	plan.addChecks(in)
	for _, c := range in.With {
		plan.Sample = plan.Sample || c.Sheet.Sample
		if c.Outside {
			plan.Outside++
		}
	}
	plan.Mixed = []system.Mixed{}
	return plan, nil
}

// carries tells whether something of a role is laid into the film.
func (in Inputs) carries(role string) bool {
	film, _ := in.System.Film()
	return slices.ContainsFunc(film.Carries, func(c system.Carries) bool {
		p, _ := in.System.ProductOf(c.Product)
		return p.Role == role
	})
}

// addBase says what lies under the film or over it: screed to fall, fill of a sunken floor.
func (p *Plan) addBase(in Inputs) {
	floor := in.measured("floor")
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
func (in Inputs) measured(id string) []figure.Figure {
	var leaves []figure.Figure
	for _, from := range in.Area.Origin(id) {
		kept := in.Survey.Answers[from.Answer]
		leaves = append(leaves, figure.Read("survey."+from.Answer, kept.Value, from.Unit, figure.Source{Kind: "entry", Ref: in.SurveyRef, Says: kept.Typed}))
	}
	return leaves
}

// areaRules name the rule that gives the area of each kind of surface.
var areaRules = map[string]string{
	"floor": "area.floor", "wall": "area.wall", "soffit": "area.floor", "riser": "area.floor",
	"reveal": "area.reveal", "niche": "area.niche", "box": "area.box",
}

func (p *Plan) addAreas(in Inputs) figure.Figure {
	var areas []figure.Figure
	for _, s := range in.Area.Surfaces {
		areas = append(areas, p.add("area", in.surface(s)))
	}
	return p.add("area", figure.Sum("plan.area.total", "area.total", areas...))
}

// surface is the area of a surface, m².
func (in Inputs) surface(s wetarea.Surface) figure.Figure {
	return figure.Worked("plan.area.surface", s.Area, "m2", areaRules[s.Kind], in.measured(s.ID)...).With("surface", s.ID)
}

// junctionKinds in the order in which a plan lists them.
var junctionKinds = []string{
	"floor_wall", "wall_wall", "threshold", "wall_soffit", "niche", "reveal", "box", "riser",
	"movement", "control", "crack_live", "material", "trim",
}

// addJunctions lists the runs by kind and gives their total length, m.
func (p *Plan) addJunctions(in Inputs) figure.Figure {
	var sums []figure.Figure
	for _, kind := range junctionKinds {
		var runs []figure.Figure
		for _, j := range in.Area.Junctions {
			if j.Kind == kind {
				runs = append(runs, in.run(j))
			}
		}
		if len(runs) > 0 {
			sums = append(sums, p.add("junction", figure.Sum("plan.junction."+kind, "junction.sum", runs...)))
		}
	}
	return p.add("junction", figure.Sum("plan.junction.total", "junction.total", sums...))
}

// run is the length of one junction, m.
func (in Inputs) run(j wetarea.Junction) figure.Figure {
	return figure.Worked("plan.junction.run", j.Length/1000, "m", "junction.run", in.measured(j.ID)...).With("junction", j.ID)
}

func (p *Plan) addPieces(in Inputs, n numbers) {
	ranks := map[string]int{}
	piece := func(id, kind, over string, length float64) {
		p.Pieces = append(p.Pieces, Piece{ID: id, Kind: kind, Length: length})
		ranks[id] = otherBands
		if own, is := bedOrder[over]; is {
			ranks[id] = own
		}
	}
	for _, j := range in.Area.Junctions {
		if !j.Banded() {
			continue
		}
		piece("band."+j.ID, "band", j.Kind, bandLength(j, n))
	}
	counted := map[string][]figure.Figure{}
	for _, c := range in.Area.Corners {
		kind := "corner"
		if !c.Preformed {
			kind = "fold"
		}
		piece(c.ID, kind, kind, 0)
		counted[kind] = append(counted[kind], count("plan.piece.one_corner", "corner", c.ID, in.measured(c.ID)))
	}
	for _, pen := range in.Area.Penetrations {
		kind := "collar"
		if pen.Drains() {
			kind = "flange"
		}
		piece(pen.ID, kind, kind, 0)
		counted[kind] = append(counted[kind], count("plan.piece.one_"+kind, "fitting", pen.ID, in.measured(pen.ID)))
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
}

// bedOrder is what is bedded after what: bands lap onto flanges, collars and corners; joints that
// move come before the bands that end on them, bands along floors before upright ones.
var bedOrder = map[string]int{"flange": 0, "collar": 1, "corner": 2, "fold": 2, "movement": 3, "control": 3, "crack_live": 3, "wall_wall": 5}

const otherBands = 4

func count(name, arg, id string, from []figure.Figure) figure.Figure {
	return figure.Worked(name, 1, "count", "piece.one", from...).With(arg, id)
}

// bandLength is a run with the lap it needs at each end, mm.
func bandLength(j wetarea.Junction, n numbers) float64 {
	return j.Length + 2*n["band_lap"].Value
}

func (p *Plan) addMasses(in Inputs, n numbers, total, runs figure.Figure) error {
	coats := n["coats"]
	if walls := n["coats_wall"]; walls.Value > coats.Value {
		coats = walls // the orientation that asks for more
	}
	film := Film{Coats: int(coats.Value), WetPerCoat: n["wft_per_coat"].Value, GreatestWet: n["greatest_wft"].Value, SheetCoats: int(coats.Value)}
	inputs := []figure.Figure{coats, n["wft_per_coat"]}
	if film.GreatestWet == 0 {
		film.GreatestWet = film.WetPerCoat // none stated: the sheet's own coat
	} else {
		inputs = append(inputs, n["greatest_wft"])
	}
	counted, err := CountCoats(film)
	if err != nil {
		return err
	}
	wet := figure.Worked("plan.mass.wet", counted.WetPerCoat, "mm", "film.coats", inputs...)
	if layers, err := in.Film.Number("layers"); err == nil && in.Film.OverEachLayer() {
		wet = figure.Worked("plan.mass.wet", counted.WetPerCoat*(layers.Value+1), "mm", "film.hot_coats", wet, layers)
	}
	laid, _ := in.System.Film()
	if n := len(laid.Coats); n == 1 && counted.Coats > 1 && len(laid.Carries) > 0 {
		// Wet on wet round what is laid in: one build, of all coats together.
		wet = figure.Worked("plan.mass.wet", wet.Value*float64(counted.Coats), "mm", "film.one_build", wet, coats)
		counted.Coats = 1
	} else {
		counted.Coats = max(counted.Coats, n)
	}
	nets := []figure.Figure{}
	for number := 1; number <= counted.Coats; number++ {
		coat, net, err := in.coat(n, number, wet, total)
		if err != nil {
			return err
		}
		p.Coats = append(p.Coats, coat)
		nets = append(nets, net)
		p.add("mass", coat.Need)
		if share, err := in.Film.Number("share_below"); err == nil && number == 1 && in.carries("fleece") {
			p.addFleece(coat, share)
		}
	}
	length, width, margin := runs.Value*1000, n["band_width"].Value, n["band_margin"].Value
	bed := BedBand(length, width, margin, n["bed_below"].Value, n["bed_above"].Value, 0)
	net := figure.Worked("plan.mass.bedding_net", bed.WithWaste, "kg", "mass.bedding", runs, n["band_width"], n["band_margin"], n["bed_below"], n["bed_above"])
	nets = append(nets, net)
	p.add("mass", figure.Worked("plan.mass.bedding", withWaste(net.Value, n["waste"].Value), "kg", "mass.waste", net, n["waste"]))
	sum := figure.Sum("plan.mass.net", "mass.sum", nets...)
	need := p.add("mass", figure.Worked("plan.mass.total", gram(withWaste(sum.Value, n["waste"].Value)), "kg", "mass.waste", sum, n["waste"]).Rounded("to_gram"))
	if n["kit"].Name == "" { // sold part by part
		return nil
	}
	bought, err := Buy(sum.Value, n["waste"].Value, int(math.Round(n["kit"].Value*1000)))
	if err != nil {
		return err
	}
	p.add("buy", figure.Worked("plan.buy.kits", float64(bought.Packs), "count", "buy.kits", need, n["kit"]).Rounded("up_to_whole").With("kit", n["kit"].Value))
	p.add("buy", figure.Worked("plan.buy.leftover", float64(bought.Leftover)/1000, "kg", "buy.leftover", need, n["kit"]))
	return nil
}

// gram rounds kg to the whole gram.
func gram(kg float64) float64 { return math.Round(kg*1000) / 1000 }

// addFleece splits the coat that wets a fleece below and above it, as the sheet says.
func (p *Plan) addFleece(coat Coat, share figure.Figure) {
	below, above := SplitOverFleece(coat.Need.Value, share.Value/100)
	p.add("mass", figure.Worked("plan.mass.below_fleece", below, "kg", "mass.fleece", coat.Need, share))
	p.add("mass", figure.Worked("plan.mass.above_fleece", above, "kg", "mass.fleece", coat.Need, share))
}

// texture is what the first coat fills of a surface's texture, L: area × R by its grounds. A
// ground whose profile was found takes that, any other the texture picked.
func (in Inputs) texture(n numbers, s wetarea.Surface) ([]figure.Figure, float64, error) {
	var parts []figure.Figure
	volume := 0.0
	for _, g := range in.Area.Grounds(s) {
		r := n["texture"]
		if g.Profile > 0 {
			own, err := in.Rules.Number("texture_" + textureOf(g.Profile))
			if err != nil {
				return nil, 0, err
			}
			r = own
		}
		filled := g.Area * r.Value
		volume += filled
		parts = append(parts, figure.Worked("plan.mass.texture_part", filled, "L", "mass.texture", in.ground(g), r).With("surface", s.ID))
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

// coat works out one coat; net is its mass before waste.
func (in Inputs) coat(n numbers, number int, wet, total figure.Figure) (coat Coat, net figure.Figure, err error) {
	density := n["mixed_density"].Value
	coat = Coat{Number: number, Wet: wet}
	inputs := []figure.Figure{total, wet, n["mixed_density"]}
	volume := total.Value * wet.Value
	var textures []figure.Figure
	for _, s := range in.Area.Surfaces {
		filled := 0.0
		if number == 1 {
			var parts []figure.Figure
			if parts, filled, err = in.texture(n, s); err != nil {
				return Coat{}, net, err
			}
			textures = append(textures, parts...)
			volume += filled
		}
		mass, err := CoatMass(s.Area, Film{WetTotal: wet.Value}, density, filled, n["waste"].Value)
		if err != nil {
			return Coat{}, net, err
		}
		coat.Surface = append(coat.Surface, Share{Surface: s.ID, Area: s.Area, Mass: mass.WithWaste})
	}
	if number == 1 {
		inputs = append(inputs, figure.Sum("plan.mass.texture", "mass.texture", textures...))
	}
	net = figure.Worked("plan.mass.coat_net", volume*density, "kg", "mass.coat", inputs...).With("coat", number)
	coat.Need = figure.Worked("plan.mass.coat", withWaste(net.Value, n["waste"].Value), "kg", "mass.waste", net, n["waste"]).With("coat", number)
	coat.PerM2 = figure.Worked("plan.mass.per_m2", coat.Need.Value/total.Value, "kg/m2", "mass.per_m2", coat.Need, total).With("coat", number)
	coat.Least = figure.Worked("plan.film.least", wet.Value*n["least_share"].Value/100, "mm", "film.least", wet, n["least_share"])
	return coat, net, nil
}

// addBand says how many rolls of band give all that is cut from it.
func (p *Plan) addBand(in Inputs, n numbers, band sheet.Sheet) error {
	got, err := p.cutNeed(in, n, system.Companion{Role: "band", Sheet: band})
	if err != nil {
		return err
	}
	need := p.add("buy", figure.Sum("plan.buy.band_need", "band.sum", got.parts...))
	rolls := 0
	if got.cut != nil {
		if rolls, err = got.cut.Rolls(); err != nil {
			return err
		}
	}
	p.add("buy", figure.Worked("plan.buy.band", float64(rolls)*n["band_roll"].Value, "m", "band.rolls", need, n["band_roll"], n["band_lap"], in.Rules.Limit("join_clear")).
		Rounded("up_to_whole").With("rolls", rolls, "roll", n["band_roll"].Value))
	return nil
}

// bandPiece is the band over a junction with its laps, m.
func (in Inputs) bandPiece(j wetarea.Junction, n numbers) figure.Figure {
	return figure.Worked("plan.buy.band_piece", bandLength(j, n)/1000, "m", "band.piece", in.run(j), n["band_lap"]).With("junction", j.ID)
}
