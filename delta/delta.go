// Package delta tells how one value differs from another of its type, as operations of a JSON
// Patch (RFC 6902) on what encoding/json makes of them. It compares the values themselves: to
// encode both and compare the texts takes ten times as long on an answer of 200 kB.
package delta

import (
	"encoding"
	"encoding/json"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// Op is one operation of a patch: "add", "remove" or "replace" at a JSON Pointer (RFC 6901).
type Op struct {
	Op    string `json:"op"`
	Path  string `json:"path"`
	Value any    `json:"value,omitempty"`
}

// null is the value of an operation that sets one to null: a nil interface would leave it out.
var null = (*struct{})(nil)

// valued is the value of an operation.
func valued(v reflect.Value) any {
	if v.Kind() == reflect.Interface && v.IsNil() {
		return null
	}
	return v.Interface()
}

// Of lists what makes was into is. Both are of one type, which encodes as a JSON object. The
// operations hold values of is, so they are encoded before it is changed.
func Of[T any](was, is T) []Op {
	d := &differ{ops: []Op{}}
	d.value(nil, reflect.ValueOf(&was).Elem(), reflect.ValueOf(&is).Elem())
	return d.ops
}

type differ struct{ ops []Op }

// step is one step of a JSON Pointer: most are never written, as most values are alike.
type step struct {
	above *step
	name  string // of a member, escaped; empty for an item
	item  int
}

func (s *step) String() string {
	if s == nil {
		return ""
	}
	if s.name == "" {
		return s.above.String() + "/" + strconv.Itoa(s.item)
	}
	return s.above.String() + "/" + s.name
}

func (d *differ) replace(at *step, v reflect.Value) {
	d.ops = append(d.ops, Op{"replace", at.String(), valued(v)})
}

// own reports whether a type writes its JSON itself, so that nothing is known of its inside.
func own(t reflect.Type) bool {
	for _, of := range []reflect.Type{reflect.TypeFor[json.Marshaler](), reflect.TypeFor[encoding.TextMarshaler]()} {
		if t.Implements(of) || reflect.PointerTo(t).Implements(of) {
			return true
		}
	}
	return false
}

// value writes where two values differ.
func (d *differ) value(at *step, was, is reflect.Value) {
	switch is.Kind() {
	case reflect.Pointer, reflect.Interface:
		switch {
		case was.IsNil() && is.IsNil(), is.Kind() == reflect.Pointer && was.Pointer() == is.Pointer():
		case was.IsNil() || is.IsNil() || was.Elem().Type() != is.Elem().Type():
			d.replace(at, is)
		default:
			d.value(at, was.Elem(), is.Elem())
		}
	case reflect.Struct:
		plan := fieldsOf(is.Type())
		if plan == nil {
			d.leaf(at, was, is)
			return
		}
		for i := range plan {
			d.field(at, &plan[i], was, is)
		}
	case reflect.Map:
		d.entries(at, was, is)
	case reflect.Slice:
		if was.IsNil() != is.IsNil() || is.Type().Elem().Kind() == reflect.Uint8 {
			d.leaf(at, was, is)
			return
		}
		d.items(at, was, is)
	default:
		d.leaf(at, was, is)
	}
}

func (d *differ) leaf(at *step, was, is reflect.Value) {
	if !same(was, is) {
		d.replace(at, is)
	}
}

// same compares what has no inside, or none that is known.
func same(a, b reflect.Value) bool {
	switch b.Kind() {
	case reflect.String:
		return a.String() == b.String()
	case reflect.Bool:
		return a.Bool() == b.Bool()
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		return a.Int() == b.Int()
	case reflect.Float32, reflect.Float64:
		return a.Float() == b.Float()
	}
	return reflect.DeepEqual(a.Interface(), b.Interface())
}

func (d *differ) field(above *step, f *field, was, is reflect.Value) {
	a, b := f.of(was), f.of(is)
	at := step{above: above, name: f.name}
	if f.left == nil {
		d.value(&at, a, b)
		return
	}
	switch had, has := !f.left(a), !f.left(b); {
	case had && has:
		d.value(&at, a, b)
	case had:
		d.ops = append(d.ops, Op{Op: "remove", Path: at.String()})
	case has:
		d.ops = append(d.ops, Op{"add", at.String(), valued(b)})
	}
}

// textual reports whether a map's keys are written as they are.
func textual(t reflect.Type) bool { return t.Key().Kind() == reflect.String && !own(t.Key()) }

func (d *differ) entries(above *step, was, is reflect.Value) {
	if was.IsNil() != is.IsNil() || !textual(is.Type()) {
		d.leaf(above, was, is)
		return
	}
	for k := was.MapRange(); k.Next(); {
		if !is.MapIndex(k.Key()).IsValid() {
			at := step{above: above, name: escaped(k.Key().String())}
			d.ops = append(d.ops, Op{Op: "remove", Path: at.String()})
		}
	}
	for k := is.MapRange(); k.Next(); {
		old := was.MapIndex(k.Key())
		if old.IsValid() && alike(old, k.Value()) {
			continue
		}
		at := step{above: above, name: escaped(k.Key().String())}
		if old.IsValid() {
			d.value(&at, old, k.Value())
		} else {
			d.ops = append(d.ops, Op{"add", at.String(), valued(k.Value())})
		}
	}
}

// items compares lists: what is alike at both ends stays; what lies between is compared one by one, past an item that is gone or that came, and
// the rest is taken off or added.
func (d *differ) items(above *step, was, is reflect.Value) {
	from, n, m := 0, was.Len(), is.Len()
	if n == m && n > 0 && was.Pointer() == is.Pointer() {
		return
	}
	for from < min(n, m) && alike(was.Index(from), is.Index(from)) {
		from++
	}
	for n > from && m > from && alike(was.Index(n-1), is.Index(m-1)) {
		n, m = n-1, m-1
	}
	i, k := from, from // of what was, of what is; what was before k is made already
	for i < n && k < m {
		at := &step{above: above, item: k}
		switch {
		case alike(was.Index(i), is.Index(k)):
			i, k = i+1, k+1
		case i+1 < n && alike(was.Index(i+1), is.Index(k)): // one is gone
			d.ops = append(d.ops, Op{Op: "remove", Path: at.String()})
			i++
		case k+1 < m && alike(was.Index(i), is.Index(k+1)): // one came
			d.ops = append(d.ops, Op{"add", at.String(), valued(is.Index(k))})
			k++
		default:
			d.value(at, was.Index(i), is.Index(k))
			i, k = i+1, k+1
		}
	}
	for ; n > i; n-- {
		d.ops = append(d.ops, Op{Op: "remove", Path: (&step{above: above, item: k + n - 1 - i}).String()})
	}
	for ; k < m; k++ {
		d.ops = append(d.ops, Op{"add", (&step{above: above, item: k}).String(), valued(is.Index(k))})
	}
}

// alike reports whether two values encode alike.
func alike(a, b reflect.Value) bool {
	switch b.Kind() {
	case reflect.Pointer, reflect.Interface:
		switch {
		case a.IsNil() || b.IsNil():
			return a.IsNil() == b.IsNil()
		case b.Kind() == reflect.Pointer && a.Pointer() == b.Pointer():
			return true
		}
		return a.Elem().Type() == b.Elem().Type() && alike(a.Elem(), b.Elem())
	case reflect.Struct:
		plan := fieldsOf(b.Type())
		if plan == nil {
			return same(a, b)
		}
		for i := range plan {
			if f := &plan[i]; !alike(f.of(a), f.of(b)) && (f.left == nil || !f.left(f.of(a)) || !f.left(f.of(b))) {
				return false
			}
		}
		return true
	case reflect.Slice:
		if a.IsNil() != b.IsNil() || a.Len() != b.Len() {
			return false
		}
		if b.Len() == 0 || a.Pointer() == b.Pointer() {
			return true
		}
		for i := range b.Len() {
			if !alike(a.Index(i), b.Index(i)) {
				return false
			}
		}
		return true
	case reflect.Map:
		if a.IsNil() != b.IsNil() || a.Len() != b.Len() || !textual(b.Type()) {
			return same(a, b)
		}
		for k := b.MapRange(); k.Next(); {
			if old := a.MapIndex(k.Key()); !old.IsValid() || !alike(old, k.Value()) {
				return false
			}
		}
		return true
	}
	return same(a, b)
}

// field is a member of an object as encoding/json writes it.
type field struct {
	name  string
	index []int
	left  func(reflect.Value) bool // whether it is left out; nil where it never is
}

func (f *field) of(v reflect.Value) reflect.Value {
	if len(f.index) == 1 {
		return v.Field(f.index[0])
	}
	return v.FieldByIndex(f.index)
}

var known sync.Map // reflect.Type to []field, nil for one that writes itself

func fieldsOf(t reflect.Type) []field {
	if f, ok := known.Load(t); ok {
		return f.([]field)
	}
	var out []field
	if !own(t) {
		out = []field{}
		collect(t, nil, &out)
	}
	known.Store(t, out)
	return out
}

func collect(t reflect.Type, at []int, out *[]field) {
	for i := range t.NumField() {
		f := t.Field(i)
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		index := slices.Concat(at, []int{i})
		switch {
		case f.Anonymous && name == "" && f.Type.Kind() == reflect.Struct && !own(f.Type):
			collect(f.Type, index, out)
		case !f.IsExported() || name == "-":
		default:
			if name == "" {
				name = f.Name
			}
			*out = append(*out, field{escaped(name), index, leaves(options)})
		}
	}
}

// leaves returns when a member with these options is left out, nil for never.
func leaves(options string) func(reflect.Value) bool {
	zero := slices.Contains(strings.Split(options, ","), "omitzero")
	empty := slices.Contains(strings.Split(options, ","), "omitempty")
	if !zero && !empty {
		return nil
	}
	return func(v reflect.Value) bool {
		if zero {
			if z, ok := v.Interface().(interface{ IsZero() bool }); ok && z.IsZero() || v.IsZero() {
				return true
			}
		}
		if !empty {
			return false
		}
		switch v.Kind() {
		case reflect.Array, reflect.Map, reflect.Slice, reflect.String:
			return v.Len() == 0
		case reflect.Struct:
			return false
		}
		return v.IsZero()
	}
}

// escaped writes a key as a step of a JSON Pointer.
func escaped(key string) string { return pointer.Replace(key) }

var pointer = strings.NewReplacer("~", "~0", "/", "~1")
