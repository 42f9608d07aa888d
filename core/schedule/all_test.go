package schedule

// TryAll tries every crew for every step and every order on every crew, one after the other, with no bound and no choice of
// where to part: 0 and false where none is a plan.
func TryAll(p Problem) (end, sum int, found bool) {
	r := readyOf(p)
	crews := make([]int, len(p.Steps))
	orders := make([][]int, len(p.Crews)) // on each crew, who comes when
	var place func(i int)
	place = func(i int) {
		if i == len(p.Steps) {
			n := node{crews: crews, starts: make([]int, len(p.Steps))}
			for _, list := range orders {
				for k := 1; k < len(list); k++ {
					n.order = append(n.order, [2]int{list[k-1], list[k]})
				}
			}
			if !r.raise(&n) {
				return
			}
			last, latest, total := map[int]int{}, 0, 0
			for k, e := range n.ends {
				last[r.area[k]], latest = max(last[r.area[k]], e), max(latest, e)
			}
			for _, e := range last {
				total += e
			}
			if !found || latest < end || latest == end && total < sum {
				end, sum, found = latest, total, true
			}
			return
		}
		if !p.Steps[i].byHands() {
			crews[i] = nobody
			place(i + 1)
			return
		}
		for _, c := range r.able[i] {
			crews[i] = c
			was := orders[c]
			for at := range len(was) + 1 {
				own := append(append(append([]int{}, was[:at]...), i), was[at:]...)
				// A step cannot stand before one that it waits for.
				if !r.backwards(own, at) {
					orders[c] = own
					place(i + 1)
				}
			}
			orders[c] = was
		}
	}
	place(0)
	return end, sum, found
}

func (r *ready) backwards(order []int, at int) bool {
	for k, other := range order {
		for _, l := range r.links {
			if k < at && l.before == order[at] && l.after == other && l.Anchor != "start" || k > at && l.before == other && l.after == order[at] && l.Anchor != "start" {
				return true
			}
		}
	}
	return false
}
