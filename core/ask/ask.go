// Package ask reads answers that are typed one at a time.
//
// A form is read in one pass: each read names a question, takes what was typed for it
// and notes whether it is answered, missing or wrong. The list that results, in the
// order of asking, is all a page needs to ask for the next number; nothing typed is
// ever dropped, and a wrong answer stands beside its fault.
package ask

import (
	"slices"
	"strconv"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/units"
)

// Question is one thing asked, with what was typed and what became of it.
type Question struct {
	ID      string         `json:"id"`   // field: "walls.a.height"
	Kind    string         `json:"kind"` // "length", "number", "count", "choice", "angle", "list", "date", "stated" or "text"
	Unit    string         `json:"unit,omitempty"`
	Args    map[string]any `json:"args,omitempty"`    // values for the wording of the question
	Options []string       `json:"options,omitempty"` // of a choice
	Typed   string         `json:"typed"`
	Value   float64        `json:"value"`             // SI value; 0 unless State is "answered"
	Assumed bool           `json:"assumed,omitempty"` // not typed: the value that stands unless another is given
	Offered bool           `json:"offered,omitempty"` // may be left out, but work will stand still without it: asked in its turn
	State   string         `json:"state"`             // "answered", "missing" or "wrong"
	Fault   *fault.Fault   `json:"fault,omitempty"`
	Mirror  Mirror         `json:"-"`
	Shapes  Shapes         `json:"-"`
}

// Shapes are the names of the pieces whose size or place an answer decides, given with the question among its
// values. A name stands for all names that go on after it with a dot; "*" is any one part, and a name behind
// "=" is itself alone.
type Shapes []string

// Has tells whether a piece of that name is among them.
func (s Shapes) Has(name string) bool {
	parts := strings.Split(name, ".")
	return slices.ContainsFunc(s, func(shape string) bool {
		whole, alone := strings.CutPrefix(shape, "=")
		want := strings.Split(whole, ".")
		if len(want) > len(parts) || alone && len(want) < len(parts) {
			return false
		}
		for i, part := range want {
			if part != "*" && part != parts[i] {
				return false
			}
		}
		return true
	})
}

// Mirror is how an answer is carried over to the form of the same thing seen in a mirror: the form that asks
// has its own ways, and "" keeps the answer. It is given with the question, among its values.
type Mirror string

// Form reads typed answers; the zero value with Typed set is ready.
type Form struct {
	Typed     map[string]string
	Questions []Question
}

// Length asks for a length and gives it in mm; ok is false when it is missing or wrong.
func (f *Form) Length(id string, least, most float64, args ...any) (mm float64, ok bool) {
	mm, err := units.ParseLength(id, f.Typed[id], least, most)
	return mm, f.note(Question{ID: id, Kind: "length", Unit: "mm", Value: mm}, err, args)
}

// Number asks for a number of the stated unit.
func (f *Form) Number(id, unit string, least, most float64, args ...any) (value float64, ok bool) {
	value, err := units.ParseNumber(id, f.Typed[id], least, most)
	return value, f.note(Question{ID: id, Kind: "number", Unit: unit, Value: value}, err, args)
}

// Count asks for a whole number.
func (f *Form) Count(id string, least, most int, args ...any) (count int, ok bool) {
	value, err := units.ParseNumber(id, f.Typed[id], float64(least), float64(most))
	if err == nil && value != float64(int(value)) {
		err = fault.At(id, "number.not_whole", "typed", f.Typed[id])
	}
	return int(value), f.note(Question{ID: id, Kind: "count", Unit: "count", Value: value}, err, args)
}

// LengthOr asks for a length that has a usual value: untyped, that one stands.
func (f *Form) LengthOr(id string, least, most, usual float64, args ...any) float64 {
	if f.Typed[id] == "" {
		f.note(Question{ID: id, Kind: "length", Unit: "mm", Value: usual, Assumed: true}, nil, args)
		return usual
	}
	mm, ok := f.Length(id, least, most, args...)
	if !ok {
		return usual
	}
	return mm
}

// NumberOr asks for a number that has a usual value.
func (f *Form) NumberOr(id, unit string, least, most, usual float64, args ...any) float64 {
	if f.Typed[id] == "" {
		f.note(Question{ID: id, Kind: "number", Unit: unit, Value: usual, Assumed: true}, nil, args)
		return usual
	}
	value, ok := f.Number(id, unit, least, most, args...)
	if !ok {
		return usual
	}
	return value
}

// ChoiceOr asks for one of the options; untyped, the usual one stands.
func (f *Form) ChoiceOr(id string, options []string, usual string, args ...any) string {
	if f.Typed[id] == "" {
		f.note(Question{ID: id, Kind: "choice", Options: options, Assumed: true}, nil, append([]any{"usual", usual}, args...))
		return usual
	}
	picked, ok := f.Choice(id, options, args...)
	if !ok {
		return usual
	}
	return picked
}

// DateOr asks for a date that may be left out, and gives it as 2006-01-02.
func (f *Form) DateOr(id string, args ...any) string {
	text := strings.TrimSpace(f.Typed[id])
	if text == "" {
		f.note(Question{ID: id, Kind: "date", Assumed: true}, nil, args)
		return ""
	}
	var err error
	if _, bad := time.Parse(time.DateOnly, text); bad != nil {
		err, text = fault.At(id, "date.unreadable", "typed", f.Typed[id]), ""
	}
	f.note(Question{ID: id, Kind: "date"}, err, args)
	return text
}

// Offer has questions asked in their turn though they may be left out.
func (f *Form) Offer(ids ...string) {
	for i, q := range f.Questions {
		f.Questions[i].Offered = q.Offered || q.Assumed && slices.Contains(ids, q.ID)
	}
}

// Angle asks for the angle inside a corner, in degrees: a number between 1 and 359, or
// "internal" (90°) or "external" (270°).
func (f *Form) Angle(id string, args ...any) (degrees float64, ok bool) {
	const least, most = 1, 359
	switch strings.TrimSpace(f.Typed[id]) {
	case "internal":
		degrees = 90
	case "external":
		degrees = 270
	}
	var err error
	if degrees == 0 {
		degrees, err = units.ParseNumber(id, strings.TrimSuffix(strings.TrimSpace(f.Typed[id]), "°"), least, most)
	}
	return degrees, f.note(Question{ID: id, Kind: "angle", Unit: "deg", Value: degrees, Options: []string{"internal", "external"}}, err, args)
}

// List asks which items there are: their numbers, parted by blanks. An item keeps its number
// when another is taken away. None is an answer.
func (f *Form) List(id string, most int, args ...any) []string {
	items := strings.Fields(f.Typed[id])
	last, seen := 0, map[string]bool{}
	var err error
	for _, item := range items {
		n, bad := strconv.Atoi(item)
		if bad != nil || n < 1 || n > 9999 || item != strconv.Itoa(n) || seen[item] {
			err = fault.At(id, "list.not_numbers", "typed", f.Typed[id])
			break
		}
		seen[item], last = true, max(last, n)
	}
	if err == nil && len(items) > most {
		err = fault.At(id, "list.too_many", "count", len(items), "most", most)
	}
	q := Question{ID: id, Kind: "list", Unit: "count", Value: float64(len(items)), Assumed: f.Typed[id] == ""}
	if !f.note(q, err, append([]any{"next", last + 1}, args...)) {
		return nil
	}
	return items
}

// Choice asks for one of the options.
func (f *Form) Choice(id string, options []string, args ...any) (picked string, ok bool) {
	picked = f.Typed[id]
	var err error
	switch {
	case picked == "":
		err = fault.At(id, "choice.missing")
	case !slices.Contains(options, picked):
		err = fault.At(id, "choice.unknown", "typed", picked)
	}
	return picked, f.note(Question{ID: id, Kind: "choice", Options: options}, err, args)
}

// Reject marks an answer wrong that was readable but cannot be right beside the others.
func (f *Form) Reject(err *fault.Fault) {
	for i := range f.Questions {
		if f.Questions[i].ID == err.Field && f.Questions[i].Fault == nil {
			f.Questions[i].State, f.Questions[i].Fault = "wrong", err
		}
	}
}

// Next is the id of the first question that is not answered, or "".
func (f *Form) Next() string {
	for _, q := range f.Questions {
		if q.State != "answered" {
			return q.ID
		}
	}
	return ""
}

// Fine tells whether all questions whose id begins with a prefix are answered.
func (f *Form) Fine(prefix string) bool {
	return !slices.ContainsFunc(f.Questions, func(q Question) bool { return strings.HasPrefix(q.ID, prefix) && q.Fault != nil })
}

// Faults lists what is missing or wrong; empty means the form is complete.
func (f *Form) Faults() fault.Faults {
	var faults fault.Faults
	for _, q := range f.Questions {
		if q.Fault != nil {
			faults = append(faults, q.Fault)
		}
	}
	return faults
}

// Answers gives what was typed beside its value, for the entry that keeps it.
func (f *Form) Answers() map[string]units.Measure {
	answers := map[string]units.Measure{}
	for _, q := range f.Questions {
		if q.State == "answered" && !q.Assumed {
			answers[q.ID] = units.Measure{Typed: q.Typed, Value: q.Value}
		}
	}
	return answers
}

func (f *Form) note(q Question, err error, args []any) bool {
	q.Typed, q.State = f.Typed[q.ID], "answered"
	var pairs []any
	for i := 0; i < len(args); i++ {
		if way, is := args[i].(Mirror); is {
			q.Mirror = way
		} else if pieces, is := args[i].(Shapes); is {
			q.Shapes = append(q.Shapes, pieces...)
		} else if i+1 < len(args) {
			pairs = append(pairs, args[i], args[i+1])
			i++
		}
	}
	if len(pairs) > 0 {
		q.Args = fault.At(q.ID, "", pairs...).Args
	}
	if err != nil {
		q.Fault, q.State, q.Value = fault.Of(err)[0], "wrong", 0
		if strings.HasPrefix(q.Fault.Key, "number.too_") {
			q.Fault.Args["unit"] = q.Unit
		}
		if q.Typed == "" {
			q.State = "missing"
		}
	}
	f.Questions = append(f.Questions, q)
	return err == nil
}

// NotStated is typed where a sheet has no figure: missing stays missing.
const NotStated = "-"

// Stated asks for a number that a sheet may leave out; stated is false when it does.
func (f *Form) Stated(id, unit string, least, most float64) (value float64, stated bool) {
	if f.Typed[id] == NotStated {
		f.note(Question{ID: id, Kind: "stated", Unit: unit}, nil, nil)
		return 0, false
	}
	value, err := units.ParseNumber(id, f.Typed[id], least, most)
	return value, f.note(Question{ID: id, Kind: "stated", Unit: unit, Value: value}, err, nil)
}

// Unsaid notes a figure that may be left out and is: it counts as not stated.
func (f *Form) Unsaid(id, unit string, args ...any) {
	f.note(Question{ID: id, Kind: "stated", Unit: unit, Options: units.PrintedUnits(unit), Assumed: true}, nil, args)
}

// Text asks for words of at most the given length.
func (f *Form) Text(id string, most int, args ...any) (text string, ok bool) {
	text = strings.TrimSpace(f.Typed[id])
	var err error
	switch {
	case text == "":
		err = fault.At(id, "text.missing")
	case len([]rune(text)) > most:
		err = fault.At(id, "text.too_long", "most", most)
	}
	return text, f.note(Question{ID: id, Kind: "text"}, err, args)
}

// Printed asks for a figure as a sheet prints it, with its range and its unit; the first of the
// units wanted that it can be read in counts. stated is false where the sheet has no such figure.
func (f *Form) Printed(id string, wants []string, least, most float64, args ...any) (got units.Printed, stated bool) {
	q := Question{ID: id, Kind: "stated", Unit: wants[0]}
	for _, want := range wants {
		q.Options = append(q.Options, units.PrintedUnits(want)...)
	}
	if f.Typed[id] == NotStated {
		f.note(q, nil, args)
		return got, false
	}
	var err error
	for i, want := range wants {
		again, other := units.ParsePrinted(id, f.Typed[id], want, least, most)
		if i == 0 || other == nil {
			got, err = again, other
		}
		if err == nil {
			break
		}
	}
	q.Value = got.High
	if got.Unit != "" {
		q.Unit = got.Unit
	}
	return got, f.note(q, err, args)
}
