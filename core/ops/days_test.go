package ops

import (
	"strings"
	"testing"
	"time"

	"dusha/core/site"
)

// A plan of the days as a table and as a calendar: what is done by hands, in lines that any calendar reads.
func TestAPlanOfTheDaysAsFiles(t *testing.T) {
	at := time.Date(2026, 3, 4, 7, 0, 0, 0, time.UTC)
	long := strings.Repeat("Großer Raum; ", 12)
	rows := []site.Row{
		{StepOf: site.StepOf{Area: "a", Step: "coat_1"}, Name: long, Title: "Lay, first", Crew: "one", Start: at, End: at.Add(90 * time.Minute), Hands: true, Min: 90},
		{StepOf: site.StepOf{Area: "a", Step: "test"}, Name: "Shower", Title: "Fill", Start: at, End: at.Add(24 * time.Hour)},
	}
	in := scheduleTableIn{Format: "ics", Rows: rows, Crews: map[string]string{"one": "Crew one"}, Zone: 60, Now: at}
	out, err := scheduleTable(in)
	if err != nil || strings.Count(out.Text, "BEGIN:VEVENT") != 1 || !strings.Contains(out.Text, "DTSTART:20260304T070000Z\r\nDTEND:20260304T083000Z\r\n") || !strings.Contains(out.Text, `SUMMARY:Lay\, first\, Großer Raum\;`) {
		t.Errorf("%v\n%s", err, out.Text)
	}
	for _, line := range strings.Split(out.Text, "\r\n") {
		if len(line) > 75 {
			t.Errorf("%d bytes in a line: %s", len(line), line)
		}
	}
	if whole := strings.ReplaceAll(out.Text, "\r\n ", ""); !strings.Contains(whole, strings.TrimSpace(strings.ReplaceAll(long, ";", `\;`))) {
		t.Errorf("a name was broken: %s", whole)
	}
	in.Format = "csv"
	if out, err = scheduleTable(in); err != nil || !strings.Contains(out.Text, "2026-03-04 08:00,2026-03-04 09:30,") || strings.Count(out.Text, "\n") != 3 {
		t.Errorf("%v\n%s", err, out.Text)
	}
	in.Crew = "one"
	if out, _ = scheduleTable(in); strings.Contains(out.Text, "Fill") {
		t.Errorf("of one crew alone:\n%s", out.Text)
	}
	in.Format = "doc"
	if _, err = scheduleTable(in); err == nil {
		t.Error("a format that nobody writes")
	}
}
