package api

import (
	"log/slog"
	"strings"
	"testing"

	"github.com/labstack/echo/v5"

	"dusha/core/ops"
)

// A door that nobody gave a row is a mistake that is seen before anyone can use it.
func TestADoorWithoutARowDoesNotStart(t *testing.T) {
	e, _, err := New(Config{Table: ops.Table{}, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	e.DELETE("/api/jobs/:job", func(*echo.Context) error { return nil })
	if err := checkRoutes(e, routesOf()); err == nil || !strings.Contains(err.Error(), "DELETE /api/jobs/:job") {
		t.Errorf("got %v", err)
	}
}

// Every row is of a door that there is, with all that it needs.
func TestEveryRowIsOfADoor(t *testing.T) {
	e, _, err := New(Config{Table: ops.Table{}, Log: slog.New(slog.DiscardHandler), Trust: &Trust{}})
	if err != nil {
		t.Fatal(err)
	}
	made := map[string]bool{}
	for _, r := range e.Router().Routes() {
		made[r.Method+" "+r.Path] = true
	}
	for _, r := range routesOf() {
		if !made[r.method+" "+r.path] && r.path != "/*" { // the page is not built here
			t.Errorf("%s %s is no door", r.method, r.path)
		}
		if r.right == "" || r.within == 0 || isBody(r.method) != (r.most > 0 && len(r.takes) > 0) {
			t.Errorf("%s %s lacks a right, a time or what it takes", r.method, r.path)
		}
	}
}

func TestAFileIsNamedInAnyAlphabet(t *testing.T) {
	for name, want := range map[string]string{
		"Drying room":              "drying-room",
		"Bad-WC, 2. OG":            "bad-wc-2-og",
		"Duschraum für Gäste":      "duschraum-für-gäste",
		"Душевая № 3":              "душевая-3",
		"浴室":                       "浴室",
		"../../etc/passwd\r\nX: y": "etc-passwd-x-y",
		" / ":                      "paper",
	} {
		if got := fileName(name); got != want {
			t.Errorf("%q is named %q, want %q", name, got, want)
		}
	}
	if d := paper("application/pdf", "pdf", "inline", "Gäste", nil).Disposition; d != "inline; filename*=utf-8''g%C3%A4ste.pdf" {
		t.Errorf("said as %s", d)
	}
}
