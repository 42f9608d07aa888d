// Package draw turns results of the core into drawings.
//
// A drawing is a display list in millimetres, x to the right and y down: paths and discs
// with a style by name, texts with an anchor, tap areas with ids, and a twin that says the
// same in words. Writers (SVG in the page, later paper) give each style its looks; no
// colour and no sentence stands here.
package draw

import (
	"cmp"
	"math"

	"dusha/core/order"
	"dusha/core/wetarea"
)

// Drawing is a display list. Box is what the view shows, in mm; MmPerPx is its scale, so
// that a writer can keep letters at their size on the screen.
type Drawing struct {
	Box     Box     `json:"box"`
	MmPerPx float64 `json:"mm_per_px"`
	Items   []Item  `json:"items"`
	Taps    []Tap   `json:"taps"`
	Twin    []Say   `json:"twin"`
}

// Box is a rectangle in mm.
type Box struct {
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// Item is one thing drawn, in order from back to front.
type Item struct {
	Kind   string          `json:"kind"` // "path", "lines" (each pair of points), "disc", "dots" or "text"
	Style  string          `json:"style"`
	Points []wetarea.Point `json:"points,omitempty"` // of a path
	Closed bool            `json:"closed,omitempty"`
	At     wetarea.Point   `json:"at"`               // centre of a disc, anchor of a text
	Radius float64         `json:"radius,omitempty"` // mm
	Step   float64         `json:"step,omitempty"`   // mm between dots, both ways from 0
	Anchor string          `json:"anchor,omitempty"` // "start", "middle" or "end"
	Say    *Say            `json:"say,omitempty"`    // words of a text
}

// Say is wording by key, with its values.
type Say struct {
	ID   string         `json:"id,omitempty"` // the tap it belongs to
	Key  string         `json:"key"`
	Args map[string]any `json:"args,omitempty"`
}

// Tap is something that can be touched or reached by the arrow keys.
type Tap struct {
	ID      string          `json:"id"`
	Kind    string          `json:"kind"` // "surface", "dimension", "piece" or "reading"
	Outline []wetarea.Point `json:"outline"`
	Label   Say             `json:"label"`
	Walk    Walk            `json:"walk"`
	Of      []string        `json:"of,omitempty"` // of a pile of readings: their entries, the least first
}

// Walk names the neighbours in the four directions, "" for none.
type Walk struct {
	Left  string `json:"left"`
	Right string `json:"right"`
	Up    string `json:"up"`
	Down  string `json:"down"`
}

// onView is an empty drawing in px that fills a view.
func onView(v View) (Drawing, error) {
	return Drawing{Box: Box{0, 0, v.Width, v.Height}, MmPerPx: 1, Items: []Item{}, Taps: []Tap{}, Twin: []Say{}}, v.check()
}

func (d *Drawing) path(style string, closed bool, points ...wetarea.Point) {
	d.Items = append(d.Items, Item{Kind: "path", Style: style, Points: points, Closed: closed})
}

func (d *Drawing) disc(style string, at wetarea.Point, radius float64) {
	d.Items = append(d.Items, Item{Kind: "disc", Style: style, At: at, Radius: radius})
}

func (d *Drawing) text(style string, at wetarea.Point, anchor, key string, pairs ...any) {
	say := words(key, pairs...)
	d.Items = append(d.Items, Item{Kind: "text", Style: style, At: at, Anchor: anchor, Say: &say})
}

func words(key string, pairs ...any) Say {
	s := Say{Key: key}
	for i := 0; i+1 < len(pairs); i += 2 {
		if s.Args == nil {
			s.Args = map[string]any{}
		}
		s.Args[pairs[i].(string)] = pairs[i+1]
	}
	return s
}

// linkWalks finds for each tap the nearest one in each direction, by the centres of their
// boxes; what lies more sideways than ahead does not count.
func (d *Drawing) linkWalks() {
	for axis := range 2 {
		row := make([]walker, len(d.Taps))
		for i, tap := range d.Taps {
			at := centre(tap.Outline)
			row[i] = walker{i, at[axis], at[1-axis]}
		}
		order.By(row, func(a, b walker) int { return cmp.Compare(a.along, b.along) })
		for i, from := range row {
			back, forth := nearest(row, i, -1), nearest(row, i, 1)
			names := [2]string{}
			for k, found := range []int{back, forth} {
				if found >= 0 {
					names[k] = d.Taps[found].ID
				}
			}
			w := &d.Taps[from.tap].Walk
			if axis == 0 {
				w.Left, w.Right = names[0], names[1]
			} else {
				w.Up, w.Down = names[0], names[1]
			}
		}
	}
}

// walker is a tap where it lies along the way that is walked, and across it.
type walker struct {
	tap           int
	along, across float64
}

// nearest looks from one of a row on in a direction, as far as one could still be nearer; -1 where there is
// none. Of two as near it is the one that was drawn first.
func nearest(row []walker, from, step int) int {
	best, found := math.Inf(1), -1
	for j := from + step; j >= 0 && j < len(row); j += step {
		ahead, aside := float64(step)*(row[j].along-row[from].along), math.Abs(row[j].across-row[from].across)
		if ahead > best {
			break
		}
		if ahead <= 0 || aside > ahead {
			continue
		}
		if cost := ahead + 2*aside; cost < best || cost == best && row[j].tap < found {
			best, found = cost, row[j].tap
		}
	}
	return found
}

// tidy rounds a drawing to 0.01 mm: finer is nothing to see and much to carry.
func (d *Drawing) tidy() {
	const grain = 100
	round := func(p *wetarea.Point) {
		for k := range p {
			p[k] = math.Round(p[k]*grain) / grain
		}
	}
	for i := range d.Items {
		for k := range d.Items[i].Points {
			round(&d.Items[i].Points[k])
		}
		round(&d.Items[i].At)
	}
	for i := range d.Taps {
		for k := range d.Taps[i].Outline {
			round(&d.Taps[i].Outline[k])
		}
	}
}

// centre is the middle of the box round some points.
func centre(points []wetarea.Point) wetarea.Point {
	low, high := extent(points)
	return wetarea.Point{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}
}

func extent(points []wetarea.Point) (low, high wetarea.Point) {
	low, high = points[0], points[0]
	for _, p := range points {
		for k, v := range p { // compared by hand: min and max are slow in WebAssembly
			if v < low[k] {
				low[k] = v
			}
			if v > high[k] {
				high[k] = v
			}
		}
	}
	return low, high
}

func box(x, y, width, height float64) []wetarea.Point {
	return []wetarea.Point{{x, y}, {x + width, y}, {x + width, y + height}, {x, y + height}}
}

func abs(x float64) float64 { return math.Abs(x) }
