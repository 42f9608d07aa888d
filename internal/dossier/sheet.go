package dossier

import (
	"io"
	"strings"
	"time"

	"dusha/core/ask"
	"dusha/core/sheet"
	"dusha/internal/words"
)

// WriteSheet writes a data sheet to be read: each figure as it is printed, in a sheet's own order.
func WriteSheet(w io.Writer, of sheet.Sheet, say words.Speaker, at time.Time) error {
	title := say.Say("sheet.title")
	p := newPaper(title, at, func(p *paper) { p.top(title, of.Name) }, (*paper).foot)
	p.head(of.Name)
	p.small(strings.Join(notEmpty([]string{say.Say("product." + of.Is()), of.Revision, of.Printed, of.Language}), " · "))
	if of.Sample {
		p.warn(say.Say("paper.sample"))
	}
	form, _ := sheet.Read(of, of.ID, of.Typed())
	group := ""
	var rows [][]string
	flush := func() {
		if len(rows) > 0 {
			p.sub(say.Say("sheet.group." + group))
			p.table([]column{{say.Say("paper.figure"), 60, false}, {say.Say("sheet.as_printed"), 40, false}}, rows)
		}
		rows = nil
	}
	for _, q := range form.Questions {
		own, is := q.Args["group"].(string)
		if !is || q.Typed == "" || q.Typed == ask.NotStated {
			continue
		}
		if own != group {
			flush()
			group = own
		}
		text := q.Typed
		if q.Kind == "choice" {
			text = say.OptionOf(q.ID, q.Typed)
		}
		rows = append(rows, []string{say.Say("sheet." + q.ID), text})
	}
	flush()
	p.small(say.Say("care.defer"))
	return p.write(w)
}

// notEmpty are the texts that say something.
func notEmpty(texts []string) (list []string) {
	for _, text := range texts {
		if text != "" {
			list = append(list, text)
		}
	}
	return list
}
