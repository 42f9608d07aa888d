package system

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// What the trade usually lays where, until somebody says otherwise: a layer laid in begins with it.

// Junctions that are bridged, and those that move.
var (
	usualJoints  = []string{"floor_wall", "wall_wall", "threshold", "wall_soffit", "niche", "reveal", "box", "riser", "movement", "control", "crack_live", "material", "trim"}
	movingJoints = []string{"movement", "control", "crack_live"}
	innerJoints  = []string{"floor_wall", "wall_wall", "box"}
)

// figureOf is a figure of a product by its name on the sheet.
func figureOf(key, name string) *Figure { return &Figure{Of: key + "." + name} }

// usualLayer is how a product is laid by its role: on its places, once.
func usualLayer(role, key string) Layer {
	l := Layer{ID: key, Product: key, Where: []Where{{On: "field"}}}
	target := &Target{Kind: "covered"}
	switch role {
	case "membrane", "primer", "top_coat", "grip_coat", "vapour_coat", "reflective_coat", "sealer", "smoothing_compound", "covering_adhesive", "renovation_plaster":
		target = &Target{Kind: "kg_m2", Figure: figureOf(key, "rate")}
	case "sealant", "bond_breaker":
		l.Where = []Where{{On: "joints", Joints: movingJoints}}
		if target = (&Target{Kind: "strip"}); role == "sealant" {
			target = &Target{Kind: "bead_mm", Figure: figureOf(key, "bead_width"), Second: figureOf(key, "bead_depth")}
		}
	case "fillet_mortar":
		l.Where, target = []Where{{On: "joints", Joints: innerJoints}}, &Target{Kind: "fillet_leg", Figure: figureOf(key, "fillet_leg")}
	case "repair_mortar":
		l.Where = []Where{{On: "spots", Spots: []string{"uneven", "damage"}}}
	case "leak_plug":
		l.Where, target = []Where{{On: "spots", Spots: []string{"leak"}}}, &Target{Kind: "pieces", Figure: figureOf(key, "per_piece")}
	case "corner":
		l.Where, target = []Where{{On: "corners"}}, &Target{Kind: "pieces"}
	case "collar":
		l.Where, target = []Where{{On: "fittings", Fittings: []string{"pipe", "leg"}}}, &Target{Kind: "pieces"}
	case "flange":
		l.Where, target = []Where{{On: "fittings", Fittings: []string{"drain", "outlet"}}}, &Target{Kind: "pieces"}
	case "seam_tape":
		l.Where, target = []Where{{On: "joints"}}, &Target{Kind: "strip"}
	case "protection":
		l.Where = []Where{{On: "field", Faces: []string{"floor"}}}
	case "masking", "trim", "water_stop":
		l.Where, target = []Where{{On: "edges", Edges: []string{"termination"}}}, &Target{Kind: "strip"}
	}
	l.Coats = []Coat{{ID: "1", Target: target}}
	return l
}

// bedded is a band in the membrane, over the junctions that are bridged.
func bedded(id, membrane, band string) Layer {
	coat := func(id, figure string) Coat {
		return Coat{ID: id, Target: &Target{Kind: "kg_m2", Figure: figureOf(membrane, figure)}}
	}
	below, above := coat("below", "bed_below"), coat("above", "bed_above")
	above.On = "wet"
	return Layer{
		ID: id, Product: membrane, Where: []Where{{On: "joints", Joints: usualJoints}}, Coats: []Coat{below, above},
		Carries: []Carries{{Product: band, InCoat: []string{"below"}, How: "laid_in"}},
	}
}

// reinforces tells whether a product is laid into the film over the whole of it.
func reinforces(role string) bool { return role == "fleece" || role == "mesh" || role == "sheet" }

// BlankID is the id of a system that is begun from nothing, until it is kept.
const BlankID = "blank"

// Blank is a system begun from nothing: one coat of what makes it tight over the whole field, with no word yet of what it
// is proven by.
func Blank(film sheet.Sheet) (System, error) {
	if film.Is() != "membrane" {
		return System{}, fault.At("sheet", "system.blank_of_no_membrane", "name", film.Name)
	}
	l := usualLayer("membrane", "membrane")
	l.ID = "film"
	if film.Film().Wet != nil {
		l.Coats[0].Target = &Target{Kind: "wft_mm", Figure: figureOf("membrane", "wft_per_coat")}
	}
	base := "any"
	if way := film.Choices["base_state"]; slices.Contains(Schools["base"], way) {
		base = way
	}
	return System{
		ID: BlankID, Name: film.Name, Revision: "0", Chemistry: film.Chemistry, Ways: []Way{{School: "base", Way: base}},
		Products: []Product{{Key: "membrane", Product: film.Of(), Role: "membrane"}}, Layers: []Layer{l}, Proofs: []Proof{},
	}, nil
}

// layInFilm lays a product into the first coat of the film.
func (s *System) layInFilm(key string) {
	film, _ := s.Film()
	at := slices.IndexFunc(s.Layers, func(l Layer) bool { return l.ID == film.ID })
	s.Layers[at].Carries = append(slices.Clip(film.Carries), Carries{Product: key, InCoat: []string{film.Coats[0].ID}, How: "laid_in"})
}
