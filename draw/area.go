package draw

import (
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/ops"
	"dusha/core/site"
	"dusha/core/wetarea"
)

// AreaInputs ask for the net of an area of a job, with what lies on it.
type AreaInputs struct {
	ops.AreaBook
	Shown
	Coat string    `json:"coat,omitempty"` // the step whose coat is shown
	Cut  *CutShown `json:"cut,omitempty"`  // what is cut of a product, in place of what lies there
}

// CutShown is a product that is cut, and what of it comes next.
type CutShown struct {
	Sheet string `json:"sheet"`
	Want  string `json:"want,omitempty"`
	Anew  bool   `json:"anew,omitempty"` // it is planned anew: what was cut by the plan that is kept does not count
}

// Area draws an area unfolded, with layers. One that was not surveyed is a fault.
func Area(in AreaInputs) (Drawing, error) {
	of, area := in.Of()
	if area.Geometry == nil {
		return Drawing{}, fault.At("area", "draw.no_area")
	}
	net := NetInputs{Area: *area.Geometry, Shown: in.Shown}
	net.Leaks, net.Pieces = in.leaks(area), area.PieceLooks()
	if coat, is := area.CoatLook(in.Coat, time.Time{}); is {
		net.Coat = &coat
	}
	if in.Cut != nil {
		if err := net.cut(of, in.AreaBook.Area, *in.Cut); err != nil {
			return Drawing{}, err
		}
	}
	return Net(net)
}

// leaks are those of an area, where they are to be seen.
func (s Shown) leaks(area *logbook.Area) []logbook.Leak {
	if !slices.Contains(s.Layers, "leaks") {
		return nil
	}
	return area.Leaks
}

// cut shows what is cut of a product: strips and seams of one layer, or pieces; a tape under what is
// bedded lights up its place.
func (in *NetInputs) cut(of *site.Site, area string, shown CutShown) error {
	layout, err := of.Layout(area)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(layout.Lists, func(l site.LayoutOne) bool { return l.Sheet == shown.Sheet })
	if i < 0 {
		return fault.At("cut.sheet", "sheet.unknown", "typed", fault.Short(shown.Sheet))
	}
	list := layout.Lists[i]
	in.NextID, in.Layers = shown.Want, []string{}
	layer, place := 1, ""
	for _, want := range list.Wants {
		if want.ID == shown.Want {
			place = want.Place
			if want.Strip != nil {
				layer = want.Strip.Layer
			}
		}
	}
	var mine []string
	for run, want := range list.Wants {
		mine = append(mine, want.ID)
		lies := 1
		if want.Strip != nil {
			lies = want.Strip.Layer
		}
		if want.Strip == nil && want.Seam == nil || lies != layer {
			continue
		}
		state := "to_cut"
		switch {
		case want.ID == shown.Want:
			state = "next"
		case list.Done[run] && !shown.Anew:
			state = "cut"
		}
		in.Sewn = append(in.Sewn, Sewn{want, state})
	}
	in.Pieces = slices.DeleteFunc(in.Pieces, func(p logbook.PieceLook) bool { return !slices.Contains(mine, p.ID) })
	for i := range in.Pieces {
		in.Pieces[i].Bedded = false
	}
	switch {
	case len(in.Sewn) > 0:
	case len(in.Pieces) > 0:
		in.Layers = []string{"bands", "numbers"}
	case place != "":
		in.Lit = []string{place}
	}
	return nil
}

// PlaceInputs ask for the place on a surface under a point of an area's net.
type PlaceInputs struct {
	ops.AreaBook
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Place finds the place on a surface of an area under a point of its net.
func Place(in PlaceInputs) (Spot, error) {
	_, area := in.Of()
	if area.Geometry == nil {
		return Spot{}, fault.At("area", "draw.no_area")
	}
	return Under(*area.Geometry, wetarea.Point{in.X, in.Y})
}

// Under finds the place on a surface under a point of the net, to the whole mm; a point beside the
// net is a fault.
func Under(area wetarea.Area, at wetarea.Point) (Spot, error) {
	laid := frames(area)
	for _, s := range area.Surfaces {
		p := laid[s.ID].back(at)
		p = wetarea.Point{float64(int(p[0] + 0.5)), float64(int(p[1] + 0.5))}
		if s.Contains(p) {
			return Spot{Surface: s.ID, Along: p[0], Up: p[1]}, nil
		}
	}
	return Spot{}, fault.At("place", "draw.beside_the_net")
}
