// Package dbtest gives tests a private MariaDB with the current schema.
package dbtest

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"os"
	"testing"

	"github.com/go-sql-driver/mysql"

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

// OpenEmpty opens a store on a database of its own, with the schema and nothing in it.
func OpenEmpty(t *testing.T, name string) *store.Store {
	t.Helper()
	config, err := mysql.ParseDSN(DSN)
	if err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("mysql", DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.ExecContext(t.Context(), "CREATE DATABASE "+name); err != nil {
		t.Fatal(err)
	}
	config.DBName = name
	if err := store.Migrate(t.Context(), config.FormatDSN()); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), config.FormatDSN(), slog.New(slog.DiscardHandler))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}
