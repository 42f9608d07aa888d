package units

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"dusha/core/fault"
)

// Printed is a figure as a sheet prints it: one value or a range, in the unit it is wanted in.
type Printed struct {
	Low  float64
	High float64 // the same as Low where no range is printed
	Unit string  // the unit wanted; of a rate the unit printed
}

// unitForm is one way to write a unit: value · scale + offset is the unit wanted.
type unitForm struct {
	text   string
	scale  float64
	offset float64
}

// Units as they are printed, by the unit wanted. The first is the one that a bare number has.
var printedUnits = map[string][]unitForm{
	"mm":      {{"mm", 1, 0}, {"cm", 10, 0}, {"m", 1000, 0}, {"mil", mmPerInch / 1000, 0}, {"mils", mmPerInch / 1000, 0}, {"um", 0.001, 0}, {"in", mmPerInch, 0}, {`"`, mmPerInch, 0}, {"ft", mmPerInch * inchesPerFoot, 0}},
	"m":       {{"m", 1, 0}, {"mm", 0.001, 0}, {"cm", 0.01, 0}, {"ft", mmPerInch * inchesPerFoot / 1000, 0}, {"yd", 0.9144, 0}},
	"m2":      {{"m2", 1, 0}, {"ft2", m2PerFt2, 0}},
	"kg":      {{"kg", 1, 0}, {"g", 0.001, 0}, {"lb", kgPerLb, 0}, {"t", 1000, 0}},
	"L":       {{"L", 1, 0}, {"l", 1, 0}, {"litres", 1, 0}, {"mL", 0.001, 0}, {"ml", 0.001, 0}, {"gal", litresPerGallon, 0}},
	"kg/L":    {{"kg/L", 1, 0}, {"kg/l", 1, 0}, {"g/cm3", 1, 0}, {"g/mL", 1, 0}, {"kg/m3", 0.001, 0}, {"g/L", 0.001, 0}, {"lb/gal", kgPerLb / litresPerGallon, 0}},
	"min":     {{"min", 1, 0}, {"minutes", 1, 0}, {"s", 1. / 60, 0}, {"h", 60, 0}, {"hours", 60, 0}},
	"h":       {{"h", 1, 0}, {"hours", 1, 0}, {"hour", 1, 0}, {"min", 1. / 60, 0}, {"minutes", 1. / 60, 0}, {"d", 24, 0}, {"day", 24, 0}, {"days", 24, 0}, {"weeks", 168, 0}, {"months", 720, 0}},
	"d":       {{"d", 1, 0}, {"days", 1, 0}, {"day", 1, 0}, {"weeks", 7, 0}, {"months", 30, 0}, {"years", 365, 0}},
	"C":       {{"C", 1, 0}, {"°C", 1, 0}, {"F", 5. / 9, -160. / 9}, {"°F", 5. / 9, -160. / 9}},
	"K":       {{"K", 1, 0}, {"°C", 1, 0}, {"C", 1, 0}, {"F", 5. / 9, 0}, {"°F", 5. / 9, 0}},
	"percent": {{"%", 1, 0}, {"percent", 1, 0}},
	"bar":     {{"bar", 1, 0}, {"kPa", 0.01, 0}, {"MPa", 10, 0}, {"psi", 0.0689475729, 0}, {"m", 0.0981, 0}},
	"ratio":   {{"", 1, 0}, {"%", 0.01, 0}},
	"parts":   {{"", 1, 0}, {"parts", 1, 0}},
	"count":   {{"", 1, 0}, {"coats", 1, 0}, {"layers", 1, 0}},
	"rpm":     {{"rpm", 1, 0}, {"1/min", 1, 0}},
	"kg/m2":   {{"kg/m2", 1, 0}, {"g/m2", 0.001, 0}, {"lb/ft2", kgPerLb / m2PerFt2, 0}},
	"m2/h":    {{"m2/h", 1, 0}, {"ft2/h", m2PerFt2, 0}},
	"g/m":     {{"g/m", 1, 0}, {"kg/m", 1000, 0}},
	"g/kg":    {{"g/kg", 1, 0}, {"%", 10, 0}, {"kg/kg", 1000, 0}},
	"mL/L":    {{"mL/L", 1, 0}, {"ml/l", 1, 0}, {"mL/l", 1, 0}, {"ml/L", 1, 0}, {"fl oz/gal", 7.8125, 0}},
	"mL/kg":   {{"mL/kg", 1, 0}, {"ml/kg", 1, 0}, {"L/kg", 1000, 0}, {"l/kg", 1000, 0}},
	// A rate keeps the unit it is printed in: Rate.Reduce turns it over.
	"rate": {
		{"kg/m2", 1, 0}, {"g/m2", 1, 0}, {"L/m2", 1, 0}, {"l/m2", 1, 0}, {"mL/m2", 0.001, 0}, {"ml/m2", 0.001, 0}, {"m2/L", 1, 0}, {"m2/l", 1, 0}, {"m2/kg", 1, 0},
		{"ft2/gal", 1, 0}, {"ft2/lb", 1, 0}, {"ft2/kg", 1, 0}, {"ft2/L", 1, 0}, {"lb/ft2", 1, 0}, {"gal/ft2", 1, 0}, {"mm", 1, 0}, {"mil", 1, 0},
		{"in", mmPerInch, 0}, {`"`, mmPerInch, 0}, {"m2/pack", 1, 0}, {"m2/drum", 1, 0}, {"m2/pail", 1, 0}, {"m2/bucket", 1, 0}, {"m2/kit", 1, 0}, {"m2/bag", 1, 0},
	},
}

// spelt gives a rate's unit the one spelling of sheet.RateUnits.
var spelt = map[string]string{
	"l/m2": "L/m2", "mL/m2": "L/m2", "ml/m2": "L/m2", "m2/l": "m2/L", "in": "mm", `"`: "mm",
	"m2/drum": "m2/pack", "m2/pail": "m2/pack", "m2/bucket": "m2/pack", "m2/kit": "m2/pack", "m2/bag": "m2/pack",
}

// US units as defined.
const (
	litresPerGallon = 3.785411784
	m2PerFt2        = 0.09290304
	kgPerLb         = 0.45359237
)

// mustSay are the units that a figure cannot be read without.
var mustSay = []string{"rate", "g/kg", "mL/kg", "mL/L"}

// PrintedUnits are the units a figure may be printed in, the wanted one first, each in one spelling.
func PrintedUnits(want string) []string { return unitsByWant()[want] }

var unitsByWant = sync.OnceValue(func() map[string][]string {
	all := map[string][]string{}
	for want := range printedUnits {
		all[want] = unitsOf(want)
	}
	return all
})

func unitsOf(want string) []string {
	var list []string
	seen := map[string]bool{}
	for _, form := range printedUnits[want] {
		if key := strings.ToLower(form.text); form.text != "" && !seen[key] {
			seen[key] = true
			list = append(list, raised.Replace(form.text))
		}
	}
	return list
}

var raised = strings.NewReplacer("m2", "m²", "ft2", "ft²", "m3", "m³")

var plainer = strings.NewReplacer("²", "2", "³", "3", "µ", "u", "μ", "u", "sq m", "m2", "sqm", "m2", "sq ft", "ft2", "sqft", "ft2", " per ", "/", " / ", "/", "″", `"`)

// Words that stand before a figure and leave it as it is.
var about = []string{
	"about", "approx", "approx.", "ca", "ca.", "circa", "max", "max.", "min", "min.", "at least", "at most", "up to", "from",
	"not above", "not below", "not under", "after", "within", "~", "<", ">", "±",
}

// withoutAbout is a figure without the word before it.
func withoutAbout(text string) string {
	for _, word := range about {
		if len(text) <= len(word) || !strings.EqualFold(text[:len(word)], word) {
			continue
		}
		if s := (scanner{text[len(word):]}); s.blanks() {
			return s.rest
		}
	}
	return text
}

// figures reads one value or a range, and the unit behind.
func figures(text string) (low, high, unit string) {
	s := scanner{text}
	low = s.printed()
	if both := s; both.to() {
		if high = both.printed(); high != "" {
			s = both
		}
	}
	s.blanks()
	return low, high, s.rest
}

// printed reads a decimal with its sign, or a fraction as rulers in inches have it: 1/16, 1 3/16.
func (s *scanner) printed() string {
	start := *s
	if top, bottom, is := s.fraction(); is && decimal(bottom) != 0 {
		return strconv.FormatFloat(decimal(top)/decimal(bottom), 'f', -1, 64)
	}
	*s = start
	number := s.signed()
	after := *s
	if number != "" && after.blanks() {
		if top, bottom, is := after.fraction(); is && decimal(bottom) != 0 && !strings.ContainsAny(number, ".,-") {
			*s = after
			return strconv.FormatFloat(decimal(number)+decimal(top)/decimal(bottom), 'f', -1, 64)
		}
	}
	return number
}

// to reads what stands between the ends of a range.
func (s *scanner) to() bool {
	apart := s.blanks()
	found := s.one("-", "–", "—", "…", "...", "..") != "" || apart && s.one("to") != "" && !wordGoesOn(s.rest)
	s.blanks()
	return found
}

func wordGoesOn(rest string) bool {
	return rest != "" && (rest[0] == '_' || rest[0] >= '0' && rest[0] <= '9' || rest[0]|0x20 >= 'a' && rest[0]|0x20 <= 'z')
}

// ParsePrinted reads a figure the way a sheet prints it: "1.2", "1.0–1.2 mm", "47 mil", "3 days",
// "40 to 50 ft²/gal", with a word like "about" before it. A bare number has the unit wanted,
// but for a rate or a dose, which mean nothing without theirs. least and most bound both ends,
// in the unit wanted; of a rate the number as printed.
func ParsePrinted(field, typed, want string, least, most float64) (Printed, error) {
	text := withoutAbout(plainer.Replace(strings.TrimSpace(typed)))
	if text == "" {
		return Printed{}, fault.At(field, "number.missing")
	}
	low, high, unit := figures(text)
	if low == "" || len(text) > 60 || strings.Contains(unit, "\n") {
		return Printed{}, fault.At(field, "number.not_a_number", "typed", fault.Short(typed))
	}
	forms := printedUnits[want]
	i := slices.IndexFunc(forms, func(f unitForm) bool { return f.text == strings.TrimSuffix(unit, ".") })
	switch {
	case len(forms) == 0:
		return Printed{}, fault.At(field, "number.other_unit", "typed", fault.Short(want), "units", "")
	case unit == "" && slices.Contains(mustSay, want):
		return Printed{}, fault.At(field, "number.without_unit", "typed", fault.Short(typed), "units", strings.Join(PrintedUnits(want), ", "))
	case unit == "":
		i = 0
	case i < 0:
		return Printed{}, fault.At(field, "number.other_unit", "typed", fault.Short(unit), "units", strings.Join(PrintedUnits(want), ", "))
	}
	form := forms[i]
	out := Printed{Unit: want}
	if want == "rate" {
		out.Unit = form.text
		if one, is := spelt[form.text]; is {
			out.Unit = one
		}
	}
	ends := []string{low, high}
	if high == "" {
		ends[1] = low
	}
	var values [2]float64
	for k, end := range ends {
		if mark := threeAfter(end); mark != "" {
			return Printed{}, fault.At(field, "number.ambiguous", "typed", fault.Short(typed),
				"small", strings.Replace(end, mark, ".", 1), "large", strings.Replace(end, mark, "", 1))
		}
		value, err := parse(field, "number", typed, end)
		if err != nil {
			return Printed{}, err
		}
		const digits = 1e9 // a scale like 1/60 leaves a tail of binary
		value = math.Round((value*form.scale+form.offset)*digits) / digits
		if values[k], err = within(field, "number", value, least, most); err != nil {
			return Printed{}, err
		}
	}
	if values[1] < values[0] {
		return Printed{}, fault.At(field, "number.range_upside_down", "low", values[0], "high", values[1])
	}
	out.Low, out.High = values[0], values[1]
	return out, nil
}
