package takeoff

import (
	"math"
	"strings"

	"dusha/core/figure"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// filletNeed is a triangular fillet in every inner corner of floor and walls, by its angle, where
// the recipe builds the junction rigid.
func filletNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	if in.System.Reads().Junction != "rigid_fillet" {
		return got, nil
	}
	leg, err := c.Sheet.Number("fillet_leg")
	if err != nil {
		return got, err
	}
	density, err := c.Sheet.Number("mixed_density")
	if err != nil {
		return got, err
	}
	for _, j := range in.Area.Junctions {
		if j.Turn != "internal" || j.Kind != "floor_wall" && j.Kind != "wall_wall" && j.Kind != "box" {
			continue
		}
		section := Section{Section: "triangle", Leg: leg.Value, Angle: in.angle(j), Length: j.Length / 1000, Density: density.Value}
		filled, err := section.Measure()
		if err != nil {
			return got, err
		}
		got.parts = append(got.parts, figure.Worked("plan.item.fillet", filled.Mass, "kg", "mass.fillet", in.run(j), leg, density).With("junction", j.ID, "angle", section.Angle))
		got.places = append(got.places, j.ID)
	}
	return got, nil
}

// angle between the surfaces of a junction, degrees: that of the corner where two walls meet.
func (in Inputs) angle(j wetarea.Junction) float64 {
	if walls, is := strings.CutPrefix(j.ID, "wall_wall."); is {
		for _, c := range in.Area.Corners {
			if c.ID == "corner."+walls && c.Angle > 0 && c.Angle < 180 {
				return c.Angle
			}
		}
	}
	return 90
}

// sealantNeed is a bead round every pipe and fitting and along every joint that moves.
func sealantNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	got := need{waste: true}
	var said []figure.Figure
	for _, name := range []string{"bead_width", "bead_depth", "mixed_density"} {
		f, err := c.Sheet.Number(name)
		if err != nil {
			return got, err
		}
		said = append(said, f)
	}
	bead := func(place string, mm float64, from figure.Figure) error {
		filled, err := Section{Section: "bead", Width: said[0].Value, Depth: said[1].Value, Length: mm / 1000, Density: said[2].Value}.Measure()
		if err != nil {
			return err
		}
		got.parts = append(got.parts, figure.Worked("plan.item.bead", filled.Mass, "kg", "mass.bead", append([]figure.Figure{from}, said...)...).With("place", place))
		got.places = append(got.places, place)
		return nil
	}
	for _, pen := range in.Area.Penetrations {
		round := math.Pi * pen.Diameter
		if pen.Ends != nil {
			round = 2 * math.Hypot(pen.Ends[1][0]-pen.Ends[0][0], pen.Ends[1][1]-pen.Ends[0][1])
		}
		if round <= 0 {
			continue
		}
		from := figure.Worked("plan.item.round", round/1000, "m", "length.round", in.measured(pen.ID)...).With("fitting", pen.ID)
		if err := bead(pen.ID, round, from); err != nil {
			return got, err
		}
	}
	for _, j := range in.Area.Junctions {
		if moves(j) {
			if err := bead(j.ID, j.Length, in.run(j)); err != nil {
				return got, err
			}
		}
	}
	return got, nil
}

// moves tells whether a junction opens and shuts.
func moves(j wetarea.Junction) bool {
	return j.Kind == "movement" || j.Kind == "control" || j.Kind == "crack_live"
}

// leakNeed is a piece of plugging cement for each leak that is open.
func leakNeed(in Inputs, n numbers, c system.Companion) (need, error) {
	var got need
	if len(in.Leaks) == 0 {
		return got, nil
	}
	each, err := c.Sheet.Number("per_piece")
	if err != nil {
		return got, err
	}
	for _, leak := range in.Leaks {
		found := figure.Read("plan.item.leak", 1, "count", figure.Source{Kind: "entry", Ref: leak.ID, Says: leak.Surface})
		got.parts = append(got.parts, figure.Worked("plan.item.plug", each.Value, "kg", "mass.plug", found, each).With("surface", leak.Surface))
		got.places = append(got.places, leak.Surface)
	}
	return got, nil
}
