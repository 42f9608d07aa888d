package mixing_test

import (
	"fmt"
	"math"
	"testing"

	"dusha/core/cure"
	"dusha/core/mixing"
)

func near(a, b float64) bool { return math.Abs(a-b) < 1e-9 }

func TestTheWorkIsCutIntoBatches(t *testing.T) {
	rows := []struct {
		name                  string
		need, greatest, least float64
		batches               []float64
		surplus               float64
	}{
		{"one batch is enough", 8, 10, 2, []float64{8}, 0},
		{"full batches and a rest", 25, 10, 2, []float64{10, 10, 5}, 0},
		{"an exact multiple leaves no rest", 30, 10, 2, []float64{10, 10, 10}, 0},
		{"a rest below the least is evened out with the one before it", 21, 10, 2, []float64{10, 5.5, 5.5}, 0},
		{"where evening out falls short the rest is raised", 11, 10, 6, []float64{10, 6}, 5},
		{"a need below the least batch is raised to it", 1, 10, 2, []float64{2}, 1},
		{"a float that should be whole counts as whole", 0.1 + 0.2, 0.1, 0.01, []float64{0.1, 0.1, 0.1}, 0},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			s := mixing.Plan(row.need, row.greatest, row.least)
			if !s.Feasible || len(s.Batches) != len(row.batches) {
				t.Fatalf("got %+v, want %v", s, row.batches)
			}
			for i := range row.batches {
				if !near(s.Batches[i], row.batches[i]) {
					t.Errorf("batch %d is %v kg, want %v", i+1, s.Batches[i], row.batches[i])
				}
			}
			if !near(s.Surplus, row.surplus) || !near(s.Total, row.need+row.surplus) {
				t.Errorf("total %v, surplus %v, want %v", s.Total, s.Surplus, row.surplus)
			}
		})
	}
	if s := mixing.Plan(10, 0, 2); s.Feasible || len(s.Batches) != 0 {
		t.Errorf("no batch can be laid in time, but %+v", s)
	}
	if s := mixing.Plan(0, 10, 2); !s.Feasible || len(s.Batches) != 0 {
		t.Errorf("nothing to mix: %+v", s)
	}
}

func TestKitsAreNotSplit(t *testing.T) {
	rows := []struct {
		name                string
		need, greatest, kit float64
		kits                int
		batches             []float64
	}{
		{"one kit a batch", 45, 25, 20, 3, []float64{20, 20, 20}},
		{"two kits a batch, the last one the rest", 95, 45, 20, 5, []float64{40, 40, 20}},
		{"no more than needed", 40, 20, 20, 2, []float64{20, 20}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			s := mixing.PlanKits(row.need, row.greatest, row.kit)
			if s.Kits != row.kits || fmt.Sprint(s.Batches) != fmt.Sprint(row.batches) {
				t.Errorf("got %+v, want %d kits in %v", s, row.kits, row.batches)
			}
		})
	}
	if s := mixing.PlanKits(40, 15, 20); s.Feasible {
		t.Errorf("a kit that cannot be laid in time was planned: %+v", s)
	}
}

// Whatever the need, the batches cover it, none is above the greatest, and none below the
// least unless the greatest is.
func TestBatchesCoverTheNeed(t *testing.T) {
	for need := 0.5; need < 60; need += 0.37 {
		for _, greatest := range []float64{6, 10, 14.5} {
			const least = 2.2
			s := mixing.Plan(need, greatest, least)
			sum := 0.0
			for _, batch := range s.Batches {
				sum += batch
				if batch > greatest+1e-9 || batch < least-1e-9 {
					t.Fatalf("need %v, greatest %v: batch of %v kg", need, greatest, batch)
				}
			}
			if sum < need-1e-9 || sum > need+least {
				t.Fatalf("need %v: batches of %v kg", need, sum)
			}
		}
	}
}

func TestPartsOfABatch(t *testing.T) {
	masses, volumes, err := mixing.Split(6.8, []mixing.Component{{Name: "liquid", Parts: 25}, {Name: "powder", Parts: 43}})
	if err != nil || !near(masses["liquid"], 2.5) || !near(masses["powder"], 4.3) || len(volumes) != 0 {
		t.Errorf("got %v, %v, %v", masses, volumes, err)
	}
	for name, components := range map[string][]mixing.Component{
		"no parts":           nil,
		"a part of zero":     {{Name: "liquid", Parts: 0}, {Name: "powder", Parts: 3}},
		"a negative part":    {{Name: "liquid", Parts: -1}, {Name: "powder", Parts: 3}},
		"volume, no density": {{Name: "a", Parts: 4, By: "volume"}, {Name: "b", Parts: 1, By: "volume", Density: 1}},
		"an empty inner mix": {{Name: "a", Parts: 1, Of: []mixing.Component{{Name: "water", Parts: 0}}}},
	} {
		if masses, _, err := mixing.Split(10, components); err == nil {
			t.Errorf("%s: got %v", name, masses)
		}
	}
}

func TestTheLeastBatchGrowsWithTheScalesStep(t *testing.T) {
	fine, err := mixing.Least(10, []float64{25, 43}, 2, false)
	if err != nil {
		t.Fatal(err)
	}
	coarse, _ := mixing.Least(20, []float64{25, 43}, 2, false)
	differences, _ := mixing.Least(10, []float64{25, 43}, 2, true)
	if !near(coarse, 2*fine) || !near(differences, 2*fine) {
		t.Errorf("10 g: %v, 20 g: %v, as differences: %v", fine, coarse, differences)
	}
	for name, wrong := range map[string]func() (float64, error){
		"one part":       func() (float64, error) { return mixing.Least(10, []float64{1}, 2, false) },
		"no tolerance":   func() (float64, error) { return mixing.Least(10, []float64{1, 3}, 0, false) },
		"a part of zero": func() (float64, error) { return mixing.Least(10, []float64{0, 3}, 2, false) },
	} {
		if least, err := wrong(); err == nil {
			t.Errorf("%s: got %v", name, least)
		}
	}
}

func TestWhatBoundsABatch(t *testing.T) {
	sheetLimit := 6.0
	base := mixing.Limits{PotLife: 55, Mixing: 4, Standing: 4, Walk: 2, CrewRate: 10, PerM2: 2, Bucket: 30, Density: 1.65}
	short, limited, small := base, base, base
	short.PotLife = 9
	limited.Sheet = &sheetLimit
	small.Bucket = 12
	rows := []struct {
		name    string
		limits  mixing.Limits
		batch   float64
		governs string
	}{
		{"time", base, 45.0 / 60 * 10 * 2, "time"},
		{"no usable time", short, 0, "time"},
		{"the bucket, 60 % full", small, 12 * 0.6 * 1.65, "bucket"},
		{"the sheet's own limit", limited, 6, "sheet"},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if g := row.limits.Greatest(); !near(g.Batch, row.batch) || g.Governs != row.governs {
				t.Errorf("got %+v, want %v by %s", g, row.batch, row.governs)
			}
		})
	}
}

func TestPotLifeGoesOnShorteningInHeat(t *testing.T) {
	table := cure.Table{Entries: []cure.Entry{{Temp: 10, Time: 90}, {Temp: 20, Time: 55}, {Temp: 30, Time: 32}}, DefaultE: cure.DefaultCementitious}
	last := math.Inf(1)
	for temp := 0.0; temp <= 45; temp += 2.5 {
		minutes, _, _, err := mixing.PotLife(table, temp)
		if err != nil || minutes >= last {
			t.Errorf("%v °C: %v min after %v: %v", temp, minutes, last, err)
		}
		last = minutes
	}
	if _, _, _, err := mixing.PotLife(cure.Table{}, 20); err == nil {
		t.Error("a pot life was read from an empty table")
	}
}

func TestTheScaleAndTheBucketAddUp(t *testing.T) {
	order := []mixing.Weighing{{Part: "a", Kind: "liquid", Volume: 1 / 1.03}, {Part: "b", Kind: "powder"}}
	weighed := mixing.Weigh(map[string]float64{"a": 2.5049, "b": 4.2951}, order, 20, 1.65)
	if !near(weighed[0].Mass, 2.50) || !near(weighed[1].Mass, 4.30) {
		t.Errorf("to 20 g: %v and %v kg", weighed[0].Mass, weighed[1].Mass)
	}
	if !near(weighed[1].Scale, 6.80) {
		t.Errorf("the scale shows %v, want both parts", weighed[1].Scale)
	}
	if !near(weighed[1].Reaches, 6.8/1.65) || !near(weighed[0].Reaches, 2.5049/1.03) {
		t.Errorf("levels %v and %v litres", weighed[0].Reaches, weighed[1].Reaches)
	}
}

func ExamplePlan() {
	s := mixing.Plan(43, 14, 3)
	fmt.Printf("%.1f kg in buckets of %.1f\n", s.Total, s.Batches)
	// Output: 43.0 kg in buckets of [14.0 14.0 7.5 7.5]
}
