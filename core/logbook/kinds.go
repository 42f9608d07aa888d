package logbook

import (
	"encoding/json"
	"fmt"
	"math"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/units"
	"dusha/core/wetarea"
)

// Bodies of entries, one type a kind. JSON names carry the unit of a quantity.
type (
	// JobOpened begins a job's book.
	JobOpened struct {
		Name     string `json:"name"`
		TimeZone string `json:"time_zone"` // IANA name
		Demo     bool   `json:"demo,omitempty"`
	}
	// JobRenamed gives a job another name.
	JobRenamed struct {
		Name string `json:"name"`
	}
	// PersonJoined puts a person on the job; the name stands in the people table alone.
	PersonJoined struct {
		Person string `json:"person"`
		Role   string `json:"role"`
	}
	// SheetAdded keeps a data sheet of one's own for the job.
	SheetAdded struct {
		Sheet sheet.Sheet `json:"sheet"`
	}
	// RulesAdded keeps a local-rules profile for the job; the last one kept is in use.
	RulesAdded struct {
		Profile rules.Profile `json:"profile"`
	}
	// PatternKept keeps a begun survey to begin other areas from.
	PatternKept struct {
		Name  string `json:"name"`
		Begun Begun  `json:"begun"`
	}
	// AreaOpened begins an area's book, bare or with what it is begun from.
	AreaOpened struct {
		Name  string `json:"name"`
		Begun *Begun `json:"begun,omitempty"`
	}
	// Begun is what an area starts with: a survey form as typed elsewhere, each size still to be
	// checked where it was copied, and the system and texture of its plan.
	Begun struct {
		From    string            `json:"from,omitempty"` // area or pattern it was copied from
		Form    string            `json:"form"`
		Typed   map[string]string `json:"typed"`
		Check   bool              `json:"check"` // every size is to be checked on site
		System  string            `json:"system,omitempty"`
		Texture string            `json:"texture,omitempty"`
	}
	// Plan accepts a system for a survey, with the sheet and rules it used.
	Plan struct {
		Survey  string        `json:"survey"` // id of the survey entry
		Sheet   sheet.Sheet   `json:"sheet"`
		Rules   rules.Profile `json:"rules"`
		Texture string        `json:"texture"`
		From    []string      `json:"from,omitempty"` // plans it was made from or chosen over

		Companions []sheet.Companion `json:"companions,omitempty"` // what goes with the membrane, in the revisions used
		Missing    []sheet.With      `json:"missing,omitempty"`    // what it names and no sheet is there for
		Against    *Against          `json:"against,omitempty"`    // hard stops that it was accepted against
	}
	// Against is why a system is used where something stops it, and who answers for it.
	Against struct {
		Stops  []string `json:"stops"` // wording keys
		Reason string   `json:"reason"`
		Person string   `json:"person"`
	}
	// Done finishes a check step.
	Done struct {
		Step      string   `json:"step"`
		Confirmed []string `json:"confirmed,omitempty"`
	}
	// Accepted signs a hold point.
	Accepted struct {
		Step string `json:"step"`
		Note string `json:"note,omitempty"`
	}
	// Overridden lets work pass a hold or a wait, with the reason and who answers for it.
	Overridden struct {
		Step   string `json:"step"`
		Person string `json:"person"`
		Reason string `json:"reason"`
	}
	// Bedded says which pieces lie in their bed.
	Bedded struct {
		Step   string   `json:"step"`
		Pieces []string `json:"pieces"`
	}
	// Weighed begins a batch: what was weighed, for which surfaces, at which temperature.
	Weighed struct {
		Step     string       `json:"step"`
		Batch    string       `json:"batch"` // id of the batch, a UUID
		Surfaces []string     `json:"surfaces"`
		Kg       float64      `json:"kg"`
		Temp     float64      `json:"temp_C"`
		Bucket   float64      `json:"bucket_L"`
		Parts    []PartWeight `json:"parts"`
	}
	// PartWeight is one part as weighed.
	PartWeight struct {
		Part string  `json:"part"`
		Kg   float64 `json:"kg"`
		Code string  `json:"code,omitempty"` // batch code printed on the pack
	}
	// Marked is a moment in the life of a batch.
	Marked struct {
		Batch string `json:"batch"`
		Mark  string `json:"mark"`
	}
	// Laid says that a coat lies on surfaces, with what it took. A top-up on a thin film names
	// the state of the coat it was laid on: into a wet one, or as a layer on a skinned one.
	Laid struct {
		Step     string   `json:"step"`
		Surfaces []string `json:"surfaces"`
		Kg       float64  `json:"kg"`
		Batch    string   `json:"batch,omitempty"`
		TopsUp   string   `json:"tops_up,omitempty"` // "", "wet" or "skinned"
	}
	// Read is a comb-gauge reading at a place: the last wetted and the next dry tooth.
	Read struct {
		Step    string   `json:"step"`
		Surface string   `json:"surface"`
		Along   float64  `json:"along_mm"`
		Up      float64  `json:"up_mm"`
		LastWet float64  `json:"last_wet_mm"` // 0: no tooth was wetted
		NextDry *float64 `json:"next_dry_mm"` // null: every tooth was wetted
	}
	// Touched is the touch test before a step: which states the person found.
	Touched struct {
		Step  string   `json:"step"` // the step it may open
		Found []string `json:"found"`
	}
	// Remedied says that the sheet's remedy for a window that had shut was carried out.
	Remedied struct {
		Step string `json:"step"`
		Did  string `json:"did"`
	}
	// TestPlanned settles a water test: depth, load, gauge and hours, as typed.
	TestPlanned struct {
		Step    string                   `json:"step"`
		Answers map[string]units.Measure `json:"answers"`
	}
	// TestFilled begins a run of readings: the area was filled, topped up, or disturbed.
	TestFilled struct {
		Step      string   `json:"step"`
		Why       string   `json:"why"`
		Confirmed []string `json:"confirmed,omitempty"`
	}
	// TestRead is a level reading with the pan's and the look outside.
	TestRead struct {
		Step    string   `json:"step"`
		Water   float64  `json:"water_mm"`
		Pan     *float64 `json:"pan_mm"`            // null: there is none, or it was not read
		ReadAt  string   `json:"read_at,omitempty"` // RFC 3339; empty: when the entry was made
		Outside string   `json:"outside"`
		Where   string   `json:"where,omitempty"`   // where it is damp or wet, in words
		Damp    string   `json:"damp,omitempty"`    // one of Damps, of what is damp
		Temp    *float64 `json:"water_C,omitempty"` // of the water at mid-depth
	}
	// TestLooked is a look at the outside of a test without a reading; before the filling it says
	// what was damp already.
	TestLooked struct {
		Step    string `json:"step"`
		Outside string `json:"outside"`
		Where   string `json:"where,omitempty"`
		Damp    string `json:"damp,omitempty"` // one of Damps, of what is damp
	}
	// TestRained says how much rain fell since the reading before.
	TestRained struct {
		Step string  `json:"step"`
		Rain float64 `json:"rain_mm"`
	}
	// TestExplained says why what was seen, or why a run ended, is no leak.
	TestExplained struct {
		Step   string  `json:"step"`
		Of     string  `json:"of"` // the entry of the look, the reading or the filling
		Why    string  `json:"why"`
		Person string  `json:"person"`
		Photos []Photo `json:"photos"`
	}
	// TestRepaired says what was done after a run that leaked.
	TestRepaired struct {
		Step string `json:"step"`
		Did  string `json:"did"`
	}
	// SignedBody is a signature: person, role, drawn line and the digest of what was signed.
	SignedBody struct {
		Step   string     `json:"step"`
		Person string     `json:"person"`
		Role   string     `json:"role"`
		Line   [][][2]int `json:"line"`             // strokes of points, 0 to 1000 across and down
		Seen   string     `json:"seen"`             // as Seen gives it
		Device string     `json:"device,omitempty"` // id of the paired device it was given on
		Proof  string     `json:"proof,omitempty"`  // its key's signature of SignedText: ECDSA P-256, r and s, base64
	}
)

// Marks of a batch in their order: the parts touch, the powder is taken up and mixing
// counts, mixing ended and it stands, it is stirred again and in use, it is used up or
// thrown away.
var Marks = []string{"contact", "mixing", "standing", "ready", "empty", "spoilt"}

type kind struct {
	job    bool // belongs to the job's own book
	body   reflect.Type
	decode func(json.RawMessage, decoder) (any, error)
}

type checked interface{ check() error }

func area[T checked]() kind { return kind{body: reflect.TypeFor[T](), decode: decodeBody[T]} }
func ofJob[T checked]() kind {
	return kind{job: true, body: reflect.TypeFor[T](), decode: decodeBody[T]}
}

// Bodies are the types of the bodies, by kind of entry.
func Bodies() map[string]reflect.Type {
	bodies := map[string]reflect.Type{}
	for name, kind := range kinds {
		bodies[name] = kind.body
	}
	return bodies
}

// OfJob tells whether a kind of entry belongs to the job's own book.
func OfJob(kind string) bool { return kinds[kind].job }

// kinds are all kinds of entry that can be kept.
var kinds = map[string]kind{
	"job.opened":     ofJob[JobOpened](),
	"job.renamed":    ofJob[JobRenamed](),
	"person.joined":  ofJob[PersonJoined](),
	"sheet.added":    ofJob[SheetAdded](),
	"rules.added":    ofJob[RulesAdded](),
	"pattern.kept":   ofJob[PatternKept](),
	"trial.made":     ofJob[TrialMade](),
	"stock.counted":  ofJob[StockCounted](),
	"offcut.kept":    ofJob[OffcutKept](),
	"offcut.taken":   ofJob[OffcutTaken](),
	"area.opened":    area[AreaOpened](),
	"survey":         area[surveyBody](),
	"leak.found":     area[LeakFound](),
	"leak.plugged":   area[LeakPlugged](),
	"leak.checked":   area[LeakChecked](),
	"history":        area[History](),
	"plan":           area[Plan](),
	"done":           area[Done](),
	"accepted":       area[Accepted](),
	"overridden":     area[Overridden](),
	"bedded":         area[Bedded](),
	"cut.planned":    area[CutPlanned](),
	"cut.done":       area[CutDone](),
	"cut.spoilt":     area[CutSpoilt](),
	"weighed":        area[Weighed](),
	"marked":         area[Marked](),
	"laid":           area[Laid](),
	"read":           area[Read](),
	"air.place":      area[AirPlace](),
	"air.read":       ofJob[AirRead](),
	"forecast.read":  area[Forecast](),
	"film.explained": area[FilmExplained](),
	"climate":        area[Climate](),
	"touched":        area[Touched](),
	"remedied":       area[Remedied](),
	"test.planned":   area[TestPlanned](),
	"test.filled":    area[TestFilled](),
	"test.read":      area[TestRead](),
	"test.looked":    area[TestLooked](),
	"test.rained":    area[TestRained](),
	"test.explained": area[TestExplained](),
	"test.repaired":  area[TestRepaired](),
	"signed":         area[SignedBody](),
}

func decodeBody[T checked](raw json.RawMessage, decode decoder) (any, error) {
	var body T
	if len(raw) == 0 || string(raw) == "null" {
		return nil, fault.At("body", "entry.no_body")
	}
	if err := decode("body", raw, &body); err != nil {
		return nil, err
	}
	if err := body.check(); err != nil {
		return nil, err
	}
	return body, nil
}

type surveyBody struct{ wetarea.Survey }

const (
	mostName, mostLine = 80, 500
	mostList           = 200
	mostKg             = 5000
	mostTooth          = 50
	coldest, hottest   = units.Coldest, units.Hottest
)

func name(field, text string) error {
	switch runes := len([]rune(strings.TrimSpace(text))); {
	case runes == 0:
		return fault.At(field, "text.missing")
	case runes > mostName:
		return fault.At(field, "text.too_long", "most", mostName)
	}
	return nil
}

func line(field, text string, needed bool) error {
	switch {
	case needed && strings.TrimSpace(text) == "":
		return fault.At(field, "text.missing")
	case len([]rune(text)) > mostLine:
		return fault.At(field, "text.too_long", "most", mostLine)
	}
	return nil
}

func id(field, text string) error {
	if !isID(text) {
		return fault.At(field, "entry.not_an_id", "typed", fault.Short(text))
	}
	return nil
}

func list(field string, items []string) error {
	if len(items) == 0 {
		return fault.At(field, "list.empty")
	}
	if len(items) > mostList {
		return fault.At(field, "list.too_long", "most", mostList)
	}
	return nil
}

func within(field string, value, least, most float64) error {
	switch {
	case math.IsNaN(value) || value < least:
		return fault.At(field, "number.too_small", "value", value, "least", least)
	case value > most:
		return fault.At(field, "number.too_large", "value", value, "most", most)
	}
	return nil
}

// first is the first error of a list of checks.
func first(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

// zoneName is the shape of an IANA name; whether the zone exists is known outside the core.
var zoneName = regexp.MustCompile(`^[A-Za-z_]+(/[A-Za-z0-9_+-]+){0,2}$`)

func (b JobOpened) check() error {
	if !zoneName.MatchString(b.TimeZone) {
		return fault.At("body.time_zone", "entry.unknown_time_zone", "typed", fault.Short(b.TimeZone))
	}
	return name("body.name", b.Name)
}

func (b JobRenamed) check() error { return name("body.name", b.Name) }

func (b AreaOpened) check() error {
	if b.Begun != nil {
		if err := b.Begun.check(); err != nil {
			return err
		}
	}
	return name("body.name", b.Name)
}

func (b PersonJoined) check() error {
	return first(id("body.person", b.Person), name("body.role", b.Role))
}

func (b SheetAdded) check() error { return b.Sheet.Check("body.sheet") }

func (b RulesAdded) check() error { return b.Profile.Check("body.profile") }

func (b PatternKept) check() error { return first(name("body.name", b.Name), b.Begun.check()) }

func (b Begun) check() error {
	const mostAnswers, mostTyped = 2000, 20000
	if !slices.Contains(wetarea.Forms, b.Form) {
		return fault.At("body.begun.form", "choice.unknown", "typed", fault.Short(b.Form))
	}
	if len(b.Typed) > mostAnswers {
		return fault.At("body.begun.typed", "list.too_long", "most", mostAnswers)
	}
	for _, text := range b.Typed {
		if len(text) > mostTyped {
			return fault.At("body.begun.typed", "text.too_long", "most", mostTyped)
		}
	}
	return nil
}

func (b surveyBody) check() error {
	const mostAnswers = 2000
	if len(b.Answers) > mostAnswers {
		return fault.At("body.answers", "list.too_long", "most", mostAnswers)
	}
	if b.Form == "" {
		return fault.At("body.form", "text.missing")
	}
	return nil
}

func (b Plan) check() error {
	if !slices.Contains(rules.Textures, b.Texture) {
		return fault.At("body.texture", "choice.unknown", "typed", fault.Short(b.Texture))
	}
	if len(b.Companions) > mostList || len(b.Missing) > mostList {
		return fault.At("body.companions", "list.too_long", "most", mostList)
	}
	for _, c := range b.Companions {
		if err := c.Sheet.Check("body.companions." + c.Role); err != nil {
			return err
		}
		if c.Outside && (strings.TrimSpace(c.Reason) == "" || c.Person == "") {
			return fault.At("body.companions."+c.Role, "plan.outside_without_reason", "name", c.Sheet.Name)
		}
	}
	if b.Against != nil {
		if err := first(list("body.against.stops", b.Against.Stops), line("body.against.reason", b.Against.Reason, true), id("body.against.person", b.Against.Person)); err != nil {
			return err
		}
	}
	return first(id("body.survey", b.Survey), b.Sheet.Check("body.sheet"))
}

func (b Done) check() error { return name("body.step", b.Step) }
func (b Accepted) check() error {
	return first(name("body.step", b.Step), line("body.note", b.Note, false))
}

func (b Overridden) check() error {
	return first(name("body.step", b.Step), id("body.person", b.Person), line("body.reason", b.Reason, true))
}

func (b Bedded) check() error { return first(name("body.step", b.Step), list("body.pieces", b.Pieces)) }

func (b Weighed) check() error {
	if len(b.Parts) == 0 || len(b.Parts) > 12 {
		return fault.At("body.parts", "sheet.parts_out_of_range", "value", len(b.Parts))
	}
	for i, part := range b.Parts {
		path := fmt.Sprintf("body.parts.%d", i+1)
		if err := first(within(path+".kg", part.Kg, 0, mostKg), line(path+".code", part.Code, false)); err != nil {
			return err
		}
	}
	return first(name("body.step", b.Step), id("body.batch", b.Batch), list("body.surfaces", b.Surfaces),
		within("body.kg", b.Kg, 0.001, mostKg), within("body.temp_C", b.Temp, coldest, hottest), within("body.bucket_L", b.Bucket, 0.1, 1000))
}

func (b Marked) check() error {
	if !slices.Contains(Marks, b.Mark) {
		return fault.At("body.mark", "choice.unknown", "typed", fault.Short(b.Mark))
	}
	return id("body.batch", b.Batch)
}

func (b Laid) check() error {
	if b.Batch != "" {
		if err := id("body.batch", b.Batch); err != nil {
			return err
		}
	}
	if b.TopsUp != "" && b.TopsUp != film.Wet && b.TopsUp != film.Skinned {
		return fault.At("body.tops_up", "choice.unknown", "typed", fault.Short(b.TopsUp))
	}
	return first(name("body.step", b.Step), list("body.surfaces", b.Surfaces), within("body.kg", b.Kg, 0.001, mostKg))
}

func (b Touched) check() error {
	if len(b.Found) > mostList {
		return fault.At("body.found", "list.too_long", "most", mostList)
	}
	return name("body.step", b.Step)
}

func (b Remedied) check() error {
	return first(name("body.step", b.Step), line("body.did", b.Did, true))
}

func (b TestPlanned) check() error {
	if len(b.Answers) == 0 || len(b.Answers) > mostList {
		return fault.At("body.answers", "list.empty")
	}
	return name("body.step", b.Step)
}

func (b TestFilled) check() error {
	if !slices.Contains(RunReasons, b.Why) {
		return fault.At("body.why", "choice.unknown", "typed", fault.Short(b.Why))
	}
	return name("body.step", b.Step)
}

func (b TestRead) check() error {
	const deepest = 20000 // mm
	if b.Pan != nil {
		if err := within("body.pan_mm", *b.Pan, -deepest, deepest); err != nil {
			return err
		}
	}
	if b.ReadAt != "" {
		if _, err := momentOf("body.read_at", b.ReadAt); err != nil {
			return err
		}
	}
	if b.Temp != nil {
		if err := within("body.water_C", *b.Temp, 0.1, 60); err != nil {
			return err
		}
	}
	return first(name("body.step", b.Step), within("body.water_mm", b.Water, -deepest, deepest), seen(b.Outside, b.Where, b.Damp))
}

// Damps are what may be said of something damp beside the look before the filling.
var Damps = []string{"as_before", "new", "grown"}

// seen refuses a look outside that is none.
func seen(outside, where, damp string) error {
	switch {
	case !slices.Contains(Outsides, outside):
		return fault.At("body.outside", "choice.unknown", "typed", fault.Short(outside))
	case damp != "" && !slices.Contains(Damps, damp):
		return fault.At("body.damp", "choice.unknown", "typed", fault.Short(damp))
	}
	return line("body.where", where, false)
}

func (b TestLooked) check() error {
	return first(name("body.step", b.Step), seen(b.Outside, b.Where, b.Damp))
}

func (b TestRained) check() error {
	const most = 500
	return first(name("body.step", b.Step), within("body.rain_mm", b.Rain, 0.1, most))
}

func (b TestExplained) check() error {
	return first(name("body.step", b.Step), id("body.of", b.Of), line("body.why", b.Why, true), id("body.person", b.Person), photos("body.photos", b.Photos))
}

func (b TestRepaired) check() error {
	return first(name("body.step", b.Step), line("body.did", b.Did, true))
}

var hexDigest = regexp.MustCompile(`^[0-9a-f]{64}$`)

// proof are 64 bytes in base64.
var proof = regexp.MustCompile(`^[A-Za-z0-9+/]{86}==$`)

func (b SignedBody) check() error {
	const mostPoints, side = 4000, 1000
	points := 0
	for _, stroke := range b.Line {
		points += len(stroke)
		for _, p := range stroke {
			if p[0] < 0 || p[0] > side || p[1] < 0 || p[1] > side {
				return fault.At("body.line", "sign.line_off_the_field")
			}
		}
	}
	switch {
	case b.Person == "":
		return fault.At("body.person", "sign.nobody")
	case points < 2:
		return fault.At("body.line", "sign.no_line")
	case points > mostPoints:
		return fault.At("body.line", "list.too_long", "most", mostPoints)
	case !hexDigest.MatchString(b.Seen):
		return fault.At("body.seen", "sign.no_digest")
	case b.Device != "" && id("body.device", b.Device) != nil:
		return id("body.device", b.Device)
	case (b.Device == "") != (b.Proof == "") || b.Proof != "" && !proof.MatchString(b.Proof):
		return fault.At("body.proof", "sign.no_proof")
	}
	return first(name("body.step", b.Step), id("body.person", b.Person), name("body.role", b.Role))
}

func (b Read) check() error {
	if err := first(name("body.step", b.Step), place("body", b.Surface, b.Along, b.Up),
		within("body.last_wet_mm", b.LastWet, 0, mostTooth)); err != nil {
		return err
	}
	switch {
	case b.NextDry == nil && b.LastWet == 0:
		return fault.At("body.last_wet_mm", "film.no_tooth")
	case b.NextDry != nil && *b.NextDry <= b.LastWet:
		return fault.At("body.next_dry_mm", "film.dry_below_wet", "dry", *b.NextDry, "wet", b.LastWet)
	case b.NextDry != nil && *b.NextDry > mostTooth:
		return fault.At("body.next_dry_mm", "number.too_large", "value", *b.NextDry, "most", mostTooth)
	}
	return nil
}
