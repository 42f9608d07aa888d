package sheet

import (
	"maps"
	"math"
	"slices"

	"dusha/core/fault"
)

// Check refuses a sheet that cannot be used: without a name, of an unknown role, with a figure
// outside its bounds, or a pack of nothing. What is missing is no fault.
func (s Sheet) Check(path string) error {
	const mostText, mostParts, mostList = 200, 6, 100
	switch {
	case s.ID == "":
		return fault.At(path+".id", "text.missing")
	case s.Name == "":
		return fault.At(path+".name", "text.missing")
	case len([]rune(s.ID)) > mostText || len([]rune(s.Name)) > mostText || len([]rune(s.Revision)) > mostText:
		return fault.At(path+".name", "text.too_long", "most", mostText)
	case !slices.Contains(Roles, s.Is()):
		return fault.At(path+".role", "choice.unknown", "typed", s.Role)
	case len(s.Packs) > mostList || len(s.Files) > mostList || len(s.Families) > mostList:
		return fault.At(path, "list.too_long", "most", mostList)
	case s.Is() == "membrane" && len(s.Parts) == 0 || len(s.Parts) > mostParts:
		return fault.At(path+".parts", "sheet.parts_out_of_range", "value", len(s.Parts))
	}
	for _, name := range slices.Sorted(maps.Keys(s.Numbers)) {
		if err := s.checkNumber(path+".numbers."+name, name); err != nil {
			return err
		}
	}
	for _, p := range s.Packs {
		if !(p.Size > 0) || math.IsInf(p.Size, 0) || p.Price < 0 || p.Unit != s.SoldIn() {
			return fault.At(path+".packs", "pack.no_size", "pack", p.Says, "value", p.Size)
		}
	}
	return nil
}

func (s Sheet) checkNumber(path, name string) error {
	said := s.Numbers[name]
	low, high := said.Ends()
	if math.IsNaN(low) || math.IsNaN(high) || high < low {
		return fault.At(path, "number.range_upside_down", "low", low, "high", high)
	}
	i := slices.IndexFunc(form, func(a entered) bool { return a.name == name })
	if i < 0 {
		return fault.At(path, "choice.unknown", "typed", name)
	}
	switch a := form[i]; {
	case said.Unit == "":
		return fault.At(path, "number.without_unit", "typed", said.Says, "units", a.want)
	case low < a.least:
		return fault.At(path, "number.too_small", "value", low, "least", a.least, "unit", a.want)
	case high > a.most:
		return fault.At(path, "number.too_large", "value", high, "most", a.most, "unit", a.want)
	}
	return nil
}
