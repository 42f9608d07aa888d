package film

// JudgeLayers judges a film laid in several layers of one coat, each with its own readings:
// a thin place that was topped up after it had skinned. A later comb shows its own layer
// only, so its readings are raised by what lies under them: the middle by the mean below,
// the lower value by the least. A layer without readings proves nothing and is left out.
// The greatest film per coat holds for each layer by itself.
func JudgeLayers(layers [][]Bracket, asked Asked) Verdict {
	total, over := []Bracket(nil), false
	for _, layer := range layers {
		if len(layer) == 0 {
			continue
		}
		over = over || Judge(layer, asked).Over
		total = on(total, layer)
	}
	greatest := asked.Greatest
	asked.Greatest = nil
	v := Judge(total, asked)
	if v.Over = over && greatest != nil; v.Over && v.Says == Enough {
		v.Says = Thick
	}
	return v
}

// on raises the readings of a layer by those under it.
func on(under, layer []Bracket) []Bracket {
	below := Judge(under, Asked{})
	if below.Mean == nil {
		return layer
	}
	raised := make([]Bracket, len(layer))
	for i, r := range layer {
		raised[i] = Bracket{Lower: r.Lower + *below.Least}
		if middle, ok := r.Middle(); ok {
			upper := 2*(middle+*below.Mean) - raised[i].Lower
			raised[i].Upper = &upper
		} else if r.Upper != nil { // no tooth was wetted
			upper := *r.Upper + *below.Least
			raised[i].Upper = &upper
		}
	}
	return raised
}
