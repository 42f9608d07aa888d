package sheet

import (
	"embed"
	"maps"
	"path"
	"slices"
	"strings"

	"dusha/core/climate"
	"dusha/core/cure"

	json1 "github.com/go-json-experiment/json/v1"
)

// chemistries are what is known of each kind of membrane, a file each: no code knows one by name.
//
//go:embed chemistries/*.json
var chemistryFiles embed.FS

// chemistry is one kind of membrane.
type chemistry struct {
	Sets      string   `json:"law"`
	Energy    float64  `json:"energy_kJ_per_mol"` // where a table prints one time, or its fit is refused
	Minds     []string `json:"minds"`
	Cautions  []string `json:"cautions"` // of whatever lays it, as wording "caution.<name>"
	Gear      []string `json:"gear"`     // what to wear and have by you, as wording "gear.<name>"
	Cleaning  []string `json:"cleaning"` // of the tools after it, as wording "cleaning.<name>"
	Asks      []string `json:"asks"`     // figures of the form that it has and others have not
	EachLayer bool     `json:"over_each_layer"`
}

var chemistries = func() map[string]chemistry {
	files, err := chemistryFiles.ReadDir("chemistries")
	must(err)
	all := map[string]chemistry{}
	for _, file := range files {
		text, err := chemistryFiles.ReadFile("chemistries/" + file.Name())
		must(err)
		var c chemistry
		must(json1.Unmarshal(text, &c))
		all[strings.TrimSuffix(path.Base(file.Name()), ".json")] = c
	}
	return all
}()

// Chemistries are the kinds of membrane.
var Chemistries = slices.Sorted(maps.Keys(chemistries))

func (s Sheet) chemistry() chemistry { return chemistries[s.Chemistry] }

// Law is how the sheet's product sets: as the sheet says, else as its chemistry or its role does.
// Where nothing says it, the slower of drying and setting by temperature is waited for.
func (s Sheet) Law() Law {
	of, known := chemistries[s.Chemistry]
	name := s.Choices["cures_by"]
	if name == "" {
		if name = of.Sets; name == "" {
			name = roleLaws[s.Is()]
		}
	}
	law := lawOf(name)
	if known && name == of.Sets {
		law.Energy, law.Minds = of.Energy, of.Minds
	}
	if said, stated := s.Numbers["energy"]; stated {
		law.Energy = said.Value
	}
	return law
}

// roleLaws are how other products set, where their sheet does not say it.
var roleLaws = map[string]string{"sealant": "moisture", "fillet_mortar": "hydration", "repair_mortar": "hydration", "grip_coat": "drying"}

// Gear lists what to wear and have by you where the product is laid, as wording "gear.<name>".
func (s Sheet) Gear() []string { return s.chemistry().Gear }

// Cleaning lists how tools are cleaned after it, as wording "cleaning.<name>".
func (s Sheet) Cleaning() []string { return s.chemistry().Cleaning }

// OverEachLayer tells whether the film of a coat is laid once more over each layer that goes into it.
func (s Sheet) OverEachLayer() bool { return s.chemistry().EachLayer }

// Cautions are those of the product: of its chemistry, its hazard and its solvent, as wording "caution.<name>".
func (s Sheet) Cautions() []string {
	list := slices.Clone(s.chemistry().Cautions)
	add := func(caution string) {
		if caution != "" && !slices.Contains(list, caution) {
			list = append(list, caution)
		}
	}
	add(hazards[s.Choices["hazard"]])
	add(roleCautions[s.Is()])
	if s.Choices["solvent"] == "yes" {
		add("solvent")
		add("fire")
	}
	return list
}

// hazards are the cautions of what a sheet warns of, and roleCautions those of what a product is whatever its sheet says.
var (
	hazards      = map[string]string{"isocyanate": "isocyanate", "epoxy": "epoxy", "methacrylate": "methacrylate", "cement": "alkaline", "bitumen": "hot_bitumen"}
	roleCautions = map[string]string{
		"catalyst": "peroxide", "fillet_mortar": "alkaline", "repair_mortar": "alkaline", "leak_plug": "alkaline", "screed": "alkaline", "smoothing_compound": "alkaline",
		"grout": "alkaline", "renovation_plaster": "alkaline",
	}
)

// Reference is the climate that the sheet's times are printed for.
func (s Sheet) Reference(t cure.Table) climate.Air {
	const usual, usualHumidity = 20.0, 50.0
	temp := nearest(t, usual)
	if said, stated := s.Numbers["reference"]; stated {
		temp = said.Value
	}
	humidity := usualHumidity
	if said, stated := s.Numbers["reference_rh"]; stated {
		humidity = said.Value
	}
	return climate.Air{Temp: temp, Base: temp, Humidity: humidity}
}

// nearest printed temperature.
func nearest(t cure.Table, to float64) float64 {
	best := to
	for i, e := range t.Entries {
		if i == 0 || abs(e.Temp-to) < abs(best-to) {
			best = e.Temp
		}
	}
	return best
}

func abs(v float64) float64 { return max(v, -v) }

// Hours are what a printed time comes to at its reference temperature, h: as a least that is never shortened, and as a
// latest. Nil where it is not stated.
func (s Sheet) Hours(prefix string) (least, latest *float64) {
	table := s.Table(prefix)
	temp := s.Reference(table).Temp
	if hours, err := table.Minimum(temp); err == nil {
		least = &hours
	}
	if hours, _, err := table.At(temp); err == nil {
		latest = &hours
	}
	return least, latest
}

// Timed is the sheet with a time that no printing of it states, at 20 °C: it moves with the climate as its others do.
func (s Sheet) Timed(prefix string, said Said) Sheet {
	numbers := maps.Clone(s.Numbers)
	if numbers == nil {
		numbers = map[string]Said{}
	}
	const usual = 20
	numbers[tableName(prefix, usual)] = said
	s.Numbers = numbers
	return s
}

// Wait is the law of one of the sheet's times for a film of some wet thickness, mm, against the
// nominal one; 0 where it is not known. Counts is cure.Least or cure.Latest.
func (s Sheet) Wait(prefix, counts string, wet, nominal float64) (cure.Wait, error) {
	t, law := s.Table(prefix), s.Law()
	w, err := cure.ByTable(t, counts)
	if err != nil {
		return w, err
	}
	if w, err = lawsBy[law.Name].wait(laying{s, t, w, counts, wet, nominal}); err != nil {
		return w, err
	}
	return w.Knowing(), nil
}
