package logbook

import (
	"slices"

	"dusha/core/sheet"
)

const KindSheetAdded Kind = "sheet.added"

// SheetAdded keeps a data sheet of one's own for the job.
type SheetAdded struct {
	Sheet sheet.Sheet `json:"sheet"`
}

func (b SheetAdded) check() error { return b.Sheet.Check("body.sheet") }

// keep adds a sheet; of two with one id the one kept first stays: plans may hold it.
func (b SheetAdded) keep(j *Job, e settled) {
	own := b.Sheet
	own.Sample = own.Invented()
	if slices.ContainsFunc(j.own, func(s sheet.Sheet) bool { return s.ID == own.ID }) {
		j.deviate(e.Entry, "deviation.sheet_id_twice", "name", own.Name)
		return
	}
	j.own = append(j.own, own)
	if j.ownEntries == nil {
		j.ownEntries = map[string]string{}
	}
	j.ownEntries[own.ID] = e.ID
}
