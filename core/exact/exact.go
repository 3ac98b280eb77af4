// Package exact holds JSON to what every reader reads alike: no object has a key twice, and a key that
// is of a field is written exactly as the field's. Other readers take the first of two keys or the last,
// or tell capitals apart; what is signed must not say one thing to us and another to them (RFC 8259
// section 4: names within an object SHOULD be unique).
package exact

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"strings"
	"sync"
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
	if !json.Valid(raw) {
		return nil
	}
	c := &checker{raw: raw}
	if err := c.value(reflect.TypeOf(v)); err != nil {
		return err
	}
	return nil
}

// checker walks over JSON that is valid, without taking it apart: each edit is checked.
type checker struct {
	raw []byte
	at  int
}

// skip passes blanks and the signs between values.
func (c *checker) skip() {
	for c.at < len(c.raw) && strings.IndexByte(" \t\r\n,:", c.raw[c.at]) >= 0 {
		c.at++
	}
}

// text passes a string and is what stands in its quotes, as it is written.
func (c *checker) text() []byte {
	c.at++
	from := c.at
	for c.raw[c.at] != '"' {
		if c.raw[c.at] == '\\' {
			c.at++
		}
		c.at++
	}
	c.at++
	return c.raw[from : c.at-1]
}

// key passes a key and reads it.
func (c *checker) key() []byte {
	from := c.at
	text := c.text()
	if bytes.IndexByte(text, '\\') < 0 {
		return text
	}
	var key string
	_ = json.Unmarshal(c.raw[from:c.at], &key) // it is valid
	return []byte(key)
}

// value passes a value that is decoded into a type; nil where that is not known.
func (c *checker) value(t reflect.Type) *KeyError {
	for t != nil && t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	c.skip()
	switch c.raw[c.at] {
	case '{':
		return c.object(t)
	case '[':
		return c.array(t)
	case '"':
		c.text()
		return nil
	}
	for c.at < len(c.raw) && strings.IndexByte(" \t\r\n,]}", c.raw[c.at]) < 0 { // a number, a truth or null
		c.at++
	}
	return nil
}

func (c *checker) array(t reflect.Type) *KeyError {
	var of reflect.Type
	if t != nil && t != raws && (t.Kind() == reflect.Slice || t.Kind() == reflect.Array) {
		of = t.Elem()
	}
	c.at++
	c.skip()
	for i := 0; c.raw[c.at] != ']'; i++ {
		if err := c.value(of); err != nil {
			return err.below(fmt.Sprintf("[%d]", i))
		}
		c.skip()
	}
	c.at++
	return nil
}

var raws = reflect.TypeFor[json.RawMessage]()

func (c *checker) object(t reflect.Type) *KeyError {
	var fields *fields
	var entry reflect.Type // of a map
	if t != nil && t.Kind() == reflect.Struct {
		fields = fieldsOf(t)
	} else if t != nil && t.Kind() == reflect.Map {
		entry = t.Elem()
	}
	var met [4]uint64          // fields, by their numbers
	var others map[string]bool // keys of no field, told apart by their capitals
	c.at++
	c.skip()
	for c.raw[c.at] != '}' {
		key, of := c.key(), entry
		f := fields.by(key)
		twice := false
		switch {
		case f == nil:
			if others == nil {
				others = map[string]bool{}
			}
			twice, others[string(key)] = others[string(key)], true
		case f.name != string(key):
			return &KeyError{Key: string(key), As: f.name}
		default:
			word, bit := &met[f.number/64], uint64(1)<<(f.number%64)
			twice, of = *word&bit != 0, f.of
			*word |= bit
		}
		if twice {
			return &KeyError{Key: string(key)}
		}
		if err := c.value(of); err != nil {
			return err.below(string(key))
		}
		c.skip()
	}
	c.at++
	return nil
}

// below puts a step before the path of an error.
func (e *KeyError) below(step string) *KeyError {
	if e.Path != "" && e.Path[0] != '[' {
		step += "."
	}
	e.Path = step + e.Path
	return e
}

// field is a field of a struct as JSON writes it.
type field struct {
	name   string
	of     reflect.Type
	number int // among those of its struct
}

// fields are those of a struct, with those of what it embeds: by their names, and by these in small letters.
type fields struct{ exact, low map[string]*field }

// by is the field that a key stands for, in whatever capitals; nil where it is of none.
func (fs *fields) by(key []byte) *field {
	if fs == nil {
		return nil
	}
	if f := fs.exact[string(key)]; f != nil {
		return f
	}
	return fs.low[strings.ToLower(string(key))]
}

var known sync.Map // type to its fields

// fieldsOf are the fields of a struct. It panics where they are more than an object is checked for.
func fieldsOf(t reflect.Type) *fields {
	if fs, ok := known.Load(t); ok {
		return fs.(*fields)
	}
	out := &fields{map[string]*field{}, map[string]*field{}}
	for _, f := range reflect.VisibleFields(t) {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if f.IsExported() && name != "-" && !(f.Anonymous && name == "") {
			x := &field{cmp.Or(name, f.Name), f.Type, len(out.exact)}
			out.exact[x.name], out.low[strings.ToLower(x.name)] = x, x
		}
	}
	if len(out.exact) > 256 {
		panic(t.String() + " has more than 256 fields")
	}
	known.Store(t, out)
	return out
}
