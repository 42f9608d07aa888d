package logbook

import (
	"slices"

	"dusha/core/rules"
	"dusha/core/sheet"
)

// Job is what a job's own book says.
type Job struct {
	ID         string          `json:"id"`
	Name       string          `json:"name"`
	TimeZone   string          `json:"time_zone"`
	Demo       bool            `json:"demo"` // sample figures may be used: made-up work
	People     []Person        `json:"people"`
	Sheets     []sheet.Sheet   `json:"-"`        // own sheets, then the samples that ship; asked for by themselves
	Profiles   []rules.Profile `json:"profiles"` // local rules kept for the job, the one in use last
	Patterns   []PatternKept   `json:"patterns"`
	Counted    []Counted       `json:"counted"` // stock, by product
	Offcuts    []Offcut        `json:"offcuts"` // rests of rolls
	Deviations []Deviation     `json:"deviations"`

	unread []Entry // of the job's own book, not read whole: they may concern any area
	folded *folded // areas that another one asked of
}

// folded are areas of a job, each folded once for all that ask.
type folded struct {
	entries []Entry
	areas   map[string]*Area
}

// area is an area of the job as its entries have it.
func (j Job) area(id string, entries []Entry) *Area {
	f := j.folded
	if f == nil {
		f = &folded{}
	}
	if len(f.entries) != len(entries) || len(entries) == 0 || &f.entries[0] != &entries[0] {
		f.entries, f.areas = entries, map[string]*Area{}
	}
	if f.areas[id] == nil {
		folded := FoldArea(id, entries, j)
		f.areas[id] = &folded
	}
	return f.areas[id]
}

// Person is someone on the job; names are kept apart, in the people table.
type Person struct {
	ID   string `json:"id"`
	Role string `json:"role"`
}

// OwnBook folds the entries of a job that belong to none of its areas.
func OwnBook(entries []Entry) Job {
	return FoldJob(slices.DeleteFunc(slices.Clone(entries), func(e Entry) bool { return e.AreaID != "" }))
}

// FoldJob reads a job's own book.
func FoldJob(entries []Entry) Job {
	m := mend(entries)
	job := Job{folded: &folded{}, People: []Person{}, Profiles: []rules.Profile{}, Patterns: []PatternKept{}, Counted: []Counted{}, Offcuts: []Offcut{}, Deviations: append([]Deviation{}, m.deviations...)}
	joined := map[string]int{}
	var trials []sheet.Trial
	for _, e := range m.settled {
		if e.JobID != "" {
			job.ID = e.JobID
		}
		if e.unread != nil {
			job.unread = append(job.unread, e.Entry)
			job.Deviations = append(job.Deviations, e.unread.say(e.Entry))
		}
		switch body := e.body.(type) {
		case JobOpened:
			job.Name, job.TimeZone, job.Demo = body.Name, body.TimeZone, body.Demo
		case JobRenamed:
			job.Name = body.Name
		case SheetAdded:
			own := body.Sheet
			own.Sample = own.Invented()
			if slices.ContainsFunc(job.Sheets, func(s sheet.Sheet) bool { return s.ID == own.ID }) {
				job.Deviations = append(job.Deviations, deviation(e.Entry, "deviation.sheet_id_twice", "name", own.Name))
				continue // the one kept first stays: plans may hold it
			}
			job.Sheets = append(job.Sheets, own)
		case TrialMade:
			trials = append(trials, sheet.Trial{Entry: e.ID, Sheet: body.Sheet, Kg: body.Kg, Area: body.Area, Density: body.Density})
		case StockCounted:
			job.count(e, body)
		case OffcutKept:
			job.keep(e, body)
		case OffcutTaken:
			job.take(e, body)
		case RulesAdded:
			job.Profiles = append(slices.DeleteFunc(job.Profiles, func(p rules.Profile) bool { return p.ID == body.Profile.ID }), body.Profile)
		case PatternKept:
			job.Patterns = append(slices.DeleteFunc(job.Patterns, func(p PatternKept) bool { return p.Name == body.Name }), body)
		case PersonJoined:
			if i, twice := joined[body.Person]; twice {
				job.People[i].Role = body.Role
				continue
			}
			joined[body.Person] = len(job.People)
			job.People = append(job.People, Person{ID: body.Person, Role: body.Role})
		}
	}
	job.Sheets = append(job.Sheets, sheet.Samples()...)
	job.try(trials)
	return job
}
