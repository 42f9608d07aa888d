// Package order puts lists in order. One sort serves all of them: the standard library's generic one is compiled
// anew for each type of element, half a megabyte in the page.
package order

import "sort"

// By puts a list in the order of a comparison; what is equal stays as it stood.
func By[T any](list []T, compare func(a, b T) int) {
	sort.SliceStable(list, func(i, j int) bool { return compare(list[i], list[j]) < 0 })
}
