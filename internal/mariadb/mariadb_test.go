package mariadb_test

import (
	"database/sql"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"dusha/internal/mariadb"
)

func start(t *testing.T, folder string) *mariadb.Server {
	t.Helper()
	s, err := mariadb.Start(t.Context(), folder)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func query(t *testing.T, dsn, text string) string {
	t.Helper()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var answer string
	if err := db.QueryRow(text).Scan(&answer); err != nil {
		t.Fatal(err)
	}
	return answer
}

func TestADatabaseOfOnesOwnIsKeptBetweenRuns(t *testing.T) {
	folder := t.TempDir()
	first := start(t, folder)
	if mode := query(t, first.DSN, "SELECT @@sql_mode"); !strings.Contains(mode, "STRICT_ALL_TABLES") {
		t.Errorf("mode is %s", mode)
	}
	if flush := query(t, first.DSN, "SELECT @@innodb_flush_log_at_trx_commit"); flush != "1" {
		t.Errorf("flush at commit is %s", flush)
	}
	if shut := query(t, first.DSN, "SELECT @@skip_networking"); shut != "1" {
		t.Error("it listens on the network, and its root has no password")
	}
	if packet := query(t, first.DSN, "SELECT @@max_allowed_packet"); packet != "67108864" {
		t.Errorf("its packets are of %s bytes", packet)
	}
	for _, inside := range []string{"", "tmp"} {
		if info, err := os.Stat(filepath.Join(folder, inside)); err != nil || inside != "" && info.Mode().Perm() != 0o700 {
			t.Errorf("others may enter %q: %v, %v", inside, info.Mode(), err)
		}
	}
	db, err := sql.Open("mysql", first.DSN)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec("CREATE TABLE kept (word VARCHAR(10)) AS SELECT 'here' AS word"); err != nil {
		t.Fatal(err)
	}
	db.Close()
	if _, err := mariadb.Start(t.Context(), folder); err == nil || !strings.Contains(err.Error(), "in use") {
		t.Errorf("a second server on one folder: %v", err)
	}
	first.Stop()
	second := start(t, folder)
	defer second.Stop()
	if word := query(t, second.DSN, "SELECT word FROM kept"); word != "here" {
		t.Errorf("found %q", word)
	}
}

func TestSeveralServersBesideEachOther(t *testing.T) {
	var wait sync.WaitGroup
	for range 3 {
		folder := t.TempDir()
		wait.Go(func() {
			s, err := mariadb.Start(t.Context(), folder)
			if err != nil {
				t.Error(err)
				return
			}
			s.Stop()
		})
	}
	wait.Wait()
}

func TestAVeryLongFolder(t *testing.T) {
	folder := filepath.Join(t.TempDir(), strings.Repeat("deep", 20), strings.Repeat("deeper", 10))
	if err := os.MkdirAll(folder, 0o755); err != nil {
		t.Fatal(err)
	}
	start(t, folder).Stop()
}
