package choice_test

import (
	"slices"
	"strings"
	"testing"

	"dusha/core/choice"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// room is a shower room of 2.4 × 1.8 m.
func room(t *testing.T) (wetarea.Area, wetarea.Survey) {
	t.Helper()
	asked, err := wetarea.Ask("rectangle", map[string]string{
		"length": "2400", "width": "1800", "walls.a.height": "2100", "walls.b.height": "2100", "walls.c.height": "2100", "walls.d.height": "2100",
		"doorway.wall": "c", "doorway.from_left": "750", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1200", "drain.from_a": "400", "drain.diameter": "110", "pipes.count": "0",
	})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	return *asked.Area, wetarea.Survey{Form: "rectangle", Answers: asked.Form.Answers()}
}

func rank(t *testing.T, typed map[string]string, change func(*wetarea.Area)) map[string]choice.Option {
	t.Helper()
	byID := map[string]choice.Option{}
	for _, o := range ranked(t, typed, change) {
		byID[strings.TrimPrefix(o.System, "sample.system.")] = o
	}
	return byID
}

func ranked(t *testing.T, typed map[string]string, change func(*wetarea.Area)) []choice.Option {
	t.Helper()
	area, survey := room(t)
	if change != nil {
		change(&area)
	}
	form, asked := choice.Ask(area, typed, nil)
	if faults := form.Faults(); len(faults) > 0 {
		t.Fatal(faults)
	}
	if typed["nobody"] == "" {
		asked.Unasked = nil // all was answered as it was offered
	}
	return choice.Rank(choice.Ground{
		Area: area, Rules: rules.Generic(), Asked: asked, Library: sheet.Samples(), Systems: system.Samples(), Samples: true,
		Inputs: func(s system.System, _ sheet.Sheet, used []system.Used) takeoff.Inputs {
			built, err := system.Build(s, used)
			if err != nil {
				t.Fatal(err)
			}
			return takeoff.Inputs{Survey: survey, SurveyRef: "survey", Area: area, Built: built, Rules: rules.Generic(), Texture: "fine"}
		},
	})
}

// What nobody answered is not known, and no system suits by it: neither by an offered temperature.
func TestWhatWasNotAskedIsNotKnown(t *testing.T) {
	for _, o := range ranked(t, map[string]string{"nobody": "asked"}, nil) {
		unknown := 0
		for _, s := range o.Stops {
			if s.Key == "asked_unknown" && s.Says == "not_known" {
				unknown++
			}
		}
		if unknown != 6 {
			t.Errorf("%s: %+v, want six questions not known", o.Name, o.Stops)
		}
	}
	area, _ := room(t)
	cold := -5.0
	if _, asked := choice.Ask(area, nil, &cold); asked.Temp != cold || slices.Contains(asked.Unasked, "choice.temp") {
		t.Errorf("-5 °C was read on site, and %v is taken (%v)", asked.Temp, asked.Unasked)
	}
	// Water from behind of a head that nobody knows.
	for name, o := range rank(t, nil, func(a *wetarea.Area) {
		a.Patches = []wetarea.Patch{{Surface: "floor", Material: "concrete", WaterSide: "negative"}}
	}) {
		if !slices.ContainsFunc(o.Stops, func(s choice.Stop) bool { return s.Key == "negative_head_unknown" && s.Says == "not_known" }) {
			t.Errorf("%s stops at %v", name, o.Stops)
		}
	}
}

func TestHardStops(t *testing.T) {
	patch := func(p wetarea.Patch) func(*wetarea.Area) {
		return func(a *wetarea.Area) { a.Patches = []wetarea.Patch{p} }
	}
	tank := func(a *wetarea.Area) {
		a.Shape, a.Water = "round_tank", &wetarea.Water{}
		a.Heads = []wetarea.Head{{Surface: "wall.a", Positive: 2000}}
	}
	wet := 5.5
	rows := []struct {
		name   string
		typed  map[string]string
		change func(*wetarea.Area)
		system string
		stop   string // "" : none
	}{
		{"a dry room asks nothing", nil, nil, "acrylic_dispersion", ""},
		{"water from behind without a rating", nil, patch(wetarea.Patch{Surface: "floor", WaterSide: "negative", Head: 1000}), "flexible_cementitious", "negative_unrated"},
		{"water from behind that is borne", nil, patch(wetarea.Patch{Surface: "floor", Material: "concrete", WaterSide: "negative", Head: 1000}), "crystallising_slurry", ""},
		{"more water from behind than is borne", nil, patch(wetarea.Patch{Surface: "floor", Material: "concrete", WaterSide: "negative", Head: 21000}), "crystallising_slurry", "negative"},
		{"a tank that a dispersion does not bear", nil, tank, "acrylic_dispersion", "submersion"},
		{"a head above the rating", nil, func(a *wetarea.Area) { tank(a); a.Heads[0].Positive = 11000 }, "flexible_cementitious", "positive"},
		{"drinking water", map[string]string{"choice.potable": "yes"}, nil, "flexible_cementitious", "potable"},
		{"drinking water, rated for it", map[string]string{"choice.potable": "yes"}, nil, "crystallising_slurry", ""},
		{"sun", map[string]string{"choice.sun": "yes"}, nil, "flexible_cementitious", "uv"},
		{"sun under a top coat", map[string]string{"choice.sun": "yes"}, nil, "polyurethane", ""},
		{"vehicles", map[string]string{"choice.traffic": "vehicles"}, nil, "polyurethane", "traffic"},
		{"vehicles where they are borne", map[string]string{"choice.traffic": "vehicles"}, nil, "pmma", ""},
		{"feet over a protection board", map[string]string{"choice.traffic": "foot"}, nil, "acrylic_dispersion", ""},
		{"old metal", nil, patch(wetarea.Patch{Surface: "floor", Material: "metal"}), "flexible_cementitious", "substrate"},
		{"a base the sheet does not name", nil, patch(wetarea.Patch{Surface: "floor", Material: "timber"}), "flexible_cementitious", "substrate_unstated"},
		{"a damp base", map[string]string{"choice.damp": "yes"}, nil, "acrylic_dispersion", "damp"},
		{"a reading over the limit", nil, patch(wetarea.Patch{Surface: "floor", Material: "screed", Moisture: &wet}), "acrylic_dispersion", "moisture"},
		{"a reading within it", nil, patch(wetarea.Patch{Surface: "floor", Material: "screed", Moisture: &wet}), "flexible_cementitious", ""},
		{"too cold", map[string]string{"choice.temp": "4"}, nil, "flexible_cementitious", "temperature"},
		{"cold, and made for it", map[string]string{"choice.temp": "1"}, nil, "pmma", ""},
		{"vapour that must get out", map[string]string{"choice.open": "yes"}, nil, "pmma", "vapour"},
		{"solvent in a tank", nil, tank, "polyurethane", "confined"},
		{"walls on felt", nil, nil, "bitumen_felt", "slope_walls"},
		{"a joint that moves too far", nil, func(a *wetarea.Area) { a.Features = []wetarea.Feature{{ID: "line.1", Movement: 15}} }, "flexible_cementitious", "movement"},
		{"a joint that a stretchy film bears", nil, func(a *wetarea.Area) { a.Features = []wetarea.Feature{{ID: "line.1", Movement: 15}} }, "polyurethane", ""},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			var keys []string
			for _, stop := range rank(t, row.typed, row.change)[row.system].Stops {
				keys = append(keys, stop.Key)
			}
			if row.stop == "" && len(keys) > 0 || row.stop != "" && !slices.Contains(keys, row.stop) {
				t.Errorf("%s stops at %v, want %q", row.system, keys, row.stop)
			}
		})
	}
}

// Stopped systems come last; the others by time, then cost, then layers.
func TestTheOrderOfTheList(t *testing.T) {
	options := ranked(t, map[string]string{"choice.damp": "yes"}, nil)
	if len(options) != len(system.Samples()) {
		t.Fatalf("%d of %d systems are ranked", len(options), len(system.Samples()))
	}
	fit := 0
	for i, o := range options {
		fit += map[bool]int{true: 1}[len(o.Stops) == 0]
		if i == 0 {
			continue
		}
		before := options[i-1]
		if len(before.Stops) > 0 && len(o.Stops) == 0 {
			t.Errorf("%s is stopped and stands before %s", before.Name, o.Name)
		}
		if (len(before.Stops) > 0) == (len(o.Stops) > 0) && before.Hours.Value > o.Hours.Value {
			t.Errorf("%s takes longer and stands before %s", before.Name, o.Name)
		}
	}
	if fit < 3 {
		t.Errorf("only %d systems fit a damp room", fit)
	}
}

// Bands 6 h, coat 6 h, cure 72 h at 20 °C; 12, 12 and 168 h at 10 °C.
func TestTimeUntilTheTest(t *testing.T) {
	for temp, want := range map[string]float64{"20": 84, "10": 192} {
		if got := rank(t, map[string]string{"choice.temp": temp}, nil)["flexible_cementitious"].Hours; got == nil || got.Value != want {
			t.Errorf("at %s °C: %v h, want %v", temp, got, want)
		}
	}
	// Primer 2 h, bands 3 h, coat 3 h, cure 72 h.
	if got := rank(t, nil, nil)["acrylic_dispersion"].Hours; got == nil || got.Value != 80 {
		t.Errorf("with a primer: %v h", got)
	}
}

func TestABuildUpAndItsTolerance(t *testing.T) {
	options := rank(t, nil, nil)
	var kinds []string
	for _, l := range options["bitumen_felt"].Build {
		kinds = append(kinds, l.Kind)
	}
	if got := strings.Join(kinds, " "); got != "base primer band coat sheet coat sheet coat protection" {
		t.Errorf("two felts: %s", got)
	}
	// 1.2 mm between 0.5 and 1.6: 0.4 of 1.2.
	if got := options["flexible_cementitious"].Tolerance; got == nil || *got < 33.3 || *got > 33.4 {
		t.Errorf("tolerance %v %%", got)
	}
	if got := options["bonded_sheet"].Tolerance; got != nil {
		t.Errorf("a sheet without a least film has a tolerance of %v", *got)
	}
}

func TestAnAnswerThatCannotBeRight(t *testing.T) {
	area, _ := room(t)
	form, _ := choice.Ask(area, map[string]string{"choice.temp": "90", "choice.traffic": "camels"}, nil)
	var fields []string
	for _, f := range form.Faults() {
		fields = append(fields, f.Field)
	}
	if !slices.Equal(fields, []string{"choice.traffic", "choice.temp"}) {
		t.Errorf("faults at %v", fields)
	}
}
