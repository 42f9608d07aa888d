package units

import (
	"math"
	"strings"

	"dusha/core/climate"
	"dusha/core/fault"
)

// Temperatures that are met where people work, °C; one above Warm without its unit is asked back: it
// may have been read in °F.
const (
	Coldest, Hottest = -30.0, 70.0
	Warm             = 45.0
)

// ParseTemperature reads a temperature of air, base, mix or water, °C: with its unit, °C or °F, or
// without where it can only be °C.
func ParseTemperature(field, typed string) (float64, error) {
	text, unit := cutUnit(strings.TrimSpace(typed), "C", "c", "F", "f")
	if unit != "" {
		text, _ = cutUnit(text, "°")
	}
	value, err := parse(field, "number", typed, text)
	if err != nil {
		return 0, err
	}
	celsius := (value - 32) * 5 / 9
	switch {
	case unit == "F" || unit == "f":
		value = celsius
	case unit == "" && value > Warm:
		return 0, fault.At(field, "temperature.asked_back", "value", value, "other", math.Round(celsius*10)/10)
	}
	return within(field, "number", value, Coldest, Hottest)
}

// ParseHumidity reads a relative humidity, percent: above 0, where no gauge stands right, up to 102.
func ParseHumidity(field, typed string) (float64, error) {
	value, err := parse(field, "number", typed, strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(typed), "%")))
	if err != nil {
		return 0, err
	}
	if _, _, wrong := climate.Humidity(value); wrong != nil {
		return 0, fault.At(field, "climate.humidity_out_of_range", "value", value)
	}
	return value, nil
}
