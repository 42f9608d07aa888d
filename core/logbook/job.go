package logbook

import (
	"slices"

	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
)

// Job is what a job's own book says.
type Job struct {
	ID         string          `json:"id"`
	Name       string          `json:"name"`
	TimeZone   string          `json:"time_zone"`
	Away       bool            `json:"away"` // put away: not among the jobs that are worked on
	Demo       bool            `json:"demo"` // sample figures may be used: made-up work
	Papers     Papers          `json:"papers"`
	People     []Person        `json:"people"`
	Profiles   []rules.Profile `json:"profiles"` // local rules kept for the job, the one in use last
	Patterns   []PatternKept   `json:"patterns"`
	Counted    []Counted       `json:"counted"` // stock, by product
	Offcuts    []Offcut        `json:"offcuts"` // rests of rolls
	Deviations []Deviation     `json:"deviations"`

	Crews      []Crew         `json:"crews"`
	SiteHours  SiteHours      `json:"site_hours"`
	Deliveries []DeliveryDue  `json:"deliveries"`
	Weather    []WeatherSaid  `json:"weather"`
	Accepted   []AcceptedPlan `json:"accepted_plans"` // the first one, and the last

	away        map[string]bool // areas that were put away or fetched back
	unread      []Entry         // of the job's own book, not read whole: they may concern any area
	own         []sheet.Sheet   // sheets
	ownEntries  map[string]string
	systems     []system.System
	trials      []sheet.Trial
	library     []sheet.Sheet
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
		Crews: []Crew{}, Deliveries: []DeliveryDue{}, Weather: []WeatherSaid{}, Accepted: []AcceptedPlan{},
		Deviations: append([]Deviation{}, m.deviations...), breaths: map[string][]Breath{}, away: map[string]bool{}, corrections: m.corrections,
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
	return job
}

// Sheets are the job's own, then the samples that ship, each with the rate of its last trial patch here.
func (j *Job) Sheets() []sheet.Sheet {
	if j.library == nil {
		for _, s := range append(slices.Clone(j.own), sheet.Samples()...) {
			j.library = append(j.library, j.tried(s))
		}
	}
	return j.library
}

// SheetEntries are the entries that sheets of one's own were kept by, by the sheet's id.
func (j *Job) SheetEntries() map[string]string {
	if j.ownEntries == nil {
		return map[string]string{}
	}
	return j.ownEntries
}

// Sheet finds one of the job's sheets by its id.
func (j *Job) Sheet(id string) (s sheet.Sheet, known bool) {
	if i := slices.IndexFunc(j.own, func(s sheet.Sheet) bool { return s.ID == id }); i >= 0 {
		return j.tried(j.own[i]), true
	}
	s, known = sheet.Sample(id)
	return j.tried(s), known
}

func (j *Job) tried(s sheet.Sheet) sheet.Sheet {
	for _, t := range j.trials {
		if t.Sheet == s.ID {
			s = s.Tried(t)
		}
	}
	return s
}
