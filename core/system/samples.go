package system

import (
	"slices"
	"sync"

	json1 "github.com/go-json-experiment/json/v1"
)

// Samples are the systems that ship, each marked as a sample: their products are the sample sheets.
var Samples = sync.OnceValue(func() []System {
	text, err := files.ReadFile("samples.json")
	if err != nil {
		panic(err)
	}
	var list []System
	if err := json1.Unmarshal(text, &list); err != nil {
		panic(err)
	}
	return list
})

// Sample finds a system that ships by its id.
func Sample(id string) (System, bool) {
	all := Samples()
	i := slices.IndexFunc(all, func(s System) bool { return s.ID == id })
	if i < 0 {
		return System{}, false
	}
	return all[i], true
}
