package takeoff

import (
	"dusha/core/fault"
)

// Pack is a size that can be bought, in whole grams (or mL) and cents.
type Pack struct {
	Size      int  `json:"size_g"`
	Price     int  `json:"price_cents"`
	Available *int `json:"available,omitempty" minimum:"0"` // null: as many as wanted
}

// Choice is the packs that cover a need: at least cost, then with the least left over, then
// the fewest.
type Choice struct {
	Feasible bool  `json:"feasible"`
	Counts   []int `json:"counts"` // in the order of the packs; null where the stock cannot cover it
	Cost     int   `json:"cost_cents"`
	Bought   int   `json:"bought_g"`
	Leftover int   `json:"leftover_g"`
	Packs    int   `json:"packs"`
}

// mostStates bounds the table of totals: a need in steps of the packs' common measure.
const mostStates = 400_000

// lot is a number of packs of one kind that is taken whole or not at all.
type lot struct{ pack, count int }

// ChoosePacks covers a need exactly: the least cost for every total that packs can make
// (bounded knapsack, its counts split into powers of two), and of the totals that cover the
// need the best. No optimum exceeds the need by a whole pack.
func ChoosePacks(need int, packs []Pack) (Choice, error) {
	if need <= 0 {
		return Choice{}, fault.At("need_g", "number.too_small", "value", need, "least", 1)
	}
	step, largest := 0, 0
	for i, p := range packs {
		if p.Size <= 0 || p.Price < 0 {
			return Choice{}, fault.At("packs", "pack.no_size", "pack", i+1, "value", p.Size)
		}
		step, largest = common(step, p.Size), max(largest, p.Size)
	}
	if len(packs) == 0 {
		return Choice{}, fault.At("packs", "list.empty")
	}
	states := (need+largest)/step + 1
	if states > mostStates {
		return Choice{}, fault.At("need_g", "pack.too_fine", "value", need, "step", step)
	}
	lots := lotsOf(packs, need+largest)
	const none = -1
	cost, count := make([]int, states), make([]int, states)
	for t := range cost {
		cost[t] = none
	}
	cost[0] = 0
	taken := make([][]bool, len(lots))
	for k, l := range lots {
		taken[k] = make([]bool, states)
		size, price := l.count*packs[l.pack].Size/step, l.count*packs[l.pack].Price
		for t := states - 1; t >= size; t-- {
			if cost[t-size] == none {
				continue
			}
			c, n := cost[t-size]+price, count[t-size]+l.count
			if cost[t] == none || c < cost[t] || c == cost[t] && n < count[t] {
				cost[t], count[t], taken[k][t] = c, n, true
			}
		}
	}
	best := none
	for t := (need + step - 1) / step; t < states; t++ {
		if cost[t] != none && (best == none || cost[t] < cost[best]) {
			best = t
		}
	}
	if best == none {
		return Choice{}, nil
	}
	out := Choice{Feasible: true, Counts: make([]int, len(packs)), Cost: cost[best], Bought: best * step, Leftover: best*step - need, Packs: count[best]}
	for k, t := len(lots)-1, best; k >= 0; k-- {
		if l := lots[k]; taken[k][t] {
			out.Counts[l.pack] += l.count
			t -= l.count * packs[l.pack].Size / step
		}
	}
	return out, nil
}

// lotsOf splits the packs that can be of use into lots of 1, 2, 4 … and a rest.
func lotsOf(packs []Pack, most int) []lot {
	var lots []lot
	for i, p := range packs {
		left := most/p.Size + 1
		if p.Available != nil {
			left = min(left, *p.Available)
		}
		for count := 1; left > 0; count *= 2 {
			count = min(count, left)
			lots = append(lots, lot{i, count})
			left -= count
		}
	}
	return lots
}

// common is the greatest common measure of two sizes (Euclid).
func common(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
