package logbook

import (
	"slices"

	"dusha/core/rules"
)

const KindRulesAdded Kind = "rules.added"

// RulesAdded keeps a local-rules profile for the job; the last one kept is in use.
type RulesAdded struct {
	Profile rules.Profile `json:"profile"`
}

func (b RulesAdded) check() error { return b.Profile.Check("body.profile") }

func (b RulesAdded) keep(j *Job, _ settled) {
	j.Profiles = append(slices.DeleteFunc(j.Profiles, func(p rules.Profile) bool { return p.ID == b.Profile.ID }), b.Profile)
}
