package access

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"regexp"
	"time"

	"github.com/google/uuid"
	"golang.org/x/crypto/argon2"

	"dusha/core/fault"
	"dusha/internal/store"
)

// Four digits keep the wrong finger off a hold; they prove nothing of who it was, and nobody claims so.

// Work of Argon2id (RFC 9106), small enough for a laptop that serves a crew.
const (
	pinTime, pinMemory, pinThreads = 2, 19 << 10, 1 // passes, KiB, lanes
	pinHash, pinSalt               = 32, 16
	wrongInARow                    = 5
	firstRest                      = time.Minute // after so many; it doubles with each
	longestRest                    = time.Hour
)

var fourDigits = regexp.MustCompile(`^[0-9]{4}$`)

// CheckPin holds four digits against a person's; where none are set they are set if they are meant as the
// first ones (somebody typed them twice), else that is said. After five wrong
// ones in a row a minute passes before the next is looked at, twice as long after each more.
func (a *Access) CheckPin(ctx context.Context, person uuid.UUID, digits string, first bool) (set bool, err error) {
	now := a.Now().Truncate(time.Microsecond)
	if !fourDigits.MatchString(digits) {
		return false, fault.At("pin", "pin.four_digits")
	}
	err = a.WithPin(ctx, person, func(p *store.Pin) (*store.Pin, error) {
		set = p == nil
		switch {
		case set && !first:
			return nil, fault.At("pin", "pin.not_set")
		case set:
			salt := make([]byte, pinSalt)
			_, _ = rand.Read(salt) // it never fails
			return &store.Pin{Salt: salt, Hash: hashOfPin(digits, salt), RestsUntil: now}, nil
		case now.Before(p.RestsUntil):
			return nil, fault.At("pin", "pin.rests", "until", p.RestsUntil.Format(time.RFC3339))
		case subtle.ConstantTimeCompare(p.Hash, hashOfPin(digits, p.Salt)) == 1:
			if p.Wrong == 0 {
				return nil, nil
			}
			p.Wrong = 0
			return p, nil
		}
		p.Wrong++
		if over := p.Wrong - wrongInARow; over >= 0 {
			p.RestsUntil = now.Add(min(longestRest, firstRest<<min(over, 10)))
		}
		return p, fault.At("pin", "pin.wrong")
	})
	return set && err == nil, err
}

func hashOfPin(digits string, salt []byte) []byte {
	return argon2.IDKey([]byte(digits), salt, pinTime, pinMemory, pinThreads, pinHash)
}
