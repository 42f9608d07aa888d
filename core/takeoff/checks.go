package takeoff

import (
	"slices"

	"dusha/core/figure"
	"dusha/core/pressure"
	"dusha/core/sheet"
	"dusha/core/wetarea"
)

// pressure holds each side that has water against its rating: bar = 0.0981 × head × factor.
func (m *maker) pressure(h wetarea.Head, factor figure.Figure) []Check {
	var list []Check
	for _, side := range []struct {
		name, number string
		head         float64
	}{{"positive", "positive_rating", h.Positive}, {"negative", "negative_rating", h.Negative}} {
		if side.head <= 0 {
			continue
		}
		asked := pressure.Asked{Factor: factor.Value}
		rating, err := m.filmOn(h.Surface).Number(side.number)
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
		head := figure.Worked("plan.check.head", side.head/1000, "m", "pressure.head", m.measured(h.Surface)...)
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
func (m *maker) movement(f wetarea.Feature) Check {
	check := Check{Key: "movement", Place: f.ID, Args: map[string]any{"movement": f.Movement}}
	elongation, err := m.filmOn(f.Line.Surface).Number("elongation")
	if err != nil {
		check.Key = "movement_unrated"
		return check
	}
	width, err := pressure.Movement{Opening: f.Movement, Elongation: elongation.Value}.Width()
	if err != nil {
		check.Key = "movement_unrated"
		return check
	}
	moves := figure.Worked("plan.check.moves", f.Movement, "mm", "joint.movement", m.measured(f.ID)...)
	worked := figure.Worked("plan.check.unbonded", width.Width, "mm", "movement.width", moves, elongation)
	check.Figure = &worked
	check.Args["width"] = width.Width
	for _, s := range m.unwoven {
		lies := slices.ContainsFunc(s.uses, func(u use) bool {
			return u.kind == "breaker" && slices.ContainsFunc(u.places, func(p place) bool { return p.id == f.ID })
		})
		if wide, err := s.sheet.Number("band_width"); err == nil && lies {
			check.Args["breaker"] = wide.Value
			check.Fine = wide.Value >= width.Width
		}
	}
	return check
}

// filmOn is the printing of what makes a surface tight.
func (m *maker) filmOn(surface string) sheet.Sheet {
	for _, c := range m.plan.Coats {
		if of, there := m.sheets[c.Product]; there && slices.ContainsFunc(c.Surface, func(s Share) bool { return s.Surface == surface }) {
			return of
		}
	}
	return m.Film
}

// addPotLife says of each film whose pot life at 20 °C leaves, after mixing, standing and the way there, no time to lay a
// square metre.
func (m *maker) addPotLife() {
	const usual = 20.0
	crew, walk := m.Rules.Limit("crew_rate").Value, m.Rules.Limit("walk").Value
	var seen []string
	for _, c := range m.plan.Coats {
		of := m.sheets[c.Product]
		minutes, _, err := of.Table("pot_life").At(usual)
		if err != nil || slices.Contains(seen, c.Product) || len(of.Parts) < 2 {
			continue
		}
		seen = append(seen, c.Product)
		left := minutes - walk
		for _, name := range []string{"mix", "stand"} {
			if said, err := of.Number(name); err == nil {
				left -= said.Value
			}
		}
		if covered := left / 60 * crew; covered < 1 {
			m.plan.Checks = append(m.plan.Checks, Check{Key: "pot_life", Place: "", Fine: false, Args: map[string]any{"name": of.Name, "left": max(0, left), "pot": minutes, "m2": max(0, covered)}})
		}
	}
}
