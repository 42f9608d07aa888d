package logbook

const KindJobRenamed Kind = "job.renamed"

// JobRenamed gives a job another name.
type JobRenamed struct {
	Name string `json:"name"`
}

func (b JobRenamed) check() error { return name("body.name", b.Name) }

func (b JobRenamed) keep(j *Job, _ settled) { j.Name = b.Name }
