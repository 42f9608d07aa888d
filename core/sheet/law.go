package sheet

import (
	"slices"

	"dusha/core/cure"
	"dusha/core/order"
)

// Law is how a product's waits move with the climate.
type Law struct {
	Name   string   `json:"law"`               // one of Laws, "" where nothing says it
	Energy float64  `json:"energy_kJ_per_mol"` // where a table prints one time, or its fit is refused
	Minds  []string `json:"minds"`             // "temperature", "humidity", "dew", "frost"

	Damp    float64 `json:"-"` // 1 where damp air holds the film up, -1 where it brings it on
	TooDamp float64 `json:"-"` // humidity over which nothing sets, where the sheet states none; 0: there is none
}

// MindsOf tells whether a law minds something.
func (l Law) MindsOf(what string) bool { return slices.Contains(l.Minds, what) }

// setting is a law with how it makes a wait of a table; each stands in a file of its own.
type setting struct {
	Law
	place int // in the form
	wait  func(laying) (cure.Wait, error)
}

// laying is what a wait is asked of: a sheet's table that counts as a least or a latest time, its wait by
// temperature alone, and the film it is for, mm wet, against the nominal one; 0 where it is not known.
type laying struct {
	sheet        Sheet
	table        cure.Table
	byTable      cure.Wait
	counts       string
	wet, nominal float64
}

// lawsBy are the laws by name, that of what nothing is known of among them.
var lawsBy = map[string]setting{}

// law takes one up.
func law(s setting) { lawsBy[s.Name] = s }

// Laws are the ways in which a film sets, in the order of the form.
func Laws() []string {
	var names []string
	for name := range lawsBy {
		if name != "" {
			names = append(names, name)
		}
	}
	order.By(names, func(a, b string) int { return lawsBy[a].place - lawsBy[b].place })
	return names
}

// lawOf is a law by its name; another name is none.
func lawOf(name string) Law {
	known, is := lawsBy[name]
	if !is {
		known = lawsBy[""]
	}
	return known.Law
}

// byTable is the law of what sets by its temperature alone.
func byTable(l laying) (cure.Wait, error) { return l.byTable, nil }
