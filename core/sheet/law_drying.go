package sheet

import "dusha/core/cure"

// Drying gives water off: the slower of the table by temperature and of what the air takes up. What nothing
// is known of is waited for as if it had to dry.
func init() {
	drying := Law{Name: "drying", Energy: 51, Minds: []string{"temperature", "humidity", "dew", "frost"}, Damp: 1, TooDamp: 97}
	law(setting{Law: drying, place: 2, wait: dry})
	law(setting{Law: Law{Energy: drying.Energy, Minds: drying.Minds, Damp: drying.Damp}, wait: dry})
}

func dry(l laying) (cure.Wait, error) {
	reference := l.sheet.Reference(l.table)
	needed, _, err := l.table.At(reference.Temp)
	if err != nil {
		return cure.Wait{}, err
	}
	d := cure.Drying{Needed: needed, Reference: reference, FilmForming: -300, Wet: l.wet, Nominal: l.nominal, Exponent: 1, Shortest: l.byTable.Shortest}
	if said, stated := l.sheet.Numbers["film_forming"]; stated {
		d.FilmForming = said.Value
	}
	if said, stated := l.sheet.Numbers["thickness_exponent"]; stated {
		d.Exponent = said.Value
	}
	w, err := d.Wait(l.counts)
	if err != nil {
		return w, err
	}
	return cure.Slower(l.byTable, w, l.counts), nil
}
