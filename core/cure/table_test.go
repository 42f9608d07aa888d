package cure_test

import (
	"fmt"
	"math"
	"testing"

	"dusha/core/cure"
)

func TestATableThatCannotBeReadIsRefused(t *testing.T) {
	rows := []struct {
		name    string
		entries []cure.Entry
	}{
		{"no time printed", nil},
		{"a time of zero", []cure.Entry{{Temp: 20, Time: 0}}},
		{"a negative time", []cure.Entry{{Temp: 20, Time: -3}}},
		{"one temperature twice", []cure.Entry{{Temp: 20, Time: 6}, {Temp: 20, Time: 7}}},
		{"below absolute zero", []cure.Entry{{Temp: -300, Time: 6}}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			table := cure.Table{Entries: row.entries, DefaultE: cure.DefaultCementitious}
			if _, _, err := table.At(10); err == nil {
				t.Error("a time was given")
			}
			if _, err := table.Minimum(10); err == nil {
				t.Error("a least time was given")
			}
		})
	}
}

// Colder is never quicker, and heat never shortens a least wait below what is printed.
func TestTimesFallWithWarmth(t *testing.T) {
	table := cure.Table{Entries: []cure.Entry{{Temp: 30, Time: 4}, {Temp: 10, Time: 12}, {Temp: 20, Time: 6}}, DefaultE: cure.DefaultCementitious}
	last := math.Inf(1)
	for temp := -5.0; temp <= 45; temp += 0.5 {
		time, inside, err := table.At(temp)
		if err != nil || time >= last {
			t.Fatalf("at %v °C %v h after %v h: %v", temp, time, last, err)
		}
		if inside != (temp >= 10 && temp <= 30) {
			t.Errorf("%v °C inside the table: %v", temp, inside)
		}
		last = time
		if least, err := table.Minimum(temp); err != nil || least < 4 || least < time {
			t.Errorf("least wait at %v °C is %v h, %v", temp, least, err)
		}
	}
}

func ExampleTable_Minimum() {
	recoat := cure.Table{Entries: []cure.Entry{{Temp: 10, Time: 12}, {Temp: 20, Time: 6}}}
	for _, temp := range []float64{15, 20, 32} {
		hours, _ := recoat.Minimum(temp)
		fmt.Printf("%v °C: %.1f h\n", temp, hours)
	}
	// Output:
	// 15 °C: 8.4 h
	// 20 °C: 6.0 h
	// 32 °C: 6.0 h
}
