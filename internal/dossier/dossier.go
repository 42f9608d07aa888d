// Package dossier writes what a wet area's book says as a document that a tiler, a client or
// an inspector reads on paper, in black and white: what was asked, what was done, what was
// read, how the water test went, and every deviation. Nothing is worked out here: it says
// what the core's fold says.
package dossier

import (
	"cmp"
	"io"
	"strconv"
	"strings"
	"time"

	"dusha/core/logbook"
	"dusha/draw"
	"dusha/internal/words"
)

// Book is what a dossier is written from.
type Book struct {
	Look    logbook.Look
	Names   map[string]string // of people, by id
	Hash    string            // of the area's last entry, hex
	Entries int               // in the area's book
	Last    time.Time         // when the last entry was received
	At      time.Time         // the moment the look is of
	Photos  map[string][]byte // JPEG by id, of those that are kept
}

// dossier is a document under way.
type dossier struct {
	Book
	words.Speaker
	*paper
}

// Write writes the dossier as PDF. The same book makes the same bytes.
func Write(w io.Writer, b Book) error {
	d := &dossier{Book: b, Speaker: words.Of(b.Look.Job.TimeZone, b.Look.Job.Papers)}
	d.paper = newPaper(d.Say("paper.of", "area", b.Look.Name), b.Last, d.header, d.footer)
	d.opening()
	d.past()
	d.scope()
	d.plan()
	d.work()
	d.film()
	d.waits()
	d.tests()
	d.deviations()
	d.signatures()
	return d.paper.write(w)
}

func number(n int) string { return strconv.Itoa(n) }

func (d *dossier) name(person string) string {
	if name := d.Names[person]; name != "" {
		return name
	}
	for _, p := range d.Look.Job.People {
		if p.ID == person {
			return p.Role
		}
	}
	return d.Say("paper.unknown_person")
}

// header names the area on every page, and says where figures are samples.
func (d *dossier) header(p *paper) {
	p.SetXY(marginLeft, 10)
	p.font("B", textPt)
	p.CellFormat(110, 6, d.Look.Name, "", 0, "L", false, 0, "")
	if d.Look.Sample {
		p.SetLineWidth(0.5)
		p.Rect(pageWide-marginRight-62, 9, 62, 8, "D")
		p.SetXY(pageWide-marginRight-62, 9)
		p.font("B", textPt)
		p.CellFormat(62, 8, d.Say("sample"), "", 0, "C", false, 0, "")
	}
	p.SetLineWidth(0.15)
	p.Line(marginLeft, 19, pageWide-marginRight, 19)
}

func (d *dossier) footer(p *paper) {
	p.SetLineWidth(0.15)
	p.Line(marginLeft, pageTall-15, pageWide-marginRight, pageTall-15)
	p.SetXY(marginLeft, pageTall-14)
	p.SetFont("mono", "", 6.5)
	p.CellFormat(textWide-24, 4, d.Say("paper.hash", "hash", d.Hash), "", 0, "L", false, 0, "")
	p.font("", smallPt)
	p.CellFormat(24, 4, d.Say("paper.page", "n", p.PageNo(), "of", "{nb}"), "", 0, "R", false, 0, "")
}

// opening is the first page: what this is, and where the area stands.
func (d *dossier) opening() {
	l := d.Look
	d.font("B", titlePt)
	d.MultiCell(0, titlePt*leading, l.Name, "", "L", false)
	d.Ln(1)
	d.text(d.Say("paper.head", "job", l.Job.Name, "at", stamp(d.At)))
	if l.Sample {
		d.warn(d.Say("paper.sample"))
	}
	if l.Job.Demo {
		d.warn(d.Say("jobs.demo"))
	}
	d.sub(d.Say("paper.stands"))
	if l.Test != nil && l.Test.Finding != "" {
		d.loud(d.Say("paper.test_says", "finding", d.finding(l.Test)))
		d.text(d.SayWith(l.Test.Reason.Key, l.Test.Reason.Args))
	}
	if l.Next.State == "finished" {
		d.text(d.Say("next.finished"))
	} else {
		d.warn(d.Say("paper.unfinished", "next", d.stepTitle(l.Next.Step)))
	}
	if l.System != nil {
		for _, each := range l.System.Answered {
			d.warn(d.Say("paper.answered."+each.Does, "title", each.Title, "reason", each.Reason, "who", d.name(each.Person)))
		}
	}
	switch n := len(l.Deviations); {
	case n == 0 && len(l.Withdrawn) == 0:
		d.text(d.Say("deviation.none"))
	default:
		d.warn(d.Say("paper.deviations", "n", n, "withdrawn", len(l.Withdrawn)))
	}
	d.small(d.Say("paper.entries", "n", d.Entries, "at", stamp(d.Last)))
	d.small(d.Say("paper.defers"))
}

func stamp(at time.Time) string { return at.UTC().Format(time.RFC3339) }

func (d *dossier) finding(t *logbook.TestLook) string {
	text := d.Say("test.finding." + t.Finding)
	if t.SoFar {
		text += " " + d.Say("test.sofar")
	}
	return text
}

func (d *dossier) stepTitle(id string) string {
	for _, stage := range d.Look.Stages {
		for _, step := range stage.Steps {
			if step.ID == id {
				return step.Title
			}
		}
	}
	return id
}

// scope is what was surveyed: every surface with its size, and the unfolded area.
func (d *dossier) scope() {
	d.head(d.Say("paper.scope"))
	l := d.Look
	if l.Geometry == nil {
		d.text(d.Say("paper.no_survey"))
		return
	}
	d.net(draw.NetInputs{Area: *l.Geometry, Shown: draw.Shown{Layers: []string{"dims"}}})
	var rows [][]string
	total := 0.0
	for _, s := range l.Geometry.Surfaces {
		total += s.Area
		rows = append(rows, []string{d.Place(s.ID), d.Say("paper.metres", "mm", s.Length), d.Say("paper.metres", "mm", s.Height), d.Say("drawing.area", "area", s.Area)})
	}
	rows = append(rows, []string{d.Say("paper.total"), "", "", d.Say("drawing.area", "area", total)})
	d.table([]column{{d.Say("paper.surface"), 3, false}, {d.Say("paper.length"), 2, true}, {d.Say("paper.height"), 2, true}, {d.Say("film.area"), 2, true}}, rows)
}

// net puts the unfolded area on the page.
func (d *dossier) net(in draw.NetInputs) {
	in.View = draw.View{Width: 760, Height: 470}
	drawn, err := draw.Net(in)
	if err != nil {
		return // a survey that cannot be drawn is said among the deviations
	}
	d.drawing(drawn, textWide, textWide*in.View.Height/in.View.Width, d.sayDrawn)
}

func (d *dossier) sayDrawn(s draw.Say) string { return d.SayWith(s.Key, s.Args) }

// plan is what was asked: the system, each coat, the pieces to bed.
func (d *dossier) plan() {
	d.head(d.Say("paper.plan"))
	l := d.Look
	if l.System == nil || l.Plan == nil {
		d.text(d.Say("paper.no_plan"))
		return
	}
	d.text(d.Say("paper.system", "name", l.System.Name, "texture", strings.ToLower(d.Say("texture."+l.System.Texture))))
	d.text(d.Say("paper.rules", "name", l.System.Rules.Name, "note", l.System.Rules.Note))
	var rows [][]string
	for _, c := range l.Plan.Coats {
		rows = append(rows, []string{number(c.Number), d.Say("paper.mm", "mm", c.Wet.Value), d.Say("paper.mm", "mm", c.Least.Value), d.Say("paper.kg", "kg", c.Need.Value)})
	}
	d.table([]column{{d.Say("paper.coat"), 1, false}, {d.Say("paper.target"), 2, true}, {d.Say("paper.least"), 2, true}, {d.Say("paper.need"), 2, true}}, rows)
	d.papers(l)
	d.ways()
	if len(l.Pieces) > 0 && l.Geometry != nil {
		d.sub(d.Say("paper.details"))
		d.net(draw.NetInputs{Area: *l.Geometry, Shown: draw.Shown{Layers: []string{"bands"}}, Lying: draw.Lying{Pieces: l.Pieces}})
		bedded := 0
		for _, piece := range l.Pieces {
			if piece.Bedded {
				bedded++
			}
		}
		d.text(d.Say("paper.bedded", "n", bedded, "of", len(l.Pieces)))
	}
}

// papers says by which printings the plan was made, and what is not tested with the system.
func (d *dossier) papers(l logbook.Look) {
	d.sub(d.Say("paper.printings"))
	var rows [][]string
	outside := 0
	for _, p := range l.System.Papers {
		note := ""
		if p.Outside {
			outside++
			note = d.Say("with.outside") + ": " + p.Reason + ", " + d.name(p.Person)
		}
		rows = append(rows, []string{d.Say("product." + p.Role), p.Name, cmp.Or(p.Revision, "–"), strings.TrimSpace(p.Printed + " " + p.Language), note})
	}
	d.table([]column{{d.Say("paper.use"), 2, false}, {d.Say("paper.product"), 4, false}, {d.Say("paper.sheet"), 2, false}, {d.Say("sheet.printed"), 2, false}, {"", 3, false}}, rows)
	if outside > 0 {
		d.warn(d.Say("plan.guarantee", "n", outside))
	}
	for _, m := range l.Plan.Mixed {
		d.text(d.Say("school.meets", "of", m.Of, "one", d.Say("school."+m.School+"."+m.One), "with", m.With, "other", d.Say("school."+m.School+"."+m.Other)) + " " + d.Say("school."+m.School+".mixed"))
	}
	for _, c := range l.Plan.Checks {
		verdict := "check.fine"
		if !c.Fine {
			verdict = "check.fails"
		}
		d.text(d.Place(c.Place) + ": " + d.SayWith("check."+c.Key, c.Args) + " " + d.Say(verdict) + ".")
	}
}

// work lists every step of the recipe with who did it and when.
func (d *dossier) work() {
	d.head(d.Say("paper.work"))
	var rows [][]string
	for _, stage := range d.Look.Stages {
		for _, step := range stage.Steps {
			rows = append(rows, []string{stage.Title, step.Title, d.state(step), d.whenAndWho(step)})
		}
	}
	d.table([]column{{d.Say("paper.stage"), 2, false}, {d.Say("paper.step"), 4, false}, {d.Say("paper.state"), 2, false}, {d.Say("paper.when_who"), 4, false}}, rows)
	d.laid()
}

func (d *dossier) state(step logbook.StepLook) string {
	switch {
	case step.Hold != "":
		return d.Say("paper.hold", "state", d.Say("hold."+step.Hold))
	case step.State == "done":
		return d.Say("step.done")
	}
	return d.Say("paper.not_done")
}

func (d *dossier) whenAndWho(step logbook.StepLook) string {
	text := d.Moment(step.Ended)
	if step.Began != step.Ended {
		text = d.Say("paper.from_to", "from", step.Began, "to", step.Ended)
	}
	if s := step.Signed; s != nil {
		text = d.Moment(s.At) + ", " + d.answers(*s)
		if s.Note != "" {
			text += ": " + s.Note
		}
	}
	if o := step.Override; o != nil {
		if text != "" {
			text += "; "
		}
		text += d.overridden(*o)
	}
	return text
}

// answers names who answers for a step: the person named, else who entered it.
func (d *dossier) answers(s logbook.Signed) string { return d.name(cmp.Or(s.Person, s.By)) }

func (d *dossier) overridden(s logbook.Signed) string {
	return d.Say("paper.overridden", "at", s.At, "who", d.answers(s), "reason", s.Note)
}

// waits says for each window whether it was kept, touched, or overridden, with the climate
// it was reckoned with.
func (d *dossier) waits() {
	d.head(d.Say("paper.waits"))
	var rows [][]string
	for _, w := range d.Look.Waits {
		rows = append(rows, []string{w.Title, d.Moment(w.Opened), d.Moment(w.Shut), d.Moment(w.Begun), d.kept(w)})
	}
	if len(rows) == 0 {
		d.text(d.Say("paper.no_waits"))
		return
	}
	d.table([]column{{d.Say("paper.step"), 3, false}, {d.Say("paper.opened"), 2.4, false}, {d.Say("paper.shut"), 2.4, false}, {d.Say("paper.begun"), 2.4, false}, {d.Say("paper.outcome"), 4, false}}, rows)
	rows = nil
	for _, c := range d.Look.Climate {
		rows = append(rows, []string{d.Time(c.When), d.Say("paper.temp", "temp", c.Base), d.Say("paper.temp", "temp", c.Temp), d.Say("paper.percent", "n", c.Humidity)})
	}
	if len(rows) > 0 {
		d.sub(d.Say("paper.climate"))
		d.table([]column{{d.Say("paper.at"), 3, false}, {d.Say("paper.base"), 2, true}, {d.Say("paper.air"), 2, true}, {d.Say("paper.rh"), 2, true}}, rows)
	}
}

func (d *dossier) kept(w logbook.WaitLook) string {
	text := ""
	add := func(key string, args ...any) {
		if text != "" {
			text += "; "
		}
		text += d.Say(key, args...)
	}
	switch {
	case w.Begun == "":
		add("paper.wait.open")
	case w.Overridden != nil:
		text = d.overridden(*w.Overridden)
	case !w.Known:
		add("paper.wait.unknown")
	case w.Kept:
		add("paper.wait.kept")
	default:
		add("paper.wait.not_kept")
	}
	if w.Remedied {
		add("paper.wait.remedied")
	}
	if len(w.Confirm) > 0 {
		switch {
		case w.Touch == nil:
			add("paper.touch.none")
		case w.Touch.Passed:
			add("paper.touch.passed", "at", stamp(w.Touch.When), "who", d.name(w.Touch.By))
		default:
			add("paper.touch.failed", "at", stamp(w.Touch.When), "who", d.name(w.Touch.By))
		}
	}
	return text
}

// deviations are what did not go by the book, and what was taken back.
func (d *dossier) deviations() {
	d.head(d.Say("paper.deviations.title"))
	l := d.Look
	if len(l.Deviations) == 0 {
		d.text(d.Say("deviation.none"))
	}
	var rows [][]string
	for _, each := range l.Deviations {
		rows = append(rows, []string{d.Moment(each.At), d.name(each.By), d.SayWith(each.Key, each.Args)})
	}
	for _, w := range l.Withdrawn {
		rows = append(rows, []string{d.Moment(w.At), d.name(w.By), d.Say("record.withdrawn", "kind", w.Kind, "reason", w.Reason)})
	}
	if len(rows) > 0 {
		d.table([]column{{d.Say("paper.at"), 3, false}, {d.Say("paper.who"), 3, false}, {d.Say("paper.what"), 8, false}}, rows)
	}
	if len(l.Conflicts) > 0 {
		d.warn(d.Say("paper.conflicts", "n", len(l.Conflicts)))
	}
}
