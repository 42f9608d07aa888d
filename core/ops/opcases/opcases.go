// Package opcases is a table of the tests' own: single rules of the job as operations, in the form of the
// worked cases under core/testdata/vectors. No door of the product serves it.
package opcases

import "dusha/core/ops"

// Table are the single rules beside the operations of the product, drawings apart.
func Table() ops.Table {
	return ops.NewTable(Rules(), Stages(), ops.Surveys(), ops.Work(), ops.Materials(), ops.Systems(), ops.Cuts(), ops.Days())
}

// Operations are the operations by group and kind (or shape) of a case.
var Operations = map[string]string{
	"01_geometry/room":                "wetarea.room",
	"01_geometry/basin":               "wetarea.basin",
	"01_geometry/round_tank":          "wetarea.round_tank",
	"01_geometry/box_tank":            "wetarea.box_tank",
	"02_falls/point":                  "wetarea.screed",
	"02_falls/segment":                "wetarea.screed",
	"02_falls/spots":                  "wetarea.falls",
	"12_pressure_movement/pressure":   "pressure.judge",
	"12_pressure_movement/movement":   "pressure.movement",
	"12_pressure_movement/elongation": "pressure.elongation",
	"12_pressure_movement/class":      "pressure.class",
	"03_rates/rate":                   "sheet.rate",
	"03_rates/sheet":                  "sheet.claim",
	"04_quantities/fillet":            "takeoff.fillet",
	"04_quantities/fillet_angle":      "takeoff.fillet",
	"04_quantities/primer":            "takeoff.primer",
	"04_quantities/overlay":           "takeoff.overlay",
	"04_quantities/packs":             "takeoff.packs",
	"04_quantities/coats":             "takeoff.coats",
	"04_quantities/coat_count":        "takeoff.coat_count",
	"04_quantities/need":              "takeoff.need",
	"04_quantities/bedding":           "takeoff.bedding",
	"05_cutting1d/":                   "cutting.bands",
	"06_strips2d/rectangle":           "cutting.strips",
	"06_strips2d/polygon":             "cutting.floor",
	"07_mixing/additive":              "mixing.additive",
	"07_mixing/catalyst":              "mixing.catalyst",
	"07_mixing/batch":                 "mixing.batch",
	"07_mixing/least_batch":           "mixing.least_batch",
	"07_mixing/greatest_batch":        "mixing.greatest_batch",
	"07_mixing/pot_life":              "mixing.pot_life",
	"07_mixing/series":                "mixing.series",
	"09_cure/E":                       "cure.energy",
	"09_cure/factor":                  "cure.factor",
	"08_climate/dew":                  "climate.dew",
	"08_climate/start":                "climate.start",
	"08_climate/drying_rate":          "climate.drying_rate",
	"08_climate/humidity":             "climate.humidity",
	"08_climate/published":            "climate.published",
	"09_cure/series":                  "cure.series",
	"09_cure/window":                  "cure.window",
	"10_film/stats":                   "film.stats",
	"10_film/idw":                     "film.idw",
	"10_film/k":                       "film.k",
	"10_film/dft":                     "film.dft",
	"10_film/topup":                   "film.topup",
	"10_film/consumption":             "film.consumption",
	"10_film/count":                   "film.count",
	"11_watertest/judge":              "watertest.judge",
	"11_watertest/duration":           "watertest.duration",
	"11_watertest/gauge":              "watertest.gauge",
	"11_watertest/hours":              "watertest.hours",
	"11_watertest/t":                  "watertest.t",
	"11_watertest/density":            "watertest.density",
	"11_watertest/fill":               "watertest.fill",
	"11_watertest/tank_fill":          "watertest.tank_fill",
	"11_watertest/load":               "watertest.load",
	"13_schedule/":                    "schedule.solve",
}
