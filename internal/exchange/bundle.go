// Package exchange holds what leaves the house and comes back: the bundle of a job.
//
// A bundle is one JSON document with every entry's exact text, in order of arrival, with
// the number, time and hash the server gave it. Whoever has it can recompute the chain. It is
// written and read a line at a time, since a job with its photos may be larger than a machine
// has memory.
package exchange

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"hash"
	"time"
	"unicode/utf8"

	"dusha/internal/store"
)

// Format and Version name the document.
const (
	Format  = "dusha-bundle"
	Version = 3 // since 3 a plan holds a system
)

// Bundle is the shape of the document; its members stand in this order.
type Bundle struct {
	Format     string            `json:"format"`
	Version    int               `json:"version"`
	Job        string            `json:"job"`
	Quarantine []Aside           `json:"quarantine,omitempty"` // what was set aside
	Entries    []Line            `json:"entries"`
	People     map[string]string `json:"people"`            // names by id; not part of any hash
	Devices    []Signer          `json:"devices,omitempty"` // whose keys stand for signatures in it
	Photos     map[string][]byte `json:"photos,omitempty"`  // JPEG, PNG or PDF by id
	Sum        string            `json:"sum"`               // SHA-256 over what the chain does not cover, hex
}

// Aside is an entry or, with number 0, the whole job that was set aside for everyone.
type Aside struct {
	Seq uint64    `json:"seq"`
	Why string    `json:"why"`
	At  time.Time `json:"at"`
}

// Line is an entry as it was kept. Hash is SHA-256 of the hash before it in its book (the
// job's own, or its area's) and the text; the first has nothing before it. Receipt chains what
// the server added, over the whole job: see store.ReceiptOf.
type Line struct {
	Seq        uint64    `json:"seq"`
	ReceivedAt time.Time `json:"receivedAt"`
	Hash       string    `json:"hash"`                  // hex
	By         string    `json:"deliveredBy,omitempty"` // id of the installation it came through
	Receipt    string    `json:"receipt,omitempty"`     // hex; left out where it was kept before there were any
	Text       string    `json:"text,omitempty"`        // exact bytes as received
	Bytes      []byte    `json:"bytes,omitempty"`       // the same, where they are no UTF-8
}

func lineOf(k store.Kept) Line {
	line := Line{Seq: k.Seq, ReceivedAt: k.ReceivedAt.UTC(), Hash: hex.EncodeToString(k.Hash), Receipt: hex.EncodeToString(k.Receipt)}
	if k.DeliveredBy != nil {
		line.By = k.DeliveredBy.String()
	}
	if utf8.Valid(k.Bytes) {
		line.Text = string(k.Bytes)
	} else {
		line.Bytes = k.Bytes
	}
	return line
}

// text is the entry's exact bytes.
func (l Line) text() []byte {
	if len(l.Bytes) > 0 {
		return l.Bytes
	}
	return []byte(l.Text)
}

// sum covers what the chain does not: numbers, times of arrival, hashes, what is set aside,
// names and photos, one a line.
type sum struct{ hash.Hash }

func newSum(job string) sum {
	s := sum{sha256.New()}
	fmt.Fprintf(s, "%s %d %s\n", Format, Version, job)
	return s
}

func (s sum) aside(a Aside) {
	fmt.Fprintf(s, "aside %d %s %s\n", a.Seq, stamp(a.At), a.Why)
}

func (s sum) line(l Line) {
	fmt.Fprintf(s, "%d %s %s %s %s\n", l.Seq, stamp(l.ReceivedAt), l.Hash, l.By, l.Receipt)
}

func (s sum) person(id, name string) { fmt.Fprintf(s, "%s %s\n", id, name) }

func (s sum) signer(d Signer) { fmt.Fprintf(s, "device %s %x %s %s\n", d.ID, d.Key, d.Role, d.Name) }

func (s sum) photo(id string, file []byte) { fmt.Fprintf(s, "%s %x\n", id, sha256.Sum256(file)) }

func (s sum) String() string { return hex.EncodeToString(s.Sum(nil)) }

func stamp(at time.Time) string { return at.UTC().Format(time.RFC3339Nano) }

// Break is the first place where a bundle is not what was kept.
type Break struct {
	Seq  uint64 // 0: outside the entries
	ID   string // of the entry, as far as it can be read
	Kind string
	At   string
	Why  string // "shape", "text", "number", "hash", "receipt", "job", "signature", "sum" or "last"

	Detail string // of a shape that cannot be read
}

// Error says it in plain words.
func (b *Break) Error() string {
	reasons := map[string]string{
		"shape":     "it cannot be read any more: " + b.Detail,
		"text":      "its text was changed, or an entry before it in its book is missing",
		"number":    "its number does not follow on: an entry is missing or was moved",
		"hash":      "its hash cannot be read",
		"receipt":   "when it came or through which installation was changed, or an entry before it is missing",
		"job":       "it belongs to another job",
		"signature": "the signature does not fit the key of its device, or what it signed was changed",
		"sum":       "a number, a time of arrival, a name, a photo, what is set aside or the sum itself was changed; every entry's text is as it was kept",
		"last":      "the last hash is not the one asked for: entries are missing at the end, or it is another book",
	}
	if b.Seq == 0 {
		return "outside the entries: " + reasons[b.Why]
	}
	if b.ID == "" {
		return fmt.Sprintf("entry %d: %s", b.Seq, reasons[b.Why])
	}
	return fmt.Sprintf("entry %d (%s, %s, id %s): %s", b.Seq, b.Kind, b.At, b.ID, reasons[b.Why])
}
