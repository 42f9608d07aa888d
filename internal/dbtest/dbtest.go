// Package dbtest gives tests a private MariaDB with the current schema.
package dbtest

import (
	"context"
	"fmt"
	"log/slog"
	"os"
	"testing"

	"dusha/internal/mariadb"
	"dusha/internal/store"
)

// DSN is the database of the tests of a package, once Run has started it.
var DSN string

// Run starts a database for a package's tests: call it from TestMain.
func Run(m *testing.M) {
	os.Exit(run(m))
}

func run(m *testing.M) int {
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "dusha-test")
	if err != nil {
		return fail(err)
	}
	defer os.RemoveAll(folder)
	db, err := mariadb.Start(ctx, folder)
	if err != nil {
		return fail(err)
	}
	defer db.Stop()
	if err := store.Migrate(ctx, db.DSN); err != nil {
		return fail(err)
	}
	DSN = db.DSN
	return m.Run()
}

func fail(err error) int {
	fmt.Fprintln(os.Stderr, "no database for the tests:", err)
	return 1
}

// Open opens a store on the package's database.
func Open(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), DSN, slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}
