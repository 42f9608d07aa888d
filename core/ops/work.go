package ops

import (
	"encoding/json"
	"slices"
	"time"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/strict"
	"dusha/core/units"
	"dusha/core/watertest"
	"dusha/core/wetarea"
)

// Work are the operations that a page is made of: forms asked one number at a time, and
// the fold of a job's entries.
func Work() []Op {
	return []Op{
		Make("film.consumption", "Mean film from the mass used, against the gauges.", func(in consumptionIn) (film.Consumption, error) { return in.Used.Check() }),
		Make("units.number", "Reads one typed number.", unitsNumber),
		Make("wetarea.place", "Tells whether a place lies on a surface.", placeOn),
		Make("wetarea.middle", "Finds a place on a surface near its middle.", middleOf),
		Make("logbook.check", "Reads one entry and says what is wrong with its shape.", entryCheck),
		Make("logbook.job", "Folds a job's own book and lists its areas.", jobFold),
		Make("logbook.look", "Shows an area as it stands at a moment.", areaLook),
		Make("test.ask", "Reads the form of a water test as far as it is typed.", testAsk),
		Make("test.check", "Refuses a level reading that cannot be right beside those before it.", testCheck),
		Make("logbook.why", "Says why a step may go on or not, by each thing that stands on: entry, age, limit.", why),
		Make("logbook.seen", "Digest of an area's entries, for a signature.", seen),
		Make("logbook.card", "Works out the bucket card for a share of a coat.", card),
	}
}

// Form is a form as a page shows it.
type Form struct {
	Questions []ask.Question `json:"questions"`
	Next      string         `json:"next"`
	Left      int            `json:"left"` // questions missing or wrong
}

func formOf(f *ask.Form) Form {
	return Form{Questions: f.Questions, Next: f.Next(), Left: len(f.Faults())}
}

type numberIn struct {
	Field string  `json:"field"`
	Kind  string  `json:"kind"` // "length" (mm), "number", "temperature" (°C) or "humidity" (percent): the last two know their range
	Typed string  `json:"typed"`
	Least float64 `json:"least,omitempty"`
	Most  float64 `json:"most,omitempty"`
}

type numberOut struct {
	Value float64 `json:"value"`
}

func unitsNumber(in numberIn) (out numberOut, err error) {
	if in.Field == "" {
		in.Field = "typed"
	}
	switch in.Kind {
	case "temperature":
		out.Value, err = units.ParseTemperature(in.Field, in.Typed)
	case "humidity":
		out.Value, err = units.ParseHumidity(in.Field, in.Typed)
	case "length":
		out.Value, err = units.ParseLength(in.Field, in.Typed, in.Least, in.Most)
	default:
		out.Value, err = units.ParseNumber(in.Field, in.Typed, in.Least, in.Most)
	}
	return out, err
}

// Book is a job's entries as they lie in the local copy or the store: each its exact text or,
// where that is no JSON, the text as a string.
type Book struct {
	Entries []json.RawMessage `json:"entries" maxItems:"60000"`
}

func (b Book) read() []logbook.Entry {
	texts := make([][]byte, len(b.Entries))
	for i, text := range b.Entries {
		texts[i] = text
		var quoted string
		if len(text) > 0 && text[0] == '"' && strict.DecodeAround("", text, &quoted) == nil {
			texts[i] = []byte(quoted)
		}
	}
	return logbook.ReadAll(texts)
}

// holdsTexts marks an input that carries texts of others.
func (b Book) holdsTexts() {}

type jobFoldIn struct {
	Book
	Now    time.Time `json:"now"`
	Warmer float64   `json:"warmer_K,omitempty"` // supposed from now on, for the waits
}

type jobFoldOut struct {
	logbook.Job
	Rules rules.Profile `json:"rules"` // local rules in use
	Areas []areaLine    `json:"areas"`
	Board logbook.Board `json:"board"`
}

type areaLine struct {
	ID       string              `json:"id"`
	Name     string              `json:"name"`
	Sample   bool                `json:"sample"`
	Geometry *wetarea.Area       `json:"geometry"`
	Stage    *logbook.StageLook  `json:"stage"` // the one under way, nil when finished
	Next     logbook.Next        `json:"next"`
	Coat     *logbook.CoatLook   `json:"coat"` // the last coat with something laid
	Pieces   []logbook.PieceLook `json:"pieces"`
	Turn     *logbook.Turn       `json:"turn"`
	Tide     *logbook.Tide       `json:"tide"`
	Flood    float64             `json:"flood_mm"` // water standing in it for a test; 0: none
}

func jobFold(in jobFoldIn) (jobFoldOut, error) {
	entries := in.read()
	out := jobFoldOut{Job: logbook.OwnBook(entries), Areas: []areaLine{}}
	out.Rules = out.Job.Rules()
	ids := areasOf(entries)
	turns := map[string]*logbook.Turn{}
	for _, id := range ids {
		area := logbook.FoldArea(id, entries, out.Job)
		area.Suppose(in.Now, in.Warmer)
		look := area.At(in.Now)
		turn := area.TurnOf(look, in.Now)
		turns[id] = &turn
		line := areaLine{ID: id, Name: look.Name, Sample: look.Sample, Geometry: look.Geometry, Next: look.Next, Pieces: look.Pieces, Turn: &turn, Tide: look.Tide}
		if look.Test != nil && len(look.Test.Runs) > 0 && turn.Does == "test" {
			line.Flood = look.Test.Chosen.Depth
		}
		for i := range look.Stages {
			if look.Stages[i].ID == look.Next.Stage {
				line.Stage = &look.Stages[i]
			}
		}
		for i := range look.Coats {
			if look.Coats[i].Used > 0 {
				line.Coat = &look.Coats[i]
			}
		}
		out.Areas = append(out.Areas, line)
	}
	out.Board = logbook.BoardOf(ids, turns, in.Now)
	return out, nil
}

// areasOf lists the areas of a job in the order of their first entries.
func areasOf(entries []logbook.Entry) []string {
	var ids []string
	for _, e := range logbook.Order(entries) {
		if e.AreaID != "" && !slices.Contains(ids, e.AreaID) {
			ids = append(ids, e.AreaID)
		}
	}
	return ids
}

// testAskIn is asked at each keystroke: what the form depends on, not the entries behind it.
type testAskIn struct {
	Area  wetarea.Area      `json:"area"`
	Rules rules.Profile     `json:"rules"`               // of the plan
	Built float64           `json:"built_kPa,omitempty"` // what the plan puts on the floor
	Typed map[string]string `json:"typed"`
}

type testAskOut struct {
	Form
	Fill     *watertest.Fill          `json:"fill"`
	Load     *float64                 `json:"load_kPa"`         // with what else stands on the floor
	Weight   *float64                 `json:"weight_kg_per_m2"` // of the water alone where it stands deepest
	Gauge    *watertest.Gauge         `json:"gauge"`            // the coarsest for the time there is; null: none was said
	Duration *watertest.Duration      `json:"duration"`
	Gauges   []watertest.GaugeLine    `json:"gauges"`
	Chosen   *watertest.Chosen        `json:"chosen"`
	Answers  map[string]units.Measure `json:"answers"` // ready to be kept; null until complete
}

func testAsk(in testAskIn) (testAskOut, error) {
	if len(in.Area.Surfaces) == 0 {
		return testAskOut{}, fault.At("area", "draw.no_area")
	}
	if err := in.Area.CheckWhole("area"); err != nil {
		return testAskOut{}, err
	}
	asked := watertest.Ask(in.Area, in.Rules, in.Built, in.Typed)
	out := testAskOut{Form: formOf(asked.Form), Fill: asked.Fill, Load: asked.Load, Weight: asked.Weight, Gauge: asked.Gauge, Duration: asked.Duration, Gauges: asked.Gauges, Chosen: asked.Chosen}
	if asked.Chosen != nil {
		out.Answers = asked.Form.Answers()
	}
	return out, nil
}

type testCheckIn struct {
	AreaBook
	Reading logbook.LevelReading `json:"reading"`
	Now     time.Time            `json:"now"`
}

type fineOut struct {
	Fine bool `json:"fine"`
}

func testCheck(in testCheckIn) (fineOut, error) {
	area := in.fold()
	if err := area.CheckReading(in.Reading, in.Now); err != nil {
		return fineOut{}, err
	}
	return fineOut{true}, nil
}

type whyIn struct {
	AreaBook
	Step string    `json:"step"`
	Now  time.Time `json:"now"`
}

func why(in whyIn) (logbook.Permission, error) {
	area := in.fold()
	return area.Permission(in.Step, in.Now)
}

// seenIn asks the digest of an area's book, and what a device signs of it.
type seenIn struct {
	AreaBook
	Step   string `json:"step,omitempty"`
	Person string `json:"person,omitempty"`
}

type seenOut struct {
	Seen    string `json:"seen"`
	Entries int    `json:"entries"`
	Signs   string `json:"signs"` // the text that a device's key signs
}

func seen(in seenIn) (seenOut, error) {
	entries := in.read()
	own := slices.DeleteFunc(slices.Clone(entries), func(e logbook.Entry) bool { return e.AreaID != in.Area })
	digest := logbook.Seen(in.Area, entries)
	return seenOut{digest, len(own), logbook.SignedText(in.Area, logbook.SignedBody{Step: in.Step, Person: in.Person, Seen: digest})}, nil
}

// AreaBook is a job's entries and the area asked about.
type AreaBook struct {
	Book
	Area string `json:"area"`
}

func (in AreaBook) fold() logbook.Area {
	entries := in.read()
	return logbook.FoldArea(in.Area, entries, logbook.OwnBook(entries))
}

type lookIn struct {
	AreaBook
	Now time.Time `json:"now"`
}

type lookOut struct {
	logbook.Look
	Comb []float64 `json:"comb"` // teeth of the gauge, mm
}

func areaLook(in lookIn) (lookOut, error) {
	area := in.fold()
	return lookOut{Look: area.At(in.Now), Comb: film.Comb()}, nil
}

type cardIn struct {
	AreaBook
	logbook.CardInputs
}

func card(in cardIn) (logbook.Card, error) {
	area := in.fold()
	return area.CardFor(in.CardInputs)
}

type entryCheckIn struct {
	Entry json.RawMessage `json:"entry"`
}

type entryCheckOut struct {
	ID   string `json:"id"`
	Kind string `json:"kind"`
}

func entryCheck(in entryCheckIn) (entryCheckOut, error) {
	e, err := logbook.Parse(in.Entry)
	return entryCheckOut{e.ID, e.Kind}, err
}

type middleIn struct {
	Area    wetarea.Area `json:"area"`
	Surface string       `json:"surface"`
}

type middleOut struct {
	Along float64 `json:"along_mm"`
	Up    float64 `json:"up_mm"`
}

func middleOf(in middleIn) (middleOut, error) {
	if err := in.Area.CheckWhole("area"); err != nil {
		return middleOut{}, err
	}
	s, known := in.Area.Surface(in.Surface)
	if !known {
		return middleOut{}, fault.At("surface", "choice.unknown", "typed", in.Surface)
	}
	at, found := s.Middle()
	if !found {
		return middleOut{}, fault.At("place", "place.off_surface", "surface", s.ID, "length", s.Length, "height", s.Height)
	}
	return middleOut{at[0], at[1]}, nil
}

type placeIn struct {
	Area    wetarea.Area `json:"area"`
	Surface string       `json:"surface"`
	Along   float64      `json:"along_mm"`
	Up      float64      `json:"up_mm"`
}

type placeOut struct {
	Surface string `json:"surface"`
}

func placeOn(in placeIn) (placeOut, error) {
	s, known := in.Area.Surface(in.Surface)
	switch {
	case !known:
		return placeOut{}, fault.At("surface", "choice.unknown", "typed", in.Surface)
	case !s.Contains(wetarea.Point{in.Along, in.Up}):
		return placeOut{}, fault.At("place", "place.off_surface", "surface", s.ID, "length", s.Length, "height", s.Height)
	}
	return placeOut{s.ID}, nil
}

type consumptionIn struct {
	Kind string `json:"kind,omitempty"`
	film.Used
}
