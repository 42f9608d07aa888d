package draw

import (
	"math"

	"dusha/core/cutting"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// RollsInputs ask for the rolls of one product with the pieces cut from them.
type RollsInputs struct {
	Work  cutting.Work   `json:"work"`
	Wants []takeoff.Want `json:"wants"`          // what the pieces are for
	Lit   string         `json:"lit,omitempty"`  // id of the want that is touched
	Next  string         `json:"next,omitempty"` // id of the piece to cut next
	View  View           `json:"view"`
	Bare  bool           `json:"bare,omitempty"` // without the line of words over each roll
}

// Room of a roll, px.
const (
	rollHead   = 30.0  // its line of words
	rollTall   = 46.0  // of the band itself
	rollGap    = 18.0  // to the next
	rollSlant  = 12.0  // of a cut
	rollScale  = 0.17  // px a mm at least
	mostScale  = 0.3   // px a mm at most for the sake of short pieces
	rollWord   = 108.0 // a piece as long takes its length beside its number
	breakPx    = 74.0  // from the middle of a piece to where it is drawn broken
	rollNumber = 11.0  // a figure of its number, and once more for what is round it
	rollSmall  = 16.0  // over a roll for the numbers of short pieces
)

// Rolls draws every roll to scale, its pieces in cutting order with slanted cuts. A roll longer than
// the sheet runs on below, whole pieces a line; a piece longer than the sheet is drawn broken.
func Rolls(in RollsInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	longest := 0
	for _, roll := range in.Work.Rolls {
		longest = max(longest, roll.Length)
	}
	left, wide := 2.0, in.View.Width-4-rollSlant
	scale := max(rollScale, wide/float64(max(1, longest)), in.apart())
	y := 4.0
	for i, roll := range in.Work.Rolls {
		key := "rolls.roll"
		if roll.Offcut >= 0 {
			key = "rolls.offcut"
		}
		if in.Bare {
			y += rollSmall
		} else {
			d.text("roll_head", wetarea.Point{left, y + rollHead - 9}, "start", key, "roll", i+1, "length", float64(roll.Length), "rest", float64(roll.Rest))
			y += rollHead
		}
		x := 0.0
		lines := 0
		newLine := func() {
			x, lines = 0, lines+1
			y += rollTall + rollSmall
		}
		for _, p := range roll.Pieces {
			w := float64(p.Length) * scale
			if x > 0 && x+min(w, wide) > wide+0.5 {
				newLine()
			}
			d.rollPiece(in, i, p, left+x, y, min(w, wide), w > wide+0.5, x == 0 && lines == 0)
			x += min(w, wide)
		}
		if roll.Rest > 0 {
			w := float64(roll.Rest) * scale
			if x > 0 && x+min(w, 60) > wide+0.5 {
				newLine()
			}
			w = min(w, wide-x)
			d.path("roll_rest", true, slanted(left+x, y, w, x == 0, true)...)
			if w > rollWord+rollSlant {
				d.text("roll_word", wetarea.Point{left + x + w/2 + rollSlant/2, y + rollTall/2 + 6}, "middle", "rolls.rest", "length", float64(roll.Rest))
			}
			d.Twin = append(d.Twin, words("twin.rolls.rest", "roll", i+1, "length", float64(roll.Rest)))
		}
		y += rollTall + rollGap
	}
	d.Box.Height = max(y, 1)
	d.linkWalks()
	return d, nil
}

// apart is the scale at which the numbers over short pieces stand apart, px a mm.
func (in RollsInputs) apart() float64 {
	const figure, gap = 9, 6
	scale := 0.0
	for _, roll := range in.Work.Rolls {
		for _, p := range roll.Pieces {
			scale = max(scale, float64(figure*len(p.Label)+gap)/float64(max(1, p.Length)))
		}
	}
	return min(scale, mostScale)
}

// slanted is a stretch of a band between two slanted cuts; a roll's own end is square.
func slanted(x, y, w float64, first, last bool) []wetarea.Point {
	from, to := rollSlant, rollSlant
	if first {
		from = 0
	}
	if last {
		to = 0
	}
	return []wetarea.Point{{x + from, y}, {x + w + to, y}, {x + w, y + rollTall}, {x, y + rollTall}}
}

// rollPiece draws one piece with its number, and its length where there is room.
func (d *Drawing) rollPiece(in RollsInputs, roll int, p cutting.WorkPiece, x, y, w float64, broken, first bool) {
	style := "roll_" + p.State
	if p.ID == in.Next && p.State == cutting.ToCut {
		style = "roll_next"
	}
	outline := slanted(x, y, w, first, false)
	d.path(style, true, outline...)
	var want takeoff.Want
	if p.Run >= 0 && p.Run < len(in.Wants) {
		want = in.Wants[p.Run]
	}
	if in.Lit != "" && want.ID == in.Lit {
		d.path("roll_lit", true, outline...)
	}
	d.rollInside(want, p, x, y, w, broken)
	middle := x + w/2 + rollSlant/2
	if broken { // what is left out of a long piece
		for _, k := range []float64{-5, 5} {
			d.path("roll_break", false, wetarea.Point{middle + breakPx + k - 6, y + rollTall + 3}, wetarea.Point{middle + breakPx + k + 6, y - 3})
		}
	}
	word := "roll_word"
	switch style {
	case "roll_cut":
		word = "roll_word_on"
	case "roll_next":
		word = "roll_word_next"
	}
	switch at := (wetarea.Point{middle, y + rollTall/2 + 7}); {
	case w >= rollWord:
		d.text(word, at, "middle", "rolls.piece", "label", p.Label, "length", float64(p.Length))
	case w >= rollNumber*float64(1+len(p.Label)):
		d.text(word, at, "middle", "rolls.label", "label", p.Label)
	default:
		d.text("roll_small", wetarea.Point{middle, y - 3}, "middle", "rolls.label", "label", p.Label)
	}
	say := words("twin.rolls.piece", "label", p.Label, "length", float64(p.Length), "place", want.Place, "roll", roll+1, "state", p.State, "kind", want.Kind)
	say.ID = p.ID
	if p.State == cutting.Spoilt {
		say.ID = ""
	} else {
		least := touchPx
		reach := math.Max(0, (least-w)/2)
		d.Taps = append(d.Taps, Tap{ID: p.ID, Kind: "piece", Label: say, Outline: box(x-reach, y-5, w+2*reach, rollTall+10)})
	}
	d.Twin = append(d.Twin, say)
}

// rollInside draws what is cut out of a piece or into it: openings for pipes where they are, the
// hole of a patch, the slit of a corner to fold. A piece that is drawn broken has no places.
func (d *Drawing) rollInside(want takeoff.Want, p cutting.WorkPiece, x, y, w float64, broken bool) {
	middle := wetarea.Point{x + w/2 + rollSlant/2, y + rollTall/2}
	switch {
	case want.Disc > 0 && want.Length > 0:
		d.disc("roll_hole", middle, min(w, rollTall)/2*want.Disc/want.Length)
	case want.Kind == "fold":
		d.path("roll_slit", false, middle, wetarea.Point{middle[0] - rollSlant/2, y + rollTall})
	case want.Strip != nil && !broken && p.Length > 0 && want.Width > 0:
		for _, h := range want.Strip.Holes {
			at := wetarea.Point{x + rollSlant/2 + w*h.Along/float64(p.Length), y + rollTall*(1-h.Across/want.Width)}
			d.disc("roll_hole", at, max(4, rollTall/2*h.Diameter/want.Width))
		}
	}
}

// Sewn is a piece of a fleece, mesh or sheet, or a seam, as it is shown on the net.
type Sewn struct {
	Want  takeoff.Want
	State string // "to_cut", "cut", "next" or "lit"
}

// drawSewn lays strips, patches and seams on their surfaces, each with its number.
func (n *net) drawSewn() {
	for _, piece := range n.in.Sewn {
		w := piece.Want
		switch {
		case w.Strip != nil:
			f, known := n.frames[w.Strip.Surface]
			if !known {
				continue
			}
			a, b := w.Strip.From, w.Strip.To
			corners := f.all([]wetarea.Point{a, {b[0], a[1]}, b, {a[0], b[1]}})
			n.path("strip_"+piece.State, true, corners...)
			for _, h := range w.Strip.Holes {
				axis := 0
				if w.Strip.Along == "y" {
					axis = 1
				}
				at := a
				at[axis], at[1-axis] = a[axis]+h.Along, a[1-axis]+h.Across
				n.disc("strip_hole", f.place(at), max(h.Diameter/2, leastRingPx*n.px/2))
			}
			n.sewnTap(w, piece.State, centre(corners), "length", w.Length, "width", w.Width, "layer", w.Strip.Layer, "holes", len(w.Strip.Holes))
		case w.Seam != nil:
			f, known := n.frames[w.Seam.Surface]
			if !known {
				continue
			}
			a, b := f.place(w.Seam.From), f.place(w.Seam.To)
			n.path("seam_"+piece.State, false, a, b)
			n.sewnTap(w, piece.State, wetarea.Point{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2}, "length", w.Length)
		}
	}
}

func (n *net) sewnTap(w takeoff.Want, state string, at wetarea.Point, pairs ...any) {
	say := words("twin.sewn."+w.Kind, append(pairs, "number", w.Number, "place", w.Place, "state", state)...)
	say.ID = w.ID
	belongs := at
	at = n.besides(at)
	half := touchPx / 2 * n.px
	n.Taps = append(n.Taps, Tap{ID: w.ID, Kind: "piece", Label: say, Outline: box(at[0]-half, at[1]-half, 2*half, 2*half)})
	look := map[string]string{"cut": "bedded", "next": "next", "lit": "next"}[state]
	if look == "" {
		look = "open"
	}
	n.tags = append(n.tags, tag{at, belongs, w.Number, look})
	n.Twin = append(n.Twin, say)
}
