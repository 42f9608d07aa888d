package sheet

// Hydration sets like cement: by the temperature of the base.
func init() {
	law(setting{Law: Law{Name: "hydration", Energy: 40, Minds: []string{"temperature", "frost"}, Damp: 1}, place: 1, wait: byTable})
}
