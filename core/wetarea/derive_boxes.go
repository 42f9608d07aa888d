package wetarea

import (
	"cmp"
	"dusha/core/order"
	"fmt"
	"math"
	"slices"
)

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

// boxed is a box being laid out: its top with the free sides folded out round it.
type boxed struct {
	*Area
	box        Box
	on         Surface
	wide, deep float64
	corners    []Point
	sides      int
}

// addBox adds a box's top with its free sides folded out, its junctions at foot, wall and free edges, and
// its corners at the foot and on top. What goes on above the film, as a column, has sides alone.
func (a *Area) addBox(box Box) {
	b := &boxed{Area: a, box: box, corners: box.corners()}
	b.wide, b.deep = b.corners[2][0]-b.corners[0][0], b.corners[2][1]-b.corners[0][1]
	b.on = Surface{ID: "box." + box.ID, Kind: "box", Edge: -1, Laid: Frame{Origin: a.floorAt(b.corners[0].plus(b.corners[2]).times(0.5))}}
	if !box.through() {
		b.on.Outlines = [][]Point{{{0, 0}, {b.wide, 0}, {b.wide, b.deep}, {0, b.deep}}}
		b.on.Area = math.Abs(SignedArea(b.corners)) / mm2PerM2
	}
	touched, number := [4]bool{}, 0
	for k := range b.corners {
		p, q := edgeEnds(b.corners, k)
		long, at := q.minus(p).length(), 0.0
		for _, c := range a.contacts(p, q) {
			touched[k] = true
			number++
			if !box.through() {
				b.junction("wall", number, "internal", c.to-c.from, Line{Surface: b.on.ID, From: b.onTop(k, c.from, 0), To: b.onTop(k, c.to, 0)})
			}
			if c.from > at+1e-6 {
				b.side(k, at, c.from)
			}
			at = c.to
		}
		if long > at+1e-6 {
			b.side(k, at, long)
		}
	}
	for k := range b.corners {
		b.rise(k, touched[(k+3)%4], touched[k])
	}
	a.Surfaces = append(a.Surfaces, b.on.sized())
}

// onTop is a place on side k, some way along it and out from the top's edge.
func (b *boxed) onTop(k int, along, out float64) Point {
	return [4]Point{{along, -out}, {b.wide + out, along}, {b.wide - along, b.deep + out}, {-out, b.deep - along}}[k]
}

func (b *boxed) junction(name string, k int, turn string, length float64, line Line) {
	b.Junctions = append(b.Junctions, Junction{ID: fmt.Sprintf("%s.%s.%d", b.on.ID, name, k), Kind: "box", Turn: turn, Length: length, Lines: []Line{line}})
}

// side folds one free stretch of a side out and adds its foot and its edge.
func (b *boxed) side(k int, from, to float64) {
	p, q := edgeEnds(b.corners, k)
	way, high := q.minus(p).times(1/q.minus(p).length()), b.box.Height
	b.on.Outlines = append(b.on.Outlines, counterClockwise([]Point{b.onTop(k, from, 0), b.onTop(k, to, 0), b.onTop(k, to, high), b.onTop(k, from, high)}))
	b.on.Area += (to - from) * high / mm2PerM2
	b.sides++
	b.junction("foot", b.sides, "internal", to-from, Line{Surface: "floor", From: b.floorAt(p.plus(way.times(from))), To: b.floorAt(p.plus(way.times(to)))})
	if !b.box.through() {
		b.junction("edge", b.sides, "external", to-from, Line{Surface: b.on.ID, From: b.onTop(k, from, 0), To: b.onTop(k, to, 0)})
	}
}

// rise adds what stands at a corner of the box, by which of its two sides lie against a wall. Free, it
// turns outwards from foot to top; against a wall it turns inwards and ends on top in a saddle; in a corner
// of the room the corner of the floor lies on its top.
func (b *boxed) rise(k int, before, after bool) {
	foot, top := b.floorAt(b.corners[k]), b.onTop(k, 0, 0)
	line := Line{Surface: b.on.ID, From: top, To: b.onTop(k, 0, b.box.Height)}
	if after {
		side := (k + 3) % 4
		p, q := edgeEnds(b.corners, side)
		line.From, line.To = b.onTop(side, q.minus(p).length(), 0), b.onTop(side, q.minus(p).length(), b.box.Height)
	}
	corner := func(name, surface string, at Point, angle float64, turn string) {
		b.Corners = append(b.Corners, Corner{ID: fmt.Sprintf("corner.%s.%s.%d", b.on.ID, name, k+1), Surface: surface, At: at, Angle: angle, Turn: turn, Preformed: turn != "saddle"})
	}
	switch {
	case before && after:
		b.lift(foot, top)
		return
	case before || after:
		b.junction("rise", k+1, "internal", b.box.Height, line)
		corner("foot", "floor", foot, squareInside, "internal")
		if !b.box.through() {
			corner("top", b.on.ID, top, squareInside, "saddle")
		}
	default:
		b.junction("rise", k+1, "external", b.box.Height, line)
		corner("foot", "floor", foot, squareOutside, "external")
		if !b.box.through() {
			corner("top", b.on.ID, top, squareOutside, "external")
		}
	}
}

// lift takes a corner of the floor onto the box that stands in it; where that goes on above the film there
// is none.
func (b *boxed) lift(foot, top Point) {
	i := slices.IndexFunc(b.Area.Corners, func(c Corner) bool { return c.Surface == "floor" && c.At.minus(foot).length() < 1e-6 })
	switch {
	case i < 0:
	case b.box.through():
		b.Area.Corners = slices.Delete(b.Area.Corners, i, i+1)
	default:
		b.Area.Corners[i].Surface, b.Area.Corners[i].At = b.on.ID, top
	}
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
	order.By(list, func(x, y contact) int { return cmp.Compare(x.from, y.from) })
	return list
}
