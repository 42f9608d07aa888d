package logbook

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// What is learned of a product on the job itself, and what of it lies there.
type (
	// TrialMade is a trial patch: what a product took on an area of this job's base. It gives the
	// job's own rate.
	TrialMade struct {
		Sheet   string  `json:"sheet"`
		Kg      float64 `json:"kg"`
		Area    float64 `json:"area_m2"`
		Density float64 `json:"kg_per_L,omitempty"` // a litre of the mix, where it was weighed
	}
	// StockCounted is all that lies there of one product; the last count stands.
	StockCounted struct {
		Sheet string        `json:"sheet"`
		Part  string        `json:"part,omitempty"` // name of a part that is bought by itself
		Packs []CountedPack `json:"packs"`
	}
	// CountedPack is a number of packs alike.
	CountedPack struct {
		Amount  float64 `json:"amount"` // in one, in the unit that the product is bought in
		Count   int     `json:"count"`
		Opened  string  `json:"opened,omitempty"`  // 2006-01-02
		Closing string  `json:"closing,omitempty"` // one of takeoff.Closings
		Checked string  `json:"checked,omitempty"` // 2006-01-02: looked at on reopening, fit for use
		Expires string  `json:"expires,omitempty"` // 2006-01-02: best before
	}
)

// Counted is a count of stock with when it was made.
type Counted struct {
	StockCounted
	Entry string `json:"entry"`
	At    string `json:"at"`
}

func (b TrialMade) check() error {
	const mostArea = 100
	if b.Density != 0 {
		if err := within("body.kg_per_L", b.Density, 0.3, 5); err != nil {
			return err
		}
	}
	return first(name("body.sheet", b.Sheet), within("body.kg", b.Kg, 0.001, mostKg), within("body.area_m2", b.Area, 0.01, mostArea))
}

func (b StockCounted) check() error {
	const mostCount, mostAmount = 10000, 100000
	if len(b.Packs) > mostList {
		return fault.At("body.packs", "list.too_long", "most", mostList)
	}
	for _, p := range b.Packs {
		if err := first(within("body.packs.amount", p.Amount, 0.001, mostAmount), within("body.packs.count", float64(p.Count), 1, mostCount),
			date("body.packs.opened", p.Opened), date("body.packs.checked", p.Checked), date("body.packs.expires", p.Expires)); err != nil {
			return err
		}
		if p.Closing != "" && !slices.Contains(takeoff.Closings, p.Closing) {
			return fault.At("body.packs.closing", "choice.unknown", "typed", fault.Short(p.Closing))
		}
	}
	return name("body.sheet", b.Sheet)
}

// date refuses a text that is no date; empty is fine.
func date(field, text string) error {
	if text == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, text); err != nil {
		return fault.At(field, "date.unreadable", "typed", fault.Short(text))
	}
	return nil
}

// count takes a count over the one before it.
func (j *Job) count(e settled, body StockCounted) {
	j.Counted = slices.DeleteFunc(j.Counted, func(c Counted) bool { return c.Sheet == body.Sheet && c.Part == body.Part })
	j.Counted = append(j.Counted, Counted{body, e.ID, stamp(e.when)})
}

// try gives the sheets of the job the rates of their trial patches, the last one of each.
func (j *Job) try(trials []sheet.Trial) {
	for i, s := range j.Sheets {
		for _, t := range trials {
			if t.Sheet == s.ID {
				j.Sheets[i] = s.Tried(t)
			}
		}
	}
}

// Stock is what was counted less what the areas took since, in the form a purchase is worked out
// from: opened packs were taken first, and a pack that was begun counts as opened on the day of
// the count. Of what was never counted, the rests that were kept lie there.
func (j Job) Stock(areas ...*Area) []takeoff.Stock {
	list := j.rests()
	for _, c := range j.Counted {
		used := 0.0
		at, err := time.Parse(time.RFC3339, c.At)
		for _, a := range areas {
			if err == nil {
				used += a.usedSince(c, at)
			}
		}
		packs := slices.Clone(c.Packs)
		slices.SortStableFunc(packs, func(a, b CountedPack) int { return cmp.Compare(b.Opened, a.Opened) })
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
func (j Job) rests() []takeoff.Stock {
	list := []takeoff.Stock{}
	for _, o := range j.Offcuts {
		i := slices.IndexFunc(j.Sheets, func(s sheet.Sheet) bool { return s.ID == o.Sheet })
		counted := slices.ContainsFunc(j.Counted, func(c Counted) bool { return c.Sheet == o.Sheet })
		if o.Taken != "" || counted || i < 0 {
			continue
		}
		const mmPerM = 1000
		there := takeoff.Stock{Sheet: o.Sheet, Amount: float64(o.Length) / mmPerM, Count: 1}
		if j.Sheets[i].SoldIn() == "m2" {
			width, err := j.Sheets[i].Number("band_width")
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
func (a *Area) usedSince(c Counted, at time.Time) float64 {
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
			step, known := a.Recipe.Step(portion.Step)
			switch {
			case !known:
			case step.Does == "coat" && item.Role == "membrane" && total.Value > 0:
				for _, lay := range a.Laid[step.ID] {
					if lay.When.After(at) {
						used += lay.Kg * item.Need.Value / total.Value
					}
				}
			case a.finished(step) && a.endedAt[step.ID].After(at):
				used += portion.Amount
			}
		}
	}
	return used
}

// others are the other areas of the job that took something since it was counted: there is one stock
// for all.
func (a *Area) others() []*Area {
	if a.neighbours != nil || len(a.Job.Counted) == 0 {
		return a.neighbours
	}
	first := a.Job.Counted[0].At
	for _, c := range a.Job.Counted {
		first = min(first, c.At)
	}
	a.neighbours = []*Area{}
	took := map[string]bool{}
	for _, e := range a.all {
		switch e.body.(type) {
		case Laid, Bedded, Done:
			if e.AreaID != a.ID && e.AreaID != "" && stamp(e.when) >= first {
				took[e.AreaID] = true
			}
		}
	}
	for _, id := range slices.Sorted(maps.Keys(took)) {
		a.neighbours = append(a.neighbours, a.Job.area(id, a.all))
	}
	return a.neighbours
}

// OpenLives are how long opened packs of the job's products last.
func (j Job) OpenLives() takeoff.OpenLives {
	lives := takeoff.OpenLives{}
	for _, s := range j.Sheets {
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

// materials lists what a step takes. A coat or a bed that is begun needs only what is left of it.
func (a *Area) materials(step sheet.Step, now time.Time) []Material {
	list := []Material{}
	if a.Takeoff == nil || a.finished(step) {
		return list
	}
	stock, lives := a.stock, a.lives
	if stock == nil { // asked outside a look
		stock, lives = a.Job.Stock(append(a.others(), a)...), a.Job.OpenLives()
	}
	for _, item := range a.Takeoff.Items {
		for _, portion := range item.Portions {
			if portion.Step != step.ID {
				continue
			}
			m := Material{Item: item.ID, Role: item.Role, Title: item.Title, Unit: item.Unit, Need: portion.Amount * a.stillToDo(step)}
			for _, c := range a.Job.Counted {
				if c.Sheet == item.Sheet && c.Part == item.Part {
					m.Counted = c.At
				}
			}
			m.Have = takeoff.InStock(item, stock, lives, now)
			const grain = 1e-6
			if at, err := time.Parse(time.RFC3339, m.Counted); err == nil {
				m.Known = now.Sub(at) <= countStands
			}
			m.Short = m.Counted != "" && m.Have < m.Need-grain
			list = append(list, m)
		}
	}
	return list
}

// stillToDo is the share of a step that is not done.
func (a *Area) stillToDo(step sheet.Step) float64 {
	done, of := a.progress(step)
	if of == 0 {
		return 1
	}
	return 1 - float64(done)/float64(of)
}

// countStands is how long a count of stock stands.
const countStands = 14 * 24 * time.Hour

// shortBlock stops a step before it is begun with too little and stretched thin.
func shortBlock(step sheet.Step, takes []Material) *Block {
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
func (a *Area) Done01(step sheet.Step) float64 { return 1 - a.stillToDo(step) }

// Finished tells whether a step of the area has all that ends it.
func (a *Area) Finished(step sheet.Step) bool { return a.finished(step) }

// MixedWithLaid lists where another system than the plan's would work in a different way from
// what already lies in the area.
func (a *Area) MixedWithLaid(other sheet.Sheet) []sheet.Mixed {
	if a.Plan == nil || a.Plan.Sheet.Of() == other.Of() || len(a.Laid) == 0 && len(a.Bedded) == 0 {
		return nil
	}
	return sheet.MixedSchools(a.Plan.Sheet, other)
}
