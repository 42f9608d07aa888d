package sheet

import (
	"slices"
	"strconv"
)

// SoldByPart tells whether the parts of a mix are sold in packs of their own.
func (s Sheet) SoldByPart() bool {
	return slices.ContainsFunc(s.Packs, func(p Pack) bool { return p.Part != "" })
}

// Latest drops the sheets that a later revision has replaced, and keeps the order.
func Latest(library []Sheet) []Sheet {
	replaced := map[string]bool{}
	for _, s := range library {
		if s.Replaces != "" {
			replaced[s.Replaces] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(library), func(s Sheet) bool { return replaced[s.ID] })
}

// Trial is a patch laid on site to learn what a product takes there.
type Trial struct {
	Entry   string  `json:"entry"` // id of the entry that keeps it
	Sheet   string  `json:"sheet"` // id
	Kg      float64 `json:"kg"`
	Area    float64 `json:"area_m2"`
	Density float64 `json:"kg_per_L,omitempty"` // a litre of the mix, where it was weighed
}

// Tried gives the sheet with the rate of a trial patch, which counts before every printed one,
// and with the density where the sheet states none.
func (s Sheet) Tried(t Trial) Sheet {
	numbers := map[string]Said{}
	for name, said := range s.Numbers {
		numbers[name] = said
	}
	text := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	numbers["rate"] = Said{Value: t.Kg / t.Area, Unit: "kg/m2", Says: text(t.Kg) + " kg / " + text(t.Area) + " m²", Trial: t.Entry}
	if _, stated := numbers["mixed_density"]; !stated && t.Density > 0 {
		numbers["mixed_density"] = Said{Value: t.Density, Unit: "kg/L", Says: text(t.Density) + " kg/L", Trial: t.Entry}
	}
	choices := map[string]string{}
	for name, picked := range s.Choices {
		choices[name] = picked
	}
	choices["rate_per"], choices["rate_basis"], choices["film_from"] = "coat", "wet", "rate"
	s.Numbers, s.Choices = numbers, choices
	return s
}

// SameFamily tells whether two products are tested in one system.
func SameFamily(one, other Sheet) bool {
	return slices.ContainsFunc(one.Families, func(f string) bool { return slices.Contains(other.Families, f) })
}
