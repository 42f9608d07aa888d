package logbook

import (
	"regexp"
	"slices"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/gates"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/wetarea"
)

// What is found on the base before anything is laid: leaks, the history of the damage, and
// the gates that stop an area until they are lifted.
type (
	// LeakFound is water that comes in at a place.
	LeakFound struct {
		Surface string  `json:"surface"`
		Along   float64 `json:"along_mm"`
		Up      float64 `json:"up_mm"`
		State   string  `json:"state"` // one of LeakStates
		Note    string  `json:"note,omitempty"`
	}
	// LeakPlugged says with what a leak was stopped.
	LeakPlugged struct {
		Leak string `json:"leak"` // entry that found it
		With string `json:"with"`
	}
	// LeakChecked is a second look at a leak.
	LeakChecked struct {
		Leak string `json:"leak"`
		Dry  bool   `json:"dry"`
	}
	// History is why the work is done here. It leads the dossier.
	History struct {
		Answers map[string]string `json:"answers"`        // one line for each of HistoryLines that is known
		Path    []Spot            `json:"path,omitempty"` // from where water enters to where it shows
		Photos  []Photo           `json:"photos,omitempty"`
	}
	// Photo names a picture that is kept beside the book.
	Photo struct {
		ID   string `json:"id"`
		Hash string `json:"sha256"` // of its bytes, hex
	}
	// Spot is a place on a surface.
	Spot struct {
		Surface string  `json:"surface"`
		Along   float64 `json:"along_mm"`
		Up      float64 `json:"up_mm"`
	}
)

// LeakStates are how water can come in.
var LeakStates = []string{"running", "dripping", "damp"}

// HistoryLines are what is asked about an area's past, in order.
var HistoryLines = []string{"complaint", "history", "behind", "above", "below", "enters", "shows", "failed", "blocked", "removable"}

// farthest a place can be on a surface, mm.
const farthest = 100000

func place(field, surface string, along, up float64) error {
	return first(name(field+".surface", surface), within(field+".along_mm", along, -farthest, farthest), within(field+".up_mm", up, -farthest, farthest))
}

func (b LeakFound) check() error {
	if !slices.Contains(LeakStates, b.State) {
		return fault.At("body.state", "choice.unknown", "typed", fault.Short(b.State))
	}
	return first(place("body", b.Surface, b.Along, b.Up), line("body.note", b.Note, false))
}

func (b LeakPlugged) check() error {
	return first(id("body.leak", b.Leak), line("body.with", b.With, true))
}

func (b LeakChecked) check() error { return id("body.leak", b.Leak) }

func (b History) check() error {
	for key, text := range b.Answers {
		if !slices.Contains(HistoryLines, key) {
			return fault.At("body.answers", "choice.unknown", "typed", fault.Short(key))
		}
		if err := line("body.answers."+key, text, false); err != nil {
			return err
		}
	}
	if len(b.Path) > mostList {
		return fault.At("body.path", "list.too_long", "most", mostList)
	}
	for _, spot := range b.Path {
		if err := place("body.path", spot.Surface, spot.Along, spot.Up); err != nil {
			return err
		}
	}
	return photos("body.photos", b.Photos)
}

// photos refuses a list of photos that name none.
func photos(field string, list []Photo) error {
	if len(list) > mostList {
		return fault.At(field, "list.too_long", "most", mostList)
	}
	for _, photo := range list {
		if err := id(field, photo.ID); err != nil {
			return err
		}
		if !hexHash.MatchString(photo.Hash) {
			return fault.At(field, "photo.no_hash")
		}
	}
	return nil
}

var hexHash = regexp.MustCompile(`^[0-9a-f]{64}$`)

// Leak is one place of water with what became of it.
type Leak struct {
	Entry string `json:"entry"`
	LeakFound
	Found   Signed  `json:"found"`
	Plugged *Signed `json:"plugged"` // with what stands in its note
	Dry     *Signed `json:"dry"`     // found dry after it was plugged
	Open    bool    `json:"open"`
}

func (a *Area) applyLeakFound(e settled, body LeakFound) {
	if !a.knownSurfaces(e.Entry, []string{body.Surface}) {
		return
	}
	a.Leaks = append(a.Leaks, Leak{Entry: e.ID, LeakFound: body, Found: Signed{Entry: e.ID, At: e.At, By: e.By}, Open: true})
	a.shutBase(e)
}

// shutBase shuts the base again that was accepted before a leak was found, and says what was begun
// on it since.
func (a *Area) shutBase(e settled) {
	base := slices.IndexFunc(a.Recipe.Steps(), a.acceptsBase)
	if base < 0 {
		return
	}
	id := a.Recipe.Steps()[base].ID
	if _, signed := a.Done[id]; !signed {
		return
	}
	since := []string{}
	for _, s := range a.Recipe.Steps() {
		if _, begun := a.endedAt[s.ID]; begun && a.beforeLaying(s) {
			since = append(since, s.ID)
		}
	}
	a.Stale[id] = e.ID
	a.deviate(e.Entry, "deviation.leak_after_acceptance", "step", id, "since", since)
}

// leak finds the leak an entry is about; one that names none is kept and said.
func (a *Area) leak(e settled, id string) *Leak {
	i := slices.IndexFunc(a.Leaks, func(l Leak) bool { return l.Entry == id })
	if i < 0 {
		a.deviate(e.Entry, "deviation.unknown_leak")
		return nil
	}
	return &a.Leaks[i]
}

func (a *Area) applyLeakPlugged(e settled, body LeakPlugged) {
	if leak := a.leak(e, body.Leak); leak != nil {
		leak.Plugged, leak.Dry, leak.Open = &Signed{Entry: e.ID, At: e.At, By: e.By, Note: body.With}, nil, true
	}
}

// applyLeakChecked closes a leak that is found dry after it was plugged, and opens it again
// where it is found wet.
func (a *Area) applyLeakChecked(e settled, body LeakChecked) {
	leak := a.leak(e, body.Leak)
	if leak == nil {
		return
	}
	switch {
	case !body.Dry:
		leak.Dry, leak.Plugged, leak.Open = nil, nil, true
	case leak.Plugged == nil:
		a.deviate(e.Entry, "deviation.leak_not_plugged", "surface", leak.Surface)
	default:
		leak.Dry, leak.Open = &Signed{Entry: e.ID, At: e.At, By: e.By}, false
	}
}

// Rules are the area's local rules: those of its plan, else the job's own, else generic.
func (a *Area) Rules() rules.Profile {
	if a.Plan != nil {
		return a.Plan.Rules
	}
	return a.Job.Rules()
}

// Rules are the local rules that a job's plans are made with: the profile kept last, else the
// generic one.
func (j Job) Rules() rules.Profile {
	if n := len(j.Profiles); n > 0 {
		return j.Profiles[n-1]
	}
	return rules.Generic()
}

// Gates are what stops the area at a moment.
func (a *Area) Gates(now time.Time) []gates.Gate {
	if a.Geometry == nil {
		return []gates.Gate{}
	}
	with := gates.Findings{Rules: a.Rules(), Now: now}
	for _, e := range a.settled {
		if e.ID == a.SurveyID {
			const day = 24 * time.Hour
			with.Days = max(0, now.Sub(e.when).Hours()/day.Hours())
		}
	}
	if a.Plan != nil {
		_, err := a.Plan.Sheet.Number("negative_rating")
		with.PositiveOnly = err != nil
		with.Base = true
		if age, stated := a.Plan.Sheet.Numbers["age_least"]; stated {
			_, with.SheetAge = age.Ends()
		}
		if most, stated := lowOf(a.Plan.Sheet, "moisture_most"); stated {
			with.MoistureMost = &most
		}
	}
	for _, l := range a.Leaks {
		if l.Open {
			with.Leaks = append(with.Leaks, wetarea.OpenLeak{ID: l.Entry, Surface: l.Surface, Plugged: l.Plugged != nil})
		}
	}
	return gates.Of(*a.Geometry, with)
}

// shutting are the gates that stop work.
func shutting(list []gates.Gate) []gates.Gate {
	return slices.DeleteFunc(slices.Clone(list), func(g gates.Gate) bool { return !g.Hold })
}

// acceptsBase tells whether a hold is the one on the base: the first of the recipe, before
// anything is bedded or laid.
func (a *Area) acceptsBase(step sheet.Step) bool {
	for _, s := range a.Recipe.Steps() {
		switch {
		case s.Does == "bed" || s.Does == "coat":
			return false
		case s.Does == "accept":
			return s.ID == step.ID
		}
	}
	return false
}

// acceptBase keeps the hold on the base shut while a gate stands.
func (a *Area) acceptBase(e settled, step sheet.Step) {
	if !a.acceptsBase(step) {
		return
	}
	if list := shutting(a.Gates(e.when)); len(list) > 0 {
		a.short[step.ID] = true
		a.deviate(e.Entry, "deviation.accepted_over_gate", "step", step.ID, "gate", strings.TrimPrefix(list[0].Key, "gate."), "surface", list[0].Place)
	}
}
