// Package demo holds a made-up job: a small lakeside hostel being refurbished.
//
// hostel.json tells what happened and how long ago; times are relative to the moment of
// loading, so that the job is always in the middle of its work. All of it is invented, and
// the job is marked so that sample figures may be used in it.
package demo

import (
	"cmp"
	_ "embed"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"time"

	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
	"dusha/core/wetarea"
)

//go:embed hostel.json
var hostel []byte

type story struct {
	Job    json.RawMessage `json:"job"`
	Opened string          `json:"opened"`
	People []struct {
		Key  string `json:"key"`
		Role string `json:"role"`
	} `json:"people"`
	Entries []event `json:"entries"` // of the job's own book
	Areas   []struct {
		Key     string  `json:"key"`
		Name    string  `json:"name"`
		Opened  string  `json:"opened"`
		Entries []event `json:"entries"`
	} `json:"areas"`
}

// event is an entry to be: Ago counts back from the moment of loading; Key names the
// entry's id for later bodies, which write it as "$key".
type event struct {
	Ago  string            `json:"ago"`
	By   string            `json:"by"`
	Kind string            `json:"kind"`
	Key  string            `json:"key,omitempty"`
	Body json.RawMessage   `json:"body,omitempty"`
	Form string            `json:"form,omitempty"` // of a survey; a rectangle where none is named
	Ask  map[string]string `json:"ask,omitempty"`  // a survey as typed
	// Typed is a water test's form as typed.
	Typed map[string]string `json:"typed,omitempty"`
}

// Job is the demo job as entries, ready to be appended in order.
type Job struct {
	ID      string
	Entries [][]byte
	People  map[string]string // id → role, for the people table
	Areas   map[string]string // key → id
	Named   map[string]string // key → id of people and entries
}

// Texts are the entries as operations take them.
func (j Job) Texts() []json.RawMessage {
	var list []json.RawMessage
	for _, text := range j.Entries {
		list = append(list, text)
	}
	return list
}

// Make tells the story as of a moment. The seed makes the ids; the same moment and seed
// give the same bytes.
func Make(now time.Time, seed uint64) (Job, error) {
	var s story
	if err := json.Unmarshal(hostel, &s); err != nil {
		return Job{}, fmt.Errorf("hostel.json: %w", err)
	}
	m := maker{now: now.Truncate(time.Second), random: rand.New(rand.NewPCG(seed, 1)), job: Job{People: map[string]string{}, Areas: map[string]string{}, Named: map[string]string{}}}
	opened, err := m.when(s.Opened)
	if err != nil {
		return Job{}, err
	}
	m.job.ID = m.id(opened)
	for _, person := range s.People {
		id := m.id(opened)
		m.job.Named[person.Key], m.job.People[id] = id, person.Role
	}
	lead := s.People[0].Key
	m.append("", event{Ago: s.Opened, By: lead, Kind: "job.opened", Body: s.Job})
	for i, person := range s.People {
		joined := m.now.Sub(opened) - time.Duration(i+1)*time.Second // in the order of the story
		body, _ := json.Marshal(map[string]string{"person": m.job.Named[person.Key], "role": person.Role})
		m.append("", event{Ago: joined.String(), By: lead, Kind: "person.joined", Body: body})
	}
	for _, e := range s.Entries {
		m.append("", e)
	}
	for _, area := range s.Areas {
		at, err := m.when(area.Opened)
		if err != nil {
			return Job{}, err
		}
		id := m.id(at)
		m.job.Areas[area.Key] = id
		name, _ := json.Marshal(map[string]string{"name": area.Name})
		m.append(id, event{Ago: area.Opened, By: lead, Kind: "area.opened", Body: name})
		for _, e := range area.Entries {
			m.append(id, e)
		}
	}
	return m.job, m.err
}

type maker struct {
	now    time.Time
	random *rand.Rand
	job    Job
	err    error
}

func (m *maker) when(ago string) (time.Time, error) {
	back, err := time.ParseDuration(ago)
	if err != nil {
		return time.Time{}, fmt.Errorf("hostel.json: %w", err)
	}
	return m.now.Add(-back), nil
}

// id is a UUIDv7 of a moment.
func (m *maker) id(at time.Time) string {
	ms := uint64(at.UnixMilli())
	a, b := m.random.Uint64(), m.random.Uint64()
	return fmt.Sprintf("%08x-%04x-7%03x-%04x-%012x", ms>>16, ms&0xffff, a&0xfff, 0x8000|(a>>12)&0x3fff, b&0xffffffffffff)
}

func (m *maker) append(area string, e event) {
	if m.err != nil {
		return
	}
	at, err := m.when(e.Ago)
	if err != nil {
		m.err = err
		return
	}
	body, err := m.body(area, e)
	if err != nil {
		m.err = fmt.Errorf("hostel.json: %s %s ago: %w", e.Kind, e.Ago, err)
		return
	}
	entry := map[string]any{"id": m.id(at), "jobId": m.job.ID, "kind": e.Kind, "at": at.UTC().Format(time.RFC3339), "by": m.job.Named[e.By], "body": body}
	if area != "" {
		entry["areaId"] = area
	}
	if e.Key != "" {
		m.job.Named[e.Key] = entry["id"].(string)
	}
	text, err := json.Marshal(entry)
	if err != nil {
		m.err = err
		return
	}
	m.job.Entries = append(m.job.Entries, text)
}

// parsed are the entries of the story so far.
func (m *maker) parsed() ([]logbook.Entry, error) {
	entries := logbook.ReadAll(m.job.Entries)
	for _, e := range entries {
		if err := e.Unread(); err != nil {
			return nil, fmt.Errorf("an entry cannot be read: %w", err)
		}
	}
	return entries, nil
}

// testPlan reads a water test's form as it was typed, on the area as it stands.
func (m *maker) testPlan(area string, typed map[string]string) (json.RawMessage, error) {
	entries, err := m.parsed()
	if err != nil {
		return nil, err
	}
	asked, err := site.Of(entries).Area(area).AskTest(typed)
	if err != nil {
		return nil, err
	}
	if faults := asked.Form.Faults(); len(faults) > 0 {
		return nil, faults
	}
	return json.Marshal(logbook.TestPlanned{Step: "test_plan", Answers: asked.Form.Answers()})
}

// body fills in what hostel.json names: "$key" is an id, "$sheet", "$companions" and "$rules" the
// sample sheet, what goes with it and the generic profile, "$seen" what a signature stands on; a survey is read as it
// was typed.
func (m *maker) body(area string, e event) (json.RawMessage, error) {
	if e.Typed != nil {
		return m.testPlan(area, e.Typed)
	}
	if e.Ask != nil {
		form := cmp.Or(e.Form, "rectangle")
		asked, err := wetarea.Ask(form, e.Ask)
		if err != nil {
			return nil, err
		}
		if faults := asked.Form.Faults(); len(faults) > 0 {
			return nil, faults
		}
		return json.Marshal(wetarea.Survey{Form: form, Answers: asked.Form.Answers()})
	}
	text := string(e.Body)
	built := system.Samples()[0]
	own, err := json.Marshal(built)
	if err != nil {
		return nil, err
	}
	profile, err := json.Marshal(rules.Generic())
	if err != nil {
		return nil, err
	}
	taken, _ := built.Take(sheet.Samples()[0], sheet.Samples(), nil, true)
	used, err := json.Marshal(taken)
	if err != nil {
		return nil, err
	}
	text = strings.NewReplacer(`"$system"`, string(own), `"$rules"`, string(profile), `"$used"`, string(used)).Replace(text)
	if strings.Contains(text, `"$seen"`) {
		entries, err := m.parsed()
		if err != nil {
			return nil, err
		}
		text = strings.ReplaceAll(text, `"$seen"`, `"`+logbook.Seen(area, entries)+`"`)
	}
	for strings.Contains(text, `"$`) {
		before, rest, _ := strings.Cut(text, `"$`)
		key, after, _ := strings.Cut(rest, `"`)
		if _, known := m.job.Named[key]; !known && (strings.HasPrefix(key, "batch") || strings.HasPrefix(key, "crew")) {
			at, err := m.when(e.Ago)
			if err != nil {
				return nil, err
			}
			m.job.Named[key] = m.id(at)
		}
		id, known := m.job.Named[key]
		if !known {
			return nil, fmt.Errorf("nothing is named $%s before it", key)
		}
		text = before + `"` + id + `"` + after
	}
	return json.RawMessage(text), nil
}
