package draw

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"dusha/core/wetarea"
)

// Labels are placed, not put: each takes a clear place, what matters most first, and none lies over another or
// over the edge of the sheet. What moved away from where it belongs is tied to it by a leader; what finds no
// place is left to the twin and to the scale of a nearer look.

// lettering is how large a writer sets a style: the letters' height, px, and the width of one over it.
type lettering struct{ size, wide float64 }

// The faces are wider in other tongues and on paper; a fifth is left for that.
var letterings = map[string]lettering{
	"name": {22, .66}, "small_name": {16, .66}, "measure": {17, .62}, "dimension_text": {17, .64},
	"number": {17, .64}, "number_here": {17, .64}, "flag_text": {15, .62},
}

// rect is what a label takes of the drawing, mm.
type rect struct{ low, high wetarea.Point }

func around(at, half wetarea.Point) rect {
	return rect{wetarea.Point{at[0] - half[0], at[1] - half[1]}, wetarea.Point{at[0] + half[0], at[1] + half[1]}}
}

func (r rect) over(o rect) bool {
	return r.low[0] < o.high[0] && o.low[0] < r.high[0] && r.low[1] < o.high[1] && o.low[1] < r.high[1]
}

// halfOf is half the width and half the height of letters in a style, mm.
func (n *net) halfOf(style string, letters int) wetarea.Point {
	l := letterings[style]
	return wetarea.Point{(l.size*l.wide*float64(letters)/2 + 2) * n.px, (l.size*.45 + 1) * n.px}
}

// foot is how far under the middle of letters their foot is, mm.
func (n *net) foot(style string) float64 { return letterings[style].size * .35 * n.px }

// letters counts what a wording of the drawing comes to.
func (s Say) letters(wide bool) int {
	number := func(name string) float64 {
		switch v := s.Args[name].(type) {
		case float64:
			return v
		case int:
			return float64(v)
		}
		return 0
	}
	switch s.Key {
	case "drawing.surface", "drawing.letter":
		return len(nameOf(fmt.Sprint(s.Args["surface"])))
	case "drawing.only_letter":
		return len(fmt.Sprint(s.Args["letter"]))
	case "drawing.area":
		return len(strconv.FormatFloat(number("area"), 'f', 2, 64)) + len(" m2")
	case "drawing.length":
		if wide {
			return len("10' 10 1/2\"")
		}
		return len(strconv.FormatFloat(number("mm")/1000, 'f', 2, 64))
	case "drawing.number":
		return len(strconv.Itoa(int(number("number"))))
	case "drawing.bracket":
		return len("1.2-1.3")
	case "drawing.lower":
		return len("1.2")
	case "drawing.fall":
		return len("1 : ") + len(strconv.Itoa(int(math.Round(number("n")))))
	case "drawing.no_fall":
		return len("no fall")
	case "drawing.mm":
		return len(strconv.Itoa(int(number("mm")))) + len(" mm")
	}
	return 1
}

// nameOf is about what a surface is called.
func nameOf(surface string) string {
	name := strings.ReplaceAll(surface, ".", " ")
	if strings.HasPrefix(name, "box") || strings.HasPrefix(name, "soffit") {
		name += "  " // a bench, a step; a ceiling
	}
	return name
}

// take keeps a place from what is placed later.
func (n *net) take(r rect) { n.taken = append(n.taken, r) }

// clear tells whether a place lies on the sheet and over nothing that is taken.
func (n *net) clear(r rect) bool {
	edge := n.px
	if r.low[0] < n.Box.X+edge || r.low[1] < n.Box.Y+edge || r.high[0] > n.Box.X+n.Box.Width-edge || r.high[1] > n.Box.Y+n.Box.Height-edge {
		return false
	}
	for _, t := range n.taken {
		if r.over(t) {
			return false
		}
	}
	return true
}

// inView tells whether a point lies on the sheet.
func (n *net) inView(p wetarea.Point) bool {
	return p[0] >= n.Box.X && p[1] >= n.Box.Y && p[0] <= n.Box.X+n.Box.Width && p[1] <= n.Box.Y+n.Box.Height
}

const (
	ringStepPx  = 14.0
	mostRings   = 14
	waysRound   = 16
	leaderPx    = 34.0 // moved farther, a label is tied to where it belongs
	outOfTheWay = 4.0  // between a leader's end and its label, px
)

// settle finds a place for a label and takes it: the first of those wished for that is clear, else the nearest
// one round the first. ok is false where there is none.
func (n *net) settle(half wetarea.Point, wished ...wetarea.Point) (at wetarea.Point, ok bool) {
	for _, at := range wished {
		if r := around(at, half); n.clear(r) {
			n.take(r)
			return at, true
		}
	}
	for ring := 1.0; ring <= mostRings; ring++ {
		for way := range waysRound {
			sin, cos := math.Sincos(2 * math.Pi * float64(way) / waysRound)
			at := add(wished[0], wetarea.Point{ring * ringStepPx * cos * n.px, ring * ringStepPx * sin * n.px})
			if r := around(at, half); n.clear(r) {
				n.take(r)
				return at, true
			}
		}
	}
	return wished[0], false
}

// tie draws a leader from a label to where it belongs, where it was moved far away.
func (n *net) tie(label, half, to wetarea.Point) {
	away := wetarea.Point{to[0] - label[0], to[1] - label[1]}
	long := math.Hypot(away[0], away[1])
	if long < leaderPx*n.px {
		return
	}
	// It ends at the label's box.
	share := 1.0
	for k := range away {
		if away[k] != 0 {
			share = min(share, (half[k]+outOfTheWay*n.px)/abs(away[k]))
		}
	}
	n.path("leader", false, wetarea.Point{label[0] + away[0]*share, label[1] + away[1]*share}, to)
}

// label places letters and writes them; false where they found no place.
func (n *net) label(style string, wished []wetarea.Point, to wetarea.Point, key string, pairs ...any) bool {
	half := n.halfOf(style, words(key, pairs...).letters(n.in.Wide))
	at, ok := n.settle(half, wished...)
	if ok {
		n.tie(at, half, to)
		n.text(style, wetarea.Point{at[0], at[1] + n.foot(style)}, "middle", key, pairs...)
	}
	return ok
}
