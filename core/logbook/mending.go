package logbook

import (
	"bytes"
	"slices"
	"time"
)

// settled is an entry with the body that counts, at its own place in the order.
type settled struct {
	Entry
	body        body
	correctedBy string // id of the correction that counts, or ""
}

// mending is what corrections do to a list of entries.
type mending struct {
	settled     []settled   // in order, withdrawn entries left out; what could not be read has no body
	withdrawn   []Withdrawn // taken back, still to be seen
	corrections []correction
	deviations  []Deviation
	last        Entry           // in the order of reading
	ids         map[string]bool // of all entries
	orphans     bool            // something corrects what is not there, or not known yet
}

// Withdrawn is an entry that was taken back.
type Withdrawn struct {
	Entry  string `json:"entry"`
	Kind   Kind   `json:"kind"`
	At     string `json:"at"`
	By     string `json:"by"`
	Reason string `json:"reason"`
}

// correction is a change to a root entry, in order of its own time.
type correction struct {
	entry Entry
	root  Entry
}

// Deviation is something kept that did not fit, or work that passed a hold.
type Deviation struct {
	Entry string         `json:"entry"`
	Key   string         `json:"key"`
	At    string         `json:"at"`
	By    string         `json:"by"`
	Args  map[string]any `json:"args,omitempty"`
}

// once drops repeated deliveries. The same id with other bytes is a deviation, and the
// smaller text counts, so that the outcome does not depend on the order of arrival.
func once(entries []Entry) (kept []Entry, deviations []Deviation) {
	place := make(map[string]int, len(entries))
	kept = make([]Entry, 0, len(entries))
	for _, e := range entries {
		if e.ID == "" { // what it is cannot be told, so neither that it is another
			kept = append(kept, e)
			continue
		}
		i, seen := place[e.ID]
		if !seen {
			place[e.ID] = len(kept)
			kept = append(kept, e)
			continue
		}
		c := bytes.Compare(e.bytes, kept[i].bytes)
		if c == 0 {
			continue
		}
		if c < 0 {
			kept[i] = e
		}
		if !slices.ContainsFunc(deviations, func(d Deviation) bool { return d.Entry == e.ID }) {
			deviations = append(deviations, Deviation{Entry: e.ID, Key: "deviation.same_id_other_body"})
		}
	}
	return kept, deviations
}

// mend puts each correction in the place of the entry it corrects: the last correction by
// (time, id) counts, for the entry and for earlier corrections of it alike.
func mend(entries []Entry) mending {
	var m mending
	entries, m.deviations = once(entries)
	entries = Order(entries)
	byID := make(map[string]Entry, len(entries))
	m.ids = make(map[string]bool, len(entries))
	for _, e := range entries {
		if e.ID != "" {
			byID[e.ID], m.ids[e.ID] = e, true
		}
		m.last = e
	}
	m.settled = make([]settled, 0, len(entries))
	last := map[string]Entry{}
	for _, e := range entries {
		if e.Corrects == "" || e.dark() {
			continue
		}
		root, found := rootOf(e, byID)
		switch {
		case !found:
			m.orphans = true
			m.deviate(e, "deviation.corrects_unknown")
		case root.Kind != e.Kind || root.AreaID != e.AreaID || root.JobID != e.JobID:
			m.deviate(e, "deviation.corrects_other_kind")
		default:
			m.corrections = append(m.corrections, correction{entry: e, root: root})
			last[root.ID] = e
		}
	}
	for _, e := range entries {
		if e.dark() && last[e.ID].ID == "" { // also a correction: what it corrects stays as it was
			m.settled = append(m.settled, settled{Entry: e})
			continue
		}
		if e.Corrects != "" {
			continue
		}
		change, corrected := last[e.ID]
		switch {
		case !corrected:
			m.settled = append(m.settled, settled{Entry: e, body: e.body})
		case change.Withdraws():
			m.withdrawn = append(m.withdrawn, Withdrawn{Entry: e.ID, Kind: e.Kind, At: e.At, By: change.By, Reason: change.Reason})
		default:
			e.unread = change.unread
			m.settled = append(m.settled, settled{Entry: e, body: change.body, correctedBy: change.ID})
		}
	}
	return m
}

// rootOf follows corrections of corrections to the entry first made.
func rootOf(e Entry, byID map[string]Entry) (Entry, bool) {
	for range byID {
		target, found := byID[e.Corrects]
		if !found {
			return Entry{}, false
		}
		if target.Corrects == "" {
			return target, true
		}
		e = target
	}
	return Entry{}, false // corrections in a ring
}

func (m *mending) deviate(e Entry, key string, pairs ...any) {
	m.deviations = append(m.deviations, deviation(e, key, pairs...))
}

func deviation(e Entry, key string, pairs ...any) Deviation {
	d := Deviation{Entry: e.ID, Key: key, At: e.At, By: e.By}
	for i := 0; i+1 < len(pairs); i += 2 {
		if d.Args == nil {
			d.Args = map[string]any{}
		}
		d.Args[pairs[i].(string)] = pairs[i+1]
	}
	return d
}

// Own is the book of one area, its corrections settled.
type Own struct {
	ID string
	mending
	entries []Entry // as they were given
	place   string  // of its air, "" where it is its own
	breaths []Breath
}

// ReadOwn settles the entries of an area's book, given in any order.
func ReadOwn(id string, entries []Entry) *Own {
	own := &Own{ID: id, mending: mend(entries), entries: entries}
	for _, e := range own.settled {
		if of, is := e.body.(shares); is {
			of.share(own, e)
		}
	}
	return own
}

// Append takes one more entry up, where it comes last and changes none of those before it; the entries are
// now the given ones. False: the book has to be read anew.
func (o *Own) Append(e Entry, entries []Entry) bool {
	if o.orphans || e.Corrects != "" || e.ID == "" || o.ids[e.ID] || len(o.ids) > 0 && compareEntries(o.last, e) >= 0 {
		return false
	}
	o.last, o.ids[e.ID], o.entries = e, true, entries
	o.settled = append(o.settled, settled{Entry: e, body: e.body})
	if of, is := e.body.(shares); is {
		of.share(o, o.settled[len(o.settled)-1])
	}
	return true
}

// Air is whose air the area has, "" where it is its own, and what was read of it there.
func (o *Own) Air() (place string, read []Breath) { return o.place, o.breaths }

// Took tells whether something was taken of the stock in the area from a moment on.
func (o *Own) Took(from time.Time) bool {
	return slices.ContainsFunc(o.settled, func(e settled) bool {
		_, is := e.body.(takesStock)
		return is && !e.when.Before(from)
	})
}

// SharesAir tells whether an entry says something of an area's air that other areas may share.
func SharesAir(e Entry) bool {
	_, is := e.body.(shares)
	return is
}
