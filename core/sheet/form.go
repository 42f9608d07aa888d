package sheet

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"dusha/core/ask"
	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/substrate"
	"dusha/core/units"
)

// Roles are what a product is for.
var Roles = []string{
	"membrane", "primer", "band", "corner", "collar", "flange", "sheet", "fleece", "mesh", "bond_breaker", "sealant", "fillet_mortar", "repair_mortar",
	"leak_plug", "seam_tape", "gauging_liquid", "catalyst", "accelerator", "thickener", "cleaner", "top_coat", "aggregate", "overlay_additive", "grip_coat",
	"protection", "masking",
	"water_stop", "trim", "injection_resin", "screed", "smoothing_compound", "covering_adhesive", "covering", "grout", "sealer", "vapour_coat", "renovation_plaster",
	"reflective_coat",
}

// entered is one figure of the form that a sheet is filled by: a number in a unit, or a choice.
type entered struct {
	name, want  string
	least, most float64
	roles       string // that have it, parted by blanks; "part", "mixed" or "chemistry": what its parts or its chemistry ask; "+mixed": of what else is mixed too
	options     string // of a choice, parted by blanks; "laws": the ways in which a film sets
	mayLack     bool   // untyped it counts as not stated
}

const (
	finish  = "smoothing_compound covering_adhesive covering grout sealer vapour_coat renovation_plaster"
	liquids = "membrane primer sealant fillet_mortar repair_mortar leak_plug gauging_liquid top_coat grip_coat reflective_coat screed injection_resin " + finish
	spread  = "membrane primer top_coat grip_coat reflective_coat protection aggregate " + finish
	strips  = "band sheet fleece mesh seam_tape bond_breaker water_stop"
	dosed   = "catalyst accelerator thickener overlay_additive"
	yesOrNo = "yes no"
)

// form lists the figures of a sheet in the order in which they are asked.
var form = []entered{
	{name: "ratio_by", options: "mass volume", roles: "mixed"},
	{name: "part_a", want: "parts", least: 0.01, most: 10000, roles: "part"},
	{name: "part_b", want: "parts", least: 0.01, most: 10000, roles: "part"},
	{name: "part_b_-10", want: "parts", least: 0.01, most: 100, roles: "chemistry", mayLack: true},
	{name: "part_b_0", want: "parts", least: 0.01, most: 100, roles: "chemistry", mayLack: true},
	{name: "part_b_10", want: "parts", least: 0.01, most: 100, roles: "chemistry", mayLack: true},
	{name: "part_b_20", want: "parts", least: 0.01, most: 100, roles: "chemistry", mayLack: true},
	{name: "part_b_30", want: "parts", least: 0.01, most: 100, roles: "chemistry", mayLack: true},
	{name: "part_c", want: "parts", least: 0.01, most: 10000, roles: "part"},
	{name: "pack_a", want: "kg", least: 0.01, most: 2000, roles: "part"},
	{name: "pack_b", want: "kg", least: 0.01, most: 2000, roles: "part"},
	{name: "density_a", want: "kg/L", least: 0.3, most: 5, roles: "part"},
	{name: "density_b", want: "kg/L", least: 0.3, most: 5, roles: "part"},
	{name: "mixed_density", want: "kg/L", least: 0.3, most: 5, roles: liquids + " accelerator"},
	{name: "kit", want: "kg", least: 0.01, most: 2000, roles: "membrane +mixed"},
	{name: "yield", want: "L", least: 0.01, most: 2000, roles: "membrane", mayLack: true},
	{name: "rate", want: "rate", least: 0.001, most: 10000, roles: spread + " sealant"},
	{name: "rate_per", options: "coat all_coats", roles: spread},
	{name: "rate_basis", options: "wet dry_film powder unknown", roles: "membrane top_coat"},
	{name: "coverage", want: "m2", least: 0.01, most: 10000, roles: "membrane"},
	{name: "coverage_per", options: "coat all_coats", roles: "membrane"},
	{name: "coats", want: "count", least: 1, most: 6, roles: "membrane primer top_coat grip_coat reflective_coat"},
	{name: "coats_wall", want: "count", least: 1, most: 6, roles: "membrane"},
	{name: "wft_per_coat", want: "mm", least: 0.02, most: 20, roles: "membrane top_coat"},
	{name: "greatest_wft", want: "mm", least: 0.05, most: 20, roles: "membrane"},
	{name: "least_wft", want: "mm", least: 0.02, most: 10, roles: "membrane"},
	{name: "dft_total", want: "mm", least: 0.02, most: 30, roles: "membrane"},
	{name: "dry_to_wet", want: "ratio", least: 0.05, most: 1, roles: "membrane top_coat"},
	{name: "dry_density", want: "kg/L", least: 0.3, most: 5, roles: "membrane"},
	{name: "powder_share", want: "ratio", least: 0.01, most: 1, roles: "membrane"},
	{name: "ratio_tolerance", want: "percent", least: 0.1, most: 20, roles: "mixed"},
	{name: "water_roller", want: "mL/kg", least: 0, most: 1000, roles: "chemistry"},
	{name: "water_trowel", want: "mL/kg", least: 0, most: 1000, roles: "chemistry"},
	{name: "share_below", want: "percent", least: 0, most: 100, roles: "membrane"},
	{name: "layers", want: "count", least: 0, most: 4, roles: "membrane"},
	{name: "dose", want: "dose", least: 0.01, most: 1000, roles: dosed + " cleaner aggregate"},
	{name: "mix", want: "min", least: 0, most: 60, roles: "membrane +mixed"},
	{name: "mix_speed", want: "rpm", least: 50, most: 3000, roles: "membrane +mixed"},
	{name: "stand", want: "min", least: 0, most: 60, roles: "membrane +mixed"},
	{name: "pot_life_10", want: "min", least: 1, most: 100000, roles: "membrane +mixed"},
	{name: "pot_life_20", want: "min", least: 1, most: 100000, roles: "membrane +mixed"},
	{name: "pot_life_30", want: "min", least: 1, most: 100000, roles: "membrane +mixed"},
	{name: "pot_life_from", options: "first_contact powder_taken_up mix_ready", roles: "membrane +mixed"},
	{name: tempRange, want: "C", least: -20, most: 60, roles: liquids, mayLack: true},
	{name: "temp_least", want: "C", least: -20, most: 40, roles: liquids},
	{name: "temp_most", want: "C", least: 0, most: 60, roles: liquids},
	{name: "rh_most", want: "percent", least: 1, most: 100, roles: "membrane primer"},
	{name: "dew_margin", want: "K", least: 0, most: 20, roles: "membrane primer"},
	{name: "base_state", options: "damp dry ssd", roles: "membrane primer"},
	{name: "moisture_most", want: "percent", least: 0.1, most: 100, roles: "membrane primer"},
	{name: "age_least", want: "d", least: 0, most: 365, roles: "membrane primer"},
	{name: "touch_20", want: "h", least: 0.05, most: 1000, roles: "membrane primer"},
	{name: "recoat_10", want: "h", least: 0.1, most: 1000, roles: "membrane"},
	{name: "recoat_20", want: "h", least: 0.1, most: 1000, roles: "membrane primer top_coat grip_coat reflective_coat screed " + finish},
	{name: "recoat_30", want: "h", least: 0.1, most: 1000, roles: "membrane"},
	{name: "recoat_latest_10", want: "h", least: 0.5, most: 5000, roles: "membrane"},
	{name: "recoat_latest_20", want: "h", least: 0.5, most: 5000, roles: "membrane primer top_coat " + finish},
	{name: "recoat_latest_30", want: "h", least: 0.5, most: 5000, roles: "membrane"},
	{name: "recoat_from", options: "coat_begun coat_ended state_of_coat", roles: "membrane"},
	{name: "cure_10", want: "h", least: 0.5, most: 5000, roles: "membrane"},
	{name: "cure_20", want: "h", least: 0.5, most: 5000, roles: "membrane top_coat grip_coat grout covering_adhesive sealer"},
	{name: "cure_30", want: "h", least: 0.5, most: 5000, roles: "membrane"},
	{name: "foot_traffic_20", want: "h", least: 0.1, most: 1000, roles: "membrane top_coat grip_coat " + finish},
	{name: "rain_safe_20", want: "h", least: 0.1, most: 1000, roles: liquids},
	{name: "overlay_20", want: "h", least: 0.1, most: 5000, roles: "membrane"},
	{name: "overlay_latest_20", want: "h", least: 1, most: 50000, roles: "membrane"},
	{name: "cures_by", options: "laws", roles: "membrane primer top_coat grip_coat", mayLack: true},
	{name: "reference", want: "C", least: -20, most: 60, roles: "membrane primer top_coat", mayLack: true},
	{name: "reference_rh", want: "percent", least: 1, most: 100, roles: "membrane primer top_coat", mayLack: true},
	{name: "film_forming", want: "C", least: -20, most: 30, roles: "membrane primer top_coat", mayLack: true},
	{name: "thickness_exponent", want: "ratio", least: 1, most: 2, roles: "membrane top_coat", mayLack: true},
	{name: "band_width", want: "mm", least: 10, most: 2500, roles: "membrane " + strips},
	{name: "band_roll", want: "m", least: 1, most: 500, roles: "membrane " + strips},
	{name: "band_lap", want: "mm", least: 0, most: 400, roles: "membrane " + strips},
	{name: "lap_form", options: "total each_side each_material butt", roles: strips},
	{name: "turn_up", want: "mm", least: 0, most: 500, roles: "sheet fleece mesh"},
	{name: "band_margin", want: "mm", least: 0, most: 300, roles: "membrane"},
	{name: "bed_below", want: "kg/m2", least: 0, most: 20, roles: "membrane"},
	{name: "bed_above", want: "kg/m2", least: 0, most: 20, roles: "membrane"},
	{name: "fillet_leg", want: "mm", least: 3, most: 200, roles: "fillet_mortar"},
	{name: "bead_width", want: "mm", least: 1, most: 100, roles: "sealant"},
	{name: "bead_depth", want: "mm", least: 1, most: 100, roles: "sealant"},
	{name: "margin", want: "mm", least: 0, most: 500, roles: "primer"},
	{name: "surplus", want: "percent", least: 0, most: 300, roles: "aggregate"},
	{name: "per_piece", want: "count", least: 0.001, most: 1000, roles: "leak_plug"},
	{name: "overlay_least", want: "mm", least: 0, most: 200, roles: "overlay_additive"},
	{name: "overlay_most", want: "mm", least: 1, most: 300, roles: "overlay_additive"},
	{name: "positive_rating", want: "bar", least: 0.01, most: 50, roles: "membrane"},
	{name: "negative_rating", want: "bar", least: 0.01, most: 50, roles: "membrane"},
	{name: "elongation", want: "percent", least: 1, most: 2000, roles: "membrane band"},
	{name: "crack_bridging", want: "mm", least: 0.05, most: 20, roles: "membrane"},
	{name: "slope_most", want: "percent", least: 0.5, most: 200, roles: "membrane"},
	{name: "submersion", options: yesOrNo, roles: "membrane"},
	{name: "potable", options: yesOrNo, roles: "membrane"},
	{name: "uv", options: yesOrNo, roles: "membrane top_coat"},
	{name: "traffic", options: "none foot vehicles", roles: "membrane top_coat"},
	{name: "vapour", options: "open tight", roles: "membrane"},
	{name: "solvent", options: yesOrNo, roles: liquids + " cleaner"},
	{name: "licence", options: yesOrNo, roles: "membrane"},
	{name: "hazard", options: "none isocyanate epoxy methacrylate cement bitumen", roles: liquids, mayLack: true},
	{name: "open_life", want: "d", least: 0.1, most: 3650, roles: liquids + " " + dosed},
	{name: "top_coat_life", want: "d", least: 30, most: 36500, roles: "top_coat"},
}

// groups begin at these figures: mixing, the film, working it, the air, the base, the times, bands
// and layers, and what it bears.
var groups = map[string]string{
	"ratio_by": "mixing", "rate": "film", "mix": "working", tempRange: "air", "base_state": "base", "touch_20": "times", "band_width": "bands", "positive_rating": "bears",
}

// Groups of the form in order; "on" are the bases it is for.
var Groups = []string{"mixing", "film", "working", "air", "base", "times", "bands", "bears", "on"}

// FormNumbers lists the names of all figures of the form, for their wording.
func FormNumbers() (names []string, options map[string][]string) {
	options = map[string][]string{}
	for _, a := range form {
		names = append(names, a.name)
		if a.options != "" {
			options[a.name] = a.choices()
		}
	}
	for _, material := range substrate.Materials {
		names = append(names, "on_"+material)
		options["on_"+material] = strings.Fields(yesOrNo)
	}
	return names, options
}

// choices are the options of a choice.
func (a entered) choices() []string {
	if a.options == "laws" {
		return Laws()
	}
	return strings.Fields(a.options)
}

// has tells whether a sheet's form asks the figure.
func (a entered) has(s Sheet) bool {
	of := strings.Fields(a.roles)
	switch a.roles {
	case "part":
		at := strings.LastIndex(a.name, "_")
		part := slices.ContainsFunc(s.Parts, func(p Part) bool { return p.ID == a.name[at+1:] })
		return part && (len(s.Parts) > 1 || strings.HasPrefix(a.name, "density"))
	case "mixed":
		return len(s.Parts) > 1
	case "chemistry":
		return s.Is() == "membrane" && slices.Contains(s.chemistry().Asks, a.name)
	}
	return slices.Contains(of, s.Is()) || slices.Contains(of, "+mixed") && len(s.Parts) > 1 && slices.Contains(strings.Fields(liquids), s.Is())
}

// Asks tells whether a sheet's form asks a figure.
func (s Sheet) Asks(name string) bool {
	return slices.ContainsFunc(form, func(a entered) bool { return a.name == name && a.has(s) })
}

// InOrder are those of some figures that the sheet's form asks, in its order.
func (s Sheet) InOrder(names map[string]bool) []string {
	list := []string{}
	for _, a := range form {
		if names[a.name] && a.has(s) {
			list = append(list, a.name)
		}
	}
	for _, material := range substrate.Materials {
		if names["on_"+material] {
			list = append(list, "on_"+material)
		}
	}
	return list
}

// doseUnits are the ways an additive is dosed; the sheet must say which.
var doseUnits = []string{"g/kg", "mL/kg", "mL/L"}

// Ask fills a sheet of one's own from the printed one, with another sheet as the form: its
// parts are kept, its figures are not. Every figure is answered or said to
// be not stated. The sheet is given once every question is answered; its id is the one passed
// in. typed holds the texts as printed.
func Ask(like Sheet, id string, typed map[string]string) (*ask.Form, *Sheet) {
	f, own := Read(like, id, typed)
	if len(f.Faults()) > 0 {
		return f, nil
	}
	return f, &own
}

// Correct is Read of a sheet that was misread: the same printing, with what it really says.
func Correct(like Sheet, typed map[string]string, needs ...string) (*ask.Form, Sheet) {
	f, own := Read(like, like.ID, typed, needs...)
	own.CopiedFrom, own.Product, own.Replaces, own.Files = like.CopiedFrom, like.Product, like.Replaces, like.Files
	return f, own
}

// Read is Ask with the sheet as far as it is filled. Where needs name what cannot wait, everything else may be left out: it
// counts as not stated until somebody types it.
func Read(like Sheet, id string, typed map[string]string, needs ...string) (*ask.Form, Sheet) {
	f := &ask.Form{Typed: typed}
	mayWait := func(a entered) entered {
		if ends := a.name == "temp_least" || a.name == "temp_most"; ends && typed[tempRange] != "" && typed[tempRange] != ask.NotStated {
			a.mayLack = true
			return a
		}
		a.mayLack = a.mayLack && !slices.Contains(needs, a.name) || needs != nil && !slices.Contains(needs, a.name)
		return a
	}
	own := Sheet{
		ID: id, Chemistry: like.Chemistry, Role: like.Role, Families: like.Families, WeighOut: like.WeighOut,
		Parts: like.Parts, Numbers: map[string]Said{}, Choices: map[string]string{},
	}
	if like.Sample {
		own.CopiedFrom, own.Product = like.ID, id
	} else {
		own.CopiedFrom, own.Product, own.Replaces, own.Files = like.CopiedFrom, like.Of(), like.ID, like.Files
	}
	if own.Parts == nil {
		own.Parts = []Part{}
	}
	own.Name, _ = f.Text("name", 80)
	if own.Revision = firstPrinting; needs == nil || typed["revision"] != "" {
		own.Revision, _ = f.Text("revision", 40)
	} else {
		f.Unsaid("revision", "")
	}
	own.Printed = f.DateOr("printed")
	if typed["language"] != "" {
		own.Language, _ = f.Text("language", 20)
	} else {
		f.ChoiceOr("language", nil, "")
	}
	group := ""
	for _, a := range form {
		if begins, is := groups[a.name]; is {
			group = begins
		}
		if a.has(own) {
			own.enter(f, mayWait(a), group)
		}
	}
	if is := own.Is(); is == "membrane" || is == "primer" {
		for _, material := range substrate.Materials {
			own.enter(f, mayWait(entered{name: "on_" + material, options: yesOrNo}), "on")
		}
	}
	own.askPacks(f)
	if own.Is() == "membrane" {
		if implied := own.Film().Implied; len(implied) > 1 {
			var froms []string
			for _, i := range implied {
				froms = append(froms, i.From)
			}
			if from := f.ChoiceOr("film_from", froms, "thickest"); slices.Contains(froms, from) {
				own.Choices["film_from"] = from
			}
		}
	}
	own.contradictions(f)
	return f, own
}

// firstPrinting is the revision of a sheet on which nobody found one.
const firstPrinting = "1"

// enter reads one figure: a number with its range and unit, or a choice.
func (s *Sheet) enter(f *ask.Form, a entered, group string) {
	may := a.mayLack || strings.Contains(a.roles, "+mixed") && s.Is() != "membrane"
	if may && f.Typed[a.name] == "" {
		if a.options != "" {
			f.ChoiceOr(a.name, append(a.choices(), ask.NotStated), ask.NotStated, "group", group)
		} else {
			f.Unsaid(a.name, a.want, "group", group)
		}
		return
	}
	if a.options != "" {
		if picked, ok := f.Choice(a.name, append(a.choices(), ask.NotStated), "group", group); ok && picked != ask.NotStated {
			s.Choices[a.name] = picked
		}
		return
	}
	wants := []string{a.want}
	if a.want == "dose" {
		wants = doseUnits
	}
	if a.name == tempRange {
		s.enterTemps(f, a, group)
		return
	}
	if got, stated := f.Printed(a.name, wants, a.least, a.most, "group", group); stated {
		s.Numbers[a.name] = Said{Value: got.Low, High: upper(got), Unit: got.Unit, Says: f.Typed[a.name]}
	}
}

// tempRange is from where to where it may be laid, as sheets print it: "5 to 30 °C" says both ends in one answer.
const tempRange = "temp_range"

func (s *Sheet) enterTemps(f *ask.Form, a entered, group string) {
	got, stated := f.Printed(a.name, []string{a.want}, a.least, a.most, "group", group)
	if !stated {
		return
	}
	if got.High <= got.Low {
		f.Reject(fault.At(a.name, "sheet.range_wanted", "typed", f.Typed[a.name]))
		return
	}
	for name, value := range map[string]float64{"temp_least": got.Low, "temp_most": got.High} {
		s.Numbers[name] = Said{Value: value, Unit: got.Unit, Says: strconv.FormatFloat(value, 'f', -1, 64) + " °C"}
	}
}

func upper(p units.Printed) *float64 {
	if p.High == p.Low {
		return nil
	}
	return &p.High
}

// sold is the unit that a role is bought in.
func sold(role string) string {
	switch role {
	case "band", "seam_tape", "bond_breaker", "masking", "water_stop", "trim":
		return "m"
	case "corner", "collar", "flange":
		return "count"
	case "sheet", "fleece", "mesh", "protection", "covering":
		return "m2"
	}
	return "kg"
}

// SoldIn is the unit that the sheet's product is bought in: "kg", "m", "m2" or "count".
func (s Sheet) SoldIn() string { return sold(s.Is()) }

func (s *Sheet) askPacks(f *ask.Form) {
	const mostPacks, mostPrice = 12, 1e6
	var parts []string
	for _, p := range s.Parts {
		parts = append(parts, p.ID)
	}
	for _, n := range f.List("packs", mostPacks) {
		field := "packs." + n + "."
		wants := []string{s.SoldIn()}
		if wants[0] == "kg" {
			wants = append(wants, "L")
		}
		size, ok := f.Printed(field+"size", wants, 0.001, 5000, "pack", n)
		price := f.NumberOr(field+"price", "money", 0, mostPrice, 0, "pack", n)
		part := ""
		if len(parts) > 1 {
			if part = f.ChoiceOr(field+"part", append([]string{"all"}, parts...), "all", "pack", n); part == "all" {
				part = ""
			}
		}
		if !ok {
			continue
		}
		p := Pack{Size: size.Low, Unit: size.Unit, Part: part, Price: int(price*100 + 0.5), Says: f.Typed[field+"size"]}
		if p.Unit == "L" {
			name := "mixed_density"
			if part != "" {
				name = "density_" + part
			}
			density, stated := s.said(name)
			if !stated {
				f.Reject(fault.At(field+"size", "sheet.litres_without_density", "typed", f.Typed[field+"size"]))
				continue
			}
			p.Size, p.Unit = p.Size*density.Value, "kg"
		}
		s.Packs = append(s.Packs, p)
	}
}

// Typed gives the texts a kept sheet was filled with, to go on from.
func (s Sheet) Typed() map[string]string {
	typed := map[string]string{"name": s.Name, "revision": s.Revision, "printed": s.Printed, "language": s.Language}
	for name, said := range s.Numbers {
		if typed[name] = said.Says; said.Trial != "" {
			delete(typed, name)
		}
	}
	maps.Copy(typed, s.Choices)
	var numbers []string
	for i, p := range s.Packs {
		n := strconv.Itoa(i + 1)
		numbers = append(numbers, n)
		typed["packs."+n+".size"] = p.Says
		if p.Price > 0 {
			typed["packs."+n+".price"] = strconv.FormatFloat(float64(p.Price)/100, 'f', -1, 64)
		}
		typed["packs."+n+".part"] = p.Part
	}
	typed["packs"] = strings.Join(numbers, " ")
	for _, a := range form {
		if a.has(s) && typed[a.name] == "" {
			typed[a.name] = ask.NotStated
		}
	}
	if is := s.Is(); is == "membrane" || is == "primer" {
		for _, material := range substrate.Materials {
			if typed["on_"+material] == "" {
				typed["on_"+material] = ask.NotStated
			}
		}
	}
	return typed
}

// contradictions rejects figures that cannot stand beside each other. Statements of the film that
// differ are no fault: they are shown, and one is used.
func (s Sheet) contradictions(f *ask.Form) {
	if rate, stated := s.Numbers["rate"]; stated {
		const mostMass = 60 // kg/m²
		_, high := rate.Ends()
		if amount, mass, err := (Rate{Rate: high, Unit: rate.Unit}).perM2(); err == nil && mass && amount > mostMass {
			f.Reject(fault.At("rate", "sheet.rate_absurd", "value", amount, "most", mostMass))
		}
	}
	const mostWet = 30 // mm: a rate that makes more is a slip
	film := s.Film()
	for _, i := range film.Implied {
		field := map[string]string{"rate": "rate", "coverage": "coverage", "dft": "dft_total"}[i.From]
		if i.High > mostWet && field != "" {
			f.Reject(fault.At(field, "sheet.film_absurd", "value", i.High, "most", mostWet))
		}
	}
	number := func(name string) (float64, bool) { said, ok := s.said(name); return said.Value, ok }
	wet := film.Wet
	if greatest, ok := number("greatest_wft"); ok && wet != nil && greatest < wet.Value-1e-9 {
		f.Reject(fault.At("greatest_wft", "sheet.greatest_below_coat", "value", greatest, "least", wet.Value))
	}
	if thinnest, ok := number("least_wft"); ok && wet != nil && thinnest > wet.Value+1e-9 {
		f.Reject(fault.At("least_wft", "sheet.least_above_coat", "value", thinnest, "most", wet.Value))
	}
	for _, prefix := range []string{"pot_life", "recoat", "recoat_latest", "cure", "overlay", "overlay_latest"} {
		names := s.TableNames(prefix)
		for i := range names[:max(0, len(names)-1)] {
			colder, warmer := cautious(prefix, s.Numbers[names[i]]), cautious(prefix, s.Numbers[names[i+1]])
			if warmer > colder {
				f.Reject(fault.At(names[i+1], "sheet.time_rises", "value", warmer, "most", colder))
			}
		}
	}
	for _, prefix := range []string{"recoat", "overlay"} {
		if temp, opens, shuts, crossed := cure.Crossed(s.Table(prefix), s.Table(prefix+"_latest")); crossed {
			field := tableName(prefix+"_latest", int(temp))
			if s.Numbers[field].Unit == "" { // printed for the earliest only
				field = tableName(prefix, int(temp))
			}
			f.Reject(fault.At(field, "sheet.latest_before_earliest", "value", shuts, "least", opens))
		}
	}
	for _, pair := range [][2]string{{"temp_least", "temp_most"}, {"overlay_least", "overlay_most"}} {
		least, ok1 := number(pair[0])
		most, ok2 := number(pair[1])
		if ok1 && ok2 && most <= least {
			f.Reject(fault.At(pair[1], "sheet.range_upside_down", "value", most, "least", least))
		}
	}
}
