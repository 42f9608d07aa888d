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
)

// photo is a picture or a paper that an entry names by its id and SHA-256.
type photo struct {
	ID         uuid.UUID
	CompanyID  uuid.UUID
	JobID      uuid.UUID
	Hash       []byte
	ReceivedAt time.Time
	Media      string
	Size       int
	Bytes      []byte
}

// Photo is a picture or a paper as it was kept.
type Photo struct {
	Media string // as Media gives it
	Bytes []byte
}

// What keeps a photo out.
var (
	ErrOtherPhoto    = errors.New("another photo was kept under this id")
	ErrNoJob         = errors.New("no such job")
	ErrPhotosFull    = errors.New("the photos of this job take all the room there is for them")
	ErrOtherPicture  = errors.New("no JPEG, PNG or PDF")
	ErrPhotoTooLarge = errors.New("a photo takes too much room")
)

// Room for photos, bytes.
const (
	MostPhoto  = 10 << 20
	MostPhotos = 512 << 20 // of one job
)

// KeepPhoto keeps a picture or a paper of a job once; the same one again is fine.
func (s *Store) KeepPhoto(ctx context.Context, jobID, id uuid.UUID, file []byte) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		var of job // locked, so that the room is counted once
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ? AND company_id = ? AND last_seq > 0", jobID, s.company).Take(&of).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNoJob
		}
		if err != nil {
			return err
		}
		return s.keepPhoto(tx, jobID, id, file)
	})
}

// keepPhoto checks a file and keeps it under the lock of its job.
func (s *Store) keepPhoto(tx *gorm.DB, jobID, id uuid.UUID, file []byte) error {
	media := Media(file)
	switch {
	case media == "":
		return ErrOtherPicture
	case len(file) > MostPhoto:
		return ErrPhotoTooLarge
	}
	hash := sha256.Sum256(file)
	var known photo
	err := tx.Where("company_id = ? AND id = ?", s.company, id).Select("id", "job_id", "hash").Take(&known).Error
	switch {
	case err == nil && known.JobID == jobID && bytes.Equal(known.Hash, hash[:]):
		return nil
	case err == nil:
		return ErrOtherPhoto
	case !errors.Is(err, gorm.ErrRecordNotFound):
		return err
	}
	var taken int64
	if err := tx.Model(&photo{}).Where("company_id = ? AND job_id = ?", s.company, jobID).Select("COALESCE(SUM(size), 0)").Scan(&taken).Error; err != nil {
		return err
	}
	if taken+int64(len(file)) > MostPhotos {
		return ErrPhotosFull
	}
	row := photo{ID: id, CompanyID: s.company, JobID: jobID, Hash: hash[:], ReceivedAt: s.now(), Media: media, Size: len(file), Bytes: file}
	// Prepared: in the text of a statement a picture would be written out, twice as long.
	return tx.Session(&gorm.Session{PrepareStmt: true}).Create(&row).Error
}

// Photo gives a picture or a paper of a job; nil where there is none.
func (s *Store) Photo(ctx context.Context, job, id uuid.UUID) (*Photo, error) {
	var kept photo
	err := s.ours(ctx).Where("id = ? AND job_id = ?", id, job).Take(&kept).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &Photo{kept.Media, kept.Bytes}, nil
}

// EachPhoto gives every picture and paper of a job, by id, one at a time.
func (s *Store) EachPhoto(ctx context.Context, job uuid.UUID, work func(id string, file []byte) error) error {
	var ids []uuid.UUID
	if err := s.ours(ctx).Model(&photo{}).Where("job_id = ?", job).Order("id").Pluck("id", &ids).Error; err != nil {
		return err
	}
	for _, id := range ids {
		kept, err := s.Photo(ctx, job, id)
		if err != nil {
			return err
		}
		if kept == nil {
			continue
		}
		if err := work(id.String(), kept.Bytes); err != nil {
			return err
		}
	}
	return nil
}
