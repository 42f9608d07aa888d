package draw

import (
	"cmp"
	"slices"
	"strings"

	"dusha/core/wetarea"
)

// drawNames writes each surface's name, and its area where there is room, where it covers
// no fitting and no reading.
func (n *net) drawNames() {
	crowded := n.layer("film") && n.in.View.Width < ringsBelowPx // rings fill it; the twin names the walls
	if n.in.View.Width < leastNamesPx || crowded {
		return
	}
	taken := n.takenPlaces()
	for _, s := range n.in.Area.Surfaces {
		low, high := extent(n.frames[s.ID].all(largest(s.Outlines)))
		wide, tall := (high[0]-low[0])/n.px, (high[1]-low[1])/n.px
		if wide < 18 || tall < 16 {
			continue // the twin still says it
		}
		on := func(p wetarea.Point) bool { return s.Contains(n.frames[s.ID].back(p)) }
		at := n.clearest(low, high, taken, on)
		if wide < 110 || tall < 60 {
			if s.Kind != "wall" && s.Kind != "floor" && wide < 110 {
				continue
			}
			if letter, wall := strings.CutPrefix(s.ID, "wall."); wall && wide < 72 {
				n.text("small_name", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.only_letter", "letter", letter)
				continue
			}
			n.text("small_name", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.letter", "surface", s.ID)
			continue
		}
		n.text("name", at, "middle", "drawing.surface", "surface", s.ID)
		n.text("measure", wetarea.Point{at[0], at[1] + 22*n.px}, "middle", "drawing.area", "area", s.Area)
	}
}

// largest is the outline with the greatest area.
func largest(outlines [][]wetarea.Point) []wetarea.Point {
	return slices.MaxFunc(outlines, func(a, b []wetarea.Point) int {
		return cmp.Compare(abs(wetarea.SignedArea(a)), abs(wetarea.SignedArea(b)))
	})
}

// takenPlaces are the points that a name should not cover.
func (n *net) takenPlaces() []wetarea.Point {
	var taken []wetarea.Point
	for _, p := range n.in.Area.Penetrations {
		taken = append(taken, n.frames[p.Surface].place(p.At))
	}
	for _, t := range n.tags {
		taken = append(taken, t.at)
	}
	if n.layer("dims") {
		inside := append(n.doorwayDimension(dimensionPx*n.px), n.partDimensions()...)
		if len(n.in.Area.Room.Edges) == 0 { // the diameter lies across a round floor
			floor := n.in.Area.Surfaces[0]
			taken = append(taken, n.frames[floor.ID].place(wetarea.Point{floor.Length / 2, floor.Height / 2}))
		}
		for _, d := range inside {
			taken = append(taken, wetarea.Point{(d.from[0] + d.to[0]) / 2, (d.from[1] + d.to[1]) / 2})
		}
	}
	if n.in.Coat == nil || !n.layer("film") {
		return taken
	}
	for _, r := range n.in.Coat.Readings {
		if f, known := n.frames[r.Surface]; known {
			at := f.place(wetarea.Point{r.Along, r.Up})
			taken = append(taken, wetarea.Point{at[0], at[1] - 20*n.px})
		}
	}
	return taken
}

// clearest is the first of a few places in a box, its middle first, that lies on the surface
// and keeps clear of what is taken; where none does, the one that keeps farthest away.
func (n *net) clearest(low, high wetarea.Point, taken []wetarea.Point, on func(wetarea.Point) bool) wetarea.Point {
	const clearPx = 62
	best, bestGap := wetarea.Point{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}, -1.0
	for _, share := range []wetarea.Point{{.5, .5}, {.5, .3}, {.5, .75}, {.28, .5}, {.72, .5}, {.28, .25}, {.72, .25}, {.28, .8}, {.72, .8}, {.5, .12}, {.5, .9}} {
		at := wetarea.Point{low[0] + share[0]*(high[0]-low[0]), low[1] + share[1]*(high[1]-low[1])}
		if side := 30 * n.px; !on(at) || !on(wetarea.Point{at[0] - side, at[1]}) || !on(wetarea.Point{at[0] + side, at[1]}) {
			continue
		}
		gap := 1e9
		for _, t := range taken {
			gap = min(gap, max(abs(t[0]-at[0])/1.3, abs(t[1]-at[1]-8*n.px)*1.6))
		}
		if gap > clearPx*n.px {
			return at
		}
		if gap > bestGap {
			best, bestGap = at, gap
		}
	}
	return best
}
