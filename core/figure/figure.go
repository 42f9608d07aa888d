// Package figure holds numbers that know where they come from.
//
// A number shown to a person is a Figure: its value and unit, the rule that made it
// (a heading of docs/rules.md), the figures, entries or sheet fields that went into it,
// how it was rounded, and for a leaf the text it was read from. The Explain slip shows
// nothing but this tree.
package figure

// Source says where a leaf was read.
type Source struct {
	Kind string `json:"kind"`           // "entry", "sheet", "rules" or "measure"
	Ref  string `json:"ref"`            // entry id, sheet id, profile id or field
	Says string `json:"says,omitempty"` // the text as typed or printed
}

// Figure is one number with its origin. Exactly one of Rule and Source is set: a figure
// is either worked out by a rule from its inputs, or read from somewhere.
type Figure struct {
	Name     string         `json:"name"`           // wording key of what it is
	Args     map[string]any `json:"args,omitempty"` // values for that wording
	Value    float64        `json:"value"`
	Unit     string         `json:"unit"` // "mm", "m", "m2", "kg", "g", "L", "kg/L", "kg/m2", "percent", "count", "min", "h", "C"
	Low      *float64       `json:"low,omitempty"`
	High     *float64       `json:"high,omitempty"`
	Rule     string         `json:"rule,omitempty"`
	Inputs   []Figure       `json:"inputs,omitempty"`
	Rounding string         `json:"rounding,omitempty"` // wording key: "up_to_whole", "to_gram"; empty: not rounded
	Source   *Source        `json:"source,omitempty"`
}

// Read makes a leaf.
func Read(name string, value float64, unit string, source Source) Figure {
	return Figure{Name: name, Value: value, Unit: unit, Source: &source}
}

// Worked makes a figure that a rule worked out.
func Worked(name string, value float64, unit, rule string, inputs ...Figure) Figure {
	return Figure{Name: name, Value: value, Unit: unit, Rule: rule, Inputs: inputs}
}

// With gives the figure with values for its wording; the arguments are pairs.
func (f Figure) With(pairs ...any) Figure {
	args := map[string]any{}
	for i := 0; i+1 < len(pairs); i += 2 {
		args[pairs[i].(string)] = pairs[i+1]
	}
	f.Args = args
	return f
}

// Rounded gives the figure with the way it was rounded.
func (f Figure) Rounded(how string) Figure {
	f.Rounding = how
	return f
}

// Sum adds figures of one unit under a rule name.
func Sum(name, rule string, parts ...Figure) Figure {
	total, unit := 0.0, ""
	for _, part := range parts {
		total, unit = total+part.Value, part.Unit
	}
	return Worked(name, total, unit, rule, parts...)
}

// Walk calls visit for the figure and everything it came from, parents first.
func Walk(f Figure, visit func(Figure)) {
	visit(f)
	for _, input := range f.Inputs {
		Walk(input, visit)
	}
}
