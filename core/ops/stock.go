package ops

import (
	"slices"
	"time"

	"dusha/core/ask"
	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

type stockAskIn struct {
	Sheet sheet.Sheet       `json:"sheet"`
	Part  string            `json:"part,omitempty"` // name of a part bought by itself
	Typed map[string]string `json:"typed"`
}

type stockAskOut struct {
	Form
	Body *logbook.StockCounted `json:"body"` // ready to be kept
}

// stockAsk reads what lies there of a product: packs alike on one line, opened ones with the day,
// how they were shut, and the day they were looked at again.
func stockAsk(in stockAskIn) (stockAskOut, error) {
	const mostLines, mostAmount, mostCount = 40, 5000, 1000
	f := &ask.Form{Typed: in.Typed}
	size := 0.0
	for _, p := range in.Sheet.Packs {
		if size == 0 && (in.Part == "" || partName(in.Sheet, p.Part) == in.Part) {
			size = p.Size
		}
	}
	if kit, err := in.Sheet.Number("kit"); size == 0 && err == nil {
		size = kit.Value
	}
	body := logbook.StockCounted{Sheet: in.Sheet.ID, Part: in.Part, Packs: []logbook.CountedPack{}}
	unit := in.Sheet.SoldIn()
	for _, n := range f.List("stock", mostLines) {
		field, arg := "stock."+n+".", []any{"pack", n}
		p := logbook.CountedPack{}
		if size > 0 {
			p.Amount = f.NumberOr(field+"amount", unit, 0.001, mostAmount, size, arg...)
		} else {
			p.Amount, _ = f.Number(field+"amount", unit, 0.001, mostAmount, arg...)
		}
		p.Count, _ = f.Count(field+"count", 1, mostCount, arg...)
		if p.Opened = f.DateOr(field+"opened", arg...); p.Opened != "" {
			p.Closing, _ = f.Choice(field+"closing", takeoff.Closings, arg...)
			p.Checked = f.DateOr(field+"checked", arg...)
		}
		p.Expires = f.DateOr(field+"expires", arg...)
		body.Packs = append(body.Packs, p)
	}
	out := stockAskOut{Form: formOf(f)}
	if out.Left == 0 {
		out.Body = &body
	}
	return out, nil
}

func partName(s sheet.Sheet, id string) string {
	i := slices.IndexFunc(s.Parts, func(p sheet.Part) bool { return p.ID == id })
	if i < 0 {
		return ""
	}
	return s.Parts[i].Name
}

type estimateIn struct {
	Book
	Area  string            `json:"area,omitempty"` // one area; empty: the whole job
	Now   time.Time         `json:"now"`
	Typed map[string]string `json:"typed"`
}

// Estimated is an estimate with the areas it is for.
type Estimated = estimateOut

type estimateOut struct {
	Form
	takeoff.Estimate
	Area  float64    `json:"area_m2"`
	Waste float64    `json:"waste_percent"` // in the material
	Areas []areaName `json:"areas"`
}

func estimateAsk(in estimateIn) (estimateOut, error) {
	materials, err := materialsList(materialsIn{Book: in.Book, Area: in.Area, Now: in.Now, whole: true})
	if err != nil {
		return estimateOut{}, err
	}
	entries := in.read()
	job := logbook.OwnBook(entries)
	out := estimateOut{Areas: materials.Areas}
	work := takeoff.Work{Rate: job.Rules().Limit("crew_rate").Value}
	out.Waste = job.Rules().Limit("waste").Value
	coated := 0.0
	for _, a := range materials.Areas {
		plan := logbook.FoldArea(a.ID, entries, job).Takeoff
		area, _ := plan.Figure("plan.area.total")
		runs, _ := plan.Figure("plan.junction.total")
		work.Area, work.Runs = work.Area+area.Value, work.Runs+runs.Value
		coated += area.Value * float64(len(plan.Coats))
		work.Prime = work.Prime || slices.ContainsFunc(plan.Items, func(i takeoff.Item) bool { return i.Role == "primer" })
	}
	if work.Area > 0 {
		work.Coats = int(coated/work.Area + 0.5)
	}
	var form *ask.Form
	form, out.Estimate = takeoff.AskEstimate(work, materials.Cost, in.Typed)
	out.Form, out.Area = formOf(form), work.Area
	return out, nil
}
