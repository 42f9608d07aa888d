package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dusha/core/fault"
	"dusha/core/logbook"
)

// Outcome is what became of one entry of a batch.
type Outcome struct {
	ID       string // as far as it could be read
	Kept     *Kept  // new, or already there with the same bytes
	New      bool
	Refused  fault.Faults // its shape, size or place is wrong
	Conflict bool         // the id is there with other bytes: both are kept for a person
}

// Delivery is through which installation a batch comes, and what it may do beside writing to a
// job that it has written to.
type Delivery struct {
	By   *uuid.UUID // a random id of the installation; nil where none was said
	Make bool       // begin a job
	Join bool       // write to one for the first time
}

// What a delivery may not do.
var (
	ErrMayNotMake = errors.New("may not begin a job")
	ErrMayNotJoin = errors.New("may not join a job")
)

// Append keeps a batch of entries by whoever may do all.
func (s *Store) Append(ctx context.Context, jobID uuid.UUID, texts [][]byte) ([]Outcome, error) {
	return s.AppendAs(ctx, jobID, texts, Delivery{Make: true, Join: true})
}

// AppendAs keeps a batch of entries of one job. A refused entry blocks none behind it. The
// outcomes are in the order of the batch; an error means that nothing was kept.
func (s *Store) AppendAs(ctx context.Context, jobID uuid.UUID, texts [][]byte, by Delivery) ([]Outcome, error) {
	outcomes, fresh := s.read(jobID, texts)
	if len(fresh) == 0 {
		return outcomes, nil
	}
	err := s.transaction(ctx, func(tx *gorm.DB) error { return s.append(tx, jobID, fresh, outcomes, by) })
	if errors.Is(err, errNothingNew) {
		err = nil
	}
	return outcomes, err
}

// errNothingNew takes a transaction back that kept nothing: no job is made by entries that were
// all refused.
var errNothingNew = errors.New("nothing new")

// read checks the shape of each text; fresh are the entries to be kept, by place.
func (s *Store) read(jobID uuid.UUID, texts [][]byte) (outcomes []Outcome, fresh map[int]logbook.Entry) {
	outcomes, fresh = make([]Outcome, len(texts)), map[int]logbook.Entry{}
	for i, text := range texts {
		e, err := logbook.Parse(text)
		if err == nil && e.JobID != jobID.String() {
			err = fault.At("jobId", "entry.other_job")
		}
		outcomes[i] = Outcome{ID: e.ID, Refused: fault.Of(err)}
		if err == nil {
			fresh[i] = e
		}
	}
	return outcomes, fresh
}

func (s *Store) append(tx *gorm.DB, jobID uuid.UUID, fresh map[int]logbook.Entry, outcomes []Outcome, by Delivery) error {
	// First the job's row is made or locked: what is read after it is what stands.
	if err := tx.Exec("INSERT INTO jobs (id, company_id) VALUES (?, ?) ON DUPLICATE KEY UPDATE id = id", jobID, s.company).Error; err != nil {
		return err
	}
	var locked job
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? AND company_id = ?", jobID, s.company).Take(&locked).Error; err != nil {
		return err
	}
	if err := s.may(tx, locked, by); err != nil {
		return err
	}
	known, err := s.knownEntries(tx, fresh)
	if err != nil {
		return err
	}
	c := chain{tx: tx, job: &locked, areas: map[uuid.UUID]*area{}, received: s.now(), by: by.By}
	for i := range outcomes {
		e, wanted := fresh[i]
		if !wanted {
			continue
		}
		outcomes[i] = Outcome{ID: e.ID}
		if found, is := known[e.ID]; is {
			if found.JobID == jobID && bytes.Equal(found.Bytes, e.Bytes()) {
				kept := found.kept()
				outcomes[i].Kept = &kept
			} else {
				outcomes[i].Conflict = true
			}
			continue
		}
		row, err := c.add(e)
		if errors.Is(err, gorm.ErrRecordNotFound) {
			outcomes[i].Refused = fault.Faults{fault.At("areaId", "entry.area_of_other_job")}
			continue
		}
		if err != nil {
			return err
		}
		known[e.ID] = row
		kept := row.kept()
		outcomes[i].New, outcomes[i].Kept = true, &kept
	}
	if len(c.rows) == 0 {
		return errNothingNew
	}
	return c.save()
}

// may tells whether a delivery may write to a locked job.
func (s *Store) may(tx *gorm.DB, locked job, by Delivery) error {
	switch {
	case locked.LastSeq == 0 && !by.Make:
		return ErrMayNotMake
	case locked.LastSeq == 0 || by.Join:
		return nil
	case by.By == nil:
		return ErrMayNotJoin
	}
	var before int64
	err := tx.Model(&entry{}).Where("company_id = ? AND job_id = ? AND delivered_by = ?", s.company, locked.ID, *by.By).Limit(1).Count(&before).Error
	if err == nil && before == 0 {
		err = ErrMayNotJoin
	}
	return err
}

func (s *Store) knownEntries(tx *gorm.DB, fresh map[int]logbook.Entry) (map[string]entry, error) {
	var ids []uuid.UUID
	for _, e := range fresh {
		ids = append(ids, uuid.MustParse(e.ID))
	}
	var found []entry
	if err := tx.Where("company_id = ? AND id IN ?", s.company, ids).Find(&found).Error; err != nil {
		return nil, err
	}
	known := make(map[string]entry, len(found))
	for _, e := range found {
		known[e.ID.String()] = e
	}
	return known, nil
}

// chain numbers new entries of a locked job and hashes each onto its book's last one.
type chain struct {
	tx       *gorm.DB
	job      *job
	areas    map[uuid.UUID]*area
	received time.Time
	by       *uuid.UUID
	rows     []entry
}

// ReceiptOf chains what the server adds to an entry: SHA-256 of the receipt before it in the
// job, and a line that says the entry's number, when it came, through which installation ("-"
// where none was said), and its hash.
func ReceiptOf(before []byte, k Kept) []byte {
	by := "-"
	if k.DeliveredBy != nil {
		by = k.DeliveredBy.String()
	}
	line := fmt.Sprintf("%d %s %s %x\n", k.Seq, k.ReceivedAt.UTC().Format(time.RFC3339Nano), by, k.Hash)
	sum := sha256.Sum256(append(bytes.Clone(before), line...))
	return sum[:]
}

func (c *chain) add(e logbook.Entry) (entry, error) {
	last, areaID := &c.job.LastHash, (*uuid.UUID)(nil)
	if e.AreaID != "" {
		id := uuid.MustParse(e.AreaID)
		a, err := c.area(id)
		if err != nil {
			return entry{}, err
		}
		last, areaID = &a.LastHash, &id
	}
	c.job.LastSeq++
	hash := sha256.Sum256(append(bytes.Clone(*last), e.Bytes()...))
	*last = hash[:]
	at := e.When()
	if at.IsZero() { // set aside, and its time cannot be read
		at = c.received
	}
	row := entry{
		ID: uuid.MustParse(e.ID), CompanyID: c.job.CompanyID, JobID: c.job.ID, AreaID: areaID, Seq: c.job.LastSeq, Kind: e.Kind,
		At: at.UTC().Truncate(time.Microsecond), ByPerson: uuid.MustParse(e.By), ReceivedAt: c.received, Hash: hash[:], Bytes: e.Bytes(),
	}
	row.DeliveredBy = c.by
	row.Receipt = ReceiptOf(c.job.LastReceipt, row.kept())
	c.job.LastReceipt = row.Receipt
	if e.Corrects != "" {
		corrects := uuid.MustParse(e.Corrects)
		row.Corrects = &corrects
	}
	c.rows = append(c.rows, row)
	return row, nil
}

// area finds an area's row under the job's lock, or makes it. An area that belongs to
// another job is not found.
func (c *chain) area(id uuid.UUID) (*area, error) {
	if a, seen := c.areas[id]; seen {
		return a, nil
	}
	a := &area{ID: id, CompanyID: c.job.CompanyID, JobID: c.job.ID}
	if err := c.tx.Clauses(clause.OnConflict{DoNothing: true}).Create(a).Error; err != nil {
		return nil, err
	}
	if err := c.tx.Where("company_id = ? AND id = ? AND job_id = ?", c.job.CompanyID, id, c.job.ID).Take(a).Error; err != nil {
		return nil, err
	}
	c.areas[id] = a
	return a, nil
}

// One statement holds so many entries and, with every character written as two, stays well
// under the smallest packet a database may have.
const (
	insertAtOnce = 200
	insertBytes  = 2 << 20
)

// entryColumns are written in this order.
const entryColumns = "id, company_id, job_id, area_id, seq, kind, at, by_person, corrects, received_at, hash, bytes, delivered_by, receipt"

// flush writes the rows that wait, a statement at a time, without a mapper between: they are the
// many.
func (c *chain) flush() error {
	for len(c.rows) > 0 {
		n, size := 0, 0
		for n < len(c.rows) && n < insertAtOnce && (n == 0 || size+len(c.rows[n].Bytes) <= insertBytes) {
			size += len(c.rows[n].Bytes)
			n++
		}
		const columns = 14
		values := make([]any, 0, n*columns)
		for _, r := range c.rows[:n] {
			values = append(values, r.ID, r.CompanyID, r.JobID, r.AreaID, r.Seq, r.Kind, r.At, r.ByPerson, r.Corrects, r.ReceivedAt, r.Hash, []byte(r.Bytes), r.DeliveredBy, r.Receipt)
		}
		row := "(" + strings.Repeat("?, ", columns-1) + "?)"
		statement := "INSERT INTO entries (" + entryColumns + ") VALUES " + strings.Repeat(row+", ", n-1) + row
		if _, err := c.tx.Statement.ConnPool.ExecContext(c.tx.Statement.Context, statement, values...); err != nil {
			return err
		}
		c.rows = c.rows[n:]
	}
	return nil
}

func (c *chain) save() error {
	if err := c.flush(); err != nil {
		return err
	}
	for _, a := range c.areas {
		if err := c.tx.Model(&area{}).Where("company_id = ? AND id = ?", a.CompanyID, a.ID).Update("last_hash", a.LastHash).Error; err != nil {
			return err
		}
	}
	return c.tx.Model(&job{}).Where("company_id = ? AND id = ?", c.job.CompanyID, c.job.ID).
		Updates(map[string]any{"last_seq": c.job.LastSeq, "last_hash": c.job.LastHash, "last_receipt": c.job.LastReceipt}).Error
}
