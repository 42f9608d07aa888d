package logbook

import (
	"dusha/core/sheet"
	"dusha/core/system"
)

// bedding lays bands, corners and collars into the membrane: done once every piece lies.
type bedding struct{ plainly }

func (bedding) by() []Kind { return []Kind{KindBedded} }

func (bedding) progress(a *Area, _ system.Step) (done, of int) {
	if a.Takeoff == nil {
		return 0, 1
	}
	return len(a.Bedded), len(a.Takeoff.Pieces)
}

func (bedding) lays(a *Area, _ system.Step) []sheet.Sheet { return []sheet.Sheet{a.Plan.Sheet} }
