package main

import (
	"fmt"
	"slices"
	"time"

	"dusha/core/schedule"
	"dusha/core/schedule/scheduletest"
	"dusha/core/site"
	"dusha/demo"
)

// How much is searched: small problems against every order, houses of twelve areas, and from few areas to many.
const (
	smallCases  = 200
	houseCases  = 10
	houseNodes  = 200_000
	houseSlices = 20_000 // nodes between two looks at the clock
	houseTime   = 12 * time.Second
)

// scheduling measures the plan of the days: what it finds against every order by hand, how near it comes in a whole house, how
// long a first plan takes after one more entry, and how that grows.
func scheduling() error {
	fmt.Println("Plan of the days: 200 problems of 3 areas by 3 steps and 2 crews, against every crew and order")
	same, begun := 0, time.Now()
	for seed := range uint64(smallCases) {
		p := scheduletest.Made(seed)
		plan, err := schedule.Solve(p)
		if err != nil {
			return err
		}
		end, sum, is := scheduletest.TryAll(p)
		if !plan.Proven || is != plan.Found || is && (end != *plan.End || sum != *plan.Sum) {
			return fmt.Errorf("seed %d: every order gives %v %d %d, the search %+v", seed, is, end, sum, plan)
		}
		same++
	}
	fmt.Printf("  %d of %d alike, %.0f s\n", same, smallCases, time.Since(begun).Seconds())

	fmt.Println("Ten houses of 12 areas by 10 steps, 14 days, 3 crews: end, bound and gap, up to 200,000 nodes or 12 s each (limit: 10 % in the median)")
	var gaps []float64
	for seed := uint64(0); len(gaps) < houseCases; seed++ {
		p := scheduletest.House(seed, 12)
		p.Most = 0
		first, err := schedule.Solve(p)
		if err != nil {
			return err
		}
		best, from := first, first.From
		for begun := time.Now(); from != nil && best.Nodes < houseNodes && time.Since(begun) < houseTime; from = best.From {
			p.Most, p.From = houseSlices, from
			if best, err = schedule.Solve(p); err != nil {
				return err
			}
		}
		if !best.Found { // some week's hours hold no plan of 14 days
			fmt.Printf("  %2d: no plan within 14 days after %d nodes (none at all: %v), not counted\n", seed, best.Nodes, best.Proven)
			continue
		}
		if first.Found && *best.End > *first.End {
			return fmt.Errorf("house %d ends %d, its first plan %d", seed, *best.End, *first.End)
		}
		gap := float64(*best.End-*best.Bound) / float64(*best.End)
		gaps = append(gaps, gap)
		fmt.Printf("  %2d: end %d (first %s), bound %d, gap %.1f %%, %d nodes\n", seed, *best.End, said(first), *best.Bound, 100*gap, best.Nodes)
	}
	slices.Sort(gaps)
	fmt.Printf("  median gap %.1f %%\n", 100*(gaps[len(gaps)/2]+gaps[(len(gaps)-1)/2])/2)

	fmt.Println("A first good plan of a house, from few areas to many")
	for _, areas := range []int{2, 5, 10, 15, 20} {
		var times []float64
		for seed := range uint64(5) {
			p := scheduletest.House(seed, areas)
			p.Horizon, p.Most = 40*1440, 0
			begun := time.Now()
			if _, err := schedule.Solve(p); err != nil {
				return err
			}
			times = append(times, 1000*time.Since(begun).Seconds())
		}
		slices.Sort(times)
		fmt.Printf("  %2d areas: %.1f ms (%.1f to %.1f)\n", areas, times[2], times[0], times[4])
	}
	return replanning()
}

func said(p schedule.Plan) string {
	if !p.Found {
		return "none"
	}
	return fmt.Sprint(*p.End)
}

// replanning measures a first plan of the made-up job after one more entry.
func replanning() error {
	now := time.Now().UTC()
	made, err := demo.Make(now, 1)
	if err != nil {
		return err
	}
	var midnights []time.Time
	for d := range 29 {
		midnights = append(midnights, time.Date(now.Year(), now.Month(), now.Day()+d, 0, 0, 0, 0, time.UTC))
	}
	s := site.Read(made.Entries)
	var times []float64
	for n := range 11 {
		text := fmt.Sprintf(`{"id":"019cb000-0000-7000-8000-%012d","jobId":%q,"areaId":%q,"kind":"step.timed","at":%q,"by":%q,"body":{"step":"coat_2","minutes":%d}}`,
			n+1, made.ID, made.Areas["shower1"], now.Format(time.RFC3339), made.Named["lead"], 60+5*n)
		begun := time.Now()
		s.Add([][]byte{[]byte(text)})
		if _, err := s.Days(site.Asked{Now: now, Midnights: midnights}); err != nil {
			return err
		}
		times = append(times, 1000*time.Since(begun).Seconds())
	}
	slices.Sort(times)
	fmt.Printf("Plan of the made-up job after one more entry (limit: 200 ms)\n  %.1f ms (%.1f to %.1f)\n", times[5], times[0], times[10])
	return nil
}
