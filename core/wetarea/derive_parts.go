package wetarea

import "fmt"

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
