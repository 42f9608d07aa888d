// Package systemtest gives the systems that ship, each with the sheets that ship, for tests.
package systemtest

import (
	"encoding/json"
	"slices"
	"strings"

	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
)

// Of is a sample system by its name, or the first that a sample sheet makes tight, with its printings.
func Of(membrane string, swaps ...system.Swap) (system.System, []system.Used) {
	all := system.Samples()
	i := slices.IndexFunc(all, func(s system.System) bool { return s.ID == strings.Replace(membrane, "sample.", "sample.system.", 1) })
	if i < 0 {
		i = slices.IndexFunc(all, func(s system.System) bool {
			film, _ := s.Membrane()
			return film.Product == membrane
		})
	}
	if i < 0 {
		panic("no system of " + membrane)
	}
	film, _ := all[i].Membrane()
	of, _ := sheet.Sample(film.Product)
	used, _ := all[i].Take(of, sheet.Samples(), swaps, true)
	return own(all[i]), used
}

// own is a copy that a test may change.
func own(s system.System) (copied system.System) {
	text, err := json.Marshal(s)
	if err == nil {
		err = json.Unmarshal(text, &copied)
	}
	if err != nil {
		panic(err)
	}
	return copied
}

// Built is what the system of a sample sheet comes to.
func Built(membrane string) system.Built {
	s, used := Of(membrane)
	s, err := s.Chosen(s.FirstChoices())
	if err != nil {
		panic(err)
	}
	b, err := system.Build(s, used)
	if err != nil {
		panic(err)
	}
	return b
}

// Plan is the body of a plan on the system of a sample sheet, changed before.
func Plan(survey, membrane string, changes ...func(*system.System)) map[string]any {
	s, used := Of(membrane)
	for _, change := range changes {
		change(&s)
	}
	return map[string]any{"survey": survey, "system": s, "used": used, "rules": rules.Generic(), "texture": "fine"}
}

// Joined is a room whose floor follows the system of one sample sheet and whose walls that of another, with all printings.
func Joined(floor, walls string) (system.System, []system.Used) {
	one, _ := Of(floor)
	other, _ := Of(walls)
	both, err := system.Join("both", "Walls and floor", system.Part{ID: "floor", Title: "floor", Faces: []string{"flat"}, System: one},
		system.Part{ID: "walls", Title: "walls", Faces: []string{"upright"}, System: other})
	if err != nil {
		panic(err)
	}
	film, _ := sheet.Sample(floor)
	used, _ := both.Take(film, sheet.Samples(), nil, true)
	return both, used
}
