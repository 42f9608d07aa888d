package main

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"

	"dusha/core/film"
	"dusha/core/watertest"
)

// Verdicts in worlds that are made up, seeded, and known: how often they are wrong.

const (
	testsAWorld = 2000
	filmsAWorld = 6000
	limitOfLoss = 0.05 // mm/h, r*
	evaporation = 0.08 // mm/h of the basin
	wrongAtMost = 0.05
	foundAtLeas = 0.90
)

// world is a basin and how it is read.
type world struct {
	name    string
	gauge   float64 // resolution, mm
	place   string  // of the pan; watertest.None: there is none
	panTo   float64 // the pan evaporates 1.0 to so many times the basin's
	scatter float64 // of a reader, mm
	swing   float64 // of evaporation over the day, share
	uptake  float64 // of the base, mm/√h
	rain    float64 // in one shower, mm
	noted   bool    // the rain is recorded
	deep    float64 // mm of water whose temperature swings by 1 K and is not logged
	planned bool    // the world is as it was planned: the promised leak is found
}

var worlds = []world{
	{name: "pan afloat, gauge 0.1 mm", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.03, planned: true},
	{name: "pan afloat, gauge 1 mm", gauge: 1, place: watertest.Afloat, panTo: 1, planned: true},
	{name: "pan afloat, scatter 0.2 mm", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.2},
	{name: "pan beside, 1.0 to 1.33 of the basin", gauge: 0.1, place: watertest.Beside, panTo: 1.33, scatter: 0.03},
	{name: "pan afloat, daily swing", gauge: 0.1, place: watertest.Afloat, panTo: 1.02, scatter: 0.03, swing: 0.6, planned: true},
	{name: "pool of 1.5 m, ±1 K, whole days", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.03, deep: 1500},
	{name: "a base that drinks", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.03, uptake: 1.5},
	{name: "3 mm of rain, recorded, with a pan", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.03, rain: 3, noted: true},
	{name: "3 mm of rain, unrecorded, with a pan", gauge: 0.1, place: watertest.Afloat, panTo: 1, scatter: 0.03, rain: 3},
	{name: "3 mm of rain, unrecorded, without a pan", gauge: 0.1, place: watertest.None, scatter: 0.03, rain: 3},
	{name: "no pan", gauge: 0.1, place: watertest.None, scatter: 0.03},
}

// hours that the form would plan, 24 at least; of deep water whole days from two on.
func (w world) hours() float64 {
	left := limitOfLoss - watertest.ShareOf(w.place)*evaporation
	hours := 24.0
	if d, err := (watertest.Plan{Resolution: w.gauge, Interval: 1, Tolerance: left}).Duration(); err == nil {
		hours = max(hours, d.Hours)
	}
	if w.deep > 0 {
		hours = max(48, math.Ceil(hours/24)*24)
	}
	return hours
}

// run is a test of the world with a leak.
func (w world) run(random *rand.Rand, leak float64) watertest.Test {
	hours := w.hours()
	t := watertest.Test{
		Water: watertest.Readings{Resolution: w.gauge}, RMax: limitOfLoss, Hold: 24, Planned: hours, Area: 4, Depth: 40, Evaporation: evaporation,
	}
	pan := watertest.Pan{Place: w.place, Readings: watertest.Readings{Resolution: w.gauge}}
	more := 1 + (w.panTo-1)*random.Float64()
	shower, phase := 1+random.IntN(int(hours)-2), 2*math.Pi*random.Float64()
	shown := func(level float64) float64 {
		return math.Round((level+w.scatter*random.NormFloat64())/w.gauge) * w.gauge
	}
	water, inPan := 80+random.Float64(), 50+random.Float64()
	for hour := 0; hour <= int(hours); hour++ {
		at := float64(hour)
		if hour > 0 {
			gone := evaporation * (1 + w.swing*math.Sin(2*math.Pi*at/24+phase))
			water -= gone + leak + w.uptake*(math.Sqrt(at)-math.Sqrt(at-1))
			inPan -= gone * more
		}
		if hour == shower {
			water, inPan = water+w.rain, inPan+w.rain*(0.9+0.2*random.Float64())
		}
		// Warm water stands higher: 1 K of 1.5 m by day, back by night.
		warm := w.deep * 2.1e-4 * math.Sin(2*math.Pi*at/24+phase)
		t.Water.Times, t.Water.Levels = append(t.Water.Times, at), append(t.Water.Levels, shown(water+warm))
		pan.Times, pan.Levels = append(pan.Times, at), append(pan.Levels, shown(inPan))
	}
	if w.place == watertest.None {
		if rises := t.Water.Rises(); len(rises) > 0 { // another run begins there
			from := rises[len(rises)-1]
			t.Water.Times, t.Water.Levels = t.Water.Times[from:], t.Water.Levels[from:]
		}
		return t
	}
	t.Pan = &pan
	if w.rain > 0 {
		rain, any := make([]float64, len(t.Water.Levels)), false
		for _, i := range t.Water.Rises() {
			rain[i], any = t.Water.Levels[i]-t.Water.Levels[i-1], true
		}
		if w.noted {
			rain[shower], any = max(rain[shower], w.rain), true
		}
		if any {
			t.Rain = rain
		}
	}
	return t
}

// rate counts verdicts over the tests of a world.
func (w world) rate(random *rand.Rand, leak float64, verdict string) (float64, float64) {
	count, least := 0, 0.0
	for range testsAWorld {
		j, _, _, err := w.run(random, leak).AsRead(false, w.run(random, 0).Water.Times)
		if err == nil && j.Verdict == verdict && !j.SoFar {
			count++
		}
		least += j.LeastDetectable / testsAWorld
	}
	return float64(count) / testsAWorld, least
}

// beyond tells whether a rate lies over a limit by more than chance: its 99.9 % bound does.
func beyond(rate, limit float64, n int) bool {
	const bound = 3.09
	return rate-bound*math.Sqrt(max(rate*(1-rate), 1e-4)/float64(n)) > limit
}

func verdicts() error {
	random := rand.New(rand.NewPCG(2026, 11))
	failed := 0
	say := func(bad bool, format string, args ...any) {
		mark := "  "
		if bad {
			mark, failed = "! ", failed+1
		}
		fmt.Printf(mark+format+"\n", args...)
	}
	fmt.Printf("Water tests, %d a world, at the planned end (holds on a leak and leaks on a tight basin: %.0f %% at most)\n", testsAWorld, 100*wrongAtMost)
	for _, w := range worlds {
		atLimit, least := w.rate(random, limitOfLoss, watertest.Holds)
		over, _ := w.rate(random, 1.2*limitOfLoss, watertest.Holds)
		tight, _ := w.rate(random, 0, watertest.Leaks)
		holds, _ := w.rate(random, 0, watertest.Holds)
		say(beyond(atLimit, wrongAtMost, testsAWorld) || beyond(over, wrongAtMost, testsAWorld) || beyond(tight, wrongAtMost, testsAWorld),
			"%-42s %3.0f h: holds on r* %.1f %%, on 1.2 r* %.1f %%; tight: leaks %.1f %%, holds %.0f %%", w.name, w.hours(), 100*atLimit, 100*over, 100*tight, 100*holds)
		if w.planned {
			found, _ := w.rate(random, least, watertest.Leaks)
			say(beyond(1-found, 1-foundAtLeas, testsAWorld), "    the promised leak of %.3f mm/h is found in %.1f %% (limit: %.0f %%)", least, 100*found, 100*foundAtLeas)
		}
	}
	films(random, say)
	if failed > 0 {
		return errors.New("a verdict is wrong more often than it may be")
	}
	return nil
}

// films judge seeded surfaces: how often one is said to be shown though more than a twentieth of it is
// under the least, and how often the statement is false.
func films(random *rand.Rand, say func(bool, string, ...any)) {
	fmt.Printf("Films, %d a world: shown where over 5 %% of it is under the least, and false statements (5 %% at most)\n", filmsAWorld)
	const target = 1.2
	for _, comb := range []float64{0.1, 0.2} {
		for _, n := range []int{5, 10, 20} {
			for _, scatter := range []float64{0.02, 0.05, 0.1, 0.2, 0.3} {
				least := 0.8 * target
				shown, wrong := 0, 0
				mean := target * 1.05
				under := 0.5 * math.Erfc((mean-least)/scatter/math.Sqrt2)
				for range filmsAWorld {
					var readings []film.Bracket
					for range n {
						wet := max(0.01, mean+scatter*random.NormFloat64())
						low := math.Floor(wet/comb) * comb
						high := low + comb
						readings = append(readings, film.Bracket{Lower: low, Upper: &high})
					}
					v := film.Judge(readings, film.Asked{Readings: n, Target: target, SheetLeast: &least})
					if v.Strength == film.Shown {
						shown++
					}
					if v.X != nil && mean-1.645*scatter < *v.X {
						wrong++
					}
				}
				limit := wrongAtMost
				fine := ""
				if scatter < 0.6*comb {
					limit, fine = 0.08, " (scatter under 0.6 of a tooth)"
				}
				falseRate := float64(wrong) / filmsAWorld
				bad := beyond(falseRate, limit, filmsAWorld)
				if under > 0.05 {
					bad = bad || beyond(float64(shown)/filmsAWorld, wrongAtMost, filmsAWorld)
				}
				say(bad, "comb %.1f, %2d places, scatter %.2f: shown %.1f %% (%.1f %% lies under the least), statement false %.1f %%%s",
					comb, n, scatter, 100*float64(shown)/filmsAWorld, 100*under, 100*falseRate, fine)
			}
		}
	}
}
