package site

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/order"
	"dusha/core/schedule"
)

// Asked is a plan of the days that is asked for: from now on, on these days, and what is supposed.
type Asked struct {
	Now       time.Time        `json:"now"`
	Midnights []time.Time      `json:"midnights" maxItems:"400"` // of the place: each day's beginning, and the last one's end
	Most      int              `json:"most_nodes"`
	From      *schedule.Search `json:"from,omitempty"` // goes on with a search that was stopped
	Plan      *schedule.Plan   `json:"plan,omitempty"` // what a search of the same problem found elsewhere: it is said, not searched

	Foreseen []logbook.Foreseen `json:"foreseen,omitempty" maxItems:"1000"` // outdoors
	Indoors  *float64           `json:"indoors_C,omitempty"`                // of areas whose base nobody read
	Rain     []Stretch          `json:"rain,omitempty" maxItems:"100"`
	Heater   []Heater           `json:"heater,omitempty" maxItems:"200"`
	Crews    int                `json:"more_crews,omitempty" minimum:"0" maximum:"10"`  // each like the largest
	People   int                `json:"more_people,omitempty" minimum:"0" maximum:"10"` // in each crew
	Longer   int                `json:"longer_min,omitempty" minimum:"0" maximum:"480"` // each shift
	Weekends bool               `json:"weekends,omitempty"`                             // the days off are worked like the day before
	Held     []HeldStep         `json:"held,omitempty" maxItems:"500"`                  // steps that begin no earlier
	Slacks   bool               `json:"slacks,omitempty"`                               // how much later each step may begin
}

// Stretch is a stretch of time.
type Stretch struct {
	From time.Time `json:"from"`
	To   time.Time `json:"to"`
}

// Heater makes an area warmer.
type Heater struct {
	Area string  `json:"area"`
	K    float64 `json:"K" minimum:"0" maximum:"40"`
}

// HeldStep is a step that begins no earlier than somebody says.
type HeldStep struct {
	Area  string    `json:"area"`
	Step  string    `json:"step"`
	Start time.Time `json:"start"`
}

// Days are a plan of the days: when each step of all areas runs, and by whom.
type Days struct {
	Found     bool             `json:"found"`
	Proven    bool             `json:"proven"`
	EndProven bool             `json:"end_proven"`
	Nodes     int              `json:"nodes"`
	From      *schedule.Search `json:"from"`
	End       *time.Time       `json:"end"`
	Bound     *time.Time       `json:"bound"`
	Rows      []Row            `json:"rows"`     // by their beginning
	Promises  []Promise        `json:"promises"` // times to give to others
	Left      []LeftOut        `json:"left"`     // what cannot be laid out, and why
	Supposed  []string         `json:"supposed"` // areas whose climate nobody read
	Chain     []StepOf         `json:"chain"`    // what holds the end, from the last step back
	Changes   []DayChange      `json:"changes"`  // since the plan that was accepted
	Accepted  *time.Time       `json:"accepted"` // its end
	First     *time.Time       `json:"first"`    // end of the one accepted first
	Problem   schedule.Problem `json:"problem"`  // what was searched: a search of it can go on elsewhere
}

// StepOf is a step of an area.
type StepOf struct {
	Area string `json:"area"`
	Step string `json:"step"`
}

// Row is a step as it is laid out.
type Row struct {
	StepOf
	Name   string     `json:"name"` // of the area
	Title  string     `json:"title"`
	Crew   string     `json:"crew"` // id; "" where nobody is bound
	Start  time.Time  `json:"start"`
	End    time.Time  `json:"end"`
	Hands  bool       `json:"hands"`
	Hold   bool       `json:"hold"`
	Stated bool       `json:"stated"`    // somebody said how long it takes; else it is reckoned
	Min    int        `json:"minutes"`   // of work
	Slack  *int       `json:"slack_min"` // it may begin so much later with the end unmoved; null where it was not asked
	Opens  *time.Time `json:"opens"`     // by its waits, as the plan stands
	Shuts  *time.Time `json:"shuts"`
	Held   HeldBy     `json:"held"`
	Lacks  []string   `json:"lacks"` // materials that do not last for it
}

// HeldBy is what holds a start: By is one of "link", "crew", "shift", "weather", "so_that", "now", "window", "age", "delivery", "hand".
type HeldBy struct {
	By    string `json:"by"`
	Name  string `json:"name"` // of the area of the other step
	Title string `json:"title"`
	StepOf
	Until time.Time `json:"until"` // of what is done: when it is over
}

// Promise is a time that is given to others, with its doubt.
type Promise struct {
	Area  string    `json:"area"`
	Name  string    `json:"name"`
	What  string    `json:"what"` // title of the milestone; "": all of it is done
	Early time.Time `json:"early"`
	Late  time.Time `json:"late"`
}

// LeftOut is an area or a step that cannot be laid out.
type LeftOut struct {
	Area  string         `json:"area"`
	Name  string         `json:"name"`
	Title string         `json:"title"` // of the step; "" of the whole area
	Key   string         `json:"key"`   // wording
	Args  map[string]any `json:"args"`
}

// DayChange is a step that runs at another time, or by others, than in the plan that was accepted.
type DayChange struct {
	StepOf
	Name   string    `json:"name"`
	Title  string    `json:"title"`
	Before time.Time `json:"before"`
	Now    time.Time `json:"now"`
	Crew   bool      `json:"crew"` // by another crew
	Tell   bool      `json:"tell"` // somebody outside waits for it: a milestone, a hold, an inspector
}

// planner lays out the open steps of a site.
type planner struct {
	*Site
	in      Asked
	out     *Days
	problem schedule.Problem
	early   []schedule.Link // the same links, as early as they could open
	rows    map[string]Row
	not     map[string]HeldBy    // why a step begins no earlier than its time
	opened  map[string]time.Time // when a wait is over that runs already
	areas   map[string]*logbook.Area
}

const mostHorizon = 120 // days

// Days lays out all open steps of the job.
func (s *Site) Days(in Asked) (Days, error) {
	p := planner{
		Site: s, in: in, rows: map[string]Row{}, not: map[string]HeldBy{}, opened: map[string]time.Time{}, areas: map[string]*logbook.Area{},
		out: &Days{Rows: []Row{}, Promises: []Promise{}, Left: []LeftOut{}, Supposed: []string{}, Chain: []StepOf{}, Changes: []DayChange{}},
	}
	if err := p.check(); err != nil {
		return *p.out, err
	}
	p.crews()
	p.problem.Horizon, p.problem.Travel = p.min(in.Midnights[len(in.Midnights)-1]), s.Job().SiteHours.Travel
	p.problem.Most, p.problem.From = in.Most, in.From
	for _, id := range s.Areas() {
		if !s.Job().AreaAway(id) {
			p.area(id)
		}
	}
	p.fits()
	p.accepted()
	if p.problem.Steps == nil { // nothing is left to do, or nothing can be laid out
		p.problem.Steps, p.problem.Links = []schedule.Step{}, []schedule.Link{}
	}
	if len(p.problem.Steps) == 0 {
		p.out.Problem = p.problem
		p.out.Found, p.out.Proven, p.out.EndProven = true, true, true
		return *p.out, nil
	}
	p.out.Problem = p.problem
	p.out.Problem.From = nil
	if in.Plan != nil && in.Plan.Found {
		held, is := schedule.Again(p.problem, *in.Plan)
		if !is {
			return *p.out, fault.At("plan", "schedule.plan_of_another")
		}
		held.Proven, held.EndProven, held.Nodes, held.Bound, held.From = in.Plan.Proven, in.Plan.EndProven, in.Plan.Nodes, in.Plan.Bound, nil
		p.write(held)
		return *p.out, nil
	}
	plan, err := schedule.Solve(p.problem)
	if err != nil {
		return *p.out, err
	}
	p.write(plan)
	return *p.out, nil
}

func (p *planner) check() error {
	in := p.in
	if len(in.Midnights) < 2 || len(in.Midnights) > mostHorizon+1 {
		return fault.At("midnights", "schedule.no_days", "most", mostHorizon)
	}
	for i := 1; i < len(in.Midnights); i++ {
		if day := in.Midnights[i].Sub(in.Midnights[i-1]); day < 20*time.Hour || day > 28*time.Hour {
			return fault.At("midnights", "schedule.days_apart", "n", i)
		}
	}
	if len(p.Job().Crews) == 0 {
		return fault.At("crews", "schedule.no_crew")
	}
	return nil
}

// min is a time in minutes from the first midnight, up.
func (p *planner) min(at time.Time) int {
	d := at.Sub(p.in.Midnights[0])
	minutes := int(d / time.Minute)
	if d%time.Minute > 0 {
		minutes++
	}
	return minutes
}

func (p *planner) time(minutes int) time.Time {
	return p.in.Midnights[0].Add(time.Duration(minutes) * time.Minute)
}

// when is the time of minutes that may be none.
func (p *planner) when(minutes *int) *time.Time {
	if minutes == nil {
		return nil
	}
	at := p.time(*minutes)
	return &at
}

// clock is a clock time of a day in minutes from the first midnight; on a day that is longer or shorter the hours after the
// change count back from its end.
func (p *planner) clock(day, minutes int) int {
	const whole, changes = 24 * 60, 3 * 60
	if minutes < changes {
		return p.min(p.in.Midnights[day]) + minutes
	}
	return p.min(p.in.Midnights[day+1]) - (whole - minutes)
}

// crews are those of the job with what is supposed: longer shifts, weekends, more people, one more.
func (p *planner) crews() {
	now := p.min(p.in.Now)
	for _, c := range p.Job().Crews {
		crew := schedule.Crew{ID: c.Crew, People: c.People + p.in.People, Licences: c.Licences, Shifts: [][2]int{}}
		var last []logbook.Hours
		for day := range len(p.in.Midnights) - 1 {
			hours := c.WorkHours(p.date(day))
			if len(hours) == 0 && p.in.Weekends {
				hours = last
			}
			if len(hours) > 0 {
				last = hours
			}
			for i, h := range hours {
				from, to, _ := h.Minutes()
				shift := [2]int{p.clock(day, from), p.clock(day, to)}
				if i == len(hours)-1 {
					shift[1] = min(shift[1]+p.in.Longer, p.min(p.in.Midnights[day+1]))
				}
				if shift[1] > now && shift[1] > shift[0] {
					crew.Shifts = append(crew.Shifts, shift)
				}
			}
		}
		p.problem.Crews = append(p.problem.Crews, crew)
	}
	for n := range p.in.Crews {
		more := slices.MaxFunc(p.problem.Crews[:len(p.Job().Crews)], func(a, b schedule.Crew) int { return cmp.Compare(a.People, b.People) })
		more.ID = "more." + string(rune('1'+n))
		p.problem.Crews = append(p.problem.Crews, more)
	}
}

// date is a day of the place: the noon of it lies on it in any zone.
func (p *planner) date(day int) time.Time {
	from, to := p.in.Midnights[day], p.in.Midnights[day+1]
	return from.Add(to.Sub(from) / 2)
}

// closedOutside are the stretches that keep work in the open off: rain as supposed.
func (p *planner) closedOutside() (list [][2]int) {
	for _, r := range p.in.Rain {
		if from, to := max(0, p.min(r.From)), p.min(r.To); to > from {
			list = append(list, [2]int{from, to})
		}
	}
	return list
}

// closedToInspector is all time but that of an inspector; none where he comes whenever he is asked.
func (p *planner) closedToInspector() (list [][2]int) {
	shifts := p.Job().SiteHours.Inspector
	if len(shifts) == 0 {
		return nil
	}
	week := logbook.Crew{CrewSet: logbook.CrewSet{Shifts: shifts}}
	last := 0
	for day := range len(p.in.Midnights) - 1 {
		for _, h := range week.WorkHours(p.date(day)) {
			from, to, _ := h.Minutes()
			if begin := p.clock(day, from); begin > last {
				list = append(list, [2]int{last, begin})
			}
			last = p.clock(day, to)
		}
	}
	return append(list, [2]int{last, p.min(p.in.Midnights[len(p.in.Midnights)-1]) + 1})
}

func (p *planner) leave(area *logbook.Area, title, key string, pairs ...any) {
	f := fault.At("", key, pairs...)
	args := f.Args
	if args == nil {
		args = map[string]any{}
	}
	p.out.Left = append(p.out.Left, LeftOut{area.ID, area.Name, title, key, args})
}

// area lays out the open steps of one area, each after the one before it, with its waits.
func (p *planner) area(id string) {
	area := p.Area(id)
	if area.Takeoff == nil {
		p.leave(area, "", "schedule.left.no_plan")
		return
	}
	warmer := 0.0
	for _, h := range p.in.Heater {
		if h.Area == id {
			warmer += h.K
		}
	}
	var foreseen []logbook.Foreseen
	if area.Outdoors() {
		foreseen = p.in.Foreseen
	}
	if !area.ClimateRead() && len(foreseen) == 0 && p.in.Indoors != nil {
		const usualHumidity = 60.0
		foreseen = []logbook.Foreseen{{At: p.in.Now, Temp: *p.in.Indoors, Humidity: usualHumidity}}
		p.out.Supposed = append(p.out.Supposed, area.Name)
	}
	area = area.Foresee(p.in.Now, foreseen, warmer)
	p.areas[id] = area
	open := area.StillOpen(p.in.Now)
	for i, h := range open {
		if !area.ClimateRead() && len(h.Waits) > 0 {
			p.leave(area, h.Step.Title, "schedule.left.climate_not_read")
			open = open[:i] // and what comes after it
			break
		}
	}
	changing := len(foreseen) > 1
	for i, h := range open {
		key := id + " " + h.Step.ID
		p.problem.Steps = append(p.problem.Steps, p.step(id, key, h))
		p.rows[key] = Row{
			StepOf: StepOf{id, h.Step.ID}, Name: area.Name, Title: h.Step.Title, Hands: h.Hands, Hold: h.Step.Hold(), Stated: h.Stated, Min: h.Minutes, Lacks: lacksOf(h),
		}
		if i > 0 {
			p.link(schedule.Link{Before: id + " " + open[i-1].Step.ID, After: key}, nil)
		}
		for _, w := range h.Waits {
			p.wait(id+" "+w.After, key, w, changing)
		}
	}
}

func lacksOf(h logbook.Ahead) []string {
	list := []string{}
	for _, m := range h.Short {
		list = append(list, m.Title)
	}
	return list
}

// step is an open step as the search knows it: from when on, until when, and what keeps it off.
func (p *planner) step(area, key string, h logbook.Ahead) schedule.Step {
	s := schedule.Step{ID: key, Area: area, Minutes: h.Minutes, Hands: &h.Hands, People: max(1, h.Step.People), Licence: h.Step.Licence, Pauses: h.Pauses, NotBefore: max(0, p.min(p.in.Now))}
	p.not[key] = HeldBy{By: "now"}
	later := func(at time.Time, why HeldBy) {
		if minutes := p.min(at); minutes > s.NotBefore {
			s.NotBefore, p.not[key] = minutes, why
		}
	}
	if !h.NotBefore.IsZero() {
		p.opened[key] = h.NotBefore
		later(h.NotBefore, HeldBy{By: "window", StepOf: StepOf{area, h.Opened}, Until: h.NotBefore})
	}
	if !h.Aged.IsZero() {
		later(h.Aged, HeldBy{By: "age", Until: h.Aged})
	}
	for _, d := range p.Job().Deliveries {
		at, _ := time.Parse(time.RFC3339, d.At)
		if p.comes(area, d.Sheet, h) {
			later(at, HeldBy{By: "delivery", Until: at})
		}
	}
	for _, held := range p.in.Held {
		if held.Area == area && held.Step == h.Step.ID {
			later(held.Start, HeldBy{By: "hand", Until: held.Start})
		}
	}
	if !h.NotAfter.IsZero() {
		shuts := max(0, int(h.NotAfter.Sub(p.in.Midnights[0])/time.Minute))
		s.NotAfter = &shuts
	}
	if h.Outside {
		s.Closed = append(s.Closed, p.closedOutside()...)
		s.ClosedAfter = int(60 * h.RainSafe)
	}
	if h.Step.By == "inspector" {
		s.Closed = append(s.Closed, p.closedToInspector()...)
	}
	return s
}

// comes tells whether a delivery brings what a step lacks.
func (p *planner) comes(area, sheetID string, h logbook.Ahead) bool {
	for _, m := range h.Short {
		for _, item := range p.areas[area].Takeoff.Items {
			if item.ID == m.Item && item.Sheet == sheetID {
				return true
			}
		}
	}
	return false
}

// link adds one, and what it would be if the climate is kinder.
func (p *planner) link(l schedule.Link, early [][2]int) {
	p.problem.Links = append(p.problem.Links, l)
	if early != nil {
		l.Opens = early
	}
	p.early = append(p.early, l)
}

// sampled is how far apart the times are that a wait is reckoned from where the climate changes, min.
const sampled = 6 * 60

// wait adds the two ends of a window that counts from an open step: from its end or its beginning. Where the climate stays as
// it is one time tells all.
func (p *planner) wait(before, after string, w logbook.AheadWait, changing bool) {
	var opens, early, shuts [][2]int
	least := max(0, p.min(p.in.Now))
	const most = 400 // points of a table
	step := max(sampled, (p.problem.Horizon-least)/most)
	for at := least; at <= p.problem.Horizon; at += step {
		open, kind, shut := w.From(p.in.Now, p.time(at))
		if open.IsZero() {
			break
		}
		opens, early = append(opens, [2]int{at, p.min(open)}), append(early, [2]int{at, p.min(kind)})
		if !shut.IsZero() {
			shuts = append(shuts, [2]int{at, int(shut.Sub(p.in.Midnights[0]) / time.Minute)})
		}
		if !changing {
			break
		}
	}
	if len(opens) == 0 { // it does not open within what is looked at
		opens = [][2]int{{0, p.problem.Horizon + 1}}
		early = opens
	}
	p.link(schedule.Link{Before: before, After: after, Anchor: w.Opens, Opens: rising(opens)}, rising(early))
	if len(shuts) > 0 {
		p.link(schedule.Link{Before: before, After: after, Anchor: w.Shuts, Shuts: rising(shuts)}, nil)
	}
}

// rising evens out what reckoning leaves: a time that is met later never opens earlier.
func rising(table [][2]int) [][2]int {
	for i := 1; i < len(table); i++ {
		table[i][1] = max(table[i][1], table[i-1][1])
	}
	return table
}

// fits says of steps that nobody can do, or that no shift holds, why that is; they and what follows them stay out.
func (p *planner) fits() {
	out := map[string]bool{}
	for _, s := range p.problem.Steps {
		if out[s.Area] || !s.ByHands() {
			continue
		}
		able, longest := false, 0
		for _, c := range p.problem.Crews {
			if c.Can(s) {
				able = true
				for _, shift := range c.Shifts {
					longest = max(longest, shift[1]-shift[0])
				}
			}
		}
		row := p.rows[s.ID]
		switch {
		case !able:
			p.leave(p.areas[s.Area], row.Title, "schedule.left.nobody_able", "people", s.People, "licence", s.Licence)
		case !s.Pauses && s.Minutes > longest:
			p.leave(p.areas[s.Area], row.Title, "schedule.left.longer_than_shift", "minutes", s.Minutes, "longest", longest)
		default:
			continue
		}
		out[s.Area] = true
	}
	p.problem.Steps = slices.DeleteFunc(p.problem.Steps, func(s schedule.Step) bool { return out[s.Area] })
	outside := func(l schedule.Link) bool { return out[areaOf(l.After)] }
	p.problem.Links, p.early = slices.DeleteFunc(p.problem.Links, outside), slices.DeleteFunc(p.early, outside)
}

func areaOf(key string) string { id, _, _ := strings.Cut(key, " "); return id }

// write says what the search found.
func (p *planner) write(plan schedule.Plan) {
	out := p.out
	out.Found, out.Proven, out.EndProven, out.Nodes, out.From = plan.Found, plan.Proven, plan.EndProven, plan.Nodes, plan.From
	if !plan.Found {
		return
	}
	end := p.time(*plan.End)
	if out.End = &end; plan.Bound != nil {
		bound := p.time(*plan.Bound)
		out.Bound = &bound
	}
	var slacks map[string]int
	if p.in.Slacks {
		slacks = schedule.Slacks(p.problem, plan)
	}
	windows := schedule.Windows(p.problem, plan)
	for _, s := range plan.Starts {
		row := p.rows[s.Step]
		row.Start, row.End = p.time(s.Start), p.time(s.End)
		if s.Crew != nil {
			row.Crew = *s.Crew
		}
		if slack, is := slacks[s.Step]; is {
			row.Slack = &slack
		}
		row.Held = p.heldBy(s)
		row.Opens, row.Shuts = p.when(windows[s.Step].Opens), p.when(windows[s.Step].Shuts)
		if at, is := p.opened[s.Step]; is && row.Opens == nil { // its wait runs already
			row.Opens = &at
		}
		p.rows[s.Step] = row
		out.Rows = append(out.Rows, row)
	}
	order.By(out.Rows, func(a, b Row) int { return cmp.Or(a.Start.Compare(b.Start), cmp.Compare(a.Name, b.Name)) })
	p.promise(plan)
	p.chain(plan)
	p.changes()
}

func (p *planner) heldBy(s schedule.Start) HeldBy {
	if s.Held.By == "not_before" {
		held := p.not[s.Step]
		if held.Step != "" {
			area := p.areas[held.Area]
			held.Name = area.Name
			for _, step := range area.Order.Steps() {
				if step.ID == held.Step {
					held.Title = step.Title
				}
			}
		}
		return held
	}
	h := HeldBy{By: s.Held.By}
	if other, is := p.rows[s.Held.Step]; is {
		h.StepOf, h.Name, h.Title = other.StepOf, other.Name, other.Title
	}
	return h
}

// promise gives times to others: the milestones and the end of each area; late as planned, early as the same crews come to it
// in the same order if the climate is kinder.
func (p *planner) promise(plan schedule.Plan) {
	kinder := p.problem
	kinder.Links = p.early
	early, is := schedule.Again(kinder, plan)
	if !is {
		early = plan
	}
	last := map[string]Promise{}
	var areas []string
	for i, s := range plan.Starts {
		row := p.rows[s.Step]
		least := min(early.Starts[i].End, s.End)
		if end := last[row.Area]; end.Late.Before(row.End) {
			if end.Name == "" {
				areas = append(areas, row.Area)
			}
			last[row.Area] = Promise{row.Area, row.Name, "", p.time(least), row.End}
		}
		if p.milestone(row) {
			p.out.Promises = append(p.out.Promises, Promise{row.Area, row.Name, row.Title, p.time(min(early.Starts[i].Start, s.Start)), row.Start})
		}
	}
	for _, id := range areas {
		p.out.Promises = append(p.out.Promises, last[id])
	}
}

func (p *planner) milestone(row Row) bool {
	step, is := p.areas[row.Area].Order.Step(row.Step)
	return is && step.Does == "milestone"
}

// chain goes back from the last step along what holds each one.
func (p *planner) chain(plan schedule.Plan) {
	at := map[string]schedule.Start{}
	last := plan.Starts[0]
	for _, s := range plan.Starts {
		at[s.Step] = s
		if s.End > last.End {
			last = s
		}
	}
	for seen := map[string]bool{}; !seen[last.Step]; {
		seen[last.Step] = true
		p.out.Chain = append(p.out.Chain, p.rows[last.Step].StepOf)
		next, is := at[last.Held.Step]
		if !is {
			return
		}
		last = next
	}
}

// accepted says when the plans that were accepted end.
func (p *planner) accepted() {
	list := p.Job().Accepted
	if len(list) == 0 {
		return
	}
	ends := [2]*time.Time{}
	for i, plan := range []logbook.AcceptedPlan{list[0], list[len(list)-1]} {
		if at, err := time.Parse(time.RFC3339, plan.End); err == nil {
			ends[i] = &at
		}
	}
	p.out.First, p.out.Accepted = ends[0], ends[1]
}

// changes says what runs otherwise than in the plan that was accepted last.
func (p *planner) changes() {
	list := p.Job().Accepted
	if len(list) == 0 {
		return
	}
	const little = 30 * time.Minute
	for _, was := range list[len(list)-1].Starts {
		row, open := p.rows[was.Area+" "+was.Step]
		before, err := time.Parse(time.RFC3339, was.Start)
		if !open || err != nil || row.Start.IsZero() {
			continue
		}
		other := was.Crew != "" && row.Crew != was.Crew
		if off := row.Start.Sub(before).Abs(); off < little && !other {
			continue
		}
		step, _ := p.areas[row.Area].Order.Step(row.Step)
		p.out.Changes = append(p.out.Changes, DayChange{
			StepOf: row.StepOf, Name: row.Name, Title: row.Title, Before: before, Now: row.Start, Crew: other,
			Tell: step.Does == "milestone" || step.By == "inspector" || step.By == "other_trade",
		})
	}
	order.By(p.out.Changes, func(a, b DayChange) int { return cmp.Compare(b.Now.Sub(b.Before).Abs(), a.Now.Sub(a.Before).Abs()) })
}
