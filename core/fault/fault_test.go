package fault_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"dusha/core/fault"
)

func TestWhatAnErrorHasToSay(t *testing.T) {
	one := fault.At("length", "length.missing")
	two := fault.At("width", "length.too_small", "value", 1, "least", 300)
	rows := []struct {
		name string
		err  error
		want []string
	}{
		{"nothing", nil, nil},
		{"a fault", one, []string{"length"}},
		{"several", fault.Faults{one, two}, []string{"length", "width"}},
		{"a fault inside another error", fmt.Errorf("survey: %w", two), []string{"width"}},
		{"another error", errors.New("disc full"), []string{""}},
	}
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			got := fault.Of(row.err)
			if len(got) != len(row.want) {
				t.Fatalf("got %v", got)
			}
			for i := range got {
				if got[i].Field != row.want[i] {
					t.Errorf("fault %d is at %q, want %q", i, got[i].Field, row.want[i])
				}
			}
		})
	}
}

func ExampleFault_Error() {
	fmt.Println(fault.At("doorway.width", "doorway.wider_than_wall", "wall", "c", "value", 2500))
	// Output: doorway.width: doorway.wider_than_wall value=2500 wall=c
}

// A text is repeated by its first sixty characters, whatever bytes they take.
func TestShortCountsCharacters(t *testing.T) {
	for _, sign := range []string{"a", "ß", "水", "𝔸"} {
		for _, n := range []int{59, 60, 61, 500} {
			want := strings.Repeat(sign, min(n, 60))
			if n > 60 {
				want += "…"
			}
			if got := fault.Short(strings.Repeat(sign, n)); got != want {
				t.Errorf("%d times %q: %q", n, sign, got)
			}
		}
	}
}
