package ops_test

import (
	"encoding/json"
	"slices"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/ops"
	"dusha/core/site"
	"dusha/demo"
)

type tried struct {
	MayAccept bool                   `json:"may_accept"`
	Refusal   *struct{ Key string }  `json:"refusal"`
	Stops     []struct{ Key string } `json:"stops"`
	Body      *logbook.Plan          `json:"body"`
}

// A system that something stops is accepted with a reason and a name alone; both stay with the plan.
func TestAStoppedSystemWantsAReason(t *testing.T) {
	now := time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)
	made, err := demo.Make(now, 5)
	if err != nil {
		t.Fatal(err)
	}
	entries := made.Texts()
	table := ops.NewTable(ops.Work(), ops.Materials())
	try := func(sheet string, against map[string]any) tried {
		t.Helper()
		in := map[string]any{"entries": entries, "area": made.Areas["laundry"], "sheet": sheet, "texture": "fine", "typed": map[string]string{"choice.sun": "yes", "choice.potable": "no", "choice.damp": "no", "choice.open": "no", "choice.traffic": "none", "choice.temp": "18"}}
		if against != nil {
			in["against"] = against
		}
		out, err := asked[tried](t, table, "plan.try", in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	const felt = "sample.bitumen_felt" // bears no sun
	got := try(felt, nil)
	if got.MayAccept || got.Refusal == nil || got.Refusal.Key != "plan.against_stop" || len(got.Stops) == 0 || got.Body != nil {
		t.Fatalf("in the sun: %+v", got)
	}
	lead := made.Named["lead"]
	for name, against := range map[string]map[string]any{
		"no reason": {"stops": []string{}, "reason": " ", "person": lead}, "no name": {"stops": []string{}, "reason": "shaded by boards", "person": ""},
	} {
		if got := try(felt, against); got.MayAccept {
			t.Errorf("accepted with %s", name)
		}
	}
	got = try(felt, map[string]any{"stops": []string{}, "reason": "shaded by boards", "person": lead})
	if !got.MayAccept || got.Body == nil || got.Body.Against == nil || got.Body.Against.Stops[0] != got.Stops[0].Key {
		t.Fatalf("with reason and name: %+v", got)
	}
	if fine := try("sample.polyurethane", nil); !fine.MayAccept || fine.Body.Against != nil {
		t.Errorf("a system that nothing stops: %+v", fine)
	}
	body, err := json.Marshal(got.Body)
	if err != nil {
		t.Fatal(err)
	}
	text, err := json.Marshal(map[string]any{"id": "019cb000-0000-7000-8000-000000000001", "jobId": made.ID, "areaId": made.Areas["laundry"], "kind": "plan", "at": now.Format(time.RFC3339), "by": lead, "body": json.RawMessage(body)})
	if err != nil {
		t.Fatal(err)
	}
	var texts [][]byte
	for _, e := range append(entries, text) {
		texts = append(texts, e)
	}
	all := logbook.ReadAll(texts)
	for _, e := range all {
		if err := e.Unread(); err != nil {
			t.Fatal(err)
		}
	}
	area := site.Of(all).Area(made.Areas["laundry"])
	if !slices.ContainsFunc(area.Deviations, func(d logbook.Deviation) bool {
		return d.Key == "deviation.against_stop" && d.Args["reason"] == "shaded by boards"
	}) {
		t.Errorf("the plan's deviations are %+v", area.Deviations)
	}
}
