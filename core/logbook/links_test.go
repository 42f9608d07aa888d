package logbook_test

import (
	"testing"
	"time"

	"dusha/core/system"
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
