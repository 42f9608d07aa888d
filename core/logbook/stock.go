package logbook

import (
	"cmp"
	"slices"
	"time"

	"dusha/core/order"
	"dusha/core/system"
	"dusha/core/takeoff"
)

// What is learned of a product on the job itself, and what of it lies there.

// Stock is what was counted less what the areas took since, in the form a purchase is worked out
// from: opened packs were taken first, and a pack that was begun counts as opened on the day of
// the count. Of what was never counted, the rests that were kept lie there.
func (j *Job) Stock(areas ...*Area) []takeoff.Stock { return j.stock(nil, areas) }

// stock is the same, more of each count being used already.
func (j *Job) stock(already []float64, areas []*Area) []takeoff.Stock {
	list := j.rests()
	for i, c := range j.Counted {
		used := 0.0
		if already != nil {
			used = already[i]
		}
		for _, a := range areas {
			used += a.usedSince(c)
		}
		packs := slices.Clone(c.Packs)
		order.By(packs, func(a, b CountedPack) int { return cmp.Compare(b.Opened, a.Opened) })
		for _, p := range packs {
			all := p.Amount * float64(p.Count)
			taken := min(used, all)
			used -= taken
			there := takeoff.Stock{Sheet: c.Sheet, Part: c.Part, Amount: p.Amount, Count: p.Count, Opened: p.Opened, Closing: p.Closing, Checked: p.Checked, Expires: p.Expires}
			const grain = 1e-9
			whole := int((all - taken + grain) / p.Amount)
			if rest := all - taken - float64(whole)*p.Amount; rest > grain {
				begun := there
				begun.Amount, begun.Count, begun.Opened = rest, 1, cmp.Or(p.Opened, c.At[:len(time.DateOnly)])
				list = append(list, begun)
			}
			if there.Count = whole; whole > 0 {
				list = append(list, there)
			}
		}
	}
	return list
}

// rests are the ends of rolls that no area has taken, of products that were not counted: a count holds
// them too.
func (j *Job) rests() []takeoff.Stock {
	list := []takeoff.Stock{}
	for _, o := range j.Offcuts {
		counted := slices.ContainsFunc(j.Counted, func(c Counted) bool { return c.Sheet == o.Sheet })
		of, known := j.Sheet(o.Sheet)
		if o.Taken != "" || counted || !known {
			continue
		}
		const mmPerM = 1000
		there := takeoff.Stock{Sheet: o.Sheet, Amount: float64(o.Length) / mmPerM, Count: 1}
		if of.SoldIn() == "m2" {
			width, err := of.Number("band_width")
			if err != nil {
				continue
			}
			there.Amount *= width.Value / mmPerM
		}
		list = append(list, there)
	}
	return list
}

// usedSince is what the area took of a counted product after the count: of the membrane what was
// laid, of everything else the portion of each step that ended.
func (a *Area) usedSince(c Counted) float64 {
	if a.Takeoff == nil {
		return 0
	}
	total, _ := a.Takeoff.Figure("plan.mass.total")
	used := 0.0
	for _, item := range a.Takeoff.Items {
		if item.Sheet != c.Sheet || item.Part != c.Part || item.Need == nil {
			continue
		}
		for _, portion := range item.Portions {
			step, known := a.stepBy(portion.Step)
			switch {
			case !known:
			case step.Coats() && item.Role == "membrane" && total.Value > 0:
				for _, lay := range a.Laid[step.ID] {
					if lay.When.After(c.when) {
						used += lay.Kg * item.Need.Value / total.Value
					}
				}
			case item.Role != "membrane" && a.tookIn(step, c, &used):
			case a.finished(step) && a.endedAt[step.ID].After(c.when):
				used += portion.Amount
			}
		}
	}
	return used
}

// used is what the area took of each count.
func (a *Area) used() []float64 {
	list := make([]float64, len(a.Job.Counted))
	for i, c := range a.Job.Counted {
		list[i] = a.usedSince(c)
	}
	return list
}

// FirstCount is when the oldest count that stands was made; there is none without a count.
func (j *Job) FirstCount() (at time.Time, is bool) {
	for _, c := range j.Counted {
		if !is || c.when.Before(at) {
			at, is = c.when, true
		}
	}
	return at, is
}

// recount works out what is left of the stock, for all that is asked at one moment.
func (a *Area) recount() {
	a.stock, a.lives = a.Job.Stock(append(slices.Clip(a.rest.Users(a.ID)), a)...), a.Job.OpenLives()
}

// OpenLives are how long opened packs last of the products that were counted.
func (j *Job) OpenLives() takeoff.OpenLives {
	lives := takeoff.OpenLives{}
	for _, c := range j.Counted {
		s, _ := j.Sheet(c.Sheet)
		if said, stated := s.Numbers["open_life"]; stated {
			lives[s.ID], _ = said.Ends()
		}
	}
	return lives
}

// Material is what a step takes of a product, against what was counted.
type Material struct {
	Item    string  `json:"item"`
	Role    string  `json:"role"`
	Title   string  `json:"title"` // product and part
	Unit    string  `json:"unit"`
	Need    float64 `json:"need"`
	Have    float64 `json:"have"`
	Counted string  `json:"counted"` // when, RFC 3339; "" where nothing was counted
	Short   bool    `json:"short"`   // counted, and not enough
	Known   bool    `json:"known"`   // counted in the last 14 days
}

// need is what a step takes of a product.
type need struct {
	item   takeoff.Item
	amount float64
}

// needs lists what a step takes. A coat or a bed that is begun needs only what is left of it.
func (a *Area) needs(step system.Step) (list []need) {
	if a.Takeoff == nil || a.finished(step) {
		return nil
	}
	for _, item := range a.Takeoff.Items {
		for _, portion := range item.Portions {
			if portion.Step == step.ID {
				list = append(list, need{item, portion.Amount * a.stillToDo(step)})
			}
		}
	}
	return list
}

// against holds needs against a stock.
func (a *Area) against(needs []need, stock []takeoff.Stock, lives takeoff.OpenLives, now time.Time) []Material {
	list := []Material{}
	for _, n := range needs {
		m := Material{Item: n.item.ID, Role: n.item.Role, Title: n.item.Title, Unit: n.item.Unit, Need: n.amount}
		for _, c := range a.Job.Counted {
			if c.Sheet == n.item.Sheet && c.Part == n.item.Part {
				m.Counted, m.Known = c.At, now.Sub(c.when) <= countStands
			}
		}
		m.Have = takeoff.InStock(n.item, stock, lives, now)
		const grain = 1e-6
		m.Short = m.Counted != "" && m.Have < m.Need-grain
		list = append(list, m)
	}
	return list
}

// materials lists what a step takes, against what lies there.
func (a *Area) materials(step system.Step, now time.Time) []Material {
	return a.against(a.needs(step), a.stock, a.lives, now)
}

// stillToDo is the share of a step that is not done.
func (a *Area) stillToDo(step system.Step) float64 {
	done, of := a.progress(step)
	if of == 0 {
		return 1
	}
	return 1 - float64(done)/float64(of)
}

// countStands is how long a count of stock stands.
const countStands = 14 * 24 * time.Hour

// shortBlock stops a step before it is begun with too little and stretched thin.
func shortBlock(step system.Step, takes []Material) *Block {
	i := slices.IndexFunc(takes, func(m Material) bool { return m.Short })
	if i < 0 {
		if i = slices.IndexFunc(takes, func(m Material) bool { return !m.Known && m.Need > 0 }); i < 0 {
			return nil
		}
		return &Block{Kind: "short", Says: Unknown, Step: step.ID, Title: takes[i].Title, Key: "why.not_counted", Args: map[string]any{"title": takes[i].Title}, Remedy: "look.count"}
	}
	return &Block{Kind: "short", Says: No, Step: step.ID, Title: takes[i].Title, Key: "why.short", Args: map[string]any{"title": takes[i].Title}, Remedy: "remedy.short"}
}

// Done01 is how much of a step is done, 0 to 1.
func (a *Area) Done01(step system.Step) float64 { return 1 - a.stillToDo(step) }

// Finished tells whether a step of the area has all that ends it.
func (a *Area) Finished(step system.Step) bool { return a.finished(step) }

// MixedWithLaid lists where another system than the plan's would work in a different way from
// what already lies in the area.
func (a *Area) MixedWithLaid(other system.System) []system.Mixed {
	if a.Plan == nil || a.Plan.System.ID == other.ID || len(a.Laid) == 0 && len(a.Bedded) == 0 {
		return nil
	}
	return system.MixedWays(a.Plan.System, other)
}
