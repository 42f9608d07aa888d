package logbook_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
)

const goodEntry = `{"id":"019cb000-0000-7000-8000-000000000001","jobId":"019cb000-0000-7000-8000-000000000002","areaId":"019cb000-0000-7000-8000-000000000003","kind":"read","at":"2026-03-04T12:00:00+01:00","by":"019cb000-0000-7000-8000-000000000004","body":{"step":"coat_1","surface":"floor","along_mm":1,"up_mm":2,"last_wet_mm":0.9,"next_dry_mm":1.0}}`

func TestEntriesAreRefusedForTheirShapeAndTheFieldIsNamed(t *testing.T) {
	swap := func(from, to string) string { return strings.Replace(goodEntry, from, to, 1) }
	rows := []struct{ name, text, field, key string }{
		{"as it should be", goodEntry, "", ""},
		{"truncated", goodEntry[:80], "entry", "json.truncated"},
		{"broken", `{"id":}`, "id", "json.broken"},
		{"two entries in one", goodEntry + goodEntry, "entry", "json.trailing_text"},
		{"an unknown field", swap(`"kind"`, `"kinds"`), "kinds", "json.unknown_field"},
		{"an unknown field of the body", swap(`"step"`, `"stop"`), "body.stop", "json.unknown_field"},
		{"text where a number belongs", swap(`"along_mm":1`, `"along_mm":"left"`), "body.along_mm", "json.wrong_type"},
		{"an unknown kind", swap(`"read"`, `"reed"`), "kind", "entry.unknown_kind"},
		{"not an id", swap(`"id":"019c`, `"id":"x19c`), "id", "entry.not_an_id"},
		{"no person", swap(`"by":"019cb000-0000-7000-8000-000000000004"`, `"by":""`), "by", "entry.not_an_id"},
		{"no time", swap(`2026-03-04T12:00:00+01:00`, `yesterday`), "at", "entry.not_a_time"},
		{"a time without offset", swap(`12:00:00+01:00`, `12:00:00`), "at", "entry.not_a_time"},
		{"an area's entry without its area", swap(`"areaId":"019cb000-0000-7000-8000-000000000003",`, ``), "areaId", "entry.belongs_to_area"},
		{"a dry tooth below the wet one", swap(`"next_dry_mm":1.0`, `"next_dry_mm":0.8`), "body.next_dry_mm", "film.dry_below_wet"},
		{"no tooth at all", swap(`"last_wet_mm":0.9,"next_dry_mm":1.0`, `"last_wet_mm":0,"next_dry_mm":null`), "body.last_wet_mm", "film.no_tooth"},
		{"a number beyond all size", swap(`"along_mm":1`, `"along_mm":1e999`), "entry", "entry.number_too_large"},
		{"an integer above 2^53", swap(`"along_mm":1`, `"along_mm":9007199254740993`), "entry", "entry.number_too_large"},
		{"a correction without a reason", swap(`"kind"`, `"corrects":"019cb000-0000-7000-8000-000000000009","kind"`), "reason", "text.missing"},
		{"an entry that corrects itself", swap(`"kind"`, `"corrects":"019cb000-0000-7000-8000-000000000001","reason":"x","kind"`), "corrects", "entry.corrects_itself"},
		{"no body", swap(`"body":{"step":"coat_1","surface":"floor","along_mm":1,"up_mm":2,"last_wet_mm":0.9,"next_dry_mm":1.0}`, `"body":null`), "body", "entry.no_body"},
		{"a name in other letters", swap(`"id"`, `"ID"`), "ID", "json.unknown_field"},
		{"a name of the body in other letters", swap(`"step"`, `"Step"`), "body.Step", "json.unknown_field"},
		{"a member twice", swap(`"kind":"read"`, `"kind":"read","kind":"laid"`), "kind", "json.doubled_field"},
		{"a member of the body twice", swap(`"up_mm":2`, `"up_mm":2,"up_mm":3`), "body.up_mm", "json.doubled_field"},
		{"half a surrogate pair", swap(`"floor"`, `"floor \ud83d"`), "body.surface", "json.broken_text"},
		{"the other half", swap(`"floor"`, `"floor \udc00"`), "body.surface", "json.broken_text"},
		{"half a pair as bytes", swap(`"floor"`, "\"floor \xed\xa0\x80\""), "body.surface", "json.broken_text"},
		{"no UTF-8", swap(`"floor"`, "\"floor \xff\""), "body.surface", "json.broken_text"},
		{"an overlong form", swap(`"floor"`, "\"\xc0\xaf\""), "body.surface", "json.broken_text"},
		{"a whole pair", swap(`"floor"`, `"floor \ud83d\ude00"`), "", ""},
		{"an offset of no place", swap(`+01:00`, `+14:01`), "at", "entry.not_an_offset"},
		{"an offset of a day", swap(`+01:00`, `-23:59`), "at", "entry.not_an_offset"},
		{"the farthest offset", swap(`+01:00`, `+14:00`), "", ""},
		{"a comma in the seconds", swap(`12:00:00+01:00`, `12:00:00,5+01:00`), "at", "entry.not_a_time"},
		{"an hour of one digit", swap(`T12:00:00`, `T2:00:00`), "at", "entry.not_a_time"},
		{"a day that is not", swap(`2026-03-04`, `2026-02-30`), "at", "entry.not_a_time"},
		{"a time of endless digits", swap(`12:00:00`, `12:00:00.`+strings.Repeat("0", 400)), "at", "entry.not_a_time"},
		{"far too large", swap(`"floor"`, `"`+strings.Repeat("f", 300<<10)+`"`), "entry", "entry.too_large"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			_, err := logbook.Parse([]byte(row.text))
			var f *fault.Fault
			switch {
			case row.key == "" && err != nil:
				t.Errorf("refused: %v", err)
			case row.key != "" && !errors.As(err, &f):
				t.Errorf("got %v, want %s", err, row.key)
			case row.key != "" && (f.Key != row.key || f.Field != row.field):
				t.Errorf("got %s at %q, want %s at %q", f.Key, f.Field, row.key, row.field)
			}
		})
	}
}

func TestBodiesAreRefusedForTheirShape(t *testing.T) {
	body := func(kind, text string) string {
		start := strings.Index(goodEntry, `"kind"`)
		return goodEntry[:start] + fmt.Sprintf(`"kind":%q,"at":"2026-03-04T12:00:00Z","by":"019cb000-0000-7000-8000-000000000004","body":%s}`, kind, text)
	}
	rows := []struct{ name, kind, body, field, key string }{
		{"a nameless area", "area.opened", `{"name":" "}`, "body.name", "text.missing"},
		{"a very long name", "area.opened", `{"name":"` + strings.Repeat("n", 81) + `"}`, "body.name", "text.too_long"},
		{"no pieces", "bedded", `{"step":"bands","pieces":[]}`, "body.pieces", "list.empty"},
		{"a coat of nothing", "laid", `{"step":"coat_1","surfaces":["floor"],"kg":0}`, "body.kg", "number.too_small"},
		{"a coat of ten tonnes", "laid", `{"step":"coat_1","surfaces":["floor"],"kg":10000}`, "body.kg", "number.too_large"},
		{"an override without a reason", "overridden", `{"step":"x","person":"019cb000-0000-7000-8000-000000000004","reason":""}`, "body.reason", "text.missing"},
		{"an override by nobody", "overridden", `{"step":"x","person":"","reason":"y"}`, "body.person", "entry.not_an_id"},
		{"an unknown mark", "marked", `{"batch":"019cb000-0000-7000-8000-000000000004","mark":"shaken"}`, "body.mark", "choice.unknown"},
		{"a plan without a system", "plan", `{"survey":"019cb000-0000-7000-8000-000000000004","texture":"fine","system":{},"rules":{}}`, "body.system.name", "text.missing"},
		{"a plan of an older Dusha", "plan", `{"survey":"019cb000-0000-7000-8000-000000000004","texture":"fine","sheet":{},"rules":{}}`, "body.sheet", "json.unknown_field"},
		{"a boiling room", "weighed", `{"step":"coat_1","batch":"019cb000-0000-7000-8000-000000000004","surfaces":["floor"],"kg":3,"temp_C":100,"bucket_L":20,"parts":[{"part":"a","kg":1}]}`, "body.temp_C", "number.too_large"},
		{"a negative part", "weighed", `{"step":"coat_1","batch":"019cb000-0000-7000-8000-000000000004","surfaces":["floor"],"kg":3,"temp_C":20,"bucket_L":20,"parts":[{"part":"a","kg":-1}]}`, "body.parts.1.kg", "number.too_small"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			_, err := logbook.Parse([]byte(body(row.kind, row.body)))
			var f *fault.Fault
			if !errors.As(err, &f) || f.Key != row.key || f.Field != row.field {
				t.Errorf("got %v, want %s at %s", err, row.key, row.field)
			}
		})
	}
}

func TestABucketCardForAShareOfACoat(t *testing.T) {
	w := hostel(t)
	in := logbook.CardInputs{Coat: 1, Surfaces: []string{"floor", "wall.c"}, Temp: 20, Bucket: 30, Resolution: 20, CrewRate: 10, Walk: 3}
	card, err := w.fold(w.texts).CardFor(in)
	if err != nil {
		t.Fatal(err)
	}
	// (4.32 + 0.45) m² · (1.2 + 0.15) mm · 1.65 kg/L · 1.05
	near(t, "need", card.Need, 11.156, 0.001)
	near(t, "pot life", card.PotLife, 55, 1e-9)
	near(t, "usable", card.Greatest.Usable, 44, 1e-9)
	near(t, "greatest by bucket", card.Greatest.ByBucket, 29.7, 1e-9)
	// (20/2000)(68/43 + 1.02·68/25)/0.02
	near(t, "least", card.Least, 2.178, 0.001)
	if len(card.Weigh) != 1 {
		t.Fatalf("batches: %v", card.Batches.Batches)
	}
	parts := card.Weigh[0]
	near(t, "liquid", parts[0].Mass, 4.10, 1e-9)
	near(t, "powder", parts[1].Mass, 7.06, 1e-9)
	near(t, "scale after both", parts[1].Scale, 11.16, 1e-9)
	near(t, "level", parts[1].Reaches, card.Need/1.65, 1e-9)
	for _, row := range []struct {
		name, field string
		wrong       func(*logbook.CardInputs)
	}{
		{"no surface", "surfaces", func(in *logbook.CardInputs) { in.Surfaces = nil }},
		{"no such coat", "coat", func(in *logbook.CardInputs) { in.Coat = 3 }},
		{"no bucket", "bucket_L", func(in *logbook.CardInputs) { in.Bucket = 0 }},
		{"a scale of nothing", "scale_g", func(in *logbook.CardInputs) { in.Resolution = 0 }},
	} {
		t.Run(row.name, func(t *testing.T) {
			bad := in
			row.wrong(&bad)
			_, err := w.fold(w.texts).CardFor(bad)
			var f *fault.Fault
			if !errors.As(err, &f) || f.Field != row.field {
				t.Errorf("got %v, want a fault at %s", err, row.field)
			}
		})
	}
	in.Temp = 35
	hot, err := w.fold(w.texts).CardFor(in)
	if err != nil || !hot.Outside || hot.PotLife >= 32 {
		t.Errorf("at 35 °C: %+v, %v; want it outside the sheet's range with a shorter pot life", hot, err)
	}
}

func near(t *testing.T, what string, got, want, slack float64) {
	t.Helper()
	if got < want-slack || got > want+slack {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

func TestOrderIsByTimeThenID(t *testing.T) {
	w := hostel(t)
	late, early := w.add(time.Hour, "accepted", map[string]any{"step": "x"}), w.add(time.Minute, "accepted", map[string]any{"step": "x"})
	twin := w.add(time.Minute, "accepted", map[string]any{"step": "x"}, withID("019cb000-0000-7000-8000-0000000000ff"))
	var entries []logbook.Entry
	for _, text := range w.texts[len(w.texts)-3:] {
		e, err := logbook.Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		entries = append(entries, e)
	}
	var ids []string
	for _, e := range logbook.Order(entries) {
		ids = append(ids, e.ID)
	}
	if !slices.Equal(ids, []string{early, twin, late}) {
		t.Errorf("order is %v", ids)
	}
}
