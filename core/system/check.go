package system

import (
	"slices"
	"strconv"
	"strings"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// What a system may hold at most: more is no build-up that a person lays.
const (
	mostLayers   = 60
	mostProducts = 120
	mostCoats    = 12
	mostWhere    = 20
	mostEdits    = 200
	mostText     = 500
)

// Check holds a system against what can be built: it can be followed, and says by what it is shown to be tight.
func (s System) Check() error {
	if err := s.Followed(); err != nil {
		return err
	}
	if len(s.Proofs) == 0 {
		return fault.At("proofs", "system.no_proof")
	}
	return nil
}

// Followed tells whether a system can be followed: each layer of a product it has, on places that are, with a target for
// each coat; ways that are known; an order in which every layer is laid.
func (s System) Followed() error {
	switch {
	case strings.TrimSpace(s.ID) == "" || strings.TrimSpace(s.Name) == "":
		return fault.At("name", "text.missing")
	case len(s.Layers) > mostLayers:
		return fault.At("layers", "list.too_long", "most", mostLayers)
	case len(s.Products) > mostProducts:
		return fault.At("products", "list.too_long", "most", mostProducts)
	case len(s.Edits) > mostEdits:
		return fault.At("edits", "list.too_long", "most", mostEdits)
	case len(s.Layers) == 0:
		return fault.At("layers", "system.no_layer")
	}
	if err := checkWays(s.Ways); err != nil {
		return err
	}
	if err := s.checkZones(); err != nil {
		return err
	}
	seen := map[string]bool{}
	for _, p := range s.Products {
		field := "products." + p.Key
		switch {
		case p.Key == "" || strings.Contains(p.Key, "."):
			return fault.At("products", "system.product_without_key", "product", fault.Short(p.Product))
		case seen[p.Key]:
			return fault.At(field, "system.product_twice", "product", p.Key)
		case !slices.Contains(sheet.Roles, p.Role):
			return fault.At(field, "choice.unknown", "typed", fault.Short(p.Role))
		}
		seen[p.Key] = true
	}
	laid := map[string]bool{}
	for i, l := range s.Layers {
		if l.ID == "" || strings.Contains(l.ID, ".") {
			return fault.At("layers."+strconv.Itoa(i+1), "system.layer_without_name")
		}
		if laid[l.ID] {
			return fault.At("layers."+l.ID, "system.layer_twice", "layer", l.ID)
		}
		laid[l.ID] = true
		if err := s.layer(l); err != nil {
			return err
		}
	}
	for _, p := range s.Proofs {
		if !slices.Contains(Proofs, p.Kind) {
			return fault.At("proofs", "choice.unknown", "typed", fault.Short(p.Kind))
		}
		if p.Kind == "none" && strings.TrimSpace(p.Reason) == "" {
			return fault.At("proofs", "system.no_proof_without_reason")
		}
	}
	if err := s.checkOptions(); err != nil {
		return err
	}
	return s.checkOrders()
}

// checkOrders makes the order of the work for every choice of the options.
func (s System) checkOrders() error {
	for _, choices := range s.everyChoice() {
		chosen, err := s.Chosen(choices)
		if err != nil {
			return err
		}
		order, err := MakeOrder(chosen, nil)
		if err != nil {
			return err
		}
		if err := order.laysAll(chosen.split()); err != nil {
			return err
		}
	}
	return nil
}

// layer checks one layer.
func (s System) layer(l Layer) error {
	field := "layers." + l.ID
	if _, known := s.ProductOf(l.Product); !known {
		return fault.At(field, "system.layer_of_no_product", "layer", l.ID, "product", fault.Short(l.Product))
	}
	if len(l.Where) == 0 {
		return fault.At(field+".where", "system.layer_nowhere", "layer", l.ID)
	}
	if len(l.Where) > mostWhere || len(l.Coats) > mostCoats {
		return fault.At(field, "list.too_long", "most", mostCoats)
	}
	for _, w := range l.Where {
		if !slices.Contains(Places, w.On) {
			return fault.At(field+".where", "choice.unknown", "typed", fault.Short(w.On))
		}
		if err := faces(field+".where", w.Faces); err != nil {
			return err
		}
	}
	if len(l.Coats) == 0 {
		return fault.At(field+".coats", "system.layer_without_coat", "layer", l.ID)
	}
	if l.Accept != nil && !slices.Contains(AcceptedBy, l.Accept.By) {
		return fault.At(field+".accept", "choice.unknown", "typed", fault.Short(l.Accept.By))
	}
	if l.Like != "" && l.Like != l.ID {
		if _, known := s.LayerOf(l.Like); !known {
			return fault.At(field+".like", "system.layer_of_no_product", "layer", l.ID, "product", fault.Short(l.Like))
		}
	}
	ids := map[string]bool{}
	for i, c := range l.Coats {
		of := field + ".coats." + c.ID
		switch {
		case c.ID == "" || ids[c.ID]:
			return fault.At(field+".coats", "system.coat_without_name", "layer", l.ID, "n", i+1)
		case c.Target == nil && l.Total == nil, c.Target != nil && c.Target.Kind == "share_percent" && l.Total == nil:
			return fault.At(of, "system.coat_without_target", "layer", l.ID, "n", i+1)
		case c.Face != "" && !slices.Contains(Faces, c.Face):
			return fault.At(of, "choice.unknown", "typed", fault.Short(c.Face))
		case c.On != "" && !slices.Contains(Ons, c.On):
			return fault.At(of, "choice.unknown", "typed", fault.Short(c.On))
		case c.Strokes != "" && !slices.Contains(Strokes, c.Strokes):
			return fault.At(of, "choice.unknown", "typed", fault.Short(c.Strokes))
		}
		for _, m := range c.Minds {
			if !slices.Contains(Weathers, m.What) {
				return fault.At(of, "choice.unknown", "typed", fault.Short(m.What))
			}
			if strings.TrimSpace(m.Until) == "" {
				return fault.At(of, "system.minds_for_ever", "what", m.What, "n", i+1)
			}
		}
		ids[c.ID] = true
		if err := s.target(of, c.Target); err != nil {
			return err
		}
		if err := faces(of, c.Faces); err != nil {
			return err
		}
	}
	if err := s.target(field+".total", l.Total); err != nil {
		return err
	}
	if c := l.Count; c != nil {
		if c.Least < 1 || c.Most < c.Least || c.Most > mostCoats || c.Plus < 0 {
			return fault.At(field+".count", "system.range_upside_down", "low", c.Least, "high", c.Most)
		}
		for _, f := range []*Figure{c.Of, c.Upright} {
			if err := s.figure(field+".count", f); err != nil {
				return err
			}
		}
	}
	for _, c := range l.Carries {
		if _, known := s.ProductOf(c.Product); !known {
			return fault.At(field+".carries", "system.layer_of_no_product", "layer", l.ID, "product", fault.Short(c.Product))
		}
		if !slices.Contains(Hows, c.How) {
			return fault.At(field+".carries", "choice.unknown", "typed", fault.Short(c.How))
		}
		for _, coat := range c.InCoat {
			if !ids[coat] {
				return fault.At(field+".carries", "system.carried_in_no_coat", "layer", l.ID, "coat", fault.Short(coat))
			}
		}
		if err := s.figure(field+".carries", c.ShareBelow); err != nil {
			return err
		}
		if err := s.figure(field+".carries", c.Amount); err != nil {
			return err
		}
	}
	if l.Mix != nil {
		for _, key := range l.Mix.Additives {
			if _, known := s.ProductOf(key); !known {
				return fault.At(field+".mix", "system.layer_of_no_product", "layer", l.ID, "product", fault.Short(key))
			}
		}
	}
	return nil
}

// target checks what a coat asks for, where something is asked.
func (s System) target(field string, t *Target) error {
	if t == nil {
		return nil
	}
	if !slices.Contains(Targets, t.Kind) {
		return fault.At(field, "choice.unknown", "typed", fault.Short(t.Kind))
	}
	for _, f := range []*Figure{t.Figure, t.Second, t.Times} {
		if err := s.figure(field, f); err != nil {
			return err
		}
	}
	return nil
}

// faces checks that faces are some that an area can have.
func faces(field string, list []string) error {
	for _, face := range list {
		if !slices.Contains(FaceKinds, face) {
			return fault.At(field+".faces", "choice.unknown", "typed", fault.Short(face))
		}
	}
	return nil
}

// figure checks that a figure is a name on the sheet of a product that the system has, or is stated with its reason.
func (s System) figure(field string, f *Figure) error {
	switch {
	case f == nil:
		return nil
	case f.Of != "":
		if key, name := f.Product(); name != "" {
			if _, known := s.ProductOf(key); known {
				return nil
			}
		}
		return fault.At(field, "system.figure_of_no_product", "figure", fault.Short(f.Of))
	case f.Value == nil || f.Unit == "" || !(*f.Value >= 0):
		return fault.At(field, "number.missing")
	case f.High != nil && *f.High < *f.Value:
		return fault.At(field, "system.range_upside_down", "low", *f.Value, "high", *f.High)
	case strings.TrimSpace(f.Reason) == "":
		return fault.At(field, "system.figure_without_reason")
	}
	return nil
}

// laysAll tells whether some step lays each layer.
func (o Order) laysAll(s System) error {
	laid := map[string]bool{}
	for _, step := range o.Steps() {
		if !step.Hold() {
			for _, id := range step.Layers() {
				laid[id] = true
			}
		}
	}
	for _, l := range s.Layers {
		if !laid[l.ID] {
			return fault.At("layers."+l.ID, "system.layer_not_laid", "layer", l.ID)
		}
	}
	return nil
}
