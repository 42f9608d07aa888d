package wetarea

import (
	"math"
	"strconv"
	"strings"

	"dusha/core/fault"
)

// setRectangle sets a rectangular plan: wall A far, then clockwise as seen from above. Edges
// run counter-clockwise from the near wall: c, b, a, d.
func (s *site) setRectangle(length, width float64) {
	s.names = []string{"a", "b", "c", "d"}
	s.room.Vertices = []Point{{0, 0}, {length, 0}, {length, width}, {0, width}}
	s.room.Edges = []Edge{{Name: "c"}, {Name: "b"}, {Name: "a"}, {Name: "d"}}
}

// setRound sets a plan from the beginnings of its walls in clockwise order as seen from above.
func (s *site) setRound(points []Point) {
	n := len(points)
	low, _ := extent(points)
	s.names, s.room.Vertices, s.room.Edges = nil, make([]Point, n), make([]Edge, n)
	for k := range n {
		// Counter-clockwise edge i is wall n-1-i walked backwards.
		s.names = append(s.names, WallName(k))
		s.room.Vertices[k] = points[(n-k)%n].minus(low)
		s.room.Edges[k] = Edge{Name: WallName(n - 1 - k)}
	}
}

// Ways to enter an outline.
var outlineWays = []string{"walls", "rectangle", "points"}

// outline asks the plan: wall after wall round the room, length × width, or corner points
// that were read from a file.
func (s *site) outline() error {
	f := s.f
	how, ok := f.Choice("outline", outlineWays)
	if !ok {
		return nil
	}
	switch how {
	case "rectangle":
		s.lengthByWidth()
		return nil
	case "points":
		return s.points()
	}
	return s.wallAfterWall()
}

// lengthByWidth asks a rectangular plan.
func (s *site) lengthByWidth() (length, width float64) {
	length, okLength := s.f.Length("length", leastSide, mostSide, along("a", "c"))
	width, okWidth := s.f.Length("width", leastSide, mostSide, along("b", "d"))
	s.sized = okLength && okWidth
	s.setRectangle(length, width)
	return length, width
}

func (s *site) points() error {
	text, ok := s.f.Text("points", 20000, plan)
	if !ok {
		return nil
	}
	points, err := ParsePoints(text)
	if err != nil {
		return err
	}
	if err := CheckOutline(points); err != nil {
		return inLetters(err, "points")
	}
	s.turn = SignedArea(points) < 0
	s.setRound(points)
	if !s.turn {
		s.setCounter(points)
	}
	s.sized = true
	return nil
}

// setCounter sets a plan from the beginnings of its walls in counter-clockwise order.
func (s *site) setCounter(points []Point) {
	low, _ := extent(points)
	for k := range points {
		s.room.Vertices[k] = points[k].minus(low)
		s.room.Edges[k] = Edge{Name: WallName(k)}
	}
}

// mostCorners is how many corners an outline may have.
const mostCorners = mostWalls

// ParsePoints reads corner points "x y; x y; …", mm.
func ParsePoints(text string) ([]Point, error) {
	var points []Point
	for i, pair := range strings.Split(strings.Trim(strings.TrimSpace(text), ";"), ";") {
		both := strings.Fields(pair)
		if len(both) != 2 {
			return nil, fault.At("points", "outline.point_unreadable", "corner", i+1, "typed", fault.Short(pair))
		}
		var p Point
		for k := range p {
			value, err := strconv.ParseFloat(both[k], 64)
			if err != nil || math.IsNaN(value) || math.Abs(value) > 1e7 {
				return nil, fault.At("points", "outline.point_unreadable", "corner", i+1, "typed", fault.Short(pair))
			}
			p[k] = value
		}
		points = append(points, p)
		if len(points) > mostCorners {
			return nil, fault.At("points", "outline.too_many_corners", "most", mostCorners)
		}
	}
	return points, nil
}

// wallAfterWall asks each wall's length and the corner before it, in one direction.
func (s *site) wallAfterWall() error {
	f := s.f
	count, ok := f.Count("walls.count", 3, mostWalls)
	if !ok {
		return nil
	}
	lengths, corners, known := s.chain(count)
	if known == 0 {
		return nil
	}
	run := newRun(lengths[:known], corners)
	run.Closed = run.Closed && known == count
	s.run = &run
	if known < count {
		return nil
	}
	points := run.Points[:count]
	if !run.Closed {
		how, ok := f.Choice("closing", []string{ShareLengths, ShareCorners}, "gap", run.Gap, "right", run.Right, "up", run.Up)
		shared, err := run.Share(lengths, corners, how)
		if err != nil {
			return err
		}
		if points = shared; !ok {
			how = ShareLengths
		}
	}
	if err := CheckOutline(points); err != nil {
		return s.named(err)
	}
	if SignedArea(points) > 0 {
		return fault.At("walls.count", "outline.walked_the_wrong_way")
	}
	s.setRound(points)
	s.sized = true
	return nil
}

// chain asks lengths and corners of a run of walls; known is how many walls in a row are.
func (s *site) chain(count int) (lengths, corners []float64, known int) {
	whole := true
	for k := range count {
		wall := WallName(k)
		if k > 0 {
			angle, ok := s.f.Angle("walls."+wall+".corner", anew, turning(wall), "wall", WallName(k-1), "next", wall)
			whole = whole && ok
			corners = append(corners, angle)
		}
		length, ok := s.f.Length("walls."+wall+".length", leastWall, mostSide, ofWall, along(wall), "wall", wall)
		whole = whole && ok
		lengths = append(lengths, length)
		if whole {
			known = k + 1
		}
	}
	return lengths, corners[:max(known-1, 0)], known
}

// named hangs a fault of a walked outline on the last of its walls.
func (s *site) named(err error) error {
	field := "walls.count"
	if edges, _ := fault.Of(err)[0].Args["edges"].([]int); len(edges) > 0 {
		field = "walls." + WallName(edges[len(edges)-1]) + ".length"
	}
	return inLetters(err, field)
}

// inLetters names the walls in a fault of an outline by their letters.
func inLetters(err error, field string) error {
	each := fault.Of(err)[0]
	edges, _ := each.Args["edges"].([]int)
	var walls []string
	for _, i := range edges {
		walls = append(walls, strings.ToUpper(WallName(i)))
	}
	if len(walls) == 0 {
		return &fault.Fault{Field: field, Key: each.Key, Args: each.Args}
	}
	return fault.At(field, each.Key+".walls", "walls", strings.Join(walls, ", "))
}
