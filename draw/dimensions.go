package draw

import (
	"math"
	"slices"
	"strings"

	"dusha/core/order"
	"dusha/core/wetarea"
)

// dimension is one measured length on the drawing; its id is the question that asked it.
type dimension struct {
	id       string
	from, to wetarea.Point // of the dimension line
	value    float64       // mm
	out      wetarea.Point // away from the net, where a label goes that the line is too short for
}

// drawDimensions draws the room's measures beside the edges they belong to. The one that
// is being asked is drawn as such; one not yet known shows that it is missing.
func (n *net) drawDimensions() {
	all := n.dimensions()
	// The one that is asked has the first choice of a place, then those that are missing.
	rank := func(d dimension) int {
		switch {
		case d.id == n.in.Asking:
			return 0
		case slices.Contains(n.in.Missing, d.id):
			return 1
		}
		return 2
	}
	order.By(all, func(a, b dimension) int { return rank(a) - rank(b) })
	for _, d := range all {
		if d.id != n.in.Asking && n.in.View.Height < leastDimsPx {
			continue // a strip over the keys of a phone shows what is asked alone
		}
		n.drawDimension(d, slices.Contains(n.in.Missing, d.id))
	}
}

func (n *net) drawDimension(d dimension, missing bool) {
	style := "dimension"
	if d.id == n.in.Asking {
		style = "dimension_asked"
	}
	n.path(style, false, d.from, d.to)
	for _, end := range []wetarea.Point{d.from, d.to} {
		t := tickPx * n.px
		n.path("tick", false, wetarea.Point{end[0] - t, end[1] + t}, wetarea.Point{end[0] + t, end[1] - t})
	}
	n.labelDimension(d, missing)
}

func (n *net) labelDimension(d dimension, missing bool) {
	middle := between(d.from, d.to, .5)
	half := wetarea.Point{max(34*n.px, n.halfOf("dimension_text", words("drawing.length", "mm", d.value).letters(n.in.Wide))[0]), 14 * n.px}
	// On its line, farther along it, or beside it; where the line is too short, beside it first.
	beside := func(by float64) wetarea.Point {
		return add(middle, wetarea.Point{d.out[0] * (half[0] + by*n.px), d.out[1] * (half[1] + by*n.px)})
	}
	wished := []wetarea.Point{middle, between(d.from, d.to, .3), between(d.from, d.to, .7), beside(tickPx), beside(3 * tickPx), beside(-half[1]/n.px - 3*tickPx)}
	if abs(d.to[0]-d.from[0]) < 2*half[0] && abs(d.to[1]-d.from[1]) < 2*half[1]+tickPx*n.px {
		wished = []wetarea.Point{beside(tickPx), beside(3 * tickPx), middle}
	}
	at, placed := middle, false
	if n.inView(middle) {
		at, placed = n.settle(half, wished...)
		if !placed && d.id == n.in.Asking {
			placed = true // what is asked is shown, whatever it lies over
		}
	}
	say := words("twin.dimension", "question", d.id, "mm", d.value)
	key := "drawing.length"
	if missing {
		say.Key, key = "twin.missing", "drawing.missing"
	}
	style := "plate"
	switch {
	case d.id == n.in.Asking:
		style = "plate_asked"
	case missing:
		style = "plate_missing"
	}
	if placed {
		n.tie(at, half, middle)
		n.path(style, true, box(at[0]-half[0], at[1]-half[1], 2*half[0], 2*half[1])...)
		n.text("dimension_text", wetarea.Point{at[0], at[1] + n.foot("dimension_text")}, "middle", key, "mm", d.value)
	}
	reach := wetarea.Point{max(touchPx/2*n.px, half[0]), touchPx / 2 * n.px}
	n.Taps = append(n.Taps, Tap{
		ID: "ask." + d.id, Kind: "dimension", Label: say,
		Outline: box(at[0]-reach[0], at[1]-reach[1], 2*reach[0], 2*reach[1]),
	})
	say.ID = "ask." + d.id
	n.Twin = append(n.Twin, say)
}

// dimensions lists what is measured: each wall's length beyond its top and its height at its
// right end, the widths of openings and niches, the measures of a tank or basin, and the place
// of the fitting that is being asked. Only what the form asks is drawn.
func (n *net) dimensions() []dimension {
	away := dimensionPx * n.px
	var list []dimension
	for _, s := range n.in.Area.Surfaces {
		if s.Kind != "wall" {
			continue
		}
		f, wall := n.frames[s.ID], strings.TrimPrefix(s.ID, "wall.")
		low := s.Height
		for _, p := range s.Outlines[0] {
			low = min(low, p[1])
		}
		side := f.place(wetarea.Point{s.Length, low})
		rise := f.place(wetarea.Point{s.Length, s.Height})
		shift := wetarea.Point{f.right[0] * away, f.right[1] * away}
		for _, id := range []string{"walls." + wall + ".height", "height", "tank_height", "freeboard"} {
			if id == "walls."+wall+".height" || wall == "a" && n.asks(id) && !(id == "height" && n.asks("walls.a.height")) {
				list = append(list, dimension{id: id, from: add(side, shift), to: add(rise, shift), value: s.Height - low, out: f.right})
			}
		}
		over := s.Height + away
		for _, id := range []string{"walls." + wall + ".length", map[string]string{"a": "length", "b": "width"}[wall]} {
			if id != "" {
				list = append(list, dimension{id: id, from: f.place(wetarea.Point{0, over}), to: f.place(wetarea.Point{s.Length, over}), value: s.Length, out: f.up})
			}
		}
	}
	list = append(list, n.edgeDimensions(away)...)
	if len(n.in.Area.Room.Edges) == 0 { // a round floor
		s, f := n.in.Area.Surfaces[0], n.frames["floor"]
		list = append(list, dimension{id: "diameter", from: f.place(wetarea.Point{0, s.Height / 2}), to: f.place(wetarea.Point{s.Length, s.Height / 2}), value: s.Length, out: f.up})
	}
	list = append(append(append(list, n.doorwayDimension(away)...), n.partDimensions()...), n.fittingDimension()...)
	return slices.DeleteFunc(list, func(d dimension) bool { return !n.asks(d.id) })
}

// edgeDimensions are the lengths of the edges that carry no wall, beside the floor.
func (n *net) edgeDimensions(away float64) []dimension {
	var list []dimension
	room := n.in.Area.Room
	f, known := n.frames["floor"]
	for i, e := range room.Edges {
		if !known || e.Kind == "wall" || len(room.Vertices) == 0 {
			continue
		}
		a, b := f.place(room.Vertices[i]), f.place(room.Vertices[(i+1)%len(room.Vertices)])
		dx, dy := b[0]-a[0], b[1]-a[1]
		length := math.Hypot(dx, dy)
		if length == 0 {
			continue
		}
		out := wetarea.Point{-dy / length, dx / length} // counter-clockwise in plan: outside is to the right, y down
		shift := wetarea.Point{out[0] * away, out[1] * away}
		list = append(list, dimension{id: "walls." + e.Name + ".length", from: add(a, shift), to: add(b, shift), value: length, out: out})
	}
	return list
}

// asks tells whether a form has a question; without a form all count.
func (n *net) asks(id string) bool {
	if len(n.in.Asked) == 0 {
		return !strings.HasSuffix(id, ".length") && !slices.Contains([]string{"height", "tank_height", "freeboard"}, id)
	}
	return slices.Contains(n.in.Asked, id)
}

// partDimensions are the widths of openings and niches, on their walls.
func (n *net) partDimensions() []dimension {
	var list []dimension
	if n.in.View.Width < ringsBelowPx && n.in.Zoom <= 1 { // no room for them
		return nil
	}
	room := n.in.Area.Room
	width := func(id string, edge int, from, width, up float64) {
		f, known := n.frames["wall."+room.Edges[edge].Name]
		if !known {
			return
		}
		s, _ := n.in.Area.Surface("wall." + room.Edges[edge].Name)
		left := s.Length - from - width
		list = append(list, dimension{id: id, from: f.place(wetarea.Point{left, up}), to: f.place(wetarea.Point{left + width, up}), value: width, out: f.up})
	}
	for _, o := range room.Openings {
		if o.ID != "" {
			width("openings."+o.ID+".width", o.Edge, o.From, o.Width, o.Sill+min(o.Height, 300)/2)
		}
	}
	for _, c := range room.Niches {
		width("niches."+c.ID+".width", c.Edge, c.From, c.Width, c.Sill+c.Height/2)
	}
	return list
}

func add(a, b wetarea.Point) wetarea.Point { return wetarea.Point{a[0] + b[0], a[1] + b[1]} }

func (n *net) doorwayDimension(away float64) []dimension {
	for _, j := range n.in.Area.Junctions {
		if j.Kind != "threshold" {
			continue
		}
		line := n.strip(j.Lines[0], away)
		return []dimension{{id: "doorway.width", from: line[3], to: line[2], value: j.Length}}
	}
	return nil
}

// fittingDimension is the length being asked for a drain or a pipe, drawn to the edge it
// is measured from.
func (n *net) fittingDimension() []dimension {
	part := strings.Split(n.in.Asking, ".")
	var id, way string
	switch {
	case len(part) == 3 && part[0] == "fittings":
		id, way = "fitting."+part[1], part[2]
		if i := slices.IndexFunc(n.in.Area.Penetrations, func(p wetarea.Penetration) bool { return p.ID == id }); i < 0 || n.in.Area.Penetrations[i].Surface == "floor" {
			return nil // on a floor it is measured from a wall; its place shows it
		}
	case part[0] == "drain" && len(part) == 2:
		id, way = "drain.1", part[1]
	case part[0] == "pipes" && len(part) == 3:
		id, way = "pipe."+part[1], part[2]
	}
	i := slices.IndexFunc(n.in.Area.Penetrations, func(p wetarea.Penetration) bool { return p.ID == id })
	if i < 0 {
		return nil
	}
	p := n.in.Area.Penetrations[i]
	f := n.frames[p.Surface]
	s, _ := n.in.Area.Surface(p.Surface)
	from := p.At
	switch {
	case way == "from_d" || way == "along":
		from[0] = 0
	case way == "from_a" || way == "up" && p.Surface == "floor":
		from[1] = s.Height
	case way == "up":
		from[1] = 0
	default:
		return nil
	}
	return []dimension{{id: n.in.Asking, from: f.place(from), to: f.place(p.At), value: abs(p.At[0]-from[0]) + abs(p.At[1]-from[1])}}
}
