package takeoff_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"dusha/core/takeoff"
)

// byHand tries every choice of packs.
func byHand(need int, packs []takeoff.Pack) (best takeoff.Choice) {
	counts := make([]int, len(packs))
	var walk func(i, bought, cost, number int)
	walk = func(i, bought, cost, number int) {
		if i == len(packs) {
			better := cost < best.Cost || cost == best.Cost && (bought < best.Bought || bought == best.Bought && number < best.Packs)
			if bought >= need && (!best.Feasible || better) {
				best = takeoff.Choice{Feasible: true, Counts: slices.Clone(counts), Cost: cost, Bought: bought, Leftover: bought - need, Packs: number}
			}
			return
		}
		most := need/packs[i].Size + 1
		if packs[i].Available != nil {
			most = min(most, *packs[i].Available)
		}
		for counts[i] = 0; counts[i] <= most; counts[i]++ {
			walk(i+1, bought+counts[i]*packs[i].Size, cost+counts[i]*packs[i].Price, number+counts[i])
		}
		counts[i] = 0
	}
	walk(0, 0, 0, 0)
	return best
}

func TestPacksAgainstEveryChoice(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 8))
	for round := range 400 {
		packs := make([]takeoff.Pack, 1+r.IntN(3))
		for i := range packs {
			packs[i] = takeoff.Pack{Size: 100 * (1 + r.IntN(12)), Price: 50 * (1 + r.IntN(30))}
			if r.IntN(2) == 0 {
				left := r.IntN(6)
				packs[i].Available = &left
			}
		}
		need := 1 + r.IntN(6000)
		got, err := takeoff.ChoosePacks(need, packs)
		if err != nil {
			t.Fatal(err)
		}
		want := byHand(need, packs)
		if got.Feasible != want.Feasible || got.Cost != want.Cost || got.Leftover != want.Leftover || got.Packs != want.Packs {
			t.Fatalf("round %d, need %d of %+v: %+v, every choice gives %+v", round, need, packs, got, want)
		}
	}
}

func TestPacksThatCannotBe(t *testing.T) {
	for name, c := range map[string]struct {
		need  int
		packs []takeoff.Pack
	}{
		"a pack of 0 g":    {100, []takeoff.Pack{{Size: 0, Price: 10}}},
		"a negative price": {100, []takeoff.Pack{{Size: 10, Price: -1}}},
		"no packs":         {100, nil},
		"no need":          {0, []takeoff.Pack{{Size: 10, Price: 1}}},
		"a tonne by grams": {1_000_000, []takeoff.Pack{{Size: 1, Price: 1}}},
	} {
		if _, err := takeoff.ChoosePacks(c.need, c.packs); err == nil {
			t.Errorf("%s is taken", name)
		}
	}
}

func TestAFilletOnASquareCornerIsTheUsualOne(t *testing.T) {
	round, err := takeoff.Section{Section: "concave", Radius: 20, Angle: 90, Length: 1}.Measure()
	if err != nil || math.Abs(round.Section-400*(1-math.Pi/4)) > 1e-9 {
		t.Errorf("%+v, %v", round, err)
	}
	// Flatter corners take less in the curve and the same or less in the triangle.
	flat, _ := takeoff.Section{Section: "concave", Radius: 20, Angle: 150, Length: 1}.Measure()
	if flat.Section >= round.Section {
		t.Errorf("150° takes %.1f mm², 90° %.1f", flat.Section, round.Section)
	}
	for _, bad := range []takeoff.Section{{Section: "triangle", Leg: 20, Angle: 200, Length: 1}, {Section: "triangle", Leg: 20}, {Section: "star", Leg: 20, Length: 1}, {Section: "bead", Width: 0, Depth: 6, Length: 1}} {
		if _, err := bad.Measure(); err == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
}
