package logbook

const KindDone Kind = "done"

// Done answers the questions of a step, and says of one that is done when they are answered that it is.
type Done struct {
	Step      string   `json:"step"`
	Confirmed []string `json:"confirmed,omitempty"` // lines that were ticked
	Answers   []Reply  `json:"answers,omitempty"`
}

func (b Done) check() error { return first(name("body.step", b.Step), checkReplies(b.Answers)) }

func (b Done) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	step, _ := a.stepBy(b.Step)
	a.reply(e, step, b.Answers, b.Confirmed)
	a.mending[step.ID] = step.Mends != ""
	if a.dropped(step) {
		a.noteWork(b.Step, e.when)
		return
	}
	a.judgeMissing(e, step)
	a.judgeWindow(e, step, nil)
	if step.Again == nil || len(b.Answers)+len(b.Confirmed) > 0 { // else it was done once more
		a.saidDone(e.Entry, step)
	}
	if step.Again != nil {
		a.times[b.Step] = append(a.times[b.Step], e.when)
	}
	a.Done[b.Step] = Signed{Entry: e.ID, At: e.At, By: e.By}
	a.mended(step, e.when)
	if len(a.ownWorks(step)) == 0 && !step.Lays() { // else it ended as the last of it was laid
		a.endedAt[b.Step] = e.when
	}
}

func (b Done) stepOf() string { return b.Step }

func (Done) takesStock() {}
