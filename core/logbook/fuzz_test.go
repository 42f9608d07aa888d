package logbook_test

import (
	"encoding/json"
	"testing"

	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/demo"
)

// What the reader takes, every reader takes, and the fold of a book that holds it stands.
func FuzzEntry(f *testing.F) {
	made, err := demo.Make(noon, 3)
	if err != nil {
		f.Fatal(err)
	}
	seen := map[logbook.Kind]bool{}
	for _, text := range made.Entries {
		if e, err := logbook.Parse(text); err == nil && !seen[e.Kind] {
			seen[e.Kind] = true
			f.Add(text)
		}
	}
	f.Add([]byte(goodEntry))
	f.Fuzz(func(t *testing.T, text []byte) {
		e, err := logbook.Parse(text)
		kept := logbook.ReadKept(text)
		if err == nil {
			var plain struct{ ID, Kind string }
			if broken := json.Unmarshal(text, &plain); broken != nil || plain.ID != e.ID || logbook.Kind(plain.Kind) != e.Kind || kept.Unread() != nil {
				t.Fatalf("taken, and read otherwise elsewhere: %q", text)
			}
		}
		site.Of([]logbook.Entry{kept}).Area(kept.AreaID).At(noon)
	})
}
