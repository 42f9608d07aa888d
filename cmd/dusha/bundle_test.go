package main_test

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	_ "github.com/go-sql-driver/mysql"
)

// dusha runs the program, and gives what it said and whether it was content.
func dusha(t *testing.T, in []byte, args ...string) (said string, fine bool) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Stdin = bytes.NewReader(in)
	out, err := cmd.CombinedOutput()
	return string(out), err == nil
}

func mustDusha(t *testing.T, in []byte, args ...string) string {
	t.Helper()
	said, fine := dusha(t, in, args...)
	if !fine {
		t.Fatalf("dusha %v: %s", args, said)
	}
	return said
}

// databases gives the data source name of a house's database, and one beside it on the same
// server, with the schema and nothing in it.
func databases(t *testing.T, folder string) (own, empty string) {
	t.Helper()
	note, err := os.ReadFile(filepath.Join(folder, "database.pid"))
	if err != nil {
		t.Fatal(err)
	}
	own = strings.Split(string(note), "\n")[1]
	db, err := sql.Open("mysql", own)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.ExecContext(t.Context(), "CREATE DATABASE elsewhere"); err != nil {
		t.Fatal(err)
	}
	empty = strings.Replace(own, "/dusha?", "/elsewhere?", 1)
	mustDusha(t, nil, "migrate", "--database", empty)
	return own, empty
}

func TestAJobLeavesAndComesBackOnTheCommandLine(t *testing.T) {
	folder := t.TempDir()
	h := startHouse(t, folder)
	own, empty := databases(t, folder)
	job := theJob(t, h.url)
	bundle := mustDusha(t, nil, "export", job, "--database", own)
	file := filepath.Join(t.TempDir(), "bundle.json")
	if err := os.WriteFile(file, []byte(bundle), 0o600); err != nil {
		t.Fatal(err)
	}

	said := mustDusha(t, nil, "verify", file)
	lasts := regexp.MustCompile(`[0-9a-f]{64}`).FindAllString(said, -1)
	if !strings.Contains(said, "each as it was kept") || strings.Contains(said, "layout") || len(lasts) != 9 {
		t.Errorf("a bundle as it was written: %s", said)
	}
	mustDusha(t, []byte(bundle), "verify", "--last", lasts[0], "--last", lasts[8])
	if said, fine := dusha(t, nil, "verify", file, "--last", strings.Repeat("0", 64)); fine || !strings.Contains(said, "last hash") {
		t.Errorf("a last hash of elsewhere: %s", said)
	}
	if said := mustDusha(t, []byte(strings.Replace(bundle, "\n ", "\n  ", 1)), "verify"); !strings.Contains(said, "Its layout is not as it was written") {
		t.Errorf("laid out otherwise: %s", said)
	}
	// One byte of an entry: it is named, and not read in.
	at := strings.Index(bundle, `\"last_wet_mm\":1.2`) + len(`\"last_wet_mm\":1.`)
	changed := []byte(bundle)
	changed[at] = '3'
	if said, fine := dusha(t, changed, "import", "--database", empty); fine || !strings.Contains(said, "its text was changed") {
		t.Errorf("a changed bundle is read in: %s", said)
	}
	if said, fine := dusha(t, changed, "verify"); fine || !regexp.MustCompile(`entry \d+ \(read, .*\): its text was changed`).MatchString(said) {
		t.Errorf("one byte changed: %s", said)
	}

	mustDusha(t, nil, "import", file, "--database", empty)
	if again := mustDusha(t, nil, "export", job, "--database", empty); again != bundle {
		t.Error("exported again from elsewhere, the bundle differs")
	}
	if said, fine := dusha(t, nil, "import", file, "--database", empty); fine || !strings.Contains(said, "job_is_there") {
		t.Errorf("read in twice: %s", said)
	}
}

func TestCommandsSayWhatTheyLack(t *testing.T) {
	t.Setenv("DUSHA_DATABASE", "")
	for _, c := range []struct {
		args []string
		says string
	}{
		{[]string{"migrate"}, "no database"},
		{[]string{"serve"}, "no database"},
		{[]string{"export", "01900000-0000-7000-8000-000000000001"}, "no database"},
		{[]string{"export", "the hostel"}, "job:"},
		{[]string{"verify", "no such file"}, "no such file"},
		{[]string{"verify"}, "standard input"},
		{[]string{"schemas", "no/such/folder"}, "no such file"},
	} {
		if said, fine := dusha(t, nil, c.args...); fine || !strings.Contains(said, c.says) {
			t.Errorf("dusha %v: %s, want %q", c.args, said, c.says)
		}
	}
}

// theJob is the one job of a house.
func theJob(t *testing.T, url string) string {
	t.Helper()
	response, err := http.Get(url + "/api/jobs")
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	var out struct{ Jobs []struct{ ID string } }
	text, err := io.ReadAll(response.Body)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(text, &out); err != nil || len(out.Jobs) != 1 {
		t.Fatalf("%s: %v", text, err)
	}
	return out.Jobs[0].ID
}
