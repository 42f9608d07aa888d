package choice

import (
	"slices"
	"strings"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/wetarea"
)

// Needs are the figures of one product's sheet that a system in an area stands still without, in the order of a printed
// sheet: those that the system reads by name, those of mixing it, of starting it, and those by which the area is held
// against it. All others can wait. sheets are printings by the system's keys, for what kind of product each is.
func Needs(area wetarea.Area, s system.System, key string, sheets map[string]sheet.Sheet) []string {
	like, known := sheets[key]
	if !known {
		return []string{}
	}
	n := needs{like: like, names: map[string]bool{}}
	n.read(s, key, sheets)
	switch {
	case like.Is() == "membrane":
		n.mixing()
	case len(like.Parts) > 1:
		n.parts() // how it is stirred is asked where it is weighed
	}
	n.starting(area)
	if like.Is() == "membrane" {
		n.bearing(area)
	}
	return like.InOrder(n.names)
}

type needs struct {
	like  sheet.Sheet
	names map[string]bool
}

func (n needs) add(names ...string) {
	for _, name := range names {
		n.names[name] = true
	}
}

// read adds what the system names of the product: targets, counts, doses, and the times of its waits.
func (n needs) read(s system.System, key string, sheets map[string]sheet.Sheet) {
	figure := func(f *system.Figure) {
		if of, name := f.Product(); of == key && name != "" {
			n.figure(name)
		}
	}
	target := func(t *system.Target) {
		if t == nil {
			return
		}
		figure(t.Figure)
		figure(t.Second)
		figure(t.Times)
	}
	for _, l := range s.Layers {
		target(l.Total)
		if l.Count != nil {
			figure(l.Count.Of)
		}
		for _, c := range l.Coats {
			target(c.Target)
		}
		for _, c := range l.Carries {
			figure(c.ShareBelow)
			figure(c.Amount)
			if c.Product == key && c.How == "laid_in" {
				n.add("band_width", "band_roll", "band_lap")
			}
		}
		if l.Mix != nil && slices.Contains(l.Mix.Additives, key) {
			n.add("dose")
		}
		if l.Product == key {
			n.laidIn(l)
		}
	}
	order, _ := system.MakeOrder(s, sheets)
	for _, step := range order.Steps() {
		for _, link := range step.After {
			for _, f := range []*system.Figure{link.Least, link.Latest} {
				of, table := f.Product()
				if of != key || table == "" {
					continue
				}
				// A latest that this kind of sheet mostly leaves out can wait: the plan says that the step stays open.
				if f == link.Latest && n.like.Is() != "membrane" && len(n.like.Table(table).Entries) == 0 {
					continue
				}
				n.add(table + "_20")
			}
		}
	}
}

// laidIn adds what a layer of the product cannot be worked out without.
func (n needs) laidIn(l system.Layer) {
	_, printed := n.like.Numbers["dry_to_wet"]
	for _, c := range l.Coats {
		if c.Target == nil {
			continue
		}
		kind := c.Target.Kind
		if (strings.HasSuffix(kind, "_mm") || strings.HasPrefix(kind, "L_")) && n.like.SoldIn() == "kg" {
			n.add("mixed_density")
		}
		if printed && (kind == "dft_mm" || kind == "kg_m2" && l.Lies("field")) {
			n.add("dry_to_wet")
		}
	}
	if n.like.Is() == "membrane" && l.Lies("joints") { // bands are bedded in it
		n.add("band_margin")
	}
	if n.like.SoldIn() == "m" {
		n.add("band_width", "band_roll")
	}
	if l.Accept != nil && l.Accept.By == "dry_film" {
		n.add("dry_to_wet")
	}
	if l.Mix != nil && l.Mix.Water == "by_tool" {
		n.add("water_roller", "water_trowel")
	}
}

// figure adds one by its name; a film's thickness by what this kind of sheet prints of it.
func (n needs) figure(name string) {
	_, printed := n.like.Numbers[name]
	switch {
	case name == "wft_per_coat" && !printed:
		n.add("rate", "rate_per", "rate_basis", "mixed_density")
	case name == "rate" && n.like.Is() == "membrane":
		n.add("rate", "rate_per", "rate_basis")
	default:
		n.add(name)
	}
}

// mixing adds what a bucket's card cannot do without.
func (n needs) mixing() {
	if n.like.Choices["rate_per"] == "all_coats" {
		n.add("coats")
	}
	n.add("mixed_density", "mix", "stand", "pot_life_20")
	if len(n.like.Parts) > 1 {
		n.parts()
	}
}

// parts adds the shares by which it is weighed, and bought.
func (n needs) parts() {
	if n.like.Choices["ratio_by"] == "volume" {
		n.add("ratio_by", "density_a", "density_b")
	}
	const mostShares = 4 // of a share by temperature, from the coldest on
	table := n.like.TableNames("part_b")
	for _, p := range n.like.Parts {
		if p.ID != "b" || len(table) == 0 {
			n.add("part_" + p.ID)
		}
	}
	n.add(table[:min(len(table), mostShares)]...)
}

// starting adds between what it may be laid.
func (n needs) starting(area wetarea.Area) {
	n.add("temp_range")
	if area.Shape == "deck" {
		n.add("rain_safe_20")
	}
	if n.like.Is() != "membrane" {
		return
	}
	n.add("base_state")
	const oldest = 365 // d, that a sheet may ask for
	if slices.ContainsFunc(area.Patches, func(p wetarea.Patch) bool { return p.Age == nil || *p.Age < oldest }) {
		n.add("age_least")
	}
	if n.like.Choices["base_state"] == "dry" {
		n.add("moisture_most")
	}
	if n.like.Law().MindsOf("humidity") {
		n.add("rh_most")
	}
}

// bearing adds by what the area is held against it.
func (n needs) bearing(area wetarea.Area) {
	for _, p := range area.Patches {
		if p.Material != "" {
			n.add("on_" + p.Material)
		}
	}
	if above(area) > 0 {
		n.add("positive_rating")
	}
	if is, _ := fromBehind(area); is {
		n.add("negative_rating", "vapour")
	}
	if area.Water != nil {
		n.add("submersion")
	}
	if confined(area) {
		n.add("solvent", "potable")
	}
	if area.Shape == "deck" {
		n.add("uv", "traffic")
	}
	if slices.ContainsFunc(area.Features, func(f wetarea.Feature) bool { return f.Movement > 0 }) {
		n.add("elongation")
	}
}
