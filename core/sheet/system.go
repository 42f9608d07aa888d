package sheet

import (
	"slices"
	"strconv"
)

// Companion is a product that goes with a membrane in a plan, in the revision the plan holds.
type Companion struct {
	Role    string   `json:"role"`
	Sheet   Sheet    `json:"sheet"`
	On      []string `json:"on,omitempty"`     // of a primer: the substrates it is for
	Reason  string   `json:"reason,omitempty"` // of one taken instead of the membrane's own
	Person  string   `json:"person,omitempty"` // who answers for it
	Outside bool     `json:"outside"`          // not tested with the membrane's system
}

// Swap takes another product for a role than the one the membrane's sheet names.
type Swap struct {
	Product string `json:"product"` // that the membrane names
	Sheet   string `json:"sheet"`   // id of the one taken; empty: none
	Reason  string `json:"reason"`
	Person  string `json:"person"`
}

// SoldByPart tells whether the parts of a mix are sold in packs of their own.
func (s Sheet) SoldByPart() bool {
	return slices.ContainsFunc(s.Packs, func(p Pack) bool { return p.Part != "" })
}

// Wets tells whether a fleece is laid into the film.
func (s Sheet) Wets() bool {
	return slices.ContainsFunc(s.With, func(w With) bool { return w.Role == "fleece" })
}

// SameFamily tells whether two products are tested in one system.
func SameFamily(one, other Sheet) bool {
	return slices.ContainsFunc(one.Families, func(f string) bool { return slices.Contains(other.Families, f) })
}

// Companions finds what goes with a membrane in a library: for each product it names, the last
// sheet of one's own that was filled for it, or the sample where samples may be used. What has no
// sheet is listed as missing.
func Companions(membrane Sheet, library []Sheet, swaps []Swap, samples bool) (found []Companion, missing []With) {
	for _, with := range membrane.With {
		c := Companion{Role: with.Role, On: with.On}
		i := slices.IndexFunc(swaps, func(s Swap) bool { return s.Product == with.Product })
		if i >= 0 && swaps[i].Sheet == "" {
			continue
		}
		var sheet *Sheet
		for k, s := range library {
			switch {
			case s.Sample && !samples:
			case i >= 0 && s.ID == swaps[i].Sheet:
				sheet = &library[k]
				c.Reason, c.Person = swaps[i].Reason, swaps[i].Person
			case i < 0 && (s.Of() == with.Product || s.CopiedFrom == with.Product):
				if sheet == nil || sheet.Sample || !s.Sample {
					sheet = &library[k]
				}
			}
		}
		if sheet == nil {
			missing = append(missing, with)
			continue
		}
		c.Sheet = *sheet
		c.Outside = !SameFamily(membrane, c.Sheet)
		found = append(found, c)
	}
	return found, missing
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
