package figure_test

import (
	"slices"
	"testing"

	"dusha/core/figure"
)

func TestAFigureKnowsWhereItComesFrom(t *testing.T) {
	length := figure.Read("length", 2, "m", figure.Source{Kind: "entry", Ref: "e1", Says: "2000"})
	width := figure.Read("width", 3, "m", figure.Source{Kind: "entry", Ref: "e1", Says: "3 m"})
	area := figure.Worked("area", 6, "m2", "area.floor", length, width)
	total := figure.Sum("total", "area.total", area, area).With("of", "two").Rounded("up_to_whole")
	if total.Value != 12 || total.Unit != "m2" || total.Rule != "area.total" || total.Rounding != "up_to_whole" || total.Args["of"] != "two" {
		t.Errorf("%+v", total)
	}
	var order []string
	figure.Walk(total, func(f figure.Figure) {
		order = append(order, f.Name)
		if (f.Rule == "") == (f.Source == nil) {
			t.Errorf("%s has rule %q and source %v", f.Name, f.Rule, f.Source)
		}
	})
	if want := []string{"total", "area", "length", "width", "area", "length", "width"}; !slices.Equal(order, want) {
		t.Errorf("walked %v, want parents first: %v", order, want)
	}
	if none := figure.Sum("nothing", "area.total"); none.Value != 0 || none.Unit != "" {
		t.Errorf("a sum of nothing: %+v", none)
	}
}
