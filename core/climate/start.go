package climate

// DewMargin is how far the base must lie above the dew point at the start, K, where the
// sheet states none (the guidance of ISO 8502-4 for coatings).
const DewMargin = 3.0

// Start asks whether work may begin, by dew.
type Start struct {
	Wanted    string   `json:"wanted_state"` // of the base: "dry", "damp" or "ssd"
	Margin    *float64 `json:"sheet_margin_K,omitempty" minimum:"0"`
	FreeWater bool     `json:"free_water,omitempty"`
	RainSafe  int      `json:"rain_safe_h,omitempty" minimum:"0"` // hours until rain does no harm
	Hours     []Air    `json:"hours"`                             // hour k is from k to k+1
}

// Started is the answer.
type Started struct {
	DewAsked     bool    `json:"dew_rule_asked"`
	OK           bool    `json:"ok"`
	Margin       float64 `json:"margin_K"`          // base over dew point at the start
	Condensation *int    `json:"condensation_at_h"` // first hour with water on the base; nil: none
}

// MayStart asks for a base above the dew point by the margin where a dry base is wanted.
// Products on a damp or saturated base are not asked that: there must be no free water,
// and none may condense before they are rain-safe.
func MayStart(s Start) Started {
	if len(s.Hours) == 0 {
		return Started{DewAsked: s.Wanted == "dry"}
	}
	over := func(a Air) float64 { return a.Base - DewPoint(a.Temp, a.Humidity) }
	out := Started{DewAsked: s.Wanted == "dry", Margin: over(s.Hours[0])}
	if out.DewAsked {
		margin := DewMargin
		if s.Margin != nil {
			margin = *s.Margin
		}
		out.OK = out.Margin >= margin
		return out
	}
	for k, hour := range s.Hours {
		if k < s.RainSafe && over(hour) <= 0 {
			out.Condensation = &k
			break
		}
	}
	out.OK = !s.FreeWater && out.Condensation == nil
	return out
}
