package wetarea

import (
	"cmp"
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
