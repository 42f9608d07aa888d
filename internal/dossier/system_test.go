package dossier

import (
	"bytes"
	"strings"
	"testing"

	"dusha/core/site"
	"dusha/core/system"
	"dusha/demo"
	"dusha/internal/words"
)

// Every system can be read on paper: its layers, its order with the waits that its sheets print, its ways with their reasons,
// and no key without words.
func TestASystemOnPaper(t *testing.T) {
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	job := site.Read(made.Entries)
	for _, of := range system.Samples() {
		page, err := job.SystemPage(of.ID)
		if err != nil {
			t.Errorf("%s: %v", of.ID, err)
			continue
		}
		var out bytes.Buffer
		if err := WriteSystem(&out, page, words.Speaker{}, now); err != nil {
			t.Errorf("%s: %v", of.ID, err)
			continue
		}
		text := said(t, out.Bytes())
		if of.ID == "sample.system.flexible_cementitious" {
			for _, want := range []string{"Two-part flexible cementitious", "not for work", "Coat 2 · 0.98 mm", "whole field", "Lay the second coat", "after Lay the first coat", "Next coat at 20", "Joint band", "Standing water finds what no eye does"} {
				if !strings.Contains(text, want) {
					t.Errorf("the page does not say %q:\n%s", want, text)
				}
			}
		}
		if strings.ContainsAny(text, "[\u27e6") {
			t.Errorf("%s: a key has no words:\n%s", of.ID, text)
		}
	}
	if _, err := job.SystemPage("nowhere"); err == nil {
		t.Error("a system that the job does not have")
	}
}
