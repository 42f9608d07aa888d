package system

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/sheet"
)

// Used is the printing that a plan takes for one of a system's products.
type Used struct {
	Key     string      `json:"key"`
	Sheet   sheet.Sheet `json:"sheet"`
	Reason  string      `json:"reason,omitempty"` // of one taken instead of the system's own
	Person  string      `json:"person,omitempty"` // who answers for it
	Outside bool        `json:"outside"`          // not tested with the system
}

// Swap takes another product than the one the system names.
type Swap struct {
	Product string `json:"product"` // that the system names
	Sheet   string `json:"sheet"`   // id of the one taken; empty: none
	Reason  string `json:"reason"`
	Person  string `json:"person"`
}

// Companion is a product that goes with what makes the area tight, in the revision used.
type Companion struct {
	Key     string
	Role    string
	Sheet   sheet.Sheet
	Reason  string
	Person  string
	Outside bool
}

// Named is a product that a system names.
type Named struct {
	Key     string
	Role    string
	Product string
}

// Membrane is the product of the film.
func (s System) Membrane() (Product, bool) {
	film, is := s.Film()
	if !is {
		return Product{}, false
	}
	return s.ProductOf(film.Product)
}

// Fits tells whether a sheet is a printing of a product: its own, or one that was filled on its form.
func Fits(s sheet.Sheet, product string) bool { return s.Of() == product || s.CopiedFrom == product }

// MadeTightBy tells whether a sheet can be the film of the system: a printing of its product, or one that says of
// none what it is a printing of, of the same chemistry.
func (s System) MadeTightBy(of sheet.Sheet) bool {
	film, is := s.Membrane()
	unknown := of.Product == "" && of.CopiedFrom == "" && !of.Sample
	return is && of.Is() == "membrane" && (Fits(of, film.Product) || unknown && of.Chemistry == s.Chemistry)
}

// Take finds the printing for each product of a system in a library, the membrane's being chosen: the last of one's
// own, the sample where samples may be used, or what a person took instead. left are the keys of what is not taken.
func (s System) Take(membrane sheet.Sheet, library []sheet.Sheet, swaps []Swap, samples bool) (list []Used, left []string) {
	list = []Used{}
	film, _ := s.Membrane()
	for _, p := range s.Products {
		if p.Key == film.Key {
			list = append(list, Used{Key: p.Key, Sheet: membrane})
			continue
		}
		u := Used{Key: p.Key}
		i := slices.IndexFunc(swaps, func(swap Swap) bool { return swap.Product == p.Product })
		if i >= 0 && swaps[i].Sheet == "" {
			left = append(left, p.Key)
			continue
		}
		var found *sheet.Sheet
		for k, each := range library {
			switch {
			case each.Sample && !samples:
			case i >= 0 && each.ID == swaps[i].Sheet:
				found = &library[k]
				u.Reason, u.Person = swaps[i].Reason, swaps[i].Person
			case i < 0 && Fits(each, p.Product):
				if found == nil || found.Sample || !each.Sample {
					found = &library[k]
				}
			}
		}
		if found == nil {
			continue
		}
		u.Sheet = *found
		list = append(list, u)
	}
	s.judgeFamilies(list)
	return list, left
}

// judgeFamilies says what is not tested with the film of its own zone.
func (s System) judgeFamilies(list []Used) {
	sheets := Sheets(list)
	for _, part := range s.Parts() {
		film, _ := part.Membrane()
		membrane, there := sheets[film.Key]
		for i := range list {
			if _, own := part.ProductOf(list[i].Key); own && there && list[i].Key != film.Key {
				list[i].Outside = !sheet.SameFamily(membrane, list[i].Sheet)
			}
		}
	}
}

// Sheets are the printings by the system's keys.
func Sheets(used []Used) map[string]sheet.Sheet {
	all := map[string]sheet.Sheet{}
	for _, u := range used {
		all[u.Key] = u.Sheet
	}
	return all
}

// With tells what goes with the membrane in a plan, and what the system names and no sheet is there for, left out what
// a person said is not taken.
func (s System) With(used []Used, left ...string) (found []Companion, missing []Named) {
	film, _ := s.Membrane()
	for _, p := range s.Products {
		if p.Key == film.Key {
			continue
		}
		i := slices.IndexFunc(used, func(u Used) bool { return u.Key == p.Key })
		if i < 0 {
			if !slices.Contains(left, p.Key) {
				missing = append(missing, Named{p.Key, p.Role, p.Product})
			}
			continue
		}
		u := used[i]
		found = append(found, Companion{Key: p.Key, Role: p.Role, Sheet: u.Sheet, Reason: u.Reason, Person: u.Person, Outside: u.Outside})
	}
	return found, missing
}

// Mixed is a matter in which two ways of working meet in one wet area.
type Mixed struct {
	School string `json:"school"`
	One    string `json:"one"`
	Other  string `json:"other"`
	Of     string `json:"of"`   // name of the system that works the one way
	With   string `json:"with"` // and of the other
}

// allSchools are the matters in the order of the work.
var allSchools = []string{
	"base", "key", "primer_return", "details", "coats", "strokes", "reinforcement", "junction", "thickness", "overlay", "mist", "old_coatings", "proof",
}

// MixedWays lists where two systems that meet in one wet area work in different ways.
func MixedWays(one, other System) []Mixed {
	mixed := []Mixed{}
	a, b := one.AllWays(), other.AllWays()
	for _, name := range allSchools {
		if a[name] != "" && b[name] != "" && a[name] != b[name] {
			mixed = append(mixed, Mixed{School: name, One: a[name], Other: b[name], Of: one.Name, With: other.Name})
		}
	}
	return mixed
}

// Built is what a system comes to with the printings that are used.
type Built struct {
	System  System // with the coats that its printings ask for
	Order   Order
	Film    sheet.Sheet // of what makes the area tight
	With    []Companion // what goes with it
	Missing []Named     // what the system names and no sheet is there for
}

// Sheets are the printings by the system's keys.
func (b Built) Sheets() map[string]sheet.Sheet {
	all := map[string]sheet.Sheet{}
	for _, c := range b.With {
		all[c.Key] = c.Sheet
	}
	if film, is := b.System.Membrane(); is {
		all[film.Key] = b.Film
	}
	return all
}

// Build works out what a system comes to; left are keys of products that are not taken. It refuses a system without
// a film or its sheet, and one whose order cannot be followed.
func Build(s System, used []Used, left ...string) (b Built, err error) {
	sheets := Sheets(used)
	if b.System, err = s.Fitted(sheets); err != nil {
		return b, err
	}
	s = b.System
	film, is := s.Membrane()
	of, there := sheets[film.Key]
	if !is || !there {
		return b, fault.At("system", "plan.no_membrane", "name", s.Name)
	}
	b.Film = of
	b.With, b.Missing = s.With(used, left...)
	b.Order, err = s.order(sheets)
	return b, err
}
