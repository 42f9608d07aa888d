package logbook_test

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/ops"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/takeoff"
)

// toCut is the band of the hostel's shower room, solved.
func toCut(t *testing.T, w *working, offcuts ...int) (takeoff.CutList, cutting.Cut) {
	t.Helper()
	area := w.fold(w.texts)
	lists := area.CutLists()
	i := slices.IndexFunc(lists, func(l takeoff.CutList) bool { return l.Role == "band" })
	if i < 0 || lists[i].Fault != nil {
		t.Fatalf("no band is cut: %+v", lists)
	}
	asked := lists[i].Bands
	asked.Offcuts = offcuts
	cut, err := asked.Solve(100_000, nil)
	if err != nil {
		t.Fatal(err)
	}
	return lists[i], cut
}

func (w *working) keepCut(after time.Duration, list takeoff.CutList, rolls []cutting.Roll, changes ...func(body map[string]any)) string {
	runs := []string{}
	for _, want := range list.Wants {
		runs = append(runs, want.ID)
	}
	body := map[string]any{"plan": w.fold(w.texts).PlanID, "sheet": list.Sheet, "runs": runs, "rolls": rolls}
	for _, change := range changes {
		change(body)
	}
	return w.add(after, "cut.planned", body)
}

func one(t *testing.T, l logbook.Look) logbook.CutLook {
	t.Helper()
	if len(l.Cuts) != 1 {
		t.Fatalf("%d cut plans, wanted one: %v", len(l.Cuts), deviations(l))
	}
	return l.Cuts[0]
}

func TestAPlanIsTickedOff(t *testing.T) {
	w := hostel(t)
	list, cut := toCut(t, w)
	kept := w.keepCut(time.Minute, list, cut.Plan)
	got := one(t, w.look(time.Hour))
	if got.Left != got.Of || got.Of != len(list.Wants)+cut.Joins || got.Began || len(got.Rests) != 0 {
		t.Fatalf("%d of %d left: %+v", got.Left, got.Of, got)
	}
	run := got.Rolls[0].Pieces[0]
	w.add(2*time.Minute, "cut.done", map[string]any{"cut": kept, "pieces": []string{run.ID}})
	look := w.look(time.Hour)
	after := one(t, look)
	if after.Left != got.Left-1 || !after.Began {
		t.Errorf("%d left after one was cut of %d", after.Left, got.Left)
	}
	for _, piece := range look.Pieces {
		if piece.Cut != (piece.ID == list.Wants[run.Run].ID) {
			t.Errorf("%s is cut: %v", piece.ID, piece.Cut)
		}
	}
	w.add(3*time.Minute, "cut.spoilt", map[string]any{"cut": kept, "piece": run.ID})
	look = w.look(time.Hour)
	if again := one(t, look); again.Left != got.Left || slices.ContainsFunc(look.Pieces, func(p logbook.PieceLook) bool { return p.Cut }) {
		t.Errorf("%d left after it was spoilt, wanted %d", again.Left, got.Left)
	}
	w.add(4*time.Minute, "cut.done", map[string]any{"cut": kept, "pieces": []string{"band.nowhere/1"}})
	wantDeviation(t, w.look(time.Hour), "unknown_piece")
	w.add(5*time.Minute, "cut.spoilt", map[string]any{"cut": kept, "piece": "band.nowhere/1"})
	if keys := deviations(w.look(time.Hour)); len(keys) < 2 {
		t.Errorf("deviations %v", keys)
	}
}

// A plan that leaves something out, or one of another plan of the area, is not cut by.
func TestAWrongCutPlanIsNotUsed(t *testing.T) {
	w := hostel(t)
	list, cut := toCut(t, w)
	short := slices.Clone(cut.Plan)
	short[0].Rest += short[0].Pieces[0].Length()
	short[0].Pieces = short[0].Pieces[1:]
	w.keepCut(time.Minute, list, short)
	look := w.look(time.Hour)
	wantDeviation(t, look, "cut_plan_wrong")
	if len(look.Cuts) != 0 {
		t.Error("it is used")
	}
	_, cut = toCut(t, w)
	w.keepCut(2*time.Minute, list, cut.Plan, func(b map[string]any) { b["sheet"] = "sample.glass_mesh" })
	wantDeviation(t, w.look(time.Hour), "nothing_to_cut")
	w.keepCut(2*time.Minute+time.Second, list, cut.Plan, func(b map[string]any) { b["runs"] = b["runs"].([]string)[1:] })
	w.keepCut(2*time.Minute+time.Second, list, cut.Plan, func(b map[string]any) { b["runs"].([]string)[0] = "band.nowhere" })
	if look := w.look(time.Hour); len(look.Cuts) != 0 {
		t.Error("a plan for what is not wanted is used")
	}
	other := w.made.Named["lead"] // an id, but of no plan
	w.keepCut(3*time.Minute, list, cut.Plan, func(b map[string]any) { b["plan"] = other })
	if look := w.look(time.Hour); len(look.Cuts) != 0 {
		t.Error("a plan of another system is used")
	}
	w.keepCut(4*time.Minute, list, cut.Plan)
	one(t, w.look(time.Hour)) // a good one still is
}

// A plan stays good when what is cut is listed in another order: its pieces are named by what they
// are for.
func TestAKeptPlanOutlivesTheOrderOfTheList(t *testing.T) {
	w := hostel(t)
	list, cut := toCut(t, w)
	last := len(list.Wants) - 1
	turned := slices.Clone(cut.Plan)
	for i := range turned {
		turned[i].Pieces = slices.Clone(turned[i].Pieces)
		for k := range turned[i].Pieces {
			turned[i].Pieces[k].Run = last - turned[i].Pieces[k].Run
		}
	}
	straight := w.keepCut(time.Minute, list, cut.Plan)
	before := one(t, w.look(time.Hour))
	w.keepCut(2*time.Minute, list, turned, func(b map[string]any) { slices.Reverse(b["runs"].([]string)) })
	after := one(t, w.look(time.Hour))
	if after.Entry == straight {
		t.Fatal("the turned plan is not used")
	}
	for i, roll := range after.Rolls {
		for k, p := range roll.Pieces {
			if was := before.Rolls[i].Pieces[k]; p.ID != was.ID || p.Label != was.Label || p.Run != was.Run {
				t.Errorf("piece %d of roll %d is %s, %s, it was %s, %s", k+1, i+1, p.ID, p.Label, was.ID, was.Label)
			}
			if !strings.HasPrefix(p.ID, list.Wants[p.Run].ID+"/") {
				t.Errorf("a piece for %s is called %s", list.Wants[p.Run].ID, p.ID)
			}
		}
	}
}

// What is left of a roll is used in another area, once.
func TestRestsGoToTheNextArea(t *testing.T) {
	w := hostel(t).uncounted()
	list, cut := toCut(t, w)
	kept := w.keepCut(time.Minute, list, cut.Plan)
	var ids []string
	for _, roll := range one(t, w.look(0)).Rolls {
		for _, p := range roll.Pieces {
			ids = append(ids, p.ID)
		}
	}
	w.add(2*time.Minute, "cut.done", map[string]any{"cut": kept, "pieces": ids})
	done := one(t, w.look(time.Hour))
	if done.Left != 0 || len(done.Rests) == 0 || done.Kept {
		t.Fatalf("nothing is left of the rolls: %+v", done)
	}
	rest := w.add(3*time.Minute, "offcut.kept", map[string]any{"sheet": list.Sheet, "length_mm": done.Rests[0], "area": w.area, "cut": kept}, ofJob)
	if !one(t, w.look(time.Hour)).Kept {
		t.Error("the rests are not known to be kept")
	}
	layout := func() site.LayoutOne {
		l, err := site.Read(w.texts).Layout(w.made.Areas["shower2"])
		if err != nil {
			t.Fatal(err)
		}
		i := slices.IndexFunc(l.Lists, func(one site.LayoutOne) bool { return one.Sheet == list.Sheet })
		return l.Lists[i]
	}
	offered := layout()
	if len(offered.Offcuts) != 1 || offered.Offcuts[0].ID != rest || !slices.Equal(offered.Bands.Offcuts, []int{done.Rests[0]}) {
		t.Fatalf("the next area is offered %+v", offered.Offcuts)
	}
	first := w.area
	book := func() *logbook.Job { return site.Read(w.texts).Job() }
	if there := book().Stock(); len(there) != 1 || there[0].Sheet != list.Sheet || there[0].Amount != float64(done.Rests[0])/1000 {
		t.Errorf("a rest of %d mm lies there: %+v", done.Rests[0], there)
	}
	w.area = w.made.Areas["shower2"]
	list, next := toCut(t, w, done.Rests[0])
	w.add(4*time.Minute, "offcut.taken", map[string]any{"offcut": rest, "area": w.area}, ofJob)
	w.keepCut(5*time.Minute, list, next.Plan, func(b map[string]any) {
		b["offcuts"] = []map[string]any{{"id": rest, "length_mm": done.Rests[0]}}
	})
	one(t, w.look(time.Hour))
	if there := book().Stock(); len(there) != 0 {
		t.Errorf("taken for an area it still lies there: %+v", there)
	}
	if keys := deviations(w.look(time.Hour)); slices.Contains(keys, "no_such_offcut") {
		t.Errorf("deviations %v", keys)
	}
	// Taken for a third one it will be missed; one that never was is said.
	w.add(6*time.Minute, "offcut.taken", map[string]any{"offcut": rest, "area": first}, ofJob)
	w.add(7*time.Minute, "offcut.taken", map[string]any{"offcut": kept, "area": first}, ofJob)
	var keys []string
	for _, d := range book().Deviations {
		keys = append(keys, d.Key)
	}
	if !slices.Contains(keys, "deviation.offcut_twice") || !slices.Contains(keys, "deviation.no_such_offcut") {
		t.Errorf("the job's deviations are %v", keys)
	}
	w.keepCut(8*time.Minute, list, next.Plan, func(b map[string]any) {
		b["offcuts"] = []map[string]any{{"id": kept, "length_mm": done.Rests[0]}}
	})
	wantDeviation(t, w.look(time.Hour), "no_such_offcut")
}

func TestWhatIsCutIsReadByItsShape(t *testing.T) {
	w := hostel(t)
	rows := []struct {
		kind, field string
		body        map[string]any
	}{
		{"cut.planned", "body.rolls", map[string]any{"plan": w.area, "sheet": "s", "rolls": []any{}}},
		{"cut.planned", "body.plan", map[string]any{"plan": "x", "sheet": "s", "runs": []string{"a"}, "rolls": []any{map[string]any{}}}},
		{"cut.planned", "body.runs", map[string]any{"plan": w.area, "sheet": "s", "rolls": []any{map[string]any{}}}},
		{"cut.planned", "body.runs", map[string]any{"plan": w.area, "sheet": "s", "runs": []string{""}, "rolls": []any{map[string]any{}}}},
		{"cut.planned", "body.offcuts", map[string]any{"plan": w.area, "sheet": "s", "runs": []string{"a"}, "rolls": []any{map[string]any{}}, "offcuts": slices.Repeat([]map[string]any{{}}, 5000)}},
		{"cut.planned", "body.rolls.pieces", map[string]any{"plan": w.area, "sheet": "s", "rolls": []any{map[string]any{"pieces": slices.Repeat([]map[string]any{{}}, 5000)}}}},
		{"cut.done", "body.pieces", map[string]any{"cut": w.area, "pieces": []string{}}},
		{"cut.spoilt", "body.piece", map[string]any{"cut": w.area, "piece": ""}},
		{"offcut.kept", "body.length_mm", map[string]any{"sheet": "s", "length_mm": 0, "area": w.area, "cut": w.area}},
		{"offcut.taken", "body.offcut", map[string]any{"offcut": "", "area": w.area}},
	}
	for _, row := range rows {
		text, err := json.Marshal(map[string]any{"id": "019cb000-0000-7000-8000-000000000001", "jobId": w.made.ID, "kind": row.kind, "at": noon.Format(time.RFC3339), "by": w.made.Named["lead"], "body": row.body})
		if err != nil {
			t.Fatal(err)
		}
		if !logbook.OfJob(logbook.Kind(row.kind)) {
			var e map[string]any
			_ = json.Unmarshal(text, &e)
			e["areaId"] = w.area
			text, _ = json.Marshal(e)
		}
		_, err = logbook.Parse(text)
		faults := fault.Of(err)
		if len(faults) == 0 || faults[0].Field != row.field {
			t.Errorf("%s: %v, wanted a fault of %s", row.kind, err, row.field)
		}
	}
}

// A rest of fleece counts by its area; once the product is counted the count holds it.
func TestRestsAreStockUntilTheyAreCounted(t *testing.T) {
	w := hostel(t).uncounted()
	fleece, _ := sheet.Sample("sample.polyester_fleece")
	w.add(time.Minute, "offcut.kept", map[string]any{"sheet": fleece.ID, "length_mm": 3000, "area": w.area, "cut": w.area}, ofJob)
	stock := func() []takeoff.Stock {
		return site.Read(w.texts).Job().Stock()
	}
	if there := stock(); len(there) != 1 || math.Abs(there[0].Amount-3*1.05) > 1e-9 {
		t.Errorf("3 m of fleece 1.05 m wide: %+v", there)
	}
	w.add(2*time.Minute, "stock.counted", map[string]any{"sheet": fleece.ID, "packs": []any{map[string]any{"amount": 50, "count": 1}}}, ofJob)
	if there := stock(); len(there) != 1 || there[0].Amount != 50 {
		t.Errorf("counted: %+v", there)
	}
}

// What is still to cut, dry, is counted until the step that takes it is finished.
func TestWhatIsStillToCut(t *testing.T) {
	w := hostel(t)
	w.area = w.made.Areas["laundry"]
	in, err := json.Marshal(map[string]any{"entries": rawOf(w.texts), "area": w.area, "sheet": "sample.pmma", "texture": "fine",
		"typed": map[string]string{"choice.sun": "no", "choice.potable": "no", "choice.damp": "no", "choice.open": "no", "choice.traffic": "none", "choice.temp": "18"}})
	if err != nil {
		t.Fatal(err)
	}
	text, err := ops.NewTable(ops.Work(), ops.Materials()).Call("plan.try", in)
	if err != nil {
		t.Fatal(err)
	}
	var tried struct {
		Body json.RawMessage `json:"body"`
	}
	if err := json.Unmarshal(text, &tried); err != nil {
		t.Fatal(err)
	}
	left := func() int {
		area := w.fold(w.texts)
		return area.Glance(noon.Add(time.Hour)).Turn.ToCut
	}
	if got := left(); got != 0 {
		t.Fatalf("%d to cut before there is a plan", got)
	}
	w.add(time.Minute, "plan", tried.Body)
	all, band := 0, takeoff.CutList{}
	area := w.fold(w.texts)
	for _, list := range area.CutLists() {
		all += len(list.Wants)
		if list.Role == "band" {
			band = list
		}
	}
	if got := left(); got != all || len(band.Wants) == 0 || all == len(band.Wants) {
		t.Fatalf("%d to cut of %d, %d of them of the band", got, all, len(band.Wants))
	}
	_, cut := toCut(t, w)
	kept := w.keepCut(2*time.Minute, band, cut.Plan)
	if got := left(); got != all {
		t.Errorf("%d to cut once the plan is kept, want %d", got, all)
	}
	first := one(t, w.look(time.Hour)).Rolls[0].Pieces[0]
	w.add(3*time.Minute, "cut.done", map[string]any{"cut": kept, "pieces": []string{first.ID}})
	if got := left(); got != all-1 {
		t.Errorf("%d to cut after one of %d is cut", got, all)
	}
	var pieces []string
	for _, p := range area.Takeoff.Pieces {
		pieces = append(pieces, p.ID)
	}
	w.add(4*time.Minute, "bedded", map[string]any{"step": band.Step, "pieces": pieces})
	if got := left(); got != all-len(band.Wants) {
		t.Errorf("%d to cut once all is bedded, want the %d of the fleece", got, all-len(band.Wants))
	}
}

func rawOf(texts [][]byte) []json.RawMessage {
	var list []json.RawMessage
	for _, text := range texts {
		list = append(list, text)
	}
	return list
}
