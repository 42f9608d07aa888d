package units_test

import (
	"math"
	"testing"

	"dusha/core/units"
)

func FuzzPrinted(f *testing.F) {
	for _, typed := range []string{"1.2 mm", "about 3", "24–36 h", "7' 10 1/2\"", "1,8 m", " 1 200 ", "1e3", "½ in"} {
		f.Add(typed, "mm")
		f.Add(typed, "h")
	}
	f.Fuzz(func(t *testing.T, typed, want string) {
		const least, most = 0.5, 5000
		for name, read := range map[string]func() (float64, error){
			"length": func() (float64, error) { return units.ParseLength("f", typed, least, most) },
			"number": func() (float64, error) { return units.ParseNumber("f", typed, least, most) },
			"printed": func() (float64, error) {
				p, err := units.ParsePrinted("f", typed, want, least, most)
				return p.Low, err
			},
		} {
			if value, err := read(); err == nil && (math.IsNaN(value) || value < least || value > most) {
				t.Fatalf("%q as a %s is %v, outside its limits", typed, name, value)
			}
		}
	})
}
