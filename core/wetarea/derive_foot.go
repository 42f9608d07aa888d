package wetarea

import (
	"cmp"
	"dusha/core/order"
	"fmt"
	"math"
)

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
	order.By(spans, func(p, q span) int { return cmp.Compare(p.from, q.from) })
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
