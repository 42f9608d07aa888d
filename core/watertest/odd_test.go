package watertest_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"dusha/core/watertest"
)

// A step is a fall that scatter and rounding do not make; a base that drinks is none.
func TestAStepIsAStep(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	found, false_ := 0, 0
	for range 200 {
		test := basin(24, 1, 0.08, 0, 0.1)
		for i := range test.Water.Levels {
			test.Water.Levels[i] += 0.03 * random.NormFloat64()
		}
		if _, _, is := test.Step(); is {
			false_++
		}
		for i := range test.Water.Levels {
			if i >= 12 {
				test.Water.Levels[i] -= 1.2
			}
		}
		if place, fell, is := test.Step(); is && place == 12 && math.Abs(fell-1.2) < 0.2 {
			found++
		}
	}
	if found < 190 || false_ > 10 {
		t.Errorf("found %d of 200 steps of 1.2 mm, and %d where there was none", found, false_)
	}
	drinks := basin(30, 1, 0.08, 0, 0.1)
	for i, hour := range drinks.Water.Times {
		drinks.Water.Levels[i] -= 1.5 * math.Sqrt(hour)
	}
	if _, _, is := drinks.Step(); is {
		t.Error("a base that drinks is taken for a step")
	}
	if !drinks.Drinks() || basin(30, 1, 0.08, 0.2, 0.1).Drinks() {
		t.Error("a level that falls ever slower drinks, one that falls evenly does not")
	}
}

// More leak, even or by a step, never turns leaks into holds.
func TestMoreLeakNeverHolds(t *testing.T) {
	random := rand.New(rand.NewPCG(9, 10))
	for range 200 {
		less, more := basin(24, 1, 0.08, 0, 0.1), basin(24, 1, 0.08, 0, 0.1)
		loss, extra, at := 0.2*random.Float64(), 0.3*random.Float64(), 1+random.IntN(23)
		for i, hour := range less.Water.Times {
			noise := 0.05 * random.NormFloat64()
			less.Water.Levels[i] += noise - loss*hour
			more.Water.Levels[i] += noise - (loss+extra)*hour
			if i >= at {
				more.Water.Levels[i] -= extra
			}
		}
		if judge(t, less).Verdict == watertest.Leaks && judge(t, more).Verdict == watertest.Holds {
			t.Fatalf("a leak of %v holds at %v more", loss, extra)
		}
	}
}

// Rain that fell into both waters adds a quarter of its depth over the run's time to the doubt, and
// is taken out of the pan's own slope.
func TestRainReadTogetherAddsItsDoubt(t *testing.T) {
	dry, wet := basin(24, 1, 0.08, 0, 0.1), basin(24, 1, 0.08, 0, 0.1)
	wet.Rain = make([]float64, len(wet.Water.Levels))
	wet.Rain[10] = 3
	for i := 10; i < len(wet.Water.Levels); i++ {
		wet.Water.Levels[i] += 3
		wet.Pan.Levels[i] += 3
	}
	a, b := judge(t, dry), judge(t, wet)
	if want := a.Doubt + 0.25*3/24; math.Abs(b.Doubt-want) > 1e-9 || math.Abs(*a.PanSlope-*b.PanSlope) > 1e-9 || math.Abs(a.Loss-b.Loss) > 1e-9 {
		t.Errorf("doubt %v, want %v; pan %v and %v, loss %v and %v", b.Doubt, want, *a.PanSlope, *b.PanSlope, a.Loss, b.Loss)
	}
	wet.Pan = nil
	if _, err := wet.Judge(); err == nil {
		t.Error("rain without a pan was judged")
	}
	if rises := wet.Water.Rises(); len(rises) != 1 || rises[0] != 10 {
		t.Errorf("the level rose at %v", rises)
	}
}
