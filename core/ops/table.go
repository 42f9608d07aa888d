// Package ops is the one table of operations: name → typed function.
//
// Every door serves this table: HTTP, the command line, and WebAssembly in the page. An
// operation takes JSON and gives JSON; what is wrong with the input comes back as faults
// that name the field. Operations hold no state and ask no clock: a time comes in as an
// argument.
package ops

import (
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"

	"dusha/core/fault"
	"dusha/core/site"
	"dusha/core/strict"

	json1 "github.com/go-json-experiment/json/v1"
)

// Op is one operation of the table.
type Op struct {
	Name  string
	About string
	In    reflect.Type
	Out   reflect.Type
	run   func(read func(into any) error) (any, error)
}

// Table holds operations by name.
type Table map[string]Op

// ofJob is an input that asks of a job.
type ofJob interface {
	asksOf(kept func(job string) (*site.Site, error)) error
}

// Make gives an operation from a typed function. The input is read strictly, and held against
// its limits before the function sees it.
func Make[In, Out any](name, about string, f func(In) (Out, error)) Op {
	return Op{
		Name: name, About: about, In: reflect.TypeFor[In](), Out: reflect.TypeFor[Out](),
		run: func(read func(into any) error) (any, error) {
			var in In
			if err := read(&in); err != nil {
				return nil, err
			}
			return f(in)
		},
	}
}

// read reads an input of an operation, of the type that into points to.
func (op Op) read(input []byte, kept func(job string) (*site.Site, error), into any) error {
	asks, ofJob := into.(ofJob)
	decode := strict.Decode
	if ofJob { // it carries texts of others
		decode = strict.DecodeAround
	}
	if err := decode("", input, into); err != nil {
		return err
	}
	inside := 0
	if err := limitsOf(op.In).check("", reflect.ValueOf(into).Elem(), &inside); err != nil {
		return err
	}
	if ofJob {
		return asks.asksOf(kept)
	}
	return nil
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

// MostInput is the largest input an operation reads, bytes.
const MostInput = 32 << 20

// broken is the fault of a mistake of this program.
const broken = "operation.broken"

// Call runs an operation on JSON. The error is a list of faults. A mistake of this program (a
// panic, a number that is none) becomes one too: no door falls by what is sent through it.
func (t Table) Call(name string, input []byte) ([]byte, error) {
	return t.call(name, input, func(job string) (*site.Site, error) { return nil, notKept(job) })
}

func (t Table) call(name string, input []byte, kept func(job string) (*site.Site, error)) (text []byte, err error) {
	op, known := t[name]
	if !known {
		return nil, fault.Faults{fault.At("operation", "operation.unknown", "typed", fault.Short(name), "known", t.Names())}
	}
	if len(input) > MostInput {
		return nil, fault.Faults{fault.At("input", "input.too_large", "value", len(input), "most", MostInput)}
	}
	defer func() {
		if why := recover(); why != nil {
			text, err = nil, fault.Faults{fault.At("operation", broken, "detail", fmt.Sprint(why))}
		}
	}()
	out, err := op.run(func(into any) error { return op.read(input, kept, into) })
	if err != nil {
		return nil, fault.Of(err)
	}
	text, err = json1.Marshal(out)
	var beyond *json1.UnsupportedValueError
	if errors.As(err, &beyond) {
		return nil, fault.Faults{fault.At("input", "input.no_answer", "value", beyond.Str)}
	}
	if err != nil {
		return nil, fault.Of(err)
	}
	return text, nil
}
