package takeoff_test

import (
	"fmt"
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/takeoff"
)

func TestFiguresThatGiveNoFilm(t *testing.T) {
	mass := func(f takeoff.Film, density float64) error {
		_, err := takeoff.CoatMass(10, f, density, 0, 0)
		return err
	}
	buy := func(pack int) error { _, err := takeoff.Buy(10, 5, pack); return err }
	rows := []struct {
		name  string
		err   error
		field string
	}{
		{"no thickness", mass(takeoff.Film{}, 1.5), "film"},
		{"dry film without its ratio", mass(takeoff.Film{DryTotal: 1}, 1.5), "dry_to_wet_f"},
		{"a ratio above one", mass(takeoff.Film{DryTotal: 1, DryToWet: 1.2}, 1.5), "dry_to_wet_f"},
		{"a density of zero", mass(takeoff.Film{WetTotal: 1}, 0), "density_kg_per_L"},
		{"a density that is no number", mass(takeoff.Film{WetTotal: 1}, math.NaN()), "density_kg_per_L"},
		{"a pack of nothing", buy(0), "pack_g"},
		{"a negative pack", buy(-20000), "pack_g"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if faults := fault.Of(row.err); len(faults) != 1 || faults[0].Field != row.field {
				t.Errorf("got %v, want a fault at %s", row.err, row.field)
			}
		})
	}
}

// Bought is never less than needed and never a whole pack more.
func TestPacksCoverTheNeed(t *testing.T) {
	for need := 0.001; need < 90; need += 0.731 {
		p, err := takeoff.Buy(need, 5, 20400)
		if err != nil || p.Bought < p.Need || p.Bought-p.Need >= 20400 || p.Leftover != p.Bought-p.Need {
			t.Fatalf("need %v kg: %+v, %v", need, p, err)
		}
	}
}

func ExampleCoatMass() {
	// 17.37 m² at 1.2 mm, texture 0.15 mm, 1.65 kg/L, 5 % waste: the first coat.
	m, _ := takeoff.CoatMass(17.37, takeoff.Film{Coats: 1, WetPerCoat: 1.2}, 1.65, 17.37*0.15, 5)
	fmt.Printf("%.2f kg\n", m.WithWaste)
	// Output: 40.63 kg
}
