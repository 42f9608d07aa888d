package sheet

// Solvent loses a solvent, as fast as the base is warm.
func init() {
	law(setting{Law: Law{Name: "solvent", Energy: 51, Minds: []string{"temperature", "dew"}, Damp: 1}, place: 4, wait: byTable})
}
