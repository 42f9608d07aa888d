package watertest_test

import (
	"math"
	"testing"

	"dusha/core/rules"
	"dusha/core/watertest"
	"dusha/core/wetarea"
)

// basin makes readings of test and pan at an interval: both lose evaporation, the test a
// leak besides, as a gauge of so many mm shows it.
func basin(hours, interval, evaporation, leak, resolution float64) watertest.Test {
	t := watertest.Test{
		Water: watertest.Readings{Resolution: resolution}, Pan: &watertest.Pan{Place: watertest.Afloat, Readings: watertest.Readings{Resolution: resolution}},
		RMax: 0.05, Hold: 24, Planned: 24, Area: 4,
	}
	shown := func(level float64) float64 { return math.Round(level/resolution) * resolution }
	for at := 0.0; at <= hours+1e-9; at += interval {
		t.Water.Times, t.Pan.Times = append(t.Water.Times, at), append(t.Pan.Times, at)
		t.Water.Levels = append(t.Water.Levels, shown(80-(evaporation+leak)*at))
		t.Pan.Levels = append(t.Pan.Levels, shown(50-evaporation*at))
	}
	return t
}

func judge(t *testing.T, test watertest.Test) watertest.Judged {
	t.Helper()
	j, err := test.Judge()
	if err != nil {
		t.Fatal(err)
	}
	return j
}

func TestTheVerdictOfAnInventedBasin(t *testing.T) {
	for name, c := range map[string]struct {
		test    watertest.Test
		verdict string
		soFar   bool
	}{
		"tight, a fine gauge":     {basin(24, 1, 0.08, 0, 0.1), watertest.Holds, false},
		"tight, before its end":   {basin(12, 1, 0.08, 0, 0.1), watertest.CannotTell, true},
		"leaking":                 {basin(24, 1, 0.08, 0.2, 0.1), watertest.Leaks, false},
		"leaking, early":          {basin(8, 0.5, 0.08, 1, 0.1), watertest.Leaks, true},
		"close to the limit":      {basin(24, 1, 0.08, 0.045, 0.1), watertest.CannotTell, false},
		"tight, read with a rule": {basin(24, 1, 0.08, 0, 1), watertest.CannotTell, false},
		"it gained water":         {basin(24, 1, 0.3, -0.2, 0.1), watertest.CannotTell, false},
	} {
		if j := judge(t, c.test); j.Verdict != c.verdict || j.SoFar != c.soFar {
			t.Errorf("%s: %s, so far %v, between %.4f and %.4f; want %s, %v", name, j.Verdict, j.SoFar, j.Lower, j.Upper, c.verdict, c.soFar)
		}
	}
}

func TestTheLossIsFoundAndItsDoubtShrinksWithTime(t *testing.T) {
	j := judge(t, basin(24, 1, 0.08, 0.2, 0.001))
	if j.Method != "paired" || math.Abs(j.Loss-0.2) > 1e-3 {
		t.Errorf("%s: %v mm/h, want 0.2", j.Method, j.Loss)
	}
	if want := j.Loss * 4; math.Abs(j.LeakLitres-want) > 1e-9 {
		t.Errorf("%v litres an hour over 4 m², want %v", j.LeakLitres, want)
	}
	if !(j.Lower < j.Loss && j.Loss < j.Upper) || j.LeastDetectable <= 0.05 {
		t.Errorf("between %v and %v, least detectable %v", j.Lower, j.Upper, j.LeastDetectable)
	}
	short, long := judge(t, basin(24, 1, 0.08, 0, 0.1)), judge(t, basin(48, 1, 0.08, 0, 0.1))
	if !(long.SE < short.SE) {
		t.Errorf("doubt of 48 h %v, of 24 h %v", long.SE, short.SE)
	}
	// Reading more often must not shrink the doubt below what the gauge rounds off.
	often, seldom := judge(t, basin(24, 0.05, 0.08, 0, 0.1)), judge(t, basin(24, 2, 0.08, 0, 0.1))
	if floor := math.Sqrt2 * 0.6 * 0.1 / 24; often.SE < floor-1e-12 || seldom.SE < floor-1e-12 {
		t.Errorf("doubt %v and %v, under the gauge's own %v", often.SE, seldom.SE, floor)
	}
	before := judge(t, basin(20, 1, 0.08, 0, 0.1))
	if before.Confidence != 0.99 || short.Confidence != 0.95 {
		t.Errorf("confidence %v before the end and %v at it", before.Confidence, short.Confidence)
	}
}

func TestAPanBesideAddsItsDoubt(t *testing.T) {
	afloat, beside := basin(24, 1, 0.3, 0, 0.1), basin(24, 1, 0.3, 0, 0.1)
	beside.Pan.Place = watertest.Beside
	a, b := judge(t, afloat), judge(t, beside)
	if math.Abs(a.Doubt-0.05*0.3) > 2e-3 || math.Abs(b.Doubt-0.25*0.3) > 2e-3 || b.Verdict != watertest.CannotTell {
		t.Errorf("doubt afloat %v, beside %v (%s)", a.Doubt, b.Doubt, b.Verdict)
	}
	apart := basin(24, 1, 0.08, 0, 0.1)
	for i := range apart.Pan.Times {
		apart.Pan.Times[i] += 0.25
	}
	if j := judge(t, apart); j.Method != "apart" || j.SE < judge(t, basin(24, 1, 0.08, 0, 0.1)).SE-1e-12 {
		t.Errorf("read a quarter of an hour apart: %s, doubt %v", j.Method, j.SE)
	}
	alone := basin(24, 1, 0.08, 0, 0.1)
	alone.Pan, alone.Evaporation = nil, 0.08
	if j := judge(t, alone); j.Method != "no pan" || !j.Weaker || math.Abs(j.Doubt-0.3*0.08) > 1e-12 {
		t.Errorf("without a pan: %s, weaker %v, doubt %v", j.Method, j.Weaker, j.Doubt)
	}
}

func TestWaterOutsideGoesBeforeAllLevels(t *testing.T) {
	test := basin(24, 1, 0.08, 0, 0.1)
	test.VisibleWater = true
	if j := judge(t, test); j.Verdict != watertest.Leaks {
		t.Errorf("wet outside: %s", j.Verdict)
	}
	for name, spoil := range map[string]func(*watertest.Test){
		"two readings":         func(b *watertest.Test) { *b = basin(1, 1, 0.08, 0, 0.1) },
		"a tolerance of 0":     func(b *watertest.Test) { b.RMax = 0 },
		"no gauge":             func(b *watertest.Test) { b.Water.Resolution = 0 },
		"times that run back":  func(b *watertest.Test) { b.Water.Times[3] = 1 },
		"a level that is none": func(b *watertest.Test) { b.Water.Levels[2] = math.NaN() },
		"a level too few":      func(b *watertest.Test) { b.Pan.Levels = b.Pan.Levels[1:] },
	} {
		test := basin(24, 1, 0.08, 0, 0.1)
		spoil(&test)
		if _, err := test.Judge(); err == nil {
			t.Errorf("%s was judged", name)
		}
	}
}

func TestHowLongATestMustRun(t *testing.T) {
	plan := watertest.Plan{Resolution: 0.1, Interval: 1, Tolerance: 0.05}
	d, err := plan.Duration()
	if err != nil {
		t.Fatal(err)
	}
	if d.Need > plan.Tolerance || d.NeedOneFewer == nil || *d.NeedOneFewer <= plan.Tolerance {
		t.Errorf("%d readings tell %v, one fewer %v, of %v", d.Readings, d.Need, d.NeedOneFewer, plan.Tolerance)
	}
	for name, better := range map[string]watertest.Plan{
		"a finer gauge": {Resolution: 0.05, Interval: 1, Tolerance: 0.05}, "a wider tolerance": {Resolution: 0.1, Interval: 1, Tolerance: 0.1},
	} {
		if b, err := better.Duration(); err != nil || b.Hours >= d.Hours {
			t.Errorf("%s takes %v h, the other %v", name, b.Hours, d.Hours)
		}
	}
	g, err := plan.GaugeFor(24, []float64{1, 0.1, 0.05, 0.02})
	if err != nil || g.Listed == nil {
		t.Fatalf("no gauge for a day: %+v, %v", g, err)
	}
	within, err := watertest.Plan{Resolution: *g.Listed, Interval: 1, Tolerance: 0.05}.Duration()
	if err != nil || within.Hours > 24 {
		t.Errorf("the gauge for a day takes %v h", within.Hours)
	}
	for _, bad := range []watertest.Plan{{Resolution: 0.1, Interval: 1}, {Interval: 1, Tolerance: 0.05}, {Resolution: 0.1, Tolerance: 0.05}, {Resolution: 0.1, Interval: 1, Tolerance: math.NaN()}} {
		if _, err := bad.Duration(); err == nil {
			t.Errorf("%+v has a duration", bad)
		}
	}
}

func TestLoadAndWater(t *testing.T) {
	if got := watertest.Load(100); math.Abs(got-0.981) > 1e-9 {
		t.Errorf("100 mm weigh %v kPa, want 0.981", got)
	}
	if got := watertest.LoadMass(100); got != 100 {
		t.Errorf("100 mm are %v kg/m², want 100", got)
	}
	if cold, warm := watertest.Density(4), watertest.Density(25); !(cold > 999.9 && cold < 1000.1 && warm < cold && math.Abs(warm-997.05) < 0.1) {
		t.Errorf("water weighs %v at 4 °C and %v at 25 °C", cold, warm)
	}
	for dof, want := range map[float64]float64{1: 6.314, 10: 1.812, 23: 1.714} {
		if got := watertest.Quantile(0.95, dof); math.Abs(got-want) > 5e-4 {
			t.Errorf("t at 95 %% and %v: %v, want %v", dof, got, want)
		}
	}
	tank, err := watertest.FillTank(4*1500, 4, 1500, 20, 50)
	if err != nil || tank.Volume != 6000 || tank.Flow != 200 || tank.Hours != 30 || !tank.ByRate || math.Abs(tank.Pressure-14.715) > 1e-9 {
		t.Errorf("a tank filled by 50 mm an hour: %+v, %v", tank, err)
	}
	if quick, _ := watertest.FillTank(4*1500, 4, 1500, 2, 50); quick.ByRate || quick.Hours != 50 {
		t.Errorf("a tank filled by a thin tap: %+v", quick)
	}
	if _, err := watertest.FillTank(4*1500, 4, 1500, 0, 50); err == nil {
		t.Error("a tank filled by no tap")
	}
}

// On an L-shaped floor the water's way to a drain behind the corner goes round it; against a sum over
// a fine grid.
func TestAFloorBehindACornerStandsHigher(t *testing.T) {
	const wide, leg, cell = 3000.0, 1000.0, 10.0
	corner, drain := wetarea.Point{leg, leg}, wetarea.Point{2800, 300}
	between := func(a, b wetarea.Point) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }
	farthest, integral, area := 0.0, 0.0, 0.0
	way := func(p wetarea.Point) float64 {
		if p[1] > leg { // seen from the drain only below the corner
			if at := drain[1] + (p[1]-drain[1])*(drain[0]-leg)/(drain[0]-p[0]); at > leg {
				return between(p, corner) + between(corner, drain)
			}
		}
		return between(p, drain)
	}
	for x := cell / 2; x < wide; x += cell {
		for y := cell / 2; y < wide; y += cell {
			if x < leg || y < leg {
				area += cell * cell
				integral += way(wetarea.Point{x, y}) * cell * cell
			}
		}
	}
	for _, p := range []wetarea.Point{{0, wide}, {leg, wide}} {
		farthest = max(farthest, way(p))
	}
	const slope, depth = 80.0, 40.0
	want := (area*(farthest/slope+depth) - integral/slope) * 1e-6
	floor := watertest.Floor{Vertices: []wetarea.Point{{0, 0}, {wide, 0}, {wide, leg}, {leg, leg}, {leg, wide}, {0, wide}}, Drain: &drain, Slope: slope, Depth: depth, Tap: 10}
	fill, err := floor.Fill()
	if err != nil || math.Abs(fill.Volume-want) > want*1e-4 {
		t.Errorf("%v L, %v; want %v", fill.Volume, err, want)
	}
	if want := watertest.Load(farthest/slope + depth); math.Abs(fill.GreatestLoad-want) > 1e-9 {
		t.Errorf("%v kPa, want %v", fill.GreatestLoad, want)
	}
}

// Two outlets share a floor: each half fills like a floor of its own.
func TestEveryOutletCounts(t *testing.T) {
	room := func(length float64, drains ...wetarea.Point) wetarea.Area {
		a := wetarea.Area{}
		a.Room.Vertices = []wetarea.Point{{0, 0}, {length, 0}, {length, 2000}, {0, 2000}}
		for _, at := range drains {
			a.Penetrations = append(a.Penetrations, wetarea.Penetration{Kind: "point_drain", Surface: "floor", At: at})
		}
		return a
	}
	fill := func(a wetarea.Area) float64 {
		asked := watertest.Ask(a, rules.Generic(), 0, typed(map[string]string{"falls": "20"}))
		if asked.Fill == nil {
			t.Fatal(asked.Form.Faults())
		}
		return asked.Fill.Volume
	}
	both, half, one := fill(room(4000, wetarea.Point{1000, 1000}, wetarea.Point{3000, 1000})), fill(room(2000, wetarea.Point{1000, 1000})), fill(room(4000, wetarea.Point{1000, 1000}))
	if math.Abs(both-2*half) > 1e-6 || math.Abs(one-both) < 1 {
		t.Errorf("%v L with both, %v a half, %v with one", both, half, one)
	}
}
