package dossier

import (
	"io"
	"maps"
	"slices"
	"strings"
	"time"

	"dusha/core/site"
	"dusha/core/system"
	"dusha/draw"
	"dusha/internal/words"
)

// sectionTall is how large the section through a build-up stands on its page, px of the drawing and mm.
const sectionWide, sectionTall, sectionMM = 760.0, 340.0, 80.0

// WriteSystem writes a system to be read: its section, what each layer is and how much of it, the order of the work with its
// waits, and how it is worked, each matter with its reason.
func WriteSystem(w io.Writer, page site.SystemPage, say words.Speaker, at time.Time) error {
	of := page.System
	title := say.Say("paper.system_page")
	p := newPaper(title, at, func(p *paper) { p.top(title, of.Name) }, (*paper).foot)
	p.head(of.Name)
	p.small(say.Say("paper.revision", "revision", of.Revision))
	for _, printing := range page.Sheets {
		if of.Sample || printing.Sample {
			p.warn(say.Say("paper.sample"))
			break
		}
	}
	d, err := draw.Section(draw.SectionInputs{Layers: page.Build, View: draw.View{Width: sectionWide, Height: sectionTall}})
	if err != nil {
		return err
	}
	p.need(sectionMM)
	p.drawing(d, textWide, sectionMM, func(s draw.Say) string { return say.SayWith(s.Key, s.Args) })
	p.head(say.Say("editor.section"))
	p.table([]column{{say.Say("paper.product"), 34, false}, {say.Say("editor.place"), 26, false}, {say.Say("editor.coats"), 10, true}, {say.Say("editor.target"), 30, false}}, layerRows(say, page))
	p.head(say.Say("system.order"))
	for _, stage := range page.Order.Stages {
		p.sub(stage.Title)
		for _, step := range stage.Steps {
			if step.Mends != "" {
				p.small(step.Title + ", " + say.Say("system.mends"))
				continue
			}
			for _, link := range step.After {
				if line := waitLine(say, page, link); line != "" {
					p.small(line)
				}
			}
			text := step.Title
			if step.Hold() {
				text += " (" + say.Say("hold.shut") + ")"
			}
			p.text(text)
		}
	}
	p.head(say.Say("school.title"))
	writeWays(p, say, of.AllWays())
	p.small(say.Say("care.defer"))
	return p.write(w)
}

// layerRows are the layers from the top down: what it is, where it lies, how often, and how much.
func layerRows(say words.Speaker, page site.SystemPage) [][]string {
	rows := [][]string{}
	for _, l := range slices.Backward(page.System.Layers) {
		product, _ := page.System.ProductOf(l.Product)
		name := say.Say("product." + product.Role)
		if printing, is := page.Sheets[l.Product]; is {
			name += ", " + printing.Name
		}
		if l.In != "" {
			name += " (" + say.Say("editor.optional.is") + ")"
		}
		var places []string
		for _, where := range l.Where {
			if place := say.Say("editor.on." + where.On); !slices.Contains(places, place) {
				places = append(places, place)
			}
		}
		for _, c := range l.Carries {
			carried, _ := page.System.ProductOf(c.Product)
			places = append(places, say.Say("product."+carried.Role))
		}
		amount := ""
		if len(l.Coats) > 0 && l.Coats[0].Target != nil {
			amount = figureLine(say, page, l.Coats[0].Target.Figure, "")
		}
		rows = append(rows, []string{name, strings.Join(places, ", "), say.Say("paper.number", "n", float64(len(l.Coats))), amount})
	}
	return rows
}

// figureLine is a figure as its sheet prints it, or as who laid out the system says it.
func figureLine(say words.Speaker, page site.SystemPage, f *system.Figure, at string) string {
	if f == nil {
		return ""
	}
	if f.Of == "" {
		return f.Says
	}
	key, name := f.Product()
	line := say.Say("sheet." + name + at)
	if said := page.Sheets[key].Numbers[name+at].Says; said != "" {
		return line + ": " + said
	}
	return line
}

// waitLine is what a step waits for, in words; "" where it only follows.
func waitLine(say words.Speaker, page site.SystemPage, link system.Link) string {
	after, there := page.Order.Step(link.Step)
	if !there {
		return ""
	}
	var parts []string
	for _, f := range []*system.Figure{link.Least, link.Latest} {
		if line := figureLine(say, page, f, "_20"); line != "" {
			parts = append(parts, line)
		}
	}
	if len(parts) == 0 {
		return ""
	}
	return say.Say("editor.wait", "after", after.Title, "what", strings.Join(parts, "; "))
}

// writeWays says how a system is worked, each matter with its reason.
func writeWays(p *paper, say words.Speaker, ways map[string]string) {
	for _, name := range slices.Sorted(maps.Keys(ways)) {
		way := "school." + name + "." + ways[name]
		p.text(say.Say("school."+name) + ": " + say.Say(way) + ". " + say.Say(way+".why"))
	}
}
