package wetarea

import (
	"math"

	"dusha/core/fault"
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
	surface, ok := f.Choice(field+"surface", append([]string{"all", "walls"}, a.surfaceNames()...), append([]any{namesOn}, args...)...)
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
	if f.Offer(field + "soundness"); substrate.AgeRules[p.Material] != "" {
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
	along, okAlong := s.f.Length(field+"along", 0, mostSide*4, append([]any{alongIt}, args...)...)
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

// OpenLeak is a leak that is not yet plugged and found dry.
type OpenLeak struct {
	ID      string
	Surface string
	Plugged bool
}
