package logbook_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
)

// laundry is the hostel's room that is measured and not yet planned.
func laundry(t *testing.T) *working {
	w := hostel(t)
	w.area = w.made.Areas["laundry"]
	return w
}

func (w *working) deviates(key string) bool {
	return slices.ContainsFunc(w.look(time.Hour).Deviations, func(d logbook.Deviation) bool { return d.Key == key })
}

func (w *working) stepNow(id string) logbook.StepLook {
	w.t.Helper()
	for _, stage := range w.look(time.Hour).Stages {
		for _, step := range stage.Steps {
			if step.ID == id {
				return step
			}
		}
	}
	w.t.Fatalf("no step %s", id)
	return logbook.StepLook{}
}

func TestALeakIsClosedOnlyWhenItIsPluggedAndFoundDry(t *testing.T) {
	w := laundry(t)
	leak := w.add(1*time.Minute, "leak.found", map[string]any{"surface": "wall.a", "along_mm": 300, "up_mm": 40, "state": "running"})
	open := func() bool { return w.look(time.Hour).Leaks[0].Open }
	w.add(2*time.Minute, "leak.checked", map[string]any{"leak": leak, "dry": true})
	if !open() || !w.deviates("deviation.leak_not_plugged") {
		t.Error("a leak that was never plugged is closed")
	}
	w.add(3*time.Minute, "leak.plugged", map[string]any{"leak": leak, "with": "fast plug"})
	w.add(4*time.Minute, "leak.checked", map[string]any{"leak": leak, "dry": false})
	if l := w.look(time.Hour).Leaks[0]; !l.Open || l.Plugged != nil {
		t.Errorf("found wet again: %+v", l)
	}
	w.add(5*time.Minute, "leak.plugged", map[string]any{"leak": leak, "with": "fast plug, again"})
	w.add(6*time.Minute, "leak.checked", map[string]any{"leak": leak, "dry": true})
	if l := w.look(time.Hour).Leaks[0]; l.Open || l.Dry == nil || l.Plugged.Note != "fast plug, again" {
		t.Errorf("plugged and dry: %+v", l)
	}
	w.add(7*time.Minute, "leak.plugged", map[string]any{"leak": w.area, "with": "nothing"})
	if !w.deviates("deviation.unknown_leak") {
		t.Error("an entry about no leak is passed over in silence")
	}
}

func TestTheHoldOnTheBaseStaysShutWhileAGateStands(t *testing.T) {
	w := laundry(t)
	w.plan()
	leak := w.add(8*time.Minute, "leak.found", map[string]any{"surface": "floor", "along_mm": 600, "up_mm": 600, "state": "damp"})
	w.add(9*time.Minute, "done", map[string]any{"step": "prepare"})
	w.add(10*time.Minute, "accepted", map[string]any{"step": "substrate_accepted"})
	step := w.stepNow("substrate_accepted")
	if step.Hold != "shut" || len(step.Gates) != 1 || !w.deviates("deviation.accepted_over_gate") {
		t.Errorf("accepted over a leak: %+v", step)
	}
	w.add(11*time.Minute, "leak.plugged", map[string]any{"leak": leak, "with": "fast plug"})
	w.add(12*time.Minute, "leak.checked", map[string]any{"leak": leak, "dry": true})
	w.add(13*time.Minute, "accepted", map[string]any{"step": "substrate_accepted"})
	if step := w.stepNow("substrate_accepted"); step.Hold != "released" || len(step.Gates) != 0 {
		t.Errorf("accepted once the leak is dry: %+v", step)
	}
}

func TestWhyHereIsKept(t *testing.T) {
	w := laundry(t)
	w.add(14*time.Minute, "history", map[string]any{"answers": map[string]string{"complaint": "damp below"}, "path": []map[string]any{{"surface": "floor", "along_mm": 10, "up_mm": 10}}})
	w.add(15*time.Minute, "history", map[string]any{"answers": map[string]string{"complaint": "damp below and beside"}})
	if h := w.look(time.Hour).History; h == nil || h.Answers["complaint"] != "damp below and beside" {
		t.Errorf("%+v", h)
	}
	for name, body := range map[string]any{
		"a line that is not asked":  map[string]any{"answers": map[string]string{"weather": "wet"}},
		"a line of a book's length": map[string]any{"answers": map[string]string{"history": strings.Repeat("x", 600)}},
		"a photo without its hash":  map[string]any{"answers": map[string]string{}, "photos": []map[string]string{{"id": w.area, "sha256": "abc"}}},
	} {
		text, err := json.Marshal(map[string]any{"id": "019cb000-0000-7000-8000-000000000001", "jobId": w.made.ID, "areaId": w.area, "kind": "history", "at": "2026-03-04T12:00:00Z", "by": w.made.Named["lead"], "body": body})
		if err != nil {
			t.Fatal(err)
		}
		if _, err := logbook.Parse(text); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
}

// A leak shuts the base again: the same coat laid on before it is behind no hold, and after it is.
func TestALeakIsInTheWayOfTheCoatThatWasBegun(t *testing.T) {
	w := hostel(t)
	lay := func(after time.Duration) string {
		return w.add(after, "laid", map[string]any{"step": "coat_1", "surfaces": []string{"floor"}, "kg": 1.0, "tops_up": "wet"})
	}
	before := lay(time.Minute)
	w.add(2*time.Minute, "leak.found", map[string]any{"surface": "floor", "along_mm": 300, "up_mm": 300, "state": "damp"})
	after := lay(3 * time.Minute)
	behind := map[string]bool{}
	for _, d := range w.look(time.Hour).Deviations {
		if d.Key == "deviation.behind_hold" {
			behind[d.Entry] = true
		}
	}
	if behind[before] || !behind[after] {
		t.Errorf("behind a hold: the one before the leak %v, the one after it %v", behind[before], behind[after])
	}
}
