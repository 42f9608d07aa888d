package main

import (
	"errors"
	"fmt"
	"time"

	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// quantities measures what an area of 200 walls takes, product by product with every figure's
// origin, and the packs for it, against reading the form of the same area.
func quantities() error {
	typed := manySurfaces(mostSurfaces, "300")
	asked, err := wetarea.Ask("room", typed)
	if err != nil || asked.Area == nil {
		return fmt.Errorf("the hall cannot be read: %v", err)
	}
	in := takeoff.Inputs{
		Survey: wetarea.Survey{Form: "room", Answers: asked.Form.Answers()}, SurveyRef: "survey", Area: *asked.Area,
		Built: systemtest.Built(sheet.Samples()[0].ID), Rules: rules.Generic(), Texture: "fine",
	}
	items := 0
	plan := timed(fmt.Sprintf("plan and packs of %d surfaces, %d junctions", len(asked.Area.Surfaces), len(asked.Area.Junctions)), func() error {
		plan, err := takeoff.MakePlan(in)
		if err != nil {
			return err
		}
		items = len(plan.Items)
		for _, line := range takeoff.Shop(plan.Items, nil, nil, nil, time.Time{}) {
			if line.Need == nil || line.Cost == nil {
				return errors.New("a line has no packs: " + line.Name)
			}
		}
		return nil
	})
	form := timed("form of the same area", func() error {
		asked, err := wetarea.Ask("room", typed)
		if err != nil || asked.Area == nil {
			return errors.New("the hall was not read")
		}
		return nil
	})
	if err := compare("Quantities of an area of 201 surfaces in the native core", plan, form); err != nil {
		return err
	}
	fmt.Printf("  %d products\n", items)
	return nil
}

// packing measures the exact choice of packs against trying every mix of the same four sizes.
func packing() error {
	packs := []takeoff.Pack{{Size: 25000, Price: 9400}, {Size: 20400, Price: 8100}, {Size: 6000, Price: 2900}, {Size: 1400, Price: 990}}
	const need = 183_700
	best := takeoff.Choice{}
	exact := timed("exact, by a table of totals", func() (err error) {
		best, err = takeoff.ChoosePacks(need, packs)
		return err
	})
	brute := timed("every mix", func() error {
		cost, bought := -1, 0
		for a := 0; a <= need/packs[0].Size+1; a++ {
			for b := 0; b <= need/packs[1].Size+1; b++ {
				for c := 0; c <= need/packs[2].Size+1; c++ {
					for d := 0; d <= need/packs[3].Size+1; d++ {
						all := a*packs[0].Size + b*packs[1].Size + c*packs[2].Size + d*packs[3].Size
						price := a*packs[0].Price + b*packs[1].Price + c*packs[2].Price + d*packs[3].Price
						if all >= need && (cost < 0 || price < cost || price == cost && all < bought) {
							cost, bought = price, all
						}
					}
				}
			}
		}
		if best.Feasible && (cost != best.Cost || bought != best.Bought) {
			return fmt.Errorf("every mix gives %d cents and %d g, the table %d and %d", cost, bought, best.Cost, best.Bought)
		}
		return nil
	})
	return compare("Packs for 183.7 kg out of four sizes", exact, brute)
}
