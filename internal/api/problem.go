package api

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dusha/core/fault"
)

// Problem is an RFC 9457 document. Faults name the field, with the key of the wording.
type Problem struct {
	Type   string       `json:"type"`
	Title  string       `json:"title"`
	Status int          `json:"status"`
	Faults fault.Faults `json:"faults"`
}

func (p *Problem) Error() string { return p.Title }

// GetStatus is the HTTP status of the answer.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType is that of problem documents.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// problem makes the document. What went wrong inside (5xx) is logged and not told.
func problem(ctx context.Context, status int, errs ...error) *Problem {
	p := &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Faults: fault.Faults{}}
	if status >= http.StatusInternalServerError && !areFaults(errs) {
		logOf(ctx).Error("request failed", "status", status, "errors", errors.Join(errs...))
		return p
	}
	for _, err := range errs {
		var detail *huma.ErrorDetail
		switch {
		case err == nil:
		case errors.As(err, &detail):
			p.Faults = append(p.Faults, fault.At(strings.TrimPrefix(detail.Location, "body."), "input.invalid", "detail", detail.Message))
		default:
			p.Faults = append(p.Faults, fault.Of(err)...)
		}
	}
	if len(p.Faults) == 0 {
		p.Faults = fault.Faults{statusFault(status)}
	}
	return p
}

// areFaults tells whether errors are said in the trade's words, and not what a program says.
func areFaults(errs []error) bool {
	for _, err := range errs {
		var f *fault.Fault
		if !errors.As(err, &f) {
			return false
		}
	}
	return len(errs) > 0
}

// statusFault says in the trade's words what a bare status means.
func statusFault(status int) *fault.Fault {
	switch status {
	case http.StatusNotFound:
		return fault.At("address", "request.nothing_there")
	case http.StatusRequestEntityTooLarge:
		return fault.At("body", "request.body_too_large")
	case http.StatusMethodNotAllowed:
		return fault.At("method", "request.method_not_allowed")
	case http.StatusRequestTimeout:
		return fault.At("body", "request.body_too_slow")
	}
	return fault.At("request", "request.refused", "status", status)
}

// useProblems makes every error of Huma such a document.
func useProblems() {
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		return ofHuma(context.Background(), status, message, errs)
	}
	huma.NewErrorWithContext = func(c huma.Context, status int, message string, errs ...error) huma.StatusError {
		return ofHuma(c.Context(), status, message, errs)
	}
}

func ofHuma(ctx context.Context, status int, message string, errs []error) *Problem {
	if status < http.StatusInternalServerError && len(errs) == 0 && status != http.StatusRequestEntityTooLarge {
		errs = []error{fault.At("body", "input.invalid", "detail", message)}
	}
	if status == http.StatusRequestEntityTooLarge {
		errs = nil
	}
	if status >= http.StatusInternalServerError {
		errs = append(errs, errors.New(message))
	}
	return problem(ctx, status, errs...)
}

// answerErrors is Echo's error handler in the same form.
func answerErrors(c *echo.Context, err error) {
	if response, unwrapErr := echo.UnwrapResponse(c.Response()); unwrapErr == nil && response.Committed {
		return
	}
	var own *Problem
	if !errors.As(err, &own) {
		status := echo.StatusCode(err)
		if status == 0 {
			status = http.StatusInternalServerError
		}
		own = problem(c.Request().Context(), status)
		if status >= http.StatusInternalServerError {
			logOf(c.Request().Context()).Error("request failed", "door", c.Path(), "error", err)
		}
	}
	c.Response().Header().Set("Content-Type", own.ContentType(""))
	if err := c.JSON(own.Status, own); err != nil {
		logOf(c.Request().Context()).Warn("answer not sent", "error", err)
	}
}
