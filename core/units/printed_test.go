package units_test

import (
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/units"
)

func TestFiguresAsSheetsPrintThem(t *testing.T) {
	rows := []struct {
		typed, want, unit string
		low, high         float64
	}{
		{"1.2", "mm", "mm", 1.2, 1.2},
		{"1,0–1,2 mm", "mm", "mm", 1, 1.2},
		{"47 mil", "mm", "mm", 1.1938, 1.1938},
		{"about 3 days", "h", "h", 72, 72},
		{"24 to 48 h", "h", "h", 24, 48},
		{"1/16 in", "mm", "mm", 25.4 / 16, 25.4 / 16},
		{`1 3/16"`, "mm", "mm", 25.4 * 19 / 16, 25.4 * 19 / 16},
		{"1/16 to 1/8 in", "mm", "mm", 25.4 / 16, 25.4 / 8},
		{"300 1/min", "rpm", "rpm", 300, 300},
		{"1/32 in", "rate", "mm", 25.4 / 32, 25.4 / 32},
		{"35 ft²/kg", "rate", "ft2/kg", 35, 35},
		{"40 to 50 m²/drum", "rate", "m2/pack", 40, 50},
		{"20 mL per L", "mL/L", "mL/L", 20, 20},
		{"90 s", "min", "min", 1.5, 1.5},
		{"1.5 - 2 kg/m²", "rate", "kg/m2", 1.5, 2},
		{"40 ft²/gal", "rate", "ft2/gal", 40, 40},
		{"250 ml/m2", "rate", "L/m2", 0.25, 0.25},
		{"5 l/m2", "rate", "L/m2", 5, 5},
		{"1650 kg/m3", "kg/L", "kg/L", 1.65, 1.65},
		{"41 to 86 °F", "C", "C", 5, 30},
		{"-5 to 30", "C", "C", -5, 30},
		{"5 F", "K", "K", 25. / 9, 25. / 9},
		{"80 %", "ratio", "ratio", 0.8, 0.8},
		{"2 %", "g/kg", "g/kg", 20, 20},
		{"150 kPa", "bar", "bar", 1.5, 1.5},
		{"15 m", "bar", "bar", 1.4715, 1.4715},
		{"2 weeks", "d", "d", 14, 14},
	}
	for _, row := range rows {
		t.Run(row.typed, func(t *testing.T) {
			got, err := units.ParsePrinted("f", row.typed, row.want, -100, 1e5)
			if err != nil || math.Abs(got.Low-row.low) > 1e-9 || math.Abs(got.High-row.high) > 1e-9 || got.Unit != row.unit {
				t.Errorf("got %+v, %v", got, err)
			}
		})
	}
}

func TestFiguresThatAreAskedBack(t *testing.T) {
	rows := []struct{ typed, want, key string }{
		{"", "mm", "number.missing"},
		{"thin", "mm", "number.not_a_number"},
		{"2 kg", "mm", "number.other_unit"},
		{"1.5", "rate", "number.without_unit"},
		{"20", "mL/kg", "number.without_unit"},
		{"1.2–1.0 mm", "mm", "number.range_upside_down"},
		{"1,500 g", "kg", "number.ambiguous"},
		{"0 kg/L", "kg/L", "number.too_small"},
		{"3 to 2000 kg", "kg", "number.too_large"},
	}
	for _, row := range rows {
		_, err := units.ParsePrinted("f", row.typed, row.want, 0.01, 1000)
		if faults := fault.Of(err); len(faults) != 1 || faults[0].Key != row.key || faults[0].Field != "f" {
			t.Errorf("%q: %v, want %s", row.typed, err, row.key)
		}
	}
}
