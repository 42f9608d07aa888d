package logbook

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"time"

	"dusha/core/fault"
	"dusha/core/order"
)

const KindCrewSet Kind = "crew.set"

// Shift is a stretch of the day that somebody works, on days of the week: 1 is Monday, 7 Sunday.
type Shift struct {
	Days []int `json:"days" maxItems:"7"`
	Hours
}

// Hours are a stretch of one day, clock times of the place: "07:00".
type Hours struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// CrewSet is a crew as it works from now on: the last one with its id counts.
type CrewSet struct {
	Crew     string   `json:"crew"` // id
	Name     string   `json:"name"`
	People   int      `json:"people"`
	Licences []string `json:"licences,omitempty" maxItems:"40"`
	Members  []string `json:"members,omitempty" maxItems:"50"` // people of the job who are in it
	Shifts   []Shift  `json:"shifts" maxItems:"40"`
	Away     bool     `json:"away,omitempty"` // it works here no more
}

// Crew is a crew with the days that are another way than its week.
type Crew struct {
	CrewSet
	Days []CrewDay `json:"days"`
}

// WorkHours are the stretches that a crew works on a day.
func (c Crew) WorkHours(day time.Time) []Hours {
	date := day.Format(time.DateOnly)
	for _, own := range slices.Backward(c.Days) {
		if own.Date == date {
			return sortedHours(own.Shifts)
		}
	}
	return HoursOn(c.Shifts, (int(day.Weekday())+6)%7+1)
}

// HoursOn are the stretches of a week's shifts on a day of it, 1 to 7, one after the other.
func HoursOn(shifts []Shift, weekday int) (list []Hours) {
	for _, s := range shifts {
		if slices.Contains(s.Days, weekday) {
			list = append(list, s.Hours)
		}
	}
	return sortedHours(list)
}

func sortedHours(list []Hours) []Hours {
	list = slices.Clone(list)
	order.By(list, func(a, b Hours) int { return cmp.Compare(a.From, b.From) })
	return list
}

// Minutes are a stretch in minutes from midnight by the clock; false where it cannot be read.
func (h Hours) Minutes() (from, to int, known bool) {
	from, one := clockMinutes(h.From)
	to, other := clockMinutes(h.To)
	return from, to, one && other
}

// ClockOf writes minutes from midnight as a clock time.
func ClockOf(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// clockMinutes reads "07:00"; "24:00" is the end of the day.
func clockMinutes(text string) (minutes int, known bool) {
	const day = 24 * 60
	if len(text) != 5 || text[2] != ':' {
		return 0, false
	}
	hour, err := strconv.Atoi(text[:2])
	minute, other := strconv.Atoi(text[3:])
	minutes = 60*hour + minute
	return minutes, err == nil && other == nil && hour >= 0 && minute >= 0 && minute < 60 && minutes <= day
}

// checkHours refuses stretches that cannot be read, that end before they begin, or that lie over each other.
func checkHours(field string, list []Hours) error {
	list = sortedHours(list)
	last := 0
	for i, h := range list {
		from, to, known := h.Minutes()
		switch {
		case !known:
			return fault.At(field, "schedule.no_clock_time", "typed", fault.Short(h.From+" – "+h.To))
		case to <= from:
			return fault.At(field, "schedule.hours_end_before", "from", h.From, "to", h.To)
		case i > 0 && from < last:
			return fault.At(field, "schedule.hours_overlap", "from", h.From, "to", h.To)
		}
		last = to
	}
	return nil
}

// checkWeek refuses shifts of which some on one day cannot be.
func checkWeek(field string, shifts []Shift) error {
	for _, s := range shifts {
		for _, d := range s.Days {
			if d < 1 || d > 7 {
				return fault.At(field, "schedule.no_weekday", "value", d)
			}
		}
	}
	for day := 1; day <= 7; day++ {
		if err := checkHours(field, HoursOn(shifts, day)); err != nil {
			return err
		}
	}
	return nil
}

func (b CrewSet) check() error {
	const mostPeople = 50
	if len(b.Shifts) > mostList {
		return fault.At("body.shifts", "list.too_long", "most", mostList)
	}
	if len(b.Licences) > mostList {
		return fault.At("body.licences", "list.too_long", "most", mostList)
	}
	if len(b.Members) > mostPeople {
		return fault.At("body.members", "list.too_long", "most", mostPeople)
	}
	for _, member := range b.Members {
		if err := id("body.members", member); err != nil {
			return err
		}
	}
	for _, l := range b.Licences {
		if err := name("body.licences", l); err != nil {
			return err
		}
	}
	return first(id("body.crew", b.Crew), name("body.name", b.Name), within("body.people", float64(b.People), 1, mostPeople), checkWeek("body.shifts", b.Shifts))
}

func (b CrewSet) keep(j *Job, _ settled) {
	i := slices.IndexFunc(j.Crews, func(c Crew) bool { return c.Crew == b.Crew })
	switch {
	case b.Away && i >= 0:
		j.Crews = slices.Delete(j.Crews, i, i+1)
	case b.Away:
	case i >= 0:
		j.Crews[i].CrewSet = b
	default:
		j.Crews = append(j.Crews, Crew{b, []CrewDay{}})
	}
}

const KindCrewDay Kind = "crew.day"

// CrewDay is a day on which a crew works otherwise than its week says: not at all, or at other hours.
type CrewDay struct {
	Crew   string  `json:"crew"`                 // id
	Date   string  `json:"date"`                 // 2006-01-02
	Shifts []Hours `json:"shifts" maxItems:"12"` // none: it is off
	Reason string  `json:"reason,omitempty"`
}

func (b CrewDay) check() error {
	if _, err := time.Parse(time.DateOnly, b.Date); err != nil {
		return fault.At("body.date", "date.unreadable", "typed", fault.Short(b.Date))
	}
	return first(id("body.crew", b.Crew), line("body.reason", b.Reason, false), checkHours("body.shifts", b.Shifts))
}

// keep lays a day over the one said before; of a crew that is not there it is kept for when it is.
func (b CrewDay) keep(j *Job, e settled) {
	i := slices.IndexFunc(j.Crews, func(c Crew) bool { return c.Crew == b.Crew })
	if i < 0 {
		j.deviate(e.Entry, "deviation.no_such_crew")
		return
	}
	j.Crews[i].Days = append(slices.DeleteFunc(j.Crews[i].Days, func(d CrewDay) bool { return d.Date == b.Date }), b)
}

const KindSiteHours Kind = "site.hours"

// SiteHours are what all crews share: the way between two areas, and when an inspector comes.
type SiteHours struct {
	Travel    int     `json:"travel_min"`
	Inspector []Shift `json:"inspector,omitempty" maxItems:"40"` // none: whenever asked
}

func (b SiteHours) check() error {
	const longest = 24 * 60
	return first(within("body.travel_min", float64(b.Travel), 0, longest), checkWeek("body.inspector", b.Inspector))
}

func (b SiteHours) keep(j *Job, _ settled) { j.SiteHours = b }

const KindDeliveryDue Kind = "delivery.due"

// DeliveryDue is when something that is short comes; the last word of a product counts.
type DeliveryDue struct {
	Sheet string `json:"sheet"` // of the product
	At    string `json:"at"`    // RFC 3339; "": it does not come
}

func (b DeliveryDue) check() error {
	if b.At != "" {
		if _, err := momentOf("body.at", b.At); err != nil {
			return err
		}
	}
	return name("body.sheet", b.Sheet)
}

func (b DeliveryDue) keep(j *Job, _ settled) {
	j.Deliveries = slices.DeleteFunc(j.Deliveries, func(d DeliveryDue) bool { return d.Sheet == b.Sheet })
	if b.At != "" {
		j.Deliveries = append(j.Deliveries, b)
	}
}

const KindScheduleAccepted Kind = "schedule.accepted"

// ScheduleAccepted is a plan of the days that was accepted: when each step is to run, and by whom.
type ScheduleAccepted struct {
	End    string    `json:"end"` // RFC 3339
	Starts []Planned `json:"starts" maxItems:"2500"`
}

// Planned is one step of an accepted plan.
type Planned struct {
	Area  string `json:"area"`
	Step  string `json:"step"`
	Part  int    `json:"part,omitempty"` // stretch of it; 0: the first
	Crew  string `json:"crew,omitempty"`
	Start string `json:"start"` // RFC 3339
	End   string `json:"end"`
	Shuts string `json:"shuts,omitempty"` // until when it had to begin, as the plan stood
	Held  *Held  `json:"held,omitempty"`  // what held its start
}

// Held is what held the start of a step in a plan: what it was, and the other step or the time that it names.
type Held struct {
	By    string `json:"by"`
	Title string `json:"title,omitempty"`
	Name  string `json:"name,omitempty"`  // of the area of that step
	Until string `json:"until,omitempty"` // RFC 3339
}

func (h *Held) check(field string) error {
	if h == nil {
		return nil
	}
	if h.Until != "" {
		if _, err := momentOf(field+".until", h.Until); err != nil {
			return err
		}
	}
	return first(name(field+".by", h.By), line(field+".title", h.Title, false), line(field+".name", h.Name, false))
}

// AcceptedPlan is one with when it was accepted and by whom.
type AcceptedPlan struct {
	ScheduleAccepted
	At string `json:"at"`
	By string `json:"by"`
}

func (b ScheduleAccepted) check() error {
	const most = 2500
	if len(b.Starts) > most {
		return fault.At("body.starts", "list.too_long", "most", most)
	}
	if _, err := momentOf("body.end", b.End); err != nil {
		return err
	}
	for _, s := range b.Starts {
		start, err := momentOf("body.starts.start", s.Start)
		if err != nil {
			return err
		}
		end, err := momentOf("body.starts.end", s.End)
		if err != nil {
			return err
		}
		if s.Shuts != "" {
			if _, err := momentOf("body.starts.shuts", s.Shuts); err != nil {
				return err
			}
		}
		if !end.After(start) {
			return fault.At("body.starts.end", "schedule.ends_before", "step", fault.Short(s.Step))
		}
		const mostParts = 4
		if err := first(id("body.starts.area", s.Area), name("body.starts.step", s.Step), within("body.starts.part", float64(s.Part), 0, mostParts), s.Held.check("body.starts.held")); err != nil {
			return err
		}
	}
	return nil
}

// keep holds the first one and the last one: what was promised, and what counts.
func (b ScheduleAccepted) keep(j *Job, e settled) {
	j.Accepted = append(j.Accepted[:min(len(j.Accepted), 1)], AcceptedPlan{b, stamp(e.when), e.By})
}

// PlannedFor is a step in the plan that was accepted last; nil where it is not in it.
func (j *Job) PlannedFor(area, step string) *Planned {
	if len(j.Accepted) == 0 {
		return nil
	}
	starts := j.Accepted[len(j.Accepted)-1].Starts
	i := slices.IndexFunc(starts, func(p Planned) bool { return p.Area == area && p.Step == step })
	if i < 0 {
		return nil
	}
	return &starts[i]
}
