package wetarea

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"
)

// Mirror gives the form of the same area seen in a mirror: the far wall stays, left and right
// change places, and the walls keep their order going round. The form has to be complete.
func Mirror(form string, typed map[string]string) (map[string]string, error) {
	asked, err := Ask(form, typed)
	if err != nil {
		return nil, err
	}
	if asked.Area == nil {
		return nil, fault.At("form", "copy.not_complete", "left", len(asked.Form.Faults()))
	}
	m := mirror{area: asked.Area, was: typed, values: map[string]float64{}, now: map[string]string{}, ways: map[string]ask.Mirror{}}
	for _, q := range asked.Form.Questions {
		m.ways[q.ID] = q.Mirror
	}
	for id, answer := range asked.Form.Answers() {
		m.values[id] = answer.Value
	}
	m.nameWalls(form)
	for _, id := range slices.Sorted(maps.Keys(typed)) {
		m.answer(id)
	}
	m.order(form)
	return m.now, nil
}

// mirror is a mirroring under way; letter gives each wall its new one.
type mirror struct {
	area   *Area
	was    map[string]string
	values map[string]float64 // lengths in mm
	now    map[string]string
	ways   map[string]ask.Mirror // of each question
	letter map[string]string
	walls  []string // in walking order
}

// nameWalls: the first wall stays the first, the others go round the other way. Panels of a
// run are counted from the other end.
func (m *mirror) nameWalls(form string) {
	m.letter = map[string]string{}
	for _, i := range m.area.Room.inOrder() {
		m.walls = append(m.walls, m.area.Room.Edges[i].Name)
	}
	n := len(m.walls)
	for k, wall := range m.walls {
		m.letter[wall] = m.walls[(n-k)%n]
		if form == "wall_run" {
			m.letter[wall] = m.walls[n-1-k]
		}
	}
}

func (m *mirror) long(wall string) float64 {
	i, found := m.area.Room.edgeNamed(wall)
	if !found {
		s, _ := m.area.Surface("wall." + wall)
		return s.Length
	}
	return m.area.Room.edgeLength(i)
}

func millimetres(v float64) string {
	return strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64)
}

// Ways in which an answer is carried over.
const (
	ofWall    ask.Mirror = "of_wall"   // the question goes with its wall
	anew      ask.Mirror = "anew"      // it is put in its new order with the others
	namesWall ask.Mirror = "wall"      // the answer names a wall
	namesOn   ask.Mirror = "surface"   // it names a surface
	fromLeft  ask.Mirror = "from_left" // from the left end of a wall, of something as wide as is said
	alongIt   ask.Mirror = "along"     // along a wall or a surface
	atStation ask.Mirror = "station"   // along the axis of a basin
	fromSide  ask.Mirror = "from_side" // from the wall at the side, across the first one
)

// answer carries one answer over.
func (m *mirror) answer(id string) {
	text := m.was[id]
	before := id[:strings.LastIndex(id, ".")+1]
	switch m.ways[id] {
	case ofWall:
		part := strings.SplitN(id, ".", 3)
		m.now[part[0]+"."+m.letter[part[1]]+"."+part[2]] = text
	case anew:
	case namesWall:
		m.now[id] = m.lettered(text)
	case namesOn:
		m.now[id] = m.surface(text)
	case fromLeft:
		m.now[id] = millimetres(m.long(m.was[before+"wall"]) - m.values[id] - m.values[before+"width"])
	case alongIt:
		m.now[id] = m.along(id, before)
	case atStation:
		m.now[id] = millimetres(m.long(m.axis()) - m.values[id])
	case fromSide:
		m.now[id] = millimetres(m.long(m.walls[0]) - m.values[id])
	default:
		m.now[id] = text
	}
}

func (m *mirror) lettered(wall string) string {
	if to, is := m.letter[wall]; is {
		return to
	}
	return wall
}

func (m *mirror) surface(id string) string {
	kind, wall, _ := strings.Cut(id, ".")
	if kind == "wall" || kind == "floor" && wall != "" {
		return kind + "." + m.lettered(wall)
	}
	return id
}

func (m *mirror) axis() string {
	if m.was["axis"] != "" {
		return m.was["axis"]
	}
	return m.walls[0]
}

// along is the other way round on the wall, or on the surface, that it is measured on.
func (m *mirror) along(id, before string) string {
	if wall := m.was[before+"wall"]; wall != "" {
		return millimetres(m.long(wall) - m.values[id])
	}
	item := strings.Join(strings.SplitN(id, ".", 3)[:2], ".")
	s, known := m.area.Surface(m.was[item+".surface"])
	if !known || s.Kind == "niche" || s.Kind == "reveal" || s.Kind == "box" {
		return m.was[id]
	}
	return millimetres(s.Length - m.values[id])
}

// order puts corners, points and stations into their new order.
func (m *mirror) order(form string) {
	n := len(m.walls)
	if m.was["outline"] == "walls" || form == "wall_run" {
		for k := 1; k < n; k++ {
			// The corner before new wall k lies between the old walls that became k-1 and k.
			old := m.was["walls."+m.walls[n-k]+".corner"]
			if form != "wall_run" {
				old = m.corner(n - k)
			}
			m.now["walls."+m.walls[k]+".corner"] = old
		}
	}
	if m.was["outline"] == "points" {
		points, _ := ParsePoints(m.was["points"])
		list := make([]string, len(points))
		for k := range points {
			p := points[(n-k+1)%n]
			list[k] = fmt.Sprintf("%s %s", millimetres(-p[0]), millimetres(p[1]))
		}
		m.now["points"] = strings.Join(list, "; ")
	}
	if items := strings.Fields(m.was["stations"]); len(items) > 0 {
		slices.Reverse(items)
		m.now["stations"] = strings.Join(items, " ")
	}
}

// corner is the angle inside between old wall k and the one after it, as typed where it was,
// else from the plan.
func (m *mirror) corner(k int) string {
	n := len(m.walls)
	if text := m.was["walls."+m.walls[(k+1)%n]+".corner"]; text != "" && k+1 < n {
		return text
	}
	// The corner between the last wall and the first was not typed: it is where the walk began.
	for i, e := range m.area.Room.Edges {
		if e.Name == m.walls[k] {
			return millimetres(m.area.Takeoff.VertexAngles[i])
		}
	}
	return ""
}

// CountUp gives names that follow a name, counted on from its number: "Shower room 2" gives
// "Shower room 3"; names that are taken are passed over.
func CountUp(name string, count int, taken []string) []string {
	base, number := name, 1
	if i := strings.LastIndex(name, " "); i >= 0 {
		if n, err := strconv.Atoi(name[i+1:]); err == nil && n >= 0 && n < 1e6 {
			base, number = name[:i], n
		}
	}
	var names []string
	for next := number + 1; len(names) < count; next++ {
		candidate := fmt.Sprintf("%s %d", base, next)
		if !slices.Contains(taken, candidate) {
			names = append(names, candidate)
		}
	}
	return names
}
