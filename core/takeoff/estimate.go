package takeoff

import (
	"math"

	"dusha/core/ask"
)

// Work is what an estimate counts hours from.
type Work struct {
	Area  float64 // m² of film
	Runs  float64 // m to bed
	Coats int
	Else  float64 // m² of what else is laid: primers, top coats, finishes
	Rate  float64 // m² an hour of one crew, by the local rules
}

// Estimate is an offer to the client: hours, material, allowance. It is an estimate, and nothing
// of it goes into the dossier. Money is in cents.
type Estimate struct {
	Hours     []Hours `json:"hours"`
	Labour    int     `json:"labour_cents"`
	Material  *int    `json:"material_cents"` // null where a price is not known
	Markup    int     `json:"markup_cents"`   // on material
	Allowance int     `json:"allowance_cents"`
	Net       int     `json:"net_cents"`
	Tax       int     `json:"tax_cents"`
	Total     int     `json:"total_cents"`
}

// Hours are the hours of one kind of work.
type Hours struct {
	Work  string  `json:"work"` // wording "work.<name>"
	Hours float64 `json:"hours"`
	Cost  int     `json:"cost_cents"`
}

// AskEstimate reads the form of an estimate: each kind of work has the hours that follow from the
// areas and the crew's rate, until others are typed.
func AskEstimate(w Work, material *int, typed map[string]string) (*ask.Form, Estimate) {
	const mostHours, mostRate, mostPercent = 10000, 1000, 100
	f := &ask.Form{Typed: typed}
	rate := f.NumberOr("estimate.rate", "money/h", 0, mostRate, 0)
	perHour := max(w.Rate, 0.1)
	const bandsAnHour, prepareShare, testHours = 6, 1.5, 3
	usual := []Hours{{Work: "prepare", Hours: w.Area / perHour * prepareShare}}
	if w.Else > 0 {
		usual = append(usual, Hours{Work: "else", Hours: w.Else / perHour / 2})
	}
	usual = append(usual, Hours{Work: "bands", Hours: w.Runs / bandsAnHour}, Hours{Work: "coats", Hours: w.Area / perHour * float64(w.Coats)}, Hours{Work: "test", Hours: testHours})
	e := Estimate{Hours: []Hours{}, Material: material}
	for _, h := range usual {
		const quarter = 4
		h.Hours = f.NumberOr("estimate.hours."+h.Work, "h", 0, mostHours, math.Ceil(h.Hours*quarter)/quarter)
		h.Cost = cents(h.Hours * rate * 100)
		e.Labour += h.Cost
		e.Hours = append(e.Hours, h)
	}
	if material == nil {
		own := cents(f.NumberOr("estimate.material", "money", 0, 1e7, 0) * 100)
		e.Material = &own
	}
	e.Markup = cents(float64(*e.Material) * f.NumberOr("estimate.markup", "percent", 0, mostPercent, 0) / 100)
	e.Allowance = cents(float64(e.Labour+*e.Material+e.Markup) * f.NumberOr("estimate.allowance", "percent", 0, mostPercent, 10) / 100)
	e.Net = e.Labour + *e.Material + e.Markup + e.Allowance
	e.Tax = cents(float64(e.Net) * f.NumberOr("estimate.tax", "percent", 0, mostPercent, 0) / 100)
	e.Total = e.Net + e.Tax
	return f, e
}

func cents(v float64) int { return int(math.Round(v)) }
