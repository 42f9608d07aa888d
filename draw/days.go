package draw

import (
	"math"
	"slices"
	"strconv"
	"time"
	"unicode/utf8"

	"dusha/core/site"
	"dusha/core/wetarea"
)

// DaysInputs ask for a plan of the days: each day a line of hours, the areas as lanes on it.
type DaysInputs struct {
	Rows   []site.Row `json:"rows" maxItems:"2500"`
	Crews  []DayCrew  `json:"crews" maxItems:"60"`
	Offset int        `json:"offset_min" minimum:"-840" maximum:"840"` // local time, minutes east of Greenwich
	Now    time.Time  `json:"now"`
	Days   int        `json:"days,omitempty"`        // shown, those with work; 0: all
	Lit    string     `json:"lit,omitempty"`         // id of the row that is touched
	Chain  []string   `json:"chain" maxItems:"2500"` // ids of the rows that hold the end, from the last one back
	View   View       `json:"view"`
}

// DayCrew is a crew by its name.
type DayCrew struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Room in a plan of the days, px.
const (
	dayHead    = 50.0 // its name, and the hours under it
	laneHigh   = 56.0 // of one area: a finger's breadth
	dayGap     = 18.0
	bedHigh    = 20.0
	dayLetter  = 8.4 // of a title, about
	leastHours = 6
	paths      = 3 // looks of crews' paths
)

// day is one day with the rows that run on it.
type day struct {
	from  time.Time // midnight
	rows  []site.Row
	lanes []string // areas, in the order in which they come
	names map[string]string
}

// Days draws each working day as a line; hours stand over each other on all of them. What is open lies on its area's lane as a
// low tide, water that stands as waves, and each crew's path hops from lane to lane.
func Days(in DaysInputs) (Drawing, error) {
	d, err := onView(in.View)
	if err != nil {
		return d, err
	}
	zone := zoneOf(in.Offset)
	days := daysOf(in.Rows, zone)
	if in.Days > 0 && len(days) > in.Days {
		days = days[:in.Days]
	}
	first, last := hoursOf(in.Rows, zone)
	hours := axisOfDay{first, last, 8, in.View.Width - 8}
	y := 0.0
	for _, each := range days {
		d.day(in, each, hours, y, zone)
		y += dayHead + laneHigh*float64(len(each.lanes)) + dayGap
	}
	d.Box.Height = max(1, y)
	d.linkWalks()
	return d, nil
}

// axisOfDay is the hours of a day, left to right.
type axisOfDay struct{ first, last, left, right float64 }

func (a axisOfDay) x(hour float64) float64 {
	hour = min(max(hour, a.first), a.last)
	return a.left + (a.right-a.left)*(hour-a.first)/(a.last-a.first)
}

// daysOf are the days on which somebody works, with all that runs on them.
func daysOf(rows []site.Row, zone *time.Location) (days []day) {
	at := map[string]int{}
	var names []string
	for _, r := range rows {
		if r.Hands {
			for t := r.Start.In(zone); t.Before(r.End); t = midnight(t).AddDate(0, 0, 1) {
				if name := t.Format(time.DateOnly); !slices.Contains(names, name) {
					names = append(names, name)
				}
			}
		}
	}
	slices.Sort(names)
	for _, name := range names {
		from, _ := time.ParseInLocation(time.DateOnly, name, zone)
		at[name] = len(days)
		days = append(days, day{from: from, names: map[string]string{}})
	}
	for i := range days {
		for _, r := range rows {
			if r.Start.Before(days[i].from.AddDate(0, 0, 1)) && r.End.After(days[i].from) {
				days[i].rows = append(days[i].rows, r)
				if !slices.Contains(days[i].lanes, r.Area) {
					days[i].lanes = append(days[i].lanes, r.Area)
					days[i].names[r.Area] = r.Name
				}
			}
		}
	}
	return days
}

func midnight(t time.Time) time.Time {
	y, m, d := t.Date()
	return time.Date(y, m, d, 0, 0, 0, 0, t.Location())
}

// hoursOf are the first and the last hour that anybody works.
func hoursOf(rows []site.Row, zone *time.Location) (first, last float64) {
	first, last = 24, 0
	for _, r := range rows {
		if r.Hands {
			start, end := r.Start.In(zone), r.End.In(zone)
			first = min(first, math.Floor(hourOf(start)))
			if sameDay := midnight(start).Equal(midnight(end)); sameDay {
				last = max(last, math.Ceil(hourOf(end)))
			} else {
				last = max(last, math.Ceil(hourOf(end)), 17)
			}
		}
	}
	if first > last {
		return 7, 17
	}
	return first, min(24, max(last, first+leastHours))
}

func hourOf(t time.Time) float64 { return t.Sub(midnight(t)).Hours() }

// day draws one.
func (d *Drawing) day(in DaysInputs, of day, a axisOfDay, top float64, zone *time.Location) {
	d.text("days_day", wetarea.Point{a.left, top + 18}, "start", "days.day", "at", of.from.Add(12*time.Hour).Format(time.RFC3339))
	lanes := top + dayHead
	bottom := lanes + laneHigh*float64(len(of.lanes))
	step := 1.0
	for (a.right-a.left)/(a.last-a.first)*step < labelPx {
		step++
	}
	for hour := a.first; hour <= a.last; hour += step {
		d.path("hour", false, wetarea.Point{a.x(hour), lanes - 8}, wetarea.Point{a.x(hour), bottom})
		if a.x(hour) < a.right-12 {
			d.text("axis_hour", wetarea.Point{max(a.x(hour), a.left+9), lanes - 13}, "middle", "axis.hour", "h", strconv.Itoa(int(hour)))
		}
	}
	laneOf := func(area string) float64 {
		return lanes + laneHigh*float64(slices.Index(of.lanes, area)) + laneHigh - 12
	}
	on := func(t time.Time) float64 { // px of a moment, on this day
		return a.x(t.Sub(of.from).Hours())
	}
	for _, id := range of.lanes {
		y := laneOf(id)
		d.path("days_lane", false, wetarea.Point{a.left, y}, wetarea.Point{a.right, y})
	}
	for _, r := range of.rows {
		y := laneOf(r.Area)
		switch {
		case !r.Hands:
			if from, to := on(r.Start), on(r.End); to-from > 1 {
				d.path("tide_open", true, box(from, y-bedHigh/2, to-from, bedHigh/2)...)
			}
		case r.Opens != nil && r.Shuts != nil:
			if from, to := on(*r.Opens), on(*r.Shuts); to-from > 1 {
				d.path("days_open", true, box(from, y-bedHigh, to-from, bedHigh)...)
				d.path("tide_open_line", false, wetarea.Point{from, y - bedHigh}, wetarea.Point{to, y - bedHigh})
			}
		}
	}
	d.chain(in, of, laneOf, on)
	for c, crew := range in.Crews {
		d.crewPath(of, crew, "days_path_"+strconv.Itoa(c%paths), laneOf, on)
	}
	for _, id := range of.lanes {
		d.text("days_name", wetarea.Point{a.left, laneOf(id) - bedHigh - 6}, "start", "shelf.name", "name", of.names[id])
	}
	for _, r := range of.rows {
		d.dayRow(in, r, a, laneOf(r.Area), on)
	}
	if now := in.Now.In(zone); midnight(now).Equal(of.from) {
		d.path("now", false, wetarea.Point{on(now), lanes - 8}, wetarea.Point{on(now), bottom})
	}
}

// chain underlines the steps that hold the end, each on to where the next one begins.
func (d *Drawing) chain(in DaysInputs, of day, laneOf func(string) float64, on func(time.Time) float64) {
	rows := map[string]site.Row{}
	for _, r := range in.Rows {
		rows[r.ID] = r
	}
	const under = 7.0
	for k, id := range in.Chain {
		r, is := rows[id]
		if !is || !slices.Contains(of.lanes, r.Area) {
			continue
		}
		to := r.End
		if k > 0 && rows[in.Chain[k-1]].Area == r.Area {
			to = rows[in.Chain[k-1]].Start
		}
		if from, to := on(r.Start), on(to); to-from > 1 {
			y := laneOf(r.Area) + under
			d.path("days_chain", false, wetarea.Point{from, y}, wetarea.Point{to, y})
		}
	}
}

// crewPath is where a crew is on a day: along a lane while it works there, then on to the next.
func (d *Drawing) crewPath(of day, crew DayCrew, style string, laneOf func(string) float64, on func(time.Time) float64) {
	var line []wetarea.Point
	for _, r := range of.rows {
		if r.Crew != crew.ID {
			continue
		}
		y := laneOf(r.Area)
		line = append(line, wetarea.Point{on(r.Start), y}, wetarea.Point{max(on(r.End), on(r.Start)+3), y})
	}
	if len(line) == 0 {
		return
	}
	d.path(style+"_way", false, line...)
	for i := 0; i+1 < len(line); i += 2 {
		d.path(style, false, line[i], line[i+1])
	}
	d.disc(style+"_foot", line[0], 6)
}

// dayRow is what can be touched of a row, its title where there is room, and its words.
func (d *Drawing) dayRow(in DaysInputs, r site.Row, a axisOfDay, y float64, on func(time.Time) float64) {
	id, title := r.ID, r.Called()
	from, to := on(r.Start), on(r.End)
	if id == in.Lit {
		d.path("days_lit", true, box(from-3, y-bedHigh-2, max(to-from, 6)+6, bedHigh+10)...)
	}
	if r.Hands && dayLetter*float64(utf8.RuneCountInString(title)) < to-from {
		d.text("days_title", wetarea.Point{(from + to) / 2, y - 9}, "middle", "shelf.name", "name", title)
	}
	crew := ""
	for _, c := range in.Crews {
		if c.ID == r.Crew {
			crew = c.Name
		}
	}
	key := "days.twin"
	if !r.Hands {
		key = "days.twin.alone"
	}
	if slices.Contains(in.Chain, id) {
		key += ".chain"
	}
	say := words(key, "at", r.Start.Format(time.RFC3339), "end", r.End.Format(time.RFC3339), "title", title, "name", r.Name, "crew", crew)
	say.ID = id
	const least = 56.0
	wide := max(to-from, least)
	left := min(max(a.left, (from+to-wide)/2), a.right-wide)
	d.Twin = append(d.Twin, say)
	d.Taps = append(d.Taps, Tap{ID: id, Kind: "item", Outline: box(left, y-laneHigh+12, wide, laneHigh), Label: say})
}
