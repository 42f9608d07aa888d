package wetarea

import (
	"slices"
	"strings"

	"dusha/core/ask"
)

// Origin is an answer that decides the size or the place of a piece.
type Origin struct {
	Answer string
	Unit   string
	shapes ask.Shapes
}

// Origin names the answers that a surface, junction, corner or penetration came from, in the order of asking.
func (a Area) Origin(id string) []Origin {
	var from []Origin
	for _, o := range a.origins {
		if o.shapes.Has(id) {
			from = append(from, o)
		}
	}
	return from
}

// originsOf gives what was answered with what it shapes: measures and outlines, not choices.
func originsOf(f *ask.Form) []Origin {
	var origins []Origin
	for _, q := range f.Questions {
		if len(q.Shapes) > 0 && q.State == "answered" && !q.Assumed && (q.Value != 0 || q.Kind == "text") {
			origins = append(origins, Origin{q.ID, q.Unit, q.Shapes})
		}
	}
	return origins
}

// plan are the pieces an outline decides.
var plan = ask.Shapes{"floor", "soffit", "riser", "wall", "floor_wall", "wall_soffit", "trim", "=threshold.*", "corner", "soffit_corner"}

// upright are the pieces that a height all round decides.
var upright = ask.Shapes{"wall", "wall_wall"}

// along are the pieces as long as a wall.
func along(walls ...string) ask.Shapes {
	pieces := ask.Shapes{"floor", "soffit", "riser"}
	for _, wall := range walls {
		pieces = append(pieces, "wall."+wall, "floor_wall."+wall, "wall_soffit."+wall, "trim."+wall, "=threshold."+wall,
			"corner."+wall, "corner.*."+wall, "soffit_corner."+wall, "soffit_corner.*."+wall)
	}
	return pieces
}

// turning are the pieces that the corner before a wall decides.
func turning(wall string) ask.Shapes {
	return ask.Shapes{"floor", "soffit", "wall_wall.*." + wall, "corner.*." + wall, "soffit_corner.*." + wall}
}

// up are the pieces as high as a wall.
func up(wall string) ask.Shapes {
	return ask.Shapes{"wall." + wall, "wall_wall." + wall, "wall_wall.*." + wall}
}

// on are the pieces of a wall that what stands in it takes a stretch from.
func on(wall string) ask.Shapes { return ask.Shapes{"wall." + wall, "floor_wall." + wall} }

// with adds pieces to others.
func with(some ask.Shapes, more ...string) ask.Shapes { return append(slices.Clone(some), more...) }

// itself are the pieces that an item of a list is made of: its own, its corners and its saddles.
func itself(item string) ask.Shapes {
	pieces := ask.Shapes{item}
	if kind, _, _ := strings.Cut(item, "."); kind == "niche" || kind == "box" {
		pieces = append(pieces, "corner."+item, "saddle."+item)
	}
	return pieces
}
