package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// quarantine sets an entry or, with number 0, a whole job aside for everyone. It stands beside
// the chain: nothing is deleted, and every hash stays as it is.
type quarantine struct {
	CompanyID uuid.UUID
	JobID     uuid.UUID
	Seq       uint64
	Why       string
	At        time.Time
}

func (quarantine) TableName() string { return "quarantine" }

// Quarantined is what was set aside, and why.
type Quarantined struct {
	Seq uint64 // 0: the whole job
	ID  string // of the entry; of the job where it is all of it
	Why string
	At  time.Time
}

// ErrNothingThere is given where what is asked for is not in the database.
var ErrNothingThere = errors.New("nothing is there")

// quarantined lists what is set aside, by job: of one job, or of all.
func (s *Store) quarantined(ctx context.Context, jobID *uuid.UUID) (map[uuid.UUID][]Quarantined, error) {
	query := s.db.WithContext(ctx).Table("quarantine q").Select("q.job_id, q.seq, q.why, q.at, COALESCE(e.id, q.job_id) AS id").
		Joins("LEFT JOIN entries e ON e.company_id = q.company_id AND e.job_id = q.job_id AND e.seq = q.seq").Where("q.company_id = ?", s.company).Order("q.job_id, q.seq")
	if jobID != nil {
		query = query.Where("q.job_id = ?", *jobID)
	}
	var rows []struct {
		JobID uuid.UUID
		Seq   uint64
		Why   string
		At    time.Time
		ID    uuid.UUID
	}
	if err := query.Find(&rows).Error; err != nil {
		return nil, err
	}
	by := map[uuid.UUID][]Quarantined{}
	for _, r := range rows {
		by[r.JobID] = append(by[r.JobID], Quarantined{r.Seq, r.ID.String(), r.Why, r.At})
	}
	return by, nil
}

// QuarantineOf lists what of a job is set aside.
func (s *Store) QuarantineOf(ctx context.Context, jobID uuid.UUID) ([]Quarantined, error) {
	by, err := s.quarantined(ctx, &jobID)
	return by[jobID], err
}

// Place is where something stands that can be set aside: a job, and the number of an entry in
// it, 0 for all of it.
type Place struct {
	Job uuid.UUID
	Seq uint64
}

// Find gives the place of an entry or a job by its id.
func (s *Store) Find(ctx context.Context, id uuid.UUID) (Place, error) {
	var found entry
	err := s.ours(ctx).Select("job_id", "seq").Where("id = ?", id).Take(&found).Error
	if err == nil {
		return Place{found.JobID, found.Seq}, nil
	}
	if !errors.Is(err, gorm.ErrRecordNotFound) {
		return Place{}, err
	}
	var whole job
	err = s.ours(ctx).Where("id = ?", id).Take(&whole).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Place{}, ErrNothingThere
	}
	return Place{Job: id}, err
}

// SetAside takes an entry or a job out of every fold, list and paper, until it is released.
func (s *Store) SetAside(ctx context.Context, at Place, why string) error {
	const longest = 500
	if n := len([]rune(why)); n == 0 || n > longest {
		return fmt.Errorf("why: between 1 and %d letters", longest)
	}
	there := s.ours(ctx).Model(&job{}).Where("id = ?", at.Job)
	if at.Seq > 0 {
		there = s.ours(ctx).Model(&entry{}).Where("job_id = ? AND seq = ?", at.Job, at.Seq)
	}
	var count int64
	if err := there.Count(&count).Error; err != nil {
		return err
	}
	if count == 0 {
		return ErrNothingThere
	}
	row := quarantine{CompanyID: s.company, JobID: at.Job, Seq: at.Seq, Why: why, At: s.now()}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"why", "at"})}).Create(&row).Error
}

// Release takes back that something was set aside.
func (s *Store) Release(ctx context.Context, at Place) error {
	gone := s.ours(ctx).Where("job_id = ? AND seq = ?", at.Job, at.Seq).Delete(&quarantine{})
	if gone.Error == nil && gone.RowsAffected == 0 {
		return ErrNothingThere
	}
	return gone.Error
}
