package exchange_test

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/core/logbook"
	"dusha/demo"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

// hostel is the demo job as a store would have kept it.
func hostel(t *testing.T) (job string, kept []store.Kept, names map[string]string) {
	t.Helper()
	made, err := demo.Make(began, 7)
	if err != nil {
		t.Fatal(err)
	}
	return made.ID, chain(t, made.Entries), made.People
}

var began = time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)

// chain keeps entries as a store would.
func chain(t *testing.T, texts [][]byte) (kept []store.Kept) {
	t.Helper()
	last, receipt, tablet := map[string][]byte{}, []byte(nil), uuid.MustParse("01900000-0000-4000-8000-00000000000f")
	for i, text := range texts {
		e, err := logbook.Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		hash := sha256.Sum256(append(bytes.Clone(last[e.AreaID]), text...))
		last[e.AreaID] = hash[:]
		k := store.Kept{Seq: uint64(i + 1), ReceivedAt: began.Add(time.Duration(i) * time.Microsecond), Hash: hash[:], Bytes: text}
		if i%3 > 0 {
			k.DeliveredBy = &tablet
		}
		receipt = store.ReceiptOf(receipt, k)
		k.Receipt = receipt
		kept = append(kept, k)
	}
	return kept
}

// book is a job as a store gives it.
type book struct {
	kept   []store.Kept
	names  map[string]string
	photos map[string][]byte
	aside  []store.Quarantined

	devices []store.Signer
}

func (b book) QuarantineOf(context.Context, uuid.UUID) ([]store.Quarantined, error) {
	return b.aside, nil
}

func (b book) Signers(context.Context) ([]store.Signer, error) { return b.devices, nil }

func (b book) Names(context.Context) (map[string]string, error) { return b.names, nil }

func (b book) Each(_ context.Context, _ uuid.UUID, work func(store.Kept) error) error {
	for _, k := range b.kept {
		if err := work(k); err != nil {
			return err
		}
	}
	return nil
}

func (b book) EachPhoto(_ context.Context, _ uuid.UUID, work func(string, []byte) error) error {
	for _, id := range slices.Sorted(maps.Keys(b.photos)) {
		if err := work(id, b.photos[id]); err != nil {
			return err
		}
	}
	return nil
}

// pack writes a bundle.
func pack(t *testing.T, job string, b book) []byte {
	t.Helper()
	var text bytes.Buffer
	if err := exchange.Write(t.Context(), &text, uuid.MustParse(job), b); err != nil {
		t.Fatal(err)
	}
	return text.Bytes()
}

// unpacked is a bundle's document, to be changed and written again in the same layout.
func unpacked(t *testing.T, text []byte) (b exchange.Bundle) {
	t.Helper()
	if err := json.Unmarshal(text, &b); err != nil {
		t.Fatal(err)
	}
	return b
}

func written(t *testing.T, b exchange.Bundle) []byte {
	t.Helper()
	var text bytes.Buffer
	encoder := json.NewEncoder(&text)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", " ")
	if err := encoder.Encode(b); err != nil {
		t.Fatal(err)
	}
	return text.Bytes()
}

// taken is what a bundle was read into.
type taken struct {
	kept    []store.Kept
	names   map[uuid.UUID]string
	photos  map[uuid.UUID][]byte
	aside   []store.Quarantined
	signers []store.Signer
}

func (in *taken) Aside(q store.Quarantined) error { in.aside = append(in.aside, q); return nil }
func (in *taken) Entry(k store.Kept) error        { in.kept = append(in.kept, k); return nil }
func (in *taken) Names(n map[uuid.UUID]string) error {
	in.names = n
	return nil
}
func (in *taken) Signers(list []store.Signer) error {
	in.signers = append(in.signers, list...)
	return nil
}

func (in *taken) Photo(id uuid.UUID, file []byte) error {
	if in.photos == nil {
		in.photos = map[uuid.UUID][]byte{}
	}
	in.photos[id] = bytes.Clone(file)
	return nil
}

func read(text []byte, last []string, into exchange.Taker) (exchange.Verified, error) {
	r, err := exchange.Open(bytes.NewReader(text))
	if err != nil {
		return exchange.Verified{}, err
	}
	return r.Read(last, into)
}

func TestABundleIsReadBackAsItWas(t *testing.T) {
	job, kept, names := hostel(t)
	photos := map[string][]byte{"019cb000-0000-7000-8000-0000000000aa": {0xff, 0xd8, 0xff, 1}, "019cb000-0000-7000-8000-0000000000ab": bytes.Repeat([]byte{7}, 100_000)}
	whole := book{kept: kept, names: names, photos: photos, aside: []store.Quarantined{{Seq: 3, Why: "odd <bytes>", At: kept[0].ReceivedAt}}}
	text := pack(t, job, whole)
	if again := written(t, unpacked(t, text)); !bytes.Equal(again, text) {
		t.Error("it is not laid out as its schema says")
	}
	var in taken
	v, err := read(text, nil, &in)
	if err != nil {
		t.Fatal(err)
	}
	if len(v.Heads) != 9 || v.Entries != len(kept) || len(v.Aside) != 1 || len(v.Unread) > 0 {
		t.Errorf("%d books, %d entries, aside %v, unread %v; want the job's own book and eight areas", len(v.Heads), v.Entries, v.Aside, v.Unread)
	}
	if len(in.names) != len(names) || len(in.photos) != 2 || len(in.aside) != 1 || in.aside[0].Why != "odd <bytes>" {
		t.Errorf("%d names, %d photos, aside %v", len(in.names), len(in.photos), in.aside)
	}
	if !v.Plain {
		t.Error("a bundle as it was written is said to be laid out otherwise")
	}
	if v, err := read(bytes.Replace(text, []byte("\n "), []byte("\n  "), 1), nil, nil); err != nil || v.Plain {
		t.Errorf("laid out otherwise: %v, %v", v.Plain, err)
	}
	for i := range kept {
		if back := in.kept[i]; !bytes.Equal(back.Bytes, kept[i].Bytes) || !bytes.Equal(back.Hash, kept[i].Hash) || !back.ReceivedAt.Equal(kept[i].ReceivedAt) {
			t.Fatalf("entry %d came back otherwise", i+1)
		}
	}
	if in.kept[2].Aside != "odd <bytes>" {
		t.Errorf("what is set aside came back as %q", in.kept[2].Aside)
	}
}

// What an older program let in leaves byte for byte too, and is said.
func TestWhatCannotBeReadLeavesAsItIs(t *testing.T) {
	job, kept, names := hostel(t)
	poison := bytes.Replace(kept[len(kept)-1].Bytes, []byte(`"kind"`), []byte("\"note\":\"\xed\xa0\x80\",\"kind\""), 1)
	e := logbook.ReadKept(poison)
	last := map[string][]byte{}
	for _, k := range kept {
		last[logbook.ReadKept(k.Bytes).AreaID] = k.Hash
	}
	hash := sha256.Sum256(append(bytes.Clone(last[e.AreaID]), poison...))
	n := uint64(len(kept) + 1)
	k := store.Kept{Seq: n, ReceivedAt: kept[0].ReceivedAt, Hash: hash[:], Bytes: poison}
	k.Receipt = store.ReceiptOf(kept[n-2].Receipt, k)
	kept = append(kept, k)
	var in taken
	v, err := read(pack(t, job, book{kept: kept, names: names}), nil, &in)
	if err != nil || len(v.Unread) != 1 || !strings.HasPrefix(v.Unread[0], fmt.Sprintf("entry %d:", n)) {
		t.Fatalf("%v, %v", v.Unread, err)
	}
	if !bytes.Equal(in.kept[n-1].Bytes, poison) {
		t.Errorf("it left as %q", in.kept[n-1].Bytes)
	}
	v, err = read(pack(t, job, book{kept: kept, names: names, aside: []store.Quarantined{{Seq: n, Why: "half a letter"}}}), nil, nil)
	if err != nil || len(v.Unread) != 0 || len(v.Aside) != 1 {
		t.Errorf("set aside: %+v, %v", v, err)
	}
}

// Any one byte of an entry's line that is changed is found, and the entry is named.
func TestOneChangedByteIsFoundAndNamed(t *testing.T) {
	job, kept, names := hostel(t)
	text := pack(t, job, book{kept: kept, names: names})
	const wanted = 5
	begin := bytes.Index(text, fmt.Appendf(nil, "\"seq\": %d,", wanted))
	end := begin + bytes.Index(text[begin:], []byte("\n  }"))
	field := bytes.Index(text[begin:end], []byte(`"text": "`)) + begin + len(`"text": "`)
	hash := bytes.Index(text[begin:end], []byte(`"hash": "`)) + begin + len(`"hash": "`)
	for at := field; at < end-1; at++ {
		for _, flip := range []byte{1, 0x20, 0x80} {
			changed := bytes.Clone(text)
			changed[at] ^= flip
			if broken := verify(t, changed); broken == nil || broken.Seq != wanted {
				t.Fatalf("byte %d of the text, flipped by %x (%q): %v", at-field, flip, changed[max(field, at-20):at+20], broken)
			}
		}
	}
	for at := hash; at < hash+64; at++ {
		changed := bytes.Clone(text)
		changed[at] ^= 1
		if broken := verify(t, changed); broken == nil || broken.Seq != wanted {
			t.Fatalf("byte %d of the hash: %v", at-hash, broken)
		}
	}
}

// verify reads and verifies, and gives the break where there is one. A text that is no bundle
// any more, with no entry to name, is a break at 0.
func verify(t *testing.T, text []byte) *exchange.Break {
	t.Helper()
	_, err := read(text, nil, nil)
	if err == nil {
		return nil
	}
	var broken *exchange.Break
	if !errors.As(err, &broken) {
		return &exchange.Break{Why: err.Error()}
	}
	return broken
}

func TestWhatTheChainDoesNotCoverIsCoveredBySum(t *testing.T) {
	job, kept, names := hostel(t)
	const id = "019cb000-0000-7000-8000-0000000000aa"
	whole := pack(t, job, book{kept: kept, names: names, photos: map[string][]byte{id: {0xff, 0xd8, 0xff, 1}}, aside: []store.Quarantined{{Seq: 3, Why: "odd"}}})
	for name, change := range map[string]func(*exchange.Bundle){
		"a name": func(b *exchange.Bundle) {
			for id := range b.People {
				b.People[id] = "Somebody else"
			}
		},
		"a photo":           func(b *exchange.Bundle) { b.Photos[id][3] = 2 },
		"what is set aside": func(b *exchange.Bundle) { b.Quarantine[0].Seq = 4 },
		"why it is":         func(b *exchange.Bundle) { b.Quarantine[0].Why = "even" },
		"the sum":           func(b *exchange.Bundle) { b.Sum = strings.Repeat("0", 64) },
	} {
		b := unpacked(t, whole)
		change(&b)
		if broken := verify(t, written(t, b)); broken == nil || broken.Why != "sum" {
			t.Errorf("%s changed: %v", name, broken)
		}
	}
}

// When an entry came, and through which installation, is in a chain of its own.
func TestWhatTheServerAddedIsChained(t *testing.T) {
	job, kept, names := hostel(t)
	whole := pack(t, job, book{kept: kept, names: names})
	for name, change := range map[string]func(*exchange.Line){
		"time of arrival":      func(l *exchange.Line) { l.ReceivedAt = l.ReceivedAt.Add(time.Second) },
		"the installation":     func(l *exchange.Line) { l.By = "01900000-0000-4000-8000-00000000000e" },
		"no installation":      func(l *exchange.Line) { l.By = "" },
		"no receipt":           func(l *exchange.Line) { l.Receipt = "" },
		"another receipt":      func(l *exchange.Line) { l.Receipt = strings.Repeat("0", 64) },
		"what is no id of any": func(l *exchange.Line) { l.By = "tablet" },
	} {
		b := unpacked(t, whole)
		change(&b.Entries[4])
		if broken := verify(t, written(t, b)); broken == nil || broken.Why != "receipt" || broken.Seq != 5 {
			t.Errorf("%s changed: %v", name, broken)
		}
	}
	for i := range kept[:6] { // from before there were receipts
		kept[i].Receipt = nil
	}
	receipt := []byte(nil)
	for i := 6; i < len(kept); i++ {
		receipt = store.ReceiptOf(receipt, kept[i])
		kept[i].Receipt = receipt
	}
	if broken := verify(t, pack(t, job, book{kept: kept, names: names})); broken != nil {
		t.Errorf("begun without: %v", broken)
	}
}

func TestAMissingEntryIsNamed(t *testing.T) {
	job, kept, names := hostel(t)
	less := pack(t, job, book{kept: append(kept[:4:4], kept[5:]...), names: names})
	if broken := verify(t, less); broken == nil || broken.Seq != 6 || broken.Why != "number" {
		t.Errorf("entry 5 left out: %v, want a break at number 6", broken)
	}
	short := pack(t, job, book{kept: kept[:len(kept)-1], names: names})
	whole, err := read(pack(t, job, book{kept: kept, names: names}), nil, nil)
	if err != nil {
		t.Fatal(err)
	}
	var lasts []string
	for _, hash := range whole.Heads {
		lasts = append(lasts, hash)
	}
	if _, err := read(short, nil, nil); err != nil {
		t.Errorf("a bundle cut at its end holds together by itself: %v", err)
	}
	var broken *exchange.Break
	if _, err := read(short, lasts, nil); !errors.As(err, &broken) || broken.Why != "last" {
		t.Errorf("cut at its end, with the last hashes known: %v", err)
	}
}

func TestAnEntryOfAnotherJobIsNamed(t *testing.T) {
	_, kept, names := hostel(t)
	text := pack(t, "01900000-0000-7000-8000-00000000ffff", book{kept: kept, names: names})
	if broken := verify(t, text); broken == nil || broken.Seq != 1 || broken.Why != "job" {
		t.Errorf("entries of another job: %v", broken)
	}
}

const head = `{"format":"dusha-bundle","version":3,"job":"01900000-0000-7000-8000-00000000ffff",`

func TestWhatIsNoBundleIsSaid(t *testing.T) {
	for name, row := range map[string]struct{ text, says string }{
		"nothing":                   {"", "truncated"},
		"broken off":                {"{", "truncated"},
		"a list":                    {"[]", "broken"},
		"another format":            {`{"format":"other","version":3}`, "bundle.other_format"},
		"another version":           {`{"format":"dusha-bundle","version":9}`, "bundle.other_version"},
		"an older Dusha":            {`{"format":"dusha-bundle","version":2}`, "bundle.older_version"},
		"a name in other letters":   {`{"Format":"dusha-bundle","version":3}`, "bundle.other_member"},
		"a member too many":         {head + `"more":1}`, "member_missing"},
		"a member twice":            {head + `"entries":[],"entries":[],"people":{},"sum":""}`, "bundle"},
		"a job that is no id":       {`{"format":"dusha-bundle","version":3,"job":"7"`, "not_an_id"},
		"an entry's member twice":   {head + `"entries":[{"seq":1,"seq":1}]`, "entry 1"},
		"an entry that is a number": {head + `"entries":[0`, "entry 1"},
		"text and bytes":            {head + `"entries":[{"seq":1,"receivedAt":"2026-03-04T12:00:00Z","hash":"","text":"a","bytes":"YQ=="}]`, "entry 1"},
		"a person that is no id":    {head + `"entries":[],"people":{"7":"Robin"},"sum":""}`, "not_an_id"},
		"a very long name":          {head + `"entries":[],"people":{"01900000-0000-7000-8000-00000000ffff":"` + strings.Repeat("n", 90) + `"},"sum":""}`, "too_long"},
		"something behind it":       {head + `"entries":[],"people":{},"sum":""} more`, "trailing_text"},
		"bytes that are no UTF-8":   {head + "\"entries\":[],\"people\":{\"01900000-0000-7000-8000-00000000ffff\":\"\xed\xa0\x80\"}", "json.broken"},
	} {
		if _, err := read([]byte(row.text), nil, nil); err == nil || !strings.Contains(err.Error(), row.says) {
			t.Errorf("%s: %v, want %q", name, err, row.says)
		}
	}
}

// endless never ends: zeros, blanks, or one text.
type endless byte

func (e endless) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = byte(e)
	}
	return len(p), nil
}

func TestWhatNeverEndsIsLeftOff(t *testing.T) {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	for name, from := range map[string]io.Reader{
		"zeros":              endless(0),
		"blanks":             endless(' '),
		"blanks in the head": io.MultiReader(strings.NewReader(`{"format":`), endless(' ')),
		"one entry's text":   io.MultiReader(strings.NewReader(head+`"entries":[{"seq":1,"text":"`), endless('a')),
		"one name":           io.MultiReader(strings.NewReader(head+`"entries":[],"people":{"`), endless('a')),
		"2 GB of a photo":    io.MultiReader(strings.NewReader(head+`"entries":[],"people":{},"photos":{"01900000-0000-7000-8000-00000000ffff":"`), io.LimitReader(endless('A'), 2<<30)),
		"blanks behind it":   io.MultiReader(strings.NewReader(head+`"entries":[],"people":{},"sum":""}`), endless(' ')),
	} {
		r, err := exchange.Open(from)
		if err == nil {
			_, err = r.Read(nil, nil)
		}
		if err == nil {
			t.Errorf("%s: taken", name)
		}
	}
	runtime.ReadMemStats(&after)
	if grown := (after.TotalAlloc - before.TotalAlloc) >> 20; grown > 1500 {
		t.Errorf("%d MB allocated on the way", grown)
	}
}

func FuzzOpen(f *testing.F) {
	f.Add([]byte(head + `"entries":[],"people":{},"sum":""}`))
	f.Add([]byte(head + `"quarantine":[{"seq":1,"why":"x","at":"2026-03-04T12:00:00Z"}],"entries":[{"seq":1,"receivedAt":"2026-03-04T12:00:00Z","hash":"","text":"{}"}],"people":{},"photos":{},"sum":""}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		v, err := read(text, nil, nil)
		if err == nil && v.Entries > len(text) {
			t.Fatalf("%d entries in %d bytes", v.Entries, len(text))
		}
	})
}
