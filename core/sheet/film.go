package sheet

import (
	"math"
	"slices"

	"dusha/core/ask"
	"dusha/core/figure"
	"dusha/core/order"
)

// Implied is the wet film of one coat as one statement of a sheet has it, mm.
type Implied struct {
	From   string        `json:"from"` // "wft", "dft", "rate" or "coverage"
	Low    float64       `json:"low_mm"`
	High   float64       `json:"high_mm"`
	Figure figure.Figure `json:"figure"` // at the greater end
}

// Film is what a sheet's statements about its film reduce to, one coat.
type Film struct {
	Implied      []Implied      `json:"implied"`
	Used         string         `json:"used"` // which one counts
	Wet          *figure.Figure `json:"wet"`  // mm
	Dry          *figure.Figure `json:"dry"`  // mm
	PerM2        *figure.Figure `json:"per_m2"`
	PerPack      *figure.Figure `json:"per_pack"` // m² that a pack covers in one coat
	Disagreement float64        `json:"disagreement_percent"`
	Contradicts  bool           `json:"contradicts"`
	IfWet        *float64       `json:"kg_per_m2_if_wet"` // all coats, where the basis of the rate is not printed
	IfDry        *float64       `json:"kg_per_m2_if_dry"`
	Pair         *Pair          `json:"pair"`    // of two packs against the ratio
	Missing      []string       `json:"missing"` // numbers that would say more
}

// Pair sets the packs of a kit against the mixing ratio.
type Pair struct {
	Ratio        float64 `json:"ratio"` // part B on one of part A, by mass
	Packs        float64 `json:"packs"`
	Disagreement float64 `json:"disagreement_percent"`
	Contradicts  bool    `json:"contradicts"`
}

// filmOrder: a stated thickness is the measure for the others.
var filmOrder = []string{"wft", "dft", "rate", "coverage"}

// said reads a number without deriving it.
func (s Sheet) said(name string) (figure.Figure, bool) {
	said, ok := s.Numbers[name]
	if !ok && name == "mixed_density" {
		return s.densityOfYield()
	}
	if !ok {
		return figure.Figure{}, false
	}
	return s.read(name, said), true
}

// densityOfYield is the mixed density of a pack that says how many litres it yields, kg/L.
func (s Sheet) densityOfYield() (figure.Figure, bool) {
	yields, stated := s.Numbers["yield"]
	kit, err := s.Number("kit")
	if low, _ := yields.Ends(); !stated || err != nil || low <= 0 {
		return figure.Figure{}, false
	}
	litres := s.read("yield", yields)
	return figure.Worked("sheet.mixed_density", kit.Value/litres.Value, "kg/L", "density.of_yield", kit, litres), true
}

// Lap is the whole overlap of two pieces, mm: printed in all, as each side of a joint or as so much
// on each of two materials (both twice as much), or none where they are butt-jointed.
func (s Sheet) Lap() (figure.Figure, error) {
	printed, err := s.Number("band_lap")
	if err != nil {
		return printed, err
	}
	switch s.Choices["lap_form"] {
	case "each_side", "each_material":
		return figure.Worked("sheet.lap", 2*printed.Value, "mm", "lap.both_sides", printed), nil
	case "butt":
		return figure.Worked("sheet.lap", 0, "mm", "lap.butt", printed), nil
	}
	return printed, nil
}

// Film reduces everything the sheet says of its film to the wet thickness of one coat. The stated
// thickness counts while the others agree with it; where the sheet contradicts itself the thickest
// counts, so that never too little is ordered, unless one is picked as "film_from".
func (s Sheet) Film() Film {
	film := Film{Implied: []Implied{}, Missing: []string{}}
	s.imply(&film)
	film.disagree()
	for _, i := range film.Implied {
		if film.Used == "" || film.Contradicts && i.High > film.implied(film.Used).High {
			film.Used = i.From
		}
	}
	if picked := s.Choices["film_from"]; picked != "" && slices.ContainsFunc(film.Implied, func(i Implied) bool { return i.From == picked }) {
		film.Used = picked
	}
	film.Pair = s.pair()
	if film.Used == "" {
		return film
	}
	wet := film.implied(film.Used).Figure
	film.Wet = &wet
	if f, ok := s.said("dry_to_wet"); ok {
		dry := figure.Worked("sheet.film.dry", wet.Value*f.Value, "mm", "film.dry_from_wet", wet, f)
		film.Dry = &dry
	}
	density, ok := s.said("mixed_density")
	if !ok {
		return film
	}
	perM2 := figure.Worked("sheet.film.per_m2", wet.Value*density.Value, "kg/m2", "film.per_m2", wet, density)
	film.PerM2 = &perM2
	if kit, err := s.Number("kit"); err == nil && perM2.Value > 0 {
		covers := figure.Worked("sheet.film.per_pack", kit.Value/perM2.Value, "m2", "film.per_pack", kit, perM2)
		film.PerPack = &covers
	}
	return film
}

func (f Film) implied(from string) Implied {
	i := slices.IndexFunc(f.Implied, func(i Implied) bool { return i.From == from })
	return f.Implied[i]
}

func (s Sheet) imply(film *Film) {
	missing := func(names ...string) { film.Missing = append(film.Missing, names...) }
	add := func(from, rule string, ends func(low, high float64) (float64, float64), named figure.Figure, others ...figure.Figure) {
		a, b := ends(least(named), named.Value)
		low, high := min(a, b), max(a, b)
		worked := named
		if rule != "" {
			worked = figure.Worked("sheet.film.wet", high, "mm", rule, append([]figure.Figure{named}, others...)...)
		}
		film.Implied = append(film.Implied, Implied{From: from, Low: low, High: high, Figure: worked})
	}
	density, hasDensity := s.said("mixed_density")
	ratio, hasRatio := s.said("dry_to_wet")
	coats, hasCoats := s.said("coats")
	if !hasCoats {
		coats = figure.Figure{Value: 1}
	}
	if wet, ok := s.said("wft_per_coat"); ok {
		add("wft", "", func(low, high float64) (float64, float64) { return low, high }, wet)
	}
	if dry, ok := s.said("dft_total"); ok {
		if hasRatio && hasCoats {
			add("dft", "film.from_dry", func(low, high float64) (float64, float64) {
				return low / least(ratio) / coats.Value, high / least(ratio) / coats.Value
			}, dry, ratio, coats)
		} else if !hasRatio {
			missing("dry_to_wet")
		}
	}
	if rate, ok := s.Numbers["rate"]; ok {
		s.implyRate(film, rate, density, hasDensity, coats, add)
	}
	if covers, ok := s.said("coverage"); ok {
		kit, err := s.Number("kit")
		switch {
		case !hasDensity:
			missing("mixed_density")
		case err != nil:
			missing("kit")
		default:
			layers := 1.0
			if s.Choices["coverage_per"] == "all_coats" {
				layers = coats.Value
			}
			add("coverage", "film.from_coverage", func(low, high float64) (float64, float64) {
				return kit.Value / density.Value / low / layers, kit.Value / density.Value / high / layers
			}, covers, kit, density)
		}
	}
	if len(film.Implied) == 0 && len(film.Missing) == 0 {
		missing("rate")
	}
	slices.Sort(film.Missing)
	film.Missing = slices.Compact(film.Missing)
}

// basisNeeds are the figures that a rate of each basis is reduced by, beside the density.
var basisNeeds = map[string][]string{"powder": {"powder_share"}, "dry_film": {"dry_to_wet", "dry_density"}, "unknown": {"dry_to_wet", "dry_density"}}

// implyRate reduces a rate at both its ends.
func (s Sheet) implyRate(film *Film, rate Said, density figure.Figure, hasDensity bool, coats figure.Figure,
	add func(string, string, func(float64, float64) (float64, float64), figure.Figure, ...figure.Figure),
) {
	printed := s.PrintedRate()
	inputs := []figure.Figure{}
	if hasDensity {
		inputs = append(inputs, density)
	}
	if !hasDensity {
		// Volume on an area needs no density; the reduction asks for one all the same.
		if printed.Density = 1; !slices.Contains([]string{"mm", "mil", "L/m2", "m2/L", "ft2/gal", "ft2/L", "gal/ft2"}, rate.Unit) || printed.Basis == "unknown" {
			film.Missing = append(film.Missing, "mixed_density")
			return
		}
	}
	// Without the figures of the cured film an unknown basis can only be read as wet.
	unread := false
	for _, name := range []string{"dry_to_wet", "dry_density"} {
		if _, stated := s.said(name); !stated && printed.Basis == "unknown" && (name == "dry_to_wet" || printed.mass()) {
			film.Missing = append(film.Missing, name)
			unread = true
		}
	}
	if unread {
		printed.Basis = "wet"
	}
	for _, name := range basisNeeds[printed.Basis] {
		if f, ok := s.said(name); ok {
			inputs = append(inputs, f)
		}
	}
	at := func(value float64) (float64, bool) {
		printed.Rate = value
		out, err := printed.Reduce()
		switch {
		case err != nil:
			return 0, false
		case out.WetPerCoat != nil:
			return *out.WetPerCoat, true
		}
		film.IfWet, film.IfDry = larger(film.IfWet, out.IfWet), larger(film.IfDry, out.IfDry)
		return *out.Ordered / printed.Density / coats.Value, true
	}
	low, high := rate.Ends()
	a, okA := at(low)
	b, okB := at(high)
	if !okA || !okB {
		for _, name := range basisNeeds[printed.Basis] {
			if _, stated := s.Numbers[name]; !stated {
				film.Missing = append(film.Missing, name)
			}
		}
		return
	}
	add("rate", "film.from_rate", func(float64, float64) (float64, float64) { return a, b }, s.read("rate", rate), inputs...)
}

// least is the smaller end of a printed range.
func least(f figure.Figure) float64 {
	if f.Low != nil {
		return *f.Low
	}
	return f.Value
}

func larger(one, other *float64) *float64 {
	if one != nil && (other == nil || *one > *other) {
		return one
	}
	return other
}

// PrintedRate is the sheet's rate with what is needed to reduce it, at its greater end.
func (s Sheet) PrintedRate() Rate {
	value := func(name string, otherwise float64) float64 {
		if f, ok := s.said(name); ok {
			return f.Value
		}
		return otherwise
	}
	choice := func(name, otherwise string) string {
		if picked := s.Choices[name]; picked != "" && picked != ask.NotStated {
			return picked
		}
		return otherwise
	}
	basis := "wet"
	if s.Is() == "membrane" {
		basis = "unknown" // "dry" mass can mean film or powder: the sheet must say which
	}
	return Rate{
		Rate: value("rate", 0), Unit: s.Numbers["rate"].Unit, Coats: int(math.Round(value("coats", 1))),
		Per: choice("rate_per", "coat"), Basis: choice("rate_basis", basis),
		Pack: s.pack(), Density: value("mixed_density", 0), DryToWet: value("dry_to_wet", 0), DryDensity: value("dry_density", 0), Powder: value("powder_share", 0),
	}
}

// pack is what the first pack holds that is not one of a part, kg; 0 where none is printed.
func (s Sheet) pack() float64 {
	if kit, err := s.Number("kit"); err == nil {
		return kit.Value
	}
	for _, p := range s.Packs {
		if p.Part == "" && p.Unit == "kg" {
			return p.Size
		}
	}
	return 0
}

// disagree holds every statement against the first one of filmOrder: the gap between their
// ranges, in percent of that thickness.
func (f *Film) disagree() {
	order.By(f.Implied, func(a, b Implied) int {
		return slices.Index(filmOrder, a.From) - slices.Index(filmOrder, b.From)
	})
	f.Disagreement, f.Contradicts = Disagreement(f.Implied)
}

// Disagreement is the widest gap between the ranges that statements imply, in percent of the first one,
// and whether it is one that is said.
func Disagreement(implied []Implied) (percent float64, contradicts bool) {
	for i, one := range implied {
		for _, other := range implied[i+1:] {
			gap := max(0, max(one.Low, other.Low)-min(one.High, other.High))
			percent = max(percent, gap/implied[0].High*100)
		}
	}
	return percent, disagrees(percent)
}

// disagrees tells whether a difference in percent is one that is said.
func disagrees(percent float64) bool {
	const binary = 1e-9 // 5 % as printed is not 5 % in binary
	return percent > mostDisagreement+binary
}

// pair holds the packs of a two-part kit against its ratio by mass.
func (s Sheet) pair() *Pair {
	shares, err := s.PartShares()
	if err != nil || len(shares) != 2 || !(shares[0] > 0) {
		return nil
	}
	a, okA := s.said("pack_" + s.Parts[0].ID)
	b, okB := s.said("pack_" + s.Parts[1].ID)
	if !okA || !okB || !(a.Value > 0) {
		return nil
	}
	p := Pair{Ratio: shares[1] / shares[0], Packs: b.Value / a.Value}
	p.Disagreement = math.Abs(p.Packs-p.Ratio) / p.Ratio * 100
	p.Contradicts = disagrees(p.Disagreement)
	return &p
}
