package schedule

// Held is the one condition that holds a start: what would break if this step alone began a grid's step earlier.
type Held struct {
	By   string `json:"by"`             // "link", "crew", "shift", "weather" or "not_before"; "so_that": a later step falls right by it
	Step string `json:"step,omitempty"` // the other one of a link or of the crew
}

// held finds it; of several the link counts before the crew, that before the shift, and that before the weather.
func (r *ready) held(n node, i int) Held {
	early := n.starts[i] - grid
	if early < max(0, r.Steps[i].NotBefore) {
		return Held{By: "not_before"}
	}
	crew := n.crews[i]
	end := r.end(i, crew, early)
	for _, l := range r.links {
		if l.after == i && l.opens(l.from(n.starts[l.before], n.ends[l.before])) > early {
			return Held{By: "link", Step: l.Before}
		}
	}
	for _, l := range r.links {
		if latest, shuts := l.shuts(l.from(early, end)); l.before == i && shuts && latest < n.starts[l.after] {
			return Held{By: "so_that", Step: l.After}
		}
	}
	for k, other := range n.crews {
		if k != i && crew >= 0 && other == crew && n.starts[k] < n.starts[i] && n.ends[k]+r.between(k, i) > early {
			return Held{By: "crew", Step: r.Steps[k].ID}
		}
	}
	if crew >= 0 && r.inShift(r.Steps[i], crew, early) > early {
		return Held{By: "shift"}
	}
	return Held{By: "weather"}
}
