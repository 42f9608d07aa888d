package api

import (
	"io"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
)

// policy lets the page load nothing but its own files and what it made itself (blob: for
// photos that are not delivered yet), and compile its WebAssembly.
const policy = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self'; style-src 'self'; font-src 'self'; " +
	"img-src 'self' blob:; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

func init() {
	// Not in Go's own table.
	_ = mime.AddExtensionType(".webmanifest", "application/manifest+json")
	_ = mime.AddExtensionType(".woff2", "font/woff2")
}

// packed are the ways a file lies packed beside itself, the tightest first.
var packed = []struct{ coding, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// servePage serves the built page: packed as the browser takes it where such a file lies beside it, the
// app's index for every path without an extension.
func servePage(e *echo.Echo, page fs.FS) {
	e.GET("/*", func(c *echo.Context) error {
		name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
		if strings.HasPrefix(name, "api/") {
			return echo.ErrNotFound
		}
		if path.Ext(name) == "" {
			name = "index.html"
		}
		if _, err := fs.Stat(page, name); err != nil {
			return echo.ErrNotFound
		}
		h := c.Response().Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cache-Control", "no-cache")
		if strings.HasPrefix(name, "assets/") {
			h.Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		h.Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
		h.Set("Vary", "Accept-Encoding")
		for _, p := range packed {
			if _, err := fs.Stat(page, name+p.ending); err == nil && accepts(c.Request().Header.Get("Accept-Encoding"), p.coding) {
				h.Set("Content-Encoding", p.coding)
				name += p.ending
				break
			}
		}
		return serveFile(c, page, name)
	})
}

// accepts tells whether a browser takes a coding: it names it, and not to say that it does not (RFC 9110,
// 12.5.3).
func accepts(said, coding string) bool {
	for one := range strings.SplitSeq(said, ",") {
		name, weight, _ := strings.Cut(strings.ReplaceAll(strings.ToLower(one), " ", ""), ";")
		if name == coding {
			q, err := strconv.ParseFloat(strings.TrimPrefix(weight, "q="), 64)
			return weight == "" || err == nil && q > 0
		}
	}
	return false
}

// serveFile sends a file as it is; http.ServeFile would send /index.html elsewhere, and the
// page's own cache could not keep it.
func serveFile(c *echo.Context, page fs.FS, name string) error {
	file, err := page.Open(name)
	if err != nil {
		return echo.ErrNotFound
	}
	defer file.Close()
	content, ok := file.(io.ReadSeeker)
	if !ok {
		return echo.ErrNotFound
	}
	http.ServeContent(c.Response(), c.Request(), name, time.Time{}, content)
	return nil
}
