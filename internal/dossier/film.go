package dossier

import (
	"dusha/core/logbook"
	"dusha/draw"
)

// film shows each coat with its readings where they were taken, and the buckets it was laid
// from.
func (d *dossier) film() {
	d.head(d.Say("paper.coats"))
	if len(d.Look.Coats) == 0 {
		d.text(d.Say("paper.no_coats"))
		return
	}
	for i := range d.Look.Coats {
		coat := d.Look.Coats[i]
		d.sub(d.Say("paper.coat_n", "n", coat.Number, "used", coat.Used, "need", coat.Need))
		if coat.Used == 0 {
			d.text(d.Say("paper.not_laid"))
			continue
		}
		d.space(5) // flags of readings stand out over the drawing
		d.net(draw.NetInputs{Area: *d.Look.Geometry, Shown: draw.Shown{Layers: []string{"coat", "film"}}, Lying: draw.Lying{Coat: &coat}})
		d.surfaces(coat)
		d.batches(coat.Step)
	}
}

func (d *dossier) surfaces(coat logbook.CoatLook) {
	var rows [][]string
	for _, s := range coat.Surfaces {
		says := d.Say("film.says." + s.Film.Says)
		if !s.Laid {
			says = d.Say("film.not_laid")
		}
		rows = append(rows, []string{
			d.Place(s.Surface), d.Say("paper.of_asked", "n", s.Film.Count, "of", s.Asked), d.film2(s.Film.Mean), d.film2(s.Film.Least), d.film2(s.Dry), says,
		})
	}
	d.table([]column{
		{d.Say("paper.surface"), 3, false}, {d.Say("paper.readings"), 2, true}, {d.Say("paper.mean"), 2, true}, {d.Say("paper.lowest"), 2, true},
		{d.Say("paper.dry"), 2, true}, {d.Say("paper.verdict"), 3, false},
	}, rows)
}

func (d *dossier) film2(mm *float64) string {
	if mm == nil {
		return "–"
	}
	return d.Say("paper.mm", "mm", *mm)
}

func (d *dossier) batches(step string) {
	var rows [][]string
	for _, b := range d.Look.Batches {
		if b.Step != step {
			continue
		}
		parts := ""
		for i, part := range b.Parts {
			if i > 0 {
				parts += "; "
			}
			parts += d.Say("paper.part", "part", d.part(part.Part), "kg", part.Kg, "code", part.Code)
		}
		rows = append(rows, []string{number(b.Number), d.Time(b.Weighed), parts, d.Say("paper.temp", "temp", b.Temp), d.Moment(b.UseBy)})
	}
	if len(rows) > 0 {
		d.table([]column{{d.Say("paper.batch"), 1, false}, {d.Say("paper.weighed"), 3, false}, {d.Say("paper.parts"), 5, false}, {d.Say("paper.base"), 1.4, true}, {d.Say("paper.use_by"), 3, false}}, rows)
	}
}

// part names a part of the mix as the bucket card does.
func (d *dossier) part(id string) string {
	for _, b := range d.Look.Batches {
		for _, w := range b.Weigh {
			if w.Part == id {
				return w.Name
			}
		}
	}
	return id
}
