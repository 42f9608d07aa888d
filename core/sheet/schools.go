package sheet

import (
	"maps"
	"slices"

	"dusha/core/fault"
)

// Schools are the ways in which the trade works, by what they decide. A recipe says which one it
// follows; each has its reason in the wording "school.<name>.<way>", and what comes of mixing
// two in one wet area in "school.<name>.mixed".
var Schools = map[string][]string{
	"base":          {"damp", "dry", "ssd"},
	"key":           {"water", "primer", "primer_in_patches"},
	"details":       {"first_and_dry", "wet_on_wet", "field_first"},
	"coats":         {"on_cured", "wet_on_wet"},
	"strokes":       {"one_way", "crossed"},
	"reinforcement": {"everywhere", "joints", "none"},
	"junction":      {"flexible", "rigid_fillet"},
	"movement":      {"never_across", "bridged_by_band", "sealed_in_finish"},
	"thickness":     {"wet_gauge", "dry_film", "consumption"},
	"stand":         {"stand", "at_once"},
	"paddle":        {"slow", "vortex"},
	"split":         {"by_weight", "whole_packs"},
	"overlay":       {"short_window", "after_cure"},
	"mist":          {"mist", "none"},
	"falls":         {"below", "above"},
	"old_coatings":  {"strip", "keep"},
	"proof":         {"water", "film_alone"},
}

// SchoolNames lists what schools decide, in the order of the work.
var SchoolNames = []string{
	"base", "key", "details", "coats", "strokes", "reinforcement", "junction", "movement", "thickness",
	"stand", "paddle", "split", "overlay", "mist", "falls", "old_coatings", "proof",
}

// Anchors are the moments a printed time may count from.
var Anchors = []string{
	"first_contact", "powder_taken_up", "mix_ready", "coat_begun", "coat_ended", "state_of_coat", "full_cure", "cast", "overlay_done", "pack_opened",
}

func checkSchools(schools map[string]string) error {
	for _, name := range slices.Sorted(maps.Keys(schools)) {
		if !slices.Contains(Schools[name], schools[name]) {
			return fault.At("recipe.schools."+name, "choice.unknown", "typed", schools[name])
		}
	}
	return nil
}

// Mixed is a place where two schools meet in one wet area.
type Mixed struct {
	School string `json:"school"`
	One    string `json:"one"`
	Other  string `json:"other"`
	Of     string `json:"of"`   // name of the sheet that follows the one
	With   string `json:"with"` // and of the other
}

// MixedSchools lists where sheets that meet in one wet area work in different ways: a membrane's
// recipe against those of what goes with it, or against what already lies there.
func MixedSchools(sheets ...Sheet) []Mixed {
	mixed := []Mixed{}
	for _, name := range SchoolNames {
		var first *Sheet
		for i, s := range sheets {
			way := s.Recipe.Schools[name]
			if way == "" {
				continue
			}
			if first == nil {
				first = &sheets[i]
				continue
			}
			if one := first.Recipe.Schools[name]; one != way {
				mixed = append(mixed, Mixed{School: name, One: one, Other: way, Of: first.Name, With: s.Name})
			}
		}
	}
	return mixed
}
