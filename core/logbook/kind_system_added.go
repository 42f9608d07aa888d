package logbook

import (
	"slices"

	"dusha/core/sheet"
	"dusha/core/system"
)

const KindSystemAdded Kind = "system.added"

// SystemAdded keeps a system of one's own for the job, as a revision.
type SystemAdded struct {
	System system.System `json:"system"`
}

func (b SystemAdded) check() error { return under("body.system.", b.System.Check()) }

// keep adds a system; of two with one id the one kept first stays: plans may hold it.
func (b SystemAdded) keep(j *Job, e settled) {
	own := b.System
	own.Sample = false
	if slices.ContainsFunc(j.systems, func(s system.System) bool { return s.ID == own.ID }) {
		j.deviate(e.Entry, "deviation.system_id_twice", "name", own.Name)
		return
	}
	j.systems = append(j.systems, own)
}

// Revisions are all systems of the job, its own first, then those that ship.
func (j *Job) Revisions() []system.System {
	return append(slices.Clone(j.systems), system.Samples()...)
}

// Systems are those of the job that no later revision replaced.
func (j *Job) Systems() []system.System { return system.Latest(j.Revisions()) }

// SystemFor finds a system by its id, or the first that a sheet makes tight.
func (j *Job) SystemFor(id string, membrane sheet.Sheet) (system.System, bool) {
	for _, s := range j.Systems() {
		if s.ID == id || id == "" && s.MadeTightBy(membrane) {
			return s, true
		}
	}
	return system.System{}, false
}
