package system_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

func TestHowManyCoats(t *testing.T) {
	rows := []struct {
		name            string
		total, greatest float64
		least, coats    int
	}{
		{"the film needs more than the sheet's number", 3.3, 1, 2, 4},
		{"never fewer than the sheet's number", 1, 2, 2, 2},
		{"an exact multiple takes no coat more", 0.3, 0.1, 1, 3},
		{"a micrometre over takes one more", 0.301, 0.1, 1, 4},
		{"less than a micrometre over does not", 0.3004, 0.1, 1, 3},
		{"from a dry target", 1.2 / 0.6, 1, 1, 2},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if got := system.CoatsFor(row.total, row.greatest, row.least); got != row.coats {
				t.Errorf("%d coats, want %d", got, row.coats)
			}
		})
	}
}

// printedAs is a shipped system with a printing of its film that says some numbers otherwise.
func printedAs(membrane string, numbers map[string]float64) (system.System, map[string]sheet.Sheet) {
	of, used := systemtest.Of(membrane)
	sheets := system.Sheets(used)
	film := sheets["membrane"]
	film.Numbers = maps.Clone(film.Numbers)
	for name, value := range numbers {
		film.Numbers[name] = sheet.Said{Value: value, Unit: film.Numbers[name].Unit, Says: "as printed"}
	}
	sheets["membrane"] = film
	return of, sheets
}

// The printing says how many coats there are; each has its step and its hold, and nothing asks for another one.
func TestAPrintingSaysHowManyCoats(t *testing.T) {
	rows := []struct {
		name, membrane string
		numbers        map[string]float64
		steps          []string // those that lay coats
		at             []string // faces of the last one
	}{
		{"one coat", "sample.one_part_cementitious", map[string]float64{"coats": 1}, []string{"coat_1"}, nil},
		{"three", "sample.one_part_cementitious", map[string]float64{"coats": 3}, []string{"coat_1", "coat_2", "coat_3"}, nil},
		{"a third on the walls alone", "sample.one_part_cementitious", map[string]float64{"coats_wall": 3}, []string{"coat_1", "coat_2", "coat_3"}, []string{"upright"}},
		{"a second on the floor alone", "sample.one_part_cementitious", map[string]float64{"coats_wall": 1}, []string{"coat_1", "coat_2"}, []string{"flat"}},
		{"thicker than a coat may be", "sample.one_part_cementitious", map[string]float64{"wft_per_coat": 2}, []string{"coat_1", "coat_2", "coat_3"}, nil},
		{"one felt takes two hot coats", "sample.bitumen_felt", map[string]float64{"layers": 1}, []string{"coat_1", "coat_2"}, nil},
		{"three felts four", "sample.bitumen_felt", map[string]float64{"layers": 3}, []string{"coat_1", "coat_2", "coat_3", "coat_4"}, nil},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			of, sheets := printedAs(row.membrane, row.numbers)
			o, err := system.MakeOrder(of, sheets)
			if err != nil {
				t.Fatal(err)
			}
			var laid []string
			var last system.Step
			for _, s := range o.Steps() {
				if s.Coats() {
					laid, last = append(laid, s.ID), s
					if _, held := o.Step(s.ID + "_accepted"); !held {
						t.Errorf("nobody accepts %s", s.ID)
					}
				}
			}
			var at []string
			for _, w := range last.At {
				at = w.Faces
			}
			if !slices.Equal(laid, row.steps) || !slices.Equal(at, row.at) {
				t.Errorf("%v, the last on %v", laid, at)
			}
			cure, _ := o.Step("cure_complete")
			if len(cure.After) != 1 || cure.After[0].Step != last.ID {
				t.Errorf("cure waits for %+v", cure.After)
			}
		})
	}
}

func TestACoatCountThatASystemDoesNotAllow(t *testing.T) {
	of, sheets := printedAs("sample.one_part_cementitious", map[string]float64{"coats": 7})
	if _, err := of.Fitted(sheets); err == nil || fault.Of(err)[0].Key != "system.coats_out_of_range" {
		t.Errorf("seven coats: %v", err)
	}
	of, sheets = printedAs("sample.acrylic_cement", map[string]float64{"coats": 1})
	for i := range of.Layers {
		for k := range of.Layers[i].Carries {
			if of.Layers[i].Carries[k].Product == "mesh" {
				of.Layers[i].Carries[k].InCoat = []string{"2"}
			}
		}
	}
	if _, err := of.Fitted(sheets); err == nil || fault.Of(err)[0].Key != "system.carried_in_no_coat" {
		t.Errorf("a mesh in the second of one coat: %v", err)
	}
}

// A step of faces that the area lacks is left out; what waited for it waits for what came before.
func TestStepsOfFacesThatAnAreaLacks(t *testing.T) {
	of, sheets := printedAs("sample.one_part_cementitious", map[string]float64{"coats_wall": 3})
	o, err := system.MakeOrder(of, sheets)
	if err != nil {
		t.Fatal(err)
	}
	deck := o.For(func(s system.Step) bool { return len(s.At) == 0 })
	for _, id := range []string{"coat_3", "coat_3_accepted"} {
		if _, is := deck.Step(id); is {
			t.Errorf("%s stays", id)
		}
	}
	cure, _ := deck.Step("cure_complete")
	if len(cure.After) != 1 || cure.After[0].Step != "coat_2" || cure.After[0].Least.Of != "membrane.cure" {
		t.Errorf("cure waits for %+v", cure.After)
	}
	if all := o.For(func(system.Step) bool { return true }); len(all.Steps()) != len(o.Steps()) {
		t.Errorf("%d of %d steps in an area that has all", len(all.Steps()), len(o.Steps()))
	}
	if cure, _ = o.Step("cure_complete"); cure.After[0].Step != "coat_3" {
		t.Errorf("the order itself was changed: %+v", cure.After)
	}
}

// A primer before every return is laid again for each later coat that is not laid wet on wet, bought again, and waited for.
func TestAPrimerBeforeEveryReturn(t *testing.T) {
	of, sheets := printedAs("sample.polyurethane", nil)
	for i := range of.Ways {
		if of.Ways[i].School == "primer_return" {
			of.Ways[i].Way = "before_every_return"
		}
	}
	o, err := system.MakeOrder(of, sheets)
	if err != nil {
		t.Fatal(err)
	}
	again, is := o.Step("prime_2")
	second, _ := o.Step("coat_2")
	if !is || len(again.After) != 1 || again.After[0].Step != "coat_1" || len(again.Of) != 2 {
		t.Fatalf("primed again: %+v", again)
	}
	for _, link := range second.After {
		if link.Step != "prime_2" || link.Least == nil || !strings.HasSuffix(link.Least.Of, ".recoat") {
			t.Errorf("the second coat waits for %+v", link)
		}
	}
	if len(second.After) == 0 || of.Check() != nil {
		t.Errorf("the second coat waits for nothing, or %v", of.Check())
	}
	wet := copiedOf(of)
	for i := range wet.Layers {
		if wet.Layers[i].ID == "film" {
			wet.Layers[i].Coats[1].On = "wet"
		}
	}
	if o, err := system.MakeOrder(wet, sheets); err != nil {
		t.Error(err)
	} else if _, is := o.Step("prime_2"); is {
		t.Error("wet on wet is primed again")
	}
	fitted, err := of.Fitted(sheets)
	if err != nil {
		t.Fatal(err)
	}
	if twice, err := fitted.Fitted(sheets); err != nil || len(twice.Layers) != len(fitted.Layers) {
		t.Errorf("fitted twice it has %d layers of %d, %v", len(twice.Layers), len(fitted.Layers), err)
	}
}

// An overlay waits for the cure, or has the window that the film's sheet prints; where there is none nothing is waited for.
func TestWhenAnOverlayIsLaid(t *testing.T) {
	for way, want := range map[string]string{"after_cure": "membrane.cure membrane.overlay ", "short_window": "membrane.overlay membrane.overlay_latest", "none": ""} {
		of, sheets := printedAs("sample.rapid_dispersion", nil)
		for i := range of.Ways {
			if of.Ways[i].School == "overlay" {
				of.Ways[i].Way = way
			}
		}
		o, err := system.MakeOrder(of, sheets)
		if err != nil {
			t.Fatal(err)
		}
		protect, _ := o.Step("protect")
		got := ""
		for i, link := range protect.After {
			if i > 0 {
				got += " "
			}
			got += link.Least.Of
			if link.Latest != nil {
				got += " " + link.Latest.Of
			}
			if link.Step != "coat_2" || link.Per != "all" {
				t.Errorf("%s counts from %+v", way, link)
			}
		}
		if strings.TrimSpace(got) != strings.TrimSpace(want) {
			t.Errorf("%s waits for %q, want %q", way, got, want)
		}
	}
}

func copiedOf(s system.System) system.System {
	s.Layers = slices.Clone(s.Layers)
	for i := range s.Layers {
		s.Layers[i].Coats = slices.Clone(s.Layers[i].Coats)
	}
	return s
}

// Two films that lie on faces of their own wait for nothing of each other, and both cure; one on the other waits by the sheet
// of what it lies on.
func TestFilmsBesideAndOnEachOther(t *testing.T) {
	second := func(faces, of []string) system.System {
		s, _ := printedAs("sample.polyurethane", nil)
		s.Products = append(s.Products, system.Product{Key: "other", Product: "own.other", Role: "membrane"})
		for i, l := range s.Layers {
			if l.ID == "film" {
				other := l
				other.ID, other.Product, other.Count = "other", "other", nil
				other.Coats = []system.Coat{{ID: "1", Target: &system.Target{Kind: "kg_m2", Figure: &system.Figure{Of: "other.rate"}}}}
				other.Where = []system.Where{{On: "field", Faces: of}}
				s.Layers[i].Where = []system.Where{{On: "field", Faces: faces}}
				s.Layers = slices.Insert(s.Layers, i+1, other)
				break
			}
		}
		return s
	}
	_, sheets := printedAs("sample.polyurethane", nil)
	links := func(s system.System, step string) (said string) {
		t.Helper()
		o, err := system.MakeOrder(s, sheets)
		if err != nil {
			t.Fatal(err)
		}
		found, is := o.Step(step)
		if !is {
			t.Fatalf("no step %s", step)
		}
		for _, link := range found.After {
			said += link.Step + " " + link.Least.Of + "; "
		}
		return said
	}
	beside, on := second([]string{"flat"}, []string{"upright"}), second(nil, nil)
	if got := links(beside, "coat_3"); strings.Contains(got, "coat_") {
		t.Errorf("beside each other the other film waits for %s", got)
	}
	if got := links(beside, "cure_complete"); got != "coat_2 membrane.cure; coat_3 other.cure; " {
		t.Errorf("beside each other cure %s", got)
	}
	if got := links(on, "coat_3"); got != "coat_2 membrane.recoat; " {
		t.Errorf("on the film the other one waits for %s", got)
	}
	if got := links(on, "cure_complete"); got != "coat_3 other.cure; " {
		t.Errorf("on each other cure %s", got)
	}
}

// Neighbours of the film that lie beside each other are one course: laid one after the other, accepted together.
func TestNeighboursThatLieBesideEachOtherAreOneCourse(t *testing.T) {
	s, _ := systemtest.Of("sample.flexible_cementitious")
	i := slices.IndexFunc(s.Layers, func(l system.Layer) bool { return l.ID == "film" })
	walls := s.Layers[i]
	walls.ID, walls.Count = "walls", nil
	walls.Where = []system.Where{{On: "field", Faces: []string{"upright"}}}
	s.Layers[i].Count, s.Layers[i].Where = nil, []system.Where{{On: "field", Faces: []string{"flat"}}}
	s.Layers = slices.Insert(s.Layers, i+1, walls)
	if err := s.Check(); err != nil {
		t.Fatal(err)
	}
	o, err := system.MakeOrder(s, nil)
	if err != nil {
		t.Fatal(err)
	}
	if got := order(o); !strings.Contains(got, "coat: coat_1 coat_3 coat_3_accepted coat_2 coat_4 coat_4_accepted |") {
		t.Error(got)
	}
	hold, _ := o.Step("coat_3_accepted")
	if fmt.Sprint(hold.Of) != "[film.1 walls.1]" {
		t.Errorf("it accepts %v", hold.Of)
	}
	for id, want := range map[string]string{"coat_2": "coat_1", "coat_4": "coat_3"} { // each waits for its own
		if step, _ := o.Step(id); len(step.After) != 1 || step.After[0].Step != want {
			t.Errorf("%s waits for %+v", id, step.After)
		}
	}
}

// What belongs to a choice that was not made is in no order, and an option that is decided at planning has to be chosen.
func TestOptionsAreChosen(t *testing.T) {
	i := slices.IndexFunc(system.Samples(), func(s system.System) bool { return s.ID == "sample.system.accelerated_resin" })
	s := system.Samples()[i]
	if _, err := s.Chosen(nil); err == nil {
		t.Error("nobody chose how it gets its grip, and it is taken")
	}
	if _, err := s.Chosen(map[string]string{"grip": "sawdust"}); err == nil {
		t.Error("a choice that the option has not is taken")
	}
	if _, err := s.Chosen(map[string]string{"grip": "beads", "colour": "red"}); err == nil {
		t.Error("an option that the system has not is taken")
	}
	for choice, layer := range map[string]string{"strewn": "top", "beads": "top_beads"} {
		chosen, err := s.Chosen(map[string]string{"grip": choice})
		if err != nil {
			t.Fatal(err)
		}
		o, err := system.MakeOrder(chosen, nil)
		if err != nil {
			t.Fatal(err)
		}
		if step, _ := o.Step("top_coat"); fmt.Sprint(step.Of) != "["+layer+"]" {
			t.Errorf("%s lays %v", choice, step.Of)
		}
	}
	broken := s
	broken.Layers = slices.Clone(s.Layers)
	broken.Layers[0].In = "grip.sawdust"
	if err := broken.Check(); err == nil {
		t.Error("a layer of a choice that is none is taken")
	}
}

// A clash is said before anything is laid, with both ways out as orders of the same system.
func TestClashesComeWithTheirWaysOut(t *testing.T) {
	s, used := systemtest.Of("sample.accelerated_resin")
	s, _ = s.Chosen(s.FirstChoices())
	clashes := s.Clashes(system.Sheets(used), 24)
	if len(clashes) != 1 || clashes[0].Key != "top_coat" || len(clashes[0].Ways) != 2 {
		t.Fatalf("%+v", clashes)
	}
	if got := order(clashes[0].Ways[0].Order); !strings.Contains(got, "top_coat cure_complete |") {
		t.Errorf("the top coat first: %s", got)
	}
	if got := order(clashes[0].Ways[1].Order); !strings.Contains(got, "top_coat: protect key_anew top_coat tape_off |") {
		t.Errorf("keyed anew: %s", got)
	}
	for _, c := range s.Clashes(system.Sheets(used), 0) { // cure alone is too long already
		if c.Args["needs"].(float64) <= c.Args["latest"].(float64) {
			t.Errorf("no clash is said as one: %+v", c)
		}
	}
	sheets := system.Sheets(used)
	of := sheets["membrane"]
	of.Numbers = maps.Clone(of.Numbers)
	const test = 24.0
	for hours, want := range map[float64]int{168 + test: 0, 168 + test - 0.1: 1} { // 168 h of cure
		of.Numbers["recoat_latest_20"] = sheet.Said{Value: hours, Unit: "h"}
		sheets["membrane"] = of
		if got := len(s.Clashes(sheets, test)); got != want {
			t.Errorf("%v h left for %v h: %d clashes", hours, 168+test, got)
		}
	}
	s.Ways, s.Layers = slices.Clone(s.Ways), slices.DeleteFunc(slices.Clone(s.Layers), func(l system.Layer) bool { return l.ID == "top" })
	if again := s.Clashes(system.Sheets(used), 24); len(again) != 0 {
		t.Errorf("without a top coat: %+v", again)
	}
}

// A product that a shipped system names is laid, carried or stirred in by one of its layers, or cleans up after them.
func TestWhatASystemNamesIsUsed(t *testing.T) {
	for _, s := range system.Samples() {
		for _, p := range s.Products {
			used := p.Role == "cleaner"
			for _, l := range s.Layers {
				used = used || l.Lays(p.Key) || l.Mix != nil && slices.Contains(l.Mix.Additives, p.Key)
			}
			if !used {
				t.Errorf("%s names %s, and nothing is done with it", s.ID, p.Key)
			}
		}
	}
}
