package site_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/schedule"
	"dusha/core/site"
	"dusha/core/system"
	"dusha/demo"
)

// crewOf is a crew of the tests by its letter.
func crewOf(letter string) string { return "019cb000-0000-7000-8000-00000000c00" + letter }

// weekdays are the hours of a usual crew.
func weekdays(from, to string) []map[string]any {
	return []map[string]any{{"days": []int{1, 2, 3, 4, 5}, "from": from, "to": to}}
}

// midnightsOf are those of a place from a day on.
func midnightsOf(from time.Time, days int) (list []time.Time) {
	for d := range days + 1 {
		list = append(list, time.Date(from.Year(), from.Month(), from.Day()+d, 0, 0, 0, 0, from.Location()))
	}
	return list
}

// planned is a crew that has walked an area up to a step, with two crews to lay out what is left.
func planned(t *testing.T, to string, lines ...string) *crew {
	c := newCrew(t)
	begin := lines
	if len(begin) == 0 {
		begin = []string{"place L-shaped room with niche, window and bench", "base concrete", "system flexible_cementitious", "air 20 base 19 humidity 55"}
	}
	for _, line := range begin {
		c.line = line
		c.do(strings.Fields(line))
	}
	c.survey()
	c.plan("")
	c.do(strings.Fields("air 20 base 19 humidity 55"))
	if to != "" {
		c.goTo(to)
	}
	for _, letter := range []string{"1", "2"} {
		c.add("crew.set", map[string]any{"crew": crewOf(letter), "name": "Crew " + letter, "people": 2, "licences": []string{"flame"}, "shifts": weekdays("07:00", "16:30")})
	}
	return c
}

func (c *crew) asked(days int) site.Asked {
	return site.Asked{Now: c.now, Midnights: midnightsOf(c.now, days), Most: 400}
}

func (c *crew) days(in site.Asked) site.Days {
	c.t.Helper()
	got, err := c.site.Days(in)
	if err != nil {
		c.fail("no plan of the days: %v", err)
	}
	return got
}

func rowOf(d site.Days, step string) (r site.Row) {
	for _, each := range d.Rows {
		if each.Step == step {
			r = each
		}
	}
	return r
}

// follows holds a plan against what anybody could read off it: order, shifts, one thing at a time, the way between areas.
func follows(t *testing.T, c *crew, d site.Days) {
	t.Helper()
	travel := time.Duration(c.site.Job().SiteHours.Travel) * time.Minute
	last := map[string]time.Time{}
	busy := map[string]site.Row{}
	rows := slices.Clone(d.Rows)
	slices.SortStableFunc(rows, func(a, b site.Row) int { return a.Start.Compare(b.Start) })
	for _, r := range rows {
		if beside := strings.HasPrefix(r.Step, "cut "); !beside {
			if r.Part < 2 && r.Start.Before(last[r.Area]) {
				t.Errorf("%s begins at %v, before the step before it ends", r.Step, r.Start)
			}
			if r.End.After(last[r.Area]) {
				last[r.Area] = r.End
			}
		}
		if !r.Hands {
			continue
		}
		if before, is := busy[r.Crew]; is {
			free := before.End
			if before.Area != r.Area {
				free = free.Add(travel)
			}
			if r.Start.Before(free) {
				t.Errorf("%s is begun while the crew is at %s", r.Step, before.Step)
			}
		}
		busy[r.Crew] = r
		i := slices.IndexFunc(c.site.Job().Crews, func(each logbook.Crew) bool { return each.Crew == r.Crew })
		if i < 0 {
			t.Errorf("%s is done by %q", r.Step, r.Crew)
			continue
		}
		inside := slices.ContainsFunc(c.site.Job().Crews[i].WorkHours(r.Start), func(h logbook.Hours) bool {
			from, to, _ := h.Minutes()
			start, end := r.Start.Hour()*60+r.Start.Minute(), r.End.Hour()*60+r.End.Minute()
			return from <= start && start < to && (end <= to || r.End.Sub(r.Start) > time.Duration(r.Min)*time.Minute)
		})
		if !inside {
			t.Errorf("%s lies from %v to %v, in no shift", r.Step, r.Start, r.End)
		}
		if r.Shuts != nil && r.Start.After(*r.Shuts) || r.Opens != nil && r.Start.Before(*r.Opens) {
			t.Errorf("%s lies at %v, outside its window %v to %v", r.Step, r.Start, r.Opens, r.Shuts)
		}
	}
}

// All that is open is laid out: one step after the other, in hours of work, inside the windows that the climate gives.
func TestTheDaysOfAnArea(t *testing.T) {
	c := planned(t, "coat_1")
	d := c.days(c.asked(21))
	if !d.Found || !d.Proven || len(d.Rows) < 8 {
		t.Fatalf("%+v", d)
	}
	follows(t, c, d)
	if d.Rows[0].Step != "coat_1" || !slices.Contains([]string{"now", "shift", "window", "so_that"}, d.Rows[0].Held.By) {
		t.Errorf("it begins with %+v", d.Rows[0])
	}
	// The second coat waits as printed after the first, and must not wait longer than printed.
	one, two := rowOf(d, "coat_1"), rowOf(d, "coat_2")
	if two.Opens == nil || two.Shuts == nil {
		t.Fatalf("no window of the second coat: %+v", two)
	}
	least, latest := printedHours(c, "recoat_20"), printedHours(c, "recoat_latest_20")
	if opens := two.Opens.Sub(one.End).Hours(); opens < least-0.1 || opens > 1.35*least {
		t.Errorf("it opens %v h after the first ends; printed %v h at 20 °C", opens, least)
	}
	if shuts := two.Shuts.Sub(one.Start).Hours(); shuts > latest || shuts < 0.7*latest {
		t.Errorf("it shuts %v h after the first begins; printed %v h", shuts, latest)
	}
	// What is promised is the end of the plan, no earlier than a kinder climate gives it.
	last := d.Promises[len(d.Promises)-1]
	if !last.Late.Equal(*d.End) || last.Early.After(last.Late) || last.Early.Before(c.now) {
		t.Errorf("%+v", d.Promises)
	}
	if len(d.Chain) < 3 || d.Chain[0] != d.Rows[len(d.Rows)-1].ID {
		t.Errorf("%v", d.Chain)
	}
}

func printedHours(c *crew, name string) float64 { return c.area().Plan.Sheet.Numbers[name].Value }

// What is supposed moves the plan as it would move the work.
func TestWhatIfOfTheDays(t *testing.T) {
	c := planned(t, "coat_1")
	base := c.days(c.asked(21))
	try := func(change func(*site.Asked)) site.Days {
		in := c.asked(21)
		change(&in)
		d := c.days(in)
		if !d.Found {
			t.Fatalf("no plan with %+v of %d", in.Held, d.Nodes)
		}
		return d
	}
	follows(t, c, base)
	longer := try(func(in *site.Asked) { in.Longer, in.Weekends = 120, true })
	if longer.End.After(*base.End) || !rowOf(longer, "cure_complete").Start.Before(rowOf(base, "cure_complete").Start) {
		t.Errorf("with longer days and the days off worked it ends %v, without %v", longer.End, base.End)
	}
	warm := try(func(in *site.Asked) { in.Heater, in.Longer = []site.Heater{{Area: dayArea, K: 5}}, 300 })
	cold := rowOf(base, "coat_2").Opens.Sub(rowOf(base, "coat_1").End)
	if hot := rowOf(warm, "coat_2").Opens.Sub(rowOf(warm, "coat_1").End); hot >= cold {
		t.Errorf("5 K warmer it opens after %v, else after %v", hot, cold)
	}
	two := rowOf(base, "coat_2")
	at := two.Start.Add(30 * time.Minute)
	held := try(func(in *site.Asked) { in.Held = []site.HeldStep{{Area: dayArea, Step: "coat_2", Start: at}} })
	if got := rowOf(held, "coat_2"); got.Start.Before(at) || got.Held.By != "hand" && got.Held.By != "shift" {
		t.Errorf("held until %v it begins %v, by %v", at, got.Start, got.Held)
	}
	late := c.asked(21)
	late.Held = []site.HeldStep{{Area: dayArea, Step: "coat_2", Start: c.now.AddDate(0, 0, 20)}}
	if d := c.days(late); d.Found && rowOf(d, "coat_2").Start.After(*rowOf(d, "coat_2").Shuts) {
		t.Errorf("held beyond its window: %+v", rowOf(d, "coat_2"))
	}
	// What somebody says it takes counts for what is reckoned.
	c.add("step.timed", map[string]any{"step": "coat_2", "minutes": 215})
	if got := rowOf(c.days(c.asked(21)), "coat_2"); got.Min != 215 || !got.Stated || got.End.Sub(got.Start) != 215*time.Minute || two.Stated {
		t.Errorf("%+v", got)
	}
}

// Days off, an inspector's hours, deliveries and the way between areas keep work where it may be.
func TestHoursOfTheDays(t *testing.T) {
	c := planned(t, "coat_1")
	first := c.days(c.asked(21)).Rows[0]
	day := first.Start.Format(time.DateOnly)
	for _, letter := range []string{"1", "2"} {
		c.add("crew.day", map[string]any{"crew": crewOf(letter), "date": day, "shifts": []any{}})
	}
	d := c.days(c.asked(21))
	if got := d.Rows[0].Start.Format(time.DateOnly); got <= day {
		t.Errorf("on its day off it works: %v", d.Rows[0])
	}
	follows(t, c, d)
	c.add("crew.day", map[string]any{"crew": crewOf("1"), "date": day, "shifts": []map[string]any{{"from": first.Start.Add(2 * time.Hour).Format("15:04"), "to": "23:00"}}})
	if got := c.days(c.asked(21)).Rows[0]; got.Start.Format(time.DateOnly) != day || got.Crew != crewOf("1") {
		t.Errorf("a day at other hours: %v", got)
	}
	// Of what is short its delivery is waited for.
	film := c.area().Plan.Sheet.ID
	at := c.now.AddDate(0, 0, 3).Truncate(time.Hour)
	c.add("stock.counted", map[string]any{"sheet": film, "packs": []any{}})
	if got := c.days(c.asked(21)); len(got.Rows[0].Lacks) == 0 {
		t.Errorf("what is short is not said: %+v", got.Rows[0])
	}
	c.add("delivery.due", map[string]any{"sheet": film, "at": at.Format(time.RFC3339)})
	if got := rowOf(c.days(c.asked(21)), "coat_1"); got.Start.Before(at) {
		t.Errorf("it begins %v, and its material comes %v", got.Start, at)
	}
	if err := func() error {
		_, err := c.site.Days(site.Asked{Now: c.now, Midnights: midnightsOf(c.now, 1)[:1]})
		return err
	}(); err == nil || fault.Of(err)[0].Field != "midnights" {
		t.Errorf("no days: %v", err)
	}
}

// What cannot be laid out is named, with what would mend it; a plan that is there is tried to be brought forward.
func TestWhatCannotBeLaidOut(t *testing.T) {
	c := planned(t, "coat_1")
	keys := func(d site.Days) (list []string) {
		for _, l := range d.Left {
			list = append(list, l.Key)
		}
		return list
	}
	c.add("area.opened", map[string]any{"name": "Second of that id"})
	c.add("step.timed", map[string]any{"step": "coat_1", "minutes": 700})
	if got := keys(c.days(c.asked(21))); !slices.Contains(got, "schedule.left.longer_than_shift") {
		t.Errorf("a step longer than every shift: %v", got)
	}
	mends, err := c.site.Mend(c.asked(21))
	if err != nil || !slices.ContainsFunc(mends, func(m site.Mend) bool { return m.Try == "longer" }) {
		t.Logf("%v %v", mends, err)
	}
	c.add("step.timed", map[string]any{"step": "coat_1", "minutes": 0})
	base := c.days(c.asked(21))
	mends, err = c.site.Mend(c.asked(21))
	if err != nil || len(mends) == 0 {
		t.Fatalf("nothing brings it forward: %v", err)
	}
	for _, m := range mends {
		if !m.End.Before(*base.End) || m.Sooner <= 0 {
			t.Errorf("%+v does not help: %v", m, base.End)
		}
	}
	for _, letter := range []string{"1", "2"} {
		c.add("crew.set", map[string]any{"crew": crewOf(letter), "name": "Crew", "people": 1, "shifts": []any{}, "away": true})
	}
	if _, err := c.site.Days(c.asked(21)); err == nil || fault.Of(err)[0].Key != "schedule.no_crew" {
		t.Errorf("no crew: %v", err)
	}
	// Where nobody read the base nothing is taken for known, unless somebody supposes it, and then it is said.
	bare := newCrew(t)
	for _, line := range []string{"place L-shaped room with niche, window and bench", "base concrete", "system flexible_cementitious"} {
		bare.do(strings.Fields(line))
	}
	bare.survey()
	bare.plan("")
	bare.add("crew.set", map[string]any{"crew": crewOf("1"), "name": "Crew", "people": 2, "shifts": weekdays("07:00", "16:30")})
	d := bare.days(bare.asked(28))
	if !slices.Contains(keys(d), "schedule.left.climate_not_read") || rowOf(d, "coat_2").Step != "" {
		t.Errorf("not read: %v", keys(d))
	}
	in := bare.asked(28)
	warm := 20.0
	in.Indoors = &warm
	if d = bare.days(in); !d.Found || len(d.Supposed) != 1 || len(d.Left) != 0 || rowOf(d, "coat_2").Opens == nil {
		t.Errorf("supposed: %+v", d.Left)
	}
	follows(t, bare, d)
}

// Rain keeps work in the open off, and what was laid before it until it is safe from it; hours that are foreseen move the waits.
func TestRainOverTheDays(t *testing.T) {
	c := planned(t, "", "place flat roof", "base concrete", "system mat_roof", "air 15 base 15 humidity 60")
	base := c.days(c.asked(21))
	if len(base.Rows) == 0 {
		t.Fatalf("nothing is laid out: %v", base.Left)
	}
	follows(t, c, base)
	var laid site.Row
	for _, r := range base.Rows {
		if step, _ := c.area().Order.Step(r.Step); laid.Step == "" && step.Does == system.Lay {
			laid = r
		}
	}
	if laid.Step == "" {
		t.Fatalf("no coat among %v", base.Rows)
	}
	in := c.asked(21)
	in.Rain = []site.Stretch{{From: laid.Start.Add(20 * time.Minute), To: laid.Start.Add(14 * time.Hour)}}
	wet := c.days(in)
	for _, r := range wet.Rows {
		if r.Hands && !r.Hold && r.Start.Before(in.Rain[0].To) && r.End.After(in.Rain[0].From) {
			t.Errorf("%s lies in the rain: %v to %v", r.Step, r.Start, r.End)
		}
	}
	if got := rowOf(wet, laid.Step); !got.Start.After(laid.Start) {
		t.Errorf("it rains on %s, and it lies at %v still", laid.Step, got.Start)
	}
	follows(t, c, wet)
}

// Foreseen hours move a wait: cold makes it longer, and a warm day that is met later never makes it open earlier.
func TestForeseenHoursMoveTheWaits(t *testing.T) {
	c := planned(t, "coat_1", "place flat roof", "base concrete", "system primed_roof", "air 15 base 15 humidity 60")
	var opens []float64
	for _, temp := range []float64{12, 22} {
		in := c.asked(40)
		for h := range 40 * 24 {
			in.Foreseen = append(in.Foreseen, logbook.Foreseen{At: in.Midnights[0].Add(time.Duration(h) * time.Hour), Temp: temp, Humidity: 60})
		}
		d := c.days(in)
		var found *float64
		for _, r := range d.Rows {
			if r.Opens != nil && r.Held.By == "link" {
				h := r.Opens.Sub(d.Rows[0].End).Hours()
				found = &h
				break
			}
		}
		if found == nil {
			t.Fatalf("no wait at %v °C: found %v proven %v of %d, left %+v", temp, d.Found, d.Proven, d.Nodes, d.Left)
		}
		opens = append(opens, *found)
	}
	if opens[0] <= opens[1] {
		t.Errorf("at 12 °C it opens after %v h, at 22 °C after %v h", opens[0], opens[1])
	}
}

// The clock of a place jumps: a shift begins at its clock time all the same.
func TestShiftsAcrossSummerTime(t *testing.T) {
	zone := time.FixedZone("before", 3600)
	after := time.FixedZone("after", 7200)
	c := planned(t, "")
	c.add("crew.set", map[string]any{"crew": crewOf("1"), "name": "Crew", "people": 2, "shifts": []map[string]any{{"days": []int{1, 2, 3, 4, 5, 6, 7}, "from": "07:00", "to": "16:30"}}})
	c.add("crew.set", map[string]any{"crew": crewOf("2"), "name": "Crew", "people": 2, "shifts": []any{}, "away": true})
	in := site.Asked{Now: time.Date(2027, 3, 27, 20, 0, 0, 0, zone), Most: 100}
	c.now = in.Now
	in.Midnights = []time.Time{time.Date(2027, 3, 27, 0, 0, 0, 0, zone), time.Date(2027, 3, 28, 0, 0, 0, 0, zone)} // this one has 23 h
	for d := range 20 {
		in.Midnights = append(in.Midnights, time.Date(2027, 3, 29+d, 0, 0, 0, 0, after))
	}
	d, err := c.site.Days(in)
	if err != nil || !d.Found {
		t.Fatalf("%v %+v", err, d.Left)
	}
	if got := d.Rows[0].Start.In(after).Format("2006-01-02 15:04"); got != "2027-03-28 07:00" {
		t.Errorf("on the day of the change the shift begins at %s", got)
	}
}

// A plan that was accepted is what the next one is held against; the first one stays beside it.
func TestSinceTheAcceptedPlan(t *testing.T) {
	c := planned(t, "coat_1")
	accept := func(d site.Days) {
		starts := []map[string]any{}
		for _, r := range d.Rows {
			start := map[string]any{"area": r.Area, "step": r.Step, "start": r.Start.Format(time.RFC3339), "end": r.End.Format(time.RFC3339)}
			if r.Crew != "" {
				start["crew"] = r.Crew
			}
			starts = append(starts, start)
		}
		c.add("schedule.accepted", map[string]any{"end": d.End.Format(time.RFC3339), "starts": starts})
	}
	one := c.days(c.asked(40))
	if one.Accepted != nil || len(one.Changes) != 0 {
		t.Errorf("nothing was accepted: %+v", one.Changes)
	}
	accept(one)
	if same := c.days(c.asked(40)); len(same.Changes) != 0 || !same.Accepted.Equal(*one.End) {
		t.Errorf("nothing changed: %+v", same.Changes)
	}
	in := c.asked(40)
	in.Held = []site.HeldStep{{Area: dayArea, Step: "coat_1", Start: one.Rows[0].Start.AddDate(0, 0, 2)}}
	later := c.days(in)
	i := slices.IndexFunc(later.Changes, func(d site.DayChange) bool { return d.Step == "coat_1" })
	if i < 0 || later.Changes[i].Now.Sub(later.Changes[i].Before) < 40*time.Hour {
		t.Fatalf("two days later: %+v", later.Changes)
	}
	accept(later)
	got := c.days(c.asked(40))
	if !got.Accepted.Equal(*later.End) || !got.First.Equal(*one.End) {
		t.Errorf("accepted %v, first %v", got.Accepted, got.First)
	}
	// What a search of the same problem found elsewhere is said, and nothing else is.
	whole := c.asked(40)
	whole.Plan = planFound(t, c)
	if said := c.days(whole); !said.End.Equal(*got.End) || len(said.Rows) != len(got.Rows) {
		t.Errorf("found elsewhere: %v, here %v", said.End, got.End)
	}
	whole.Plan.Starts[0].Step = "another"
	if _, err := c.site.Days(whole); err == nil || fault.Of(err)[0].Key != "schedule.plan_of_another" {
		t.Errorf("a plan of another problem: %v", err)
	}
}

func planFound(t *testing.T, c *crew) *schedule.Plan {
	problem := c.days(c.asked(40)).Problem
	problem.Most = 400
	plan, err := schedule.Solve(problem)
	if err != nil {
		t.Fatal(err)
	}
	return &plan
}

// A base that is too young is waited for.
func TestABaseThatAges(t *testing.T) {
	c := planned(t, "", "place L-shaped room with niche, window and bench", "base concrete", "survey patches.1.age 20", "system flexible_cementitious", "air 20 base 19 humidity 55")
	d := c.days(c.asked(40))
	i := slices.IndexFunc(d.Rows, func(r site.Row) bool { return r.Held.By == "age" || r.Held.By == "shift" && r.Hold })
	if len(d.Rows) < 3 || i < 0 {
		t.Fatalf("nothing waits for the base: %+v", d.Rows)
	}
	old := c.now.AddDate(0, 0, 8) // 28 days are asked of concrete
	for _, r := range d.Rows {
		if step, _ := c.area().Order.Step(r.Step); (step.Lays() || r.Hold) && r.Start.Before(old.Add(-25*time.Hour)) {
			t.Errorf("%s lies at %v on a base that is old enough at %v", r.Step, r.Start, old)
		}
	}
	follows(t, c, d)
}

// The made-up job can be laid out whenever it is begun: at night, and on a Sunday.
func TestTheMadeUpJobIsLaidOutAtAnyHour(t *testing.T) {
	for hours := 0; hours < 7*24; hours += 23 {
		now := time.Date(2026, 12, 2, 6, 30, 0, 0, time.UTC).Add(time.Duration(hours) * time.Hour)
		made, err := demo.Make(now, 7)
		if err != nil {
			t.Fatal(err)
		}
		d, err := site.Read(made.Entries).Days(site.Asked{Now: now, Midnights: midnightsOf(now, 28), Most: 200})
		if err != nil || !d.Found || len(d.Rows) < 10 {
			t.Errorf("begun %v: %v, found %v, %d rows", now, err, d.Found, len(d.Rows))
		}
	}
}

// What was laid is kept from rain until it is safe from it; where somebody is always at work a promise is as doubtful as the climate.
func TestRainSafeAndDoubt(t *testing.T) {
	c := planned(t, "", "place flat roof", "base concrete", "system mat_roof", "air 15 base 15 humidity 60")
	for _, letter := range []string{"1", "2"} {
		c.add("crew.set", map[string]any{"crew": crewOf(letter), "name": "Crew", "people": 2, "licences": []string{"flame"}, "shifts": []map[string]any{{"days": []int{1, 2, 3, 4, 5, 6, 7}, "from": "00:00", "to": "24:00"}}})
	}
	base := c.days(c.asked(21))
	last := base.Promises[len(base.Promises)-1]
	if !last.Early.Before(last.Late) {
		t.Errorf("nothing is in doubt: %+v", last)
	}
	moved := false
	for _, r := range base.Rows {
		step, _ := c.area().Order.Step(r.Step)
		if step.Does != system.Lay && step.Does != system.Embed {
			continue
		}
		in := c.asked(21)
		in.Rain = []site.Stretch{{From: r.End.Add(5 * time.Minute), To: r.End.Add(3 * time.Hour)}}
		if got := rowOf(c.days(in), r.Step); !got.Start.Equal(r.Start) {
			moved = true
			if got.Start.Before(in.Rain[0].To) && got.End.After(r.End.Add(-time.Minute)) {
				t.Errorf("it rains on %s while it is wet: %v to %v", r.Step, got.Start, got.End)
			}
		}
	}
	if !moved {
		t.Error("rain right after a coat moves none")
	}
}
