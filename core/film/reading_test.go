package film_test

import (
	"fmt"
	"testing"

	"dusha/core/film"
)

func bracket(lower, upper float64) film.Bracket { return film.Bracket{Lower: lower, Upper: &upper} }

func TestReadingsOfASurface(t *testing.T) {
	allWet := film.Bracket{Lower: 1.6}
	rows := []struct {
		name        string
		readings    []film.Bracket
		marked      int
		mean, least float64 // 0: none
	}{
		{"middles make the mean, lowers the least", []film.Bracket{bracket(0.9, 1.0), bracket(1.1, 1.3)}, 0, 1.075, 0.9},
		{"none wet has no middle but is the least", []film.Bracket{bracket(0, 0.5), bracket(1.0, 1.1)}, 1, 1.05, 0},
		{"all wet has no middle", []film.Bracket{allWet, bracket(1.0, 1.2)}, 1, 1.1, 1.0},
		{"only all wet", []film.Bracket{allWet}, 1, 0, 1.6},
		{"no reading", nil, 0, 0, 0},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			s := film.Judge(row.readings, film.Asked{Target: 1})
			if s.Count != len(row.readings) || len(s.Marked) != row.marked {
				t.Errorf("%d readings, %v marked", s.Count, s.Marked)
			}
			if got := value(s.Mean); got < row.mean-1e-9 || got > row.mean+1e-9 {
				t.Errorf("mean %v, want %v", got, row.mean)
			}
			if value(s.Least) != row.least || (s.Least == nil) != (len(row.readings) == 0) {
				t.Errorf("least %v, want %v", value(s.Least), row.least)
			}
		})
	}
}

func value(p *float64) float64 {
	if p == nil {
		return 0
	}
	return *p
}

func TestTheCombsTeethRise(t *testing.T) {
	teeth := film.Comb()
	for i := 1; i < len(teeth); i++ {
		if teeth[i] <= teeth[i-1] {
			t.Errorf("tooth %v after %v", teeth[i], teeth[i-1])
		}
	}
}

func ExampleJudge() {
	v := film.Judge([]film.Bracket{bracket(0.9, 1.0), bracket(1.1, 1.2)}, film.Asked{Readings: 2, Target: 1.1})
	fmt.Printf("%d readings, mean %.2f mm, least %.1f mm: %s\n", v.Count, *v.Mean, *v.Least, v.Says)
	// Output: 2 readings, mean 1.05 mm, least 0.9 mm: thin
}
