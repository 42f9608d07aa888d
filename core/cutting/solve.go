package cutting

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"dusha/core/fault"
)

// Cut is the best plan found so far, and what is known of it.
type Cut struct {
	Measured
	Bound  int    `json:"lower_bound_rolls"`
	Plan   []Roll `json:"plan"`
	Proven Proven `json:"proven"`
	Steps  int    `json:"steps"` // taken so far
	From   *From  `json:"from"`  // where to go on; null: nothing is left to look at
}

// Proven tells what no plan can better.
type Proven struct {
	Rolls   bool `json:"rolls"`
	Joins   bool `json:"joins"`
	Longest bool `json:"longest_offcut"`
}

// From is where a search stopped.
type From struct {
	Best   []Roll  `json:"best"`
	Levels []Level `json:"levels"`
	Steps  int     `json:"steps"`
}

// Level is a number of rolls and joins that has not been looked through yet, with the choices
// that lead to where its search stopped.
type Level struct {
	Rolls   int   `json:"rolls"`
	Joins   int   `json:"joins"`
	Trail   []int `json:"trail"`
	Partial bool  `json:"partial,omitempty"` // it cannot be looked through wholly
}

// MostSteps is how many steps one call takes at most.
const MostSteps = 5_000_000

// many runs are more than one area has: a plan for them is made in fewer tries.
const many = 60

// slice is how long one level is looked at before the next has its turn, in steps.
const slice = 20_000

// Solve looks for the plan with the fewest new rolls, then the fewest joins, then the longest
// single rest on a roll, within a number of steps; it can be asked to go on from where it stopped.
// Plans are equal for equal runs, in whatever order they are given.
func (b Bands) Solve(steps int, from *From) (Cut, error) {
	t, err := b.task()
	if err != nil {
		return Cut{}, err
	}
	if steps < 0 || steps > MostSteps {
		return Cut{}, fault.At("steps", "number.too_large", "value", steps, "most", MostSteps)
	}
	var best []Roll
	var levels []Level
	taken := 0
	if from != nil {
		if err := t.checkFrom(b, *from); err != nil {
			return Cut{}, err
		}
		best, levels, taken = from.Best, slices.Clone(from.Levels), from.Steps
	} else {
		best = t.first(false)
		levels = t.levels(Measure(b, best))
	}
	best, levels, done := t.look(best, levels, steps)
	cut := Cut{Measured: Measure(b, best), Bound: b.Bound(), Plan: best, Steps: taken + done}
	if err := Check(b, best); err != nil {
		return Cut{}, err
	}
	cut.Proven = proven(cut.Measured, levels)
	if slices.ContainsFunc(levels, func(l Level) bool { return !l.Partial }) {
		cut.From = &From{Best: best, Levels: levels, Steps: cut.Steps}
	}
	return cut, nil
}

// Rolls is a number of new rolls that surely serves all runs: the least where it is quickly seen,
// seldom more than that. Nothing is searched.
func (b Bands) Rolls() (int, error) {
	t, err := b.task()
	if err != nil {
		return 0, err
	}
	return Measure(b, t.first(true)).Rolls, nil
}

// task makes the runs ready, or says what cannot be cut.
func (b Bands) task() (*task, error) {
	if err := b.check(); err != nil {
		return nil, err
	}
	t := newTask(b)
	for k, least := range t.least {
		if least < 0 {
			return nil, fault.At("runs", "cutting.no_join_permitted", "run", t.order[k]+1, "length", t.Runs[k].Length, "roll", b.longest())
		}
	}
	if pieces := len(t.Runs) + t.forced; pieces > mostPieces {
		return nil, fault.At("runs", "cutting.too_many_runs", "value", pieces, "most", mostPieces)
	}
	return t, nil
}

// checkFrom refuses where to go on when it cannot be of these runs: the plan does not fit them, or a
// level lies beyond what that plan comes to.
func (t *task) checkFrom(b Bands, from From) error {
	if err := Check(b, from.Best); err != nil {
		return err
	}
	reached := Measure(b, from.Best)
	for _, l := range from.Levels {
		beyond := l.Rolls < 0 || l.Rolls > reached.Rolls || l.Joins < 0 || l.Joins > t.mostLevel()
		if beyond || slices.ContainsFunc(l.Trail, func(choice int) bool { return choice < 0 }) {
			return fault.At("from", "cutting.not_of_these_runs")
		}
	}
	return nil
}

// mostLevel is up to how many joins plans are looked for.
func (t *task) mostLevel() int {
	const more = 200
	return t.forced + more
}

// mostFirst bounds the work on the first plan, in runs looked at for a roll: a storey's bands take
// a tenth of it.
const mostFirst = 10_000_000

// first is a plan that is quickly had. Where only its rolls are asked for, it ends at the least
// number there can be.
func (t *task) first(rollsOnly bool) []Roll {
	best, _ := greedy{task: t, spare: 1}.plan(-1)
	reached := Measure(t.Bands, best)
	tries, fewTries := 120, 24
	if len(t.Runs) > many {
		tries, fewTries = 8, 4
		if rollsOnly {
			tries = 2
		}
	}
	work := 0
	for rolls := t.bound(); rolls <= reached.Rolls; rolls++ {
		for try := range tries {
			if reached.Rolls == rolls && (rollsOnly || try >= fewTries) {
				break
			}
			if work += rolls * len(t.Runs); work > mostFirst {
				return best
			}
			g := greedy{task: t, spare: []float64{1, 0.5, 0.2, 0}[try%4], strict: try%8 >= 4}
			if try >= 4 {
				g.chance = rand.New(rand.NewPCG(uint64(rolls), uint64(try)))
			}
			plan, found := g.plan(rolls)
			if found && Measure(t.Bands, plan).better(reached) {
				best, reached = plan, Measure(t.Bands, plan)
			}
		}
	}
	return best
}

// bound is the least number of new rolls, with the joins that the rules force.
func (t *task) bound() int {
	sum := t.sum + t.forced*t.Lap
	for _, length := range t.Offcuts {
		sum -= length
	}
	return ceilDiv(sum, t.Roll)
}

// mostLevels is how many are looked through; an area has dozens.
const mostLevels = 1500

// levels are all numbers of rolls and joins up to those of a plan, fewest first.
func (t *task) levels(m Measured) []Level {
	var list []Level
	for rolls := t.bound(); rolls <= m.Rolls; rolls++ {
		room := rolls*t.Roll - t.sum
		for _, length := range t.Offcuts {
			room += length
		}
		most := m.Joins
		if rolls < m.Rolls {
			most = mostLength // a plan that saves a roll may take any number of joins
			if t.Lap > 0 {
				most = room / t.Lap
			}
		}
		for joins := t.forced; joins <= min(most, t.mostLevel()); joins++ {
			if len(list) == mostLevels { // what lies beyond is not looked through: nothing is proven
				return append(list, Level{Rolls: rolls, Joins: joins, Partial: true})
			}
			list = append(list, Level{Rolls: rolls, Joins: joins, Partial: joins == t.mostLevel() && joins < most})
		}
	}
	return list
}

// look goes through the levels in turn, a slice of steps each, until they are done or the steps
// are. A level that gives a plan puts an end to those above it.
func (t *task) look(best []Roll, levels []Level, steps int) ([]Roll, []Level, int) {
	done := 0
	searches := map[[2]int]*search{}
	for turn := 0; done < steps; turn++ {
		open := slices.IndexFunc(levels, func(l Level) bool { return !l.Partial })
		if open < 0 {
			break
		}
		k := turn % len(levels)
		level := levels[k]
		if level.Partial {
			continue
		}
		key := [2]int{level.Rolls, level.Joins}
		s := searches[key]
		if s == nil {
			s = t.search(level.Rolls, level.Joins)
			searches[key] = s
		}
		reached := Measure(t.Bands, best)
		if level.Rolls == reached.Rolls && level.Joins == reached.Joins {
			s.best = max(s.best, reached.Longest)
			s.enough = s.best >= s.greatest
		}
		before := s.steps
		over := s.run(min(slice, steps-done), level.Trail)
		const usual = 32
		done += max(1, s.steps-before) + len(levels)/usual
		levels[k].Trail = slices.Clone(s.trail)
		if s.found != nil {
			if m := Measure(t.Bands, s.found); m.better(reached) {
				best, reached = s.found, m
			}
			s.found = nil
		}
		if over {
			levels[k].Trail = nil
			if levels[k].Partial = s.partial && !s.enough; !levels[k].Partial {
				levels = slices.Delete(levels, k, k+1)
			}
		}
		levels = slices.DeleteFunc(levels, func(l Level) bool {
			return cmp.Or(cmp.Compare(l.Rolls, reached.Rolls), cmp.Compare(l.Joins, reached.Joins)) > 0
		})
	}
	return best, levels, done
}

// proven tells what the levels that are left still leave open.
func proven(m Measured, left []Level) Proven {
	p := Proven{true, true, true}
	for _, l := range left {
		switch {
		case l.Rolls < m.Rolls:
			p = Proven{}
		case l.Joins < m.Joins:
			p.Joins, p.Longest = false, false
		default:
			p.Longest = false
		}
	}
	return p
}
