package api

import (
	_ "embed"
	"encoding/json"
	"maps"
	"strings"

	"go.yaml.in/yaml/v3"
)

//go:embed openapi.yaml
var contract []byte

// Contract returns the OpenAPI contract.
func Contract() []byte { return contract }

// JobFileSchema returns the JSON Schema (2020-12) of the open job file, made of
// the contract's Job and what it refers to. docs/job-file.schema.json is a copy
// of it, held equal by a test.
func JobFileSchema() ([]byte, error) {
	var doc struct {
		Components struct {
			Schemas map[string]any `yaml:"schemas"`
		} `yaml:"components"`
	}
	if err := yaml.Unmarshal(contract, &doc); err != nil {
		return nil, err
	}
	defs := map[string]any{}
	var need func(name string)
	var turn func(v any) any
	turn = func(v any) any {
		switch x := v.(type) {
		case []any:
			for i := range x {
				x[i] = turn(x[i])
			}
		case map[string]any:
			out := map[string]any{}
			for k, inner := range x {
				switch ref, isText := inner.(string); {
				case k == "$ref" && isText:
					name := strings.TrimPrefix(ref, "#/components/schemas/")
					need(name)
					out[k] = "#/$defs/" + name
				case strings.HasPrefix(k, "x-go-"), k == "nullable":
				case k == "format" && (ref == "double" || ref == "float"):
				default:
					out[k] = turn(inner)
				}
			}
			if x["nullable"] != true {
				return out
			}
			if one, ok := out["allOf"].([]any); ok { // null is none of what the one it refers to may be
				delete(out, "allOf")
				delete(out, "type")
				out["anyOf"] = append(one, map[string]any{"type": "null"})
			} else if kind, ok := out["type"].(string); ok {
				out["type"] = []any{kind, "null"}
			}
			return out
		}
		return v
	}
	need = func(name string) {
		if _, done := defs[name]; !done {
			defs[name] = nil
			defs[name] = turn(doc.Components.Schemas[name])
		}
	}
	need("Job")
	root := map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema", "$id": "urn:arvelt:job-file:1",
		"title": "Arvelt job file, format arvelt-job/1",
		"description": "One job whole: facts and decisions, records that are only ever added, and the seals of signed revisions. " +
			"Lengths are in metres unless the name says mm; currents in A, impedances in Ω, fault currents in kA, sizes in mm².",
	}
	maps.Copy(root, defs["Job"].(map[string]any))
	delete(defs, "Job")
	root["properties"].(map[string]any)["picturesLeftOut"] = map[string]any{
		"type": "array", "items": map[string]any{"type": "string", "pattern": "^[0-9a-f]{64}$"},
		"description": "SHA-256 of the pictures that the records show and that are no part of the file.",
	}
	root["$defs"] = defs
	raw, err := json.MarshalIndent(root, "", "  ")
	return append(raw, '\n'), err
}
