package logbook

const KindRemedied Kind = "remedied"

// Remedied says that the sheet's remedy for a window that had shut was carried out.
type Remedied struct {
	Step string `json:"step"`
	Did  string `json:"did"`
}

func (b Remedied) check() error {
	return first(name("body.step", b.Step), line("body.did", b.Did, true))
}

func (b Remedied) apply(a *Area, e settled) {
	a.Remedied[b.Step] = true
	a.remedies[b.Step] = append(a.remedies[b.Step], e.when)
}

func (b Remedied) stepOf() string { return b.Step }
