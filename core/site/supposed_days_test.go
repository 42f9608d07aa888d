package site_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/core/system"
)

// roof is a flat roof whose plan of the days is asked from a morning on, with the first coat that is laid on it.
func roof(t *testing.T) (c *crew, laid site.Row) {
	c = planned(t, "", "place flat roof", "base concrete", "system mat_roof", "air 15 base 15 humidity 60")
	for _, r := range c.days(c.asked(21)).Rows {
		if step, _ := c.area().Order.Step(r.Step); laid.Step == "" && step.Does == system.Lay {
			laid = r
		}
	}
	if laid.Step == "" {
		t.Fatal("nothing is laid")
	}
	return c, laid
}

func weatherOf(at time.Time, more map[string]any) map[string]any {
	body := map[string]any{"date": at.Format(time.DateOnly), "rain": []any{}, "from": "the weather service"}
	for name, value := range more {
		body[name] = value
	}
	return body
}

// What a person read of a day ahead keeps work in the open off: its rain by the clock, a storm what is laid, frost what minds it. On a day
// that nobody read the plan says so.
func TestWeatherOfTheDaysAhead(t *testing.T) {
	c, laid := roof(t)
	if !laid.Unread {
		t.Errorf("nobody read the weather of %v, and nothing says so", laid.Start)
	}
	on := func(more map[string]any) site.Row {
		c.t.Helper()
		c.add("weather.day", weatherOf(laid.Start, more))
		return rowOf(c.days(c.asked(21)), laid.Step)
	}
	sameDay := func(r site.Row) bool { return r.Start.Format(time.DateOnly) == laid.Start.Format(time.DateOnly) }
	if dry := on(nil); !sameDay(dry) || dry.Unread {
		t.Errorf("a dry day: %+v", dry)
	}
	from, to := laid.Start.Add(30*time.Minute), laid.Start.Add(90*time.Minute)
	rain := []map[string]any{{"from": from.Format("15:04"), "to": to.Format("15:04")}}
	if wet := on(map[string]any{"rain": rain}); wet.Start.Before(to) && wet.End.After(from) {
		t.Errorf("rain until %v, and it begins %v by %v", to, wet.Start, wet.Held)
	}
	if storm := on(map[string]any{"wind_m_per_s": 14}); sameDay(storm) {
		t.Error("it is laid in a storm")
	}
	if calm := on(map[string]any{"wind_m_per_s": 4}); !sameDay(calm) {
		t.Errorf("the last word of a day counts: %v", calm.Start)
	}
	// Colder hours make the waits behind it longer.
	cold := map[string]any{"coldest_C": 8, "warmest_C": 13, "rh_percent": 70}
	before := c.days(c.asked(60))
	for day := range 8 {
		c.add("weather.day", weatherOf(laid.Start.AddDate(0, 0, day), cold))
	}
	after := c.days(c.asked(60))
	wait := func(d site.Days) (longest time.Duration) {
		for _, r := range d.Rows {
			if r.Opens != nil && r.Held.By == "link" {
				longest = max(longest, r.Opens.Sub(d.Rows[0].Start))
			}
		}
		return longest
	}
	if !after.Found || wait(after) <= wait(before) {
		t.Errorf("in the cold it waits %v, else %v", wait(after), wait(before))
	}
	for key, body := range map[string]map[string]any{
		"weather.three_together":    {"coldest_C": 3},
		"weather.warmest_below":     {"coldest_C": 9, "warmest_C": 3, "rh_percent": 70},
		"schedule.hours_end_before": {"rain": []map[string]any{{"from": "12:00", "to": "11:00"}}},
		"number.too_large":          {"wind_m_per_s": 90},
	} {
		text, _ := json.Marshal(map[string]any{
			"id": "019cb000-0000-7000-8000-00000000aaaa", "jobId": "019cb000-0000-7000-8000-0000000000b0", "kind": "weather.day",
			"at": c.now.Format(time.RFC3339), "by": c.lead, "body": weatherOf(laid.Start, body),
		})
		if _, err := logbook.Parse(text); err == nil || fault.Of(err)[0].Key != key {
			t.Errorf("%v: %v", body, err)
		}
	}
}

// Frost keeps off what minds it, in the hours in which it freezes.
func TestFrostKeepsOffWhatMindsIt(t *testing.T) {
	c := planned(t, "", "place flat roof", "base concrete", "system primed_roof", "air 15 base 15 humidity 60")
	first := func(d site.Days) (r site.Row) {
		for _, each := range d.Rows {
			if step, _ := c.area().Order.Step(each.Step); r.Step == "" && c.area().Lays(step) {
				r = each
			}
		}
		return r
	}
	before := first(c.days(c.asked(40)))
	cold := map[string]any{"coldest_C": -9, "warmest_C": -1, "rh_percent": 60}
	mild := map[string]any{"coldest_C": 8, "warmest_C": 14, "rh_percent": 60}
	minds := slices.ContainsFunc(c.area().StillOpen(c.now), func(h logbook.Ahead) bool { return h.Step.ID == before.Step && h.Frost })
	for day, body := range []map[string]any{cold, mild} {
		c.add("weather.day", weatherOf(before.Start.AddDate(0, 0, day), body))
	}
	after := first(c.days(c.asked(40)))
	if minds != (after.Start.Format(time.DateOnly) > before.Start.Format(time.DateOnly)) {
		t.Errorf("it minds frost: %v; laid %v, else %v", minds, after.Start, before.Start)
	}
	if !minds {
		t.Error("nothing that minds frost is laid: the case proves nothing")
	}
}

// A day is coldest before dawn and warmest in the afternoon.
func TestTheHoursOfADay(t *testing.T) {
	least, most, humid := 4.0, 16.0, 70.0
	day := time.Date(2026, 5, 4, 0, 0, 0, 0, time.UTC)
	hours := logbook.WeatherDay{Coldest: &least, Warmest: &most, Humidity: &humid}.Ahead(day, day.AddDate(0, 0, 1))
	if len(hours) != 25 || hours[3].Temp > 4.001 || hours[15].Temp < 15.999 || hours[9].Temp < 9.9 || hours[9].Temp > 10.1 || hours[24].Temp != 10 || hours[0].Humidity != 70 {
		t.Errorf("%+v", hours)
	}
}

// What stands in the forecast of the roof itself is held against the days too: it is dry until then, and that day no more.
func TestDryUntil(t *testing.T) {
	c, laid := roof(t)
	until := laid.Start.Add(45 * time.Minute)
	c.add("forecast.read", map[string]any{"dry_until": until.Format(time.RFC3339), "coldest_C": 9, "wind_m_per_s": 3, "from": "the weather service"})
	got := rowOf(c.days(c.asked(21)), laid.Step)
	if got.Start.Format(time.DateOnly) <= laid.Start.Format(time.DateOnly) {
		t.Errorf("dry until %v, and it is laid %v", until, got.Start)
	}
	c.add("weather.day", weatherOf(laid.Start, nil)) // read after that
	if got := rowOf(c.days(c.asked(21)), laid.Step); got.Start.Format(time.DateOnly) != laid.Start.Format(time.DateOnly) {
		t.Errorf("the day was read dry later, and it is laid %v", got.Start)
	}
}

// A coat that no shift holds is laid in two stretches, each with its setting up; each waits for the one under it.
func TestInTwoStretches(t *testing.T) {
	c := planned(t, "coat_1")
	c.add("step.timed", map[string]any{"step": "coat_1", "minutes": 700})
	mends, err := c.site.Mend(c.asked(21))
	i := slices.IndexFunc(mends, func(m site.Mend) bool { return m.Try == "split" && m.Step == "coat_1" })
	if err != nil || i < 0 || mends[i].Sooner != 0 {
		t.Fatalf("a coat of 700 min in two stretches: %v %+v", err, mends)
	}
	in := c.asked(21)
	in.Split = []site.StepOf{{Area: dayArea, Step: "coat_1"}}
	d := c.days(in)
	follows(t, c, d)
	var parts []site.Row
	for _, r := range d.Rows {
		if r.Step == "coat_1" {
			parts = append(parts, r)
		}
	}
	if len(parts) != 2 || parts[0].Part != 1 || parts[1].Part != 2 || parts[1].Parts != 2 || parts[0].Min != 350 || parts[1].Start.Before(parts[0].Start) {
		t.Fatalf("%+v", parts)
	}
	if two := rowOf(d, "coat_2"); two.Start.Before(parts[1].End) || two.Opens == nil {
		t.Errorf("the second coat at %v, %v", two.Start, two.Opens)
	}
	// Kept, it is so without anything supposed.
	two := in
	two.Split = append(slices.Clone(in.Split), site.StepOf{Area: dayArea, Step: "coat_2"})
	if list := keep(t, c, two, site.Keeping{What: "split", Area: dayArea, Step: "coat_1"}); len(list) != 1 {
		t.Errorf("one of two is kept, and %d entries come of it", len(list))
	}
	if kept := c.days(c.asked(21)); !kept.Found || !kept.End.Equal(*d.End) || len(kept.Rows) != len(d.Rows) {
		t.Errorf("kept it ends %v, supposed %v", kept.End, d.End)
	}
	// Laid in two again, each stretch of the second coat waits for the one under it alone.
	in = c.asked(21)
	in.Split = []site.StepOf{{Area: dayArea, Step: "coat_2"}}
	in.Held = []site.HeldStep{{Area: dayArea, Step: "coat_1", Part: 2, Start: parts[0].Start.Add(2 * time.Hour)}}
	opens := map[int]time.Time{}
	ends := map[int]time.Time{}
	for _, r := range c.days(in).Rows {
		switch r.Step {
		case "coat_1":
			ends[r.Part] = r.End
		case "coat_2":
			opens[r.Part] = *r.Opens
		}
	}
	if one, two := opens[1].Sub(ends[1]), opens[2].Sub(ends[2]); one <= 0 || (one-two).Abs() > time.Hour || ends[2].Sub(ends[1]) < time.Hour {
		t.Errorf("they open %v and %v after %v and %v", opens[1], opens[2], ends[1], ends[2])
	}
	in = c.asked(21)
	in.Split = []site.StepOf{{Area: dayArea, Step: "coat_1"}}
	// Of what is only reckoned each stretch is set up anew.
	c.add("step.timed", map[string]any{"step": "coat_1", "minutes": 0})
	one := rowOf(c.days(c.asked(21)), "coat_1")
	both := c.days(in)
	if half := rowOf(both, "coat_1"); 2*half.Min <= one.Min {
		t.Errorf("in one %d min, in two %d each", one.Min, half.Min)
	}
}

// keep records what makes true what is supposed.
func keep(t *testing.T, c *crew, in site.Asked, of site.Keeping) []site.Kept {
	t.Helper()
	list, err := c.site.Keep(in, of)
	if err != nil || len(list) == 0 {
		t.Fatalf("%s: %v, nothing to keep", of.What, err)
	}
	for _, k := range list {
		c.add(string(k.Kind), k.Body)
	}
	return list
}

// What was supposed and is kept gives the same plan with nothing supposed.
func TestWhatIsSupposedIsKept(t *testing.T) {
	for _, each := range []struct {
		of     site.Keeping
		change func(in *site.Asked)
	}{
		{site.Keeping{What: "people"}, func(in *site.Asked) { in.People = 1 }},
		{site.Keeping{What: "longer"}, func(in *site.Asked) { in.Longer = 120 }},
		{site.Keeping{What: "weekends"}, func(in *site.Asked) { in.Weekends = true }},
		{site.Keeping{What: "heater", Area: dayArea}, func(in *site.Asked) { in.Heater = []site.Heater{{Area: dayArea, K: 2}} }},
		{site.Keeping{What: "crew", ID: crewOf("3"), Name: "Crew 3"}, func(in *site.Asked) { in.Crews = 1 }},
	} {
		c := planned(t, "coat_1")
		in := c.asked(21)
		each.change(&in)
		supposed := c.days(in)
		if !supposed.Found {
			t.Fatalf("%s: no plan: %d nodes, %+v", each.of.What, supposed.Nodes, supposed.Left)
		}
		list := keep(t, c, in, each.of)
		if each.of.What == "longer" && !strings.Contains(string(list[0].Body), `"to":"18:30"`) {
			t.Errorf("two hours longer than 16:30: %s", list[0].Body)
		}
		again := c.asked(21)
		again.Now = in.Now
		if kept := c.days(again); !kept.End.Equal(*supposed.End) {
			t.Errorf("%s: kept it ends %v, supposed %v", each.of.What, kept.End, supposed.End)
		}
	}
	c, laid := roof(t)
	in := c.asked(21)
	in.Rain = []site.Stretch{{From: laid.Start.Add(-time.Hour), To: laid.Start.Add(5 * time.Hour)}, {From: laid.Start.AddDate(0, 0, 1), To: laid.Start.AddDate(0, 0, 2)}}
	c.add("weather.day", weatherOf(laid.Start, map[string]any{"wind_m_per_s": 4}))
	supposed := c.days(in)
	list := keep(t, c, in, site.Keeping{What: "rain", Name: "the crew"})
	again := c.asked(21)
	if kept := c.days(again); !kept.End.Equal(*supposed.End) || len(list) != 3 {
		t.Errorf("kept it ends %v, supposed %v; %d days", kept.End, supposed.End, len(list))
	}
	if said := c.site.Job().WeatherOn(laid.Start); said == nil || said.Wind == nil || len(said.Rain) != 1 {
		t.Errorf("what was read of the day before is lost: %+v", said)
	}
	if _, err := c.site.Keep(in, site.Keeping{What: "nothing"}); err == nil || fault.Of(err)[0].Field != "what" {
		t.Errorf("nothing that is known: %v", err)
	}
}

// Once the base is read under the heater its warmth is in the reading, and counts no more beside it.
func TestWarmthIsInALaterReading(t *testing.T) {
	c := planned(t, "coat_1")
	in := c.asked(21)
	in.Heater = []site.Heater{{Area: dayArea, K: 3}, {Area: dayArea, K: 2}} // one put beside the other
	keep(t, c, in, site.Keeping{What: "heater", Area: dayArea})
	if d := c.days(c.asked(21)); len(d.Warmed) != 1 || d.Warmed[0].K != 5 {
		t.Errorf("%+v", d.Warmed)
	}
	c.do(strings.Fields("air 24 base 24 humidity 50"))
	if d := c.days(c.asked(21)); len(d.Warmed) != 0 {
		t.Errorf("read since: %+v", d.Warmed)
	}
}

// What has to be cut yet is laid out before what it is cut for, and no more once it is cut.
func TestCuttingIsLaidOut(t *testing.T) {
	c := planned(t, "")
	d := c.days(c.asked(28))
	i := slices.IndexFunc(d.Rows, func(r site.Row) bool { return strings.HasPrefix(r.Step, "cut ") })
	if i < 0 {
		t.Fatal("nothing is cut")
	}
	cut := d.Rows[i]
	for _, list := range c.area().CutLists() {
		if !strings.HasSuffix(cut.Step, list.Sheet) {
			continue
		}
		if takes := rowOf(d, list.Step); takes.Start.Before(cut.End) || !strings.Contains(cut.Title, list.Name) {
			t.Errorf("%s ends %v, %s begins %v", cut.Title, cut.End, takes.Title, takes.Start)
		}
		if want := 15 + 2*len(list.Wants); cut.Min != want {
			t.Errorf("%d pieces take %d min, not %d", len(list.Wants), cut.Min, want)
		}
	}
}

// An area whose windows nobody can meet keeps no other one from its plan: it stays out, with the step that cannot be met; what would
// mend that is tried.
func TestAnAreaThatCannotBeMetIsNamed(t *testing.T) {
	c := planned(t, "coat_1")
	for _, letter := range []string{"1", "2"} { // at work in the morning of each day, and not when the second coat may be laid
		c.add("crew.set", map[string]any{"crew": crewOf(letter), "name": "Crew " + letter, "people": 2, "shifts": []map[string]any{{"days": []int{1}, "from": "07:00", "to": "12:00"}}})
	}
	d := c.days(c.asked(28))
	if !d.Found || len(d.Rows) != 0 || len(d.Left) != 1 || d.Left[0].Key != "schedule.left.none" || d.Left[0].Step != "coat_2" {
		t.Fatalf("found %v, %d rows, left %+v", d.Found, len(d.Rows), d.Left)
	}
	mends, err := c.site.Mend(c.asked(28))
	if err != nil || !slices.ContainsFunc(mends, func(m site.Mend) bool { return m.Try == "weekends" && m.Sooner == 0 }) {
		t.Errorf("the days off worked would do: %v %+v", err, mends)
	}
}
