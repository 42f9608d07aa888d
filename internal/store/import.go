package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"maps"
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dusha/core/fault"
	"dusha/core/logbook"
)

// All gives every entry of a job, in order of arrival.
func (s *Store) All(ctx context.Context, jobID uuid.UUID) ([]Kept, error) {
	const atOnce = 5000
	var all []Kept
	for {
		var after uint64
		if len(all) > 0 {
			after = all[len(all)-1].Seq
		}
		more, err := s.Since(ctx, jobID, after, atOnce)
		if err != nil {
			return nil, err
		}
		if all = append(all, more...); len(more) < atOnce {
			return all, nil
		}
	}
}

// Import keeps a whole job with the numbers, times and hashes it came with, and its photos, in
// one transaction. A job that is already there, or a hash that comes out otherwise, is refused,
// and nothing is kept.
func (s *Store) Import(ctx context.Context, jobID uuid.UUID, kept []Kept, photos map[string][]byte) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		made := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&job{ID: jobID, CompanyID: s.company})
		if made.Error != nil {
			return made.Error
		}
		if made.RowsAffected == 0 {
			return fault.At("job", "bundle.job_is_there", "job", jobID.String())
		}
		c := chain{tx: tx, job: &job{ID: jobID, CompanyID: s.company}, areas: map[uuid.UUID]*area{}}
		for _, k := range kept {
			e, err := logbook.Parse(k.Bytes)
			if err != nil {
				return fmt.Errorf("entry %d: %w", k.Seq, err)
			}
			c.received = k.ReceivedAt
			row, err := c.add(e)
			if errors.Is(err, gorm.ErrRecordNotFound) {
				return fault.At("areaId", "entry.area_of_other_job")
			}
			if err != nil {
				return err
			}
			if row.Seq != k.Seq || !bytes.Equal(row.Hash, k.Hash) {
				return fault.At("hash", "bundle.other_hash", "seq", k.Seq)
			}
		}
		for _, name := range slices.Sorted(maps.Keys(photos)) {
			id, err := uuid.Parse(name)
			if err != nil {
				return fault.At("photos", "entry.not_an_id", "typed", name)
			}
			hash := sha256.Sum256(photos[name])
			if err := tx.Create(&photo{ID: id, CompanyID: s.company, JobID: jobID, Hash: hash[:], ReceivedAt: s.now(), Bytes: photos[name]}).Error; err != nil {
				return err
			}
		}
		return c.save()
	})
}
