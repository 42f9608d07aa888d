package sheet

// solvent loses a solvent, as fast as the base is warm.
var solvent = law(setting{Law: Law{Name: "solvent", Energy: 51, Minds: []string{"temperature", "dew"}, Damp: 1}, place: 4, wait: byTable})
