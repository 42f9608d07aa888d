package logbook

const KindFilmExplained Kind = "film.explained"

// FilmExplained says why a coat took less than its comb readings make it, by name.
type FilmExplained struct {
	Step   string `json:"step"`
	Why    string `json:"why"`
	Person string `json:"person"`
}

func (b FilmExplained) check() error {
	return first(name("body.step", b.Step), line("body.why", b.Why, true), id("body.person", b.Person))
}

func (b FilmExplained) apply(a *Area, e settled) {
	if step, known := a.stepBy(b.Step); !known || !a.takes(step, e.Kind) {
		a.deviate(e.Entry, "deviation.unknown_step", "step", b.Step)
		return
	}
	a.filmExplained[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.Why, Person: b.Person, when: e.when}
	a.filmMoved(b.Step)
}

func (b FilmExplained) stepOf() string { return b.Step }
