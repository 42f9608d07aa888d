// Package sheet holds what one product's data sheet says: one printing of one product, whatever it is for. It knows
// nothing of systems.
//
// Every number carries the text it was read from. A number that a sheet does not state
// stays missing, and what needs it says so. The sheets that ship are marked as samples:
// their figures are plausible inventions and never reach real work.
package sheet

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/mixing"
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

// Sheet is one printing of one product's data sheet.
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

// Part is a component as it goes into the bucket.
type Part struct {
	ID   string `json:"id"` // its share is the number "part_<id>"
	Kind string `json:"kind"`
	Name string `json:"name"`
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
	case name == "mixed_density" && !stated:
		if worked, is := s.densityOfYield(); is {
			return worked, nil
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

// printedAt are the temperatures at which a table is printed, °C, coldest first.
func (s Sheet) printedAt(prefix string) (temps []int) {
	for name, said := range s.Numbers {
		rest, is := strings.CutPrefix(name, prefix)
		if !is || said.Unit == "" || len(rest) < 2 || rest[0] != '_' {
			continue
		}
		if temp, err := strconv.Atoi(rest[1:]); err == nil {
			temps = append(temps, temp)
		}
	}
	slices.Sort(temps)
	return temps
}

// Table collects the numbers "<prefix>_<°C>" as a table by temperature.
func (s Sheet) Table(prefix string) cure.Table {
	table := cure.Table{DefaultE: s.Law().Energy}
	for _, temp := range s.printedAt(prefix) {
		table.Entries = append(table.Entries, cure.Entry{Temp: float64(temp), Time: cautious(prefix, s.Numbers[tableName(prefix, temp)])})
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
	for _, temp := range s.printedAt(prefix) {
		names = append(names, tableName(prefix, temp))
	}
	return names
}

func tableName(prefix string, temp int) string { return fmt.Sprintf("%s_%d", prefix, temp) }

// PartShares gives the parts by mass in pouring order; parts by volume go through their densities.
func (s Sheet) PartShares() ([]float64, error) {
	return s.shares(func(part Part) (float64, error) {
		said, err := s.Number("part_" + part.ID)
		return said.Value, err
	})
}

// PartSharesAt is the same at a temperature, °C: of a catalyst the share that the sheet prints for it, on a straight line
// between two of its temperatures. It is refused outside them.
func (s Sheet) PartSharesAt(temp float64) ([]float64, error) {
	return s.shares(func(part Part) (float64, error) {
		var table []mixing.Dose
		for _, at := range s.printedAt("part_" + part.ID) {
			table = append(table, mixing.Dose{Temp: float64(at), Percent: s.Numbers[tableName("part_"+part.ID, at)].Value})
		}
		if len(table) == 0 {
			said, err := s.Number("part_" + part.ID)
			return said.Value, err
		}
		share, refused := mixing.Catalyst(table, temp)
		if refused {
			return 0, fault.At("temp_C", "mixing.catalyst_outside", "part", part.Name, "temp", temp, "least", table[0].Temp, "most", table[len(table)-1].Temp)
		}
		return share, nil
	})
}

// DoseTo is what of an additive comes on top of a mass of a mix, kg, of some density, kg/L: by mass, or by volume to the
// kilogram or the litre (mL is 0 where it is dosed by mass).
func (s Sheet) DoseTo(kg, density float64) (mixing.Added, error) {
	dose, err := s.Number("dose")
	if err != nil {
		return mixing.Added{}, err
	}
	const gramsPerKg = 1000
	if dose.Unit == "g/kg" {
		own := kg * dose.Value / gramsPerKg
		return mixing.Added{Kg: own, Total: kg + own}, nil
	}
	own, err := s.Number("mixed_density")
	if err != nil {
		return mixing.Added{}, err
	}
	in := mixing.Additive{Base: kg, BaseDensity: density, Density: own.Value}
	if dose.Unit == "mL/L" {
		in.PerL = dose.Value
	} else {
		in.PerKg = dose.Value
	}
	return in.Measure()
}

func (s Sheet) shares(of func(Part) (float64, error)) ([]float64, error) {
	if len(s.Parts) == 1 {
		return []float64{1}, nil
	}
	var shares []float64
	for _, part := range s.Parts {
		share, err := of(part)
		if err != nil {
			return nil, err
		}
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
