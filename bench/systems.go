package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/site"
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
	if err := compare("Order of the work in the native core", orders, few); err != nil {
		return err
	}
	return manySteps()
}

// manySteps measures the look of an area whose order has 80 steps.
func manySteps() error {
	const steps, limit = 80, 0.015
	m, err := mixedJob(400, 10)
	if err != nil {
		return err
	}
	for i, text := range m.texts {
		var e struct {
			Kind logbook.Kind               `json:"kind"`
			Body map[string]json.RawMessage `json:"body"`
		}
		if err := json.Unmarshal(text, &e); err != nil || e.Kind != logbook.KindPlan {
			continue
		}
		var whole map[string]any
		var s system.System
		if err := errors.Join(json.Unmarshal(text, &whole), json.Unmarshal(e.Body["system"], &s)); err != nil {
			return err
		}
		usual, err := system.MakeOrder(s, nil)
		if err != nil {
			return err
		}
		for n := len(usual.Steps()); n < steps; n++ {
			id := fmt.Sprintf("more_%d", n)
			s.Edits = append(s.Edits, system.Edit{Does: "add", Step: id, Stage: "protect", Add: &system.Step{ID: id, Title: "One more", Does: system.Check, Asks: []system.Question{{ID: "c1", Line: "Looked at"}}}})
		}
		whole["body"].(map[string]any)["system"] = s
		if m.texts[i], err = json.Marshal(whole); err != nil {
			return err
		}
	}
	read := site.Read(m.texts)
	if n := len(read.Area(m.area).Order.Steps()); n != steps {
		return fmt.Errorf("the order has %d steps", n)
	}
	var took []float64
	for i := range 3 * pairs {
		begin := time.Now()
		read.Look(m.area, m.at.Add(time.Duration(i)*time.Minute))
		took = append(took, time.Since(begin).Seconds())
	}
	fmt.Printf("Look of an area of %d steps (limit: %.1f ms here)\n  %.1f ms (quartiles %.1f to %.1f, of %d)\n", steps, 1000*scaledTo(limit, reference),
		1000*quantile(took, 0.5), 1000*quantile(took, 0.25), 1000*quantile(took, 0.75), len(took))
	if quantile(took, 0.5) > scaledTo(limit, reference) {
		return errors.New("a look of many steps takes too long")
	}
	return nil
}
