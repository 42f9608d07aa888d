package api_test

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

func copied(t *testing.T, document string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "list.pdf")
	if err := os.WriteFile(file, []byte(document), 0o600); err != nil {
		t.Fatal(err)
	}
	text, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	if err != nil {
		t.Fatalf("pdftotext of the package poppler-utils is needed: %v", err)
	}
	return strings.Join(strings.Fields(string(text)), " ")
}

func TestListsAndEstimateLeaveAsPapers(t *testing.T) {
	s, made := server(t), hostel(t, 605)
	job := s.URL + "/api/jobs/" + made.ID
	if a := send(t, "POST", job+"/entries", batch(made.Entries...)); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.text)
	}
	for ending, kind := range map[string]string{
		"csv": "text/csv", "pdf": "application/pdf", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
	} {
		got := send(t, "GET", job+"/materials."+ending, nil)
		if got.status != 200 || got.kind != kind || len(got.text) < 500 {
			t.Errorf("%s: %d %s, %d bytes", ending, got.status, got.kind, len(got.text))
		}
	}
	list := copied(t, send(t, "GET", job+"/materials.pdf?area="+made.Areas["shower1"], nil).text)
	for _, want := range []string{"Purchase list", "Shower room 1", "Two-part flexible cementitious", "To have by you", "Gloves", "sample figures"} {
		if !strings.Contains(list, want) {
			t.Errorf("the list does not say %q", want)
		}
	}
	if whole := copied(t, send(t, "GET", job+"/materials.pdf", nil).text); !strings.Contains(whole, "× 20.4 kg") {
		t.Error("the list of the whole job buys no kit")
	}
	if strings.Contains(list, "[paper") || strings.Contains(list, "[product") {
		t.Errorf("something has no words: %s", list)
	}

	ask := func(typed map[string]string) answer {
		body, err := json.Marshal(map[string]any{"area": made.Areas["shower1"], "typed": typed, "letterhead": []string{"Own name", "Own street"}, "client": "The lake house"})
		if err != nil {
			t.Fatal(err)
		}
		return send(t, "POST", job+"/estimate.pdf", bytes.NewReader(body))
	}
	offer := copied(t, ask(map[string]string{"estimate.rate": "50", "estimate.tax": "20"}).text)
	for _, want := range []string{"Own name", "Own street", "The lake house", "Estimate", "Coats", "Not a quote", "In all"} {
		if !strings.Contains(offer, want) {
			t.Errorf("the estimate does not say %q", want)
		}
	}
	if got := ask(map[string]string{"estimate.rate": "much"}); got.status != 422 || !strings.Contains(got.text, "estimate.rate") {
		t.Errorf("an hour that costs much: %d %s", got.status, got.text)
	}
	// Nothing of it goes into the dossier.
	if dossier := copied(t, send(t, "GET", job+"/areas/"+made.Areas["shower1"]+"/dossier.pdf", nil).text); strings.Contains(dossier, "Own name") || strings.Contains(dossier, "Estimate") {
		t.Error("the dossier tells of the estimate")
	}
	if got := send(t, "GET", s.URL+"/api/jobs/019cb000-0000-7000-8000-0000000000ff/materials.csv", nil).status; got != 404 {
		t.Errorf("a job that is not there: %d", got)
	}
}
