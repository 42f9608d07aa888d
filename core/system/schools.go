package system

import (
	"maps"
	"slices"

	"dusha/core/fault"
)

// Schools are the matters in which the trade works in more than one way, each with its ways. A way has its reason in the
// wording "school.<name>.<way>"; what comes of mixing two in one wet area stands in "school.<name>.mixed".
//
// Ways that are stored with a system decide what the layers cannot say. The others are read off the layers.
var Schools = map[string][]string{
	"base":          {"damp", "dry", "ssd", "any"},
	"details":       {"first_and_dry", "wet_on_wet", "field_first"},
	"primer_return": {"once", "before_every_return"},
	"mist":          {"mist", "none", "keep_dry"},
	"overlay":       {"short_window", "after_cure", "none"},
	"old_coatings":  {"strip", "keep"},
}

// SchoolNames lists what is stored with a system, in the order of the work.
var SchoolNames = []string{"base", "details", "primer_return", "mist", "overlay", "old_coatings"}

// ReadWays are the matters that are read off the layers, each with what it may come out as.
var ReadWays = map[string][]string{
	"key":           {"water", "primer", "primer_in_patches", "mineral_until_it_runs", "none"},
	"coats":         {"on_cured", "firm", "wet_on_wet", "one_build"},
	"strokes":       {"one_way", "crossed", "any"},
	"reinforcement": {"everywhere", "joints", "none"},
	"junction":      {"rigid_fillet", "bead", "bond_breaker", "stretch_band", "none"},
	"thickness":     AcceptedBy,
	"proof":         Proofs,
}

// Read are the ways that are read off the layers: to choose one is to edit them.
type Read struct {
	Key           string `json:"key"`           // "water", "primer", "primer_in_patches" or "mineral_until_it_runs"; "none"
	Coats         string `json:"coats"`         // "on_cured", "firm", "wet_on_wet" or "one_build"
	Strokes       string `json:"strokes"`       // "one_way", "crossed" or "any"
	Reinforcement string `json:"reinforcement"` // "everywhere", "joints" or "none"
	Junction      string `json:"junction"`      // "rigid_fillet", "bead", "bond_breaker", "stretch_band" or "strip"
	Thickness     string `json:"thickness"`     // by what the film is accepted
	Proof         string `json:"proof"`
}

// Reads tells how a system works in what its layers say.
func (s System) Reads() Read {
	s = s.Parts()[0]
	r := Read{Key: "none", Coats: "one_build", Strokes: "any", Reinforcement: "none", Junction: "none", Thickness: "look", Proof: "none"}
	for _, l := range s.Layers {
		p, _ := s.ProductOf(l.Product)
		switch {
		case p.Role == "primer" && l.until("until_it_runs"):
			r.Key = "mineral_until_it_runs"
		case p.Role == "primer" && r.Key != "mineral_until_it_runs":
			r.Key = "primer"
			if !s.primesAll() {
				r.Key = "primer_in_patches"
			}
		case p.Role == "fillet_mortar":
			r.Junction = "rigid_fillet"
		case r.Junction == "none" && l.Lies("joints") && slices.Contains([]string{"band", "bond_breaker", "sealant"}, p.Role):
			r.Junction = map[string]string{"band": "stretch_band", "bond_breaker": "bond_breaker", "sealant": "bead"}[p.Role]
		}
		for _, c := range l.Carries {
			carried, _ := s.ProductOf(c.Product)
			switch {
			case reinforces(carried.Role) && l.Lies("field"):
				r.Reinforcement = "everywhere"
			case (carried.Role == "band" || reinforces(carried.Role)) && r.Reinforcement == "none":
				r.Reinforcement = "joints"
			}
			if carried.Role == "band" && r.Junction == "none" {
				r.Junction = "stretch_band"
			}
		}
	}
	if film, is := s.Film(); is {
		if film.Accept != nil {
			r.Thickness = film.Accept.By
		}
		for i, c := range film.Coats {
			if i > 0 {
				r.Coats = map[string]string{"wet": "wet_on_wet", "firm": "firm"}[c.On]
				if r.Coats == "" {
					r.Coats = "on_cured"
				}
			}
			if c.Strokes != "" {
				r.Strokes = c.Strokes
			}
		}
	}
	if r.Key == "none" && slices.Contains([]string{"damp", "ssd"}, s.WayOf("base")) {
		r.Key = "water"
	}
	if len(s.Proofs) > 0 {
		r.Proof = s.Proofs[0].Kind
	}
	return r
}

// Ways are all ways of the system, stored and read, by school.
func (s System) AllWays() map[string]string {
	r := s.Reads()
	all := map[string]string{
		"key": r.Key, "coats": r.Coats, "strokes": r.Strokes, "reinforcement": r.Reinforcement, "junction": r.Junction, "thickness": r.Thickness, "proof": r.Proof,
	}
	for _, name := range SchoolNames {
		if way := s.WayOf(name); way != "" {
			all[name] = way
		}
	}
	return all
}

// primesAll tells whether a primer is laid on every mineral base, not on patches of other stuff alone.
func (s System) primesAll() bool {
	for _, l := range s.Layers {
		p, _ := s.ProductOf(l.Product)
		for _, w := range l.Where {
			if p.Role == "primer" && (len(w.Grounds) == 0 || slices.Contains(w.Grounds, "concrete") || slices.Contains(w.Grounds, "screed")) {
				return true
			}
		}
	}
	return false
}

// UnsaidPrimers are the layers that a base takes of which nothing was said: the first primer of each zone, where its system
// primes all. Where water is the key, or only a patch takes a primer, there is none.
func (s System) UnsaidPrimers() (list []string) {
	for _, part := range s.Parts() {
		if part.Reads().Key != "primer" {
			continue
		}
		i := slices.IndexFunc(part.Layers, func(l Layer) bool { p, _ := part.ProductOf(l.Product); return p.Role == "primer" })
		list = append(list, part.Layers[i].ID)
	}
	return list
}

// Film is the layer that makes it tight: the first over the whole field that is a membrane, or carries a sheet.
func (s System) Film() (Layer, bool) {
	for _, l := range s.Layers {
		if p, _ := s.ProductOf(l.Product); p.Role == "membrane" && l.Lies("field") {
			return l, true
		}
	}
	return Layer{}, false
}

// Lies tells whether a layer lies on places of a kind.
func (l Layer) Lies(place string) bool {
	return slices.ContainsFunc(l.Where, func(w Where) bool { return w.On == place || w.On == "all" })
}

func (l Layer) until(kind string) bool {
	return slices.ContainsFunc(l.Coats, func(c Coat) bool { return c.Target != nil && c.Target.Kind == kind })
}

func checkWays(ways []Way) error {
	for i, w := range ways {
		if _, known := Schools[w.School]; !known {
			return fault.At("ways", "system.unknown_school", "school", fault.Short(w.School), "known", slices.Sorted(maps.Keys(Schools)))
		}
		if !slices.Contains(Schools[w.School], w.Way) {
			return fault.At("ways."+w.School, "system.unknown_way", "school", w.School, "way", fault.Short(w.Way))
		}
		for _, other := range ways[:i] {
			if other.School == w.School && other.Where == nil && w.Where == nil {
				return fault.At("ways."+w.School, "system.way_twice", "school", w.School)
			}
		}
	}
	return nil
}
