// Package substrate names what a film is laid on.
package substrate

// Materials are the kinds of base that a survey tells apart and a sheet is rated for.
var Materials = []string{"concrete", "screed", "masonry", "plaster", "board", "timber", "tiles", "metal"}
