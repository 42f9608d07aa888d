package strict_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/strict"
)

type reading struct {
	Count  int               `json:"count"`
	Film   float64           `json:"film_mm"`
	Places []place           `json:"places"`
	Typed  map[string]string `json:"typed"`
	Body   json.RawMessage   `json:"body"`
	Point  [2]float64        `json:"point"`
	At     time.Time         `json:"at"`
	Next   *float64          `json:"next"`
}

type place struct {
	Along float64 `json:"along_mm"`
}

func TestWhatReadersCouldTakeOtherwiseIsRefused(t *testing.T) {
	for name, row := range map[string]struct{ text, field, key string }{
		"as it should be":                  {`{"count":1,"film_mm":1.2,"places":[{"along_mm":3}],"point":[1,2],"at":"2026-03-04T12:00:00+01:00","next":null}`, "", ""},
		"a member twice":                   {`{"count":1,"count":2}`, "count", "json.doubled_field"},
		"a member of a free body twice":    {`{"body":{"a":1,"b":[{"c":1,"c":2}]}}`, "body.b.1.c", "json.doubled_field"},
		"a key of a map twice":             {`{"typed":{"a":"1","a":"2"}}`, "typed.a", "json.doubled_field"},
		"a name in other letters":          {`{"COUNT":1}`, "COUNT", "json.unknown_field"},
		"a name by an escape, twice":       {`{"count":1,"\u0063ount":2}`, "count", "json.doubled_field"},
		"an unknown member in a list":      {`{"places":[{"along_mm":1},{"along":1}]}`, "places.2.along", "json.unknown_field"},
		"half a surrogate pair":            {`{"typed":{"a":"x\ud83d"}}`, "typed.a", "json.broken_text"},
		"half a pair in a name":            {`{"typed":{"\udc00":"x"}}`, "typed", "json.broken_text"},
		"bytes that are no UTF-8":          {"{\"typed\":{\"a\":\"\xff\"}}", "typed.a", "json.broken_text"},
		"text for a number":                {`{"places":[{"along_mm":"left"}]}`, "places.1.along_mm", "json.wrong_type"},
		"a number beyond all size":         {`{"film_mm":1e999}`, "film_mm", "json.wrong_type"},
		"half a count":                     {`{"count":1.5}`, "count", "json.wrong_type"},
		"three numbers for a point":        {`{"point":[1,2,3]}`, "point", "json.wrong_type"},
		"one number for a point":           {`{"point":[1]}`, "point", "json.wrong_type"},
		"a comma in the seconds of a time": {`{"at":"2026-03-04T12:00:00,5Z"}`, "at", "json.wrong_type"},
		"a number with a leading zero":     {`{"count":01}`, "", "json.broken"},
		"a comma too many":                 {`{"count":1,}`, "", "json.broken"},
		"a list for the whole":             {`[]`, "", "json.wrong_type"},
		"broken off":                       {`{"count":`, "", "json.truncated"},
		"nothing":                          {``, "", "json.truncated"},
		"two values":                       {`{} {}`, "", "json.trailing_text"},
		"a mark of byte order before it":   {"\ufeff{}", "", "json.broken"},
		"far too deep":                     {`{"body":` + strings.Repeat("[", 100_000), "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			var into reading
			err := strict.Decode("in", []byte(row.text), &into)
			var f *fault.Fault
			switch {
			case name == "far too deep":
				if err == nil {
					t.Error("it was taken")
				}
			case row.key == "" && err != nil:
				t.Errorf("refused: %v", err)
			case row.key != "" && !errors.As(err, &f):
				t.Errorf("got %v, want %s", err, row.key)
			case row.key != "" && (f.Key != row.key || row.field != "" && f.Field != "in."+row.field):
				t.Errorf("got %v, want %s at in.%s", f, row.key, row.field)
			}
		})
	}
}

func TestTextsOfOthersAreCarriedAsTheyAre(t *testing.T) {
	var into reading
	text := `{"count":1,"body":{"a":1,"a":"\ud83d"}}`
	if err := strict.DecodeAround("", []byte(text), &into); err != nil || string(into.Body) != `{"a":1,"a":"\ud83d"}` {
		t.Errorf("got %s, %v", into.Body, err)
	}
	if err := strict.DecodeAround("", []byte(`{"cunt":1}`), &into); err == nil {
		t.Error("an unknown member of what carries them was taken")
	}
}

func TestWhatWasKeptIsReadAsFarAsItGoes(t *testing.T) {
	var into reading
	text := "{\"COUNT\":1,\"film_mm\":1,\"film_mm\":2,\"tilt\":{\"x\":1},\"typed\":{\"a\":\"\xff\"}}"
	if err := strict.DecodeKept("", []byte(text), &into); err != nil || into.Count != 1 || into.Film != 2 || into.Typed["a"] != "\ufffd" {
		t.Errorf("got %+v, %v", into, err)
	}
}

func TestNumbersThatAPageWouldChange(t *testing.T) {
	for text, fine := range map[string]bool{
		`{"a":9007199254740991}`:                true,
		`{"a":9007199254740992}`:                false,
		`{"a":-9007199254740993}`:               false,
		`[1e15,0.1234567890123456789]`:          true,
		`[1e16]`:                                false,
		`[1e999]`:                               false,
		`{"a":"9007199254740993 in a text \""}`: true,
		`{"9007199254740993":1}`:                true,
		`[1e-400]`:                              true,
	} {
		if err := strict.Numbers([]byte(text)); (err == nil) != fine {
			t.Errorf("%s: %v", text, err)
		}
	}
}

func ExampleDecode() {
	var reading struct {
		LastWet float64 `json:"last_wet_mm"`
	}
	fmt.Println(strict.Decode("body", []byte(`{"last_wet_mm":1.2,"last_wet_mm":1.3}`), &reading))
	// Output: body.last_wet_mm: json.doubled_field
}

func FuzzWhatIsTakenIsTakenAlike(f *testing.F) {
	for _, seed := range []string{`{"count":1}`, `{"count":1,"Count":2}`, `{"typed":{"a":"\ud83d\ude00"}}`, "{\"body\":\"\xff\"}"} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		var ours, plain reading
		if strict.Decode("", text, &ours) != nil {
			return
		}
		if err := json.Unmarshal(text, &plain); err != nil {
			t.Fatalf("another reader refuses %q: %v", text, err)
		}
		if ours.Count != plain.Count || ours.Film != plain.Film || len(ours.Typed) != len(plain.Typed) || !ours.At.Equal(plain.At) {
			t.Fatalf("another reader reads %q otherwise", text)
		}
	})
}
