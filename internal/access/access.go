// Package access knows who may use a server that other machines reach: devices that were paired with
// a one-time code, each with a role, each revocable.
package access

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/internal/store"
)

// Roles of a device.
const (
	Owner     = "owner"     // looks after the server, its devices and whole jobs
	Crew      = "crew"      // does the work
	Inspector = "inspector" // reads and signs
)

// Roles are all of them.
var Roles = []string{Owner, Crew, Inspector}

const (
	codeFor    = 10 * time.Minute
	idleFor    = 60 * 24 * time.Hour // after which a device that did not ask is paired anew
	turnsEvery = 24 * time.Hour      // a device gets another secret
	parallel   = time.Minute         // requests under way when it did
	seenEvery  = 20 * time.Second
	triesFor   = time.Minute
	mostTries  = 5
	secretSize = 32
	codeSize   = 8
)

// GoodFor is how long a pairing lasts at the most.
const GoodFor = 400 * 24 * time.Hour

// letters of a code: none that reads like another.
const letters = "23456789ABCDEFGHJKMNPQRSTVWXYZ"

// Store is what access keeps, and where.
type Store interface {
	OfferPairing(ctx context.Context, code []byte, role string, now, until time.Time) error
	Pair(ctx context.Context, code []byte, d store.Device) (store.Device, error)
	DeviceOf(ctx context.Context, secret []byte) (*store.Device, error)
	Turn(ctx context.Context, d store.Device, shown, next []byte, now time.Time) (bool, error)
	Saw(ctx context.Context, d store.Device) error
	Devices(ctx context.Context) ([]store.Device, error)
	Revoke(ctx context.Context, id uuid.UUID) (bool, error)
	Note(ctx context.Context, what string, by *uuid.UUID, subject string) error
	Audit(ctx context.Context, most int) ([]store.Noted, error)
	WithPin(ctx context.Context, person uuid.UUID, work func(*store.Pin) (*store.Pin, error)) error
	DropPin(ctx context.Context, person uuid.UUID) (bool, error)
	Pins(ctx context.Context) ([]uuid.UUID, error)
}

// Access asks a store who may.
type Access struct {
	Store
	Now func() time.Time

	mutex sync.Mutex
	tries map[string][]time.Time // wrong codes, by where they came from
}

// New is the access of a store.
func New(s Store) *Access {
	return &Access{Store: s, Now: func() time.Time { return time.Now().UTC() }, tries: map[string][]time.Time{}}
}

// ErrTooMany says that too many codes were tried.
var ErrTooMany = errors.New("too many codes were tried")

// Offer makes a one-time code for a device of a role: eight letters, good for ten minutes.
func (a *Access) Offer(ctx context.Context, role string, by *uuid.UUID) (code string, until time.Time, err error) {
	if !slices.Contains(Roles, role) {
		return "", until, fault.At("role", "choice.unknown", "typed", fault.Short(role))
	}
	code, until = newCode(), a.Now().Add(codeFor)
	if err := a.OfferPairing(ctx, hashOfCode(code), role, a.Now(), until); err != nil {
		return "", until, err
	}
	return code, until, a.Note(ctx, "pairing_offered", by, role)
}

func newCode() string {
	code := make([]byte, 0, codeSize)
	for len(code) < codeSize {
		var random [1]byte
		_, _ = rand.Read(random[:])                          // it never fails
		if at := int(random[0]); at < 256-256%len(letters) { // each letter as likely as any
			code = append(code, letters[at%len(letters)])
		}
	}
	return string(code[:codeSize/2]) + "-" + string(code[codeSize/2:])
}

// hashOfCode reads a code as somebody types it.
func hashOfCode(typed string) []byte {
	plain := strings.Map(func(r rune) rune {
		switch r {
		case '-', ' ':
			return -1
		}
		return r
	}, strings.ToUpper(typed))
	sum := sha256.Sum256([]byte("pairing " + plain))
	return sum[:]
}

func hashOf(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

func newSecret() string {
	random := make([]byte, secretSize)
	_, _ = rand.Read(random) // it never fails
	return base64.RawURLEncoding.EncodeToString(random)
}

// Pair takes a code for a device and gives its secret. From one place five wrong codes a minute are
// looked at.
func (a *Access) Pair(ctx context.Context, from, code, name string, key []byte, installation *uuid.UUID) (secret string, d store.Device, err error) {
	const mostName = 80
	name = strings.TrimSpace(name)
	switch {
	case name == "":
		return "", d, fault.At("name", "text.missing")
	case len([]rune(name)) > mostName:
		return "", d, fault.At("name", "text.too_long", "most", mostName)
	case !a.mayTry(from):
		return "", d, ErrTooMany
	}
	id, err := uuid.NewV7()
	if err != nil {
		return "", d, err
	}
	secret = newSecret()
	d, err = a.Store.Pair(ctx, hashOfCode(code), store.Device{ID: id, Name: name, PublicKey: key, Installation: installation, SecretHash: hashOf(secret), PairedAt: a.Now().Truncate(time.Microsecond)})
	if err != nil {
		if errors.Is(err, store.ErrNoPairing) {
			a.tried(from)
			err = fault.At("code", "pairing.code_unknown")
		}
		return "", d, err
	}
	return secret, d, a.Note(ctx, "paired", &d.ID, d.Role+" "+name)
}

func (a *Access) mayTry(from string) bool {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	return len(a.recent(from)) < mostTries
}

func (a *Access) tried(from string) {
	a.mutex.Lock()
	defer a.mutex.Unlock()
	const mostPlaces = 10_000
	if len(a.tries) > mostPlaces {
		clear(a.tries)
	}
	a.tries[from] = append(a.recent(from), a.Now())
}

// recent are the wrong codes of the last minute from one place.
func (a *Access) recent(from string) (list []time.Time) {
	for _, at := range a.tries[from] {
		if a.Now().Sub(at) < triesFor {
			list = append(list, at)
		}
	}
	return list
}

// Why a device is not let in.
const (
	NotPaired = "request.not_paired" // it shows nothing that was ever given, or nothing at all
	Revoked   = "request.revoked"
	Idle      = "request.paired_long_ago"
)

// Who finds the device that shows a secret, with what it has not delivered as it says, −1 where it does
// not; fresh is another secret that it is to show from now on, "" where it keeps its own. why tells for
// what it is not let in.
func (a *Access) Who(ctx context.Context, secret string, waiting int) (d *store.Device, fresh, why string, err error) {
	if secret == "" {
		return nil, "", NotPaired, nil
	}
	shown := hashOf(secret)
	d, err = a.DeviceOf(ctx, shown)
	now := a.Now()
	switch {
	case err != nil:
		return nil, "", "", err
	case d == nil:
		return nil, "", NotPaired, nil
	case d.RevokedAt != nil:
		return nil, "", Revoked, nil
	case now.Sub(d.SeenAt) > idleFor || now.Sub(d.PairedAt) > GoodFor:
		return nil, "", Idle, nil
	}
	save := now.Sub(d.SeenAt) > seenEvery
	newest := string(shown) == string(d.SecretHash)
	switch {
	case newest && now.Sub(d.TurnedAt) > turnsEvery, !newest && now.Sub(d.TurnedAt) > parallel: // its answer with the new one was lost
		next := newSecret()
		turned, err := a.Turn(ctx, *d, shown, hashOf(next), now)
		if err != nil {
			return nil, "", "", err
		}
		if turned {
			fresh = next
			d.BeforeHash = shown
		}
	case newest && d.BeforeHash != nil && now.Sub(d.TurnedAt) > parallel:
		d.BeforeHash, save = nil, true
	}
	if waiting >= 0 && waiting != d.Waiting {
		d.Waiting, save = waiting, true
	}
	if save {
		d.SeenAt = now
		if err := a.Saw(ctx, *d); err != nil {
			return nil, "", "", err
		}
	}
	return d, fresh, "", nil
}
