package ops

import (
	"encoding/json"
	"slices"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/core/strict"
)

// Book is the job that an operation is asked of: its entries as they lie in the local copy or the store,
// each its exact text or, where that is no JSON, the text as a string; or its id alone, where the door
// keeps it folded.
type Book struct {
	Entries []json.RawMessage `json:"entries,omitempty" maxItems:"60000"`
	Job     string            `json:"job,omitempty"` // id of a job that the door keeps folded

	kept *site.Site
}

// texts are entries as they were kept, of those that are carried as a string too.
func texts(entries []json.RawMessage) [][]byte {
	list := make([][]byte, len(entries))
	for i, text := range entries {
		list[i] = text
		var quoted string
		if len(text) > 0 && text[0] == '"' && strict.DecodeAround("", text, &quoted) == nil {
			list[i] = []byte(quoted)
		}
	}
	return list
}

// site is the job, folded here unless it was kept.
func (b Book) site() *site.Site {
	if b.kept != nil {
		return b.kept
	}
	return site.Read(texts(b.Entries))
}

// asksOf marks an input that asks of a job, which carries texts of others.
func (b *Book) asksOf(kept func(job string) (*site.Site, error)) (err error) {
	if b.Job != "" {
		b.kept, err = kept(b.Job)
	}
	return err
}

// AreaBook is a job and the area asked about.
type AreaBook struct {
	Book
	Area string `json:"area"`
}

func (b AreaBook) area() *logbook.Area { return b.site().Area(b.Area) }

// Of gives the job and the area that are asked about, to operations of other packages.
func (b AreaBook) Of() (*site.Site, *logbook.Area) {
	s := b.site()
	return s, s.Area(b.Area)
}

// Jobs are kept folded between calls by a door that has a memory: load, append, ask.
type Jobs struct {
	table Table
	sites map[string]*site.Site
}

// NewJobs gives a table a memory.
func NewJobs(table Table) *Jobs { return &Jobs{table, map[string]*site.Site{}} }

// Load folds a job anew from all its entries.
func (j *Jobs) Load(job string, entries []json.RawMessage) {
	j.Drop(job)
	j.sites[job] = site.Read(texts(entries))
}

// Change adds entries to a job that is loaded, and leaves others out, by id. A job that it breaks in is
// let go of: it may be half changed.
func (j *Jobs) Change(job string, added []json.RawMessage, gone []string) error {
	s, err := j.of(job)
	if err != nil {
		return err
	}
	j.Drop(job)
	if len(gone) > 0 {
		s.Remove(gone)
	}
	s.Add(texts(added))
	j.sites[job] = s
	return nil
}

// Drop forgets a job.
func (j *Jobs) Drop(job string) { delete(j.sites, job) }

// Call runs an operation, of a job that is loaded where the input names one. A job that it breaks in is
// let go of: what is kept of it may be half done.
func (j *Jobs) Call(name string, input []byte) ([]byte, error) {
	asked := ""
	out, err := j.table.call(name, input, func(job string) (*site.Site, error) {
		asked = job
		return j.of(job)
	})
	if err != nil && slices.ContainsFunc(fault.Of(err), func(f *fault.Fault) bool { return f.Key == broken }) {
		j.Drop(asked)
	}
	return out, err
}

func (j *Jobs) of(job string) (*site.Site, error) {
	if s := j.sites[job]; s != nil {
		return s, nil
	}
	return nil, notKept(job)
}

func notKept(job string) error { return fault.At("job", "job.not_loaded", "typed", fault.Short(job)) }
