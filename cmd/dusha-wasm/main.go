//go:build js && wasm

// Command dusha-wasm is the core in the page: the same table of operations as every other
// door, called as __core(operation, input) and answering a JSON text.
package main

import (
	"encoding/json"
	"fmt"
	"runtime/debug"
	"syscall/js"

	"dusha/core/fault"
	"dusha/draw"
)

// A call allocates far less than a page has: rare collections keep a keystroke quick.
const collectAt = 600 // percent of what is kept

func main() {
	debug.SetGCPercent(collectAt)
	table := draw.Table()
	js.Global().Set("__core", js.FuncOf(func(_ js.Value, args []js.Value) (answer any) {
		// A panic would end the program for good; it becomes an answer instead.
		defer func() {
			if broken := recover(); broken != nil {
				answer = refusal(fault.Faults{fault.At("operation", "operation.broken", "detail", fmt.Sprint(broken))})
			}
		}()
		if len(args) != 2 {
			return refusal(fault.Faults{fault.At("operation", "operation.unknown")})
		}
		out, err := table.Call(args[0].String(), []byte(args[1].String()))
		if err != nil {
			return refusal(fault.Of(err))
		}
		return `{"out":` + string(out) + `}`
	}))
	js.Global().Call("__coreReady")
	select {}
}

func refusal(faults fault.Faults) string {
	text, err := json.Marshal(map[string]any{"faults": faults})
	if err != nil {
		return `{"faults":[{"field":"operation","key":"operation.broken"}]}`
	}
	return string(text)
}
