package system_test

import (
	"testing"

	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
)

// The waits of an order as printed, at the reference temperature; what no sheet states has no time.
func TestTheTidesOfAnOrder(t *testing.T) {
	of, _ := systemtest.Of("sample.flexible_cementitious")
	film, _ := sheet.Sample("sample.flexible_cementitious")
	used, _ := of.Take(film, sheet.Samples(), nil, true)
	sheets := system.Sheets(used)
	minutes, hour := 45.0, 1.5
	made, err := of.Revise([]system.Act{{Does: "order", Edit: &system.Edit{Does: "link", Step: "coat_2", Link: &system.Link{
		Step: "bands", Anchor: "start", Least: &system.Figure{Value: &minutes, Unit: "min", Says: "45 min", Reason: "own"}, Latest: &system.Figure{Value: &hour, Unit: "h", Says: "1.5 h", Reason: "own"},
	}}}})
	if err != nil {
		t.Fatal(err)
	}
	order, err := system.MakeOrder(made, sheets)
	if err != nil {
		t.Fatal(err)
	}
	tideOf := func(step, after string, sheets map[string]sheet.Sheet) (tide system.Tide) {
		for _, each := range order.Tides(sheets) {
			if each.Step == step && each.After == after {
				tide = each
			}
		}
		return tide
	}
	if got := tideOf("coat_2", "bands", sheets); got.Opens != "start" || got.Shuts != "start" || got.Least == nil || *got.Least != 0.75 || got.Latest == nil || *got.Latest != 1.5 {
		t.Errorf("by hand: %+v", got)
	}
	recoat, latest := film.Numbers["recoat_20"].Value, film.Numbers["recoat_latest_20"].Value
	after := ""
	for _, each := range order.Tides(sheets) {
		if each.Step == "coat_2" && each.After != "bands" && each.Latest != nil {
			after = each.After
		}
	}
	if got := tideOf("coat_2", after, sheets); got.Opens != "end" || got.Shuts != "start" || got.Least == nil || *got.Least != recoat || *got.Latest != latest {
		t.Errorf("as printed (%v to %v): %+v", recoat, latest, got)
	}
	if got := tideOf("coat_2", after, nil); got.Step == "" || got.Least != nil || got.Latest != nil {
		t.Errorf("without a sheet: %+v", got)
	}
}
