package ops

import (
	"encoding/json"
	"time"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/figure"
	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/site"
	"dusha/core/takeoff"
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
		Make("logbook.deviations", "Gives what in an area went another way than the rules have it.", deviations),
		Make("plan.kept", "Gives the plan of an area as it was accepted.", planKept),
		Make("film.figures", "Says where the film of a surface in a coat comes from.", filmFigures),
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

type jobFoldIn struct {
	Book
	Now    time.Time `json:"now"`
	Warmer float64   `json:"warmer_K,omitempty"` // supposed from now on, for the waits
	Lean   bool      `json:"lean,omitempty"`     // without geometry, coats and pieces, which drawings ask for
}

func jobFold(in jobFoldIn) (site.Board, error) {
	if in.Lean {
		return in.site().LeanBoard(in.Now, in.Warmer), nil
	}
	return in.site().Board(in.Now, in.Warmer), nil
}

type testAskIn struct {
	AreaBook
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
	asked, err := in.area().AskTest(in.Typed)
	if err != nil {
		return testAskOut{}, err
	}
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
	if err := in.area().CheckReading(in.Reading, in.Now); err != nil {
		return fineOut{}, err
	}
	return fineOut{true}, nil
}

type whyIn struct {
	AreaBook
	Step string    `json:"step"`
	Now  time.Time `json:"now"`
}

func why(in whyIn) (logbook.Permission, error) { return in.area().Permission(in.Step, in.Now) }

// seenIn asks the digest of an area's book, and what a device signs of it.
type seenIn struct {
	AreaBook
	Step   string `json:"step,omitempty"`
	Person string `json:"person,omitempty"`
}

func seen(in seenIn) (site.Sight, error) { return in.site().Seen(in.Area, in.Step, in.Person), nil }

type lookIn struct {
	AreaBook
	Now  time.Time `json:"now"`
	Lean bool      `json:"lean,omitempty"` // without plan, deviations and figures of films: plan.kept, logbook.deviations and film.figures give them
}

func areaLook(in lookIn) (site.Look, error) {
	if in.Lean {
		return in.site().LeanLook(in.Area, in.Now), nil
	}
	return in.site().Look(in.Area, in.Now), nil
}

type planOut struct {
	Plan *takeoff.Plan `json:"plan"`
}

func planKept(in AreaBook) (planOut, error) { return planOut{in.site().Plan(in.Area)}, nil }

type deviationsOut struct {
	Deviations []logbook.Deviation `json:"deviations"`
}

func deviations(in AreaBook) (deviationsOut, error) {
	return deviationsOut{in.site().Deviations(in.Area)}, nil
}

type filmIn struct {
	AreaBook
	Step    string `json:"step"`
	Surface string `json:"surface"`
}

type figuresOut struct {
	Figures []figure.Figure `json:"figures"`
}

func filmFigures(in filmIn) (figuresOut, error) {
	return figuresOut{in.site().FilmFigures(in.Area, in.Step, in.Surface)}, nil
}

type cardIn struct {
	AreaBook
	logbook.CardInputs
}

func card(in cardIn) (logbook.Card, error) { return in.area().CardFor(in.CardInputs) }

type entryCheckIn struct {
	Entry json.RawMessage `json:"entry"`
}

type entryCheckOut struct {
	ID   string       `json:"id"`
	Kind logbook.Kind `json:"kind"`
}

func entryCheck(in entryCheckIn) (entryCheckOut, error) {
	e, err := logbook.Parse(in.Entry)
	return entryCheckOut{e.ID, e.Kind}, err
}

type middleIn struct {
	AreaBook
	Surface string `json:"surface"`
}

type middleOut struct {
	Along float64 `json:"along_mm"`
	Up    float64 `json:"up_mm"`
}

func middleOf(in middleIn) (middleOut, error) {
	s, err := in.area().SurfaceOf(in.Surface)
	if err != nil {
		return middleOut{}, err
	}
	at, found := s.Middle()
	if !found {
		return middleOut{}, fault.At("place", "place.off_surface", "surface", s.ID, "length", s.Length, "height", s.Height)
	}
	return middleOut{at[0], at[1]}, nil
}

type placeIn struct {
	AreaBook
	Surface string  `json:"surface"`
	Along   float64 `json:"along_mm"`
	Up      float64 `json:"up_mm"`
}

type placeOut struct {
	Surface string `json:"surface"`
}

func placeOn(in placeIn) (placeOut, error) {
	s, err := in.area().SurfaceOf(in.Surface)
	if err == nil && !s.Contains(wetarea.Point{in.Along, in.Up}) {
		err = fault.At("place", "place.off_surface", "surface", s.ID, "length", s.Length, "height", s.Height)
	}
	return placeOut{s.ID}, err
}

type consumptionIn struct {
	Kind string `json:"kind,omitempty"`
	film.Used
}
