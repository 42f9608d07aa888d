package logbook

import (
	"encoding/base64"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/system"
)

const KindSigned Kind = "signed"

// SignedBody is a signature: person, role, drawn line and the digest of what was signed.
type SignedBody struct {
	Step   string     `json:"step"`
	Person string     `json:"person"`
	Role   string     `json:"role"`
	Line   [][][2]int `json:"line"`             // strokes of points, 0 to 1000 across and down
	Seen   string     `json:"seen"`             // as Seen gives it
	Device string     `json:"device,omitempty"` // id of the paired device it was given on
	Proof  string     `json:"proof,omitempty"`  // its key's signature of SignedText: ECDSA P-256, r and s, base64
}

func (b SignedBody) check() error {
	const mostPoints, side = 4000, 1000
	points := 0
	for _, stroke := range b.Line {
		points += len(stroke)
		for _, p := range stroke {
			if p[0] < 0 || p[0] > side || p[1] < 0 || p[1] > side {
				return fault.At("body.line", "sign.line_off_the_field")
			}
		}
	}
	switch {
	case b.Person == "":
		return fault.At("body.person", "sign.nobody")
	case points < 2:
		return fault.At("body.line", "sign.no_line")
	case points > mostPoints:
		return fault.At("body.line", "list.too_long", "most", mostPoints)
	case !isDigest(b.Seen):
		return fault.At("body.seen", "sign.no_digest")
	case b.Device != "" && id("body.device", b.Device) != nil:
		return id("body.device", b.Device)
	case (b.Device == "") != (b.Proof == "") || b.Proof != "" && !isProof(b.Proof):
		return fault.At("body.proof", "sign.no_proof")
	}
	return first(name("body.step", b.Step), id("body.person", b.Person), name("body.role", b.Role))
}

// isProof tells 64 bytes in base64, of plain letters.
func isProof(text string) bool {
	bytes, err := base64.StdEncoding.Strict().DecodeString(text)
	return err == nil && len(bytes) == 64 && len(text) == 88
}

// applySigned keeps a signature. It releases its hold when a person of the job signed, on
// the very entries that stand before it, and, after a water test, on one that passed.
func (b SignedBody) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	s := Signature{Entry: e.ID, Step: b.Step, Person: b.Person, Role: b.Role, At: e.At, Line: b.Line, Seen: b.Seen, Device: b.Device}
	counts := true
	if !slices.ContainsFunc(a.Job.People, func(p Person) bool { return p.ID == b.Person }) {
		a.deviate(e.Entry, "deviation.signed_by_nobody", "step", b.Step)
		counts = false
	}
	before := slices.DeleteFunc(slices.Clone(a.own.entries), func(x Entry) bool { return x.when.After(e.when) || x.when.Equal(e.when) && x.ID >= e.ID })
	if Seen(a.ID, before) != b.Seen {
		a.deviate(e.Entry, "deviation.signed_other_entries", "step", b.Step)
	}
	if a.signsTest(b.Step) {
		if t := a.test(); t != nil {
			s.Says = a.judged(*t).finding
		}
		if !a.passedTest() {
			a.deviate(e.Entry, "deviation.signed_without_verdict", "step", b.Step)
			counts = false
		}
	}
	if spray := a.provedBefore(b.Step, system.SprayTest); spray != nil && !a.finished(*spray) {
		a.deviate(e.Entry, "deviation.signed_without_verdict", "step", b.Step)
		counts = false
	}
	a.Signatures = append(a.Signatures, s)
	if counts {
		a.Done[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Person: b.Person}
		a.endedAt[b.Step] = e.when
	}
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

func (b SignedBody) stepOf() string { return b.Step }
