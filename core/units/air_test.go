package units_test

import (
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/units"
)

func TestTemperaturesAndHumiditiesAsTheyAreTyped(t *testing.T) {
	for _, c := range []struct {
		kind, typed string
		want        float64
		key         string
	}{
		{"temperature", "18,5", 18.5, ""},
		{"temperature", "-4 °C", -4, ""},
		{"temperature", "45", 45, ""},
		{"temperature", "72", 0, "temperature.asked_back"},
		{"temperature", "50", 0, "temperature.asked_back"},
		{"temperature", "72 F", 22.222, ""},
		{"temperature", "32°f", 0, ""},
		{"temperature", "50 C", 50, ""},
		{"temperature", "72 C", 0, "number.too_large"},
		{"temperature", "-40", 0, "number.too_small"},
		{"temperature", "-40 F", 0, "number.too_small"},
		{"temperature", "", 0, "number.missing"},
		{"temperature", "F", 0, "number.missing"},
		{"temperature", "warm", 0, "number.not_a_number"},
		{"humidity", "55", 55, ""},
		{"humidity", "55 %", 55, ""},
		{"humidity", "102", 102, ""},
		{"humidity", "0", 0, "climate.humidity_out_of_range"},
		{"humidity", "103", 0, "climate.humidity_out_of_range"},
		{"humidity", "", 0, "number.missing"},
	} {
		read := map[string]func(string, string) (float64, error){"temperature": units.ParseTemperature, "humidity": units.ParseHumidity}[c.kind]
		got, err := read("air", c.typed)
		key := ""
		if list := fault.Of(err); len(list) > 0 {
			key = list[0].Key
			if list[0].Field != "air" {
				t.Errorf("%q: the fault lies at %q", c.typed, list[0].Field)
			}
		}
		if key != c.key || math.Abs(got-c.want) > 1e-3 {
			t.Errorf("%s %q: %v, %q; want %v, %q", c.kind, c.typed, got, key, c.want, c.key)
		}
	}
}
