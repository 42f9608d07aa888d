package system_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/system"
)

func TestTwoRevisionsDifferInWords(t *testing.T) {
	before := copied(t, "polyurethane")
	after := copied(t, "polyurethane")
	if same := system.Changes(before, after); len(same) != 0 {
		t.Errorf("a revision differs from itself: %+v", same)
	}
	after.Name = "Polyurethane, our way"
	after.Ways[1].Way = "wet_on_wet"
	film := slices.IndexFunc(after.Layers, func(l system.Layer) bool { return l.ID == "film" })
	after.Layers[film].Coats = append(after.Layers[film].Coats, system.Coat{ID: "3", On: "firm", Target: after.Layers[film].Coats[0].Target})
	after.Layers[film].Accept = &system.Accept{By: "look"}
	after.Layers = slices.DeleteFunc(after.Layers, func(l system.Layer) bool { return l.ID == "breakers" })
	after.Products = append(after.Products, system.Product{Key: "mesh", Product: "own.mesh", Role: "mesh"})
	after.Edits = []system.Edit{{Does: "drop", Step: "coat_1_accepted", Reason: "r", Person: "p"}}
	after.Proofs = []system.Proof{{Kind: "film"}}
	var keys []string
	for _, c := range system.Changes(before, after) {
		keys = append(keys, c.Key)
	}
	want := "[name way way way product_new layer_gone layer_coats layer_accept edit_drop proofs]"
	if got := fmt.Sprint(keys); got != want {
		t.Errorf("%s, want %s", got, want)
	}
	moved := copied(t, "polyurethane")
	moved.Layers[0], moved.Layers[1] = moved.Layers[1], moved.Layers[0]
	if list := system.Changes(before, moved); len(list) != 1 || list[0].Key != "layers_moved" {
		t.Errorf("two layers changed places: %+v", list)
	}
}

func TestSystemsGoAsFiles(t *testing.T) {
	own := copied(t, "bonded_sheet")
	text, err := system.Export([]system.System{own})
	if err != nil {
		t.Fatal(err)
	}
	back, err := system.Import(text, nil)
	if err != nil || len(back) != 1 || len(system.Changes(own, back[0])) != 0 {
		t.Fatalf("%v came back with %v", back, err)
	}
	if again, err := system.Import(text, back); err != nil || len(again) != 0 {
		t.Errorf("what the library has was taken over once more: %d, %v", len(again), err)
	}
	other := own
	other.Name = "Another one"
	for name, c := range map[string]struct {
		text  string
		known []system.System
		key   string
	}{
		"no JSON":                         {"{ oops", nil, "sheet.file_unreadable"},
		"a field that no system has":      {strings.Replace(text, `"chemistry"`, `"mood": 1, "chemistry"`, 1), nil, "sheet.file_unreadable"},
		"another format":                  {strings.Replace(text, "dusha.systems", "recipes", 1), nil, "sheet.file_other_format"},
		"another version":                 {strings.Replace(text, `"version": 1`, `"version": 9`, 1), nil, "sheet.file_other_version"},
		"a layer of nothing":              {strings.Replace(text, `"product": "membrane",`, `"product": "tar",`, 1), nil, "system.layer_of_no_product"},
		"a way of a newer Dusha":          {strings.Replace(text, `"way": "dry"`, `"way": "floating"`, 1), nil, "system.unknown_way"},
		"an id that the library has else": {text, []system.System{other}, "sheet.id_in_library"},
		"6 MB":                            {strings.Repeat(" ", 6<<20), nil, "sheet.file_too_large"},
	} {
		list, err := system.Import(c.text, c.known)
		if f := fault.Of(err); len(f) != 1 || f[0].Key != c.key || list != nil {
			t.Errorf("%s: %v, %d taken", name, err, len(list))
		}
	}
}

// says is all that an order says of the work.
func says(t *testing.T, s system.System) string {
	t.Helper()
	o, err := system.MakeOrder(s, nil)
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for _, step := range o.Steps() {
		fmt.Fprint(&b, step.ID, step.Does, step.Of, step.Face, step.Asks, waits(o, step.ID), "\n")
	}
	return b.String()
}

// Every way that is offered makes another order than some other way of its matter.
func TestAWayThatIsOfferedActs(t *testing.T) {
	for school, ways := range system.Schools {
		for _, way := range ways {
			acted := false
			for _, s := range system.Samples() {
				one := copied(t, strings.TrimPrefix(s.ID, "sample.system."))
				i := slices.IndexFunc(one.Ways, func(w system.Way) bool { return w.School == school })
				if i < 0 {
					continue
				}
				one.Ways[i].Way = way
				own := says(t, one)
				for _, other := range ways {
					one.Ways[i].Way = other
					acted = acted || other != way && says(t, one) != own
				}
			}
			if !acted {
				t.Errorf("%s %s changes nothing", school, way)
			}
		}
	}
}

// Layers that do not touch may change places: the order says the same.
func TestLayersThatDoNotTouchMayChangePlaces(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for _, s := range system.Samples() {
		own := copied(t, strings.TrimPrefix(s.ID, "sample.system."))
		want := sortedLines(says(t, own))
		for range 20 {
			i := r.IntN(len(own.Layers) - 1)
			a, b := own.Layers[i], own.Layers[i+1]
			chain := func(l system.Layer) bool { return strings.Contains(strings.Join(want, " "), "finish_"+l.ID) }
			if a.Where[0].On == b.Where[0].On || chain(a) || chain(b) { // a finish goes on in the order in which it lies
				continue
			}
			own.Layers[i], own.Layers[i+1] = b, a
		}
		got, _ := system.MakeOrder(own, nil)
		wanted, _ := system.MakeOrder(s, nil)
		if order(got) != order(wanted) || len(sortedLines(says(t, own))) != len(want) {
			t.Errorf("%s: %s, want %s", s.ID, order(got), order(wanted))
		}
	}
}

func sortedLines(text string) []string {
	lines := strings.Split(text, "\n")
	slices.Sort(lines)
	return lines
}
