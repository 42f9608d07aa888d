package draw

import "dusha/core/wetarea"

// fit sets the scale so that the net and its margins fill the view, centred.
func (n *net) fit() {
	var all []wetarea.Point
	for _, s := range n.in.Area.Surfaces {
		for _, outline := range s.Outlines {
			all = append(all, n.frames[s.ID].all(outline)...)
		}
	}
	n.fitTo(all)
	n.zoomIn()
}

// fitTo sets the scale so that some points and the margins fill the view, centred.
func (n *net) fitTo(all []wetarea.Point) {
	low, high := extent(all)
	margin := nakedPx
	switch {
	case n.layer("dims"):
		margin = marginPx
	case n.layer("numbers"):
		margin = numberedPx
	}
	margin = min(margin, n.in.View.Width/4, n.in.View.Height/4)
	wide, tall := high[0]-low[0], high[1]-low[1]
	n.px = max(wide/(n.in.View.Width-2*margin), tall/(n.in.View.Height-2*margin))
	n.MmPerPx = n.px
	n.Box = Box{Width: n.in.View.Width * n.px, Height: n.in.View.Height * n.px}
	n.Box.X = low[0] - (n.Box.Width-wide)/2
	n.Box.Y = low[1] - (n.Box.Height-tall)/2
}

// mostZoom is how far a drawing can be brought near.
const mostZoom = 12

// zoomIn shows a part of the drawing at a larger scale, kept within the whole.
func (n *net) zoomIn() {
	whole := n.Box
	zoom := min(n.in.Zoom, mostZoom)
	if zoom <= 1 {
		return
	}
	at := wetarea.Point{n.Box.X + n.Box.Width/2, n.Box.Y + n.Box.Height/2}
	if n.in.Centre != nil {
		at = *n.in.Centre
	}
	n.px /= zoom
	n.MmPerPx = n.px
	wide, tall := n.Box.Width/zoom, n.Box.Height/zoom
	n.Box = Box{
		X:     min(max(at[0]-wide/2, whole.X), whole.X+whole.Width-wide),
		Y:     min(max(at[1]-tall/2, whole.Y), whole.Y+whole.Height-tall),
		Width: wide, Height: tall,
	}
}
