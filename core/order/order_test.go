package order_test

import (
	"cmp"
	"slices"
	"testing"

	"dusha/core/order"
)

func TestWhatIsEqualStaysAsItStood(t *testing.T) {
	type item struct{ of, at int }
	var list []item
	for at := range 500 {
		list = append(list, item{(at * 7919) % 11, at})
	}
	order.By(list, func(a, b item) int { return cmp.Compare(a.of, b.of) })
	if !slices.IsSortedFunc(list, func(a, b item) int { return cmp.Or(cmp.Compare(a.of, b.of), cmp.Compare(a.at, b.at)) }) {
		t.Errorf("%v", list)
	}
}
