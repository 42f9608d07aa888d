package site_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/site"
)

// The job says currency and language of its papers, and every look at an area of it says them on.
func TestPapersSayCurrencyAndLanguage(t *testing.T) {
	now := time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)
	made, first := begun(t, now)
	for _, c := range []struct{ currency, language, key string }{
		{"", "", ""},
		{"XTS", "en-GB", ""},
		{"xts", "", "entry.no_currency"},
		{"XT", "", "entry.no_currency"},
		{"X1S", "", "entry.no_currency"},
		{"XTS", "en/../x", "entry.no_language"},
		{"XTS", "a-language-whose-name-is-far-too-long-to-be-one", "entry.no_language"},
	} {
		text := fmt.Appendf(nil, `{"id":"01900000-0000-7000-8000-000000000001","jobId":%q,"kind":"job.papers","at":"2026-03-04T11:00:00Z","by":%q,"body":{"currency":%q,"language":%q}}`, first.JobID, first.By, c.currency, c.language)
		_, err := logbook.Parse(text)
		if faults := fault.Of(err); (err == nil) != (c.key == "") || err != nil && faults[0].Key != c.key {
			t.Errorf("%q %q: %v, want %q", c.currency, c.language, err, c.key)
		}
		if c.key != "" {
			continue
		}
		s := site.Read(append(slices.Clone(made.Entries), text))
		if got := s.Area(made.Areas["shower1"]).At(now).Job.Papers; got.Currency != c.currency || got.Language != c.language {
			t.Errorf("%v is kept of %v", got, c)
		}
	}
}
