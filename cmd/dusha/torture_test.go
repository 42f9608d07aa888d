package main_test

import (
	"bytes"
	"crypto/sha256"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/demo"
)

// rounds is how often the house is killed; make torture asks for more.
func rounds() int {
	if n, err := strconv.Atoi(os.Getenv("DUSHA_TORTURE")); err == nil {
		return n
	}
	return 5
}

// writer is a device that delivers one batch after the other, each until it is answered.
type writer struct {
	job, area, by string
	url           *atomic.Value
	stop          *atomic.Bool
	answered      map[string]string // bytes by id
	n             int
}

func (w *writer) run() {
	for !w.stop.Load() {
		batch := map[string]string{}
		var texts []string
		for range 1 + w.n%4 {
			w.n++
			id := uuid.Must(uuid.NewV7()).String()
			text := fmt.Sprintf(`{"id":%q,"jobId":%q,"areaId":%q,"kind":"area.opened","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"Room %d"}}`, id, w.job, w.area, w.by, w.n)
			batch[id], texts = text, append(texts, text)
		}
		body := `{"entries":[` + strings.Join(texts, ",") + `]}`
		for !w.deliver(body, len(texts)) {
			if w.stop.Load() {
				return
			}
			time.Sleep(20 * time.Millisecond)
		}
		for id, text := range batch {
			w.answered[id] = text
		}
	}
}

// deliver tells whether all of a batch was answered as kept, now or before.
func (w *writer) deliver(body string, count int) bool {
	client := http.Client{Timeout: 5 * time.Second}
	response, err := client.Post(w.url.Load().(string)+"/api/jobs/"+w.job+"/entries", "application/json", strings.NewReader(body))
	if err != nil {
		return false
	}
	defer response.Body.Close()
	text, err := io.ReadAll(response.Body)
	return err == nil && response.StatusCode == http.StatusOK &&
		bytes.Count(text, []byte(`"status":201`))+bytes.Count(text, []byte(`"status":200`)) == count
}

// killSome ends the server, the database, or both, hard.
func (h house) killSome(t *testing.T, folder string, which int) {
	t.Helper()
	if which == 1 { // the database first; the server finds out
		note, err := os.ReadFile(filepath.Join(folder, "database.pid"))
		if err != nil {
			t.Fatal(err)
		}
		first, _, _ := strings.Cut(string(note), "\n")
		if pid, err := strconv.Atoi(first); err != nil || syscall.Kill(pid, syscall.SIGKILL) != nil {
			t.Fatalf("no database to kill: %q", first)
		}
		time.Sleep(time.Duration(rand.IntN(300)) * time.Millisecond)
	}
	if which == 2 {
		h.kill(t, folder)
		return
	}
	if err := h.cmd.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	_ = h.cmd.Wait()
}

// Server and database are killed at random moments while four devices deliver: what was answered
// is there, once and byte for byte, and every chain is whole.
func TestTorture(t *testing.T) {
	folder := t.TempDir()
	made, err := demo.Make(noon, 4242)
	if err != nil {
		t.Fatal(err)
	}
	var url atomic.Value
	var stop atomic.Bool
	h := startHouse(t, folder)
	url.Store(h.url)
	writers := make([]*writer, 4)
	var wait sync.WaitGroup
	for i := range writers {
		area := uuid.Must(uuid.NewV7()).String()
		writers[i] = &writer{job: made.ID, area: area, by: made.Named["lead"], url: &url, stop: &stop, answered: map[string]string{}}
		wait.Go(writers[i].run)
	}
	for round := range rounds() {
		time.Sleep(time.Duration(100+rand.IntN(900)) * time.Millisecond)
		h.killSome(t, folder, round%3)
		h = startAgain(t, folder)
		url.Store(h.url)
	}
	time.Sleep(300 * time.Millisecond)
	stop.Store(true)
	wait.Wait()
	answered := map[string]string{}
	for _, w := range writers {
		for id, text := range w.answered {
			answered[id] = text
		}
	}
	if len(answered) < 20*rounds() {
		t.Errorf("only %d entries were answered", len(answered))
	}
	checkDatabase(t, folder, answered)
	t.Logf("%d answered in %d rounds", len(answered), rounds())
}

// startAgain starts a house whose database may still be on its way out.
func startAgain(t *testing.T, folder string) house {
	t.Helper()
	for range 100 {
		lock, err := os.OpenFile(filepath.Join(folder, "database", "lock"), os.O_RDWR, 0)
		if err != nil {
			t.Fatal(err)
		}
		err = syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB)
		lock.Close()
		if err == nil {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	return startHouse(t, folder)
}

// checkDatabase reads the rows themselves, by nothing of the store, and works every chain out
// anew.
func checkDatabase(t *testing.T, folder string, answered map[string]string) {
	t.Helper()
	note, err := os.ReadFile(filepath.Join(folder, "database.pid"))
	if err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("mysql", strings.Split(string(note), "\n")[1])
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	rows, err := db.Query("SELECT id, job_id, COALESCE(CAST(area_id AS CHAR), ''), seq, hash, bytes FROM entries ORDER BY job_id, seq")
	if err != nil {
		t.Fatal(err)
	}
	defer rows.Close()
	numbers, heads, found := map[string]uint64{}, map[string][]byte{}, map[string]bool{}
	for rows.Next() {
		var id, job, area string
		var seq uint64
		var hash, text []byte
		if err := rows.Scan(&id, &job, &area, &seq, &hash, &text); err != nil {
			t.Fatal(err)
		}
		if numbers[job]++; seq != numbers[job] {
			t.Fatalf("job %s: number %d stands where %d is due", job, seq, numbers[job])
		}
		want := sha256.Sum256(append(bytes.Clone(heads[job+area]), text...))
		if !bytes.Equal(hash, want[:]) {
			t.Fatalf("job %s, entry %d: its hash does not follow from the one before", job, seq)
		}
		heads[job+area] = hash
		var e struct{ ID, JobID string }
		if err := json.Unmarshal(text, &e); err != nil || e.ID != id || e.JobID != job {
			t.Fatalf("job %s, entry %d: the row is of %s, its text of %s", job, seq, id, e.ID)
		}
		if sent, is := answered[id]; is && sent != string(text) {
			t.Errorf("%s is kept as %s", id, text)
		}
		found[id] = true
	}
	if err := rows.Err(); err != nil {
		t.Fatal(err)
	}
	for id := range answered {
		if !found[id] {
			t.Errorf("%s was answered as kept and is gone", id)
		}
	}
	for table, query := range map[string]string{"job": "SELECT id, '', COALESCE(last_hash, ''), last_seq FROM jobs", "area": "SELECT job_id, id, COALESCE(last_hash, ''), 0 FROM areas"} {
		rows, err := db.Query(query)
		if err != nil {
			t.Fatal(err)
		}
		defer rows.Close()
		for rows.Next() {
			var job, area string
			var head []byte
			var seq uint64
			if err := rows.Scan(&job, &area, &head, &seq); err != nil {
				t.Fatal(err)
			}
			if !bytes.Equal(head, heads[job+area]) || table == "job" && seq != numbers[job] {
				t.Errorf("%s %s%s says its last is %x (%d), it is %x (%d)", table, job, area, head, seq, heads[job+area], numbers[job])
			}
		}
	}
}
