// Package logbook is the append-only list of entries and its fold.
//
// Everything known about a job or a wet area is what its entries say, read in the order
// of (time, id): never in the order of arrival, so that page and server agree after any
// order of delivery. Entries are refused only for their shape and size. What does not fit
// the state of the area is kept and folds to a deviation. Nothing is changed or deleted: an
// entry that corrects another takes its place at its time.
package logbook

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dusha/core/fault"
)

// Entry is one line of a logbook.
type Entry struct {
	ID          string          `json:"id"` // UUIDv7, made on the device
	JobID       string          `json:"jobId"`
	AreaID      string          `json:"areaId,omitempty"` // empty: the job's own book
	Kind        string          `json:"kind"`
	At          string          `json:"at"` // RFC 3339 with offset, by the device's clock
	By          string          `json:"by"` // person id
	Body        json.RawMessage `json:"body"`
	Corrects    string          `json:"corrects,omitempty"`
	Reason      string          `json:"reason,omitempty"`      // of a correction
	ClockOffset int64           `json:"clockOffset,omitempty"` // ms to add to the device's clock

	when  time.Time
	body  any
	bytes []byte
}

// When is the time of the entry, corrected for the device's clock.
func (e Entry) When() time.Time { return e.when }

// Bytes are the entry's exact bytes as received.
func (e Entry) Bytes() []byte { return e.bytes }

// Withdraws tells whether the entry takes another back.
func (e Entry) Withdraws() bool { return e.Corrects != "" && e.body == nil }

const (
	mostBytes     = 256 << 10
	mostReason    = 500
	mostOffset    = 400 * 24 * time.Hour // a device's clock may be off by a year, not by ten
	exactIntegers = 1 << 53
)

var uuid = regexp.MustCompile(`^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$`)

// Parse reads an entry from its exact bytes, or says which field is at fault.
func Parse(text []byte) (Entry, error) {
	var e Entry
	if len(text) > mostBytes {
		return e, fault.At("entry", "entry.too_large", "value", len(text), "most", mostBytes)
	}
	if err := Decode("", text, &e); err != nil {
		return e, err
	}
	if err := exactNumbers(text); err != nil {
		return e, err
	}
	if err := e.checkEnvelope(); err != nil {
		return e, err
	}
	e.bytes = slices.Clone(text)
	if e.Corrects != "" && (len(e.Body) == 0 || string(e.Body) == "null") {
		return e, nil
	}
	body, err := kinds[e.Kind].decode(e.Body)
	if err != nil {
		return e, err
	}
	e.body = body
	return e, nil
}

// ParseAll reads many entries; one that cannot be read is said as a deviation and blocks none
// behind it.
func ParseAll(texts [][]byte) (entries []Entry, unreadable []Deviation) {
	for _, text := range texts {
		e, err := Parse(text)
		if err != nil {
			unreadable = append(unreadable, Deviation{Entry: e.ID, Key: "deviation.unreadable", At: e.At, By: e.By, Args: map[string]any{"detail": err.Error()}})
			continue
		}
		entries = append(entries, e)
	}
	return entries, unreadable
}

func (e *Entry) checkEnvelope() error {
	for _, id := range []struct {
		field, value string
		optional     bool
	}{{"id", e.ID, false}, {"jobId", e.JobID, false}, {"areaId", e.AreaID, true}, {"by", e.By, false}, {"corrects", e.Corrects, true}} {
		if !uuid.MatchString(id.value) && !(id.optional && id.value == "") {
			return fault.At(id.field, "entry.not_an_id", "typed", short(id.value))
		}
	}
	when, err := time.Parse(time.RFC3339Nano, e.At)
	if err != nil || when.Year() < 2000 || when.Year() > 2200 {
		return fault.At("at", "entry.not_a_time", "typed", short(e.At))
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
		return fault.At("kind", "entry.unknown_kind", "typed", short(e.Kind), "known", slices.Sorted(maps.Keys(kinds)))
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

func short(text string) string {
	if runes := []rune(text); len(runes) > 60 {
		return string(runes[:60]) + "…"
	}
	return text
}

// Decode reads JSON strictly: broken or trailing text, an unknown field or a value of the
// wrong type is a fault that names the field under the given path.
func Decode(path string, text []byte, into any) error {
	reader := json.NewDecoder(bytes.NewReader(text))
	reader.DisallowUnknownFields()
	err := reader.Decode(into)
	if err == nil {
		if _, err = reader.Token(); err == io.EOF {
			return nil
		}
		return fault.At(field(path, ""), "json.trailing_text")
	}
	var wrongType *json.UnmarshalTypeError
	var syntax *json.SyntaxError
	switch {
	case errors.As(err, &wrongType):
		return fault.At(field(path, wrongType.Field), "json.wrong_type", "found", wrongType.Value, "wanted", wrongType.Type.Kind().String())
	case errors.As(err, &syntax):
		return fault.At(field(path, ""), "json.broken", "offset", syntax.Offset)
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return fault.At(field(path, ""), "json.truncated", "offset", len(text))
	}
	if _, name, found := strings.Cut(err.Error(), "unknown field "); found {
		return fault.At(field(path, strings.Trim(name, `"`)), "json.unknown_field")
	}
	return fault.Of(err)
}

func field(path, name string) string {
	switch {
	case path == "":
		if name == "" {
			return "entry"
		}
		return name
	case name == "":
		return path
	}
	return path + "." + name
}

// exactNumbers refuses numbers of 2^53 and more, which a page would change silently. The text
// was read as JSON before, so only strings have to be told from numbers.
func exactNumbers(text []byte) error {
	for i := 0; i < len(text); i++ {
		switch c := text[i]; {
		case c == '"':
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
		case c == '-' || c >= '0' && c <= '9':
			begin := i
			for i+1 < len(text) && bytes.IndexByte(ofNumbers, text[i+1]) >= 0 {
				i++
			}
			number := string(text[begin : i+1])
			if value, err := strconv.ParseFloat(number, 64); err != nil || math.Abs(value) >= exactIntegers {
				return fault.At("entry", "entry.number_too_large", "typed", short(number))
			}
		}
	}
	return nil
}

var ofNumbers = []byte("0123456789+-.eE")

// Order sorts entries by (time, id).
func Order(entries []Entry) []Entry {
	return slices.SortedFunc(slices.Values(entries), func(a, b Entry) int {
		if c := a.when.Compare(b.when); c != 0 {
			return c
		}
		return strings.Compare(a.ID, b.ID)
	})
}
