package draw

import "dusha/core/ops"

// Ops are the drawings, as operations of the table.
func Ops() []ops.Op {
	return []ops.Op{
		ops.Make("draw.net", "Draws an area unfolded, with layers and what lies on it.", Area),
		ops.Make("draw.survey", "Draws the net of a survey that is being typed.", Survey),
		ops.Make("draw.run", "Draws walls laid one after the other until they close.", Run),
		ops.Make("draw.days", "Draws a plan of the days: the hours of each, the areas as lanes, the crews as paths.", Days),
		ops.Make("draw.tide", "Draws the window of a step as a tide.", Tide),
		ops.Make("draw.levels", "Draws the levels of a water test.", Levels),
		ops.Make("draw.scale", "Draws a net loss against its limit.", Scale),
		ops.Make("draw.section", "Draws the section through a build-up.", Section),
		ops.Make("draw.film", "Draws the film that a sheet's figures make.", Film),
		ops.Make("draw.shelf", "Draws a shopping list as packs on a shelf.", Shelf),
		ops.Make("draw.rolls", "Draws rolls to scale with the pieces cut from them.", Rolls),
		ops.Make("draw.place", "Finds the place on a surface under a point of the net.", Place),
	}
}

// Table is the whole table of operations, as every door serves it.
func Table() ops.Table {
	return ops.NewTable(ops.Surveys(), ops.Work(), ops.Materials(), ops.Systems(), ops.Cuts(), ops.Days(), Ops())
}
