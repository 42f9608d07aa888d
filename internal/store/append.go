package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

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
	outcomes, b := make([]Outcome, len(texts)), read(jobID, texts)
	// Most of what comes is new: what is there already is looked for when it stands in the way.
	look := false
	err := s.transaction(ctx, func(tx *gorm.DB) error {
		err := s.append(tx, jobID, b, outcomes, by, look)
		look = true
		return err
	})
	if errors.Is(err, errNothingNew) {
		err = nil
	}
	return outcomes, err
}

// errNothingNew takes a transaction back that kept nothing: no job is made by entries that were
// all refused.
var errNothingNew = errors.New("nothing new")

// batch is what came, read while the database is at work.
type batch struct {
	entries []logbook.Entry
	faults  []error
	parts   []chan struct{} // closed once that part was read
	size    int             // bytes of all
}

// So many entries are read at once, and written with one statement; the first is begun sooner, so
// that the database is not waiting.
const (
	readAtOnce = 50
	atOnce     = 150
)

// read begins to check the shape of each text, the first first.
func read(jobID uuid.UUID, texts [][]byte) *batch {
	b := &batch{entries: make([]logbook.Entry, len(texts)), faults: make([]error, len(texts))}
	for from := 0; from < len(texts); from += readAtOnce {
		b.parts = append(b.parts, make(chan struct{}))
	}
	for _, text := range texts {
		b.size += len(text)
	}
	job := jobID.String()
	readOne := func(i int) {
		e, err := logbook.Parse(texts[i])
		if err == nil && e.JobID != job {
			err = fault.At("jobId", "entry.other_job")
		}
		b.entries[i], b.faults[i] = e, err
	}
	go func() {
		for part, done := range b.parts {
			for i := part * readAtOnce; i < min((part+1)*readAtOnce, len(texts)); i++ {
				readOne(i)
			}
			close(done)
		}
	}()
	return b
}

// takes tells whether a job has room for so many entries of so many bytes.
func (r room) takes(of job, entries, bytes int) bool {
	return of.LastSeq+uint64(entries) <= r.entries && of.Size+uint64(bytes) <= r.bytes
}

// entry waits for an entry that was read, or gives what is wrong with it.
func (b *batch) entry(i int) (logbook.Entry, error) {
	<-b.parts[i/readAtOnce]
	return b.entries[i], b.faults[i]
}

func (s *Store) append(tx *gorm.DB, jobID uuid.UUID, b *batch, outcomes []Outcome, by Delivery, look bool) error {
	// First the job's row is made or locked: what is read after it is what stands.
	locked := job{ID: jobID, CompanyID: s.company}
	err := tx.Raw("INSERT INTO jobs (id, company_id) VALUES (?, ?) ON DUPLICATE KEY UPDATE id = id RETURNING last_seq, last_hash, last_receipt, size", jobID, s.company).
		Row().Scan(&locked.LastSeq, &locked.LastHash, &locked.LastReceipt, &locked.Size)
	if err != nil {
		return err
	}
	if err := s.may(tx, locked, by); err != nil {
		return err
	}
	before := locked.LastSeq
	known := map[string]*entry{}
	if look || !s.most.takes(locked, len(b.entries), b.size) { // in a full job what is there already is still answered as kept
		if known, err = s.knownEntries(tx, b); err != nil {
			return err
		}
	}
	c := chain{tx: tx, job: &locked, areas: map[uuid.UUID]*area{}, received: s.now(), by: by.By}
	defer c.written() // the transaction is nobody else's before it ends
	for i := range outcomes {
		e, wrong := b.entry(i)
		if outcomes[i] = (Outcome{ID: e.ID, Refused: fault.Of(wrong)}); wrong != nil {
			continue
		}
		if found, is := known[e.ID]; is {
			if found.JobID == jobID && bytes.Equal(found.Bytes, e.Bytes()) {
				outcomes[i].Kept = found.kept()
			} else {
				outcomes[i].Conflict = true
			}
			continue
		}
		if !s.most.takes(locked, 1, len(e.Bytes())) { // one by one: a smaller one may fit
			outcomes[i].Refused = fault.Faults{fault.At("job", "job.full")}
			continue
		}
		row, kept, err := c.add(e)
		if errors.Is(err, gorm.ErrRecordNotFound) {
			outcomes[i].Refused = fault.Faults{fault.At("areaId", "entry.area_of_other_job")}
			continue
		}
		if err != nil {
			return err
		}
		known[e.ID] = row
		outcomes[i].New, outcomes[i].Kept = true, kept
		least := atOnce
		if c.writing == nil {
			least = readAtOnce
		}
		if err := c.flush(least); err != nil {
			return err
		}
	}
	if c.job.LastSeq == before {
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

func (s *Store) knownEntries(tx *gorm.DB, b *batch) (map[string]*entry, error) {
	var ids []uuid.UUID
	for i := range b.entries {
		if e, err := b.entry(i); err == nil {
			ids = append(ids, uuid.MustParse(e.ID))
		}
	}
	var found []*entry
	if err := tx.Where("company_id = ? AND id IN ?", s.company, ids).Find(&found).Error; err != nil {
		return nil, err
	}
	known := make(map[string]*entry, len(found))
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
	rows     []*entry
	writing  chan error // of the statement that is under way; nil: none is
}

// ReceiptOf chains what the server adds to an entry: SHA-256 of the receipt before it in the
// job, and a line that says the entry's number, when it came, through which installation ("-"
// where none was said), and its hash.
func ReceiptOf(before []byte, k Kept) []byte {
	by := "-"
	if k.DeliveredBy != nil {
		by = k.DeliveredBy.String()
	}
	line := make([]byte, 0, 256)
	line = strconv.AppendUint(append(line, before...), k.Seq, 10)
	line = k.ReceivedAt.UTC().AppendFormat(append(line, ' '), time.RFC3339Nano)
	line = append(append(append(line, ' '), by...), ' ')
	sum := sha256.Sum256(append(hex.AppendEncode(line, k.Hash), '\n'))
	return sum[:]
}

func (c *chain) add(e logbook.Entry) (*entry, *Kept, error) {
	last, areaID := &c.job.LastHash, (*uuid.UUID)(nil)
	if e.AreaID != "" {
		id := uuid.MustParse(e.AreaID)
		a, err := c.area(id)
		if err != nil {
			return nil, nil, err
		}
		last, areaID = &a.LastHash, &id
	}
	c.job.LastSeq, c.job.Size = c.job.LastSeq+1, c.job.Size+uint64(len(e.Bytes()))
	hash := sha256.Sum256(slices.Concat(*last, e.Bytes()))
	*last = hash[:]
	at := e.When()
	if at.IsZero() { // set aside, and its time cannot be read
		at = c.received
	}
	kept := &Kept{ID: e.ID, AreaID: e.AreaID, Seq: c.job.LastSeq, ReceivedAt: c.received, Hash: hash[:], Bytes: e.Bytes(), DeliveredBy: c.by}
	kept.Receipt = ReceiptOf(c.job.LastReceipt, *kept)
	c.job.LastReceipt = kept.Receipt
	row := &entry{
		ID: uuid.MustParse(e.ID), CompanyID: c.job.CompanyID, JobID: c.job.ID, AreaID: areaID, Seq: kept.Seq, Kind: string(e.Kind),
		At: at.UTC().Truncate(time.Microsecond), ByPerson: uuid.MustParse(e.By), ReceivedAt: c.received, Hash: kept.Hash, Bytes: e.Bytes(),
		DeliveredBy: c.by, Receipt: kept.Receipt,
	}
	if e.Corrects != "" {
		corrects := uuid.MustParse(e.Corrects)
		row.Corrects = &corrects
	}
	c.rows = append(c.rows, row)
	return row, kept, nil
}

// area finds an area's row under the job's lock, or makes it. An area that belongs to
// another job is not found.
func (c *chain) area(id uuid.UUID) (*area, error) {
	if a, seen := c.areas[id]; seen {
		return a, nil
	}
	if err := c.written(); err != nil {
		return nil, err
	}
	a := &area{ID: id, CompanyID: c.job.CompanyID}
	err := c.tx.Raw("INSERT INTO areas (company_id, id, job_id) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE id = id RETURNING job_id, last_hash", a.CompanyID, a.ID, c.job.ID).
		Row().Scan(&a.JobID, &a.LastHash)
	if err == nil && a.JobID != c.job.ID {
		err = gorm.ErrRecordNotFound
	}
	if err != nil {
		return nil, err
	}
	c.areas[id] = a
	return a, nil
}

// insertBytes is what one statement holds at most: with every character written as two it stays
// well under the smallest packet a database may have.
const insertBytes = 2 << 20

// entryColumns are written in this order.
const entryColumns = "id, company_id, job_id, area_id, seq, kind, at, by_person, corrects, received_at, hash, bytes, delivered_by, receipt"

// flush writes the rows that wait where there are so many, a statement at a time and without a
// mapper between: they are the many. While the database writes one, the next are chained.
func (c *chain) flush(least int) error {
	for len(c.rows) > 0 && len(c.rows) >= least {
		n, size := 0, 0
		for n < len(c.rows) && n < atOnce && (n == 0 || size+len(c.rows[n].Bytes) <= insertBytes) {
			size += len(c.rows[n].Bytes)
			n++
		}
		if err := c.written(); err != nil {
			return err
		}
		rows := c.rows[:n]
		c.rows, c.writing = slices.Clone(c.rows[n:]), make(chan error, 1)
		go func() { c.writing <- c.write(rows) }()
	}
	return nil
}

// written waits for the statement that is under way.
func (c *chain) written() error {
	if c.writing == nil {
		return nil
	}
	err := <-c.writing
	c.writing = nil
	return err
}

func (c *chain) write(rows []*entry) error {
	const columns = 14
	values := make([]any, 0, len(rows)*columns)
	text := func(id *uuid.UUID) any { // the driver asks each value for its text otherwise
		if id == nil {
			return nil
		}
		return id.String()
	}
	company, job := text(&c.job.CompanyID), text(&c.job.ID)
	for _, r := range rows {
		values = append(values, text(&r.ID), company, job, text(r.AreaID), r.Seq, r.Kind, r.At, text(&r.ByPerson), text(r.Corrects), r.ReceivedAt, r.Hash, []byte(r.Bytes), text(r.DeliveredBy), r.Receipt)
	}
	row := "(" + strings.Repeat("?, ", columns-1) + "?)"
	statement := "INSERT INTO entries (" + entryColumns + ") VALUES " + strings.Repeat(row+", ", len(rows)-1) + row
	_, err := c.tx.Statement.ConnPool.ExecContext(c.tx.Statement.Context, statement, values...)
	return err
}

func (c *chain) save() error {
	if err := errors.Join(c.flush(0), c.written()); err != nil {
		return err
	}
	for _, a := range c.areas {
		if err := c.tx.Model(&area{}).Where("company_id = ? AND id = ?", a.CompanyID, a.ID).Update("last_hash", a.LastHash).Error; err != nil {
			return err
		}
	}
	return c.tx.Model(&job{}).Where("company_id = ? AND id = ?", c.job.CompanyID, c.job.ID).
		Updates(map[string]any{"last_seq": c.job.LastSeq, "last_hash": c.job.LastHash, "last_receipt": c.job.LastReceipt, "size": c.job.Size}).Error
}
