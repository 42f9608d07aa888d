package logbook

import (
	"slices"
	"time"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/sheet"
	"dusha/core/takeoff"
)

const KindStockCounted Kind = "stock.counted"

// StockCounted is all that lies there of one product; the last count stands.
type StockCounted struct {
	Sheet string        `json:"sheet"`
	Part  string        `json:"part,omitempty"` // name of a part that is bought by itself
	Packs []CountedPack `json:"packs"`
}

// CountedPack is a number of packs alike.
type CountedPack struct {
	Amount  float64 `json:"amount"` // in one, in the unit that the product is bought in
	Count   int     `json:"count"`
	Opened  string  `json:"opened,omitempty"`  // 2006-01-02
	Closing string  `json:"closing,omitempty"` // one of takeoff.Closings
	Checked string  `json:"checked,omitempty"` // 2006-01-02: looked at on reopening, fit for use
	Expires string  `json:"expires,omitempty"` // 2006-01-02: best before
}

// Counted is a count of stock with when it was made.
type Counted struct {
	StockCounted
	Entry string `json:"entry"`
	At    string `json:"at"`

	when time.Time
}

func (b StockCounted) check() error {
	const mostCount, mostAmount = 10000, 100000
	if len(b.Packs) > mostList {
		return fault.At("body.packs", "list.too_long", "most", mostList)
	}
	for _, p := range b.Packs {
		if err := first(within("body.packs.amount", p.Amount, 0.001, mostAmount), within("body.packs.count", float64(p.Count), 1, mostCount),
			date("body.packs.opened", p.Opened), date("body.packs.checked", p.Checked), date("body.packs.expires", p.Expires)); err != nil {
			return err
		}
		if p.Closing != "" && !slices.Contains(takeoff.Closings, p.Closing) {
			return fault.At("body.packs.closing", "choice.unknown", "typed", fault.Short(p.Closing))
		}
	}
	return name("body.sheet", b.Sheet)
}

// date refuses a text that is no date; empty is fine.
func date(field, text string) error {
	if text == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, text); err != nil {
		return fault.At(field, "date.unreadable", "typed", fault.Short(text))
	}
	return nil
}

// count takes a count over the one before it.
func (b StockCounted) keep(j *Job, e settled) {
	j.Counted = slices.DeleteFunc(j.Counted, func(c Counted) bool { return c.Sheet == b.Sheet && c.Part == b.Part })
	j.Counted = append(j.Counted, Counted{b, e.ID, stamp(e.when), e.when.Truncate(time.Second)})
}

// AskStock reads what lies there of a product, or of a part bought by itself: packs alike on one line,
// opened ones with the day, how they were shut, and the day they were looked at again.
func AskStock(of sheet.Sheet, part string, typed map[string]string) (f *ask.Form, body *StockCounted) {
	const mostLines, mostAmount, mostCount = 40, 5000, 1000
	f = &ask.Form{Typed: typed}
	size := of.PackOf(part)
	counted := StockCounted{Sheet: of.ID, Part: part, Packs: []CountedPack{}}
	unit := of.SoldIn()
	for _, n := range f.List("stock", mostLines) {
		field, arg := "stock."+n+".", []any{"pack", n}
		p := CountedPack{}
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
		counted.Packs = append(counted.Packs, p)
	}
	if len(f.Faults()) == 0 {
		body = &counted
	}
	return f, body
}
