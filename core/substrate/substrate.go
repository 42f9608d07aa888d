// Package substrate names what a film is laid on.
package substrate

// Materials are the kinds of base that a survey tells apart and a sheet is rated for.
var Materials = []string{"concrete", "screed", "masonry", "plaster", "board", "timber", "tiles", "metal"}

// AgeRules name the local rule of how old a base of a material has to be; one without is of any age.
var AgeRules = map[string]string{"concrete": "age_concrete", "masonry": "age_concrete", "screed": "age_screed", "plaster": "age_screed"}
