package logbook

import (
	"cmp"
	"slices"
	"time"

	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/order"
	"dusha/core/system"
)

// Why is a step open, or shut? A permission opens like a figure: each thing it stands on, with the
// entry that says so, when that was, the limit it is held against, and the figures behind it.

// Yes is the third answer.
const Yes = "yes"

// Because is one thing a permission stands on.
type Because struct {
	Says    string          `json:"says"` // "yes", "no" or "not_known"
	Key     string          `json:"key"`  // wording key of the sentence
	Args    map[string]any  `json:"args"`
	Entry   string          `json:"entry"`  // that says so, "" where none does
	By      string          `json:"by"`     // who recorded it
	At      string          `json:"at"`     // when that was, RFC 3339
	Remedy  string          `json:"remedy"` // wording key of what mends it, or of what to look at
	Figures []figure.Figure `json:"figures"`
}

// Permission is the answer to whether a step may go on, with all it stands on: what decides comes first,
// each in the order of the work.
type Permission struct {
	Step    string    `json:"step"`
	Title   string    `json:"title"`
	Says    string    `json:"says"`
	Because []Because `json:"because"`
}

// Permission says whether a step may go on at a moment and why, for each thing looked at.
func (a *Area) Permission(id string, now time.Time) (Permission, error) {
	s, known := a.stepBy(id)
	if !known {
		return Permission{}, fault.At("step", "step.unknown", "step", id)
	}
	a.recount()
	a.atMoment(now)
	b := because{Area: a, step: s, now: now}
	b.before()
	b.base()
	b.waits()
	a.missing(s, now, func(_, says, key, remedy string, args map[string]any) {
		b.add(Because{Says: says, Key: key, Args: args, Remedy: remedy})
	})
	b.starts()
	b.stock()
	doingFor(s).because(&b)
	if a.signsTest(s.ID) {
		b.verdict()
	}
	ranks := map[string]int{No: 0, Unknown: 1, Yes: 2}
	order.By(b.list, func(x, y Because) int { return cmp.Compare(ranks[x.Says], ranks[y.Says]) })
	for i, each := range b.list {
		if at := slices.IndexFunc(a.settled, func(e settled) bool { return e.ID == each.Entry }); at >= 0 {
			b.list[i].By = a.settled[at].By
		}
	}
	p := Permission{Step: s.ID, Title: s.Title, Says: Yes, Because: b.list}
	for _, each := range b.list {
		if p.Says == Yes || each.Says == No {
			p.Says = each.Says
		}
	}
	if over, is := a.Overrides[s.ID]; is && a.block(s, a.materials(s, now), now) == nil {
		p.Says = Yes
		p.Because = append([]Because{signed("because.answered", over)}, p.Because...)
	}
	return p, nil
}

// because collects what a permission stands on.
type because struct {
	*Area
	step system.Step
	now  time.Time
	list []Because
}

func (b *because) add(each Because) {
	if each.Args == nil {
		each.Args = map[string]any{}
	}
	if each.Figures == nil {
		each.Figures = []figure.Figure{}
	}
	b.list = append(b.list, each)
}

func signed(key string, by Signed, pairs ...any) Because {
	args := fault.At("", "", append([]any{"note", by.Note}, pairs...)...).Args
	return Because{Says: Yes, Key: key, Args: args, Entry: by.Entry, At: by.At, Figures: []figure.Figure{}}
}

// before is the order of the work: the first step that is open, or the last hold that was passed.
func (b *because) before() {
	if doubt, is := b.doubtOf(b.step); is {
		b.add(Because{Says: Unknown, Key: "why.entry_not_read", Entry: doubt.ID, At: doubt.At, Remedy: "look.entry"})
	}
	if earlier, is := b.firstOpenBefore(b.step.ID); is {
		b.add(Because{Says: No, Key: "because.earlier", Args: map[string]any{"title": earlier.Title}, Remedy: "remedy.earlier"})
		return
	}
	var last *Because
	for _, s := range b.steps {
		if s.ID == b.step.ID {
			break
		}
		if by, is := b.Done[s.ID]; is && s.Hold() {
			each := signed("because.signed", by, "title", s.Title)
			last = &each
		} else if by, is := b.Overrides[s.ID]; is && s.Hold() {
			each := signed("because.overridden", by, "title", s.Title)
			last = &each
		}
	}
	if last != nil {
		b.add(*last)
	}
}

// base is what the work lies on: each patch as it was surveyed, what stops it, and the leaks.
func (b *because) base() {
	if b.Geometry == nil || !b.acceptsBase(b.step) && !b.step.Lays() {
		return
	}
	surveyed := ""
	for _, e := range b.settled {
		if e.ID == b.SurveyID {
			surveyed = stamp(e.when)
		}
	}
	for _, g := range shutting(b.Area.Gates(b.now)) {
		if g.Key == "gate.leak" || g.Key == "gate.leak_unchecked" {
			continue
		}
		args := map[string]any{"place": g.Place}
		for name, value := range g.Args {
			args[name] = value
		}
		b.add(Because{Says: g.Says, Key: g.Key, Args: args, Entry: b.SurveyID, At: surveyed, Remedy: g.Key + ".lift"})
	}
	for _, p := range b.Geometry.Patches {
		args := map[string]any{"surface": p.Surface, "material": p.Material}
		key := "because.patch"
		if p.Soundness != "" {
			key, args["soundness"] = "because.patch_looked", p.Soundness
		}
		b.add(Because{Says: Yes, Key: key, Args: args, Entry: b.SurveyID, At: surveyed})
	}
	for _, l := range b.Leaks {
		each := Because{Says: No, Key: "why.leak", Args: map[string]any{"surface": l.Surface}, Entry: l.Entry, At: l.Found.At, Remedy: "remedy.leak"}
		if !l.Open && l.Dry != nil {
			each.Says, each.Key, each.Entry, each.At, each.Remedy = Yes, "because.leak_dry", l.Dry.Entry, l.Dry.At, ""
		}
		b.add(each)
	}
}

// waits are the windows of the step, by the readings they are reckoned with, and the touch.
func (b *because) waits() {
	for _, w := range b.waitsOf(b.step) {
		each := Because{Says: Unknown, Key: "because.wait_not_known", Args: map[string]any{"after": w.After}, Remedy: b.lookFor(w), Figures: []figure.Figure{}}
		if before, is := b.stepBy(w.After); is {
			each.Args["after"] = before.Title
		}
		if r, is := b.Area.base.last(b.now); is {
			each.Entry, each.At = r.entry, stamp(r.when)
		}
		if w.known {
			standing := w.at(b.now)
			if opens, is := w.time(standing.Opens); is && standing.State != NotKnown {
				each.Args["opens"] = stamp(opens)
				each.Figures = append(each.Figures, b.figureOfOpening(w, *standing.Opens))
			}
			if shuts, is := w.time(standing.Closes); is {
				each.Args["shuts"] = stamp(shuts)
				each.Figures = append(each.Figures, b.figureOfShutting(w, *standing.Closes))
			}
			switch standing.State {
			case cure.Open, cure.Closing:
				each.Says, each.Key, each.Remedy = Yes, "because.wait_over", ""
			case cure.TooEarly:
				each.Says, each.Key, each.Remedy = No, "because.wait", "remedy.wait"
			case cure.TooLate:
				each.Says, each.Key, each.Remedy = No, "because.late", "remedy.late"
				if b.remedied(b.step.ID, w, b.now) {
					each.Says, each.Key, each.Remedy = Yes, "because.remedied", ""
				}
			}
			if at, is := w.frozen(); is && at.Before(b.now) {
				b.add(Because{Says: No, Key: "why.frost", Args: map[string]any{"at": stamp(at)}, Remedy: "remedy.frozen"})
			}
		}
		b.add(each)
	}
	if own, is := b.ownOpening(b.step); !is || len(own.Confirm) == 0 {
		return
	}
	each := Because{Says: Unknown, Key: "why.touch", Remedy: "look.touch"}
	if touched, is := b.Touched[b.step.ID]; is {
		each.Entry, each.At = touched.Entry, stamp(touched.When)
	}
	if b.confirmed(b.step) {
		each.Says, each.Key, each.Remedy = Yes, "because.touched", ""
	}
	b.add(each)
}

// starts are the checks of air, base and weather.
func (b *because) starts() {
	if done, _ := b.progress(b.step); done > 0 {
		return // it was begun
	}
	for _, c := range b.MayStart(b.step, b.now) {
		each := Because{Says: No, Key: c.why(), Entry: c.Entry, At: c.At, Remedy: c.Remedy, Args: c.args()}
		switch c.Says {
		case Go:
			each.Says, each.Key = Yes, "because.start"
		case NotRead:
			each.Says = Unknown
		}
		b.add(each)
	}
}

// stock is what lies there of what the step takes.
func (b *because) stock() {
	for _, m := range b.materials(b.step, b.now) {
		if m.Need <= 0 {
			continue
		}
		each := Because{Says: Yes, Key: "because.stock", At: m.Counted, Args: map[string]any{"title": m.Title, "have": m.Have, "need": m.Need, "unit": m.Unit}}
		switch {
		case m.Short:
			each.Says, each.Key, each.Remedy = No, "because.stock", "remedy.short"
		case !m.Known:
			each.Says, each.Key, each.Remedy = Unknown, "why.not_counted", "look.count"
		}
		b.add(each)
	}
}

// verdict is that of the water test, which a signature stands on.
func (b *because) verdict() {
	t := b.Area.test()
	if t == nil || len(t.Runs) == 0 {
		return
	}
	l := b.testLook(*t)
	each := Because{Says: Unknown, Key: l.Reason.Key, Args: l.Reason.Args, Remedy: l.Reason.Remedy, Figures: l.Figures}
	switch {
	case l.Finding == FindsLeaks:
		each.Says = No
	case b.passedTest():
		each.Says = Yes
	}
	if levels := t.Runs[len(t.Runs)-1].Levels; len(levels) > 0 {
		each.Entry, each.At = levels[len(levels)-1].Entry, stamp(levels[len(levels)-1].At)
	}
	b.add(each)
	for _, note := range l.Notes {
		b.add(Because{Says: each.Says, Key: note.Key, Args: note.Args, Remedy: note.Remedy})
	}
}
