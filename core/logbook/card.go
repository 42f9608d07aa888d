package logbook

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/mixing"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// CardInputs ask for a bucket card: a share of a coat, or of another work of a step by its layer, the air and base
// temperature, and the tools at hand.
type CardInputs struct {
	Coat       int      `json:"coat"` // 0: a work
	Step       string   `json:"step,omitempty"`
	Layer      string   `json:"layer,omitempty"`
	Surfaces   []string `json:"surfaces"`
	Temp       float64  `json:"temp_C"`
	Bucket     float64  `json:"bucket_L"`
	Resolution float64  `json:"scale_g"`
	CrewRate   float64  `json:"crew_m2_per_h"`
	Walk       float64  `json:"walk_min"`
	Tool       string   `json:"tool,omitempty"` // "roller" or "trowel", where the water goes by it
}

// Card is what to weigh, in what order, and until when it can be used.
type Card struct {
	Sample   bool                `json:"sample"`
	Need     float64             `json:"need_kg"`
	Area     float64             `json:"area_m2"` // or m along joints
	Wet      float64             `json:"wft_mm"`  // 0 where it is no film
	Batches  mixing.Series       `json:"series"`
	Greatest mixing.Greatest     `json:"greatest"`
	Least    float64             `json:"least_kg"`
	Weigh    [][]mixing.Weighing `json:"weigh"`   // one list a batch, in pouring order
	Gauging  *Gauging            `json:"gauging"` // null where the powder goes into one liquid
	Added    []AddedLine         `json:"added"`   // what comes on top of each bucket
	MixMin   float64             `json:"mix_min"`
	MixSpeed *float64            `json:"mix_rpm"`  // null where the sheet states none
	PotFrom  string              `json:"pot_from"` // what the pot life counts from: a mark of the bucket
	StandMin float64             `json:"stand_min"`
	PotLife  float64             `json:"pot_life_min"`  // from first contact
	Outside  bool                `json:"outside_range"` // the temperature is outside the sheet's range
	TempFrom float64             `json:"temp_least_C"`
	TempTo   float64             `json:"temp_most_C"`
}

// Gauging is the liquid that a powder goes into where it is itself a mix: it is stirred first, and keeps, so it may be made
// for all buckets at once.
type Gauging struct {
	Bucket float64        `json:"bucket_kg"` // of the first bucket
	All    float64        `json:"all_kg"`    // of all of them
	Parts  []GaugingShare `json:"parts"`
}

// GaugingShare is one liquid of it, for all buckets.
type GaugingShare struct {
	Name string  `json:"name"`
	Kg   float64 `json:"kg"`
}

// gauging is the liquid of some buckets; nil where it is one liquid, or nothing is stirred into it.
func gauging(buckets [][]mixing.Weighing) *Gauging {
	g, powder := Gauging{Parts: []GaugingShare{}}, false
	for n, parts := range buckets {
		liquid := 0
		for _, part := range parts {
			if part.Kind != "liquid" {
				powder = true
				continue
			}
			if n == 0 {
				g.Parts, g.Bucket = append(g.Parts, GaugingShare{Name: part.Name}), g.Bucket+part.Mass
			}
			g.Parts[liquid].Kg += part.Mass
			g.All += part.Mass
			liquid++
		}
	}
	if !powder || len(g.Parts) < 2 {
		return nil
	}
	return &g
}

// AddedLine is an additive to one bucket.
type AddedLine struct {
	Bucket int      `json:"bucket"` // from 1
	Key    string   `json:"key"`    // the system's name for it
	Name   string   `json:"name"`
	Kg     float64  `json:"kg"`
	ML     *float64 `json:"mL"` // where it is dosed by volume
}

// CardFor works out the bucket card of a share of a coat. Faults name the field.
func (a *Area) CardFor(in CardInputs) (Card, error) {
	if a.Takeoff == nil || a.Plan == nil {
		return Card{}, fault.At("plan", "card.no_plan")
	}
	mix, err := a.toMix(in)
	if err != nil {
		return Card{}, err
	}
	if err := in.check(); err != nil {
		return Card{}, err
	}
	of := a.Plan.sheets[mix.product]
	said, err := cardNumbers(of)
	if err != nil {
		return Card{}, err
	}
	card := Card{
		Sample: of.Sample, Wet: mix.wet, MixMin: said["mix"], StandMin: said["stand"],
		TempFrom: said["temp_least"], TempTo: said["temp_most"],
	}
	card.Weigh = [][]mixing.Weighing{}
	card.Outside = in.Temp < card.TempFrom || in.Temp > card.TempTo
	if err := card.addNeed(mix, in.Surfaces); err != nil {
		return Card{}, err
	}
	card.PotLife, _, _, err = mixing.PotLife(of.Table("pot_life"), in.Temp)
	if err != nil {
		return Card{}, err
	}
	card.Greatest = mixing.Limits{
		PotLife: card.PotLife, Mixing: card.MixMin, Standing: card.StandMin, Walk: in.Walk,
		CrewRate: in.CrewRate, PerM2: card.Need / card.Area, Bucket: in.Bucket, Density: said["mixed_density"],
	}.Greatest()
	if readyMixed(of) {
		card.Greatest = fromPails(card.Greatest, of)
	}
	if err := card.addBatches(of, a.Plan.Rules, in, said); err != nil {
		return Card{}, err
	}
	card.PotFrom, card.Gauging = potLifeFrom(of), gauging(card.Weigh)
	if speed, err := of.Number("mix_speed"); err == nil {
		card.MixSpeed = &speed.Value
	}
	if err := a.addAdditives(&card, mix.layer, said["mixed_density"]); err != nil {
		return Card{}, err
	}
	return card, a.addWater(&card, mix.layer, of, in.Tool)
}

// potLifeFrom is the mark of a bucket that its pot life counts from: the first contact, unless its sheet says otherwise.
func potLifeFrom(s sheet.Sheet) string {
	if mark, is := map[string]string{"powder_taken_up": "mixing", "mix_ready": "ready"}[s.Choices["pot_life_from"]]; is {
		return mark
	}
	return "contact"
}

// addWater says how much water each bucket takes where it goes by the tool.
func (a *Area) addWater(card *Card, layer string, of sheet.Sheet, tool string) error {
	l, _ := a.Plan.built.System.LayerOf(layer)
	if l.Mix == nil || l.Mix.Water != waterByTool {
		return nil
	}
	figure, known := map[string]string{"roller": "water_roller", "trowel": "water_trowel"}[tool]
	if !known {
		return fault.At("tool", "card.tool_missing")
	}
	said, err := of.Number(figure)
	if err != nil {
		return err
	}
	for n, kg := range card.Batches.Batches {
		ml := said.Value * kg
		card.Added = append(card.Added, AddedLine{Bucket: n + 1, Key: "water", Name: "water", Kg: ml / 1000, ML: &ml})
	}
	return nil
}

// waterByTool is water that goes by the tool it is laid with.
const waterByTool = "by_tool"

// toMix is what a card is for: a coat of the film, or another work.
type toMix struct {
	product, layer string // keys
	wet            float64
	shares         []takeoff.Share
}

func (a *Area) toMix(in CardInputs) (m toMix, err error) {
	if in.Layer == "" {
		if in.Coat < 1 || in.Coat > len(a.Takeoff.Coats) {
			return m, fault.At("coat", "card.no_such_coat", "value", in.Coat)
		}
		coat := a.Takeoff.Coats[in.Coat-1]
		return toMix{coat.Product, coat.Layer, coat.Wet.Value, coat.Surface}, nil
	}
	for _, w := range a.Takeoff.Works {
		if w.Step != in.Step || w.Layer != in.Layer {
			continue
		}
		m.product, m.layer = w.Product, w.Layer
		for _, p := range w.Places {
			m.shares = append(m.shares, takeoff.Share{Surface: p.ID, Area: p.Size, Mass: p.Need})
		}
		return m, nil
	}
	return m, fault.At("layer", "card.no_such_work", "layer", fault.Short(in.Layer))
}

// readyMixed tells whether a product is used out of its pail: nothing of it is weighed against another part.
func readyMixed(s sheet.Sheet) bool { return len(s.Parts) == 1 && s.Parts[0].Kind == "liquid" }

// fromPails is the greatest share of what comes ready mixed: what can be laid in time, a pail at most. No bucket bounds it.
func fromPails(g mixing.Greatest, s sheet.Sheet) mixing.Greatest {
	g.ByBucket, g.Batch, g.Governs = 0, g.ByTime, "time"
	pail := 0.0
	for _, pack := range s.Packs {
		pail = max(pail, pack.Size)
	}
	if kit, err := s.Number("kit"); err == nil {
		pail = max(pail, kit.Value)
	}
	if pail > 0 && pail < g.Batch {
		g.Batch, g.Governs = pail, "pack"
	}
	return g
}

// addAdditives says what comes on top of each bucket: by mass, or by volume to the kilogram or the litre.
func (a *Area) addAdditives(card *Card, layer string, density float64) error {
	card.Added = []AddedLine{}
	l, _ := a.Plan.built.System.LayerOf(layer)
	if l.Mix == nil {
		return nil
	}
	for n, kg := range card.Batches.Batches {
		for _, key := range l.Mix.Additives {
			of, there := a.Plan.sheets[key]
			if !there {
				continue // the plan says that its sheet is missing
			}
			added, err := of.DoseTo(kg, density)
			if err != nil {
				return err
			}
			line := AddedLine{Bucket: n + 1, Key: key, Name: of.Name, Kg: added.Kg}
			if added.ML > 0 {
				line.ML = &added.ML
			}
			card.Added = append(card.Added, line)
		}
	}
	return nil
}

func (in CardInputs) check() error {
	return first(
		within("temp_C", in.Temp, coldest, hottest),
		within("bucket_L", in.Bucket, 1, 200),
		within("scale_g", in.Resolution, 0.1, 1000),
		within("crew_m2_per_h", in.CrewRate, 0.5, 200),
		within("walk_min", in.Walk, 0, 60))
}

// cardNumbers are the figures that a card cannot do without. Those that its sheet was not read for are named all at once.
func cardNumbers(s sheet.Sheet) (map[string]float64, error) {
	said := map[string]float64{}
	var missing fault.Faults
	miss := func(name string) {
		missing = append(missing, fault.At("sheet."+name, "sheet.not_stated", "number", name, "sheet", s.Name, "id", s.ID))
	}
	for _, name := range []string{"mixed_density", "density_a", "mix", "stand", "temp_least", "temp_most", "kit"} {
		f, err := s.Number(name)
		switch {
		case err == nil:
			said[name] = f.Value
		case name == "kit" && s.SoldByPart(): // there is no kit: the parts are weighed out
		case name == "density_a": // it moves the levels between the parts alone, not what is weighed
			said[name] = said["mixed_density"]
		default:
			miss(name)
		}
	}
	if len(s.Table("pot_life").Entries) == 0 {
		miss("pot_life_20")
	}
	if len(missing) > 0 {
		return nil, missing
	}
	return said, nil
}

func (c *Card) addNeed(mix toMix, surfaces []string) error {
	for _, share := range mix.shares {
		if slices.Contains(surfaces, share.Surface) {
			c.Need += share.Mass
			c.Area += share.Area
		}
	}
	if c.Area == 0 {
		return fault.At("surfaces", "card.no_surface")
	}
	return nil
}

func (c *Card) addBatches(s sheet.Sheet, p rules.Profile, in CardInputs, said map[string]float64) error {
	shares, err := s.PartSharesAt(in.Temp)
	if err != nil {
		return err
	}
	if len(shares) > 1 { // one part alone has no ratio to keep
		if c.Least, err = mixing.Least(in.Resolution, shares, Tolerance(s, p), false); err != nil {
			return err
		}
	}
	if readyMixed(s) {
		c.Batches = mixing.Plan(c.Need, c.Greatest.Batch, 0)
	} else if s.WeighOut {
		c.Batches = mixing.Plan(c.Need, c.Greatest.Batch, c.Least)
	} else {
		c.Batches = mixing.PlanKits(c.Need, c.Greatest.Batch, said["kit"])
	}
	for _, kg := range c.Batches.Batches {
		masses, err := RatioParts(s, kg, in.Temp)
		if err != nil {
			return err
		}
		c.Weigh = append(c.Weigh, inBucket(s, said, masses, in.Resolution))
	}
	return nil
}

// inBucket lists the parts in pouring order with what the scale shows and the level that
// each reaches, for a scale of the given resolution in g.
func inBucket(s sheet.Sheet, said, masses map[string]float64, resolution float64) []mixing.Weighing {
	order := make([]mixing.Weighing, len(s.Parts))
	for i, part := range s.Parts {
		order[i] = mixing.Weighing{Part: part.ID, Name: part.Name, Kind: part.Kind}
		if part.Kind == "liquid" {
			order[i].Volume = 1 / said["density_a"] // litres a kilogram
		}
	}
	return mixing.Weigh(masses, order, resolution, said["mixed_density"])
}
