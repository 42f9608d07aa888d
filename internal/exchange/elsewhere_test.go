package exchange_test

import (
	"bytes"
	"testing"

	"github.com/google/uuid"

	"dusha/internal/dbtest"
	"dusha/internal/exchange"
	"dusha/internal/store"
)

func TestMain(m *testing.M) { dbtest.Run(m) }

// A signature that was given on a device of one server is held against its key on another that read the
// job in, and goes on from there.
func TestKeysGoWithAJob(t *testing.T) {
	tablet := newTablet(t, "Tablet of the van")
	text := signedBook(t, &tablet, nil, tablet)
	for range 2 {
		elsewhere := dbtest.OpenEmpty(t, "elsewhere"+uuid.NewString()[:8])
		err := elsewhere.Import(t.Context(), uuid.MustParse(ofJob), func(in *store.Import) error {
			_, err := read(text, nil, in)
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
		var again bytes.Buffer
		if err := exchange.Write(t.Context(), &again, uuid.MustParse(ofJob), elsewhere); err != nil {
			t.Fatal(err)
		}
		v, err := read(again.Bytes(), nil, nil)
		if err != nil || len(v.Proofs) != 1 || !v.Proofs[0].Known || v.Proofs[0].Device != "Tablet of the van" {
			t.Errorf("%+v, %v", v.Proofs, err)
		}
		text = again.Bytes()
	}
	for what, change := range map[string]func(*exchange.Signer){
		"a name of a hundred letters": func(s *exchange.Signer) { s.Name = string(bytes.Repeat([]byte("n"), 100)) },
		"a role nobody has":           func(s *exchange.Signer) { s.Role = "king" },
		"no id":                       func(s *exchange.Signer) { s.ID = "tablet" },
	} {
		b := unpacked(t, text)
		change(&b.Devices[0])
		if _, err := read(written(t, b), nil, nil); err == nil {
			t.Errorf("%s was read", what)
		}
	}
}
