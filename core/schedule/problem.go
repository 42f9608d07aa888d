// Package schedule says when each step of a site may run: crews and an order on each crew are searched, and for each of them
// the least starts follow by raising (domain rules, section on schedules). All times are whole minutes from the first
// midnight; starts lie on a grid of five.
package schedule

import (
	"cmp"
	"slices"
	"sort"
	"strconv"

	"dusha/core/fault"
)

// Problem is what is to be laid out, and by whom.
type Problem struct {
	Horizon int     `json:"horizon_min"` // every step ends by it
	Travel  int     `json:"travel_min"`  // from one area to another
	Crews   []Crew  `json:"crews" maxItems:"50"`
	Steps   []Step  `json:"steps" maxItems:"2500"`
	Links   []Link  `json:"links" maxItems:"10000"`
	Most    int     `json:"most_nodes"`     // of the search
	From    *Search `json:"from,omitempty"` // a search that was stopped, to be gone on with
}

// Crew does one step at a time.
type Crew struct {
	ID       string   `json:"id"`
	People   int      `json:"people"`
	Licences []string `json:"licences" maxItems:"40"`
	Shifts   [][2]int `json:"shifts" maxItems:"400"` // [from, to), one after the other
}

// Step is one thing to do: by hands of one crew, or by itself.
type Step struct {
	ID          string   `json:"id"`
	Area        string   `json:"area"`
	Minutes     int      `json:"minutes"`
	Hands       *bool    `json:"hands,omitempty"` // left out: by hands
	People      int      `json:"people,omitempty"`
	Licence     string   `json:"licence,omitempty"`
	Pauses      bool     `json:"pauses,omitempty"`                // worked through breaks and nights
	Closed      [][2]int `json:"closed,omitempty" maxItems:"400"` // it may not lie in these
	ClosedAfter int      `json:"closed_after_min,omitempty"`      // nor so long after its end
	NotBefore   int      `json:"not_before_min,omitempty"`        // of its start
	NotAfter    *int     `json:"not_after_min,omitempty"`         // of its start
}

// ByHands tells whether a crew is bound to the step; else it runs by itself.
func (s Step) ByHands() bool { return s.Hands == nil || *s.Hands }

// Link is a wait between two steps: fixed, or read off tables of [anchor's time, opens or shuts].
type Link struct {
	Before string   `json:"before"`
	After  string   `json:"after"`
	Anchor string   `json:"anchor,omitempty"` // "end", or "start" of the step before
	Least  int      `json:"least_min,omitempty"`
	Latest *int     `json:"latest_min,omitempty"` // left out: it never shuts
	Opens  [][2]int `json:"opens,omitempty" maxItems:"2000"`
	Shuts  [][2]int `json:"shuts,omitempty" maxItems:"2000"`
}

// grid is how finely starts lie, min.
const grid = 5

// Limits of what is taken on.
const (
	mostMinutes = 5 * 366 * 24 * 60
	mostNodes   = 50_000_000
)

// check holds a problem against what can be read at all. What cannot be met is no fault: there is no plan.
func (p Problem) check() error {
	for field, v := range map[string]int{"horizon_min": p.Horizon, "travel_min": p.Travel} {
		if err := within(field, v, 0); err != nil {
			return err
		}
	}
	if p.Most < 0 || p.Most > mostNodes {
		return fault.At("most_nodes", "number.too_large", "value", p.Most, "most", mostNodes, "unit", "")
	}
	seen := map[string]bool{}
	for i, c := range p.Crews {
		field := "crews." + strconv.Itoa(i+1)
		if c.ID == "" || seen[c.ID] {
			return fault.At(field+".id", "schedule.name_twice", "name", fault.Short(c.ID))
		}
		seen[c.ID] = true
		if err := within(field+".people", c.People, 0); err != nil {
			return err
		}
		for k, shift := range c.Shifts {
			if err := within(field+".shifts", shift[0], 0); err != nil {
				return err
			}
			if shift[1] <= shift[0] {
				return fault.At(field+".shifts", "schedule.shift_ends_before", "name", fault.Short(c.ID), "n", k+1)
			}
			if k > 0 && shift[0] < c.Shifts[k-1][1] {
				return fault.At(field+".shifts", "schedule.shifts_overlap", "name", fault.Short(c.ID), "n", k+1)
			}
		}
	}
	steps := map[string]bool{}
	for i, s := range p.Steps {
		field := "steps." + strconv.Itoa(i+1)
		if s.ID == "" || steps[s.ID] {
			return fault.At(field+".id", "schedule.name_twice", "name", fault.Short(s.ID))
		}
		latest := 0
		if s.NotAfter != nil {
			latest = *s.NotAfter
		}
		if err := cmp.Or(
			within(field+".minutes", s.Minutes, 1), within(field+".people", s.People, 0), within(field+".closed_after_min", s.ClosedAfter, 0),
			within(field+".not_before_min", s.NotBefore, 0), within(field+".not_after_min", latest, 0),
		); err != nil {
			return err
		}
		for k, shut := range s.Closed {
			if shut[0] < 0 || shut[1] < shut[0] {
				return fault.At(field+".closed", "schedule.stretch_ends_before", "name", fault.Short(s.ID), "n", k+1)
			}
		}
		steps[s.ID] = true
	}
	for i, l := range p.Links {
		field := "links." + strconv.Itoa(i+1)
		for _, id := range []string{l.Before, l.After} {
			if !steps[id] {
				return fault.At(field, "schedule.unknown_step", "name", fault.Short(id))
			}
		}
		latest := 0
		if l.Latest != nil {
			latest = *l.Latest
		}
		if err := cmp.Or(within(field+".least_min", l.Least, 0), within(field+".latest_min", latest, 0)); err != nil {
			return err
		}
		if l.Anchor != "" && l.Anchor != "end" && l.Anchor != "start" {
			return fault.At(field+".anchor", "choice.unknown", "typed", fault.Short(l.Anchor))
		}
		for _, table := range [][][2]int{l.Opens, l.Shuts} {
			for k := range table {
				if table[k][0] < 0 || table[k][1] < 0 || k > 0 && (table[k][0] < table[k-1][0] || table[k][1] < table[k-1][1]) {
					return fault.At(field, "schedule.table_falls", "before", fault.Short(l.Before), "after", fault.Short(l.After))
				}
			}
		}
	}
	return nil
}

// within refuses a number that is less than a least, or longer than anybody plans.
func within(field string, v, least int) error {
	switch {
	case v < least:
		return fault.At(field, "number.too_small", "value", v, "least", least, "unit", "")
	case v > mostMinutes:
		return fault.At(field, "number.too_large", "value", v, "most", mostMinutes, "unit", "")
	}
	return nil
}

// at reads a table at a time: straight between its points, before the first and beyond the last by the wait there. At two
// points with one time the first counts at that very minute. up rounds to the next whole minute, else to the one before.
func at(table [][2]int, x int, up bool) int {
	first, last := table[0], table[len(table)-1]
	switch {
	case x <= first[0]:
		return x + first[1] - first[0]
	case x > last[0]:
		return x + last[1] - last[0]
	}
	i, _ := slices.BinarySearchFunc(table, x, func(point [2]int, x int) int {
		if point[0] < x {
			return -1
		}
		return 1
	})
	a, b := table[i-1], table[i] // a lies before x, b at it or beyond
	num, den := (b[1]-a[1])*(x-a[0]), b[0]-a[0]
	if up {
		num += den - 1
	}
	return a[1] + num/den
}

// from is the time that the link counts from, of the step before it.
func (l Link) from(start, end int) int {
	if l.Anchor == "start" {
		return start
	}
	return end
}

func (l Link) opens(x int) int {
	if len(l.Opens) > 0 {
		return at(l.Opens, x, true)
	}
	return x + l.Least
}

// openedBy is the greatest time of the anchor, up to a most, with which it opens no later than a time; −1 where none does.
func (l Link) openedBy(time, most int) int {
	if len(l.Opens) == 0 {
		return time - l.Least
	}
	return sort.Search(most+1, func(x int) bool { return l.opens(x) > time }) - 1
}

// shuts is when the step after may begin at the latest; known is false where it never shuts.
func (l Link) shuts(x int) (latest int, known bool) {
	switch {
	case len(l.Shuts) > 0:
		return at(l.Shuts, x, false), true
	case l.Latest != nil:
		return x + *l.Latest, true
	}
	return 0, false
}

// anchorFor is the least time of the anchor with which the step after may still begin at a time; possible is false where
// none up to a most is.
func (l Link) anchorFor(start, most int) (x int, possible bool) {
	if len(l.Shuts) == 0 {
		return start - *l.Latest, true
	}
	least := -mostMinutes
	if v, _ := l.shuts(most); v < start {
		return 0, false
	}
	for most > least {
		mid := least + (most-least)/2
		if v, _ := l.shuts(mid); v >= start {
			most = mid
		} else {
			least = mid + 1
		}
	}
	return most, true
}
