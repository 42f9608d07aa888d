package logbook_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// planned has the laundry planned with a system that was changed before.
func planned(t *testing.T, change func(*system.System)) *working {
	t.Helper()
	w := laundry(t)
	w.add(0, "plan", systemtest.Plan(w.made.Named["survey3"], "sample.flexible_cementitious", change))
	return w
}

// tick is a minute later each time.
func (w *working) tick() time.Duration { return time.Duration(w.counter) * time.Minute }

func (w *working) prepared() logbook.StepLook { return w.stepNow("prepare") }

// stepAt is a step some time after noon.
func (w *working) stepAt(id string, after time.Duration) logbook.StepLook {
	return w.step(w.look(after), id)
}

// A no is kept and holds the step; "not here" counts only where it may be.
func TestANoHoldsItsStep(t *testing.T) {
	answers := func(says map[string]string) map[string]any {
		list := []map[string]any{}
		for _, q := range []string{"c1", "c2", "c3", "c4"} {
			list = append(list, map[string]any{"question": q, "says": says[q]})
		}
		return map[string]any{"step": "prepare", "answers": list}
	}
	w := planned(t, func(s *system.System) {
		for i, l := range s.Layers {
			if l.ID == "fillet" {
				s.Layers = append(s.Layers[:i:i], s.Layers[i+1:]...)
				break
			}
		}
	})
	w.add(10*time.Minute, "done", map[string]any{"step": "prepare"})
	if s := w.prepared(); s.State == "done" || len(s.Open) != 4 || !w.deviates("deviation.done_unanswered") {
		t.Errorf("nothing was answered: %s, open %v", s.State, s.Open)
	}
	w.add(11*time.Minute, "done", answers(map[string]string{"c1": "not_here", "c2": "no", "c3": "yes", "c4": "yes"}))
	if n := w.look(time.Hour).Next; n.Step != "prepare" || n.State != "held" || !w.deviates("deviation.done_with_no") {
		t.Errorf("a no: next is %+v", n)
	}
	w.add(12*time.Minute, "done", answers(map[string]string{"c1": "yes", "c2": "not_here", "c3": "yes", "c4": "yes"}))
	if s := w.prepared(); s.State == "done" || len(s.Open) != 1 || s.Open[0].Why != "asks.has_to_be" {
		t.Errorf("what has to be is not here: %s, open %v", s.State, s.Open)
	}
	w.add(13*time.Minute, "done", answers(map[string]string{"c1": "not_here", "c2": "yes", "c3": "not_here", "c4": "yes"}))
	if s := w.prepared(); s.State != "done" {
		t.Errorf("all answered: %s, open %v", s.State, s.Open)
	}
}

// A question that a number answers has its range; a choice is one of its choices.
func TestNumbersAndChoicesAreAnswers(t *testing.T) {
	asks := []system.Question{{ID: "pull", Line: "Pull", Kind: "number", Unit: "MPa", Least: 1.5, Most: 5}, {ID: "shade", Line: "Shade", Kind: "choice", Choices: []string{"grey", "sand"}}, {ID: "seen", Line: "Seen", Kind: "photo"}}
	w := planned(t, func(s *system.System) {
		s.Edits = append(s.Edits, system.Edit{Does: "add", Step: "extra", Before: "prepare", Stage: "prepare", Add: &system.Step{ID: "extra", Title: "Extra", Does: "check", Asks: asks}})
	})
	reply := func(mpa float64, shade, photo string) string {
		w.add(w.tick(), "done", map[string]any{"step": "extra", "answers": []map[string]any{{"question": "pull", "value": mpa}, {"question": "shade", "choice": shade}, {"question": "seen", "photo": photo}}})
		why := ""
		for _, q := range w.stepNow("extra").Open {
			why += q.ID + " " + q.Why + "; "
		}
		return why
	}
	photo := w.area
	for _, row := range []struct {
		mpa   float64
		shade string
		want  string
	}{{1.4, "grey", "pull asks.out_of_range; "}, {5.1, "grey", "pull asks.out_of_range; "}, {1.5, "red", "shade asks.open; "}, {5, "sand", ""}} {
		if got := reply(row.mpa, row.shade, photo); got != row.want {
			t.Errorf("%v MPa, %s: open %q, want %q", row.mpa, row.shade, got, row.want)
		}
	}
}

// A step that is asked for first: a no drops it, and what comes after goes on.
func TestAStepThatIsNotNeededIsDropped(t *testing.T) {
	w := planned(t, func(s *system.System) {
		s.Edits = append(s.Edits, system.Edit{Does: "add", Step: "heat", Before: "prepare", Stage: "prepare", Add: &system.Step{ID: "heat", Title: "Heat the room", Does: "check", OnlyIf: &system.Question{ID: "cold", Line: "Is it colder than 5 °C?"}}})
	})
	if n := w.look(time.Hour).Next; n.Step != "heat" || n.Why != "next.only_if" {
		t.Fatalf("next is %+v", n)
	}
	w.add(5*time.Minute, "done", map[string]any{"step": "heat", "answers": []map[string]any{{"question": "cold", "says": "no"}}})
	if n := w.look(time.Hour).Next; n.Step != "prepare" || !w.stepNow("heat").Dropped {
		t.Errorf("answered no, and next is %+v", n)
	}
	w.add(6*time.Minute, "done", map[string]any{"step": "heat", "answers": []map[string]any{{"question": "cold", "says": "yes"}}})
	if w.stepNow("heat").Dropped {
		t.Error("it is needed after all, and dropped")
	}
}

// A permit opens its steps until it ends; a gas test stands an hour, and only a fine one.
func TestPermitsEndAndGasTestsAge(t *testing.T) {
	w := planned(t, func(s *system.System) {
		s.Edits = append(s.Edits, system.Edit{Does: "add", Step: "enter", Before: "prepare", Stage: "prepare", Add: &system.Step{ID: "enter", Title: "Go in", Does: "check", Permit: "confined_space", People: 2, Asks: []system.Question{{ID: "c1", Line: "In"}}}})
	})
	shut := func(after time.Duration) string {
		p, err := w.fold(w.texts).Permission("enter", noon.Add(after))
		if err != nil {
			t.Fatal(err)
		}
		defer func() {
			if s := w.stepAt("enter", after); (p.Says == logbook.Yes) != (s.Block == nil) {
				t.Errorf("after %v the permission says %s, and the step %+v", after, p.Says, s.Block)
			}
		}()
		s := w.stepAt("enter", after)
		if s.Block == nil {
			return ""
		}
		return s.Block.Kind + " " + s.Block.Says
	}
	want := func(after time.Duration, is string) {
		t.Helper()
		if got := shut(after); got != is {
			t.Errorf("after %v it is %q, want %q", after, got, is)
		}
	}
	want(0, "permit not_known")
	w.add(time.Minute, "permit.given", map[string]any{"permit": "confined_space", "number": "7", "giver": "Safety office", "until": noon.Add(5 * time.Hour).Format(time.RFC3339)})
	want(2*time.Minute, "gas not_known")
	w.add(3*time.Minute, "gas.tested", map[string]any{"oxygen_percent": 19.4, "explosive_percent": 0})
	want(4*time.Minute, "gas no")
	w.add(5*time.Minute, "gas.tested", map[string]any{"oxygen_percent": 19.5, "explosive_percent": 10})
	want(6*time.Minute, "people not_known")
	w.add(7*time.Minute, "manned", map[string]any{"step": "enter", "people": []string{w.made.Named["lead"], w.made.Named["inspector"]}})
	want(8*time.Minute, "")
	want(66*time.Minute, "gas not_known")
	w.add(4*time.Hour+50*time.Minute, "gas.tested", map[string]any{"oxygen_percent": 20.9, "explosive_percent": 10.5})
	want(4*time.Hour+51*time.Minute, "gas no")
	w.add(4*time.Hour+52*time.Minute, "gas.tested", map[string]any{"oxygen_percent": 20.9, "explosive_percent": 0})
	want(4*time.Hour+53*time.Minute, "")
	want(5*time.Hour+time.Minute, "permit no")
	w.add(5*time.Hour+2*time.Minute, "done", map[string]any{"step": "enter", "answers": []map[string]any{{"question": "c1", "says": "yes"}}})
	if !w.deviates("deviation.without_permit") {
		t.Error("worked on after the permit had ended, and nothing is said")
	}
}

// What is laid beside the film is counted by its places, named where the plan has none, and half of what was asked is said.
func TestAMaterialIsLaidPlaceByPlace(t *testing.T) {
	w := planned(t, func(*system.System) {})
	w.air(4*time.Minute, 20, 19, 55)
	work := w.prepared().Works[0]
	if work.ID != "fillet" || work.Need == nil || len(work.Places) < 4 {
		t.Fatalf("%+v", work)
	}
	some := []string{work.Places[0].ID, work.Places[1].ID}
	asked := work.Places[0].Need + work.Places[1].Need
	w.add(5*time.Minute, "laid", map[string]any{"step": "prepare", "layer": "fillet", "surfaces": some, "kg": asked / 2})
	if s := w.prepared(); s.Done != 2 || w.deviates("deviation.laid_half") {
		t.Errorf("half of it, to the gram: %d of %d", s.Done, s.Of)
	}
	w.add(6*time.Minute, "laid", map[string]any{"step": "prepare", "layer": "fillet", "surfaces": some, "kg": asked/2 - 0.01})
	if !w.deviates("deviation.laid_half") {
		t.Error("less than half of what was asked, and nothing is said")
	}
	w.add(7*time.Minute, "laid", map[string]any{"step": "prepare", "layer": "fillet", "surfaces": []string{"floor"}, "kg": 3.0})
	if !w.deviates("deviation.work_not_there") {
		t.Error("a fillet on the floor is passed over in silence")
	}
	w.add(8*time.Minute, "laid", map[string]any{"step": "prepare", "layer": "gold", "surfaces": some, "kg": 3.0})
	if !w.deviates("deviation.no_such_work") {
		t.Error("a layer that the step has not is passed over in silence")
	}
	if used := w.prepared().Works[0].Used; fmt.Sprintf("%.3f", used) != fmt.Sprintf("%.3f", asked-0.01+3) {
		t.Errorf("used %v", used)
	}
}

// Water that goes by the tool is asked for, and stands on the card of each bucket.
func TestWaterGoesByTheTool(t *testing.T) {
	w := laundry(t)
	w.add(0, "plan", systemtest.Plan(w.made.Named["survey3"], "sample.tool_water"))
	area := w.fold(w.texts)
	in := logbook.CardInputs{Coat: 1, Surfaces: []string{"floor"}, Temp: 20, Bucket: 30, Resolution: 20, CrewRate: 10, Walk: 2}
	if _, err := area.CardFor(in); err == nil {
		t.Error("nobody said with which tool, and there is a card")
	}
	for tool, number := range map[string]string{"roller": "water_roller", "trowel": "water_trowel"} {
		in.Tool = tool
		card, err := area.CardFor(in)
		if err != nil {
			t.Fatal(err)
		}
		said, _ := area.Plan.Sheet.Number(number)
		kg, ml := 0.0, 0.0
		for i, line := range card.Added {
			kg, ml = kg+card.Batches.Batches[i], ml+*line.ML
		}
		if kg == 0 || ml < said.Value*kg*0.999 || ml > said.Value*kg*1.001 || said.Value == 0 {
			t.Errorf("%s: %v mL to %v kg, %v mL/kg are asked", tool, ml, kg, said.Value)
		}
	}
}

// What a system leaves to the site stands as its first choice until somebody decides, and is laid as it was decided.
func TestAChoiceIsMadeOnTheSite(t *testing.T) {
	w := room(t, "accelerated_resin", sound(), func(s *system.System) {
		s.Options = slices.Clone(s.Options)
		s.Options[0].Decided = system.OnSite
	})
	laid := func(look logbook.Look) (ids []string) {
		for _, work := range stepIn(look, "top_coat").Works {
			ids = append(ids, work.ID)
		}
		return ids
	}
	look := w.look(0)
	if o := look.System.Options; len(o) != 1 || o[0].Chosen != "strewn" || o[0].Said || !slices.Equal(o[0].Steps, []string{"top_coat"}) {
		t.Fatalf("before: %+v", o)
	}
	if got := laid(look); !slices.Equal(got, []string{"top", "top+grit"}) {
		t.Errorf("before it is decided %v is laid", got)
	}
	w.add(0, "decided", map[string]any{"option": "grip", "choice": "beads"})
	look = w.look(time.Minute)
	if o := look.System.Options; len(o) != 1 || o[0].Chosen != "beads" || !o[0].Said {
		t.Errorf("after: %+v", o)
	}
	if got := laid(look); !slices.Equal(got, []string{"top_beads"}) {
		t.Errorf("after it is decided %v is laid", got)
	}
	w.add(time.Minute, "decided", map[string]any{"option": "grip", "choice": "sand"})
	wantDeviation(t, w.look(2*time.Minute), "unknown_option")
}
