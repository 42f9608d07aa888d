package logbook

import (
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strings"
	"time"

	"dusha/core/sheet"
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

// SignedText is what a device's key signs: where, which step, who, and the digest of what was seen.
func SignedText(area string, b SignedBody) string {
	return strings.Join([]string{"dusha-signature", area, b.Step, b.Person, b.Seen}, "\n") + "\n"
}

// Signature is an entry's signature, where it is one that could be read.
func (e Entry) Signature() (SignedBody, bool) {
	body, is := e.body.(SignedBody)
	return body, is
}

// applySigned keeps a signature. It releases its hold when a person of the job signed, on
// the very entries that stand before it, and, after a water test, on one that passed.
func (a *Area) applySigned(e settled, body SignedBody) {
	if !a.step(e.Entry, body.Step, "sign") {
		return
	}
	s := Signature{Entry: e.ID, Step: body.Step, Person: body.Person, Role: body.Role, At: e.At, Line: body.Line, Seen: body.Seen, Device: body.Device}
	counts := true
	if !slices.ContainsFunc(a.Job.People, func(p Person) bool { return p.ID == body.Person }) {
		a.deviate(e.Entry, "deviation.signed_by_nobody", "step", body.Step)
		counts = false
	}
	before := slices.DeleteFunc(slices.Clone(a.own), func(x Entry) bool { return x.when.After(e.when) || x.when.Equal(e.when) && x.ID >= e.ID })
	if Seen(a.ID, before) != body.Seen {
		a.deviate(e.Entry, "deviation.signed_other_entries", "step", body.Step)
	}
	if a.signsTest(body.Step) {
		if t := a.test(); t != nil {
			s.Says = a.judged(*t).finding
		}
		if !a.passedTest() {
			a.deviate(e.Entry, "deviation.signed_without_verdict", "step", body.Step)
			counts = false
		}
	}
	a.Signatures = append(a.Signatures, s)
	if counts {
		a.Done[body.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Person: body.Person}
		a.endedAt[body.Step] = e.when
	}
}

// signsTest tells whether a signature stands for the water test before it: no other
// signature comes between.
func (a *Area) signsTest(id string) bool {
	tested := false
	for _, s := range a.Recipe.Steps() {
		switch {
		case s.ID == id:
			return tested
		case s.Does == "test":
			tested = true
		case s.Does == "sign":
			tested = false
		}
	}
	return false
}

// MaySign tells whether a step can be signed as things stand, and if not why, as a wording
// key.
func (a *Area) MaySign(s sheet.Step, now time.Time) (why string) {
	switch {
	case a.block(s, a.materials(s, now), now) != nil:
		return "sign.blocked"
	case a.signsTest(s.ID) && !a.passedTest():
		return "sign.no_verdict"
	}
	return ""
}
