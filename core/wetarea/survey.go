package wetarea

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/units"
)

// Survey is what was measured on site: a form and the answer to each of its questions,
// as typed and in mm. It is the body of a survey entry.
type Survey struct {
	Form    string                   `json:"form"` // "rectangle"
	Answers map[string]units.Measure `json:"answers"`
	From    []string                 `json:"from,omitempty"` // surveys it was made from or chosen over
}

// Typed gives back what was typed, to read or change the survey again.
func (s Survey) Typed() map[string]string {
	typed := make(map[string]string, len(s.Answers))
	for id, answer := range s.Answers {
		typed[id] = answer.Typed
	}
	return typed
}

// Area is a surveyed wet area: every surface, junction, corner and penetration by an id
// that stays the same when a size changes.
type Area struct {
	Room         Room          `json:"room"`
	Takeoff      Takeoff       `json:"takeoff"`
	Surfaces     []Surface     `json:"surfaces"`
	Junctions    []Junction    `json:"junctions"`
	Corners      []Corner      `json:"corners"`
	Penetrations []Penetration `json:"penetrations"`
	WaterStop    float64       `json:"water_stop_mm"`
}

// Surface is one face to be coated, outlined in its own (along, up) coordinates.
type Surface struct {
	ID       string    `json:"id"`   // "floor", "wall.a"
	Kind     string    `json:"kind"` // "floor" or "wall"
	Edge     int       `json:"edge"` // edge of the room; -1 for the floor
	Outlines [][]Point `json:"outlines_mm"`
	Area     float64   `json:"area_m2"`
	Length   float64   `json:"length_mm"` // greatest extent along
	Height   float64   `json:"height_mm"` // greatest extent up
}

// Junction is a line where surfaces meet.
type Junction struct {
	ID     string  `json:"id"`   // "floor_wall.a.1", "wall_wall.a.b", "threshold.c"
	Kind   string  `json:"kind"` // "floor_wall", "wall_wall" or "threshold"
	Turn   string  `json:"turn"` // "internal" or "external"
	Length float64 `json:"length_mm"`
	Lines  []Line  `json:"lines"` // where it lies on each surface
}

// Line is a stretch on a surface.
type Line struct {
	Surface string `json:"surface"`
	From    Point  `json:"from_mm"`
	To      Point  `json:"to_mm"`
}

// Length of the stretch, mm.
func (l Line) Length() float64 { return l.To.minus(l.From).length() }

// Corner is a point at floor level where two walls and the floor meet.
type Corner struct {
	ID        string  `json:"id"` // "corner.a.b"
	At        Point   `json:"at_mm"`
	Angle     float64 `json:"angle_deg"`
	Turn      string  `json:"turn"`
	Preformed bool    `json:"preformed"` // 90° or 270°: a bought corner fits
}

// Penetration is something that passes through the film.
type Penetration struct {
	ID       string  `json:"id"`   // "drain.1", "pipe.2"
	Kind     string  `json:"kind"` // "point_drain" or "pipe"
	Surface  string  `json:"surface"`
	At       Point   `json:"at_mm"`
	Diameter float64 `json:"diameter_mm"`
}

// Surface finds a surface by id.
func (a Area) Surface(id string) (Surface, bool) {
	i := slices.IndexFunc(a.Surfaces, func(s Surface) bool { return s.ID == id })
	if i < 0 {
		return Surface{}, false
	}
	return a.Surfaces[i], true
}

// Limits of what is still a room, mm.
const (
	leastSide, mostSide     = 300, 30000
	leastHeight, mostHeight = 20, 6000
	leastDoor, mostDoor     = 300, 5000
	leastStop, mostStop     = 5, 300
	leastBore, mostBore     = 5, 600
	mostPipes               = 20
	rectangleForm           = "rectangle"
)

// wallLetters go round clockwise as seen from above, the far wall first.
var wallLetters = []string{"a", "b", "c", "d"}

// edgeOfLetter: edges run counter-clockwise from the near wall: c, b, a, d.
var edgeOfLetter = map[string]int{"c": 0, "b": 1, "a": 2, "d": 3}

// letterOfEdge is the other way round.
var letterOfEdge = []string{"c", "b", "a", "d"}

// sketchHeight stands for a wall whose height is not known yet, in a sketch only.
const sketchHeight = 300

// Asked is a survey form as far as it has been typed.
type Asked struct {
	Form   *ask.Form
	Area   *Area // once all answers are there and fit together
	Sketch *Area // what can be drawn so far; nil before length and width are known
}

// Ask reads a survey form: every question in walking order, with what was typed. The
// shower room has length × width, a membrane height on each wall, a doorway with a water
// stop, a point drain and pipes. Its faults name the field and the wall.
func Ask(form string, typed map[string]string) (Asked, error) {
	if form != rectangleForm {
		return Asked{}, fault.At("form", "survey.unknown_form", "typed", form)
	}
	f := &ask.Form{Typed: typed}
	length, okLength := f.Length("length", leastSide, mostSide)
	width, okWidth := f.Length("width", leastSide, mostSide)
	room := Room{Vertices: []Point{{0, 0}, {length, 0}, {length, width}, {0, width}}, Edges: make([]Edge, 4)}
	for _, wall := range wallLetters {
		height, ok := f.Length("walls."+wall+".height", leastHeight, mostHeight, "wall", wall)
		if !ok {
			height = sketchHeight
		}
		room.Edges[edgeOfLetter[wall]] = Edge{Kind: "wall", Height: height}
	}
	sized := okLength && okWidth
	stop := askDoorway(f, &room, sized)
	penetrations := []Penetration{askDrain(f, length, width, sized)}
	count, _ := f.Count("pipes.count", 0, mostPipes)
	for i := 1; i <= count; i++ {
		penetrations = append(penetrations, askPipe(f, i, room, sized))
	}
	asked := Asked{Form: f}
	if !sized {
		return asked, nil
	}
	area, err := derive(room)
	if err != nil {
		return asked, err
	}
	area.WaterStop = stop
	area.Penetrations = slices.DeleteFunc(penetrations, func(p Penetration) bool {
		s, known := area.Surface(p.Surface)
		return !f.Fine(p.fields()) || !known || !s.Contains(p.At)
	})
	asked.Sketch = &area
	if len(f.Faults()) == 0 {
		asked.Area = &area
	}
	return asked, nil
}

// fields is the prefix of the questions a penetration came from.
func (p Penetration) fields() string {
	if p.Kind == "point_drain" {
		return "drain."
	}
	return "pipes." + strings.TrimPrefix(p.ID, "pipe.") + "."
}

// Read gives the area of a survey that was kept.
func (s Survey) Read() (*Area, error) {
	asked, err := Ask(s.Form, s.Typed())
	if err != nil {
		return nil, err
	}
	if faults := asked.Form.Faults(); len(faults) > 0 {
		return nil, faults
	}
	for _, id := range slices.Sorted(maps.Keys(s.Answers)) {
		if read, ok := asked.Form.Answers()[id]; ok && read.Value != s.Answers[id].Value {
			return nil, fault.At("answers."+id, "survey.typed_and_value_differ", "typed", read.Typed, "value", s.Answers[id].Value)
		}
	}
	return asked.Area, nil
}

func askDoorway(f *ask.Form, room *Room, sized bool) (waterStop float64) {
	wall, okWall := f.Choice("doorway.wall", wallLetters)
	args := []any{"wall", wall}
	from, okFrom := f.Length("doorway.from_left", 0, mostSide, args...)
	width, okWidth := f.Length("doorway.width", leastDoor, mostDoor, args...)
	height, _ := f.Length("doorway.height", leastDoor, mostHeight, args...)
	stop, _ := f.Length("doorway.water_stop", leastStop, mostStop)
	if !okWall || !okWidth || !sized {
		return stop
	}
	edge := edgeOfLetter[wall]
	long := room.edgeLength(edge)
	switch {
	case width > long:
		f.Reject(fault.At("doorway.width", "doorway.wider_than_wall", "wall", wall, "value", width, "most", long))
	case okFrom && from+width > long:
		f.Reject(fault.At("doorway.from_left", "doorway.past_wall_end", "wall", wall, "value", from, "most", long-width))
	}
	if !f.Fine("doorway.") {
		return stop
	}
	// The opening runs along the edge, which goes from right to left as one faces the wall.
	room.Openings = []Opening{{Edge: edge, From: long - from - width, Width: width, Height: height}}
	return stop
}

func askDrain(f *ask.Form, length, width float64, sized bool) Penetration {
	fromD, okD := f.Length("drain.from_d", 0, mostSide)
	fromA, okA := f.Length("drain.from_a", 0, mostSide)
	bore, okBore := f.Length("drain.diameter", leastBore, mostBore)
	if sized && okBore {
		if okD {
			rejectOutside(f, "drain.from_d", "drain.off_floor", "floor", fromD, bore/2, length)
		}
		if okA {
			rejectOutside(f, "drain.from_a", "drain.off_floor", "floor", fromA, bore/2, width)
		}
	}
	return Penetration{ID: "drain.1", Kind: "point_drain", Surface: "floor", At: Point{fromD, width - fromA}, Diameter: bore}
}

func askPipe(f *ask.Form, i int, room Room, sized bool) Penetration {
	field := func(name string) string { return fmt.Sprintf("pipes.%d.%s", i, name) }
	options := []string{"wall.a", "wall.b", "wall.c", "wall.d", "floor"}
	on, okOn := f.Choice(field("surface"), options, "pipe", i)
	args := []any{"pipe", i, "surface", on}
	along, okAlong := f.Length(field("along"), 0, mostSide, args...)
	up, okUp := f.Length(field("up"), 0, mostSide, args...)
	bore, okBore := f.Length(field("diameter"), leastBore, mostBore, args...)
	pipe := Penetration{ID: fmt.Sprintf("pipe.%d", i), Kind: "pipe", Surface: on, At: Point{along, up}, Diameter: bore}
	if !sized || !okOn || !okBore {
		return pipe
	}
	long, high := room.Vertices[2][0], room.Vertices[2][1]
	if on != "floor" {
		wall := strings.TrimPrefix(on, "wall.")
		edge := edgeOfLetter[wall]
		okUp = okUp && f.Fine("walls."+wall+".height")
		long, high = room.edgeLength(edge), room.Edges[edge].Height
		if okAlong && okUp {
			rejectInDoorway(f, field("along"), on, room, edge, along, up, bore/2)
		}
	} else {
		pipe.At[1] = high - up // asked from wall A
	}
	if okAlong {
		rejectOutside(f, field("along"), "pipe.off_surface", on, along, bore/2, long)
	}
	if okUp {
		rejectOutside(f, field("up"), "pipe.off_surface", on, up, bore/2, high)
	}
	return pipe
}

func rejectOutside(f *ask.Form, field, key, surface string, value, radius, size float64) {
	if value < radius || value > size-radius {
		f.Reject(fault.At(field, key, "surface", surface, "value", value, "least", radius, "most", size-radius))
	}
}

func rejectInDoorway(f *ask.Form, field, surface string, room Room, edge int, along, up, radius float64) {
	for _, o := range room.Openings {
		left := room.edgeLength(edge) - o.From - o.Width
		if o.Edge == edge && along+radius > left && along-radius < left+o.Width && up-radius < o.Height {
			f.Reject(fault.At(field, "pipe.in_doorway", "surface", surface, "value", along, "from", left, "to", left+o.Width))
		}
	}
}

// Origin names the answers that a surface, junction, corner or penetration came from.
func (s Survey) Origin(id string) []string {
	part := strings.Split(id, ".")
	side := func(wall string) string {
		if wall == "a" || wall == "c" {
			return "length"
		}
		return "width"
	}
	doorway := func(wall string, names ...string) []string {
		if s.Answers["doorway.wall"].Typed != wall {
			return nil
		}
		return names
	}
	switch part[0] {
	case "floor":
		return []string{"length", "width"}
	case "wall":
		return append([]string{side(part[1]), "walls." + part[1] + ".height"}, doorway(part[1], "doorway.width", "doorway.height")...)
	case "floor_wall":
		return append([]string{side(part[1])}, doorway(part[1], "doorway.from_left", "doorway.width")...)
	case "threshold":
		return []string{"doorway.width"}
	case "wall_wall":
		return []string{"walls." + part[1] + ".height", "walls." + part[2] + ".height"}
	case "corner":
		return []string{side(part[1]), side(part[2])}
	case "drain":
		return []string{"drain.from_d", "drain.from_a", "drain.diameter"}
	case "pipe":
		prefix := "pipes." + part[1] + "."
		return []string{prefix + "along", prefix + "up", prefix + "diameter"}
	}
	return nil
}

// Contains tells whether a place lies on the surface, its edges included.
func (s Surface) Contains(p Point) bool {
	for _, outline := range s.Outlines {
		if inside(outline, p) {
			return true
		}
	}
	return false
}

// Middle is a place on the surface near the middle of its box, to the whole mm: where the
// middle itself is a doorway or beside an angled edge, the nearest place of a fine grid.
func (s Surface) Middle() (at Point, found bool) {
	const cells = 24
	low, high := s.Outlines[0][0], s.Outlines[0][0]
	for _, outline := range s.Outlines {
		for _, p := range outline {
			for k := range p {
				low[k], high[k] = min(low[k], p[k]), max(high[k], p[k])
			}
		}
	}
	middle, nearest := Point{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}, math.Inf(1)
	for i := 1; i < cells; i++ {
		for j := 1; j < cells; j++ {
			p := Point{math.Round(low[0] + (high[0]-low[0])*float64(i)/cells), math.Round(low[1] + (high[1]-low[1])*float64(j)/cells)}
			if away := math.Hypot(p[0]-middle[0], p[1]-middle[1]); away < nearest && s.Contains(p) {
				at, nearest, found = p, away, true
			}
		}
	}
	return at, found
}
