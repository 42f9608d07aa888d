package logbook

import (
	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/wetarea"
)

const KindRead Kind = "read"

// Read is a comb-gauge reading at a place: the last wetted and the next dry tooth.
type Read struct {
	Step    string   `json:"step"`
	Surface string   `json:"surface"`
	Along   float64  `json:"along_mm"`
	Up      float64  `json:"up_mm"`
	LastWet float64  `json:"last_wet_mm"` // 0: no tooth was wetted
	NextDry *float64 `json:"next_dry_mm"` // null: every tooth was wetted
}

func (b Read) check() error {
	if err := first(name("body.step", b.Step), place("body", b.Surface, b.Along, b.Up),
		within("body.last_wet_mm", b.LastWet, 0, mostTooth)); err != nil {
		return err
	}
	switch {
	case b.NextDry == nil && b.LastWet == 0:
		return fault.At("body.last_wet_mm", "film.no_tooth")
	case b.NextDry != nil && *b.NextDry <= b.LastWet:
		return fault.At("body.next_dry_mm", "film.dry_below_wet", "dry", *b.NextDry, "wet", b.LastWet)
	case b.NextDry != nil && *b.NextDry > mostTooth:
		return fault.At("body.next_dry_mm", "number.too_large", "value", *b.NextDry, "most", mostTooth)
	}
	return nil
}

func (b Read) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || !a.onSurface(e.Entry, b.Surface, b.Along, b.Up) {
		return
	}
	a.Readings[b.Step] = append(a.Readings[b.Step], Reading{
		Entry: e.ID, Surface: b.Surface, Along: b.Along, Up: b.Up,
		Bracket: film.Bracket{Lower: b.LastWet, Upper: b.NextDry}, Layer: a.layer[b.Step+b.Surface], when: e.when,
	})
	key := filmKey{b.Step, b.Surface}
	a.read[key] = append(a.read[key], len(a.Readings[b.Step])-1)
	a.filmMoved(b.Step, b.Surface)
}

// onSurface tells whether a place lies on a surface of the area.
func (a *Area) onSurface(e Entry, id string, along, up float64) bool {
	if !a.knownSurfaces(e, []string{id}) {
		return false
	}
	surface, _ := a.Geometry.Surface(id)
	if !surface.Contains(wetarea.Point{along, up}) {
		a.deviate(e, "deviation.off_surface", "surface", id, "along", along, "up", up)
		return false
	}
	return true
}

// still: a reading finishes no step. How thick the coat lies is part of the wait after it.
func (Read) still() {}

func (b Read) stepOf() string { return b.Step }
