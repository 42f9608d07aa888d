package api

import (
	"context"
	"errors"
	"log/slog"
	"mime"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"

	"dusha/core/fault"
)

// Headers of everything under /api: what is answered there is data, never a page. Papers that
// a browser opens lay the sandbox off, for its own reader would not start in it.
const (
	dataPolicy  = "default-src 'none'; frame-ancestors 'none'; sandbox"
	paperPolicy = "default-src 'none'; style-src 'unsafe-inline'; object-src 'self'; frame-ancestors 'none'"
)

// doors is what every request passes, the outermost first: who asks under which name, from
// where, by which right, with what, and for how long.
func doors(c Config, table []route) echo.MiddlewareFunc {
	cross, bodies := http.NewCrossOriginProtection(), allBodies()
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		passed := func(ctx *echo.Context) error {
			request := ctx.Request()
			underAPI := strings.HasPrefix(request.URL.Path, "/api/")
			if underAPI {
				h := ctx.Response().Header()
				h.Set("Content-Security-Policy", dataPolicy)
				h.Set("X-Content-Type-Options", "nosniff")
				h.Set("Referrer-Policy", "no-referrer")
				h.Set("Cross-Origin-Resource-Policy", "same-origin")
				h.Set("Cache-Control", "no-store")
			}
			if !c.knows(request.Host) {
				return problem(request.Context(), http.StatusMisdirectedRequest, fault.At("host", "request.unknown_host", "typed", fault.Short(request.Host)))
			}
			if len(c.Proxies) > 0 && !slices.Contains(c.Proxies, addressOf(request)) {
				return problem(request.Context(), http.StatusForbidden, fault.At("address", "request.only_by_proxy"))
			}
			if cross.Check(request) != nil || underAPI && fromElsewhere(request) {
				return problem(request.Context(), http.StatusForbidden, fault.At("origin", "request.other_origin"))
			}
			i := slices.IndexFunc(table, func(r route) bool { return r.method == request.Method && r.path == ctx.Path() })
			if i < 0 {
				return next(ctx) // there is no such door, and that is said
			}
			return pass(c, &table[i], bodies, ctx, next)
		}
		return func(ctx *echo.Context) error { return trace(c.Log, ctx, passed) }
	}
}

// pass holds a request against the row of its door.
func pass(c Config, r *route, bodies *share, ctx *echo.Context, next echo.HandlerFunc) error {
	request, device := ctx.Request(), uuid.Nil
	who := caller{may: func(Right) bool { return true }}
	if strings.HasPrefix(request.URL.Path, "/api/") { // the page and its parts ask nothing
		var err error
		if who, err = c.called(request, ctx.Response().Header()); err != nil {
			return problem(request.Context(), http.StatusInternalServerError, err)
		}
	}
	if who.device != nil {
		device = who.device.ID
		tracedOf(request.Context()).device = device
	}
	switch {
	case r.right != Public && c.Access != nil && who.device == nil:
		return problem(request.Context(), http.StatusUnauthorized, fault.At("device", who.why))
	case r.right != Public && !who.may(r.right):
		return problem(request.Context(), http.StatusForbidden, fault.At("right", "request.not_allowed", "right", string(r.right)))
	case r.local && (len(c.Proxies) > 0 || !isLocal(request.RemoteAddr)):
		return problem(request.Context(), http.StatusForbidden, fault.At("address", "request.only_here"))
	case r.paired && c.Access == nil:
		return problem(request.Context(), http.StatusNotFound, fault.At("device", "pairing.not_here"))
	case isBody(request.Method) && !takes(r.takes, request.Header.Get("Content-Type")):
		return problem(request.Context(), http.StatusUnsupportedMediaType, fault.At("body", "request.other_media", "wanted", strings.Join(r.takes, ", ")))
	case request.ContentLength > r.most && isBody(request.Method):
		return problem(request.Context(), http.StatusRequestEntityTooLarge)
	}
	if wait := r.tooMuch(device, request, bodies); wait > 0 {
		return waits(request.Context(), ctx.Response().Header(), wait)
	}
	until := time.Now().Add(r.within)
	deadline, done := context.WithDeadline(context.WithValue(request.Context(), callerKey{}, who), until)
	defer done()
	control := http.NewResponseController(ctx.Response())
	_ = errors.Join(control.SetReadDeadline(until), control.SetWriteDeadline(until.Add(quick))) // a test's recorder has none
	if r.few != nil {
		turn, over := context.WithTimeout(deadline, quick)
		defer over()
		leave, err := r.few.enter(turn, device)
		if err != nil {
			ctx.Response().Header().Set("Retry-After", "5")
			return problem(request.Context(), http.StatusServiceUnavailable, fault.At("request", "request.too_busy"))
		}
		defer leave()
	}
	ctx.SetRequest(request.WithContext(deadline))
	return next(ctx)
}

// knows tells whether a server goes by this name. A name that somebody else's page has led here
// (DNS rebinding) is none of them.
func (c Config) knows(host string) bool {
	name := host
	if only, _, err := net.SplitHostPort(host); err == nil {
		name = only
	}
	name = strings.ToLower(strings.Trim(name, "[]"))
	return name == "localhost" || name == "127.0.0.1" || name == "::1" || slices.Contains(c.Hosts, name)
}

// fromElsewhere tells whether another site's page asks, other than by a link that somebody
// followed: a browser that says where a request comes from says it of reading too.
func fromElsewhere(r *http.Request) bool {
	switch r.Header.Get("Sec-Fetch-Site") {
	case "", "same-origin", "none":
		return false
	}
	followed := r.Header.Get("Sec-Fetch-Mode") == "navigate" && r.Header.Get("Sec-Fetch-Dest") == "document"
	return !followed
}

func isLocal(remote string) bool {
	at, err := netip.ParseAddrPort(remote)
	return err == nil && at.Addr().Unmap().IsLoopback()
}

// addressOf is the machine that a request comes from, the last one on its way.
func addressOf(request *http.Request) netip.Addr {
	at, _ := netip.ParseAddrPort(request.RemoteAddr) // of this program's own listener
	return at.Addr().Unmap()
}

// placeOf is where a request comes from: the machine that asks, or what the declared proxy says of it.
func (c Config) placeOf(request *http.Request) string {
	if len(c.Proxies) > 0 {
		said := strings.Split(request.Header.Get("X-Forwarded-For"), ",")
		return strings.TrimSpace(said[len(said)-1])
	}
	return addressOf(request).String()
}

func takes(media []string, said string) bool {
	kind, _, err := mime.ParseMediaType(said)
	return err == nil && slices.Contains(media, kind)
}

// Harden gives a server the time-outs that hold before any door is known.
func Harden(s *http.Server, log *slog.Logger) {
	const headerBytes = 32 << 10
	s.ReadHeaderTimeout, s.ReadTimeout, s.WriteTimeout, s.IdleTimeout = quick, slow, slow, time.Minute
	s.MaxHeaderBytes = headerBytes
	s.ErrorLog = slog.NewLogLogger(log.Handler(), slog.LevelWarn)
}
