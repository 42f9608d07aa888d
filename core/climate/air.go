// Package climate holds what air and substrate say about the work: dew point, drying and
// humidity.
//
// Temperatures are °C, humidity is percent, vapour pressure hPa. The Magnus formula is
// that of Alduchov & Eskridge (1996): e_s = 6.1094·exp(17.625 T/(243.04+T)) over water.
package climate

import (
	"math"

	"dusha/core/fault"
)

const (
	magnusHPa, magnusA, magnusB = 6.1094, 17.625, 243.04
	zeroCelsius                 = 273.15
	gramsOfVapour               = 216.674 // g·K/(m³·hPa), 100 M_w/R
	full                        = 100.0
	driftsTo                    = 102.0 // a sensor may drift that far above 100 %
)

// Air is a state of the air over a base.
type Air struct {
	Temp     float64 `json:"air_C"`
	Base     float64 `json:"substrate_C"`
	Humidity float64 `json:"rh_percent"`
}

// Saturation is the vapour pressure of saturated air over water, hPa.
func Saturation(temp float64) float64 { return magnusHPa * math.Exp(magnusA*temp/(magnusB+temp)) }

// Humidity reads a relative humidity: 100 to 102 % is a sensor's drift and counts as 100;
// 0 and below, or above 102, is refused.
func Humidity(percent float64) (used float64, clamped bool, err error) {
	if math.IsNaN(percent) || percent <= 0 || percent > driftsTo {
		return 0, false, fault.At("rh_percent", "climate.humidity_out_of_range", "value", percent)
	}
	return min(percent, full), percent > full, nil
}

// DewPoint is the temperature at which the air's vapour condenses. The humidity must lie
// above 0.
func DewPoint(temp, humidity float64) float64 {
	g := math.Log(min(humidity, full)/full) + magnusA*temp/(magnusB+temp)
	return magnusB * g / (magnusA - g)
}

// Vapour is the absolute humidity, g/m³.
func Vapour(temp, humidity float64) float64 {
	return gramsOfVapour * humidity / full * Saturation(temp) / (temp + zeroCelsius)
}

// HumidityFactor is how the humidity speeds a moisture-curing resin: √(AH/AH_ref).
func HumidityFactor(a, reference Air) float64 {
	return math.Sqrt(Vapour(a.Temp, a.Humidity) / Vapour(reference.Temp, reference.Humidity))
}

// Limits of the rate of drying against the reference, and the humidity that stops it.
const (
	slowest, fastest = 0.05, 2.0
	stopsAt          = 97.0
)

// DryingRate is how fast a water-borne film dries against the sheet's reference climate
// (air and base alike there): e_s(base) − RH·e_s(air) over the same at the reference. raw
// is before the limits of 0.05 to 2; the rate is 0 at 97 % and above, with the base at or
// below the dew point, or below the film-forming temperature.
func DryingRate(a, reference Air, filmForming float64) (rate, raw float64) {
	raw = (Saturation(a.Base) - a.Humidity/full*Saturation(a.Temp)) / ((1 - reference.Humidity/full) * Saturation(reference.Temp))
	if a.Humidity >= stopsAt || a.Base <= DewPoint(a.Temp, a.Humidity) || a.Base < filmForming {
		return 0, raw
	}
	return min(max(raw, slowest), fastest), raw
}
