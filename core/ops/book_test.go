package ops_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/demo"
)

// A job of which nothing can be read is kept beside one that can, and stands in no one's way; what is
// asked of a job by its id is what is asked of its entries.
func TestJobsAreKeptBesideEachOther(t *testing.T) {
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 5)
	if err != nil {
		t.Fatal(err)
	}
	table := ops.NewTable(ops.Surveys(), ops.Work(), ops.Materials(), ops.Cuts())
	jobs := ops.NewJobs(table)
	jobs.Load("broken", []json.RawMessage{[]byte("0"), []byte(`"no entry"`), []byte(`{"id":7}`), []byte("null")})
	texts := made.Texts()
	jobs.Load("hostel", texts[:20])
	if err := jobs.Change("hostel", texts[20:], nil); err != nil {
		t.Fatal(err)
	}
	all, err := json.Marshal(texts)
	if err != nil {
		t.Fatal(err)
	}
	const now = `,"now":"2026-03-04T12:00:00Z"`
	for op, more := range map[string]string{"logbook.job": now, "logbook.look": now + `,"area":"` + made.Areas["shower1"] + `"`, "materials.list": now, "sheet.library": "", "cut.layout": `,"area":"` + made.Areas["shower2"] + `"`} {
		kept, err := jobs.Call(op, []byte(`{"job":"hostel"`+more+`}`))
		if err != nil {
			t.Errorf("%s of what is kept: %v", op, err)
		}
		sent, err := table.Call(op, []byte(`{"entries":`+string(all)+more+`}`))
		if err != nil || string(kept) != string(sent) {
			t.Errorf("%s: of what is kept %d bytes, of what is sent %d, %v", op, len(kept), len(sent), err)
		}
	}
	if out, err := jobs.Call("logbook.job", []byte(`{"job":"broken"`+now+`}`)); err != nil || !strings.Contains(string(out), "deviation.unreadable") {
		t.Errorf("the broken job: %.200s %v", out, err)
	}
	jobs.Drop("hostel")
	for _, err := range []error{jobs.Change("hostel", nil, nil), func() error { _, err := jobs.Call("logbook.job", []byte(`{"job":"hostel"`+now+`}`)); return err }()} {
		if faults := fault.Of(err); err == nil || faults[0].Field != "job" || faults[0].Key != "job.not_loaded" {
			t.Errorf("a job that was let go of: %v", err)
		}
	}
}

// A job that an operation breaks in is folded anew before it is asked again; others stay.
func TestAJobThatIsBrokenInIsLetGoOf(t *testing.T) {
	breaks := ops.Make("test.breaks", "", func(ops.AreaBook) (string, error) { panic("half done") })
	jobs := ops.NewJobs(ops.NewTable(ops.Work(), []ops.Op{breaks}))
	key := func(op, job, more string) string {
		if _, err := jobs.Call(op, []byte(`{"job":"`+job+`"`+more+`}`)); err != nil {
			return fault.Of(err)[0].Key
		}
		return ""
	}
	const now = `,"now":"2026-03-04T12:00:00Z"`
	for _, job := range []string{"one", "other"} {
		jobs.Load(job, nil)
	}
	for i, row := range []struct{ op, job, more, want string }{
		{"test.breaks", "one", `,"area":"x"`, "operation.broken"},
		{"logbook.job", "one", now, "job.not_loaded"},
		{"logbook.job", "other", now, ""},
	} {
		if got := key(row.op, row.job, row.more); got != row.want {
			t.Errorf("%d: %s of %s: %q, want %q", i, row.op, row.job, got, row.want)
		}
	}
	jobs.Load("one", nil)
	if got := key("logbook.job", "one", now); got != "" {
		t.Errorf("a job that is loaded again: %q", got)
	}
}
