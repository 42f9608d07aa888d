package ask_test

import (
	"strings"
	"testing"

	"dusha/core/ask"
	"dusha/core/fault"
)

// filled reads one form with every kind of question.
func filled(typed map[string]string) *ask.Form {
	f := &ask.Form{Typed: typed}
	f.Text("name", 10)
	f.Length("length", 300, 30000, "wall", "a")
	f.Number("temp", "C", -10, 50)
	f.Count("pipes", 0, 20)
	f.Choice("wall", []string{"a", "b"})
	f.Stated("density", "kg/L", 0.5, 3)
	return f
}

func complete() map[string]string {
	return map[string]string{"name": "Room", "length": "2,4 m", "temp": "17.5", "pipes": "2", "wall": "b", "density": "-"}
}

func TestACompleteForm(t *testing.T) {
	f := filled(complete())
	if f.Next() != "" || len(f.Faults()) != 0 {
		t.Fatalf("next %q, faults %v", f.Next(), f.Faults())
	}
	answers := f.Answers()
	if a := answers["length"]; a.Value != 2400 || a.Typed != "2,4 m" {
		t.Errorf("the length is kept as %+v", a)
	}
	if a := answers["density"]; a.Typed != ask.NotStated || a.Value != 0 {
		t.Errorf("what is not stated is kept as %+v", a)
	}
	if q := f.Questions[1]; q.Args["wall"] != "a" || q.Unit != "mm" {
		t.Errorf("the question carries %+v", q)
	}
}

func TestWhatIsWrongOrMissing(t *testing.T) {
	rows := []struct{ name, field, typed, key, state string }{
		{"no name", "name", "", "text.missing", "missing"},
		{"a name of blanks", "name", "   ", "text.missing", "wrong"},
		{"a long name", "name", strings.Repeat("n", 11), "text.too_long", "wrong"},
		{"a length in words", "length", "long", "length.not_a_number", "wrong"},
		{"too hot", "temp", "51", "number.too_large", "wrong"},
		{"half a pipe", "pipes", "1.5", "number.not_whole", "wrong"},
		{"a negative count", "pipes", "-1", "number.too_small", "wrong"},
		{"no such choice", "wall", "c", "choice.unknown", "wrong"},
		{"nothing chosen", "wall", "", "choice.missing", "missing"},
		{"a figure a sheet may leave out, wrongly typed", "density", "?", "number.not_a_number", "wrong"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			typed := complete()
			typed[row.field] = row.typed
			f := filled(typed)
			faults := f.Faults()
			if len(faults) != 1 || faults[0].Key != row.key || f.Next() != row.field {
				t.Fatalf("got %v, next %s, want %s at %s", faults, f.Next(), row.key, row.field)
			}
			for _, q := range f.Questions {
				if q.ID == row.field && (q.State != row.state || q.Typed != row.typed) {
					t.Errorf("the question is %+v, want %s with what was typed", q, row.state)
				}
			}
			if row.key == "number.too_large" && faults[0].Args["unit"] != "C" {
				t.Errorf("the limits carry no unit: %v", faults[0].Args)
			}
			if _, kept := f.Answers()[row.field]; kept {
				t.Error("a wrong answer was kept as an answer")
			}
		})
	}
}

func TestAnAnswerThatCannotBeBesideTheOthers(t *testing.T) {
	f := filled(complete())
	f.Reject(fault.At("length", "doorway.wider_than_wall"))
	if f.Next() != "length" || f.Fine("len") || !f.Fine("temp") {
		t.Errorf("next %q after the length was rejected", f.Next())
	}
	f.Reject(fault.At("length", "something.else"))
	if faults := f.Faults(); len(faults) != 1 || faults[0].Key != "doorway.wider_than_wall" {
		t.Errorf("the first reason stands: %v", faults)
	}
}

func TestWhatIsUsualStandsUntilItIsTyped(t *testing.T) {
	f := &ask.Form{Typed: map[string]string{"own": "250", "wrong": "tall", "kind": "step"}}
	if got := f.LengthOr("untyped", 10, 1000, 150); got != 150 {
		t.Errorf("untyped: %v", got)
	}
	if got := f.LengthOr("own", 10, 1000, 150); got != 250 {
		t.Errorf("typed: %v", got)
	}
	f.LengthOr("wrong", 10, 1000, 150)
	if got := f.ChoiceOr("kind", []string{"bench", "step"}, "bench"); got != "step" {
		t.Errorf("picked: %v", got)
	}
	if got := f.ChoiceOr("other", []string{"bench", "step"}, "bench"); got != "bench" {
		t.Errorf("not picked: %v", got)
	}
	if f.Offer("untyped", "own"); !f.Questions[0].Offered || f.Questions[1].Offered || f.Questions[4].Offered {
		t.Errorf("what is offered is what was named and not typed: %+v", f.Questions)
	}
	if f.Next() != "wrong" || len(f.Faults()) != 1 {
		t.Errorf("only what was typed wrong is asked again: %v", f.Faults())
	}
	if answers := f.Answers(); len(answers) != 2 {
		t.Errorf("what only stands as usual is no answer: %v", answers)
	}
}

func TestAnglesAndLists(t *testing.T) {
	f := &ask.Form{Typed: map[string]string{"in": "internal", "out": "external", "free": "135°", "flat": "0", "some": "1 3 12", "twice": "2 2", "words": "first", "many": "1 2 3 4"}}
	for id, want := range map[string]float64{"in": 90, "out": 270, "free": 135} {
		if got, ok := f.Angle(id); !ok || got != want {
			t.Errorf("%s: %v, %v", id, got, ok)
		}
	}
	if _, ok := f.Angle("flat"); ok {
		t.Error("a corner of 0° is taken")
	}
	if got := f.List("some", 3); len(got) != 3 || got[2] != "12" || f.Questions[len(f.Questions)-1].Args["next"] != 13 {
		t.Errorf("%v, next %v", got, f.Questions[len(f.Questions)-1].Args["next"])
	}
	if got := f.List("none", 3); len(got) != 0 || f.Questions[len(f.Questions)-1].State != "answered" {
		t.Errorf("none is an answer: %v", got)
	}
	for _, id := range []string{"twice", "words", "many"} {
		if got := f.List(id, 3); got != nil || f.Questions[len(f.Questions)-1].State != "wrong" {
			t.Errorf("%s: %v", id, got)
		}
	}
}
