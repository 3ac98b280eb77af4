// Command contract writes api/openapi.yaml: the paths and answers of api/paths.yaml, which are written
// by hand, with the schemas of the model, which come from the Go types, their tags and their comments. It
// also writes what the tests of the interface start from.
package main

import (
	"encoding/json"
	"fmt"
	"log"
	"os"
	"reflect"
	"slices"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3gen"
	"go.yaml.in/yaml/v3"

	"arvelt/core/install"
	"arvelt/core/working"
	"arvelt/store"
)

const (
	source = "paths.yaml"
	target = "openapi.yaml"
	refTo  = "#/components/schemas/"
)

func main() {
	log.SetFlags(0)
	if err := run(); err != nil {
		log.Fatal("contract: ", err)
	}
}

func run() error {
	raw, err := os.ReadFile(source)
	if err != nil {
		return err
	}
	var doc map[string]any
	if err := yaml.Unmarshal(raw, &doc); err != nil {
		return err
	}
	parts(doc)
	made, err := schemas()
	if err != nil {
		return err
	}
	all := doc["components"].(map[string]any)["schemas"].(map[string]any)
	for name, s := range made {
		if _, twice := all[name]; twice {
			return fmt.Errorf("schema %s is written by hand and comes from a Go type", name)
		}
		if all[name], err = plain(s); err != nil {
			return err
		}
	}
	var out strings.Builder
	out.WriteString("# Written by go generate ./api from paths.yaml and the Go types of the model: change those.\n")
	enc := yaml.NewEncoder(&out)
	enc.SetIndent(2)
	if err := enc.Encode(doc); err != nil {
		return err
	}
	if err := os.WriteFile(target, []byte(out.String()), 0o644); err != nil {
		return err
	}
	if err := sample(); err != nil {
		return err
	}
	return document()
}

// parts says in the contract which parts a job has.
func parts(doc map[string]any) {
	part := doc["components"].(map[string]any)["parameters"].(map[string]any)["Part"].(map[string]any)
	single, lists := []string{}, []string{}
	for _, k := range install.PartKinds {
		if k.List {
			lists = append(lists, k.Name+"/ID")
		} else {
			single = append(single, k.Name)
		}
	}
	part["description"] = strings.Join(append(single, lists...), ", ")
	part["schema"] = map[string]any{"type": "string", "maxLength": 120}
}

// plain is a schema as YAML writes it.
func plain(s *openapi3.SchemaRef) (out any, err error) {
	raw, err := json.Marshal(s)
	if err == nil {
		err = json.Unmarshal(raw, &out)
	}
	return out, err
}

// enums are the values of the texts that are types of their own.
var enums = map[reflect.Type][]string{
	reflect.TypeFor[install.Basis]():      texts([]install.Basis{"", install.Measured, install.Enquiry, install.Assumed}),
	reflect.TypeFor[install.Kind]():       texts(install.JobKinds),
	reflect.TypeFor[install.RecordKind](): texts(install.Kinds),
	reflect.TypeFor[install.LeftKind]():   texts(append([]install.LeftKind{""}, install.LeftKinds...)),
	reflect.TypeFor[install.PointStep]():  texts(install.PointSteps),
	reflect.TypeFor[install.Stage]():      texts(install.Stages),
	reflect.TypeFor[working.Verdict]():    texts([]working.Verdict{working.Pass, working.Caution, working.Fail, working.Unknown}),
}

func texts[T ~string](all []T) []string {
	out := make([]string, len(all))
	for i, v := range all {
		out[i] = string(v)
	}
	return out
}

// builder makes schemas of types.
type builder struct {
	names map[reflect.Type]string
	said  comments
}

func schemas() (openapi3.Schemas, error) {
	b := &builder{names: map[reflect.Type]string{}, said: comments{}}
	for name, t := range model {
		b.names[t] = name
	}
	value := reflect.TypeFor[install.OptionValue]()
	b.names[value] = "SchoolValue"
	out := openapi3.Schemas{}
	g := openapi3gen.NewGenerator(openapi3gen.UseAllExportedFields(), openapi3gen.SchemaCustomizer(b.custom),
		openapi3gen.CreateTypeNameGenerator(func(t reflect.Type) string { return b.names[t] }),
		openapi3gen.CreateComponentSchemas(openapi3gen.ExportComponentSchemasOptions{ExportComponentSchemas: true,
			ExportTopLevelSchema: true}))
	for name, t := range model {
		if t.Kind() != reflect.Struct {
			out[name] = openapi3.NewSchemaRef("", b.text(t))
			continue
		}
		made := openapi3.Schemas{}
		if _, err := g.NewSchemaRefForValue(reflect.New(t).Interface(), made); err != nil {
			return nil, fmt.Errorf("%s: %w", t, err)
		}
		for name, s := range made {
			if name == "" {
				return nil, fmt.Errorf("%s reaches a type that has no name in the contract", t)
			}
			if s.Value.Type != nil || out[name] == nil {
				out[name] = openapi3.NewSchemaRef("", s.Value)
			}
		}
	}
	out["SchoolValue"] = openapi3.NewSchemaRef("", &openapi3.Schema{Description: "a choice or a text, or a figure",
		OneOf:      openapi3.SchemaRefs{openapi3.NewSchemaRef("", openapi3.NewStringSchema()), openapi3.NewSchemaRef("", openapi3.NewFloat64Schema())},
		Extensions: of(value)})
	b.records(out)
	return out, nil
}

// of says which Go type a schema describes.
func of(t reflect.Type) map[string]any {
	path := t.PkgPath()
	return map[string]any{"x-go-type": path[strings.LastIndex(path, "/")+1:] + "." + t.Name(),
		"x-go-type-import": map[string]any{"path": path}}
}

func (b *builder) text(t reflect.Type) *openapi3.Schema {
	s := openapi3.NewStringSchema()
	s.Extensions = of(t)
	for _, v := range enums[t] {
		s.Enum = append(s.Enum, v)
	}
	return s
}

// custom makes of a struct's schema what JSON of it is: which members are always there, which may be
// null, nothing beside them, and what the tags and comments of its fields say.
func (b *builder) custom(_ string, t reflect.Type, _ reflect.StructTag, s *openapi3.Schema) error {
	if t.Kind() != reflect.Struct || s.Properties == nil {
		return nil
	}
	if b.names[t] == "" {
		return fmt.Errorf("%s has no name in the contract", t)
	}
	s.Extensions = of(t)
	s.AdditionalProperties = openapi3.AdditionalProperties{Has: new(bool)}
	s.Description = b.said.ofType(t)
	s.Required = nil
	b.members(t, s)
	slices.Sort(s.Required)
	return nil
}

func (b *builder) members(t reflect.Type, s *openapi3.Schema) {
	for i := range t.NumField() {
		f := t.Field(i)
		name, rest, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.Anonymous && name == "" && f.Type.Kind() == reflect.Struct {
			b.members(f.Type, s)
			continue
		}
		if !f.IsExported() || name == "-" {
			continue
		}
		if name == "" {
			name = f.Name
		}
		if !strings.Contains(rest, "omit") {
			s.Required = append(s.Required, name)
		}
		s.Properties[name] = b.member(t, f, s.Properties[name])
	}
}

// member is the schema of one field.
func (b *builder) member(in reflect.Type, f reflect.StructField, ref *openapi3.SchemaRef) *openapi3.SchemaRef {
	t, nullable := f.Type, false
	if t.Kind() == reflect.Pointer {
		t, nullable = t.Elem(), true
	}
	said := b.said.ofField(in, f.Name)
	bound := install.BoundOf(f)
	if name := b.names[t]; name != "" {
		if bound.Ranged() {
			said = join(said, fmt.Sprintf("%g to %g", bound.Low, bound.High), bound.Unit)
		}
		if said == "" && !nullable {
			return openapi3.NewSchemaRef(refTo+name, nil)
		}
		s := &openapi3.Schema{Description: said, AllOf: openapi3.SchemaRefs{openapi3.NewSchemaRef(refTo+name, nil)}}
		if nullable {
			s.Nullable, s.Type = true, &openapi3.Types{"object"}
		}
		return openapi3.NewSchemaRef("", s)
	}
	s := openapi3.Schema{}
	if ref != nil && ref.Value != nil {
		s = *ref.Value
	}
	if s.Items != nil {
		s.Items = b.inner(t.Elem(), s.Items)
	}
	if inner := s.AdditionalProperties.Schema; inner != nil {
		s.AdditionalProperties.Schema = b.inner(t.Elem(), inner)
	}
	bounds(&s, t, bound)
	s.Description = join(said, bound.Unit, bound.Zero)
	return openapi3.NewSchemaRef("", &s)
}

// inner is the schema of what a list holds.
func (b *builder) inner(t reflect.Type, was *openapi3.SchemaRef) *openapi3.SchemaRef {
	if t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if name := b.names[t]; name != "" {
		return openapi3.NewSchemaRef(refTo+name, nil)
	}
	if t.Kind() == reflect.Slice && was.Value != nil && was.Value.Items != nil {
		s := *was.Value
		s.Items = b.inner(t.Elem(), s.Items)
		return openapi3.NewSchemaRef("", &s)
	}
	return was
}

// bounds writes what the tags of a field say as the keywords of a schema.
func bounds(s *openapi3.Schema, t reflect.Type, b install.Bound) {
	if b.Ranged() {
		if b.Zero == "" || b.Low <= 0 {
			s.Min = &b.Low
		}
		s.Max = &b.High
	}
	if b.Chars > 0 && t.Kind() == reflect.String {
		n := uint64(b.Chars)
		s.MaxLength = &n
	}
	if b.Most > 0 && t.Kind() == reflect.Slice {
		n := uint64(b.Most)
		s.MaxItems = &n
	}
	if names := install.FixedSet(b.Set); names != nil {
		if b.Maybe {
			names = append([]string{""}, names...)
		}
		for _, n := range names {
			s.Enum = append(s.Enum, n)
		}
	}
}

func join(parts ...string) string {
	return strings.Join(slices.DeleteFunc(parts, func(p string) bool { return p == "" }), "; ")
}

// records are the records that somebody makes: one schema for each kind with the members that it has.
func (b *builder) records(out openapi3.Schemas) {
	record := reflect.TypeFor[install.Record]()
	fields := map[string]reflect.StructField{}
	for i := range record.NumField() {
		name, _, _ := strings.Cut(record.Field(i).Tag.Get("json"), ",")
		fields[name] = record.Field(i)
	}
	union := &openapi3.Schema{Description: "a record of one kind with the members that it has", Extensions: of(reflect.TypeFor[store.NewRecord]()),
		Discriminator: &openapi3.Discriminator{PropertyName: "kind", Mapping: map[string]openapi3.MappingRef{}}}
	for _, kind := range install.Kinds {
		has, needed := install.Members(kind)
		if has == nil {
			continue // nobody makes one by itself
		}
		name := "New"
		for word := range strings.SplitSeq(string(kind), "-") {
			name += strings.ToUpper(word[:1]) + word[1:]
		}
		s := &openapi3.Schema{Type: &openapi3.Types{"object"}, Required: append([]string{"kind"}, needed...), Properties: openapi3.Schemas{},
			AdditionalProperties: openapi3.AdditionalProperties{Has: new(bool)}, Extensions: of(reflect.TypeFor[store.NewRecord]())}
		s.Properties["kind"] = openapi3.NewSchemaRef("", openapi3.NewStringSchema().WithEnum(string(kind)))
		s.Properties["sent"] = openapi3.NewSchemaRef(refTo+"Sent", nil)
		for _, member := range has {
			s.Properties[member] = b.member(record, fields[member], out["Record"].Value.Properties[member])
		}
		slices.Sort(s.Required)
		out[name] = openapi3.NewSchemaRef("", s)
		union.OneOf = append(union.OneOf, openapi3.NewSchemaRef(refTo+name, nil))
		union.Discriminator.Mapping[string(kind)] = openapi3.MappingRef{Ref: refTo + name}
	}
	out["NewRecord"] = openapi3.NewSchemaRef("", union)
}
