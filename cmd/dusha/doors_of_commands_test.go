package main_test

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"
)

// A command that waits for the rest of its input ends when it is told to.
func TestComputeEndsWhenItIsTold(t *testing.T) {
	for _, signal := range []os.Signal{syscall.SIGTERM, os.Interrupt} {
		cmd := exec.Command(binary, "compute", "film.consumption")
		in, err := cmd.StdinPipe()
		if err != nil {
			t.Fatal(err)
		}
		defer in.Close()
		var said bytes.Buffer
		cmd.Stderr = &said
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		if _, err := in.Write([]byte(`{"batch_kg":`)); err != nil {
			t.Fatal(err)
		}
		time.Sleep(200 * time.Millisecond)
		if err := cmd.Process.Signal(signal); err != nil {
			t.Fatal(err)
		}
		ended := make(chan error, 1)
		go func() { ended <- cmd.Wait() }()
		select {
		case err := <-ended:
			if err == nil || !strings.Contains(said.String(), "interrupted") {
				t.Errorf("%v: %v, %s", signal, err, &said)
			}
		case <-time.After(5 * time.Second):
			_ = cmd.Process.Kill()
			t.Errorf("%v is not obeyed", signal)
		}
	}
}

// What never ends is left off, and what is no bundle is said, before anything is kept.
func TestWhatIsNoBundleIsNotReadIn(t *testing.T) {
	folder := t.TempDir()
	startHouse(t, folder)
	_, empty := databases(t, folder)
	for name, args := range map[string][]string{"read in": {"import", "/dev/zero", "--database", empty}, "verified": {"verify", "/dev/zero"}} {
		begin := time.Now()
		if said, fine := dusha(t, nil, args...); fine || !strings.Contains(said, "/dev/zero: bundle: json.broken") || time.Since(begin) > 10*time.Second {
			t.Errorf("endless zeros, %s: %s after %v", name, said, time.Since(begin))
		}
	}
}

// Poison that is set aside is said by verify, leaves with the bundle, and comes in elsewhere.
func TestAnEntryIsSetAsideOnTheCommandLine(t *testing.T) {
	folder := t.TempDir()
	h := startHouse(t, folder)
	own, empty := databases(t, folder)
	job := theJob(t, h.url)
	var bundle struct{ Entries []struct{ Text string } }
	if err := json.Unmarshal([]byte(mustDusha(t, nil, "export", job, "--database", own)), &bundle); err != nil {
		t.Fatal(err)
	}
	var third struct{ ID string }
	if err := json.Unmarshal([]byte(bundle.Entries[2].Text), &third); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{third.ID}, "--why"},
		{[]string{"--why", "x"}, "name an entry or a job"},
		{[]string{third.ID, "--job", job, "--seq", "2", "--why", "x"}, "name an entry or a job"},
		{[]string{"--job", job, "--why", "x"}, "name an entry or a job"},
		{[]string{"the third", "--why", "x"}, "is no id"},
		{[]string{"01900000-0000-7000-8000-00000000ffff", "--why", "x"}, "nothing is there"},
		{[]string{"--job", job, "--seq", "99999", "--why", "x"}, "nothing is there"},
	} {
		if said, fine := dusha(t, nil, append([]string{"quarantine", "--database", own}, c.args...)...); fine || !strings.Contains(said, c.says) {
			t.Errorf("quarantine %v: %s, want %q", c.args, said, c.says)
		}
	}
	if said := mustDusha(t, nil, "quarantine", third.ID, "--why", "half a letter", "--database", own); !strings.Contains(said, "Entry 3 of job "+job+" is set aside") {
		t.Error(said)
	}
	mustDusha(t, nil, "quarantine", "--job", job, "--seq", "5", "--why", "no id", "--database", own)
	file := filepath.Join(t.TempDir(), "bundle.json")
	if err := os.WriteFile(file, []byte(mustDusha(t, nil, "export", job, "--database", own)), 0o600); err != nil {
		t.Fatal(err)
	}
	if said := mustDusha(t, nil, "verify", file); !strings.Contains(said, "entry 3: half a letter") || !strings.Contains(said, "entry 5: no id") {
		t.Error(said)
	}
	if said := mustDusha(t, nil, "import", file, "--database", empty); !strings.Contains(said, "entry 3: half a letter") {
		t.Error(said)
	}
	if again := mustDusha(t, nil, "export", job, "--database", empty); !strings.Contains(again, "half a letter") {
		t.Error("what is set aside did not come with it")
	}
	if said := mustDusha(t, nil, "quarantine", third.ID, "--release", "--database", own); !strings.Contains(said, "is released") {
		t.Error(said)
	}
	if said := mustDusha(t, nil, "quarantine", job, "--why", "made for practice", "--database", own); !strings.Contains(said, "Job "+job+" is set aside") {
		t.Error(said)
	}
}
