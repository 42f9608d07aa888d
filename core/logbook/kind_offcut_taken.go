package logbook

import "slices"

const KindOffcutTaken Kind = "offcut.taken"

// OffcutTaken takes an offcut for an area.
type OffcutTaken struct {
	Offcut string `json:"offcut"` // id of the offcut.kept entry
	Area   string `json:"area"`
}

func (b OffcutTaken) check() error {
	return first(id("body.offcut", b.Offcut), id("body.area", b.Area))
}

// take marks an offcut as used; twice is a deviation: someone will miss it.
func (b OffcutTaken) keep(j *Job, e settled) {
	i := slices.IndexFunc(j.Offcuts, func(o Offcut) bool { return o.ID == b.Offcut })
	switch {
	case i < 0:
		j.Deviations = append(j.Deviations, deviation(e.Entry, "deviation.no_such_offcut"))
	case j.Offcuts[i].Taken != "" && j.Offcuts[i].Taken != b.Area:
		j.Deviations = append(j.Deviations, deviation(e.Entry, "deviation.offcut_twice", "length", j.Offcuts[i].Length))
	default:
		j.Offcuts[i].Taken = b.Area
	}
}
