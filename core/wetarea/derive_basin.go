package wetarea

import (
	"fmt"
	"math"

	"dusha/core/fault"
)

// deriveBasin lays out a basin: its floor by stations, unrolled along the axis to its true
// length with each riser in its place, and each wall outside its edge. A wall's zero is the
// deepest floor, so that all walls share one level.
func deriveBasin(b Basin, room Room) (Area, error) {
	measured, err := b.Measure()
	if err != nil {
		return Area{}, err
	}
	room.Boxes = b.Boxes
	area := Area{Shape: "basin", Room: room, Gaps: []string{}}
	area.Takeoff = Takeoff{
		Gaps: []int{}, WallAreas: measured.WallAreas, FloorArea: measured.FloorArea + measured.RiserArea, PlanArea: measured.PlanArea,
		BoxArea: measured.BoxArea, TotalMembrane: measured.TotalMembrane, FloorWall: measured.FloorWall,
		WallWallInternal: measured.WallWallInternal, WallWallExternal: measured.WallWallExternal,
	}
	outline := counterClockwise(room.Vertices)
	u := b.unroll(outline)
	area.floorAt = u.place
	area.addBasinFloor(b, u, outline)
	for _, i := range room.inOrder() {
		area.addBasinWall(b, u, i)
	}
	for i := range room.Vertices {
		area.addBasinCorner(b, outline, i)
	}
	for _, box := range b.Boxes {
		area.addBox(box)
	}
	area.fill(b.Deepest(), b.VolumeAt)
	area.settle()
	return area, nil
}

// unrolled maps a basin's plan to its floor laid flat: along is the true length from the
// first station under the plan, up the distance across the axis.
type unrolled struct {
	basin Basin
	first float64 // where the plan begins on the axis
	low   float64 // the least distance across
	across,
	along Point
}

func (b Basin) unroll(outline []Point) unrolled {
	u := unrolled{basin: b, along: b.direction(), low: math.Inf(1)}
	u.across = Point{-u.along[1], u.along[0]}
	u.first, _ = b.reach()
	for _, p := range outline {
		u.low = min(u.low, dot(p, u.across))
	}
	return u
}

// at is the true length from the plan's beginning to a place of the axis, risers before it
// included.
func (u unrolled) at(s float64, beyond bool) float64 {
	length := 0.0
	for _, piece := range u.basin.pieces() {
		from, to := max(piece.from, u.first), min(piece.to, s)
		if to > from {
			length += (to - from) * piece.stretch()
		}
	}
	for _, r := range u.basin.risers() {
		if r.at > u.first && (r.at < s || beyond && r.at <= s) {
			length += math.Abs(r.to - r.from)
		}
	}
	return length
}

func (u unrolled) place(p Point) Point {
	return Point{u.at(u.basin.along(p), false), dot(p, u.across) - u.low}
}

func (a *Area) addBasinFloor(b Basin, u unrolled, outline []Point) {
	floor := Surface{ID: "floor", Kind: "floor", Edge: -1, Area: a.Takeoff.FloorArea, Laid: Frame{Right: u.along, Up: u.across}}
	for _, r := range b.risers() {
		wide := b.width(outline, r.at)
		if wide > 0 {
			floor.Area -= wide * math.Abs(r.to-r.from) / mm2PerM2
		}
	}
	for _, piece := range b.pieces() {
		part := b.strip(outline, piece.from, piece.to)
		if len(part) < 3 || SignedArea(part) <= 0 {
			continue
		}
		start := u.at(max(piece.from, u.first), true)
		laid := make([]Point, len(part))
		for k, p := range part {
			laid[k] = Point{start + (b.along(p)-max(piece.from, u.first))*piece.stretch(), dot(p, u.across) - u.low}
		}
		floor.Outlines = append(floor.Outlines, laid)
	}
	for _, box := range b.Boxes {
		corners := box.corners()
		hole := make([]Point, len(corners))
		for k, c := range corners {
			hole[k] = u.place(c)
		}
		floor.Holes = append(floor.Holes, counterClockwise(hole))
	}
	a.Surfaces = append(a.Surfaces, floor.sized())
	for k, r := range b.risers() {
		a.addRiser(b, u, outline, k+1, r)
	}
}

func (a *Area) addRiser(b Basin, u unrolled, outline []Point, number int, r riser) {
	start, high := u.at(r.at, false), math.Abs(r.to-r.from)
	s := Surface{ID: fmt.Sprintf("riser.%d", number), Kind: "riser", Edge: -1, Laid: Frame{Right: u.along, Up: u.across}}
	cuts := b.crossings(outline, r.at, u.across)
	for i := 0; i+1 < len(cuts); i += 2 {
		low, top := cuts[i]-u.low, cuts[i+1]-u.low
		s.Outlines = append(s.Outlines, []Point{{start, low}, {start + high, low}, {start + high, top}, {start, top}})
		s.Area += (top - low) * high / mm2PerM2
		shallow, foot := start, start+high
		if r.to < r.from {
			shallow, foot = foot, shallow
		}
		for _, edge := range []struct {
			name, turn string
			at         float64
		}{{"edge", "external", shallow}, {"foot", "internal", foot}} {
			a.Junctions = append(a.Junctions, Junction{ID: fmt.Sprintf("%s.%s.%d", s.ID, edge.name, i/2+1), Kind: "riser", Turn: edge.turn, Length: top - low,
				Lines: []Line{{Surface: s.ID, From: Point{edge.at, low}, To: Point{edge.at, top}}}})
		}
	}
	if len(s.Outlines) > 0 {
		s = s.sized()
		s.Length = high
		a.Surfaces = append(a.Surfaces, s)
	}
}

func (a *Area) addBasinWall(b Basin, u unrolled, i int) {
	right, left := a.ends(i)
	long, deepest := a.Room.edgeLength(i), b.Deepest()
	name := a.Room.Edges[i].Name
	s := Surface{ID: a.Room.wallID(i), Kind: "wall", Edge: i, Area: a.Takeoff.WallAreas[i]}
	top := deepest + b.Freeboard
	var foot []Point
	lowest := top
	j := Junction{ID: "floor_wall." + name + ".1", Kind: "floor_wall", Turn: "internal"}
	type stretch struct{ share, depth [2]float64 }
	var parts []stretch
	b.stretches(left, right, func(share, depth [2]float64) { parts = append(parts, stretch{share, depth}) })
	if len(parts) > 1 && parts[0].share[0] > parts[len(parts)-1].share[0] {
		for x, y := 0, len(parts)-1; x < y; x, y = x+1, y-1 {
			parts[x], parts[y] = parts[y], parts[x]
		}
	}
	for _, part := range parts {
		p, q := Point{part.share[0] * long, deepest - part.depth[0]}, Point{part.share[1] * long, deepest - part.depth[1]}
		foot = append(foot, p, q)
		lowest = min(lowest, p[1], q[1])
		j.Length += q.minus(p).length()
		j.Lines = append(j.Lines, Line{Surface: s.ID, From: p, To: q})
	}
	outline := withoutStraight(append(foot, Point{long, top}, Point{0, top}))
	s.Outlines = [][]Point{dedupe(outline)}
	for _, box := range b.Boxes {
		for _, span := range a.Room.against(i, box) {
			at := left.plus(right.minus(left).times((span[0] + span[1]) / 2 / long))
			low := deepest - b.DepthAt(at)
			s.Holes = append(s.Holes, []Point{{span[0], low}, {span[1], low}, {span[1], low + box.Height}, {span[0], low + box.Height}})
			j.Length -= span[1] - span[0]
		}
	}
	s = s.sized()
	s.Length = long
	// It hangs on its edge of the unrolled floor, its lowest point touching.
	from, to := u.place(left), u.place(right)
	from, to = u.along.times(from[0]).plus(u.across.times(from[1])), u.along.times(to[0]).plus(u.across.times(to[1]))
	along := to.minus(from)
	along = along.times(1 / along.length())
	s.Laid = Frame{Right: along, Up: Point{-along[1], along[0]}}
	s.Laid.Origin = from.plus(to).times(0.5).minus(along.times(long / 2)).minus(s.Laid.Up.times(lowest))
	a.Surfaces = append(a.Surfaces, s)
	if j.Length > 1e-6 {
		a.Junctions = append(a.Junctions, j)
	}
}

// dedupe drops a vertex that repeats the one before it.
func dedupe(outline []Point) []Point {
	var kept []Point
	for i, p := range outline {
		if p != outline[(i+len(outline)-1)%len(outline)] {
			kept = append(kept, p)
		}
	}
	return kept
}

func (a *Area) addBasinCorner(b Basin, outline []Point, i int) {
	n := len(outline)
	angle := interiorAngle(outline, i)
	a.Takeoff.VertexAngles = append(a.Takeoff.VertexAngles, angle)
	if math.Abs(angle-straight) < angleSlack {
		return
	}
	after, before := i, (i+n-1)%n
	v, deepest := a.Room.Vertices[i], b.Deepest()
	low := deepest - b.DepthAt(v)
	name := a.Room.Edges[after].Name + "." + a.Room.Edges[before].Name
	turn, long := turnOf(angle), a.Room.edgeLength(after)
	foot := a.Room.boxIn(v)
	count := &a.Takeoff.InternalCorners
	if turn == "external" {
		count = &a.Takeoff.ExternalCorners
	}
	*count++
	a.Takeoff.WallWallInternal -= foot
	a.Corners = append(a.Corners, Corner{ID: "corner." + name, Surface: "floor", At: a.floorAt(v), Angle: angle, Turn: turn, Preformed: square(angle)})
	a.Junctions = append(a.Junctions, Junction{ID: "wall_wall." + name, Kind: "wall_wall", Turn: turn, Length: deepest - low + b.Freeboard - foot,
		Lines: []Line{
			{Surface: a.Room.wallID(after), From: Point{long, low + foot}, To: Point{long, deepest + b.Freeboard}},
			{Surface: a.Room.wallID(before), From: Point{0, low + foot}, To: Point{0, deepest + b.Freeboard}},
		}})
}

// volumeSteps are the tenths of the depth at which a volume is listed.
const volumeSteps = 10

// fill notes what the area holds up to its water line, with the volume at each tenth of the
// depth.
func (a *Area) fill(line float64, volumeAt func(below float64) float64) {
	a.Water, a.volumeAt = &Water{Line: line, Volume: volumeAt(0)}, volumeAt
	for k := range volumeSteps + 1 {
		below := line * float64(k) / volumeSteps
		a.Water.Levels = append(a.Water.Levels, LevelVolume{below, volumeAt(below)})
	}
}

// VolumeAt is the water up to a level below the water line, what boxes displace taken off, L.
func (b Basin) VolumeAt(below float64) float64 {
	sum := b.volume(counterClockwise(b.Vertices), below)
	for _, box := range b.Boxes {
		sum -= b.displaced(box.corners(), box.Height, below)
	}
	return sum
}

// VolumeAt is the water of a basin or tank up to a level below its water line, L.
func (a Area) VolumeAt(below float64) (float64, error) {
	switch {
	case a.Water == nil:
		return 0, fault.At("below_water_line_mm", "tank.holds_no_water")
	case below < 0 || below > a.Water.Line:
		return 0, fault.At("below_water_line_mm", "number.too_large", "value", below, "most", a.Water.Line)
	}
	return a.volumeAt(below), nil
}
