package sheet_test

import (
	"fmt"
	"math"
	"testing"

	"dusha/core/sheet"
)

// membrane is a two-part membrane that says no more than what is typed.
func membrane(t *testing.T, typed map[string]string) sheet.Sheet {
	t.Helper()
	_, s := sheet.Read(sheet.Samples()[0], "own", typed)
	return s
}

func TestWhatASheetSaysOfItsFilm(t *testing.T) {
	rows := []struct {
		name        string
		typed       map[string]string
		used        string
		wet         float64
		contradicts bool
	}{
		{"the thickness itself", map[string]string{"wft_per_coat": "1.2 mm"}, "wft", 1.2, false},
		{"a rate by mass", map[string]string{"rate": "1.65 kg/m²", "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"}, "rate", 1.1, false},
		{"a rate for all coats", map[string]string{"rate": "3 kg/m²", "rate_per": "all_coats", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"}, "rate", 1, false},
		{"a range counts at its greater end", map[string]string{"rate": "1.5–1.8 kg/m²", "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"}, "rate", 1.2, false},
		{"a covering range counts at its smaller end", map[string]string{"rate": "0.8–1 m²/L", "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"}, "rate", 1.25, false},
		{"volume needs no density", map[string]string{"rate": "0.8 L/m²", "rate_per": "coat", "rate_basis": "wet", "coats": "2"}, "rate", 0.8, false},
		{"powder alone", map[string]string{"rate": "1.2 kg/m²", "rate_per": "coat", "rate_basis": "powder", "powder_share": "80 %", "mixed_density": "1.5", "coats": "1"}, "rate", 1, false},
		{"cured film in all coats", map[string]string{"dft_total": "1.2 mm", "dry_to_wet": "0.6", "coats": "2"}, "dft", 1, false},
		{"what a pack covers", map[string]string{"coverage": "12 m²", "coverage_per": "coat", "kit": "18 kg", "mixed_density": "1.5", "coats": "2"}, "coverage", 1, false},
		{"a stated thickness that the rate agrees with", map[string]string{"wft_per_coat": "1.2 mm", "rate": "1.85 kg/m²", "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.5", "coats": "2"}, "wft", 1.2, false},
		{"five percent is no contradiction", map[string]string{"wft_per_coat": "1 mm", "rate": "1.05 L/m²", "rate_per": "coat", "rate_basis": "wet", "coats": "2"}, "wft", 1, false},
		{"over five percent the thicker counts", map[string]string{"wft_per_coat": "1 mm", "rate": "1.06 L/m²", "rate_per": "coat", "rate_basis": "wet", "coats": "2"}, "rate", 1.06, true},
		{"unless one is picked", map[string]string{"wft_per_coat": "1 mm", "rate": "1.06 L/m²", "rate_per": "coat", "rate_basis": "wet", "coats": "2", "film_from": "wft"}, "wft", 1, true},
		{"ranges that meet agree", map[string]string{"wft_per_coat": "0.9–1.1 mm", "rate": "1–1.3 L/m²", "rate_per": "coat", "rate_basis": "wet", "coats": "2"}, "wft", 1.1, false},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			film := membrane(t, row.typed).Film()
			if film.Wet == nil || film.Used != row.used || math.Abs(film.Wet.Value-row.wet) > 1e-9 || film.Contradicts != row.contradicts {
				t.Errorf("used %q, wet %+v, contradicts %v (%v %%)", film.Used, film.Wet, film.Contradicts, film.Disagreement)
			}
		})
	}
}

func TestARateOfUnknownBasisIsReadBothWays(t *testing.T) {
	film := membrane(t, map[string]string{
		"rate": "1.5 kg/m²", "rate_per": "coat", "rate_basis": "unknown", "mixed_density": "1.5", "dry_to_wet": "0.5", "dry_density": "1.2", "coats": "2",
	}).Film()
	if film.IfWet == nil || film.IfDry == nil || math.Abs(*film.IfWet-3) > 1e-9 || math.Abs(*film.IfDry-7.5) > 1e-9 || math.Abs(film.Wet.Value-2.5) > 1e-9 {
		t.Errorf("if wet %v, if dry %v, wet film %v", film.IfWet, film.IfDry, film.Wet)
	}
	asWet := membrane(t, map[string]string{"rate": "1.5 kg/m²", "rate_per": "coat", "mixed_density": "1.5", "coats": "2"}).Film()
	if asWet.Wet == nil || asWet.Wet.Value != 1 || len(asWet.Missing) != 2 {
		t.Errorf("without the cured film: %v, missing %v", asWet.Wet, asWet.Missing)
	}
}

func TestTwoPacksAreHeldAgainstTheRatio(t *testing.T) {
	typed := map[string]string{"ratio_by": "mass", "part_a": "1", "part_b": "3", "pack_a": "5 kg", "pack_b": "15 kg"}
	if pair := membrane(t, typed).Film().Pair; pair == nil || pair.Contradicts {
		t.Errorf("5 and 15 kg at 1 : 3: %+v", pair)
	}
	typed["pack_b"] = "16 kg"
	if pair := membrane(t, typed).Film().Pair; pair == nil || !pair.Contradicts || math.Abs(pair.Disagreement-100./15) > 1e-9 {
		t.Errorf("5 and 16 kg at 1 : 3: %+v", pair)
	}
	typed["ratio_by"], typed["density_a"], typed["density_b"] = "volume", "1.0", "1.05"
	if pair := membrane(t, typed).Film().Pair; pair == nil || math.Abs(pair.Ratio-3.15) > 1e-9 {
		t.Errorf("by volume: %+v", pair)
	}
}

func TestFiguresThatAreSlips(t *testing.T) {
	rows := []struct {
		name, field, key string
		typed            map[string]string
	}{
		{"a density of zero", "mixed_density", "number.too_small", map[string]string{"mixed_density": "0"}},
		{"a rate of 10,000 kg on a m²", "rate", "sheet.rate_absurd", map[string]string{"rate": "10000 kg/m²"}},
		{"a rate that floods the floor", "rate", "sheet.film_absurd", map[string]string{"rate": "50 L/m²", "rate_per": "coat", "rate_basis": "wet"}},
		{"a rate without its unit", "rate", "number.without_unit", map[string]string{"rate": "1.5"}},
		{"a dose without its unit", "dose", "number.without_unit", map[string]string{"dose": "20"}},
		{"a pack of nothing", "packs.1.size", "number.too_small", map[string]string{"packs": "1", "packs.1.size": "0 kg"}},
		{"litres without a density", "packs.1.size", "sheet.litres_without_density", map[string]string{"packs": "1", "packs.1.size": "5 L"}},
		{"latest before earliest", "recoat_latest_20", "sheet.latest_before_earliest", map[string]string{"recoat_20": "8 h", "recoat_latest_20": "6 h"}},
		{"an overlay that is over before it begins", "overlay_latest_20", "sheet.latest_before_earliest", map[string]string{"overlay_20": "2 days", "overlay_latest_20": "1 day"}},
		{"a bed that is thickest below its least", "overlay_most", "sheet.range_upside_down", map[string]string{"overlay_least": "10 mm", "overlay_most": "5 mm"}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			like := sheet.Samples()[0]
			switch row.field {
			case "dose":
				like, _ = sheet.Sample("sample.cure_accelerator")
			case "overlay_most":
				like, _ = sheet.Sample("sample.overlay_additive")
			}
			form, _ := sheet.Read(like, "own", row.typed)
			for _, q := range form.Questions {
				if q.ID == row.field {
					if q.Fault == nil || q.Fault.Key != row.key {
						t.Errorf("%s: %v", q.ID, q.Fault)
					}
					return
				}
			}
			t.Errorf("%s was not asked", row.field)
		})
	}
}

func TestAPackInLitresIsTakenByTheDensity(t *testing.T) {
	s := membrane(t, map[string]string{"mixed_density": "1.2", "packs": "1 3", "packs.1.size": "5 L", "packs.3.size": "10 kg", "packs.3.price": "19.99"})
	if len(s.Packs) != 2 || math.Abs(s.Packs[0].Size-6) > 1e-9 || s.Packs[0].Says != "5 L" || s.Packs[1].Price != 1999 {
		t.Errorf("%+v", s.Packs)
	}
}

func TestATrialPatchIsTheJobsOwnRate(t *testing.T) {
	s := membrane(t, map[string]string{"wft_per_coat": "1 mm", "coats": "2"})
	tried := s.Tried(sheet.Trial{Entry: "e1", Sheet: s.ID, Kg: 3, Area: 1.5, Density: 1.6})
	film := tried.Film()
	if film.Used != "rate" || math.Abs(film.Wet.Value-1.25) > 1e-9 || !film.Contradicts {
		t.Errorf("2 kg/m² at 1.6 kg/L: %+v", film)
	}
	if source := film.Wet.Inputs[0].Source; source == nil || source.Kind != "entry" || source.Ref != "e1" {
		t.Errorf("the rate comes from %+v", source)
	}
	if _, changed := s.Numbers["rate"]; changed {
		t.Error("the sheet itself was changed")
	}
}

func ExampleSheet_Film() {
	_, s := sheet.Read(sheet.Samples()[0], "own", map[string]string{
		"wft_per_coat": "1.2 mm", "rate": "1.6 kg/m²", "rate_per": "coat", "rate_basis": "wet", "mixed_density": "1.65", "coats": "2",
	})
	film := s.Film()
	for _, i := range film.Implied {
		fmt.Printf("by the %s %.2f mm\n", i.From, i.High)
	}
	fmt.Printf("contradicts itself: %v, %.0f %%\n", film.Contradicts, film.Disagreement)
	// Output:
	// by the wft 1.20 mm
	// by the rate 0.97 mm
	// contradicts itself: true, 19 %
}
