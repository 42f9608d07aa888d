package dossier

import (
	"bytes"
	"io"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/goregular"
)

// Measures of the sheet, mm: A4 upright, with margins that a ring binder takes.
const (
	pageWide, pageTall = 210.0, 297.0
	marginLeft         = 22.0
	marginRight        = 14.0
	marginTop          = 24.0
	marginFoot         = 20.0
	textWide           = pageWide - marginLeft - marginRight
)

// Sizes of letters, pt.
const (
	titlePt, headPt, subPt, textPt, smallPt = 24, 14, 10.5, 9.5, 7.5
	leading                                 = 0.46 // mm a pt
)

// paper is a document under way: the writer, and where it stands on the page.
type paper struct {
	*fpdf.Fpdf
	section int
	ahead   []ahead
}

// ahead is what is written only together with what follows it: a heading never ends a page.
type ahead struct {
	tall  float64 // mm
	write func()
}

// newPaper begins a document. The same input makes the same bytes: dates are given, and the
// letters are copied because the library writes into them.
func newPaper(title string, at time.Time, header, footer func(*paper)) *paper {
	p := &paper{Fpdf: fpdf.New("P", "mm", "A4", "")}
	p.SetCreationDate(at)
	p.SetModificationDate(at)
	p.SetCatalogSort(true)
	p.SetProducer("Dusha", true)
	p.SetTitle(title, true)
	p.SetLang("en")
	p.AddUTF8FontFromBytes("go", "", bytes.Clone(goregular.TTF))
	p.AddUTF8FontFromBytes("go", "B", bytes.Clone(gobold.TTF))
	p.AddUTF8FontFromBytes("mono", "", bytes.Clone(gomono.TTF))
	p.SetMargins(marginLeft, marginTop, marginRight)
	p.SetAutoPageBreak(true, marginFoot)
	p.AliasNbPages("{nb}")
	p.SetHeaderFuncMode(func() { header(p) }, true)
	p.SetFooterFunc(func() { footer(p) })
	p.SetDrawColor(0, 0, 0)
	p.SetLineJoinStyle("miter")
	p.AddPage()
	return p
}

func (p *paper) write(w io.Writer) error {
	p.need(0)
	return p.Output(w)
}

// left is how many mm of the page are left for what comes now, under the headings that wait for it.
func (p *paper) left() float64 {
	mm := pageTall - marginFoot - p.GetY()
	for _, each := range p.ahead {
		mm -= each.tall
	}
	return mm
}

// need begins a new page where less than so many mm are left, and writes the headings that wait for
// what comes now.
func (p *paper) need(mm float64) {
	left, ahead := p.left(), p.ahead
	p.ahead = nil // a new page writes its own head
	if mm > left {
		p.AddPage()
	}
	for _, each := range ahead {
		each.write()
	}
}

// space leaves mm free before what follows.
func (p *paper) space(mm float64) { p.ahead = append(p.ahead, ahead{mm, func() { p.Ln(mm) }}) }

func (p *paper) font(style string, pt float64) { p.SetFont("go", style, pt) }

// head begins a section: its number, its name, and a thick rule.
func (p *paper) head(text string) {
	const above, below = 7.0, 1.5
	p.ahead = append(p.ahead, ahead{above + headPt*leading + below, func() {
		p.section++
		p.Ln(5)
		p.SetLineWidth(0.9)
		p.Line(marginLeft, p.GetY(), pageWide-marginRight, p.GetY())
		p.Ln(2)
		p.font("B", headPt)
		p.Bookmark(text, 0, -1)
		p.CellFormat(9, headPt*leading, number(p.section), "", 0, "L", false, 0, "")
		p.CellFormat(0, headPt*leading, text, "", 1, "L", false, 0, "")
		p.Ln(below)
	}})
}

func (p *paper) sub(text string) {
	const above, below = 2.0, 0.8
	p.font("B", subPt)
	lines := float64(len(p.SplitText(text, textWide)))
	p.ahead = append(p.ahead, ahead{above + lines*subPt*leading + below, func() {
		p.Ln(above)
		p.font("B", subPt)
		p.MultiCell(0, subPt*leading, text, "", "L", false)
		p.Ln(below)
	}})
}

// Lines of a text that stay together at least.
const fewLines = 2

func (p *paper) text(text string) {
	p.need(fewLines * textPt * leading)
	p.font("", textPt)
	p.MultiCell(0, textPt*leading, text, "", "L", false)
	p.Ln(0.6)
}

// loud writes what a document says above all.
func (p *paper) loud(text string) {
	p.need(headPt*leading + 1)
	p.font("B", headPt)
	p.MultiCell(0, headPt*leading+1, text, "", "L", false)
}

func (p *paper) small(text string) {
	p.need(fewLines * smallPt * leading)
	p.font("", smallPt)
	p.MultiCell(0, smallPt*leading, text, "", "L", false)
	p.Ln(0.4)
}

// warn writes what must not be missed: bold, with a thick bar beside it.
func (p *paper) warn(text string) {
	p.need(12)
	top := p.GetY()
	p.SetX(marginLeft + 4)
	p.font("B", textPt)
	p.MultiCell(textWide-4, textPt*leading, text, "", "L", false)
	p.Rect(marginLeft, top, 1.8, p.GetY()-top, "F")
	p.Ln(1.2)
}

// column is one column of a table: its heading, its share of the width, and whether its
// entries are numbers, which stand at the right.
type column struct {
	head   string
	share  float64
	number bool
}

// table writes rows under headings, parted by rules; a row is never torn over two pages,
// and the headings come again on each.
func (p *paper) table(columns []column, rows [][]string) {
	total := 0.0
	for _, c := range columns {
		total += c.share
	}
	heads := make([]string, len(columns))
	for i, c := range columns {
		heads[i] = c.head
	}
	header := func() {
		p.font("B", smallPt+0.5)
		p.row(columns, heads, total, 0.5)
	}
	p.font("", smallPt+1)
	first := cellLine
	if len(rows) > 0 {
		first = p.tall(columns, rows[0], total)
	}
	p.need(p.tall(columns, heads, total) + first)
	header()
	for _, cells := range rows {
		p.font("", smallPt+1)
		if p.GetY()+p.tall(columns, cells, total) > pageTall-marginFoot {
			p.AddPage()
			header()
			p.font("", smallPt+1)
		}
		p.row(columns, cells, total, 0.15)
	}
	p.Ln(2)
}

const (
	cellPad  = 1.4 // mm between columns
	cellLine = (smallPt + 1) * leading
)

func (p *paper) lines(columns []column, cells []string, total float64) [][]string {
	lines := make([][]string, len(columns))
	for i, c := range columns {
		if cells[i] != "" {
			lines[i] = p.SplitText(cells[i], textWide*c.share/total-cellPad)
		}
	}
	return lines
}

func (p *paper) tall(columns []column, cells []string, total float64) float64 {
	most := 1
	for _, l := range p.lines(columns, cells, total) {
		most = max(most, len(l))
	}
	return float64(most)*cellLine + 1.6
}

func (p *paper) row(columns []column, cells []string, total, rule float64) {
	tall, lines := p.tall(columns, cells, total), p.lines(columns, cells, total)
	x, y := marginLeft, p.GetY()
	for i, c := range columns {
		wide := textWide * c.share / total
		align := "L"
		if c.number {
			align = "R"
		}
		for k, line := range lines[i] {
			p.SetXY(x, y+0.8+float64(k)*cellLine)
			p.CellFormat(wide-cellPad, cellLine, line, "", 0, align, false, 0, "")
		}
		x += wide
	}
	p.SetLineWidth(rule)
	p.Line(marginLeft, y+tall, pageWide-marginRight, y+tall)
	p.SetXY(marginLeft, y+tall)
}
