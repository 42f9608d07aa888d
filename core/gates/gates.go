// Package gates tells what stops a surveyed area: what was found on it, what nobody looked at, and what
// the local rules ask of it.
package gates

import (
	"math"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/pressure"
	"dusha/core/rules"
	"dusha/core/substrate"
	"dusha/core/wetarea"
)

// Gate stops an area until what it names is mended.
type Gate struct {
	Key   string         `json:"key"` // wording: what stops; Key + ".lift" says what would lift it
	Place string         `json:"place"`
	Args  map[string]any `json:"args,omitempty"`
	Hold  bool           `json:"hold"`          // stops the work; else it is asked to be looked at
	Says  string         `json:"says"`          // "no", or "not_known" where nobody looked: it stops like no
	Ask   []string       `json:"ask,omitempty"` // questions of the survey whose answer can lift it
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
	Leaks        []wetarea.OpenLeak
}

// Of lists what stops an area, each with what would lift it (the key's "lift").
func Of(area wetarea.Area, with Findings) []Gate {
	a := gated{area}
	list := []Gate{}
	say := func(says string, hold bool) func(string, string, ...any) {
		return func(key, place string, pairs ...any) {
			args := fault.At("", "", pairs...).Args
			list = append(list, Gate{"gate." + key, place, args, hold, says, askedBy(key, place, args)})
		}
	}
	stop, look, unknown := say("no", true), say("no", false), say("not_known", true)
	if !with.Base {
		unknown = func(string, string, ...any) {}
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
		each := patch{p}
		each.gates(with, stop, look)
		each.unknown(with, unknown)
	}
	if bare := a.uncovered(); len(bare) > 0 {
		unknown("unknown_base", bare[0], "n", len(bare))
	}
	a.rules(with, look)
	if with.PositiveOnly {
		for _, h := range a.Heads {
			if h.Negative > 0 {
				stop("from_behind", h.Surface, "head", h.Negative, "bar", h.NegativeBar)
			}
		}
	}
	return list
}

// mendedAt names the question of a patch that lifts a gate on it.
var mendedAt = map[string]string{
	"too_young": "age", "unknown_age": "age", "too_wet": "moisture", "unknown_moisture": "moisture",
	"unknown_head": "head", "from_behind": "water_side", "unknown_soundness": "soundness", "weak": "soundness",
	"trapped_water": "trapped", "surfacing": "surfacing", "bare_earth": "base", "flexing": "base", "salts": "salts",
	"contamination": "contamination", "strip": "old_coating", "profile": "profile_found", "flatness": "flatness",
}

// askedBy names the questions whose answer can lift a gate; nil where the work itself has to be done first.
func askedBy(key, place string, args map[string]any) []string {
	if id, of := args["patch"].(string); of {
		return []string{"patches." + id + "." + mendedAt[key]}
	}
	kind, name, _ := strings.Cut(place, ".")
	switch key {
	case "gap":
		if kind == "edge" {
			return []string{"walls." + name + ".kind", "walls." + name + ".water_stop"}
		}
		return []string{"openings." + name + ".water_stop"}
	case "unknown_base":
		return []string{"patches"}
	case "low_upstand":
		return []string{"walls." + name + ".height"}
	case "low_freeboard":
		return []string{"freeboard"}
	case "flat_fall":
		return []string{"fall.n"}
	}
	return nil
}

// gated is an area that is held against what is known; patch a patch of its base.
type (
	gated struct{ wetarea.Area }
	patch struct{ wetarea.Patch }
)

// ageAt is how old a patch is, in days.
func (p patch) ageAt(with Findings) (days float64, known bool) {
	const day = 24 * time.Hour
	if cast, err := time.Parse(time.DateOnly, p.Cast); err == nil && !with.Now.IsZero() {
		return with.Now.Sub(cast).Hours() / day.Hours(), true
	}
	if p.Age == nil {
		return 0, false
	}
	return *p.Age + with.Days, true
}

// leastAge is the longer of what the rule and the sheet ask, days; 0 where none asks.
func (p patch) leastAge(with Findings) float64 {
	rule, cast := substrate.AgeRules[p.Material]
	if !cast {
		return 0
	}
	return max(with.Rules.Limit(rule).Value, with.SheetAge)
}

// unknown are what nobody looked at on a patch.
func (p patch) unknown(with Findings, unknown func(string, string, ...any)) {
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
func (a gated) uncovered() (ids []string) {
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

// gates are what was found on a patch.
func (p patch) gates(with Findings, stop, look func(string, string, ...any)) {
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

// rules holds the survey against the local rules: upstands, freeboard and falls.
func (a gated) rules(with Findings, look func(string, string, ...any)) {
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
