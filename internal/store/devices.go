package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Device is an installation that was paired with the firm's server.
type Device struct {
	ID           uuid.UUID
	CompanyID    uuid.UUID
	Name         string
	Role         string
	Installation *uuid.UUID
	PublicKey    []byte // of its signatures, P-256: an uncompressed point; nil where it has none
	SecretHash   []byte // SHA-256 of what it shows
	BeforeHash   []byte // of what it showed before, until the new one was seen
	TurnedAt     time.Time
	PairedAt     time.Time
	SeenAt       time.Time
	Waiting      int // entries it has not delivered, as it said last
	RevokedAt    *time.Time
}

type pairing struct {
	CompanyID uuid.UUID
	CodeHash  []byte
	Role      string
	UntilAt   time.Time
}

// Noted is a line of what was done with devices, names and whole jobs.
type Noted struct {
	ID        uint64
	CompanyID uuid.UUID
	At        time.Time
	What      string // pairing_offered, paired, revoked, exported, named
	DeviceID  *uuid.UUID
	Subject   string
}

// TableName is that of the audit.
func (Noted) TableName() string { return "audit" }

// ErrNoPairing says that a code is used, too old, or was never given.
var ErrNoPairing = errors.New("no such pairing code")

// OfferPairing keeps what a one-time code stands for.
func (s *Store) OfferPairing(ctx context.Context, code []byte, role string, now, until time.Time) error {
	return s.transaction(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("company_id = ? AND until_at < ?", s.company, now).Delete(&pairing{}).Error; err != nil {
			return err
		}
		return tx.Create(&pairing{CompanyID: s.company, CodeHash: code, Role: role, UntilAt: until}).Error
	})
}

// Pair takes a code for a device, once, at the time it is paired; the device gets the role of the code.
func (s *Store) Pair(ctx context.Context, code []byte, d Device) (Device, error) {
	err := s.transaction(ctx, func(tx *gorm.DB) error {
		var found pairing
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("company_id = ? AND code_hash = ? AND until_at >= ?", s.company, code, d.PairedAt).Take(&found).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNoPairing
		}
		if err != nil {
			return err
		}
		if err := tx.Where("company_id = ? AND code_hash = ?", s.company, code).Delete(&pairing{}).Error; err != nil {
			return err
		}
		d.CompanyID, d.Role, d.SeenAt, d.TurnedAt = s.company, found.Role, d.PairedAt, d.PairedAt
		return tx.Create(&d).Error
	})
	return d, err
}

// DeviceOf finds the device that shows a secret, or showed it before; nil where there is none.
func (s *Store) DeviceOf(ctx context.Context, secret []byte) (*Device, error) {
	// Each part by its own index, and without a mapper between: every request asks it.
	const columns = "SELECT id, name, role, installation, public_key, secret_hash, before_hash, turned_at, paired_at, seen_at, waiting, revoked_at FROM devices WHERE company_id = ? AND "
	row := s.db.WithContext(ctx).Raw(columns+"secret_hash = ? UNION ALL "+columns+"before_hash = ? LIMIT 1", s.company, secret, s.company, secret).Row()
	d := Device{CompanyID: s.company}
	err := row.Scan(&d.ID, &d.Name, &d.Role, &d.Installation, &d.PublicKey, &d.SecretHash, &d.BeforeHash, &d.TurnedAt, &d.PairedAt, &d.SeenAt, &d.Waiting, &d.RevokedAt)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &d, nil
}

// Turn gives a device another secret, where it still has the one it was found with; the one it shows
// stays good until the new one was seen.
func (s *Store) Turn(ctx context.Context, d Device, shown, next []byte, now time.Time) (turned bool, err error) {
	done := s.ours(ctx).Model(&Device{}).Where("id = ? AND secret_hash = ?", d.ID, d.SecretHash).
		Updates(map[string]any{"secret_hash": next, "before_hash": shown, "turned_at": now})
	return done.RowsAffected == 1, done.Error
}

// Saw notes that a device asked, what it has not delivered, and that it shows its new secret.
func (s *Store) Saw(ctx context.Context, d Device) error {
	return s.ours(ctx).Model(&Device{}).Where("id = ?", d.ID).
		Updates(map[string]any{"seen_at": d.SeenAt, "waiting": d.Waiting, "before_hash": d.BeforeHash}).Error
}

// Devices are all that were ever paired, the one seen last first.
func (s *Store) Devices(ctx context.Context) (list []Device, err error) {
	const most = 1000
	err = s.ours(ctx).Order("seen_at DESC, id").Limit(most).Find(&list).Error
	return list, err
}

// Signer is a device whose key stands for signatures given on it: one that was paired here, or one that
// a bundle named.
type Signer struct {
	CompanyID uuid.UUID
	ID        uuid.UUID
	Name      string
	Role      string
	PublicKey []byte
}

// Signers are all that are known, by id; of one that was paired here, what was said here counts.
func (s *Store) Signers(ctx context.Context) (list []Signer, err error) {
	const own = "SELECT company_id, id, name, role, public_key FROM devices WHERE company_id = @company AND public_key IS NOT NULL"
	const read = "SELECT company_id, id, name, role, public_key FROM signers WHERE company_id = @company AND id NOT IN (SELECT id FROM devices WHERE company_id = @company)"
	err = s.db.WithContext(ctx).Raw(own+" UNION ALL "+read+" ORDER BY id", sql.Named("company", s.company)).Scan(&list).Error
	return list, err
}

// Revoke shuts a device out; false where there is none that could be.
func (s *Store) Revoke(ctx context.Context, id uuid.UUID) (done bool, err error) {
	changed := s.ours(ctx).Model(&Device{}).Where("id = ? AND revoked_at IS NULL", id).Update("revoked_at", s.now())
	return changed.RowsAffected == 1, changed.Error
}

// Note keeps a line of the audit.
func (s *Store) Note(ctx context.Context, what string, by *uuid.UUID, subject string) error {
	return s.db.WithContext(ctx).Create(&Noted{CompanyID: s.company, At: s.now(), What: what, DeviceID: by, Subject: subject}).Error
}

// Audit are the last lines of what was done, the newest first.
func (s *Store) Audit(ctx context.Context, most int) (list []Noted, err error) {
	err = s.ours(ctx).Order("id DESC").Limit(most).Find(&list).Error
	return list, err
}
