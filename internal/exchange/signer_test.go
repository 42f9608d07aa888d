package exchange_test

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"strings"
	"testing"

	"github.com/google/uuid"

	"dusha/core/logbook"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

// tabletKey is a device with its key.
type tabletKey struct {
	store.Signer
	key *ecdsa.PrivateKey
}

func newTablet(t *testing.T, name string) tabletKey {
	t.Helper()
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		t.Fatal(err)
	}
	point, err := key.PublicKey.Bytes()
	if err != nil {
		t.Fatal(err)
	}
	return tabletKey{store.Signer{ID: uuid.Must(uuid.NewV7()), Name: name, Role: "crew", PublicKey: point}, key}
}

// proves signs as a browser does.
func (d tabletKey) proves(t *testing.T, text string) string {
	t.Helper()
	sum := sha256.Sum256([]byte(text))
	r, s, err := ecdsa.Sign(rand.Reader, d.key, sum[:])
	if err != nil {
		t.Fatal(err)
	}
	raw := make([]byte, 64)
	r.FillBytes(raw[:32])
	s.FillBytes(raw[32:])
	return base64.StdEncoding.EncodeToString(raw)
}

const (
	ofArea   = "01900000-0000-7000-8000-0000000000a1"
	ofPerson = "01900000-0000-7000-8000-0000000000b1"
	ofJob    = "01900000-0000-7000-8000-0000000000c1"
)

// signedBook is a book of one signature, given on a device, or on none.
func signedBook(t *testing.T, on *tabletKey, change func(*logbook.SignedBody), devices ...tabletKey) []byte {
	t.Helper()
	body := logbook.SignedBody{Step: "test_signed", Person: ofPerson, Role: "Inspector", Line: [][][2]int{{{1, 1}, {2, 2}}}, Seen: strings.Repeat("a", 64)}
	if on != nil {
		body.Device = on.ID.String()
		body.Proof = on.proves(t, logbook.SignedText(ofArea, body))
	}
	if change != nil {
		change(&body)
	}
	text, err := json.Marshal(map[string]any{"id": uuid.Must(uuid.NewV7()), "jobId": ofJob, "areaId": ofArea, "kind": "signed", "at": "2026-03-04T12:00:00Z", "by": ofPerson, "body": body})
	if err != nil {
		t.Fatal(err)
	}
	b := book{kept: chain(t, [][]byte{text})}
	for _, d := range devices {
		b.devices = append(b.devices, d.Signer)
	}
	return pack(t, ofJob, b)
}

// A signature is held against the key of the device it was given on; an altered one is named, also where
// the chain was made to fit.
func TestSignaturesAreHeldAgainstTheirKeys(t *testing.T) {
	tablet, other := newTablet(t, "Tablet of the van"), newTablet(t, "Another")
	for name, c := range map[string]struct {
		bundle []byte
		want   exchange.Proof
	}{
		"on a paired device":       {signedBook(t, &tablet, nil, other, tablet), exchange.Proof{Seq: 1, Device: "Tablet of the van", Role: "crew", Named: true, Known: true}},
		"on one that nobody knows": {signedBook(t, &tablet, nil, other), exchange.Proof{Seq: 1, Named: true}},
		"on none":                  {signedBook(t, nil, nil, tablet), exchange.Proof{Seq: 1}},
	} {
		v, err := read(c.bundle, nil, nil)
		if err != nil || len(v.Proofs) != 1 {
			t.Errorf("%s: %v, %+v", name, err, v.Proofs)
			continue
		}
		got := v.Proofs[0]
		if got.ID = ""; got != c.want {
			t.Errorf("%s: %+v, want %+v", name, got, c.want)
		}
	}
	for name, change := range map[string]func(*logbook.SignedBody){
		"another digest": func(b *logbook.SignedBody) { b.Seen = strings.Repeat("b", 64) },
		"another person": func(b *logbook.SignedBody) { b.Person = ofJob },
		"another step":   func(b *logbook.SignedBody) { b.Step = "handed_over" },
		"another proof":  func(b *logbook.SignedBody) { b.Proof = other.proves(t, logbook.SignedText(ofArea, *b)) },
	} {
		if broken := verify(t, signedBook(t, &tablet, change, tablet)); broken == nil || broken.Why != "signature" || broken.Seq != 1 || broken.Kind != "signed" {
			t.Errorf("%s: %v", name, broken)
		}
	}
	b := unpacked(t, signedBook(t, &tablet, nil, tablet))
	b.Devices[0].Name = "Tablet of nobody"
	if broken := verify(t, written(t, b)); broken == nil || broken.Why != "sum" {
		t.Errorf("another name of the device: %v", broken)
	}
	b.Devices[0].Key[5] ^= 1
	if _, err := read(written(t, b), nil, nil); err == nil || !strings.Contains(err.Error(), "pairing.no_key") {
		t.Errorf("a key that is none: %v", err)
	}
}
