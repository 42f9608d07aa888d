package ops

import (
	"encoding"
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	"dusha/core/fault"
)

// Every operation takes what a person could mean, and no more: the page runs it too, and so
// does a tablet in a basement. A field says its own limits in its tags, as the schema has
// them (minimum, maximum, maxItems, maxLength); where it says none these hold.
const (
	greatest   = 1e9     // of a number, either way: 1,000 km, 1,000 t, 30 years in s
	mostItems  = 2000    // of a list
	mostRunes  = 20_000  // of a text
	mostInside = 200_000 // values in one input, together
)

// bounds are the limits of a type, worked out once from its tags.
type bounds struct {
	kind        reflect.Kind
	least, most float64
	items       int
	runes       int
	of          *bounds // of a list, a map or a pointer
	fields      []fieldBounds
}

type fieldBounds struct {
	index int
	name  string // "" of an embedded struct
	bounds
}

var (
	unmarshals = reflect.TypeFor[json.Unmarshaler]()
	untexts    = reflect.TypeFor[encoding.TextUnmarshaler]()
)

var limits sync.Map // of an operation's input, by its type

func limitsOf(t reflect.Type) *bounds {
	known, is := limits.Load(t)
	if !is {
		known, _ = limits.LoadOrStore(t, boundsOf(t, map[reflect.Type]*bounds{}))
	}
	return known.(*bounds)
}

// boundsOf works out the limits of a type; known are the types above it, since a type may hold
// itself.
func boundsOf(t reflect.Type, known map[reflect.Type]*bounds) *bounds {
	if b, is := known[t]; is {
		return b
	}
	b := &bounds{kind: t.Kind(), least: -greatest, most: greatest, items: mostItems, runes: mostRunes}
	if t.Kind() == reflect.Struct { // what holds itself does so through one
		known[t] = b
	}
	switch {
	case reflect.PointerTo(t).Implements(unmarshals) || reflect.PointerTo(t).Implements(untexts):
		b.kind = reflect.Invalid // it reads itself
	case t.Kind() == reflect.Pointer || t.Kind() == reflect.Slice || t.Kind() == reflect.Array || t.Kind() == reflect.Map:
		b.of = boundsOf(t.Elem(), known)
	case t.Kind() == reflect.Struct:
		for i := range t.NumField() {
			f := t.Field(i)
			if !f.IsExported() && !f.Anonymous {
				continue
			}
			own := *boundsOf(f.Type, known)
			own.read(f.Tag)
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			if name == "-" {
				continue
			}
			b.fields = append(b.fields, fieldBounds{i, name, own})
		}
	}
	return b
}

// read takes a field's own limits from its tags; of a list of lists, or of numbers, those of
// numbers hold for what is in it.
func (b *bounds) read(tag reflect.StructTag) {
	number := func(name string, into *float64) {
		if text, is := tag.Lookup(name); is {
			*into = must(strconv.ParseFloat(text, 64))
		}
	}
	count := func(name string, into *int) {
		if text, is := tag.Lookup(name); is {
			*into = must(strconv.Atoi(text))
		}
	}
	count("maxItems", &b.items)
	count("maxLength", &b.runes)
	number("minimum", &b.least)
	number("maximum", &b.most)
	if b.of != nil {
		switch b.of.kind {
		case reflect.Float64, reflect.Int, reflect.Slice, reflect.Array, reflect.Pointer:
			of := *b.of
			of.read(tag)
			of.items = b.of.items // of the list itself, not of lists in it
			b.of = &of
		}
	}
}

// sortedKeys are the keys of a map of texts in order, so that of two faults always the same is
// said.
func sortedKeys(v reflect.Value) []reflect.Value {
	return slices.SortedFunc(slices.Values(v.MapKeys()), func(a, b reflect.Value) int { return strings.Compare(a.String(), b.String()) })
}

func must[T any](value T, err error) T {
	if err != nil {
		panic(err) // a tag of this program
	}
	return value
}

// check walks a value and gives the first thing in it beyond its limits.
func (b *bounds) check(path string, v reflect.Value, inside *int) error {
	*inside++
	if *inside > mostInside {
		return fault.At(path, "input.too_much", "most", mostInside)
	}
	switch b.kind {
	case reflect.Float64, reflect.Float32:
		return b.number(path, v.Float())
	case reflect.Int, reflect.Int64, reflect.Int32:
		return b.number(path, float64(v.Int()))
	case reflect.String:
		if utf8.RuneCountInString(v.String()) > b.runes {
			return fault.At(path, "text.too_long", "most", b.runes)
		}
	case reflect.Pointer:
		if !v.IsNil() {
			return b.of.check(path, v.Elem(), inside)
		}
	case reflect.Slice, reflect.Array:
		if b.kind == reflect.Slice && v.Len() > b.items {
			return fault.At(path, "list.too_long", "most", b.items)
		}
		for i := range v.Len() {
			if err := b.of.check(path+"."+strconv.Itoa(i+1), v.Index(i), inside); err != nil {
				return err
			}
		}
	case reflect.Map:
		if v.Len() > b.items {
			return fault.At(path, "list.too_long", "most", b.items)
		}
		for _, key := range sortedKeys(v) {
			if err := b.of.check(path+"."+fault.Short(key.String()), v.MapIndex(key), inside); err != nil {
				return err
			}
		}
	case reflect.Struct:
		for _, f := range b.fields {
			at := path
			if f.name != "" {
				at = strings.TrimPrefix(path+"."+f.name, ".")
			}
			if err := f.check(at, v.Field(f.index), inside); err != nil {
				return err
			}
		}
	}
	return nil
}

func (b *bounds) number(path string, value float64) error {
	switch {
	case math.IsNaN(value) || value < b.least:
		return fault.At(path, "number.too_small", "value", value, "least", b.least)
	case value > b.most:
		return fault.At(path, "number.too_large", "value", value, "most", b.most)
	}
	return nil
}
