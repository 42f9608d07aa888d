package logbook

import (
	"time"

	"dusha/core/film"
	"dusha/core/system"
)

// accepting is a hold that somebody signs: the base, the details, the film of a coat.
type accepting struct{ said }

func (accepting) by() []Kind { return []Kind{KindAccepted} }

func (accepting) look(a *Area, l *StepLook, _ time.Time) {
	if l.Coat > 0 {
		_, l.Short = a.filmEnough(l.Step)
		for _, s := range a.coated(l.Step) {
			l.Accepts = append(l.Accepts, s.ID)
		}
	}
}

// because is what the hold on a coat looks back on, surface by surface.
func (accepting) because(b *because) {
	if b.step.Coat == 0 || b.Takeoff == nil {
		return
	}
	for _, s := range b.coated(b.step) {
		if _, is := b.coatOf(s); !is {
			continue
		}
		coat := b.coat(s, b.now)
		for _, surface := range coat.Surfaces {
			each := Because{Says: Unknown, Key: "because.film", Figures: surface.Figures, Args: map[string]any{
				"surface": surface.Surface, "verdict": "film.says." + surface.Film.Says, "n": surface.Film.Count, "asked": surface.Asked, "target": coat.Target,
			}}
			switch surface.Film.Says {
			case film.Enough:
				each.Says = Yes
			case film.Thin, film.Thick:
				each.Says = No
			}
			for _, r := range coat.Readings {
				if r.Surface == surface.Surface && !r.Superseded {
					each.Entry, each.At = r.Entry, stamp(r.when)
				}
			}
			b.add(each)
		}
		if coat.Explained != nil {
			b.add(signed("because.film_explained", *coat.Explained))
		}
	}
}

// acceptsBase tells whether a hold is the one on the base: the first of the recipe, before
// anything is bedded or laid.
func (a *Area) acceptsBase(step system.Step) bool {
	for _, s := range a.steps {
		switch {
		case s.Lays():
			return false
		case s.Does == system.AcceptIt:
			return s.ID == step.ID
		}
	}
	return false
}
