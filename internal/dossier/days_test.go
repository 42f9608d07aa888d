package dossier

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/demo"
	"dusha/internal/words"
)

// A day card says when, what, where, until when, what is carried, and leaves a box to tick; the week says whose.
func TestDaysOnPaper(t *testing.T) {
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	job := site.Read(made.Entries)
	if _, err := job.DayCards("", now); err == nil {
		t.Error("nothing was accepted, and there is a card")
	}
	var midnights []time.Time
	for d := range 22 {
		midnights = append(midnights, time.Date(now.Year(), now.Month(), now.Day()+d, 0, 0, 0, 0, time.UTC))
	}
	days, err := job.Days(site.Asked{Now: now, Midnights: midnights, Most: 50})
	if err != nil || !days.Found {
		t.Fatalf("%v %+v", err, days.Left)
	}
	var starts []map[string]any
	for _, r := range days.Rows {
		start := map[string]any{"area": r.Area, "step": r.Step, "start": r.Start, "end": r.End}
		if r.Crew != "" {
			start["crew"] = r.Crew
		}
		if r.Shuts != nil {
			start["shuts"] = *r.Shuts
		}
		starts = append(starts, start)
	}
	entry, _ := json.Marshal(map[string]any{
		"id": "019cb000-0000-7000-8000-0000000f0001", "jobId": made.ID, "kind": "schedule.accepted", "at": now.Format(time.RFC3339),
		"by": made.Named["lead"], "body": map[string]any{"end": *days.End, "starts": starts},
	})
	job.Add([][]byte{entry})
	if _, err := job.DayCards("019cb000-0000-7000-8000-0000000f0009", now); err == nil {
		t.Error("a crew that is not there has a card")
	}
	write := func(crew string) string {
		cards, err := job.DayCards(crew, now)
		if err != nil {
			t.Fatal(err)
		}
		var out bytes.Buffer
		if err := WriteDays(&out, cards, words.Of("UTC", logbook.Papers{}), now); err != nil {
			t.Fatal(err)
		}
		return said(t, out.Bytes())
	}
	one, all := write(made.Named["crew_one"]), write("")
	for _, want := range []string{"Day card", "Crew one", days.Rows[0].Start.Format("15:04")} {
		if !strings.Contains(one+all, want) {
			t.Errorf("it does not say %q:\n%s", want, one)
		}
	}
	for _, want := range []string{"Days of all crews", "Lay the second coat, Shower room", "Begin by", "Two-part flexible cementitious", "by itself", "hold", "Crew two"} {
		if !strings.Contains(all, want) {
			t.Errorf("the week does not say %q:\n%s", want, all)
		}
	}
	if strings.ContainsAny(all+one, "[\u27e6") {
		t.Errorf("a key has no words: %s", all)
	}
}
