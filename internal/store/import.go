package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dusha/core/fault"
	"dusha/core/logbook"
)

// Import takes in a job that is read from elsewhere, entry by entry, and keeps all of it or
// nothing.
type Import struct {
	s       *Store
	tx      *gorm.DB
	chain   chain
	waiting int // bytes of rows not written yet
}

// Import begins a job that is not there, hands it to the work, and commits what that took in.
func (s *Store) Import(ctx context.Context, jobID uuid.UUID, work func(*Import) error) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		made := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&job{ID: jobID, CompanyID: s.company})
		if made.Error != nil {
			return made.Error
		}
		if made.RowsAffected == 0 {
			return fault.At("job", "bundle.job_is_there", "job", jobID.String())
		}
		in := &Import{s: s, tx: tx, chain: chain{tx: tx, job: &job{ID: jobID, CompanyID: s.company}, areas: map[uuid.UUID]*area{}}}
		defer in.chain.written() // the transaction is nobody else's before it ends
		if err := work(in); err != nil {
			return err
		}
		if in.chain.job.LastSeq == 0 {
			return fault.At("entries", "list.empty")
		}
		return in.chain.save()
	})
}

// Entry keeps an entry with the number, time and hash it came with; a hash that comes out
// otherwise is refused. The same reader reads it as at every door, but for what was set aside
// where it comes from.
func (in *Import) Entry(k Kept) error {
	e, err := logbook.Parse(k.Bytes)
	if err != nil && k.Aside != "" {
		e, err = logbook.ReadKept(k.Bytes), nil
		for _, id := range []struct {
			text     string
			optional bool
		}{{e.ID, false}, {e.By, false}, {e.AreaID, true}, {e.Corrects, true}} {
			if _, bad := uuid.Parse(id.text); bad != nil && !(id.optional && id.text == "") {
				return fault.At("id", "bundle.aside_without_id", "seq", k.Seq)
			}
		}
	}
	if err != nil {
		return fmt.Errorf("entry %d: %w", k.Seq, err)
	}
	in.chain.received, in.chain.by = k.ReceivedAt, k.DeliveredBy
	if k.Receipt == nil { // kept before there were any
		in.chain.job.LastReceipt = nil
	}
	row, _, err := in.chain.add(e)
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return fault.At("areaId", "entry.area_of_other_job")
	}
	if err != nil {
		return err
	}
	if row.Seq != k.Seq || !bytes.Equal(row.Hash, k.Hash) || k.Receipt != nil && !bytes.Equal(row.Receipt, k.Receipt) {
		return fault.At("hash", "bundle.other_hash", "seq", k.Seq)
	}
	if k.Receipt == nil {
		in.chain.job.LastReceipt, in.chain.rows[len(in.chain.rows)-1].Receipt = nil, nil
	}
	if in.waiting += len(k.Bytes); in.waiting > insertBytes || len(in.chain.rows) >= atOnce {
		in.waiting = 0
		return in.chain.flush(0)
	}
	return nil
}

// Aside keeps that something of the job was set aside where it comes from.
func (in *Import) Aside(q Quarantined) error {
	return in.tx.Create(&quarantine{CompanyID: in.s.company, JobID: in.chain.job.ID, Seq: q.Seq, Why: q.Why, At: q.At}).Error
}

// Photo keeps a picture or a paper, checked like one that is delivered.
func (in *Import) Photo(id uuid.UUID, file []byte) error {
	if err := in.s.keepPhoto(in.tx, in.chain.job.ID, id, file); err != nil {
		return fmt.Errorf("photo %s: %w", id, err)
	}
	return nil
}

// Names keeps the names of people who are not known here; a name that is kept or was blanked
// here stays as it is.
func (in *Import) Names(names map[uuid.UUID]string) error {
	const some = 500
	var rows []person
	for id, name := range names {
		rows = append(rows, person{ID: id, CompanyID: in.s.company, Name: name})
	}
	if len(rows) == 0 {
		return nil
	}
	return in.tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(rows, some).Error
}

// Signers keeps the keys of devices that were paired elsewhere, so that what was signed on them can be
// held against them here too. A key that is known under an id stays.
func (in *Import) Signers(list []Signer) error {
	for i := range list {
		list[i].CompanyID = in.s.company
	}
	if len(list) == 0 {
		return nil
	}
	return in.tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&list).Error
}
