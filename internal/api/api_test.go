package api_test

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"dusha/demo"
	"dusha/draw"
	"dusha/internal/api"
	"dusha/internal/dbtest"
	"dusha/internal/store"
)

func TestMain(m *testing.M) { dbtest.Run(m) }

func server(t *testing.T) *httptest.Server {
	t.Helper()
	page := fstest.MapFS{"index.html": {Data: []byte("<p>page")}, "assets/a.wasm": {Data: []byte("wasm")}, "assets/a.wasm.gz": {Data: packed(t, "wasm, packed")}}
	return serve(t, api.Config{Store: dbtest.Open(t), Page: page})
}

func packed(t *testing.T, text string) []byte {
	t.Helper()
	var b bytes.Buffer
	w := gzip.NewWriter(&b)
	if _, err := w.Write([]byte(text)); err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func serve(t *testing.T, c api.Config) *httptest.Server {
	t.Helper()
	c.Table, c.Log = draw.Table(), slog.New(slog.DiscardHandler)
	e, _, err := api.New(c)
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(e)
	t.Cleanup(s.Close)
	return s
}

type answer struct {
	status int
	kind   string
	text   string
	header http.Header
}

func send(t *testing.T, method, url string, body io.Reader) answer {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), method, url, body)
	if err != nil {
		t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	if strings.Contains(url, "/photos/") {
		request.Header.Set("Content-Type", "image/jpeg")
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
	return answer{response.StatusCode, response.Header.Get("Content-Type"), string(text), response.Header}
}

func hostel(t *testing.T, seed uint64) demo.Job {
	t.Helper()
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), seed)
	if err != nil {
		t.Fatal(err)
	}
	return made
}

func batch(texts ...[]byte) io.Reader {
	return strings.NewReader(`{"entries":[` + string(bytes.Join(texts, []byte(","))) + `]}`)
}

func TestEntriesGoInAndComeBackAsTheyWere(t *testing.T) {
	s, made := server(t), hostel(t, 501)
	address := s.URL + "/api/jobs/" + made.ID + "/entries"
	if a := send(t, "POST", address, batch(made.Entries...)); a.status != 200 || strings.Count(a.text, `"status":201`) != len(made.Entries) {
		t.Fatalf("%d %s", a.status, a.text)
	}
	if a := send(t, "POST", address, batch(made.Entries[0])); !strings.Contains(a.text, `"status":200`) {
		t.Errorf("delivered again: %s", a.text)
	}
	var got struct {
		Entries []struct {
			Seq   int
			Bytes string
		}
	}
	a := send(t, "GET", address+"?after=2", nil)
	if err := json.Unmarshal([]byte(a.text), &got); err != nil || len(got.Entries) != len(made.Entries)-2 {
		t.Fatalf("%v: %s", err, a.text)
	}
	if got.Entries[0].Bytes != string(made.Entries[2]) {
		t.Errorf("came back as %s, sent %s", got.Entries[0].Bytes, made.Entries[2])
	}
}

func TestBadInputIsAProblemThatNamesTheField(t *testing.T) {
	s, made := server(t), hostel(t, 502)
	entries := "/api/jobs/" + made.ID + "/entries"
	huge := func() io.Reader { return io.LimitReader(endless{}, 50<<20) }
	rows := []struct {
		name, method, path string
		body               io.Reader
		status             int
		field, key         string
	}{
		{"a body of 50 MB", "POST", entries, huge(), 413, "body", "request.body_too_large"},
		{"50 MB to compute", "POST", "/api/compute/survey.ask", huge(), 413, "body", "request.body_too_large"},
		{"truncated JSON", "POST", entries, strings.NewReader(`{"entries":[{"id"`), 422, "body", "json.truncated"},
		{"truncated JSON to compute", "POST", "/api/compute/survey.ask", strings.NewReader(`{"form":"rect`), 422, "entry", "json.truncated"},
		{"an unknown operation", "POST", "/api/compute/survey.guess", strings.NewReader(`{}`), 404, "operation", "operation.unknown"},
		{"an unknown form", "POST", "/api/compute/survey.ask", strings.NewReader(`{"form":"dome","typed":{}}`), 422, "form", "survey.unknown_form"},
		{"a wrong type", "POST", "/api/compute/survey.ask", strings.NewReader(`{"form":3}`), 422, "form", "json.wrong_type"},
		{"no entries", "POST", entries, strings.NewReader(`{}`), 422, "entries", "list.empty"},
		{"entries in other letters", "POST", entries, strings.NewReader(`{"Entries":[{}]}`), 422, "body.Entries", "json.unknown_field"},
		{"a list for a batch", "POST", entries, strings.NewReader(`[]`), 422, "body", "json.wrong_type"},
		{"501 entries", "POST", entries, strings.NewReader(`{"entries":[` + strings.TrimSuffix(strings.Repeat("0,", 501), ",") + `]}`), 422, "entries", "list.too_long"},
		{"a job that is no id", "GET", "/api/jobs/7/entries", nil, 422, "path.job", "input.invalid"},
		{"nothing there", "GET", "/api/elsewhere", nil, 404, "address", "request.nothing_there"},
		{"a missing script", "GET", "/assets/gone.js", nil, 404, "address", "request.nothing_there"},
		{"a name of 200 letters", "PUT", "/api/people/" + made.Named["lead"], strings.NewReader(`{"name":"` + strings.Repeat("n", 200) + `"}`), 422, "name", "input.invalid"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			a := send(t, row.method, s.URL+row.path, row.body)
			var p struct {
				Status int
				Faults []struct{ Field, Key string }
			}
			if err := json.Unmarshal([]byte(a.text), &p); err != nil || a.kind != "application/problem+json" {
				t.Fatalf("%d %s: %s", a.status, a.kind, a.text)
			}
			if a.status != row.status || p.Status != row.status || len(p.Faults) == 0 || p.Faults[0].Key != row.key || row.field != "" && p.Faults[0].Field != row.field {
				t.Errorf("got %d %s, want %d with %s at %s", a.status, a.text, row.status, row.key, row.field)
			}
		})
	}
	one := []byte(`{"id":"019cb000-0000-7000-8000-000000000001","kind":"reed"}`)
	a := send(t, "POST", s.URL+entries, batch(one, made.Entries[0]))
	if !strings.Contains(a.text, `"status":422`) || !strings.Contains(a.text, `"status":201`) {
		t.Errorf("one refused, one kept: %s", a.text)
	}
}

// endless is a body of the letter a.
type endless struct{}

func (endless) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = 'a'
	}
	return len(p), nil
}

type brokenStore struct{ *store.Store }

func (brokenStore) Jobs(context.Context) ([]store.JobLine, error) {
	return nil, errors.New("secret text of the database")
}

func TestWhatWentWrongInsideIsNotTold(t *testing.T) {
	s := serve(t, api.Config{Store: brokenStore{dbtest.Open(t)}})
	a := send(t, "GET", s.URL+"/api/jobs", nil)
	if a.status != 500 || strings.Contains(a.text, "secret") {
		t.Errorf("%d %s", a.status, a.text)
	}
}

func TestThePageIsServedWithItsPolicy(t *testing.T) {
	s := server(t)
	for _, path := range []string{"/", "/index.html", "/job/some/area"} {
		a := send(t, "GET", s.URL+path, nil)
		if a.status != 200 || a.text != "<p>page" || !strings.Contains(a.header.Get("Content-Security-Policy"), "default-src 'none'") || a.header.Get("Cache-Control") != "no-cache" {
			t.Errorf("%s: %d %s %v", path, a.status, a.text, a.header)
		}
	}
	if a := send(t, "GET", s.URL+"/assets/a.wasm", nil); a.kind != "application/wasm" || a.text != "wasm, packed" || !strings.Contains(a.header.Get("Cache-Control"), "immutable") {
		t.Errorf("%s %v", a.kind, a.header)
	}
}

func TestTheSnapshotOfTheAPIIsFresh(t *testing.T) {
	_, description, _ := api.New(api.Config{Table: draw.Table(), Log: slog.New(slog.DiscardHandler)})
	fresh, err := json.MarshalIndent(description, "", " ")
	if err != nil {
		t.Fatal(err)
	}
	kept, err := os.ReadFile("../../api/openapi.json")
	if err != nil {
		t.Fatal(err)
	}
	if strings.TrimSpace(string(kept)) != string(fresh) {
		t.Error("api/openapi.json is stale: run make api")
	}
}

// No list in any answer is null: the page's types say it is a list.
func TestNoListIsNull(t *testing.T) {
	s, made := server(t), hostel(t, 503)
	all := string(bytes.Join(made.Entries, []byte(",")))
	area := made.Areas["shower1"]
	for path, body := range map[string]string{
		"/api/compute/logbook.job":   `{"entries":[],"now":"2026-03-04T12:00:00Z"}`,
		"/api/compute/logbook.look":  fmt.Sprintf(`{"entries":[],"area":%q,"now":"2026-03-04T12:00:00Z"}`, area),
		"/api/compute/logbook.look ": fmt.Sprintf(`{"entries":[%s],"area":%q,"now":"2026-03-04T12:00:00Z"}`, all, area),
		"/api/compute/survey.ask":    `{"form":"rectangle","typed":{"length":"2400","width":"1800"}}`,
		"/api/compute/plan.try":      fmt.Sprintf(`{"entries":[%s],"area":%q,"sheet":"","texture":""}`, all, area),
	} {
		a := send(t, "POST", s.URL+strings.TrimSpace(path), strings.NewReader(body))
		if a.status != 200 {
			t.Errorf("%s: %d %s", path, a.status, a.text)
			continue
		}
		_, description, _ := api.New(api.Config{Table: draw.Table(), Log: slog.New(slog.DiscardHandler)})
		operation := description.Paths[strings.TrimSpace(path)].Post
		var got any
		if err := json.Unmarshal([]byte(a.text), &got); err != nil {
			t.Fatal(err)
		}
		for _, at := range nullLists(description.Components.Schemas.SchemaFromRef, operation.Responses["200"].Content["application/json"].Schema, got, "") {
			t.Errorf("%s: %s is null", path, at)
		}
	}
}
