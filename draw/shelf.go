package draw

import (
	"math"
	"unicode/utf8"

	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// ShelfInputs ask for a shopping list as a shelf: a board for each product, its packs on it.
type ShelfInputs struct {
	Lines []takeoff.Shopping `json:"lines"`
	Lit   string             `json:"lit,omitempty"` // id of the line that is touched
	View  View               `json:"view"`
}

// Room on a shelf, px.
const (
	boardWide, boardNarrow = 96.0, 156.0 // from board to board
	narrowShelf            = 560.0       // a narrower one has the names over the packs
	tallestPack            = 62.0
	smallestPack           = 16.0
	shelfLetter            = 9.8  // of a name, about
	mostNames              = 0.66 // of the sheet's width
	mostDrawn              = 24   // packs of the stock, and of what is to buy; the rest is a number
	moreWide               = 96.0 // of that number
)

// unitMarks are units as they are written on a shelf.
var unitMarks = map[string]string{"kg": "kg", "m": "m", "m2": "m²", "count": ""}

// pack is one pack as it stands on the board.
type pack struct {
	size, need float64
	style      string // "stock" or "buy"
	opened     bool
}

// Shelf draws each product's packs to scale beside each other, full as far as the work takes them.
// Stock stands before what is to buy. The view's height is one board a line.
func Shelf(in ShelfInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	narrow := in.View.Width < narrowShelf
	step, left := boardWide, math.Round(in.View.Width*0.5)
	for _, line := range in.Lines { // names stand clear of the packs
		left = max(left, min(shelfLetter*float64(utf8.RuneCountInString(line.Title))+24, math.Round(in.View.Width*mostNames)))
	}
	if narrow {
		step, left = boardNarrow, 12
	}
	d.Box.Height = step * float64(max(1, len(in.Lines)))
	for i, line := range in.Lines {
		top := step * float64(i)
		board := top + step - 12
		id := line.ID
		if id == in.Lit {
			d.path("shelf_here", true, box(0, top+4, in.View.Width, step-8)...)
		}
		d.path("shelf_board", false, wetarea.Point{left - 6, board}, wetarea.Point{in.View.Width - 2, board})
		names := top + 34
		d.text("shelf_name", wetarea.Point{8, names}, "start", "shelf.name", "name", line.Title)
		key, args := shelfWords(line)
		d.text("shelf_need", wetarea.Point{8, names + 24}, "start", key, args...)
		packs, more := packsOf(line)
		right := in.View.Width - 12
		if more > 0 {
			right -= moreWide
			d.text("shelf_need", wetarea.Point{in.View.Width - 12, board - 8}, "end", "shelf.more", "n", more)
		}
		d.stand(packs, line.Unit, left, right, board)
		say := words("twin."+key, append(args, "name", line.Title)...)
		say.ID = id
		d.Twin = append(d.Twin, say)
		d.Taps = append(d.Taps, Tap{ID: id, Kind: "item", Outline: box(0, top+2, in.View.Width, step-4), Label: say})
	}
	d.linkWalks()
	return d, nil
}

// shelfWords say what is needed of a product and what is to buy.
func shelfWords(line takeoff.Shopping) (key string, args []any) {
	round := func(v float64) float64 { return math.Round(v*100) / 100 }
	args = []any{"need", round(line.Left), "bought", round(line.Bought), "stock", round(line.InStock), "unit", unitMarks[line.Unit], "role", line.Role}
	switch {
	case line.Need == nil && line.Name == "":
		return "shelf.no_sheet", args
	case line.Need == nil:
		return "shelf.missing", args
	case line.Left == 0:
		return "shelf.done", args
	case line.ToBuy == 0:
		return "shelf.in_stock", args
	case len(line.Packs) == 0:
		return "shelf.no_packs", args
	case line.InStock > 0:
		return "shelf.buy_too", args
	}
	return "shelf.buy", args
}

// packsOf lists what stands on the board: stock, then what is to buy, each full as far as it is
// needed, and counts those that are not drawn.
func packsOf(line takeoff.Shopping) (list []pack, more int) {
	drawn := func(before, count int) int {
		draw := max(0, min(count, mostDrawn-before))
		more += max(0, count-draw)
		return draw
	}
	for _, there := range line.Stock {
		used := there.Used
		for range drawn(len(list), there.Count) {
			take := min(used, there.Amount)
			used -= take
			list = append(list, pack{there.Amount, take, "stock", there.Opened != ""})
		}
	}
	need, before := line.ToBuy, len(list)
	for _, size := range line.Packs {
		for range drawn(len(list)-before, size.Count) {
			take := min(need, size.Size)
			need -= take
			list = append(list, pack{size: size.Size, need: take, style: "buy"})
		}
	}
	return list, more
}

// stand sets packs on a board, their volume to scale among themselves; a long row is drawn
// smaller, none smaller than can be seen.
func (d *Drawing) stand(packs []pack, unit string, left, right, board float64) {
	largest := 0.0
	for _, p := range packs {
		largest = max(largest, p.size)
	}
	if largest == 0 {
		return
	}
	height := func(p pack) float64 { return max(smallestPack, tallestPack*math.Cbrt(p.size/largest)) }
	const gap, slim = 6.0, 0.72
	width := 0.0
	for _, p := range packs {
		width += height(p)*slim + gap
	}
	scale := min(1, (right-left)/width)
	x := left
	for _, p := range packs {
		h := height(p) * max(scale, 0.3)
		w := height(p) * slim * scale
		full := 0.0
		if p.size > 0 {
			full = min(1, p.need/p.size)
		}
		d.pack(p, unit, x, board, w, h, full)
		x += w + gap*scale
	}
}

// pack draws one pack with what of it is needed: a bucket by weight, a roll by length or area, a
// box by number.
func (d *Drawing) pack(p pack, unit string, x, board, w, h, full float64) {
	outline := box(x, board-h, w, h)
	switch unit {
	case "kg":
		inset := w * 0.1
		outline = []wetarea.Point{{x, board - h}, {x + w, board - h}, {x + w - inset, board}, {x + inset, board}}
		if full > 0 {
			side := inset * full
			d.path("shelf_full", true, wetarea.Point{x + inset - side, board - h*full}, wetarea.Point{x + w - inset + side, board - h*full},
				wetarea.Point{x + w - inset, board}, wetarea.Point{x + inset, board})
		}
	case "m", "m2":
		r := min(w, h) / 2
		at := wetarea.Point{x + w/2, board - r}
		if full > 0 {
			d.disc("shelf_full", at, r*math.Sqrt(0.12+0.88*full))
		}
		d.disc("shelf_"+p.style, at, r)
		d.disc("shelf_core", at, r*0.3)
		return
	default:
		if full > 0 {
			d.path("shelf_full", true, box(x, board-h*full, w, h*full)...)
		}
	}
	d.path("shelf_"+p.style, true, outline...)
	if p.opened { // its lid is off
		d.path("shelf_lid", false, wetarea.Point{x - 2, board - h - 4}, wetarea.Point{x + w*0.8, board - h - 12})
	}
}

// drawLit marks the places that something goes on: surfaces, junctions, corners and fittings.
func (n *net) drawLit() {
	lit := map[string]bool{}
	for _, id := range n.in.Lit {
		lit[id] = true
	}
	if len(lit) == 0 {
		return
	}
	for _, s := range n.in.Area.Surfaces {
		if lit[s.ID] {
			for _, outline := range s.Outlines {
				n.path("lit", true, n.frames[s.ID].all(outline)...)
			}
		}
	}
	wide := max(bandWidthMm/2, leastBandPx*n.px)
	for _, j := range n.in.Area.Junctions {
		for _, line := range j.Lines {
			if lit[j.ID] {
				n.path("lit_line", true, n.strip(line, wide)...)
			}
		}
	}
	for _, c := range n.in.Area.Corners {
		if lit[c.ID] {
			n.disc("lit_line", n.frames[c.Surface].place(c.At), cornerPx*n.px)
		}
	}
	for _, p := range n.in.Area.Penetrations {
		if lit[p.ID] {
			n.disc("lit_line", n.frames[p.Surface].place(p.At), max(p.Diameter/2+30, cornerPx*n.px))
		}
	}
}
