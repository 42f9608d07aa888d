// Package units reads the numbers people type and keeps what they typed.
//
// Inside the core every length is millimetres and every mass kilograms, both float64.
// A measured value keeps the text it came from beside the SI value, so that a reader
// can check it (domain rule: "a measured length or mass keeps what was typed").
package units

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"dusha/core/fault"
)

// Measure is a measured value with the text that was typed.
type Measure struct {
	Typed string  `json:"typed"`
	Value float64 `json:"value"` // mm for lengths, else the unit the question names
}

var (
	number    = regexp.MustCompile(`^([+-]?)(\d+(?:[.,]\d+)?|[.,]\d+)$`)
	withUnit  = regexp.MustCompile(`^(.*?)\s*(mm|cm|m)$`)
	feet      = regexp.MustCompile(`^([+-]?)(\d+(?:[.,]\d+)?)\s*(?:'|′|’|ft|feet)\s*(.*)$`)
	marked    = regexp.MustCompile(`^([+-]?)(.*?)\s*(?:"|″|”|''|in|inch|inches)$`)
	inches    = regexp.MustCompile(`^(?:(\d+(?:[.,]\d+)?)(?:\s+(\d+)/(\d+))?|(\d+)/(\d+))$`)
	grouped   = regexp.MustCompile(`^[+-]?\d{1,3}(?:[ \x{00a0}\x{2009}\x{202f}]\d{3})+(?:[.,]\d+)?$`)
	metres    = regexp.MustCompile(`^(\d+)\s*m\s*(\d{2,3})$`)
	thousands = regexp.MustCompile(`^[+-]?[1-9]\d{0,2}([.,])\d{3}$`)
)

// ParseLength reads a length typed on site and gives it in mm. A bare number is mm;
// "mm", "cm" and "m" may follow, or it is feet and inches: 7' 10 1/2". Decimal comma and point are both understood, but a
// bare "1,500" or "1.500" is asked back, because it may mean one and a half or fifteen
// hundred: the fault offers both. So is a bare number that is too small for mm and fits in metres. Digits may be
// grouped by blanks, and 2m90 is 2.90 m. least and most bound the answer, in mm.
func ParseLength(field, typed string, least, most float64) (float64, error) {
	text, scale, bare := strings.TrimSpace(typed), 1.0, true
	if mm, is := parseFeet(text); is {
		return within(field, "length", mm, least, most)
	}
	if m := withUnit.FindStringSubmatch(text); m != nil {
		text, bare = m[1], false
		scale = map[string]float64{"mm": 1, "cm": 10, "m": 1000}[m[2]]
	}
	if m := metres.FindStringSubmatch(text); m != nil && bare {
		text, bare, scale = m[1]+"."+m[2], false, 1000
	}
	if m := thousands.FindStringSubmatch(text); m != nil && bare {
		small, large := strings.Replace(text, m[1], ".", 1)+" mm", strings.Replace(text, m[1], "", 1)+" mm"
		return 0, fault.At(field, "length.ambiguous", "typed", typed, "small", small, "large", large, "offers", []string{small, large})
	}
	value, err := parse(field, "length", typed, text)
	if err != nil {
		return 0, err
	}
	if asMetres := value * 1000; bare && value > 0 && value < least && asMetres >= least && asMetres <= most {
		return 0, fault.At(field, "length.metres", "value", value, "least", least, "offers", []string{text + " m"})
	}
	return within(field, "length", math.Round(value*scale*1000)/1000, least, most)
}

const (
	mmPerInch     = 25.4
	inchesPerFoot = 12
)

// parseFeet reads feet and inches, to the 0.001 mm: 7' 10 1/2" · 7 ft 10 · 10.5 in · 3/4".
// is tells whether the text is such a length.
func parseFeet(text string) (mm float64, is bool) {
	sign, whole, rest := "", 0.0, ""
	if m := feet.FindStringSubmatch(text); m != nil {
		sign, whole, rest = m[1], decimal(m[2]), m[3]
		if n := marked.FindStringSubmatch(rest); n != nil && n[1] == "" {
			rest = n[2]
		}
	} else if m := marked.FindStringSubmatch(text); m != nil {
		sign, rest = m[1], m[2]
		if rest == "" {
			return 0, false
		}
	} else {
		return 0, false
	}
	total := whole * inchesPerFoot
	if rest != "" {
		m := inches.FindStringSubmatch(rest)
		if m == nil || m[3] != "" && decimal(m[3]) == 0 || m[5] != "" && decimal(m[5]) == 0 {
			return 0, false
		}
		total += decimal(m[1])
		for _, k := range []int{2, 4} {
			if m[k] != "" {
				total += decimal(m[k]) / decimal(m[k+1])
			}
		}
	}
	if sign == "-" {
		total = -total
	}
	return math.Round(total*mmPerInch*1000) / 1000, true
}

// decimal is a number of digits with a point or a comma; nothing is 0.
func decimal(digits string) float64 {
	value, _ := strconv.ParseFloat(strings.Replace(digits, ",", ".", 1), 64)
	return value
}

// ParseNumber reads a plain number of a stated unit between least and most (both
// included). Decimal comma and point are both understood.
func ParseNumber(field, typed string, least, most float64) (float64, error) {
	value, err := parse(field, "number", typed, strings.TrimSpace(typed))
	if err != nil {
		return 0, err
	}
	return within(field, "number", value, least, most)
}

func parse(field, what, typed, text string) (float64, error) {
	if text == "" {
		return 0, fault.At(field, what+".missing")
	}
	if len(text) <= 40 && grouped.MatchString(text) {
		text = strings.NewReplacer(" ", "", "\u00a0", "", "\u2009", "", "\u202f", "").Replace(text)
	}
	if len(text) > 40 || !number.MatchString(text) {
		return 0, fault.At(field, what+".not_a_number", "typed", fault.Short(typed))
	}
	value, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil {
		return 0, fault.At(field, what+".not_a_number", "typed", fault.Short(typed))
	}
	return value, nil
}

func within(field, what string, value, least, most float64) (float64, error) {
	if value < least {
		return 0, fault.At(field, what+".too_small", "value", value, "least", least)
	}
	if value > most {
		return 0, fault.At(field, what+".too_large", "value", value, "most", most)
	}
	return value, nil
}
