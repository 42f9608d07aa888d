package wetarea

import (
	"fmt"
	"math"
)

// derive lays out every surface, junction and corner of a room whose openings start at
// the floor.
func derive(room Room) (Area, error) {
	takeoff, err := room.Measure()
	if err != nil {
		return Area{}, err
	}
	area := Area{Room: room, Takeoff: takeoff, Surfaces: []Surface{floorSurface(room, takeoff)}}
	for _, wall := range wallLetters {
		i := edgeOfLetter[wall]
		area.Surfaces = append(area.Surfaces, wallSurface(room, takeoff, i))
		area.Junctions = append(area.Junctions, floorJunctions(room, i)...)
	}
	for i := range room.Edges {
		area.addCorner(i)
	}
	return area, nil
}

func floorSurface(room Room, t Takeoff) Surface {
	s := Surface{ID: "floor", Kind: "floor", Edge: -1, Outlines: [][]Point{room.Vertices}, Area: t.FloorArea}
	for _, v := range room.Vertices {
		s.Length, s.Height = max(s.Length, v[0]), max(s.Height, v[1])
	}
	return s
}

// doorwayOf gives the opening in wall i as a span from the left end as one faces it.
func doorwayOf(room Room, i int) (left, right, height float64, found bool) {
	for _, o := range room.Openings {
		if o.Edge == i {
			right = room.edgeLength(i) - o.From
			return right - o.Width, right, o.Height, true
		}
	}
	return 0, 0, 0, false
}

func wallID(i int) string { return "wall." + letterOfEdge[i] }

func wallSurface(room Room, t Takeoff, i int) Surface {
	long, high := room.edgeLength(i), room.Edges[i].Height
	s := Surface{ID: wallID(i), Kind: "wall", Edge: i, Area: t.WallAreas[i], Length: long, Height: high}
	left, right, head, door := doorwayOf(room, i)
	switch {
	case !door:
		s.Outlines = [][]Point{rectangle(0, long, high)}
	case head >= high: // the doorway parts the wall in two
		for _, span := range [][2]float64{{0, left}, {right, long}} {
			if span[1] > span[0] {
				s.Outlines = append(s.Outlines, rectangle(span[0], span[1], high))
			}
		}
	default:
		s.Outlines = [][]Point{{{0, 0}, {left, 0}, {left, head}, {right, head}, {right, 0}, {long, 0}, {long, high}, {0, high}}}
	}
	return s
}

func rectangle(from, to, high float64) []Point {
	return []Point{{from, 0}, {to, 0}, {to, high}, {from, high}}
}

// floorPoint is the plan point at a distance along wall i from its left end.
func floorPoint(room Room, i int, along float64) Point {
	a, b := edgeEnds(room.Vertices, i)
	return b.plus(a.minus(b).times(along / room.edgeLength(i)))
}

// floorJunctions are the runs where wall i meets the floor: one, or one on each side of
// its doorway with the threshold between.
func floorJunctions(room Room, i int) []Junction {
	long, wall := room.edgeLength(i), letterOfEdge[i]
	run := func(id, kind string, from, to float64) Junction {
		j := Junction{ID: id, Kind: kind, Turn: "internal", Length: to - from}
		j.Lines = []Line{{Surface: "floor", From: floorPoint(room, i, from), To: floorPoint(room, i, to)}}
		if kind == "floor_wall" {
			j.Lines = append(j.Lines, Line{Surface: wallID(i), From: Point{from, 0}, To: Point{to, 0}})
		}
		return j
	}
	left, right, _, door := doorwayOf(room, i)
	if !door {
		return []Junction{run("floor_wall."+wall+".1", "floor_wall", 0, long)}
	}
	var runs []Junction
	if left > 0 {
		runs = append(runs, run("floor_wall."+wall+".1", "floor_wall", 0, left))
	}
	runs = append(runs, run("threshold."+wall, "threshold", left, right))
	if right < long {
		runs = append(runs, run("floor_wall."+wall+".2", "floor_wall", right, long))
	}
	return runs
}

// addCorner adds the corner at vertex i with the junction that rises from it: between
// wall i, whose right end it is as one faces it, and the wall before, whose left end.
func (a *Area) addCorner(i int) {
	n := len(a.Room.Edges)
	before := (i + n - 1) % n
	angle := a.Takeoff.VertexAngles[i]
	if math.Abs(angle-straight) < angleSlack {
		return
	}
	turn := "internal"
	if angle > straight {
		turn = "external"
	}
	right, left := wallID(i), wallID(before)
	name := fmt.Sprintf("%s.%s", letterOfEdge[i], letterOfEdge[before])
	height := max(a.Room.heightAt(before, true), a.Room.heightAt(i, false))
	end := a.Room.edgeLength(i)
	a.Corners = append(a.Corners, Corner{
		ID: "corner." + name, At: a.Room.Vertices[i], Angle: angle, Turn: turn,
		Preformed: math.Abs(angle-squareInside) < angleSlack || math.Abs(angle-squareOutside) < angleSlack,
	})
	a.Junctions = append(a.Junctions, Junction{
		ID: "wall_wall." + name, Kind: "wall_wall", Turn: turn, Length: height,
		Lines: []Line{
			{Surface: right, From: Point{end, 0}, To: Point{end, a.Room.heightAt(i, false)}},
			{Surface: left, From: Point{0, 0}, To: Point{0, a.Room.heightAt(before, true)}},
		},
	})
}
