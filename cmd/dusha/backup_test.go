package main_test

import (
	"bytes"
	"compress/gzip"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// A backup of a running server comes back to the same bundle, elsewhere and empty, or not at all.
func TestABackupComesBack(t *testing.T) {
	folder := t.TempDir()
	h := startHouse(t, folder)
	own, empty := databases(t, folder)
	job := theJob(t, h.url)
	pdf := "%PDF-1.7\n" + strings.Repeat("a printed sheet ", 1000) + "\x00\xff"
	request, err := http.NewRequest("PUT", h.url+"/api/jobs/"+job+"/photos/01900000-0000-7000-8000-0000000000cc", strings.NewReader(pdf))
	if err != nil {
		t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/pdf")
	if answer, err := http.DefaultClient.Do(request); err != nil || answer.StatusCode != 204 {
		t.Fatal(answer, err)
	}
	mustDusha(t, nil, "quarantine", "--job", job, "--seq", "3", "--why", "half a letter", "--database", own)
	file := filepath.Join(t.TempDir(), "dusha.backup")
	if said := mustDusha(t, nil, "backup", file, "--database", own); !strings.Contains(said, "rows written") {
		t.Error(said)
	}
	if said, fine := dusha(t, nil, "backup", file, "--database", own); fine || !strings.Contains(said, "exists") {
		t.Errorf("written over: %s", said)
	}
	if info, err := os.Stat(file); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("others may read it: %v, %v", info.Mode(), err)
	}
	text := unpackedFile(t, file)
	for name, changed := range map[string][]byte{
		"a byte changed":        bytes.Replace(text, []byte(`"nulls":[0`), []byte(`"nulls":[1`), 1),
		"a row left out":        cutLine(text, len(bytes.Split(text, []byte("\n")))/2),
		"broken off":            text[:len(text)*2/3],
		"the foot left out":     cutLine(text, -1),
		"no backup at all":      []byte("hello\n"),
		"of another program":    bytes.Replace(text, []byte("dusha-backup"), []byte("other-backup"), 1),
		"of another schema":     bytes.Replace(text, []byte(`"schema":`), []byte(`"schema":9`), 1),
		"of a table unheard of": bytes.Replace(text, []byte(`{"table":"photos"`), []byte(`{"table":"goose_db_version"`), 1),
	} {
		if bytes.Equal(changed, text) {
			continue // nothing of the kind stands in it
		}
		if said, fine := dusha(t, nil, "restore", packedFile(t, changed), "--database", empty); fine {
			t.Errorf("%s: %s", name, said)
		}
	}
	if said, fine := dusha(t, nil, "restore", file, "--database", own); fine || !strings.Contains(said, "only into an empty one") {
		t.Errorf("into a full one: %s", said)
	}
	if said := mustDusha(t, nil, "restore", file, "--database", empty); !strings.Contains(said, "each chain as it was kept") {
		t.Error(said)
	}
	if there, here := mustDusha(t, nil, "export", job, "--database", empty), mustDusha(t, nil, "export", job, "--database", own); there != here {
		t.Error("the bundle of it differs")
	}
}

func unpackedFile(t *testing.T, file string) []byte {
	t.Helper()
	f, err := os.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	packed, err := gzip.NewReader(f)
	if err != nil {
		t.Fatal(err)
	}
	text, err := io.ReadAll(packed)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

func packedFile(t *testing.T, text []byte) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "changed.backup")
	f, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	w := gzip.NewWriter(f)
	if _, err := w.Write(text); err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return file
}

// cutLine leaves a line out; -1 is the last.
func cutLine(text []byte, n int) []byte {
	all := bytes.Split(bytes.TrimSuffix(text, []byte("\n")), []byte("\n"))
	if n < 0 {
		n = len(all) + n
	}
	return append(bytes.Join(append(append([][]byte{}, all[:n]...), all[n+1:]...), []byte("\n")), '\n')
}
