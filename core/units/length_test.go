package units

import (
	"errors"
	"fmt"
	"testing"

	"dusha/core/fault"
)

func TestParseLength(t *testing.T) {
	rows := []struct {
		name, typed string
		mm          float64
		key         string
	}{
		{"a bare number is mm", "2400", 2400, ""},
		{"metres", "2.4 m", 2400, ""},
		{"decimal comma", "2,4 m", 2400, ""},
		{"centimetres without a space", "180cm", 1800, ""},
		{"mm written out", " 95 mm ", 95, ""},
		{"tenths of a millimetre", "95.5", 95.5, ""},
		{"a comma before three digits is asked back", "1,500", 0, "length.ambiguous"},
		{"a point before three digits is asked back", "1.500", 0, "length.ambiguous"},
		{"with its unit it is clear", "1.500 m", 1500, ""},
		{"0.500 cannot mean five hundred", "0.500 m", 500, ""},
		{"digits grouped by a blank", " 1 200 ", 1200, ""},
		{"by a blank that does not break, with a unit", "1\u00a0200 mm", 1200, ""},
		{"by blanks, with tenths", "12 000.5", 12000.5, ""},
		{"metres and centimetres", "2m90", 2900, ""},
		{"metres and millimetres", "2 m 905", 2905, ""},
		{"metres and one digit", "2m9", 0, "length.not_a_number"},
		{"a group of two", "1 20", 0, "length.not_a_number"},
		{"metres where mm are asked", "0.9", 0, "length.metres"},
		{"text where a length belongs", "about two", 0, "length.not_a_number"},
		{"nothing typed", "  ", 0, "length.missing"},
		{"two numbers", "12 30", 0, "length.not_a_number"},
		{"exponent", "1e3", 0, "length.not_a_number"},
		{"not a number by name", "NaN", 0, "length.not_a_number"},
		{"negative", "-20", 0, "length.too_small"},
		{"zero", "0", 0, "length.too_small"},
		{"absurd", "999999", 0, "length.too_large"},
		{"feet, inches and a fraction", `7' 10 1/2"`, 2400.3, ""},
		{"feet and inches in words", "7 ft 10 in", 2387.6, ""},
		{"feet and inches without the last mark", "7'10", 2387.6, ""},
		{"feet alone", "6'", 1828.8, ""},
		{"inches and a fraction", `10 1/2"`, 266.7, ""},
		{"a fraction of an inch", `3/4 in`, 19.05, ""},
		{"decimal inches", "10.5in", 266.7, ""},
		{"a fraction over nothing", `1/0"`, 0, "length.not_a_number"},
		{"a fraction without its unit", "10 1/2", 0, "length.not_a_number"},
		{"negative feet", "-6'", 0, "length.too_small"},
		{"feet and a mark of inches without any", `7' "`, 0, "length.not_a_number"},
		{"feet and a decimal of an inch", `7' 10.5`, 2400.3, ""},
		{"inches and a fraction without a blank", `7' 101/2"`, 3416.3, ""},
		{"a fraction after a decimal", `10.5 1/2"`, 279.4, ""},
		{"feet with two points", "7.5.5'", 0, "length.not_a_number"},
		{"a point first", ".95 m", 950, ""},
		{"a point last", "95. mm", 0, "length.not_a_number"},
		{"a leading nought is no thousand", "0.500", 0, "length.metres"},
		{"four digits after the comma", "1,5000 m", 1500, ""},
		{"a group and no digit after the point", "12 000.", 0, "length.not_a_number"},
		{"four digits and a group", "1200 000", 0, "length.not_a_number"},
		{"only a mark", `"`, 0, "length.not_a_number"},
		{"least allowed", "1", 1, ""},
		{"most allowed", "20000", 20000, ""},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			mm, err := ParseLength("length", row.typed, 1, 20000)
			checkFault(t, err, "length", row.key)
			if err == nil && mm != row.mm {
				t.Errorf("got %v mm, want %v", mm, row.mm)
			}
		})
	}
}

func TestMetresAreOffered(t *testing.T) {
	for typed, offer := range map[string]string{"2.9": "2.9 m", "2,9": "2,9 m", "2": "2 m"} {
		_, err := ParseLength("length", typed, 300, 30000)
		checkFault(t, err, "length", "length.metres")
		if offers, _ := fault.Of(err)[0].Args["offers"].([]string); len(offers) != 1 || offers[0] != offer {
			t.Errorf("%s: %v", typed, offers)
		} else if mm, err := ParseLength("length", offer, 300, 30000); err != nil || mm < 2000 || mm > 2900 {
			t.Errorf("%s is %v mm, %v", offer, mm, err)
		}
	}
	_, err := ParseLength("length", "40", 300, 30000) // no room has 40 m
	checkFault(t, err, "length", "length.too_small")
}

func TestParseNumber(t *testing.T) {
	if v, err := ParseNumber("temp", "21,5", -10, 50); err != nil || v != 21.5 {
		t.Errorf("decimal comma: got %v, %v", v, err)
	}
	_, err := ParseNumber("temp", "warm", -10, 50)
	checkFault(t, err, "temp", "number.not_a_number")
	_, err = ParseNumber("temp", "80", -10, 50)
	checkFault(t, err, "temp", "number.too_large")
}

func checkFault(t *testing.T, err error, field, key string) {
	t.Helper()
	var f *fault.Fault
	if !errors.As(err, &f) {
		if key != "" || err != nil {
			t.Fatalf("got error %v, want fault %q", err, key)
		}
		return
	}
	if f.Key != key || f.Field != field {
		t.Errorf("got fault %q at %q, want %q at %q", f.Key, f.Field, key, field)
	}
}

func ExampleParseLength() {
	mm, _ := ParseLength("doorway.width", "0,9 m", 1, 20000)
	fmt.Println(mm, "mm")
	_, err := ParseLength("doorway.width", "1,500", 1, 20000)
	fmt.Println(err)
	// Output:
	// 900 mm
	// doorway.width: length.ambiguous large=1500 mm offers=[1.500 mm 1500 mm] small=1.500 mm typed=1,500
}

func FuzzParseLength(f *testing.F) {
	for _, text := range []string{"2400", "2.4 m", `7' 10 1/2"`, "1,500", "3/4 in", "-5", "1e3"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		mm, err := ParseLength("length", text, 1, 20000)
		if err == nil && !(mm >= 1 && mm <= 20000) {
			t.Fatalf("%q gives %v mm, outside what is allowed", text, mm)
		}
	})
}
