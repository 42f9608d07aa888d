package sheet_test

import (
	"testing"

	"dusha/core/sheet"
)

func FuzzImport(f *testing.F) {
	text, err := sheet.Export("json", sheet.Samples()[:2])
	if err != nil {
		f.Fatal(err)
	}
	f.Add("json", text)
	f.Add("csv", "id,like,name,revision,field,printed\nown.1,sample.mineral_band,Band as delivered,3/2026,band_width,120 mm\n")
	f.Fuzz(func(t *testing.T, format, text string) {
		sheets, err := sheet.Import(format, text, nil)
		if err != nil {
			return
		}
		for _, s := range sheets {
			if err := s.Check("sheet"); err != nil {
				t.Fatalf("taken and not fit to be kept: %v", err)
			}
			s.Film()
			s.Typed()
		}
	})
}
