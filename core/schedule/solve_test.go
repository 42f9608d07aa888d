package schedule_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"dusha/core/fault"
	"dusha/core/schedule"
	"dusha/core/schedule/scheduletest"
)

// follows holds a plan against every rule by itself: it knows nothing of how it was found.
func follows(t *testing.T, p schedule.Problem, plan schedule.Plan) {
	t.Helper()
	starts := map[string]schedule.Start{}
	steps := map[string]schedule.Step{}
	crews := map[string]schedule.Crew{}
	for _, s := range p.Steps {
		steps[s.ID] = s
	}
	for _, c := range p.Crews {
		crews[c.ID] = c
	}
	areas, end := map[string]int{}, 0
	for _, at := range plan.Starts {
		starts[at.Step] = at
		s := steps[at.Step]
		areas[s.Area], end = max(areas[s.Area], at.End), max(end, at.End)
		if at.Start%5 != 0 || at.Start < s.NotBefore || at.End > p.Horizon || s.NotAfter != nil && at.Start > *s.NotAfter {
			t.Errorf("%+v lies off the grid or out of its times", at)
		}
		for _, shut := range s.Closed {
			for m := at.Start; m < at.End+s.ClosedAfter; m++ {
				if m >= shut[0] && m < shut[1] {
					t.Errorf("%+v lies in %v", at, shut)
					break
				}
			}
		}
		if s.Hands != nil && !*s.Hands {
			if at.Crew != nil || at.End != at.Start+s.Minutes {
				t.Errorf("%+v runs by itself for %d min", at, s.Minutes)
			}
			continue
		}
		if at.Crew == nil {
			t.Fatalf("nobody does %+v", at)
		}
		c := crews[*at.Crew]
		if c.People < s.People || s.Licence != "" && !slices.Contains(c.Licences, s.Licence) {
			t.Errorf("%s may not do %+v", c.ID, s)
		}
		worked, inOne, begins := 0, false, false
		for m := at.Start; m < at.End; m++ {
			if in := slices.ContainsFunc(c.Shifts, func(shift [2]int) bool { return m >= shift[0] && m < shift[1] }); in {
				worked++
				begins = begins || m == at.Start
				if m == at.End-1 && worked != s.Minutes {
					t.Errorf("%+v: %d min are worked of %d", at, worked, s.Minutes)
				}
			} else if m == at.End-1 {
				t.Errorf("%+v ends where nobody works", at)
			}
		}
		for _, shift := range c.Shifts {
			inOne = inOne || at.Start >= shift[0] && at.End <= shift[1]
		}
		if !begins || !s.Pauses && !inOne {
			t.Errorf("%+v does not lie in a shift of %s", at, c.ID)
		}
	}
	for i, a := range plan.Starts {
		for _, b := range plan.Starts[i+1:] {
			if a.Crew == nil || b.Crew == nil || *a.Crew != *b.Crew {
				continue
			}
			way := 0
			if steps[a.Step].Area != steps[b.Step].Area {
				way = p.Travel
			}
			if a.Start < b.End+way && b.Start < a.End+way {
				t.Errorf("%s does %+v and %+v at a time", *a.Crew, a, b)
			}
		}
	}
	for _, l := range p.Links {
		x := starts[l.Before].End
		if l.Anchor == "start" {
			x = starts[l.Before].Start
		}
		if len(l.Opens)+len(l.Shuts) == 0 && (starts[l.After].Start < x+l.Least || l.Latest != nil && starts[l.After].Start > x+*l.Latest) {
			t.Errorf("%+v: %+v, %+v", l, starts[l.Before], starts[l.After])
		}
		if start := float64(starts[l.After].Start); len(l.Opens) > 0 && start < readOff(l.Opens, float64(x)) || len(l.Shuts) > 0 && start > readOff(l.Shuts, float64(x)) {
			t.Errorf("%+v: %+v, %+v, outside its table", l, starts[l.Before], starts[l.After])
		}
	}
	sum := 0
	for _, e := range areas {
		sum += e
	}
	if *plan.End != end || *plan.Sum != sum || *plan.Bound > end {
		t.Errorf("end %d, sum %d, bound %d; it says %d and %d", end, sum, *plan.Bound, *plan.End, *plan.Sum)
	}
}

// Every plan keeps every rule; to try every crew and every order by hand finds none that is better.
func TestAPlanKeepsTheRulesAndNoneIsBetter(t *testing.T) {
	found, none := 0, 0
	for seed := range uint64(60) {
		p := scheduletest.Made(seed)
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Proven {
			t.Fatalf("%d: %v, proven %v after %d nodes", seed, err, plan.Proven, plan.Nodes)
		}
		if !plan.Found {
			none++
		} else {
			found++
			follows(t, p, plan)
		}
		end, sum, is := scheduletest.TryAll(p)
		if is != plan.Found || is && (end != *plan.End || sum != *plan.Sum) {
			t.Errorf("%d: all orders give %v %d %d, the search %+v", seed, is, end, sum, plan)
		}
		if t.Failed() {
			t.Fatalf("seed %d", seed)
		}
	}
	if found < 20 || none < 3 {
		t.Errorf("%d plans, %d times none: the cases prove nothing", found, none)
	}
}

// readOff is a table's value at a time: straight between points, the first one of two with one time, before and beyond all points the
// wait there.
func readOff(table [][2]int, x float64) float64 {
	before, last := [2]float64{}, [2]float64{}
	for i, point := range table {
		last = [2]float64{float64(point[0]), float64(point[1])}
		if x <= last[0] {
			if i == 0 {
				return last[1] + x - last[0]
			}
			return before[1] + (last[1]-before[1])*(x-before[0])/(last[0]-before[0])
		}
		before = last
	}
	return last[1] + x - last[0]
}

// Whatever is laid out, however few nodes were looked at, breaks nothing, and ends no sooner than its bound.
func FuzzEveryPlanHolds(f *testing.F) {
	for seed := range uint64(6) {
		f.Add(seed, uint16(40*seed), seed%2 == 0)
	}
	f.Fuzz(func(t *testing.T, seed uint64, nodes uint16, house bool) {
		p := scheduletest.Made(seed)
		if house {
			p = scheduletest.House(seed, 1+int(seed%8))
		}
		p.Most = int(nodes) % 2000
		plan, err := schedule.Solve(p)
		if err != nil {
			t.Fatal(err)
		}
		if plan.Found {
			follows(t, p, plan)
			if *plan.Bound > *plan.End {
				t.Errorf("bound %d, end %d", *plan.Bound, *plan.End)
			}
		}
	})
}

// onGrid is a problem all of whose times are multiples of five.
func onGrid(p schedule.Problem) schedule.Problem {
	up := func(v int) int { return (v + 4) / 5 * 5 }
	p.Steps, p.Links = slices.Clone(p.Steps), slices.Clone(p.Links)
	for i := range p.Steps {
		s := &p.Steps[i]
		s.Minutes, s.NotBefore, s.ClosedAfter = up(s.Minutes), up(s.NotBefore), up(s.ClosedAfter)
		s.Closed = slices.Clone(s.Closed)
		for k := range s.Closed {
			s.Closed[k] = [2]int{up(s.Closed[k][0]), up(s.Closed[k][1])}
		}
	}
	for i := range p.Links {
		l := &p.Links[i]
		if l.Least = up(l.Least); l.Latest != nil {
			l.Latest = scheduletest.Whole(up(*l.Latest))
		}
		l.Opens = slices.Clone(l.Opens)
		for k := range l.Opens {
			l.Opens[k] = [2]int{up(l.Opens[k][0]), up(l.Opens[k][1])}
		}
	}
	p.Crews = slices.Clone(p.Crews)
	for i := range p.Crews {
		p.Crews[i].Shifts = slices.Clone(p.Crews[i].Shifts)
		for k := range p.Crews[i].Shifts {
			p.Crews[i].Shifts[k][1] = up(p.Crews[i].Shifts[k][1])
		}
	}
	return p
}

// With all times on the grid a longer shift never ends later.
func TestALongerShiftNeverEndsLater(t *testing.T) {
	sooner := 0
	for seed := range uint64(25) {
		p := onGrid(scheduletest.Made(seed))
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Found {
			continue
		}
		longer := onGrid(p)
		for c := range longer.Crews {
			for k := range longer.Crews[c].Shifts {
				longer.Crews[c].Shifts[k][1] += 60
			}
		}
		got, err := schedule.Solve(longer)
		if err != nil || !got.Found || *got.End > *plan.End {
			t.Errorf("%d: %v; an hour longer each day it ends %v, else %d", seed, err, got.End, *plan.End)
		} else if *got.End < *plan.End {
			sooner++
		}
	}
	if sooner == 0 {
		t.Error("it never ended sooner either")
	}
}

// One more crew, or a later latest, never ends later; the same problem in another order ends the same.
func TestWhatHelpsNeverEndsLater(t *testing.T) {
	for seed := range uint64(25) {
		p := scheduletest.Made(seed)
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Found {
			continue
		}
		more := p
		more.Crews = append(slices.Clone(p.Crews), schedule.Crew{ID: "one more", People: 2, Licences: []string{"torch"}, Shifts: p.Crews[0].Shifts})
		later := p
		later.Links = slices.Clone(p.Links)
		for i := range later.Links {
			if l := later.Links[i].Latest; l != nil {
				later.Links[i].Latest = scheduletest.Whole(*l + 120)
			}
		}
		turned := p
		turned.Steps, turned.Links = slices.Clone(p.Steps), slices.Clone(p.Links)
		slices.Reverse(turned.Steps)
		slices.Reverse(turned.Links)
		for what, other := range map[string]schedule.Problem{"one more crew": more, "later latests": later, "turned round": turned} {
			got, err := schedule.Solve(other)
			if err != nil || !got.Found || *got.End > *plan.End || what == "turned round" && (*got.End != *plan.End || *got.Sum != *plan.Sum) {
				t.Errorf("%d, %s: %v; %d was %d", seed, what, err, *got.End, *plan.End)
			}
		}
	}
}

// A search that is stopped says what it has and what it could come to, and is gone on with to the same end.
func TestASearchIsStoppedAndGoneOnWith(t *testing.T) {
	stopped := 0
	for seed := range uint64(20) {
		p := scheduletest.Made(seed)
		whole, err := schedule.Solve(p)
		if err != nil {
			t.Fatal(err)
		}
		p.Most = 3
		part, err := schedule.Solve(p)
		for rounds := 0; err == nil && !part.Proven; rounds++ {
			stopped++
			if part.From == nil || part.Found && whole.Found && *part.Bound > *whole.End || rounds > 100_000 {
				t.Fatalf("%d: %+v", seed, part)
			}
			text, _ := json.Marshal(part.From)
			p.From = &schedule.Search{}
			if err = json.Unmarshal(text, p.From); err == nil {
				part, err = schedule.Solve(p)
			}
		}
		if err != nil || part.Found != whole.Found || part.Found && (*part.End != *whole.End || *part.Sum != *whole.Sum) {
			t.Errorf("%d: %v, %+v in pieces, %+v at once", seed, err, part, whole)
		}
	}
	if stopped == 0 {
		t.Error("no search was stopped")
	}
}

func TestWhatCannotBeReadIsNamed(t *testing.T) {
	good := scheduletest.Made(1)
	for key, change := range map[string]func(p *schedule.Problem){
		"schedule.shift_ends_before":   func(p *schedule.Problem) { p.Crews[0].Shifts = [][2]int{{600, 420}} },
		"schedule.shifts_overlap":      func(p *schedule.Problem) { p.Crews[0].Shifts = [][2]int{{420, 600}, {590, 800}} },
		"schedule.stretch_ends_before": func(p *schedule.Problem) { p.Steps[0].Closed = [][2]int{{600, 420}} },
		"schedule.unknown_step":        func(p *schedule.Problem) { p.Links[0].After = "nowhere" },
		"schedule.name_twice":          func(p *schedule.Problem) { p.Steps[1].ID = p.Steps[0].ID },
		"schedule.table_falls":         func(p *schedule.Problem) { p.Links[0].Opens = [][2]int{{10, 20}, {20, 15}} },
		"number.too_small":             func(p *schedule.Problem) { p.Steps[0].Minutes = 0 },
	} {
		p := good
		p.Crews, p.Steps, p.Links = slices.Clone(p.Crews), slices.Clone(p.Steps), slices.Clone(p.Links)
		change(&p)
		if _, err := schedule.Solve(p); err == nil || fault.Of(err)[0].Key != key {
			t.Errorf("%s: %v", key, err)
		}
	}
	// What nobody can meet is no fault: there is no plan, and that is proven.
	for what, change := range map[string]func(p *schedule.Problem){
		"no crew":    func(p *schedule.Problem) { p.Crews = nil },
		"too long":   func(p *schedule.Problem) { p.Steps[0].Minutes, p.Steps[0].Pauses = 2000, false },
		"in a ring":  func(p *schedule.Problem) { p.Links = append(p.Links, schedule.Link{Before: "a1 s2", After: "a1 s0"}) },
		"no licence": func(p *schedule.Problem) { p.Steps[0].Licence = "none has it" },
	} {
		p := good
		p.Crews, p.Steps, p.Links = slices.Clone(p.Crews), slices.Clone(p.Steps), slices.Clone(p.Links)
		change(&p)
		if plan, err := schedule.Solve(p); err != nil || plan.Found || !plan.Proven || len(plan.Starts) != 0 || plan.End != nil {
			t.Errorf("%s: %v %+v", what, err, plan)
		}
	}
}

// A whole house has a plan within few nodes; more of them make none worse, and the bound is no later than the plan.
func TestAHouseHasAPlanSoon(t *testing.T) {
	for seed := range uint64(3) {
		p := scheduletest.House(seed, 12)
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Found {
			t.Fatalf("%d: %v, nothing after %d nodes", seed, err, plan.Nodes)
		}
		follows(t, p, plan)
		few := p
		few.Most = 500
		if early, err := schedule.Solve(few); err != nil || early.Found && (*early.End < *plan.End || *early.Bound > *plan.End) {
			t.Errorf("%d: %v, %+v with fewer nodes", seed, err, early)
		}
	}
}

// What has to be done on days one after the other, by more than the hands of this week can, ends next week; that is said before
// any order is tried, and no sooner than it must be.
func TestTheBoundSeesTheWeekend(t *testing.T) {
	p := schedule.Problem{Horizon: 14 * 1440, Travel: 20, Crews: []schedule.Crew{{ID: "crew", People: 1}}}
	for day := range 14 {
		if day%7 < 5 {
			p.Crews[0].Shifts = append(p.Crews[0].Shifts, [2]int{day*1440 + 420, day*1440 + 900})
		}
	}
	room := func(name string) { // a long step, and four short ones each on the day after
		for k, minutes := range []int{140, 20, 20, 20, 20} {
			p.Steps = append(p.Steps, schedule.Step{ID: fmt.Sprint(name, k), Area: name, Minutes: minutes, People: 1})
			if k > 0 {
				p.Links = append(p.Links, schedule.Link{Before: fmt.Sprint(name, k-1), After: fmt.Sprint(name, k), Least: 16 * 60, Latest: scheduletest.Whole(26 * 60)})
			}
		}
	}
	bound := func() int {
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Found {
			t.Fatalf("%v: no plan of %d steps", err, len(p.Steps))
		}
		return *plan.Bound
	}
	for _, name := range []string{"a", "b", "c"} { // the first day holds three long ones, with the ways between
		room(name)
	}
	if at := bound(); at/1440 != 4 {
		t.Errorf("three rooms end on day %d at the soonest", at/1440)
	}
	room("d")
	if at := bound(); at/1440 != 11 {
		t.Errorf("a fourth room ends on day %d at the soonest", at/1440)
	}
}

// The bound counts the way between areas and the waits inside them that a crew cannot fill: where it can do no better by turns
// than one after the other it is the end itself.
func TestTheBoundCountsWaysAndWaits(t *testing.T) {
	no := false
	p := schedule.Problem{Horizon: 1440, Travel: 60, Crews: []schedule.Crew{{ID: "crew", People: 1, Shifts: [][2]int{{400, 1400}}}}}
	for _, area := range []string{"a", "b"} {
		p.Steps = append(p.Steps,
			schedule.Step{ID: area + "1", Area: area, Minutes: 100, People: 1},
			schedule.Step{ID: area + " by itself", Area: area, Minutes: 20, Hands: &no},
			schedule.Step{ID: area + "2", Area: area, Minutes: 100, People: 1},
		)
		p.Links = append(p.Links,
			schedule.Link{Before: area + "1", After: area + " by itself", Least: 5},
			schedule.Link{Before: area + " by itself", After: area + "2", Opens: [][2]int{{0, 5}, {1000, 1005}, {1440, 1500}}},
		)
	}
	proven, err := schedule.Solve(with(p, 100_000))
	if end := 400 + 2*(100+30+100) + 60; err != nil || !proven.Proven || *proven.End != end {
		t.Fatalf("%v %+v", err, proven)
	}
	plan, err := schedule.Solve(p)
	if err != nil || !plan.Found || *plan.Bound > *proven.End || *plan.Bound < 400+2*(100+30+100)+60 {
		t.Errorf("%v: bound %d, end %d", err, *plan.Bound, *proven.End)
	}
	p.Horizon = *proven.End // right at its end there is a plan still
	if plan, err = schedule.Solve(p); err != nil || !plan.Found {
		t.Errorf("%v: nothing within %d min", err, p.Horizon)
	}
	p.Travel, p.Horizon = 15, 1440
	proven, _ = schedule.Solve(with(p, 100_000))
	if plan, err = schedule.Solve(p); err != nil || *plan.Bound > *proven.End || *plan.Bound < 400+4*100+3*15 {
		t.Errorf("%v: with a short way bound %d, end %d", err, *plan.Bound, *proven.End)
	}
}

func with(p schedule.Problem, nodes int) schedule.Problem {
	p.Most = nodes
	return p
}

// What a search says before any node is never later than the end that it proves.
func TestTheBoundIsNoLaterThanTheEnd(t *testing.T) {
	sharp := 0
	for seed := range uint64(80) {
		p := scheduletest.Made(seed)
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Proven {
			t.Fatalf("%d: %v %+v", seed, err, plan)
		}
		p.Most = 0
		early, _ := schedule.Solve(p)
		if early.Proven && early.Found != plan.Found || early.Found && (!plan.Found || *early.Bound > *plan.End) {
			t.Errorf("%d: %+v before, %+v after", seed, early, plan)
		}
		if early.Found && early.EndProven {
			sharp++
		}
	}
	if sharp < 20 {
		t.Errorf("of 80 ends %d were proven at once", sharp)
	}
}

// A step that begins later by its slack leaves the end where it is; by a little more it does not.
func TestSlackIsTheMost(t *testing.T) {
	held := 0
	for seed := range uint64(20) {
		p := scheduletest.Made(seed)
		plan, err := schedule.Solve(p)
		if err != nil || !plan.Found {
			continue
		}
		slacks := schedule.Slacks(p, plan)
		for i, s := range plan.Starts {
			after := func(later int) bool {
				with := p
				with.Steps = slices.Clone(p.Steps)
				with.Steps[i].NotBefore = s.Start + later
				got, is := schedule.Again(with, plan)
				return is && *got.End <= *plan.End
			}
			slack, is := slacks[s.Step]
			if !is || !after(slack) {
				t.Errorf("%d: %s may not begin %d min later", seed, s.Step, slack)
			}
			if after(slack + 5) {
				t.Errorf("%d: %s may begin later than %d min", seed, s.Step, slack)
			}
			if slack == 0 {
				held++
			}
		}
	}
	if held == 0 {
		t.Error("nothing holds an end")
	}
}
