package dossier

// signatures shows who signed what, with the drawn line and what was seen.
func (d *dossier) signatures() {
	d.head(d.Say("paper.signatures"))
	if len(d.Look.Signatures) == 0 {
		d.text(d.Say("paper.not_signed"))
	}
	const wide, tall = 62.0, 24.0
	for _, s := range d.Look.Signatures {
		d.sub(d.stepTitle(s.Step))
		d.need(tall + 4)
		top := d.GetY()
		d.SetLineWidth(0.15)
		d.Rect(marginLeft, top, wide, tall, "D")
		d.SetLineWidth(0.5)
		for _, stroke := range s.Line {
			d.stroke(stroke, marginLeft, top, wide, tall)
		}
		d.SetXY(marginLeft+wide+6, top)
		text := d.Say("paper.signed", "who", d.name(s.Person), "at", s.At)
		if d.name(s.Person) != s.Role {
			text += "\n" + s.Role
		}
		if s.Says != "" {
			text += "\n" + d.Say("paper.signed_on", "finding", d.Say("test.finding."+s.Says))
		}
		d.font("", textPt)
		d.SetLeftMargin(marginLeft + wide + 6)
		d.MultiCell(textWide-wide-6, textPt*leading, text, "", "L", false)
		d.SetFont("mono", "", 6)
		d.MultiCell(textWide-wide-6, 3, d.Say("paper.seen", "seen", s.Seen), "", "L", false)
		d.SetLeftMargin(marginLeft)
		d.SetXY(marginLeft, top+tall+2)
	}
}

// signatureSide is the field that a signature is drawn in: 0 to 1000 both ways.
const signatureSide = 1000.0

func (d *dossier) stroke(points [][2]int, left, top, wide, tall float64) {
	for i, point := range points {
		x, y := left+float64(point[0])/signatureSide*wide, top+float64(point[1])/signatureSide*tall
		if i == 0 {
			d.MoveTo(x, y)
		} else {
			d.LineTo(x, y)
		}
	}
	if len(points) > 1 {
		d.DrawPath("D")
	}
}
