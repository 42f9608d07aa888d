package wetarea

import "slices"

// rect is an upright rectangle on a surface.
type rect struct{ left, low, right, high float64 }

// apart tells that two rectangles do not even touch.
func (r rect) apart(s rect) bool {
	return r.right < s.left || s.right < r.left || r.high < s.low || s.high < r.low
}

// outlinesOf gives the outlines and holes of rectangles less other rectangles: a grid of all
// their edges, each cell in or out, and the border between in and out followed round.
func outlinesOf(in, out []rect) (outlines, holes [][]Point) {
	if len(in) == 1 && len(out) == 0 { // most walls
		r := in[0]
		return [][]Point{{{r.left, r.low}, {r.right, r.low}, {r.right, r.high}, {r.left, r.high}}}, nil
	}
	var xs, ys []float64
	for _, r := range slices.Concat(in, out) {
		xs, ys = append(xs, r.left, r.right), append(ys, r.low, r.high)
	}
	xs, ys = unique(xs), unique(ys)
	covered := func(i, j int) bool {
		if i < 0 || j < 0 || i+1 >= len(xs) || j+1 >= len(ys) {
			return false
		}
		x, y := (xs[i]+xs[i+1])/2, (ys[j]+ys[j+1])/2
		within := func(r rect) bool { return x > r.left && x < r.right && y > r.low && y < r.high }
		return slices.ContainsFunc(in, within) && !slices.ContainsFunc(out, within)
	}
	// Each border edge runs with the covered side on its left.
	following := map[[2]int][][2]int{}
	var starts [][2]int
	edge := func(i, j, k, l int) {
		following[[2]int{i, j}] = append(following[[2]int{i, j}], [2]int{k, l})
		starts = append(starts, [2]int{i, j})
	}
	for j := range ys {
		for i := range xs {
			if !covered(i, j) {
				continue
			}
			if !covered(i, j-1) {
				edge(i, j, i+1, j)
			}
			if !covered(i+1, j) {
				edge(i+1, j, i+1, j+1)
			}
			if !covered(i, j+1) {
				edge(i+1, j+1, i, j+1)
			}
			if !covered(i-1, j) {
				edge(i, j+1, i, j)
			}
		}
	}
	for _, start := range starts {
		var loop []Point
		for at := start; len(following[at]) > 0; {
			to := following[at][0]
			following[at] = following[at][1:]
			loop, at = append(loop, Point{xs[at[0]], ys[at[1]]}), to
		}
		if loop = withoutStraight(loop); len(loop) < 4 {
			continue
		}
		if SignedArea(loop) > 0 {
			outlines = append(outlines, loop)
		} else {
			holes = append(holes, loop)
		}
	}
	return outlines, holes
}

// withoutStraight drops vertices at which an outline does not turn.
func withoutStraight(loop []Point) []Point {
	var kept []Point
	n := len(loop)
	for i, p := range loop {
		if side(loop[(i+n-1)%n], p, loop[(i+1)%n]) != 0 {
			kept = append(kept, p)
		}
	}
	return kept
}

func unique(list []float64) []float64 {
	slices.Sort(list)
	return slices.Compact(list)
}
