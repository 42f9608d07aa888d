package logbook

import (
	"slices"

	"dusha/core/fault"
	"dusha/core/wetarea"
)

const KindAreaOpened Kind = "area.opened"

// AreaOpened begins an area's book, bare or with what it is begun from.
type AreaOpened struct {
	Name  string `json:"name"`
	Begun *Begun `json:"begun,omitempty"`
}

// Begun is what an area starts with: a survey form as typed elsewhere, each size still to be
// checked where it was copied, and the system and texture of its plan.
type Begun struct {
	From    string            `json:"from,omitempty"` // area or pattern it was copied from
	Form    string            `json:"form"`
	Typed   map[string]string `json:"typed"`
	Check   bool              `json:"check"` // every size is to be checked on site
	System  string            `json:"system,omitempty"`
	Texture string            `json:"texture,omitempty"`
}

func (b AreaOpened) check() error {
	if b.Begun != nil {
		if err := b.Begun.check(); err != nil {
			return err
		}
	}
	return name("body.name", b.Name)
}

func (b Begun) check() error {
	const mostAnswers, mostTyped = 2000, 20000
	if !slices.Contains(wetarea.Forms, b.Form) {
		return fault.At("body.begun.form", "choice.unknown", "typed", fault.Short(b.Form))
	}
	if len(b.Typed) > mostAnswers {
		return fault.At("body.begun.typed", "list.too_long", "most", mostAnswers)
	}
	for _, text := range b.Typed {
		if len(text) > mostTyped {
			return fault.At("body.begun.typed", "text.too_long", "most", mostTyped)
		}
	}
	return nil
}

func (b AreaOpened) apply(a *Area, _ settled) { a.Name, a.Begun = b.Name, b.Begun }

func (b AreaOpened) under(a *Area) (string, bool) { return a.firstStep(), true }

func (AreaOpened) still() {}
