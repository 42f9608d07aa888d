package sheet_test

import (
	"slices"
	"testing"

	"dusha/core/sheet"
)

// A reading of the same pack later on adds what was not read, and says where the two say otherwise.
func TestAPackIsReadOn(t *testing.T) {
	said := func(v float64) sheet.Said { return sheet.Said{Value: v, Unit: "min", Says: "as printed"} }
	ends := func(low, high float64) sheet.Said {
		s := said(low)
		s.High = &high
		return s
	}
	patch := sheet.Said{Value: 1.7, Unit: "kg/m2", Trial: "an entry"}
	of := func(numbers map[string]sheet.Said, choices map[string]string) sheet.Sheet {
		return sheet.Sheet{ID: "own", Name: "Own coat", Numbers: numbers, Choices: choices}
	}
	for name, c := range map[string]struct {
		mine, later sheet.Sheet
		added       []string
		differs     bool
	}{
		"nothing more":             {of(map[string]sheet.Said{"mix": said(3)}, nil), of(map[string]sheet.Said{"mix": said(3)}, nil), nil, false},
		"two figures more":         {of(map[string]sheet.Said{"mix": said(3)}, nil), of(map[string]sheet.Said{"mix": said(3), "stand": said(5), "pot_life_20": said(40)}, nil), []string{"pot_life_20", "stand"}, false},
		"a choice more":            {of(nil, nil), of(nil, map[string]string{"rate_per": "coat"}), []string{"rate_per"}, false},
		"another figure":           {of(map[string]sheet.Said{"mix": said(3)}, nil), of(map[string]sheet.Said{"mix": said(4)}, nil), nil, true},
		"another end of a range":   {of(map[string]sheet.Said{"mix": ends(3, 5)}, nil), of(map[string]sheet.Said{"mix": ends(3, 6)}, nil), nil, true},
		"another choice":           {of(nil, map[string]string{"rate_per": "coat"}), of(nil, map[string]string{"rate_per": "all_coats"}), nil, true},
		"a figure that is no more": {of(map[string]sheet.Said{"mix": said(3)}, nil), of(nil, nil), nil, true},
		"a rate by a trial patch":  {of(map[string]sheet.Said{"rate": patch}, map[string]string{"rate_per": "coat"}), of(map[string]sheet.Said{"rate": said(2)}, map[string]string{"rate_per": "all_coats"}), nil, false},
	} {
		whole, added, differs := c.mine.ReadOn(c.later)
		if !slices.Equal(added, c.added) || differs != c.differs {
			t.Errorf("%s: added %v, differs %v", name, added, differs)
		}
		for _, figure := range added {
			_, number := whole.Numbers[figure]
			if _, choice := whole.Choices[figure]; !number && !choice {
				t.Errorf("%s: %s is not there", name, figure)
			}
			if _, was := c.mine.Numbers[figure]; was {
				t.Errorf("%s: the reading it was made of changed", name)
			}
		}
		if mine, is := c.mine.Numbers["mix"]; is && (whole.Numbers["mix"].Value != mine.Value || len(added) > 0 && whole.Numbers["stand"].Value != 5) {
			t.Errorf("%s: %+v", name, whole.Numbers)
		}
	}
}
