package main_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"dusha/demo"
)

var noon = time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)

// house is a running demo server with its private database.
type house struct {
	cmd *exec.Cmd
	url string
}

func startHouse(t *testing.T, folder string) house {
	t.Helper()
	cmd := exec.Command(binary, "demo", "--folder", folder, "--listen", "127.0.0.1:0")
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		_ = cmd.Process.Signal(syscall.SIGTERM)
		_ = cmd.Wait()
	})
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, url, found := strings.Cut(lines.Text(), "Dusha is at "); found {
			go func() { _, _ = io.Copy(io.Discard, out) }()
			waitFor(t, url)
			return house{cmd, url}
		}
	}
	t.Fatal("the server did not start")
	return house{}
}

func waitFor(t *testing.T, url string) {
	t.Helper()
	for range 200 {
		response, err := http.Get(url + "/api/health")
		if err == nil {
			response.Body.Close()
			return
		}
		time.Sleep(25 * time.Millisecond)
	}
	t.Fatalf("%s does not answer", url)
}

// kill ends server and database hard, as a power cut would.
func (h house) kill(t *testing.T, folder string) {
	t.Helper()
	note, err := os.ReadFile(filepath.Join(folder, "database.pid"))
	if err != nil {
		t.Fatal(err)
	}
	first, _, _ := strings.Cut(string(note), "\n")
	pid, err := strconv.Atoi(first)
	if err != nil {
		t.Fatal(err)
	}
	if err := syscall.Kill(pid, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	if err := h.cmd.Process.Kill(); err != nil {
		t.Fatal(err)
	}
	_ = h.cmd.Wait()
}

func TestAnAnsweredWriteSurvivesAHardEnd(t *testing.T) {
	folder := t.TempDir()
	h := startHouse(t, folder)
	made, err := demo.Make(noon, 99)
	if err != nil {
		t.Fatal(err)
	}
	answered := make(chan string, 5000)
	done := make(chan struct{})
	go func() {
		defer close(done)
		for n := range 5000 {
			id := fmt.Sprintf("019cb000-0001-7000-8000-%012d", n)
			entry := fmt.Sprintf(`{"entries":[{"id":%q,"jobId":%q,"kind":"job.renamed","at":"2026-03-04T12:00:00Z","by":%q,"body":{"name":"Name %d"}}]}`, id, made.ID, made.Named["lead"], n)
			response, err := http.Post(h.url+"/api/jobs/"+made.ID+"/entries", "application/json", strings.NewReader(entry))
			if err != nil {
				return // the server is gone
			}
			text, err := io.ReadAll(response.Body)
			response.Body.Close()
			if err == nil && response.StatusCode == http.StatusOK && bytes.Contains(text, []byte(`"status":201`)) {
				answered <- id
			}
		}
	}()
	for len(answered) < 60 {
		time.Sleep(5 * time.Millisecond)
	}
	h.kill(t, folder)
	<-done
	close(answered)

	h = startHouse(t, folder)
	response, err := http.Get(h.url + "/api/jobs/" + made.ID + "/entries")
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	var got struct{ Entries []struct{ Bytes string } }
	if err := json.NewDecoder(response.Body).Decode(&got); err != nil {
		t.Fatal(err)
	}
	kept := map[string]bool{}
	for _, e := range got.Entries {
		var id struct{ ID string }
		if err := json.Unmarshal([]byte(e.Bytes), &id); err != nil {
			t.Fatal(err)
		}
		kept[id.ID] = true
	}
	count := 0
	for id := range answered {
		count++
		if !kept[id] {
			t.Errorf("%s was answered as kept and is gone", id)
		}
	}
	t.Logf("%d answered, %d found", count, len(kept))
}

// The demo is for this machine alone; what other machines reach is served over TLS or not at all.
func TestWhatOthersReachIsServedOverTLS(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	const nobody = "nobody@tcp(127.0.0.1:1)/none?parseTime=true&loc=UTC"
	for _, c := range []struct {
		says string
		args []string
	}{
		{"loopback", []string{"demo", "--folder", t.TempDir(), "--listen", "0.0.0.0:8080"}},
		{"Without TLS no device is let in", []string{"serve", "--database", nobody, "--listen", "0.0.0.0:8080", "--certificates", file}},
		{"--certificate and --key belong together", []string{"serve", "--database", nobody, "--listen", "192.0.2.1:80", "--certificate", file}},
		{"the certificate files", []string{"serve", "--database", nobody, "--listen", ":8080", "--certificate", file, "--key", file}},
		{"--name", []string{"serve", "--database", nobody, "--listen", "127.0.0.1:8080", "--behind-proxy", "127.0.0.1"}},
		{"is no address", []string{"serve", "--database", nobody, "--listen", "127.0.0.1:8080", "--behind-proxy", "tower", "--name", "dusha.example"}},
	} {
		out, err := exec.Command(binary, c.args...).CombinedOutput()
		if err == nil || !strings.Contains(string(out), c.says) {
			t.Errorf("%v: %v %s", c.args, err, out)
		}
	}
}
