package sheet_test

import (
	"math"
	"testing"

	"dusha/core/sheet"
)

// A rate in every form that the trade prints comes to the same kilograms.
func TestARateInEveryFormOfTheTrade(t *testing.T) {
	const density, pack, ft2, lb, gal = 1.6, 20.0, 0.09290304, 0.45359237, 3.785411784
	for unit, rate := range map[string]float64{
		"kg/m2": 2, "g/m2": 2000, "L/m2": 2 / density, "m2/L": density / 2, "m2/kg": 0.5, "m2/pack": pack / 2,
		"ft2/kg": 1 / (2 * ft2), "ft2/L": density / (2 * ft2), "ft2/lb": lb / (2 * ft2), "ft2/gal": gal * density / (2 * ft2),
		"lb/ft2": 2 * ft2 / lb, "gal/ft2": 2 / density * ft2 / gal, "mm": 2 / density, "mil": 2 / density / 0.0254,
	} {
		got, err := sheet.Rate{Rate: rate, Unit: unit, Coats: 1, Per: "coat", Basis: "wet", Density: density, Pack: pack}.Reduce()
		if err != nil || math.Abs(*got.PerCoat-2) > 1e-9 {
			t.Errorf("%v %s: %+v, %v", rate, unit, got, err)
		}
	}
	if len(sheet.RateUnits) != 14 {
		t.Errorf("%d units of rates, 14 are tried", len(sheet.RateUnits))
	}
	if _, err := (sheet.Rate{Rate: 10, Unit: "m2/pack", Coats: 1, Per: "coat", Basis: "wet", Density: 1}).Reduce(); err == nil {
		t.Error("what a pack of no size covers is taken")
	}
}

// A table may be printed at any temperatures.
func TestATableAtTheTemperaturesThatAreThere(t *testing.T) {
	s, _ := sheet.Sample("sample.flexible_cementitious")
	numbers := map[string]sheet.Said{}
	for _, at := range []struct {
		name  string
		hours float64
	}{{"cure_35", 30}, {"cure_-5", 400}, {"cure_23", 48}, {"cure_latest_7", 1}, {"cure_x", 1}, {"cure_", 1}} {
		numbers[at.name] = sheet.Said{Value: at.hours, Unit: "h", Says: "as printed"}
	}
	s.Numbers = numbers
	table := s.Table("cure")
	if len(table.Entries) != 3 || table.Entries[0].Temp != -5 || table.Entries[2].Temp != 35 || table.Entries[1].Time != 48 {
		t.Fatalf("%+v", table.Entries)
	}
	if names := s.TableNames("cure"); len(names) != 3 || names[0] != "cure_-5" {
		t.Errorf("%v", names)
	}
	if at, err := table.Minimum(23); err != nil || math.Abs(at-48) > 1e-9 {
		t.Errorf("at 23 °C: %v, %v", at, err)
	}
}

// What a kit yields says the density that is not printed.
func TestAYieldSaysTheDensity(t *testing.T) {
	s, _ := sheet.Sample("sample.flexible_cementitious")
	numbers := map[string]sheet.Said{}
	for name, said := range s.Numbers {
		if name != "mixed_density" {
			numbers[name] = said
		}
	}
	numbers["yield"] = sheet.Said{Value: 12, Unit: "L", Says: "12 L"}
	s.Numbers = numbers
	if got, err := s.Number("mixed_density"); err != nil || math.Abs(got.Value-20.4/12) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
	if film := s.Film(); film.PerM2 == nil {
		t.Errorf("no mass on a m²: %+v", film)
	}
	delete(numbers, "yield")
	if _, err := s.Number("mixed_density"); err == nil {
		t.Error("a density is read out of nothing")
	}
}
