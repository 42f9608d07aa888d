package logbook

import (
	"encoding/json"
	"reflect"

	"dusha/core/fault"
)

// Kind is a kind of entry, by its name in the book.
type Kind string

// body is what an entry of one kind says. JSON names carry the unit of a quantity.
type body interface {
	check() error // its shape and size alone
}

// ofAreas is a body of an area's book.
type ofAreas interface {
	body
	apply(a *Area, e settled) // after judging it against the state before it
}

// ofJobs is a body of the job's own book.
type ofJobs interface {
	body
	keep(j *Job, e settled)
}

// Beside them a body may be
type (
	// stepped: work on one step, and accepted with it.
	stepped interface{ stepOf() string }
	// placed: accepted with a step that the area tells.
	placed interface {
		under(a *Area) (step string, known bool)
	}
	// airs: something read of air, base or weather, taken before anything is judged by it.
	airs interface{ air(a *Area, e settled) }
	// shares: something of an area's air that other areas may share.
	shares interface{ share(own *Own, e settled) }
	// takesStock: work that takes of what lies there.
	takesStock interface{ takesStock() }
	// worksBack: what was recorded before it may be judged otherwise by it, so that all is folded anew.
	worksBack interface{ worksBack() }
	// still: nothing of it finishes a step, so that what stands before the steps stays.
	still interface{ still() }
)

// kind is a row of the table.
type kind struct {
	job    bool // belongs to the job's own book
	body   reflect.Type
	decode func(json.RawMessage, decoder) (body, error)
}

func rowOf[T body]() kind { return kind{body: reflect.TypeFor[T](), decode: decodeBody[T]} }

// ofStep and ofArea are rows of an area's book: each kind says with which step it is accepted.
func ofStep[T interface {
	ofAreas
	stepped
}]() kind {
	return rowOf[T]()
}

func ofArea[T interface {
	ofAreas
	placed
}]() kind {
	return rowOf[T]()
}

func ofJob[T ofJobs]() kind {
	row := rowOf[T]()
	row.job = true
	return row
}

// Bodies are the types of the bodies, by kind of entry.
func Bodies() map[Kind]reflect.Type {
	bodies := map[Kind]reflect.Type{}
	for name, kind := range kinds {
		bodies[name] = kind.body
	}
	return bodies
}

// OfJob tells whether a kind of entry belongs to the job's own book.
func OfJob(k Kind) bool { return kinds[k].job }

// kinds are all kinds of entry that can be kept: a new one is a file and a row.
var kinds = map[Kind]kind{
	KindJobOpened:        ofJob[JobOpened](),
	KindJobRenamed:       ofJob[JobRenamed](),
	KindPutAway:          ofJob[PutAway](),
	KindPapers:           ofJob[Papers](),
	KindPersonJoined:     ofJob[PersonJoined](),
	KindSheetAdded:       ofJob[SheetAdded](),
	KindSystemAdded:      ofJob[SystemAdded](),
	KindRulesAdded:       ofJob[RulesAdded](),
	KindPatternKept:      ofJob[PatternKept](),
	KindTrialMade:        ofJob[TrialMade](),
	KindStockCounted:     ofJob[StockCounted](),
	KindOffcutKept:       ofJob[OffcutKept](),
	KindOffcutTaken:      ofJob[OffcutTaken](),
	KindAirRead:          ofJob[AirRead](),
	KindCrewSet:          ofJob[CrewSet](),
	KindCrewDay:          ofJob[CrewDay](),
	KindSiteHours:        ofJob[SiteHours](),
	KindDeliveryDue:      ofJob[DeliveryDue](),
	KindWeatherDay:       ofJob[WeatherDay](),
	KindScheduleAccepted: ofJob[ScheduleAccepted](),
	KindAreaOpened:       ofArea[AreaOpened](),
	KindSurvey:           ofArea[surveyBody](),
	KindLeakFound:        ofArea[LeakFound](),
	KindLeakPlugged:      ofArea[LeakPlugged](),
	KindLeakChecked:      ofArea[LeakChecked](),
	KindHistory:          ofArea[History](),
	KindPlan:             ofArea[Plan](),
	KindTimed:            ofArea[Timed](),
	KindDone:             ofStep[Done](),
	KindAccepted:         ofStep[Accepted](),
	KindOverridden:       ofStep[Overridden](),
	KindBedded:           ofStep[Bedded](),
	KindCutPlanned:       ofArea[CutPlanned](),
	KindCutDone:          ofArea[CutDone](),
	KindCutSpoilt:        ofArea[CutSpoilt](),
	KindWeighed:          ofStep[Weighed](),
	KindMarked:           ofArea[Marked](),
	KindLaid:             ofStep[Laid](),
	KindRead:             ofStep[Read](),
	KindAirPlace:         ofArea[AirPlace](),
	KindForecast:         ofArea[Forecast](),
	KindFilmExplained:    ofStep[FilmExplained](),
	KindAreaWarmed:       ofArea[AreaWarmed](),
	KindClimate:          ofArea[Climate](),
	KindDecided:          ofArea[Decided](),
	KindPermitGiven:      ofArea[PermitGiven](),
	KindGasTested:        ofArea[GasTested](),
	KindManned:           ofStep[Manned](),
	KindFilmLooked:       ofStep[FilmLooked](),
	KindDryRead:          ofStep[DryRead](),
	KindTouched:          ofStep[Touched](),
	KindRemedied:         ofStep[Remedied](),
	KindTestPlanned:      ofStep[TestPlanned](),
	KindTestFilled:       ofStep[TestFilled](),
	KindTestRead:         ofStep[TestRead](),
	KindTestLooked:       ofStep[TestLooked](),
	KindTestRained:       ofStep[TestRained](),
	KindTestExplained:    ofStep[TestExplained](),
	KindTestRepaired:     ofStep[TestRepaired](),
	KindSprayed:          ofStep[Sprayed](),
	KindSigned:           ofStep[SignedBody](),
}

func decodeBody[T body](raw json.RawMessage, decode decoder) (body, error) {
	var read T
	err := decodeInto(&read, raw, decode)
	return checked(read, err)
}

func decodeInto(into any, raw json.RawMessage, decode decoder) error {
	if len(raw) == 0 || string(raw) == "null" {
		return fault.At("body", "entry.no_body")
	}
	return decode("body", raw, into)
}

func checked(read body, err error) (body, error) {
	if err == nil {
		err = read.check()
	}
	if err != nil {
		return nil, err
	}
	return read, nil
}

// apply reads one entry into the state. It may finish steps and move the windows behind its own, so that
// what stands before each is worked out anew.
func (a *Area) apply(e settled) {
	b, is := e.body.(ofAreas)
	if !is {
		return
	}
	b.apply(a, e)
	if _, is := b.(still); is {
		return
	}
	clear(a.memo.ways)
	if of, is := b.(stepped); is {
		a.waitsMoved(of.stepOf())
	}
}

// under is the step that an entry was part of when it was accepted.
func (a *Area) under(b body) (step string, known bool) {
	switch of := b.(type) {
	case stepped:
		return of.stepOf(), true
	case placed:
		return of.under(a)
	}
	return "", false
}
