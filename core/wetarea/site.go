package wetarea

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"
)

// site is a survey form under way.
type site struct {
	f     *ask.Form
	shape string
	room  Room
	sized bool // the plan is known
	run   *Run
	names []string // of the walls in walking order
	turn  bool     // the outline came in clockwise
}

// rectangle asks the simplest room: length × width, a height on each wall, a doorway with a
// water stop, a drain and pipes; what else there is follows.
func (s *site) rectangle() (*Area, error) {
	f := s.f
	length, okLength := f.Length("length", leastSide, mostSide)
	width, okWidth := f.Length("width", leastSide, mostSide)
	s.sized = okLength && okWidth
	s.setRectangle(length, width)
	for _, wall := range s.names {
		height, ok := f.Length("walls."+wall+".height", leastHeight, mostHeight, "wall", wall)
		if !ok {
			height = sketchHeight
		}
		i, _ := s.room.edgeNamed(wall)
		s.room.Edges[i] = Edge{Name: wall, Kind: "wall", Height: height}
	}
	s.doorway()
	penetrations := []Penetration{s.onlyDrain(length, width)}
	count, _ := f.Count("pipes.count", 0, mostPipes)
	for i := 1; i <= count; i++ {
		penetrations = append(penetrations, s.pipe(i))
	}
	if !s.sized {
		return nil, nil
	}
	s.parts()
	area, err := deriveRoom(s.room)
	if err != nil {
		return nil, err
	}
	area.Shape = "rectangle"
	area.Penetrations = slices.DeleteFunc(penetrations, func(p Penetration) bool {
		on, known := area.Surface(p.Surface)
		return !f.Fine(p.fields()) || !known || !on.Contains(p.At)
	})
	return &area, nil
}

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

// fields is the prefix of the questions a penetration came from.
func (p Penetration) fields() string {
	switch {
	case p.Kind == "point_drain":
		return "drain."
	default:
		return "pipes." + strings.TrimPrefix(p.ID, "pipe.") + "."
	}
}

// doorway asks the one doorway of a rectangular room.
func (s *site) doorway() {
	f := s.f
	wall, okWall := f.Choice("doorway.wall", s.names)
	args := []any{"wall", wall}
	from, okFrom := f.Length("doorway.from_left", 0, mostSide, args...)
	width, okWidth := f.Length("doorway.width", leastDoor, mostDoor, args...)
	height, _ := f.Length("doorway.height", leastDoor, mostHeight, args...)
	stop, _ := f.Length("doorway.water_stop", leastStop, mostStop)
	if !okWall || !okWidth || !s.sized {
		return
	}
	edge, _ := s.room.edgeNamed(wall)
	long := s.room.edgeLength(edge)
	switch {
	case width > long:
		f.Reject(fault.At("doorway.width", "doorway.wider_than_wall", "wall", wall, "value", width, "most", long))
	case okFrom && from+width > long:
		f.Reject(fault.At("doorway.from_left", "doorway.past_wall_end", "wall", wall, "value", from, "most", long-width))
	}
	if f.Fine("doorway.") {
		// The opening runs along the edge, which goes from right to left as one faces the wall.
		s.room.Openings = []Opening{{Edge: edge, From: long - from - width, Width: width, Height: height, Stop: stop}}
	}
}

func (s *site) onlyDrain(length, width float64) Penetration {
	f := s.f
	fromD, okD := f.Length("drain.from_d", 0, mostSide)
	fromA, okA := f.Length("drain.from_a", 0, mostSide)
	bore, okBore := f.Length("drain.diameter", leastBore, mostBore)
	if s.sized && okBore {
		if okD {
			rejectOutside(f, "drain.from_d", "drain.off_floor", "floor", fromD, bore/2, length)
		}
		if okA {
			rejectOutside(f, "drain.from_a", "drain.off_floor", "floor", fromA, bore/2, width)
		}
	}
	return Penetration{ID: "drain.1", Kind: "point_drain", Surface: "floor", At: Point{fromD, width - fromA}, Diameter: bore}
}

func (s *site) pipe(i int) Penetration {
	f, room := s.f, s.room
	field := func(name string) string { return fmt.Sprintf("pipes.%d.%s", i, name) }
	options := []string{"wall.a", "wall.b", "wall.c", "wall.d", "floor"}
	on, okOn := f.Choice(field("surface"), options, "pipe", i)
	args := []any{"pipe", i, "surface", on}
	along, okAlong := f.Length(field("along"), 0, mostSide, args...)
	up, okUp := f.Length(field("up"), 0, mostSide, args...)
	bore, okBore := f.Length(field("diameter"), leastBore, mostBore, args...)
	pipe := Penetration{ID: fmt.Sprintf("pipe.%d", i), Kind: "pipe", Surface: on, At: Point{along, up}, Diameter: bore}
	if !s.sized || !okOn || !okBore {
		return pipe
	}
	long, high := room.Vertices[2][0], room.Vertices[2][1]
	if on != "floor" {
		wall := strings.TrimPrefix(on, "wall.")
		edge, _ := room.edgeNamed(wall)
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
		left := room.leftOf(edge, o.From, o.Width)
		if o.Edge == edge && along+radius > left && along-radius < left+o.Width && up-radius < o.Height {
			f.Reject(fault.At(field, "pipe.in_doorway", "surface", surface, "value", along, "from", left, "to", left+o.Width))
		}
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
		length, okLength := f.Length("length", leastSide, mostSide)
		width, okWidth := f.Length("width", leastSide, mostSide)
		s.sized = okLength && okWidth
		s.setRectangle(length, width)
		return nil
	case "points":
		return s.points()
	}
	return s.wallAfterWall()
}

func (s *site) points() error {
	text, ok := s.f.Text("points", 20000)
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
			angle, ok := s.f.Angle("walls."+wall+".corner", "wall", WallName(k-1), "next", wall)
			whole = whole && ok
			corners = append(corners, angle)
		}
		length, ok := s.f.Length("walls."+wall+".length", leastWall, mostSide, "wall", wall)
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

// Kinds of what stands on an edge of a room or deck.
var edgeKinds = []string{"wall", "threshold", "trim", "open"}

// plan asks a room, a deck or a sunken floor.
func (s *site) plan() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	var fill Fill
	height := s.heights(&fill)
	for _, wall := range s.names {
		i, _ := s.room.edgeNamed(wall)
		e := &s.room.Edges[i]
		args := []any{"wall", wall}
		field := "walls." + wall + "."
		kind := "wall"
		if s.shape == "deck" {
			kind, _ = s.f.Choice(field+"kind", edgeKinds, args...)
		} else if s.shape == "room" {
			kind = s.f.ChoiceOr(field+"kind", edgeKinds, "wall", args...)
		}
		switch kind {
		case "wall", "":
			e.Kind = "wall"
			e.Height = s.f.LengthOr(field+"height", leastHeight, mostHeight, height, args...)
		case "threshold":
			e.Kind = kind
			e.WaterStop = s.f.LengthOr(field+"water_stop", 0, mostStop, 0, args...)
		case "trim":
			e.Kind, e.Trim = "open", true
		case "open":
			e.Kind = "open"
		}
	}
	s.parts()
	if s.shape == "room" {
		s.room.Soffit = s.f.ChoiceOr("soffit", yesNo, "no") == "yes"
	}
	area, err := deriveRoom(s.room)
	if err != nil {
		return nil, err
	}
	area.Shape, area.Takeoff.TurnedRound = s.shape, s.turn
	if s.shape == "sunken" {
		fill.Volume = area.Takeoff.PlanArea * fill.Depth // 1 m² × 1 mm = 1 L
		fill.Weight *= fill.Volume / 1000
		area.Fill = &fill
	}
	return &area, nil
}

var yesNo = []string{"no", "yes"}

// heights asks how high the film stands where nothing else is said.
func (s *site) heights(fill *Fill) float64 {
	f := s.f
	if s.shape != "sunken" {
		height, ok := f.Length("height", leastHeight, mostHeight)
		if !ok {
			return sketchHeight
		}
		return height
	}
	depth, okDepth := f.Length("tray_depth", leastHeight, mostHeight)
	fill.Depth = f.LengthOr("fill_depth", 0, mostHeight, depth)
	fill.Weight = f.NumberOr("fill_density", "kg/m3", 100, 4000, 1600)
	upstand, okUpstand := f.Length("upstand", leastHeight, mostHeight)
	if !okDepth || !okUpstand {
		return sketchHeight
	}
	if fill.Depth > depth {
		f.Reject(fault.At("fill_depth", "sunken.fill_over_tray", "value", fill.Depth, "most", depth))
	}
	return depth + upstand
}

// parts asks what walls and floor carry: higher parts, openings, niches and boxes.
func (s *site) parts() {
	s.zones()
	s.openings()
	s.niches()
	s.boxes()
}

// onWall asks a wall and a stretch along it; ok is false until both are known and fit.
func (s *site) onWall(field string, least float64, args ...any) (edge int, left, width float64, ok bool) {
	f := s.f
	wall, okWall := f.Choice(field+".wall", s.names, args...)
	args = append(args, "wall", wall)
	left, okLeft := f.Length(field+".from_left", 0, mostSide, args...)
	width, okWidth := f.Length(field+".width", least, mostSide, args...)
	if !okWall {
		return 0, left, width, false
	}
	edge, _ = s.room.edgeNamed(wall)
	long := s.room.edgeLength(edge)
	switch {
	case okWidth && width > long:
		f.Reject(fault.At(field+".width", "part.wider_than_wall", "wall", wall, "value", width, "most", long))
		okWidth = false
	case okLeft && okWidth && left+width > long+1e-6:
		f.Reject(fault.At(field+".from_left", "part.past_wall_end", "wall", wall, "value", left, "most", long-width))
		okLeft = false
	}
	return edge, left, width, okLeft && okWidth
}

// zones are stretches of a wall with a film height of their own, as round a shower.
func (s *site) zones() {
	at := map[int][]Part{}
	for _, id := range s.f.List("zones", mostItems) {
		field := "zones." + id
		edge, left, width, ok := s.onWall(field, leastWall, "zone", id)
		height, okHeight := s.f.Length(field+".height", leastHeight, mostHeight, "zone", id)
		if !ok || !okHeight || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		for _, other := range at[edge] {
			if from < other.To && other.From < from+width {
				s.f.Reject(fault.At(field+".from_left", "zone.overlaps", "wall", s.room.Edges[edge].Name, "value", left))
				ok = false
			}
		}
		if ok {
			at[edge] = append(at[edge], Part{From: from, To: from + width, Height: height})
		}
	}
	for edge, zones := range at {
		s.room.Edges[edge].Parts = s.room.partsWith(edge, zones)
	}
}

// partsWith fills a wall's own height in between its zones.
func (r Room) partsWith(i int, zones []Part) []Part {
	slices.SortFunc(zones, func(a, b Part) int { return cmp.Compare(a.From, b.From) })
	var parts []Part
	at, long := 0.0, r.edgeLength(i)
	for _, z := range zones {
		if z.From > at+1e-6 {
			parts = append(parts, Part{at, z.From, r.Edges[i].Height})
		}
		parts, at = append(parts, z), z.To
	}
	if at < long-1e-6 {
		parts = append(parts, Part{at, long, r.Edges[i].Height})
	}
	return parts
}

func (s *site) openings() {
	for _, id := range s.f.List("openings", mostItems) {
		field := "openings." + id
		edge, left, width, ok := s.onWall(field, leastWall, "opening", id)
		wall := ""
		if ok {
			wall = s.room.Edges[edge].Name
		}
		args := []any{"opening", id, "wall", wall}
		sill := s.f.LengthOr(field+".sill", 0, mostHeight, 0, args...)
		height, okHeight := s.f.Length(field+".height", leastWall, mostHeight, args...)
		reveal := s.f.LengthOr(field+".reveal", 0, 1000, 0, args...)
		stop := 0.0
		if sill == 0 {
			stop = s.f.LengthOr(field+".water_stop", 0, mostStop, 0, args...)
		}
		if !ok || !okHeight || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		for _, other := range s.room.Openings {
			if other.Edge == edge && from < other.From+other.Width && other.From < from+width && sill < other.Sill+other.Height && other.Sill < sill+height {
				s.f.Reject(fault.At(field+".from_left", "opening.overlaps", "wall", wall, "value", left))
				ok = false
			}
		}
		if ok {
			s.room.Openings = append(s.room.Openings, Opening{ID: id, Edge: edge, From: from, Sill: sill, Width: width, Height: height, Reveal: reveal, Stop: stop})
		}
	}
}

func (s *site) niches() {
	for _, id := range s.f.List("niches", mostItems) {
		field := "niches." + id
		edge, left, width, ok := s.onWall(field, leastWall, "niche", id)
		sill, okSill := s.f.Length(field+".sill", 0, mostHeight, "niche", id)
		height, okHeight := s.f.Length(field+".height", leastWall, mostHeight, "niche", id)
		depth, okDepth := s.f.Length(field+".depth", 10, 1000, "niche", id)
		if !ok || !okSill || !okHeight || !okDepth || s.room.Edges[edge].Kind != "wall" {
			continue
		}
		from := s.room.leftOf(edge, left, width)
		least := math.Inf(1)
		for _, part := range s.room.parts(edge) {
			if part.From < from+width && from < part.To {
				least = min(least, part.Height)
			}
		}
		if sill+height > least {
			s.f.Reject(fault.At(field+".height", "niche.over_the_film", "wall", s.room.Edges[edge].Name, "value", sill+height, "most", least))
			continue
		}
		s.room.Niches = append(s.room.Niches, Niche{ID: id, Edge: edge, From: from, Sill: sill, Width: width, Height: height, Depth: depth})
	}
}

// boxKinds are what can stand on a floor.
var boxKinds = []string{"bench", "step", "hob"}

// boxes asks benches, steps and hobs: along a wall from its left end, and how far out.
func (s *site) boxes() {
	for _, id := range s.f.List("boxes", mostItems) {
		field := "boxes." + id
		kind := s.f.ChoiceOr(field+".kind", boxKinds, "bench", "box", id)
		edge, left, width, ok := s.onWall(field, leastWall, "box", id, "kind", kind)
		args := []any{"box", id, "kind", kind}
		out := s.f.LengthOr(field+".out", 0, mostSide, 0, args...)
		depth, okDepth := s.f.Length(field+".depth", leastWall, mostSide, args...)
		height, okHeight := s.f.Length(field+".height", leastHeight, mostHeight, args...)
		if !ok || !okDepth || !okHeight {
			continue
		}
		area := Area{Room: s.room}
		f := area.hang(edge)
		if math.Abs(f.Right[0]*f.Right[1]) > 1e-9 {
			s.f.Reject(fault.At(field+".wall", "box.at_an_angle", "wall", s.room.Edges[edge].Name))
			continue
		}
		a, b := f.Place(Point{left, -out}), f.Place(Point{left + width, -out - depth})
		box := Box{ID: id, Kind: kind, CornerA: tidy(a), CornerB: tidy(b), Height: height}
		if !s.holds(box) {
			s.f.Reject(fault.At(field+".depth", "box.outside", "wall", s.room.Edges[edge].Name, "value", out+depth))
			continue
		}
		if wall, stands := s.inDoorway(box); stands {
			s.f.Reject(fault.At(field+".from_left", "box.in_doorway", "wall", wall, "value", left))
			continue
		}
		s.room.Boxes = append(s.room.Boxes, box)
	}
}

// tidy takes rounding noise off a plan point, mm.
func tidy(p Point) Point {
	const grain = 1e6
	return Point{math.Round(p[0]*grain) / grain, math.Round(p[1]*grain) / grain}
}

// holds tells whether a box lies within the plan and on no other box.
func (s *site) holds(box Box) bool {
	corners := box.corners()
	inner := &ways{outline: s.room.Vertices}
	for k := range corners {
		p, q := edgeEnds(corners, k)
		if !inner.sees(p, q) {
			return false
		}
	}
	for _, other := range s.room.Boxes {
		if overlap(corners, other.corners()) {
			return false
		}
	}
	return true
}

// inDoorway names the wall whose opening or niche a box would stand in.
func (s *site) inDoorway(box Box) (wall string, stands bool) {
	for i, e := range s.room.Edges {
		for _, span := range s.room.against(i, box) {
			covers := func(from, width, sill float64) bool {
				left := s.room.leftOf(i, from, width)
				return span[0] < left+width && left < span[1] && sill < box.Height
			}
			for _, o := range s.room.Openings {
				stands = stands || o.Edge == i && covers(o.From, o.Width, o.Sill)
			}
			for _, n := range s.room.Niches {
				stands = stands || n.Edge == i && covers(n.From, n.Width, n.Sill)
			}
			if stands {
				return e.Name, true
			}
		}
	}
	return "", false
}

// basin asks a pool, trough or planter: plan, depths along wall A from its left end, freeboard.
func (s *site) basin() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	f := s.f
	for i := range s.room.Edges {
		s.room.Edges[i].Kind = "wall"
	}
	along := f.ChoiceOr("axis", s.names, "a")
	edge, _ := s.room.edgeNamed(along)
	area := Area{Room: s.room}
	hung := area.hang(edge)
	b := Basin{Vertices: s.room.Vertices, Axis: Axis{From: hung.Origin, To: hung.Origin.plus(hung.Right)}}
	items, whole := f.List("stations", mostItems, "wall", along), true
	low, high := b.reach()
	if len(items) == 0 { // one depth all over
		depth, ok := f.Length("basin_depth", leastDepth, mostDepth)
		b.Stations, whole = []Station{{low, depth}, {high, depth}}, ok
	}
	for _, id := range items {
		at, okAt := f.Length("stations."+id+".at", 0, mostSide, "station", id, "wall", along, "most", high)
		depth, okDepth := f.Length("stations."+id+".depth", leastDepth, mostDepth, "station", id)
		whole = whole && okAt && okDepth
		b.Stations = append(b.Stations, Station{at, depth})
	}
	var okFree bool
	if b.Freeboard, okFree = f.Length("freeboard", 0, 2000); !whole || !okFree {
		return nil, nil
	}
	if len(b.Stations) == 1 {
		f.Reject(fault.At("stations", "basin.too_few_stations", "count", 1))
		return nil, nil
	}
	b.toTheEnds(low, high)
	if err := b.check(); err != nil {
		return nil, s.stationFault(err, items)
	}
	s.boxes()
	b.Boxes = s.room.Boxes
	derived, err := deriveBasin(b, s.room)
	derived.Takeoff.TurnedRound = s.turn
	if err != nil {
		return nil, err
	}
	return &derived, nil
}

// toTheEnds carries the first and last depth on to the ends of the plan where they lie inside
// it by a rounding of the tape.
func (b *Basin) toTheEnds(low, high float64) {
	const slack = 5.0 // mm
	last := len(b.Stations) - 1
	if math.Abs(b.Stations[0].At-low) <= slack {
		b.Stations[0].At = low
	}
	if math.Abs(b.Stations[last].At-high) <= slack {
		b.Stations[last].At = high
	}
}

// stationFault hangs a fault of the stations on the station's own question.
func (s *site) stationFault(err error, items []string) error {
	each := fault.Of(err)[0]
	if n, is := each.Args["station"].(int); is && n <= len(items) {
		each.Field = "stations." + items[n-1] + ".at"
	} else if len(items) > 0 {
		each.Field = "stations." + items[len(items)-1] + ".at"
	}
	return each
}

func (s *site) boxTank() (*Area, error) {
	if err := s.outline(); err != nil {
		return nil, err
	}
	if !s.sized {
		return nil, nil
	}
	height, okHeight := s.f.Length("tank_height", leastDepth, mostDepth)
	water, okWater := s.f.Length("water_depth", 0, mostDepth)
	if !okHeight || !okWater {
		return nil, nil
	}
	area, err := deriveBox(BoxTank{Vertices: s.room.Vertices, Height: height, Water: water}, s.room)
	area.Takeoff.TurnedRound = s.turn
	return tank(area, err)
}

func (s *site) roundTank() (*Area, error) {
	diameter, okDiameter := s.f.Length("diameter", leastSide, mostSide)
	height, okHeight := s.f.Length("tank_height", leastDepth, mostDepth)
	water, okWater := s.f.Length("water_depth", 0, mostDepth)
	soffit := s.f.ChoiceOr("soffit", yesNo, "no") == "yes"
	if !okDiameter || !okHeight || !okWater {
		return nil, nil
	}
	return tank(deriveRound(RoundTank{Diameter: diameter, Height: height, Water: water, Soffit: soffit}))
}

// tank hangs a tank's faults on the questions of the form.
func tank(area Area, err error) (*Area, error) {
	if err == nil {
		return &area, nil
	}
	each := fault.Of(err)[0]
	each.Field = map[string]string{"water_depth_mm": "water_depth", "height_mm": "tank_height", "diameter_mm": "diameter"}[each.Field]
	return nil, each
}

func (s *site) wallRun() (*Area, error) {
	f := s.f
	count, ok := f.Count("walls.count", 1, mostWalls)
	if !ok {
		return nil, nil
	}
	lengths, corners, known := s.chain(count)
	height, okHeight := f.Length("height", leastHeight, mostHeight)
	strip := f.LengthOr("strip", 0, mostSide, 0)
	if known < count || !okHeight {
		return nil, nil
	}
	w := WallRun{Lengths: lengths, Corners: corners, Strip: strip}
	s.room = Room{Edges: make([]Edge, count), panels: lengths}
	for k := range count {
		name := WallName(k)
		own := f.LengthOr("walls."+name+".height", leastHeight, mostHeight, height, "wall", name)
		w.Heights = append(w.Heights, own)
		s.names = append(s.names, name)
		s.room.Edges[k] = Edge{Name: name, Kind: "wall", Height: own}
	}
	s.zones()
	s.openings()
	s.niches()
	zones := map[int][]Part{}
	for k, e := range s.room.Edges {
		zones[k] = e.Parts
	}
	area, err := deriveRun(w, s.room.Openings, s.room.Niches, zones)
	if err != nil {
		return nil, err
	}
	return &area, nil
}

func faultStrip(k int, wide float64) error {
	return fault.At("strip", "run.strip_too_wide", "wall", WallName(k), "value", wide)
}
