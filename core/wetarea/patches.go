package wetarea

import (
	"math"
	"time"

	"dusha/core/fault"
	"dusha/core/pressure"
	"dusha/core/rules"
	"dusha/core/substrate"
)

// Patch is a part of the substrate with what was found on it; primer, dampening, texture and
// gates follow the patch. "" is: not checked.
type Patch struct {
	ID            string   `json:"id"`
	Surface       string   `json:"surface"` // a surface, "walls" or "all"
	From          *Point   `json:"from_mm,omitempty"`
	To            *Point   `json:"to_mm,omitempty"` // of a part of it
	Material      string   `json:"material"`
	Age           *float64 `json:"age_days,omitempty"` // at the survey
	Cast          string   `json:"cast,omitempty"`     // date of casting, 2006-01-02; goes before the age
	OldCoating    string   `json:"old_coating"`
	Moisture      *float64 `json:"moisture_percent,omitempty"`
	Method        string   `json:"moisture_method"`
	ProfileWanted float64  `json:"profile_wanted"` // 1 (smooth) to 9 (open); 0: not said
	ProfileFound  float64  `json:"profile_found"`
	Flatness      *float64 `json:"flatness_mm,omitempty"` // greatest gap under a 2 m straightedge
	Salts         string   `json:"salts"`
	Contamination string   `json:"contamination"`
	Soundness     string   `json:"soundness"`
	Base          string   `json:"base"`
	Surfacing     string   `json:"surfacing"`
	Trapped       string   `json:"trapped"` // water under an old sheet
	WaterSide     string   `json:"water_side"`
	Head          float64  `json:"head_mm,omitempty"` // of the water, over the patch's lowest point
}

// What a patch can be said to be.
var (
	oldCoatings    = []string{"none", "strip", "keep"}
	methods        = []string{"carbide", "probe", "pins", "foil"}
	saltKinds      = []string{"none", "traces", "heavy"}
	contaminations = []string{"none", "dust", "laitance", "oil", "algae"}
	soundnesses    = []string{"sound", "hollow", "weak"}
	bases          = []string{"stiff", "flexing", "bare_earth"}
	surfacings     = []string{"none", "reflective", "loose_mineral"}
	waterSides     = []string{"positive", "negative"}
)

func (s *site) patch(a *Area, id string) {
	f, field := s.f, "patches."+id+"."
	args := []any{"patch", id}
	surface, ok := f.Choice(field+"surface", append([]string{"all", "walls"}, a.surfaceNames()...), args...)
	args = append(args, "surface", surface)
	p := Patch{ID: id, Surface: surface}
	if on, single := a.Surface(surface); single && f.ChoiceOr(field+"extent", []string{"whole", "part"}, "whole", args...) == "part" {
		from, okFrom := s.corner(field+"from.", args)
		to, okTo := s.corner(field+"to.", args)
		if okFrom && okTo {
			low, high := extent(on.Outlines...)
			if math.Min(from[0], to[0]) >= high[0] || math.Max(from[0], to[0]) <= low[0] || math.Min(from[1], to[1]) >= high[1] || math.Max(from[1], to[1]) <= low[1] {
				f.Reject(fault.At(field+"from.along", "feature.off_surface", "surface", surface, "along", from[0], "up", from[1]))
			}
			p.From, p.To = &from, &to
		}
	}
	p.Material, _ = f.Choice(field+"material", substrate.Materials, args...)
	if p.Cast = f.DateOr(field+"cast", args...); p.Cast == "" {
		p.Age = s.maybe(field+"age", "d", 0, 100000, args)
	}
	p.OldCoating = f.ChoiceOr(field+"old_coating", oldCoatings, "", args...)
	if p.Moisture = s.maybe(field+"moisture", "percent", 0, 100, args); p.Moisture != nil {
		p.Method, _ = f.Choice(field+"method", methods, args...)
	}
	p.ProfileWanted = f.NumberOr(field+"profile_wanted", "count", 1, 9, 0, args...)
	p.ProfileFound = f.NumberOr(field+"profile_found", "count", 1, 9, 0, args...)
	p.Flatness = s.maybe(field+"flatness", "mm", 0, 200, args)
	p.Salts = f.ChoiceOr(field+"salts", saltKinds, "", args...)
	p.Contamination = f.ChoiceOr(field+"contamination", contaminations, "", args...)
	p.Soundness = f.ChoiceOr(field+"soundness", soundnesses, "", args...)
	p.Base = f.ChoiceOr(field+"base", bases, "", args...)
	p.Surfacing = f.ChoiceOr(field+"surfacing", surfacings, "", args...)
	p.Trapped = f.ChoiceOr(field+"trapped", yesNo, "", args...)
	if p.WaterSide = f.ChoiceOr(field+"water_side", waterSides, "", args...); p.WaterSide != "" {
		p.Head = f.LengthOr(field+"head", 0, mostDepth*3, 0, args...)
	}
	if f.Offer(field + "soundness"); ageRules[p.Material] != "" {
		f.Offer(field + "age")
	}
	if p.WaterSide == "negative" {
		f.Offer(field + "head")
	}
	if ok {
		a.Patches = append(a.Patches, p)
	}
}

func (s *site) corner(field string, args []any) (Point, bool) {
	along, okAlong := s.f.Length(field+"along", 0, mostSide*4, args...)
	up, okUp := s.f.Length(field+"up", 0, mostSide, args...)
	return Point{along, up}, okAlong && okUp
}

// maybe asks a number that may be left out.
func (s *site) maybe(id, unit string, least, most float64, args []any) *float64 {
	value := s.f.NumberOr(id, unit, least, most, 0, args...)
	if s.f.Typed[id] == "" {
		return nil
	}
	return &value
}

// Gate stops an area until what it names is mended.
type Gate struct {
	Key   string         `json:"key"` // wording: what stops; Key + ".lift" says what would lift it
	Place string         `json:"place"`
	Args  map[string]any `json:"args,omitempty"`
	Hold  bool           `json:"hold"` // stops the work; else it is asked to be looked at
	Says  string         `json:"says"` // "no", or "not_known" where nobody looked: it stops like no
}

// Findings are what a gate needs to know beside the survey.
type Findings struct {
	Rules        rules.Profile
	Days         float64   // since the survey
	Now          time.Time // for what was cast on a date; zero: unknown
	PositiveOnly bool      // the chosen system states no rating for water from behind
	Base         bool      // the base is to be accepted: what nobody looked at stops too
	SheetAge     float64   // least age that the sheet asks, days; 0: it asks none
	MoistureMost *float64  // greatest moisture that the sheet takes, percent; nil: it asks none
	Leaks        []OpenLeak
}

// OpenLeak is a leak that is not yet plugged and found dry.
type OpenLeak struct {
	ID      string
	Surface string
	Plugged bool
}

// Gates lists what stops an area, each with what would lift it (the key's "lift").
func (a Area) Gates(with Findings) []Gate {
	list := []Gate{}
	stop := func(key, place string, pairs ...any) {
		list = append(list, Gate{Key: "gate." + key, Place: place, Args: fault.At("", "", pairs...).Args, Hold: true, Says: "no"})
	}
	unknown := func(key, place string, pairs ...any) {
		if with.Base {
			list = append(list, Gate{Key: "gate." + key, Place: place, Args: fault.At("", "", pairs...).Args, Hold: true, Says: "not_known"})
		}
	}
	look := func(key, place string, pairs ...any) {
		list = append(list, Gate{Key: "gate." + key, Place: place, Args: fault.At("", "", pairs...).Args, Says: "no"})
	}
	for _, gap := range a.Gaps {
		stop("gap", gap)
	}
	for _, leak := range with.Leaks {
		key := "leak"
		if leak.Plugged {
			key = "leak_unchecked"
		}
		stop(key, leak.Surface, "leak", leak.ID)
	}
	for _, p := range a.Patches {
		a.patchGates(p, with, stop, look)
		p.unknownGates(with, unknown)
	}
	if bare := a.uncovered(); len(bare) > 0 {
		unknown("unknown_base", bare[0], "n", len(bare))
	}
	a.ruleGates(with, look)
	if with.PositiveOnly {
		for _, h := range a.Heads {
			if h.Negative > 0 {
				stop("from_behind", h.Surface, "head", h.Negative, "bar", h.NegativeBar)
			}
		}
	}
	return list
}

// ageAt is how old a patch is, in days.
func (p Patch) ageAt(with Findings) (days float64, known bool) {
	const day = 24 * time.Hour
	if cast, err := time.Parse(time.DateOnly, p.Cast); err == nil && !with.Now.IsZero() {
		return with.Now.Sub(cast).Hours() / day.Hours(), true
	}
	if p.Age == nil {
		return 0, false
	}
	return *p.Age + with.Days, true
}

// ageRules are the local rules of how old a base has to be, by material.
var ageRules = map[string]string{"concrete": "age_concrete", "masonry": "age_concrete", "screed": "age_screed", "plaster": "age_screed"}

// leastAge is the longer of what the rule and the sheet ask, days; 0 where none asks.
func (p Patch) leastAge(with Findings) float64 {
	rule, cast := ageRules[p.Material]
	if !cast {
		return 0
	}
	return max(with.Rules.Limit(rule).Value, with.SheetAge)
}

// unknownGates are what nobody looked at on a patch.
func (p Patch) unknownGates(with Findings, unknown func(string, string, ...any)) {
	if _, known := p.ageAt(with); !known && p.leastAge(with) > 0 {
		unknown("unknown_age", p.Surface, "patch", p.ID, "material", p.Material, "least", p.leastAge(with))
	}
	if with.MoistureMost != nil && p.Moisture == nil && p.leastAge(with) > 0 {
		unknown("unknown_moisture", p.Surface, "patch", p.ID, "most", *with.MoistureMost)
	}
	if p.WaterSide == "negative" && p.Head == 0 {
		unknown("unknown_head", p.Surface, "patch", p.ID)
	}
	if p.Soundness == "" {
		unknown("unknown_soundness", p.Surface, "patch", p.ID)
	}
}

// uncovered are the surfaces of whose base nothing is said.
func (a Area) uncovered() (ids []string) {
	for _, s := range a.Surfaces {
		said := false
		for _, p := range a.Patches {
			said = said || p.Material != "" && p.From == nil && (p.Surface == "all" || p.Surface == s.ID || p.Surface == "walls" && s.Kind == "wall")
		}
		if !said && (s.Kind == "floor" || s.Kind == "wall" || s.Kind == "soffit" || s.Kind == "riser") {
			ids = append(ids, s.ID)
		}
	}
	return ids
}

func (a Area) patchGates(p Patch, with Findings, stop, look func(string, string, ...any)) {
	if least := p.leastAge(with); least > 0 {
		if age, known := p.ageAt(with); known && age < least {
			stop("too_young", p.Surface, "patch", p.ID, "age", math.Floor(age), "least", least, "material", p.Material)
		}
	}
	if most := with.MoistureMost; most != nil && p.Moisture != nil && *p.Moisture > *most {
		stop("too_wet", p.Surface, "patch", p.ID, "value", *p.Moisture, "most", *most)
	}
	if p.Trapped == "yes" {
		stop("trapped_water", p.Surface, "patch", p.ID)
	}
	if p.Surfacing == "reflective" || p.Surfacing == "loose_mineral" {
		stop("surfacing", p.Surface, "patch", p.ID, "surfacing", p.Surfacing)
	}
	if p.Soundness == "weak" || p.Soundness == "hollow" {
		stop("weak", p.Surface, "patch", p.ID, "material", p.Material)
	}
	if p.Base == "bare_earth" && (p.Material == "screed" || p.Material == "masonry") {
		stop("bare_earth", p.Surface, "patch", p.ID, "material", p.Material)
	}
	if p.Base == "flexing" {
		stop("flexing", p.Surface, "patch", p.ID)
	}
	if p.WaterSide == "negative" && with.PositiveOnly {
		stop("from_behind", p.Surface, "patch", p.ID, "head", p.Head, "bar", pressure.BarPerMetre*p.Head/1000)
	}
	if p.Salts == "heavy" {
		look("salts", p.Surface, "patch", p.ID)
	}
	if p.Contamination != "" && p.Contamination != "none" {
		look("contamination", p.Surface, "patch", p.ID, "contamination", p.Contamination)
	}
	if p.OldCoating == "strip" {
		look("strip", p.Surface, "patch", p.ID)
	}
	if p.ProfileWanted > 0 && p.ProfileFound > 0 && p.ProfileFound != p.ProfileWanted {
		look("profile", p.Surface, "patch", p.ID, "found", p.ProfileFound, "wanted", p.ProfileWanted)
	}
	if most := with.Rules.Limit("flatness"); p.Flatness != nil && *p.Flatness > most.Value {
		look("flatness", p.Surface, "patch", p.ID, "value", *p.Flatness, "most", most.Value)
	}
}

// ruleGates holds the survey against the local rules: upstands, freeboard and falls.
func (a Area) ruleGates(with Findings, look func(string, string, ...any)) {
	if most := with.Rules.Limit("closing").Value; a.Closing > most {
		look("closing", "floor", "value", a.Closing, "most", most)
	}
	upstand := with.Rules.Limit("upstand").Value
	for _, s := range a.Surfaces {
		if s.Kind == "wall" && a.Water == nil && s.Height < upstand {
			look("low_upstand", s.ID, "value", s.Height, "least", upstand)
		}
	}
	if free := with.Rules.Limit("freeboard").Value; a.Shape == "basin" {
		for _, s := range a.Surfaces {
			if s.Kind == "wall" && s.Height-a.Water.Line < free-1e-6 {
				look("low_freeboard", s.ID, "value", s.Height-a.Water.Line, "least", free)
				break
			}
		}
	}
	if a.Falls == nil {
		return
	}
	if rule := with.Rules.Limit("fall_n").Value; a.Falls.Rule > rule {
		look("flat_fall", "floor", "value", a.Falls.Rule, "most", rule)
	}
	for _, l := range a.Falls.Levels {
		if l.Misses {
			look("level_misses", "floor", "level", l.ID, "fall", l.Fall, "rule", a.Falls.Rule)
		}
	}
}
