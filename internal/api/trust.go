package api

import (
	_ "embed"
	"html/template"
	"net/http"

	"github.com/labstack/echo/v5"
)

// Trust is what devices are to trust before they reach a server over TLS: its local authority.
type Trust struct {
	Authority   []byte // PEM
	Fingerprint string
	Address     string // where the server is then reached
}

const (
	trustFile   = "dusha-authority.crt"
	trustPolicy = "default-src 'none'; style-src 'unsafe-inline'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
)

//go:embed trust.html
var trustText string

var trustPage = template.Must(template.New("trust").Parse(trustText))

// serve opens the page that says what is trusted, and the file itself.
func (t *Trust) serve(e *echo.Echo) {
	e.GET("/trust", func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Content-Security-Policy", trustPolicy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Cache-Control", "no-store")
		h.Set("Content-Type", "text/html; charset=utf-8")
		return trustPage.Execute(c.Response(), map[string]string{"Fingerprint": t.Fingerprint, "Address": t.Address, "File": "/trust/" + trustFile})
	})
	e.GET("/trust/"+trustFile, func(c *echo.Context) error {
		c.Response().Header().Set("Content-Disposition", `attachment; filename="`+trustFile+`"`)
		return c.Blob(http.StatusOK, "application/x-x509-ca-cert", t.Authority)
	})
}

// Alone is the page by itself, for devices that do not trust the server yet: nothing else is said there.
func (t *Trust) Alone() http.Handler {
	e := echo.New()
	t.serve(e)
	e.GET("/", func(c *echo.Context) error { return c.Redirect(http.StatusFound, "/trust") })
	return e
}
