// Package purchase writes purchase lists: as CSV, as XLSX and on paper. Nothing is worked out here:
// the lines are the core's.
package purchase

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"dusha/core/site"
	"dusha/core/takeoff"
	"dusha/internal/words"
)

// List is one list: of the whole job, or of one area.
type List struct {
	For string // name of the area; "" for the whole job
	site.Purchase
}

// Lists are what is written: the whole job first, then each area.
type Lists struct {
	Job   string // name
	Parts []List
	Say   words.Speaker
}

// columns of a list, as keys of the wording.
var columns = []string{"paper.for", "paper.use", "paper.product", "paper.sheet", "paper.to_buy.need", "paper.unit", "paper.stock", "paper.packs", "paper.left", "paper.weight", "paper.cost"}

// heads name the columns, the cost's with its currency.
func heads(say words.Speaker) []string {
	texts := make([]string, len(columns))
	for i, key := range columns {
		texts[i] = say.Say(key)
	}
	last := len(texts) - 1
	texts[last] = strings.TrimSpace(texts[last] + " " + say.Currency)
	return texts
}

// row is a line as text; numbers have a point and no unit, so that a sheet can add them.
func row(say words.Speaker, list List, line takeoff.Shopping) []string {
	plain := func(v float64) string { return strconv.FormatFloat(round(v), 'f', -1, 64) }
	cells := []string{list.name(say), say.Say("product." + line.Role), Name(say, line), line.Revision, "", line.Unit, plain(line.InStock), PacksOf(line), plain(line.Leftover), plain(line.Weight), ""}
	if line.Need != nil {
		cells[4] = plain(line.Left)
	} else {
		cells[4] = say.Say("paper.missing")
	}
	if line.Cost != nil {
		cells[10] = strconv.FormatFloat(float64(*line.Cost)/100, 'f', 2, 64)
	}
	return cells
}

func round(v float64) float64 {
	rounded, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'f', 3, 64), 64)
	return rounded
}

func (l List) name(say words.Speaker) string {
	if l.For == "" {
		return say.Say("materials.all")
	}
	return l.For
}

// Name is the product as it is asked for over the counter.
func Name(say words.Speaker, line takeoff.Shopping) string {
	if line.Title == "" {
		return say.Say("product." + line.Role)
	}
	return line.Title
}

// PacksOf writes the packs to buy: "2 × 20 kg + 1 × 5 kg".
func PacksOf(line takeoff.Shopping) string {
	var packs []string
	for _, p := range line.Packs {
		packs = append(packs, strconv.Itoa(p.Count)+" × "+p.Says)
	}
	return strings.Join(packs, " + ")
}

// CSV writes all lists as one table, with a mark of the order of bytes so that office programs read
// it as UTF-8.
func CSV(w io.Writer, lists Lists) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	rows := [][]string{heads(lists.Say)}
	for _, list := range lists.Parts {
		for _, line := range list.Lines {
			rows = append(rows, safe(row(lists.Say, list, line)))
		}
	}
	return out.WriteAll(rows)
}

// safe keeps a cell from being read as a formula: what begins with one of = + - @ gets an
// apostrophe before it, unless it is a number.
func safe(cells []string) []string {
	for i, cell := range cells {
		if _, err := strconv.ParseFloat(cell, 64); err != nil && cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
			cells[i] = "'" + cell
		}
	}
	return cells
}

// XLSX writes a sheet for the whole job and one for each area; needs, weights and costs are numbers.
func XLSX(w io.Writer, lists Lists) error {
	book := excelize.NewFile()
	defer book.Close()
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}, Border: []excelize.Border{{Type: "bottom", Color: "000000", Style: 2}}})
	if err != nil {
		return err
	}
	used := map[string]bool{}
	for i, list := range lists.Parts {
		name := sheetName(list.name(lists.Say), used)
		if i == 0 {
			err = book.SetSheetName("Sheet1", name)
		} else {
			_, err = book.NewSheet(name)
		}
		if err != nil {
			return err
		}
		if err := fill(book, lists.Say, name, list, bold); err != nil {
			return err
		}
	}
	return book.Write(w)
}

func fill(book *excelize.File, say words.Speaker, name string, list List, bold int) error {
	top := 1
	set := func(column, row int, value any) error {
		cell, err := excelize.CoordinatesToCellName(column, row)
		if err != nil {
			return err
		}
		return book.SetCellValue(name, cell, value)
	}
	if list.Sample {
		if err := set(1, top, say.Say("paper.sample")); err != nil {
			return err
		}
		top++
	}
	for i, head := range heads(say) {
		if err := set(i+1, top, head); err != nil {
			return err
		}
	}
	if err := book.SetRowStyle(name, top, top, bold); err != nil {
		return err
	}
	for k, line := range list.Lines {
		for i, cell := range row(say, list, line) {
			var value any = cell
			if n, err := strconv.ParseFloat(cell, 64); err == nil && i >= 4 {
				value = n
			}
			if err := set(i+1, top+1+k, value); err != nil {
				return err
			}
		}
	}
	widths := map[string]float64{"A": 22, "B": 18, "C": 40, "D": 14, "H": 26}
	for column, width := range widths {
		if err := book.SetColWidth(name, column, column, width); err != nil {
			return err
		}
	}
	return nil
}

// sheetName is a name that a workbook takes: 31 characters at most, none of []:*?/\, each once.
func sheetName(name string, used map[string]bool) string {
	const most = 31
	clean := strings.Map(func(r rune) rune {
		if strings.ContainsRune(`[]:*?/\'`, r) {
			return '-'
		}
		return r
	}, name)
	cut := func(text string, n int) string {
		runes := []rune(text)
		if len(runes) > n {
			return string(runes[:n])
		}
		return text
	}
	clean = cut(clean, most)
	if clean == "" {
		clean = "-"
	}
	for n, base := 2, clean; used[strings.ToLower(clean)]; n++ {
		ending := " " + strconv.Itoa(n)
		clean = cut(base, most-len(ending)) + ending
	}
	used[strings.ToLower(clean)] = true
	return clean
}
