package api

import (
	"context"
	"errors"
	"io"
	"net"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v5"

	"dusha/core/fault"
)

const (
	computePath = "/api/compute/"
	mostCompute = 8 << 20

	mostComputing = 4 // at once, those left behind with them
)

// registerCompute serves the table of operations and describes each in the OpenAPI
// document, so that the page's types come from the core's.
func registerCompute(e *echo.Echo, api huma.API, c Config) {
	for _, name := range c.Table.Names() {
		op := c.Table[name]
		schemas := api.OpenAPI().Components.Schemas
		in, out := schemas.Schema(op.In, true, ""), schemas.Schema(op.Out, true, "")
		api.OpenAPI().AddOperation(&huma.Operation{
			OperationID: "compute-" + strings.ReplaceAll(name, ".", "-"), Method: http.MethodPost, Path: computePath + name, Summary: op.About,
			RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{"application/json": {Schema: in}}},
			Responses:   map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{"application/json": {Schema: out}}}},
		})
		markNullable(schemas, op.In, map[reflect.Type]bool{})
		markNullable(schemas, op.Out, map[reflect.Type]bool{})
	}
	e.POST(computePath+":operation", func(ctx *echo.Context) error {
		input, err := io.ReadAll(http.MaxBytesReader(ctx.Response(), ctx.Request().Body, mostCompute))
		var late net.Error
		if errors.As(err, &late) && late.Timeout() {
			return problem(ctx.Request().Context(), http.StatusRequestTimeout)
		}
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			return problem(ctx.Request().Context(), http.StatusRequestEntityTooLarge)
		}
		if err != nil {
			return problem(ctx.Request().Context(), http.StatusBadRequest, fault.At("body", "request.body_cut_off"))
		}
		name := ctx.Param("operation")
		out, err := c.compute(ctx.Request().Context(), name, input)
		if errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
			return problem(ctx.Request().Context(), http.StatusServiceUnavailable, fault.At("request", "request.too_busy"))
		}
		if err != nil {
			status := http.StatusUnprocessableEntity
			if _, known := c.Table[name]; !known {
				status = http.StatusNotFound
			}
			return problem(ctx.Request().Context(), status, err)
		}
		return ctx.JSONBlob(http.StatusOK, out)
	})
}

// compute runs an operation among the few that run at once.
func (c Config) compute(ctx context.Context, name string, input []byte) ([]byte, error) {
	select {
	case c.running <- struct{}{}:
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	return Await(ctx, func() ([]byte, error) {
		defer func() { <-c.running }()
		return c.Table.Call(name, input)
	})
}

// Await does work until it is done, its time is over, or nobody waits for it any more. The core asks
// no clock: what is left behind ends by itself, since every operation is bounded.
func Await[T any](ctx context.Context, work func() (T, error)) (T, error) {
	type answer struct {
		out T
		err error
	}
	done := make(chan answer, 1)
	go func() {
		out, err := work()
		done <- answer{out, err}
	}()
	select {
	case <-ctx.Done():
		var none T
		return none, ctx.Err()
	case a := <-done:
		return a.out, a.err
	}
}

// newRegistry names schemas under a prefix; a list in them is never null.
func newRegistry(prefix string) huma.Registry {
	huma.DefaultArrayNullable = false
	return huma.NewMapRegistry(prefix, schemaName)
}

// schemaName keeps types of one name in different packages apart: "logbook.Plan" is
// LogbookPlan.
func schemaName(t reflect.Type, hint string) string {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	name := huma.DefaultSchemaNamer(t, hint)
	if path := t.PkgPath(); strings.HasPrefix(path, "dusha/") && t.Name() != "" {
		folder := path[strings.LastIndex(path, "/")+1:]
		return strings.ToUpper(folder[:1]) + folder[1:] + name
	}
	return name
}

// markNullable says which members may be null: a pointer without omitempty. The schema
// maker leaves that out for pointers to structs.
func markNullable(schemas huma.Registry, t reflect.Type, seen map[reflect.Type]bool) {
	for t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice || t.Kind() == reflect.Map {
		t = t.Elem()
	}
	if t.Kind() != reflect.Struct || seen[t] {
		return
	}
	seen[t] = true
	if schema := schemas.Map()[schemaName(t, "")]; schema != nil {
		markMembers(schema, t)
	}
	for i := range t.NumField() {
		markNullable(schemas, t.Field(i).Type, seen)
	}
}

// markMembers marks the members of a struct, those of embedded structs with them.
func markMembers(schema *huma.Schema, t reflect.Type) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			markMembers(schema, f.Type)
			continue
		}
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		member := schema.Properties[name]
		if f.Type.Kind() == reflect.Pointer && options != "omitempty" && member != nil && member.Ref != "" {
			schema.Properties[name] = &huma.Schema{AnyOf: []*huma.Schema{{Ref: member.Ref}, {Type: "null"}}}
		}
	}
}
