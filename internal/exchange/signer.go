package exchange

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/sha256"
	"encoding/base64"
	"math/big"
	"slices"

	"github.com/google/uuid"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/internal/access"
	"dusha/internal/store"
)

// Signer is a device whose key stands for signatures given on it.
type Signer struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Role string `json:"role"`
	Key  []byte `json:"key"` // P-256, an uncompressed point: 65 bytes
}

func signerOf(d store.Signer) Signer {
	return Signer{d.ID.String(), d.Name, d.Role, d.PublicKey}
}

// Key reads the public key of a device; what is none is refused.
func Key(point []byte) (*ecdsa.PublicKey, error) {
	key, err := ecdsa.ParseUncompressedPublicKey(elliptic.P256(), point)
	if err != nil {
		return nil, fault.At("key", "pairing.no_key")
	}
	return key, nil
}

// signs tells whether a proof is a device's of a text: r and s of ECDSA over its SHA-256, 32 bytes each,
// as browsers write them (IEEE P1363).
func (s Signer) signs(text, proof string) bool {
	raw, err := base64.StdEncoding.DecodeString(proof)
	key, wrong := Key(s.Key)
	if err != nil || wrong != nil || len(raw) != 2*scalar {
		return false
	}
	sum := sha256.Sum256([]byte(text))
	return ecdsa.Verify(key, sum[:], new(big.Int).SetBytes(raw[:scalar]), new(big.Int).SetBytes(raw[scalar:]))
}

const scalar = 32 // bytes

// Proof is what a bundle says of a signature.
type Proof struct {
	Seq    uint64
	ID     string
	Device string // name of the device it was given on
	Role   string
	Named  bool // it says on which device it was given
	Known  bool // the bundle holds the device's key, and it fits
}

// claim is a signature that says on which device it was given.
type claim struct {
	seq      uint64
	e        logbook.Entry
	device   string
	text     string
	proof    string
	unproven bool // it names no device
}

func claimOf(seq uint64, e logbook.Entry) (c claim, is bool) {
	signed, is := e.Signature()
	if !is {
		return c, false
	}
	return claim{seq, e, signed.Device, logbook.SignedText(e.AreaID, signed), signed.Proof, signed.Device == ""}, true
}

// readSigners reads the keys and holds each signature against them.
func (r *Reader) readSigners(into *[]Signer, keep Taker) error {
	if err := r.value("devices", into); err != nil {
		return err
	}
	const most = 1000
	if len(*into) > most {
		return fault.At("devices", "list.too_long", "most", most)
	}
	list := make([]store.Signer, 0, len(*into))
	for _, s := range *into {
		id, err := uuid.Parse(s.ID)
		switch {
		case err != nil:
			return fault.At("devices", "entry.not_an_id", "typed", fault.Short(s.ID))
		case len([]rune(s.Name)) > mostName:
			return fault.At("devices", "text.too_long", "most", mostName)
		case !slices.Contains(access.Roles, s.Role):
			return fault.At("devices", "choice.unknown", "typed", fault.Short(s.Role))
		}
		if _, err := Key(s.Key); err != nil {
			return err
		}
		list = append(list, store.Signer{ID: id, Name: s.Name, Role: s.Role, PublicKey: s.Key})
	}
	r.mirror.signers(*into)
	return keep.Signers(list)
}

// prove holds the signatures of a bundle against the keys in it; one that does not fit its key is named.
func (r *Reader) prove(v *Verified, signers []Signer) error {
	by := map[string]Signer{}
	for _, s := range signers {
		by[s.ID] = s
	}
	for _, c := range r.claims {
		if c.unproven {
			v.Proofs = append(v.Proofs, Proof{Seq: c.seq, ID: c.e.ID})
			continue
		}
		signer, known := by[c.device]
		if known && !signer.signs(c.text, c.proof) {
			return &Break{Seq: c.seq, ID: c.e.ID, Kind: string(c.e.Kind), At: c.e.At, Why: "signature"}
		}
		v.Proofs = append(v.Proofs, Proof{c.seq, c.e.ID, signer.Name, signer.Role, true, known})
	}
	return nil
}
