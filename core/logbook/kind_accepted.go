package logbook

import (
	"strings"

	"dusha/core/system"
)

const KindAccepted Kind = "accepted"

// Accepted signs a hold point.
type Accepted struct {
	Step string `json:"step"`
	Note string `json:"note,omitempty"`

	Answers []Reply `json:"answers,omitempty"` // to what the hold asks
}

func (b Accepted) check() error {
	return first(name("body.step", b.Step), line("body.note", b.Note, false), checkReplies(b.Answers))
}

// acceptFilm judges the film of a coat as it is accepted: every surface at Enough. Where one
// falls short the hold stays shut until the film is mended and accepted again, or the hold
// is passed with a name and a reason.
func (a *Area) acceptFilm(e settled, step system.Step) {
	delete(a.short, step.ID)
	if step.Coat == 0 {
		return
	}
	if enough, surface := a.filmEnough(step); !enough {
		a.short[step.ID] = true
		a.deviate(e.Entry, "deviation.accepted_short", "step", step.ID, "surface", surface)
	}
}

// acceptBase keeps the hold on the base shut while a gate stands.
func (a *Area) acceptBase(e settled, step system.Step) {
	if !a.acceptsBase(step) {
		return
	}
	if list := shutting(a.Gates(e.when)); len(list) > 0 {
		a.short[step.ID] = true
		a.deviate(e.Entry, "deviation.accepted_over_gate", "step", step.ID, "gate", strings.TrimPrefix(list[0].Key, "gate."), "surface", list[0].Place)
	}
}

func (b Accepted) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	delete(a.Stale, b.Step)
	step, _ := a.stepBy(b.Step)
	a.reply(e, step, b.Answers, nil)
	a.acceptFilm(e, step)
	a.acceptBase(e, step)
	if a.saidDone(e.Entry, step); len(a.openQuestions(step)) > 0 {
		a.short[step.ID] = true
	}
	a.Done[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By, Note: b.Note}
	a.endedAt[b.Step] = e.when
}

func (b Accepted) stepOf() string { return b.Step }
