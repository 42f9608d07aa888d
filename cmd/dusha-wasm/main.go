//go:build js && wasm

// Command dusha-wasm is the core in the page: the same table of operations as every other
// door, called as __core(operation, input) and answering a JSON text. It keeps jobs folded:
// __coreLoad, __coreChange and __coreDrop tell it of their entries.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"syscall/js"

	json1 "github.com/go-json-experiment/json/v1"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/draw"
)

// A call allocates far less than a page has: rare collections keep a keystroke quick.
const collectAt = 600 // percent of what is kept

func main() {
	debug.SetGCPercent(collectAt)
	jobs := ops.NewJobs(draw.Table())
	door := func(name string, arguments int, f func(args []string) (string, error)) {
		js.Global().Set(name, js.FuncOf(func(_ js.Value, given []js.Value) (answer any) {
			// A panic would end the program for good; it becomes an answer instead.
			defer func() {
				if broken := recover(); broken != nil {
					answer = refusal(fault.Faults{fault.At("operation", "operation.broken", "detail", fmt.Sprint(broken))})
				}
			}()
			if len(given) != arguments {
				return refusal(fault.Faults{fault.At("operation", "operation.unknown")})
			}
			args := make([]string, len(given))
			for i, each := range given {
				args[i] = each.String()
			}
			out, err := f(args)
			if err != nil {
				return refusal(fault.Of(err))
			}
			return `{"out":` + out + `}`
		}))
	}
	door("__core", 2, func(args []string) (string, error) {
		out, err := jobs.Call(args[0], []byte(args[1]))
		return string(out), err
	})
	// Folds a job anew from all its entries: its id, and a list of texts.
	door("__coreLoad", 2, func(args []string) (string, error) {
		var entries []json.RawMessage
		if err := json1.Unmarshal([]byte(args[1]), &entries); err != nil {
			return "", err
		}
		jobs.Load(args[0], entries)
		return "null", nil
	})
	// Changes a job that is loaded: its id, a list of texts to add, and a list of ids to leave out.
	door("__coreChange", 3, func(args []string) (string, error) {
		var added []json.RawMessage
		var gone []string
		if err := errors.Join(json1.Unmarshal([]byte(args[1]), &added), json1.Unmarshal([]byte(args[2]), &gone)); err != nil {
			return "", err
		}
		return "null", jobs.Change(args[0], added, gone)
	})
	door("__coreDrop", 1, func(args []string) (string, error) {
		jobs.Drop(args[0])
		return "null", nil
	})
	js.Global().Call("__coreReady")
	select {}
}

func refusal(faults fault.Faults) string {
	text, err := json1.Marshal(map[string]any{"faults": faults})
	if err != nil {
		return `{"faults":[{"field":"operation","key":"operation.broken"}]}`
	}
	return string(text)
}
