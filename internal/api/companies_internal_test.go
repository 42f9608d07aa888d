package api

import (
	"database/sql"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/demo"
	"dusha/draw"
	"dusha/internal/dbtest"
	"dusha/internal/store"
)

// otherFirm is a second company in the database.
func otherFirm(t *testing.T) uuid.UUID {
	t.Helper()
	db, err := sql.Open("mysql", dbtest.DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	id := uuid.Must(uuid.NewV7())
	if _, err := db.Exec("INSERT INTO companies (id, name) VALUES (?, 'Other house')", id); err != nil {
		t.Fatal(err)
	}
	return id
}

// Every door, asked by one company with the ids of another: nothing is told, nothing is changed,
// and the same ids are free for its own.
func TestOneCompanyKnowsNothingOfAnother(t *testing.T) {
	a := dbtest.Open(t)
	b := a.For(otherFirm(t))
	e, _, err := New(Config{
		Store: a, Table: draw.Table(), Log: slog.New(slog.DiscardHandler),
		Of: func(r *http.Request) Store {
			if r.Header.Get("Firm") == "b" {
				return b
			}
			return a
		},
	})
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(e)
	defer s.Close()
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 9001)
	if err != nil {
		t.Fatal(err)
	}
	job := uuid.MustParse(made.ID)
	if _, err := a.Append(t.Context(), job, made.Entries); err != nil {
		t.Fatal(err)
	}
	photo, person := uuid.New(), uuid.MustParse(made.Named["lead"])
	pdf := "%PDF-1.7\n% of the first firm"
	if err := a.KeepPhoto(t.Context(), job, photo, []byte(pdf)); err != nil {
		t.Fatal(err)
	}
	if err := a.Name(t.Context(), person, "Nobody's business"); err != nil {
		t.Fatal(err)
	}
	do := func(firm, method, path, body, media string) (int, string) {
		request, err := http.NewRequestWithContext(t.Context(), method, s.URL+path, strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Firm", firm)
		if media != "" {
			request.Header.Set("Content-Type", media)
		}
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		defer response.Body.Close()
		text, err := io.ReadAll(response.Body)
		if err != nil {
			t.Fatal(err)
		}
		return response.StatusCode, string(text)
	}
	fill := strings.NewReplacer(":job", made.ID, ":areas", "", ":area", made.Areas["drying"], ":person", person.String(), ":photo", photo.String(), ":operation", "pressure.class", "*", "")
	bodies := map[string]string{
		"/api/jobs/:job/entries":       `{"entries":[` + string(made.Entries[0]) + `]}`,
		"/api/people/:person":          `{"name":"Theirs"}`,
		"/api/jobs/:job/estimate.pdf":  `{"typed":{},"letterhead":[]}`,
		"/api/jobs/:job/photos/:photo": pdf,
		"/api/compute/:operation":      `{"elongation_percent":30}`,
	}
	asked := 0
	for _, r := range routesOf() {
		if r.path == "/*" || r.method == "POST" && r.path == "/api/jobs/:job/entries" {
			continue
		}
		media := ""
		if len(r.takes) > 0 {
			media = r.takes[len(r.takes)-1]
		}
		status, text := do("b", r.method, fill.Replace(r.path), bodies[r.path], media)
		asked++
		for _, secret := range []string{made.ID, "Fennick", "Nobody's business", "of the first firm", made.Areas["drying"]} {
			if strings.Contains(text, secret) {
				t.Errorf("%s %s tells %q", r.method, r.path, secret)
			}
		}
		if strings.Contains(r.path, ":job") && r.path != "/api/jobs/:job/entries" && status < 400 {
			t.Errorf("%s %s: %d", r.method, r.path, status)
		}
	}
	if asked < 15 {
		t.Errorf("only %d doors were asked", asked)
	}
	if names, err := a.Names(t.Context()); err != nil || names[person.String()] != "Nobody's business" {
		t.Errorf("the name is %q now: %v", names[person.String()], err)
	}
	before, err := a.All(t.Context(), job)
	if err != nil {
		t.Fatal(err)
	}
	// The same ids are its own to use.
	if status, text := do("b", "POST", "/api/jobs/"+made.ID+"/entries", bodies["/api/jobs/:job/entries"], ofJSON); status != 200 || !strings.Contains(text, `"status":201`) {
		t.Errorf("%d %s", status, text)
	}
	if err := b.KeepPhoto(t.Context(), job, photo, []byte(pdf+", no: of the second")); err != nil {
		t.Error(err)
	}
	if err := b.SetAside(t.Context(), store.Place{Job: job}, "ours"); err != nil {
		t.Error(err)
	}
	if after, err := a.All(t.Context(), job); err != nil || len(after) != len(before) || after[0].Aside != "" {
		t.Errorf("%d entries, %d before: %v", len(after), len(before), err)
	}
	if q, err := a.QuarantineOf(t.Context(), job); err != nil || len(q) != 0 {
		t.Errorf("%v, %v", q, err)
	}
}

// Beginning a job, joining one and writing to it are three rights.
func TestMakingJoiningAndWritingAreThreeRights(t *testing.T) {
	st := dbtest.Open(t)
	allowed := map[Right]bool{Write: true}
	e, _, err := New(Config{Store: st, Table: draw.Table(), Log: slog.New(slog.DiscardHandler), May: func(_ *http.Request, r Right) bool { return allowed[r] }})
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(e)
	defer s.Close()
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 9002)
	if err != nil {
		t.Fatal(err)
	}
	post := func(entry int, installation string) string {
		request, err := http.NewRequestWithContext(t.Context(), "POST", s.URL+"/api/jobs/"+made.ID+"/entries", strings.NewReader(`{"entries":[`+string(made.Entries[entry])+`]}`))
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Content-Type", ofJSON)
		request.Header.Set("Dusha-Installation", installation)
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		defer response.Body.Close()
		text, err := io.ReadAll(response.Body)
		if err != nil {
			t.Fatal(err)
		}
		return string(text)
	}
	const mine, other = "01900000-0000-4000-8000-00000000000a", "01900000-0000-4000-8000-00000000000b"
	if said := post(0, mine); !strings.Contains(said, `"right":"make"`) {
		t.Errorf("begun without the right: %s", said)
	}
	allowed[Make] = true
	if said := post(0, mine); !strings.Contains(said, `"status":201`) {
		t.Errorf("begun: %s", said)
	}
	allowed[Make] = false
	for _, who := range []string{other, ""} {
		if said := post(1, who); !strings.Contains(said, `"right":"join"`) {
			t.Errorf("joined without the right: %s", said)
		}
	}
	if said := post(1, mine); !strings.Contains(said, `"status":201`) {
		t.Errorf("gone on with: %s", said)
	}
	allowed[Join] = true
	if said := post(2, other); !strings.Contains(said, `"status":201`) {
		t.Errorf("joined: %s", said)
	}
	allowed[Write] = false
	if said := post(3, mine); !strings.Contains(said, `"right":"write"`) {
		t.Errorf("written without the right: %s", said)
	}
	kept, err := st.All(t.Context(), uuid.MustParse(made.ID))
	if err != nil || len(kept) != 3 || kept[2].DeliveredBy.String() != other || kept[0].DeliveredBy.String() != mine {
		t.Errorf("%d kept, %v", len(kept), err)
	}
}

// Asked again when nothing changed, the list of jobs is a word.
func TestTheListOfJobsIsSentWhenItChanged(t *testing.T) {
	st := dbtest.OpenEmpty(t, "thousand")
	e, _, err := New(Config{Store: st, Table: draw.Table(), Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	ask := func(known string) *httptest.ResponseRecorder {
		request := httptest.NewRequest("GET", "/api/jobs", nil)
		request.Host = "localhost"
		request.Header.Set("If-None-Match", known)
		recorder := httptest.NewRecorder()
		e.ServeHTTP(recorder, request)
		return recorder
	}
	begin := func() {
		job := uuid.Must(uuid.NewV7())
		text := `{"id":"` + uuid.Must(uuid.NewV7()).String() + `","jobId":"` + job.String() + `","kind":"job.renamed","at":"2026-03-04T12:00:00Z","by":"` + job.String() + `","body":{"name":"N"}}`
		if out, err := st.Append(t.Context(), job, [][]byte{[]byte(text)}); err != nil || !out[0].New {
			t.Fatalf("%+v, %v", out, err)
		}
	}
	for range 100 {
		begin()
	}
	first := ask("")
	if first.Code != 200 || strings.Count(first.Body.String(), `"lastSeq"`) != 100 {
		t.Fatalf("%d %.200s", first.Code, first.Body)
	}
	again := ask(first.Header().Get("ETag"))
	size := again.Body.Len()
	for name, values := range again.Header() {
		size += len(name) + len(strings.Join(values, "")) + 4
	}
	if again.Code != 304 || size > 1000 || again.Header().Get("Dusha-Time") == "" {
		t.Errorf("%d in %d bytes: %s", again.Code, size, again.Body)
	}
	begin()
	if changed := ask(first.Header().Get("ETag")); changed.Code != 200 {
		t.Errorf("changed: %d", changed.Code)
	}
}
