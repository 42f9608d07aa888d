package takeoff

import (
	"slices"
	"strings"

	"dusha/core/sheet"
	"dusha/core/system"
)

// Laying is what a step lays of one product beside the coats of the film: a primer, beads, a fillet, a top coat, what is
// strewn on it, boards over it. Coats that are laid wet on wet are one work.
type Laying struct {
	ID      string      `json:"id"` // its layer; "<layer>+<product>" of what is strewn on it
	Step    string      `json:"step"`
	Layer   string      `json:"layer"`
	Coat    string      `json:"coat"`    // of the layer, the first of those laid as one
	Product string      `json:"product"` // key
	Role    string      `json:"role"`
	Name    string      `json:"name"` // of the printing; "" where no sheet is there
	Unit    string      `json:"unit"` // of what is used: "kg", "m", "m2" or "count"
	Need    *float64    `json:"need"` // with waste; null where it cannot be worked out
	Places  []WorkPlace `json:"places"`
	Mixed   bool        `json:"mixed"` // it is weighed out part by part, on a card of its own
	Beds    bool        `json:"beds"`  // what pieces are bedded in: it lies where they do
}

// WorkPlace is one place of a work.
type WorkPlace struct {
	ID   string  `json:"id"`
	On   string  `json:"on"`
	Size float64 `json:"size"`
	Unit string  `json:"unit"` // "m2", "m" or "count"
	Need float64 `json:"need"` // in the work's unit, with waste; 0 where it cannot be worked out
}

// WorksOf are the works of a step in the order of its layers.
func (p Plan) WorksOf(step string) (list []Laying) {
	for _, w := range p.Works {
		if w.Step == step {
			list = append(list, w)
		}
	}
	return list
}

// addWorks lists what is laid beside the film's coats and the pieces that are bedded.
func (m *maker) addWorks() {
	m.plan.Works = []Laying{}
	film := m.System.FieldLayers()
	for _, l := range m.System.Layers {
		coats := slices.ContainsFunc(film, func(f system.Layer) bool { return f.ID == l.ID })
		piece := l.Coats[0].Target != nil && l.Coats[0].Target.Kind == "pieces" && l.Coats[0].Target.Figure == nil
		if !coats && m.bought(l.Product) && !(piece && m.beds(l)) {
			for i, c := range l.Coats {
				if i == 0 || c.On != "wet" {
					m.work(l, l.Coats[i:], l.Product, m.on(l), c)
				}
			}
		}
		for _, c := range l.Carries {
			if c.How == "strewn" && m.bought(c.Product) {
				at := slices.IndexFunc(l.Coats, func(coat system.Coat) bool { return coat.ID == c.InCoat[0] })
				m.work(l, l.Coats[at:at+1], c.Product, m.carriedOn(l, c), l.Coats[at])
			}
		}
	}
}

// beds tells whether pieces go down with a layer: they are of it, or lie in it.
func (m *maker) beds(l system.Layer) bool {
	return slices.ContainsFunc(m.plan.Pieces, func(p Piece) bool { return p.Layer == l.ID })
}

// work adds one: coats are its own and those after it, of which the ones laid wet on it belong to it.
func (m *maker) work(l system.Layer, coats []system.Coat, key string, places []place, first system.Coat) {
	step := m.stepLaying(l.ID, first.ID)
	if step == "" {
		return
	}
	of := m.sheets[key]
	role, _ := m.System.ProductOf(key)
	w := Laying{ID: l.ID, Step: step, Layer: l.ID, Coat: first.ID, Product: key, Role: role.Role, Name: of.Name, Unit: of.SoldIn(), Places: []WorkPlace{}}
	if of.ID == "" {
		w.Unit = sheet.Sheet{Role: role.Role}.SoldIn()
	}
	if key != l.Product {
		w.ID += "+" + key
	}
	w.Mixed, w.Beds = len(of.Parts) > 1, key == l.Product && m.beds(l)
	known := make(map[string]int, len(places))
	for _, p := range places {
		if p.on == "spots" { // a leak is plugged by its own entries
			continue
		}
		if p.on == "field" && !system.OnFace(first.Faces, p.kind) || first.Target != nil && strings.HasPrefix(first.Target.Kind, "fillet") && p.turn != "internal" {
			continue
		}
		if i, twice := known[p.id]; twice {
			w.Places[i].Size += p.size.Value // parts of one surface
			continue
		}
		known[p.id] = len(w.Places)
		w.Places = append(w.Places, WorkPlace{ID: p.id, On: p.on, Size: p.size.Value, Unit: p.size.Unit})
	}
	if l.Seams() && len(w.Places) == 0 {
		w.Places = append(w.Places, WorkPlace{ID: "seams", On: "joints", Unit: "m"})
	}
	if len(w.Places) == 0 {
		return
	}
	ids := []string{first.ID}
	for _, c := range coats[1:] {
		if c.On != "wet" {
			break
		}
		ids = append(ids, c.ID)
	}
	m.needs(&w, ids, known)
	m.plan.Works = append(m.plan.Works, w)
}

// needs adds what was worked out for a work, on the whole and place by place.
func (m *maker) needs(w *Laying, coats []string, place map[string]int) {
	need, known := 0.0, false
	for _, a := range m.amounts {
		if a.key != w.Product || a.layer != w.Layer || a.coat != "" && !slices.Contains(coats, a.coat) {
			continue
		}
		if a.err != nil {
			return
		}
		share := func(value float64) float64 {
			if a.waste {
				return withWaste(value, m.waste.Value)
			}
			return value
		}
		known = true
		need += share(a.net())
		for _, at := range a.at {
			if i, is := place[at.id]; is {
				w.Places[i].Need += share(at.amount)
			}
		}
	}
	if known {
		w.Need = &need
	}
}
