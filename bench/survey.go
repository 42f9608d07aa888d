package main

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"strings"

	"dusha/core/wetarea"
)

// manySurfaces is a comb-shaped hall of so many walls, given by its corner points.
func manySurfaces(walls int, height string) map[string]string {
	bays := (walls - 4) / 4
	points := []wetarea.Point{}
	for i := range bays {
		x := float64(i) * 2000
		points = append(points, wetarea.Point{x, 0}, wetarea.Point{x + 1000, 0}, wetarea.Point{x + 1000, 900}, wetarea.Point{x + 2000, 900})
	}
	end := float64(bays) * 2000
	points = append(points, wetarea.Point{end, 0}, wetarea.Point{end + 1500, 0}, wetarea.Point{end + 1500, 4000}, wetarea.Point{0, 4000})
	list := make([]string, len(points))
	for i, p := range points {
		list[i] = fmt.Sprintf("%g %g", p[0], p[1])
	}
	return map[string]string{"outline": "points", "points": strings.Join(list, "; "), "height": height}
}

// geometry measures reading the form of an area of 200 walls, with every surface, junction and
// the net, against laying out the same outline as one floor alone.
func geometry() error {
	for _, height := range []string{"300", "2100"} {
		if err := geometryAt(height); err != nil {
			return err
		}
	}
	return nil
}

func geometryAt(height string) error {
	typed := manySurfaces(mostSurfaces, height)
	asked, err := wetarea.Ask("room", typed)
	if err != nil || asked.Area == nil {
		return fmt.Errorf("the hall cannot be read: %v %v", err, asked.Form.Faults())
	}
	surfaces := len(asked.Area.Surfaces)
	whole := timed(fmt.Sprintf("form, %d surfaces, %d junctions, net", surfaces, len(asked.Area.Junctions)), func() error {
		asked, err := wetarea.Ask("room", typed)
		if err != nil || asked.Area == nil {
			return errors.New("the hall was not read")
		}
		return nil
	})
	points, err := wetarea.ParsePoints(typed["points"])
	if err != nil {
		return err
	}
	alone := timed("check and area of the same outline", func() error {
		if err := wetarea.CheckOutline(points); err != nil || math.Abs(wetarea.SignedArea(points)) < 1 {
			return errors.New("no outline")
		}
		return nil
	})
	return compare(fmt.Sprintf("Geometry of an area of %d surfaces %s mm high in the native core (of 2100 mm nearly half have to be moved apart)", surfaces, height), whole, alone)
}

// screeding measures a floor to fall round corners against the same floor with its drain in sight.
func screeding() error {
	typed := map[string]string{"outline": "points", "points": "0 0; 3000 0; 3000 1200; 1400 1200; 1400 2500; 0 2500", "height": "150", "drains": "1", "drains.1.diameter": "110",
		"fall": "to_lay", "fall.n": "80", "fall.least": "20", "drains.1.wall": "a"}
	at := func(along, out string) map[string]string {
		placed := maps.Clone(typed)
		placed["drains.1.along"], placed["drains.1.out"] = along, out
		return placed
	}
	floor := func(name string, typed map[string]string) side {
		return timed(name, func() error {
			asked, err := wetarea.Ask("room", typed)
			if err != nil || asked.Area == nil || asked.Area.Falls == nil {
				return fmt.Errorf("no falls: %v", asked.Form.Faults())
			}
			return nil
		})
	}
	return compare("Screed of an L-shaped floor", floor("drain hidden behind the corner", at("300", "600")), floor("drain in sight of every corner", at("2300", "600")))
}

const mostSurfaces = 200
