package cutting_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"dusha/core/cutting"
	"dusha/core/cutting/everyway"
	"dusha/core/fault"
)

func bands(roll int, lengths ...int) cutting.Bands {
	b := cutting.Bands{Roll: roll, Lap: 100, LeastPiece: 300, JoinClear: 300}
	for _, length := range lengths {
		b.Runs = append(b.Runs, cutting.Run{Length: length})
	}
	return b
}

// solved gives the plan of some runs, after the checker has seen it.
func solved(t *testing.T, b cutting.Bands, steps int) cutting.Cut {
	t.Helper()
	cut, err := b.Solve(steps, nil)
	if err != nil {
		t.Fatalf("%+v: %v", b, err)
	}
	if err := cutting.Check(b, cut.Plan); err != nil {
		t.Fatalf("%+v: %v in %+v", b, err, cut.Plan)
	}
	if got := cutting.Measure(b, cut.Plan); got != cut.Measured {
		t.Fatalf("%+v: the plan comes to %+v, %+v is said", b, got, cut.Measured)
	}
	if cut.Rolls < cut.Bound {
		t.Fatalf("%+v: %d rolls under the bound of %d", b, cut.Rolls, cut.Bound)
	}
	return cut
}

func ExampleBands_Solve() {
	// Three walls of 6 m from rolls of 10 m: one join saves the third roll.
	cut, err := bands(10000, 6000, 6000, 6000).Solve(1000, nil)
	fmt.Println(cut.Rolls, "rolls,", cut.Joins, "join,", cut.Longest, "mm left in one length", err)
	// Output: 2 rolls, 1 join, 1900 mm left in one length <nil>
}

// random runs on a grid of 100 mm, so that every possible plan can be tried on it.
func random(r *rand.Rand, most int) cutting.Bands {
	b := bands(1500 + 100*r.IntN(20))
	if r.IntN(4) == 0 {
		b.Lap, b.LeastPiece = 200, 400
	}
	for range 2 + r.IntN(most-1) {
		run := cutting.Run{Length: 300 + 100*r.IntN(b.Roll/100), Whole: r.IntN(12) == 0}
		if r.IntN(12) == 0 && !run.Whole {
			run.Length += 100 * r.IntN(15)
		}
		if r.IntN(3) == 0 {
			run.KeepClear = append(run.KeepClear, 100*r.IntN(run.Length/100))
		}
		run.Length = min(run.Length, b.Roll+1500*flag(!run.Whole))
		b.Runs = append(b.Runs, run)
	}
	return b
}

func flag(is bool) int {
	if is {
		return 1
	}
	return 0
}

// Against every plan there is: rolls, joins and the longest rest are the best.
func TestNoPlanIsBetter(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 11))
	compared, joined := 0, 0
	for range 300 {
		b := random(r, 5)
		if r.IntN(3) == 0 {
			b.Offcuts = []int{300 + 100*r.IntN(20)}
		}
		cut, err := b.Solve(300_000, nil)
		if err != nil {
			continue // a run that cannot be joined where it has to be: see TestRunsThatCannotBe
		}
		solved(t, b, 300_000)
		if cut.From != nil {
			t.Fatalf("%+v is not searched to the end", b)
		}
		const mostTried = 2
		if cut.Joins > mostTried {
			continue
		}
		for joins := 0; joins <= mostTried; joins++ {
			rolls := everyway.Rolls(b, joins)
			switch {
			case rolls >= 0 && (rolls < cut.Rolls || rolls == cut.Rolls && joins < cut.Joins):
				t.Fatalf("%+v: %d rolls with %d joins, solved to %+v", b, rolls, joins, cut.Measured)
			case joins == cut.Joins && rolls != cut.Rolls:
				t.Fatalf("%+v: %d rolls with %d joins, solved to %+v", b, rolls, joins, cut.Measured)
			case joins == cut.Joins && len(b.Offcuts) == 0:
				if longest := everyway.Longest(b, joins, rolls); longest != cut.Longest {
					t.Fatalf("%+v: a rest of %d, solved to %+v", b, longest, cut.Measured)
				}
			}
		}
		compared, joined = compared+1, joined+flag(cut.Joins > 0)
	}
	if compared < 200 || joined < 40 {
		t.Errorf("only %d compared, %d of them with joins", compared, joined)
	}
}

// Runs in another order, or with another mix of offcuts, are no worse.
func TestOrderAndOffcuts(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	for range 60 {
		b := random(r, 9)
		cut, err := b.Solve(200_000, nil)
		if err != nil {
			continue
		}
		turned := b
		turned.Runs = slices.Clone(b.Runs)
		r.Shuffle(len(turned.Runs), func(i, j int) { turned.Runs[i], turned.Runs[j] = turned.Runs[j], turned.Runs[i] })
		if again := solved(t, turned, 200_000); again.Rolls != cut.Rolls || again.Joins != cut.Joins || again.Longest != cut.Longest {
			t.Errorf("%+v: %+v, in another order %+v", b, cut.Measured, again.Measured)
		}
		more := b
		more.Offcuts = []int{300 + 100*r.IntN(15)}
		if with := solved(t, more, 200_000); with.Rolls > cut.Rolls {
			t.Errorf("%+v: %d rolls, with an offcut of %v %d", b, cut.Rolls, more.Offcuts, with.Rolls)
		}
	}
}

// A search that goes on in small steps comes to the same as one in a single go.
func TestGoingOn(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 1))
	const few = 40
	went := 0
	for range 40 {
		b := random(r, 6)
		whole, err := b.Solve(1_000_000, nil)
		if err != nil {
			continue
		}
		cut, err := b.Solve(few, nil)
		for range 20_000 {
			if err != nil {
				t.Fatal(err)
			}
			if cut.From == nil {
				break
			}
			went++
			text, _ := json.Marshal(cut.From) // as it travels
			var from cutting.From
			if err := json.Unmarshal(text, &from); err != nil {
				t.Fatal(err)
			}
			cut, err = b.Solve(few, &from)
		}
		if cut.Measured != whole.Measured || cut.Proven != whole.Proven {
			t.Errorf("%+v: %+v %+v, in small steps %+v %+v", b, whole.Measured, whole.Proven, cut.Measured, cut.Proven)
		}
	}
	if went < 20 {
		t.Errorf("only %d times was there anything left to go on with", went)
	}
}

func TestTheBound(t *testing.T) {
	for _, row := range []struct {
		name string
		b    cutting.Bands
		want int
	}{
		{"laps that a long run cannot do without", bands(10000, 19950), 3},
		{"a run that just fits with one lap", bands(10000, 19900), 2},
		{"offcuts give all", cutting.Bands{Roll: 5000, Lap: 100, LeastPiece: 300, JoinClear: 300, Runs: []cutting.Run{{Length: 900}}, Offcuts: []int{1000}}, 0},
		{"nothing but a short piece", bands(10000, 200), 1},
	} {
		if got := row.b.Bound(); got != row.want {
			t.Errorf("%s: %d, wanted %d", row.name, got, row.want)
		}
	}
}

// Only two narrow places are free, 140 to 260 mm apart: two joins with a piece of 300 mm between.
func TestAPieceBetweenTwoJoins(t *testing.T) {
	b := cutting.Bands{Roll: 1000, Lap: 100, LeastPiece: 300, JoinClear: 20, Runs: []cutting.Run{{Length: 2000}}}
	for at := 40; at <= 820; at += 130 {
		b.Runs[0].KeepClear = append(b.Runs[0].KeepClear, at, 2000-at+60)
	}
	b.Runs[0].KeepClear = append(b.Runs[0].KeepClear, 820, 1020, 1220)
	cut := solved(t, b, 10_000)
	if cut.Joins != 2 || cut.Rolls != 3 || !cut.Proven.Joins {
		t.Errorf("%+v", cut)
	}
	b.LeastPiece = 370
	if _, err := b.Solve(1000, nil); len(fault.Of(err)) == 0 || fault.Of(err)[0].Key != "cutting.no_join_permitted" {
		t.Errorf("a piece of 370 mm does not fit between: %v", err)
	}
}

// What has not been looked at is not called proven.
func TestNothingIsProvenWithoutASearch(t *testing.T) {
	b := bands(5000, 4750, 4750, 400) // two rolls would do but for the rule of 300 mm
	cut := solved(t, b, 0)
	if cut.Rolls != 3 || cut.Proven != (cutting.Proven{}) || cut.From == nil {
		t.Errorf("without a step: %+v", cut)
	}
	if cut = solved(t, b, 1000); cut.Proven != (cutting.Proven{Rolls: true, Joins: true, Longest: true}) || cut.From != nil {
		t.Errorf("after the search: %+v", cut)
	}
}

// A search goes on only with what it gave itself.
func TestGoingOnWithSomethingElse(t *testing.T) {
	b := bands(5000, 4750, 4750, 400)
	good := solved(t, b, 0).From
	for name, change := range map[string]func(*cutting.From){
		"a plan of other runs":      func(f *cutting.From) { f.Best = solved(t, bands(5000, 4750, 4750), 0).Plan },
		"more rolls than the plan":  func(f *cutting.From) { f.Levels[0].Rolls = 1 << 30 },
		"joins beyond number":       func(f *cutting.From) { f.Levels[0].Joins = 1 << 30 },
		"fewer joins than none":     func(f *cutting.From) { f.Levels[0].Joins = -1 },
		"a choice before the first": func(f *cutting.From) { f.Levels[0].Trail = []int{-1} },
	} {
		from := cutting.From{Best: good.Best, Levels: slices.Clone(good.Levels)}
		change(&from)
		if _, err := b.Solve(100, &from); len(fault.Of(err)) == 0 {
			t.Errorf("%s: let pass", name)
		}
	}
}

// Hundreds of long runs are still laid at once, and the plan holds.
func TestHundredsOfRuns(t *testing.T) {
	b := bands(1_000_000)
	for i := range 600 {
		b.Runs = append(b.Runs, cutting.Run{Length: 300_000 + 997*i})
	}
	cut := solved(t, b, 0)
	if cut.Rolls > cut.Bound+5 {
		t.Errorf("%d rolls, %d at least", cut.Rolls, cut.Bound)
	}
}

func TestRunsThatCannotBe(t *testing.T) {
	rows := []struct {
		name, field, key string
		change           func(*cutting.Bands)
	}{
		{"a lap as long as the roll", "lap_mm", "cutting.lap_longer_than_roll", func(b *cutting.Bands) { b.Lap = b.Roll }},
		{"a lap below nothing", "lap_mm", "cutting.lap_longer_than_roll", func(b *cutting.Bands) { b.Lap = -1 }},
		{"a roll shorter than the least piece", "roll_mm", "cutting.roll_shorter_than_piece", func(b *cutting.Bands) { b.Roll = 399 }},
		{"a roll of nothing", "roll_mm", "cutting.roll_out_of_range", func(b *cutting.Bands) { b.Roll = 0 }},
		{"a least piece below nothing", "min_piece_mm", "number.not_positive", func(b *cutting.Bands) { b.LeastPiece = -5 }},
		{"no run", "runs", "list.empty", func(b *cutting.Bands) { b.Runs = nil }},
		{"10,000 runs", "runs", "cutting.too_many_runs", func(b *cutting.Bands) { b.Runs = slices.Repeat(b.Runs, 5000) }},
		{"a run of a thousand scraps", "runs", "cutting.too_many_joins", func(b *cutting.Bands) { *b = cutting.Bands{Roll: 10, Runs: []cutting.Run{{Length: 10_000}}} }},
		{"pieces beyond number", "runs", "cutting.too_many_runs", func(b *cutting.Bands) { b.Runs = slices.Repeat([]cutting.Run{{Length: 500_000}}, 30) }},
		{"a run of no length", "runs", "cutting.run_out_of_range", func(b *cutting.Bands) { b.Runs[1].Length = 0 }},
		{"an offcut of no length", "offcuts_mm", "cutting.roll_out_of_range", func(b *cutting.Bands) { b.Offcuts = []int{0} }},
		{"a whole piece longer than the roll", "runs", "cutting.no_join_permitted", func(b *cutting.Bands) { b.Runs[0] = cutting.Run{Length: 5001, Whole: true} }},
		{"pipes wherever a join could be", "runs", "cutting.no_join_permitted", func(b *cutting.Bands) {
			b.Runs[1] = cutting.Run{Length: 5400}
			for at := 500; at < 5400; at += 500 {
				b.Runs[1].KeepClear = append(b.Runs[1].KeepClear, at)
			}
		}},
	}
	for _, row := range rows {
		b := bands(5000, 2000, 3000)
		row.change(&b)
		_, err := b.Solve(1000, nil)
		faults := fault.Of(err)
		if len(faults) != 1 || faults[0].Field != row.field || faults[0].Key != row.key {
			t.Errorf("%s: %v, wanted %s of %s", row.name, err, row.key, row.field)
		}
	}
	if _, err := bands(5000, 2000).Solve(-1, nil); len(fault.Of(err)) != 1 || fault.Of(err)[0].Field != "steps" {
		t.Errorf("steps below none: %v", err)
	}
}

// The checker finds every way in which a good plan can be spoilt.
func TestTheCheckerFinds(t *testing.T) {
	b := bands(5000, 4000, 4000, 1500)
	b.Runs[0].KeepClear, b.Offcuts = []int{600}, []int{1600}
	good := func() []cutting.Roll {
		return []cutting.Roll{
			{Offcut: 0, Length: 1600, Pieces: []cutting.Piece{{Run: 2, From: 0, To: 1500}}, Rest: 100},
			{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 0, From: 0, To: 3000}, {Run: 1, From: 2100, To: 4000}}, Rest: 100},
			{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 0, From: 2900, To: 4000}, {Run: 1, From: 0, To: 2200}}, Rest: 1700},
		}
	}
	if err := cutting.Check(b, good()); err != nil {
		t.Fatal(err)
	}
	if m := cutting.Measure(b, good()); m != (cutting.Measured{Rolls: 2, Joins: 2, Longest: 1700}) {
		t.Errorf("the good plan comes to %+v", m)
	}
	rows := []struct {
		what  string
		spoil func(r []cutting.Roll, b *cutting.Bands) []cutting.Roll
	}{
		{"no_such_offcut", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[0].Offcut = 1; return r }},
		{"offcut_twice", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { return append(r, r[0]) }},
		{"roll_length", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[1].Length = 6000; return r }},
		{"roll_length", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[0].Length = 5000; return r }},
		{"no_such_run", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[0].Pieces[0].Run = 3; return r }},
		{"empty_piece", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[0].Pieces[0].To = 0; return r }},
		{"overfull", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll {
			r[1].Pieces = append(r[1].Pieces, cutting.Piece{Run: 2, From: 0, To: 1500})
			return r[1:]
		}},
		{"rest", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { r[1].Rest = 99; return r }},
		{"not_covered", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll { return r[1:] }},
		{"not_covered", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll {
			r[0].Pieces[0].To, r[0].Rest = 1490, 110
			return r
		}},
		{"lap", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll {
			r[1].Pieces[0].To, r[1].Rest = 2999, 101
			return r
		}},
		{"lap", func(r []cutting.Roll, _ *cutting.Bands) []cutting.Roll {
			r[2].Pieces[1].To, r[2].Rest = 2210, 1690
			return r
		}},
		{"join_at_end", func(r []cutting.Roll, b *cutting.Bands) []cutting.Roll { b.JoinClear = 1100; return r }},
		{"join_at_penetration", func(r []cutting.Roll, b *cutting.Bands) []cutting.Roll { b.Runs[1].KeepClear = []int{2499}; return r }},
		{"joined", func(r []cutting.Roll, b *cutting.Bands) []cutting.Roll { b.Runs[1].Whole = true; return r }},
		{"short_piece", func(r []cutting.Roll, b *cutting.Bands) []cutting.Roll {
			b.LeastPiece = 800
			r[2].Pieces[0] = cutting.Piece{Run: 0, From: 3300, To: 4000}
			r[2].Rest += 400
			return append(r, cutting.Roll{Offcut: -1, Length: 5000, Pieces: []cutting.Piece{{Run: 0, From: 2900, To: 3400}}, Rest: 4500})
		}},
	}
	for _, row := range rows {
		asked := b
		asked.Runs = slices.Clone(b.Runs)
		spoilt := row.spoil(good(), &asked)
		faults := fault.Of(cutting.Check(asked, spoilt))
		if len(faults) != 1 || faults[0].Key != "cutting.wrong."+row.what {
			t.Errorf("spoilt by %s: %v", row.what, faults)
		}
	}
}

// Whatever plan is made up, the checker lets through only what covers every mm of every run, and
// no more of a roll than it has.
func FuzzCheck(f *testing.F) {
	f.Add([]byte{0, 30, 40, 1, 0, 20, 2, 10, 50}, uint8(50))
	f.Add([]byte{0, 0, 40, 1, 0, 40, 0, 29, 40, 1, 0, 30}, uint8(50))
	f.Fuzz(func(t *testing.T, cuts []byte, size uint8) {
		b := bands(100*int(size), 4000, 3000)
		var rolls []cutting.Roll
		for i := 0; i+2 < len(cuts); i += 3 {
			p := cutting.Piece{Run: int(cuts[i] % 4), From: 100 * int(cuts[i+1]), To: 100 * int(cuts[i+2])}
			if cuts[i]&4 == 0 || len(rolls) == 0 {
				rolls = append(rolls, cutting.Roll{Offcut: -1, Length: b.Roll, Rest: b.Roll})
			}
			last := &rolls[len(rolls)-1]
			last.Pieces, last.Rest = append(last.Pieces, p), last.Rest-p.Length()
		}
		if cutting.Check(b, rolls) != nil {
			return
		}
		covered := [][]int{make([]int, 40), make([]int, 30)} // by 100 mm: how many pieces lie there
		for _, roll := range rolls {
			sum := 0
			for _, p := range roll.Pieces {
				sum += p.Length()
				for at := p.From; at < p.To; at += 100 {
					covered[p.Run][at/100]++
				}
			}
			if sum > b.Roll {
				t.Fatalf("%+v: %d mm from a roll of %d", rolls, sum, b.Roll)
			}
		}
		for _, run := range covered {
			for i, n := range run {
				if n == 0 || n > 2 || n == 2 && (i < 3 || i >= len(run)-3) {
					t.Fatalf("%+v: %d pieces lie at %d mm", rolls, n, 100*i)
				}
			}
		}
	})
}

// The plan's own figures say what its rolls say; the JSON of a plan reads back as it was.
func TestPlanTravels(t *testing.T) {
	cut := solved(t, bands(6000, 3400, 3300, 3200, 1700, 1600, 1500, 1400, 1300), 10_000)
	text, err := json.Marshal(cut)
	var back cutting.Cut
	if err != nil || json.Unmarshal(text, &back) != nil || !reflect.DeepEqual(cut, back) {
		t.Errorf("%+v came back as %+v: %v", cut, back, err)
	}
}
