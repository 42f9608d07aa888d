package system

import (
	"slices"
	"strconv"
	"strings"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// Act is one change of a system by hand, in the order in which a person made it: to take it back is to leave it out.
type Act struct {
	Does    string   `json:"does"` // one of Acts
	Text    string   `json:"text,omitempty"`
	School  string   `json:"school,omitempty"`
	Way     string   `json:"way,omitempty"`
	Layer   string   `json:"layer,omitempty"`
	Before  string   `json:"before,omitempty"` // layer it goes under; "": on top
	Coats   int      `json:"coats,omitempty"`
	Role    string   `json:"role,omitempty"` // of what is laid in
	Product string   `json:"product,omitempty"`
	On      string   `json:"on,omitempty"` // where it is laid: one of Places; "": where its role is usual
	By      string   `json:"by,omitempty"`
	Faces   []string `json:"faces,omitempty" maxItems:"20"`
	Kind    string   `json:"kind,omitempty"` // of a target or a proof
	Value   float64  `json:"value,omitempty"`
	Says    string   `json:"says,omitempty"` // as typed
	Reason  string   `json:"reason,omitempty"`
	Decided string   `json:"decided,omitempty"` // when an optional layer is chosen
	Other   string   `json:"other,omitempty"`   // layer that is laid where that one is not
	Edit    *Edit    `json:"edit,omitempty"`    // of the order
}

// Acts are the changes there are: of its name, of a way, of a layer's coats, target, acceptance, place in the build-up, of its
// places, its product and whether it is optional, of the proof, and of the order of the work.
var Acts = []string{"name", "way", "coats", "target", "accept", "lay_in", "move", "drop", "place", "product", "optional", "proof", "order"}

// ChosenWays are the matters of which a way may be chosen: those that are stored, and those read off the layers that choosing
// one can write into them.
func ChosenWays() map[string][]string {
	all := map[string][]string{
		"key": {"primer", "mineral_until_it_runs", "none"}, "coats": {"on_cured", "firm", "wet_on_wet"}, "strokes": {"one_way", "crossed", "any"},
		"reinforcement": ReadWays["reinforcement"], "junction": ReadWays["junction"], "thickness": AcceptedBy,
	}
	for name, ways := range Schools {
		all[name] = ways
	}
	return all
}

// Revise changes a system act by act. An act that cannot be done is a fault of "acts.<n>"; what cannot be followed in the end
// is said by Check.
func (s System) Revise(acts []Act) (System, error) {
	s.Ways, s.Layers, s.Products = slices.Clone(s.Ways), slices.Clone(s.Layers), slices.Clone(s.Products)
	s.Edits, s.Proofs, s.Options = slices.Clone(s.Edits), slices.Clone(s.Proofs), slices.Clone(s.Options)
	for i, a := range acts {
		if err := s.act(a); err != nil {
			f := *fault.Of(err)[0]
			f.Field = "acts." + strconv.Itoa(i+1)
			return s, &f
		}
	}
	return s, nil
}

// After is a changed system as the next revision of the one it was made of: of a sample, and of nothing, the first.
func (s System) After(base System) System {
	number, _ := strconv.Atoi(base.Revision)
	s.CopiedFrom, s.Replaces = "", base.ID
	switch {
	case base.Sample:
		number, s.CopiedFrom, s.Replaces = 0, base.ID, ""
	case base.ID == BlankID:
		s.Replaces = ""
	}
	s.Sample, s.Revision = false, strconv.Itoa(max(number, 0)+1)
	return s
}

func (s *System) act(a Act) error {
	at := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == a.Layer })
	if at < 0 && slices.Contains([]string{"coats", "target", "accept", "move", "drop", "place", "product", "optional"}, a.Does) {
		return fault.At("layer", "system.unknown_layer", "layer", fault.Short(a.Layer))
	}
	switch a.Does {
	case "name":
		if s.Name = strings.TrimSpace(a.Text); s.Name == "" {
			return fault.At("name", "text.missing")
		}
	case "way":
		return s.choose(a.School, a.Way)
	case "coats":
		return s.recoat(at, a.Coats)
	case "target":
		return s.retarget(at, a)
	case "accept":
		if !slices.Contains(AcceptedBy, a.By) {
			return fault.At("by", "choice.unknown", "typed", fault.Short(a.By))
		}
		s.Layers[at].Accept = &Accept{By: a.By}
	case "lay_in":
		return s.layIn(a)
	case "move":
		return s.moveLayer(at, a.Before)
	case "drop":
		return s.dropLayer(at)
	case "place":
		return s.place(at, a)
	case "product":
		return s.takeProduct(at, a.Product)
	case "optional":
		return s.optional(at, a)
	case "proof":
		if !slices.Contains(Proofs, a.Kind) {
			return fault.At("kind", "choice.unknown", "typed", fault.Short(a.Kind))
		}
		s.Proofs = []Proof{{Kind: a.Kind, Reason: a.Reason}}
	case "order":
		if a.Edit == nil {
			return fault.At("edit", "text.missing")
		}
		s.Edits = append(s.Edits, *a.Edit)
	default:
		return fault.At("does", "choice.unknown", "typed", fault.Short(a.Does))
	}
	return nil
}

// choose takes another way in a matter: one that is stored, or one that is written into the layers of the film.
func (s *System) choose(school, way string) error {
	if !slices.Contains(ChosenWays()[school], way) {
		return fault.At("way", "choice.unknown", "typed", fault.Short(way))
	}
	if _, stored := Schools[school]; stored {
		s.Ways = slices.DeleteFunc(s.Ways, func(w Way) bool { return w.School == school && w.Where == nil })
		s.Ways = append(s.Ways, Way{School: school, Way: way})
		return nil
	}
	switch school {
	case "key":
		return s.chooseKey(way)
	case "reinforcement":
		return s.chooseReinforcement(way)
	case "junction":
		return s.chooseJunction(way)
	}
	for _, film := range s.FieldLayers() {
		l := &s.Layers[slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == film.ID })]
		if l.Coats = slices.Clone(l.Coats); school == "thickness" {
			l.Accept = &Accept{By: way}
		}
		for i := range l.Coats {
			switch {
			case school == "coats" && i > 0:
				l.Coats[i].On = map[string]string{"on_cured": "cured", "firm": "firm", "wet_on_wet": "wet"}[way]
			case school == "strokes":
				l.Coats[i].Strokes = way
			}
		}
	}
	return nil
}

// chooseKey lays a primer on the whole base, or none.
func (s *System) chooseKey(way string) error {
	s.dropWhere(func(l Layer) bool { p, _ := s.ProductOf(l.Product); return p.Role == "primer" })
	if way == "none" {
		return s.choose("base", "any")
	}
	film, _ := s.Film()
	if err := s.layIn(Act{Role: "primer", Before: film.ID}); err != nil {
		return err
	}
	if way == "mineral_until_it_runs" {
		at := slices.IndexFunc(s.Layers, func(l Layer) bool { p, _ := s.ProductOf(l.Product); return p.Role == "primer" })
		s.Layers[at].Coats = []Coat{{ID: "1", Target: &Target{Kind: "until_it_runs"}}}
	}
	return nil
}

// chooseReinforcement lays something into the whole film, into the joints alone, or nowhere.
func (s *System) chooseReinforcement(way string) error {
	for _, film := range s.FieldLayers() {
		l := &s.Layers[slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == film.ID })]
		l.Carries = slices.DeleteFunc(slices.Clone(l.Carries), func(c Carries) bool { p, _ := s.ProductOf(c.Product); return reinforces(p.Role) })
	}
	inJoints := func(l Layer) bool {
		return l.Lies("joints") && slices.ContainsFunc(l.Carries, func(c Carries) bool { p, _ := s.ProductOf(c.Product); return p.Role == "band" || reinforces(p.Role) })
	}
	if way != "joints" {
		s.dropWhere(func(l Layer) bool { return way == "none" && inJoints(l) })
	} else if !slices.ContainsFunc(s.Layers, inJoints) {
		film, _ := s.Film()
		return s.layIn(Act{Role: "band", Before: film.ID})
	}
	s.tidy()
	if way == "everywhere" {
		return s.layIn(Act{Role: "fleece"})
	}
	return nil
}

// chooseJunction makes the junctions in one way, and in no other.
func (s *System) chooseJunction(way string) error {
	role := map[string]string{"rigid_fillet": "fillet_mortar", "bead": "sealant", "bond_breaker": "bond_breaker", "stretch_band": "band"}
	s.dropWhere(func(l Layer) bool {
		p, _ := s.ProductOf(l.Product)
		return p.Role == "fillet_mortar" || s.carriesBand(l) || l.Lies("joints") && slices.Contains([]string{"band", "bond_breaker", "sealant"}, p.Role)
	})
	if way == "none" {
		return nil
	}
	film, _ := s.Film()
	if err := s.layIn(Act{Role: role[way], Before: film.ID}); err != nil {
		return err
	}
	at := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == film.ID }) - 1
	if way == "bead" || way == "bond_breaker" { // over all junctions, not where it moves alone
		s.Layers[at].Where = []Where{{On: "joints", Joints: usualJoints}}
	}
	return nil
}

func (s *System) carriesBand(l Layer) bool {
	return slices.ContainsFunc(l.Carries, func(c Carries) bool { p, _ := s.ProductOf(c.Product); return p.Role == "band" })
}

// dropWhere leaves layers out, with what is laid like them and the products that nothing lays any more.
func (s *System) dropWhere(is func(l Layer) bool) {
	gone := map[string]bool{}
	for _, l := range s.Layers {
		gone[l.ID] = is(l)
	}
	s.Layers = slices.DeleteFunc(s.Layers, func(l Layer) bool { return gone[l.ID] || l.Like != "" && gone[l.Like] })
	s.tidy()
}

// tidy leaves out the products that nothing lays.
func (s *System) tidy() {
	s.Products = slices.DeleteFunc(s.Products, func(p Product) bool {
		return !slices.ContainsFunc(s.Layers, func(l Layer) bool {
			return l.Lays(p.Key) || l.Mix != nil && slices.Contains(l.Mix.Additives, p.Key)
		})
	})
}

// recoat lays a layer in another number of coats: a further one is like the last.
func (s *System) recoat(at, coats int) error {
	switch {
	case coats < 1:
		return fault.At("coats", "number.too_small", "value", coats, "least", 1, "unit", "")
	case coats > mostCoats:
		return fault.At("coats", "number.too_large", "value", coats, "most", mostCoats, "unit", "")
	}
	l := &s.Layers[at]
	l.Count = nil // the printing's number no longer counts
	l.Coats = slices.Clone(l.Coats[:min(coats, len(l.Coats))])
	for n := len(l.Coats) + 1; n <= coats; n++ {
		more := l.Coats[n-2]
		more.ID = strconv.Itoa(n)
		if more.On == "" {
			more.On = "firm"
		}
		l.Coats = append(l.Coats, more)
	}
	return nil
}

// mostOfCoat is more of one coat than anybody lays, mm, kg/m² or L/m².
const mostOfCoat = 100.0

// retarget says for each coat of a layer how much of it, as who lays it says; the reason stands beside it.
func (s *System) retarget(at int, a Act) error {
	units := map[string]string{"wft_mm": "mm", "dft_mm": "mm", "kg_m2": "kg/m2", "L_m2": "L/m2"}
	t := Target{Kind: a.Kind}
	switch unit, measured := units[a.Kind]; {
	case a.Kind == "covered" || a.Kind == "until_it_runs":
	case !measured:
		return fault.At("kind", "choice.unknown", "typed", fault.Short(a.Kind))
	case !(a.Value > 0):
		return fault.At("value", "number.not_positive", "value", a.Value)
	case a.Value > mostOfCoat:
		return fault.At("value", "number.too_large", "value", a.Value, "most", mostOfCoat, "unit", unit)
	case strings.TrimSpace(a.Reason) == "":
		return fault.At("reason", "text.missing")
	default:
		value := a.Value
		t.Figure = &Figure{Value: &value, Unit: unit, Says: a.Says, Reason: a.Reason}
	}
	l := &s.Layers[at]
	l.Total, l.Coats = nil, slices.Clone(l.Coats)
	for i := range l.Coats {
		l.Coats[i].Target = &t
	}
	return nil
}

// layIn lays a product in as its role is usually laid: as a layer of its own, into the film, or as a band in a bed of the
// membrane.
func (s *System) layIn(a Act) error {
	if !slices.Contains(sheet.Roles, a.Role) {
		return fault.At("role", "choice.unknown", "typed", fault.Short(a.Role))
	}
	if a.On != "" && !slices.Contains(Places, a.On) {
		return fault.At("on", "choice.unknown", "typed", fault.Short(a.On))
	}
	key := s.free(a.Role, func(id string) bool {
		_, product := s.ProductOf(id)
		_, layer := s.LayerOf(id)
		return product || layer
	})
	film, is := s.Film()
	s.Products = append(s.Products, Product{Key: key, Product: a.Product, Role: a.Role})
	l := usualLayer(a.Role, key)
	switch {
	case reinforces(a.Role) && is && a.On == "":
		s.layInFilm(key)
		return nil
	case a.Role == "band" && is && a.On == "":
		l = bedded(s.free("bands", func(id string) bool { _, taken := s.LayerOf(id); return taken }), film.Product, key)
	case a.On != "":
		l.Where = []Where{{On: a.On}}
	}
	s.Layers = append(s.Layers, l)
	return s.moveLayer(len(s.Layers)-1, a.Before)
}

// takeProduct takes another product of the same role wherever the layer's is laid.
func (s *System) takeProduct(at int, product string) error {
	if product == "" {
		return fault.At("product", "text.missing")
	}
	l := &s.Layers[at]
	p, _ := s.ProductOf(l.Product)
	i := slices.IndexFunc(s.Products, func(other Product) bool { return other.Key == p.Key })
	s.Products[i].Product = product
	return nil
}

// place lays a layer on other places, and on those faces of it alone.
func (s *System) place(at int, a Act) error {
	if !slices.Contains(Places, a.On) {
		return fault.At("on", "choice.unknown", "typed", fault.Short(a.On))
	}
	if err := faces("faces", a.Faces); err != nil {
		return err
	}
	w := Where{On: a.On, Faces: a.Faces}
	for _, old := range s.Layers[at].Where { // of the same kind: which of it stays
		if old.On == a.On {
			w = old
			w.Faces = a.Faces
		}
	}
	s.Layers[at].Where = []Where{w}
	return nil
}

// optional lays a layer only where somebody chooses it, at planning or on the site, or chooses it before another one; decided
// "" lays it always.
func (s *System) optional(at int, a Act) error {
	s.unchoose(a.Layer)
	switch a.Decided {
	case "":
		return nil
	case AtPlanning, OnSite:
	default:
		return fault.At("decided", "choice.unknown", "typed", fault.Short(a.Decided))
	}
	o := Option{ID: "with_" + a.Layer, Line: spaced(a.Layer), Choices: []string{"with", "without"}, Decided: a.Decided}
	s.Layers[at].In = o.ID + ".with"
	if a.Other != "" {
		other := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == a.Other })
		if other < 0 || other == at {
			return fault.At("other", "system.unknown_layer", "layer", fault.Short(a.Other))
		}
		s.unchoose(a.Other)
		o.ID, o.Line, o.Choices = a.Layer+betweenIDs+a.Other, spaced(a.Layer)+" / "+spaced(a.Other), []string{a.Layer, a.Other}
		s.Layers[at].In, s.Layers[other].In = o.ID+"."+a.Layer, o.ID+"."+a.Other
	}
	if film, is := s.Film(); is && (film.ID == a.Layer || film.ID == a.Other) {
		return fault.At("layer", "system.drops_the_film", "layer", film.ID)
	}
	s.Options = append(s.Options, o)
	return nil
}

// betweenIDs stands between the two layers of which one is chosen.
const betweenIDs = "_or_"

func spaced(id string) string { return strings.ReplaceAll(id, "_", " ") }

// unchoose lays a layer always, and so the other one that it was chosen before.
func (s *System) unchoose(layer string) {
	s.Options = slices.DeleteFunc(slices.Clone(s.Options), func(o Option) bool {
		either := len(o.Choices) == 2 && o.ID == o.Choices[0]+betweenIDs+o.Choices[1] && slices.Contains(o.Choices, layer)
		for i, l := range s.Layers {
			if either && strings.HasPrefix(l.In, o.ID+".") {
				s.Layers[i].In = ""
			}
		}
		return either || o.ID == "with_"+layer
	})
	for i, l := range s.Layers {
		if l.ID == layer {
			s.Layers[i].In = ""
		}
	}
}

// free is a name that nothing has yet.
func (s *System) free(name string, taken func(string) bool) string {
	if !taken(name) {
		return name
	}
	for n := 2; ; n++ {
		if id := name + "_" + strconv.Itoa(n); !taken(id) {
			return id
		}
	}
}

// moveLayer puts a layer under another one, or on top of all.
func (s *System) moveLayer(at int, before string) error {
	l := s.Layers[at]
	s.Layers = slices.Delete(s.Layers, at, at+1)
	to := len(s.Layers)
	if before != "" {
		if to = slices.IndexFunc(s.Layers, func(other Layer) bool { return other.ID == before }); to < 0 {
			return fault.At("before", "system.unknown_layer", "layer", fault.Short(before))
		}
	}
	s.Layers = slices.Insert(s.Layers, to, l)
	return nil
}

// dropLayer leaves a layer out, with what is laid like it and the products that nothing lays any more.
func (s *System) dropLayer(at int) error {
	gone := s.Layers[at]
	if film, is := s.Film(); is && film.ID == gone.ID {
		return fault.At("layer", "system.drops_the_film", "layer", gone.ID)
	}
	s.unchoose(gone.ID)
	s.dropWhere(func(l Layer) bool { return l.ID == gone.ID })
	return nil
}
