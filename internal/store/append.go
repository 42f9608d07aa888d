package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
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

// Append keeps a batch of entries of one job. A refused entry blocks none behind it. The
// outcomes are in the order of the batch; an error means that nothing was kept.
func (s *Store) Append(ctx context.Context, jobID uuid.UUID, texts [][]byte) ([]Outcome, error) {
	outcomes, fresh := s.read(jobID, texts)
	if len(fresh) == 0 {
		return outcomes, nil
	}
	if err := s.db.WithContext(ctx).Exec("INSERT INTO jobs (id, company_id) VALUES (?, ?) ON DUPLICATE KEY UPDATE id = id", jobID, s.company).Error; err != nil {
		return nil, err
	}
	err := s.transaction(ctx, func(tx *gorm.DB) error { return s.append(tx, jobID, fresh, outcomes) })
	return outcomes, err
}

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

func (s *Store) append(tx *gorm.DB, jobID uuid.UUID, fresh map[int]logbook.Entry, outcomes []Outcome) error {
	var locked job // first statement: what is read after it is what stands
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? AND company_id = ?", jobID, s.company).Take(&locked).Error; err != nil {
		return err
	}
	known, err := knownEntries(tx, fresh)
	if err != nil {
		return err
	}
	c := chain{tx: tx, job: &locked, areas: map[uuid.UUID]*area{}, received: s.now()}
	for i := range outcomes {
		e, wanted := fresh[i]
		if !wanted {
			continue
		}
		outcomes[i] = Outcome{ID: e.ID}
		if found, is := known[e.ID]; is {
			if found.JobID == jobID && bytes.Equal(found.Bytes, e.Bytes()) {
				outcomes[i].Kept = &Kept{found.Seq, found.ReceivedAt, found.Hash, found.Bytes}
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
		outcomes[i].New, outcomes[i].Kept = true, &Kept{row.Seq, row.ReceivedAt, row.Hash, row.Bytes}
	}
	return c.save()
}

func knownEntries(tx *gorm.DB, fresh map[int]logbook.Entry) (map[string]entry, error) {
	var ids []uuid.UUID
	for _, e := range fresh {
		ids = append(ids, uuid.MustParse(e.ID))
	}
	var found []entry
	if err := tx.Where("id IN ?", ids).Find(&found).Error; err != nil {
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
	rows     []entry
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
	row := entry{
		ID: uuid.MustParse(e.ID), CompanyID: c.job.CompanyID, JobID: c.job.ID, AreaID: areaID, Seq: c.job.LastSeq, Kind: e.Kind,
		At: e.When().UTC().Truncate(time.Microsecond), ByPerson: uuid.MustParse(e.By), ReceivedAt: c.received, Hash: hash[:], Bytes: e.Bytes(),
	}
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
	if err := c.tx.Where("id = ? AND job_id = ?", id, c.job.ID).Take(a).Error; err != nil {
		return nil, err
	}
	c.areas[id] = a
	return a, nil
}

const insertAtOnce = 200

func (c *chain) save() error {
	if len(c.rows) == 0 {
		return nil
	}
	if err := c.tx.CreateInBatches(c.rows, insertAtOnce).Error; err != nil {
		return err
	}
	for _, a := range c.areas {
		if err := c.tx.Model(a).Where("id = ?", a.ID).Update("last_hash", a.LastHash).Error; err != nil {
			return err
		}
	}
	return c.tx.Model(c.job).Where("id = ?", c.job.ID).Updates(map[string]any{"last_seq": c.job.LastSeq, "last_hash": c.job.LastHash}).Error
}
