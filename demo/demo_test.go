package demo_test

import (
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/demo"
)

func TestTheHostelFoldsToAJobInTheMiddleOfItsWork(t *testing.T) {
	now := time.Date(2026, 3, 4, 14, 0, 0, 0, time.UTC)
	made, err := demo.Make(now, 7)
	if err != nil {
		t.Fatal(err)
	}
	entries := logbook.ReadAll(made.Entries)
	for _, e := range entries {
		if err := e.Unread(); err != nil {
			t.Fatal(err)
		}
	}
	job := site.Of(entries)
	look := job.Area(made.Areas["shower1"]).At(now)
	if len(look.Deviations) > 0 {
		t.Errorf("the hostel's work went by the book, but there are deviations: %+v", look.Deviations)
	}
	if look.Next.Step != "coat_1_accepted" || look.Next.State != "held" {
		t.Errorf("next is %+v, want the first coat to be accepted", look.Next)
	}
	thin := 0
	for _, s := range look.Coats[0].Surfaces {
		if !s.Laid || s.Film.Count == 0 {
			t.Errorf("%s: laid %v with %d readings", s.Surface, s.Laid, s.Film.Count)
		}
		if s.Film.Says == "thin" {
			thin++
		}
	}
	if thin != 1 {
		t.Errorf("%d thin surfaces, want one", thin)
	}
	if !look.Sample || !job.Job().Demo {
		t.Error("the demo must be marked as made from sample figures")
	}
}
