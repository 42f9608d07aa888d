package store_test

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/demo"
	"dusha/internal/dbtest"
	"dusha/internal/store"
)

func TestMain(m *testing.M) { dbtest.Run(m) }

var seed uint64

// hostel is a demo job no other test has.
func hostel(t *testing.T) (uuid.UUID, demo.Job) {
	t.Helper()
	seed++
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), seed)
	if err != nil {
		t.Fatal(err)
	}
	return uuid.MustParse(made.ID), made
}

func mustAppend(t *testing.T, s *store.Store, job uuid.UUID, texts ...[]byte) []store.Outcome {
	t.Helper()
	outcomes, err := s.Append(t.Context(), job, texts)
	if err != nil {
		t.Fatal(err)
	}
	return outcomes
}

func all(t *testing.T, s *store.Store, job uuid.UUID) []store.Kept {
	t.Helper()
	kept, err := s.All(t.Context(), job)
	if err != nil {
		t.Fatal(err)
	}
	return kept
}

// readIn imports entries that are there already, without photos.
func readIn(t *testing.T, s *store.Store, job uuid.UUID, kept []store.Kept) error {
	t.Helper()
	return s.Import(t.Context(), job, func(in *store.Import) error {
		for _, k := range kept {
			if err := in.Entry(k); err != nil {
				return err
			}
		}
		return nil
	})
}

// checkChain recomputes each book's hashes from the bytes and the numbering of the job.
func checkChain(t *testing.T, kept []store.Kept, book func([]byte) string) {
	t.Helper()
	last := map[string][]byte{}
	for i, k := range kept {
		if k.Seq != uint64(i+1) {
			t.Fatalf("entry %d has number %d", i+1, k.Seq)
		}
		hash := sha256.Sum256(append(bytes.Clone(last[book(k.Bytes)]), k.Bytes...))
		if !bytes.Equal(hash[:], k.Hash) {
			t.Fatalf("entry %d does not follow from the one before it in its book", k.Seq)
		}
		last[book(k.Bytes)] = hash[:]
	}
}

func bookOf(text []byte) string {
	if i := bytes.Index(text, []byte(`"areaId":"`)); i >= 0 {
		return string(text[i+10 : i+46])
	}
	return "job"
}

func TestEntriesAreKeptByteForByteAndChained(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	spaced := bytes.Replace(made.Entries[0], []byte(`"kind":`), []byte(`"kind" :  `), 1)
	texts := append([][]byte{spaced}, made.Entries[1:]...)
	for _, o := range mustAppend(t, s, job, texts...) {
		if !o.New {
			t.Fatalf("%+v", o)
		}
	}
	kept := all(t, s, job)
	for i := range texts {
		if !bytes.Equal(kept[i].Bytes, texts[i]) {
			t.Errorf("entry %d came back as %s, sent %s", i, kept[i].Bytes, texts[i])
		}
	}
	checkChain(t, kept, bookOf)
}

func TestTheSameIDTwice(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	first := mustAppend(t, s, job, made.Entries...)
	again := mustAppend(t, s, job, made.Entries...)
	for i := range again {
		if again[i].New || again[i].Kept == nil || again[i].Kept.Seq != first[i].Kept.Seq {
			t.Fatalf("delivered again: %+v", again[i])
		}
	}
	other := bytes.Replace(made.Entries[0], []byte("Fennick"), []byte("Fennock"), 1)
	if o := mustAppend(t, s, job, other)[0]; !o.Conflict {
		t.Errorf("the same id with another body: %+v", o)
	}
	if o := mustAppend(t, s, job, made.Entries[1], made.Entries[1])[1]; o.Conflict || o.Kept == nil {
		t.Errorf("twice in one batch: %+v", o)
	}
	elsewhere, _ := hostel(t)
	if o := mustAppend(t, s, elsewhere, made.Entries[0])[0]; len(o.Refused) == 0 || o.Refused[0].Key != "entry.other_job" {
		t.Errorf("an entry of another job: %+v", o)
	}
	if n := len(all(t, s, job)); n != len(made.Entries) {
		t.Errorf("%d entries kept, want %d", n, len(made.Entries))
	}
}

func TestARefusedEntryBlocksNoneBehindIt(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	bad := bytes.Replace(made.Entries[1], []byte(`"kind":"person.joined"`), []byte(`"kind":"person.left"`), 1)
	outcomes := mustAppend(t, s, job, made.Entries[0], bad, []byte(`{"id":`), made.Entries[2])
	if !outcomes[0].New || len(outcomes[1].Refused) == 0 || len(outcomes[2].Refused) == 0 || !outcomes[3].New {
		t.Fatalf("%+v", outcomes)
	}
	if outcomes[1].Refused[0].Field != "kind" {
		t.Errorf("refused for %v, want the kind", outcomes[1].Refused)
	}
	checkChain(t, all(t, s, job), bookOf)
}

func TestAnAreaBelongsToOneJob(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries...)
	other, otherMade := hostel(t)
	i := slices.IndexFunc(otherMade.Entries, func(text []byte) bool { return bytes.Contains(text, []byte("area.opened")) })
	stolen := bytes.ReplaceAll(otherMade.Entries[i], []byte(otherMade.Areas["shower1"]), []byte(made.Areas["shower1"]))
	outcomes := mustAppend(t, s, other, stolen, otherMade.Entries[0])
	if len(outcomes[0].Refused) == 0 || outcomes[0].Refused[0].Key != "entry.area_of_other_job" || !outcomes[1].New {
		t.Errorf("%+v", outcomes)
	}
}

// Twenty devices deliver at once, half of it twice: no gap, no double, each chain whole.
func TestManyDevicesAtOnce(t *testing.T) {
	s := dbtest.Open(t)
	job, made := hostel(t)
	var texts [][]byte
	for n := range 400 {
		id := fmt.Sprintf("019cb000-%04x-7000-8000-%012d", seed, n)
		texts = append(texts, []byte(fmt.Sprintf(`{"id":%q,"jobId":%q,"areaId":%q,"kind":"area.opened","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"Room %d"}}`,
			id, made.ID, made.Areas["shower1"], made.Named["lead"], n)))
	}
	var wait sync.WaitGroup
	errs := make(chan error, 40)
	for n := range 40 {
		wait.Go(func() {
			from := n / 2 * 20
			_, err := s.Append(t.Context(), job, texts[from:from+20])
			errs <- err
		})
	}
	wait.Wait()
	close(errs)
	for err := range errs {
		if err != nil {
			t.Fatal(err)
		}
	}
	kept := all(t, s, job)
	if len(kept) != len(texts) {
		t.Fatalf("%d kept, want %d", len(kept), len(texts))
	}
	checkChain(t, kept, bookOf)
}

func TestNamesStandApartAndCanBeBlanked(t *testing.T) {
	s := dbtest.Open(t)
	id := uuid.New()
	for _, name := range []string{"Crew lead of the north house", ""} {
		if err := s.Name(t.Context(), id, name); err != nil {
			t.Fatal(err)
		}
		names, err := s.Names(t.Context())
		if err != nil || names[id.String()] != name {
			t.Errorf("got %q, %v, want %q", names[id.String()], err, name)
		}
	}
}

func TestAJobIsReadIntoAnEmptyDatabaseToTheSameHashes(t *testing.T) {
	s, empty := dbtest.Open(t), dbtest.OpenEmpty(t, "elsewhere")
	job, made := hostel(t)
	mustAppend(t, s, job, made.Entries[:7]...)
	mustAppend(t, s, job, made.Entries[7:]...)
	kept, err := s.All(t.Context(), job)
	if err != nil {
		t.Fatal(err)
	}
	if err := readIn(t, empty, job, kept); err != nil {
		t.Fatal(err)
	}
	there := all(t, empty, job)
	if len(there) != len(kept) {
		t.Fatalf("%d entries there, want %d", len(there), len(kept))
	}
	for i := range kept {
		if !bytes.Equal(there[i].Hash, kept[i].Hash) || !bytes.Equal(there[i].Bytes, kept[i].Bytes) || !there[i].ReceivedAt.Equal(kept[i].ReceivedAt) || there[i].Seq != kept[i].Seq {
			t.Fatalf("entry %d is there as %+v, was %+v", i+1, there[i], kept[i])
		}
	}
	if err := readIn(t, empty, job, kept); err == nil {
		t.Error("a job was read in a second time")
	}

	// What is appended afterwards goes on from the last hash.
	more := bytes.Replace(made.Entries[0], []byte(mustAppend(t, s, job, made.Entries[0])[0].ID), []byte("01900000-0000-7000-8000-0000000000aa"), 1)
	for _, each := range []*store.Store{s, empty} {
		if o := mustAppend(t, each, job, more)[0]; !o.New {
			t.Fatalf("appended after the import: %+v", o)
		}
	}
	here, there := all(t, s, job), all(t, empty, job)
	if n := len(here) - 1; !bytes.Equal(here[n].Hash, there[n].Hash) {
		t.Error("the chain does not go on from where it was read in")
	}

	other, foreign := hostel(t)
	mustAppend(t, s, other, foreign.Entries...)
	wrong, err := s.All(t.Context(), other)
	if err != nil {
		t.Fatal(err)
	}
	wrong[2].Hash = wrong[1].Hash
	if err := readIn(t, empty, other, wrong); err == nil {
		t.Error("an entry with another hash was read in")
	}
	if n := len(all(t, empty, other)); n != 0 {
		t.Errorf("%d entries of a refused job were kept", n)
	}
}
