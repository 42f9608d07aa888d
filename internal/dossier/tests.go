package dossier

import (
	"dusha/core/figure"
	"dusha/core/logbook"
	"dusha/draw"
)

// tests shows every water test, the one that counts first.
func (d *dossier) tests() {
	d.head(d.Say("paper.tests"))
	if d.Look.Test == nil {
		d.text(d.Say("paper.no_test"))
		return
	}
	d.test(d.Look.Test)
	for i := len(d.Look.Earlier) - 1; i >= 0; i-- {
		d.sub(d.Say("paper.earlier_test", "at", stamp(d.Look.Earlier[i].At)))
		d.test(&d.Look.Earlier[i])
	}
}

func (d *dossier) test(t *logbook.TestLook) {
	if t.Finding != "" {
		d.loud(d.finding(t))
		d.text(d.SayWith(t.Reason.Key, t.Reason.Args))
	} else {
		d.text(d.Say("test.finding"))
	}
	for _, note := range t.Notes {
		d.text(d.SayWith(note.Key, note.Args))
	}
	if t.Judged != nil {
		scale, err := draw.Scale(draw.ScaleInputs{Judged: *t.Judged, Limit: t.Chosen.Tolerance, Finding: t.Finding, View: draw.View{Width: 620, Height: 86}})
		if err == nil {
			d.drawing(scale, textWide, textWide*86/620, d.sayDrawn)
		}
		for _, line := range scale.Twin {
			d.text(d.sayDrawn(line))
		}
		chart, err := draw.Levels(draw.LevelsInputs{Test: *t, Now: d.Book.At, Offset: d.offset(t), View: draw.View{Width: 760, Height: 360}, Paper: true})
		if err == nil {
			d.drawing(chart, textWide, textWide*360/760, d.sayDrawn)
			d.small(d.Say("paper.chart"))
		}
	}
	d.figures(t.Figures)
	d.sub(d.Say("paper.test_plan"))
	d.figures(t.Plan)
	d.text(d.Say("paper.allowed", "by", t.Chosen.AllowedBy, "from", t.Chosen.AllowedFrom, "goes", t.Chosen.GoesTo, "pan", d.Say("test.pan."+t.Chosen.Pan)))
	d.readings(t)
	d.small(d.Say("test.doubt"))
}

// offset is local time at the test, minutes east of Greenwich.
func (d *dossier) offset(t *logbook.TestLook) int {
	_, seconds := t.At.In(d.Zone).Zone()
	return seconds / 60
}

func (d *dossier) figures(figures []figure.Figure) {
	var rows [][]string
	for _, f := range figures {
		value := d.Quantity(f.Value, f.Unit)
		if f.Low != nil && f.High != nil {
			value = d.Say("paper.between", "value", value, "low", d.Quantity(*f.Low, f.Unit), "high", d.Quantity(*f.High, f.Unit))
		}
		rows = append(rows, []string{d.SayWith(f.Name, f.Args), value})
	}
	if len(rows) > 0 {
		d.table([]column{{d.Say("paper.figure"), 1, false}, {d.Say("paper.value"), 1, true}}, rows)
	}
}

// readings lists every reading of every run.
func (d *dossier) readings(t *logbook.TestLook) {
	for _, run := range t.Runs {
		d.sub(d.Say("paper.run", "why", d.Say("test.filled."+run.Why), "at", stamp(run.At)))
		var rows [][]string
		for _, l := range run.Levels {
			pan := "–"
			if l.Pan != nil {
				pan = d.Say("paper.level", "mm", *l.Pan)
			}
			outside := d.Say("test.outside." + l.Outside)
			if l.Where != "" {
				outside += ": " + l.Where
			}
			rows = append(rows, []string{d.Time(l.At), d.Say("paper.level", "mm", l.Water), pan, outside, d.name(l.By)})
		}
		d.table([]column{{d.Say("paper.at"), 3, false}, {d.Say("paper.water"), 2, true}, {d.Say("paper.pan"), 2, true}, {d.Say("paper.outside"), 4, false}, {d.Say("paper.who"), 3, false}}, rows)
	}
}
