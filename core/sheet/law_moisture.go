package sheet

import "dusha/core/cure"

// Moisture takes water from the air: by the temperature of the base, and by how much water the air holds.
func init() {
	law(setting{
		Law: Law{Name: "moisture", Energy: 51, Minds: []string{"temperature", "humidity", "dew"}, Damp: -1}, place: 5,
		wait: func(l laying) (cure.Wait, error) { return cure.Moisture(l.table, l.counts, l.sheet.Reference(l.table)) },
	})
}
