// Package choice ranks the systems of a library for an area.
//
// Hard stops come first, each with its reason: what a sheet does not state is no permission.
// Systems without one are ordered by the time until the area is in service, then by cost, by
// layers of work, and by how far a coat may be off before its limits. It is advice, never one
// answer: the data sheet, the local code and a person on site decide.
package choice

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/pressure"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Asked is what an area asks for beside its survey.
type Asked struct {
	Potable bool     `json:"potable"`
	Sun     bool     `json:"sun"`
	Traffic string   `json:"traffic"` // "none", "foot" or "vehicles" on the bare film
	Damp    bool     `json:"damp"`    // the base will be damp when work begins
	Open    bool     `json:"open"`    // vapour must get out through the film
	Temp    float64  `json:"temp_C"`  // of the base while it is worked and cures
	Unasked []string `json:"unasked"` // questions that nobody answered: no system suits by them
}

// Ask reads what an area asks for; each question offers what is usual for its shape, and read is the
// base's temperature where it was read on site, °C. What was not answered is not known.
func Ask(area wetarea.Area, typed map[string]string, read *float64) (*ask.Form, Asked) {
	f := &ask.Form{Typed: typed}
	unasked := []string{}
	note := func(id string) {
		if typed[id] == "" {
			unasked = append(unasked, id)
		}
	}
	yes := func(id string, usual bool) bool {
		note(id)
		return f.ChoiceOr(id, []string{"yes", "no"}, map[bool]string{true: "yes", false: "no"}[usual]) == "yes"
	}
	deck := area.Shape == "deck"
	damp, _ := fromBehind(area)
	foot := "none"
	if deck {
		foot = "foot"
	}
	const coldest, warmest, usual = -10, 45, 20
	note("choice.traffic")
	temp := float64(usual)
	if read != nil {
		temp = *read
	} else {
		note("choice.temp")
	}
	asked := Asked{
		Potable: yes("choice.potable", false), Sun: yes("choice.sun", deck), Traffic: f.ChoiceOr("choice.traffic", traffics, foot),
		Damp: yes("choice.damp", damp), Open: yes("choice.open", damp), Temp: f.NumberOr("choice.temp", "C", coldest, warmest, temp),
	}
	asked.Unasked = unasked
	return f, asked
}

var traffics = []string{"none", "foot", "vehicles"}

// Stop is a reason why a system cannot be used, as wording "stop.<key>".
type Stop struct {
	Key  string         `json:"key"`
	Says string         `json:"says"` // "no", or "not_known" where nobody asked: it stops like no
	Args map[string]any `json:"args,omitempty"`
}

// Layer is one layer of the build-up, from the base up.
type Layer struct {
	Kind string  `json:"kind"` // "base", "primer", "band", "coat", "fleece", "sheet", "top_coat" or "protection"
	Name string  `json:"name"`
	Dry  float64 `json:"mm"` // cured, where the sheet says how; else as laid
	Wet  bool    `json:"wet"`
	N    int     `json:"n,omitempty"` // of a coat: which one
}

// Option is one system held against an area.
type Option struct {
	System    string            `json:"system"` // id
	Sheet     string            `json:"sheet"`  // id of the printing that makes it tight
	Of        string            `json:"of"`     // name of the system
	Name      string            `json:"name"`
	Revision  string            `json:"revision"`
	Chemistry string            `json:"chemistry"`
	Sample    bool              `json:"sample"`
	Own       bool              `json:"own"` // the system is one's own, whatever makes it tight
	Stops     []Stop            `json:"stops"`
	Hours     *figure.Figure    `json:"hours"` // until the water test may begin
	Cost      *int              `json:"cost_cents"`
	Layers    int               `json:"layers"`
	Tolerance *float64          `json:"tolerance_percent"` // how far a coat may be off, of its thickness
	Build     []Layer           `json:"build"`
	Ways      map[string]string `json:"ways"`    // how it is worked, by school
	Missing   *fault.Fault      `json:"missing"` // the figure without which no quantities can be had
}

// Ground is what the options are held against.
type Ground struct {
	Area    wetarea.Area
	Rules   rules.Profile
	Asked   Asked
	Library []sheet.Sheet
	Systems []system.System
	Samples bool // sample products may go with a system
	Inputs  func(s system.System, membrane sheet.Sheet, used []system.Used) takeoff.Inputs
}

// Rank holds every system, with each printing that makes it tight, against the area, the best first: those
// without a stop by time, cost, layers and tolerance, then the stopped ones.
func Rank(g Ground) []Option {
	options := []Option{}
	library := sheet.Latest(g.Library)
	for _, s := range g.Systems {
		for _, of := range library {
			if s.MadeTightBy(of) {
				options = append(options, g.option(s, of))
			}
		}
	}
	order.By(options, func(a, b Option) int {
		return cmp.Or(
			cmp.Compare(stopped(a), stopped(b)),
			cmp.Compare(hours(a), hours(b)), cmp.Compare(cost(a), cost(b)), cmp.Compare(a.Layers, b.Layers), cmp.Compare(tolerance(b), tolerance(a)),
		)
	})
	return options
}

// stopped is 2 for a system that something stops, 1 for one of which something is not known.
func stopped(o Option) int {
	worst := 0
	for _, s := range o.Stops {
		worst = max(worst, map[string]int{"not_known": 1, "no": 2}[s.Says])
	}
	return worst
}

func hours(o Option) float64 {
	if o.Hours == nil {
		return math.Inf(1)
	}
	return o.Hours.Value
}

func cost(o Option) float64 {
	if o.Cost == nil {
		return math.Inf(1)
	}
	return float64(*o.Cost)
}

func tolerance(o Option) float64 {
	if o.Tolerance == nil {
		return -1
	}
	return *o.Tolerance
}

func (g Ground) option(of system.System, s sheet.Sheet) Option {
	used, left := of.Take(s, g.Library, nil, g.Samples)
	with, _ := of.With(used, left...)
	o := Option{System: of.ID, Of: of.Name, Sheet: s.ID, Name: s.Name, Revision: s.Revision, Chemistry: s.Chemistry, Sample: s.Sample, Own: !of.Sample, Ways: of.AllWays(), Stops: g.Stops(s, with)}
	in := g.Inputs(of, s, used)
	if in.System.ID == "" { // its order cannot be followed: said where it is tried
		in.Built = system.Built{System: of, Film: s, With: with}
	}
	o.Tolerance = toleranceOf(s)
	plan, err := takeoff.MakePlan(in)
	o.Hours = g.hours(in.Order, in.Sheets(), plan)
	if err != nil {
		o.Missing = fault.Of(err)[0]
		o.Build = BuildUp(in.Built, nil)
	} else {
		o.Build = BuildUp(in.Built, &plan)
		total, known := 0, true
		for _, line := range takeoff.Shop(plan.Items, nil, nil, nil, noDay) {
			if line.Need == nil || line.Cost == nil {
				known = false
				continue
			}
			total += *line.Cost
		}
		if known {
			o.Cost = &total
		}
	}
	o.Layers = len(o.Build) - 1 // the base is not laid
	return o
}

// Stops lists why a system cannot be used here.
func (g Ground) Stops(s sheet.Sheet, with []system.Companion) []Stop {
	list := []Stop{}
	stop := func(key string, pairs ...any) {
		says := "no"
		if strings.HasSuffix(key, "_unstated") || strings.HasSuffix(key, "_unrated") || strings.HasSuffix(key, "_unknown") {
			says = "not_known"
		}
		list = append(list, Stop{key, says, fault.At("", "", pairs...).Args})
	}
	g.waterStops(s, stop)
	g.useStops(s, with, stop)
	g.baseStops(s, with, stop)
	g.movementStops(s, with, stop)
	for _, id := range g.Asked.Unasked {
		stop("asked_unknown", "question", id)
	}
	order.By(list, func(a, b Stop) int { return cmp.Compare(a.Says, b.Says) }) // no before not known
	return list
}

// waterStops are those of standing and pressing water.
func (g Ground) waterStops(s sheet.Sheet, stop func(string, ...any)) {
	factor := g.Rules.Limit("pressure_factor").Value
	if is, known := fromBehind(g.Area); is && !known {
		stop("negative_head_unknown")
		if _, rated := lowEnd(s, "negative_rating"); !rated {
			stop("negative_unrated", "required", 0.0)
		}
	}
	for _, side := range []struct {
		name string
		head float64
	}{{"negative", behind(g.Area)}, {"positive", above(g.Area)}} {
		if side.head <= 0 {
			continue
		}
		required := pressure.BarPerMetre * side.head / 1000 * factor
		low, stated := lowEnd(s, side.name+"_rating")
		switch {
		case !stated:
			stop(side.name+"_unrated", "required", required)
		case low < required:
			stop(side.name, "required", required, "rating", low)
		}
	}
	if g.Area.Water != nil {
		g.picked(s, "submersion", "yes", stop)
	}
	if g.Asked.Potable {
		g.picked(s, "potable", "yes", stop)
	}
}

// useStops are those of sun, feet, vapour, people and slope.
func (g Ground) useStops(s sheet.Sheet, with []system.Companion, stop func(string, ...any)) {
	covered := slices.ContainsFunc(with, func(c system.Companion) bool { return c.Role == "top_coat" && c.Sheet.Choices["uv"] == "yes" })
	if g.Asked.Sun && !covered {
		g.picked(s, "uv", "yes", stop)
	}
	if wanted := slices.Index(traffics, g.Asked.Traffic); wanted > 0 {
		bears := slices.Index(traffics, s.Choices["traffic"])
		for _, c := range with {
			if c.Role == "top_coat" || c.Role == "protection" && g.Asked.Traffic == "foot" {
				bears = max(bears, slices.Index(traffics, c.Sheet.Choices["traffic"]), map[bool]int{true: 1}[c.Role == "protection"])
			}
		}
		if bears < wanted {
			stop("traffic", "wanted", g.Asked.Traffic)
		}
	}
	if g.Asked.Open {
		g.picked(s, "vapour", "open", stop)
	}
	if confined(g.Area) && s.Choices["solvent"] != "no" {
		stop(map[bool]string{true: "confined", false: "confined_unstated"}[s.Choices["solvent"] == "yes"])
	}
	if most, stated := lowEnd(s, "slope_most"); stated {
		if fall := slope(g.Area); fall > most {
			stop("slope", "value", fall, "most", most)
		} else if steep := walls(g.Area); steep && most < 100 {
			stop("slope_walls", "most", most)
		}
	}
}

// baseStops are those of the substrate, its state and the temperature.
func (g Ground) baseStops(s sheet.Sheet, with []system.Companion, stop func(string, ...any)) {
	seen := map[string]bool{}
	for _, p := range g.Area.Patches {
		if p.Material == "" || seen[p.Material] {
			continue
		}
		seen[p.Material] = true
		if s.Choices["on_"+p.Material] != "yes" {
			stop(map[bool]string{true: "substrate", false: "substrate_unstated"}[s.Choices["on_"+p.Material] == "no"], "material", p.Material)
		}
	}
	if g.Asked.Damp && s.Choices["base_state"] == "dry" {
		stop("damp")
	}
	if most, stated := lowEnd(s, "moisture_most"); stated {
		for _, p := range g.Area.Patches {
			if p.Moisture != nil && *p.Moisture > most {
				stop("moisture", "value", *p.Moisture, "most", most)
				break
			}
		}
	}
	least, okLeast := s.Numbers["temp_least"]
	most, okMost := s.Numbers["temp_most"]
	if okLeast && g.Asked.Temp < least.Value || okMost && g.Asked.Temp > most.Value {
		stop("temperature", "temp", g.Asked.Temp, "least", least.Value, "most", most.Value)
	}
}

// movementStops are joints that move more than the film bears over the breaker of the system.
func (g Ground) movementStops(s sheet.Sheet, with []system.Companion, stop func(string, ...any)) {
	greatest := 0.0
	for _, f := range g.Area.Features {
		greatest = max(greatest, f.Movement)
	}
	if greatest == 0 {
		return
	}
	free := 0.0
	for _, c := range with {
		if c.Role == "bond_breaker" || c.Role == "band" {
			low, _ := lowEnd(c.Sheet, "band_width")
			free = max(free, low)
		}
	}
	elongation, stated := lowEnd(s, "elongation")
	if !stated {
		stop("movement_unstated", "movement", greatest)
		return
	}
	wanted, err := pressure.Movement{Opening: greatest, Elongation: elongation}.Width()
	if err == nil && wanted.Width > free {
		least, _ := pressure.Elongation(greatest, max(free, 1), 0)
		stop("movement", "movement", greatest, "width", wanted.Width, "free", free, "class", pressure.Class(elongation), "wanted", pressure.Class(least))
	}
}

// picked stops where a sheet does not say what is wanted.
func (g Ground) picked(s sheet.Sheet, name, wanted string, stop func(string, ...any)) {
	switch s.Choices[name] {
	case wanted:
	case "":
		stop(name + "_unstated")
	default:
		stop(name)
	}
}

// lowEnd is the smaller end of a stated figure: a rating counts at its least.
func lowEnd(s sheet.Sheet, name string) (float64, bool) {
	said, stated := s.Numbers[name]
	low, _ := said.Ends()
	return low, stated
}

// behind is the greatest head of water from behind, mm.
func behind(a wetarea.Area) (head float64) {
	for _, h := range a.Heads {
		head = max(head, h.Negative)
	}
	for _, p := range a.Patches {
		if p.WaterSide == "negative" {
			head = max(head, p.Head)
		}
	}
	return head
}

// fromBehind tells whether water comes from behind, and whether its head is known everywhere.
func fromBehind(a wetarea.Area) (is, known bool) {
	known = true
	for _, p := range a.Patches {
		if p.WaterSide == "negative" {
			is, known = true, known && p.Head > 0
		}
	}
	return is || behind(a) > 0, known
}

func above(a wetarea.Area) (head float64) {
	for _, h := range a.Heads {
		head = max(head, h.Positive)
	}
	return head
}

// confined tells whether people work in a tank or pit.
func confined(a wetarea.Area) bool { return a.Shape == "round_tank" || a.Shape == "box_tank" }

// slope of the floor, percent.
func slope(a wetarea.Area) float64 {
	if a.Falls == nil || a.Falls.Rule <= 0 {
		return 0
	}
	return 100 / a.Falls.Rule
}

// walls tells whether upright surfaces are more than an upstand.
func walls(a wetarea.Area) bool {
	const upstand = 600
	return slices.ContainsFunc(a.Surfaces, func(s wetarea.Surface) bool { return s.Kind == "wall" && s.Height > upstand })
}

// hours is the time until the proof may begin, at the temperature asked: of each step of the order up to it the longest of
// its waits, by the sheets that state them; the cautious ends of all. There is none where the cure is not stated.
func (g Ground) hours(order system.Order, sheets map[string]sheet.Sheet, plan takeoff.Plan) *figure.Figure {
	temp := figure.Read("choice.temp", g.Asked.Temp, "C", figure.Source{Kind: "measure", Ref: "choice.temp", Says: "asked"})
	at := func(f *system.Figure) (figure.Figure, bool) {
		if hours, stated := f.Hours(); stated {
			return figure.Read("choice.wait", hours, "h", figure.Source{Kind: "system", Says: f.Says}).With("wait", "stated", "name", f.Reason), true
		}
		if f == nil {
			return figure.Figure{}, false
		}
		key, table := f.Product()
		by := sheets[key]
		hours, err := by.Table(table).Minimum(g.Asked.Temp)
		if err != nil {
			return figure.Figure{}, false
		}
		inputs := []figure.Figure{temp}
		for _, name := range by.TableNames(table) {
			if leaf, err := by.Number(name); err == nil {
				inputs = append(inputs, leaf)
			}
		}
		return figure.Worked("choice.wait", hours, "h", "cure.table", inputs...).With("wait", table, "name", by.Name), true
	}
	var waits []figure.Figure
	cured := false
	for _, s := range order.Steps() {
		if s.Proves() || s.Does == system.Sign {
			break
		}
		var longest *figure.Figure
		for _, link := range s.After {
			before, _ := order.Step(link.Step)
			key, _ := link.Least.Product()
			laid := slices.ContainsFunc(plan.WorksOf(before.ID), func(w takeoff.Laying) bool { return w.Product == key })
			if len(before.Of) > 0 && !before.Lays() && !laid {
				continue // nothing of it is laid here
			}
			if wait, is := at(link.Least); is && (longest == nil || wait.Value > longest.Value) {
				longest = &wait
				_, table := link.Least.Product()
				cured = cured || table == "cure"
			}
		}
		if longest != nil {
			waits = append(waits, *longest)
		}
	}
	if !cured {
		return nil
	}
	total := figure.Sum("choice.hours", "choice.hours", waits...)
	return &total
}

// toleranceOf is how far a coat may be off its thickness before it is too thick or too thin.
func toleranceOf(s sheet.Sheet) *float64 {
	film := s.Film()
	least, ok1 := s.Numbers["least_wft"]
	greatest, ok2 := s.Numbers["greatest_wft"]
	if film.Wet == nil || !ok1 || !ok2 {
		return nil
	}
	wet := film.Wet.Value
	off := min(greatest.Value-wet, wet-least.Value) / wet * 100
	return &off
}
