package api

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

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
