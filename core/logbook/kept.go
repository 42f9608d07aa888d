package logbook

import (
	"bytes"
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/strict"
	"dusha/core/system"
)

// unread says what of a kept entry could not be read, and why.
type unread struct {
	key   string      // wording key of the deviation
	fault fault.Fault // the first thing that was not understood
	step  string      // the step the entry belongs to, "" where it cannot be told
	whole bool        // nothing of its body could be read, so that it is not applied
}

// noEntry is said of what does not even begin as an entry.
var noEntry = &unread{key: "deviation.unreadable", fault: *fault.At("entry", "json.broken", "offset", 0), whole: true}

// ReadKept reads an entry that was kept, by this program or by a newer or an older one. It
// refuses nothing: what cannot be read is carried on and said, and the entry stands in the
// way of every permission that it could touch.
func ReadKept(text []byte) Entry {
	if open := bytes.TrimLeft(text, " \t\r\n"); len(open) == 0 || open[0] != '{' {
		return Entry{bytes: slices.Clone(text), unread: noEntry}
	}
	e, err := Parse(text)
	if err == nil {
		return e
	}
	first := *fault.Of(err)[0]
	e = envelopeOf(text)
	e.unread = &unread{key: "deviation.unreadable", fault: first, whole: true}
	_, known := kinds[e.Kind]
	if e.Kind != "" && !known || first.Key == "json.unknown_field" {
		e.unread.key = "deviation.kept_by_newer"
	}
	if e.Kind == KindPlan && e.checkEnvelope() == nil && ofOlderDusha(e.Body) {
		e.unread, e.body = nil, Plan{older: true}
		return e
	}
	if !known || e.checkEnvelope() != nil {
		e.when, _ = momentOf("at", e.At)
		return e
	}
	e.unread.step = stepNamed(e.Body)
	if e.readBody(strict.DecodeKept) == nil {
		e.unread.whole = false
		if of, is := e.body.(stepped); is {
			e.unread.step = of.stepOf()
		}
	}
	return e
}

// ReadAll reads the entries of a job's books as they were kept.
func ReadAll(texts [][]byte) []Entry {
	entries := make([]Entry, len(texts))
	for i, text := range texts {
		entries[i] = ReadKept(text)
	}
	return entries
}

// envelopeOf takes from a text what can be taken of an entry.
func envelopeOf(text []byte) Entry {
	e := Entry{bytes: slices.Clone(text)}
	if strict.DecodeKept("", text, &e) == nil {
		return e
	}
	// A member of another type spoils the reading of those behind it: each by itself.
	e = Entry{bytes: e.bytes}
	members := map[string]json.RawMessage{}
	_ = strict.DecodeKept("", text, &members) // what was read before it broke off stays
	for name, into := range map[string]any{
		"id": &e.ID, "jobId": &e.JobID, "areaId": &e.AreaID, "kind": &e.Kind, "at": &e.At, "by": &e.By,
		"corrects": &e.Corrects, "reason": &e.Reason, "clockOffset": &e.ClockOffset,
	} {
		for said, raw := range members {
			if strings.EqualFold(said, name) {
				_ = strict.DecodeKept(name, raw, into) // it stays empty, and the entry is unread
			}
		}
	}
	e.Body = members["body"]
	return e
}

// stepNamed is the step that a body names, "" where it names none.
func stepNamed(body json.RawMessage) string {
	var named struct {
		Step string `json:"step"`
	}
	if strict.DecodeKept("body", body, &named) != nil {
		return ""
	}
	return named.Step
}

// say is the deviation of an entry that could not be read whole.
func (u unread) say(e Entry) Deviation {
	return deviation(e, u.key, "kind", fault.Short(string(e.Kind)), "field", u.fault.Field, "fault", u.fault.Key)
}

// Unread tells whether something of a kept entry could not be read.
func (e Entry) Unread() error {
	if e.unread == nil {
		return nil
	}
	return errors.New(e.unread.fault.Error())
}

// dark tells whether nothing of the entry's body could be read.
func (e Entry) dark() bool { return e.unread != nil && e.unread.whole }

// doubtOf finds an entry that could not be read whole and that a permission of the step could
// rest on. A person answers for it by passing the step after it was recorded.
func (a *Area) doubtOf(step system.Step) (Entry, bool) {
	if doingFor(step).figures() {
		return Entry{}, false // what they say is figures, not permissions
	}
	for _, e := range a.unread {
		if at, known := a.place[e.unread.step]; known && at > a.place[step.ID] {
			continue
		}
		if answer, is := a.Overrides[step.ID]; is && answer.when.After(e.when) {
			continue
		}
		return e, true
	}
	return Entry{}, false
}

// inDoubt tells whether there is such an entry.
func (a *Area) inDoubt(step system.Step) bool {
	_, is := a.doubtOf(step)
	return is
}

// doubt notes what could not be read whole, of the area's book and of the job's own, which may
// concern any area. It shuts what could be opened now; work that was recorded meanwhile is not
// judged by it.
func (a *Area) doubt() {
	note := func(e Entry) {
		a.unread = append(a.unread, e)
		a.Deviations = append(a.Deviations, e.unread.say(e))
	}
	for _, e := range a.Job.unread {
		note(e)
	}
	for _, e := range a.settled {
		if e.unread != nil {
			note(e.Entry)
		}
	}
	clear(a.memo.ways)
}
