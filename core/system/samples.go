package system

import (
	"slices"
	"sync"

	json1 "github.com/go-json-experiment/json/v1"
)

// Samples are the systems that ship, each marked as a sample: their products are the sample sheets.
var Samples = sync.OnceValue(func() []System {
	var all []System
	for _, name := range []string{"samples.json", "samples_schools.json"} {
		text, err := files.ReadFile(name)
		if err != nil {
			panic(err)
		}
		var list []System
		if err := json1.Unmarshal(text, &list); err != nil {
			panic(err)
		}
		all = append(all, list...)
	}
	return all
})

// Latest drops the systems that a later revision has replaced, and keeps the order.
func Latest(library []System) []System {
	replaced := map[string]bool{}
	for _, s := range library {
		if s.Replaces != "" {
			replaced[s.Replaces] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(library), func(s System) bool { return replaced[s.ID] })
}
