package draw

import (
	"cmp"
	"slices"

	"dusha/core/logbook"
	"dusha/core/wetarea"
)

// strip is a band of a given width along a line, on the inner side of its surface.
func (n *net) strip(line wetarea.Line, width float64) []wetarea.Point {
	f := n.frames[line.Surface]
	s, _ := n.in.Area.Surface(line.Surface)
	a, b, middle := f.place(line.From), f.place(line.To), f.place(wetarea.Point{s.Length / 2, s.Height / 2})
	dx, dy := b[0]-a[0], b[1]-a[1]
	long := max(abs(dx), abs(dy))
	if long == 0 {
		return nil
	}
	across := wetarea.Point{-dy / long * width, dx / long * width}
	if (middle[0]-a[0])*across[0]+(middle[1]-a[1])*across[1] < 0 {
		across = wetarea.Point{-across[0], -across[1]}
	}
	return []wetarea.Point{a, b, {b[0] + across[0], b[1] + across[1]}, {a[0] + across[0], a[1] + across[1]}}
}

func (n *net) drawBands() {
	width := max(bandWidthMm/2, leastBandPx*n.px)
	for _, j := range n.in.Area.Junctions {
		if !n.laid("band." + j.ID) {
			continue
		}
		style, number := n.pieceStyle("band." + j.ID)
		for _, line := range j.Lines {
			if strip := n.strip(line, width); strip != nil {
				n.path(style, true, strip...)
			}
		}
		longest := slices.MaxFunc(j.Lines, func(a, b wetarea.Line) int { return cmp.Compare(a.Length(), b.Length()) })
		at := centre(n.strip(longest, width))
		n.tapPiece("band."+j.ID, "twin.band", at, number, "junction", j.ID, "length", j.Length)
	}
	for _, c := range n.in.Area.Corners {
		if !n.laid(c.ID) {
			continue
		}
		style, number := n.pieceStyle(c.ID)
		at, half := n.frames[c.Surface].place(c.At), max(bandWidthMm/2, cornerPx*n.px)
		n.path(style, true, box(at[0]-half, at[1]-half, 2*half, 2*half)...)
		n.path("diagonal", false, wetarea.Point{at[0] - half, at[1] - half}, wetarea.Point{at[0] + half, at[1] + half})
		n.tapPiece(c.ID, "twin.corner", at, number, "corner", c.ID, "angle", c.Angle)
	}
	for _, p := range n.in.Area.Penetrations {
		if !n.laid(p.ID) {
			continue
		}
		style, number := n.pieceStyle(p.ID)
		at := n.frames[p.Surface].place(p.At)
		half := max(p.Diameter/2+bandWidthMm/2, 2*cornerPx*n.px)
		if p.Ends != nil {
			n.drawChannel(p)
		}
		n.path(style, true, box(at[0]-half, at[1]-half, 2*half, 2*half)...)
		beside := wetarea.Point{at[0] + half + 14*n.px, at[1]} // the fitting itself stays in sight
		n.tapPiece(p.ID, "twin."+twinOf(p), beside, number, "fitting", p.ID, "surface", p.Surface, "diameter", p.Diameter)
	}
}

// laid tells whether a plan lays a piece there; where there is no plan yet, one may be.
func (n *net) laid(id string) bool {
	_, _, found := n.piece(id)
	return found || len(n.in.Pieces) == 0
}

// piece finds a piece and how it stands: "open", "cut", "next" or "bedded".
func (n *net) piece(id string) (piece logbook.PieceLook, state string, found bool) {
	i := slices.IndexFunc(n.in.Pieces, func(p logbook.PieceLook) bool { return p.ID == id })
	switch {
	case i < 0:
		return piece, "open", false
	case n.in.Pieces[i].Bedded:
		state = "bedded"
	case id == n.in.NextID:
		state = "next"
	case n.in.Pieces[i].Cut:
		state = "cut"
	default:
		state = "open"
	}
	return n.in.Pieces[i], state, true
}

// pieceStyle is how a piece is drawn: still to bed, next, or bedded.
func (n *net) pieceStyle(id string) (style string, number int) {
	piece, state, _ := n.piece(id)
	if state == "open" {
		return "band", piece.Number
	}
	return "band_" + state, piece.Number
}

func (n *net) tapPiece(id, key string, at wetarea.Point, number int, pairs ...any) {
	say := words(key, append(pairs, "number", number)...)
	if piece, state, found := n.piece(id); found {
		say.Args["bedded"], say.Args["cut"] = piece.Bedded, piece.Cut
		belongs := at
		at = n.besides(at)
		half := touchPx / 2 * n.px
		n.Taps = append(n.Taps, Tap{ID: id, Kind: "piece", Label: say, Outline: box(at[0]-half, at[1]-half, 2*half, 2*half)})
		if n.layer("numbers") {
			n.tags = append(n.tags, tag{at, belongs, number, state})
		}
	}
	say.ID = id
	n.Twin = append(n.Twin, say)
}

// besides finds a place for a number and keeps it from others: where it belongs or near it.
func (n *net) besides(at wetarea.Point) wetarea.Point {
	half := wetarea.Point{numberPx * n.px, numberPx * n.px}
	placed, _ := n.settle(half, at)
	return placed
}
