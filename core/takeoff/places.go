package takeoff

import (
	"math"
	"slices"
	"strings"

	"dusha/core/figure"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// place is one thing that a layer lies on: a surface or a part of it, a junction, a corner, a fitting, the film's free
// edge or a spot.
type place struct {
	id   string
	on   string        // one of system.Places
	size figure.Figure // m² of a field, m of a run, of an edge and round a fitting, 1 of a corner or a spot
	kind string        // of the surface
	turn string        // of the junction
	edge float64       // angle of the junction, degrees

	fitting *wetarea.Penetration
	where   system.Where
}

// words of a system for what a survey names more finely, and as others say it.
var finer = map[string][]string{
	"drain": {"point_drain", "channel"}, "pipe": {"pipe", "fitting"}, "screw": {"fixing"}, "hole": {"fixing"},
	"material_change": {"material"},
}

// named tells whether a kind of the survey is among the words of a system; no words mean any.
func named(words []string, kind string) bool {
	if len(words) == 0 || slices.Contains(words, kind) {
		return true
	}
	return slices.ContainsFunc(words, func(word string) bool { return slices.Contains(finer[word], kind) })
}

// areaWords are what a system calls the shapes of a survey.
var areaWords = map[string]string{"basin": "basin", "round_tank": "basin", "box_tank": "basin", "deck": "deck", "wall_run": "wall"}

func (in Inputs) areaNamed(words []string) bool {
	own := areaWords[in.Area.Shape]
	if own == "" {
		own = "room"
	}
	return len(words) == 0 || slices.Contains(words, own) || own == "deck" && slices.Contains(words, "roof")
}

// on are all things that a layer lies on, worked out once.
func (m *maker) on(l system.Layer) []place {
	if known, is := m.laid[l.ID]; is {
		return known
	}
	m.laid[l.ID] = m.places(l.ID, l.Where)
	return m.laid[l.ID]
}

// carriedOn are all things that what a layer carries lies on: its own places, or those of the layer.
func (m *maker) carriedOn(l system.Layer, c system.Carries) []place {
	if len(c.Where) == 0 {
		return m.on(l)
	}
	key := l.ID + " " + c.Product + " " + strings.Join(c.InCoat, " ")
	if known, is := m.laid[key]; is {
		return known
	}
	m.laid[key] = m.places(l.ID, c.Where)
	return m.laid[key]
}

// lies tells whether a thing is among the places of a layer.
func (m *maker) lies(l system.Layer, on, id string) bool {
	known, is := m.lying[l.ID]
	if !is {
		known = map[string]bool{}
		for _, p := range m.on(l) {
			known[p.on+" "+p.id] = true
		}
		m.lying[l.ID] = known
	}
	return known[on+" "+id]
}

// places are all things that lie where it is said, each once.
func (m *maker) places(id string, where []system.Where) (list []place) {
	seen := map[string]bool{}
	for _, w := range where {
		if !m.areaNamed(w.Areas) {
			continue
		}
		for _, p := range m.placesOf(id, w) {
			key := p.on + p.id
			if p.on == "field" {
				key = p.size.Name + p.id + p.ground()
			}
			if !seen[key] {
				seen[key] = true
				p.where = w
				list = append(list, p)
			}
		}
	}
	return list
}

// Lies tells whether the area has something of what a layer or a step is for.
func (in Inputs) Lies(where []system.Where) bool {
	m := newMaker(in)
	return len(m.places("", where)) > 0
}

// PlacesOf are the ids of what a layer or a step is for.
func (in Inputs) PlacesOf(where []system.Where) (ids []string) {
	for _, p := range newMaker(in).places("", where) {
		ids = append(ids, p.id)
	}
	return ids
}

func (p place) ground() string {
	material, _ := p.size.Args["material"].(string)
	return material
}

func (m *maker) placesOf(layer string, w system.Where) (list []place) {
	if w.On == "field" || w.On == "all" {
		list = m.field(layer, w)
	}
	if w.On == "joints" || w.On == "all" || w.On == "edges" {
		for _, j := range m.Area.Junctions {
			if w.On == "edges" && (j.Kind != "threshold" && j.Kind != "trim" || !named(w.Edges, j.Kind)) || w.On != "edges" && !named(w.Joints, j.Kind) {
				continue
			}
			if !system.OnFace(w.Faces, m.faceOf(j)) {
				continue
			}
			list = append(list, place{id: j.ID, on: "joints", size: m.run(j), turn: j.Turn, edge: m.angle(j)})
		}
	}
	if w.On == "edges" && named(w.Edges, "termination") && m.Area.Termination > 0 {
		list = append(list, place{id: "edge", on: "edges", size: m.edge()})
	}
	if w.On == "corners" || w.On == "all" {
		for _, c := range m.Area.Corners {
			if named(w.Corners, c.Turn) && system.OnFace(w.Faces, m.kindOf(c.Surface)) {
				list = append(list, place{id: c.ID, on: "corners", size: count("plan.piece.one_corner", "corner", c.ID, m.measured(c.ID))})
			}
		}
	}
	for i := range m.Area.Penetrations {
		f := &m.Area.Penetrations[i]
		if !system.OnFace(w.Faces, m.kindOf(f.Surface)) {
			continue
		}
		if (w.On == "fittings" && named(w.Fittings, f.Kind)) || w.On == "all" || w.On == "spots" && len(w.Spots) > 0 && named(w.Spots, f.Kind) {
			list = append(list, place{id: f.ID, on: "fittings", size: m.round(*f), fitting: f})
		}
	}
	if w.On == "spots" && named(w.Spots, "leak") {
		for _, leak := range m.Leaks {
			if !system.OnFace(w.Faces, m.kindOf(leak.Surface)) {
				continue
			}
			found := figure.Read("plan.item.leak", 1, "count", figure.Source{Kind: "entry", Ref: leak.ID, Says: leak.Surface})
			list = append(list, place{id: leak.Surface, on: "spots", size: found.With("leak", leak.ID)})
		}
	}
	return list
}

// kindOf is the kind of a surface.
func (m *maker) kindOf(surface string) string { return m.kinds[surface] }

// faceOf is the face that a junction belongs to: the floor where it touches it.
func (m *maker) faceOf(j wetarea.Junction) (kind string) {
	for _, line := range j.Lines {
		if own := m.kindOf(line.Surface); kind == "" || own == "floor" {
			kind = own
		}
	}
	return kind
}

// field are the surfaces of a layer, or their parts by ground. A base of which nothing was said takes the first primer
// of a system that primes.
func (m *maker) field(layer string, w system.Where) (list []place) {
	for _, s := range m.Area.Surfaces {
		if !system.OnFace(w.Faces, s.Kind) {
			continue
		}
		share := 1.0
		if w.Up > 0 || w.FromUp > 0 {
			switch {
			case s.Kind == "floor" && w.FromUp > 0:
				continue
			case s.Kind != "floor" && s.Area > 0:
				share = s.Between(w.FromUp, w.Up) / s.Area
			}
			if share <= 0 {
				continue
			}
		}
		if len(w.Grounds) == 0 {
			size := m.surface(s)
			if share < 1 {
				size = figure.Worked("plan.area.part", s.Area*share, "m2", "area.part", size).With("surface", s.ID)
			}
			list = append(list, place{id: s.ID, on: "field", size: size, kind: s.Kind})
			continue
		}
		for _, g := range m.Area.Grounds(s) {
			if !slices.Contains(w.Grounds, g.Material) && (g.Material != "" || !slices.Contains(m.unsaid, layer)) {
				continue
			}
			size := m.ground(g)
			size.Value *= share
			list = append(list, place{id: s.ID, on: "field", size: size, kind: s.Kind})
		}
	}
	return list
}

// round is the way round a fitting, m: of a channel twice its length.
func (m *maker) round(f wetarea.Penetration) figure.Figure {
	round := math.Pi * f.Diameter
	if f.Ends != nil {
		round = 2 * math.Hypot(f.Ends[1][0]-f.Ends[0][0], f.Ends[1][1]-f.Ends[0][1])
	}
	return figure.Worked("plan.item.round", round/1000, "m", "length.round", m.measured(f.ID)...).With("fitting", f.ID)
}

// wrap is what a layer covers at a fitting, m²: its way round as far up as the film goes on it, and a ring as wide as the
// layer reaches out.
func (m *maker) wrap(p place) figure.Figure {
	up := p.fitting.Collar
	if up == 0 {
		up = p.where.Up
	}
	if p.fitting.Height > 0 {
		up = min(up, p.fitting.Height)
	}
	radius, out := p.fitting.Diameter/2, p.where.Out
	area := p.size.Value*1000*up + math.Pi*(math.Pow(radius+out, 2)-math.Pow(radius, 2))
	return figure.Worked("plan.item.wrap", area/mm2PerM2, "m2", "area.wrap", p.size).With("fitting", p.id)
}

// ground is a part of a surface with its area as a figure.
func (m *maker) ground(g wetarea.Ground) figure.Figure {
	return figure.Worked("plan.area.ground", g.Area, "m2", "area.ground", m.measured(g.Surface)...).With("surface", g.Surface, "material", g.Material)
}

// edge is the length of the film's free edges, m.
func (m *maker) edge() figure.Figure {
	in := m.Inputs
	var from []figure.Figure
	for _, s := range in.Area.Surfaces {
		from = append(from, m.measured(s.ID)...)
	}
	return figure.Worked("plan.item.edge", in.Area.Termination/1000, "m", "length.edge", from...)
}
