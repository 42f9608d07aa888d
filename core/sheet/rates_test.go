package sheet_test

import (
	"math"
	"testing"

	"dusha/core/sheet"
)

func TestEveryFormOfARateMeansTheSame(t *testing.T) {
	// 1 mm wet a coat of a mix of 1.5 kg/L, two coats, as nine sheets would print it.
	base := sheet.Rate{Coats: 2, Per: "coat", Basis: "wet", Density: 1.5, DryToWet: 0.5, DryDensity: 2, Powder: 0.75}
	for name, change := range map[string]func(*sheet.Rate){
		"kg a m²":           func(r *sheet.Rate) { r.Rate, r.Unit = 1.5, "kg/m2" },
		"kg a m² in all":    func(r *sheet.Rate) { r.Rate, r.Unit, r.Per = 3, "kg/m2", "all_coats" },
		"g a m²":            func(r *sheet.Rate) { r.Rate, r.Unit = 1500, "g/m2" },
		"litres a m²":       func(r *sheet.Rate) { r.Rate, r.Unit = 1, "L/m2" },
		"m² a litre in all": func(r *sheet.Rate) { r.Rate, r.Unit, r.Per = 0.5, "m2/L", "all_coats" },
		"m² a kg":           func(r *sheet.Rate) { r.Rate, r.Unit = 1/1.5, "m2/kg" },
		"ft² a gallon":      func(r *sheet.Rate) { r.Rate, r.Unit = 3.785411784/0.09290304, "ft2/gal" },
		"ft² a lb":          func(r *sheet.Rate) { r.Rate, r.Unit = 0.45359237/(1.5*0.09290304), "ft2/lb" },
		"dry mm":            func(r *sheet.Rate) { r.Rate, r.Unit, r.Basis = 0.5, "mm", "dry_film" },
		"mil":               func(r *sheet.Rate) { r.Rate, r.Unit = 1/0.0254, "mil" },
		"kg of cured film":  func(r *sheet.Rate) { r.Rate, r.Unit, r.Basis = 1, "kg/m2", "dry_film" },
		"kg of powder":      func(r *sheet.Rate) { r.Rate, r.Unit, r.Basis = 1.125, "kg/m2", "powder" },
	} {
		r := base
		change(&r)
		got, err := r.Reduce()
		if err != nil || math.Abs(*got.WetPerCoat-1) > 1e-9 || math.Abs(*got.Total-3) > 1e-9 {
			t.Errorf("%s: %+v, %v", name, got, err)
		}
	}
}

func TestARateThatLacksWhatItNeeds(t *testing.T) {
	fine := sheet.Rate{Rate: 1, Unit: "kg/m2", Coats: 1, Per: "coat", Basis: "wet", Density: 1.5}
	for name, spoil := range map[string]func(*sheet.Rate){
		"no rate":                        func(r *sheet.Rate) { r.Rate = 0 },
		"no density":                     func(r *sheet.Rate) { r.Density = 0 },
		"no coats":                       func(r *sheet.Rate) { r.Coats = 0 },
		"a unit nobody prints":           func(r *sheet.Rate) { r.Unit = "stone/acre" },
		"neither a coat nor all":         func(r *sheet.Rate) { r.Per = "week" },
		"cured film without its ratio":   func(r *sheet.Rate) { r.Basis = "dry_film" },
		"cured mass without its density": func(r *sheet.Rate) { r.Basis, r.DryToWet = "dry_film", 0.5 },
		"powder without its share":       func(r *sheet.Rate) { r.Basis = "powder" },
		"powder by the litre":            func(r *sheet.Rate) { r.Basis, r.Powder, r.Unit = "powder", 0.7, "L/m2" },
	} {
		r := fine
		spoil(&r)
		if _, err := r.Reduce(); err == nil {
			t.Errorf("%s is reduced", name)
		}
	}
}

func TestFivePercentIsNoContradiction(t *testing.T) {
	for rate, contradicts := range map[float64]bool{1.05: false, 1.0501: true, 0.95: false, 0.9499: true} {
		percent, said := sheet.Disagreement([]sheet.Implied{{Low: 1, High: 1}, {Low: rate, High: rate}})
		if said != contradicts || math.Abs(percent-100*math.Abs(rate-1)) > 1e-9 {
			t.Errorf("%v mm beside 1 mm: %v %%, said %t", rate, percent, said)
		}
	}
	if percent, said := sheet.Disagreement([]sheet.Implied{{Low: 1, High: 1.2}, {Low: 1.1, High: 1.5}}); percent != 0 || said {
		t.Errorf("ranges that meet: %v %%", percent)
	}
}
