// Package cutting parts surfaces and runs into numbered pieces to be cut before anything wet is
// opened.
//
// A roll of width W laid with a side lap o covers an effective width W − o a strip; a width w
// takes n = max(1, ⌈(w − o)/(W − o)⌉) strips. Counts are taken in whole millimetres.
package cutting

import (
	"cmp"
	"math"

	"dusha/core/fault"
	"dusha/core/wetarea"
)

// Field is a rectangle to be covered in strips from a roll, lengths in mm.
type Field struct {
	A          float64 `json:"a_mm"` // along x
	B          float64 `json:"b_mm"` // along y
	Width      float64 `json:"roll_width_mm"`
	Lap        float64 `json:"lap_mm"` // of neighbouring strips
	Roll       float64 `json:"roll_length_mm"`
	EndLap     float64 `json:"end_lap_mm"`                  // of two pieces of a strip
	SideTurnUp float64 `json:"side_turn_up_mm" minimum:"0"` // on each long side of the field
	EndTurnUp  float64 `json:"end_turn_up_mm" minimum:"0"`  // at each end of a strip
	Layers     int     `json:"layers,omitempty"`            // 1 to 3, each shifted against the one below
}

// Strips are the strips of a field in one direction.
type Strips struct {
	Strips   int     `json:"strips"`
	Pieces   int     `json:"pieces_per_strip"`
	Laid     float64 `json:"laid_length_per_strip_mm"` // end laps included
	Area     float64 `json:"roll_area_m2"`             // of the whole roll's width
	SideLaps int     `json:"side_laps"`
	EndLaps  int     `json:"end_laps"`
}

// Layer is an upper layer, shifted so that no lap lies over a lap.
type Layer struct {
	Strips int     `json:"strips"`
	First  float64 `json:"first_strip_width_mm"` // what of the first strip lies inside
	Shift  float64 `json:"shift_mm"`
	Clear  bool    `json:"laps_clear"`
}

// Laying is how a field is covered: both directions and the one with the least of the roll.
type Laying struct {
	X        Strips   `json:"direction_x"`
	Y        Strips   `json:"direction_y"`
	Chosen   string   `json:"chosen"` // "x" or "y"
	Second   *Layer   `json:"second_layer,omitempty"`
	Third    *Layer   `json:"third_layer,omitempty"`
	Warn     *bool    `json:"warn,omitempty"`         // of several layers: laps lie over laps
	SeamTape *float64 `json:"seam_tape_mm,omitempty"` // of butt-jointed sheets
}

// check refuses a roll that covers nothing.
func (f Field) check() error {
	switch {
	case !(f.A > 0) || !(f.B > 0):
		return fault.At("a_mm", "number.not_positive", "value", min(f.A, f.B))
	case !(f.Width > 0):
		return fault.At("roll_width_mm", "number.not_positive", "value", f.Width)
	case f.Lap < 0 || f.Lap >= f.Width:
		return fault.At("lap_mm", "cutting.lap_wider_than_roll", "value", f.Lap, "width", f.Width)
	case !(f.Roll > f.EndLap) || f.EndLap < 0:
		return fault.At("roll_length_mm", "sheet.roll_within_lap", "value", f.Roll, "lap", f.EndLap)
	case f.Layers < 0 || f.Layers > 3:
		return fault.At("layers", "number.too_large", "value", f.Layers, "most", 3)
	}
	return nil
}

// Lay covers the field: the direction with the least area of roll, then the fewest laps, then x.
func (f Field) Lay() (Laying, error) {
	if err := f.check(); err != nil {
		return Laying{}, err
	}
	l := Laying{X: f.strips(f.A, f.B), Y: f.strips(f.B, f.A), Chosen: "x"}
	across, along, chosen := f.B, f.A, l.X
	if cmp.Or(cmp.Compare(l.Y.Area, l.X.Area), cmp.Compare(l.Y.SideLaps+l.Y.EndLaps, l.X.SideLaps+l.X.EndLaps)) < 0 {
		l.Chosen, across, along, chosen = "y", f.A, f.B, l.Y
	}
	effective := f.Width - f.Lap
	if f.Layers > 1 {
		clear := f.Lap <= effective/float64(f.Layers)
		warn := !clear
		l.Warn = &warn
		l.Second = f.shifted(across, effective/float64(f.Layers), clear)
		if f.Layers == 3 {
			l.Third = f.shifted(across, 2*effective/3, clear)
		}
	}
	if f.Lap == 0 && f.EndLap == 0 {
		seams := float64(chosen.SideLaps)*(along+2*f.EndTurnUp) + float64(chosen.EndLaps)*f.Width
		l.SeamTape = &seams
	}
	return l, nil
}

// strips are those that run along a length.
func (f Field) strips(along, across float64) Strips {
	l, w := along+2*f.EndTurnUp, across+2*f.SideTurnUp
	s := Strips{Strips: count(w-f.Lap, f.Width-f.Lap), Pieces: 1}
	if l > f.Roll {
		s.Pieces = count(l-f.EndLap, f.Roll-f.EndLap)
	}
	s.Laid = l + float64(s.Pieces-1)*f.EndLap
	const mm2PerM2 = 1e6
	s.Area = float64(s.Strips) * f.Width * s.Laid / mm2PerM2
	s.SideLaps, s.EndLaps = s.Strips-1, s.Strips*(s.Pieces-1)
	return s
}

// shifted is an upper layer whose strip edges lie so far before the field's.
func (f Field) shifted(across, shift float64, clear bool) *Layer {
	return &Layer{Strips: count(across+2*f.SideTurnUp-f.Lap+shift, f.Width-f.Lap), First: f.Width - shift, Shift: shift, Clear: clear}
}

// count is how many steps cover a length, at least one; both in whole hundredths of a mm.
func count(length, step float64) int {
	const grain = 100
	return max(1, int(math.Ceil(math.Round(length*grain)/math.Round(step*grain))))
}

// Floor is any outline to be covered in strips of one direction, without turn-ups.
type Floor struct {
	Vertices  []wetarea.Point `json:"vertices_mm"`
	Direction string          `json:"direction"` // strips run along "x" or "y"
	Width     float64         `json:"roll_width_mm"`
	Lap       float64         `json:"lap_mm"`
}

// Covered are the strips of a floor, from its lowest edge across.
type Covered struct {
	Strips  int       `json:"strips"`
	Lengths []float64 `json:"lengths_mm"`
	Area    float64   `json:"roll_area_m2"`
}

// Cover cuts each strip to the extent of the outline under it.
func (f Floor) Cover() (Covered, error) {
	if err := wetarea.CheckOutline(f.Vertices); err != nil {
		return Covered{}, err
	}
	along := map[string]int{"x": 0, "y": 1}
	axis, known := along[f.Direction]
	switch {
	case !known:
		return Covered{}, fault.At("direction", "choice.unknown", "typed", f.Direction)
	case !(f.Width > 0):
		return Covered{}, fault.At("roll_width_mm", "number.not_positive", "value", f.Width)
	case f.Lap < 0 || f.Lap >= f.Width:
		return Covered{}, fault.At("lap_mm", "cutting.lap_wider_than_roll", "value", f.Lap, "width", f.Width)
	}
	low, high := wetarea.Extent(f.Vertices)
	across := 1 - axis
	c := Covered{Strips: count(high[across]-low[across]-f.Lap, f.Width-f.Lap), Lengths: []float64{}}
	if c.Strips > mostStrips {
		return Covered{}, fault.At("roll_width_mm", "cutting.too_many_strips", "surface", "floor", "value", c.Strips, "most", mostStrips)
	}
	for i := range c.Strips {
		from, to := low, high
		from[across] = low[across] + float64(i)*(f.Width-f.Lap)
		to[across] = from[across] + f.Width
		length := 0.0
		if under := wetarea.Clip(f.Vertices, from, to); len(under) > 0 {
			least, most := wetarea.Extent(under)
			length = most[axis] - least[axis]
		}
		c.Lengths = append(c.Lengths, length)
		const mm2PerM2 = 1e6
		c.Area += f.Width * length / mm2PerM2
	}
	return c, nil
}
