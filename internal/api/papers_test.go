package api_test

import (
	"bytes"
	"regexp"
	"strings"
	"testing"

	"dusha/internal/exchange"
)

func TestPapersOfAJob(t *testing.T) {
	s, made := server(t), hostel(t, 601)
	job := s.URL + "/api/jobs/" + made.ID
	entries := `{"entries":[` + string(bytes.Join(made.Entries, []byte(","))) + `]}`
	if a := send(t, "POST", job+"/entries", strings.NewReader(entries)); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.text)
	}
	for id, role := range made.People {
		if a := send(t, "PUT", s.URL+"/api/people/"+id, strings.NewReader(`{"name":"A `+role+`"}`)); a.status >= 300 {
			t.Fatalf("%d %s", a.status, a.text)
		}
	}

	// Day, job and area stand in a file's name.
	named := regexp.MustCompile(`^inline; filename=\d{4}-\d\d-\d\d-fennick-lake-hostel-(.*)\.pdf$`)
	name := func(header string) string {
		if found := named.FindStringSubmatch(header); found != nil {
			return found[1]
		}
		return header
	}
	dossier := send(t, "GET", job+"/areas/"+made.Areas["drying"]+"/dossier.pdf", nil)
	if dossier.status != 200 || dossier.kind != "application/pdf" || !strings.HasPrefix(dossier.text, "%PDF-") {
		t.Errorf("dossier: %d %s %.20q", dossier.status, dossier.kind, dossier.text)
	}
	if d := dossier.header.Get("Content-Disposition"); name(d) != "drying-room-dossier" || dossier.header.Get("Cache-Control") != "no-store" {
		t.Errorf("dossier: %s, %s", d, dossier.header.Get("Cache-Control"))
	}

	card := send(t, "GET", job+"/areas/"+made.Areas["shower2"]+"/cut-card.pdf", nil)
	if card.status != 200 || card.kind != "application/pdf" || name(card.header.Get("Content-Disposition")) != "shower-room-2-cut-card" {
		t.Errorf("cut card: %d %s %s", card.status, card.kind, card.header.Get("Content-Disposition"))
	}

	sent := send(t, "GET", job+"/bundle.json", nil)
	if sent.status != 200 || sent.kind != "application/json" || !strings.HasPrefix(sent.header.Get("Content-Disposition"), "attachment;") {
		t.Errorf("bundle: %d %s %s", sent.status, sent.kind, sent.header.Get("Content-Disposition"))
	}
	bundle, err := exchange.Open(strings.NewReader(sent.text))
	if err != nil {
		t.Fatal(err)
	}
	v, err := bundle.Read(nil, nil)
	if err != nil || !v.Plain || v.Entries != len(made.Entries) {
		t.Errorf("the bundle as it was sent: %d entries, %v", v.Entries, err)
	}
	if n := strings.Count(sent.text, `": "A `); n != len(made.People) {
		t.Errorf("%d names, want %d", n, len(made.People))
	}
}

func TestPapersOfNothing(t *testing.T) {
	s, made := server(t), hostel(t, 602)
	if a := send(t, "POST", s.URL+"/api/jobs/"+made.ID+"/entries", strings.NewReader(`{"entries":[`+string(made.Entries[0])+`]}`)); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.text)
	}
	const nobody = "01900000-0000-7000-8000-00000000ffff"
	for path, status := range map[string]int{
		"/api/jobs/" + nobody + "/bundle.json":                        404,
		"/api/jobs/" + nobody + "/areas/" + nobody + "/dossier.pdf":   404,
		"/api/jobs/" + made.ID + "/areas/" + nobody + "/dossier.pdf":  404,
		"/api/jobs/" + made.ID + "/areas/" + nobody + "/cut-card.pdf": 404,
		"/api/jobs/the-hostel/bundle.json":                            422,
		"/api/jobs/" + made.ID + "/areas/the-drying-room/dossier.pdf": 422,
	} {
		if a := send(t, "GET", s.URL+path, nil); a.status != status || a.kind != "application/problem+json" {
			t.Errorf("%s: %d %s, want %d", path, a.status, a.kind, status)
		}
	}
}
