package dossier

import (
	"bytes"
	"strings"
	"testing"

	"dusha/core/site"
	"dusha/demo"
	"dusha/internal/words"
)

func card(t *testing.T, layout site.Layout) []byte {
	t.Helper()
	var out bytes.Buffer
	if err := WriteCutCard(&out, layout, words.Speaker{}, now); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// Every piece stands on the card with its number, length and place; the same plan makes the same
// card.
func TestCutCard(t *testing.T) {
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	layout, err := site.Read(made.Entries).Layout(made.Areas["shower2"])
	if err != nil {
		t.Fatal(err)
	}
	first := card(t, layout)
	if !bytes.Equal(first, card(t, layout)) {
		t.Error("the same plan makes two cards")
	}
	text := said(t, first)
	for _, want := range []string{"Cut card", "Shower room 2", "Joint band with fleece edges", "not for work", "Proposed", "Floor to wall A", "Corner to fold", "Roll 1", "2.72 m"} {
		if !strings.Contains(text, want) {
			t.Errorf("the card does not say %q:\n%s", want, text)
		}
	}
	if strings.Contains(text, "[") {
		t.Errorf("a key has no words:\n%s", text)
	}
	if text := said(t, card(t, site.Layout{Name: "Laundry"})); !strings.Contains(text, "Nothing to cut yet") {
		t.Errorf("without a plan: %s", text)
	}
}
