package wetarea

import (
	"slices"

	"dusha/core/order"
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
	walk := make([]int, len(r.Edges))
	for i := range walk {
		walk[i] = i
	}
	order.By(walk, func(i, j int) int { return wallNumber(r.Edges[i].Name) - wallNumber(r.Edges[j].Name) })
	return walk
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
