package sheet

import (
	"maps"
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

// ofTrial are the choices that a trial patch makes.
var ofTrial = []string{"rate_per", "rate_basis", "film_from"}

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
	for i, name := range ofTrial {
		choices[name] = []string{"coat", "wet", "rate"}[i]
	}
	s.Numbers, s.Choices = numbers, choices
	return s
}

// SameFamily tells whether two products are tested in one system.
func SameFamily(one, other Sheet) bool {
	return slices.ContainsFunc(one.Families, func(f string) bool { return slices.Contains(other.Families, f) })
}

// ReadOn is a printing with the figures that another reading of it has and this one lacks; differs tells whether the two say
// anything otherwise. What a trial patch measured is no printed figure.
func (s Sheet) ReadOn(later Sheet) (whole Sheet, added []string, differs bool) {
	whole = s
	whole.Numbers, whole.Choices = map[string]Said{}, map[string]string{}
	maps.Copy(whole.Numbers, s.Numbers)
	maps.Copy(whole.Choices, s.Choices)
	for _, name := range slices.Sorted(maps.Keys(later.Numbers)) {
		said := later.Numbers[name]
		mine, is := s.Numbers[name]
		switch {
		case !is && said.Trial == "":
			whole.Numbers[name], added = said, append(added, name)
		case is && mine.Trial == "" && said.Trial == "" && (mine.Unit != said.Unit || !sameEnds(mine, said)):
			differs = true
		}
	}
	for name, mine := range s.Numbers {
		if _, is := later.Numbers[name]; !is && mine.Trial == "" {
			differs = true
		}
	}
	for _, name := range slices.Sorted(maps.Keys(later.Choices)) {
		switch mine, is := s.Choices[name]; {
		case s.Numbers["rate"].Trial != "" && slices.Contains(ofTrial, name):
		case !is:
			whole.Choices[name], added = later.Choices[name], append(added, name)
		case mine != later.Choices[name]:
			differs = true
		}
	}
	return whole, added, differs
}

func sameEnds(a, b Said) bool {
	aLow, aHigh := a.Ends()
	bLow, bHigh := b.Ends()
	return aLow == bLow && aHigh == bHigh
}
