package main

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"time"

	"dusha/core/cutting"
	"dusha/core/cutting/everyway"
)

const (
	cuttingTasks = 50
	cuttingSteps = 2_000_000
	mostCutRuns  = 60
)

// cuttingSet are tasks of 6 to 60 runs from rolls of 5 to 50 m, pipes here and there, some runs
// longer than the roll. The seed is fixed: it is the same set each time.
func cuttingSet() []cutting.Bands {
	r := rand.New(rand.NewPCG(50, mostCutRuns))
	var set []cutting.Bands
	for i := range cuttingTasks {
		roll := []int{5000, 10000, 20000, 50000}[r.IntN(4)]
		b := cutting.Bands{Roll: roll, Lap: 100, LeastPiece: 300, JoinClear: 300}
		for range 6 + i*(mostCutRuns-6)/(cuttingTasks-1) {
			run := cutting.Run{Length: 250 + r.IntN(min(roll, 6000)*6/5)}
			for r.IntN(4) == 0 {
				run.KeepClear = append(run.KeepClear, r.IntN(run.Length))
			}
			b.Runs = append(b.Runs, run)
		}
		set = append(set, b)
	}
	return set
}

// cuttings counts what is proven of the set, and compares joins with every plan there is on tasks
// small enough for that.
func cuttings() error {
	fmt.Printf("Bands of %d tasks up to %d runs, %d steps each\n", cuttingTasks, mostCutRuns, cuttingSteps)
	least, joins, over := 0, 0, 0
	bySize := map[int][]float64{}
	for i, b := range cuttingSet() {
		begin := time.Now()
		cut, err := b.Solve(cuttingSteps, nil)
		if err != nil {
			return fmt.Errorf("task %d: %w", i, err)
		}
		const step = 15
		size := (len(b.Runs) + step - 1) / step * step
		bySize[size] = append(bySize[size], time.Since(begin).Seconds())
		if err := cutting.Check(b, cut.Plan); err != nil {
			return fmt.Errorf("task %d: %w", i, err)
		}
		if cut.Rolls == cut.Bound || cut.Proven.Rolls {
			least++
		}
		if cut.Proven.Joins {
			joins++
		}
		if over = max(over, cut.Rolls-cut.Bound); over > 1 {
			fmt.Printf("  task %d: %d rolls over the bound\n", i, over)
		}
	}
	fmt.Printf("  rolls equal to the bound or proven least: %d of %d; the others at most %d over; joins proven least: %d\n", least, cuttingTasks, over, joins)
	for _, size := range []int{15, 30, 45, 60} {
		fmt.Printf("  for orientation: up to %d runs %.2f s (longest %.2f s)\n", size, quantile(bySize[size], 0.5), quantile(bySize[size], 1))
	}
	return everyJoin()
}

// everyJoin holds joins of tasks of 6 to 12 runs against every plan with fewer.
func everyJoin() error {
	r := rand.New(rand.NewPCG(12, 12))
	compared, joined, skipped := 0, 0, 0
	begin := time.Now()
	for i := range 40 {
		b := cutting.Bands{Roll: everyway.Grid * (20 + r.IntN(15)), Lap: 100, LeastPiece: 300, JoinClear: 300}
		for range 6 + i%7 {
			b.Runs = append(b.Runs, cutting.Run{Length: everyway.Grid * (4 + r.IntN(b.Roll/everyway.Grid-4))})
		}
		cut, err := b.Solve(cuttingSteps, nil)
		if err != nil {
			return err
		}
		const mostTried = 2 // every plan with two joins less one is tried in seconds, with more in hours
		if cut.Joins > mostTried {
			skipped++
			continue
		}
		if !cut.Proven.Joins {
			return fmt.Errorf("%d runs: joins are not proven", len(b.Runs))
		}
		for joins := range cut.Joins {
			if rolls := everyway.Rolls(b, joins); rolls >= 0 && rolls <= cut.Rolls {
				return fmt.Errorf("%+v: %d rolls with %d joins, solved to %+v", b, rolls, joins, cut.Measured)
			}
		}
		compared++
		if cut.Joins > 0 {
			joined++
		}
	}
	fmt.Printf("  joins of 6 to 12 runs against every plan with fewer: %d equal, %d of them with joins; %d with more joins than can be tried (%.1f s)\n", compared, joined, skipped, time.Since(begin).Seconds())
	return nil
}

// writeCuttingSet gives the tasks to what measures them in the page.
func writeCuttingSet() error { return json.NewEncoder(os.Stdout).Encode(cuttingSet()) }
