// Package store keeps entries, and nothing it could work out from them, in MariaDB.
//
// The append is one transaction: the job row is locked first, known ids are read after it,
// new entries are numbered and chained, one insert. What is answered as kept has been
// flushed by the database's commit.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"time"

	mysqldriver "github.com/go-sql-driver/mysql"
	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// House is the one company there is until there are accounts.
var House = uuid.MustParse("01900000-0000-7000-8000-000000000001")

// Store is the database of one company.
type Store struct {
	db      *gorm.DB
	company uuid.UUID
	now     func() time.Time
}

// Open connects; the database must be MariaDB 10.11 or newer.
func Open(ctx context.Context, dsn string, log *slog.Logger) (*Store, error) {
	db, err := gorm.Open(mysql.Open(dsn), &gorm.Config{
		SkipDefaultTransaction: true,
		NowFunc:                func() time.Time { return time.Now().UTC() },
		Logger: logger.NewSlogLogger(log, logger.Config{
			ParameterizedQueries: true, LogLevel: logger.Warn, SlowThreshold: time.Second, IgnoreRecordNotFoundError: true,
		}),
	})
	if err != nil {
		return nil, fmt.Errorf("open the database: %w", err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(16)
	if err := pool.PingContext(ctx); err != nil {
		return nil, fmt.Errorf("open the database: %w", err)
	}
	return &Store{db: db, company: House, now: func() time.Time { return time.Now().UTC().Truncate(time.Microsecond) }}, nil
}

// Close gives the connections back.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.Close()
}

// Ping tells whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.PingContext(ctx)
}

// Migrate brings the schema to this program's version.
func Migrate(ctx context.Context, dsn string) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectMySQL, db, files)
	if err != nil {
		return err
	}
	_, err = provider.Up(ctx)
	return err
}

// ours limits a query to the rows of the company.
func (s *Store) ours(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Where("company_id = ?", s.company)
}

// transactionTries is how often a transaction that lost a deadlock is run again whole.
const transactionTries = 5

func (s *Store) transaction(ctx context.Context, work func(tx *gorm.DB) error) error {
	var err error
	for range transactionTries {
		err = s.db.WithContext(ctx).Transaction(work)
		var broken *mysqldriver.MySQLError
		if !errors.As(err, &broken) || broken.Number != deadlock && broken.Number != lockTimeout {
			return err
		}
	}
	return err
}

// Numbers of MariaDB's errors after which a transaction may be run again.
const (
	deadlock    = 1213
	lockTimeout = 1205
)

// JobLine is a job with the number of its last entry.
type JobLine struct {
	ID      string
	LastSeq uint64
}

// Jobs lists all jobs, newest first (their ids carry the time they were made).
func (s *Store) Jobs(ctx context.Context) ([]JobLine, error) {
	var jobs []job
	if err := s.ours(ctx).Order("id DESC").Find(&jobs).Error; err != nil {
		return nil, err
	}
	lines := make([]JobLine, len(jobs))
	for i, j := range jobs {
		lines[i] = JobLine{j.ID.String(), j.LastSeq}
	}
	return lines, nil
}

// Kept is an entry as it was received, with what the server added.
type Kept struct {
	Seq        uint64
	ReceivedAt time.Time
	Hash       []byte
	Bytes      []byte
}

// Since gives a job's entries after a number, in order of arrival, at most limit.
func (s *Store) Since(ctx context.Context, jobID uuid.UUID, after uint64, limit int) ([]Kept, error) {
	var entries []entry
	if err := s.ours(ctx).Where("job_id = ? AND seq > ?", jobID, after).Order("seq").Limit(limit).Find(&entries).Error; err != nil {
		return nil, err
	}
	kept := make([]Kept, len(entries))
	for i, e := range entries {
		kept[i] = Kept{Seq: e.Seq, ReceivedAt: e.ReceivedAt, Hash: e.Hash, Bytes: e.Bytes}
	}
	return kept, nil
}

// Name keeps a person's name, or blanks it when it is empty: entries hold ids only, so no
// hash changes.
func (s *Store) Name(ctx context.Context, id uuid.UUID, name string) error {
	return s.db.WithContext(ctx).Exec(
		"INSERT INTO people (id, company_id, name) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE name = VALUES(name)", id, s.company, name).Error
}

// Names gives the names of all people, by id.
func (s *Store) Names(ctx context.Context) (map[string]string, error) {
	var people []person
	if err := s.ours(ctx).Find(&people).Error; err != nil {
		return nil, err
	}
	names := make(map[string]string, len(people))
	for _, p := range people {
		names[p.ID.String()] = p.Name
	}
	return names, nil
}
