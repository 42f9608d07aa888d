package takeoff_test

import (
	"maps"
	"math"
	"slices"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

func listsOf(t *testing.T, name string, change ...func(*takeoff.Inputs)) map[string]takeoff.CutList {
	t.Helper()
	in := inputs(t)
	in.Built = systemtest.Built("sample." + name)
	for _, c := range change {
		c(&in)
	}
	plan, err := takeoff.MakePlan(in)
	if err != nil {
		t.Fatal(err)
	}
	lists := map[string]takeoff.CutList{}
	for _, l := range plan.Cuts {
		if l.Fault != nil {
			t.Errorf("%s: %v", l.Role, l.Fault)
		}
		if len(l.Wants) != len(l.Bands.Runs) {
			t.Errorf("%s: %d wants, %d runs", l.Role, len(l.Wants), len(l.Bands.Runs))
		}
		numbers := map[int]bool{}
		for i, w := range l.Wants {
			if numbers[w.Number] {
				t.Errorf("%s: two pieces %d", l.Role, w.Number)
			}
			numbers[w.Number] = true
			if float64(l.Bands.Runs[i].Length) != w.Length || math.Mod(w.Length, 10) != 0 || w.Number < 1 {
				t.Errorf("%s: %+v as a run of %d", l.Role, w, l.Bands.Runs[i].Length)
			}
		}
		lists[l.Role] = l
	}
	return lists
}

// Every system cuts what it is made of, and all of it can be cut.
func TestEverySystemCanBeCut(t *testing.T) {
	for _, s := range sheet.Samples() {
		if s.Is() != "membrane" {
			continue
		}
		lists := listsOf(t, s.ID[len("sample."):])
		of, _ := systemtest.Of(s.ID)
		beds := slices.ContainsFunc(of.Products, func(p system.Product) bool { return p.Role == "band" })
		if beds != (len(lists["band"].Wants) > 0) {
			t.Errorf("%s: no bands", s.ID)
		}
		for role, l := range lists {
			if _, err := l.Bands.Solve(1000, nil); err != nil {
				t.Errorf("%s, %s: %v", s.ID, role, err)
			}
		}
	}
}

func TestBandsAreNumberedAsTheyAreBedded(t *testing.T) {
	l := listsOf(t, "flexible_cementitious")["band"]
	in := inputs(t)
	if len(l.Wants) != len(in.Area.Junctions) {
		t.Fatalf("%d bands over %d junctions", len(l.Wants), len(in.Area.Junctions))
	}
	for i, w := range l.Wants {
		want := in.Area.Junctions[i].Length + 2*60
		if w.Kind != "band" || math.Abs(w.Length-want) > 10 || w.Length < want-1e-6 || l.Bands.Runs[i].Whole {
			t.Errorf("%s: %v mm, the junction with its laps is %v", w.ID, w.Length, want)
		}
	}
	if l.Bands.Lap != 60 || l.Bands.LeastPiece != 300 || l.Bands.JoinClear != 300 || l.Bands.Roll != 10000 {
		t.Errorf("the rules of the joins: %+v", l.Bands)
	}
}

// A wide lap makes the least piece longer: two laps.
func TestWideLaps(t *testing.T) {
	l := listsOf(t, "flexible_cementitious", func(in *takeoff.Inputs) {
		for i, c := range in.With {
			if c.Role == "band" {
				own := c.Sheet
				own.Numbers = maps.Clone(c.Sheet.Numbers)
				own.Numbers["band_lap"] = sheet.Said{Value: 195, Unit: "mm", Says: "195 mm"}
				in.With[i].Sheet = own
			}
		}
	})["band"]
	if l.Bands.Lap != 200 || l.Bands.LeastPiece != 400 {
		t.Errorf("%+v", l.Bands)
	}
}

// Flanges, collars and corners before the bands that lap onto them, upright bands last.
func TestOrderOfBedding(t *testing.T) {
	in := inputs(t)
	plan, err := takeoff.MakePlan(in)
	if err != nil {
		t.Fatal(err)
	}
	kinds := []string{}
	for i, p := range plan.Pieces {
		if p.Number != i+1 {
			t.Fatalf("place %d is %d", i+1, p.Number)
		}
		kind := p.Kind
		if len(p.ID) > 14 && p.ID[:14] == "band.wall_wall" {
			kind = "upright"
		}
		if n := len(kinds); n == 0 || kinds[n-1] != kind {
			kinds = append(kinds, kind)
		}
	}
	if !slices.Equal(kinds, []string{"flange", "collar", "corner", "band", "upright"}) {
		t.Errorf("the order is %v", kinds)
	}
}

// Where no corner or collar is bought it is cut: a square of band to fold, a patch with a hole.
func TestWhatIsNotBoughtIsCut(t *testing.T) {
	l := listsOf(t, "polyurethane")["band"] // has no preformed corners
	folds := 0
	for _, w := range l.Wants {
		if w.Kind == "fold" {
			folds++
			if w.Length != 150 || w.Width != 150 {
				t.Errorf("a corner of %v × %v from a band of 150", w.Length, w.Width)
			}
		}
	}
	if folds != 4 {
		t.Errorf("%d corners to fold, wanted 4", folds)
	}
	without := func(role string) func(*takeoff.Inputs) {
		return func(in *takeoff.Inputs) {
			in.With = slices.DeleteFunc(in.With, func(c system.Companion) bool { return c.Role == role })
		}
	}
	lists := listsOf(t, "pmma", without("collar"), without("flange"))
	// Each patch takes its length at the roll's whole width: 172, 172 and 260 mm, up to 10 mm.
	in := inputs(t)
	in.Built = systemtest.Built("sample.pmma")
	needs := func() float64 {
		plan, err := takeoff.MakePlan(in)
		if err != nil {
			t.Fatal(err)
		}
		return item(t, plan, "fleece").Need.Value
	}
	with := needs()
	without("collar")(&in)
	without("flange")(&in)
	if more := needs() - with; math.Abs(more-(0.18+0.18+0.26)*1.05) > 1e-9 {
		t.Errorf("three patches take %v m² of fleece", more)
	}
	var discs []float64
	for _, w := range lists["fleece"].Wants {
		if w.Kind == "patch" {
			discs = append(discs, w.Disc)
			if w.Length < w.Disc+150 || w.Width != w.Disc+150 {
				t.Errorf("a patch of %v × %v round %v", w.Length, w.Width, w.Disc)
			}
		}
	}
	slices.Sort(discs)
	if !slices.Equal(discs, []float64{22, 22, 110}) {
		t.Errorf("patches round %v", discs)
	}
}

// A join keeps clear of the pipe that stands in the band.
func TestPipesInTheBand(t *testing.T) {
	l := listsOf(t, "flexible_cementitious", func(in *takeoff.Inputs) {
		in.Area.Penetrations = append(in.Area.Penetrations, wetarea.Penetration{ID: "pipe.9", Kind: "pipe", Surface: "wall.a", At: wetarea.Point{900, 70}, Diameter: 30})
	})["band"]
	i := slices.IndexFunc(l.Wants, func(w takeoff.Want) bool { return w.Place == "floor_wall.a.1" })
	if w := l.Wants[i]; len(w.Clear) != 1 || w.Clear[0] != 900+60 {
		t.Errorf("no join at %v, wanted 960", w.Clear)
	}
	for k, w := range l.Wants {
		if k != i && len(w.Clear) > 0 && w.Place[:10] == "floor_wall" {
			t.Errorf("%s keeps clear of %v", w.Place, w.Clear)
		}
	}
}

func TestSeamsAndLayers(t *testing.T) {
	lists := listsOf(t, "bonded_sheet")
	sum := 0.0
	for _, w := range lists["seam_tape"].Wants {
		sum += w.Length
	}
	if math.Abs(sum-(2400+2*2100+2*2100)) > 60 || lists["sheet"].Layers != 1 {
		t.Errorf("%v mm of tape over sheets in %d layer", sum, lists["sheet"].Layers)
	}
	felt := listsOf(t, "bitumen_felt")["sheet"]
	if felt.Layers != 2 || !felt.Clear {
		t.Errorf("%d layers, clear %v", felt.Layers, felt.Clear)
	}
	seen := map[string]bool{}
	for _, w := range felt.Wants {
		if seen[w.ID] {
			t.Errorf("%s twice", w.ID)
		}
		seen[w.ID] = true
	}
}

// The figure that is missing is named, and the others are still listed.
func TestARollThatSaysNoLength(t *testing.T) {
	in := inputs(t)
	in.Built = systemtest.Built("sample.acrylic_cement")
	for i, c := range in.With {
		if c.Role == "mesh" {
			own := c.Sheet
			own.Numbers = map[string]sheet.Said{}
			in.With[i].Sheet = own
		}
	}
	plan, err := takeoff.MakePlan(in)
	if err != nil {
		t.Fatal(err)
	}
	if got := item(t, plan, "mesh"); got.Need != nil || got.Fault == nil {
		t.Errorf("a mesh of no width is needed: %+v", got)
	}
	for _, l := range plan.Cuts {
		if (l.Fault != nil) != (l.Role == "mesh") {
			t.Errorf("%s: %v", l.Role, l.Fault)
		}
	}
}

// A band that cannot be cut is refused with the plan, so that the last good plan stays.
func TestABandThatCannotBeCut(t *testing.T) {
	for key, numbers := range map[string]map[string]sheet.Said{
		"sheet.roll_within_lap":           {"band_roll": {Value: 0.05, Unit: "m", Says: "50 mm"}},
		"cutting.roll_shorter_than_piece": {"band_roll": {Value: 0.3, Unit: "m", Says: "30 cm"}},
	} {
		in := inputs(t)
		own := in.Film
		own.Numbers = map[string]sheet.Said{}
		for name, said := range in.Film.Numbers {
			own.Numbers[name] = said
		}
		for name, said := range numbers {
			own.Numbers[name] = said
		}
		in.Film = own
		_, err := takeoff.MakePlan(in)
		if faults := fault.Of(err); len(faults) != 1 || faults[0].Key != key {
			t.Errorf("wanted %s, got %v", key, err)
		}
	}
}

// Of every system and every product on rolls: what is bought is enough for what is cut.
func TestWhatIsBoughtGivesAllThatIsCut(t *testing.T) {
	for _, s := range sheet.Samples() {
		if s.Is() != "membrane" {
			continue
		}
		plan := planned(t, s.ID)
		for _, l := range plan.Cuts {
			i := slices.IndexFunc(plan.Items, func(i takeoff.Item) bool { return i.Sheet == l.Sheet && i.Role == l.Role })
			if i < 0 {
				if l.Sheet != s.ID {
					t.Errorf("%s: %s is cut and not needed", s.ID, l.Role)
				}
				continue
			}
			item := plan.Items[i]
			b, longest := l.Bands, 0
			for _, packs := range takeoff.Shop([]takeoff.Item{item}, nil, nil, nil, day("2026-11-25"))[0].Packs {
				length := packs.Size
				if item.Unit == "m2" {
					length /= l.Width / 1000
				}
				longest = max(longest, int(length*1000))
				b.Offcuts = append(b.Offcuts, slices.Repeat([]int{int(length * 1000)}, packs.Count)...)
			}
			b.Roll = longest
			cut, err := b.Solve(100_000, nil)
			if err != nil {
				t.Fatal(err)
			}
			if len(item.Places) == 0 || cut.Rolls > 0 {
				t.Errorf("%s: %s bought for %v, and %d more rolls to open", s.ID, l.Role, item.Places, cut.Rolls)
			}
		}
	}
}

// What else there is to do to a piece is said with it: fold, trim, cut a hole, where it lies.
func TestNotesOfPieces(t *testing.T) {
	has := func(l takeoff.CutList, pick func(takeoff.Want) bool, key string, args map[string]any) {
		t.Helper()
		for _, w := range l.Wants {
			i := slices.IndexFunc(w.Notes, func(n takeoff.Note) bool { return n.Key == key })
			if pick(w) != (i >= 0) {
				t.Fatalf("%s: %s is said %v, the piece is %+v", key, w.ID, i >= 0, w)
			}
			if i >= 0 {
				for name, want := range args {
					if got := w.Notes[i].Args[name]; got != want {
						t.Errorf("%s of %s: %s is %v, want %v", key, w.ID, name, got, want)
					}
				}
			}
		}
	}
	kind := func(kinds ...string) func(takeoff.Want) bool {
		return func(w takeoff.Want) bool { return slices.Contains(kinds, w.Kind) }
	}
	has(listsOf(t, "polyurethane")["band"], kind("fold"), "cut.fold", nil)
	pmma := listsOf(t, "pmma", func(in *takeoff.Inputs) {
		in.With = slices.DeleteFunc(in.With, func(c system.Companion) bool { return c.Role == "flange" })
	})["fleece"]
	has(pmma, kind("patch"), "cut.disc", map[string]any{"diameter": 110.0})
	has(pmma, func(w takeoff.Want) bool { return w.Width < 1050 }, "cut.trim", nil)
	has(pmma, kind(), "cut.layer", nil) // one layer needs no number
	has(pmma, func(w takeoff.Want) bool { return w.Strip != nil && len(w.Strip.Holes) > 0 }, "cut.hole", nil)
	has(listsOf(t, "bitumen_felt")["sheet"], kind("strip"), "cut.layer", map[string]any{"of": 2})
}

// A round tank wider than a roll is long is banded: the corners of the drawn circle are no corners.
func TestARoundTankWiderThanARoll(t *testing.T) {
	asked, err := wetarea.Ask("round_tank", map[string]string{"diameter": "4200", "tank_height": "2000", "water_depth": "1800"})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	l := listsOf(t, "flexible_cementitious", func(in *takeoff.Inputs) { in.Area = *asked.Area })["band"]
	longest := 0
	for _, run := range l.Bands.Runs {
		longest = max(longest, run.Length)
	}
	_, err = l.Bands.Solve(10000, nil)
	if err != nil || longest < 13000 || longest <= l.Bands.Roll {
		t.Errorf("the longest run is %d mm of rolls of %d: %v", longest, l.Bands.Roll, err)
	}
}
