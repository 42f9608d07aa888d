// Package ops is the one table of operations: name → typed function.
//
// Every door serves this table: HTTP, the command line, and WebAssembly in the page. An
// operation takes JSON and gives JSON; what is wrong with the input comes back as faults
// that name the field. Operations hold no state and ask no clock: a time comes in as an
// argument.
package ops

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"

	"dusha/core/fault"
	"dusha/core/strict"
)

// Op is one operation of the table.
type Op struct {
	Name  string
	About string
	In    reflect.Type
	Out   reflect.Type
	call  func(input []byte) (any, error)
}

// Table holds operations by name.
type Table map[string]Op

// Make gives an operation from a typed function.
func Make[In, Out any](name, about string, f func(In) (Out, error)) Op {
	return Op{
		Name: name, About: about, In: reflect.TypeFor[In](), Out: reflect.TypeFor[Out](),
		call: func(input []byte) (any, error) {
			var in In
			decode := strict.Decode
			if _, holds := any(in).(interface{ holdsTexts() }); holds {
				decode = strict.DecodeAround
			}
			if err := decode("", input, &in); err != nil {
				return nil, err
			}
			return f(in)
		},
	}
}

// NewTable joins lists of operations; the same name twice is a mistake in the program.
func NewTable(lists ...[]Op) Table {
	t := Table{}
	for _, op := range slices.Concat(lists...) {
		if _, twice := t[op.Name]; twice {
			panic(fmt.Sprintf("operation %s is in the table twice", op.Name))
		}
		t[op.Name] = op
	}
	return t
}

// Names lists the operations in order.
func (t Table) Names() []string { return slices.Sorted(maps.Keys(t)) }

// mostInput is the largest input an operation reads, bytes.
const mostInput = 32 << 20

// Call runs an operation on JSON. The error is a list of faults.
func (t Table) Call(name string, input []byte) ([]byte, error) {
	op, known := t[name]
	if !known {
		return nil, fault.Faults{fault.At("operation", "operation.unknown", "typed", name, "known", t.Names())}
	}
	if len(input) > mostInput {
		return nil, fault.Faults{fault.At("input", "input.too_large", "value", len(input), "most", mostInput)}
	}
	out, err := op.call(input)
	if err != nil {
		return nil, fault.Of(err)
	}
	text, err := json.Marshal(out)
	if err != nil {
		return nil, fault.Of(err)
	}
	return text, nil
}
