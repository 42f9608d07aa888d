package film_test

import (
	"math"
	"slices"
	"testing"

	"dusha/core/film"
)

func several(n int, lower, upper float64) []film.Bracket {
	return slices.Repeat([]film.Bracket{bracket(lower, upper)}, n)
}

func TestTheVerdictOnAFilm(t *testing.T) {
	greatest, own := 1.6, 0.7
	allWet := film.Bracket{Lower: 1.6}
	asked := film.Asked{Readings: 4, Target: 1.2, Greatest: &greatest}
	for name, c := range map[string]struct {
		readings []film.Bracket
		asked    film.Asked
		says     string
		over     bool
	}{
		"enough":                          {several(4, 1.2, 1.3), asked, film.Enough, false},
		"the mean is the target":          {several(4, 1.1, 1.3), asked, film.Enough, false},
		"the mean is short":               {several(4, 1.1, 1.2), asked, film.Thin, false},
		"one reading below 80 %":          {append(several(4, 1.4, 1.5), bracket(0.9, 1.0)), asked, film.Thin, false},
		"one at 80 %":                     {append(several(4, 1.4, 1.5), bracket(0.96, 1.0)), asked, film.Enough, false},
		"the sheet's own least is lower":  {append(several(4, 1.4, 1.5), bracket(0.9, 1.0)), film.Asked{Readings: 4, Target: 1.2, SheetLeast: &own}, film.Enough, false},
		"too few, however good":           {several(3, 1.2, 1.3), asked, film.TooFew, false},
		"over the greatest":               {append(several(3, 1.2, 1.3), bracket(1.6, 1.8)), asked, film.Thick, true},
		"all wet is over the greatest":    {append(several(4, 1.2, 1.3), allWet), asked, film.Thick, true},
		"thick here and thin there: both": {append(several(4, 0.8, 0.9), bracket(1.7, 1.8)), asked, film.Thin, true},
		"no reading at all":               {nil, film.Asked{Target: 1.2}, film.TooFew, false},
	} {
		v := film.Judge(c.readings, c.asked)
		if v.Says != c.says || v.Over != c.over {
			t.Errorf("%s: %s, over %v; want %s, %v", name, v.Says, v.Over, c.says, c.over)
		}
	}
	if v := film.Judge(append(several(4, 0.8, 0.9), bracket(1.7, 1.8)), asked); v.Accepted {
		t.Error("thick beside thin is accepted")
	}
}

func TestALayerOnASkinnedOneIsRaisedByWhatLiesBelow(t *testing.T) {
	asked := film.Asked{Readings: 4, Target: 1.2}
	v := film.JudgeLayers([][]film.Bracket{several(4, 0.8, 1.0), several(4, 0.4, 0.6)}, asked)
	if v.Says != film.Enough || math.Abs(*v.Mean-1.4) > 1e-9 || math.Abs(*v.Least-1.2) > 1e-9 {
		t.Errorf("0.9 and 0.5 mm: %s, mean %v, least %v", v.Says, *v.Mean, *v.Least)
	}
	if v := film.JudgeLayers([][]film.Bracket{several(4, 0.8, 1.0), nil}, asked); v.Says != film.Thin {
		t.Errorf("a layer without readings proves something: %s", v.Says)
	}
}

// Factors of Natrella's approximation; the exact ones of ISO 16269-6 lie close above.
func TestTheToleranceFactor(t *testing.T) {
	for n, exact := range map[int]float64{10: 2.911, 20: 2.396, 50: 2.065, 100: 1.927} {
		got := film.Factor(n, 0.95, 0.95)
		if got > exact+0.01 || got < exact-0.1 {
			t.Errorf("n = %d: %.3f, want close under %.3f", n, got, exact)
		}
	}
	v := film.Judge(several(10, 1.2, 1.3), film.Asked{Target: 1.2})
	if v.X == nil || math.Abs(*v.SUsed-0.1/math.Sqrt(12)) > 1e-9 || math.Abs(*v.X-(1.25-*v.K**v.SUsed)) > 1e-9 {
		t.Errorf("equal readings prove an equal film: s %v, x %v", v.SUsed, v.X)
	}
	if v := film.Judge(several(4, 1.2, 1.3), film.Asked{Target: 1.2}); v.K != nil {
		t.Error("four readings make a statement")
	}
	if v := film.Judge(append(several(5, 0.1, 0.2), bracket(2.4, 2.6)), film.Asked{Target: 0.2}); v.K == nil || v.X != nil {
		t.Errorf("a film that may be below 0 has a statement: %v", v.X)
	}
}

func TestHowMuchMoreToLay(t *testing.T) {
	wall := film.Deficient{Area: 3, Predicted: 0.9, State: film.Wet}
	asked := film.Missing{Minimum: 1.2, DryToWet: 0.6, LeastCoat: 0.8, Density: 1.5}
	for name, c := range map[string]struct {
		change func(*film.Deficient)
		extra  float64
		area   float64
		part   string
	}{
		"wet: just what is missing":    {func(*film.Deficient) {}, 0.5, 3, "whole"},
		"skinned: no less than a coat": {func(d *film.Deficient) { d.State = film.Skinned }, 0.8, 3, "whole"},
		"the mapped part alone":        {func(d *film.Deficient) { part := 1.2; d.Mapped = &part }, 0.5, 1.2, "mapped"},
		"enough already":               {func(d *film.Deficient) { d.Predicted = 1.2 }, 0, 0, ""},
	} {
		d := wall
		c.change(&d)
		up, err := film.TopUpFor(d, asked)
		if err != nil || math.Abs(up.ExtraWet-c.extra) > 1e-9 || math.Abs(up.Kg-c.area*c.extra*1.5) > 1e-9 || (up.Part == nil) != (c.part == "") || up.Part != nil && *up.Part != c.part {
			t.Errorf("%s: %+v, %v", name, up, err)
		}
	}
	asked.DryToWet = 0
	if _, err := film.TopUpFor(wall, asked); err == nil {
		t.Error("a film that dries to nothing can be topped up")
	}
}

func TestTheMassUsedAgainstTheReadings(t *testing.T) {
	used := film.Used{Kg: 20, Leftover: 1, Waste: 0.5, Area: 10, Density: 1.5, Texture: 0.1, FirstCoat: true, GaugeMean: 1.15}
	c, err := used.Check()
	if err != nil || math.Abs(c.FromMass-(18.5/15-0.1)) > 1e-9 || c.AsksWhy {
		t.Errorf("%+v, %v", c, err)
	}
	used.FirstCoat = false
	if c, _ = used.Check(); math.Abs(c.FromMass-18.5/15) > 1e-9 {
		t.Errorf("a second coat fills texture: %v", c.FromMass)
	}
	used.GaugeMean = 1.0
	if c, _ = used.Check(); !c.AsksWhy {
		t.Errorf("%.0f %% off asks nothing", c.Difference)
	}
	used.Area = 0
	if _, err := used.Check(); err == nil {
		t.Error("no area is compared")
	}
}

func TestHowManyReadings(t *testing.T) {
	if c := film.ReadingsFor([]float64{4.3, 12.1}, []float64{1000, 6100}, 1); !slices.Equal(c.PerGroup, []int{5, 13}) || !slices.Equal(c.PerJunction, []int{1, 3}) || c.Total != 22 {
		t.Errorf("%+v", c)
	}
	for _, areas := range [][]float64{{0.3, 0.2, 0.3}, {5.04, 3.78, 0.45, 3.78}, {2}} {
		whole, sum := 0.0, 0
		for _, area := range areas {
			whole += area
		}
		for i, n := range film.Share(areas, 1) {
			sum += n
			if float64(n) < areas[i] {
				t.Errorf("%v m² get %d readings", areas[i], n)
			}
		}
		if least := film.ReadingsFor([]float64{whole}, nil, 1).Total; sum < least {
			t.Errorf("%v: %d readings in all, want %d", areas, sum, least)
		}
	}
}

// A place reaches 1.2 m, farther where the rule asks for fewer readings.
func TestHowFarAPlaceReaches(t *testing.T) {
	for perM2, want := range map[float64]float64{1: 1200, 4: 1200, 0.25: 2400, 0: 1200} {
		if got := film.Reach(perM2); math.Abs(got-want) > 1e-9 {
			t.Errorf("%v a m²: %v mm, want %v", perM2, got, want)
		}
	}
}
