package dossier

import (
	"io"
	"strings"
	"time"

	"dusha/core/site"
	"dusha/internal/words"
)

// Sizes of a day card: to be read at arm's length, with gloves on.
const (
	dayTimePt, dayTitlePt, dayNotePt = 20, 15, 11
	dayRow                           = 15.0 // mm
)

// WriteDays writes the days of a crew by the accepted plan, a line a step with a box to tick: when, what, where, until when it
// had to begin, and what is carried there. Of all crews it is the week for the wall.
func WriteDays(w io.Writer, cards site.DayCards, say words.Speaker, at time.Time) error {
	title := say.Say("paper.days")
	if cards.Crew == "" {
		title = say.Say("paper.week")
	}
	p := newPaper(title, at, func(p *paper) { p.top(title, cards.Name) }, (*paper).foot)
	if len(cards.Cards) == 0 {
		p.text(say.Say("days.none_left"))
	}
	last := ""
	for _, card := range cards.Cards {
		if day := say.Say("days.day", "at", card.Start.Format(time.RFC3339)); day != last {
			p.head(day)
			last = day
		}
		p.dayCard(say, card, cards.Crew == "")
	}
	p.small(say.Say("care.defer"))
	return p.write(w)
}

// dayCard is one step.
func (p *paper) dayCard(say words.Speaker, card site.DayCard, all bool) {
	var notes []string
	add := func(is bool, text string) {
		if is {
			notes = append(notes, text)
		}
	}
	add(all && card.Crew != "", card.Crew)
	add(card.Crew == "", say.Say("days.alone"))
	add(card.Hold, say.Say("hold.shut"))
	add(!card.Shuts.IsZero(), say.Say("days.shuts")+" "+say.Say("axis.clock", "at", card.Shuts.Format(time.RFC3339)))
	for _, m := range card.Carry {
		add(m.Need > 0, m.Title+" "+say.Say("paper.days.amount", "n", m.Need, "unit", m.Unit))
	}
	tall := dayRow
	p.font("", dayNotePt)
	note := strings.Join(notes, " · ")
	lines := p.SplitText(note, textWide-52)
	tall += max(0, float64(len(lines)-1)) * dayNotePt * leading
	p.need(tall + 1)
	x, y := marginLeft, p.GetY()
	p.tick(x, y+4, card.Done)
	p.SetXY(x+11, y+1)
	p.font("B", dayTimePt)
	p.CellFormat(38, dayTimePt*leading, say.Say("axis.clock", "at", card.Start.Format(time.RFC3339)), "", 0, "L", false, 0, "")
	p.SetXY(x+52, y+1)
	p.font("B", dayTitlePt)
	p.CellFormat(textWide-52, dayTitlePt*leading, card.Title+", "+card.Area, "", 0, "L", false, 0, "")
	p.SetXY(x+11, y+1+dayTimePt*leading)
	p.font("", dayNotePt)
	p.CellFormat(38, dayNotePt*leading, "– "+say.Say("axis.clock", "at", card.End.Format(time.RFC3339)), "", 0, "L", false, 0, "")
	for i, line := range lines {
		p.SetXY(x+52, y+1.5+dayTitlePt*leading+float64(i)*dayNotePt*leading)
		p.CellFormat(textWide-52, dayNotePt*leading, line, "", 0, "L", false, 0, "")
	}
	p.SetLineWidth(0.2)
	p.Line(marginLeft, y+tall, pageWide-marginRight, y+tall)
	p.SetXY(marginLeft, y+tall)
}

// tickBox is the side of a box to tick, mm.
const tickBox = 7.0

// tick is a box to tick; ticked where it is done.
func (p *paper) tick(x, y float64, done bool) {
	p.SetLineWidth(0.7)
	p.Rect(x, y, tickBox, tickBox, "D")
	if done {
		p.Line(x, y, x+tickBox, y+tickBox)
		p.Line(x, y+tickBox, x+tickBox, y)
	}
}
