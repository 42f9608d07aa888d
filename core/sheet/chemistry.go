package sheet

import (
	_ "embed"
	"encoding/json"
	"slices"
	"strings"

	"dusha/core/climate"
	"dusha/core/cure"
)

// Law is how a product's waits move with the climate.
type Law struct {
	Name   string   `json:"law"`               // one of Laws, "" where nothing says it
	Energy float64  `json:"energy_kJ_per_mol"` // where a table prints one time, or its fit is refused
	Minds  []string `json:"minds"`             // "temperature", "humidity", "dew", "frost"
}

//go:embed chemistry.json
var chemistryText []byte

var chemistry = func() (c struct {
	Laws        map[string]Law    `json:"laws"`
	Chemistries map[string]string `json:"chemistries"`
	Roles       map[string]string `json:"roles"`
}) {
	must(json.Unmarshal(chemistryText, &c))
	return c
}()

// laws in the order of the form.
const laws = "hydration drying resin solvent moisture"

// Laws are the ways in which a film sets.
var Laws = strings.Fields(laws)

// Law is how the sheet's product sets: as the sheet says, else as its chemistry or its role does.
// Where nothing says it, the slower of drying and setting by temperature is waited for.
func (s Sheet) Law() Law {
	name := s.Choices["cures_by"]
	if name == "" {
		if name = chemistry.Chemistries[s.Chemistry]; name == "" {
			name = chemistry.Roles[s.Is()]
		}
	}
	law, known := chemistry.Laws[name]
	if !known {
		law = chemistry.Laws["drying"]
		name = ""
	}
	law.Name = name
	if said, stated := s.Numbers["energy"]; stated {
		law.Energy = said.Value
	}
	return law
}

// MindsOf tells whether a law minds something.
func (l Law) MindsOf(what string) bool { return slices.Contains(l.Minds, what) }

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

// Wait is the law of one of the sheet's times for a film of some wet thickness, mm, against the
// nominal one; 0 where it is not known. Counts is cure.Least or cure.Latest.
func (s Sheet) Wait(prefix, counts string, wet, nominal float64) (cure.Wait, error) {
	t, law := s.Table(prefix), s.Law()
	w, err := cure.ByTable(t, counts)
	if err != nil {
		return w, err
	}
	reference := s.Reference(t)
	switch law.Name {
	case "moisture":
		w, err = cure.Moisture(t, counts, reference)
	case "drying", "":
		var needed float64
		if needed, _, err = t.At(reference.Temp); err != nil {
			return w, err
		}
		d := cure.Drying{Needed: needed, Reference: reference, FilmForming: -300, Wet: wet, Nominal: nominal, Exponent: 1, Shortest: w.Shortest}
		if said, stated := s.Numbers["film_forming"]; stated {
			d.FilmForming = said.Value
		}
		if said, stated := s.Numbers["thickness_exponent"]; stated {
			d.Exponent = said.Value
		}
		drying, wrong := d.Wait(counts)
		if err = wrong; err == nil {
			w = cure.Slower(w, drying, counts)
		}
	}
	return w.Knowing(), err
}
