package sheet

// gear is the protective gear that a caution asks for, as wording "gear.<name>". The safety data
// sheet of the pack and the local code go before it.
var gear = map[string][]string{
	"alkaline":       {"gloves", "goggles", "long_sleeves", "eye_wash"},
	"alkaline_water": {"gloves", "boots"},
	"dust":           {"dust_mask", "suction", "goggles"},
	"hidden_lines":   {"detector"},
	"old_materials":  {"dust_mask", "overalls"},
	"solvent":        {"respirator", "fan", "gloves"},
	"fire":           {"extinguisher", "fire_watch"},
	"peroxide":       {"goggles", "gloves", "metal_bin"},
	"hot_bitumen":    {"face_shield", "heat_gloves", "long_sleeves", "burn_kit"},
	"height":         {"edge_protection", "harness"},
	"slips":          {"boots"},
	"load":           {},
	"drowning":       {"fence"},
	"electricity":    {"leakage_breaker"},
}

// Gear lists the protective gear that goes with a caution.
func Gear(caution string) []string { return gear[caution] }

// PackOf is the size of the first pack of a part, by its name, or of the whole, in the unit that it is
// sold in; 0 where none is stated.
func (s Sheet) PackOf(part string) float64 {
	for _, p := range s.Packs {
		if part == "" || s.partName(p.Part) == part {
			return p.Size
		}
	}
	if kit, err := s.Number("kit"); err == nil {
		return kit.Value
	}
	return 0
}

func (s Sheet) partName(id string) string {
	for _, p := range s.Parts {
		if p.ID == id {
			return p.Name
		}
	}
	return ""
}
