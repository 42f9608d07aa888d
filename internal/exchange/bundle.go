// Package exchange holds what leaves the house and comes back: the bundle of a job.
//
// A bundle is one JSON document with every entry's exact text, in order of arrival, with
// the number, time and hash the server gave it. Whoever has it can recompute the chain.
package exchange

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"regexp"
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/strict"
	"dusha/internal/store"
)

// Format and Version name the document.
const (
	Format  = "dusha-bundle"
	Version = 1
)

// Bundle is a job with all its entries.
type Bundle struct {
	Format  string            `json:"format"`
	Version int               `json:"version"`
	Job     string            `json:"job"`
	Entries []Line            `json:"entries"`
	People  map[string]string `json:"people"`           // names by id; not part of any hash
	Photos  map[string][]byte `json:"photos,omitempty"` // JPEG, PNG or PDF by id
	Sum     string            `json:"sum"`              // SHA-256 over what the chain does not cover, hex
}

// Line is an entry as it was kept. Hash is SHA-256 of the hash before it in its book (the
// job's own, or its area's) and the text; the first has nothing before it.
type Line struct {
	Seq        uint64    `json:"seq"`
	ReceivedAt time.Time `json:"receivedAt"`
	Hash       string    `json:"hash"` // hex
	Text       string    `json:"text"` // exact bytes as received
}

// Pack makes the bundle of a job; names are those of the people who appear in it, photos the
// pictures that are kept beside it.
func Pack(job string, kept []store.Kept, names map[string]string, photos map[string][]byte) Bundle {
	b := Bundle{Format: Format, Version: Version, Job: job, Entries: []Line{}, People: map[string]string{}, Photos: photos}
	for _, k := range kept {
		b.Entries = append(b.Entries, Line{k.Seq, k.ReceivedAt.UTC(), hex.EncodeToString(k.Hash), string(k.Bytes)})
	}
	for id, name := range names {
		if name != "" && slices.ContainsFunc(kept, func(k store.Kept) bool { return bytes.Contains(k.Bytes, []byte(id)) }) {
			b.People[id] = name
		}
	}
	b.Sum = b.sum()
	return b
}

// sum covers numbers, times of arrival, hashes, names and photos, one a line.
func (b Bundle) sum() string {
	h := sha256.New()
	fmt.Fprintf(h, "%s %d %s\n", b.Format, b.Version, b.Job)
	for _, line := range b.Entries {
		fmt.Fprintf(h, "%d %s %s\n", line.Seq, line.ReceivedAt.UTC().Format(time.RFC3339Nano), line.Hash)
	}
	for _, id := range slices.Sorted(maps.Keys(b.People)) {
		fmt.Fprintf(h, "%s %s\n", id, b.People[id])
	}
	for _, id := range slices.Sorted(maps.Keys(b.Photos)) {
		fmt.Fprintf(h, "%s %x\n", id, sha256.Sum256(b.Photos[id]))
	}
	return hex.EncodeToString(h.Sum(nil))
}

// Write writes the bundle, one entry a line, so that it can be read and compared.
func (b Bundle) Write(w io.Writer) error {
	encoder := json.NewEncoder(w)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	return encoder.Encode(b)
}

// Read reads a bundle and refuses what is none, naming the entry where it can. It does not
// check the chain.
func Read(r io.Reader) (Bundle, error) {
	text, err := io.ReadAll(r)
	if err != nil {
		return Bundle{}, err
	}
	var outer struct {
		Bundle
		Entries []json.RawMessage `json:"entries"`
	}
	if err := strict.Decode("bundle", text, &outer); err != nil {
		return Bundle{}, near(text, err)
	}
	b := outer.Bundle
	if b.Format != Format {
		return b, fault.At("format", "bundle.other_format", "typed", b.Format)
	}
	if b.Version != Version {
		return b, fault.At("version", "bundle.other_version", "typed", b.Version)
	}
	b.Entries = make([]Line, len(outer.Entries))
	for i, raw := range outer.Entries {
		if err := strict.Decode(fmt.Sprintf("entries.%d", i+1), raw, &b.Entries[i]); err != nil {
			return b, &Break{Seq: uint64(i + 1), Why: "shape", Detail: err.Error()}
		}
	}
	return b, nil
}

// near names the entry in which a bundle's text breaks off or is no JSON any more.
func near(text []byte, err error) error {
	for _, f := range fault.Of(err) {
		offset, is := f.Args["offset"].(int64)
		if !is || offset > int64(len(text)) {
			continue
		}
		if n := bytes.Count(text[:offset], []byte(`"seq":`)); n > 0 {
			return &Break{Seq: uint64(n), Why: "shape", Detail: err.Error()}
		}
	}
	return err
}

// Plain tells whether a text is written as Write writes the bundle read from it: if not, its
// layout was changed, or what says nothing.
func (b Bundle) Plain(text []byte) bool {
	var again bytes.Buffer
	return b.Write(&again) == nil && bytes.Equal(again.Bytes(), text)
}

// Break is the first place where a bundle is not what was kept.
type Break struct {
	Seq  uint64 // 0: outside the entries
	ID   string // of the entry, as far as it can be read
	Kind string
	At   string
	Why  string // "shape", "text", "number", "hash", "job", "sum" or "last"

	Detail string // of a shape that cannot be read
}

// Error says it in plain words.
func (b *Break) Error() string {
	reasons := map[string]string{
		"shape":  "it cannot be read any more: " + b.Detail,
		"text":   "its text was changed, or an entry before it in its book is missing",
		"number": "its number does not follow on: an entry is missing or was moved",
		"hash":   "its hash cannot be read",
		"job":    "it belongs to another job",
		"sum":    "a number, a time of arrival, a name, a photo or the sum itself was changed; every entry's text is as it was kept",
		"last":   "the last hash is not the one asked for: entries are missing at the end, or it is another book",
	}
	if b.Seq == 0 {
		return "outside the entries: " + reasons[b.Why]
	}
	if b.ID == "" {
		return fmt.Sprintf("entry %d: %s", b.Seq, reasons[b.Why])
	}
	return fmt.Sprintf("entry %d (%s, %s, id %s): %s", b.Seq, b.Kind, b.At, b.ID, reasons[b.Why])
}

var digest = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Heads are the last hashes of a job's books: of its own under "", of each area under its id.
type Heads map[string]string

// Verify recomputes the chain of every book and gives the last hashes, or the first entry
// that was changed. What is asked for as last must be among them; nil asks for nothing.
func (b Bundle) Verify(last []string) (Heads, error) {
	heads := Heads{}
	for i, line := range b.Entries {
		e, err := logbook.Parse([]byte(line.Text))
		broken := &Break{Seq: line.Seq, ID: e.ID, Kind: e.Kind, At: e.At}
		before, _ := hex.DecodeString(heads[e.AreaID])
		hash := sha256.Sum256(append(before, line.Text...))
		switch {
		case line.Seq != uint64(i+1):
			broken.Why = "number"
		case !digest.MatchString(line.Hash):
			broken.Why = "hash"
		case err != nil || line.Hash != hex.EncodeToString(hash[:]):
			broken.Why = "text"
		case e.JobID != b.Job:
			broken.Why = "job"
		default:
			heads[e.AreaID] = line.Hash
			continue
		}
		return nil, broken
	}
	if b.sum() != b.Sum {
		return nil, &Break{Why: "sum"}
	}
	for _, want := range last {
		if !slices.Contains(slices.Collect(maps.Values(heads)), want) {
			return nil, &Break{Why: "last"}
		}
	}
	return heads, nil
}

// Kept gives the entries as the store takes them.
func (b Bundle) Kept() ([]store.Kept, error) {
	kept := make([]store.Kept, len(b.Entries))
	for i, line := range b.Entries {
		hash, err := hex.DecodeString(line.Hash)
		if err != nil {
			return nil, &Break{Seq: line.Seq, Why: "hash"}
		}
		kept[i] = store.Kept{Seq: line.Seq, ReceivedAt: line.ReceivedAt, Hash: hash, Bytes: []byte(line.Text)}
	}
	return kept, nil
}
