package schedule

import (
	"cmp"
	"slices"

	"dusha/core/order"
)

// Plan is what a search found.
type Plan struct {
	Found     bool    `json:"found"`
	Proven    bool    `json:"proven"`     // that no plan is better, or that there is none
	EndProven bool    `json:"end_proven"` // that none ends earlier
	Bound     *int    `json:"bound_min"`  // least end of any node still open
	End       *int    `json:"end_min"`
	Sum       *int    `json:"sum_min"` // over the areas, the end of the last step of each
	Starts    []Start `json:"starts"`
	Nodes     int     `json:"nodes"`
	From      *Search `json:"from"` // goes on with a search that was stopped
}

// Start is when a step runs, and by whom.
type Start struct {
	Step  string  `json:"step"`
	Crew  *string `json:"crew"` // null where nobody is bound
	Start int     `json:"start_min"`
	End   int     `json:"end_min"`
	Held  Held    `json:"held_by"`
}

// Search is where a search stood when it was stopped.
type Search struct {
	Open []Open `json:"open" maxItems:"100000"`
	Best *Open  `json:"best"`
	Done int    `json:"nodes"`
}

// Open is a node that was not gone into: the crews and orders that were chosen.
type Open struct {
	Crews []int    `json:"crews" maxItems:"2500"`
	Order [][2]int `json:"order" maxItems:"100000"`
}

// node is a part of all plans: crews and orders chosen so far, and the least starts that they leave.
type node struct {
	crews    []int
	order    [][2]int
	starts   []int
	ends     []int
	end, sum int // least that it can come to
	busy     int // until when the crew that was chosen last is at other work: of two alike the freer one first
}

func (n node) with(crews []int, order [][2]int) node {
	return node{crews: crews, order: order, starts: slices.Clone(n.starts), ends: slices.Clone(n.ends)}
}

// given are the steps of a crew.
func (n node) given(crew int) (steps []int) {
	for i, c := range n.crews {
		if c == crew {
			steps = append(steps, i)
		}
	}
	return steps
}

// inTurn are the steps of a crew, one after the other by some starts.
func (n node) inTurn(crew int, starts []int) []int {
	own := n.given(crew)
	order.By(own, func(a, b int) int { return cmp.Compare(starts[a], starts[b]) })
	return own
}

func (n node) beats(best *node) bool {
	return best == nil || cmp.Or(cmp.Compare(n.end, best.end), cmp.Compare(n.sum, best.sum)) < 0
}

// Solve searches for the plan with the least end, then the least sum of the areas' ends. It is exact: a search that saw all
// nodes has proven what it found, or that there is nothing.
func Solve(p Problem) (Plan, error) {
	if err := p.check(); err != nil {
		return Plan{Starts: []Start{}}, err
	}
	r := readyOf(p)
	r.bounds = r.reckoned()
	root := node{crews: make([]int, len(p.Steps)), starts: make([]int, len(p.Steps))}
	for i, s := range p.Steps {
		root.crews[i] = undecided
		switch {
		case !s.ByHands():
			root.crews[i] = nobody
		case len(r.able[i]) == 1:
			root.crews[i] = r.able[i][0]
		}
	}
	floor := r.floor(root)
	if floor == never {
		return Plan{Proven: true, EndProven: true, Starts: []Start{}}, nil
	}
	var best *node
	var open []node // the last is gone into next
	out := Plan{Starts: []Start{}}
	if p.From == nil {
		open = append(open, root)
		best = r.first(root)
	} else {
		out.Nodes = p.From.Done
		read := func(o Open) (node, bool) {
			n := root.with(o.Crews, o.Order)
			n.ends = nil
			return n, r.fits(o)
		}
		for _, o := range p.From.Open {
			if n, is := read(o); is {
				open = append(open, n)
			}
		}
		if p.From.Best != nil {
			if n, is := read(*p.From.Best); is && r.bounded(&n) {
				best = &n
			}
		}
	}
	seen := 0
	if len(p.Steps) >= large && len(open) > 0 && p.Most >= 2*dispatchOf {
		tries := p.Most / 2 / dispatchOf
		best = r.polish(root, best, tries, out.Nodes)
		seen = tries * dispatchOf
		out.Nodes += seen
	}
	kept := open[:0]
	for _, n := range open {
		if r.bounded(&n) && n.beats(best) {
			kept = append(kept, n)
		}
	}
	open = kept
	for len(open) > 0 && seen < p.Most {
		n := open[len(open)-1]
		open = open[:len(open)-1]
		if !n.beats(best) {
			continue
		}
		seen++
		out.Nodes++
		children, whole := r.branch(n)
		if whole {
			best = &n
			continue
		}
		for _, child := range slices.Backward(children) { // the best one last
			if child.beats(best) {
				open = append(open, child)
			}
		}
	}
	open = slices.DeleteFunc(open, func(n node) bool { return !n.beats(best) })
	out.Found, out.Proven = best != nil, len(open) == 0
	if !out.Proven {
		out.From = &Search{Done: out.Nodes}
		for _, n := range open {
			out.From.Open = append(out.From.Open, Open{n.crews, n.order})
		}
		if best != nil {
			out.From.Best = &Open{best.crews, best.order}
		}
	}
	if best == nil {
		return out, nil
	}
	bound := best.end
	for _, n := range open {
		bound = min(bound, max(n.end, floor))
	}
	out.EndProven, out.Bound, out.End, out.Sum = bound == best.end, &bound, &best.end, &best.sum
	out.Starts = r.plan(*best).Starts
	return out, nil
}

// fits tells whether a node that was handed in is one of this problem.
func (r *ready) fits(o Open) bool {
	if len(o.Crews) != len(r.Steps) {
		return false
	}
	for i, c := range o.Crews {
		free := c == undecided && len(r.able[i]) > 0 || c == nobody && !r.Steps[i].ByHands()
		if !free && !slices.Contains(r.able[i], c) {
			return false
		}
	}
	return !slices.ContainsFunc(o.Order, func(pair [2]int) bool {
		return min(pair[0], pair[1]) < 0 || max(pair[0], pair[1]) >= len(r.Steps) || pair[0] == pair[1]
	})
}

// bounded raises a node and works out the least that it can come to; false where it comes to nothing.
func (r *ready) bounded(n *node) bool {
	for i, c := range n.crews {
		if c == undecided && len(r.able[i]) == 0 { // nobody can do it
			return false
		}
	}
	return r.raise(n) && r.least(n)
}

// least works out the least that a node can come to that is raised; false where that is beyond the horizon.
func (r *ready) least(n *node) bool {
	n.end, n.sum = r.endOf(*n)
	n.end = max(n.end, r.handsEnd(*n))
	return n.end <= r.Horizon
}

// branch parts a node: by the order of the first two steps that one crew would do at a time, else by the crew of the first
// step that has none. whole: there is neither, and its least starts are a plan.
func (r *ready) branch(n node) (children []node, whole bool) {
	add := func(child node, changed int) { // all else of it is raised already
		if r.set(&child, changed, child.starts[changed]) && r.settle(&child, []int{changed}) && r.least(&child) {
			children = append(children, child)
		}
	}
	if a, b, is := r.clash(n); is {
		for _, pair := range [][2]int{{a, b}, {b, a}} {
			add(n.with(n.crews, append(slices.Clip(n.order), pair)), pair[0])
		}
	} else {
		first := -1
		for i, c := range n.crews {
			if c == undecided && (first < 0 || n.starts[i] < n.starts[first]) {
				first = i
			}
		}
		if first < 0 {
			return nil, true
		}
		for _, c := range r.able[first] {
			if r.fresh(n, c) {
				crews := slices.Clone(n.crews)
				crews[first] = c
				child := n.with(crews, n.order)
				child.busy = r.busy(n, c, first)
				add(child, first)
			}
		}
	}
	order.By(children, func(a, b node) int {
		return cmp.Or(cmp.Compare(a.end, b.end), cmp.Compare(a.sum, b.sum), cmp.Compare(a.busy, b.busy))
	})
	return children, false
}

// busy is until when a crew is at what it was given, as far as that begins no later than a step.
func (r *ready) busy(n node, crew, step int) (until int) {
	for i, c := range n.crews {
		if c == crew && n.starts[i] <= n.starts[step] {
			until = max(until, n.ends[i]+r.between(i, step))
		}
	}
	return max(until, n.starts[step])
}

// fresh tells whether a crew is worth a try: of crews that are alike and have nothing to do yet, the first is enough.
func (r *ready) fresh(n node, crew int) bool {
	for c := range crew {
		if r.kin[c] == r.kin[crew] && !slices.Contains(n.crews, c) && !slices.Contains(n.crews, crew) {
			return false
		}
	}
	return true
}

// clash are the first two steps that one crew would do at a time, or without the time to go from one to the other.
func (r *ready) clash(n node) (a, b int, is bool) {
	at := never
	for c := range r.Crews {
		own := n.inTurn(c, n.starts)
		for k := 1; k < len(own); k++ {
			one, two := own[k-1], own[k]
			if n.starts[two] < n.ends[one]+r.between(one, two) && n.starts[two] < at {
				a, b, at, is = one, two, n.starts[two], true
			}
		}
	}
	return a, b, is
}
