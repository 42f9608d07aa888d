package climate_test

import (
	"math"
	"testing"

	"dusha/core/climate"
)

func near(got, want, within float64) bool { return math.Abs(got-want) <= within }

// Values of the Magnus form after Alduchov and Eskridge (1996), and of tables of moist air.
func TestTheAirsWater(t *testing.T) {
	for _, c := range []struct{ temp, humidity, dew float64 }{
		{20, 50, 9.2611}, {20, 100, 20}, {25, 60, 16.6977}, {10, 80, 6.7079}, {0, 90, -1.4442},
	} {
		if got := climate.DewPoint(c.temp, c.humidity); !near(got, c.dew, 0.0006) {
			t.Errorf("dew point at %v °C and %v %%: %.3f, want %.4f", c.temp, c.humidity, got, c.dew)
		}
	}
	if got := climate.Saturation(20); !near(got, 23.39, 0.06) {
		t.Errorf("saturation at 20 °C: %v hPa", got)
	}
	if got := climate.Vapour(20, 50); !near(got, 8.65, 0.05) {
		t.Errorf("half full at 20 °C: %v g/m³", got)
	}
	if got := climate.DewPoint(15, 102); got != climate.DewPoint(15, 100) {
		t.Errorf("over full: %v", got)
	}
}

func TestAHumidityIsReadWithinItsBounds(t *testing.T) {
	for _, c := range []struct {
		percent, used float64
		clamped, bad  bool
	}{{50, 50, false, false}, {100, 100, false, false}, {101.5, 100, true, false}, {102, 100, true, false}, {102.1, 0, false, true}, {0, 0, false, true}, {-3, 0, false, true}, {math.NaN(), 0, false, true}} {
		used, clamped, err := climate.Humidity(c.percent)
		if used != c.used || clamped != c.clamped || (err != nil) != c.bad {
			t.Errorf("%v %%: used %v, clamped %v, %v", c.percent, used, clamped, err)
		}
	}
}

func TestDryingStopsInDampAir(t *testing.T) {
	reference := climate.Air{Temp: 23, Base: 23, Humidity: 50}
	rate := func(a climate.Air) float64 { got, _ := climate.DryingRate(a, reference, 5); return got }
	if got := rate(reference); !near(got, 1, 1e-12) {
		t.Errorf("at the reference: %v, want 1", got)
	}
	for name, a := range map[string]climate.Air{
		"at 97 %":                      {Temp: 20, Base: 20, Humidity: 97},
		"base at the dew point":        {Temp: 25, Base: 15, Humidity: 60},
		"base too cold to form a film": {Temp: 10, Base: 4.9, Humidity: 40},
	} {
		if got := rate(a); got != 0 {
			t.Errorf("%s: %v, want 0", name, got)
		}
	}
	if got := rate(climate.Air{Temp: 35, Base: 45, Humidity: 10}); got != 2 {
		t.Errorf("hot and dry: %v, want the limit of 2", got)
	}
	if got := rate(climate.Air{Temp: 6, Base: 6, Humidity: 96}); got != 0.05 {
		t.Errorf("cold and damp, above the dew point: %v, want the limit of 0.05", got)
	}
	if got := climate.HumidityFactor(climate.Air{Temp: 23, Humidity: 25}, reference); !near(got, math.Sqrt(0.5), 1e-9) {
		t.Errorf("half the water: %v, want √½", got)
	}
}

func TestMayACoatBeStarted(t *testing.T) {
	hour := func(base float64) climate.Air { return climate.Air{Temp: 20, Base: base, Humidity: 50} } // dew at 9.26
	one := 1.0
	for name, c := range map[string]struct {
		in climate.Start
		ok bool
	}{
		"3 K over the dew point":        {climate.Start{Wanted: "dry", Hours: []climate.Air{hour(12.3)}}, true},
		"not quite":                     {climate.Start{Wanted: "dry", Hours: []climate.Air{hour(12.2)}}, false},
		"the sheet is content with 1 K": {climate.Start{Wanted: "dry", Margin: &one, Hours: []climate.Air{hour(10.3)}}, true},
		"a damp base is not asked":      {climate.Start{Wanted: "damp", Hours: []climate.Air{hour(9.5)}}, true},
		"water stands on it":            {climate.Start{Wanted: "damp", FreeWater: true, Hours: []climate.Air{hour(15)}}, false},
		"dew falls before rain-safe":    {climate.Start{Wanted: "ssd", RainSafe: 3, Hours: []climate.Air{hour(15), hour(12), hour(9)}}, false},
		"dew falls after it":            {climate.Start{Wanted: "ssd", RainSafe: 2, Hours: []climate.Air{hour(15), hour(12), hour(9)}}, true},
		"nothing is known":              {climate.Start{Wanted: "dry"}, false},
	} {
		if got := climate.MayStart(c.in); got.OK != c.ok {
			t.Errorf("%s: %+v", name, got)
		}
	}
}
