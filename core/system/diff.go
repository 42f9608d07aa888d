package system

import (
	"slices"

	"dusha/core/sheet"
)

// Change is one thing in which two revisions differ, as wording "system.change.<key>".
type Change struct {
	Key  string         `json:"key"`
	Args map[string]any `json:"args,omitempty"`
}

// Changes lists in what a later revision differs from an earlier one, in the order of the work.
func Changes(before, after System) []Change {
	list := []Change{}
	say := func(key string, pairs ...string) {
		c := Change{Key: key, Args: map[string]any{}}
		for i := 0; i+1 < len(pairs); i += 2 {
			c.Args[pairs[i]] = pairs[i+1]
		}
		list = append(list, c)
	}
	if before.Name != after.Name {
		say("name", "from", before.Name, "to", after.Name)
	}
	was, is := before.AllWays(), after.AllWays()
	for _, school := range allSchools {
		if was[school] != is[school] {
			say("way", "school", school, "from", was[school], "to", is[school])
		}
	}
	parted(before.Products, after.Products, func(p Product) string { return p.Key }, func(how string, p, now Product) {
		switch {
		case how != "other":
			say("product_"+how, "product", p.Key, "role", p.Role)
		case p.Product != now.Product:
			say("product_other", "product", p.Key, "from", p.Product, "to", now.Product)
		}
	})
	parted(before.Layers, after.Layers, func(l Layer) string { return l.ID }, func(how string, l, now Layer) {
		if how != "other" {
			say("layer_"+how, "layer", l.ID)
			return
		}
		for _, part := range []struct {
			key      string
			was, now any
		}{
			{"layer_product", l.Product, now.Product}, {"layer_where", l.Where, now.Where}, {"layer_coats", l.Coats, now.Coats}, {"layer_carries", l.Carries, now.Carries},
			{"layer_mix", l.Mix, now.Mix}, {"layer_accept", l.Accept, now.Accept}, {"layer_total", l.Total, now.Total},
		} {
			if !sheet.Same(part.was, part.now) {
				say(part.key, "layer", l.ID)
			}
		}
	})
	if !slices.Equal(keptOrder(before.Layers, after.Layers), keptOrder(after.Layers, before.Layers)) {
		say("layers_moved")
	}
	for i, e := range after.Edits {
		if i >= len(before.Edits) || !sheet.Same(before.Edits[i], e) {
			say("edit_"+e.Does, "step", e.Step)
		}
	}
	if len(before.Edits) > len(after.Edits) {
		say("edits_gone")
	}
	for _, part := range []struct {
		key      string
		was, now any
	}{
		{"proofs", before.Proofs, after.Proofs}, {"remedies", before.Remedies, after.Remedies}, {"stages", before.Stages, after.Stages}, {"options", before.Options, after.Options},
	} {
		if !sheet.Same(part.was, part.now) {
			say(part.key)
		}
	}
	return list
}

// parted tells of two lists what is gone, what is new, and what is in both.
func parted[T any](before, after []T, id func(T) string, say func(how string, was, now T)) {
	for _, was := range before {
		i := slices.IndexFunc(after, func(now T) bool { return id(now) == id(was) })
		if i < 0 {
			say("gone", was, was)
		} else {
			say("other", was, after[i])
		}
	}
	for _, now := range after {
		if !slices.ContainsFunc(before, func(was T) bool { return id(was) == id(now) }) {
			say("new", now, now)
		}
	}
}

// keptOrder are the ids of layers that are in the other list too.
func keptOrder(of, in []Layer) (list []string) {
	for _, l := range of {
		if slices.ContainsFunc(in, func(other Layer) bool { return other.ID == l.ID }) {
			list = append(list, l.ID)
		}
	}
	return list
}
