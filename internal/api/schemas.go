package api

import (
	"maps"
	"reflect"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/internal/exchange"
)

// Schemas are the JSON Schemas of the documents that leave and come back, by name: an entry
// of each kind, the bundle, and a file of data sheets. They are made from the types that read them.
func Schemas() map[string]map[string]any {
	return map[string]map[string]any{"entry": entrySchema(), "bundle": bundleSchema(), "sheets": sheetsSchema()}
}

const (
	dialect = "https://json-schema.org/draft/2020-12/schema"
	defs    = "#/$defs/"
)

func entrySchema() map[string]any {
	registry := newRegistry(defs)
	envelope := huma.SchemaFromType(registry, reflect.TypeFor[logbook.Entry]())
	bodies := logbook.Bodies()
	kinds := slices.Sorted(maps.Keys(bodies))
	cases := []map[string]any{}
	for _, kind := range kinds {
		body := registry.Schema(bodies[kind], true, string(kind))
		markNullable(registry, bodies[kind], map[reflect.Type]bool{})
		needs := []string{"areaId"}
		if logbook.OfJob(kind) {
			needs = []string{}
		}
		cases = append(cases, map[string]any{
			"if":   map[string]any{"properties": map[string]any{"kind": map[string]any{"const": kind}}},
			"then": map[string]any{"required": needs, "properties": map[string]any{"body": map[string]any{"anyOf": []any{body, map[string]any{"type": "null"}}}}},
		})
	}
	envelope.Properties["body"] = &huma.Schema{Description: "By kind; null withdraws the entry named in corrects."}
	return map[string]any{
		"$schema": dialect, "title": "Entry of the wet-area logbook", "type": "object", "additionalProperties": false,
		"required": envelope.Required, "properties": withKinds(envelope.Properties, kinds), "allOf": cases, "$defs": registry.Map(),
	}
}

func withKinds(properties map[string]*huma.Schema, kinds []logbook.Kind) map[string]any {
	all := map[string]any{}
	for name, schema := range properties {
		all[name] = schema
	}
	all["kind"] = map[string]any{"enum": kinds}
	return all
}

// sheetsSchema is that of a file of data sheets.
func sheetsSchema() map[string]any {
	registry := newRegistry(defs)
	library := huma.SchemaFromType(registry, reflect.TypeFor[sheet.Library]())
	properties := map[string]any{"sheets": library.Properties["sheets"], "format": map[string]any{"const": sheet.LibraryFormat}, "version": map[string]any{"const": 1}}
	return map[string]any{
		"$schema": dialect, "title": "Data sheets of waterproofing products", "type": "object", "additionalProperties": false,
		"required": library.Required, "properties": properties, "$defs": registry.Map(),
	}
}

func bundleSchema() map[string]any {
	registry := newRegistry(defs)
	bundle := huma.SchemaFromType(registry, reflect.TypeFor[exchange.Bundle]())
	return map[string]any{
		"$schema": dialect, "title": "Bundle of a job", "type": "object", "additionalProperties": false,
		"required": bundle.Required, "properties": bundle.Properties, "$defs": registry.Map(),
	}
}
