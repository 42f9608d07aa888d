package film_test

import (
	"math"
	"testing"

	"dusha/core/film"
)

// What was laid decides: 5 % less than asked is still enough, a gram less is not; a sheet's own least takes its place.
func TestAcceptedByWhatWasLaid(t *testing.T) {
	own := 1.2
	rows := []struct {
		name    string
		stretch film.Stretch
		says    string
		missing float64 // kg
	}{
		{"as asked", film.Stretch{Kg: 20, Area: 10, Asked: 2}, film.Enough, 0},
		{"5 % less", film.Stretch{Kg: 19, Area: 10, Asked: 2}, film.Enough, 0},
		{"a gram a m² under it", film.Stretch{Kg: 18.99, Area: 10, Asked: 2}, film.Thin, 0.01},
		{"far less", film.Stretch{Kg: 10, Area: 10, Asked: 2}, film.Thin, 9},
		{"the sheet's own least", film.Stretch{Kg: 12, Area: 10, Asked: 2, Least: &own}, film.Enough, 0},
		{"under the sheet's own least", film.Stretch{Kg: 11, Area: 10, Asked: 2, Least: &own}, film.Thin, 1},
		{"over no area", film.Stretch{Kg: 11, Asked: 2}, film.NotKnown, 0},
	}
	for _, row := range rows {
		if says, _, _, missing := row.stretch.ByMass(); says != row.says || math.Abs(missing-row.missing) > 1e-9 {
			t.Errorf("%s: %s, %v kg missing", row.name, says, missing)
		}
	}
}

// The dry film is enough where its mean reaches the target and no reading lies under 80 % of it.
func TestAcceptedByItsDryFilm(t *testing.T) {
	rows := []struct {
		name     string
		readings []float64
		wanted   int
		says     string
	}{
		{"none", nil, 3, film.TooFew},
		{"none, and none asked", nil, 0, film.TooFew},
		{"too few", []float64{1, 1}, 3, film.TooFew},
		{"at the target", []float64{1, 1, 1}, 3, film.Enough},
		{"one at 80 %", []float64{0.8, 1.1, 1.1}, 3, film.Enough},
		{"one under 80 %", []float64{0.799, 1.2, 1.2}, 3, film.Thin},
		{"the mean short by a thousandth", []float64{0.999, 0.999, 0.999}, 3, film.Thin},
	}
	for _, row := range rows {
		if says, _, _ := (film.Dry{Readings: row.readings, Target: 1, Wanted: row.wanted}).Judge(); says != row.says {
			t.Errorf("%s: %s", row.name, says)
		}
	}
}
