package api

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"
	"time"

	"dusha/draw"
)

// A file goes out packed as tightly as the browser takes it, and as it is where it takes nothing.
func TestFilesArePackedAsTheBrowserTakesThem(t *testing.T) {
	page := fstest.MapFS{
		"index.html": {Data: []byte("page")}, "assets/a.wasm": {Data: []byte("plain")},
		"assets/a.wasm.gz": {Data: []byte("gzip")}, "assets/a.wasm.br": {Data: []byte("br")}, "assets/b.js": {Data: []byte("plain")}, "assets/b.js.gz": {Data: []byte("gzip")},
	}
	e, _, err := New(Config{Table: draw.Table(), Log: slog.New(slog.DiscardHandler), Page: page})
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(e)
	defer server.Close()
	for _, c := range []struct{ path, accepts, want, coding string }{
		{"/assets/a.wasm", "gzip, deflate, br, zstd", "br", "br"},
		{"/assets/a.wasm", "br;q=1.0, gzip;q=0.8", "br", "br"},
		{"/assets/a.wasm", "gzip", "gzip", "gzip"},
		{"/assets/a.wasm", "gzip, br;q=0", "gzip", "gzip"},
		{"/assets/a.wasm", "BR; q=0.5", "br", "br"},
		{"/assets/a.wasm", "brotli, gzipped", "plain", ""},
		{"/assets/a.wasm", "identity", "plain", ""},
		{"/assets/b.js", "br", "plain", ""},
		{"/assets/b.js", "br, gzip", "gzip", "gzip"},
	} {
		request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, server.URL+c.path, nil)
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Accept-Encoding", c.accepts)
		answer, err := http.DefaultTransport.RoundTrip(request)
		if err != nil {
			t.Fatal(err)
		}
		text, err := io.ReadAll(answer.Body)
		answer.Body.Close()
		if err != nil || string(text) != c.want || answer.Header.Get("Content-Encoding") != c.coding || answer.Header.Get("Vary") != "Accept-Encoding" {
			t.Errorf("%s, taking %q: %q as %q, %v", c.path, c.accepts, text, answer.Header.Get("Content-Encoding"), err)
		}
	}
}

// A list of jobs has another name as soon as anything of it is another, what is set aside too.
func TestAListIsNamedByAllItSays(t *testing.T) {
	at := time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)
	list := func(change func(*JobLine)) string {
		job := JobLine{ID: "a", LastSeq: 7, Head: "ab", Quarantine: []Aside{{Seq: 3, ID: "b", Why: "odd", At: at}}}
		change(&job)
		return tagOf([]JobLine{job, {ID: "z"}})
	}
	seen := map[string]string{}
	for name, change := range map[string]func(*JobLine){
		"as it is": func(*JobLine) {}, "another job": func(j *JobLine) { j.ID = "c" }, "an entry more": func(j *JobLine) { j.LastSeq++ }, "another book": func(j *JobLine) { j.Head = "ac" },
		"released": func(j *JobLine) { j.Quarantine = nil }, "another entry aside": func(j *JobLine) { j.Quarantine[0].Seq = 4 }, "another id": func(j *JobLine) { j.Quarantine[0].ID = "c" },
		"another reason": func(j *JobLine) { j.Quarantine[0].Why = "even" }, "another time": func(j *JobLine) { j.Quarantine[0].At = at.Add(time.Second) },
	} {
		tag := list(change)
		if other, twice := seen[tag]; twice {
			t.Errorf("%s and %s have one name", name, other)
		}
		seen[tag] = name
	}
	if again := list(func(*JobLine) {}); seen[again] != "as it is" {
		t.Error("the same list has two names")
	}
}
