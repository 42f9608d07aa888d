package wetarea

import (
	"fmt"
	"math"
)

// roundCorners is how many corners the outline of a round floor has in drawings; areas and
// lengths are those of the circle.
const roundCorners = 64

// deriveRound lays out a round tank: the floor, its wall unrolled above it, and the soffit.
func deriveRound(r RoundTank) (Area, error) {
	t, err := r.Measure()
	if err != nil {
		return Area{}, err
	}
	circle := make([]Point, roundCorners)
	radius := r.Diameter / 2
	for k := range circle {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / roundCorners)
		circle[k] = Point{radius + radius*cos, radius + radius*sin}
	}
	round := math.Pi * r.Diameter
	area := Area{Shape: "round_tank", Gaps: []string{}, floorAt: func(p Point) Point { return p }, Room: Room{Vertices: circle, Edges: []Edge{}}}
	area.Takeoff = Takeoff{
		Gaps: []int{}, WallAreas: []float64{t.WallArea}, FloorArea: t.FloorArea, PlanArea: t.FloorArea, SoffitArea: t.SoffitArea,
		TotalMembrane: t.TotalMembrane, FloorWall: t.FloorWall, VertexAngles: []float64{},
	}
	level := Frame{Right: Point{1, 0}, Up: Point{0, 1}}
	floor := Surface{ID: "floor", Kind: "floor", Edge: -1, Outlines: [][]Point{circle}, Area: t.FloorArea, Laid: level}.sized()
	wall := Surface{ID: "wall.a", Kind: "wall", Edge: -1, Outlines: [][]Point{rectangle(0, round, r.Height)}, Area: t.WallArea, Laid: level}.sized()
	wall.Laid.Origin = Point{radius - round/2, r.Diameter}
	area.Surfaces = []Surface{floor, wall}
	area.addRing("floor_wall.a.1", "floor_wall", circle, "floor", round, 0)
	if r.Soffit {
		soffit := Surface{ID: "soffit", Kind: "soffit", Edge: -1, Outlines: [][]Point{circle}, Area: t.SoffitArea, Laid: level}.sized()
		soffit.Laid.Origin = Point{0, r.Diameter + r.Height}
		area.Surfaces = append(area.Surfaces, soffit)
		area.addRing("wall_soffit.a", "wall_soffit", circle, "soffit", round, r.Height)
	}
	plan := t.FloorArea // m²: 1 mm holds 1 L
	area.fill(r.Water, func(below float64) float64 { return plan * (r.Water - below) })
	area.settle()
	if r.Soffit {
		area.Termination = 0
	}
	return area, nil
}

// addRing adds the junction between the wall and a round floor or soffit.
func (a *Area) addRing(id, kind string, circle []Point, surface string, round, up float64) {
	j := Junction{ID: id, Kind: kind, Turn: "internal", Length: round}
	j.Lines = []Line{{Surface: "wall.a", From: Point{0, up}, To: Point{round, up}}}
	for k := range circle {
		p, q := edgeEnds(circle, k)
		j.Lines = append(j.Lines, Line{Surface: surface, From: p, To: q})
	}
	a.Junctions = append(a.Junctions, j)
}

// deriveBox lays out a box tank.
func deriveBox(b BoxTank, room Room) (Area, error) {
	if _, err := b.Measure(); err != nil {
		return Area{}, err
	}
	for i := range room.Edges {
		room.Edges[i].Kind, room.Edges[i].Height = "wall", b.Height
	}
	room.Soffit = true
	area, err := deriveRoom(room)
	if err != nil {
		return Area{}, err
	}
	area.Shape, area.Termination = "box_tank", 0
	for _, c := range area.Corners { // the same corners again under the soffit
		again := c
		again.ID, again.Surface = "soffit_"+c.ID, "soffit"
		area.Corners = append(area.Corners, again)
	}
	area.Takeoff.InternalCorners *= 2
	area.Takeoff.ExternalCorners *= 2
	area.Takeoff.PreformedInternal *= 2
	area.Takeoff.PreformedExternal *= 2
	area.Takeoff.FoldedByHand *= 2
	plan := area.Takeoff.PlanArea
	area.fill(b.Water, func(below float64) float64 { return plan * (b.Water - below) })
	return area, nil
}

// WallRun is a row of wall panels side by side, as a basement or a retaining wall has them,
// with or without a strip of floor before them. Lengths run from left to right as one faces
// the film's side.
type WallRun struct {
	Lengths []float64 `json:"lengths_mm"`
	Corners []float64 `json:"corners_deg"` // the angle on the film's side between panel k and the next
	Heights []float64 `json:"heights_mm"`
	Strip   float64   `json:"strip_mm"` // width of the floor strip; 0: none
}

// deriveRun lays a wall run out unrolled: panels side by side, the strip below them.
func deriveRun(w WallRun, openings []Opening, niches []Niche, zones map[int][]Part) (Area, error) {
	n := len(w.Lengths)
	// The panels are edges of a room that is never closed: what stands on one is measured alike.
	room := Room{Edges: make([]Edge, n), Openings: openings, Niches: niches}
	area := Area{Shape: "wall_run", Gaps: []string{}, floorAt: func(p Point) Point { return p }}
	t := Takeoff{Gaps: []int{}, WallAreas: make([]float64, n), VertexAngles: []float64{}}
	x := 0.0
	for k := range n {
		room.Edges[k] = Edge{Name: WallName(k), Kind: "wall", Height: w.Heights[k], Parts: zones[k]}
		room.panels = append(room.panels, w.Lengths[k])
	}
	area.Room, area.Takeoff = room, t
	for k := range n {
		area.Room.measureEdge(k, &area.Takeoff)
	}
	for _, o := range openings {
		area.Room.measureOpening(o, &area.Takeoff)
	}
	for _, niche := range niches {
		measureNiche(niche, &area.Takeoff)
	}
	if w.Strip == 0 {
		area.Takeoff.FloorWall = 0
	}
	for k := range n {
		laid := Frame{Origin: Point{x, 0}, Right: Point{1, 0}, Up: Point{0, 1}}
		area.panelFrames = append(area.panelFrames, laid)
		area.addWall(k)
		if w.Strip > 0 {
			if err := area.addStrip(w, k, laid); err != nil {
				return Area{}, err
			}
		}
		if k > 0 {
			area.addPanelCorner(w, k)
		}
		x += w.Lengths[k]
	}
	area.addParts()
	area.Takeoff.TotalMembrane = 0
	for _, s := range area.Surfaces {
		area.Takeoff.TotalMembrane += s.Area
	}
	area.settle()
	return area, nil
}

// mitreOf is how much a strip of floor of some width is shorter on its far side at a corner
// of an angle, mm: width · cot(angle/2), less than 0 at an external one.
func mitreOf(width, angle float64) float64 { return width / math.Tan(angle*math.Pi/360) }

func (a *Area) addStrip(w WallRun, k int, laid Frame) error {
	long := w.Lengths[k]
	left, right := 0.0, long
	if k > 0 {
		left = mitreOf(w.Strip, w.Corners[k-1])
	}
	if k < len(w.Lengths)-1 {
		right -= mitreOf(w.Strip, w.Corners[k])
	}
	if right <= left {
		return faultStrip(k, w.Strip)
	}
	id := "floor." + WallName(k)
	outline := []Point{{0, 0}, {long, 0}, {right, w.Strip}, {left, w.Strip}}
	s := Surface{ID: id, Kind: "floor", Edge: -1, Outlines: [][]Point{outline}, Area: SignedArea(outline) / mm2PerM2}.sized()
	s.Laid = Frame{Origin: laid.Origin, Right: Point{1, 0}, Up: Point{0, -1}}
	a.Surfaces = append(a.Surfaces, s)
	a.Takeoff.FloorArea += s.Area
	a.Junctions = append(a.Junctions, Junction{ID: fmt.Sprintf("floor_wall.%s.1", WallName(k)), Kind: "floor_wall", Turn: "internal", Length: long,
		Lines: []Line{{Surface: id, From: Point{0, 0}, To: Point{long, 0}}, {Surface: a.Room.wallID(k), From: Point{0, 0}, To: Point{long, 0}}}})
	return nil
}

func (a *Area) addPanelCorner(w WallRun, k int) {
	angle := w.Corners[k-1]
	a.Takeoff.VertexAngles = append(a.Takeoff.VertexAngles, angle)
	if math.Abs(angle-straight) < angleSlack {
		return
	}
	turn, name := turnOf(angle), WallName(k-1)+"."+WallName(k)
	before, after := a.Room.heightAtLeft(k-1, true), a.Room.heightAtLeft(k, false)
	high := max(before, after)
	if turn == "internal" {
		a.Takeoff.WallWallInternal += high
	} else {
		a.Takeoff.WallWallExternal += high
	}
	a.Junctions = append(a.Junctions, Junction{ID: "wall_wall." + name, Kind: "wall_wall", Turn: turn, Length: high,
		Lines: []Line{
			{Surface: a.Room.wallID(k - 1), From: Point{w.Lengths[k-1], 0}, To: Point{w.Lengths[k-1], before}},
			{Surface: a.Room.wallID(k), From: Point{0, 0}, To: Point{0, after}},
		}})
	if w.Strip == 0 {
		return
	}
	if turn == "internal" {
		a.Takeoff.InternalCorners++
	} else {
		a.Takeoff.ExternalCorners++
	}
	a.Corners = append(a.Corners, Corner{ID: "corner." + name, Surface: "floor." + WallName(k), At: Point{0, 0}, Angle: angle, Turn: turn, Preformed: square(angle)})
}
