// Package logbook is the append-only list of entries and its fold.
//
// Everything known about a job or a wet area is what its entries say, read in the order
// of (time, id): never in the order of arrival, so that page and server agree after any
// order of delivery. Entries are refused only for their shape and size. What does not fit
// the state of the area is kept and folds to a deviation, and so does what was kept and
// cannot be read. Nothing is changed or deleted: an
// entry that corrects another takes its place at its time.
package logbook

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/order"
	"dusha/core/strict"
)

// Entry is one line of a logbook.
type Entry struct {
	ID          string          `json:"id"` // UUIDv7, made on the device
	JobID       string          `json:"jobId"`
	AreaID      string          `json:"areaId,omitempty"` // empty: the job's own book
	Kind        Kind            `json:"kind"`
	At          string          `json:"at"` // RFC 3339 with offset, by the device's clock
	By          string          `json:"by"` // person id
	Body        json.RawMessage `json:"body"`
	Corrects    string          `json:"corrects,omitempty"`
	Reason      string          `json:"reason,omitempty"`      // of a correction
	ClockOffset int64           `json:"clockOffset,omitempty"` // ms to add to the device's clock

	when   time.Time
	body   body
	bytes  []byte
	unread *unread // what of a kept entry could not be read; nil: nothing
}

// When is the time of the entry, corrected for the device's clock.
func (e Entry) When() time.Time { return e.when }

// Bytes are the entry's exact bytes as received.
func (e Entry) Bytes() []byte { return e.bytes }

// Withdraws tells whether the entry takes another back.
func (e Entry) Withdraws() bool { return e.Corrects != "" && e.body == nil && e.unread == nil }

const (
	mostBytes  = 256 << 10
	mostReason = 500
	mostOffset = 400 * 24 * time.Hour // a device's clock may be off by a year, not by ten
)

// isID tells whether a text is a UUID as RFC 9562 writes it, in small letters.
func isID(text string) bool {
	if len(text) != len("01900000-0000-7000-8000-000000000001") {
		return false
	}
	for i := range len(text) {
		c := text[i]
		fits := c >= '0' && c <= '9' || c >= 'a' && c <= 'f'
		switch i {
		case 8, 13, 18, 23:
			fits = c == '-'
		case 14: // its version
			fits = c >= '1' && c <= '8'
		case 19: // its variant
			fits = c == '8' || c == '9' || c == 'a' || c == 'b'
		}
		if !fits {
			return false
		}
	}
	return true
}

// Parse reads an entry from its exact bytes, or says which field is at fault. What it takes
// may be kept for ever: see package strict.
func Parse(text []byte) (Entry, error) {
	var e Entry
	if len(text) > mostBytes {
		return e, fault.At("entry", "entry.too_large", "value", len(text), "most", mostBytes)
	}
	if err := strict.Decode("", text, &e); err != nil {
		return e, err
	}
	if err := strict.Numbers(text); err != nil {
		return e, err
	}
	if err := e.checkEnvelope(); err != nil {
		return e, err
	}
	e.bytes = slices.Clone(text)
	return e, e.readBody(strict.DecodeAround)
}

// readBody reads the body by the entry's kind; a correction without a body takes back.
func (e *Entry) readBody(decode decoder) error {
	if e.Corrects != "" && (len(e.Body) == 0 || string(e.Body) == "null") {
		return nil
	}
	body, err := kinds[e.Kind].decode(e.Body, decode)
	if err == nil {
		e.body = body
	}
	return err
}

// decoder reads a value into a type; the fault's field is under the path.
type decoder func(path string, text []byte, into any) error

func (e *Entry) checkEnvelope() error {
	for _, id := range []struct {
		field, value string
		optional     bool
	}{{"id", e.ID, false}, {"jobId", e.JobID, false}, {"areaId", e.AreaID, true}, {"by", e.By, false}, {"corrects", e.Corrects, true}} {
		if !isID(id.value) && !(id.optional && id.value == "") {
			return fault.At(id.field, "entry.not_an_id", "typed", fault.Short(id.value))
		}
	}
	when, err := momentOf("at", e.At)
	if err != nil {
		return err
	}
	if offset := time.Duration(e.ClockOffset) * time.Millisecond; e.ClockOffset != 0 {
		if e.ClockOffset > mostOffset.Milliseconds() || e.ClockOffset < -mostOffset.Milliseconds() {
			return fault.At("clockOffset", "entry.clock_offset_too_large", "value", e.ClockOffset)
		}
		when = when.Add(offset)
	}
	e.when = when
	kind, known := kinds[e.Kind]
	switch {
	case !known:
		return fault.At("kind", "entry.unknown_kind", "typed", fault.Short(string(e.Kind)), "known", slices.Sorted(maps.Keys(kinds)))
	case kind.job && e.AreaID != "":
		return fault.At("areaId", "entry.belongs_to_job", "kind", e.Kind)
	case !kind.job && e.AreaID == "":
		return fault.At("areaId", "entry.belongs_to_area", "kind", e.Kind)
	case e.Corrects == e.ID && e.ID != "":
		return fault.At("corrects", "entry.corrects_itself")
	case e.Corrects != "" && strings.TrimSpace(e.Reason) == "":
		return fault.At("reason", "text.missing")
	case len([]rune(e.Reason)) > mostReason:
		return fault.At("reason", "text.too_long", "most", mostReason)
	}
	return nil
}

// momentOf reads a time as RFC 3339 writes it, with an offset that some place on earth has.
func momentOf(field, text string) (time.Time, error) {
	const farthest = 14 * 60 * 60 // s; UTC+14
	const earliest, latest = 2000, 2200
	const longest = 64 // of anything that could be a time
	if len(text) > longest {
		return time.Time{}, fault.At(field, "entry.not_a_time", "typed", fault.Short(text))
	}
	when, err := time.Parse(time.RFC3339Nano, text)
	if err != nil || !writtenAsRFC3339(text) || when.Year() < earliest || when.Year() > latest {
		return when, fault.At(field, "entry.not_a_time", "typed", fault.Short(text))
	}
	if _, offset := when.Zone(); offset > farthest || offset < -farthest {
		return when, fault.At(field, "entry.not_an_offset", "typed", fault.Short(text))
	}
	return when, nil
}

// writtenAsRFC3339 tells whether a time that Go has read is written as RFC 3339 has it: Go also
// takes an hour of one digit and a comma in the seconds.
func writtenAsRFC3339(text string) bool {
	const shortest, longest, minutes = len("2006-01-02T15:04:05Z"), 40, len("2006-01-02T15:")
	return len(text) >= shortest && len(text) <= longest && text[minutes-1] == ':' && !strings.Contains(text, ",")
}

// Order sorts entries by (time, id).
func Order(entries []Entry) []Entry {
	sorted := slices.Clone(entries)
	order.By(sorted, compareEntries)
	return sorted
}

func compareEntries(a, b Entry) int {
	if c := a.when.Compare(b.when); c != 0 {
		return c
	}
	return strings.Compare(a.ID, b.ID)
}
