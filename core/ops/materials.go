package ops

import (
	"time"

	"dusha/core/ask"
	"dusha/core/choice"
	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/site"
)

// Materials are the operations from data sheet to shopping list.
func Materials() []Op {
	return []Op{
		Make("sheet.library", "The sheets of a job: its own, then the samples that ship.", library),
		Make("sheet.ask", "Fills a sheet of one's own, with another sheet as the form.", sheetAsk),
		Make("sheet.needs", "The figures of a product's sheet that an area stands still without.", sheetNeeds),
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
func library(in Book) (libraryOut, error) {
	job := in.site().Job()
	return libraryOut{job.Sheets(), job.SheetEntries()}, nil
}

type libraryOut struct {
	Sheets  []sheet.Sheet     `json:"sheets"`
	Entries map[string]string `json:"entries"` // by which a sheet of one's own was kept, by its id: to be corrected
}

type sheetAskIn struct {
	Sample string            `json:"sample"`          // id of a shipped sheet that is the form
	Like   *sheet.Sheet      `json:"like,omitempty"`  // or the sheet itself
	ID     string            `json:"id"`              // id of the new sheet
	Typed  map[string]string `json:"typed"`           // as printed
	Today  string            `json:"today,omitempty"` // 2006-01-02, for the age of a printing
	Rules  *rules.Profile    `json:"rules,omitempty"`
	Needs  []string          `json:"needs,omitempty" maxItems:"200"` // what cannot wait; left out: nothing can

	Corrects bool `json:"corrects,omitempty"` // the same printing, misread: it keeps its id
}

type sheetAskOut struct {
	Form
	Film  sheet.Film      `json:"film"`  // what the figures reduce to, as far as they go
	Old   *rules.OldSheet `json:"old"`   // the printing is older than the local rules like
	Sheet *sheet.Sheet    `json:"sheet"` // null until every figure is answered
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
	read := func() (*ask.Form, sheet.Sheet) { return sheet.Read(*like, in.ID, in.Typed, in.Needs...) }
	if in.Corrects {
		read = func() (*ask.Form, sheet.Sheet) { return sheet.Correct(*like, in.Typed, in.Needs...) }
	}
	form, draft := read()
	out := sheetAskOut{Form: formOf(form), Film: draft.Film()}
	if len(form.Faults()) == 0 {
		out.Sheet = &draft
	}
	if in.Rules != nil {
		out.Old = in.Rules.AgeOf(draft, in.Today)
	}
	return out, nil
}

type sheetNeedsIn struct {
	Book
	Area   string `json:"area"`
	System string `json:"system,omitempty"` // id; "": the first that the sheet makes tight
	Sheet  string `json:"sheet"`            // id of the sheet that is the form
}

type sheetNeedsOut struct {
	Needs []string `json:"needs"`
}

func sheetNeeds(in sheetNeedsIn) (sheetNeedsOut, error) {
	needs, err := in.site().Needs(in.Area, in.System, in.Sheet)
	return sheetNeedsOut{needs}, err
}

type sheetTypedIn struct {
	Sheet sheet.Sheet    `json:"sheet"`
	Today string         `json:"today,omitempty"` // 2006-01-02, for the age of a printing
	Rules *rules.Profile `json:"rules,omitempty"`
}

type sheetTypedOut struct {
	Typed map[string]string `json:"typed"`
	Film  sheet.Film        `json:"film"`
	Old   *rules.OldSheet   `json:"old"`
}

func sheetTyped(in sheetTypedIn) (sheetTypedOut, error) {
	out := sheetTypedOut{Typed: in.Sheet.Typed(), Film: in.Sheet.Film()}
	if in.Rules != nil {
		out.Old = in.Rules.AgeOf(in.Sheet, in.Today)
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

func trialAsk(in trialAskIn) (trialAskOut, error) {
	form, film, body := logbook.AskTrial(in.Sheet, in.Typed)
	return trialAskOut{formOf(form), film, body}, nil
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
	form, options, err := in.site().Rank(in.Area, in.Texture, in.Typed)
	if err != nil {
		return choiceRankOut{}, err
	}
	return choiceRankOut{formOf(form), options}, nil
}

type planTryIn struct {
	AreaBook
	site.Choice
}

func planTry(in planTryIn) (site.Tried, error) { return in.site().Try(in.Area, in.Choice) }

type materialsIn struct {
	Book
	Area string    `json:"area,omitempty"` // one area; empty: the whole job
	Now  time.Time `json:"now"`
}

func materialsList(in materialsIn) (site.Purchase, error) {
	return in.site().Materials(in.Area, in.Now), nil
}
