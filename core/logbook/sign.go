package logbook

import (
	"crypto/sha256"
	"encoding/hex"
	"slices"
)

// Signature is who signed a step, in which role, with the drawn line and what was seen.
type Signature struct {
	Entry  string     `json:"entry"`
	Step   string     `json:"step"`
	Person string     `json:"person"`
	Role   string     `json:"role"`
	At     string     `json:"at"`
	Line   [][][2]int `json:"line"`
	Seen   string     `json:"seen"`
	Says   string     `json:"says"`             // the finding that was signed, of a water test
	Device string     `json:"device,omitempty"` // id of the paired device it was given on
}

// Seen is the digest of an area's book in the order of reading: each entry's exact bytes
// hashed onto the digest of those before it (SHA-256, hex). Two devices that know the same
// entries get the same, in whatever order they arrived. An entry whose body could not be read
// was not seen.
func Seen(area string, entries []Entry) string {
	own := slices.DeleteFunc(slices.Clone(entries), func(e Entry) bool { return e.AreaID != area || e.dark() })
	kept, _ := once(own)
	digest := []byte{}
	for _, e := range Order(kept) {
		next := sha256.Sum256(append(digest, e.bytes...))
		digest = next[:]
	}
	return hex.EncodeToString(digest)
}
