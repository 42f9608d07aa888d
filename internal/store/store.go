// Package store keeps entries, and nothing it could work out from them, in MariaDB.
//
// The append is one transaction: the job row is locked first, known ids are read after it,
// new entries are numbered and chained, one insert. What is answered as kept has been
// flushed by the database's commit.
package store

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"slices"
	"time"

	mysqldriver "github.com/go-sql-driver/mysql"
	"github.com/google/uuid"
	"golang.org/x/sync/singleflight"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// House is the company of whoever has no accounts.
var House = uuid.MustParse("01900000-0000-7000-8000-000000000001")

// Store is the database as one company sees it: nothing of another is read, counted or written.
type Store struct {
	db      *gorm.DB
	company uuid.UUID
	now     func() time.Time
	most    room
	lists   *singleflight.Group // lists of jobs that are on their way, by company
}

// room is what a job may hold; what is delivered beyond it is refused by name, and stays on its device.
type room struct{ entries, bytes uint64 }

var roomOfJob = room{entries: 250_000, bytes: 1 << 30}

const mostConnections = 16

// Open connects, and refuses a database that is not set up as this program needs it: see
// check.
func Open(ctx context.Context, dsn string, log *slog.Logger) (*Store, error) {
	if err := checkName(dsn); err != nil {
		return nil, err
	}
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
	pool.SetMaxOpenConns(mostConnections)
	pool.SetMaxIdleConns(mostConnections) // a crew that asks each second finds them open
	pool.SetConnMaxIdleTime(time.Minute)
	s := &Store{db: db, company: House, now: func() time.Time { return time.Now().UTC().Truncate(time.Microsecond) }, most: roomOfJob, lists: &singleflight.Group{}}
	if err := s.check(ctx); err != nil {
		return nil, errors.Join(err, pool.Close())
	}
	return s, nil
}

// For is the same database as another company sees it.
func (s *Store) For(company uuid.UUID) *Store {
	other := *s
	other.company = company
	return &other
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

// ours limits a query to the rows of the company.
func (s *Store) ours(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Where("company_id = ?", s.company)
}

// A transaction that lost a race is run again whole, each time after a longer pause of chance,
// so that the same two do not meet again.
const (
	transactionTries = 10
	longestPause     = 20 * time.Millisecond // after the first try; it doubles
)

func (s *Store) transaction(ctx context.Context, work func(tx *gorm.DB) error) error {
	for try := 0; ; try++ {
		err := s.db.WithContext(ctx).Transaction(work)
		if !lostRace(err) || try == transactionTries-1 {
			return err
		}
		pause := time.Duration(rand.Int64N(int64(longestPause) << min(try, 5)))
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(pause):
		}
	}
}

// Numbers of MariaDB's errors after which a transaction is run again: another one was in its
// way, or wrote the same row first, and what it wrote is then found there.
const (
	duplicateKey = 1062
	lockTimeout  = 1205
	deadlock     = 1213
	changedSince = 1020
)

func lostRace(err error) bool {
	var broken *mysqldriver.MySQLError
	if !errors.As(err, &broken) {
		return false
	}
	switch broken.Number {
	case duplicateKey, lockTimeout, deadlock, changedSince:
		return true
	}
	return false
}

// JobLine is a job with the number of its last entry and what of it is set aside.
type JobLine struct {
	ID         string
	LastSeq    uint64
	Head       []byte // last receipt; nil where none was given yet
	Quarantine []Quarantined
}

// listWithin is how long the list of jobs may take, whoever waits for it.
const listWithin = 10 * time.Second

// Jobs lists all jobs that hold something, newest first (their ids carry the time they were
// made). Whoever asks while a list is on its way is given that one: a crew asks each second.
func (s *Store) Jobs(ctx context.Context) ([]JobLine, error) {
	list := s.lists.DoChan(s.company.String(), func() (any, error) {
		within, done := context.WithTimeout(context.WithoutCancel(ctx), listWithin) // the first to ask may go away
		defer done()
		return s.jobs(within)
	})
	select {
	case got := <-list:
		if got.Err != nil {
			return nil, got.Err
		}
		return slices.Clone(got.Val.([]JobLine)), nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// jobs reads the list with one question and without a mapper between: it is what is asked most.
func (s *Store) jobs(ctx context.Context) ([]JobLine, error) {
	const list = "SELECT j.id, j.last_seq, j.last_receipt, q.seq, q.why, q.at, COALESCE(e.id, j.id) FROM jobs j" +
		" LEFT JOIN quarantine q ON q.company_id = j.company_id AND q.job_id = j.id" +
		" LEFT JOIN entries e ON e.company_id = q.company_id AND e.job_id = q.job_id AND e.seq = q.seq" +
		" WHERE j.company_id = ? AND j.last_seq > 0 ORDER BY j.id DESC, q.seq"
	rows, err := s.db.WithContext(ctx).Raw(list, s.company).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	lines := []JobLine{}
	for rows.Next() {
		var id, of string
		var line JobLine
		var aside struct {
			seq *uint64
			why *string
			at  *time.Time
		}
		if err := rows.Scan(&id, &line.LastSeq, &line.Head, &aside.seq, &aside.why, &aside.at, &of); err != nil {
			return nil, err
		}
		if line.ID = id; len(lines) == 0 || lines[len(lines)-1].ID != id {
			lines = append(lines, line)
		}
		if aside.seq != nil {
			last := &lines[len(lines)-1]
			last.Quarantine = append(last.Quarantine, Quarantined{*aside.seq, of, *aside.why, *aside.at})
		}
	}
	return lines, rows.Err()
}

// Kept is an entry as it was received, with what the server added.
type Kept struct {
	ID         string
	AreaID     string // "" in the job's own book
	Seq        uint64
	ReceivedAt time.Time
	Hash       []byte
	Bytes      []byte
	Aside      string // why it was set aside, "" where it was not

	DeliveredBy *uuid.UUID // the installation it came through, nil where none was said
	Receipt     []byte     // as ReceiptOf gives it; nil where it was kept before there were any
}

// mostAtOnce is how much of a book is read at once, bytes of entries.
const mostAtOnce = 4 << 20

// Since gives a job's entries after a number, in order of arrival, at most limit of them and
// about 4 MiB; more tells that there are others behind them.
func (s *Store) Since(ctx context.Context, jobID uuid.UUID, after uint64, limit int) (kept []Kept, more bool, err error) {
	aside, err := s.quarantined(ctx, &jobID)
	if err != nil {
		return nil, false, err
	}
	whys := map[uint64]string{}
	for _, q := range aside[jobID] {
		whys[q.Seq] = q.Why
	}
	rows, err := s.ours(ctx).Model(&entry{}).Where("job_id = ? AND seq > ?", jobID, after).Order("seq").Limit(limit + 1).Rows()
	if err != nil {
		return nil, false, err
	}
	defer rows.Close()
	bytes := 0
	for rows.Next() {
		var e entry
		if err := s.db.ScanRows(rows, &e); err != nil {
			return nil, false, err
		}
		if len(kept) == limit || bytes > mostAtOnce {
			return kept, true, nil
		}
		bytes += len(e.Bytes)
		k := e.kept()
		k.Aside = whys[e.Seq]
		kept = append(kept, *k)
	}
	return kept, false, rows.Err()
}

func (e *entry) kept() *Kept {
	k := &Kept{ID: e.ID.String(), Seq: e.Seq, ReceivedAt: e.ReceivedAt, Hash: e.Hash, Bytes: e.Bytes, DeliveredBy: e.DeliveredBy, Receipt: e.Receipt}
	if e.AreaID != nil {
		k.AreaID = e.AreaID.String()
	}
	return k
}

// Each gives every entry of a job in order of arrival, a few at a time.
func (s *Store) Each(ctx context.Context, jobID uuid.UUID, work func(Kept) error) error {
	const atOnce = 1000
	for after := uint64(0); ; {
		some, more, err := s.Since(ctx, jobID, after, atOnce)
		if err != nil {
			return err
		}
		for _, k := range some {
			after = k.Seq
			if err := work(k); err != nil {
				return err
			}
		}
		if !more {
			return nil
		}
	}
}

// All gives every entry of a job, in order of arrival.
func (s *Store) All(ctx context.Context, jobID uuid.UUID) ([]Kept, error) {
	var all []Kept
	err := s.Each(ctx, jobID, func(k Kept) error { all = append(all, k); return nil })
	return all, err
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
