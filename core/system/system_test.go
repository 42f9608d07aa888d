package system_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// order is a system's steps by id, stage by stage.
func order(o system.Order) string {
	var stages []string
	for _, stage := range o.Stages {
		var ids []string
		for _, s := range stage.Steps {
			if s.Mends == "" { // there where something was missed alone
				ids = append(ids, s.ID)
			}
		}
		stages = append(stages, stage.ID+": "+strings.Join(ids, " "))
	}
	return strings.Join(stages, " | ")
}

func built(t *testing.T, name string) system.Built {
	t.Helper()
	return systemtest.Built("sample." + name)
}

// The shipped systems, each with the order of its work.
func TestTheOrderOfTheShippedSystems(t *testing.T) {
	const (
		begin  = "survey: survey | plan: plan | prepare: prepare substrate_accepted | "
		detail = "detail: bands details_accepted | "
		beads  = "detail: beads bands details_accepted | "
		two    = "coat: coat_1 coat_1_accepted coat_2 coat_2_accepted | "
		one    = "coat: coat_1 coat_1_accepted | "
		three  = "coat: coat_1 coat_1_accepted coat_2 coat_2_accepted coat_3 coat_3_accepted | "
		prime  = "prime: prime | "
		test   = "cure: cure_complete | water_test: test_plan test test_signed | "
		end    = "protect: protect | hand_over: handed_over"
	)
	want := map[string]string{
		"flexible_cementitious": begin + detail + two + test + end,
		"one_part_cementitious": begin + detail + two + test + end,
		"crystallising_slurry":  begin + detail + two + "mist: mist | " + test + end,
		"acrylic_cement":        begin + detail + "coat: coat_1 coat_1_accepted coat_2 coat_2_accepted coat_3 coat_3_accepted | " + test + end,
		"acrylic_dispersion":    begin + "prime: prime | " + beads + two + test + end,
		"rapid_dispersion":      begin + "prime: prime | " + detail + two + test + end,
		"polyurethane":          begin + "prime: prime | " + beads + two + test + "top_coat: top_coat | " + end,
		"pmma":                  begin + "prime: prime | " + detail + one + test + "top_coat: top_coat | " + end, // wet on wet is one build
		"bitumen_solvent":       begin + "prime: prime | " + beads + two + test + end,
		"bonded_sheet":          begin + "prime: prime | " + one + detail + test + end,
		"bitumen_felt":          begin + "prime: prime | " + beads + "coat: coat_1 coat_1_accepted coat_2 coat_2_accepted coat_3 coat_3_accepted | " + test + end, // n + 1 hot coats

		"open_block_slurry":  begin + two + "cure: cure_complete | spray_test: spray spray_signed | " + end,
		"hot_felts":          begin + prime + detail + three + test + end,
		"fast_resin":         begin + prime + detail + one + test + "protect: protect | finish: finish_chase | hand_over: handed_over",
		"resin_epoxy_floor":  begin + prime + detail + two + test + "top_coat: top_coat | protect: protect | uncover: uncover | hand_over: handed_over | renewal: abrade renew",
		"mat_roof":           begin + detail + "coat: coat_1 coat_2 coat_2_accepted | cure: cure_complete | film_proof: film_signed | top_coat: top_coat | " + end, // one hold for both
		"litre_bitumen":      begin + prime + detail + two + test + "top_coat: top_coat | " + end,
		"inch_slurry":        begin + beads + two + test + end,
		"net_slurry":         begin + detail + two + test + end,
		"accelerated_resin":  begin + prime + detail + two + test + "top_coat: protect top_coat tape_off | hand_over: handed_over", // the tape before the coat, and off at once
		"licensed_latex":     begin + beads + two + "cure: cure_complete | audit: audit | " + end,
		"crystal_cellar":     begin + two + "cure: cure_complete | spray_test: spray spray_signed | protect: protect | finish: finish_vapour finish_plaster | hand_over: handed_over",
		"covered_sheet":      begin + prime + one + detail + "cure: cure_complete | audit: audit | protect: protect | finish: finish_smooth finish_glue finish_covering finish_grip finish_joints | hand_over: handed_over | service: walked_on in_water",
		"tool_water":         begin + detail + three + "mist: mist | " + test + end,
		"brick_slurry":       begin + detail + two + test + end,
		"primed_roof":        begin + prime + detail + "coat: coat_1 coat_1_accepted prime_2 coat_2 coat_2_accepted | " + test + "top_coat: top_coat | " + end + " | recoat: wash recoat",
		"brush_many_grounds": begin + detail + two + "mist: mist | " + test + end,
	}
	for _, s := range system.Samples() {
		if err := s.Check(); err != nil {
			t.Errorf("%s: %v", s.ID, err)
		}
		name := strings.TrimPrefix(s.ID, "sample.system.")
		if got := order(built(t, name).Order); got != want[name] {
			t.Errorf("%s:\n%s, want\n%s", name, got, want[name])
		}
		delete(want, name)
	}
	if len(want) > 0 {
		t.Errorf("not shipped: %v", want)
	}
}

// waits are the links of a step: what it waits for, and by which figures.
func waits(o system.Order, id string) string {
	s, _ := o.Step(id)
	var list []string
	for _, l := range s.After {
		text := l.Step
		if l.Least != nil {
			text += " " + l.Least.Of
		}
		if l.Latest != nil {
			text += " until " + l.Latest.Of
		}
		if len(l.States) > 0 {
			text += " " + strings.Join(l.States, "+")
		}
		list = append(list, text)
	}
	return strings.Join(list, ", ")
}

func TestWhatStepsWaitFor(t *testing.T) {
	for _, c := range []struct{ system, step, want string }{
		{"flexible_cementitious", "coat_2", "coat_1 membrane.recoat until membrane.recoat_latest firm+no_tack+no_transfer"},
		{"flexible_cementitious", "cure_complete", "coat_2 membrane.cure"},
		{"flexible_cementitious", "coat_1", "bands membrane.recoat"},
		{"rapid_dispersion", "coat_1", ""},
		{"rapid_dispersion", "bands", "prime primer.recoat until primer.recoat_latest, prime primer_dense.recoat until primer_dense.recoat_latest"},
		{"acrylic_dispersion", "bands", "prime primer.recoat until primer.recoat_latest, prime primer_dense.recoat until primer_dense.recoat_latest"},
		{"acrylic_dispersion", "beads", ""},
		{"bonded_sheet", "coat_1", "prime primer.recoat until primer.recoat_latest"},
		{"pmma", "cure_complete", "coat_1 membrane.cure"},
		{"polyurethane", "handed_over", ""},
	} {
		if got := waits(built(t, c.system).Order, c.step); got != c.want {
			t.Errorf("%s, %s waits for %q, want %q", c.system, c.step, got, c.want)
		}
	}
}

// Whatever lays a product has the cautions of its chemistry, once each, and what is laid of another none.
func TestWhatIsLaidHasTheCautionsOfItsChemistry(t *testing.T) {
	for what, want := range map[string][]string{
		"polyurethane bands": {"fire", "solvent"}, "polyurethane coat_1": {"fire", "slips", "solvent"}, "pmma bands": {"fire", "peroxide", "solvent"},
		"flexible_cementitious bands": {"alkaline"}, "bitumen_felt coat_1": {"fire", "height", "hot_bitumen"}, "polyurethane coat_2": {"fire", "slips", "solvent"},
	} {
		name, id, _ := strings.Cut(what, " ")
		step, _ := built(t, name).Order.Step(id)
		if got := slices.Sorted(slices.Values(step.Cautions)); !slices.Equal(got, want) {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
}

func TestThePrintingsOfASystem(t *testing.T) {
	library := sheet.Samples()
	s, used := systemtest.Of(library[0].ID)
	if len(used) != len(s.Products) {
		t.Fatalf("%d of %d found", len(used), len(s.Products))
	}
	bare, _ := s.Take(library[0], library, nil, false)
	if with, missing := s.With(bare); len(with) != 0 || len(missing) != len(s.Products)-1 {
		t.Errorf("without samples %d are there, %d missing", len(with), len(missing))
	}
	band, _ := sheet.Sample("sample.mineral_band")
	form, own := sheet.Ask(band, "own-band", map[string]string{
		"name": "Band as delivered", "revision": "1", "band_width": "100 mm", "band_roll": "10 m", "band_lap": "50 mm", "lap_form": "total", "elongation": "-",
	})
	if own == nil {
		t.Fatal(form.Faults())
	}
	of := func(used []system.Used, key string) system.Used {
		i := slices.IndexFunc(used, func(u system.Used) bool { return u.Key == key })
		if i < 0 {
			return system.Used{}
		}
		return used[i]
	}
	mine, _ := s.Take(library[0], append([]sheet.Sheet{*own}, library...), nil, true)
	if got := of(mine, "band"); got.Sheet.ID != "own-band" || got.Outside {
		t.Errorf("one's own band does not go before the sample: %+v", got.Sheet.Name)
	}
	_, other := systemtest.Of(library[0].ID, system.Swap{Product: "sample.mineral_band", Sheet: "sample.fleece_band", Reason: "none left", Person: "p"})
	if got := of(other, "band"); got.Sheet.ID != "sample.fleece_band" || !got.Outside || got.Reason != "none left" {
		t.Errorf("a band of another system: %+v", got)
	}
	none, left := s.Take(library[0], library, []system.Swap{{Product: "sample.mineral_band"}}, true)
	if with, missing := s.With(none, left...); of(none, "band").Key != "" || len(missing) != 0 || len(with) != len(s.Products)-2 {
		t.Errorf("a band that is not wanted: %v missing", missing)
	}
}

func TestWaysThatMeetAreNamed(t *testing.T) {
	damp, dry := built(t, "flexible_cementitious").System, built(t, "acrylic_dispersion").System
	var names []string
	for _, m := range system.MixedWays(damp, dry) {
		names = append(names, m.School)
	}
	if got := fmt.Sprint(names); got != "[base key junction thickness]" {
		t.Errorf("mixed: %v", got)
	}
	if len(system.MixedWays(damp, damp)) != 0 {
		t.Error("one way was found mixed with itself")
	}
}

// copied is a system of one's own that may be changed.
func copied(t *testing.T, name string) system.System {
	t.Helper()
	text, err := json.Marshal(built(t, name).System)
	if err != nil {
		t.Fatal(err)
	}
	var own system.System
	if err := json.Unmarshal(text, &own); err != nil {
		t.Fatal(err)
	}
	own.ID, own.CopiedFrom, own.Sample = "own", own.ID, false
	return own
}

// What cannot be built or followed is named, with where it lies.
func TestASystemThatCannotBeBuiltIsRefused(t *testing.T) {
	two := 2.0
	for _, c := range []struct {
		name, field, key string
		change           func(*system.System)
	}{
		{"a product taken away that a layer uses", "layers.fillet", "system.layer_of_no_product", func(s *system.System) {
			s.Products = slices.DeleteFunc(s.Products, func(p system.Product) bool { return p.Key == "fillet_mortar" })
		}},
		{"a way that nobody works", "ways.base", "system.unknown_way", func(s *system.System) { s.Ways[0].Way = "upside_down" }},
		{"a matter without ways", "ways", "system.unknown_school", func(s *system.System) { s.Ways[0].School = "songs" }},
		{"two ways in one matter", "ways.base", "system.way_twice", func(s *system.System) { s.Ways = append(s.Ways, system.Way{School: "base", Way: "dry"}) }},
		{"a coat without a target", "layers.film.coats.1", "system.coat_without_target", func(s *system.System) { s.Layers[len(s.Layers)-3].Coats[0].Target = nil }},
		{"a figure of no product", "layers.film.coats.1", "system.figure_of_no_product", func(s *system.System) { s.Layers[len(s.Layers)-3].Coats[0].Target.Figure.Of = "tar.rate" }},
		{"a stated figure without its reason", "layers.film.coats.1", "system.figure_without_reason", func(s *system.System) {
			s.Layers[len(s.Layers)-3].Coats[0].Target.Figure = &system.Figure{Value: &two, Unit: "mm"}
		}},
		{"a layer nowhere", "layers.film", "system.layer_nowhere", func(s *system.System) { s.Layers[len(s.Layers)-3].Where = nil }},
		{"a place that is none", "layers.film", "choice.unknown", func(s *system.System) { s.Layers[len(s.Layers)-3].Where[0].On = "moon" }},
		{"400 layers", "layers", "list.too_long", func(s *system.System) {
			for range 400 {
				s.Layers = append(s.Layers, s.Layers[0])
			}
		}},
		{"a layer twice", "layers.plug", "system.layer_twice", func(s *system.System) { s.Layers = append(s.Layers, s.Layers[0]) }},
		{"no proof, and no word why", "proofs", "system.no_proof_without_reason", func(s *system.System) { s.Proofs = []system.Proof{{Kind: "none"}} }},
		{"a step that waits for itself", "order.coat_2.after", "system.waits_for_itself", link("coat_2", "coat_2")},
		{"a wait for what comes later", "order.coat_1.after", "system.waits_for_later_step", link("coat_1", "coat_2")},
		{"a wait for nothing", "order.coat_1.after", "system.waits_for_nothing", link("coat_1", "dance")},
		{"steps that wait for each other", "order.bands.after", "system.waits_for_later_step", link("bands", "coat_1")},
		{"a hold before what it accepts", "order.coat_1_accepted", "system.hold_before_work", func(s *system.System) {
			s.Edits = append(s.Edits, system.Edit{Does: "move", Step: "coat_1_accepted", Before: "coat_1", Reason: "so", Person: "p"})
		}},
		{"a layer that nobody lays", "layers.protection", "system.layer_not_laid", func(s *system.System) {
			s.Edits = append(s.Edits, system.Edit{Does: "drop", Step: "protect"})
		}},
		{"a hold dropped without a name", "edits.details_accepted", "system.guard_without_reason", func(s *system.System) {
			s.Edits = append(s.Edits, system.Edit{Does: "drop", Step: "details_accepted"})
		}},
		{"the proof dropped without a name", "edits.test", "system.guard_without_reason", func(s *system.System) {
			s.Edits = append(s.Edits, system.Edit{Does: "drop", Step: "test", Reason: "no water here"})
		}},
		{"a step moved that is none", "edits.dance", "system.edit_of_nothing", func(s *system.System) {
			s.Edits = append(s.Edits, system.Edit{Does: "move", Step: "dance", Before: "coat_1"})
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			own := copied(t, "flexible_cementitious")
			if err := own.Check(); err != nil {
				t.Fatal(err)
			}
			c.change(&own)
			faults := fault.Of(own.Check())
			if len(faults) != 1 || faults[0].Key != c.key || !strings.HasPrefix(faults[0].Field, c.field) {
				t.Errorf("%v, want %s at %s", faults, c.key, c.field)
			}
		})
	}
}

func link(step, to string) func(*system.System) {
	return func(s *system.System) {
		s.Edits = append(s.Edits, system.Edit{Does: "link", Step: step, Link: &system.Link{Step: to}})
	}
}

// The order is changed by hand; what was moved or dropped that guards the work stands with its name.
func TestAnOrderIsChangedByHand(t *testing.T) {
	own := copied(t, "acrylic_dispersion")
	own.Edits = []system.Edit{
		{Does: "add", Step: "tape_off", Before: "coat_1_accepted", Add: &system.Step{ID: "tape_off", Title: "Tape off at once", Does: system.Unmask}},
		{Does: "move", Step: "bands", Before: "beads"},
		{Does: "drop", Step: "details_accepted", Reason: "one pair lays all", Person: "lead"},
		{Does: "link", Step: "tape_off", Link: &system.Link{Layer: "film", Least: &system.Figure{Of: "membrane.touch"}}},
		{Does: "unlink", Step: "coat_1", Link: &system.Link{Step: "bands"}},
	}
	if err := own.Check(); err == nil || !strings.Contains(err.Error(), "waits_for_later_step") {
		t.Errorf("a wait for the last that lays the film, which comes later: %v", err)
	}
	own.Edits[3].Link.Layer, own.Edits[3].Link.Step = "", "coat_1"
	if err := own.Check(); err != nil {
		t.Fatal(err)
	}
	o, err := system.MakeOrder(own, built(t, "acrylic_dispersion").Sheets())
	if err != nil {
		t.Fatal(err)
	}
	if got := order(o); !strings.Contains(got, "detail: bands beads | coat: coat_1 tape_off coat_1_accepted coat_2") {
		t.Error(got)
	}
	if got := waits(o, "coat_1"); got != "" {
		t.Errorf("what was unlinked is waited for: %s", got)
	}
	if list := own.Answered(); len(list) != 1 || list[0].Title != "Accept the details" || list[0].Does != "drop" {
		t.Errorf("on page one stands %+v", list)
	}
}

// A figure that no sheet states is asked back, not refused.
func TestAFigureThatNoSheetStatesIsAskedBack(t *testing.T) {
	b := built(t, "flexible_cementitious")
	numbers := map[string]sheet.Said{}
	for name, said := range b.Film.Numbers {
		if !strings.HasPrefix(name, "cure_") {
			numbers[name] = said
		}
	}
	film := b.Film
	film.Numbers = numbers
	b.Film = film
	o, err := system.MakeOrder(b.System, b.Sheets())
	if err != nil {
		t.Fatal(err)
	}
	o.AskBack(b.Sheets())
	if len(o.Asked) != 1 || o.Asked[0] != (system.Asked{Step: "cure_complete", Product: "membrane", Figure: "cure"}) {
		t.Errorf("asked back: %+v", o.Asked)
	}
}

// A primer whose sheet prints no latest shuts nothing, and that is said.
func TestALatestThatASheetLeavesOutIsSaid(t *testing.T) {
	b := built(t, "flexible_cementitious")
	sheets := b.Sheets()
	primer := sheets["primer"]
	left := map[string]sheet.Said{}
	for name, said := range primer.Numbers {
		if !strings.HasPrefix(name, "recoat_latest_") {
			left[name] = said
		}
	}
	primer.Numbers = left
	sheets["primer"] = primer
	o, err := system.MakeOrder(b.System, sheets)
	if err != nil {
		t.Fatal(err)
	}
	o.AskBack(sheets)
	if !slices.Contains(o.Asked, system.Asked{Step: "bands", Product: "primer", Figure: "recoat_latest", Open: true}) {
		t.Errorf("asked back: %+v", o.Asked)
	}
}
