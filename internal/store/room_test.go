package store_test

import (
	"testing"

	"dusha/internal/dbtest"
)

// What goes beyond the room of a job is refused by name, each entry by itself, and blocks no smaller one.
func TestAJobHasItsRoom(t *testing.T) {
	s := dbtest.OpenEmpty(t, "room")
	job, made := hostel(t)
	few := s.WithRoom(3, 1<<30)
	outcomes := mustAppend(t, few, job, made.Entries[:5]...)
	for i, o := range outcomes {
		full := len(o.Refused) == 1 && o.Refused[0].Key == "job.full"
		if full != (i >= 3) {
			t.Errorf("entry %d of 5, room for 3: %+v", i+1, o)
		}
	}
	if again := mustAppend(t, few, job, made.Entries[:4]...); again[0].Kept == nil || len(again[3].Refused) == 0 {
		t.Errorf("delivered again: %+v", again)
	}
	taken := uint64(0)
	for _, k := range all(t, s, job) {
		taken += uint64(len(k.Bytes))
	}
	next := made.Entries[3]
	if o := mustAppend(t, s.WithRoom(100, taken+uint64(len(next))-1), job, next); len(o[0].Refused) == 0 {
		t.Error("a byte too many was taken")
	}
	if o := mustAppend(t, s.WithRoom(100, taken+uint64(len(next))), job, next); !o[0].New {
		t.Errorf("it fits to the byte: %+v", o)
	}
	// A job that is read in has its room too.
	other := dbtest.OpenEmpty(t, "room_read_in")
	kept := all(t, s, job)
	if err := readIn(t, other, job, kept); err != nil {
		t.Fatal(err)
	}
	if o := mustAppend(t, other.WithRoom(100, taken+uint64(len(next))), job, made.Entries[4]); len(o[0].Refused) == 0 {
		t.Error("its bytes were not counted")
	}
}
