package logbook_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// ofJob puts an entry into the job's own book.
func ofJob(e map[string]any) { delete(e, "areaId") }

// plan accepts the sample system with all that goes with it for the laundry.
func (w *working) plan() {
	w.add(0, "plan", systemtest.Plan(w.made.Named["survey3"], sheet.Samples()[0].ID))
}

func (w *working) count(after time.Duration, packs ...map[string]any) {
	w.add(after, "stock.counted", map[string]any{"sheet": sheet.Samples()[0].ID, "packs": packs}, ofJob)
}

func TestAStepIsNotBegunWithTooLittle(t *testing.T) {
	w := laundry(t).uncounted()
	w.plan()
	takes := func() logbook.Material {
		for _, m := range w.stepNow("coat_1").Takes {
			if m.Role == "membrane" {
				return m
			}
		}
		t.Fatal("the first coat takes no membrane")
		return logbook.Material{}
	}
	if m := takes(); m.Counted != "" || m.Short || m.Need <= 0 {
		t.Errorf("nothing was counted: %+v", m)
	}
	pass := func(step string) {
		w.add(time.Minute, "overridden", map[string]any{"step": step, "person": w.made.Named["lead"], "reason": "for the test"})
	}
	for _, step := range []string{"prepare", "substrate_accepted", "bands", "details_accepted"} {
		pass(step)
	}
	w.warm(time.Minute)
	w.count(2*time.Minute, map[string]any{"amount": 5, "count": 1})
	if m, block := takes(), w.stepNow("coat_1").Block; !m.Short || m.Have != 5 || block == nil || block.Kind != "short" {
		t.Errorf("5 kg of %v: %+v, %+v", m.Need, m, block)
	}
	w.count(3*time.Minute, map[string]any{"amount": 20.4, "count": 2})
	if m, block := takes(), w.stepNow("coat_1").Block; m.Short || m.Have != 40.8 || block != nil {
		t.Errorf("the last count stands: %+v, %+v", m, block)
	}
	// An opened pack that is past its life does not count, until it was looked at again.
	w.count(4*time.Minute, map[string]any{"amount": 20.4, "count": 2, "opened": "2024-01-01", "closing": "lid"})
	if m := takes(); !m.Short || m.Have != 0 {
		t.Errorf("packs open for years: %+v", m)
	}
	w.count(5*time.Minute, map[string]any{"amount": 20.4, "count": 2, "opened": "2024-01-01", "closing": "lid", "checked": "2026-03-01"})
	if m := takes(); m.Short {
		t.Errorf("looked at again: %+v", m)
	}
	w.count(6*time.Minute, map[string]any{"amount": 5, "count": 1})
	pass("coat_1")
	if block := w.stepNow("coat_1").Block; block != nil {
		t.Errorf("a person answers for it: %+v", block)
	}
	if slices.ContainsFunc(w.stepNow("plan").Takes, func(logbook.Material) bool { return true }) {
		t.Error("a step that is done still takes material")
	}
}

// What was laid after a count is no longer there; what was laid before it was not counted.
func TestStockGetsLessAsItIsLaid(t *testing.T) {
	w := laundry(t).uncounted()
	w.plan()
	w.add(time.Minute, "laid", map[string]any{"step": "coat_1", "surfaces": []string{"floor"}, "kg": 7})
	w.add(2*time.Minute, "stock.counted", map[string]any{"sheet": sheet.Samples()[0].ID, "packs": []map[string]any{
		{"amount": 20, "count": 2}, {"amount": 6, "count": 1, "opened": "2026-03-01", "closing": "lid"},
	}}, ofJob)
	w.add(3*time.Minute, "laid", map[string]any{"step": "coat_1", "surfaces": []string{"wall.a"}, "kg": 11})
	area := w.fold(w.texts)
	left := area.Job.Stock(area)
	// 46 kg less 11: the opened pack and 5 kg of a sealed one.
	if len(left) != 2 || left[0].Amount != 15 || left[0].Opened != "2026-03-04" || left[1].Amount != 20 || left[1].Count != 1 {
		t.Errorf("left: %+v", left)
	}
	for _, m := range w.stepNow("coat_2").Takes {
		if m.Role == "membrane" && (m.Have < 34.999 || m.Have > 35.001) {
			t.Errorf("for the second coat %v kg are there, want 35", m.Have)
		}
	}
}

func TestATrialPatchGoesIntoTheNextPlan(t *testing.T) {
	w := laundry(t)
	entry := w.add(0, "trial.made", map[string]any{"sheet": sheet.Samples()[0].ID, "kg": 2.31, "area_m2": 1}, ofJob)
	job := w.fold(w.texts).Job
	i := slices.IndexFunc(job.Sheets(), func(s sheet.Sheet) bool { return s.ID == sheet.Samples()[0].ID })
	film := job.Sheets()[i].Film()
	if film.Used != "rate" || math.Abs(film.Wet.Value-1.4) > 1e-9 {
		t.Errorf("the patch gives %+v", film.Wet)
	}
	if said := job.Sheets()[i].Numbers["rate"]; said.Trial != entry || said.Says != "2.31 kg / 1 m²" {
		t.Errorf("the rate is %+v", said)
	}
	w.add(time.Minute, "trial.made", nil, corrects(entry, "weighed wrong"), ofJob)
	if job = w.fold(w.texts).Job; job.Sheets()[i].Numbers["rate"].Trial != "" {
		t.Error("a patch that was withdrawn still counts")
	}
}

func TestWhatIsCountedAndTriedIsRead(t *testing.T) {
	rows := []struct {
		name, kind, body, field string
	}{
		{"a patch of nothing", "trial.made", `{"sheet":"s","kg":0,"area_m2":1}`, "body.kg"},
		{"a patch on nothing", "trial.made", `{"sheet":"s","kg":1,"area_m2":0}`, "body.area_m2"},
		{"a litre that weighs nothing", "trial.made", `{"sheet":"s","kg":1,"area_m2":1,"kg_per_L":0.1}`, "body.kg_per_L"},
		{"stock of no product", "stock.counted", `{"sheet":"","packs":[]}`, "body.sheet"},
		{"a pack of nothing", "stock.counted", `{"sheet":"s","packs":[{"amount":0,"count":1}]}`, "body.packs.amount"},
		{"no packs of a size", "stock.counted", `{"sheet":"s","packs":[{"amount":5,"count":0}]}`, "body.packs.count"},
		{"a day that is none", "stock.counted", `{"sheet":"s","packs":[{"amount":5,"count":1,"opened":"yesterday"}]}`, "body.packs.opened"},
		{"shut with hope", "stock.counted", `{"sheet":"s","packs":[{"amount":5,"count":1,"opened":"2026-01-01","closing":"hope"}]}`, "body.packs.closing"},
	}
	const head = `{"id":"019cb000-0000-7000-8000-000000000001","jobId":"019cb000-0000-7000-8000-000000000002","at":"2026-03-04T12:00:00Z","by":"019cb000-0000-7000-8000-000000000003",`
	for _, row := range rows {
		_, err := logbook.Parse([]byte(head + `"kind":"` + row.kind + `","body":` + row.body + `}`))
		if faults := fault.Of(err); len(faults) != 1 || faults[0].Field != row.field {
			t.Errorf("%s: %v, want a fault at %s", row.name, err, row.field)
		}
	}
	good := strings.NewReplacer("$kind", "stock.counted").Replace(head + `"kind":"$kind","body":{"sheet":"s","packs":[{"amount":5,"count":1,"opened":"2026-01-01","closing":"lid"}]}}`)
	if _, err := logbook.Parse([]byte(good)); err != nil {
		t.Errorf("a good count: %v", err)
	}
}

// A product from outside the system needs a reason and a name, and the guarantee lacks a condition.
func TestAProductFromOutsideTheSystem(t *testing.T) {
	of, used := systemtest.Of(sheet.Samples()[0].ID, system.Swap{Product: "sample.mineral_band", Sheet: "sample.fleece_band"})
	plan := logbook.Plan{Survey: "019cb000-0000-7000-8000-000000000001", System: of, Used: used, Rules: rules.Generic(), Texture: "fine"}
	w := laundry(t)
	plan.Survey = w.made.Named["survey3"]
	id := w.add(0, "plan", plan)
	if e := logbook.ReadKept(w.texts[len(w.texts)-1]); e.ID != id || e.Unread() == nil {
		t.Fatalf("taken without a reason: %+v", e)
	}
	w = laundry(t)
	for i := range plan.Used {
		if plan.Used[i].Key == "band" {
			plan.Used[i].Reason, plan.Used[i].Person = "none left in town", w.made.Named["lead"]
		}
	}
	plan.Survey = w.made.Named["survey3"]
	w.add(0, "plan", plan)
	if made := w.look(time.Hour).Plan; made == nil || made.Outside != 1 {
		t.Errorf("the plan says nothing of it: %+v", made)
	}
}

func TestTwoSheetsWithTheSameID(t *testing.T) {
	w := laundry(t)
	own := sheet.Samples()[0]
	own.ID, own.CopiedFrom, own.Sample = "own", own.ID, false
	w.add(0, "sheet.added", map[string]any{"sheet": own}, ofJob)
	own.Name = "Another product"
	w.add(time.Minute, "sheet.added", map[string]any{"sheet": own}, ofJob)
	job := w.fold(w.texts).Job
	if job.Sheets()[0].Name == "Another product" || len(job.Sheets()) != len(sheet.Samples())+1 {
		t.Errorf("%s, %d sheets", job.Sheets()[0].Name, len(job.Sheets()))
	}
	if len(job.Deviations) != 1 || job.Deviations[0].Key != "deviation.sheet_id_twice" {
		t.Errorf("%+v", job.Deviations)
	}
}

// A sheet that was misread is corrected in its place: one printing still, with what it really says.
func TestASheetIsCorrected(t *testing.T) {
	w := laundry(t)
	own := sheet.Samples()[0]
	own.ID, own.CopiedFrom, own.Sample, own.Name = "own", own.ID, false, "As misread"
	kept := w.add(0, "sheet.added", map[string]any{"sheet": own}, ofJob)
	typed := own.Typed()
	typed["name"], typed["mixed_density"] = "As printed", "1.71 kg/L"
	form, right := sheet.Correct(own, typed)
	if faults := form.Faults(); len(faults) > 0 || right.ID != "own" || right.Replaces != "" || right.CopiedFrom != own.CopiedFrom {
		t.Fatalf("%v %+v", faults, right)
	}
	w.add(time.Minute, "sheet.added", map[string]any{"sheet": right}, ofJob, func(e map[string]any) { e["corrects"], e["reason"] = kept, "misread" })
	job := w.fold(w.texts).Job
	got, known := job.Sheet("own")
	if !known || got.Name != "As printed" || got.Numbers["mixed_density"].Value != 1.71 || len(job.Sheets()) != len(sheet.Samples())+1 {
		t.Errorf("%s, %d sheets", got.Name, len(job.Sheets()))
	}
	if job.SheetEntries()["own"] != kept || len(job.Deviations) != 0 {
		t.Errorf("kept by %v, %v", job.SheetEntries(), job.Deviations)
	}
}

func TestSamplesAreNotForWork(t *testing.T) {
	real := &logbook.Job{}
	// A sample stays one whatever it says of itself: with its mark taken off, under another id, with its
	// figures typed back.
	marked, renamed := sheet.Samples()[0], sheet.Samples()[0]
	marked.Sample, renamed.Sample = false, false
	renamed.ID, renamed.Name = "019cb000-0000-7000-8000-00000000abcd", "Our own membrane"
	for name, s := range map[string]sheet.Sheet{"its mark is off": marked, "its figures were typed back": renamed} {
		if err := logbook.MayAccept(logbook.Plan{Sheet: s}, real); err == nil {
			t.Errorf("%s, and it is accepted for real work", name)
		}
	}
	own := renamed
	own.Numbers = map[string]sheet.Said{}
	for name, said := range renamed.Numbers {
		said.Value, said.High = said.Value*1.07, nil // as a pack prints them
		own.Numbers[name] = said
	}
	if err := logbook.MayAccept(logbook.Plan{Sheet: own}, real); err != nil {
		t.Errorf("one's own sheet: %v", err)
	}
	band, _ := sheet.Sample("sample.mineral_band")
	of, _ := systemtest.Of(sheet.Samples()[0].ID)
	beside := logbook.Plan{System: of, Used: []system.Used{{Key: "membrane", Sheet: own}, {Key: "band", Sheet: band}}}
	if err := beside.Resolve(); err != nil {
		t.Fatal(err)
	}
	err := logbook.MayAccept(beside, real)
	if faults := fault.Of(err); len(faults) != 1 || faults[0].Field != "companions.band" {
		t.Errorf("a sample beside it: %v", err)
	}
	if err := logbook.MayAccept(logbook.Plan{Sheet: sheet.Samples()[0]}, &logbook.Job{Demo: true}); err != nil {
		t.Errorf("in the demo: %v", err)
	}
}

// What a printed time counts from: the beginning of the coat, its end, or, unsaid, what is safer.
func TestAWindowCountsFromItsAnchor(t *testing.T) {
	window := func(anchor string) (opens, shuts time.Time) {
		w := hostel(t)
		w.area = w.made.Areas["shower2"]
		for i, text := range w.texts {
			if strings.Contains(string(text), `"kind":"plan"`) && anchor != "" {
				w.texts[i] = []byte(strings.Replace(string(text), `"choices":{`, `"choices":{"recoat_from":"`+anchor+`",`, 1))
			}
		}
		look := w.look(0)
		if look.Tide == nil {
			t.Fatal("no tide")
		}
		opens, err1 := time.Parse(time.RFC3339, look.Tide.Opens)
		shuts, err2 := time.Parse(time.RFC3339, look.Tide.Shuts)
		if err1 != nil || err2 != nil {
			t.Fatal(look.Tide.Opens, look.Tide.Shuts)
		}
		return opens, shuts
	}
	opens, shuts := window("")
	opensBegun, shutsBegun := window("coat_begun")
	opensEnded, shutsEnded := window("coat_ended")
	if !opensBegun.Before(opens) || !shutsBegun.Equal(shuts) {
		t.Errorf("from its beginning: %v to %v, cautiously %v to %v", opensBegun, shutsBegun, opens, shuts)
	}
	if !shutsEnded.After(shuts) || opensEnded.Sub(opens).Abs() > time.Minute {
		t.Errorf("from its end: %v to %v, cautiously %v to %v", opensEnded, shutsEnded, opens, shuts)
	}
}
