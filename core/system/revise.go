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
	Does    string  `json:"does"` // one of Acts
	Text    string  `json:"text,omitempty"`
	School  string  `json:"school,omitempty"`
	Way     string  `json:"way,omitempty"`
	Layer   string  `json:"layer,omitempty"`
	Before  string  `json:"before,omitempty"` // layer it goes under; "": on top
	Coats   int     `json:"coats,omitempty"`
	Role    string  `json:"role,omitempty"` // of what is laid in
	Product string  `json:"product,omitempty"`
	On      string  `json:"on,omitempty"` // where it is laid: one of Places; "": where its role is usual
	By      string  `json:"by,omitempty"`
	Kind    string  `json:"kind,omitempty"` // of a target or a proof
	Value   float64 `json:"value,omitempty"`
	Says    string  `json:"says,omitempty"` // as typed
	Reason  string  `json:"reason,omitempty"`
	Edit    *Edit   `json:"edit,omitempty"` // of the order
}

// Acts are the changes there are: of its name, of a way, of a layer's coats, target, acceptance, place in the build-up, of the
// proof, and of the order of the work.
var Acts = []string{"name", "way", "coats", "target", "accept", "lay_in", "move", "drop", "proof", "order"}

// ChosenWays are the matters of which a way may be chosen: those that are stored, and those read off the layers that choosing
// one can write into them.
func ChosenWays() map[string][]string {
	all := map[string][]string{"coats": {"on_cured", "firm", "wet_on_wet"}, "strokes": {"one_way", "crossed", "any"}, "thickness": AcceptedBy}
	for name, ways := range Schools {
		all[name] = ways
	}
	return all
}

// Revise changes a system act by act. An act that cannot be done is a fault of "acts.<n>"; what cannot be followed in the end
// is said by Check.
func (s System) Revise(acts []Act) (System, error) {
	s.Ways, s.Layers, s.Products = slices.Clone(s.Ways), slices.Clone(s.Layers), slices.Clone(s.Products)
	s.Edits, s.Proofs = slices.Clone(s.Edits), slices.Clone(s.Proofs)
	for i, a := range acts {
		if err := s.act(a); err != nil {
			f := *fault.Of(err)[0]
			f.Field = "acts." + strconv.Itoa(i+1)
			return s, &f
		}
	}
	return s, nil
}

func (s *System) act(a Act) error {
	at := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == a.Layer })
	if at < 0 && slices.Contains([]string{"coats", "target", "accept", "move", "drop"}, a.Does) {
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

// layIn lays a product in as a layer of its own: on its places, once, until they are covered or by the piece.
func (s *System) layIn(a Act) error {
	if !slices.Contains(sheet.Roles, a.Role) {
		return fault.At("role", "choice.unknown", "typed", fault.Short(a.Role))
	}
	if a.On == "" {
		a.On = usualPlace(a.Role)
	}
	if !slices.Contains(Places, a.On) {
		return fault.At("on", "choice.unknown", "typed", fault.Short(a.On))
	}
	key := s.free(a.Role, func(id string) bool { _, is := s.ProductOf(id); return is })
	id := s.free(a.Role, func(id string) bool { _, is := s.LayerOf(id); return is })
	target := &Target{Kind: "covered"}
	if sold := (sheet.Sheet{Role: a.Role}).SoldIn(); sold == "count" {
		target = &Target{Kind: "pieces"}
	} else if sold == "m" {
		target = &Target{Kind: "strip"}
	}
	s.Products = append(s.Products, Product{Key: key, Product: a.Product, Role: a.Role})
	s.Layers = append(s.Layers, Layer{ID: id, Product: key, Where: []Where{{On: a.On}}, Coats: []Coat{{ID: "1", Target: target}}})
	return s.moveLayer(len(s.Layers)-1, a.Before)
}

// usualPlace is where a product is laid by its role, until somebody says otherwise.
func usualPlace(role string) string {
	switch role {
	case "band", "sealant", "bond_breaker":
		return "joints"
	case "collar", "flange":
		return "fittings"
	case "corner":
		return "corners"
	case "masking", "trim":
		return "edges"
	}
	return "field"
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
	s.Layers = slices.DeleteFunc(s.Layers, func(l Layer) bool { return l.ID == gone.ID || l.Like == gone.ID })
	s.Products = slices.DeleteFunc(s.Products, func(p Product) bool {
		return p.Key == gone.Product && !slices.ContainsFunc(s.Layers, func(l Layer) bool {
			return l.Lays(p.Key) || l.Mix != nil && slices.Contains(l.Mix.Additives, p.Key)
		})
	})
	return nil
}
