package ops_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/core/ops/opcases"
	"dusha/core/site"
	"dusha/demo"
)

// asked calls an operation with what a page would send.
func asked[Out any](t *testing.T, table ops.Table, op string, in any) (out Out, err error) {
	t.Helper()
	text, err := json.Marshal(in)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := table.Call(op, text)
	if err != nil {
		return out, err
	}
	if err := json.Unmarshal(answer, &out); err != nil {
		t.Fatal(err)
	}
	return out, nil
}

// From the layout of an area over the solver to a table, as the page does it.
func TestFromLayoutToTable(t *testing.T) {
	now := time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)
	made, err := demo.Make(now, 5)
	if err != nil {
		t.Fatal(err)
	}
	entries := made.Texts()
	table := opcases.Table()
	layout, err := asked[site.Layout](t, table, "cut.layout", map[string]any{"entries": entries, "area": made.Areas["shower2"]})
	if err != nil || len(layout.Lists) == 0 || layout.Plan == "" || !layout.Sample {
		t.Fatalf("%+v, %v", layout, err)
	}
	list := layout.Lists[0]
	bands := map[string]any{}
	text, _ := json.Marshal(list.Bands)
	_ = json.Unmarshal(text, &bands)
	bands["steps"] = 1000
	cut, err := asked[cutting.Cut](t, table, "cutting.bands", bands)
	if err != nil || cutting.Check(list.Bands, cut.Plan) != nil {
		t.Fatal(err)
	}
	var marks []cutting.Mark
	for _, w := range list.Wants {
		marks = append(marks, cutting.Mark{ID: w.ID, Number: w.Number})
	}
	work, err := asked[cutting.Work](t, table, "cut.start", map[string]any{"plan": cut.Plan, "marks": marks, "roll_mm": list.Bands.Roll})
	if err != nil {
		t.Fatal(err)
	}
	written, err := asked[struct{ CSV string }](t, table, "cut.table", map[string]any{"wants": list.Wants, "width_mm": list.Width, "work": work})
	if err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(strings.TrimSpace(written.CSV), "\n")
	if want := 1 + len(list.Wants) + cut.Joins + len(work.Rolls); len(lines) != want {
		t.Errorf("%d lines, wanted %d:\n%s", len(lines), want, written.CSV)
	}
	if first := work.Rolls[0].Pieces[0]; !strings.HasPrefix(lines[1], fmt.Sprintf("1,false,10000,%s,to_cut,0,%d,120,", first.Label, first.Length)) {
		t.Errorf("the first piece is %q", lines[1])
	}
	heads := strings.Split("A B C D E F G H I J K L M", " ")
	said, err := asked[struct{ CSV string }](t, table, "cut.table", map[string]any{"wants": list.Wants, "width_mm": list.Width, "work": work, "heads": heads,
		"words": map[string]string{"to_cut": "still to cut", "false": "no", "band": "joint band", "rest": "left", list.Wants[work.Rolls[0].Pieces[0].Run].Place: "the floor, \"there\""}})
	if err != nil {
		t.Fatal(err)
	}
	lines = strings.Split(strings.TrimSpace(said.CSV), "\n")
	first := work.Rolls[0].Pieces[0]
	if lines[0] != strings.Join(heads, ",") || !strings.HasPrefix(lines[1], fmt.Sprintf("1,no,10000,%s,still to cut,0,%d,120,", first.Label, first.Length)) ||
		!strings.Contains(lines[1], `"the floor, ""there""",joint band`) || !strings.Contains(said.CSV, ",left,") {
		t.Errorf("in words: %q", lines[:2])
	}
	if _, err := asked[any](t, table, "cut.table", map[string]any{"wants": list.Wants, "work": work, "heads": heads[1:]}); err == nil {
		t.Error("a table with a head too few is written")
	}
	if _, err := asked[any](t, table, "cut.layout", map[string]any{"entries": entries, "area": made.ID}); len(fault.Of(err)) == 0 || fault.Of(err)[0].Key != "area.unknown" {
		t.Errorf("an area that is not there: %v", err)
	}
	if _, err := asked[any](t, table, "cut.table", map[string]any{"wants": []any{}, "work": work}); err == nil {
		t.Error("pieces for nothing are written")
	}
	empty, err := asked[site.Layout](t, table, "cut.layout", map[string]any{"entries": entries, "area": made.Areas["laundry"]})
	if err != nil || len(empty.Lists) != 0 {
		t.Errorf("without a plan: %+v, %v", empty, err)
	}
}
