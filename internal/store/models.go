package store

import (
	"encoding/json"
	"time"

	"github.com/google/uuid"
)

// Every row carries its company.

type job struct {
	ID        uuid.UUID
	CompanyID uuid.UUID
	LastSeq   uint64
	LastHash  []byte

	LastReceipt []byte
	Size        uint64 // bytes of its entries
}

type area struct {
	ID        uuid.UUID
	CompanyID uuid.UUID
	JobID     uuid.UUID
	LastHash  []byte
}

// entry keeps the exact bytes as received; the columns beside them are an index.
type entry struct {
	ID         uuid.UUID
	CompanyID  uuid.UUID
	JobID      uuid.UUID
	AreaID     *uuid.UUID
	Seq        uint64
	Kind       string
	At         time.Time
	ByPerson   uuid.UUID
	Corrects   *uuid.UUID
	ReceivedAt time.Time
	Hash       []byte
	Bytes      json.RawMessage

	DeliveredBy *uuid.UUID
	Receipt     []byte
}

type person struct {
	ID        uuid.UUID
	CompanyID uuid.UUID
	Name      string
}
