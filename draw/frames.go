package draw

import "dusha/core/wetarea"

// frame lays a surface out in the drawing: a place (along, up) lands at
// origin + along·right + up·up.
type frame struct{ origin, right, up wetarea.Point }

func (f frame) place(p wetarea.Point) wetarea.Point {
	return wetarea.Point{
		f.origin[0] + p[0]*f.right[0] + p[1]*f.up[0],
		f.origin[1] + p[0]*f.right[1] + p[1]*f.up[1],
	}
}

// back is the place on the surface that lands at a point of the drawing; right and up are
// unit vectors at right angles.
func (f frame) back(p wetarea.Point) wetarea.Point {
	x, y := p[0]-f.origin[0], p[1]-f.origin[1]
	return wetarea.Point{x*f.right[0] + y*f.right[1], x*f.up[0] + y*f.up[1]}
}

func (f frame) all(points []wetarea.Point) []wetarea.Point {
	placed := make([]wetarea.Point, len(points))
	for i, p := range points {
		placed[i] = f.place(p)
	}
	return placed
}

// frames turns where each surface lies in the net to the drawing's y, which runs down.
func frames(area wetarea.Area) map[string]frame {
	down := func(p wetarea.Point) wetarea.Point { return wetarea.Point{p[0], -p[1]} }
	laid := map[string]frame{}
	for _, s := range area.Surfaces {
		laid[s.ID] = frame{origin: down(s.Laid.Origin), right: down(s.Laid.Right), up: down(s.Laid.Up)}
	}
	return laid
}
