package sheet

// Resin reacts like a resin: by the temperature of the base.
func init() {
	law(setting{Law: Law{Name: "resin", Energy: 51, Minds: []string{"temperature", "dew"}, Damp: 1}, place: 3, wait: byTable})
}
