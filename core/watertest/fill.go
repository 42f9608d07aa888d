package watertest

import (
	"math"

	"dusha/core/fault"
	"dusha/core/wetarea"
)

// Floor is a floor to be filled: level, or built to fall towards its nearest drain or channel,
// z = distance/n by the shortest way inside the floor, with z = 0 at the drain.
type Floor struct {
	Vertices  []wetarea.Point    `json:"vertices_mm"`
	Drain     *wetarea.Point     `json:"drain_mm,omitempty"`
	Drains    []wetarea.Point    `json:"drains_mm,omitempty" maxItems:"40"` // more than one
	Channel   []wetarea.Point    `json:"channel_mm,omitempty"`              // its two ends
	Channels  [][2]wetarea.Point `json:"channels_mm,omitempty" maxItems:"40"`
	Slope     float64            `json:"slope_1_in_n" minimum:"0"` // n; 0: level
	Depth     float64            `json:"depth_over_highest_mm"`
	Tap       float64            `json:"tap_L_per_min"`
	Allowance *float64           `json:"allowance_kPa,omitempty" minimum:"0"`
}

// Fill is what a filling takes and what it weighs on the floor.
type Fill struct {
	Volume        float64 `json:"volume_L"`
	GreatestDepth float64 `json:"greatest_depth_mm"`
	GreatestLoad  float64 `json:"greatest_load_kPa"`
	MeanLoad      float64 `json:"mean_load_kPa"`
	Hours         float64 `json:"fill_h"`
	Stop          bool    `json:"stop_ask_engineer"` // over the allowance, or there is none
	ByRate        bool    `json:"by_rate,omitempty"` // the rise that was asked governs, not the tap
}

const (
	litresPerMM3  = 1e-6
	minutesAnHour = 60
)

// Fill works out a filling to a depth over the highest floor point: volume A(z_max + depth)
// − ∫z dA, the load where the water is deepest, and the time at the tap.
func (f Floor) Fill() (Fill, error) {
	if err := wetarea.CheckOutline(f.Vertices); err != nil {
		return Fill{}, err
	}
	if !(f.Depth > 0) {
		return Fill{}, fault.At("depth_over_highest_mm", "number.too_small", "value", f.Depth, "least", 1)
	}
	if !(f.Tap > 0) {
		return Fill{}, fault.At("tap_L_per_min", "number.too_small", "value", f.Tap, "least", 0.1)
	}
	if f.Slope > 0 && f.Drain == nil && len(f.Drains)+len(f.Channel)+len(f.Channels) == 0 {
		return Fill{}, fault.At("drain_mm", "watertest.no_drain")
	}
	area := math.Abs(wetarea.SignedArea(f.Vertices))
	out := Fill{GreatestDepth: f.Depth, Volume: area * f.Depth * litresPerMM3}
	if f.Slope > 0 {
		built, err := f.built().Measure()
		if err != nil {
			return Fill{}, err
		}
		out.GreatestDepth += built.Greatest
		out.Volume = area*out.GreatestDepth*litresPerMM3 - built.Volume
	}
	out.GreatestLoad = Load(out.GreatestDepth)
	out.MeanLoad = Load(out.Volume / litresPerMM3 / area)
	out.Hours = out.Volume / f.Tap / minutesAnHour
	out.Stop = f.Allowance == nil || out.GreatestLoad > *f.Allowance
	return out, nil
}

// built is the floor's falls as a screed that has no thickness at the drain.
func (f Floor) built() wetarea.Screed {
	s := wetarea.Screed{Vertices: f.Vertices, Drains: f.Drains, Channels: f.Channels, Slope: f.Slope}
	if f.Drain != nil {
		s.Drains = append(s.Drains[:len(s.Drains):len(s.Drains)], *f.Drain)
	}
	if len(f.Channel) == 2 {
		s.Channels = append(s.Channels[:len(s.Channels):len(s.Channels)], [2]wetarea.Point(f.Channel))
	}
	return s
}

// TankFill is a staged filling of a tank with upright walls.
type TankFill struct {
	Volume   float64 `json:"volume_L"`
	Flow     float64 `json:"flow_used_L_per_h"`
	Hours    float64 `json:"fill_h"`
	ByRate   bool    `json:"limited_by_rate"` // the rate limit governs, not the tap
	Pressure float64 `json:"bottom_pressure_kPa"`
}

// FillTank fills a tank of a water face in m² with litres to a depth in mm, no faster than the rate limit
// in mm/h. Where the walls lean the water rises fastest at the bottom; the face at the line counts here.
func FillTank(volume, face, depth, tap, rateLimit float64) (TankFill, error) {
	for _, in := range []struct {
		field string
		value float64
	}{{"area_m2", face}, {"depth_mm", depth}, {"volume_L", volume}, {"tap_L_per_min", tap}, {"rate_limit_mm_per_h", rateLimit}} {
		if !(in.value > 0) {
			return TankFill{}, fault.At(in.field, "number.too_small", "value", in.value, "least", 0)
		}
	}
	byTap, byRate := tap*minutesAnHour, rateLimit*face
	t := TankFill{Volume: volume, Flow: min(byTap, byRate), ByRate: byRate < byTap, Pressure: Load(depth)}
	t.Hours = t.Volume / t.Flow
	return t, nil
}
