package site_test

import (
	"math"
	"testing"

	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
)

// Before a system is kept it is held against an area, beside the one it was made of: what it takes more, how many steps and
// how long; what cannot be laid is said of it alone.
func TestASystemIsTriedOnAnAreaBeforeItIsKept(t *testing.T) {
	c := newCrew(t)
	c.do([]string{"place", "L-shaped", "room", "with", "niche,", "window", "and", "bench"})
	c.do([]string{"base", "concrete"})
	c.survey()
	base := system.Samples()[0]
	more, err := base.Revise([]system.Act{{Does: "coats", Layer: "film", Coats: 3}})
	if err != nil {
		t.Fatal(err)
	}
	broken := base
	broken.Layers = nil
	trials, err := c.site.TrySystems(dayArea, []system.System{base, more, broken})
	if err != nil || len(trials) != 3 {
		t.Fatal(err, trials)
	}
	was, now := trials[0], trials[1]
	if was.Fault != nil || now.Fault != nil {
		t.Fatalf("%+v %+v", was.Fault, now.Fault)
	}
	if trials[2].Fault == nil || trials[2].Fault.Key != "system.no_layer" {
		t.Errorf("a system of no layer: %+v", trials[2].Fault)
	}
	if now.Steps != was.Steps+2 || now.Holds != was.Holds+1 { // a coat, and its hold
		t.Errorf("%d steps and %d holds, %d and %d before", now.Steps, now.Holds, was.Steps, was.Holds)
	}
	// by hand: base, details, two coats, cure, test and hand-over are signed
	if was.Holds != 7 {
		t.Errorf("%d holds", was.Holds)
	}
	kg := func(trial site.Trial) (sum float64) {
		for _, take := range trial.Takes {
			if take.Need != nil && take.Name == "Two-part flexible cementitious" && take.Unit == "kg" {
				sum += *take.Need
			}
		}
		return sum
	}
	film, _ := sheet.Sample("sample.flexible_cementitious")
	if kg(was) == 0 {
		for _, take := range was.Takes {
			t.Logf("%+v", take)
		}
		t.Fatalf("%s is not among what it takes", film.Name)
	}
	// by hand: the film's two coats are 2/3 of its three; the bands' bed is in both
	third := kg(now) - kg(was)
	if beds := kg(was) - 2*third; beds < 0 || beds > 0.5*kg(was) {
		t.Errorf("%.2f kg, %.2f before", kg(now), kg(was))
	}
	if was.Whole == nil || now.Whole == nil || !(*now.Whole > *was.Whole) || *was.Whole < *was.Hours+24-1 || math.Abs(*now.Whole-*was.Whole-(*now.Hours-*was.Hours)) > 0.01 {
		t.Errorf("first to last %v and %v h, until the test %v and %v", *was.Whole, *now.Whole, *was.Hours, *now.Hours)
	}
	if was.Hours == nil || now.Hours == nil || !(*now.Hours > *was.Hours) || was.Cost == nil || !(*now.Cost > *was.Cost) || math.IsNaN(*now.Hours) {
		t.Errorf("hours %v %v, cost %v %v", was.Hours, now.Hours, was.Cost, now.Cost)
	}
	if _, err := c.site.TrySystems("019cb000-0000-7000-8000-00000000a1eb", []system.System{base}); err == nil {
		t.Error("an area that nobody measured")
	}
}
