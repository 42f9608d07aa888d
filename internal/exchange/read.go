package exchange

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"hash"
	"io"
	"maps"
	"regexp"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/strict"
	"dusha/internal/store"
)

// Bounds of what is read, so that no document takes more memory than its largest part.
const (
	mostValue  = 24 << 20 // bytes of an entry's line or a photo, written out
	mostPeople = 100_000
	mostAside  = 100_000
	mostName   = 80
)

// Taker takes in what a bundle holds, in the order of the document.
type Taker interface {
	Aside(store.Quarantined) error
	Entry(store.Kept) error
	Names(map[uuid.UUID]string) error
	Signers([]store.Signer) error
	Photo(id uuid.UUID, file []byte) error
}

// Reader reads a bundle a line at a time.
type Reader struct {
	Job uuid.UUID

	in     *gauge
	from   *jsontext.Decoder
	read   hash.Hash // of the document's bytes
	again  hash.Hash // of the document as Write would write it
	mirror *writer
	text   string // the job as it is written
	head   []byte // last receipt
	claims []claim
}

// Verified is what a bundle holds, each entry as it was kept.
type Verified struct {
	Entries int
	Heads   Heads
	Aside   []Aside
	Proofs  []Proof  // of each signature: on which device it was given
	Unread  []string // entries that were kept and cannot be read, and why
	Plain   bool     // laid out as it was written; if not, its layout was changed, or what says nothing
}

// Heads are the last hashes of a job's books: of its own under "", of each area under its id.
type Heads map[string]string

// gauge lets so much be read until it is set anew.
type gauge struct {
	from io.Reader
	left int
}

var errTooLong = errors.New("a part of it is longer than any that was written")

func (g *gauge) Read(into []byte) (int, error) {
	if g.left <= 0 {
		return 0, errTooLong
	}
	n, err := g.from.Read(into[:min(len(into), g.left)])
	g.left -= n
	return n, err
}

// Open begins to read a bundle: what it is, and of which job. What is none is refused.
func Open(from io.Reader) (*Reader, error) {
	r := &Reader{read: sha256.New(), again: sha256.New()}
	r.in = &gauge{from: io.TeeReader(from, r.read), left: mostValue}
	r.from = jsontext.NewDecoder(r.in)
	if token, err := r.token(); err != nil || token.Kind() != '{' {
		return nil, r.none(err)
	}
	var format string
	var version int
	for _, member := range []struct {
		name string
		into any
	}{{"format", &format}, {"version", &version}, {"job", &r.text}} {
		if err := r.name(member.name); err != nil {
			return nil, err
		}
		if err := r.value(member.name, member.into); err != nil {
			return nil, err
		}
		switch {
		case member.name == "format" && format != Format:
			return nil, fault.At("format", "bundle.other_format", "typed", fault.Short(format))
		case member.name == "version" && version > 0 && version < Version:
			return nil, fault.At("version", "bundle.older_version", "version", version)
		case member.name == "version" && version != Version:
			return nil, fault.At("version", "bundle.other_version", "typed", version)
		}
	}
	job, err := uuid.Parse(r.text)
	if err != nil {
		return nil, fault.At("job", "entry.not_an_id", "typed", fault.Short(r.text))
	}
	r.Job, r.mirror = job, newWriter(r.again, r.text)
	return r, nil
}

// none says that a document is no bundle, or breaks off.
func (r *Reader) none(err error) error {
	switch {
	case errors.Is(err, errTooLong):
		return fault.At("bundle", "bundle.part_too_long", "most", mostValue)
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		return fault.At("bundle", "json.truncated", "offset", r.from.InputOffset())
	}
	return fault.At("bundle", "json.broken", "offset", r.from.InputOffset())
}

func (r *Reader) token() (jsontext.Token, error) {
	r.in.left = mostValue
	return r.from.ReadToken()
}

// name reads the member that comes next; another one is refused by its name.
func (r *Reader) name(wanted string) error {
	token, err := r.token()
	switch {
	case err != nil:
		return r.none(err)
	case token.Kind() != '"':
		return fault.At(wanted, "bundle.member_missing")
	case token.String() != wanted:
		return fault.At(fault.Short(token.String()), "bundle.other_member", "wanted", wanted)
	}
	return nil
}

// next is the name of the member that comes next, "" at the end.
func (r *Reader) next() (string, error) {
	token, err := r.token()
	switch {
	case err != nil:
		return "", r.none(err)
	case token.Kind() != '"':
		return "", nil
	}
	return token.String(), nil
}

func (r *Reader) value(field string, into any) error {
	r.in.left = mostValue
	raw, err := r.from.ReadValue()
	if err != nil {
		return r.none(err)
	}
	return strict.Decode(field, raw, into)
}

// nobody takes in nothing.
type nobody struct{}

func (nobody) Aside(store.Quarantined) error    { return nil }
func (nobody) Entry(store.Kept) error           { return nil }
func (nobody) Names(map[uuid.UUID]string) error { return nil }
func (nobody) Signers([]store.Signer) error     { return nil }
func (nobody) Photo(uuid.UUID, []byte) error    { return nil }

// Read reads the rest, recomputes the chain of every book, and hands all of it to the taker,
// nil for nobody. It gives the last hashes, or the first entry that was changed. What is asked
// for as last must be among them. What the chain does not cover is known to be whole only when
// it ends without an error.
func (r *Reader) Read(last []string, into Taker) (Verified, error) {
	if into == nil {
		into = nobody{}
	}
	v := Verified{Heads: Heads{}}
	name, err := r.next()
	if err != nil {
		return v, err
	}
	if name == "quarantine" {
		if err := r.readAside(&v, into); err != nil {
			return v, err
		}
		if name, err = r.next(); err != nil {
			return v, err
		}
	}
	if name != "entries" {
		return v, fault.At("entries", "bundle.member_missing")
	}
	if err := r.readEntries(&v, into); err != nil {
		return v, err
	}
	if err := r.name("people"); err != nil {
		return v, err
	}
	if err := r.readPeople(into); err != nil {
		return v, err
	}
	var signers []Signer
	if name, err = r.next(); err == nil && name == "devices" {
		if err = r.readSigners(&signers, into); err == nil {
			name, err = r.next()
		}
	}
	if err == nil {
		err = r.prove(&v, signers)
	}
	if err == nil && name == "photos" {
		if err = r.readPhotos(into); err == nil {
			name, err = r.next()
		}
	}
	if err != nil {
		return v, err
	}
	if name != "sum" {
		return v, fault.At("sum", "bundle.member_missing")
	}
	return v, r.end(&v, last)
}

func (r *Reader) end(v *Verified, last []string) error {
	var said string
	if err := r.value("sum", &said); err != nil {
		return err
	}
	if token, err := r.token(); err != nil || token.Kind() != '}' {
		return fault.At("bundle", "bundle.other_member", "wanted", "}")
	}
	if _, err := r.token(); err != io.EOF {
		return fault.At("bundle", "json.trailing_text")
	}
	if said != r.mirror.sum.String() {
		return &Break{Why: "sum"}
	}
	for _, want := range last {
		if !slices.Contains(slices.Collect(maps.Values(v.Heads)), want) {
			return &Break{Why: "last"}
		}
	}
	if err := r.mirror.end(said); err != nil {
		return err
	}
	v.Plain = bytes.Equal(r.read.Sum(nil), r.again.Sum(nil))
	return nil
}

func (r *Reader) readAside(v *Verified, into Taker) error {
	if err := r.value("quarantine", &v.Aside); err != nil {
		return err
	}
	if len(v.Aside) > mostAside {
		return fault.At("quarantine", "list.too_long", "most", mostAside)
	}
	for _, a := range v.Aside {
		if err := into.Aside(store.Quarantined{Seq: a.Seq, Why: a.Why, At: a.At}); err != nil {
			return err
		}
	}
	r.mirror.aside(v.Aside)
	return nil
}

var digest = regexp.MustCompile(`^[0-9a-f]{64}$`)

func (r *Reader) readEntries(v *Verified, into Taker) error {
	whys := map[uint64]string{}
	for _, a := range v.Aside {
		whys[a.Seq] = a.Why
	}
	if token, err := r.token(); err != nil || token.Kind() != '[' {
		return fault.At("entries", "json.wrong_type", "found", "no list", "wanted", "list")
	}
	var broken error
	r.mirror.list("entries", "[", "]", func() error {
		for r.from.PeekKind() != ']' {
			if broken = r.readEntry(v, whys, into); broken != nil {
				return nil
			}
		}
		return nil
	})
	if broken != nil {
		return broken
	}
	_, err := r.token()
	return err
}

func (r *Reader) readEntry(v *Verified, whys map[uint64]string, into Taker) error {
	place := uint64(v.Entries + 1)
	var line Line
	if err := r.value(fmt.Sprintf("entries.%d", place), &line); err != nil {
		return &Break{Seq: place, Why: "shape", Detail: err.Error()}
	}
	if line.Text != "" && len(line.Bytes) > 0 {
		return &Break{Seq: place, Why: "shape", Detail: "it has both text and bytes"}
	}
	text := line.text()
	e := logbook.ReadKept(text)
	before, _ := hex.DecodeString(v.Heads[e.AreaID])
	hash := sha256.Sum256(append(before, text...))
	broken := &Break{Seq: line.Seq, ID: e.ID, Kind: string(e.Kind), At: e.At}
	switch {
	case line.Seq != place:
		broken.Why = "number"
	case !digest.MatchString(line.Hash):
		broken.Why = "hash"
	case line.Hash != hex.EncodeToString(hash[:]):
		broken.Why = "text"
	case e.JobID != r.text && (e.Unread() == nil || e.JobID != ""):
		broken.Why = "job"
	case !r.received(line, hash[:]):
		broken.Why = "receipt"
	default:
		v.Entries, v.Heads[e.AreaID] = v.Entries+1, line.Hash
		if err := e.Unread(); err != nil && whys[line.Seq] == "" {
			v.Unread = append(v.Unread, fmt.Sprintf("entry %d: %v", line.Seq, err))
		}
		if c, is := claimOf(line.Seq, e); is {
			r.claims = append(r.claims, c)
		}
		kept := line.kept(hash[:])
		kept.Receipt, kept.Aside = r.head, whys[line.Seq]
		if err := into.Entry(kept); err != nil {
			return err
		}
		return r.mirror.line(line)
	}
	return broken
}

// received works the receipt of a line out anew. Lines from before there were any come first.
func (r *Reader) received(line Line, hash []byte) bool {
	if line.Receipt == "" {
		return r.head == nil
	}
	if _, err := uuid.Parse(line.By); line.By != "" && err != nil {
		return false
	}
	r.head = store.ReceiptOf(r.head, line.kept(hash))
	return line.Receipt == hex.EncodeToString(r.head)
}

func (l Line) kept(hash []byte) store.Kept {
	k := store.Kept{Seq: l.Seq, ReceivedAt: l.ReceivedAt, Hash: hash, Bytes: l.text()}
	if by, err := uuid.Parse(l.By); err == nil {
		k.DeliveredBy = &by
	}
	return k
}

func (r *Reader) readPeople(into Taker) error {
	people := map[string]string{}
	if err := r.members("people", func(id string) error {
		var name string
		if err := r.value("people."+fault.Short(id), &name); err != nil {
			return err
		}
		switch {
		case len(people) == mostPeople:
			return fault.At("people", "list.too_long", "most", mostPeople)
		case len([]rune(name)) > mostName:
			return fault.At("people."+fault.Short(id), "text.too_long", "most", mostName)
		}
		people[id] = name
		return nil
	}); err != nil {
		return err
	}
	names := make(map[uuid.UUID]string, len(people))
	for id, name := range people {
		person, err := uuid.Parse(id)
		if err != nil {
			return fault.At("people", "entry.not_an_id", "typed", fault.Short(id))
		}
		names[person] = name
	}
	r.mirror.people(people)
	return into.Names(names)
}

func (r *Reader) readPhotos(into Taker) error {
	var broken error
	r.mirror.photos(func() error {
		broken = r.members("photos", func(id string) error {
			var file []byte
			if err := r.value("photos."+fault.Short(id), &file); err != nil {
				return err
			}
			photo, err := uuid.Parse(id)
			if err != nil {
				return fault.At("photos", "entry.not_an_id", "typed", fault.Short(id))
			}
			if err := r.mirror.photo(id, file); err != nil {
				return err
			}
			return into.Photo(photo, file)
		})
		return nil
	})
	return broken
}

// members reads an object a member at a time.
func (r *Reader) members(field string, each func(name string) error) error {
	if token, err := r.token(); err != nil || token.Kind() != '{' {
		return fault.At(field, "json.wrong_type", "found", "no object", "wanted", "object")
	}
	for {
		name, err := r.next()
		if err != nil {
			return err
		}
		if name == "" {
			return nil
		}
		if err := each(strings.Clone(name)); err != nil {
			return err
		}
	}
}
