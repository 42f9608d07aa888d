package draw

import (
	"dusha/core/film"
	"dusha/core/wetarea"
)

// drawReadings flags each reading with its bracket, at its place.
func (n *net) drawReadings() {
	for i, r := range n.in.Coat.Readings {
		f, known := n.frames[r.Surface]
		if !known {
			continue
		}
		at := f.place(wetarea.Point{r.Along, r.Up})
		pairs := []any{"number", i + 1, "surface", r.Surface, "along", r.Along, "up", r.Up, "lower", r.Lower}
		if r.Upper != nil {
			pairs = append(pairs, "upper", *r.Upper)
		}
		half, top, foot := 34*n.px, at[1]-34*n.px, at[1]-9*n.px
		thin := r.Lower < n.in.Coat.Least
		if n.in.View.Width < ringsBelowPx {
			half, top, foot = 15*n.px, at[1]-15*n.px, at[1]+15*n.px
			n.ring(at, half, thin, r.Lower)
		} else {
			n.flag(at, half, thin, pairs)
		}
		say := words("twin.reading", pairs...)
		say.ID = "reading." + r.Entry
		// As large as it is drawn and no larger: the surface round it stays free for new spots.
		n.Taps = append(n.Taps, Tap{ID: say.ID, Kind: "reading", Label: say, Outline: box(at[0]-half, top, 2*half, foot-top)})
		n.Twin = append(n.Twin, say)
	}
}

// drawNext marks where each surface that wants more readings is read next.
func (n *net) drawNext() {
	for _, s := range n.in.Coat.Surfaces {
		f, known := n.frames[s.Surface]
		wants := s.Film.Says == film.TooFew && s.Laid
		if !known || !wants || s.Unread.At == nil {
			continue
		}
		n.disc("next", f.place(*s.Unread.At), 9*n.px)
		n.Twin = append(n.Twin, words("twin.next", "surface", s.Surface, "along", s.Unread.At[0], "up", s.Unread.At[1]))
	}
}

// ring is a reading where there is no room for a flag: its lower value alone.
func (n *net) ring(at wetarea.Point, radius float64, thin bool, lower float64) {
	style := "ring"
	if thin {
		style = "ring_thin"
	}
	n.disc(style, at, radius)
	n.text("flag_text", wetarea.Point{at[0], at[1] + 5*n.px}, "middle", "drawing.lower", "lower", lower)
}

// flag is a reading with its bracket, standing on its place.
func (n *net) flag(at wetarea.Point, half float64, thin bool, pairs []any) {
	style := "flag"
	if thin {
		style = "flag_thin"
	}
	top, foot, slot := at[1]-34*n.px, at[1]-9*n.px, 6*n.px
	n.path(style, true, wetarea.Point{at[0] - half, top}, wetarea.Point{at[0] + half, top}, wetarea.Point{at[0] + half, foot},
		wetarea.Point{at[0] + slot, foot}, at, wetarea.Point{at[0] - slot, foot}, wetarea.Point{at[0] - half, foot})
	n.text("flag_text", wetarea.Point{at[0], at[1] - 16*n.px}, "middle", "drawing.bracket", pairs...)
}

func (n *net) drawSpot() {
	if n.in.Spot == nil {
		return
	}
	f, known := n.frames[n.in.Spot.Surface]
	if !known {
		return
	}
	at := f.place(wetarea.Point{n.in.Spot.Along, n.in.Spot.Up})
	n.disc("spot", at, 11*n.px)
	n.path("spot_hair", false, wetarea.Point{at[0] - 20*n.px, at[1]}, wetarea.Point{at[0] + 20*n.px, at[1]})
	n.path("spot_hair", false, wetarea.Point{at[0], at[1] - 20*n.px}, wetarea.Point{at[0], at[1] + 20*n.px})
}
