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

func (bedding) lays(a *Area, s system.Step) []sheet.Sheet { return []sheet.Sheet{a.Plan.bedding(s)} }

// bedding is the printing of what bands are bedded in: of the layer that carries them, or the film.
func (b Plan) bedding(s system.Step) sheet.Sheet {
	for _, id := range s.Of {
		if l, is := b.built.System.LayerOf(id); is && len(l.Carries) > 0 {
			if of, there := b.sheets[l.Product]; there {
				return of
			}
		}
	}
	return b.Sheet
}
