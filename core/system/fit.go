package system

import (
	"math"
	"slices"
	"strconv"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// FaceKinds are the surfaces that a layer or a coat can be held to: kinds of surfaces, and all that lie or stand.
var FaceKinds = []string{"floor", "wall", "soffit", "reveal", "niche", "box", "riser", "flat", "upright"}

// OnFace tells whether a surface of a kind is one of the faces; no faces mean any.
func OnFace(faces []string, kind string) bool {
	lies := "upright"
	if kind == "floor" || kind == "soffit" {
		lies = "flat"
	}
	return len(faces) == 0 || slices.Contains(faces, kind) || slices.Contains(faces, lies)
}

// CoatsFor is ⌈wet total / greatest wet thickness of a coat⌉, never fewer than the sheet's number. Thicknesses in mm,
// taken to the whole 0.001 mm before the division.
func CoatsFor(total, greatest float64, least int) int {
	micron := func(mm float64) float64 { return math.Round(mm * 1000) }
	return max(int(math.Ceil(micron(total)/micron(greatest))), least)
}

// Fitted is the system with as many coats of each layer as its printing asks for, where the layer leaves their number to
// it: those that lie and those that stand by themselves, each no thicker than the printing lets it be. It refuses a
// number that the layer does not allow.
func (s System) Fitted(sheets map[string]sheet.Sheet) (System, error) {
	s = s.split()
	layers := slices.Clone(s.Layers)
	for i, l := range layers {
		if l.Count == nil {
			continue
		}
		own, err := l.fitted(sheets)
		if err != nil {
			return s, err
		}
		layers[i] = own
	}
	s.Layers = layers
	for _, part := range s.Parts() {
		s.Layers = append(s.Layers, part.returns()...)
	}
	return s, nil
}

// returns are the primers that are laid again before each later coat that is not laid wet on wet, where the system primes
// before every return.
func (s System) returns() (more []Layer) {
	if s.WayOf("primer_return") != "before_every_return" {
		return nil
	}
	for _, film := range s.FieldLayers() {
		for i, c := range film.Coats {
			if i == 0 || c.On == "wet" {
				continue
			}
			for _, l := range s.Layers {
				p, _ := s.ProductOf(l.Product)
				of := film.ID + "." + c.ID
				if p.Role != "primer" || !l.Lies("field") || slices.ContainsFunc(s.Layers, func(other Layer) bool { return other.Before == of && other.Like == l.ID }) || l.Before != "" {
					continue
				}
				again := l
				again.ID, again.Like, again.Before = l.ID+"_"+film.ID+"_"+c.ID, l.ID, of
				more = append(more, again)
			}
		}
	}
	return more
}

// said reads a figure off the printings.
func (f *Figure) said(sheets map[string]sheet.Sheet) (float64, bool) {
	if f == nil {
		return 0, false
	}
	if f.Of == "" && f.Value != nil {
		return *f.Value, true
	}
	key, name := f.Product()
	read, err := sheets[key].Number(name)
	return read.Value, err == nil
}

func (l Layer) fitted(sheets map[string]sheet.Sheet) (Layer, error) {
	count := *l.Count
	printed, stated := count.Of.said(sheets)
	if l.Count = nil; !stated || len(l.Coats) == 0 {
		return l, nil
	}
	lying := int(math.Round(printed)) + count.Plus
	standing := lying
	if walls, is := count.Upright.said(sheets); is {
		standing = int(math.Round(walls)) + count.Plus
	}
	thick := Target{Times: count.Of} // of the figure as often as printed, in so many parts
	target := l.Coats[0].Target
	if greatest, is := sheets[l.Product].Number("greatest_wft"); is == nil && greatest.Value > 0 && target != nil && target.Kind == "wft_mm" {
		if wet, is := target.Figure.said(sheets); is {
			wereLying, wereStanding := lying, standing
			lying, standing = CoatsFor(wet*float64(lying), greatest.Value, lying), CoatsFor(wet*float64(standing), greatest.Value, standing)
			if thick.Parts = lying; wereStanding*lying > wereLying*standing {
				thick.Times, thick.Parts = count.Upright, standing
			}
			if lying == wereLying && standing == wereStanding {
				thick.Parts = 0
			}
		}
	}
	most := max(lying, standing)
	if most < count.Least || most > count.Most || min(lying, standing) < 1 {
		return l, fault.At("layers."+l.ID, "system.coats_out_of_range", "layer", l.ID, "n", most, "least", count.Least, "most", count.Most)
	}
	for n := len(l.Coats); n < most; n++ {
		more := l.Coats[n-1]
		more.ID = strconv.Itoa(n + 1)
		l.Coats = append(slices.Clip(l.Coats), more)
	}
	l.Coats = slices.Clone(l.Coats[:most])
	for n := range l.Coats {
		c := &l.Coats[n]
		if thick.Parts > 0 && c.Target != nil { // thinner than printed, and one more
			own := *c.Target
			own.Times, own.Parts = thick.Times, thick.Parts
			c.Target = &own
		}
		switch {
		case n >= lying:
			c.Faces = []string{"upright"}
		case n >= standing:
			c.Faces = []string{"flat"}
		}
	}
	return l, l.carriedAnew(count.Plus)
}

// carriedAnew puts what is laid in into the coats that are there: all but so many of the last where one more coat than
// layers is laid. What lies in a coat that is not there is named.
func (l *Layer) carriedAnew(plus int) error {
	l.Carries = slices.Clone(l.Carries)
	for i := range l.Carries {
		c := &l.Carries[i]
		if plus > 0 && c.How == "laid_in" {
			c.InCoat = nil
			for _, coat := range l.Coats[:len(l.Coats)-plus] {
				c.InCoat = append(c.InCoat, coat.ID)
			}
		}
		for _, in := range c.InCoat {
			if !slices.ContainsFunc(l.Coats, func(coat Coat) bool { return coat.ID == in }) {
				return fault.At("layers."+l.ID+".carries", "system.carried_in_no_coat", "layer", l.ID, "coat", fault.Short(in))
			}
		}
	}
	return nil
}
