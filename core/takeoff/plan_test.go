package takeoff_test

import (
	"fmt"
	"maps"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// bare is the first sample system without what goes with it.
func bare() system.Built {
	built := systemtest.Built(sheet.Samples()[0].ID)
	built.With = nil
	return built
}

// inputs is a 2.4 × 1.8 m shower room on the sample sheet.
func inputs(t *testing.T) takeoff.Inputs {
	t.Helper()
	asked, err := wetarea.Ask("rectangle", map[string]string{
		"length": "2400", "width": "1800", "walls.a.height": "2100", "walls.b.height": "2100", "walls.c.height": "300", "walls.d.height": "2100",
		"doorway.wall": "c", "doorway.from_left": "750", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1200", "drain.from_a": "400", "drain.diameter": "110", "pipes.count": "2",
		"pipes.1.surface": "wall.a", "pipes.1.along": "1120", "pipes.1.up": "1100", "pipes.1.diameter": "22",
		"pipes.2.surface": "wall.a", "pipes.2.along": "1280", "pipes.2.up": "1100", "pipes.2.diameter": "22",
	})
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	survey := wetarea.Survey{Form: "rectangle", Answers: asked.Form.Answers()}
	return takeoff.Inputs{Survey: survey, SurveyRef: "the survey", Area: *asked.Area, Built: bare(), Rules: rules.Generic(), Texture: "fine"}
}

func makePlan(t *testing.T, in takeoff.Inputs) takeoff.Plan {
	t.Helper()
	plan, err := takeoff.MakePlan(in)
	if err != nil {
		t.Fatal(err)
	}
	return plan
}

func values(plan takeoff.Plan) map[string]float64 {
	found := map[string]float64{}
	for _, line := range plan.Lines {
		name := line.Figure.Name
		for _, key := range []string{"surface", "coat"} {
			if arg, is := line.Figure.Args[key]; is {
				name += fmt.Sprintf(" %v", arg)
			}
		}
		found[name] = line.Figure.Value
	}
	return found
}

// Worked by hand from the sample sheet: 1.2 mm, 1.65 kg/L, R 0.15 mm, 5 % waste, kit 20.4 kg,
// bands 120 mm with 60 mm laps, bed 40 mm wider at 1.1 + 0.8 kg/m².
func TestAPlanWorkedByHand(t *testing.T) {
	got := values(makePlan(t, inputs(t)))
	const area = 4.32 + 5.04 + 3.78 + 0.45 + 3.78
	const runs = 2.4 + 1.8 + 1.5 + 1.8 + 0.9 + 4*2.1
	const folds, patches = 4 * 0.12, 2*0.15 + 0.23 // no corner and no collar is bought: 22 and 110 mm, each 120 mm wider
	const coat1, coat2, bed = area * 1.35 * 1.65, area * 1.2 * 1.65, runs * 0.16 * 1.9
	for name, want := range map[string]float64{
		"plan.area.surface floor":  4.32,
		"plan.area.surface wall.c": 0.45,
		"plan.area.total":          area,
		"plan.junction.floor_wall": 7.5,
		"plan.junction.threshold":  0.9,
		"plan.junction.wall_wall":  8.4,
		"plan.junction.total":      runs,
		"plan.piece.corner":        4,
		"plan.piece.collar":        2,
		"plan.piece.flange":        1,
		"plan.mass.coat 1":         coat1 * 1.05,
		"plan.mass.coat 2":         coat2 * 1.05,
		"plan.mass.bedding":        bed * 1.05,
		"plan.mass.total":          math.Round((coat1+coat2+bed)*1050) / 1000,
		"plan.buy.kits":            math.Ceil((coat1 + coat2 + bed) * 1.05 / 20.4),
		"plan.buy.band_need":       runs + 10*2*0.06 + folds + patches,
		"plan.buy.band":            20,
	} {
		if math.Abs(got[name]-want) > 1e-9 {
			t.Errorf("%s: got %v, want %v", name, got[name], want)
		}
	}
}

func TestWhatACoatAsksFor(t *testing.T) {
	for _, coat := range makePlan(t, inputs(t)).Coats {
		if math.Abs(coat.Wet.Value-1.2) > 1e-9 || math.Abs(coat.Least.Value-0.96) > 1e-9 { // 80 % of 1.2 mm
			t.Errorf("coat %d asks %v mm, least %v", coat.Number, coat.Wet.Value, coat.Least.Value)
		}
		want := map[int]float64{1: 1.35 * 1.65 * 1.05, 2: 1.2 * 1.65 * 1.05}[coat.Number]
		if math.Abs(coat.PerM2.Value-want) > 1e-9 {
			t.Errorf("coat %d takes %v kg/m², want %v", coat.Number, coat.PerM2.Value, want)
		}
	}
}

// Every figure opens to its rule, inputs and source: the tree ends in leaves that were
// read somewhere, and each rule has its heading in docs/rules.md.
func TestEveryFigureOpensToItsLeaves(t *testing.T) {
	text, err := os.ReadFile("../../docs/rules.md")
	if err != nil {
		t.Fatal(err)
	}
	headings := strings.Split(string(text), "\n")
	plan := makePlan(t, inputs(t))
	figures := []figure.Figure{}
	for _, line := range plan.Lines {
		figures = append(figures, line.Figure)
	}
	for _, coat := range plan.Coats {
		figures = append(figures, coat.Wet, coat.PerM2, coat.Need, coat.Least)
	}
	leaves := 0
	for _, f := range figures {
		figure.Walk(f, func(f figure.Figure) {
			switch {
			case (f.Rule == "") == (f.Source == nil):
				t.Errorf("%s: rule %q and source %v; want exactly one", f.Name, f.Rule, f.Source)
			case f.Source != nil && (f.Source.Ref == "" || f.Source.Says == ""):
				t.Errorf("%s: a leaf that says not where it was read: %+v", f.Name, f.Source)
			case f.Rule != "" && len(f.Inputs) == 0:
				t.Errorf("%s: worked out from nothing", f.Name)
			case f.Rule != "" && !slices.Contains(headings, "### "+f.Rule):
				t.Errorf("%s: docs/rules.md has no rule %s", f.Name, f.Rule)
			case f.Source != nil:
				leaves++
			}
			if f.Unit == "" {
				t.Errorf("%s has no unit", f.Name)
			}
		})
	}
	if leaves < 100 {
		t.Errorf("only %d leaves: the walk did not reach them", leaves)
	}
}

func TestTotalsTraceBackToSurfacesAndDoubleWithTheArea(t *testing.T) {
	plan := makePlan(t, inputs(t))
	for _, coat := range plan.Coats {
		mass := 0.0
		for _, share := range coat.Surface {
			mass += share.Mass
		}
		if math.Abs(mass-coat.Need.Value) > 1e-9 {
			t.Errorf("coat %d: surfaces add up to %v kg, the coat needs %v", coat.Number, mass, coat.Need.Value)
		}
	}
	one, _ := takeoff.CoatMass(10, takeoff.Film{Coats: 2, WetPerCoat: 1.2}, 1.65, 10*0.15, 5)
	two, _ := takeoff.CoatMass(20, takeoff.Film{Coats: 2, WetPerCoat: 1.2}, 1.65, 20*0.15, 5)
	if math.Abs(two.WithWaste-2*one.WithWaste) > 1e-9 {
		t.Errorf("double the area: %v kg, want %v", two.WithWaste, 2*one.WithWaste)
	}
}

func TestAMissingFigureIsNamed(t *testing.T) {
	for _, name := range []string{"mixed_density", "kit", "wft_per_coat", "band_roll", "bed_above"} {
		in := inputs(t)
		in.Film.Numbers = maps.Clone(in.Film.Numbers)
		delete(in.Film.Numbers, name)
		delete(in.Film.Numbers, "rate") // what a film or a kit may come from besides
		in.Film.Packs = nil
		_, err := takeoff.MakePlan(in)
		if faults := fault.Of(err); len(faults) != 1 || faults[0].Key != "sheet.not_stated" || faults[0].Field != "sheet."+name {
			t.Errorf("without %s: %v", name, err)
		}
	}
	in := inputs(t)
	in.Texture = "velvet"
	if _, err := takeoff.MakePlan(in); err == nil {
		t.Error("a texture that no rule knows was planned")
	}
}

func of(roll int, lengths ...int) cutting.Bands {
	b := rolled(lengths...).Bands
	b.Roll = roll
	return b
}

func TestRolls(t *testing.T) {
	rows := []struct {
		name    string
		lengths []int
		want    int
	}{
		{"one short run", []int{900}, 1},
		{"exactly a roll", []int{10000}, 1},
		{"longest first saves a roll", []int{4000, 4000, 6000, 6000}, 2},
		{"longer than a roll is laid in two overlapping parts", []int{12000}, 2},
		{"rests take the short ones", []int{9000, 9000, 1000, 1000}, 2},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if got, err := of(10000, row.lengths...).Rolls(); err != nil || got != row.want {
				t.Errorf("got %d, %v, want %d", got, err, row.want)
			}
		})
	}
	if _, err := of(50, 100).Rolls(); err == nil {
		t.Error("a roll shorter than its lap was used")
	}
}

// A joint that does not move and a crack that is dead are striped with the film, not bridged: no band is cut for them.
func TestNoBandIsTakenForJointsThatDoNotMove(t *testing.T) {
	plain := values(planned(t, "sample.flexible_cementitious"))
	for kind, banded := range map[string]bool{"cold": false, "crack_dead": false, "crack_live": true} {
		plan := planned(t, "sample.flexible_cementitious", func(in *takeoff.Inputs) {
			in.Area.Junctions = append(slices.Clone(in.Area.Junctions), wetarea.Junction{ID: "line.9", Kind: kind, Turn: "flat", Length: 1500})
		})
		cut := slices.ContainsFunc(plan.Pieces, func(p takeoff.Piece) bool { return p.ID == "band.line.9" })
		if same := maps.Equal(values(plan), plain); cut != banded || same {
			t.Errorf("%s: a band is cut %v, quantities as without it %v; banded %v", kind, cut, same, banded)
		}
	}
}
