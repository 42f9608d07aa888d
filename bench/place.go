package main

import (
	"context"
	"database/sql"
	"errors"
	"log/slog"
	"net/http/httptest"
	"os"
	"path/filepath"

	"dusha/draw"
	"dusha/internal/access"
	"dusha/internal/api"
	"dusha/internal/mariadb"
	"dusha/internal/store"
)

// place is an empty database of its own, as the program sees it and as plain SQL does.
type place struct {
	store *store.Store
	db    *sql.DB

	folder string
	server *mariadb.Server
}

func newPlace(ctx context.Context) (p *place, err error) {
	p = &place{}
	defer func() {
		if err != nil {
			p.close()
		}
	}()
	if p.folder, err = os.MkdirTemp("", "dusha-bench"); err != nil {
		return p, err
	}
	if p.server, err = mariadb.Start(ctx, filepath.Join(p.folder, "database")); err != nil {
		return p, err
	}
	if err = store.Migrate(ctx, p.server.DSN); err != nil {
		return p, err
	}
	if p.store, err = store.Open(ctx, p.server.DSN, quiet()); err != nil {
		return p, err
	}
	p.db, err = sql.Open("mysql", p.server.DSN)
	return p, err
}

func quiet() *slog.Logger { return slog.New(slog.DiscardHandler) }

// serve opens the doors on it, to paired devices where there is an access.
func (p *place) serve(a *access.Access) (*httptest.Server, error) {
	handler, _, err := api.New(api.Config{Store: p.store, Table: draw.Table(), Log: quiet(), Access: a})
	if err != nil {
		return nil, err
	}
	return httptest.NewServer(handler), nil
}

// close gives back what was opened of it.
func (p *place) close() error {
	var errs []error
	if p.db != nil {
		errs = append(errs, p.db.Close())
	}
	if p.store != nil {
		errs = append(errs, p.store.Close())
	}
	if p.server != nil {
		p.server.Stop()
	}
	return errors.Join(append(errs, os.RemoveAll(p.folder))...)
}
