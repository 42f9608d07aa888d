// Package order puts lists in order. One sort serves all of them: the standard library's generic one is compiled
// anew for each type of element, half a megabyte in the page.
package order

import "sort"

// By puts a list in the order of a comparison; what is equal stays as it stood.
func By[T any](list []T, compare func(a, b T) int) {
	sort.Stable(sorting[T]{list, compare})
}

type sorting[T any] struct {
	list    []T
	compare func(a, b T) int
}

func (s sorting[T]) Len() int           { return len(s.list) }
func (s sorting[T]) Less(i, j int) bool { return s.compare(s.list[i], s.list[j]) < 0 }
func (s sorting[T]) Swap(i, j int)      { s.list[i], s.list[j] = s.list[j], s.list[i] }
