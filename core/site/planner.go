package site

import (
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/schedule"
)

// How the open steps of a job become one problem: who may do them, when, after what.

// crews are those of the job with what is supposed: longer shifts, weekends, more people, one more.
func (p *planner) crews() {
	now := p.min(p.in.Now)
	for _, c := range p.Job().Crews {
		crew := schedule.Crew{ID: c.Crew, People: c.People + p.in.People, Licences: c.Licences, Shifts: [][2]int{}}
		for day, hours := range p.in.hours(c) {
			if hours.off && !p.in.Weekends {
				continue
			}
			for i, h := range hours.list {
				from, to, _ := h.Minutes()
				shift := [2]int{p.clock(day, from), p.clock(day, to)}
				if i == len(hours.list)-1 {
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
		more := p.problem.Crews[largest(p.Job().Crews)]
		more.ID = "more." + string(rune('1'+n))
		p.problem.Crews = append(p.problem.Crews, more)
	}
}

// largest is the crew of most people, the first of several.
func largest(crews []logbook.Crew) (at int) {
	for i, c := range crews {
		if c.People > crews[at].People {
			at = i
		}
	}
	return at
}

// date is a day of the place: the noon of it lies on it in any zone.
func (in Asked) date(day int) time.Time {
	from, to := in.Midnights[day], in.Midnights[day+1]
	return from.Add(to.Sub(from) / 2)
}

// workday are the stretches that a crew works on a day; of a day off those of the day that it worked before.
type workday struct {
	list []logbook.Hours
	off  bool
}

// hours are those of a crew, day by day.
func (in Asked) hours(c logbook.Crew) (days []workday) {
	var last []logbook.Hours
	for day := range len(in.Midnights) - 1 {
		own := c.WorkHours(in.date(day))
		if len(own) > 0 {
			last = own
		}
		days = append(days, workday{last, len(own) == 0})
	}
	return days
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
		for _, h := range week.WorkHours(p.in.date(day)) {
			from, to, _ := h.Minutes()
			if begin := p.clock(day, from); begin > last {
				list = append(list, [2]int{last, begin})
			}
			last = p.clock(day, to)
		}
	}
	return append(list, [2]int{last, p.min(p.in.Midnights[len(p.in.Midnights)-1]) + 1})
}

func (p *planner) leave(area *logbook.Area, step, title, key string, pairs ...any) {
	f := fault.At("", key, pairs...)
	args := f.Args
	if args == nil {
		args = map[string]any{}
	}
	p.out.Left = append(p.out.Left, LeftOut{StepOf{area.ID, step}, area.Name, title, key, args})
}

// area lays out the open steps of one area, each after the one before it, with its waits. What is laid in stretches is as many
// steps; what is done beside waits for nothing, and the next one waits for it.
func (p *planner) area(id string) {
	area := p.Area(id)
	if area.Takeoff == nil {
		p.leave(area, "", "", "schedule.left.no_plan")
		return
	}
	area, changing := p.climate(area)
	p.areas[id] = area
	keys := map[string][]string{} // of the stretches of each step
	var before, beside []string
	for _, h := range area.StillOpen(p.in.Now) {
		if !area.ClimateRead() && len(h.Waits) > 0 {
			p.leave(area, h.Step.ID, h.Step.Title, "schedule.left.climate_not_read")
			break // with what comes after it
		}
		own := p.stretches(area, h)
		keys[h.Step.ID] = own
		if h.Beside {
			beside = append(beside, own...)
			continue
		}
		for _, key := range own {
			for _, other := range append(before, beside...) {
				p.link(schedule.Link{Before: other, After: key}, nil)
			}
		}
		before, beside = own, nil
		for _, w := range h.Waits {
			for k, key := range own {
				after := keys[w.After]
				if len(after) == len(own) { // each stretch waits for the one under it
					after = after[k : k+1]
				}
				for _, other := range after {
					p.wait(other, key, w, changing)
				}
			}
		}
	}
}

// climate is the area under the weather ahead and what is supposed; changing is until when it does.
func (p *planner) climate(area *logbook.Area) (under *logbook.Area, changing time.Time) {
	warmer := area.KeptWarmer(p.in.Now)
	if warmer > 0 {
		p.out.Warmed = append(p.out.Warmed, Warmed{area.ID, area.Name, warmer})
	}
	for _, h := range p.in.Heater {
		if h.Area == area.ID {
			warmer += h.K
		}
	}
	var foreseen []logbook.Foreseen
	if area.Outdoors() {
		foreseen = p.foreseen()
	}
	if !area.ClimateRead() && len(foreseen) == 0 && p.in.Indoors != nil {
		const usualHumidity = 60.0
		foreseen = []logbook.Foreseen{{At: p.in.Now, Temp: *p.in.Indoors, Humidity: usualHumidity}}
		p.out.Supposed = append(p.out.Supposed, area.Name)
	}
	if len(foreseen) > 1 {
		changing = foreseen[len(foreseen)-1].At
	}
	return area.Foresee(p.in.Now, foreseen, warmer), changing
}

// stretches adds an open step, as many times as it is laid in stretches. Each takes its share, and its
// setting up anew.
func (p *planner) stretches(area *logbook.Area, h logbook.Ahead) (keys []string) {
	n := h.Stretches
	for _, s := range p.in.Split {
		if s.Area == area.ID && s.Step == h.Step.ID && n == 1 && h.Hands {
			n = 2
		}
	}
	share := h
	share.Minutes = h.SetUp + (h.Minutes-h.SetUp+n-1)/n
	for part := 1; part <= n; part++ {
		key := keyOf(area.ID, h.Step.ID, part)
		p.problem.Steps = append(p.problem.Steps, p.step(area, key, part, share))
		row := Row{
			ID: key, StepOf: StepOf{area.ID, h.Step.ID}, Name: area.Name, Title: h.Step.Title, Hands: h.Hands, Hold: h.Step.Hold(),
			Stated: h.Stated, Min: share.Minutes, Lacks: lacksOf(h), outside: h.Outside && h.Hands,
		}
		if n > 1 {
			row.Part, row.Parts = part, n
			if part > 1 {
				p.link(schedule.Link{Before: keys[part-2], After: key, Anchor: "start"}, nil) // two crews may be at it
			}
		}
		p.rows[key] = row
		keys = append(keys, key)
	}
	return keys
}

// keyOf names a stretch of a step.
func keyOf(area, step string, part int) string {
	if part > 1 {
		return area + " " + step + " " + strconv.Itoa(part)
	}
	return area + " " + step
}

func lacksOf(h logbook.Ahead) []string {
	list := []string{}
	for _, m := range h.Short {
		list = append(list, m.Title)
	}
	return list
}

// step is an open step as the search knows it: from when on, until when, and what keeps it off.
func (p *planner) step(area *logbook.Area, key string, part int, h logbook.Ahead) schedule.Step {
	s := schedule.Step{ID: key, Area: area.ID, Minutes: h.Minutes, Hands: &h.Hands, People: max(1, h.Step.People), Licence: h.Step.Licence, Pauses: h.Pauses, NotBefore: max(0, p.min(p.in.Now))}
	p.not[key] = HeldBy{By: "now"}
	later := func(at time.Time, why HeldBy) {
		if minutes := p.min(at); minutes > s.NotBefore {
			s.NotBefore, p.not[key] = minutes, why
		}
	}
	if !h.NotBefore.IsZero() {
		p.opened[key] = h.NotBefore
		later(h.NotBefore, HeldBy{By: "window", StepOf: StepOf{area.ID, h.Opened}, Until: h.NotBefore})
	}
	if !h.Aged.IsZero() {
		later(h.Aged, HeldBy{By: "age", Until: h.Aged})
	}
	for _, d := range p.Job().Deliveries {
		at, _ := time.Parse(time.RFC3339, d.At)
		if p.comes(area.ID, d.Sheet, h) {
			later(at, HeldBy{By: "delivery", Until: at})
		}
	}
	for _, held := range p.in.Held {
		if held.Area == area.ID && held.Step == h.Step.ID && max(1, held.Part) == part {
			later(held.Start, HeldBy{By: "hand", Until: held.Start})
		}
	}
	if !h.NotAfter.IsZero() {
		shuts := max(0, int(h.NotAfter.Sub(p.in.Midnights[0])/time.Minute))
		s.NotAfter = &shuts
	}
	if h.Outside {
		s.Closed = append(s.Closed, p.closedOutside(area, h)...)
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

// wait adds the two ends of a window that counts from an open step: from its end or its beginning. Once the climate stays as
// it is one time tells all that come.
func (p *planner) wait(before, after string, w logbook.AheadWait, changing time.Time) {
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
		if !p.time(at).Before(changing) {
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
			p.leave(p.areas[s.Area], row.Step, row.Title, "schedule.left.nobody_able", "people", s.People, "licence", s.Licence)
		case !s.Pauses && s.Minutes > longest:
			p.leave(p.areas[s.Area], row.Step, row.Title, "schedule.left.longer_than_shift", "minutes", s.Minutes, "longest", longest)
		default:
			continue
		}
		out[s.Area] = true
	}
	p.without(func(area string) bool { return out[area] })
}

// without takes areas out of the problem.
func (p *planner) without(out func(area string) bool) {
	p.problem.Steps = slices.DeleteFunc(p.problem.Steps, func(s schedule.Step) bool { return out(s.Area) })
	outside := func(l schedule.Link) bool { return out(areaOf(l.After)) }
	p.problem.Links, p.early = slices.DeleteFunc(p.problem.Links, outside), slices.DeleteFunc(p.early, outside)
}

// each looks for a plan of every area as if it were the only one: one that has none stays out, so that it does not keep the others from
// theirs, and the first step with which it has none is named. Where a step is held by hand, that is what is said. It tells whether
// any stays out.
func (p *planner) each() (some bool) {
	for _, id := range p.Areas() {
		if slices.ContainsFunc(p.in.Held, func(h HeldStep) bool { return h.Area == id }) {
			continue
		}
		own := p.problem
		own.Steps = slices.DeleteFunc(slices.Clone(own.Steps), func(s schedule.Step) bool { return s.Area != id })
		own.Links = slices.DeleteFunc(slices.Clone(own.Links), func(l schedule.Link) bool { return areaOf(l.After) != id })
		const enough = 500 // nodes
		own.Most, own.From = enough, nil
		proven, is := met(own)
		if is {
			continue
		}
		whole := own.Steps
		k := sort.Search(len(whole)-1, func(k int) bool {
			own.Steps = whole[:k+1]
			_, is := met(own)
			return !is
		})
		row := p.rows[whole[k].ID]
		key := "schedule.left.not_found"
		if proven {
			key = "schedule.left.none"
		}
		p.leave(p.areas[id], row.Step, row.Title, key, "days", len(p.in.Midnights)-1)
		p.without(func(area string) bool { return area == id })
		some = true
	}
	return some
}

// met tells whether a problem has a plan; if it has not, whether that is proven. Links of steps that are not in it are passed over.
func met(p schedule.Problem) (proven, is bool) {
	in := func(id string) bool {
		return slices.ContainsFunc(p.Steps, func(s schedule.Step) bool { return s.ID == id })
	}
	p.Links = slices.DeleteFunc(slices.Clone(p.Links), func(l schedule.Link) bool { return !in(l.Before) || !in(l.After) })
	if len(p.Steps) == 0 {
		return false, true
	}
	plan, err := schedule.Solve(p)
	return plan.Proven, err != nil || plan.Found
}

func areaOf(key string) string { id, _, _ := strings.Cut(key, " "); return id }
