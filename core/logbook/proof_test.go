package logbook_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/wetarea"
)

// dryingRoom is the hostel's finished room.
func dryingRoom(t *testing.T) *working {
	w := hostel(t)
	w.area = w.made.Areas["drying"]
	return w
}

// until leaves out the n-th entry of a kind in the area, and all that came after it.
func (w *working) until(kind string, n int) *working {
	w.t.Helper()
	var kept [][]byte
	open := true
	for _, text := range w.texts {
		var e struct{ AreaID, Kind string }
		if err := json.Unmarshal(text, &e); err != nil {
			w.t.Fatal(err)
		}
		if e.AreaID == w.area && e.Kind == kind {
			n--
			open = open && n >= 0
		}
		if open || e.AreaID != w.area {
			kept = append(kept, text)
		}
	}
	w.texts = kept
	return w
}

func laid(step string) map[string]any {
	return map[string]any{"step": step, "surfaces": []string{"floor", "wall.a", "wall.b", "wall.c", "wall.d"}, "kg": 38.0}
}

func touched(found ...string) map[string]any {
	return map[string]any{"step": "coat_2", "found": found}
}

// accepted releases the hold on the first coat, with the film mended.
func accepted(t *testing.T) *working {
	w := hostel(t).mended()
	w.add(0, "accepted", map[string]any{"step": "coat_1_accepted"})
	return w
}

func TestTheSecondCoatWantsTheTouchTest(t *testing.T) {
	const open = 8 * time.Hour
	w := accepted(t)
	if n := w.look(time.Minute).Next; n.State != "waiting" || n.Until == "" || n.Args["until"] != n.Until {
		t.Errorf("too early: next is %+v, want the time to wait until, also for its wording", n)
	}
	w.warm(open - time.Minute)
	if b := w.step(w.look(open), "coat_2").Block; b == nil || b.Kind != "touch" {
		t.Fatalf("the window is open, and what stands before the coat is %+v, want the touch test", b)
	}
	w.add(open, "touched", touched("firm", "no_tack"))
	if look := w.look(open); w.step(look, "coat_2").Block == nil || look.Tide.Confirmed {
		t.Error("a touch test that found not every state frees the coat")
	}
	w.add(open+time.Minute, "touched", touched("firm", "no_tack", "no_transfer"))
	if b := w.step(w.look(open+time.Minute), "coat_2").Block; b != nil {
		t.Errorf("touched and ready, but %+v stands before the coat", b)
	}
	bare := accepted(t)
	bare.warm(open - time.Minute)
	bare.add(open, "laid", laid("coat_2"))
	wantDeviation(t, bare.look(open), "no_touch_test")
	w.add(open+2*time.Minute, "laid", laid("coat_2"))
	if d := deviations(w.look(open + 2*time.Minute)); len(d) > 0 {
		t.Errorf("laid in its window after the touch test: %v", d)
	}
}

// Read where it is asked next, a surface has enough within one reading more than the rule asks.
func TestWhereToReadNextLeadsToEnough(t *testing.T) {
	w := accepted(t)
	w.add(8*time.Hour, "laid", laid("coat_2"))
	find := func(id string) logbook.SurfaceLook {
		coat := w.look(9 * time.Hour).Coats[1]
		return coat.Surfaces[slices.IndexFunc(coat.Surfaces, func(s logbook.SurfaceLook) bool { return s.Surface == id })]
	}
	for _, id := range []string{"floor", "wall.a", "wall.b", "wall.c", "wall.d"} {
		before := wetarea.Point{-1e6, -1e6}
		for n := 0; ; n++ {
			s := find(id)
			if s.Film.Says != film.TooFew {
				if s.Film.Count < s.Asked {
					t.Errorf("%s: %s with %d of %d places", id, s.Film.Says, s.Film.Count, s.Asked)
				}
				break
			}
			if n > s.Asked {
				t.Fatalf("%s: %d readings where they were asked and still too few, %+v", id, n, s.Unread)
			}
			at := *s.Unread.At
			if math.Hypot(at[0]-before[0], at[1]-before[1]) < 300 {
				t.Errorf("%s: asked at %v and again at %v: that is one place", id, before, at)
			}
			before = at
			w.add(8*time.Hour+time.Duration(n+1)*time.Minute, "read", map[string]any{"step": "coat_2", "surface": id, "along_mm": at[0], "up_mm": at[1], "last_wet_mm": 1.2, "next_dry_mm": 1.3})
		}
	}
}

func TestALateCoatIsKeptAndWantsItsRemedy(t *testing.T) {
	const late = 60 * time.Hour
	w := accepted(t)
	look := w.look(late)
	coat := stepIn(look, "coat_2")
	if look.Next.Step != "coat_2_roughen" || coat.Block == nil || coat.Block.Kind != "late" {
		t.Fatalf("60 h on, next is %+v, and the coat is shut by %+v", look.Next, coat.Block)
	}
	w.add(late, "touched", touched("firm", "no_tack", "no_transfer"))
	w.add(late+time.Minute, "laid", laid("coat_2"))
	look = w.look(late + time.Hour)
	wantDeviation(t, look, "too_late")
	if wait := look.Waits[0]; wait.Step != "coat_2" || wait.Kept || wait.Remedied {
		t.Errorf("the wait counts as %+v, want not kept", wait)
	}
	mended := accepted(t)
	mended.warm(late - time.Minute)
	mended.add(late, "remedied", map[string]any{"step": "coat_2", "did": "abraded and dampened"})
	mended.add(late, "touched", touched("firm", "no_tack", "no_transfer"))
	mended.add(late+time.Minute, "laid", laid("coat_2"))
	look = mended.look(late + time.Hour)
	if d := deviations(look); len(d) > 0 || !look.Waits[0].Kept || !look.Waits[0].Remedied {
		t.Errorf("laid after the remedy: %v, %+v", d, look.Waits[0])
	}
}

func TestAWaitGoneOnWithIsOverriddenByName(t *testing.T) {
	w := accepted(t)
	w.add(time.Minute, "overridden", map[string]any{"step": "coat_2", "reason": "the tiler is waiting", "person": w.made.Named["inspector"]})
	w.add(2*time.Minute, "laid", laid("coat_2"))
	look := w.look(time.Hour)
	if wait := look.Waits[0]; wait.Overridden == nil || wait.Kept || wait.Overridden.Note != "the tiler is waiting" {
		t.Errorf("the wait counts as %+v", wait)
	}
	wantDeviation(t, look, "overridden")
}

func TestColdMovesTheWindow(t *testing.T) {
	w := accepted(t)
	before := w.look(time.Minute).Tide
	w.add(2*time.Minute, "climate", map[string]any{"air_C": 12.0, "substrate_C": 10.0, "rh_percent": 60.0})
	after := w.look(3 * time.Minute).Tide
	if !(after.Opens > before.Opens) || !(after.Shuts > before.Shuts) || after.Temp != 10 {
		t.Errorf("colder, but open %s to %s became %s to %s at %v", before.Opens, before.Shuts, after.Opens, after.Shuts, after.Temp)
	}
	area := w.fold(w.texts).Warmer(noon.Add(3*time.Minute), 5)
	if warm := area.At(noon.Add(3 * time.Minute)).Tide; !(warm.Opens < after.Opens) || warm.Temp != 15 {
		t.Errorf("supposed 5 K warmer: open from %s at %v, was %s", warm.Opens, warm.Temp, after.Opens)
	}
	for i := 1; i < len(after.Points); i++ {
		if after.Points[i].At < after.Points[i-1].At {
			t.Fatalf("the tide runs back at %s", after.Points[i].At)
		}
	}
}

// Weighing, mixing, standing, laying what is left, walking, and some time to spare.
func TestTheLastSafeStartLeavesTimeForTheWork(t *testing.T) {
	look := accepted(t).look(time.Minute)
	tide := look.Tide
	i := slices.IndexFunc(tide.Figures, func(f figure.Figure) bool { return f.Name == "wait.lead" })
	if i < 0 {
		t.Fatal("no lead time is shown")
	}
	lead, area := tide.Figures[i], 0.0
	for _, s := range look.Coats[1].Surfaces {
		area += s.Area
	}
	want, names := 0.0, []string{}
	for _, part := range lead.Inputs {
		names = append(names, part.Name)
		want += part.Value
		if part.Name == "wait.laying" && math.Abs(part.Value-60*area/part.Inputs[1].Value) > 1e-9 {
			t.Errorf("laying %v m² takes %v min", area, part.Value)
		}
	}
	if all := []string{"rules.weigh", "sheet.mix", "sheet.stand", "wait.laying", "rules.walk", "rules.start_margin"}; !slices.Equal(names, all) || math.Abs(lead.Value-want) > 1e-9 {
		t.Errorf("the lead of %v min is made of %v, want %v", lead.Value, names, all)
	}
	shuts, _ := time.Parse(time.RFC3339, tide.Shuts)
	last, _ := time.Parse(time.RFC3339, tide.LastSafe)
	if off := shuts.Sub(last).Minutes() - lead.Value; math.Abs(off) > 0.02 {
		t.Errorf("last safe start %s before shutting at %s: %v min off the lead", tide.LastSafe, tide.Shuts, off)
	}
}

func TestTheBoardSaysWhatWouldBeTooLate(t *testing.T) {
	minutes, now := 90.0, noon
	by := func(after time.Duration) string { return now.Add(after).Format(time.RFC3339) }
	turns := map[string]*logbook.Turn{
		"first":  {State: "closing", StartBy: by(time.Hour), Minutes: &minutes, PastOf: []string{}},
		"second": {State: "open", StartBy: by(3 * time.Hour), Minutes: &minutes, PastOf: []string{}},
		"free":   {State: "open", PastOf: []string{}},
		"blind":  {State: "not_known", PastOf: []string{}},
		"soon":   {State: "waiting", Until: by(time.Hour), PastOf: []string{}},
		"later":  {State: "waiting", Until: by(30 * time.Hour), PastOf: []string{}},
		"done":   {State: "finished", PastOf: []string{}},
	}
	board := logbook.BoardOf([]string{"later", "free", "blind", "second", "done", "first", "soon"}, turns, now)
	if want := []string{"first", "second", "free", "blind"}; !slices.Equal(board.Now, want) {
		t.Errorf("now is %v, want %v", board.Now, want)
	}
	if want := []string{"soon", "later"}; !slices.Equal(board.Waits, want) {
		t.Errorf("waits are %v, want %v", board.Waits, want)
	}
	if !slices.Equal(turns["second"].PastOf, []string{"first"}) || len(turns["first"].PastOf) > 0 {
		t.Errorf("begun now, the second runs past %v and the first past %v", turns["second"].PastOf, turns["first"].PastOf)
	}
}

// read is a level reading some hours after noon.
func (w *working) read(after time.Duration, water, pan float64, more ...any) {
	w.t.Helper()
	body := map[string]any{"step": "test", "water_mm": water, "pan_mm": pan, "outside": "dry"}
	for i := 0; i+1 < len(more); i += 2 {
		body[more[i].(string)] = more[i+1]
	}
	w.add(after, "test.read", body)
}

// filled is the drying room at noon with its basin filled and nothing read.
func filled(t *testing.T) *working {
	w := dryingRoom(t).until("test.filled", 0)
	w.add(0, "test.filled", map[string]any{"step": "test", "why": "filled"})
	return w
}

func TestATestThatCannotTellComesToHold(t *testing.T) {
	w := filled(t)
	level := func(hours int) float64 { return math.Round(10*(76-0.08*float64(hours))) / 10 }
	pan := func(hours int) float64 { return math.Round(10*(52-0.08*float64(hours))) / 10 }
	for hours := 0; hours <= 24; hours++ {
		at := time.Duration(hours) * time.Hour
		w.read(at, level(hours), pan(hours))
		look := w.look(at).Test
		switch {
		case hours == 1 && look.Finding != logbook.FindsNothing:
			t.Errorf("two readings, but it is said to be %q", look.Finding)
		case hours == 4 && (look.Finding != logbook.FindsCannot || look.Decides == ""):
			t.Errorf("after 4 h: %q, decided about %q", look.Finding, look.Decides)
		case hours < 24 && hours > 2 && !look.SoFar:
			t.Errorf("after %d h of 24 the verdict is not marked as so far", hours)
		}
	}
	look := w.look(24 * time.Hour)
	if look.Test.Finding != logbook.FindsHolds || look.Test.SoFar {
		t.Errorf("after 24 h: %q, so far %v, because %v", look.Test.Finding, look.Test.SoFar, look.Test.Reason)
	}
	if why := w.step(look, "test_signed").NoSign; why != "" {
		t.Errorf("it holds, and cannot be signed: %s", why)
	}
}

func TestWaterOutsideIsTheVerdict(t *testing.T) {
	w := dryingRoom(t).until("signed", 0)
	w.read(time.Minute, 74, 50.4, "outside", "wet", "where", "ceiling below")
	look := w.look(time.Hour)
	if look.Test.Finding != logbook.FindsLeaks || look.Next.State != "held" {
		t.Fatalf("wet outside: %q, next %s", look.Test.Finding, look.Next.State)
	}
	sign(w, 2*time.Minute, "test_signed", w.made.Named["inspector"])
	look = w.look(time.Hour)
	wantDeviation(t, look, "signed_without_verdict")
	if s := w.step(look, "test_signed"); s.Hold != "shut" {
		t.Errorf("signed on a leak, and the hold is %s", s.Hold)
	}
}

// sign signs a step on the entries that stand.
func sign(w *working, after time.Duration, step, person string, changes ...change) {
	w.t.Helper()
	entries := logbook.ReadAll(w.texts)
	w.add(after, "signed", map[string]any{
		"step": step, "person": person, "role": "Inspector", "line": [][][2]int{{{10, 10}, {500, 400}}}, "seen": logbook.Seen(w.area, entries),
	}, changes...)
}

func TestASignatureOfNobodyReleasesNothing(t *testing.T) {
	w := dryingRoom(t).until("signed", 0)
	sign(w, time.Minute, "test_signed", "019cb000-0000-7000-8000-00000000dead")
	look := w.look(time.Hour)
	wantDeviation(t, look, "signed_by_nobody")
	if s := w.step(look, "test_signed"); s.Hold != "shut" || len(look.Signatures) != 1 {
		t.Errorf("signed by nobody: hold %s, %d signatures shown", s.Hold, len(look.Signatures))
	}
	sign(w, 2*time.Minute, "test_signed", w.made.Named["inspector"])
	if s := w.step(w.look(time.Hour), "test_signed"); s.Hold != "released" {
		t.Errorf("signed by the inspector: hold %s", s.Hold)
	}
}

func TestASignatureOnOtherEntriesIsSaid(t *testing.T) {
	w := dryingRoom(t).until("signed", 0)
	sign(w, 2*time.Minute, "test_signed", w.made.Named["inspector"])
	if d := deviations(w.look(time.Hour)); len(d) > 0 {
		t.Fatalf("signed on what stands: %v", d)
	}
	w.read(time.Minute, 74.1, 50.5) // arrives later, from before the signature
	wantDeviation(t, w.look(time.Hour), "signed_other_entries")
}

func TestReadingsThatCannotBeRightAreKeptAndDoNotCount(t *testing.T) {
	for key, add := range map[string]func(*working){
		"reading_in_future":      func(w *working) { w.read(time.Hour, 76, 52, "read_at", noon.Add(5*time.Hour).Format(time.RFC3339)) },
		"reading_before_filling": func(w *working) { w.read(time.Hour, 76, 52, "read_at", noon.Add(-time.Hour).Format(time.RFC3339)) },
		"reading_twice": func(w *working) {
			w.read(0, 76, 52)
			w.read(time.Hour, 75, 51, "read_at", noon.Format(time.RFC3339))
		},
	} {
		w := filled(t)
		add(w)
		look := w.look(2 * time.Hour)
		wantDeviation(t, look, key)
		if n := len(look.Test.Runs[0].Levels); n != strings.Count(key, "twice") {
			t.Errorf("%s: %d readings count", key, n)
		}
	}
	w := dryingRoom(t).until("test.filled", 0)
	w.read(time.Hour, 76, 52)
	wantDeviation(t, w.look(2*time.Hour), "read_before_filling")

	bare := filled(t)
	bare.add(time.Hour, "test.read", map[string]any{"step": "test", "water_mm": 76.0, "outside": "dry"})
	look := bare.look(2 * time.Hour)
	wantDeviation(t, look, "pan_not_read")
	if len(look.Test.Runs[0].Levels) != 1 {
		t.Error("the water's level is lost with the pan's")
	}
}

func TestReadingsAreJudgedInTheirOwnOrder(t *testing.T) {
	w := filled(t)
	for _, hours := range []int{3, 0, 2, 1} {
		w.read(4*time.Hour, 76-float64(hours), 52, "read_at", noon.Add(time.Duration(hours)*time.Hour).Format(time.RFC3339))
	}
	levels := w.look(5 * time.Hour).Test.Runs[0].Levels
	if len(levels) != 4 || levels[0].Water != 76 || levels[3].Water != 73 {
		t.Errorf("readings out of order stand as %+v", levels)
	}
}

func TestAReadingIsRefusedAsItIsTyped(t *testing.T) {
	w := filled(t)
	w.read(time.Hour, 76, 52)
	area, pan, inCm := w.fold(w.texts), 52.0, 5.2
	now := noon.Add(2 * time.Hour)
	for name, c := range map[string]struct {
		in    logbook.LevelReading
		field string
		key   string
	}{
		"fine":             {logbook.LevelReading{Water: 75.9, Pan: &pan, Outside: "dry"}, "", ""},
		"in the future":    {logbook.LevelReading{Pan: &pan, Outside: "dry", ReadAt: now.Add(time.Hour).Format(time.RFC3339)}, "read_at", "watertest.in_the_future"},
		"before the last":  {logbook.LevelReading{Pan: &pan, Outside: "dry", ReadAt: noon.Add(30 * time.Minute).Format(time.RFC3339)}, "read_at", "watertest.before_last"},
		"before filling":   {logbook.LevelReading{Pan: &pan, Outside: "dry", ReadAt: noon.Add(-time.Hour).Format(time.RFC3339)}, "read_at", "watertest.before_filling"},
		"no time":          {logbook.LevelReading{Pan: &pan, Outside: "dry", ReadAt: "half past"}, "read_at", "entry.not_a_time"},
		"in centimetres":   {logbook.LevelReading{Water: 7.59, Pan: &pan, Outside: "dry"}, "water_mm", "watertest.in_centimetres"},
		"its pan is":       {logbook.LevelReading{Water: 75.9, Pan: &inCm, Outside: "dry"}, "pan_mm", "watertest.in_centimetres"},
		"a pan unread":     {logbook.LevelReading{Outside: "dry"}, "pan_mm", "watertest.pan_without_level"},
		"not looked":       {logbook.LevelReading{Pan: &pan}, "outside", "choice.missing"},
		"wet, but nowhere": {logbook.LevelReading{Pan: &pan, Outside: "wet"}, "where", "watertest.where_wet"},
	} {
		faults := fault.Of(area.CheckReading(c.in, now))
		if c.key == "" && len(faults) == 0 {
			continue
		}
		if len(faults) != 1 || faults[0].Field != c.field || faults[0].Key != c.key {
			t.Errorf("%s: %v, want %s at %s", name, faults, c.key, c.field)
		}
	}
	empty := dryingRoom(t).until("test.filled", 0)
	unfilled := empty.fold(empty.texts)
	if unfilled.CheckReading(logbook.LevelReading{Pan: &pan, Outside: "dry"}, now) == nil {
		t.Error("a reading of an empty basin passes")
	}
}

// In the night in which clocks go forward an hour is an hour: readings carry their offset.
func TestClocksThatGoForwardStretchNoTest(t *testing.T) {
	w := dryingRoom(t).until("test.filled", 0)
	before, after := time.FixedZone("", 3600), time.FixedZone("", 7200)
	w.add(25*24*time.Hour-12*time.Hour, "test.filled", map[string]any{"step": "test", "why": "filled"}) // 29 March, midnight in Greenwich
	for hour := range 5 {
		at := time.Date(2026, 3, 29, hour, 30, 0, 0, time.UTC)
		shown := at.In(before)
		if hour >= 1 {
			shown = at.In(after)
		}
		w.read(at.Sub(noon)+time.Minute, 76-0.5*float64(hour), 52-0.5*float64(hour), "read_at", shown.Format(time.RFC3339))
	}
	test := w.look(25*24*time.Hour - 6*time.Hour).Test
	levels := test.Runs[0].Levels
	if len(levels) != 5 || levels[4].At.Sub(levels[0].At) != 4*time.Hour || test.Judged == nil || math.Abs(test.Judged.Loss) > 1e-9 {
		t.Errorf("%d levels, judged %+v", len(levels), test.Judged)
	}
	for _, l := range levels {
		if l.At.Minute() != 30 {
			t.Errorf("a reading at %s", l.At)
		}
	}
}

func TestNoDropMustBeGivenANumber(t *testing.T) {
	w := dryingRoom(t)
	area := w.fold(w.texts)
	typed := map[string]string{}
	for id, answer := range w.look(0).Test.Answers {
		typed[id] = answer.Typed
	}
	typed["tolerance"] = "0"
	asked, err := area.AskTest(typed)
	if err != nil {
		t.Fatal(err)
	}
	if f := asked.Form.Faults(); asked.Chosen != nil || len(f) != 1 || f[0].Field != "tolerance" {
		t.Errorf("a tolerance of 0: %v", f)
	}
	typed["tolerance"], typed["allowance"] = "0.05", "0.5"
	if asked, _ = area.AskTest(typed); asked.Chosen != nil || asked.Form.Faults()[0].Field != "allowance" {
		t.Errorf("a load over the allowance: %v", asked.Form.Faults())
	}
}

func TestATestBegunBeforeCureIsKeptAndSaid(t *testing.T) {
	whole := dryingRoom(t)
	answers := whole.look(0).Test.Answers
	w := dryingRoom(t).until("test.planned", 0)
	// The cure is taken back, so its hold is shut.
	var cure string
	for _, text := range w.texts {
		if e, _ := logbook.Parse(text); e.AreaID == w.area && e.Kind == "accepted" {
			cure = e.ID
		}
	}
	w.add(time.Minute, "accepted", nil, corrects(cure, "not cured yet"))
	w.add(2*time.Minute, "test.planned", map[string]any{"step": "test_plan", "answers": answers})
	w.add(3*time.Minute, "test.filled", map[string]any{"step": "test", "why": "filled"})
	w.read(4*time.Minute, 76, 52)
	look := w.look(time.Hour)
	wantDeviation(t, look, "behind_hold")
	if look.Test == nil || len(look.Test.Runs) != 1 || len(look.Test.Runs[0].Levels) != 1 {
		t.Error("the test is not kept")
	}
}

func TestANewRunIsKeptBesideTheOld(t *testing.T) {
	w := dryingRoom(t).until("signed", 0)
	before := len(w.look(0).Test.Runs[0].Levels)
	w.add(time.Minute, "test.filled", map[string]any{"step": "test", "why": "rain"})
	w.read(2*time.Minute, 80, 55)
	runs := w.look(time.Hour).Test.Runs
	if len(runs) != 2 || len(runs[0].Levels) != before || len(runs[1].Levels) != 1 || runs[1].Why != "rain" {
		t.Errorf("after rain there are %d runs", len(runs))
	}
	if look := w.look(time.Hour); look.Test.Finding != logbook.FindsNothing {
		t.Errorf("one reading of a new run, and it is %q", look.Test.Finding)
	}
}

// Every number of a look that can be opened leads to leaves that were read somewhere, by
// rules that docs/rules.md has.
func TestEveryFigureOfALookOpensToItsLeaves(t *testing.T) {
	text, err := os.ReadFile("../../docs/rules.md")
	if err != nil {
		t.Fatal(err)
	}
	headings := strings.Split(string(text), "\n")
	seen := map[string]bool{}
	for _, w := range []*working{hostel(t), dryingRoom(t)} {
		look := w.look(0)
		var figures []figure.Figure
		for _, coat := range look.Coats {
			for _, s := range coat.Surfaces {
				figures = append(figures, s.Figures...)
			}
		}
		if look.Tide != nil {
			figures = append(figures, look.Tide.Figures...)
		}
		if look.Test != nil {
			figures = append(append(figures, look.Test.Plan...), look.Test.Figures...)
		}
		for _, f := range figures {
			figure.Walk(f, func(f figure.Figure) {
				seen[f.Rule], seen[f.Name] = true, true
				switch {
				case (f.Rule == "") == (f.Source == nil):
					t.Errorf("%s: rule %q and source %v; want exactly one", f.Name, f.Rule, f.Source)
				case f.Rule != "" && len(f.Inputs) == 0:
					t.Errorf("%s: worked out from nothing", f.Name)
				case f.Rule != "" && !slices.Contains(headings, "### "+f.Rule):
					t.Errorf("%s: docs/rules.md has no rule %s", f.Name, f.Rule)
				case f.Unit == "":
					t.Errorf("%s has no unit", f.Name)
				}
			})
		}
	}
	for _, name := range []string{"film.mean", "film.dry", "film.top_up", "cure.earliest", "cure.latest", "wait.last_safe_start", "test.volume", "test.loss_paired", "test.least_detectable",
		"test.drain_along", "test.evaporation", "test.pan_share", "test.resolution", "test.built"} {
		if !seen[name] {
			t.Errorf("no figure of %s was walked", name)
		}
	}
}

// stepIn is a step as it is shown.
func stepIn(look logbook.Look, id string) logbook.StepLook {
	for _, stage := range look.Stages {
		for _, s := range stage.Steps {
			if s.ID == id {
				return s
			}
		}
	}
	return logbook.StepLook{}
}

// The remedy of a missed window is done step by step, and the steps are there only where it was missed.
func TestARemedyIsDoneStepByStep(t *testing.T) {
	const late = 60 * time.Hour
	steps := func(look logbook.Look) (ids []string) {
		for _, stage := range look.Stages {
			for _, s := range stage.Steps {
				if s.Mends != "" {
					ids = append(ids, s.ID+" "+s.State)
				}
			}
		}
		return ids
	}
	w := accepted(t)
	w.warm(late - time.Minute)
	if early := steps(w.look(10 * time.Hour)); len(early) > 0 {
		t.Errorf("while the window is open there are %v", early)
	}
	if got, want := fmt.Sprint(steps(w.look(late))), "[coat_2_roughen next coat_2_dampen to_come]"; got != want {
		t.Errorf("60 h on there are %v, want %v", got, want)
	}
	answers := func(ids ...string) (list []map[string]any) {
		for _, id := range ids {
			list = append(list, map[string]any{"question": id, "says": "yes"})
		}
		return list
	}
	w.add(late+time.Minute, "done", map[string]any{"step": "coat_2_roughen", "answers": answers("roughened", "dust")})
	look := w.look(late + 2*time.Minute)
	if coat := stepIn(look, "coat_2"); look.Next.Step != "coat_2_dampen" || coat.Block == nil || coat.Block.Kind != "late" {
		t.Errorf("after the first of them next is %s, the coat is shut by %+v", look.Next.Step, coat.Block)
	}
	w.add(late+3*time.Minute, "done", map[string]any{"step": "coat_2_dampen", "answers": answers("damp")})
	look = w.look(late + 4*time.Minute)
	if coat := stepIn(look, "coat_2"); look.Next.Step != "coat_2" || coat.Block != nil && coat.Block.Kind == "late" {
		t.Errorf("after the last of them next is %s, the coat is shut by %+v", look.Next.Step, coat.Block)
	}
	if look.Tide.State != "open" {
		t.Errorf("after the last of them the tide says %s", look.Tide.State)
	}
	w.add(late+5*time.Minute, "touched", touched("firm", "no_tack", "no_transfer"))
	w.add(late+6*time.Minute, "laid", laid("coat_2"))
	look = w.look(late + time.Hour)
	if d := deviations(look); len(d) > 0 || !look.Waits[0].Remedied || fmt.Sprint(steps(look)) != "[coat_2_roughen done coat_2_dampen done]" {
		t.Errorf("laid after the remedy: %v, %+v, %v", d, look.Waits[0], steps(look))
	}
	open := accepted(t)
	open.add(10*time.Hour, "done", map[string]any{"step": "coat_2_roughen", "answers": answers("roughened", "dust")})
	open.add(10*time.Hour, "done", map[string]any{"step": "coat_2_dampen", "answers": answers("damp")})
	open.add(late, "touched", touched("firm", "no_tack", "no_transfer"))
	open.add(late, "laid", laid("coat_2"))
	wantDeviation(t, open.look(late+time.Hour), "too_late") // a remedy before anything was missed opens nothing
}
