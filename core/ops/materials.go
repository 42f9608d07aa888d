package ops

import (
	"cmp"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"dusha/core/ask"
	"dusha/core/choice"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

// Materials are the operations from data sheet to shopping list.
func Materials() []Op {
	return []Op{
		Make("sheet.library", "The sheets of a job: its own, then the samples that ship.", library),
		Make("sheet.ask", "Fills a sheet of one's own, with another sheet as the form.", sheetAsk),
		Make("sheet.typed", "What a kept sheet was filled with, what it reduces to, and whether it is old.", sheetTyped),
		Make("sheet.import", "Reads sheets from JSON or CSV.", sheetImport),
		Make("sheet.export", "Writes sheets as JSON or CSV.", sheetExport),
		Make("trial.ask", "Reads a trial patch as far as it is typed.", trialAsk),
		Make("choice.rank", "Holds every system of the library against an area.", choiceRank),
		Make("plan.try", "Works a plan out before it is accepted.", planTry),
		Make("materials.list", "What to buy for an area or a whole job.", materialsList),
		Make("stock.ask", "Reads a count of stock as far as it is typed.", stockAsk),
		Make("estimate.ask", "Works out an estimate for the client.", estimateAsk),
	}
}

// library gives the sheets apart from the job: they are many, and few views ask for them.
func library(in Book) (sheetsOut, error) {
	entries := in.read()
	return sheetsOut{logbook.OwnBook(entries).Sheets}, nil
}

type sheetAskIn struct {
	Sample string            `json:"sample"`          // id of a shipped sheet that is the form
	Like   *sheet.Sheet      `json:"like,omitempty"`  // or the sheet itself
	ID     string            `json:"id"`              // id of the new sheet
	Typed  map[string]string `json:"typed"`           // as printed
	Today  string            `json:"today,omitempty"` // 2006-01-02, for the age of a printing
	Rules  *rules.Profile    `json:"rules,omitempty"`
}

type sheetAskOut struct {
	Form
	Film  sheet.Film   `json:"film"`  // what the figures reduce to, as far as they go
	Old   *oldSheet    `json:"old"`   // the printing is older than the local rules like
	Sheet *sheet.Sheet `json:"sheet"` // null until every figure is answered
}

type oldSheet struct {
	Days float64 `json:"days"`
	Most float64 `json:"most"`
}

func sheetAsk(in sheetAskIn) (sheetAskOut, error) {
	like := in.Like
	if like == nil {
		sample, known := sheet.Sample(in.Sample)
		if !known {
			return sheetAskOut{}, fault.At("sample", "sheet.unknown", "typed", in.Sample)
		}
		like = &sample
	}
	form, draft := sheet.Read(*like, in.ID, in.Typed)
	out := sheetAskOut{Form: formOf(form), Film: draft.Film()}
	if len(form.Faults()) == 0 {
		out.Sheet = &draft
	}
	if in.Rules != nil {
		out.Old = ageOf(draft, in.Today, *in.Rules)
	}
	return out, nil
}

// ageOf tells that a printing, or one of its attached papers, is older than the local rules like;
// nil where none is, or no date is printed.
func ageOf(s sheet.Sheet, today string, p rules.Profile) *oldSheet {
	now, err := time.Parse(time.DateOnly, today)
	if err != nil {
		return nil
	}
	days := 0.0
	dates := []string{s.Printed}
	for _, file := range s.Files {
		dates = append(dates, file.Printed)
	}
	for _, date := range dates {
		if printed, err := time.Parse(time.DateOnly, date); err == nil {
			const hours = 24
			days = max(days, now.Sub(printed).Hours()/hours)
		}
	}
	if most := p.Limit("sheet_age").Value; days > most {
		return &oldSheet{days, most}
	}
	return nil
}

type sheetTypedIn struct {
	Sheet sheet.Sheet    `json:"sheet"`
	Today string         `json:"today,omitempty"` // 2006-01-02, for the age of a printing
	Rules *rules.Profile `json:"rules,omitempty"`
}

type sheetTypedOut struct {
	Typed map[string]string `json:"typed"`
	Film  sheet.Film        `json:"film"`
	Old   *oldSheet         `json:"old"`
}

func sheetTyped(in sheetTypedIn) (sheetTypedOut, error) {
	out := sheetTypedOut{Typed: in.Sheet.Typed(), Film: in.Sheet.Film()}
	if in.Rules != nil {
		out.Old = ageOf(in.Sheet, in.Today, *in.Rules)
	}
	return out, nil
}

type sheetImportIn struct {
	Format string        `json:"format"` // "json" or "csv"
	Text   string        `json:"text" maxLength:"5242880"`
	Known  []sheet.Sheet `json:"known"` // the library: its ids cannot come twice
}

type sheetsOut struct {
	Sheets []sheet.Sheet `json:"sheets"`
}

func sheetImport(in sheetImportIn) (sheetsOut, error) {
	sheets, err := sheet.Import(in.Format, in.Text, in.Known)
	return sheetsOut{sheets}, err
}

type sheetExportIn struct {
	Format string        `json:"format"` // "json" or "csv"
	Sheets []sheet.Sheet `json:"sheets"`
}

type textOut struct {
	Text string `json:"text"`
}

func sheetExport(in sheetExportIn) (textOut, error) {
	text, err := sheet.Export(in.Format, in.Sheets)
	return textOut{text}, err
}

type trialAskIn struct {
	Sheet sheet.Sheet       `json:"sheet"`
	Typed map[string]string `json:"typed"`
}

type trialAskOut struct {
	Form
	Film sheet.Film         `json:"film"` // with the rate of the patch
	Body *logbook.TrialMade `json:"body"` // ready to be kept
}

// trialAsk works out what a product took on a patch: mass used / area.
func trialAsk(in trialAskIn) (trialAskOut, error) {
	f := &ask.Form{Typed: in.Typed}
	const mostKg, mostArea = 500, 100
	kg, ok1 := f.Number("trial.kg", "kg", 0.001, mostKg)
	area, ok2 := f.Number("trial.area", "m2", 0.01, mostArea)
	density := f.NumberOr("trial.litre", "kg/L", 0.3, 5, 0)
	out := trialAskOut{Film: in.Sheet.Film()}
	if ok1 && ok2 {
		trial := sheet.Trial{Entry: "trial", Sheet: in.Sheet.ID, Kg: kg, Area: area, Density: density}
		out.Film = in.Sheet.Tried(trial).Film()
		const mostWet = 30
		if wet := out.Film.Wet; wet != nil && wet.Value > mostWet {
			f.Reject(fault.At("trial.kg", "sheet.film_absurd", "value", wet.Value, "most", mostWet))
		}
	}
	if out.Form = formOf(f); out.Left == 0 {
		out.Body = &logbook.TrialMade{Sheet: in.Sheet.ID, Kg: kg, Area: area, Density: density}
	}
	return out, nil
}

type choiceRankIn struct {
	AreaBook
	Texture string            `json:"texture"`
	Typed   map[string]string `json:"typed"` // what the area asks for beside its survey
}

type choiceRankOut struct {
	Form
	Options []choice.Option `json:"options"` // the best first, stopped ones last
}

func choiceRank(in choiceRankIn) (choiceRankOut, error) {
	area := in.fold()
	if area.Geometry == nil {
		return choiceRankOut{}, fault.At("survey", "plan.no_survey")
	}
	form, asked := choice.Ask(*area.Geometry, in.Typed, area.LastBase())
	out := choiceRankOut{Form: formOf(form), Options: choice.Rank(choice.Ground{
		Area: *area.Geometry, Rules: area.Job.Rules(), Asked: asked, Library: area.Job.Sheets, Samples: true,
		Inputs: func(membrane sheet.Sheet, with []sheet.Companion, missing []sheet.With) takeoff.Inputs {
			return area.PlanInputs(logbook.Plan{Sheet: membrane, Rules: area.Job.Rules(), Texture: in.Texture, Companions: with, Missing: missing})
		},
	})}
	return out, nil
}

type planTryIn struct {
	AreaBook
	Sheet   string       `json:"sheet"` // id of a sheet of the job
	Texture string       `json:"texture"`
	Swaps   []sheet.Swap `json:"swaps,omitempty"`

	Typed   map[string]string `json:"typed,omitempty"`   // what the area asks for beside its survey
	Against *logbook.Against  `json:"against,omitempty"` // reason and name, where something stops it
}

type planTryOut struct {
	Plan       *takeoff.Plan `json:"plan"`
	Body       *logbook.Plan `json:"body"` // ready to be kept; null when it may not be accepted
	MayAccept  bool          `json:"may_accept"`
	Refusal    *fault.Fault  `json:"refusal"` // why not
	Stops      []choice.Stop `json:"stops"`   // what stops it here
	With       []withLine    `json:"with"`    // what goes with the membrane
	Textures   []sheet.Said  `json:"textures"`
	TextureIDs []string      `json:"texture_ids"`
	Rules      string        `json:"rules"`
	RulesNote  string        `json:"rules_note"`
	Cost       *int          `json:"cost_cents"` // of what is to buy for it alone
}

type sheetLine struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Revision string `json:"revision"`
	Role     string `json:"role"`
	Sample   bool   `json:"sample"`
}

// withLine is one product that a membrane names, and what could be taken instead.
type withLine struct {
	Role    string      `json:"role"`
	Product string      `json:"product"`
	Sheet   string      `json:"sheet"` // id of the one taken, "" where there is none
	Name    string      `json:"name"`
	Outside bool        `json:"outside"`
	Others  []sheetLine `json:"others"`
}

func lineOf(s sheet.Sheet) sheetLine { return sheetLine{s.ID, s.Name, s.Revision, s.Is(), s.Sample} }

// planTry lists what can be chosen and, once sheet and texture are picked, the plan.
func planTry(in planTryIn) (planTryOut, error) {
	area := in.fold()
	profile := area.Job.Rules()
	out := planTryOut{Rules: profile.Name, RulesNote: profile.Note, TextureIDs: rules.Textures, With: []withLine{}, Stops: []choice.Stop{}}
	library := sheet.Latest(area.Job.Sheets)
	for _, name := range rules.Textures {
		out.Textures = append(out.Textures, profile.Numbers["texture_"+name])
	}
	if in.Sheet == "" {
		return out, nil
	}
	i := slices.IndexFunc(area.Job.Sheets, func(s sheet.Sheet) bool { return s.ID == in.Sheet && s.Is() == "membrane" })
	if i < 0 {
		return out, fault.At("sheet", "sheet.unknown", "typed", in.Sheet)
	}
	if area.Geometry == nil {
		return out, fault.At("survey", "plan.no_survey")
	}
	chosen := area.Job.Sheets[i]
	body := logbook.Plan{Survey: area.SurveyID, Sheet: chosen, Rules: profile, Texture: in.Texture}
	body.Companions, body.Missing = sheet.Companions(chosen, library, in.Swaps, area.Job.Demo || chosen.Sample)
	if area.PlanID != "" {
		body.From = []string{area.PlanID}
	}
	out.With = withLines(chosen, library, body)
	plan, err := takeoff.MakePlan(area.PlanInputs(body))
	if err != nil {
		return out, err
	}
	plan.Mixed = append(plan.Mixed, area.MixedWithLaid(chosen)...)
	out.Plan = &plan
	out.Cost = costOf(takeoff.Shop(plan.Items, area.Job.Stock(&area), area.Job.OpenLives(), nil, time.Time{}))
	if err := logbook.MayAccept(body, area.Job); err != nil {
		out.Refusal = fault.Of(err)[0]
		return out, nil
	}
	for _, c := range body.Companions {
		if c.Outside && (c.Reason == "" || c.Person == "") {
			out.Refusal = fault.At("companions."+c.Role, "plan.outside_without_reason", "name", c.Sheet.Name)
			return out, nil
		}
	}
	_, asked := choice.Ask(*area.Geometry, in.Typed, area.LastBase())
	out.Stops = choice.Ground{Area: *area.Geometry, Rules: profile, Asked: asked}.Stops(chosen, body.Companions)
	if len(out.Stops) > 0 {
		if in.Against == nil || strings.TrimSpace(in.Against.Reason) == "" || in.Against.Person == "" {
			out.Refusal = fault.At("sheet", "plan.against_stop", "name", chosen.Name)
			return out, nil
		}
		body.Against = &logbook.Against{Reason: strings.TrimSpace(in.Against.Reason), Person: in.Against.Person}
		for _, stop := range out.Stops {
			body.Against.Stops = append(body.Against.Stops, stop.Key)
		}
	}
	out.MayAccept, out.Body = true, &body
	return out, nil
}

// costOf adds up what is to buy; nil where a price is not known.
func costOf(list []takeoff.Shopping) *int {
	total := 0
	for _, line := range list {
		if line.Cost == nil {
			return nil
		}
		total += *line.Cost
	}
	return &total
}

// withLines lists what goes with a membrane and what else the library has for each role.
func withLines(membrane sheet.Sheet, library []sheet.Sheet, plan logbook.Plan) []withLine {
	lines := []withLine{}
	for _, with := range membrane.With {
		line := withLine{Role: with.Role, Product: with.Product, Others: []sheetLine{}}
		for _, s := range library {
			if s.Is() == with.Role {
				line.Others = append(line.Others, lineOf(s))
			}
			if s.Of() == with.Product && line.Name == "" {
				line.Name = s.Name
			}
		}
		for _, c := range plan.Companions {
			if c.Role == with.Role && slices.Equal(c.On, with.On) {
				line.Sheet, line.Name, line.Outside = c.Sheet.ID, c.Sheet.Name, c.Outside
			}
		}
		lines = append(lines, line)
	}
	return lines
}

type materialsIn struct {
	Book
	Area string    `json:"area,omitempty"` // one area; empty: the whole job
	Now  time.Time `json:"now"`

	whole bool // all that the plans take, whatever is done or lies there
}

type materialsOut struct {
	Lines    []takeoff.Shopping `json:"lines"`
	Areas    []areaName         `json:"areas"`    // whose plans are in it
	Unplaced []areaName         `json:"unplaced"` // areas without a plan
	Cost     *int               `json:"cost_cents"`
	Weight   float64            `json:"weight_kg"` // to carry
	Sample   bool               `json:"sample"`
	Stages   []stageKit         `json:"stages"` // tools, protective gear and cleaning
}

type areaName struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// stageKit is what a stage asks to have by you, as keys of the wording.
type stageKit struct {
	Area     string   `json:"area"`
	Stage    string   `json:"stage"`
	Title    string   `json:"title"`
	Tools    []string `json:"tools"`
	Gear     []string `json:"gear"`
	Cleaning []string `json:"cleaning"`
}

// jobBooks are a job's own book and all its areas', folded once for several lists.
type jobBooks struct {
	job   logbook.Job
	areas []*logbook.Area
}

func (b Book) books() jobBooks {
	entries := b.read()
	books := jobBooks{job: logbook.OwnBook(entries)}
	for _, id := range areasOf(entries) {
		area := logbook.FoldArea(id, entries, books.job)
		books.areas = append(books.areas, &area)
	}
	return books
}

func materialsList(in materialsIn) (materialsOut, error) { return in.books().materials(in), nil }

// materials adds up what the accepted plans still take, with the stock used first.
func (b jobBooks) materials(in materialsIn) materialsOut {
	out := materialsOut{Areas: []areaName{}, Unplaced: []areaName{}, Stages: []stageKit{}}
	byArea, order := map[string][]takeoff.Item{}, []string{}
	done := map[string]float64{}
	for _, area := range b.areas {
		id := area.ID
		if in.Area != "" && id != in.Area {
			continue
		}
		if area.Takeoff == nil {
			out.Unplaced = append(out.Unplaced, areaName{id, area.Name})
			continue
		}
		out.Areas = append(out.Areas, areaName{id, area.Name})
		order = append(order, id)
		byArea[id] = area.Takeoff.Items
		out.Sample = out.Sample || area.Takeoff.Sample
		for _, step := range area.Recipe.Steps() {
			if !in.whole {
				done[id+"."+step.ID] = area.Done01(step)
			}
		}
		out.Stages = append(out.Stages, kitsOf(*area)...)
	}
	items, areas := takeoff.Merge(byArea, order)
	stock := b.job.Stock(b.areas...)
	if in.whole {
		stock = nil
	}
	out.Lines = takeoff.Shop(items, stock, b.job.OpenLives(), done, in.Now)
	slices.SortStableFunc(out.Lines, func(a, b takeoff.Shopping) int { return cmp.Compare(laid(a), laid(b)) })
	for i := range out.Lines {
		out.Lines[i].Areas = areas[out.Lines[i].ID]
		out.Weight += out.Lines[i].Weight
	}
	out.Cost = costOf(out.Lines)
	return out
}

// laid puts what is no longer needed behind the rest.
func laid(line takeoff.Shopping) int {
	if line.Need != nil && line.Left == 0 {
		return 1
	}
	return 0
}

// Purchase is a purchase list; one of the whole job, or of one area.
type Purchase = materialsOut

// PurchaseOf is what the texts of a job's entries make one buy: for an area, or, where area is
// empty, for the whole job.
func PurchaseOf(texts []json.RawMessage, area string, now time.Time) (Purchase, error) {
	return materialsList(materialsIn{Book: Book{Entries: texts}, Area: area, Now: now})
}

// PurchasesOf is what an area makes one buy or, where area is empty, the whole job, then each of its
// planned areas.
func PurchasesOf(texts []json.RawMessage, area string, now time.Time) []Purchase {
	books := Book{Entries: texts}.books()
	lists := []Purchase{books.materials(materialsIn{Area: area, Now: now})}
	if area != "" {
		return lists
	}
	for _, a := range lists[0].Areas {
		lists = append(lists, books.materials(materialsIn{Area: a.ID, Now: now}))
	}
	return lists
}

// EstimateOf is the estimate of a job or an area, with what was typed for it.
func EstimateOf(texts []json.RawMessage, area string, now time.Time, typed map[string]string) (Estimated, error) {
	return estimateAsk(estimateIn{Book: Book{Entries: texts}, Area: area, Now: now, Typed: typed})
}

// kitsOf lists for each stage of an area what to have by you.
func kitsOf(area logbook.Area) []stageKit {
	var kits []stageKit
	for _, stage := range area.Recipe.Stages {
		kit := stageKit{Area: area.ID, Stage: stage.ID, Title: stage.Title, Tools: []string{}, Gear: []string{}, Cleaning: []string{}}
		for _, step := range stage.Steps {
			for _, tool := range step.Tools {
				if !slices.Contains(kit.Tools, tool) {
					kit.Tools = append(kit.Tools, tool)
				}
			}
			for _, caution := range step.Cautions {
				for _, gear := range sheet.Gear(caution) {
					if !slices.Contains(kit.Gear, gear) {
						kit.Gear = append(kit.Gear, gear)
					}
				}
			}
			if step.Does == "coat" || step.Does == "bed" {
				kit.Cleaning = sheet.Cleaning(area.Plan.Sheet)
			}
		}
		if len(kit.Tools)+len(kit.Gear)+len(kit.Cleaning) > 0 {
			kits = append(kits, kit)
		}
	}
	return kits
}
