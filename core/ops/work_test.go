package ops_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/core/sheet"
	"dusha/demo"
)

var work = ops.NewTable(ops.Surveys(), ops.Work(), ops.Materials())

// hostel is the demo job as operations take it: entries and an area of theirs.
func hostel(t *testing.T, area string) (book string, made demo.Job) {
	t.Helper()
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 5)
	if err != nil {
		t.Fatal(err)
	}
	return fmt.Sprintf(`"entries":[%s],"area":%q`, bytes.Join(made.Entries, []byte(",")), made.Areas[area]), made
}

// run calls an operation and reads what it answers.
func run(t *testing.T, op, input string) map[string]any {
	t.Helper()
	text, err := work.Call(op, []byte(input))
	if err != nil {
		t.Fatalf("%s: %v", op, err)
	}
	var out map[string]any
	if err := json.Unmarshal(text, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// refuse calls an operation that must refuse its input, naming a field.
func refuse(t *testing.T, op, input, field, key string) {
	t.Helper()
	_, err := work.Call(op, []byte(input))
	faults := fault.Of(err)
	if len(faults) == 0 || faults[0].Field != field || faults[0].Key != key {
		t.Errorf("%s: %v, want %s at %s", op, err, key, field)
	}
}

const typedRoom = `"length":"2.4 m","width":"1800","walls.a.height":"2100","walls.b.height":"2100","walls.c.height":"300","walls.d.height":"2100",` +
	`"doorway.wall":"c","doorway.from_left":"750","doorway.width":"900","doorway.height":"2000","doorway.water_stop":"20",` +
	`"drain.from_d":"1200","drain.from_a":"400","drain.diameter":"110","pipes.count":"0"`

func TestASurveyIsAskedUntilItIsWhole(t *testing.T) {
	begun := run(t, "survey.ask", `{"form":"rectangle","typed":{}}`)
	if begun["next"] != "length" || begun["survey"] != nil || begun["left"].(float64) < 10 {
		t.Errorf("nothing typed: next %v, %v left", begun["next"], begun["left"])
	}
	whole := run(t, "survey.ask", `{"form":"rectangle","typed":{`+typedRoom+`}}`)
	if whole["next"] != "" || whole["left"] != 0.0 || whole["survey"] == nil || whole["sketch"] == nil {
		t.Errorf("all typed: next %v, %v left", whole["next"], whole["left"])
	}
	wrong := run(t, "survey.ask", `{"form":"rectangle","typed":{`+strings.Replace(typedRoom, `"900"`, `"2500"`, 1)+`}}`)
	if wrong["survey"] != nil || wrong["sketch"] == nil {
		t.Error("a doorway wider than its wall: the drawing is to stay, and no survey to be kept")
	}
	refuse(t, "survey.ask", `{"form":"star","typed":{}}`, "form", "survey.unknown_form")
}

func TestANumberIsReadOrItsFieldIsNamed(t *testing.T) {
	if out := run(t, "units.number", `{"field":"kg","kind":"number","typed":"9,8","least":0.01,"most":5000}`); out["value"] != 9.8 {
		t.Errorf("9,8 is read as %v", out["value"])
	}
	if out := run(t, "units.number", `{"field":"along","kind":"length","typed":"1.2 m","least":0,"most":5000}`); out["value"] != 1200.0 {
		t.Errorf("1.2 m is read as %v", out["value"])
	}
	refuse(t, "units.number", `{"field":"rh","kind":"number","typed":"150","least":0,"most":102}`, "rh", "number.too_large")
	refuse(t, "units.number", `{"field":"rh","kind":"number","typed":"damp","least":0,"most":102}`, "rh", "number.not_a_number")
	refuse(t, "units.number", `{"field":"rh","kind":"number","typed":"","least":0,"most":102}`, "rh", "number.missing")
}

func TestAPlaceLiesOnItsSurfaceOrIsRefused(t *testing.T) {
	book, _ := hostel(t, "shower1")
	on := func(surface string, along, up float64) string {
		return fmt.Sprintf(`{%s,"surface":%q,"along_mm":%v,"up_mm":%v}`, book, surface, along, up)
	}
	run(t, "wetarea.place", on("wall.c", 300, 150))
	refuse(t, "wetarea.place", on("wall.c", 1200, 150), "place", "place.off_surface") // the doorway
	refuse(t, "wetarea.place", on("wall.z", 1, 1), "surface", "choice.unknown")
	middle := run(t, "wetarea.middle", fmt.Sprintf(`{%s,"surface":"wall.c"}`, book))
	run(t, "wetarea.place", on("wall.c", middle["along_mm"].(float64), middle["up_mm"].(float64)))
	refuse(t, "wetarea.middle", fmt.Sprintf(`{%s,"surface":"wall.z"}`, book), "surface", "choice.unknown")
}

func TestAWaterTestIsAskedOfItsArea(t *testing.T) {
	book, _ := hostel(t, "drying")
	out := run(t, "test.ask", `{`+book+`,"typed":{"depth":"40","falls":"35","tap":"10"}}`)
	if out["fill"] == nil || out["next"] != "dam" || out["answers"] != nil {
		t.Errorf("begun: fill %v, next %v, answers %v", out["fill"], out["next"], out["answers"])
	}
	unplanned, _ := hostel(t, "laundry")
	refuse(t, "test.ask", `{`+unplanned+`,"typed":{}}`, "plan", "card.no_plan")
}

func TestWhatASignatureSeesIsTheAreasBook(t *testing.T) {
	book, made := hostel(t, "drying")
	seen := run(t, "logbook.seen", `{`+book+`}`)
	if len(seen["seen"].(string)) != 64 || seen["entries"].(float64) < 50 {
		t.Errorf("%v", seen)
	}
	other := strings.Replace(book, made.Areas["drying"]+`"`, made.Areas["shower1"]+`"`, 1)
	if other == book || run(t, "logbook.seen", `{`+other+`}`)["seen"] == seen["seen"] {
		t.Error("another book has the same digest")
	}
}

func TestTheBoardOfTheHostel(t *testing.T) {
	book, made := hostel(t, "drying")
	entries, _, _ := strings.Cut(book, `,"area":`)
	at := func(more string) map[string]any {
		return run(t, "logbook.job", `{`+entries+`,"now":"2026-03-04T12:00:00Z"`+more+`}`)
	}
	job := at("")
	board := job["board"].(map[string]any)
	if fmt.Sprint(board["now"]) != fmt.Sprint([]any{made.Areas["shower1"], made.Areas["laundry"], made.Areas["pool"], made.Areas["cistern"], made.Areas["roof"], made.Areas["cellar"]}) || fmt.Sprint(board["waits"]) != fmt.Sprint([]any{made.Areas["shower2"]}) {
		t.Errorf("the board: %v", board)
	}
	opens := func(job map[string]any) string {
		for _, line := range job["areas"].([]any) {
			if area := line.(map[string]any); area["id"] == made.Areas["shower2"] {
				return area["tide"].(map[string]any)["opens"].(string)
			}
		}
		t.Fatal("no second shower")
		return ""
	}
	if cold, now, warm := opens(at(`,"warmer_K":-3`)), opens(job), opens(at(`,"warmer_K":3`)); !(warm < now && now < cold) {
		t.Errorf("open from %s colder, %s as now, %s warmer", cold, now, warm)
	}
}

// The sheets are many: they come by themselves, not with each fold of a job.
func TestTheLibraryComesApartFromTheJob(t *testing.T) {
	library, err := work.Call("sheet.library", []byte(`{"entries":[]}`))
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range sheet.Samples() {
		if !strings.Contains(string(library), `"id":"`+s.ID+`"`) {
			t.Errorf("the library lacks %s", s.Name)
		}
	}
	job, err := work.Call("logbook.job", []byte(`{"entries":[],"now":"2026-03-04T12:00:00Z"}`))
	if err != nil || strings.Contains(string(job), sheet.Samples()[0].ID) {
		t.Errorf("a fold of the job carries its sheets: %v, %d bytes", err, len(job))
	}
	t.Logf("job %d bytes, library %d", len(job), len(library))
}
