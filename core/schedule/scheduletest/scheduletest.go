// Package scheduletest makes problems for tests and benches, and tries every plan of a small one.
package scheduletest

import (
	"fmt"
	"math/rand/v2"

	"dusha/core/schedule"
)

// Whole is a number that may be left out.
func Whole(v int) *int { return &v }

// Made is a small problem, always the same of one seed.
func Made(seed uint64) schedule.Problem {
	r := rand.New(rand.NewPCG(seed, 22))
	no := false
	p := schedule.Problem{Horizon: 3*1440 + r.IntN(3)*720, Travel: r.IntN(4) * 10, Most: 2_000_000}
	for c := range 2 {
		crew := schedule.Crew{ID: fmt.Sprint("crew ", c+1), People: 1 + r.IntN(2)}
		if r.IntN(2) == 0 {
			crew.Licences = []string{"torch"}
		}
		for day := range 5 {
			from := day*1440 + 360 + r.IntN(3)*60
			crew.Shifts = append(crew.Shifts, [2]int{from, from + 300 + r.IntN(300)})
		}
		p.Crews = append(p.Crews, crew)
	}
	for a := range 3 {
		for k := range 3 {
			s := schedule.Step{ID: fmt.Sprint("a", a, " s", k), Area: fmt.Sprint("a", a), Minutes: 20 + r.IntN(150), People: 1, Pauses: r.IntN(4) == 0}
			switch r.IntN(12) {
			case 0:
				s.People = 2
			case 1:
				s.Licence = "torch"
			case 2:
				s.Closed, s.ClosedAfter = [][2]int{{500, 500 + r.IntN(400)}}, r.IntN(60)
			case 3:
				s.NotBefore = r.IntN(1500)
			}
			p.Steps = append(p.Steps, s)
			if k > 0 {
				l := schedule.Link{Before: p.Steps[len(p.Steps)-2].ID, After: s.ID, Least: r.IntN(400)}
				if r.IntN(2) == 0 {
					l.Latest = Whole(l.Least + 200 + r.IntN(1500))
				}
				switch r.IntN(10) {
				case 0, 1:
					l.Anchor = "start"
				case 2: // slower by and by, and all at once at noon of the second day
					l.Opens = [][2]int{{0, l.Least}, {2160, 2200 + l.Least}, {2160, 2260 + l.Least}}
				}
				p.Links = append(p.Links, l)
			}
		}
	}
	p.Steps = append(p.Steps, schedule.Step{ID: "stands", Area: "a0", Minutes: 300 + r.IntN(600), Hands: &no})
	p.Links = append(p.Links, schedule.Link{Before: "a0 s2", After: "stands", Latest: Whole(4)})
	return p
}

// stage is a step of an area of House: how long it takes at least and beyond that, and what it waits for after the one before.
type stage struct{ least, more, waits, waitsMore, latest int }

// ways are how wet areas are made tight, ten steps each: prepared and accepted, laid in some coats or lengths with their waits, accepted,
// tested, protected and signed. A slurry with bands in two coats; a liquid film that is dry by noon, in three; a resin whose next
// coat has to come within a day; sheets that are bonded, whose seams are looked at.
var ways = [][]stage{
	{
		{60, 60, 0, 0, 0}, {15, 1, 0, 0, 0}, {45, 30, 60, 60, 0}, {90, 60, 60, 60, 1440}, {90, 60, 240, 120, 0},
		{90, 60, 240, 240, 2160}, {15, 1, 0, 0, 0}, {1440, 1, 2880, 1, 0}, {45, 45, 0, 0, 0}, {15, 1, 0, 0, 0},
	},
	{
		{60, 60, 0, 0, 0}, {15, 1, 0, 0, 0}, {30, 30, 60, 30, 1440}, {60, 60, 120, 60, 1440}, {45, 30, 120, 60, 1440},
		{45, 30, 120, 60, 1440}, {15, 1, 720, 60, 0}, {1440, 1, 1440, 1, 0}, {45, 45, 0, 0, 0}, {15, 1, 0, 0, 0},
	},
	{
		{120, 90, 0, 0, 0}, {15, 1, 0, 0, 0}, {30, 30, 60, 30, 0}, {60, 60, 360, 120, 1080}, {60, 60, 420, 120, 1020},
		{30, 30, 360, 120, 1080}, {15, 1, 600, 60, 0}, {1440, 1, 2880, 1, 0}, {45, 45, 0, 0, 0}, {15, 1, 0, 0, 0},
	},
	{
		{60, 30, 0, 0, 0}, {15, 1, 0, 0, 0}, {30, 15, 60, 30, 0}, {120, 90, 120, 60, 2880}, {60, 60, 0, 0, 0},
		{15, 1, 60, 1, 0}, {30, 15, 0, 0, 0}, {2880, 1, 1440, 1, 0}, {60, 60, 0, 0, 0}, {15, 1, 0, 0, 0},
	},
}

// tested is the stage that runs by itself: water stands.
const tested = 7

// weeks are how crews work: with a break at noon, straight through, early and late.
var weeks = [][][2]int{{{420, 720}, {750, 960}}, {{420, 900}}, {{360, 840}}, {{780, 1260}}}

// House is some areas of ten steps in fourteen days, and three crews: each house has its week and its ways of making tight; an area
// in six lies in the open, where it rains on some day, and what another in six needs comes on the second or third day.
func House(seed uint64, areas int) schedule.Problem {
	r := rand.New(rand.NewPCG(seed, 9))
	no := false
	p := schedule.Problem{Horizon: 14 * 1440, Travel: 10 * (1 + r.IntN(3)), Most: 2000}
	days := 5 + r.IntN(2)
	week := r.IntN(3)
	for c := range 3 {
		crew := schedule.Crew{ID: fmt.Sprint("crew ", c+1), People: 1 + c%2}
		own := weeks[week]
		if week == 2 { // the early shift has a late one beside it
			own = weeks[2+c%2]
		}
		for day := range 14 {
			if day%7 < days {
				for _, hours := range own {
					crew.Shifts = append(crew.Shifts, [2]int{day*1440 + hours[0], day*1440 + hours[1]})
				}
			}
		}
		p.Crews = append(p.Crews, crew)
	}
	main := r.IntN(len(ways))
	for a := range areas {
		way := main
		if r.IntN(3) == 0 { // most areas of a house are made one way
			way = r.IntN(len(ways))
		}
		outside, comes := r.IntN(6) == 0, r.IntN(6) == 0
		rain := 1440*(1+r.IntN(4)) + 60*r.IntN(24)
		for k, of := range ways[way] {
			s := schedule.Step{ID: fmt.Sprint(a, ".", k), Area: fmt.Sprint(a), Minutes: of.least + r.IntN(of.more), People: 1, Pauses: k == 0}
			if l := (schedule.Link{Before: fmt.Sprint(a, ".", k-1), After: s.ID, Least: of.waits}); k > 0 {
				if of.waitsMore > 0 {
					l.Least += r.IntN(of.waitsMore)
				}
				if of.latest > 0 {
					l.Latest = Whole(l.Least + of.latest)
				}
				p.Links = append(p.Links, l)
			}
			if k == tested {
				s.Hands = &no
			}
			if outside && k > 1 && k < 6 {
				s.Closed, s.ClosedAfter = [][2]int{{rain, rain + 600}}, 120
			}
			if comes && k == 3 {
				s.NotBefore = 1440 * (1 + r.IntN(2))
			}
			p.Steps = append(p.Steps, s)
		}
	}
	return p
}

// TryAll tries every crew for every step and every order on every crew, one after the other, with no choice of where to part: found
// is false where none is a plan. What is begun is let go of where its least starts already break a condition, or end later than
// the best so far.
func TryAll(p schedule.Problem) (end, sum int, found bool) {
	fixed := schedule.Fix(p)
	crews := make([]int, len(p.Steps))
	orders := make([][]int, len(p.Crews)) // on each crew, who comes when
	waits := map[[2]string]bool{}
	for _, l := range p.Links {
		if l.Anchor != "start" {
			waits[[2]string{l.Before, l.After}] = true
		}
	}
	// A step cannot stand before one that it waits for.
	backwards := func(order []int, at int) bool {
		for k, other := range order {
			a, b := p.Steps[order[at]].ID, p.Steps[other].ID
			if k < at && waits[[2]string{a, b}] || k > at && waits[[2]string{b, a}] {
				return true
			}
		}
		return false
	}
	for i := range crews {
		crews[i] = schedule.Undecided
		if !p.Steps[i].ByHands() {
			crews[i] = schedule.Nobody
		}
	}
	var place func(i int)
	place = func(i int) {
		var pairs [][2]int
		for _, list := range orders {
			for k := 1; k < len(list); k++ {
				pairs = append(pairs, [2]int{list[k-1], list[k]})
			}
		}
		latest, total, is := fixed.Ends(crews, pairs)
		if !is || found && latest > end {
			return
		}
		if i == len(p.Steps) {
			if !found || latest < end || latest == end && total < sum {
				end, sum, found = latest, total, true
			}
			return
		}
		if !p.Steps[i].ByHands() {
			place(i + 1)
			return
		}
		for c, crew := range p.Crews {
			if !crew.Can(p.Steps[i]) {
				continue
			}
			crews[i] = c
			was := orders[c]
			for at := range len(was) + 1 {
				own := append(append(append([]int{}, was[:at]...), i), was[at:]...)
				if !backwards(own, at) {
					orders[c] = own
					place(i + 1)
				}
			}
			orders[c] = was
		}
		crews[i] = schedule.Undecided
	}
	place(0)
	return end, sum, found
}
