package dossier

import (
	"io"
	"strconv"
	"strings"
	"time"

	"dusha/core/site"
	"dusha/internal/purchase"
	"dusha/internal/words"
)

// WritePurchase writes a purchase list as PDF: the whole job first, then each area, then what to
// have by you.
func WritePurchase(w io.Writer, lists purchase.Lists, at time.Time) error {
	say := lists.Say
	title := say.Say("paper.materials")
	p := newPaper(title, at, func(p *paper) { p.top(title, lists.Job) }, (*paper).foot)
	for _, list := range lists.Parts {
		name := list.For
		if name == "" {
			name = say.Say("materials.all")
		}
		p.head(name)
		if list.Sample {
			p.warn(say.Say("paper.sample"))
		}
		p.table([]column{
			{say.Say("paper.product"), 34, false}, {say.Say("paper.to_buy.need"), 13, true}, {say.Say("paper.stock"), 12, true},
			{say.Say("paper.packs"), 24, false}, {say.Say("paper.left"), 13, true}, {say.Say("paper.cost"), 12, true},
		}, purchaseRows(say, list))
		if list.Cost != nil {
			p.text(say.Say("paper.to_buy.total") + ": " + say.Money(*list.Cost) + " · " + say.Say("paper.weight") + ": " + say.Quantity(list.Weight, "kg"))
		} else {
			p.text(say.Say("materials.cost.unknown") + " · " + say.Say("paper.weight") + ": " + say.Quantity(list.Weight, "kg"))
		}
		for _, a := range list.Unplaced {
			p.small(say.Say("materials.unplanned", "name", a.Name))
		}
	}
	if len(lists.Parts) > 0 {
		p.head(say.Say("paper.tools"))
		kits(p, say, lists.Parts[0].Purchase)
		p.small(say.Say("kit.defer"))
	}
	return p.write(w)
}

func purchaseRows(say words.Speaker, list purchase.List) [][]string {
	rows := [][]string{}
	for _, line := range list.Lines {
		cells := []string{purchase.Name(say, line) + " (" + say.Say("product."+line.Role) + ")", say.Say("paper.missing"), "", purchase.PacksOf(line), "", ""}
		if line.Need != nil {
			cells[1], cells[4] = say.Quantity(line.Left, line.Unit), say.Quantity(line.Leftover, line.Unit)
		}
		if line.InStock > 0 {
			cells[2] = say.Quantity(line.InStock, line.Unit)
		}
		if line.Cost != nil {
			cells[5] = say.Money(*line.Cost)
		}
		rows = append(rows, cells)
	}
	return rows
}

// kits lists tools, gear and cleaning by stage, each with a box to tick.
func kits(p *paper, say words.Speaker, list site.Purchase) {
	seen := map[string]bool{}
	for _, kit := range list.Stages {
		var lines []string
		for _, part := range []struct {
			prefix string
			names  []string
		}{{"tool.", kit.Tools}, {"gear.", kit.Gear}, {"cleaning.", kit.Cleaning}} {
			for _, name := range part.names {
				if key := kit.Title + part.prefix + name; !seen[key] {
					seen[key] = true
					lines = append(lines, "[  ] "+say.Say(part.prefix+name))
				}
			}
		}
		if len(lines) > 0 {
			p.sub(kit.Title)
			p.text(strings.Join(lines, "     "))
		}
	}
}

// Offer is an estimate as it goes to the client.
type Offer struct {
	site.Estimate
	Job        string
	Client     string
	Letterhead []string
	At         time.Time
	Sample     bool
	Say        words.Speaker
}

// WriteEstimate writes an estimate as PDF, under one's own letterhead.
func WriteEstimate(w io.Writer, o Offer) error {
	say := o.Say
	title := say.Say("paper.estimate")
	p := newPaper(title, o.At, func(p *paper) { p.letterhead(o.Letterhead) }, (*paper).foot)
	p.font("B", titlePt)
	p.MultiCell(0, titlePt*leading, title, "", "L", false)
	p.Ln(2)
	p.text(o.Job)
	if o.Client != "" {
		p.text(o.Client)
	}
	var names []string
	for _, a := range o.Areas {
		names = append(names, a.Name)
	}
	if len(names) > 0 {
		p.text(say.Say("paper.areas") + ": " + say.List(names) + ", " + say.Quantity(o.Area, "m2"))
	}
	if o.Sample {
		p.warn(say.Say("paper.sample"))
	}
	rows := [][]string{}
	for _, h := range o.Hours {
		rows = append(rows, []string{say.Say("work." + h.Work), say.Fixed(h.Hours, 2), say.Money(h.Cost)})
	}
	material := 0
	if o.Material != nil {
		material = *o.Material
	}
	rows = append(rows,
		[]string{say.Say("ask.estimate.material"), "", say.Money(material + o.Markup)},
		[]string{say.Say("ask.estimate.allowance"), "", say.Money(o.Allowance)},
		[]string{say.Say("ask.estimate.tax"), "", say.Money(o.Tax)},
		[]string{say.Say("paper.to_buy.total"), "", say.Money(o.Total)})
	p.table([]column{{say.Say("paper.work"), 50, false}, {say.Say("paper.hours"), 20, true}, {say.Say("paper.cost"), 20, true}}, rows)
	p.small(say.Say("paper.estimate.waste", "percent", o.Waste))
	p.small(say.Say("paper.estimate.is", "day", say.Date(o.At)))
	return p.write(w)
}

// top names a document and its job on every page.
func (p *paper) top(title, job string) {
	p.SetXY(marginLeft, 11)
	p.font("B", smallPt+1)
	p.CellFormat(textWide/2, 5, title, "", 0, "L", false, 0, "")
	p.CellFormat(textWide/2, 5, job, "", 0, "R", false, 0, "")
	p.SetXY(marginLeft, marginTop)
}

// letterhead writes one's own lines at the head of every page.
func (p *paper) letterhead(lines []string) {
	const most = 4
	p.SetXY(marginLeft, 9)
	for i, line := range lines {
		if i == most {
			break
		}
		style := ""
		if i == 0 {
			style = "B"
		}
		p.font(style, smallPt+1)
		p.CellFormat(textWide, 3.6, line, "", 1, "L", false, 0, "")
	}
	p.SetXY(marginLeft, marginTop+2)
}

// foot numbers the pages.
func (p *paper) foot() {
	p.SetXY(marginLeft, pageTall-14)
	p.font("", smallPt)
	p.CellFormat(textWide, 5, strconv.Itoa(p.PageNo())+" / {nb}", "", 0, "R", false, 0, "")
}
