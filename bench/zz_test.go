package main

import (
	"testing"
	"dusha/core/site"
	"dusha/core/logbook"
)

func BenchmarkRead(b *testing.B) {
	m, err := mixedJob(2000, 40)
	if err != nil { b.Fatal(err) }
	for b.Loop() { logbook.ReadAll(m.texts) }
}
func BenchmarkFold(b *testing.B) {
	m, err := mixedJob(2000, 40)
	if err != nil { b.Fatal(err) }
	e := logbook.ReadAll(m.texts)
	for b.Loop() { site.Of(e).Area(m.area) }
}
func BenchmarkLook(b *testing.B) {
	m, err := mixedJob(2000, 40)
	if err != nil { b.Fatal(err) }
	s := site.Read(m.texts)
	for b.Loop() { s.Look(m.area, m.at) }
}
