package api_test

import (
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"dusha/core/ops"
	"dusha/draw"
	"dusha/internal/api"
	"dusha/internal/dbtest"
	"dusha/internal/store"
)

// ask sends a request as it is, with the headers it is given and no others.
func ask(t *testing.T, method, url, body string, header map[string]string) answer {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), method, url, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	for name, value := range header {
		request.Header.Set(name, value)
		if name == "Host" {
			request.Host = value
		}
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

type headers = map[string]string

// A page of another site gets nothing in and nothing out, whatever way it asks.
func TestForeignPagesAreKeptOut(t *testing.T) {
	s, made := server(t), hostel(t, 701)
	entries := s.URL + "/api/jobs/" + made.ID + "/entries"
	good := `{"entries":[` + string(made.Entries[0]) + `]}`
	const asJSON = "application/json"
	rows := []struct {
		name, method, url, body string
		header                  headers
		status                  int
	}{
		{"without a type", "POST", entries, good, nil, 415},
		{"as plain text", "POST", entries, good, headers{"Content-Type": "text/plain"}, 415},
		{"as a form", "POST", entries, good, headers{"Content-Type": "application/x-www-form-urlencoded"}, 415},
		{"as parts of a form", "POST", entries, good, headers{"Content-Type": "multipart/form-data; boundary=x"}, 415},
		{"from another site", "POST", entries, good, headers{"Content-Type": asJSON, "Sec-Fetch-Site": "cross-site"}, 403},
		{"from another port of the machine", "POST", entries, good, headers{"Content-Type": asJSON, "Sec-Fetch-Site": "same-site"}, 403},
		{"by an older browser", "POST", entries, good, headers{"Content-Type": asJSON, "Origin": "http://elsewhere.test"}, 403},
		{"from no site that is said", "POST", entries, good, headers{"Content-Type": asJSON, "Origin": "null"}, 403},
		{"to another name", "POST", entries, good, headers{"Content-Type": asJSON, "Host": "elsewhere.test"}, 421},
		{"to another name with our port", "POST", entries, good, headers{"Content-Type": asJSON, "Host": "elsewhere.test:8080"}, 421},
		{"to a name that begins like ours", "POST", entries, good, headers{"Content-Type": asJSON, "Host": "localhost.elsewhere.test"}, 421},
		{"a name put", "PUT", s.URL + "/api/people/" + made.Named["lead"], `{"name":"X"}`, headers{"Content-Type": "text/plain"}, 415},
		{"a photo put", "PUT", s.URL + "/api/jobs/" + made.ID + "/photos/" + made.Named["lead"], "x", headers{"Content-Type": "text/plain"}, 415},
		{"compute as plain text", "POST", s.URL + "/api/compute/film.consumption", `{}`, headers{"Content-Type": "text/plain"}, 415},
		{"read from another site", "GET", s.URL + "/api/jobs", "", headers{"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "no-cors", "Sec-Fetch-Dest": "script"}, 403},
		{"read into a frame", "GET", s.URL + "/api/jobs", "", headers{"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "iframe"}, 403},
		{"read under another name", "GET", s.URL + "/api/jobs", "", headers{"Host": "elsewhere.test"}, 421},
		{"the page under another name", "GET", s.URL + "/", "", headers{"Host": "elsewhere.test"}, 421},
		{"a link that was followed", "GET", s.URL + "/api/jobs", "", headers{"Sec-Fetch-Site": "cross-site", "Sec-Fetch-Mode": "navigate", "Sec-Fetch-Dest": "document"}, 200},
		{"our own page", "GET", s.URL + "/api/jobs", "", headers{"Sec-Fetch-Site": "same-origin"}, 200},
		{"an address that was typed", "GET", s.URL + "/api/jobs", "", headers{"Sec-Fetch-Site": "none"}, 200},
		{"by the machine's name", "GET", s.URL + "/api/jobs", "", headers{"Host": "localhost:8080"}, 200},
		{"by its newer address", "GET", s.URL + "/api/jobs", "", headers{"Host": "[::1]:8080"}, 200},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			a := ask(t, row.method, row.url, row.body, row.header)
			if a.status != row.status {
				t.Errorf("%d %s, want %d", a.status, a.text, row.status)
			}
			if row.status >= 400 && a.kind != "application/problem+json" {
				t.Errorf("refused as %s", a.kind)
			}
		})
	}
	if a := ask(t, "GET", entries, "", nil); !strings.Contains(a.text, `"entries":[]`) {
		t.Errorf("something was written: %s", a.text)
	}
	if a := ask(t, "POST", entries, good, headers{"Content-Type": "application/json; charset=utf-8", "Sec-Fetch-Site": "same-origin", "Origin": s.URL}); a.status != 200 {
		t.Errorf("our own page: %d %s", a.status, a.text)
	}
}

func TestEverythingUnderAPIIsData(t *testing.T) {
	s, made := server(t), hostel(t, 702)
	send(t, "POST", s.URL+"/api/jobs/"+made.ID+"/entries", batch(made.Entries...))
	job := "/api/jobs/" + made.ID
	for _, path := range []string{"/api/health", "/api/jobs", job + "/entries", "/api/people", job + "/bundle.json", job + "/materials.csv", "/api/openapi.json", "/api/nothing", job + "/photos/" + made.ID} {
		a := ask(t, "GET", s.URL+path, "", nil)
		for name, want := range map[string]string{
			"Content-Security-Policy": "default-src 'none'; frame-ancestors 'none'; sandbox", "X-Content-Type-Options": "nosniff",
			"Referrer-Policy": "no-referrer", "Cross-Origin-Resource-Policy": "same-origin", "Cache-Control": "no-store",
		} {
			if got := a.header.Get(name); got != want {
				t.Errorf("%s: %s is %q, want %q", path, name, got, want)
			}
		}
	}
	for _, path := range []string{job + "/materials.pdf", job + "/areas/" + made.Areas["drying"] + "/dossier.pdf"} {
		a := ask(t, "GET", s.URL+path, "", nil)
		if p := a.header.Get("Content-Security-Policy"); a.status != 200 || strings.Contains(p, "sandbox") || !strings.Contains(p, "default-src 'none'") {
			t.Errorf("%s: %d, policy %q: no reader of PDF starts in a sandbox", path, a.status, p)
		}
	}
}

func TestWhoMayDoWhatIsAskedAtOnePlace(t *testing.T) {
	var asked []api.Right
	s := serve(t, api.Config{Store: dbtest.Open(t), May: func(_ *http.Request, r api.Right) bool {
		asked = append(asked, r)
		return r == api.Public
	}})
	for path, status := range map[string]int{"/api/health": 200, "/api/jobs": 403, "/api/jobs/01900000-0000-7000-8000-00000000ffff/bundle.json": 403} {
		if a := ask(t, "GET", s.URL+path, "", nil); a.status != status {
			t.Errorf("%s: %d, want %d", path, a.status, status)
		}
	}
	if len(asked) != 2 || !slices.Contains(asked, api.Member) || !slices.Contains(asked, api.Export) { // of what everybody may nobody is asked
		t.Errorf("asked %v", asked)
	}
}

func TestComputeIsForTheMachineAlone(t *testing.T) {
	e, _, err := api.New(api.Config{Table: draw.Table(), Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	for remote, status := range map[string]int{"127.0.0.1:5000": 200, "[::1]:5000": 200, "192.0.2.7:5000": 403, "[2001:db8::1]:5000": 403, "": 403} {
		request := httptest.NewRequest("POST", "/api/compute/units.number", strings.NewReader(`{"field":"a","kind":"number","typed":"3","most":9}`))
		request.RemoteAddr, request.Host = remote, "localhost"
		request.Header.Set("Content-Type", "application/json")
		recorder := httptest.NewRecorder()
		e.ServeHTTP(recorder, request)
		if recorder.Code != status {
			t.Errorf("from %q: %d %s, want %d", remote, recorder.Code, recorder.Body, status)
		}
	}
}

// What nobody waits for any more holds nobody up, and many wait their turn.
func TestComputeEndsWithItsClient(t *testing.T) {
	release := make(chan struct{})
	defer close(release)
	table := ops.NewTable([]ops.Op{
		ops.Make("test.slow", "Waits.", func(struct{}) (struct{}, error) { <-release; return struct{}{}, nil }),
		ops.Make("test.quick", "Does not.", func(struct{}) (struct{}, error) { return struct{}{}, nil }),
	})
	e, _, err := api.New(api.Config{Table: table, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	s := httptest.NewServer(e)
	defer s.Close()
	for range 3 {
		ctx, stop := context.WithTimeout(t.Context(), 100*time.Millisecond)
		request, err := http.NewRequestWithContext(ctx, "POST", s.URL+"/api/compute/test.slow", strings.NewReader("{}"))
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Content-Type", "application/json")
		if response, err := http.DefaultClient.Do(request); err == nil {
			response.Body.Close()
			t.Error("it was answered")
		}
		stop()
	}
	begin := time.Now()
	for range 4 {
		if a := send(t, "POST", s.URL+"/api/compute/test.quick", strings.NewReader("{}")); a.status != 200 {
			t.Errorf("%d %s", a.status, a.text)
		}
	}
	if took := time.Since(begin); took > 2*time.Second {
		t.Errorf("those behind it waited %v", took)
	}
}

// asleep is a database that does not answer.
type asleep struct{ *store.Store }

func (asleep) Ping(ctx context.Context) error { <-ctx.Done(); return ctx.Err() }
func (asleep) Jobs(ctx context.Context) ([]store.JobLine, error) {
	return nil, fmt.Errorf("jobs: %w", context.DeadlineExceeded)
}

func TestADatabaseThatSleepsIsSaid(t *testing.T) {
	s := serve(t, api.Config{Store: asleep{dbtest.Open(t)}})
	begin := time.Now()
	if a := ask(t, "GET", s.URL+"/api/health", "", nil); a.status != 200 || !strings.Contains(a.text, `"database":false`) || time.Since(begin) > 3*time.Second {
		t.Errorf("%d %s after %v", a.status, a.text, time.Since(begin))
	}
	if a := ask(t, "GET", s.URL+"/api/jobs", "", nil); a.status != 503 || !strings.Contains(a.text, "request.too_busy") {
		t.Errorf("%d %s", a.status, a.text)
	}
}

func TestAServerHasItsTimeOuts(t *testing.T) {
	var s http.Server
	api.Harden(&s, slog.New(slog.DiscardHandler))
	if s.ReadHeaderTimeout == 0 || s.ReadTimeout == 0 || s.WriteTimeout == 0 || s.IdleTimeout == 0 || s.MaxHeaderBytes == 0 {
		t.Errorf("%+v", &s)
	}
}

// Twenty who read a bundle of 18 MB slowly take the memory of a few.
func TestSlowReadersTakeLittle(t *testing.T) {
	st := dbtest.Open(t)
	s, made := serve(t, api.Config{Store: st}), hostel(t, 703)
	job := uuid.MustParse(made.ID)
	if _, err := st.Append(t.Context(), job, made.Entries); err != nil {
		t.Fatal(err)
	}
	for range 6 {
		large := append(picture(t, 90), make([]byte, 3<<20)...)
		if err := st.KeepPhoto(t.Context(), job, uuid.New(), large); err != nil {
			t.Fatal(err)
		}
	}
	runtime.GC()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	for range 20 {
		c, err := net.Dial("tcp", strings.TrimPrefix(s.URL, "http://"))
		if err != nil {
			t.Fatal(err)
		}
		defer c.Close()
		fmt.Fprintf(c, "GET /api/jobs/%s/bundle.json HTTP/1.1\r\nHost: localhost\r\n\r\n", made.ID)
	}
	most := uint64(0)
	for range 15 {
		time.Sleep(100 * time.Millisecond)
		runtime.ReadMemStats(&after)
		most = max(most, after.HeapInuse)
	}
	if grown := (int64(most) - int64(before.HeapInuse)) >> 20; grown > 150 {
		t.Errorf("they take %d MB", grown)
	}
}

// What was set aside goes to everyone with the list of jobs, and stays out of lists and papers.
func TestWhatIsSetAsideIsSaid(t *testing.T) {
	st := dbtest.Open(t)
	s, made := serve(t, api.Config{Store: st}), hostel(t, 704)
	job := uuid.MustParse(made.ID)
	send(t, "POST", s.URL+"/api/jobs/"+made.ID+"/entries", batch(made.Entries...))
	dossier := s.URL + "/api/jobs/" + made.ID + "/areas/" + made.Areas["drying"] + "/dossier.pdf"
	before := send(t, "GET", dossier, nil)
	var climate uint64
	for i, text := range made.Entries {
		if bytes.Contains(text, []byte(made.Areas["drying"])) && bytes.Contains(text, []byte(`"kind":"climate"`)) {
			climate = uint64(i + 1)
		}
	}
	if err := st.SetAside(t.Context(), store.Place{Job: job, Seq: climate}, "typed by a cat"); err != nil {
		t.Fatal(err)
	}
	if a := ask(t, "GET", s.URL+"/api/jobs", "", nil); !strings.Contains(a.text, fmt.Sprintf(`"quarantine":[{"seq":%d,`, climate)) || !strings.Contains(a.text, "typed by a cat") {
		t.Errorf("the list of jobs: %.300s", a.text)
	}
	after := send(t, "GET", dossier, nil)
	if text := copied(t, after.text); after.status != 200 || !strings.Contains(text, "typed by a cat") || strings.Contains(copied(t, before.text), "typed by a cat") {
		t.Errorf("the dossier does not say it: %d", after.status)
	}
	if err := st.SetAside(t.Context(), store.Place{Job: job}, "made for practice"); err != nil {
		t.Fatal(err)
	}
	if a := send(t, "GET", dossier, nil); a.status != 410 || !strings.Contains(a.text, "made for practice") {
		t.Errorf("a job that was set aside: %d %s", a.status, a.text)
	}
	if a := ask(t, "GET", s.URL+"/api/jobs/"+made.ID+"/bundle.json", "", nil); a.status != 200 || !strings.Contains(a.text, "made for practice") {
		t.Errorf("its bundle: %d", a.status)
	}
}

// What an older program let in, or a newer one kept, stops no list and no paper.
func TestPoisonStopsNothing(t *testing.T) {
	st := dbtest.Open(t)
	s, made := serve(t, api.Config{Store: st}), hostel(t, 705)
	job, area := s.URL+"/api/jobs/"+made.ID, made.Areas["drying"]
	if a := send(t, "POST", job+"/entries", batch(made.Entries...)); a.status != 200 {
		t.Fatalf("%d %s", a.status, a.text)
	}
	db, err := sql.Open("mysql", dbtest.DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	head := fmt.Sprintf(`"jobId":%q,"areaId":%q,"at":"2026-03-04T12:00:00Z","by":%q`, made.ID, area, made.Named["lead"])
	for i, text := range []string{
		`{"ID":"019cb000-00cc-7000-8000-000000000000",` + head + `,"kind":"climate","body":{}}`,
		`{"id":"019cb000-00cc-7000-8000-000000000001","id":"019cb000-00cc-7000-8000-000000000001",` + head + `,"kind":"climate","body":{}}`,
		"{\"id\":\"019cb000-00cc-7000-8000-000000000002\"," + head + ",\"kind\":\"remedied\",\"body\":{\"step\":\"coat_2\",\"did\":\"\xed\xa0\x80\"}}",
		`{"id":"019cb000-00cc-7000-8000-000000000003",` + head + `,"kind":"air.mapped","body":{}}`,
		`[0]`,
	} {
		insert := `INSERT INTO entries (id, company_id, job_id, area_id, seq, kind, at, by_person, received_at, hash, bytes)
			SELECT ?, company_id, id, ?, last_seq + 1, 'climate', NOW(), id, NOW(), REPEAT('x', 32), ? FROM jobs WHERE id = ?`
		if _, err := db.Exec(insert, fmt.Sprintf("019cb000-00cc-7000-8000-%012d", i), area, []byte(text), made.ID); err != nil {
			t.Fatalf("%s: %v", text, err)
		}
		if _, err := db.Exec("UPDATE jobs SET last_seq = last_seq + 1 WHERE id = ?", made.ID); err != nil {
			t.Fatal(err)
		}
	}
	for path, says := range map[string]string{
		"/api/jobs": made.ID,
		"/api/jobs/" + made.ID + "/entries?after=5":                                        `"id":"019cb000-00cc-7000-8000-000000000004"`,
		"/api/jobs/" + made.ID + "/materials.csv":                                          "Drying room",
		"/api/jobs/" + made.ID + "/materials.pdf":                                          "%PDF",
		"/api/jobs/" + made.ID + "/systems/sample.system.flexible_cementitious/system.pdf": "%PDF",
		"/api/jobs/" + made.ID + "/sheets/sample.flexible_cementitious/sheet.pdf":          "%PDF",
		"/api/jobs/" + made.ID + "/bundle.json":                                            `"bytes": "`,
		"/api/jobs/" + made.ID + "/areas/" + area + "/cut-card.pdf":                        "%PDF",
	} {
		if a := ask(t, "GET", s.URL+path, "", nil); a.status != 200 || !strings.Contains(a.text, says) {
			t.Errorf("%s: %d %.200s", path, a.status, a.text)
		}
	}
	dossier := ask(t, "GET", job+"/areas/"+area+"/dossier.pdf", "", nil)
	if text := copied(t, dossier.text); dossier.status != 200 || !strings.Contains(text, "Kept by a newer Dusha: air.mapped") || !strings.Contains(text, "could not be read") {
		t.Errorf("the dossier: %d", dossier.status)
	}
	more := bytes.Replace(made.Entries[0], []byte(idOf(made.Entries[0])), []byte("019cb000-00cc-7000-8000-00000000ffff"), 1)
	if a := send(t, "POST", job+"/entries", batch(more)); !strings.Contains(a.text, `"status":201`) {
		t.Errorf("behind it: %s", a.text)
	}
}

func idOf(text []byte) string {
	i := bytes.Index(text, []byte(`"id":"`))
	return string(text[i+6 : i+42])
}
