package system

import (
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// Zone is a part of an area that is worked by itself: its faces, and how it is worked there.
type Zone struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Faces    []string `json:"faces" maxItems:"20"`
	From     string   `json:"from,omitempty"` // id of the system it follows
	Name     string   `json:"name,omitempty"` // of that system
	Ways     []Way    `json:"ways" maxItems:"60"`
	Stages   []Stage  `json:"stages,omitempty" maxItems:"40"`
	Edits    []Edit   `json:"edits,omitempty" maxItems:"200"`
	Remedies []Remedy `json:"remedies,omitempty" maxItems:"60"`
}

// Part is a system on the faces of one zone.
type Part struct {
	ID     string
	Title  string
	Faces  []string
	System System
}

// kindsOf are the kinds of surfaces that faces come to.
func kindsOf(faces []string) (kinds []string) {
	for _, kind := range FaceKinds {
		if kind != "flat" && kind != "upright" && OnFace(faces, kind) {
			kinds = append(kinds, kind)
		}
	}
	return kinds
}

// Join makes one system of several that follow each other in one area, each on its own faces. Joints, corners and fittings
// belong to the floor where they touch it. No face may follow two systems.
func Join(id, name string, parts ...Part) (System, error) {
	s := System{ID: id, Name: name, Revision: "-"}
	for i, part := range parts {
		from := part.System
		z := Zone{ID: part.ID, Title: part.Title, Faces: part.Faces, From: from.ID, Name: from.Name, Ways: from.Ways, Edits: from.Edits}
		s.Sample = s.Sample || from.Sample
		for _, p := range from.Products {
			p.Key, p.Zone, p.In = part.ID+"_"+p.Key, part.ID, inPart(z.ID+"_", p.In)
			s.Products = append(s.Products, p)
		}
		for _, l := range from.Layers {
			if own, is := l.in(z, z.ID+"_", i == 0); is {
				s.Layers = append(s.Layers, own)
			}
		}
		for _, o := range from.Options {
			o.ID, o.Line = inPart(z.ID+"_", o.ID), part.Title+": "+o.Line
			s.Options = append(s.Options, o)
		}
		for _, r := range from.Remedies {
			r.Of = part.ID + "_" + r.Of
			z.Remedies = append(z.Remedies, r)
		}
		z.Stages = z.stages(from.Stages, z.ID+"_")
		z.Edits = slices.Clone(z.Edits)
		for k, e := range z.Edits {
			if e.Add != nil {
				own := e.Add.in(z, z.ID+"_")
				z.Edits[k].Add = &own
			}
			if e.Link != nil {
				own := e.Link.in(z, z.ID+"_")
				z.Edits[k].Link = &own
			}
		}
		for _, p := range from.Proofs {
			if !slices.ContainsFunc(s.Proofs, func(other Proof) bool { return other.Kind == p.Kind }) {
				s.Proofs = append(s.Proofs, p)
			}
		}
		s.Zones = append(s.Zones, z)
	}
	return s, apart(s.Zones)
}

// inPart is the name of an option, or of a choice of it, in a part of a joined system.
func inPart(prefix, name string) string {
	if name == "" {
		return ""
	}
	return prefix + name
}

// apart refuses zones that have a face together.
func apart(zones []Zone) error {
	of := map[string]string{}
	for _, z := range zones {
		for _, kind := range kindsOf(z.Faces) {
			if other, twice := of[kind]; twice {
				return fault.At("zones."+z.ID, "system.two_on_one_face", "face", kind, "one", other, "other", z.Title)
			}
			of[kind] = z.Title
		}
	}
	return nil
}

// stages are what a system says of its stages, by the names that things have in a zone.
func (z Zone) stages(of []Stage, prefix string) (own []Stage) {
	for _, stage := range of {
		stage.Steps = slices.Clone(stage.Steps)
		for k := range stage.Steps {
			stage.Steps[k] = stage.Steps[k].in(z, prefix)
		}
		own = append(own, stage)
	}
	return own
}

// split makes zones of the places that ways hold for: one room can be worked in two ways with the same products.
func (s System) split() System {
	var zones []Zone
	left := kindsOf(nil)
	for _, w := range s.Ways {
		if w.Where == nil {
			continue
		}
		kinds := kindsOf(w.Where.Faces)
		i := slices.IndexFunc(zones, func(z Zone) bool { return slices.Equal(kindsOf(z.Faces), kinds) })
		if i < 0 {
			i = len(zones)
			zones = append(zones, Zone{ID: strings.Join(w.Where.Faces, "_"), Title: strings.Join(w.Where.Faces, ", "), Faces: w.Where.Faces})
			left = slices.DeleteFunc(left, func(kind string) bool { return slices.Contains(kinds, kind) })
		}
		zones[i].Ways = append(zones[i].Ways, Way{School: w.School, Way: w.Way})
	}
	if len(zones) == 0 {
		return s
	}
	if len(left) > 0 {
		zones = append([]Zone{{ID: "else", Title: strings.Join(left, ", "), Faces: left}}, zones...)
	}
	layers := s.Layers
	s.Layers = nil
	for i := range zones {
		z := &zones[i]
		z.From, z.Name, z.Remedies = s.ID, s.Name, s.Remedies
		for _, w := range s.Ways {
			if w.Where == nil && !slices.ContainsFunc(z.Ways, func(own Way) bool { return own.School == w.School }) {
				z.Ways = append(z.Ways, w)
			}
		}
		z.Stages = z.stages(s.Stages, "")
		for _, l := range layers {
			if own, is := l.in(*z, "", i == 0); is {
				s.Layers = append(s.Layers, own)
			}
		}
	}
	s.Zones, s.Stages, s.Ways = zones, nil, nil
	return s
}

// in is a layer on the faces of a zone, its products by the names they have there; none where it lies on others alone. What
// lies at the film's edge is laid once.
func (l Layer) in(z Zone, prefix string, first bool) (Layer, bool) {
	where := z.narrowed(l.Where, first)
	if len(where) == 0 {
		return l, false
	}
	l.ID, l.Zone, l.Where, l.Product, l.In = z.ID+"_"+l.ID, z.ID, where, prefix+l.Product, inPart(prefix, l.In)
	if l.Like != "" {
		l.Like = z.ID + "_" + l.Like
	}
	l.Total = l.Total.in(prefix)
	if l.Count != nil {
		own := *l.Count
		own.Of, own.Upright = own.Of.in(prefix), own.Upright.in(prefix)
		l.Count = &own
	}
	l.Coats = slices.Clone(l.Coats)
	for i := range l.Coats {
		l.Coats[i].Target = l.Coats[i].Target.in(prefix)
	}
	carries := l.Carries
	l.Carries = nil
	for _, c := range carries {
		here := z.narrowed(c.Where, first)
		if len(c.Where) > 0 && len(here) == 0 {
			continue // it lies on faces of another zone alone
		}
		c.Product, c.Where, c.ShareBelow, c.Amount = prefix+c.Product, here, c.ShareBelow.in(prefix), c.Amount.in(prefix)
		l.Carries = append(l.Carries, c)
	}
	if l.Mix != nil {
		own := *l.Mix
		own.Additives = slices.Clone(own.Additives)
		for i := range own.Additives {
			own.Additives[i] = prefix + own.Additives[i]
		}
		l.Mix = &own
	}
	return l, true
}

// narrowed are places on the faces of a zone. What lies at the film's edge belongs to the first.
func (z Zone) narrowed(where []Where, first bool) (own []Where) {
	for _, w := range where {
		if w.On != "edges" {
			w.Faces = slices.DeleteFunc(kindsOf(z.Faces), func(kind string) bool { return !OnFace(w.Faces, kind) })
		}
		if w.On == "edges" && first || w.On != "edges" && len(w.Faces) > 0 {
			own = append(own, w)
		}
	}
	return own
}

func (t *Target) in(prefix string) *Target {
	if t == nil || prefix == "" {
		return t
	}
	own := *t
	own.Figure, own.Second, own.Times = own.Figure.in(prefix), own.Second.in(prefix), own.Times.in(prefix)
	return &own
}

func (f *Figure) in(prefix string) *Figure {
	if f == nil || f.Of == "" || prefix == "" {
		return f
	}
	own := *f
	own.Of = prefix + f.Of
	return &own
}

func (s Step) in(z Zone, prefix string) Step {
	s.Of, s.After, s.In = slices.Clone(s.Of), slices.Clone(s.After), inPart(prefix, s.In)
	for i := range s.Of {
		s.Of[i] = z.ID + "_" + s.Of[i]
	}
	for i := range s.After {
		s.After[i] = s.After[i].in(z, prefix)
	}
	return s
}

func (l Link) in(z Zone, prefix string) Link {
	l.Least, l.Latest, l.In = l.Least.in(prefix), l.Latest.in(prefix), inPart(prefix, l.In)
	if l.Layer != "" {
		l.Layer = z.ID + "_" + l.Layer
	}
	return l
}

// Parts are the systems that the zones of a system follow, by themselves; of one without zones it alone.
func (s System) Parts() (parts []System) {
	if len(s.Zones) == 0 {
		return []System{s}
	}
	for _, z := range s.Zones {
		part := s
		part.Zones, part.Ways, part.Stages, part.Edits, part.Remedies = nil, z.Ways, z.Stages, z.Edits, z.Remedies
		part.Name = z.Name
		part.Layers = slices.DeleteFunc(slices.Clone(s.Layers), func(l Layer) bool { return l.Zone != z.ID })
		part.Products = slices.DeleteFunc(slices.Clone(s.Products), func(p Product) bool { return p.Zone != "" && p.Zone != z.ID })
		parts = append(parts, part)
	}
	return parts
}

// shared are the steps that zones go through together.
var shared = []string{"survey", "plan", "substrate_accepted", "mist", "test_plan", "test", "test_signed", "handed_over"}

// orderOfZones lays the orders of the zones beside each other, stage by stage.
func (s System) orderOfZones(sheets map[string]sheet.Sheet) (Order, error) {
	all := Order{Stages: []Stage{}, Asked: []Asked{}}
	coats := 0
	for i, part := range s.Parts() {
		z := s.Zones[i]
		o, err := part.order(sheets)
		if err != nil {
			return all, err
		}
		most := coats
		before := -1 // stage of the whole that the last one went into
		for _, stage := range o.Stages {
			at := slices.IndexFunc(all.Stages, func(other Stage) bool { return other.ID == stage.ID })
			if at < 0 {
				at = before + 1
				all.Stages = slices.Insert(all.Stages, at, Stage{ID: stage.ID, Title: stage.Title, Visit: stage.Visit})
			}
			before = at
			for _, step := range stage.Steps {
				if step.Coat > 0 {
					step.Coat += coats
					most = max(most, step.Coat)
				}
				all.Stages[at].beside(step.of(z), slices.Contains(shared, step.ID))
			}
		}
		coats = most
	}
	return all, nil
}

// of is a step under the name it has in a zone.
func (s Step) of(z Zone) Step {
	named := func(id string) string {
		if id == "" || slices.Contains(shared, id) {
			return id
		}
		return id + "_" + z.ID
	}
	if !slices.Contains(shared, s.ID) {
		s.Title += ": " + z.Title
	}
	s.ID, s.Mends = named(s.ID), named(s.Mends)
	s.After = slices.Clone(s.After)
	for i := range s.After {
		s.After[i].Step = named(s.After[i].Step)
	}
	return s
}

// beside puts a step of one more zone into a stage: before the first of its steps that all zones go through, and such a step
// once for all.
func (s *Stage) beside(step Step, together bool) {
	at := slices.IndexFunc(s.Steps, func(other Step) bool { return other.ID == step.ID })
	switch {
	case at >= 0:
		there := &s.Steps[at]
		there.Of, there.After = append(slices.Clip(there.Of), step.Of...), append(slices.Clip(there.After), step.After...)
	case together:
		s.Steps = append(s.Steps, step)
	default:
		if at = slices.IndexFunc(s.Steps, func(other Step) bool { return slices.Contains(shared, other.ID) }); at < 0 {
			at = len(s.Steps)
		}
		s.Steps = slices.Insert(s.Steps, at, step)
	}
}

// checkZones holds zones against each other: each on faces of its own, and ways that hold for a place alike.
func (s System) checkZones() error {
	for _, z := range s.Zones {
		field := "zones." + z.ID
		if z.ID == "" || len(z.Faces) == 0 {
			return fault.At(field, "system.zone_nowhere", "zone", fault.Short(z.Title))
		}
		if err := faces(field, z.Faces); err != nil {
			return err
		}
		if err := checkWays(z.Ways); err != nil {
			return err
		}
	}
	if err := apart(s.Zones); err != nil {
		return err
	}
	placed := map[string]string{} // faces of a kind of surface, by the zone it went to
	for _, w := range s.Ways {
		if w.Where == nil {
			continue
		}
		if len(w.Where.Faces) == 0 {
			return fault.At("ways."+w.School, "system.zone_nowhere", "zone", w.School)
		}
		if err := faces("ways."+w.School, w.Where.Faces); err != nil {
			return err
		}
		whole := strings.Join(kindsOf(w.Where.Faces), " ")
		for _, kind := range kindsOf(w.Where.Faces) {
			if other, twice := placed[kind]; twice && other != whole {
				return fault.At("ways."+w.School, "system.two_on_one_face", "face", kind, "one", other, "other", whole)
			}
			placed[kind] = whole
		}
	}
	return nil
}
