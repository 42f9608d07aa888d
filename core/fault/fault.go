// Package fault is how the core says that something entered cannot be right.
//
// A fault names the field as the person sees it on the page ("doorway.width"), a key
// of the wording catalogue, and the values the wording needs. The core never writes
// sentences: the page, the command line and the dossier word the same fault their way.
package fault

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Fault is one thing that is wrong, where it is, and what would be right.
type Fault struct {
	Field string         `json:"field"`          // path of the field at fault: "walls.b.height", "pipes.1.along"
	Key   string         `json:"key"`            // key of the wording: "length.not_a_number"
	Args  map[string]any `json:"args,omitempty"` // values for the wording, lengths in mm
}

// Error gives the fault in a form for logs and tests; people read the catalogue's wording.
func (f *Fault) Error() string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s: %s", f.Field, f.Key)
	for _, name := range slices.Sorted(maps.Keys(f.Args)) {
		fmt.Fprintf(&b, " %s=%v", name, f.Args[name])
	}
	return b.String()
}

// At makes a fault of a field. The arguments are pairs of name and value.
func At(field, key string, pairs ...any) *Fault {
	f := &Fault{Field: field, Key: key}
	for i := 0; i+1 < len(pairs); i += 2 {
		if f.Args == nil {
			f.Args = map[string]any{}
		}
		f.Args[fmt.Sprint(pairs[i])] = pairs[i+1]
	}
	return f
}

// Short is a text that was typed as a fault repeats it: its first 60 characters, what is no
// character as a mark.
func Short(text string) string {
	const most = 60
	text = strings.TrimSpace(text)
	if longest := 4 * (most + 1); len(text) > longest { // what may be of any length is not gone through
		text = text[:longest]
	}
	text = strings.ToValidUTF8(text, "\uFFFD")
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most]) + "…"
	}
	return text
}

// Faults are several faults found in one reading of the input.
type Faults []*Fault

// Error joins all faults, one a line.
func (fs Faults) Error() string {
	lines := make([]string, len(fs))
	for i, f := range fs {
		lines[i] = f.Error()
	}
	return strings.Join(lines, "\n")
}

// Of collects what an error has to say as faults: itself, the list it is, or one
// fault without a field for any other error.
func Of(err error) Faults {
	if err == nil {
		return nil
	}
	var many Faults
	if errors.As(err, &many) {
		return many
	}
	var one *Fault
	if errors.As(err, &one) {
		return Faults{one}
	}
	return Faults{At("", "input.unreadable", "detail", err.Error())}
}
