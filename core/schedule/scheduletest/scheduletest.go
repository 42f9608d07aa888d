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
				if r.IntN(5) == 0 {
					l.Anchor = "start"
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

// stages are those of a wet room in two coats: prepared, accepted, primed, banded, coated twice, accepted, tested, protected, signed.
var stages = []stage{
	{60, 60, 0, 0, 0}, {15, 1, 0, 0, 0}, {45, 30, 60, 60, 0}, {90, 60, 60, 60, 1440}, {90, 60, 240, 120, 0},
	{90, 60, 240, 240, 2160}, {15, 1, 0, 0, 0}, {1440, 1, 2880, 1, 0}, {45, 45, 0, 0, 0}, {15, 1, 0, 0, 0},
}

// tested is the stage that runs by itself: water stands.
const tested = 7

// House is some areas of ten steps in fourteen days, and three crews.
func House(seed uint64, areas int) schedule.Problem {
	r := rand.New(rand.NewPCG(seed, 9))
	no := false
	p := schedule.Problem{Horizon: 14 * 1440, Travel: 20, Most: 2000}
	for c := range 3 {
		crew := schedule.Crew{ID: fmt.Sprint("crew ", c+1), People: 1 + c%2}
		for day := range 14 {
			if day%7 < 6 {
				crew.Shifts = append(crew.Shifts, [2]int{day*1440 + 420, day*1440 + 720}, [2]int{day*1440 + 750, day*1440 + 960})
			}
		}
		p.Crews = append(p.Crews, crew)
	}
	for a := range areas {
		for k, of := range stages {
			s := schedule.Step{ID: fmt.Sprint(a, ".", k), Area: fmt.Sprint(a), Minutes: of.least + r.IntN(of.more), People: 1, Pauses: k == 0}
			l := schedule.Link{Before: fmt.Sprint(a, ".", k-1), After: s.ID, Least: of.waits}
			if of.waitsMore > 0 {
				l.Least += r.IntN(of.waitsMore)
			}
			if of.latest > 0 {
				l.Latest = Whole(l.Least + of.latest)
			}
			if k == tested {
				s.Hands = &no
			}
			p.Steps = append(p.Steps, s)
			if k > 0 {
				p.Links = append(p.Links, l)
			}
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
