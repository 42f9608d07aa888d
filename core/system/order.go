package system

import (
	"cmp"
	"embed"
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	json1 "github.com/go-json-experiment/json/v1"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// Order is the work of a system, stage by stage.
type Order struct {
	Stages []Stage `json:"stages"`
	Asked  []Asked `json:"asked"` // figures that no sheet states: asked back, not refused
}

// Asked is a figure that a step waits for and no sheet states.
type Asked struct {
	Step    string `json:"step"`
	Product string `json:"product"` // key
	Figure  string `json:"figure"`  // its name on the sheet, or the beginning of a table's
	Open    bool   `json:"open"`    // a latest that its sheet leaves out: the step stays open, and that is said
}

// Steps lists all steps in order.
func (o Order) Steps() []Step {
	n := 0
	for _, stage := range o.Stages {
		n += len(stage.Steps)
	}
	steps := make([]Step, 0, n) // it is asked often: nothing grows
	for _, stage := range o.Stages {
		steps = append(steps, stage.Steps...)
	}
	return steps
}

// Step finds a step by its id.
func (o Order) Step(id string) (Step, bool) {
	for _, stage := range o.Stages {
		if i := slices.IndexFunc(stage.Steps, func(s Step) bool { return s.ID == id }); i >= 0 {
			return stage.Steps[i], true
		}
	}
	return Step{}, false
}

//go:embed steps.json samples.json samples_schools.json
var files embed.FS

// usual are the steps as the trade words them, by name; a system says otherwise where it means otherwise.
var usual = func() map[string]Step {
	text, err := files.ReadFile("steps.json")
	if err != nil {
		panic(err)
	}
	var steps map[string]json.RawMessage
	if err := json1.Unmarshal(text, &steps); err != nil {
		panic(err)
	}
	read := map[string]Step{}
	var step func(name string) Step
	step = func(name string) Step {
		if known, is := read[name]; is {
			return known
		}
		var over struct {
			Like string `json:"like"`
		}
		var s Step
		if err := json1.Unmarshal(steps[name], &over); err != nil {
			panic(err)
		}
		if over.Like != "" {
			s = step(over.Like).own()
		}
		if err := json1.Unmarshal(steps[name], &s); err != nil {
			panic(err)
		}
		read[name] = s
		return s
	}
	for name := range steps {
		step(name)
	}
	return read
}()

// stage of a layer by the role of its product and where it lies.
type stage int

const (
	inPrepare stage = iota
	inPrime
	inBeads
	inDetail
	inField
	inReturn // a primer laid again before a later coat
	inTop
	inProtect
	inFinish // an overlay or finish: each of its layers is a step, in the order in which they lie
)

// roleStage is when a product is laid, by its role.
var roleStage = map[string]stage{
	"fillet_mortar": inPrepare, "repair_mortar": inPrepare, "leak_plug": inPrepare,
	"primer": inPrime, "sealant": inBeads, "bond_breaker": inBeads,
	"band": inDetail, "corner": inDetail, "collar": inDetail, "flange": inDetail, "seam_tape": inDetail,
	"membrane": inField, "sheet": inField, "fleece": inField, "mesh": inField,
	"top_coat": inTop, "grip_coat": inTop, "aggregate": inTop, "reflective_coat": inTop,
	"injection_resin": inPrepare, "screed": inPrepare, "water_stop": inDetail, "trim": inDetail,
	"smoothing_compound": inFinish, "covering_adhesive": inFinish, "covering": inFinish, "grout": inFinish, "sealer": inFinish, "vapour_coat": inFinish, "renovation_plaster": inFinish,
	"overlay_additive": inProtect, "protection": inProtect, "masking": inProtect,
}

func (s System) stageOf(l Layer) stage {
	p, _ := s.ProductOf(l.Product)
	at := roleStage[p.Role]
	switch {
	case l.Course == "finish": // sealed, or laid over, once the film is proved
		return inFinish
	case p.Role == "screed" && s.overFilm(l): // falls above the film
		return inProtect
	case s.finishes(l): // what lies on a finish belongs to it: a grip coat on a covering, joints last
		return inFinish
	case l.Before != "":
		return inReturn
	case p.Role == "membrane" && !l.Lies("field"):
		return inDetail // bedding, a fillet or a patch of it
	case at == inPrime && s.Reads().Key == "primer_in_patches":
		return inPrepare
	case at == inBeads && (s.WayOf("details") != "first_and_dry" || s.Reads().Junction == "rigid_fillet"):
		return inDetail // laid with the bands
	}
	return at
}

// maker makes the default order of a system.
type maker struct {
	System
	sheets map[string]sheet.Sheet // by key
	order  Order
	by     map[stage][]Layer
}

// MakeOrder makes the steps of a system from its layers and ways, says otherwise what the system says otherwise, and
// lays over it what was changed by hand. sheets are the printings in use by the system's keys; a figure that none
// states is asked back.
func MakeOrder(s System, sheets map[string]sheet.Sheet) (Order, error) {
	s, err := s.Fitted(sheets)
	if err != nil {
		return Order{Stages: []Stage{}, Asked: []Asked{}}, err
	}
	return s.order(sheets)
}

// order is the order of a system that is fitted to its printings.
func (s System) order(sheets map[string]sheet.Sheet) (Order, error) {
	if len(s.Zones) > 0 {
		o, err := s.orderOfZones(sheets)
		if err == nil {
			err = o.finish(s)
		}
		return o, err
	}
	m := maker{System: s, sheets: sheets, by: map[stage][]Layer{}, order: Order{Stages: []Stage{}, Asked: []Asked{}}}
	later := s.laterLayers()
	for _, l := range s.Layers {
		if at := s.stageOf(l); !slices.Contains(later, l.ID) {
			m.by[at] = append(m.by[at], l)
		}
	}
	m.stage("survey", "Survey", m.usual("survey"))
	m.stage("plan", "Plan", m.usual("plan"))
	m.stage("prepare", "Prepare", m.prepare(), m.usual("substrate_accepted"))
	if layers := m.by[inPrime]; len(layers) > 0 {
		m.stage("prime", "Prime", m.lays("prime", layers))
	}
	if s.WayOf("details") != "field_first" {
		m.details()
	}
	m.field()
	if s.WayOf("details") == "field_first" {
		m.details()
	}
	if s.WayOf("mist") == "mist" {
		m.stage("mist", "Mist", m.usual("mist"))
	}
	m.cure()
	for _, proof := range s.Proofs {
		m.proof(proof)
	}
	if layers := m.by[inTop]; len(layers) > 0 {
		m.stage("top_coat", "Top coat", m.lays("top_coat", layers))
	}
	m.stage("protect", "Protect", m.protect())
	m.finish()
	m.stage("hand_over", "Hand over", m.usual("handed_over"))
	m.sayOtherwise()
	if err := m.order.finish(s); err != nil {
		return m.order, err
	}
	m.mend()
	return m.order, nil
}

// finish lays over an order what was changed by hand, and checks it.
func (o *Order) finish(s System) error {
	for _, e := range s.Edits {
		if err := o.apply(e); err != nil {
			return err
		}
	}
	return o.check(s)
}

// stage adds a stage; steps without an id are left out.
func (m *maker) stage(id, title string, steps ...Step) {
	steps = slices.DeleteFunc(steps, func(s Step) bool { return s.ID == "" })
	if len(steps) > 0 {
		m.order.Stages = append(m.order.Stages, Stage{ID: id, Title: title, Steps: steps})
	}
}

// usual is a step as the trade words it.
func (m *maker) usual(name string) Step { return usual[name] }

// prepare readies the base in the way the system wants it.
func (m *maker) prepare() Step {
	s := m.usual("prepare")
	if own, is := usual["prepare_"+m.WayOf("base")]; is {
		s = own
	}
	s.Face = m.BaseFace()
	s.Of = ids(m.by[inPrepare])
	if old, is := oldCoatings[m.WayOf("old_coatings")]; is {
		s.Asks = append(slices.Clip(s.Asks), old)
	}
	return m.takes(s)
}

// BaseFace is the state that the system wants the base in; "" where any will do.
func (s System) BaseFace() string {
	if way := s.WayOf("base"); slices.Contains(Faces, way) {
		return way
	}
	return ""
}

// oldCoatings is what is asked of the base where the survey found one.
var oldCoatings = map[string]Question{
	"strip": {ID: "old_coatings", Line: "Old coatings stripped to the base", When: WhenOldCoating},
	"keep":  {ID: "old_coatings", Line: "Old coating sound, keyed, and known to bear the film", When: WhenOldCoating},
}

// WhenOldCoating is asked only where the survey found an old coating.
const WhenOldCoating = "old_coating"

// protect covers the film: after its cure, or inside the window that its sheet gives an overlay.
func (m *maker) protect() Step {
	s := m.lays("protect", m.by[inProtect])
	layers := m.by[inField]
	if len(layers) == 0 {
		return s
	}
	key, last := layers[len(layers)-1].Product, "coat_"+strconv.Itoa(m.coats())
	times := map[string][][2]string{"after_cure": {{"cure", ""}, {"overlay", ""}}, "short_window": {{"overlay", "overlay_latest"}}}[m.WayOf("overlay")]
	for _, t := range times {
		if link, is := m.link(last, key, t[0], t[1]); is {
			link.Per = "all"
			s.After = append(s.After, link)
		}
	}
	return s
}

// coats is how many coats the film has.
func (m *maker) coats() (n int) {
	for _, l := range m.by[inField] {
		n += len(l.Coats)
	}
	return n
}

// lays is one step that lays layers together.
func (m *maker) lays(name string, layers []Layer) Step {
	s := m.usual(name)
	s.Of = ids(layers)
	s.After = m.waitsAfter(s)
	return m.takes(s)
}

// details are beads and breakers, then what is bedded at joints, corners and fittings, with its hold.
func (m *maker) details() {
	var steps []Step
	if layers := m.by[inBeads]; len(layers) > 0 {
		steps = append(steps, m.lays("beads", layers))
		m.stage("detail", "Detail", steps...)
	}
	layers := m.by[inDetail]
	if len(layers) == 0 {
		return
	}
	place, hold := m.lays("bands", layers), m.usual("details_accepted")
	if n := len(m.order.Stages); len(steps) > 0 {
		m.order.Stages[n-1].Steps = append(m.order.Stages[n-1].Steps, place, hold)
		return
	}
	m.stage("detail", "Detail", place, hold)
}

// field are the coats of what makes it tight, each with the hold that accepts it. Coats that are laid wet on wet with
// nothing to look at between are one build.
func (m *maker) field() {
	var steps []Step
	var open []string // coats that no hold has accepted yet
	first := map[string]int{}
	number := 0
	for _, l := range m.by[inField] {
		first[l.ID] = number
		number += len(l.Coats)
	}
	for _, course := range m.courses() {
		most := 0
		for _, l := range course {
			most = max(most, len(l.Coats))
		}
		for i := range most {
			goesOn := false // wet on wet: nothing is looked at between
			var last Layer
			var at []Where
			everywhere := false
			for _, l := range course {
				if i >= len(l.Coats) {
					continue
				}
				laid := m.coatSteps(l, i, first[l.ID]+i+1)
				steps = append(steps, laid...)
				open = append(open, l.ID+"."+l.Coats[i].ID)
				goesOn = goesOn || i+1 < len(l.Coats) && l.Coats[i+1].On == "wet"
				last, number = l, first[l.ID]+i+1
				own := laid[len(laid)-1].At
				at, everywhere = append(at, own...), everywhere || own == nil
			}
			if goesOn {
				continue
			}
			hold := m.usual("accept_coat")
			if hold.ID, hold.Of, hold.Coat, hold.At = "coat_"+strconv.Itoa(number)+"_accepted", open, number, at; everywhere {
				hold.At = nil
			}
			hold.Title, hold.Why = m.acceptWords(last, i, number)
			steps, open = append(steps, hold), nil
		}
	}
	m.stage("coat", "Coat", steps...)
}

// courses are the layers of the film that are accepted together: neighbours that lie beside each other.
func (m *maker) courses() (list [][]Layer) {
	for _, l := range m.by[inField] {
		if n := len(list); n > 0 && !slices.ContainsFunc(list[n-1], l.meets) && list[n-1][0].Zone == l.Zone {
			list[n-1] = append(list[n-1], l)
			continue
		}
		list = append(list, []Layer{l})
	}
	return list
}

// coatSteps are the steps that lay one coat: its primer once more, where one comes before it, and the coat.
func (m *maker) coatSteps(l Layer, i, number int) (steps []Step) {
	c := l.Coats[i]
	name := "coat"
	switch {
	case len(l.Carries) > 0 && len(l.carried(c.ID)) > 0 && l.Lies("field"):
		name = "embed"
	case number == 2:
		name = "coat_again"
	case number > 2:
		name = "coat_third"
	}
	s := m.usual(name)
	s.ID, s.Of, s.Strokes, s.Coat, s.At = "coat_"+strconv.Itoa(number), []string{l.ID + "." + c.ID}, c.Strokes, number, l.at(c)
	s.After = m.coatWaits(l, i, number)
	for _, m := range c.Minds {
		if m.What == "sun" { // no forecast tells it: whoever lays it sees to it
			s.Asks = append(slices.Clip(s.Asks), Question{ID: "shaded", Line: "Kept out of the sun"})
		}
	}
	if again := m.primeAgain(l.ID+"."+c.ID, number, s); again.ID != "" {
		steps = append(steps, again)
		s.After = m.waitsAfter(Step{Does: Lay, Coat: number}, again)
	}
	return append(steps, m.takes(s))
}

// primeAgain lays the primers that come before a coat once more; it waits for the coat under it as that would have.
func (m *maker) primeAgain(of string, number int, coat Step) (s Step) {
	var layers []Layer
	for _, l := range m.by[inReturn] {
		if l.Before == of {
			layers = append(layers, l)
		}
	}
	if len(layers) == 0 {
		return s
	}
	s = m.usual("prime_again")
	s.ID, s.At, s.After = "prime_"+strconv.Itoa(number), coat.At, coat.After
	s.Of = ids(layers)
	return m.takes(s)
}

// at is where a coat lies that is not for every face; nil: it is.
func (l Layer) at(c Coat) (at []Where) {
	faced := len(c.Faces) > 0
	for _, w := range l.Where {
		faced = faced || len(w.Faces) > 0 || w.Up > 0 || w.FromUp > 0 || len(w.Areas) > 0
		if len(c.Faces) > 0 && w.On == "field" {
			w.Faces = c.Faces
		}
		at = append(at, w)
	}
	if !faced {
		return nil
	}
	return at
}

// acceptWords are what the hold of a coat says.
func (m *maker) acceptWords(l Layer, i, number int) (title, why string) {
	words := usual["accept_coat_"+strconv.Itoa(number)]
	if words.ID == "" {
		words = usual["accept_coat_3"]
	}
	if last := m.by[inField]; i == len(l.Coats)-1 && last[len(last)-1].ID == l.ID && number == 1 {
		return words.Title, usual["accept_coat_2"].Why
	}
	return words.Title, words.Why
}

// takes says which products a step takes, by their roles, and what to beware of with what makes it tight.
func (m *maker) takes(s Step) Step {
	add := func(key string) {
		if p, known := m.ProductOf(key); known && !slices.Contains(s.Uses, p.Role) {
			s.Uses = append(slices.Clip(s.Uses), p.Role)
		}
	}
	for _, of := range s.Of {
		l, _ := m.LayerOf(of)
		_, coat, whole := strings.Cut(of, ".")
		add(l.Product)
		for _, c := range l.Carries {
			if !whole || slices.Contains(c.InCoat, coat) {
				add(c.Product)
			}
		}
		if l.Mix != nil {
			for _, key := range l.Mix.Additives {
				add(key)
			}
		}
	}
	for _, of := range s.Of {
		l, _ := m.LayerOf(of)
		if lays := m.sheets[l.Product]; lays.Choices["licence"] == "yes" && s.Licence == "" {
			s.Licence = lays.Name
		}
	}
	return m.cautioned(s)
}

// cautioned adds what to beware of: with the film where it is laid, and with each product that the step takes.
func (m *maker) cautioned(s Step) Step {
	cautions := []string{}
	add := func(list []string) {
		for _, c := range list {
			if !slices.Contains(cautions, c) {
				cautions = append(cautions, c)
			}
		}
	}
	if film, is := m.Film(); is && s.Lays() {
		add(m.sheets[film.Product].Cautions())
	}
	add(s.Cautions)
	for _, of := range s.Of {
		l, _ := m.LayerOf(of)
		add(m.sheets[l.Product].Cautions())
		for _, c := range l.Carries {
			add(m.sheets[c.Product].Cautions())
		}
		if l.Mix != nil {
			for _, key := range l.Mix.Additives {
				add(m.sheets[key].Cautions())
			}
		}
	}
	if len(cautions) > 0 {
		s.Cautions = cautions
	}
	return s
}

// carried are the keys of what a coat carries.
func (l Layer) carried(coat string) (keys []string) {
	for _, c := range l.Carries {
		if slices.Contains(c.InCoat, coat) {
			keys = append(keys, c.Product)
		}
	}
	return keys
}

// coatWaits are what a coat waits for: the coat under it by its state, the first one by what lies under the film.
func (m *maker) coatWaits(l Layer, i, number int) (after []Link) {
	under, before, is := l, number-1, true
	if i == 0 {
		under, before, is = m.under(l)
	}
	if !is {
		after = m.waitsAfter(Step{Does: Lay, Coat: number, Of: []string{l.ID}})
		if m.WayOf("details") == "first_and_dry" && len(m.by[inDetail]) > 0 {
			if link, is := m.link("bands", l.Product, "recoat", ""); is {
				after = append(after, link)
			}
		}
		return after
	}
	link := Link{Step: "coat_" + strconv.Itoa(before), Least: &Figure{Of: under.Product + ".recoat"}, Latest: &Figure{Of: under.Product + ".recoat_latest"}}
	switch l.Coats[i].On {
	case "wet":
		link.Anchor, link.Least = "start", nil
	default:
		link.States = []string{"firm", "no_tack", "no_transfer"}
	}
	return []Link{link}
}

// under is the layer of the film that another one lies on, with the number of its last coat; none where it lies on faces of
// its own.
func (m *maker) under(l Layer) (under Layer, last int, is bool) {
	number := 0
	for _, other := range m.by[inField] {
		if other.ID == l.ID {
			break
		}
		number += len(other.Coats)
		if other.meets(l) {
			under, last, is = other, number, true
		}
	}
	return under, last, is
}

// meets tells whether two layers lie on a face together.
func (l Layer) meets(other Layer) bool {
	for _, one := range l.Where {
		for _, two := range other.Where {
			if one.On == "field" && two.On == "field" && slices.ContainsFunc(kindsOf(one.Faces), func(kind string) bool { return OnFace(two.Faces, kind) }) {
				return true
			}
		}
	}
	return false
}

// remedy is what a product's system says to do where something of it was missed.
func (m *maker) remedy(of, missed string) (Remedy, bool) {
	i := slices.IndexFunc(m.Remedies, func(r Remedy) bool { return r.Of == of && r.Missed == missed })
	if i < 0 {
		return Remedy{}, false
	}
	return m.Remedies[i], true
}

// mend puts the steps of a product's remedy before each step that may come too late for it. They are there only where it
// did: who keeps the logbook tells.
func (m *maker) mend() {
	for i := range m.order.Stages {
		stage := &m.order.Stages[i]
		for k := 0; k < len(stage.Steps); k++ {
			s := &stage.Steps[k]
			var mending []Step
			for n, link := range s.After {
				for _, missed := range link.misses() {
					r, is := m.remedy(missed.Product())
					if !is {
						continue
					}
					if s.After = slices.Clone(s.After); s.After[n].Otherwise == "" {
						s.After[n].Otherwise = r.Say
					}
					for _, step := range r.Steps {
						step.ID, step.Mends, step.Missed = s.ID+"_"+step.ID, s.ID, missed.Of
						if step.Why == "" {
							step.Why = r.Say
						}
						if !slices.ContainsFunc(mending, func(other Step) bool { return other.ID == step.ID }) {
							mending = append(mending, m.takes(step))
						}
					}
				}
			}
			stage.Steps = slices.Insert(stage.Steps, k, mending...)
			k += len(mending)
		}
	}
}

// misses are what may be missed of a link: its latest time, and the states that a person confirms.
func (l Link) misses() (list []*Figure) {
	if l.Latest != nil {
		list = append(list, l.Latest)
	}
	for _, state := range l.States {
		list = append(list, &Figure{Of: l.StateOf(state)})
	}
	return list
}

// StateOf names a state of a link as a remedy names it: by the product whose time the link waits for, "membrane.no_tack".
func (l Link) StateOf(state string) string {
	for _, f := range []*Figure{l.Least, l.Latest} {
		if key, _ := f.Product(); key != "" {
			return key + "." + state
		}
	}
	return ""
}

// link is a wait after a step by a product's sheet; none where the sheet prints no such time.
func (m *maker) link(step, key, least, latest string) (Link, bool) {
	of, known := m.sheets[key]
	if known && len(of.Table(least).Entries) == 0 {
		return Link{}, false
	}
	link := Link{Step: step, Least: &Figure{Of: key + "." + least}}
	if latest != "" {
		link.Latest = &Figure{Of: key + "." + latest}
	}
	return link, true
}

// waitsAfter are the waits of what is laid after a primer or a top coat, by their own sheets. The primer is waited for
// by the first that covers it, whatever else is done between.
func (m *maker) waitsAfter(s Step, more ...Step) (after []Link) {
	steps := append(m.order.Steps(), more...)
	for i := len(steps) - 1; i >= 0; i-- {
		before := steps[i]
		if before.Hold() || len(before.Of) == 0 {
			continue
		}
		for _, id := range before.Of {
			l, _ := m.LayerOf(id)
			p, _ := m.ProductOf(l.Product)
			least := map[string]string{"primer": "recoat", "top_coat": "cure"}[p.Role]
			if least == "" || p.Role == "primer" && !s.Lays() {
				continue
			}
			latest := ""
			if p.Role == "primer" {
				latest = "recoat_latest"
			}
			if link, is := m.link(before.ID, p.Key, least, latest); is {
				after = append(after, link)
			}
		}
		if before.Lays() || !s.Lays() {
			break
		}
	}
	return after
}

// cure is the wait before the proof, counted from the last of the last coat on each face.
func (m *maker) cure() {
	layers := m.by[inField]
	if len(layers) == 0 {
		return
	}
	s := m.usual("cure_complete")
	number := 0
	for i, l := range layers {
		number += len(l.Coats)
		if !slices.ContainsFunc(layers[i+1:], l.meets) { // nothing of the film lies on it
			s.After = append(s.After, Link{Step: "coat_" + strconv.Itoa(number), Per: "all", Least: &Figure{Of: l.Product + ".cure"}})
		}
	}
	m.stage("cure", "Cure", s)
}

// finishes tells whether a layer lies on a finish: one of it stands under it, and it is no film.
func (s System) finishes(l Layer) bool {
	at := slices.IndexFunc(s.Layers, func(other Layer) bool { return other.ID == l.ID })
	for i, other := range s.Layers {
		p, _ := s.ProductOf(other.Product)
		if i < at && roleStage[p.Role] == inFinish {
			own, _ := s.ProductOf(l.Product)
			return slices.Contains([]string{"grip_coat", "top_coat", "sealant", "primer", "aggregate"}, own.Role)
		}
	}
	return false
}

// overFilm tells whether a layer lies over the film.
func (s System) overFilm(l Layer) bool {
	film, is := s.Film()
	at := func(id string) int {
		return slices.IndexFunc(s.Layers, func(other Layer) bool { return other.ID == id })
	}
	return is && at(l.ID) > at(film.ID)
}

// finish lays each layer over the proof by itself, and waits for the one under it by its own sheet.
func (m *maker) finish() {
	var steps []Step
	for i, l := range m.by[inFinish] {
		p, _ := m.ProductOf(l.Product)
		s := m.usual("finish")
		if own := m.usual("finish_" + p.Role); own.ID != "" {
			s = own
		}
		s.ID, s.Of = "finish_"+l.ID, []string{l.ID}
		if i > 0 {
			under := m.by[inFinish][i-1]
			if link, is := m.link("finish_"+under.ID, under.Product, "recoat", "recoat_latest"); is {
				s.After = append(s.After, link)
			}
		}
		steps = append(steps, m.takes(s))
	}
	m.stage("finish", "Finish", steps...)
}

// proof adds the stage by which the whole is shown to be tight: water over all of it or bay by bay, spray on what stands, a
// look at what no water reaches. By film alone its holds are the proof, and one more signature says so.
func (m *maker) proof(p Proof) {
	switch p.Kind {
	case "water", "bays":
		m.stage("water_test", "Water test", m.usual("test_plan"), m.usual("test"), m.usual("test_signed"))
	case "spray":
		spray := m.usual("spray")
		spray.At = p.Where
		m.stage("spray_test", "Spray test", spray, m.usual("spray_signed"))
	case "look":
		audit := m.usual("audit")
		audit.At = p.Where
		m.stage("audit", "Audit", audit)
	case "film":
		m.stage("film_proof", "Film", m.usual("film_signed"))
	}
}

// sayOtherwise lays what a system says of its stages and steps over the usual words.
func (m *maker) sayOtherwise() {
	for _, own := range m.Stages {
		at := slices.IndexFunc(m.order.Stages, func(s Stage) bool { return s.ID == own.ID })
		if at < 0 {
			if own.Visit == nil && len(own.Steps) > 0 && own.Steps[0].Does != "" {
				m.ownStage(own)
			}
			if own.Visit != nil {
				own.Steps = slices.Clone(own.Steps)
				for k := range own.Steps {
					own.Steps[k] = m.takes(own.Steps[k])
				}
				m.order.Stages = append(m.order.Stages, own)
			}
			continue
		}
		stage := &m.order.Stages[at]
		if own.Title != "" {
			stage.Title = own.Title
		}
		for _, over := range own.Steps {
			i := slices.IndexFunc(stage.Steps, func(s Step) bool { return s.ID == over.ID })
			switch {
			case i < 0 && over.Does == "":
				continue // words for a step that this printing does not ask for
			case i < 0:
				stage.Steps = append(stage.Steps, over)
				continue
			}
			stage.Steps[i] = stage.Steps[i].said(over)
		}
	}
}

// ownStage adds a stage of the system's own: before the hand-over, or after it where it only waits for what comes by itself.
func (m *maker) ownStage(own Stage) {
	own.Steps = slices.Clone(own.Steps)
	comes := true
	for k, s := range own.Steps {
		own.Steps[k] = m.takes(s)
		comes = comes && s.Does == Milestone
	}
	at := slices.IndexFunc(m.order.Stages, func(s Stage) bool { return s.ID == "hand_over" })
	if at < 0 || comes {
		at = len(m.order.Stages)
	}
	m.order.Stages = slices.Insert(m.order.Stages, at, own)
}

// said is a step with what another says of it.
func (s Step) said(over Step) Step {
	s = s.own()
	text, err := json1.Marshal(over) // what is empty says nothing
	if err == nil {
		err = json1.Unmarshal(text, &s)
	}
	if err != nil {
		panic(err)
	}
	return s
}

// own is a copy of a step that shares no list with it: what is read over it changes it alone.
func (s Step) own() (copied Step) {
	text, err := json1.Marshal(s)
	if err == nil {
		err = json1.Unmarshal(text, &copied)
	}
	if err != nil {
		panic(err)
	}
	return copied
}

func ids(layers []Layer) (list []string) {
	for _, l := range layers {
		list = append(list, l.ID)
	}
	return list
}

// check holds an order against what can be followed: every step once, a wait for an earlier step alone, no hold before
// what it accepts. What is linked to a figure that no sheet states is asked back.
func (o *Order) check(s System) error {
	place := map[string]int{}
	steps := o.Steps()
	for i, step := range steps {
		field := "order." + step.ID
		switch {
		case step.ID == "" || step.Title == "":
			return fault.At(field, "recipe.step_without_name")
		case !slices.Contains(doings, step.Does):
			return fault.At(field, "recipe.unknown_kind", "typed", fault.Short(string(step.Does)))
		}
		if _, twice := place[step.ID]; twice {
			return fault.At(field, "recipe.step_twice", "step", step.ID)
		}
		place[step.ID] = i
	}
	laidAt := map[string]int{}
	for i, step := range steps {
		if !step.Hold() {
			for _, of := range append(step.Layers(), step.Of...) {
				laidAt[of] = i
			}
		}
	}
	for i, step := range steps {
		for _, link := range step.After {
			field := "order." + step.ID + ".after"
			at, known := place[link.Step]
			if link.Layer != "" {
				at, known = laidAt[link.Layer]
			}
			switch {
			case link.Step == step.ID && link.Step != "":
				return fault.At(field, "system.waits_for_itself", "step", step.Title)
			case !known:
				return fault.At(field, "system.waits_for_nothing", "step", step.Title, "for", fault.Short(link.Step+link.Layer))
			case at >= i:
				return fault.At(field, "system.waits_for_later_step", "step", step.Title, "for", steps[at].Title)
			}
			if err := s.link(field, link); err != nil {
				return err
			}
		}
		if step.Does == AcceptIt {
			for _, of := range step.Of {
				if at, known := laidAt[of]; known && at > i {
					return fault.At("order."+step.ID, "system.hold_before_work", "step", step.Title, "work", steps[at].Title)
				}
			}
		}
	}
	return nil
}

// link checks what a wait counts from and its times, where they are stated: hours, minutes or days, the latest not before
// the least.
func (s System) link(field string, l Link) error {
	if l.Anchor != "" && !slices.Contains(Anchors, l.Anchor) {
		return fault.At(field, "choice.unknown", "typed", fault.Short(l.Anchor))
	}
	if l.Per != "" && l.Per != "place" && l.Per != "all" {
		return fault.At(field, "choice.unknown", "typed", fault.Short(l.Per))
	}
	for _, f := range []*Figure{l.Least, l.Latest} {
		if err := s.figure(field, f); err != nil {
			return err
		}
		if _, is := f.Hours(); f != nil && f.Of == "" && !is {
			return fault.At(field, "system.time_without_unit", "typed", fault.Short(f.Unit))
		}
	}
	least, one := l.Least.Hours()
	latest, other := l.Latest.Hours()
	if one && other && latest < least {
		return fault.At(field, "system.range_upside_down", "low", least, "high", latest)
	}
	return nil
}

// Hours is a time that a system states itself, at its low end for what is at least and at most alike.
func (f *Figure) Hours() (hours float64, stated bool) {
	if f == nil || f.Of != "" || f.Value == nil {
		return 0, false
	}
	per, known := map[string]float64{"min": 1.0 / 60, "h": 1, "d": 24}[f.Unit]
	return *f.Value * per, known
}

// AskBack lists the figures that steps wait for and no sheet of the plan states. A latest that a sheet leaves out shuts
// nothing: that is said too.
func (o *Order) AskBack(sheets map[string]sheet.Sheet) {
	for _, step := range o.Steps() {
		for _, link := range step.After {
			for _, f := range []*Figure{link.Least, link.Latest} {
				if f == nil || f.Of == "" {
					continue
				}
				key, name := f.Product()
				of, known := sheets[key]
				if known && (len(of.Table(name).Entries) > 0 || of.Numbers[name].Unit != "") {
					continue
				}
				o.Asked = append(o.Asked, Asked{step.ID, key, name, f == link.Latest && known})
			}
		}
	}
}

// Tide is the wait between two steps: from when the later one may begin and until when, h after its anchor, at the
// reference temperature of the sheet that says so. Least is null where no sheet states it, latest where it never shuts.
type Tide struct {
	Step   string   `json:"step"`
	After  string   `json:"after"`
	Opens  string   `json:"opens_from"` // one of Anchors
	Least  *float64 `json:"least_h"`
	Shuts  string   `json:"shuts_from"`
	Latest *float64 `json:"latest_h"`
	States []string `json:"states"` // a person confirms them
}

// Tides are the waits of an order that say a time, as its printings state them.
func (o Order) Tides(sheets map[string]sheet.Sheet) []Tide {
	list := []Tide{}
	for _, step := range o.Steps() {
		for _, link := range step.After {
			if link.Least == nil && link.Latest == nil {
				continue
			}
			t := Tide{Step: step.ID, After: link.Step, Opens: cmp.Or(link.Anchor, "end"), Shuts: cmp.Or(link.Anchor, "start"), States: []string{}}
			t.Least, _ = printedHours(link.Least, sheets)
			_, t.Latest = printedHours(link.Latest, sheets)
			t.States = append(t.States, link.States...)
			list = append(list, t)
		}
	}
	return list
}

// printedHours are the hours of a figure as a least and as a latest: its own, or those of the sheet that it names.
func printedHours(f *Figure, sheets map[string]sheet.Sheet) (least, latest *float64) {
	if hours, stated := f.Hours(); stated {
		return &hours, &hours
	}
	key, name := f.Product()
	by, known := sheets[key]
	if !known {
		return nil, nil
	}
	return by.Hours(name)
}

// Layers are the ids of the layers that a step works on.
func (s Step) Layers() (list []string) {
	for _, of := range s.Of {
		id, _, _ := strings.Cut(of, ".")
		if !slices.Contains(list, id) {
			list = append(list, id)
		}
	}
	return list
}
