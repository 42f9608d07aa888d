package logbook

import (
	"time"

	"dusha/core/fault"
)

const KindPermitGiven Kind = "permit.given"

// PermitGiven is a permit that somebody gave: it opens the steps that ask for its kind until it ends.
type PermitGiven struct {
	Permit string `json:"permit"` // "hot_work", "confined_space" or another kind that a step names
	Number string `json:"number"`
	Giver  string `json:"giver"` // who gave it, by name and office
	Until  string `json:"until"` // RFC 3339
}

// Permit is a permit in the book of an area.
type Permit struct {
	PermitGiven
	Entry string    `json:"entry"`
	From  time.Time `json:"from"`
	until time.Time
}

func (b PermitGiven) check() error {
	if b.Until == "" {
		return fault.At("body.until", "text.missing")
	}
	if _, err := time.Parse(time.RFC3339, b.Until); err != nil {
		return fault.At("body.until", "entry.not_a_time", "typed", fault.Short(b.Until))
	}
	return first(name("body.permit", b.Permit), line("body.number", b.Number, true), line("body.giver", b.Giver, true))
}

func (b PermitGiven) apply(a *Area, e settled) {
	until, _ := time.Parse(time.RFC3339, b.Until)
	if !until.After(e.when) {
		a.deviate(e.Entry, "deviation.permit_over_before", "permit", b.Permit, "until", b.Until)
	}
	a.Permits = append(a.Permits, Permit{b, e.ID, e.when, until})
}

func (b PermitGiven) under(a *Area) (string, bool) { return a.firstStep(), true }

func (PermitGiven) still() {}
