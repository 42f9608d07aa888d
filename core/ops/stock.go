package ops

import (
	"time"

	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/core/site"
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

func stockAsk(in stockAskIn) (stockAskOut, error) {
	form, body := logbook.AskStock(in.Sheet, in.Part, in.Typed)
	return stockAskOut{formOf(form), body}, nil
}

type estimateIn struct {
	Book
	Area  string            `json:"area,omitempty"` // one area; empty: the whole job
	Now   time.Time         `json:"now"`
	Typed map[string]string `json:"typed"`
}

type estimateOut struct {
	Form
	site.Estimate
}

func estimateAsk(in estimateIn) (estimateOut, error) {
	form, estimate := in.site().Estimate(in.Area, in.Now, in.Typed)
	return estimateOut{formOf(form), estimate}, nil
}
