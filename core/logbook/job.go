package logbook

import (
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

	unread      []Entry // of the job's own book, not read whole: they may concern any area
	trials      []sheet.Trial
	breaths     map[string][]Breath // by place of air
	corrections []correction
}

// Person is someone on the job; names are kept apart, in the people table.
type Person struct {
	ID   string `json:"id"`
	Role string `json:"role"`
}

// Breaths are what was read of a place of air in the job's own book.
func (j *Job) Breaths(place string) []Breath { return j.breaths[place] }

func (j *Job) deviate(e Entry, key string, pairs ...any) {
	j.Deviations = append(j.Deviations, deviation(e, key, pairs...))
}

// FoldJob reads a job's own book: the entries that belong to none of its areas.
func FoldJob(entries []Entry) *Job {
	m := mend(entries)
	job := &Job{
		People: []Person{}, Profiles: []rules.Profile{}, Patterns: []PatternKept{}, Counted: []Counted{}, Offcuts: []Offcut{},
		Deviations: append([]Deviation{}, m.deviations...), breaths: map[string][]Breath{}, corrections: m.corrections,
	}
	for _, e := range m.settled {
		if e.JobID != "" {
			job.ID = e.JobID
		}
		if e.unread != nil {
			job.unread = append(job.unread, e.Entry)
			job.Deviations = append(job.Deviations, e.unread.say(e.Entry))
		}
		if b, is := e.body.(ofJobs); is {
			b.keep(job, e)
		}
	}
	job.Sheets = append(job.Sheets, sheet.Samples()...)
	job.try()
	return job
}
