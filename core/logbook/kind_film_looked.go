package logbook

import "time"

const KindFilmLooked Kind = "film.looked"

// FilmLooked is a look at surfaces of a coat that is accepted by it: wetted through, whole, of one shade.
type FilmLooked struct {
	Step     string   `json:"step"`
	Surfaces []string `json:"surfaces"`
	Fine     bool     `json:"fine"`
	Note     string   `json:"note,omitempty"` // what was seen; asked for where it is not fine
}

// FilmLook is a look in the book of an area.
type FilmLook struct {
	Entry string    `json:"entry"`
	By    string    `json:"by"`
	When  time.Time `json:"at"`
	Fine  bool      `json:"fine"`
	Note  string    `json:"note"`
}

func (b FilmLooked) check() error {
	return first(name("body.step", b.Step), list("body.surfaces", b.Surfaces), line("body.note", b.Note, !b.Fine))
}

func (b FilmLooked) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) || !a.knownSurfaces(e.Entry, b.Surfaces) {
		return
	}
	for _, surface := range b.Surfaces {
		a.lookedAt[filmKey{b.Step, surface}] = FilmLook{e.ID, e.By, e.when, b.Fine, b.Note}
	}
}

func (b FilmLooked) stepOf() string { return b.Step }
