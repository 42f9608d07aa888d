package exchange_test

import (
	"bytes"
	"crypto/sha256"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/demo"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

// hostel is the demo job as a store would have kept it.
func hostel(t *testing.T) (job string, kept []store.Kept, names map[string]string) {
	t.Helper()
	now := time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	last := map[string][]byte{}
	for i, text := range made.Entries {
		e, err := logbook.Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		hash := sha256.Sum256(append(bytes.Clone(last[e.AreaID]), text...))
		last[e.AreaID] = hash[:]
		kept = append(kept, store.Kept{Seq: uint64(i + 1), ReceivedAt: now.Add(time.Duration(i) * time.Microsecond), Hash: hash[:], Bytes: text})
	}
	return made.ID, kept, made.People
}

func written(t *testing.T, b exchange.Bundle) []byte {
	t.Helper()
	var text bytes.Buffer
	if err := b.Write(&text); err != nil {
		t.Fatal(err)
	}
	return text.Bytes()
}

func TestABundleIsReadBackAsItWas(t *testing.T) {
	job, kept, names := hostel(t)
	text := written(t, exchange.Pack(job, kept, names, nil))
	b, err := exchange.Read(bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	heads, err := b.Verify(nil)
	if err != nil {
		t.Fatal(err)
	}
	if len(heads) != 9 {
		t.Errorf("%d books, want the job's own and eight areas", len(heads))
	}
	if len(b.People) != len(names) {
		t.Errorf("%d names, want %d", len(b.People), len(names))
	}
	if !b.Plain(text) || b.Plain(append(text, '\n')) {
		t.Error("a bundle is laid out as written exactly when not a byte differs")
	}
	back, err := b.Kept()
	if err != nil || len(back) != len(kept) {
		t.Fatalf("%d entries back: %v", len(back), err)
	}
	for i := range back {
		if !bytes.Equal(back[i].Bytes, kept[i].Bytes) || !bytes.Equal(back[i].Hash, kept[i].Hash) || !back[i].ReceivedAt.Equal(kept[i].ReceivedAt) {
			t.Fatalf("entry %d came back otherwise", i+1)
		}
	}
}

// Any one byte of an entry's line that is changed is found, and the entry is named.
func TestOneChangedByteIsFoundAndNamed(t *testing.T) {
	job, kept, names := hostel(t)
	text := written(t, exchange.Pack(job, kept, names, nil))
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
	b, err := exchange.Read(bytes.NewReader(text))
	if err == nil {
		_, err = b.Verify(nil)
	}
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
	whole := exchange.Pack(job, kept, names, nil)
	for name, change := range map[string]func(*exchange.Bundle){
		"time of arrival": func(b *exchange.Bundle) { b.Entries[3].ReceivedAt = b.Entries[3].ReceivedAt.Add(time.Second) },
		"a name": func(b *exchange.Bundle) {
			for id := range b.People {
				b.People[id] = "Somebody else"
			}
		},
		"the sum": func(b *exchange.Bundle) { b.Sum = strings.Repeat("0", 64) },
	} {
		b, err := exchange.Read(bytes.NewReader(written(t, whole)))
		if err != nil {
			t.Fatal(err)
		}
		change(&b)
		if broken := verify(t, written(t, b)); broken == nil || broken.Why != "sum" {
			t.Errorf("%s changed: %v", name, broken)
		}
	}
}

func TestAMissingEntryIsNamed(t *testing.T) {
	job, kept, names := hostel(t)
	b := exchange.Pack(job, append(kept[:4:4], kept[5:]...), names, nil)
	if broken := verify(t, written(t, b)); broken == nil || broken.Seq != 6 || broken.Why != "number" {
		t.Errorf("entry 5 left out: %v, want a break at number 6", broken)
	}
	b = exchange.Pack(job, kept[:len(kept)-1], names, nil)
	whole, err := exchange.Pack(job, kept, names, nil).Verify(nil)
	if err != nil {
		t.Fatal(err)
	}
	var lasts []string
	for _, hash := range whole {
		lasts = append(lasts, hash)
	}
	if _, err := b.Verify(nil); err != nil {
		t.Errorf("a bundle cut at its end holds together by itself: %v", err)
	}
	var broken *exchange.Break
	if _, err := b.Verify(lasts); !errors.As(err, &broken) || broken.Why != "last" {
		t.Errorf("cut at its end, with the last hashes known: %v", err)
	}
}

func TestAnEntryOfAnotherJobIsNamed(t *testing.T) {
	_, kept, names := hostel(t)
	b := exchange.Pack("01900000-0000-7000-8000-00000000ffff", kept, names, nil)
	if broken := verify(t, written(t, b)); broken == nil || broken.Seq != 1 || broken.Why != "job" {
		t.Errorf("entries of another job: %v", broken)
	}
}

func TestWhatIsNoBundleIsSaid(t *testing.T) {
	for _, text := range []string{"", "{", "[]", `{"format":"other","version":1}`, `{"format":"dusha-bundle","version":9}`, `{"format":"dusha-bundle","version":1,"more":1}`} {
		if _, err := exchange.Read(strings.NewReader(text)); err == nil {
			t.Errorf("%q was read as a bundle", text)
		}
	}
}

func TestPhotosAreInTheSum(t *testing.T) {
	job, kept, names := hostel(t)
	b := exchange.Pack(job, kept, names, map[string][]byte{"019cb000-0000-7000-8000-0000000000aa": {0xff, 0xd8, 0xff, 1}})
	again, err := exchange.Read(strings.NewReader(string(written(t, b))))
	if err != nil {
		t.Fatal(err)
	}
	if _, err := again.Verify(nil); err != nil {
		t.Errorf("as it was written: %v", err)
	}
	again.Photos["019cb000-0000-7000-8000-0000000000aa"][3] = 2
	var broken *exchange.Break
	if _, err := again.Verify(nil); !errors.As(err, &broken) || broken.Why != "sum" {
		t.Errorf("another photo: %v", err)
	}
}
