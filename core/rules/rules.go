// Package rules holds local-rules profiles: the limits that belong to a place and not to
// a product. Each number has a source line; the shipped profile is generic and says so.
package rules

import (
	"embed"
	"fmt"
	"maps"
	"slices"
	"sync"
	"time"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/sheet"

	json1 "github.com/go-json-experiment/json/v1"
)

// Profile is a named set of limits. A plan embeds the profile it used. An edited one names
// the one it was copied from.
type Profile struct {
	ID      string                `json:"id"`
	Name    string                `json:"name"`
	Note    string                `json:"note"`
	Numbers map[string]sheet.Said `json:"numbers"`
	From    string                `json:"from,omitempty"`
}

// Textures are the surface profiles a base may have, smooth to open; the profile's number
// "texture_<name>" is the mean texture depth R in mm.
var Textures = []string{"smooth", "fine", "rough", "open"}

// Number gives a figure of the profile.
func (p Profile) Number(name string) (figure.Figure, error) {
	said, ok := p.Numbers[name]
	if !ok {
		return figure.Figure{}, fault.At("rules."+name, "rules.not_stated", "number", name, "profile", p.Name)
	}
	return figure.Read("rules."+name, said.Value, said.Unit, figure.Source{Kind: "rules", Ref: p.ID, Says: said.Says}), nil
}

// Limit gives a figure of the profile, or the generic one where an older profile has none.
func (p Profile) Limit(name string) figure.Figure {
	if own, err := p.Number(name); err == nil {
		return own
	}
	own, err := read()[0].Number(name)
	if err != nil {
		panic(err) // a name that the program asks for and does not ship
	}
	return own
}

//go:embed profiles/*.json
var shipped embed.FS

// profileOrder: the first is the one in use where nothing else is chosen.
var profileOrder = []string{"generic", "exterior", "water_retaining"}

// Shipped are the profiles that ship. Each says that the local code decides.
func Shipped() []Profile {
	list := slices.Clone(read())
	for i := range list {
		list[i].Numbers = maps.Clone(list[i].Numbers)
	}
	return list
}

// read gives the profiles as they ship, read once; nobody changes them.
var read = sync.OnceValue(func() []Profile {
	var list []Profile
	for _, name := range profileOrder {
		text, err := shipped.ReadFile("profiles/" + name + ".json")
		if err != nil {
			panic(err) // the files are part of the program
		}
		var p Profile
		if err := json1.Unmarshal(text, &p); err != nil {
			panic(fmt.Errorf("profile %s: %w", name, err))
		}
		if base := list; len(base) > 0 { // a number it does not state is that of the generic one
			for number, said := range base[0].Numbers {
				if _, own := p.Numbers[number]; !own {
					p.Numbers[number] = said
				}
			}
		}
		list = append(list, p)
	}
	return list
})

// Generic is the first of the profiles that ship.
func Generic() Profile { return Shipped()[0] }

// Limits of a profile's number, by unit.
var bounds = map[string][2]float64{
	"percent": {0, 100}, "mm": {0, 5000}, "min": {0, 1440}, "h": {0, 2000}, "d": {0, 4000}, "m2/h": {0.1, 500},
	"1/m2": {0.01, 100}, "L/min/m": {0.1, 100}, "mm/h": {0.001, 20}, "count": {0.1, 1000},
}

// Check refuses a profile without a name, with a number that the generic one does not know or
// that is out of bounds, or with a number without its source line.
func (p Profile) Check(path string) error {
	const mostText = 200
	generic := read()[0].Numbers
	switch {
	case p.ID == "":
		return fault.At(path+".id", "text.missing")
	case p.Name == "":
		return fault.At(path+".name", "text.missing")
	case len([]rune(p.Name)) > mostText || len([]rune(p.Note)) > mostText:
		return fault.At(path+".name", "text.too_long", "most", mostText)
	}
	for _, name := range slices.Sorted(maps.Keys(p.Numbers)) {
		said := p.Numbers[name]
		known, is := generic[name]
		if !is {
			return fault.At(path+".numbers."+name, "choice.unknown", "typed", name)
		}
		if said.Unit != known.Unit {
			return fault.At(path+".numbers."+name, "rules.other_unit", "typed", said.Unit, "want", known.Unit)
		}
		limit := bounds[known.Unit]
		if !(said.Value >= limit[0] && said.Value <= limit[1]) {
			return fault.At(path+".numbers."+name, "number.too_large", "value", said.Value, "most", limit[1])
		}
		if said.Says == "" {
			return fault.At(path+".numbers."+name, "rules.no_source")
		}
	}
	return nil
}

// Order lists the numbers of a profile by what they are about.
func Order() []string { return slices.Clone(order) }

var order = []string{
	"upstand", "freeboard", "fall_n", "closing", "age_concrete", "age_screed", "sheet_age", "flatness", "pressure_factor",
	"test_depth", "test_hours", "test_tolerance", "test_soak", "test_interval", "spray_minutes", "spray_flow", "readings_per_m2", "least_share", "ratio_tolerance", "waste",
	"texture_smooth", "texture_fine", "texture_rough", "texture_open", "join_clear", "weigh", "walk", "crew_rate", "start_margin",
}

// Ask reads a profile of one's own: a name, and each number that differs from the base with
// who says so. What is left as it is keeps the base's source line.
func Ask(base Profile, id string, typed map[string]string) (*ask.Form, *Profile) {
	f := &ask.Form{Typed: typed}
	own := Profile{ID: id, Note: base.Note, From: base.ID, Numbers: map[string]sheet.Said{}}
	own.Name, _ = f.Text("profile_name", 80)
	source, hasSource := "", false
	changed := false
	for _, name := range order {
		said := base.Numbers[name]
		limit := bounds[said.Unit]
		value := f.NumberOr("numbers."+name, said.Unit, limit[0], limit[1], said.Value, "says", said.Says)
		if typed["numbers."+name] != "" && value != said.Value {
			said, changed = sheet.Said{Value: value, Unit: said.Unit}, true
		}
		own.Numbers[name] = said
	}
	if changed {
		source, hasSource = f.Text("source", 120)
	}
	for name, said := range own.Numbers {
		if said.Says == "" && hasSource {
			said.Says = source
			own.Numbers[name] = said
		}
	}
	if len(f.Faults()) > 0 {
		return f, nil
	}
	return f, &own
}

// OldSheet is a printing that is older than the local rules like.
type OldSheet struct {
	Days float64 `json:"days"`
	Most float64 `json:"most"`
}

// AgeOf tells that a printing, or one of its attached papers, is older than the local rules like on a
// day (2006-01-02); nil where none is, or no date is printed.
func (p Profile) AgeOf(s sheet.Sheet, today string) *OldSheet {
	now, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return nil
	}
	days := 0.0
	dates := []string{s.Printed}
	for _, file := range s.Files {
		dates = append(dates, file.Printed)
	}
	for _, date := range dates {
		if printed, err := time.Parse(time.DateOnly, date); err == nil {
			const hours = 24
			days = max(days, now.Sub(printed).Hours()/hours)
		}
	}
	if most := p.Limit("sheet_age").Value; days > most {
		return &OldSheet{days, most}
	}
	return nil
}
