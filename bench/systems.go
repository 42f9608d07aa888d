package main

import (
	"fmt"

	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// builtOf is a sample system with its first layers alone that lie under the film, the film, and others so that there are so many.
func builtOf(layers int) (system.Built, error) {
	s, used := systemtest.Of(sheet.Samples()[0].ID)
	film, _ := s.Film()
	all := s.Layers
	s.Layers = []system.Layer{film}
	for i := 0; len(s.Layers) < layers; i++ {
		l := all[i%len(all)]
		if l.ID == film.ID {
			continue
		}
		if i >= len(all) {
			l.ID = fmt.Sprintf("%s_%d", l.ID, i)
		}
		s.Layers = append(s.Layers, l)
	}
	products := map[string]bool{}
	for _, l := range s.Layers {
		products[l.Product] = true
		for _, c := range l.Carries {
			products[c.Product] = true
		}
	}
	kept := s.Products[:0:0]
	for _, p := range s.Products {
		if products[p.Key] {
			kept = append(kept, p)
		}
	}
	s.Products = kept
	return system.Build(s, used)
}

// layered measures the plan of an area of 201 surfaces with 12 layers against one with 2, and the order of 20 layers.
func layered() error {
	typed := manySurfaces(mostSurfaces, "300")
	asked, err := wetarea.Ask("room", typed)
	if err != nil || asked.Area == nil {
		return fmt.Errorf("the hall cannot be read: %v", err)
	}
	plan := func(layers int) (side, error) {
		built, err := builtOf(layers)
		in := takeoff.Inputs{
			Survey: wetarea.Survey{Form: "room", Answers: asked.Form.Answers()}, SurveyRef: "survey", Area: *asked.Area,
			Built: built, Rules: rules.Generic(), Texture: "fine",
		}
		return timed(fmt.Sprintf("plan with %d layers", layers), func() error {
			_, err := takeoff.MakePlan(in)
			return err
		}), err
	}
	many, err := plan(12)
	if err != nil {
		return err
	}
	few, err := plan(2)
	if err != nil {
		return err
	}
	if err := compare("Plan of 201 surfaces by layers in the native core (limit 8 times)", many, few); err != nil {
		return err
	}
	built, err := builtOf(20)
	if err != nil {
		return err
	}
	const times = 20
	orders := timed(fmt.Sprintf("order of 20 layers, %d times (limit 1 ms each)", times), func() error {
		for range times {
			if _, err := system.MakeOrder(built.System, built.Sheets()); err != nil {
				return err
			}
		}
		return nil
	})
	return compare("Order of the work in the native core", orders, few)
}
