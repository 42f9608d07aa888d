package system

import (
	"slices"

	"dusha/core/sheet"
)

// Clash is what cannot all be kept of a system as it stands, said before anything is laid, with the ways out: each is the
// same system in another order.
type Clash struct {
	Key  string         `json:"key"` // wording "clash.<key>"
	Args map[string]any `json:"args"`
	Ways []WayOut       `json:"ways"`
}

// WayOut is one way out of a clash.
type WayOut struct {
	ID    string `json:"id"` // wording "clash.way.<id>"
	Order Order  `json:"order"`
}

// Ways out of clashes.
const (
	OverlayNow = "overlay_now" // lay over it inside its window, and prove it by its film
	CureFirst  = "cure_first"  // cure, test, and key it anew
	TopNow     = "top_now"     // the top coat before the test
	TopAnew    = "top_anew"    // test, and key it anew for the top coat
)

// Clashes finds what cannot all be kept: an overlay or a top coat whose latest time falls before cure and test are over.
// testHours is how long a water test takes at least, by the local rule. Times are those at 20 °C.
func (s System) Clashes(sheets map[string]sheet.Sheet, testHours float64) []Clash {
	list := []Clash{}
	fitted, err := s.Fitted(sheets)
	if err != nil {
		return list
	}
	for _, part := range fitted.Parts() {
		film, is := part.Film()
		of, there := sheets[film.Product]
		if !is || !there {
			continue
		}
		cure, known := at20(of, "cure")
		if !known {
			continue
		}
		if part.proves("water") || part.proves("bays") {
			cure += testHours
		}
		clash := func(key, latest string, ways ...string) {
			hours, stated := at20(of, latest)
			if !stated || hours >= cure {
				return
			}
			c := Clash{Key: key, Args: map[string]any{"name": of.Name, "latest": hours, "needs": cure}, Ways: []WayOut{}}
			for _, id := range ways {
				if o, err := MakeOrder(s.Out(id), sheets); err == nil {
					c.Ways = append(c.Ways, WayOut{id, o})
				}
			}
			list = append(list, c)
		}
		if part.WayOf("overlay") == "short_window" && part.lays(inProtect, inFinish) {
			clash("overlay", "overlay_latest", OverlayNow, CureFirst)
		}
		if part.lays(inTop) && (part.proves("water") || part.proves("bays")) {
			clash("top_coat", "recoat_latest", TopNow, TopAnew)
		}
	}
	return list
}

// at20 is a time of a sheet at 20 °C, h, where it states one there.
func at20(s sheet.Sheet, table string) (hours float64, stated bool) {
	const usual = 20
	for _, e := range s.Table(table).Entries {
		if e.Temp == usual && e.Time > 0 {
			return e.Time, true
		}
	}
	return 0, false
}

func (s System) proves(kind string) bool {
	return slices.ContainsFunc(s.Proofs, func(p Proof) bool { return p.Kind == kind })
}

// lays tells whether the system lays something in one of some stages.
func (s System) lays(at ...stage) bool {
	return slices.ContainsFunc(s.Layers, func(l Layer) bool { return slices.Contains(at, s.stageOf(l)) })
}

// Out is the system with a way out of a clash taken; one that is not known changes nothing.
func (s System) Out(way string) System {
	anew := func(before, stage string) Edit {
		step := usual["key_anew"]
		step.ID = "key_anew"
		return Edit{Does: "add", Step: step.ID, Before: before, Stage: stage, Add: &step}
	}
	first := func(steps ...string) {
		for _, step := range steps {
			s.Edits = append(slices.Clip(s.Edits), Edit{Does: "move", Step: step, Before: "cure_complete", Stage: "cure"})
		}
	}
	over := func(way string) {
		s.Ways = slices.DeleteFunc(slices.Clone(s.Ways), func(w Way) bool { return w.School == "overlay" && w.Where == nil })
		s.Ways = append(s.Ways, Way{School: "overlay", Way: way})
	}
	switch way {
	case OverlayNow:
		s.Proofs = slices.DeleteFunc(slices.Clone(s.Proofs), func(p Proof) bool { return p.Kind == "water" || p.Kind == "bays" })
		s.Proofs = append(s.Proofs, Proof{Kind: "film"})
		first("protect")
	case CureFirst:
		over("after_cure")
		s.Edits = append(slices.Clip(s.Edits), anew("protect", "protect"))
	case TopNow:
		first("top_coat")
	case TopAnew:
		s.Edits = append(slices.Clip(s.Edits), anew("top_coat", "top_coat"))
	}
	return s
}
