// Package sheet holds what one product's data sheet says, with the recipe of its system.
//
// Every number carries the text it was read from. A number that a sheet does not state
// stays missing, and what needs it says so. The sheets that ship are marked as samples:
// their figures are plausible inventions and never reach real work.
package sheet

import (
	"embed"
	"encoding/json"
	"fmt"
	"slices"
	"sync"

	"dusha/core/ask"
	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/figure"
)

// Said is a number and the text it was read from.
type Said struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Says  string  `json:"says"`
}

// Sheet is one printing of one product's data sheet.
type Sheet struct {
	ID         string          `json:"id"`
	Revision   string          `json:"revision"` // as printed: a date or a number
	Name       string          `json:"name"`
	Chemistry  string          `json:"chemistry"` // "cementitious_two_part"
	Sample     bool            `json:"sample"`    // invented figures, not for work
	CopiedFrom string          `json:"copied_from,omitempty"`
	WeighOut   bool            `json:"weigh_out"` // kits may be split by weighing
	Parts      []Part          `json:"parts"`     // in pouring order
	Numbers    map[string]Said `json:"numbers"`
	Recipe     Recipe          `json:"recipe"`
}

// Part is a component as it goes into the bucket.
type Part struct {
	ID   string `json:"id"` // its share is the number "part_<id>"
	Kind string `json:"kind"`
	Name string `json:"name"`
}

// Recipe is the order of the work for a system: data, so that no code knows a step by name.
type Recipe struct {
	Stages []Stage `json:"stages"`
}

// Stage is a stretch of the work shown as one length of the spine.
type Stage struct {
	ID    string `json:"id"`
	Title string `json:"title"`
	Steps []Step `json:"steps"`
}

// Step is one thing to do. Does says what kind of entry finishes it.
type Step struct {
	ID       string   `json:"id"`
	Title    string   `json:"title"`
	Does     string   `json:"does"`           // one of does
	Coat     int      `json:"coat,omitempty"` // of a coat, and of the hold that accepts its film
	Why      string   `json:"why"`
	Checks   []string `json:"checks,omitempty"` // what the person confirms, a line each
	Never    []Never  `json:"never,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	Opens    *Opening `json:"opens,omitempty"`
}

// Hold tells whether work stops at the step until someone signs.
func (s Step) Hold() bool { return s.Does == "accept" || s.Does == "sign" }

// Never is a thing not to do, with its reason.
type Never struct {
	Line   string `json:"line"`
	Reason string `json:"reason"`
}

// Opening is the window of a step after an earlier one. Where a sheet is unclear about the
// anchor, a least time counts from the earlier step's end and a latest from its beginning.
type Opening struct {
	After   string   `json:"after"`             // step that starts the times
	Table   string   `json:"table"`             // prefix of the sheet's numbers, least hours by °C
	Latest  string   `json:"latest,omitempty"`  // the same of the latest; empty: stays open
	Confirm []string `json:"confirm,omitempty"` // states a person confirms: the clock alone releases nothing
	Remedy  string   `json:"remedy,omitempty"`  // what makes it good when it is too late
}

// Steps lists all steps in order.
func (r Recipe) Steps() []Step {
	var steps []Step
	for _, stage := range r.Stages {
		steps = append(steps, stage.Steps...)
	}
	return steps
}

// Step finds a step by id.
func (r Recipe) Step(id string) (Step, bool) {
	steps := r.Steps()
	i := slices.IndexFunc(steps, func(s Step) bool { return s.ID == id })
	if i < 0 {
		return Step{}, false
	}
	return steps[i], true
}

// does lists the kinds of step the fold can finish.
var does = []string{"survey", "plan", "check", "bed", "coat", "accept", "plan_test", "test", "sign"}

// Check refuses a recipe that cannot be followed: no step, a step twice, a kind of step
// that no entry finishes, or a wait for a step that does not come before.
func (r Recipe) Check() error {
	seen := map[string]bool{}
	for _, s := range r.Steps() {
		field := "recipe." + s.ID
		switch {
		case s.ID == "" || s.Title == "":
			return fault.At(field, "recipe.step_without_name")
		case seen[s.ID]:
			return fault.At(field, "recipe.step_twice", "step", s.ID)
		case !slices.Contains(does, s.Does):
			return fault.At(field, "recipe.unknown_kind", "typed", s.Does)
		case s.Does == "coat" && s.Coat < 1:
			return fault.At(field, "recipe.coat_without_number")
		case s.Opens != nil && !seen[s.Opens.After]:
			return fault.At(field, "recipe.waits_for_later_step", "step", s.Opens.After)
		}
		seen[s.ID] = true
	}
	if len(seen) == 0 {
		return fault.At("recipe", "recipe.empty")
	}
	return nil
}

// Number gives a figure of the sheet; a number it does not state is a fault that names it.
func (s Sheet) Number(name string) (figure.Figure, error) {
	said, ok := s.Numbers[name]
	if !ok {
		return figure.Figure{}, fault.At("sheet."+name, "sheet.not_stated", "number", name, "sheet", s.Name)
	}
	return figure.Read("sheet."+name, said.Value, said.Unit, figure.Source{Kind: "sheet", Ref: s.ID, Says: said.Says}), nil
}

// temperatures at which a table may be printed, °C.
var temperatures = []int{5, 10, 15, 20, 25, 30}

// Table collects the numbers "<prefix>_<°C>" as a table by temperature.
func (s Sheet) Table(prefix string) cure.Table {
	table := cure.Table{DefaultE: cure.DefaultCementitious}
	for _, temp := range temperatures {
		if said, ok := s.Numbers[tableName(prefix, temp)]; ok {
			table.Entries = append(table.Entries, cure.Entry{Temp: float64(temp), Time: said.Value})
		}
	}
	return table
}

// TableNames are the numbers that make a table, coldest first.
func (s Sheet) TableNames(prefix string) []string {
	var names []string
	for _, temp := range temperatures {
		if name := tableName(prefix, temp); s.Numbers[name].Unit != "" {
			names = append(names, name)
		}
	}
	return names
}

func tableName(prefix string, temp int) string { return fmt.Sprintf("%s_%d", prefix, temp) }

// PartShares gives the parts by mass in pouring order.
func (s Sheet) PartShares() ([]float64, error) {
	var shares []float64
	for _, part := range s.Parts {
		said, err := s.Number("part_" + part.ID)
		if err != nil {
			return nil, err
		}
		shares = append(shares, said.Value)
	}
	return shares, nil
}

// asked is one figure of the form that a sheet is filled by.
type asked struct {
	name, unit  string
	least, most float64
	needed      bool
}

var form = []asked{
	{"part_a", "parts", 0.01, 10000, true},
	{"part_b", "parts", 0.01, 10000, true},
	{"density_a", "kg/L", 0.5, 3, true},
	{"mixed_density", "kg/L", 0.5, 3, true},
	{"kit", "kg", 0.1, 2000, true},
	{"coats", "count", 1, 6, true},
	{"wft_per_coat", "mm", 0.05, 10, true},
	{"greatest_wft", "mm", 0.05, 20, true},
	{"least_wft", "mm", 0.05, 10, false},
	{"dry_to_wet", "ratio", 0.05, 1, false},
	{"ratio_tolerance", "percent", 0.1, 20, false},
	{"mix", "min", 0.5, 60, true},
	{"stand", "min", 0, 60, true},
	{"pot_life_10", "min", 1, 1440, false},
	{"pot_life_20", "min", 1, 1440, true},
	{"pot_life_30", "min", 1, 1440, false},
	{"temp_least", "C", -20, 40, true},
	{"temp_most", "C", 0, 60, true},
	{"recoat_10", "h", 0.1, 1000, false},
	{"recoat_20", "h", 0.1, 1000, true},
	{"recoat_30", "h", 0.1, 1000, false},
	{"recoat_latest_10", "h", 1, 5000, false},
	{"recoat_latest_20", "h", 1, 5000, false},
	{"recoat_latest_30", "h", 1, 5000, false},
	{"cure_10", "h", 0.5, 5000, false},
	{"cure_20", "h", 0.5, 5000, true},
	{"cure_30", "h", 0.5, 5000, false},
	{"band_width", "mm", 20, 500, true},
	{"band_roll", "m", 1, 200, true},
	{"band_lap", "mm", 0, 300, true},
	{"band_margin", "mm", 0, 300, true},
	{"bed_below", "kg/m2", 0, 10, true},
	{"bed_above", "kg/m2", 0, 10, true},
}

// Ask fills a sheet of one's own from the printed one, with a sample as the form: its
// parts and recipe are kept, its figures are not. The sheet is given once every question
// is answered; its id is the one passed in.
func Ask(sample Sheet, id string, typed map[string]string) (*ask.Form, *Sheet) {
	f := &ask.Form{Typed: typed}
	own := Sheet{
		ID: id, Chemistry: sample.Chemistry, CopiedFrom: sample.ID, WeighOut: sample.WeighOut,
		Parts: sample.Parts, Recipe: sample.Recipe, Numbers: map[string]Said{},
	}
	own.Name, _ = f.Text("name", 80)
	own.Revision, _ = f.Text("revision", 40)
	for _, a := range form {
		read := f.Stated
		if a.needed {
			read = func(id, unit string, least, most float64) (float64, bool) { return f.Number(id, unit, least, most) }
		}
		if value, stated := read(a.name, a.unit, a.least, a.most); stated {
			own.Numbers[a.name] = Said{Value: value, Unit: a.unit, Says: typed[a.name]}
		}
	}
	own.contradictions(f)
	if len(f.Faults()) > 0 {
		return f, nil
	}
	return f, &own
}

// contradictions rejects figures that cannot stand beside each other.
func (s Sheet) contradictions(f *ask.Form) {
	number := func(name string) (float64, bool) { said, ok := s.Numbers[name]; return said.Value, ok }
	wet, ok1 := number("wft_per_coat")
	greatest, ok2 := number("greatest_wft")
	if ok1 && ok2 && greatest < wet {
		f.Reject(fault.At("greatest_wft", "sheet.greatest_below_coat", "value", greatest, "least", wet))
	}
	if thinnest, stated := number("least_wft"); stated && ok1 && thinnest > wet {
		f.Reject(fault.At("least_wft", "sheet.least_above_coat", "value", thinnest, "most", wet))
	}
	for _, temp := range temperatures {
		latest := tableName("recoat_latest", temp)
		shuts, ok1 := number(latest)
		opens, ok2 := number(tableName("recoat", temp))
		if ok1 && ok2 && shuts <= opens {
			f.Reject(fault.At(latest, "sheet.latest_before_earliest", "value", shuts, "least", opens))
		}
	}
	least, ok1 := number("temp_least")
	most, ok2 := number("temp_most")
	if ok1 && ok2 && most <= least {
		f.Reject(fault.At("temp_most", "sheet.range_upside_down", "value", most, "least", least))
	}
}

//go:embed samples/*.json
var samples embed.FS

// Samples are the sheets that ship, each marked as a sample; they are read once.
func Samples() []Sheet { return slices.Clone(readSamples()) }

var readSamples = sync.OnceValue(func() []Sheet {
	files, err := samples.ReadDir("samples")
	if err != nil {
		panic(err) // the files are part of the program
	}
	var sheets []Sheet
	for _, file := range files {
		text, err := samples.ReadFile("samples/" + file.Name())
		if err != nil {
			panic(err)
		}
		var s Sheet
		if err := json.Unmarshal(text, &s); err != nil {
			panic(fmt.Errorf("sample sheet %s: %w", file.Name(), err))
		}
		sheets = append(sheets, s)
	}
	return sheets
})

// Sample finds a shipped sheet by id.
func Sample(id string) (Sheet, bool) {
	sheets := Samples()
	i := slices.IndexFunc(sheets, func(s Sheet) bool { return s.ID == id })
	if i < 0 {
		return Sheet{}, false
	}
	return sheets[i], true
}
