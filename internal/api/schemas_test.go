package api

import (
	"encoding/json"
	"os"
	"reflect"
	"strings"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dusha/core/logbook"
	"dusha/demo"
)

func TestTheSchemasAreFresh(t *testing.T) {
	for name, schema := range Schemas() {
		fresh, err := json.MarshalIndent(schema, "", " ")
		if err != nil {
			t.Fatal(err)
		}
		kept, err := os.ReadFile("../../api/" + name + ".schema.json")
		if err != nil {
			t.Fatal(err)
		}
		if strings.TrimSpace(string(kept)) != string(fresh) {
			t.Errorf("api/%s.schema.json is stale: run make api", name)
		}
	}
}

// The body of every entry of the hostel fits the schema of its kind, and one with a member
// too many or of another type does not.
func TestBodiesFitTheirSchemas(t *testing.T) {
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 3)
	if err != nil {
		t.Fatal(err)
	}
	registry := newRegistry(defs)
	seen := map[string]bool{}
	for _, text := range made.Entries {
		var e struct {
			Kind string
			Body any
		}
		if err := json.Unmarshal(text, &e); err != nil {
			t.Fatal(err)
		}
		body := logbook.Bodies()[logbook.Kind(e.Kind)]
		schema := registry.Schema(body, true, e.Kind)
		markNullable(registry, body, map[reflect.Type]bool{})
		check := func(v any) []error {
			var result huma.ValidateResult
			huma.Validate(registry, schema, huma.NewPathBuffer(nil, 0), huma.ModeWriteToServer, v, &result)
			return result.Errors
		}
		if faults := check(e.Body); len(faults) > 0 {
			t.Errorf("%s: %v", text, faults)
		}
		if !seen[e.Kind] {
			seen[e.Kind] = true
			e.Body.(map[string]any)["one_too_many"] = 1.0
			if len(check(e.Body)) == 0 {
				t.Errorf("%s with a member too many fits its schema", e.Kind)
			}
		}
	}
	if len(seen) < 15 {
		t.Errorf("only %d kinds were checked", len(seen))
	}
}
