package takeoff_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"dusha/core/figure"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

// built plans with a system that was changed before.
func built(t *testing.T, membrane string, change func(*system.System), used ...system.Used) func(*takeoff.Inputs) {
	t.Helper()
	of, taken := systemtest.Of(membrane)
	change(&of)
	if err := of.Check(); err != nil {
		t.Fatal(err)
	}
	b, err := system.Build(of, append(taken, used...))
	if err != nil {
		t.Fatal(err)
	}
	return func(in *takeoff.Inputs) { in.Built = b }
}

func layer(s *system.System, id string) *system.Layer {
	return &s.Layers[slices.IndexFunc(s.Layers, func(l system.Layer) bool { return l.ID == id })]
}

func stated(value float64, unit string) *system.Figure {
	return &system.Figure{Value: &value, Unit: unit, Says: fmt.Sprint(value, " ", unit), Reason: "as this crew lays it"}
}

// Coats that differ, each by the means the system says: wet film, mass, volume, what a litre or a kilogram covers, in the
// units of the trade.
func TestCoatsThatDiffer(t *testing.T) {
	const density = 1.65
	rows := []struct {
		name string
		kind string
		f    *system.Figure
		wet  float64 // mm
	}{
		{"wet film", "wft_mm", stated(0.9, "mm"), 0.9},
		{"mass", "kg_m2", stated(1.98, "kg/m2"), 1.98 / density},
		{"volume", "L_m2", stated(1.1, "L/m2"), 1.1},
		{"what a litre covers", "m2_L", stated(0.8, "m2/L"), 1 / 0.8},
		{"what a kilogram covers", "m2_kg", stated(0.5, "m2/kg"), 2 / density},
		{"what a gallon covers", "m2_L", stated(40, "ft2/gal"), 3.785411784 / (40 * 0.09290304)},
		{"what a pound covers", "m2_kg", stated(2.5, "ft2/lb"), 0.45359237 / (2.5 * 0.09290304) / density},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			plan := planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
				film := layer(s, "film")
				film.Count = nil
				film.Coats[1].Target = &system.Target{Kind: row.kind, Figure: row.f}
			}))
			if first, second := plan.Coats[0].Wet.Value, plan.Coats[1].Wet.Value; math.Abs(first-1.2) > 1e-9 || math.Abs(second-row.wet) > 1e-9 {
				t.Errorf("coats of %v and %v mm, want 1.2 and %v", first, second, row.wet)
			}
			if got, want := plan.Coats[1].Need.Value, roomArea*row.wet*density*waste; math.Abs(got-want) > 1e-6 {
				t.Errorf("%v kg, want %v", got, want)
			}
		})
	}
}

// Of a range the dearer end is ordered, whichever way its unit counts.
func TestAStatedRangeIsOrderedAtItsDearerEnd(t *testing.T) {
	for unit, want := range map[string]float64{"L/m2": 1.4, "m2/L": 1 / 0.7} {
		low, high := map[string]float64{"L/m2": 1.0, "m2/L": 0.7}[unit], map[string]float64{"L/m2": 1.4, "m2/L": 1.0}[unit]
		plan := planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
			f := stated(low, unit)
			f.High = &high
			film := layer(s, "film")
			film.Count, film.Coats[0].Target = nil, &system.Target{Kind: "L_m2", Figure: f}
		}))
		if got := plan.Coats[0].Wet.Value; math.Abs(got-want) > 1e-9 {
			t.Errorf("%s: %v mm, want %v", unit, got, want)
		}
	}
}

// A total is shared evenly, or by stated shares; what carries a fleece is split over all the coats it lies in.
func TestATotalOverAllCoats(t *testing.T) {
	total := func(s *system.System) *system.Layer {
		film := layer(s, "film")
		film.Count, film.Total = nil, &system.Target{Kind: "kg_m2", Figure: stated(4, "kg/m2")}
		film.Coats = []system.Coat{{ID: "1"}, {ID: "2", On: "firm"}, {ID: "3", On: "firm"}}
		return film
	}
	plan := planned(t, "sample.pmma", built(t, "sample.pmma", func(s *system.System) {
		film := total(s)
		film.Carries[0].InCoat = []string{"1", "2"}
	}))
	resin, _ := sheet.Sample("sample.pmma")
	density, _ := resin.Number("mixed_density")
	for _, c := range plan.Coats {
		if math.Abs(c.Wet.Value-4.0/3/density.Value) > 1e-9 {
			t.Errorf("coat %d is %v mm", c.Number, c.Wet.Value)
		}
	}
	below, _ := plan.Figure("plan.mass.below_fleece")
	if want := 0.6 * (plan.Coats[0].Need.Value + plan.Coats[1].Need.Value); math.Abs(below.Value-want) > 1e-9 {
		t.Errorf("below the fleece %v kg, want %v", below.Value, want)
	}
	plan = planned(t, "sample.pmma", built(t, "sample.pmma", func(s *system.System) {
		film := total(s)
		for i, percent := range []float64{50, 30, 20} {
			film.Coats[i].Target = &system.Target{Kind: "share_percent", Figure: stated(percent, "percent")}
		}
	}))
	for i, share := range []float64{2, 1.2, 0.8} {
		if got := plan.Coats[i].Wet.Value; math.Abs(got-share/density.Value) > 1e-9 {
			t.Errorf("coat %d is %v mm", i+1, got)
		}
	}
}

// A layer lies where it is said to: on faces, up to a height, over some joints with a width of its own.
func TestWhereALayerLies(t *testing.T) {
	key := func(s *system.System, where ...system.Where) {
		layer(s, "primer").Where = where
	}
	area := func(t *testing.T, where ...system.Where) float64 {
		t.Helper()
		plan := planned(t, "sample.acrylic_dispersion", built(t, "sample.acrylic_dispersion", func(s *system.System) {
			key(s, where...)
			s.Layers = slices.DeleteFunc(s.Layers, func(l system.Layer) bool { return l.ID == "primer_dense" })
		}), func(in *takeoff.Inputs) {
			for i := range in.With {
				if in.With[i].Key == "primer" {
					delete(in.With[i].Sheet.Numbers, "margin")
				}
			}
		})
		for _, i := range plan.Items {
			if i.Role == "primer" && i.Need != nil {
				return i.Need.Value / waste / 0.15
			}
		}
		return 0
	}
	in := planned(t, "sample.acrylic_dispersion")
	kinds := map[string]float64{}
	walls := 0.0 // m, of which the film stands on
	for _, s := range in.Coats[0].Surface {
		kind, _, _ := strings.Cut(s.Surface, ".")
		kinds[kind] += s.Area
	}
	runs, _ := in.Figure("plan.junction.floor_wall")
	walls = runs.Value
	rows := []struct {
		name  string
		where []system.Where
		want  float64
	}{
		{"everywhere", []system.Where{{On: "field"}}, roomArea},
		{"on the floor", []system.Where{{On: "field", Faces: []string{"floor"}}}, kinds["floor"]},
		{"on what stands", []system.Where{{On: "field", Faces: []string{"upright"}}}, kinds["wall"]},
		{"up to 0.2 m, the floor with it", []system.Where{{On: "field", Up: 200}}, kinds["floor"] + 0.2*walls},
		{"from 0.2 m on", []system.Where{{On: "field", FromUp: 200}}, kinds["wall"] - 0.2*walls},
		{"floor and walls apart are each counted once", []system.Where{{On: "field", Faces: []string{"floor"}}, {On: "field", Faces: []string{"wall"}}, {On: "field"}}, roomArea},
		{"a strip of 100 mm along the floor's walls", []system.Where{{On: "joints", Joints: []string{"floor_wall"}, Width: 100}}, 0.1 * walls},
		{"in a basin alone", []system.Where{{On: "field", Areas: []string{"basin"}}}, 0},
		{"in a room", []system.Where{{On: "field", Areas: []string{"basin", "room"}}}, roomArea},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			if got := area(t, row.where...); math.Abs(got-row.want) > 1e-6 {
				t.Errorf("%v m², want %v", got, row.want)
			}
		})
	}
}

// Beads lie at all joints that their layer names, fillets where theirs says, by legs or by a radius.
func TestBeadsAndFilletsAtAllTheirJoints(t *testing.T) {
	plan := planned(t, "sample.flexible_cementitious")
	floor, _ := plan.Figure("plan.junction.floor_wall")
	before := item(t, plan, "sealant").Need.Value
	plan = planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
		beads := layer(s, "beads")
		beads.Where = append(beads.Where, system.Where{On: "joints", Joints: []string{"floor_wall"}})
		fillet := layer(s, "fillet")
		fillet.Where[0].Joints = []string{"floor_wall"}
		fillet.Coats[0].Target = &system.Target{Kind: "fillet_radius", Figure: stated(30, "mm")}
	}))
	if got, want := item(t, plan, "sealant").Need.Value-before, floor.Value*80/1000*1.5*waste; math.Abs(got-want) > 1e-9 {
		t.Errorf("beads along the floor take %v kg, want %v", got, want)
	}
	if got, want := item(t, plan, "fillet_mortar").Need.Value, floor.Value*900*(1-math.Pi/4)/1000*2.1*waste; math.Abs(got-want) > 1e-9 {
		t.Errorf("a round fillet takes %v kg, want %v", got, want)
	}
}

// Strips of two widths are cut, bought and bedded each by its own.
func TestBandsOfTwoWidths(t *testing.T) {
	wide, _ := sheet.Sample("sample.elastic_band")
	width, _ := wide.Number("band_width")
	margin, _ := func() (figure.Figure, error) {
		of, _ := sheet.Sample("sample.flexible_cementitious")
		return of.Number("band_margin")
	}()
	plain := planned(t, "sample.flexible_cementitious")
	plan := planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
		s.Products = append(s.Products, system.Product{Key: "band_wide", Product: wide.Of(), Role: "band"})
		bands := layer(s, "bands")
		bands.Carries[0].Where = []system.Where{{On: "joints", Joints: []string{"wall_wall"}}}
		bands.Carries = append(bands.Carries, system.Carries{Product: "band_wide", InCoat: []string{"below"}, How: "laid_in", Where: []system.Where{{On: "joints", Joints: []string{"floor_wall", "threshold"}}}})
	}, system.Used{Key: "band_wide", Sheet: wide}))
	lists := map[string]int{}
	for _, l := range plan.Cuts {
		for _, w := range l.Wants {
			if w.Kind == "band" {
				lists[l.Sheet]++
				if upright := strings.HasPrefix(w.Place, "wall_wall"); upright != (l.Sheet == "sample.mineral_band") {
					t.Errorf("%s is cut from %s", w.Place, l.Name)
				}
			}
		}
	}
	if lists[wide.ID] == 0 || lists["sample.mineral_band"] == 0 {
		t.Fatalf("bands by product: %v", lists)
	}
	along := 0.0
	for _, kind := range []string{"floor_wall", "threshold"} {
		sum, _ := plan.Figure("plan.junction." + kind)
		along += sum.Value
	}
	upright, _ := plan.Figure("plan.junction.wall_wall")
	bedding, _ := plan.Figure("plan.mass.bedding")
	was, _ := plain.Figure("plan.mass.bedding")
	perMetre := was.Value / (along + upright.Value) / (120 + margin.Value)
	if want := perMetre * (along*(width.Value+margin.Value) + upright.Value*(120+margin.Value)); math.Abs(bedding.Value-want) > 1e-9 {
		t.Errorf("bedding %v kg, want %v", bedding.Value, want)
	}
}

// A leg takes its collar and the film that goes up it, an outlet a flange, a screw a bead and no piece.
func TestEachFittingTakesItsOwn(t *testing.T) {
	fittings := func(list ...wetarea.Penetration) func(*takeoff.Inputs) {
		return func(in *takeoff.Inputs) { in.Area.Penetrations = list }
	}
	pieces := func(p takeoff.Plan) map[string]string {
		kinds := map[string]string{}
		for _, piece := range p.Pieces {
			if strings.HasPrefix(piece.ID, "fitting") {
				kinds[piece.ID] = piece.Kind
			}
		}
		return kinds
	}
	none := planned(t, "sample.flexible_cementitious", fittings())
	plan := planned(t, "sample.flexible_cementitious", fittings(
		wetarea.Penetration{ID: "fitting.1", Kind: "leg", Surface: "floor", Diameter: 60, Height: 300, Collar: 100},
		wetarea.Penetration{ID: "fitting.2", Kind: "outlet", Surface: "floor", Diameter: 80},
		wetarea.Penetration{ID: "fitting.3", Kind: "fixing", Surface: "wall.a", Diameter: 8},
		wetarea.Penetration{ID: "fitting.4", Kind: "pipe", Surface: "wall.a", Diameter: 30},
	))
	if got := fmt.Sprint(pieces(plan)); got != "map[fitting.1:collar fitting.2:flange fitting.4:collar]" {
		t.Errorf("pieces %v", got)
	}
	for role, want := range map[string]float64{"collar": 2, "flange": 1} {
		if got := item(t, plan, role).Need.Value; got != want {
			t.Errorf("%v of %s, want %v", got, role, want)
		}
	}
	if got, want := item(t, plan, "sealant").Need.Value, math.Pi*(60+80+8+30)/1000*80/1000*1.5*waste; math.Abs(got-want) > 1e-9 {
		t.Errorf("beads %v kg, want %v", got, want)
	}
	below, above := 0.0, 0.0
	of, _ := sheet.Sample("sample.flexible_cementitious")
	for name, into := range map[string]*float64{"bed_below": &below, "bed_above": &above} {
		said, _ := of.Number(name)
		*into = said.Value
	}
	was, _ := none.Figure("plan.mass.bedding")
	now, _ := plan.Figure("plan.mass.bedding")
	if want := math.Pi * 0.060 * 0.100 * (below + above) * waste; math.Abs(now.Value-was.Value-want) > 1e-9 {
		t.Errorf("film up the leg takes %v kg, want %v", now.Value-was.Value, want)
	}
}

// A system without bands and corners buys, cuts and beds none.
func TestASystemWithoutBands(t *testing.T) {
	plan := planned(t, "sample.polyurethane", built(t, "sample.polyurethane", func(s *system.System) {
		s.Layers = slices.DeleteFunc(s.Layers, func(l system.Layer) bool {
			return slices.Contains([]string{"bands", "legs", "stripes", "breakers"}, l.ID)
		})
	}))
	for _, p := range plan.Pieces {
		if p.Kind != "collar" && p.Kind != "flange" {
			t.Errorf("%s is bedded as a %s", p.ID, p.Kind)
		}
	}
	if _, is := plan.Figure("plan.mass.bedding"); is || len(plan.Cuts) != 0 {
		t.Errorf("bedding is asked, %d lists to cut", len(plan.Cuts))
	}
	if i := slices.IndexFunc(plan.Items, func(i takeoff.Item) bool { return i.Role == "band" }); i >= 0 {
		t.Errorf("a band is bought: %+v", plan.Items[i])
	}
}

// The order in which layers that do not touch are listed changes no quantity.
func TestLayersThatDoNotTouchMayBeListedInAnyOrder(t *testing.T) {
	for _, s := range system.Samples() {
		film, _ := s.Membrane()
		straight := values(planned(t, film.Product))
		turned := values(planned(t, film.Product, built(t, film.Product, func(s *system.System) {
			// Details among themselves, and fillets, plugs and repairs: none of them lies on another.
			free := func(l system.Layer) bool {
				return slices.Contains([]string{"plug", "repair", "fillet", "beads", "breakers", "corners", "collars", "flanges", "legs", "stripes", "masking"}, l.ID)
			}
			var at []int
			for i, l := range s.Layers {
				if free(l) {
					at = append(at, i)
				}
			}
			for k := range len(at) / 2 {
				a, b := at[k], at[len(at)-1-k]
				s.Layers[a], s.Layers[b] = s.Layers[b], s.Layers[a]
			}
		})))
		for name, value := range straight {
			if math.Abs(turned[name]-value) > 1e-9 {
				t.Errorf("%s: %s is %v, listed otherwise %v", s.Name, name, value, turned[name])
			}
		}
	}
}

// What a layer asks and no sheet states is said, at the product or, of the film, as why there is no plan.
func TestWhatALayerCannotBeWorkedOutFrom(t *testing.T) {
	plan := planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
		s.Layers = append(s.Layers, system.Layer{
			ID: "strip", Product: "primer", Where: []system.Where{{On: "joints", Joints: []string{"floor_wall"}}},
			Coats: []system.Coat{{ID: "1", Target: &system.Target{Kind: "kg_m2", Figure: &system.Figure{Of: "primer.rate"}}}},
		})
	}))
	if got := item(t, plan, "primer"); got.Fault == nil || got.Fault.Key != "plan.no_width" || got.Need != nil {
		t.Errorf("a strip of no width: %+v", got)
	}
	shape := wetareatest.Shapes["flat roof"]
	area := wetareatest.Complete(t, shape.Form, shape.Typed)
	area.Surfaces = slices.DeleteFunc(area.Surfaces, func(s wetarea.Surface) bool { return s.Kind != "floor" })
	in := takeoff.Inputs{Area: *area, Rules: rules.Generic(), Texture: "fine"}
	built(t, "sample.flexible_cementitious", func(s *system.System) { layer(s, "film").Where[0].Faces = []string{"wall"} })(&in)
	if _, err := takeoff.MakePlan(in); err == nil || !strings.Contains(err.Error(), "plan.layer_nowhere") {
		t.Errorf("a film for walls on a deck without: %v", err)
	}
	walls, _ := systemtest.Of("sample.acrylic_dispersion")
	both, used := systemtest.Joined("sample.flexible_cementitious", "sample.acrylic_dispersion")
	var err error
	if in.Built, err = system.Build(both, used); err != nil {
		t.Fatal(err)
	}
	if _, err := takeoff.MakePlan(in); err == nil || !strings.Contains(err.Error(), walls.Name) {
		t.Errorf("a system for walls where none stands: %v", err)
	}
}

// Two systems in one room take each their own on their faces, and together what their parts take.
func TestTwoSystemsInOneRoom(t *testing.T) {
	both, used := systemtest.Joined("sample.flexible_cementitious", "sample.acrylic_dispersion")
	b, err := system.Build(both, used)
	if err != nil {
		t.Fatal(err)
	}
	plan := planned(t, "sample.flexible_cementitious", func(in *takeoff.Inputs) { in.Built = b })
	for i, want := range []string{"[floor]", "[floor]", "[wall]", "[wall]"} {
		if i >= len(plan.Coats) || fmt.Sprint(faces(plan.Coats[i])) != want {
			t.Fatalf("coat %d lies on %v, want %s", i+1, plan.Coats, want)
		}
	}
	for i, want := range []bool{true, false, true, false} {
		if plan.Coats[i].Fills != want {
			t.Errorf("coat %d fills the texture: %v", i+1, plan.Coats[i].Fills)
		}
	}
	area := 0.0
	for _, s := range plan.Coats[2].Surface {
		area += s.Area
	}
	alone := planned(t, "sample.acrylic_dispersion")
	if got, want := plan.Coats[3].Need.Value/area, alone.Coats[1].Need.Value/roomArea; math.Abs(got-want) > 1e-9 {
		t.Errorf("a m² of wall takes %v kg, want %v", got, want)
	}
	films := map[string]bool{}
	for _, i := range plan.Items {
		if i.Role == "membrane" && i.Need != nil {
			films[i.Sheet] = true
		}
	}
	if len(films) != 2 {
		t.Errorf("films %v", films)
	}
	bands := map[string]int{}
	for _, p := range plan.Pieces {
		bands[p.Layer+" "+p.Kind]++
	}
	if bands["floor_bands band"] == 0 || bands["walls_bands band"] == 0 || bands["walls_bands band"]+bands["floor_bands band"] != len(slices.DeleteFunc(slices.Clone(alone.Pieces), func(p takeoff.Piece) bool { return p.Kind != "band" })) {
		t.Errorf("pieces %v", bands)
	}
}

// The same products worked in two ways take what they take in one.
func TestAWayThatHoldsForAPlaceChangesNoQuantity(t *testing.T) {
	straight := planned(t, "sample.flexible_cementitious")
	apart := planned(t, "sample.flexible_cementitious", built(t, "sample.flexible_cementitious", func(s *system.System) {
		s.Ways = append(s.Ways, system.Way{School: "details", Way: "wet_on_wet", Where: &system.Where{On: "field", Faces: []string{"upright"}}})
	}))
	for _, name := range []string{"plan.mass.total", "plan.mass.bedding", "plan.buy.kits", "plan.buy.band_need"} {
		one, _ := straight.Figure(name)
		other, _ := apart.Figure(name)
		if math.Abs(one.Value-other.Value) > 2e-3 {
			t.Errorf("%s: %v, apart %v", name, one.Value, other.Value)
		}
	}
	if len(apart.Coats) != 4 || len(apart.Pieces) != len(straight.Pieces) || len(apart.Items) != len(straight.Items) {
		t.Errorf("%d coats, %d of %d pieces, %d of %d items", len(apart.Coats), len(apart.Pieces), len(straight.Pieces), len(apart.Items), len(straight.Items))
	}
}

// A primer that is laid again before a later coat is bought again.
func TestAPrimerLaidAgainIsBoughtAgain(t *testing.T) {
	concrete := patched(wetarea.Patch{ID: "1", Surface: "all", Material: "concrete"})
	once := item(t, planned(t, "sample.polyurethane", concrete), "primer")
	plan := planned(t, "sample.polyurethane", built(t, "sample.polyurethane", func(s *system.System) {
		for i := range s.Ways {
			if s.Ways[i].School == "primer_return" {
				s.Ways[i].Way = "before_every_return"
			}
		}
	}), concrete)
	twice := item(t, plan, "primer")
	of, _ := sheet.Sample(once.Sheet)
	rate, _ := of.Number("rate")
	coats, _ := of.Number("coats")
	if want := once.Need.Value + roomArea*rate.Value*coats.Value*waste; math.Abs(twice.Need.Value-want) > 1e-9 {
		t.Errorf("%v kg of primer, once %v, want %v", twice.Need.Value, once.Need.Value, want)
	}
	var steps []string
	for _, p := range twice.Portions {
		steps = append(steps, p.Step)
	}
	if !slices.Equal(steps, []string{"prime", "prime_2"}) {
		t.Errorf("it is taken at %v", steps)
	}
}

// What is laid under the film may share a total too; round a fitting it goes up as far as is said and out as far.
func TestLayersBesideTheFilm(t *testing.T) {
	concrete := patched(wetarea.Patch{ID: "1", Surface: "all", Material: "concrete"})
	plan := planned(t, "sample.polyurethane", built(t, "sample.polyurethane", func(s *system.System) {
		primer := layer(s, "primer")
		primer.Count, primer.Total = nil, &system.Target{Kind: "kg_m2", Figure: stated(0.5, "kg/m2")}
		primer.Coats = []system.Coat{{ID: "1"}, {ID: "2", Target: &system.Target{Kind: "share_percent", Figure: stated(20, "percent")}}}
	}), concrete, func(in *takeoff.Inputs) { in.Area.Termination = 0 })
	if got, want := item(t, plan, "primer").Need.Value, roomArea*0.5*waste; math.Abs(got-want) > 1e-9 {
		t.Errorf("two shares of half a kilogram: %v kg, want %v", got, want)
	}
	half := planned(t, "sample.polyurethane", built(t, "sample.polyurethane", func(s *system.System) {
		film := layer(s, "film")
		film.Count, film.Total = nil, &system.Target{Kind: "kg_m2", Figure: stated(2.8, "kg/m2")}
		film.Coats = []system.Coat{{ID: "1", Target: &system.Target{Kind: "kg_m2", Figure: stated(1.4, "kg/m2")}}, {ID: "2", On: "firm"}, {ID: "3", On: "firm"}}
	}))
	for i, want := range []float64{1, 0.5, 0.5} { // 1.4 kg/L
		if got := half.Coats[i].Wet.Value; math.Abs(got-want) > 1e-9 {
			t.Errorf("of 2 mm in all, half in the first: coat %d is %v mm", i+1, got)
		}
	}
	plan = planned(t, "sample.polyurethane", built(t, "sample.polyurethane", func(s *system.System) {
		s.Layers = slices.DeleteFunc(s.Layers, func(l system.Layer) bool { return l.ID == "primer_dense" })
		primer := layer(s, "primer")
		primer.Count, primer.Where = nil, []system.Where{{On: "fittings", Fittings: []string{"pipe"}, Up: 80, Out: 50}}
		primer.Coats = []system.Coat{{ID: "1", Target: &system.Target{Kind: "kg_m2", Figure: stated(2, "kg/m2")}}}
	}), concrete, func(in *takeoff.Inputs) {
		in.Area.Penetrations = []wetarea.Penetration{{ID: "fitting.1", Kind: "pipe", Surface: "wall.a", Diameter: 40}}
	})
	if got, want := item(t, plan, "primer").Need.Value, math.Pi*(0.040*0.080+0.070*0.070-0.020*0.020)*2*waste; math.Abs(got-want) > 1e-9 {
		t.Errorf("round a pipe %v kg, want %v", got, want)
	}
}
