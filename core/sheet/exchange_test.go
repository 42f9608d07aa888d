package sheet_test

import (
	"encoding/json"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/sheet"
)

func text(t *testing.T, v any) string {
	t.Helper()
	out, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

// Every sheet that ships goes out and comes back the same, in both formats.
func TestSheetsGoOutAndComeBack(t *testing.T) {
	for _, format := range []string{"json", "csv"} {
		out, err := sheet.Export(format, sheet.Samples())
		if err != nil {
			t.Fatal(err)
		}
		back, err := sheet.Import(format, out, nil)
		if err != nil {
			t.Fatalf("%s: %v", format, err)
		}
		if len(back) != len(sheet.Samples()) {
			t.Fatalf("%s: %d of %d came back", format, len(back), len(sheet.Samples()))
		}
		for i, s := range sheet.Samples() {
			if text(t, s) != text(t, back[i]) {
				t.Errorf("%s: %s came back as\n%s, want\n%s", format, s.Name, text(t, back[i]), text(t, s))
			}
		}
		again, err := sheet.Import(format, out, sheet.Samples())
		if err != nil || len(again) != 0 {
			t.Errorf("%s: what the library has was taken over once more: %d, %v", format, len(again), err)
		}
	}
}

func TestFilesThatAreRefusedWhole(t *testing.T) {
	good, _ := sheet.Export("json", sheet.Samples()[:1])
	twice, _ := sheet.Export("json", []sheet.Sheet{sheet.Samples()[0], sheet.Samples()[0]})
	change := func(from, to string) string {
		changed := strings.Replace(good, from, to, 1)
		if changed == good {
			t.Fatalf("nothing to change at %s", from)
		}
		return changed
	}
	other := sheet.Samples()[0]
	other.Name = "Another product"
	rows := []struct {
		name, format, text, field, key string
		known                          []sheet.Sheet
	}{
		{"no JSON", "json", "{\n \"format\": \"dusha.sheets\",\n oops", "file", "sheet.file_unreadable", nil},
		{"another format", "json", `{"format":"recipes","version":1,"sheets":[]}`, "file", "sheet.file_other_format", nil},
		{"two with the same id", "json", twice, "sheets.2.id", "sheet.id_twice", nil},
		{"an id that the library has for another", "json", good, "sheets.1.id", "sheet.id_in_library", []sheet.Sheet{other}},
		{"a density of zero", "json", change(`"value": 1.65`, `"value": 0`), "sheets.1.numbers.mixed_density", "number.too_small", nil},
		{"a figure that no sheet has", "json", change(`"mixed_density"`, `"mixed_mood"`), "sheets.1.numbers.mixed_mood", "choice.unknown", nil},
		{"a figure without its unit", "json", change(`"unit": "kg/L"`, `"unit": ""`), "sheets.1.numbers.density_a", "number.without_unit", nil},
		{"a pack of nothing", "json", change(`"size": 20.4`, `"size": 0`), "sheets.1.packs", "pack.no_size", nil},
		{"sheets of an older Dusha", "json", change(`"version": 2`, `"version": 1`), "file", "sheet.file_older", nil},
		{"an unknown use", "json", change(`"chemistry"`, `"role": "magic", "chemistry"`), "sheets.1.role", "choice.unknown", nil},
		{"30 MB", "json", strings.Repeat(" ", 30<<20), "file", "sheet.file_too_large", nil},
		{"other columns", "csv", "a,b\n1,2\n", "file", "sheet.file_columns", nil},
		{"a torn line", "csv", "id,like,name,revision,field,printed\nx,y\n", "file", "sheet.file_unreadable", nil},
		{"no such form", "csv", "id,like,name,revision,field,printed\nx,y,Name,1,rate,1 mm\n", "sheets.1.like", "sheet.unknown", nil},
		{"a figure that cannot be read", "csv", "id,like,name,revision,field,printed\nx,sample.mineral_band,Band,1,band_width,wide\n", "sheets.1.band_width", "number.not_a_number", nil},
		{"a format of no kind", "xml", "<a/>", "format", "choice.unknown", nil},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			got, err := sheet.Import(row.format, row.text, row.known)
			faults := fault.Of(err)
			if got != nil || len(faults) != 1 || faults[0].Field != row.field || faults[0].Key != row.key {
				t.Errorf("got %d sheets, %v, want %s at %s", len(got), faults, row.key, row.field)
			}
			if row.key == "number.too_small" && faults[0].Args["unit"] != "kg/L" {
				t.Errorf("the limits carry no unit: %v", faults[0].Args)
			}
		})
	}
}

// What was typed fills the form of the next printing with the same figures.
func TestANextPrintingBeginsWithTheOneBefore(t *testing.T) {
	form, first := sheet.Ask(sheet.Samples()[0], "first", printed(map[string]string{"rate": "3.2–3.6 kg/m²", "rate_per": "all_coats", "rate_basis": "wet", "packs": "1", "packs.1.size": "28 kg", "packs.1.price": "62.50"}))
	if first == nil {
		t.Fatal(form.Faults())
	}
	typed := first.Typed()
	typed["revision"] = "June"
	form, next := sheet.Ask(*first, "second", typed)
	if next == nil {
		t.Fatal(form.Faults())
	}
	if next.Replaces != "first" || next.Of() != first.Of() || text(t, next.Numbers) != text(t, first.Numbers) || text(t, next.Packs) != text(t, first.Packs) {
		t.Errorf("replaces %q, of %q; figures\n%s, want\n%s", next.Replaces, next.Of(), text(t, next.Numbers), text(t, first.Numbers))
	}
	library := []sheet.Sheet{*first, *next}
	if latest := sheet.Latest(library); len(latest) != 1 || latest[0].ID != "second" {
		t.Errorf("latest: %d", len(latest))
	}
}
