package logbook_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/rules"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// hours is a time that a system states itself.
func hours(h float64) *system.Figure {
	return &system.Figure{Value: &h, Unit: "h", Says: "as this crew waits", Reason: "as this crew waits"}
}

// linked is a system whose second coat waits otherwise for the first.
func linked(link system.Link) func(*system.System) {
	return func(s *system.System) {
		link.Step = "coat_1"
		s.Edits = append(s.Edits, system.Edit{Does: "unlink", Step: "coat_2", Link: &system.Link{Step: "coat_1"}}, system.Edit{Does: "link", Step: "coat_2", Link: &link})
	}
}

// halves lays the first coat on the floor at noon and on the walls two hours later.
func halves(t *testing.T, change func(*system.System)) *working {
	t.Helper()
	w := room(t, "flexible_cementitious", sound(), change).passTo("coat_1")
	w.air(-10*time.Minute, 20, 20, 50)
	w.add(0, "laid", map[string]any{"step": "coat_1", "surfaces": []string{"floor"}, "kg": 14})
	w.air(2*time.Hour-time.Minute, 20, 20, 50)
	w.add(2*time.Hour, "laid", map[string]any{"step": "coat_1", "surfaces": surfaces[1:], "kg": 6})
	w.add(2*time.Hour+time.Minute, "overridden", map[string]any{"step": "coat_1_accepted", "person": w.made.Named["lead"], "reason": "of the table"})
	w.air(3*time.Hour, 20, 20, 50).air(5*time.Hour, 20, 20, 50)
	return w
}

func late(w *working, after time.Duration, on ...string) bool {
	w.add(after, "laid", map[string]any{"step": "coat_2", "surfaces": on, "kg": 5})
	return w.deviates("deviation.too_late")
}

// Each place of a layer is judged by its own times, so that a window shorter than the laying works; a link that waits for all
// counts from the last and shuts with the first.
func TestEachPlaceHasItsOwnWindow(t *testing.T) {
	window := system.Link{Least: hours(1), Latest: hours(2.5)}
	if late(halves(t, linked(window)), 140*time.Minute, "floor") {
		t.Error("the floor after 2 h 20 min is too late")
	}
	if !late(halves(t, linked(window)), 160*time.Minute, "floor") {
		t.Error("the floor after 2 h 40 min is in time")
	}
	if late(halves(t, linked(window)), 4*time.Hour, surfaces[1:]...) {
		t.Error("walls laid two hours ago are too late: they are judged by the floor")
	}
	window.Per = "all"
	if !late(halves(t, linked(window)), 4*time.Hour, surfaces[1:]...) {
		t.Error("a link that waits for all does not shut with the first")
	}
}

// What is still to lay says how long the step is open.
func TestTheWindowGoesByWhatIsLeftToLay(t *testing.T) {
	shuts := func(w *working, after time.Duration) string {
		t.Helper()
		if tide := w.look(after).Tide; tide != nil && tide.Step == "coat_2" && tide.Shuts != "" {
			return tide.Shuts[11:16]
		}
		return ""
	}
	w := halves(t, linked(system.Link{Least: hours(1), Latest: hours(2.5)}))
	if got := shuts(w, 130*time.Minute); got < "14:15" || got > "14:30" { // a warmer hour to come is minded

		t.Errorf("before the floor is laid it shuts at %s", got)
	}
	w.add(140*time.Minute, "laid", map[string]any{"step": "coat_2", "surfaces": []string{"floor"}, "kg": 14})
	if got := shuts(w, 150*time.Minute); got < "16:10" || got > "16:30" {
		t.Errorf("once the floor is laid it shuts at %s", got)
	}
}

// Wet on wet has no least time and asks for no touch: it is open from the start and shuts.
func TestWetOnWetOnlyShuts(t *testing.T) {
	wet := system.Link{Anchor: "start", Latest: &system.Figure{Of: "membrane.recoat_latest"}}
	w := halves(t, linked(wet))
	if says, key := blocked(w.countedAll(3*time.Hour), "coat_2", 3*time.Hour); says != yes {
		t.Errorf("wet on wet after three hours: %s %s", says, key)
	}
	if late(halves(t, linked(wet)), 3*time.Hour, "floor") {
		t.Error("wet on wet is too late after three hours")
	}
	stated := system.Link{Anchor: "start", Latest: hours(0.5)}
	if !late(halves(t, linked(stated)), 3*time.Hour, "floor") {
		t.Error("half an hour has not shut after three")
	}
	if w := halves(t, linked(stated)); w.deviates("deviation.no_touch_test") {
		t.Error("wet on wet asks for a touch test")
	}
}

// Several links can stand before one step: the latest of them opens it.
func TestSeveralLinksOnOneStep(t *testing.T) {
	both := func(s *system.System) {
		linked(system.Link{Least: hours(1)})(s)
		s.Edits = append(s.Edits, system.Edit{Does: "link", Step: "coat_2", Link: &system.Link{Step: "coat_1", Anchor: "end", Least: hours(3)}})
	}
	w := halves(t, both).countedAll(3 * time.Hour)
	if says, key := blocked(w, "coat_2", 4*time.Hour); says != no {
		t.Errorf("two hours after the walls, three asked: %s %s", says, key)
	}
	if says, key := blocked(w, "coat_2", 5*time.Hour+time.Minute); says != yes {
		t.Errorf("three hours after the walls: %s %s", says, key)
	}
}

// Two systems in one room are worked side by side: each coat lies on its own faces and is read, waited for and accepted there.
func TestTwoSystemsAreWorkedSideBySide(t *testing.T) {
	w := room(t, "flexible_cementitious", sound())
	both, used := systemtest.Joined("sample.flexible_cementitious", "sample.acrylic_dispersion")
	before := w.fold(w.texts)
	w.add(-69*time.Hour, "plan", map[string]any{"survey": before.SurveyID, "system": both, "used": used, "rules": rules.Generic(), "texture": "fine", "from": []string{before.PlanID}})
	w.passTo("coat_1_floor")
	w.air(-10*time.Minute, 20, 20, 50)
	w.add(0, "laid", map[string]any{"step": "coat_1_floor", "surfaces": []string{"floor"}, "kg": 20})
	if s := w.step(w.look(time.Minute), "coat_1_floor"); s.Done != 1 || s.Of != 1 {
		t.Errorf("the floor is %d of %d done", s.Done, s.Of)
	}
	if w.deviates("deviation.coat_not_there") {
		t.Error("the floor's coat is not for the floor")
	}
	wrong := &working{t: w.t, made: w.made, area: w.area, texts: slices.Clone(w.texts), counter: w.counter + 500}
	wrong.add(time.Minute, "laid", map[string]any{"step": "coat_1_floor", "surfaces": []string{"wall.a"}, "kg": 1})
	if !wrong.deviates("deviation.coat_not_there") {
		t.Error("the floor's coat on a wall goes unsaid")
	}
	look := w.look(time.Minute)
	for _, coat := range look.Coats {
		for _, s := range coat.Surfaces {
			if lies := s.Surface == "floor"; lies != strings.HasSuffix(coat.Step, "_floor") {
				t.Errorf("%s is laid on %s", coat.Step, s.Surface)
			}
		}
	}
	w.passed("coat_1_accepted_floor", "coat_2_floor", "coat_2_accepted_floor")
	w.add(time.Hour, "laid", map[string]any{"step": "coat_1_walls", "surfaces": surfaces[1:], "kg": 3})
	w.passed("coat_1_accepted_walls")
	w.add(2*time.Hour, "laid", map[string]any{"step": "coat_2_walls", "surfaces": surfaces[1:], "kg": 3})
	if !w.deviates("deviation.no_touch_test") {
		t.Error("the second coat on the walls waits for no touch")
	}
	if s := w.step(w.look(3*time.Hour), "cure_complete_walls"); s.Block == nil {
		t.Error("the walls have cured after an hour")
	}
	if at := w.fold(w.texts); at.Plan.System.Zones[1].From != "sample.system.acrylic_dispersion" {
		t.Errorf("zones %+v", at.Plan.System.Zones)
	}
}

// passed goes on by name with some steps.
func (w *working) passed(steps ...string) {
	for _, step := range steps {
		w.add(time.Minute, "overridden", map[string]any{"step": step, "person": w.made.Named["lead"], "reason": "of the table"})
	}
}
