package logbook

import (
	"regexp"

	"dusha/core/fault"
)

const KindJobOpened Kind = "job.opened"

// JobOpened begins a job's book.
type JobOpened struct {
	Name     string `json:"name"`
	TimeZone string `json:"time_zone"` // IANA name
	Demo     bool   `json:"demo,omitempty"`
}

func (b JobOpened) check() error {
	if !zoneName.MatchString(b.TimeZone) {
		return fault.At("body.time_zone", "entry.unknown_time_zone", "typed", fault.Short(b.TimeZone))
	}
	return name("body.name", b.Name)
}

// zoneName is the shape of an IANA name; whether the zone exists is known outside the core.
var zoneName = regexp.MustCompile(`^[A-Za-z_]+(/[A-Za-z0-9_+-]+){0,2}$`)

func (b JobOpened) keep(j *Job, _ settled) { j.Name, j.TimeZone, j.Demo = b.Name, b.TimeZone, b.Demo }
