package logbook_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/site"
)

// raw writes a text as it stands among the entries.
func (w *working) raw(text string) { w.texts = append(w.texts, []byte(text)) }

// as writes an entry and changes its text.
func (w *working) as(after time.Duration, kind, from, to string, body any, changes ...change) {
	w.t.Helper()
	w.add(after, kind, body, changes...)
	last := &w.texts[len(w.texts)-1]
	changed := strings.Replace(string(*last), from, to, 1)
	if changed == string(*last) {
		w.t.Fatalf("%q does not stand in %s", from, *last)
	}
	*last = []byte(changed)
}

func (w *working) kept(after time.Duration) logbook.Look {
	w.t.Helper()
	return site.Read(w.texts).Area(w.area).At(noon.Add(after))
}

func deviated(look logbook.Look, key string) bool {
	return slices.ContainsFunc(look.Deviations, func(d logbook.Deviation) bool { return d.Key == key })
}

// finishedRoom is the story's room whose every step is done.
func finishedRoom(t *testing.T) *working {
	w := hostel(t)
	w.area = w.made.Areas["drying"]
	if state := w.kept(0).Next.State; state != "finished" {
		t.Fatalf("the room is %s, want it finished", state)
	}
	return w
}

// Whatever cannot be read is said, opens nothing, and takes nothing of the quantities away.
func TestWhatCannotBeReadShutsWhatItMightConcern(t *testing.T) {
	read := map[string]any{"step": "coat_2", "surface": "floor", "along_mm": 1, "up_mm": 2, "last_wet_mm": 0.9, "next_dry_mm": 1.0}
	rows := []struct {
		name string
		put  func(w *working)
		key  string
		open string // a hold that it cannot concern
	}{
		{"a kind that is not known", func(w *working) { w.as(0, "read", `"read"`, `"blessed"`, read) }, "deviation.kept_by_newer", ""},
		{"a field that is not known", func(w *working) { w.as(0, "read", `"up_mm"`, `"tilt":5,"up_mm"`, read) }, "deviation.kept_by_newer", "accept_coat_1"},
		{"a field of the envelope that is not known", func(w *working) { w.as(0, "read", `"kind"`, `"device":"d","kind"`, read) }, "deviation.kept_by_newer", "accept_coat_1"},
		{"another type", func(w *working) { w.as(0, "read", `"up_mm":2`, `"up_mm":"two"`, read) }, "deviation.unreadable", "accept_coat_1"},
		{"a body that is a list", func(w *working) { w.add(0, "read", []int{1}) }, "deviation.unreadable", ""},
		{"a member twice", func(w *working) { w.as(0, "read", `"up_mm":2`, `"up_mm":2,"up_mm":3`, read) }, "deviation.unreadable", "accept_coat_1"},
		{"names in other letters", func(w *working) { w.as(0, "read", `"id"`, `"ID"`, read) }, "deviation.kept_by_newer", "accept_coat_1"},
		{"half a surrogate pair", func(w *working) { w.as(0, "read", `"floor"`, `"floor\ud83d"`, read) }, "deviation.unreadable", "accept_coat_1"},
		{"bytes that are no UTF-8", func(w *working) { w.as(0, "read", `"floor"`, "\"floor\xed\xa0\x80\"", read) }, "deviation.unreadable", "accept_coat_1"},
		{"a time of no place", func(w *working) { w.as(0, "read", `"at":"`, `"at":"x`, read) }, "deviation.unreadable", ""},
		{"a kind that is a number", func(w *working) { w.as(0, "read", `"read"`, `7`, read) }, "deviation.unreadable", ""},
		{"an area that is a number, so that it may be any", func(w *working) { w.as(0, "read", `"`+w.area+`"`, `7`, read) }, "deviation.unreadable", ""},
		{"something of long ago that comes late", func(w *working) { w.as(-90*24*time.Hour, "read", `"read"`, `"blessed"`, read) }, "deviation.kept_by_newer", ""},
		{"zero", func(w *working) { w.raw(`0`) }, "deviation.unreadable", ""},
		{"no JSON at all", func(w *working) { w.raw("\x00\xff{") }, "deviation.unreadable", ""},
		{"nothing", func(w *working) { w.raw("") }, "deviation.unreadable", ""},
		{"something of the job's book", func(w *working) {
			w.as(0, "job.renamed", `"job.renamed"`, `"job.sold"`, map[string]any{"name": "x"}, ofJob)
		}, "deviation.kept_by_newer", ""},
		{"a plan of a newer Dusha", func(w *working) {
			w.as(0, "plan", `"texture"`, `"weather":{},"texture"`, json.RawMessage(planOf(w)))
		}, "deviation.kept_by_newer", ""},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			w := finishedRoom(t)
			before := w.kept(time.Hour)
			row.put(w)
			look := w.kept(time.Hour)
			if look.Next.State != "held" || look.Next.Why != "next.not_known" {
				t.Errorf("next is %s (%s), want it not known", look.Next.State, look.Next.Why)
			}
			if !deviated(look, row.key) {
				t.Errorf("deviations %v, want %s", look.Deviations, row.key)
			}
			if deviated(look, "deviation.behind_hold") || deviated(look, "deviation.before_earlier_step") {
				t.Error("work that was recorded is judged by it")
			}
			if look.Plan == nil || len(look.Plan.Items) != len(before.Plan.Items) || look.Name != before.Name {
				t.Error("quantities went with it")
			}
			for _, stage := range look.Stages {
				for _, step := range stage.Steps {
					switch {
					case step.ID == row.open && step.Hold != "released":
						t.Errorf("%s is %s: it cannot be concerned", step.ID, step.Hold)
					case row.open != "" && step.ID == "coat_2" && (step.Block == nil || step.Block.Kind != "not_known"):
						t.Errorf("its own step is not in doubt: %+v", step.Block)
					case step.Does == "sign" && step.Hold != "not_known":
						t.Errorf("%s is %s, want it not known", step.ID, step.Hold)
					case step.Does == "sign" && step.NoSign == "":
						t.Errorf("%s may be signed", step.ID)
					}
				}
			}
		})
	}
}

func planOf(w *working) []byte {
	for _, text := range w.made.Entries {
		if e := logbook.ReadKept(text); e.Kind == "plan" && e.AreaID == w.area {
			return e.Body
		}
	}
	w.t.Fatal("the room has no plan")
	return nil
}

// One name and one reason answer for one step, on what stood there when they were given.
func TestAPersonAnswersOnceForWhatCannotBeRead(t *testing.T) {
	w := finishedRoom(t)
	w.as(0, "climate", `"climate"`, `"climate.map"`, map[string]any{})
	for range 40 {
		next := w.kept(time.Hour).Next
		if next.State == "finished" {
			break
		}
		if next.Why != "next.not_known" {
			t.Fatalf("next is %s (%s)", next.State, next.Why)
		}
		w.add(time.Minute, "overridden", map[string]any{"step": next.Step, "person": w.made.Named["lead"], "reason": "read on the other tablet: air in the corridor"})
	}
	if next := w.kept(time.Hour).Next; next.State != "finished" {
		t.Fatalf("answered for every step, it is %s at %s", next.State, next.Step)
	}
	w.as(2*time.Minute, "climate", `"climate"`, `"climate.map"`, map[string]any{})
	if next := w.kept(time.Hour).Next; next.Why != "next.not_known" {
		t.Errorf("something new that cannot be read, and next is %s", next.Why)
	}
}

// A correction that can be read mends what could not; one that cannot be read leaves what it
// corrects as it was.
func TestCorrectionsOfWhatCannotBeRead(t *testing.T) {
	w := finishedRoom(t)
	w.as(0, "climate", `"air_C":20`, `"air_C":"warm"`, map[string]any{"air_C": 20, "substrate_C": 19, "rh_percent": 60})
	poison := fmt.Sprintf("019cb000-0000-7000-8000-%012d", w.counter)
	if why := w.kept(time.Hour).Next.Why; why != "next.not_known" {
		t.Fatalf("next is %s", why)
	}
	w.add(time.Minute, "climate", nil, corrects(poison, "typed wrong"))
	if look := w.kept(time.Hour); look.Next.State != "finished" || len(look.Withdrawn) == 0 {
		t.Errorf("taken back, next is %s", look.Next.Why)
	}

	w = finishedRoom(t)
	readings := len(w.kept(0).Climate)
	var own string
	for _, text := range w.made.Entries {
		if e := logbook.ReadKept(text); e.Kind == "climate" && e.AreaID == w.area {
			own = e.ID
		}
	}
	w.as(0, "climate", `"air_C":20`, `"air_C":"warm"`, map[string]any{"air_C": 20, "substrate_C": 19, "rh_percent": 60}, corrects(own, "typed wrong"))
	if look := w.kept(time.Hour); len(look.Climate) != readings || look.Next.Why != "next.not_known" {
		t.Errorf("%d readings of the air, want the %d there were; next is %s", len(look.Climate), readings, look.Next.Why)
	}
}

// A signature stands for what its signer's device could read.
func TestADigestLeavesOutWhatWasNotRead(t *testing.T) {
	w := hostel(t)
	before := logbook.Seen(w.area, logbook.ReadAll(w.texts))
	w.as(0, "climate", `"climate"`, `"climate.map"`, map[string]any{})
	if after := logbook.Seen(w.area, logbook.ReadAll(w.texts)); after != before {
		t.Error("the digest holds an entry whose body was not read")
	}
}

// Whatever an acceptance rested on makes it stale when it is corrected afterwards, of every kind.
func TestEveryKindUnderAnAcceptanceMakesItStale(t *testing.T) {
	air := map[string]any{"air_C": 20, "substrate_C": 19, "rh_percent": 60}
	place := map[string]any{"surface": "floor", "along_mm": 100, "up_mm": 100, "state": "damp"}
	batch := "019cb000-0000-7000-8000-00000000ba7c"
	weighed := map[string]any{"step": "coat_1", "batch": batch, "surfaces": []string{"floor"}, "kg": 3, "temp_C": 20, "bucket_L": 30, "parts": []map[string]any{{"part": "a", "kg": 1.1}, {"part": "b", "kg": 1.9}}}
	for name, row := range map[string]struct {
		kind  string
		body  any
		first func(*working)
		stale []string
	}{
		"air":    {"climate", air, nil, []string{"details_accepted", "coat_1_accepted"}},
		"a leak": {"leak.found", place, nil, []string{"details_accepted", "coat_1_accepted"}},
		"a mark": {"marked", map[string]any{"batch": batch, "mark": "contact"}, func(w *working) { w.add(-2*time.Minute, "weighed", weighed) }, []string{"coat_1_accepted"}},
	} {
		t.Run(name, func(t *testing.T) {
			w := hostel(t).mended()
			if row.first != nil {
				row.first(w)
			}
			root := w.add(-time.Minute, row.kind, row.body)
			for _, step := range []string{"details_accepted", "coat_1_accepted"} {
				w.add(time.Minute, "accepted", map[string]any{"step": step})
			}
			before := w.look(time.Hour)
			w.add(2*time.Minute, row.kind, nil, corrects(root, "it was another room"))
			after := w.look(time.Hour)
			for _, step := range []string{"details_accepted", "coat_1_accepted"} {
				want := before.Next.Step != "" && slices.Contains(row.stale, step)
				if got := w.step(after, step).Hold == "stale"; got != want {
					t.Errorf("%s is %s after the correction", step, w.step(after, step).Hold)
				}
			}
		})
	}
}

func TestALevelReadInTheMinuteOfFillingCounts(t *testing.T) {
	w := filled(t)
	w.read(time.Minute, 76, 52, "read_at", noon.Truncate(time.Minute).Format(time.RFC3339))
	w.texts[len(w.texts)-2] = []byte(strings.Replace(string(w.texts[len(w.texts)-2]), noon.Format("15:04:05"), noon.Add(30*time.Second).Format("15:04:05"), 1))
	look := w.look(time.Hour)
	if n := len(look.Test.Runs[0].Levels); n != 1 {
		t.Errorf("%d readings count", n)
	}
}
