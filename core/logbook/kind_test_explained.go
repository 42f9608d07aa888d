package logbook

const KindTestExplained Kind = "test.explained"

// TestExplained says why what was seen, or why a run ended, is no leak.
type TestExplained struct {
	Step   string  `json:"step"`
	Of     string  `json:"of"` // the entry of the look, the reading or the filling
	Why    string  `json:"why"`
	Person string  `json:"person"`
	Photos []Photo `json:"photos"`
}

func (b TestExplained) check() error {
	return first(name("body.step", b.Step), id("body.of", b.Of), line("body.why", b.Why, true), id("body.person", b.Person), photos("body.photos", b.Photos))
}

func (b TestExplained) apply(a *Area, e settled) {
	test := a.testOf(e, b.Step)
	if test == nil {
		return
	}
	x := &Explained{Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.Why, Person: b.Person, when: e.when}, b.Photos}
	found := false
	for i := range test.Looks {
		if test.Looks[i].Entry == b.Of {
			test.Looks[i].Explained, found = x, true
		}
	}
	for i := range test.Runs {
		if test.Runs[i].Entry == b.Of {
			test.Runs[i].Explained, found = x, true
		}
	}
	if !found {
		a.deviate(e.Entry, "deviation.explains_nothing")
	}
}

func (b TestExplained) stepOf() string { return b.Step }
