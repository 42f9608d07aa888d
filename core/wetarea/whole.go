package wetarea

import (
	"fmt"

	"dusha/core/fault"
)

// CheckWhole refuses an area that hangs in the air: a surface without an outline, or something
// on a surface that is not there. What a survey gives is whole; an area that comes in from
// elsewhere may not be.
func (a Area) CheckWhole(field string) error {
	known := map[string]bool{}
	for i, s := range a.Surfaces {
		known[s.ID] = true
		at := fmt.Sprintf("%s.surfaces.%d", field, i+1)
		if len(s.Outlines) == 0 {
			return fault.At(at+".outlines_mm", "area.surface_without_outline")
		}
		for k, outline := range append(append([][]Point{}, s.Outlines...), s.Holes...) {
			if len(outline) < 3 {
				return fault.At(fmt.Sprintf("%s.outlines_mm.%d", at, k+1), "area.surface_without_outline")
			}
		}
	}
	stands := func(list string, i int, part, surface string) error {
		if !known[surface] {
			return fault.At(fmt.Sprintf("%s.%s.%d.%s", field, list, i+1, part), "area.no_such_surface", "surface", surface)
		}
		return nil
	}
	for i, j := range a.Junctions {
		if len(j.Lines) == 0 {
			return fault.At(fmt.Sprintf("%s.junctions.%d.lines", field, i+1), "area.no_lines")
		}
		for _, l := range j.Lines {
			if err := stands("junctions", i, "lines", l.Surface); err != nil {
				return err
			}
		}
	}
	for i, c := range a.Corners {
		if err := stands("corners", i, "surface", c.Surface); err != nil {
			return err
		}
	}
	for i, p := range a.Penetrations {
		if err := stands("penetrations", i, "surface", p.Surface); err != nil {
			return err
		}
	}
	for i, f := range a.Features {
		if err := stands("features", i, "line", f.Line.Surface); err != nil {
			return err
		}
	}
	return nil
}
