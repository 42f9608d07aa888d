package takeoff

import (
	"cmp"
	"math"
	"slices"
	"time"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/sheet"
)

// Stock is what was counted on site of one product, of one kind of pack.
type Stock struct {
	Sheet   string  `json:"sheet"`             // id
	Part    string  `json:"part,omitempty"`    // name of the part
	Amount  float64 `json:"amount"`            // in one pack, in the item's unit
	Count   int     `json:"count"`             // packs like it
	Opened  string  `json:"opened,omitempty"`  // 2006-01-02; empty: sealed
	Closing string  `json:"closing,omitempty"` // how an opened one was shut, one of Closings
	Checked string  `json:"checked,omitempty"` // date it was looked at again and found usable
	Expires string  `json:"expires,omitempty"` // best before, 2006-01-02
}

// Closings are the ways an opened pack is shut again.
var Closings = []string{"lid", "folded_and_taped", "bag_in_bag", "film_on_top"}

// Taken is stock that serves a need, opened packs first.
type Taken struct {
	Stock
	Used float64 `json:"used"`
	Old  bool    `json:"old"` // open for longer than the sheet allows and not looked at again: it does not count
}

// Packs is a number of packs of one size to buy.
type Packs struct {
	Says  string  `json:"says"` // the size as printed
	Size  float64 `json:"size"`
	Count int     `json:"count"`
	Price int     `json:"price_cents"` // of one; 0: not known
}

// Shopping is what to buy of a product.
type Shopping struct {
	Item
	Areas    []string     `json:"areas"`      // ids, of a whole job
	Left     float64      `json:"left"`       // needed for what is not done yet
	Stock    []Taken      `json:"stock"`      // what is there
	InStock  float64      `json:"in_stock"`   // of it, what counts
	ToBuy    float64      `json:"to_buy"`     // needed beyond the stock
	Packs    []Packs      `json:"packs"`      // the mix at least cost, then least leftover, then fewest
	Bought   float64      `json:"bought"`     // in all packs
	Leftover float64      `json:"leftover"`   // after the work, stock included
	Cost     *int         `json:"cost_cents"` // null where a price is not known
	Weight   float64      `json:"weight_kg"`  // to carry, of what is weighed
	Short    *fault.Fault `json:"short"`      // why it cannot be bought
}

// OpenLives are how long opened packs last, days by sheet id.
type OpenLives map[string]float64

// Shop takes items from stock, opened packs first, and finds the packs for what is still needed.
// done is how much of each step is done, 0 to 1: its portion is no longer needed.
func Shop(items []Item, stock []Stock, lives OpenLives, done map[string]float64, today time.Time) []Shopping {
	list := []Shopping{}
	for _, item := range items {
		s := Shopping{Item: item, Areas: []string{}, Stock: []Taken{}, Packs: []Packs{}}
		if item.Need != nil {
			s.Left = item.left(done)
			s.take(stock, lives, today)
			s.buy(done)
		}
		list = append(list, s)
	}
	return list
}

// InStock is what of an item is there and counts.
func InStock(item Item, stock []Stock, lives OpenLives, today time.Time) float64 {
	s := Shopping{Item: item}
	s.take(stock, lives, today)
	return s.InStock
}

// left is what is needed for the steps that are not finished.
func (i Item) left(done map[string]float64) float64 {
	left := i.Need.Value
	for _, p := range i.Portions {
		left -= p.Amount * min(1, done[p.Step])
	}
	return math.Round(max(0, left)*whole[i.Unit]) / whole[i.Unit]
}

// take serves the need from stock: opened packs first, the longest open before the others.
func (s *Shopping) take(stock []Stock, lives OpenLives, today time.Time) {
	for _, there := range stock {
		if there.Sheet == s.Sheet && there.Part == s.Part {
			s.Stock = append(s.Stock, Taken{Stock: there, Old: there.old(lives[s.Sheet], today)})
		}
	}
	order.By(s.Stock, func(a, b Taken) int {
		return cmp.Or(cmp.Compare(map[bool]int{true: 0, false: 1}[a.Opened != ""], map[bool]int{true: 0, false: 1}[b.Opened != ""]), cmp.Compare(a.Opened, b.Opened))
	})
	need := s.Left
	for i := range s.Stock {
		there := &s.Stock[i]
		if there.Old {
			continue
		}
		all := there.Amount * float64(there.Count)
		s.InStock += all
		there.Used = min(need, all)
		need -= there.Used
	}
	s.ToBuy = need
}

// old tells whether an opened pack has been open for longer than it lasts.
func (s Stock) old(life float64, today time.Time) bool {
	const day = 24 * time.Hour
	if expires, err := time.Parse(time.DateOnly, s.Expires); err == nil && today.After(expires.Add(day)) {
		return true
	}
	opened, err := time.Parse(time.DateOnly, s.Opened)
	if err != nil || s.Checked != "" {
		return false
	}
	if life <= 0 { // no sheet says how long it lasts: not past the days in which a count stands
		life = countStands
	}
	return today.Sub(opened) > time.Duration(life*float64(day))
}

// countStands is how long a count of stock stands, days.
const countStands = 14.0

// whole is the part of a unit that is counted whole: grams, millimetres, cm² and pieces.
var whole = map[string]float64{"kg": 1000, "m": 1000, "m2": 10000, "count": 1}

// buy finds the packs for what is still needed, exactly; where a price is not known the amount
// stands for it.
func (s *Shopping) buy(done map[string]float64) {
	s.Leftover = max(0, s.InStock-s.Left)
	scale := whole[s.Unit]
	need := int(math.Round(s.ToBuy * scale))
	if need <= 0 && !s.fits(nil, done) {
		need = 1 // enough in all, but in pieces too short
	}
	if need <= 0 || len(s.Sizes) == 0 {
		if need > 0 {
			s.Short = fault.At("packs", "pack.none_stated", "name", s.Name)
		}
		if cost := 0; need <= 0 {
			s.Cost = &cost
		}
		return
	}
	priced := !slices.ContainsFunc(s.Sizes, func(p sheet.Pack) bool { return p.Price == 0 })
	packs := make([]Pack, len(s.Sizes))
	for i, size := range s.Sizes {
		packs[i] = Pack{Size: int(math.Round(size.Size * scale)), Price: size.Price}
		if !priced {
			packs[i].Price = packs[i].Size
		}
	}
	chosen, err := ChoosePacks(need, packs)
	for more := need; err == nil && !s.fits(chosen.Counts, done); {
		more += slices.MinFunc(packs, func(a, b Pack) int { return cmp.Compare(a.Size, b.Size) }).Size
		chosen, err = ChoosePacks(more, packs)
	}
	const coarser = 100
	if faults := fault.Of(err); len(faults) > 0 && faults[0].Key == "pack.too_fine" { // tons in grams: by 100 g, on the safe side
		for i := range packs {
			packs[i].Size = max(1, packs[i].Size/coarser)
		}
		chosen, err = ChoosePacks((need+coarser-1)/coarser, packs)
	}
	if err != nil {
		s.Short = fault.Of(err)[0]
		return
	}
	cost := 0
	for i, count := range chosen.Counts {
		if count == 0 {
			continue
		}
		size := s.Sizes[i]
		s.Packs = append(s.Packs, Packs{Says: size.Says, Size: size.Size, Count: count, Price: size.Price})
		s.Bought += float64(count) * size.Size
		cost += count * size.Price
	}
	if priced {
		s.Cost = &cost
	}
	if s.Unit == "kg" {
		s.Weight = s.Bought
	}
	s.Leftover = s.Bought + s.InStock - s.Left
}

// fits tells whether all that is still cut of an item comes out of the rolls that are there and those
// chosen. What cannot be told, because it cannot be cut at all, is said where it is cut.
func (s *Shopping) fits(counts []int, done map[string]float64) bool {
	if s.Cut == nil {
		return true
	}
	b := s.Cut.Bands
	b.Roll, b.Offcuts, b.Runs = 0, nil, nil
	for k, run := range s.Cut.Runs {
		if k >= len(s.Cut.Steps) || done[s.Cut.Steps[k]] < 1 {
			b.Runs = append(b.Runs, run)
		}
	}
	if len(b.Runs) == 0 {
		return true
	}
	rolled := func(amount float64) int {
		const mmPerM = 1000
		if s.Unit == "m2" {
			return int(amount * mmPerM * mmPerM / s.Cut.Width)
		}
		return int(amount * mmPerM)
	}
	for _, there := range s.Stock {
		if !there.Old && len(b.Offcuts) < cutting.MostOffcuts {
			b.Offcuts = append(b.Offcuts, slices.Repeat([]int{rolled(there.Amount)}, min(there.Count, cutting.MostOffcuts))...)
		}
	}
	for _, size := range s.Sizes {
		b.Roll = max(b.Roll, rolled(size.Size))
	}
	for k, count := range counts {
		b.Offcuts = append(b.Offcuts, slices.Repeat([]int{rolled(s.Sizes[k].Size)}, count)...)
	}
	rolls, err := b.Rolls()
	return err != nil || rolls == 0
}

// Merge adds the items of several areas: the same product from all of them is one line.
func Merge(byArea map[string][]Item, order []string) ([]Item, map[string][]string) {
	var list []Item
	areas := map[string][]string{}
	at := map[string]int{}
	for _, area := range order {
		for _, item := range byArea[area] {
			areas[item.ID] = append(areas[item.ID], area)
			item.Portions = slices.Clone(item.Portions)
			for i := range item.Portions {
				item.Portions[i].Step = area + "." + item.Portions[i].Step
			}
			if item.Cut != nil {
				own := *item.Cut
				own.Steps = slices.Clone(own.Steps)
				for i := range own.Steps {
					own.Steps[i] = area + "." + own.Steps[i]
				}
				item.Cut = &own
			}
			k, known := at[item.ID]
			if !known {
				at[item.ID] = len(list)
				list = append(list, item)
				continue
			}
			list[k].add(item)
		}
	}
	return list, areas
}

// add puts another area's need of the same product on top.
func (i *Item) add(other Item) {
	if other.Need == nil {
		if i.Fault == nil {
			i.Fault = other.Fault
		}
		return
	}
	i.Portions = append(i.Portions, other.Portions...)
	if i.Cut != nil && other.Cut != nil {
		both := *i.Cut
		both.Runs = append(slices.Clone(both.Runs), other.Cut.Runs...)
		both.Steps = append(slices.Clone(both.Steps), other.Cut.Steps...)
		i.Cut = &both
	}
	if i.Need == nil {
		i.Need = other.Need
		return
	}
	sum := figure.Sum("plan.item.need", "item.areas", *i.Need, *other.Need).With("name", i.Name)
	i.Need = &sum
}

// Cost adds up what is to buy, cents; nil where a price is not known.
func Cost(list []Shopping) *int {
	total := 0
	for _, line := range list {
		if line.Cost == nil {
			return nil
		}
		total += *line.Cost
	}
	return &total
}
