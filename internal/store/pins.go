package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Pin is what is kept of a person's four digits.
type Pin struct {
	CompanyID  uuid.UUID
	PersonID   uuid.UUID
	Salt       []byte
	Hash       []byte
	Wrong      int       // tries in a row
	RestsUntil time.Time // none is looked at before
}

// WithPin works on a person's pin, nil where none was set yet, while nobody else does; what it gives
// back is kept, nil takes nothing.
func (s *Store) WithPin(ctx context.Context, person uuid.UUID, work func(*Pin) (*Pin, error)) error {
	var said error
	err := s.transaction(ctx, func(tx *gorm.DB) error {
		var found Pin
		known := &found
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("company_id = ? AND person_id = ?", s.company, person).Take(&found).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			known = nil
		} else if err != nil {
			return err
		}
		var next *Pin
		if next, said = work(known); next == nil {
			return nil // what was refused is said, and kept where it has to be
		}
		next.CompanyID, next.PersonID = s.company, person
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(next).Error
	})
	return errors.Join(err, said)
}

// DropPin takes a person's digits away, so that others can be set; false where there were none.
func (s *Store) DropPin(ctx context.Context, person uuid.UUID) (bool, error) {
	done := s.ours(ctx).Where("person_id = ?", person).Delete(&Pin{})
	return done.RowsAffected == 1, done.Error
}

// Pins are the people who set digits.
func (s *Store) Pins(ctx context.Context) (list []uuid.UUID, err error) {
	err = s.ours(ctx).Model(&Pin{}).Order("person_id").Pluck("person_id", &list).Error
	return list, err
}
