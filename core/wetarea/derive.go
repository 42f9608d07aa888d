package wetarea

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// deriveRoom lays out every surface, junction and corner of a room, a deck or a sunken floor
// whose outline runs counter-clockwise.
func deriveRoom(room Room) (Area, error) {
	takeoff, err := room.Measure()
	if err != nil {
		return Area{}, err
	}
	area := Area{Shape: "room", Room: room, Takeoff: takeoff, Gaps: []string{}, floorAt: func(p Point) Point { return p }}
	area.Surfaces = append(area.Surfaces, area.roomFloor())
	for _, i := range room.inOrder() {
		if room.Edges[i].Kind == "wall" {
			area.addWall(i)
		}
		area.addFoot(i)
	}
	for i := range room.Edges {
		area.addCorner(i)
	}
	area.addSoffit(nil)
	area.addParts()
	for _, i := range takeoff.Gaps {
		area.Gaps = append(area.Gaps, "edge."+room.Edges[i].Name)
	}
	area.settle()
	return area, nil
}

// settle ends what all shapes have in common: the film's edges and the net.
func (a *Area) settle() {
	a.Termination = 0
	for _, s := range a.Surfaces {
		if s.Kind == "wall" || s.Kind == "floor" && a.Shape == "wall_run" {
			a.Termination += a.freeEdges(s)
		}
	}
	a.unfold()
}

// inOrder lists the edges by name, as one walks round: clockwise as seen from above.
func (r Room) inOrder() []int {
	order := make([]int, len(r.Edges))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(i, j int) int { return wallNumber(r.Edges[i].Name) - wallNumber(r.Edges[j].Name) })
	return order
}

// WallName is the letter of wall k: a … z, then aa, ab …
func WallName(k int) string {
	if k < 26 {
		return string(rune('a' + k))
	}
	return WallName(k/26-1) + WallName(k%26)
}

func wallNumber(name string) int {
	n := 0
	for _, letter := range name {
		n = n*26 + int(letter-'a') + 1
	}
	return n
}

// edgeNamed finds an edge; found is false when there is none.
func (r Room) edgeNamed(name string) (int, bool) {
	i := slices.IndexFunc(r.Edges, func(e Edge) bool { return e.Name == name })
	return i, i >= 0
}

func (r Room) wallID(i int) string { return "wall." + r.Edges[i].Name }

// leftOf turns a stretch along an edge from its first vertex into one from the left end as
// one faces it.
func (r Room) leftOf(i int, from, width float64) float64 { return r.edgeLength(i) - from - width }

func (a *Area) roomFloor() Surface {
	s := Surface{ID: "floor", Kind: "floor", Edge: -1, Outlines: [][]Point{counterClockwise(a.Room.Vertices)}, Area: a.Takeoff.FloorArea, Laid: Frame{Right: Point{1, 0}, Up: Point{0, 1}}}
	for _, b := range a.Room.Boxes {
		s.Holes = append(s.Holes, b.corners())
	}
	return s.sized()
}

// sized gives a surface its greatest extents.
func (s Surface) sized() Surface {
	low, high := extent(s.Outlines...)
	s.Length, s.Height = high[0]-min(low[0], 0), high[1]-min(low[1], 0)
	return s
}

// hang lays a wall outside its edge of the plan.
func (a *Area) hang(i int) Frame {
	if len(a.panelFrames) > i {
		return a.panelFrames[i]
	}
	right, left := a.ends(i)
	along := right.minus(left)
	along = along.times(1 / along.length())
	return Frame{Origin: left, Right: along, Up: Point{-along[1], along[0]}}
}

// ends are a wall's right and left end in plan as one faces it from inside.
func (a *Area) ends(i int) (right, left Point) {
	return edgeEnds(a.Room.Vertices, i)
}

func (a *Area) addWall(i int) {
	r := a.Room
	var in, out []rect
	for _, part := range r.parts(i) {
		if left := r.leftOf(i, part.From, part.To-part.From); part.Height > 0 {
			in = append(in, rect{left, 0, left + part.To - part.From, part.Height})
		}
	}
	for _, o := range r.Openings {
		if o.Edge == i {
			left := r.leftOf(i, o.From, o.Width)
			out = append(out, rect{left, o.Sill, left + o.Width, o.Sill + o.Height})
		}
	}
	for _, b := range r.Boxes {
		for _, span := range r.against(i, b) {
			out = append(out, rect{span[0], 0, span[1], b.Height})
		}
	}
	s := Surface{ID: r.wallID(i), Kind: "wall", Edge: i, Area: a.Takeoff.WallAreas[i], Laid: a.hang(i)}
	s.Outlines, s.Holes = outlinesOf(in, out)
	if len(s.Outlines) == 0 {
		return
	}
	s = s.sized()
	s.Length = r.edgeLength(i)
	a.Surfaces = append(a.Surfaces, s)
}

// against lists where a box stands against wall i, as spans from its left end.
func (r Room) against(i int, b Box) [][2]float64 {
	corners := b.corners()
	var spans [][2]float64
	for k := range corners {
		p, q := edgeEnds(corners, k)
		if from, to, touches := r.contactSpan(i, p, q); touches {
			spans = append(spans, [2]float64{r.leftOf(i, from, to-from), r.leftOf(i, from, 0)})
		}
	}
	return spans
}

// freeEdges is the length of a surface's film edges that end against nothing, mm: its outline and the
// rims of its openings less what other surfaces meet. A wall meets its neighbour up to the lower of
// both.
func (a *Area) freeEdges(s Surface) float64 {
	sum := 0.0
	for _, outline := range slices.Concat(s.Outlines, s.Holes) {
		for i := range outline {
			p, q := edgeEnds(outline, i)
			long := q.minus(p).length()
			var met [][2]float64
			for _, m := range a.meets(s) {
				if from, to, along := m.overlap(p, q); along {
					met = append(met, [2]float64{from, to})
				}
			}
			sum += long - union(met)
		}
	}
	return sum
}

// meets are the lines on which other surfaces meet one: junctions, a soffit at its top, and the boxes
// that stand against it.
func (a *Area) meets(s Surface) (lines []Line) {
	for _, j := range a.Junctions {
		for k, l := range j.Lines {
			if l.Surface != s.ID {
				continue
			}
			highest := a.reach(j, k)
			for _, at := range []*Point{&l.From, &l.To} {
				at[1] = min(at[1], highest)
				if j.Kind == "wall_soffit" && s.Kind == "wall" {
					at[1] = s.Height
				}
			}
			lines = append(lines, l)
		}
	}
	if s.Kind != "wall" || s.Edge < 0 {
		return lines
	}
	for _, b := range a.Room.Boxes {
		for _, span := range a.Room.against(s.Edge, b) {
			left, right := Point{span[0], b.Height}, Point{span[1], b.Height}
			lines = append(lines, Line{s.ID, left, right}, Line{s.ID, Point{span[0], 0}, left}, Line{s.ID, Point{span[1], 0}, right})
		}
	}
	return lines
}

// reach is how high a junction's line on one surface is met by the others: a corner of two walls only
// as high as the lower one stands there.
func (a *Area) reach(j Junction, line int) float64 {
	highest := math.Inf(1)
	if j.Kind != "wall_wall" {
		return highest
	}
	for k, l := range j.Lines {
		other, known := a.Surface(l.Surface)
		if k == line || !known {
			continue
		}
		top := 0.0
		for _, outline := range other.Outlines {
			for _, p := range outline {
				if math.Abs(p[0]-l.From[0]) < 1 {
					top = max(top, p[1])
				}
			}
		}
		highest = min(highest, top)
	}
	return highest
}

// overlap is the stretch of an edge from p to q, from p on, that a line lies on.
func (l Line) overlap(p, q Point) (from, to float64, is bool) {
	const near = 0.5 // mm
	way, long := q.minus(p), q.minus(p).length()
	if long < near {
		return 0, 0, false
	}
	way = way.times(1 / long)
	if math.Abs(cross(way, l.From.minus(p))) > near || math.Abs(cross(way, l.To.minus(p))) > near {
		return 0, 0, false
	}
	a, b := dot(l.From.minus(p), way), dot(l.To.minus(p), way)
	from, to = max(0, min(a, b)), min(long, max(a, b))
	return from, to, to-from > near
}

// union is the length that stretches cover together.
func union(stretches [][2]float64) (sum float64) {
	slices.SortFunc(stretches, func(a, b [2]float64) int { return cmp.Compare(a[0], b[0]) })
	end := math.Inf(-1)
	for _, s := range stretches {
		if from := max(s[0], end); s[1] > from {
			sum += s[1] - from
			end = s[1]
		}
	}
	return sum
}

// floorPoint is the plan point at a distance along wall i from its left end.
func (a *Area) floorPoint(i int, along float64) Point {
	right, left := a.ends(i)
	return left.plus(right.minus(left).times(along / a.Room.edgeLength(i)))
}

// addFoot adds the runs where edge i meets the floor: floor–wall parted by doorways and
// boxes, thresholds, and trims of open edges.
func (a *Area) addFoot(i int) {
	r, name := a.Room, a.Room.Edges[i].Name
	long := r.edgeLength(i)
	run := func(id, kind string, from, to float64) {
		j := Junction{ID: id, Kind: kind, Turn: "internal", Length: to - from}
		j.Lines = []Line{{Surface: "floor", From: a.floorPoint(i, from), To: a.floorPoint(i, to)}}
		if kind == "floor_wall" {
			j.Lines = append(j.Lines, Line{Surface: r.wallID(i), From: Point{from, 0}, To: Point{to, 0}})
		}
		a.Junctions = append(a.Junctions, j)
	}
	switch r.Edges[i].Kind {
	case "threshold":
		run("threshold."+name, "threshold", 0, long)
		a.stopAt(r.Edges[i].WaterStop)
		return
	case "open":
		if r.Edges[i].Trim {
			run("trim."+name, "trim", 0, long)
		}
		return
	}
	type span struct {
		from, to float64
		door     string
		is       bool
	}
	var spans []span
	for _, o := range r.Openings {
		if o.Edge == i && o.Sill == 0 {
			left := r.leftOf(i, o.From, o.Width)
			id := "threshold." + name
			if o.ID != "" {
				id += "." + o.ID
			}
			spans = append(spans, span{left, left + o.Width, id, true})
			a.stopAt(o.Stop)
			if o.ID != "" && o.Stop <= 0 {
				a.Gaps = append(a.Gaps, "opening."+o.ID)
			}
		}
	}
	for _, b := range r.Boxes {
		for _, s := range r.against(i, b) {
			spans = append(spans, span{from: s[0], to: s[1]})
		}
	}
	slices.SortFunc(spans, func(p, q span) int { return cmp.Compare(p.from, q.from) })
	at, number := 0.0, 0
	for _, s := range append(spans, span{from: long, to: long}) {
		if s.from > at+1e-6 {
			number++
			run(fmt.Sprintf("floor_wall.%s.%d", name, number), "floor_wall", at, s.from)
		}
		if s.is {
			run(s.door, "threshold", s.from, s.to)
		}
		at = max(at, s.to)
	}
}

// stopAt keeps the lowest water stop of all thresholds.
func (a *Area) stopAt(stop float64) {
	if stop > 0 && (a.WaterStop == 0 || stop < a.WaterStop) {
		a.WaterStop = stop
	}
}

// addCorner adds the corner at vertex i with the junction that rises from it: between
// wall i, whose right end it is as one faces it, and the wall before, whose left end.
func (a *Area) addCorner(i int) {
	n := len(a.Room.Edges)
	after, before := i, (i+n-1)%n
	r, angle := a.Room, a.Takeoff.VertexAngles[i]
	if math.Abs(angle-straight) < angleSlack || r.Edges[before].Kind != "wall" || r.Edges[after].Kind != "wall" {
		return
	}
	turn := turnOf(angle)
	end := r.edgeLength(after)
	right, left := r.heightAt(after, false), r.heightAt(before, true)
	name := fmt.Sprintf("%s.%s", r.Edges[after].Name, r.Edges[before].Name)
	foot := r.boxIn(r.Vertices[i])
	a.Corners = append(a.Corners, Corner{
		ID: "corner." + name, Surface: "floor", At: a.floorAt(r.Vertices[i]), Angle: angle, Turn: turn, Preformed: square(angle),
	})
	a.Junctions = append(a.Junctions, Junction{
		ID: "wall_wall." + name, Kind: "wall_wall", Turn: turn, Length: max(right, left) - foot,
		Lines: []Line{
			{Surface: r.wallID(after), From: Point{end, foot}, To: Point{end, max(right, foot)}},
			{Surface: r.wallID(before), From: Point{0, foot}, To: Point{0, max(left, foot)}},
		},
	})
}

func turnOf(angle float64) string {
	if angle > straight {
		return "external"
	}
	return "internal"
}

func square(angle float64) bool {
	return math.Abs(angle-squareInside) < angleSlack || math.Abs(angle-squareOutside) < angleSlack
}

// boxIn is the height of a box that stands in a corner of the room, 0 where none does.
func (r Room) boxIn(v Point) float64 {
	high := 0.0
	for _, b := range r.Boxes {
		for _, c := range b.corners() {
			if c.minus(v).length() < 1e-6 {
				high = max(high, b.Height)
			}
		}
	}
	return high
}

// addSoffit folds the soffit out beyond the longest wall; foot gives each wall's height over
// its frame's zero where walls have no height of their own.
func (a *Area) addSoffit(height func(edge int) float64) {
	if !a.Room.Soffit {
		return
	}
	if height == nil {
		height = func(i int) float64 { return a.Room.heightAt(i, false) }
	}
	longest := -1
	for i, e := range a.Room.Edges {
		if e.Kind == "wall" && (longest < 0 || a.Room.edgeLength(i) > a.Room.edgeLength(longest)) {
			longest = i
		}
	}
	if longest < 0 {
		return
	}
	f := a.hang(longest)
	mirror := func(p Point) Point { // across the wall's foot, then up its height
		away := dot(p.minus(f.Origin), f.Up)
		return p.minus(f.Up.times(2 * away)).plus(f.Up.times(height(longest)))
	}
	origin := mirror(Point{})
	s := Surface{ID: "soffit", Kind: "soffit", Edge: -1, Outlines: [][]Point{counterClockwise(a.Room.Vertices)}, Area: a.Takeoff.SoffitArea}
	s.Laid = Frame{Origin: origin, Right: mirror(Point{1, 0}).minus(origin), Up: mirror(Point{0, 1}).minus(origin)}
	a.Surfaces = append(a.Surfaces, s.sized())
	for _, i := range a.Room.inOrder() {
		if a.Room.Edges[i].Kind != "wall" {
			continue
		}
		long, high := a.Room.edgeLength(i), height(i)
		a.Junctions = append(a.Junctions, Junction{
			ID: "wall_soffit." + a.Room.Edges[i].Name, Kind: "wall_soffit", Turn: "internal", Length: long,
			Lines: []Line{
				{Surface: a.Room.wallID(i), From: Point{0, high}, To: Point{long, high}},
				{Surface: "soffit", From: a.floorPoint(i, 0), To: a.floorPoint(i, long)},
			},
		})
	}
}

// addParts adds what walls and floor carry: reveals, niches and boxes.
func (a *Area) addParts() {
	for _, o := range a.Room.Openings {
		if o.ID != "" && o.Reveal > 0 {
			a.addReveal(o)
		}
	}
	for _, n := range a.Room.Niches {
		a.addNiche(n)
	}
	for _, b := range a.Room.Boxes {
		a.addBox(b)
	}
}

// strip is a surface that is laid out as one long rectangle.
func strip(id, kind string, long, deep float64, home Point) Surface {
	return Surface{
		ID: id, Kind: kind, Edge: -1, Outlines: [][]Point{rectangle(0, long, deep)}, Area: long * deep / mm2PerM2,
		Laid: Frame{Origin: home, Right: Point{1, 0}, Up: Point{0, 1}},
	}.sized()
}

func rectangle(from, to, high float64) []Point {
	return []Point{{from, 0}, {to, 0}, {to, high}, {from, high}}
}

// addReveal adds the jambs, sill and head of an opening as one strip, and the edges round it.
func (a *Area) addReveal(o Opening) {
	var alone Takeoff
	alone.WallAreas = make([]float64, len(a.Room.Edges))
	a.Room.measureOpening(o, &alone)
	if alone.OpeningReveals == 0 {
		return
	}
	id := "reveal." + o.ID
	home := a.hang(o.Edge).Place(Point{a.Room.leftOf(o.Edge, o.From, o.Width/2), o.Sill + o.Height/2})
	s := strip(id, "reveal", alone.OpeningReveals*mm2PerM2/o.Reveal, o.Reveal, home)
	a.Surfaces = append(a.Surfaces, s)
	a.Junctions = append(a.Junctions, Junction{
		ID: id + ".front", Kind: "reveal", Turn: "external", Length: s.Length,
		Lines: []Line{{Surface: id, From: Point{0, 0}, To: Point{s.Length, 0}}},
	})
}

// addNiche adds a niche's reveals as one strip, its junctions behind, in front and along its
// depth, four internal corners behind and four saddle points in front.
func (a *Area) addNiche(n Niche) {
	id, around := "niche."+n.ID, 2*(n.Width+n.Height)
	left := a.Room.leftOf(n.Edge, n.From, n.Width)
	a.Surfaces = append(a.Surfaces, strip(id, "niche", around, n.Depth, a.hang(n.Edge).Place(Point{left + n.Width/2, n.Sill + n.Height/2})))
	along := func(name, turn string, up float64) {
		a.Junctions = append(a.Junctions, Junction{ID: id + "." + name, Kind: "niche", Turn: turn, Length: around,
			Lines: []Line{{Surface: id, From: Point{0, up}, To: Point{around, up}}}})
	}
	along("back", "internal", n.Depth)
	along("front", "external", 0)
	for k, x := range []float64{0, n.Width, n.Width + n.Height, 2*n.Width + n.Height} {
		a.Junctions = append(a.Junctions, Junction{ID: fmt.Sprintf("%s.depth.%d", id, k+1), Kind: "niche", Turn: "internal", Length: n.Depth,
			Lines: []Line{{Surface: id, From: Point{x, 0}, To: Point{x, n.Depth}}}})
		a.Corners = append(a.Corners,
			Corner{ID: fmt.Sprintf("corner.%s.%d", id, k+1), Surface: id, At: Point{x, n.Depth}, Angle: rightAngle, Turn: "internal", Preformed: true},
			Corner{ID: fmt.Sprintf("saddle.%s.%d", id, k+1), Surface: id, At: Point{x, 0}, Angle: rightAngle, Turn: "saddle"})
	}
}

// addBox adds a box's top with its free sides folded out, and its junctions at foot, wall and
// free edges.
func (a *Area) addBox(b Box) {
	corners := b.corners()
	wide, deep := corners[2][0]-corners[0][0], corners[2][1]-corners[0][1]
	id := "box." + b.ID
	s := Surface{ID: id, Kind: "box", Edge: -1, Laid: Frame{Origin: a.floorAt(corners[0].plus(corners[2]).times(0.5))}}
	s.Outlines = [][]Point{{{0, 0}, {wide, 0}, {wide, deep}, {0, deep}}}
	s.Area = a.boxTop(corners)
	// onTop is a place on side k, s along it and out from the top's edge.
	onTop := func(k int, along, out float64) Point {
		return [4]Point{{along, -out}, {wide + out, along}, {wide - along, deep + out}, {-out, deep - along}}[k]
	}
	junction := func(name string, k int, turn string, length float64, line Line) {
		a.Junctions = append(a.Junctions, Junction{ID: fmt.Sprintf("%s.%s.%d", id, name, k), Kind: "box", Turn: turn, Length: length, Lines: []Line{line}})
	}
	touched, number := [4]bool{}, 0
	for k := range corners {
		p, q := edgeEnds(corners, k)
		long, at := q.minus(p).length(), 0.0
		way := q.minus(p).times(1 / long)
		for _, c := range a.contacts(p, q) {
			touched[k] = true
			number++
			junction("wall", number, "internal", c.to-c.from, Line{Surface: id, From: onTop(k, c.from, 0), To: onTop(k, c.to, 0)})
			if c.from > at+1e-6 {
				a.boxSide(&s, k, at, c.from, b.Height, p, way, onTop, junction)
			}
			at = c.to
		}
		if long > at+1e-6 {
			a.boxSide(&s, k, at, long, b.Height, p, way, onTop, junction)
		}
	}
	for k := range corners {
		line := Line{Surface: id, From: onTop(k, 0, 0), To: onTop(k, 0, b.Height)}
		if touched[k] {
			before := (k + 3) % 4
			p, q := edgeEnds(corners, before)
			line.From, line.To = onTop(before, q.minus(p).length(), 0), onTop(before, q.minus(p).length(), b.Height)
		}
		switch before := touched[(k+3)%4]; {
		case before && touched[k]:
		case before || touched[k]:
			junction("rise", k+1, "internal", b.Height, line)
		default:
			junction("rise", k+1, "external", b.Height, line)
		}
	}
	a.Surfaces = append(a.Surfaces, s.sized())
}

func (a *Area) boxTop(corners []Point) float64 {
	return math.Abs(SignedArea(corners)) / mm2PerM2
}

// boxSide folds one free stretch of a box's side out and adds its foot and its edge.
func (a *Area) boxSide(s *Surface, k int, from, to, high float64, p, way Point, onTop func(int, float64, float64) Point, junction func(string, int, string, float64, Line)) {
	s.Outlines = append(s.Outlines, counterClockwise([]Point{onTop(k, from, 0), onTop(k, to, 0), onTop(k, to, high), onTop(k, from, high)}))
	s.Area += (to - from) * high / mm2PerM2
	n := len(s.Outlines) - 1
	junction("foot", n, "internal", to-from, Line{Surface: "floor", From: a.floorAt(p.plus(way.times(from))), To: a.floorAt(p.plus(way.times(to)))})
	junction("edge", n, "external", to-from, Line{Surface: s.ID, From: onTop(k, from, 0), To: onTop(k, to, 0)})
}

type contact struct{ from, to float64 }

// contacts are the stretches of a box's side that lie along walls, in order along the side.
func (a *Area) contacts(p, q Point) []contact {
	var list []contact
	way := q.minus(p).times(1 / q.minus(p).length())
	for i := range a.Room.Edges {
		from, to, touches := a.Room.contactSpan(i, p, q)
		if !touches {
			continue
		}
		first, second := edgeEnds(a.Room.Vertices, i)
		along := second.minus(first).times(1 / second.minus(first).length())
		s, e := dot(first.plus(along.times(from)).minus(p), way), dot(first.plus(along.times(to)).minus(p), way)
		list = append(list, contact{min(s, e), max(s, e)})
	}
	slices.SortFunc(list, func(x, y contact) int { return cmp.Compare(x.from, y.from) })
	return list
}
