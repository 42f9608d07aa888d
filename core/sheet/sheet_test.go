package sheet_test

import (
	"testing"

	"dusha/core/sheet"
)

func TestShippedSheetsAreSamples(t *testing.T) {
	sheets := sheet.Samples()
	if len(sheets) == 0 {
		t.Fatal("no sheet ships")
	}
	for _, s := range sheets {
		if !s.Sample {
			t.Errorf("%s is not marked as a sample", s.Name)
		}
		if err := s.Check("sheet"); err != nil {
			t.Errorf("%s: %v", s.Name, err)
		}
		for name, said := range s.Numbers {
			if said.Says == "" || said.Unit == "" {
				t.Errorf("%s: %s carries no text or unit", s.Name, name)
			}
		}
	}
}

// printed is a filled form with figures of its own.
func printed(changes map[string]string) map[string]string {
	typed := map[string]string{
		"name": "Pack as delivered", "revision": "March", "part_a": "8", "part_b": "20", "density_a": "1,02", "mixed_density": "1.7", "kit": "28",
		"coats": "2", "wft_per_coat": "1.1", "greatest_wft": "1.5", "dry_to_wet": "-", "ratio_tolerance": "-", "mix": "3", "stand": "5",
		"pot_life_10": "-", "pot_life_20": "45", "pot_life_30": "25", "temp_least": "5", "temp_most": "30", "recoat_10": "-", "recoat_20": "5", "recoat_30": "-",
		"least_wft": "0.9", "recoat_latest_10": "-", "recoat_latest_20": "20", "recoat_latest_30": "-",
		"cure_10": "-", "cure_20": "72", "cure_30": "-", "band_width": "120", "band_roll": "10", "band_lap": "50", "band_margin": "40", "bed_below": "1", "bed_above": "1",
	}
	form, _ := sheet.Ask(sheet.Samples()[0], "own", typed)
	for _, q := range form.Questions { // nothing more is printed
		if q.State == "missing" {
			typed[q.ID] = "-"
		}
	}
	for key, text := range changes {
		typed[key] = text
	}
	return typed
}

func TestASheetOfOnesOwnKeepsOnlyWhatWasTyped(t *testing.T) {
	sample := sheet.Samples()[0]
	form, own := sheet.Ask(sample, "own", printed(nil))
	if own == nil {
		t.Fatal(form.Faults())
	}
	if own.Sample || own.CopiedFrom != sample.ID {
		t.Errorf("sample %v, copied from %s", own.Sample, own.CopiedFrom)
	}
	if _, stated := own.Numbers["dry_to_wet"]; stated {
		t.Error("a figure that is not stated was filled in")
	}
	if got := own.Numbers["density_a"]; got.Value != 1.02 || got.Says != "1,02" {
		t.Errorf("density is %+v", got)
	}
	if n := len(own.Table("pot_life").Entries); n != 2 {
		t.Errorf("pot life has %d entries, want the two stated", n)
	}
	_, empty := sheet.Ask(sample, "own", nil)
	if empty != nil {
		t.Error("the sample's figures were taken over")
	}
}

func TestFiguresThatContradictEachOtherAreRefused(t *testing.T) {
	for field, changes := range map[string]map[string]string{
		"greatest_wft":     {"greatest_wft": "1.0"},
		"temp_most":        {"temp_least": "20", "temp_most": "10"},
		"mixed_density":    {"mixed_density": "0"},
		"kit":              {"kit": "twenty"},
		"least_wft":        {"least_wft": "1.2"},
		"recoat_latest_20": {"recoat_latest_20": "4"},
		"recoat_20":        {"recoat_10": "4", "recoat_20": "5"},
		"recoat_latest_30": {"recoat_latest_30": "2"},
		"recoat_10":        {"recoat_10": "60", "recoat_latest_20": "20"},
		"pot_life_30":      {"pot_life_20": "20", "pot_life_30": "25"},
	} {
		form, own := sheet.Ask(sheet.Samples()[0], "own", printed(changes))
		if faults := form.Faults(); own != nil || len(faults) != 1 || faults[0].Field != field {
			t.Errorf("%v: got %v, want one fault at %s", changes, faults, field)
		}
	}
}
