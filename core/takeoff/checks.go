package takeoff

import (
	"dusha/core/figure"
	"dusha/core/pressure"
	"dusha/core/wetarea"
)

// pressure holds each side that has water against its rating: bar = 0.0981 × head × factor.
func (in Inputs) pressure(h wetarea.Head, factor figure.Figure) []Check {
	var list []Check
	for _, side := range []struct {
		name, number string
		head         float64
	}{{"positive", "positive_rating", h.Positive}, {"negative", "negative_rating", h.Negative}} {
		if side.head <= 0 {
			continue
		}
		asked := pressure.Asked{Factor: factor.Value}
		rating, err := in.Film.Number(side.number)
		var stated *float64
		if err == nil {
			stated = &rating.Value
		}
		if side.name == "positive" {
			asked.PositiveHead, asked.PositiveRating = side.head/1000, stated
		} else {
			asked.NegativeHead, asked.NegativeRating = side.head/1000, stated
		}
		verdict := asked.Judge()
		required := verdict.PositiveRequired + verdict.NegativeRequired
		head := figure.Worked("plan.check.head", side.head/1000, "m", "pressure.head", in.measured(h.Surface)...)
		worked := figure.Worked("plan.check.pressure", required, "bar", "pressure.bar", head, factor)
		check := Check{Key: "pressure_" + side.name, Place: h.Surface, Fine: verdict.Passes, Figure: &worked,
			Args: map[string]any{"required": required, "stated": stated != nil}}
		if stated != nil {
			check.Args["rating"] = *stated
		} else {
			check.Key = "pressure_unrated"
		}
		list = append(list, check)
	}
	return list
}

// movement is the unbonded width a joint asks for, against the bond breaker in the plan: the
// movement / (elongation × share).
func (in Inputs) movement(f wetarea.Feature) Check {
	check := Check{Key: "movement", Place: f.ID, Args: map[string]any{"movement": f.Movement}}
	elongation, err := in.Film.Number("elongation")
	if err != nil {
		check.Key = "movement_unrated"
		return check
	}
	width, err := pressure.Movement{Opening: f.Movement, Elongation: elongation.Value}.Width()
	if err != nil {
		check.Key = "movement_unrated"
		return check
	}
	moves := figure.Worked("plan.check.moves", f.Movement, "mm", "joint.movement", in.measured(f.ID)...)
	worked := figure.Worked("plan.check.unbonded", width.Width, "mm", "movement.width", moves, elongation)
	check.Figure = &worked
	check.Args["width"] = width.Width
	for _, c := range in.With {
		if c.Role == "bond_breaker" {
			if wide, err := c.Sheet.Number("band_width"); err == nil {
				check.Args["breaker"] = wide.Value
				check.Fine = wide.Value >= width.Width
			}
		}
	}
	return check
}
