package ops_test

import (
	"bytes"
	"errors"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/core/ops/opcases"
)

func TestTheTableRefusesWhatItCannotRead(t *testing.T) {
	table := opcases.Table()
	rows := []struct{ name, op, in, field, key string }{
		{"an unknown operation", "mixing.shake", `{}`, "operation", "operation.unknown"},
		{"nothing", "mixing.batch", ``, "entry", "json.truncated"},
		{"truncated", "mixing.batch", `{"batch_kg":1`, "entry", "json.truncated"},
		{"no JSON", "mixing.batch", `twelve`, "entry", "json.broken"},
		{"a wrong type", "mixing.batch", `{"batch_kg":"twelve"}`, "batch_kg", "json.wrong_type"},
		{"an unknown field", "mixing.batch", `{"batch_lb":12}`, "batch_lb", "json.unknown_field"},
		{"a rule's own refusal", "mixing.batch", `{"batch_kg":12,"components":[]}`, "components", "mixing.no_parts"},
		{"a million batches", "mixing.series", `{"need_kg":1e9,"greatest_batch_kg":0.001}`, "need_kg", "mixing.too_many_batches"},
		{"a card without a plan", "logbook.card", `{"entries":[],"area":"x","coat":1,"surfaces":["floor"],"temp_C":20,"bucket_L":20,"scale_g":20,"crew_m2_per_h":10,"walk_min":2}`, "plan", "card.no_plan"},
		{"a place in an area that was not surveyed", "wetarea.place", `{"entries":[],"area":"x","surface":"floor","along_mm":10,"up_mm":1}`, "survey", "plan.no_survey"},
		{"a job that this door does not keep", "logbook.look", `{"job":"x","area":"x","now":"2026-03-04T12:00:00Z"}`, "job", "job.not_loaded"},
		{"a sheet nobody has", "sheet.ask", `{"sample":"none","id":"x","typed":{}}`, "sample", "sheet.unknown"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			out, err := table.Call(row.op, []byte(row.in))
			var faults fault.Faults
			if !errors.As(err, &faults) {
				t.Fatalf("got %s, %v", out, err)
			}
			if faults[0].Field != row.field || faults[0].Key != row.key {
				t.Errorf("got %v, want %s at %s", faults, row.key, row.field)
			}
		})
	}
	if _, err := table.Call("mixing.batch", bytes.Repeat([]byte(" "), 33<<20)); err == nil || !strings.Contains(err.Error(), "input.too_large") {
		t.Errorf("33 MB were read: %v", err)
	}
}

func TestAnEntryThatCannotBeReadBlocksNone(t *testing.T) {
	table := ops.NewTable(ops.Work(), ops.Materials())
	job := `"jobId":"019cb000-0000-7000-8000-000000000002","at":"2026-03-04T12:00:00Z","by":"019cb000-0000-7000-8000-000000000004"`
	opened := `{"id":"019cb000-0000-7000-8000-000000000001",` + job + `,"kind":"job.opened","body":{"name":"Boat house","time_zone":"Etc/UTC"}}`
	newer := `{"id":"019cb000-0000-7000-8000-000000000005",` + job + `,"kind":"job.blessed","body":{}}`
	out, err := table.Call("logbook.job", []byte(`{"entries":[`+newer+`,`+opened+`],"now":"2026-03-04T12:00:00Z"}`))
	if err != nil || !strings.Contains(string(out), `"name":"Boat house"`) || !strings.Contains(string(out), "deviation.kept_by_newer") {
		t.Errorf("got %s, %v", out, err)
	}
}

func TestOneNameStandsForOneOperation(t *testing.T) {
	defer func() {
		if recover() == nil {
			t.Error("two operations of one name were accepted")
		}
	}()
	ops.NewTable(ops.Work(), ops.Work())
}
