package dossier

import (
	"bytes"
	"strings"
	"testing"

	"dusha/core/sheet"
	"dusha/internal/words"
)

// Every sheet can be read on paper: what is printed stands there as printed, and no key without words.
func TestASheetOnPaper(t *testing.T) {
	bare := func(text string) string { return strings.Join(strings.Fields(text), "") } // pdftotext drops a blank in short cells
	for _, of := range sheet.Samples() {
		var out bytes.Buffer
		if err := WriteSheet(&out, of, words.Speaker{}, now); err != nil {
			t.Fatalf("%s: %v", of.ID, err)
		}
		text := said(t, out.Bytes())
		if strings.ContainsAny(text, "[\u27e6") {
			t.Errorf("%s: a key has no words:\n%s", of.ID, text)
		}
		for _, choice := range of.Choices {
			if strings.Contains(choice, "_") && strings.Contains(text, choice) {
				t.Errorf("%s says %q by its name", of.ID, choice)
			}
		}
		stated := 0
		for name, figure := range of.Numbers {
			if figure.Says != "" {
				stated++
				if !strings.Contains(bare(text), bare(figure.Says)) {
					t.Errorf("%s does not say %s, %q", of.ID, name, figure.Says)
				}
			}
		}
		if stated == 0 && of.Is() == "membrane" {
			t.Errorf("%s prints nothing", of.ID)
		}
	}
}
