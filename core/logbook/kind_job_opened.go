package logbook

import (
	"strings"

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
	if !isZoneName(b.TimeZone) {
		return fault.At("body.time_zone", "entry.unknown_time_zone", "typed", fault.Short(b.TimeZone))
	}
	return name("body.name", b.Name)
}

// isZoneName tells the shape of an IANA name; whether the zone exists is known outside the core.
func isZoneName(text string) bool {
	parts := strings.Split(text, "/")
	for i, part := range parts {
		allowed := letters + "_"
		if i > 0 {
			allowed += "0123456789+-"
		}
		if part == "" || !only(part, allowed) {
			return false
		}
	}
	return len(parts) <= 3
}

func (b JobOpened) keep(j *Job, _ settled) { j.Name, j.TimeZone, j.Demo = b.Name, b.TimeZone, b.Demo }
