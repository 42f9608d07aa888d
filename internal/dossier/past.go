package dossier

import (
	"bytes"

	"codeberg.org/go-pdf/fpdf"

	"dusha/core/logbook"
	"dusha/draw"
)

// past leads the document: why the work is done here, where water enters and shows, the leaks
// with what became of them, and what stops the area.
func (d *dossier) past() {
	l := d.Look
	if l.History != nil {
		d.head(d.Say("base.why"))
		var rows [][]string
		for _, line := range logbook.HistoryLines {
			if said := l.History.Answers[line]; said != "" {
				rows = append(rows, []string{d.Say("why." + line), said})
			}
		}
		d.table([]column{{d.Say("paper.asked"), 2, false}, {d.Say("paper.said"), 5, false}}, rows)
		if len(l.History.Path) > 0 && l.Geometry != nil {
			d.sub(d.Say("base.way"))
			d.net(draw.NetInputs{Area: *l.Geometry, Shown: draw.Shown{Layers: []string{"patches"}, Way: l.History.Path}, Lying: draw.Lying{Leaks: l.Leaks}})
		}
		d.photos(l.History.Photos)
	}
	if len(l.Leaks) > 0 {
		d.sub(d.Say("base.leaks"))
		var rows [][]string
		for i, leak := range l.Leaks {
			rows = append(rows, []string{number(i + 1), d.Place(leak.Surface), d.Say("base.leak."+leak.State) + ", " + d.signed(&leak.Found), d.plugged(leak), d.signed(leak.Dry)})
		}
		d.table([]column{{"", 1, false}, {d.Say("paper.surface"), 2, false}, {d.Say("paper.found"), 4, false}, {d.Say("base.leak.plugged"), 4, false}, {d.Say("base.leak.dry"), 3, false}}, rows)
	}
	for _, gate := range l.Gates {
		if gate.Hold {
			args := map[string]any{"place": gate.Place}
			for name, value := range gate.Args {
				args[name] = value
			}
			d.warn(d.SayWith(gate.Key, args) + ": " + d.SayWith(gate.Key+".lift", args) + ".")
		}
	}
}

func (d *dossier) signed(s *logbook.Signed) string {
	if s == nil {
		return "–"
	}
	return d.Moment(s.At) + ", " + d.name(s.By)
}

func (d *dossier) plugged(leak logbook.Leak) string {
	if leak.Plugged == nil {
		return "–"
	}
	return leak.Plugged.Note + ", " + d.signed(leak.Plugged)
}

// photos puts pictures on the page, two side by side; one that is not there is named.
func (d *dossier) photos(list []logbook.Photo) {
	const wide, tall, apart = 82.0, 62.0, 4.0
	placed := 0
	for _, photo := range list {
		jpeg, is := d.Photos[photo.ID]
		if !is {
			d.small(d.Say("paper.photo_missing", "hash", photo.Hash))
			continue
		}
		options := fpdf.ImageOptions{ImageType: "JPEG"}
		info := d.RegisterImageOptionsReader(photo.ID, options, bytes.NewReader(jpeg))
		if d.Err() || info == nil {
			d.ClearError()
			d.small(d.Say("paper.photo_missing", "hash", photo.Hash))
			continue
		}
		if placed%2 == 0 {
			d.need(tall + apart)
		}
		scale := min(wide/info.Width(), tall/info.Height())
		left := marginLeft + float64(placed%2)*(wide+apart)
		d.ImageOptions(photo.ID, left, d.GetY(), info.Width()*scale, info.Height()*scale, false, options, 0, "")
		placed++
		if placed%2 == 0 {
			d.SetY(d.GetY() + tall + apart)
		}
	}
	if placed%2 == 1 {
		d.SetY(d.GetY() + tall + apart)
	}
}
