// Package pressure sets the water that presses on a film, and the movement of a joint under
// it, against what the sheet says it bears.
//
// A head of h m presses with 0.0981·h bar (water of 1000 kg/m³, 9.81 m/s²). Over a moving
// joint the film is left unbonded so that it stretches no more than the allowed share of its
// elongation. Classes of movement by elongation are our own generic limits, to be replaced
// by the local standard's.
package pressure

import "dusha/core/fault"

// BarPerMetre is the pressure of a metre of water.
const BarPerMetre = 0.0981

// Asked is the water on both sides of a film and what the film is rated for.
type Asked struct {
	PositiveHead   float64  `json:"positive_head_m"` // over the film's lowest point, on the film's side
	PositiveRating *float64 `json:"positive_rating_bar" minimum:"0"`
	NegativeHead   float64  `json:"negative_head_m"` // on the other side
	NegativeRating *float64 `json:"negative_rating_bar" minimum:"0"`
	Factor         float64  `json:"factor"`
}

// Verdict says what each side asks for and whether the film bears it.
type Verdict struct {
	PositiveRequired float64 `json:"positive_required_bar"`
	NegativeRequired float64 `json:"negative_required_bar"`
	Governing        string  `json:"governing"` // "positive", "negative" or "none"
	Passes           bool    `json:"passes"`
}

// Judge compares both sides. A side without water asks nothing; one with water and no rating
// fails. The side that governs is the one with the smaller reserve.
func (a Asked) Judge() Verdict {
	v := Verdict{Governing: "none", Passes: true}
	least := 0.0
	for _, s := range []struct {
		name     string
		head     float64
		rating   *float64
		required *float64
	}{{"positive", a.PositiveHead, a.PositiveRating, &v.PositiveRequired}, {"negative", a.NegativeHead, a.NegativeRating, &v.NegativeRequired}} {
		*s.required = BarPerMetre * s.head * a.Factor
		if s.head <= 0 {
			continue
		}
		reserve := -*s.required
		if s.rating != nil {
			reserve += *s.rating
		}
		if s.rating == nil || reserve < 0 {
			v.Passes = false
		}
		if v.Governing == "none" || reserve < least {
			v.Governing, least = s.name, reserve
		}
	}
	return v
}

// DefaultShare of the elongation that a film over a joint may use.
const DefaultShare = 0.25

// Movement is a joint that opens and the film over it.
type Movement struct {
	Opening    float64  `json:"movement_mm" minimum:"0"` // the greatest, from the width as installed
	Elongation float64  `json:"elongation_percent"`
	Share      float64  `json:"share,omitempty" minimum:"0"` // 0: the default
	Available  *float64 `json:"available_mm,omitempty" minimum:"0"`
}

// Unbonded is the width that a film needs free over a joint, mm.
type Unbonded struct {
	Width  float64 `json:"unbonded_width_mm"`
	Enough *bool   `json:"enough,omitempty"`
}

// Width works out the unbonded width: movement over elongation times share.
func (m Movement) Width() (Unbonded, error) {
	if m.Elongation <= 0 {
		return Unbonded{}, fault.At("elongation_percent", "number.too_small", "value", m.Elongation, "least", 0)
	}
	if m.Share == 0 {
		m.Share = DefaultShare
	}
	u := Unbonded{Width: m.Opening / (m.Elongation / 100 * m.Share)}
	if m.Available != nil {
		enough := *m.Available >= u.Width
		u.Enough = &enough
	}
	return u, nil
}

// Elongation is the least elongation, %, for an unbonded width at a share of it.
func Elongation(movement, unbonded, share float64) (float64, error) {
	if unbonded <= 0 {
		return 0, fault.At("unbonded_mm", "length.too_small", "value", unbonded, "least", 0)
	}
	if share == 0 {
		share = DefaultShare
	}
	return movement / (unbonded * share) * 100, nil
}

// Class of movement by elongation, %: I below 60, II to 300, III above.
func Class(elongation float64) string {
	const two, three = 60.0, 300.0
	switch {
	case elongation < two:
		return "I"
	case elongation <= three:
		return "II"
	}
	return "III"
}
