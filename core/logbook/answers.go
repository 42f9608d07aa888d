package logbook

import (
	"fmt"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/system"
)

// The three answers of a permission: yes, no with the remedy, and not known with the one thing to look
// at, which shuts like no.
const (
	No       = "no"
	Unknown  = "not_known"
	notKnown = "not_known" // kind of a block that an entry makes which could not be read
)

// reasons are what stands before a step itself at a moment, the earlier steps left out.
func (a *Area) reasons(s system.Step, takes []Material, now time.Time) (list []Block) {
	say := func(kind, says, key, remedy string, args map[string]any) {
		list = append(list, Block{Kind: kind, Says: says, Step: s.ID, Title: s.Title, Key: key, Remedy: remedy, Args: args})
	}
	if doubt, is := a.doubtOf(s); is {
		say(notKnown, Unknown, "why.entry_not_read", "look.entry", map[string]any{"entry": doubt.ID, "by": doubt.By, "at": doubt.At})
	}
	for _, w := range a.waitsOf(s) {
		standing := cure.Standing{State: NotKnown}
		if w.known {
			standing = w.at(now)
		}
		args := map[string]any{"after": w.After}
		if opens, is := w.time(standing.Opens); is {
			args["opens"] = stamp(opens)
		}
		if at, is := w.frozen(); is && at.Before(now) {
			say("frost", No, "why.frost", "remedy.frozen", map[string]any{"at": stamp(at)})
		}
		switch {
		case standing.State == NotKnown:
			say("wait", Unknown, "why.wait_not_known", a.lookFor(w), args)
		case standing.State == cure.TooEarly:
			say("wait", No, "why.wait", "remedy.wait", args)
		case standing.State == cure.TooLate && !a.remedied(s.ID, w, now):
			say("late", No, "why.late", "remedy.late", args)
		}
	}
	a.missing(s, now, say)
	if !a.confirmed(s) {
		say("touch", Unknown, "why.touch", "look.touch", nil)
	}
	if s.Lays() {
		a.baseAged(s, now, say)
		for _, l := range a.Leaks {
			if l.Open {
				say("leak", No, "why.leak", "remedy.leak", map[string]any{"surface": l.Surface, "at": l.Found.At})
				break
			}
		}
	}
	if progressed, _ := a.progress(s); progressed == 0 {
		if shut := notGo(a.MayStart(s, now)); len(shut) > 0 {
			says := No
			if shut[0].Says == NotRead {
				says = Unknown
			}
			say("start", says, shut[0].why(), shut[0].Remedy, shut[0].args())
		}
	}
	if b := shortBlock(s, takes); b != nil {
		list = append(list, *b)
	}
	return list
}

// baseLasts is how long an accepted base stands while nothing covers it.
const baseLasts = 7 * 24 * time.Hour

// baseAged asks for another look at a base that was accepted long ago and is still bare.
func (a *Area) baseAged(s system.Step, now time.Time, say func(kind, says, key, remedy string, args map[string]any)) {
	for _, step := range a.steps {
		if step.ID == s.ID {
			break
		}
		if _, covered := a.endedAt[step.ID]; covered && step.Lays() {
			return
		}
	}
	if covered, _ := a.progress(s); covered > 0 {
		return
	}
	for _, step := range a.steps {
		if at, is := a.endedAt[step.ID]; is && a.acceptsBase(step) && now.Sub(at) > baseLasts {
			say("base", Unknown, "why.base_aged", "look.base_again", map[string]any{"at": stamp(at)})
		}
	}
}

// evidence is what an answer by name covers of a block: another reason is asked anew.
func (b Block) evidence() string { return fmt.Sprint(b.Kind, b.Says, b.Key, b.Args["check"]) }

// answer is what a person answered for: the reasons that stood before a step then.
type answer struct {
	reasons []string
	needs   []need // of which it may have been short
	used    []float64
	at      time.Time
}

// answer notes what a person answered for. Whether material was short is told when it is asked: other
// areas take of the same stock.
func (a *Area) answer(s system.Step, now time.Time) {
	given := answer{reasons: []string{}, needs: a.needs(s), used: a.used(), at: now}
	for _, b := range a.reasons(s, nil, now) {
		given.reasons = append(given.reasons, b.evidence())
	}
	a.answers[s.ID] = given
}

// answersOf are the reasons that a person answered for before a step.
func (a *Area) answersOf(s system.Step) []string {
	given := a.answers[s.ID]
	stock := a.Job.stock(given.used, a.rest.Users(a.ID))
	if b := shortBlock(s, a.against(given.needs, stock, a.Job.OpenLives(), given.at)); b != nil {
		return append(slices.Clip(given.reasons), b.evidence())
	}
	return given.reasons
}

// answered drops the reasons that a person answered for by name: those that stood when he did. What
// has come since is asked anew.
func (a *Area) answered(s system.Step, list []Block) []Block {
	if _, is := a.Overrides[s.ID]; !is {
		return list
	}
	given := a.answersOf(s)
	return slices.DeleteFunc(list, func(b Block) bool { return b.Kind != notKnown && slices.Contains(given, b.evidence()) })
}
