package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// photo is a picture that an entry names by its id and SHA-256.
type photo struct {
	ID         uuid.UUID
	CompanyID  uuid.UUID
	JobID      uuid.UUID
	Hash       []byte
	ReceivedAt time.Time
	Bytes      []byte
}

// ErrOtherPhoto is given when another picture was kept under the same id.
var ErrOtherPhoto = errors.New("another photo was kept under this id")

// KeepPhoto keeps a picture once; the same one again is fine.
func (s *Store) KeepPhoto(ctx context.Context, job, id uuid.UUID, jpeg []byte) error {
	hash := sha256.Sum256(jpeg)
	return s.transaction(ctx, func(tx *gorm.DB) error {
		var known photo
		err := tx.Where("company_id = ? AND id = ?", s.company, id).Select("id", "hash").Take(&known).Error
		switch {
		case err == nil && bytes.Equal(known.Hash, hash[:]):
			return nil
		case err == nil:
			return ErrOtherPhoto
		case !errors.Is(err, gorm.ErrRecordNotFound):
			return err
		}
		return tx.Create(&photo{ID: id, CompanyID: s.company, JobID: job, Hash: hash[:], ReceivedAt: s.now(), Bytes: jpeg}).Error
	})
}

// Photo gives a picture of a job; nil where there is none.
func (s *Store) Photo(ctx context.Context, job, id uuid.UUID) ([]byte, error) {
	var kept photo
	err := s.ours(ctx).Where("id = ? AND job_id = ?", id, job).Take(&kept).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	return kept.Bytes, err
}

// Photos gives every picture of a job by its id.
func (s *Store) Photos(ctx context.Context, job uuid.UUID) (map[string][]byte, error) {
	var kept []photo
	if err := s.ours(ctx).Where("job_id = ?", job).Find(&kept).Error; err != nil {
		return nil, err
	}
	photos := map[string][]byte{}
	for _, p := range kept {
		photos[p.ID.String()] = p.Bytes
	}
	return photos, nil
}
