package logbook_test

import (
	"maps"
	"slices"
	"testing"
	"time"

	"dusha/core/figure"
	"dusha/core/logbook"
)

// A permission that is opened says what its step says, and everything it stands on has words, its
// entry and its time.
func TestAPermissionSaysWhatItsStepSays(t *testing.T) {
	said, seen := sentences(t), map[string]bool{}
	for _, area := range []string{"drying", "shower1", "shower2"} {
		for _, after := range []time.Duration{0, 90 * time.Minute, 7 * time.Hour, 30 * time.Hour} {
			w := hostel(t)
			w.area = w.made.Areas[area]
			folded := w.fold(w.texts)
			now := noon.Add(after)
			look := folded.At(now)
			for _, stage := range look.Stages {
				for _, step := range stage.Steps {
					if step.State == "done" {
						continue
					}
					p, err := folded.Permission(step.ID, now)
					if err != nil {
						t.Fatal(err)
					}
					judges := step.Does == "accept" || step.Does == "sign" || step.Does == "test"
					if open := step.Block == nil; (p.Says == logbook.Yes) != open && !(judges && open) {
						t.Errorf("%s, %s after %v: %s, and its block is %+v\n%+v", area, step.ID, after, p.Says, step.Block, p.Because)
					}
					for _, b := range p.Because {
						seen[b.Key] = true
						if _, known := said[b.Key]; !known {
							t.Errorf("%s has no words", b.Key)
						}
						if _, known := said[b.Remedy]; b.Remedy != "" && !known {
							t.Errorf("%s: remedy %s has no words", b.Key, b.Remedy)
						}
						if b.Entry != "" && b.At == "" {
							t.Errorf("%s: its entry has no time", b.Key)
						}
						for _, f := range b.Figures {
							figure.Walk(f, func(f figure.Figure) {
								if len(f.Inputs) == 0 && f.Source == nil {
									t.Errorf("%s: %s ends nowhere", b.Key, f.Name)
								}
							})
						}
					}
				}
			}
		}
	}
	for _, key := range []string{"because.signed", "because.wait", "because.stock", "because.film", "why.start.not_read"} {
		if !seen[key] {
			t.Errorf("the hostel never says %s: %v", key, slices.Sorted(maps.Keys(seen)))
		}
	}
}

// What a person answered for is said first, by name, and stays beside what it was answered against.
func TestAPermissionByNameSaysSo(t *testing.T) {
	w := room(t, "flexible_cementitious", sound()).passTo("coat_1").countedAll(-time.Hour)
	area := w.fold(w.texts)
	before, err := area.Permission("coat_1", noon)
	if err != nil || before.Says != logbook.Unknown {
		t.Fatalf("nothing was read: %+v %v", before, err)
	}
	w.add(0, "overridden", map[string]any{"step": "coat_1", "person": w.made.Named["lead"], "reason": "read by hand on the wall"})
	area = w.fold(w.texts)
	p, _ := area.Permission("coat_1", noon)
	if p.Says != logbook.Yes || p.Because[0].Key != "because.answered" || p.Because[0].Args["note"] != "read by hand on the wall" || len(p.Because) != len(before.Because)+1 {
		t.Errorf("%+v", p)
	}
	if _, err := area.Permission("nowhere", noon); err == nil {
		t.Error("a step that is none has a permission")
	}
}
