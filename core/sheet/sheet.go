// Package sheet holds what one product's data sheet says, with the recipe of its system.
//
// Every number carries the text it was read from. A number that a sheet does not state
// stays missing, and what needs it says so. The sheets that ship are marked as samples:
// their figures are plausible inventions and never reach real work.
package sheet

import (
	"fmt"
	"slices"
	"strings"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/figure"
)

// Said is a number and the text it was read from. A range keeps both its ends.
type Said struct {
	Value float64  `json:"value"`
	High  *float64 `json:"high,omitempty"` // the upper end of a range
	Unit  string   `json:"unit"`
	Says  string   `json:"says"`
	Trial string   `json:"trial,omitempty"` // entry id of the trial patch it was measured by
}

// Ends are both ends of what is printed.
func (s Said) Ends() (low, high float64) {
	if s.High == nil {
		return s.Value, s.Value
	}
	return s.Value, *s.High
}

// Sheet is one printing of one product's data sheet. A membrane's sheet names what goes with
// it and carries the recipe of the system; other products state their figures alone.
type Sheet struct {
	ID         string            `json:"id"`
	Revision   string            `json:"revision"` // as printed: a date or a number
	Name       string            `json:"name"`
	Role       string            `json:"role,omitempty"`     // one of Roles; empty: membrane
	Product    string            `json:"product,omitempty"`  // what its printings have in common; empty: its id
	Families   []string          `json:"families,omitempty"` // systems it is tested with
	Chemistry  string            `json:"chemistry"`          // one of Chemistries, of a membrane
	Sample     bool              `json:"sample"`             // invented figures, not for work
	CopiedFrom string            `json:"copied_from,omitempty"`
	Replaces   string            `json:"replaces,omitempty"` // id of the revision before it
	Printed    string            `json:"printed,omitempty"`  // date of printing, 2006-01-02
	Language   string            `json:"language,omitempty"`
	Files      []File            `json:"files,omitempty"`
	WeighOut   bool              `json:"weigh_out"` // kits may be split by weighing
	Parts      []Part            `json:"parts"`     // in pouring order
	Packs      []Pack            `json:"packs,omitempty"`
	Numbers    map[string]Said   `json:"numbers"`
	Choices    map[string]string `json:"choices,omitempty"` // what is picked, not measured: ratings, forms, states
	With       []With            `json:"with,omitempty"`    // of a membrane: what goes with it
	Recipe     Recipe            `json:"recipe"`
}

// File is a printed sheet as it was received.
type File struct {
	ID       string `json:"id"`   // of the stored file
	Kind     string `json:"kind"` // "data_sheet" or "hazard_sheet"
	Name     string `json:"name"`
	Hash     string `json:"sha256"`
	Printed  string `json:"printed,omitempty"` // 2006-01-02
	Language string `json:"language,omitempty"`
}

// Pack is a size that the product is sold in.
type Pack struct {
	Size  float64 `json:"size"`
	Unit  string  `json:"unit"`           // "kg", "m", "m2" or "count"
	Part  string  `json:"part,omitempty"` // the part it holds; empty: all of them
	Price int     `json:"price_cents"`    // 0: not known
	Says  string  `json:"says"`
}

// With is a product that goes with a membrane.
type With struct {
	Role    string   `json:"role"`
	Product string   `json:"product"`
	On      []string `json:"on,omitempty"` // of a primer: the substrates it is for
}

// Part is a component as it goes into the bucket.
type Part struct {
	ID   string `json:"id"` // its share is the number "part_<id>"
	Kind string `json:"kind"`
	Name string `json:"name"`
}

// Recipe is the order of the work for a system: data, so that no code knows a step by name.
type Recipe struct {
	Schools map[string]string `json:"schools,omitempty"` // how it works, by the names of Schools
	Stages  []Stage           `json:"stages"`
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
	Does     Doing    `json:"does"`
	Coat     int      `json:"coat,omitempty"` // of a coat, and of the hold that accepts its film
	Why      string   `json:"why"`
	Checks   []string `json:"checks,omitempty"` // what the person confirms, a line each
	Never    []Never  `json:"never,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	Opens    *Opening `json:"opens,omitempty"`
	Uses     []string `json:"uses,omitempty"`      // roles of the materials it takes
	Tools    []string `json:"tools,omitempty"`     // ids of tools
	Wants    string   `json:"wants,omitempty"`     // state of the base: "damp", "dry" or "ssd"
	Strokes  string   `json:"direction,omitempty"` // "one_way", "crossed" or "wet_on_wet"
	First    string   `json:"first,omitempty"`     // who or what goes first, in words
}

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
	Anchor  string   `json:"anchor,omitempty"`  // what the sheet counts from, where it says so: one of Anchors
	Confirm []string `json:"confirm,omitempty"` // states a person confirms: the clock alone releases nothing
	Remedy  string   `json:"remedy,omitempty"`  // what makes it good when it is too late
}

// Steps lists all steps in order.
func (r Recipe) Steps() []Step {
	n := 0
	for _, stage := range r.Stages {
		n += len(stage.Steps)
	}
	steps := make([]Step, 0, n)
	for _, stage := range r.Stages {
		steps = append(steps, stage.Steps...)
	}
	return steps
}

// Step finds a step by id.
func (r Recipe) Step(id string) (Step, bool) {
	for _, stage := range r.Stages {
		if i := slices.IndexFunc(stage.Steps, func(s Step) bool { return s.ID == id }); i >= 0 {
			return stage.Steps[i], true
		}
	}
	return Step{}, false
}

// Check refuses a recipe that cannot be followed: no step, a step twice, a kind of step
// that no entry finishes, or a wait for a step that does not come before.
func (r Recipe) Check() error {
	seen := map[string]bool{}
	for _, s := range r.Steps() {
		field := "recipe." + s.ID
		_, known := doings[s.Does]
		switch {
		case s.ID == "" || s.Title == "":
			return fault.At(field, "recipe.step_without_name")
		case seen[s.ID]:
			return fault.At(field, "recipe.step_twice", "step", s.ID)
		case !known:
			return fault.At(field, "recipe.unknown_kind", "typed", s.Does)
		case s.Coats() && s.Coat < 1:
			return fault.At(field, "recipe.coat_without_number")
		case s.Opens != nil && !seen[s.Opens.After]:
			return fault.At(field, "recipe.waits_for_later_step", "step", s.Opens.After)
		case s.Opens != nil && s.Opens.Anchor != "" && !slices.Contains(Anchors, s.Opens.Anchor):
			return fault.At(field, "choice.unknown", "typed", s.Opens.Anchor)
		case s.Wants != "" && !slices.Contains(Schools["base"], s.Wants):
			return fault.At(field, "choice.unknown", "typed", s.Wants)
		}
		seen[s.ID] = true
	}
	if len(seen) == 0 {
		return fault.At("recipe", "recipe.empty")
	}
	return checkSchools(r.Schools)
}

// Number gives a figure of the sheet; a number it does not state is a fault that names it.
// Of a range it gives the end that a quantity is taken from, the greater. The wet film of a coat
// may come from what else the sheet states, and the kit from its first pack.
func (s Sheet) Number(name string) (figure.Figure, error) {
	switch _, stated := s.Numbers[name]; {
	case name == "wft_per_coat":
		if film := s.Film(); film.Wet != nil {
			return *film.Wet, nil
		}
	case name == "kit" && !stated && len(s.Packs) > 0 && s.Packs[0].Unit == "kg" && s.Packs[0].Part == "":
		return s.read(name, Said{Value: s.Packs[0].Size, Unit: "kg", Says: s.Packs[0].Says}), nil
	}
	said, ok := s.Numbers[name]
	if !ok {
		return figure.Figure{}, fault.At("sheet."+name, "sheet.not_stated", "number", name, "sheet", s.Name)
	}
	return s.read(name, said), nil
}

// read makes a leaf of what is said, at its greater end.
func (s Sheet) read(name string, said Said) figure.Figure {
	low, high := said.Ends()
	source := figure.Source{Kind: "sheet", Ref: s.ID, Says: said.Says}
	if said.Trial != "" {
		source = figure.Source{Kind: "entry", Ref: said.Trial, Says: said.Says}
	}
	f := figure.Read("sheet."+name, high, said.Unit, source)
	if low < high {
		f.Low, f.High = &low, &high
	}
	return f
}

// Is tells what a sheet is for.
func (s Sheet) Is() string {
	if s.Role == "" {
		return "membrane"
	}
	return s.Role
}

// Of is the product that the sheet is a printing of.
func (s Sheet) Of() string {
	if s.Product == "" {
		return s.ID
	}
	return s.Product
}

// temperatures at which a table may be printed, °C.
var temperatures = []int{5, 10, 15, 20, 25, 30}

// Table collects the numbers "<prefix>_<°C>" as a table by temperature.
func (s Sheet) Table(prefix string) cure.Table {
	table := cure.Table{DefaultE: s.Law().Energy}
	for _, temp := range temperatures {
		if said, ok := s.Numbers[tableName(prefix, temp)]; ok {
			table.Entries = append(table.Entries, cure.Entry{Temp: float64(temp), Time: cautious(prefix, said)})
		}
	}
	return table
}

// cautious is the end of a printed time that is waited by: the greater of a least time, the
// smaller of a latest one and of a pot life.
func cautious(prefix string, said Said) float64 {
	low, high := said.Ends()
	if prefix == "pot_life" || strings.HasSuffix(prefix, "_latest") {
		return low
	}
	return high
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

// PartShares gives the parts by mass in pouring order; parts by volume go through their densities.
func (s Sheet) PartShares() ([]float64, error) {
	if len(s.Parts) == 1 {
		return []float64{1}, nil
	}
	var shares []float64
	for _, part := range s.Parts {
		said, err := s.Number("part_" + part.ID)
		if err != nil {
			return nil, err
		}
		share := said.Value
		if s.Choices["ratio_by"] == "volume" {
			density, err := s.Number("density_" + part.ID)
			if err != nil {
				return nil, err
			}
			share *= density.Value
		}
		shares = append(shares, share)
	}
	return shares, nil
}
