package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// bedding lays bands, corners and collars into the membrane: done once every piece lies.
type bedding struct{ plainly }

func (bedding) by() []Kind { return []Kind{KindBedded} }

func (bedding) progress(a *Area, s system.Step) (done, of int) {
	if a.Takeoff == nil {
		return 0, 1
	}
	for _, piece := range a.Takeoff.Pieces {
		if a.bedsAt(piece) != s.ID {
			continue
		}
		of++
		if a.Bedded[piece.ID] {
			done++
		}
	}
	return done, of
}

// bedsAt is the step that beds a piece: of its layer, or the first that beds any.
func (a *Area) bedsAt(piece takeoff.Piece) (first string) {
	for _, s := range a.steps {
		if s.Does != system.Place {
			continue
		}
		if first == "" {
			first = s.ID
		}
		if slices.Contains(s.Layers(), piece.Layer) {
			return s.ID
		}
	}
	return first
}

func (bedding) lays(a *Area, s system.Step) []sheet.Sheet {
	list := []sheet.Sheet{a.Plan.bedding(s)}
	for _, of := range a.toStart(s) {
		if of.ID != list[0].ID {
			list = append(list, of)
		}
	}
	return list
}

// bedding is the printing of what bands are bedded in: of the layer that carries them, or the film.
func (b Plan) bedding(s system.Step) sheet.Sheet {
	return b.printing(s, func(l system.Layer) bool { return len(l.Carries) > 0 })
}

// printing is the printing of the first layer of a step that fits and is there; else that of the film.
func (b Plan) printing(s system.Step, fits func(system.Layer) bool) sheet.Sheet {
	for _, id := range s.Of {
		if l, is := b.built.System.LayerOf(id); is && fits(l) {
			if of, there := b.sheets[l.Product]; there {
				return of
			}
		}
	}
	return b.Sheet
}
