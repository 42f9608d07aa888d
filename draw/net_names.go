package draw

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"dusha/core/order"
	"dusha/core/wetarea"
)

// drawNames writes each surface's name on it, and its area where there is room; where there is none, beside it.
func (n *net) drawNames() {
	crowded := n.layer("film") && n.in.View.Width < ringsBelowPx // rings fill it; the twin names the walls
	if n.in.View.Width < leastNamesPx || crowded {
		return
	}
	for _, s := range n.in.Area.Surfaces {
		low, high := extent(n.frames[s.ID].all(largest(s.Outlines)))
		if (high[0]-low[0])/n.px >= leastNamedPx || (high[1]-low[1])/n.px >= leastNamedPx { // else the twin says it
			n.nameSurface(s, low, high)
		}
	}
}

const (
	leastNamedPx = 18.0
	namedPlaces  = 7    // tried along and up a surface
	underNamePx  = 24.0 // from the middle of a name to that of the area under it
)

// nameSurface tries a name with the area under it, the name alone, a small one, the letter; each on the surface,
// from its middle outwards. The small one may lie beside it with a leader.
func (n *net) nameSurface(s wetarea.Surface, low, high wetarea.Point) {
	places := n.placesOn(s, low, high)
	name, area := words("drawing.surface", "surface", s.ID), words("drawing.area", "area", s.Area)
	large, under := n.halfOf("name", name.letters(false)), n.halfOf("measure", area.letters(false))
	both := wetarea.Point{max(large[0], under[0]), large[1] + underNamePx/2*n.px}
	half := underNamePx / 2 * n.px
	for _, at := range places {
		if r := around(at, both); n.clear(r) && n.lies(s, r, true) {
			n.take(r)
			n.text("name", wetarea.Point{at[0], at[1] - half + n.foot("name")}, "middle", "drawing.surface", "surface", s.ID)
			n.text("measure", wetarea.Point{at[0], at[1] + half + n.foot("measure")}, "middle", "drawing.area", "area", s.Area)
			return
		}
	}
	type way struct{ style, key string }
	ways := []way{{"name", "drawing.surface"}, {"small_name", "drawing.letter"}}
	pairs := []any{"surface", s.ID}
	letter, wall := strings.CutPrefix(s.ID, "wall.")
	if wall {
		pairs = append(pairs, "letter", letter)
		ways = append(ways, way{"small_name", "drawing.only_letter"})
	}
	for _, w := range ways {
		size := n.halfOf(w.style, words(w.key, pairs...).letters(false))
		for _, at := range places {
			if r := around(at, size); n.clear(r) && n.lies(s, r, w.style == "name") {
				n.take(r)
				n.text(w.style, wetarea.Point{at[0], at[1] + n.foot(w.style)}, "middle", w.key, pairs...)
				return
			}
		}
	}
	if last := ways[len(ways)-1]; len(places) > 0 && (wall || s.Kind == "floor") {
		n.label(last.style, places[:1], places[0], last.key, pairs...)
	}
}

// lies tells whether a label lies on a surface: the whole of it, or its middle line.
func (n *net) lies(s wetarea.Surface, r rect, whole bool) bool {
	f, lines := n.frames[s.ID], []float64{(r.low[1] + r.high[1]) / 2}
	if whole {
		lines = append(lines, r.low[1], r.high[1])
	}
	for _, x := range []float64{r.low[0], (r.low[0] + r.high[0]) / 2, r.high[0]} {
		for _, y := range lines {
			if !s.Contains(f.back(wetarea.Point{x, y})) {
				return false
			}
		}
	}
	return true
}

// placesOn are places on a surface in view, from its middle outwards.
func (n *net) placesOn(s wetarea.Surface, low, high wetarea.Point) []wetarea.Point {
	for k, edge := range [2][2]float64{{n.Box.X, n.Box.X + n.Box.Width}, {n.Box.Y, n.Box.Y + n.Box.Height}} {
		low[k], high[k] = max(low[k], edge[0]), min(high[k], edge[1])
		if low[k] >= high[k] {
			return nil
		}
	}
	var places []wetarea.Point
	for i := range namedPlaces {
		for j := range namedPlaces {
			at := wetarea.Point{low[0] + (high[0]-low[0])*(float64(i)+.5)/namedPlaces, low[1] + (high[1]-low[1])*(float64(j)+.5)/namedPlaces}
			if s.Contains(n.frames[s.ID].back(at)) {
				places = append(places, at)
			}
		}
	}
	middle := wetarea.Point{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}
	far := func(p wetarea.Point) float64 { return math.Hypot(p[0]-middle[0], p[1]-middle[1]) }
	order.By(places, func(a, b wetarea.Point) int { return cmp.Compare(far(a), far(b)) })
	return places
}

// largest is the outline with the greatest area.
func largest(outlines [][]wetarea.Point) []wetarea.Point {
	return slices.MaxFunc(outlines, func(a, b []wetarea.Point) int {
		return cmp.Compare(abs(wetarea.SignedArea(a)), abs(wetarea.SignedArea(b)))
	})
}
