// Package exact holds JSON to what every reader reads alike: no object has a key twice, and a key that
// is of a field is written exactly as the field's. Other readers take the first of two keys or the last,
// or tell capitals apart; what is signed must not say one thing to us and another to them (RFC 8259
// section 4: names within an object SHOULD be unique).
package exact

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
)

// KeyError says which key stands where it must not.
type KeyError struct {
	Path string // of the object, as circuits[0].route; empty for the outermost
	Key  string
	As   string // the key that it stands for; empty where it stands twice
}

func (e *KeyError) Error() string {
	at := ""
	if e.Path != "" {
		at = " of " + e.Path
	}
	if e.As != "" {
		return fmt.Sprintf("%.80q%s is not accepted; give %q", e.Key, at, e.As)
	}
	return fmt.Sprintf("%.80q%s stands there twice; give it once", e.Key, at)
}

// Check reads one JSON value that is to be decoded into v, and errs with a [KeyError] where an object has
// a key twice, however it is written, or has a field's key in other capitals. What else is wrong with it
// is left to who decodes it.
func Check(raw []byte, v any) error {
	c := &checker{dec: json.NewDecoder(bytes.NewReader(raw))}
	c.dec.UseNumber()
	err := c.value(reflect.TypeOf(v), "")
	if key, ok := err.(*KeyError); ok {
		return key
	}
	return nil
}

type checker struct{ dec *json.Decoder }

var raws = reflect.TypeFor[json.RawMessage]()

func (c *checker) value(t reflect.Type, path string) error {
	token, err := c.dec.Token()
	if err != nil {
		return err
	}
	for t != nil && t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	switch token {
	case json.Delim('{'):
		return c.object(t, path)
	case json.Delim('['):
		var of reflect.Type
		if t != nil && t != raws && (t.Kind() == reflect.Slice || t.Kind() == reflect.Array) {
			of = t.Elem()
		}
		for i := 0; c.dec.More(); i++ {
			if err := c.value(of, fmt.Sprintf("%s[%d]", path, i)); err != nil {
				return err
			}
		}
		_, err = c.dec.Token()
	}
	return err
}

func (c *checker) object(t reflect.Type, path string) error {
	fields := map[string]reflect.StructField{} // by the key in small letters
	if t != nil && t.Kind() == reflect.Struct {
		fieldsOf(t, fields)
	}
	seen := map[string]bool{}
	for c.dec.More() {
		token, err := c.dec.Token()
		if err != nil {
			return err
		}
		key, _ := token.(string)
		low := strings.ToLower(key)
		f, known := fields[low]
		id := key // the keys of a map are told apart by their capitals
		if known {
			id = low
			if name := nameOf(f); name != key {
				return &KeyError{Path: path, Key: key, As: name}
			}
		}
		if seen[id] {
			return &KeyError{Path: path, Key: key}
		}
		seen[id] = true
		var of reflect.Type
		switch {
		case known:
			of = f.Type
		case t != nil && t.Kind() == reflect.Map:
			of = t.Elem()
		}
		below := key
		if path != "" {
			below = path + "." + key
		}
		if err := c.value(of, below); err != nil {
			return err
		}
	}
	_, err := c.dec.Token()
	return err
}

func nameOf(f reflect.StructField) string {
	if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); name != "" {
		return name
	}
	return f.Name
}

func fieldsOf(t reflect.Type, into map[string]reflect.StructField) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous && f.Tag.Get("json") == "" {
			of := f.Type
			if of.Kind() == reflect.Pointer {
				of = of.Elem()
			}
			if of.Kind() == reflect.Struct {
				fieldsOf(of, into)
			}
			continue
		}
		if f.IsExported() && f.Tag.Get("json") != "-" {
			into[strings.ToLower(nameOf(f))] = f
		}
	}
}
