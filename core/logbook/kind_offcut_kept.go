package logbook

const KindOffcutKept Kind = "offcut.kept"

// OffcutKept puts what is left of a roll into the job's stock.
type OffcutKept struct {
	Sheet  string `json:"sheet"`
	Length int    `json:"length_mm"`
	Area   string `json:"area"` // it was left over in
	Cut    string `json:"cut"`
}

func (b OffcutKept) check() error {
	const longest = 1_000_000
	return first(name("body.sheet", b.Sheet), id("body.area", b.Area), id("body.cut", b.Cut), within("body.length_mm", float64(b.Length), 1, longest))
}

// keep puts an offcut into the stock of the job.
func (b OffcutKept) keep(j *Job, e settled) {
	j.Offcuts = append(j.Offcuts, Offcut{ID: e.ID, Sheet: b.Sheet, Length: b.Length, Area: b.Area, Cut: b.Cut})
}
