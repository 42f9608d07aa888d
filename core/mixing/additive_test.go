package mixing_test

import (
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/mixing"
)

func TestAnAdditiveByVolume(t *testing.T) {
	// 6.5 kg of 1.3 kg/L are 5 L: 40 mL to each, 1.1 g to the mL.
	got, err := mixing.Additive{Base: 6.5, BaseDensity: 1.3, PerL: 40, Density: 1.1}.Measure()
	if err != nil || math.Abs(got.ML-200) > 1e-9 || math.Abs(got.Kg-0.22) > 1e-9 || math.Abs(got.Total-6.72) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
	if got, err = (mixing.Additive{Base: 10, PerKg: 15, Density: 0.95}).Measure(); err != nil || math.Abs(got.ML-150) > 1e-9 || math.Abs(got.Kg-0.1425) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
	for field, a := range map[string]mixing.Additive{
		"base_mass_kg": {PerKg: 15, Density: 1}, "additive_density_kg_per_L": {Base: 1, PerKg: 15}, "base_density_kg_per_L": {Base: 1, PerL: 15, Density: 1}, "mL_per_kg": {Base: 1, Density: 1},
	} {
		if _, err := a.Measure(); err == nil || fault.Of(err)[0].Field != field {
			t.Errorf("without %s: %v", field, err)
		}
	}
}

func TestACatalystByTemperature(t *testing.T) {
	table := []mixing.Dose{{Temp: 20, Percent: 2}, {Temp: -10, Percent: 8}, {Temp: 10, Percent: 4}} // in any order
	for temp, want := range map[float64]float64{-10: 8, 0: 6, 10: 4, 15: 3, 20: 2} {
		if got, refused := mixing.Catalyst(table, temp); refused || math.Abs(got-want) > 1e-9 {
			t.Errorf("at %v °C %v %%, refused %v, want %v", temp, got, refused, want)
		}
	}
	for _, temp := range []float64{-10.1, 20.1, math.NaN()} {
		if got, refused := mixing.Catalyst(table, temp); !refused {
			t.Errorf("at %v °C %v %% is said", temp, got)
		}
	}
	if _, refused := mixing.Catalyst(nil, 20); !refused {
		t.Error("a share out of an empty table")
	}
}
