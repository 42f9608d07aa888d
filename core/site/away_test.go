package site_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"dusha/core/site"
	"dusha/demo"
)

// opening is the first entry of a job: whose it is, and by whom.
type opening struct{ JobID, By string }

// begun is the hostel at a moment, and how it was opened.
func begun(t *testing.T, now time.Time) (made demo.Job, first opening) {
	t.Helper()
	made, err := demo.Make(now, 5)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(made.Entries[0], &first); err != nil {
		t.Fatal(err)
	}
	return made, first
}

// What is put away is on no board and no list, keeps its book, and comes back.
func TestWhatIsPutAwayComesBack(t *testing.T) {
	now := time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)
	made, first := begun(t, now)
	area := made.Areas["shower1"]
	put := func(n int, what string, away bool) []byte {
		return fmt.Appendf(nil, `{"id":"01900000-0000-7000-8000-%012d","jobId":%q,"kind":"put_away","at":"2026-03-04T11:%02d:00Z","by":%q,"body":{"area":%q,"away":%v}}`, n, first.JobID, n, first.By, what, away)
	}
	look := func(more ...[]byte) (board site.Board, buys float64) {
		s := site.Read(append(slices.Clone(made.Entries), more...))
		if len(s.Job().Deviations) > 0 {
			t.Fatalf("%v", s.Job().Deviations)
		}
		return s.Board(now, 0), s.Materials("", now).Weight
	}
	has := func(board site.Board) (listed, turns bool) {
		i := slices.IndexFunc(board.Areas, func(l site.Line) bool { return l.ID == area })
		return i >= 0 && !board.Areas[i].Away, slices.Contains(slices.Concat(board.Board.Now, board.Board.Waits), area)
	}
	before, all := look()
	if listed, turns := has(before); !listed || !turns {
		t.Fatalf("shower 1 is not on the board: %v %v", listed, turns)
	}
	away, less := look(put(1, area, true))
	if listed, turns := has(away); listed || turns || len(away.Areas) != len(before.Areas) || less >= all {
		t.Errorf("put away: listed %v, on the board %v, %d areas, %v kg of %v", listed, turns, len(away.Areas), less, all)
	}
	back, again := look(put(1, area, true), put(2, area, false))
	if listed, turns := has(back); !listed || !turns || again != all {
		t.Errorf("fetched back: listed %v, on the board %v, %v kg of %v", listed, turns, again, all)
	}
	if job, _ := look(put(1, "", true)); !job.Away {
		t.Error("the job is not put away")
	}
	if job, _ := look(put(1, "", true), put(2, "", false)); job.Away {
		t.Error("the job is not fetched back")
	}
}
