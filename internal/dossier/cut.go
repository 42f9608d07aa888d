package dossier

import (
	"io"
	"strings"
	"time"

	"dusha/core/cutting"
	"dusha/core/site"
	"dusha/core/takeoff"
	"dusha/draw"
	"dusha/internal/words"
)

// Sizes of the cut card: to be read on the floor beside the roll.
const (
	cardLabelPt, cardLengthPt, cardPlacePt, cardNotePt = 26, 22, 13, 10
	cardRow                                            = 13.0 // mm
	cardRollTall                                       = 18.0
)

// cardSteps are searched for a product whose plan was not kept.
const cardSteps = 200_000

// WriteCutCard writes the rolls of an area with their pieces in large type, black on white: a roll,
// then a line a piece, with a box to tick.
func WriteCutCard(w io.Writer, layout site.Layout, say words.Speaker, at time.Time) error {
	title := say.Say("paper.cut")
	p := newPaper(title, at, func(p *paper) { p.top(title, layout.Name) }, (*paper).foot)
	if layout.Sample {
		p.warn(say.Say("paper.sample"))
	}
	p.text(say.Say("paper.cut.legend"))
	if len(layout.Lists) == 0 {
		p.text(say.Say("cut.none"))
	}
	for _, list := range layout.Lists {
		p.head(list.Name)
		work, err := workOf(list)
		if err != nil {
			p.text(say.Say("paper.missing"))
			continue
		}
		if list.Cut == nil {
			p.warn(say.Say("paper.cut.made"))
		}
		if !list.Clear {
			p.warn(say.Say("cut.laps_over"))
		}
		for i := range work.Rolls {
			p.cutRoll(say, list.CutList, work, i)
		}
	}
	return p.write(w)
}

// workOf is the plan that was kept, else one that is worked out now.
func workOf(list site.LayoutOne) (cutting.Work, error) {
	if list.Fault != nil {
		return cutting.Work{}, list.Fault
	}
	if list.Cut != nil {
		return list.Cut.Work, nil
	}
	cut, err := list.Bands.Solve(cardSteps, nil)
	if err != nil {
		return cutting.Work{}, err
	}
	return list.Start(cut.Plan), nil
}

// cutRoll writes one roll: to scale, then its pieces.
func (p *paper) cutRoll(say words.Speaker, list takeoff.CutList, work cutting.Work, i int) {
	roll := work.Rolls[i]
	key := "rolls.roll"
	if roll.Offcut >= 0 {
		key = "rolls.offcut"
	}
	p.need(cardRollTall + 3*cardRow)
	p.Ln(2)
	p.font("B", headPt)
	p.CellFormat(0, headPt*leading, say.Say(key, "roll", i+1, "length", float64(roll.Length), "rest", float64(roll.Rest)), "", 1, "L", false, 0, "")
	const viewWide = 1100
	d, err := draw.Rolls(draw.RollsInputs{Work: cutting.Work{Rolls: work.Rolls[i : i+1]}, Wants: list.Wants, View: draw.View{Width: viewWide, Height: 100}, Bare: true})
	if err == nil {
		p.drawing(d, textWide, d.Box.Height*textWide/viewWide, func(s draw.Say) string { return say.SayWith(s.Key, s.Args) })
	}
	for _, piece := range roll.Pieces {
		want := list.Wants[piece.Run]
		if piece.State == cutting.Spoilt {
			continue
		}
		p.need(cardRow + 1)
		x, y := marginLeft, p.GetY()
		p.tick(x, y+(cardRow-tickBox)/2, piece.State == cutting.IsCut)
		cell := func(x, wide float64, style string, pt float64, text string, dy float64) {
			p.SetXY(x, y+dy)
			p.font(style, pt)
			p.CellFormat(wide, pt*leading, text, "", 0, "L", false, 0, "")
		}
		cell(x+11, 26, "B", cardLabelPt, piece.Label, 0.6)
		cell(x+38, 40, "B", cardLengthPt, say.Say("paper.cut.of", "length", float64(piece.Length)), 1.6)
		cell(x+80, textWide-80, "", cardPlacePt, say.Say("cut.kind."+want.Kind)+" · "+say.Place(want.Place), 0.8)
		cell(x+80, textWide-80, "", cardNotePt, strings.Join(cutNotes(say, want, piece), " · "), 7.2)
		p.SetLineWidth(0.2)
		p.Line(marginLeft, y+cardRow, pageWide-marginRight, y+cardRow)
		p.SetXY(marginLeft, y+cardRow)
	}
}

// cutNotes say which part of its run a piece is, and what else it needs.
func cutNotes(say words.Speaker, want takeoff.Want, piece cutting.WorkPiece) []string {
	var notes []string
	if float64(piece.Length) < want.Length {
		notes = append(notes, say.Say("cut.part", "from", float64(piece.From), "to", float64(piece.To), "length", want.Length))
	}
	for _, note := range want.Notes {
		notes = append(notes, say.SayWith(note.Key, note.Args))
	}
	return notes
}
