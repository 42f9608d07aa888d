package logbook

import (
	"slices"
	"time"

	"dusha/core/system"
)

// spraying proves standing surfaces by water that runs down them: done once every one of them held, after the film on it was
// touched last.
type spraying struct{ plainly }

func (spraying) by() []Kind { return []Kind{KindSprayed} }

func (spraying) progress(a *Area, s system.Step) (done, of int) {
	asked := a.toSpray(s)
	for _, id := range asked {
		done += one(a.sprayed(s.ID, id) == FindsHolds)
	}
	return done, max(1, len(asked))
}

func (spraying) next(a *Area, n *Next, _ time.Time) {
	n.Why, n.Args["minutes"], n.Args["flow"] = "next.spray", a.Rules().Limit("spray_minutes").Value, a.Rules().Limit("spray_flow").Value
	for _, run := range a.Sprays {
		if run.Says == FindsLeaks && a.sprayed(run.Step, run.Surfaces[0]) == FindsLeaks {
			n.State, n.Why = "held", "next.spray_leaks"
		}
	}
}

// toSpray are the surfaces that a spray test has to prove: those that the film lies on, of the faces that the proof is for.
func (a *Area) toSpray(s system.Step) (list []string) {
	if a.Takeoff == nil {
		return nil
	}
	var of []string
	if len(s.At) > 0 {
		of = a.PlanInputs(*a.Plan).PlacesOf(s.At)
	}
	for _, coat := range a.Takeoff.Coats {
		for _, share := range coat.Surface {
			surface, _ := a.Geometry.Surface(share.Surface)
			if !slices.Contains(list, share.Surface) && (len(s.At) == 0 && surface.Kind != "floor" || slices.Contains(of, share.Surface)) {
				list = append(list, share.Surface)
			}
		}
	}
	return list
}

// sprayed is what the last spray test of a surface found, "" where there was none since its film was laid.
func (a *Area) sprayed(step, surface string) (says string) {
	for _, run := range a.Sprays {
		if run.Step == step && slices.Contains(run.Surfaces, surface) && !a.filmLaidAfter(surface, run.When) {
			says = run.Says
		}
	}
	return says
}

// filmLaidAfter tells whether more of the film came onto a surface after a moment.
func (a *Area) filmLaidAfter(surface string, at time.Time) bool {
	for _, lays := range a.Laid {
		if slices.ContainsFunc(lays, func(l Lay) bool { return l.When.After(at) && slices.Contains(l.Surfaces, surface) }) {
			return true
		}
	}
	return false
}
