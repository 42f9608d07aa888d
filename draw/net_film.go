package draw

import (
	"cmp"
	"slices"
	"strconv"

	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/order"
	"dusha/core/wetarea"
)

// Marks of readings, px.
const (
	flagHalfPx  = 34.0
	flagFootPx  = 9.0 // from the place to the flag's foot
	flagTopPx   = 34.0
	flagSlotPx  = 6.0
	ringPx      = 15.0
	pileCountPx = 10.0 // radius of the disc that counts a pile, of one digit
	pileDigitPx = 4.0  // what each further digit widens it
	pileAbovePx = 7.0  // its middle over the mark's corner
)

// pile are readings whose marks would lie over each other: one mark stands for them, where the least was read.
type pile struct {
	at     wetarea.Point // the place of the least in the drawing
	middle wetarea.Point // of the mark
	of     []int         // readings, the least first
}

// markSize is half the width and half the height of a reading's mark, mm.
func (n *net) markSize() wetarea.Point {
	if n.rings() {
		return wetarea.Point{ringPx * n.px, ringPx * n.px}
	}
	return wetarea.Point{flagHalfPx * n.px, (flagTopPx - flagFootPx) / 2 * n.px}
}

// rings tells whether there is no room for flags.
func (n *net) rings() bool { return n.in.View.Width < ringsBelowPx }

// markAt is the middle of the mark of a place: a flag over it, or under it where the sheet ends above; what is in
// view stays on the sheet, with its count.
func (n *net) markAt(at wetarea.Point) wetarea.Point {
	seen, half := n.inView(at), n.markSize()
	count := wetarea.Point{(pileCountPx + pileDigitPx) * n.px, (pileCountPx + pileAbovePx) * n.px}
	if !n.rings() {
		away := (flagTopPx + flagFootPx) / 2 * n.px
		if at[1]-away-half[1]-count[1] < n.Box.Y {
			away = -away
		}
		at[1] -= away
	}
	if seen {
		at[0] = min(max(at[0], n.Box.X+half[0]), n.Box.X+n.Box.Width-half[0]-count[0])
		at[1] = min(max(at[1], n.Box.Y+half[1]+count[1]), n.Box.Y+n.Box.Height-half[1])
	}
	return at
}

// piles parts the readings: the least that count are placed first, and each later one goes to the pile whose mark
// it would touch.
func (n *net) piles() []pile {
	readings := n.in.Coat.Readings
	byLeast := make([]int, 0, len(readings))
	for i, r := range readings {
		if _, known := n.frames[r.Surface]; known {
			byLeast = append(byLeast, i)
		}
	}
	order.By(byLeast, func(a, b int) int {
		return cmp.Or(last(readings[a].Superseded)-last(readings[b].Superseded), cmp.Compare(readings[a].Lower, readings[b].Lower))
	})
	half := n.markSize()
	wide, high := 2*half[0]+pileCountPx*n.px, 2*half[1]+(pileCountPx+pileAbovePx)*n.px
	var piles []pile
	for _, i := range byLeast {
		r := readings[i]
		at := n.frames[r.Surface].place(wetarea.Point{r.Along, r.Up})
		middle := n.markAt(at)
		on := slices.IndexFunc(piles, func(p pile) bool {
			return n.inView(p.at) == n.inView(at) && abs(p.middle[0]-middle[0]) < wide && abs(p.middle[1]-middle[1]) < high
		})
		if on >= 0 {
			piles[on].of = append(piles[on].of, i)
		} else {
			piles = append(piles, pile{at, middle, []int{i}})
		}
	}
	return piles
}

// last puts what does not count behind the others.
func last(not bool) int {
	if not {
		return 1
	}
	return 0
}

// takeReadings keeps the places of the marks from other labels.
func (n *net) takeReadings() {
	n.marks = n.piles()
	half := n.markSize()
	for _, p := range n.marks {
		if !n.inView(p.at) {
			continue
		}
		r := around(p.middle, half)
		if len(p.of) > 1 {
			r.low[1] -= (pileCountPx + pileAbovePx) * n.px
			r.high[0] += (pileCountPx + pileDigitPx) * n.px
		}
		n.take(r)
	}
}

// drawReadings flags each reading with its bracket, at its place, or a pile of them with the least.
func (n *net) drawReadings() {
	half := n.markSize()
	for _, p := range n.marks {
		r := n.in.Coat.Readings[p.of[0]]
		pairs := []any{"number", p.of[0] + 1, "surface", r.Surface, "along", r.Along, "up", r.Up, "lower", r.Lower}
		if r.Upper != nil {
			pairs = append(pairs, "upper", *r.Upper)
		}
		if n.inView(p.at) { // else it can be walked to
			n.drawMark(p, r, pairs)
		}
		tap := Tap{ID: "reading." + r.Entry, Kind: "reading", Label: words("twin.reading", pairs...)}
		low := wetarea.Point{p.middle[0] - half[0], p.middle[1] - half[1]}
		if count := len(p.of); count > 1 {
			tap.Label = words("twin.pile", append(pairs, "n", count)...)
			for _, i := range p.of {
				tap.Of = append(tap.Of, n.in.Coat.Readings[i].Entry)
			}
		}
		tap.Label.ID = tap.ID
		// As large as it is drawn and no larger: the surface round it stays free for new spots.
		tap.Outline = box(low[0], low[1], 2*half[0], 2*half[1])
		n.Taps = append(n.Taps, tap)
		n.Twin = append(n.Twin, tap.Label)
	}
}

// drawMark draws a reading's mark, and how many lie in it.
func (n *net) drawMark(p pile, r logbook.Reading, pairs []any) {
	style, half := "", n.markSize()
	if r.Lower < n.in.Coat.Least {
		style = "_thin"
	}
	word := wetarea.Point{p.middle[0], p.middle[1] + n.foot("flag_text")}
	if n.rings() {
		n.disc("ring"+style, p.middle, half[0])
		n.text("flag_text", word, "middle", "drawing.lower", "lower", r.Lower)
	} else {
		n.flag("flag"+style, p)
		n.text("flag_text", word, "middle", "drawing.bracket", pairs...)
	}
	if count := len(p.of); count > 1 {
		corner := wetarea.Point{p.middle[0] + half[0], p.middle[1] - half[1] - pileAbovePx*n.px}
		digits := float64(len(strconv.Itoa(count)))
		n.disc("pile", corner, (pileCountPx+pileDigitPx*(digits-1))*n.px)
		n.text("flag_text", wetarea.Point{corner[0], corner[1] + n.foot("flag_text")}, "middle", "drawing.number", "number", count)
	}
}

// flag draws a mark with its tip on the place.
func (n *net) flag(style string, p pile) {
	half, slot := n.markSize(), flagSlotPx*n.px
	foot, top := p.middle[1]+half[1], p.middle[1]-half[1]
	if p.at[1] < p.middle[1] {
		foot, top = top, foot
	}
	left, right := p.middle[0]-half[0], p.middle[0]+half[0]
	stem := min(max(p.at[0], left+slot), right-slot)
	n.path(style, true, wetarea.Point{left, top}, wetarea.Point{right, top}, wetarea.Point{right, foot},
		wetarea.Point{stem + slot, foot}, p.at, wetarea.Point{stem - slot, foot}, wetarea.Point{left, foot})
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

// takeSpot keeps the place of the spot that is tapped from labels.
func (n *net) takeSpot() {
	if at, seen := n.spot(); seen {
		n.take(around(at, wetarea.Point{spotPx * n.px, spotPx * n.px}))
	}
}

// spot is where a reading is about to be taken, in the drawing.
func (n *net) spot() (at wetarea.Point, seen bool) {
	if n.in.Spot == nil {
		return at, false
	}
	f, known := n.frames[n.in.Spot.Surface]
	if !known {
		return at, false
	}
	return f.place(wetarea.Point{n.in.Spot.Along, n.in.Spot.Up}), true
}

func (n *net) drawSpot() {
	at, seen := n.spot()
	if !seen {
		return
	}
	n.disc("spot", at, 11*n.px)
	n.path("spot_hair", false, wetarea.Point{at[0] - spotPx*n.px, at[1]}, wetarea.Point{at[0] + spotPx*n.px, at[1]})
	n.path("spot_hair", false, wetarea.Point{at[0], at[1] - spotPx*n.px}, wetarea.Point{at[0], at[1] + spotPx*n.px})
}
