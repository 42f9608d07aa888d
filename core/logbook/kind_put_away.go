package logbook

const KindPutAway Kind = "put_away"

// PutAway takes an area, or where none is named the job, out of the lists of what is worked on, or fetches it
// back. Its book stays and can be written on.
type PutAway struct {
	Area string `json:"area,omitempty"`
	Away bool   `json:"away"`
}

func (b PutAway) check() error {
	if b.Area == "" {
		return nil
	}
	return id("body.area", b.Area)
}

func (b PutAway) keep(j *Job, _ settled) {
	if b.Area == "" {
		j.Away = b.Away
		return
	}
	j.away[b.Area] = b.Away
}

// AreaAway tells whether an area is put away.
func (j *Job) AreaAway(area string) bool { return j.away[area] }
