package api

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"time"

	"github.com/google/uuid"
	"github.com/labstack/echo/v5"
)

// requestHeader tells who asked under which number the log has it.
const requestHeader = "Dusha-Request"

// traced is what is known of a request: its log, each line of which carries its number, and the device
// that asks, once a door has found it.
type traced struct {
	log    *slog.Logger
	device uuid.UUID
}

type tracedKey struct{}

func tracedOf(ctx context.Context) *traced {
	if t, is := ctx.Value(tracedKey{}).(*traced); is {
		return t
	}
	return &traced{log: slog.Default()}
}

func logOf(ctx context.Context) *slog.Logger { return tracedOf(ctx).log }

// trace numbers a request and writes one line of it: the door, what came of it, how long it took and
// which device asked. Nothing that somebody typed stands in it, nor what a device shows: doors are
// named by their pattern. What only asks, and is answered, is not worth a line but when all is asked for.
func trace(log *slog.Logger, ctx *echo.Context, next echo.HandlerFunc) error {
	request, begun, number := ctx.Request(), time.Now(), uuid.NewString()
	own := &traced{log: log.With("request", number)}
	within := context.WithValue(request.Context(), tracedKey{}, own)
	ctx.SetRequest(request.WithContext(within))
	ctx.Response().Header().Set(requestHeader, number)
	err := next(ctx)
	status, level := statusOf(ctx, err), slog.LevelDebug
	if status >= http.StatusBadRequest || isBody(request.Method) || request.Method == http.MethodDelete {
		level = slog.LevelInfo
	}
	line := []any{"method", request.Method, "door", ctx.Path(), "status", status, "ms", time.Since(begun).Milliseconds()}
	if own.device != uuid.Nil {
		line = append(line, "device", own.device)
	}
	own.log.Log(within, level, "answered", line...)
	return err
}

// statusOf is what a request was answered with, or is about to be.
func statusOf(ctx *echo.Context, err error) int {
	var own *Problem
	if errors.As(err, &own) {
		return own.Status
	}
	if err != nil {
		if status := echo.StatusCode(err); status != 0 {
			return status
		}
		return http.StatusInternalServerError
	}
	if response, wrong := echo.UnwrapResponse(ctx.Response()); wrong == nil {
		return response.Status
	}
	return http.StatusOK
}
