// Package units reads the numbers people type and keeps what they typed.
//
// Inside the core every length is millimetres and every mass kilograms, both float64.
// A measured value keeps the text it came from beside the SI value, so that a reader
// can check it (domain rule: "a measured length or mass keeps what was typed").
package units

import (
	"math"
	"strconv"
	"strings"

	"dusha/core/fault"
)

// Measure is a measured value with the text that was typed.
type Measure struct {
	Typed string  `json:"typed"`
	Value float64 `json:"value"` // mm for lengths, else the unit the question names
}

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
	if number, unit := cutUnit(text, "mm", "cm", "m"); unit != "" {
		text, bare = number, false
		scale = map[string]float64{"mm": 1, "cm": 10, "m": 1000}[unit]
	}
	if metres, rest, is := metresAnd(text); is && bare {
		text, bare, scale = metres+"."+rest, false, 1000
	}
	if mark := threeAfter(text); mark != "" && bare {
		small, large := strings.Replace(text, mark, ".", 1)+" mm", strings.Replace(text, mark, "", 1)+" mm"
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

// Marks of inches, a longer one before one that ends it.
var inchMarks = []string{"inches", "inch", "in", `"`, "″", "”", "''"}

// parseFeet reads feet and inches, to the 0.001 mm: 7' 10 1/2" · 7 ft 10 · 10.5 in · 3/4".
// is tells whether the text is such a length.
func parseFeet(text string) (mm float64, is bool) {
	s := scanner{text}
	sign := s.sign()
	feet, whole := s, 0.0
	if digits := feet.digitsFirst(); digits != "" && feet.mark("'", "′", "’", "ft", "feet") {
		whole, s = decimal(digits), feet
		if s.ended() {
			return inMM(sign, whole*inchesPerFoot), true
		}
		s.rest, _ = cutUnit(s.rest, inchMarks...)
	} else {
		var mark string
		if s.rest, mark = cutUnit(s.rest, inchMarks...); mark == "" || s.ended() {
			return 0, false
		}
	}
	inches, is := s.inches()
	return inMM(sign, whole*inchesPerFoot+inches), is
}

func inMM(sign string, inches float64) float64 {
	if sign == "-" {
		inches = -inches
	}
	return math.Round(inches*mmPerInch*1000) / 1000
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
	if len(text) <= 40 && isGrouped(text) {
		text = strings.NewReplacer(" ", "", "\u00a0", "", "\u2009", "", "\u202f", "").Replace(text)
	}
	if len(text) > 40 || !isNumber(text) {
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
