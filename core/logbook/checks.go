package logbook

import (
	"math"
	"strings"

	"dusha/core/fault"
	"dusha/core/units"
)

const (
	mostName, mostLine = 80, 500
	mostList           = 200
	mostKg             = 5000
	mostTooth          = 50
	coldest, hottest   = units.Coldest, units.Hottest
)

const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"

// only tells whether a text holds none but the given signs.
func only(text, signs string) bool { return strings.Trim(text, signs) == "" }

func name(field, text string) error {
	switch runes := len([]rune(strings.TrimSpace(text))); {
	case runes == 0:
		return fault.At(field, "text.missing")
	case runes > mostName:
		return fault.At(field, "text.too_long", "most", mostName)
	}
	return nil
}

func line(field, text string, needed bool) error {
	switch {
	case needed && strings.TrimSpace(text) == "":
		return fault.At(field, "text.missing")
	case len([]rune(text)) > mostLine:
		return fault.At(field, "text.too_long", "most", mostLine)
	}
	return nil
}

func id(field, text string) error {
	if !isID(text) {
		return fault.At(field, "entry.not_an_id", "typed", fault.Short(text))
	}
	return nil
}

func list(field string, items []string) error {
	if len(items) == 0 {
		return fault.At(field, "list.empty")
	}
	if len(items) > mostList {
		return fault.At(field, "list.too_long", "most", mostList)
	}
	return nil
}

func within(field string, value, least, most float64) error {
	switch {
	case math.IsNaN(value) || value < least:
		return fault.At(field, "number.too_small", "value", value, "least", least)
	case value > most:
		return fault.At(field, "number.too_large", "value", value, "most", most)
	}
	return nil
}

// first is the first error of a list of checks.
func first(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func place(field, surface string, along, up float64) error {
	return first(name(field+".surface", surface), within(field+".along_mm", along, -farthest, farthest), within(field+".up_mm", up, -farthest, farthest))
}

// farthest a place can be on a surface, mm.
const farthest = 100000
