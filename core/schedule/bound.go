package schedule

import (
	"cmp"

	"dusha/core/order"
)

// cuts is for how many lengths of the way behind them the steps are held against all shifts at the root.
const cuts = 16

// floor is a time before which no plan of all ends: of some steps with long ways behind them one is the last, no sooner than
// all crews can have worked them; from there its way goes on through shifts and closed days. 0 where nothing comes of it.
func (r *ready) floor(root node) (end int) {
	root = root.with(root.crews, root.order)
	root.ends = nil
	if !r.raise(&root) {
		return 0
	}
	var hands, crews []int
	for i, s := range r.Steps {
		if s.ByHands() {
			hands = append(hands, i)
		}
	}
	for c := range r.Crews {
		crews = append(crews, c)
	}
	order.By(hands, func(a, b int) int { return cmp.Compare(r.behind[b], r.behind[a]) })
	known := map[[2]int]int{} // by step and time: many cuts end alike
	for cut := 1; cut <= cuts; cut++ {
		some := hands[:len(hands)*cut/cuts]
		if len(some) == 0 {
			continue
		}
		at := r.allWorked(crews, root, some)
		least := never
		for _, i := range r.lasts(some) {
			key := [2]int{i, at}
			if _, is := known[key]; !is {
				known[key] = r.endWith(root, i, at)
			}
			least = min(least, known[key])
		}
		if least < never {
			end = max(end, least)
		}
	}
	return end
}

// lasts are those of some steps that may be the last of them to end: no other one follows them.
func (r *ready) lasts(steps []int) (list []int) {
	in := make([]bool, len(r.Steps))
	for _, i := range steps {
		in[i] = true
	}
	followed := make([]bool, len(r.Steps))
	for _, l := range r.links {
		if l.Anchor != "start" && in[l.after] {
			followed[l.before] = true
		}
	}
	for _, i := range steps {
		if !followed[i] {
			list = append(list, i)
		}
	}
	return list
}

// endWith is the least end of all where a step ends no sooner than a time; never where that cannot be.
func (r *ready) endWith(root node, i, at int) (end int) {
	n := root.with(root.crews, root.order)
	start := r.reaching(i, n.crews[i], n.starts[i], at, false)
	if start == never {
		return never
	}
	n.starts[i] = start
	if !r.raise(&n) {
		return never
	}
	for _, e := range n.ends {
		end = max(end, e)
	}
	return end
}
