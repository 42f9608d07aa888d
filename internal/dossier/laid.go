package dossier

import (
	"dusha/core/logbook"
)

// laid lists what was laid beside the coats of the film, what was answered, and what a step asked for by name: permits, gas
// tests, people.
func (d *dossier) laid() {
	var works, answers [][]string
	for _, stage := range d.Look.Stages {
		for _, step := range stage.Steps {
			for _, w := range step.Works {
				if len(w.Lays) > 0 {
					works = append(works, d.laying(step, w))
				}
			}
			for _, r := range step.Replies {
				answers = append(answers, []string{step.Title, d.question(step, r.Question), d.reply(r), d.Moment(r.When.Format(rfc)) + ", " + d.name(r.By)})
			}
			if step.Dropped {
				answers = append(answers, []string{step.Title, step.OnlyIf.Line, d.Say("asks.dropped"), ""})
			}
		}
	}
	if len(works) > 0 {
		d.sub(d.Say("paper.laid"))
		d.table([]column{{d.Say("paper.step"), 3, false}, {d.Say("paper.material"), 4, false}, {d.Say("paper.places"), 2, true}, {d.Say("paper.used"), 2, true}, {d.Say("paper.need"), 2, true}, {d.Say("paper.when_who"), 3, false}}, works)
	}
	if len(answers) > 0 {
		d.sub(d.Say("paper.answers"))
		d.table([]column{{d.Say("paper.step"), 3, false}, {d.Say("paper.question"), 4, false}, {d.Say("paper.answer"), 3, false}, {d.Say("paper.when_who"), 3, false}}, answers)
	}
	for _, p := range d.Look.Permits {
		d.text(d.Say("paper.permit", "permit", p.Permit, "number", p.Number, "giver", p.Giver, "from", p.From.Format(rfc), "until", p.Until))
	}
	for _, g := range d.Look.GasTests {
		key := "paper.gas"
		if !g.Fine {
			key = "paper.gas_not_fine"
		}
		d.text(d.Say(key, "at", g.At.Format(rfc), "oxygen", g.Oxygen, "explosive", g.Explosive))
	}
	for _, r := range d.Look.Sprays {
		places := ""
		for i, surface := range r.Surfaces {
			if i > 0 {
				places += ", "
			}
			places += d.Place(surface)
		}
		d.text(d.Say("paper.spray", "at", r.When.Format(rfc), "who", d.name(r.By), "places", places, "minutes", r.Minutes, "flow", r.Flow, "says", d.Say("test.finding."+r.Says)) + " " + d.Say(r.Why) + ".")
	}
}

const rfc = "2006-01-02T15:04:05Z07:00"

func (d *dossier) laying(step logbook.StepLook, w logbook.WorkLook) []string {
	amount := func(value float64) string {
		switch {
		case value == 0: // places were laid, no amount can be told
			return "–"
		case w.Unit == "count":
			return d.Say("paper.pieces", "count", value)
		}
		return d.Quantity(value, w.Unit)
	}
	name := w.Name
	if name == "" {
		name = d.Say("product." + w.Role)
	}
	need := ""
	if w.Need != nil {
		need = amount(*w.Need)
	}
	last := w.Lays[len(w.Lays)-1].When.Format(rfc)
	return []string{step.Title, name, d.Say("paper.of_asked", "n", len(w.Laid), "of", len(w.Places)), amount(w.Used), need, d.Moment(last)}
}

// question is the line of a step's question.
func (d *dossier) question(step logbook.StepLook, id string) string {
	for _, q := range step.Asks {
		if q.ID == id {
			return q.Line
		}
	}
	if step.OnlyIf != nil && step.OnlyIf.ID == id {
		return step.OnlyIf.Line
	}
	return id
}

// reply is what was answered, with its place, its photo and its note.
func (d *dossier) reply(r logbook.Replied) string {
	text := r.Choice
	switch {
	case r.Says != "":
		text = d.Say("asks.says." + r.Says)
	case r.Value != nil:
		text = d.Say("paper.number", "n", *r.Value)
	case r.Photo != "":
		text = d.Say("paper.photo", "id", r.Photo)
	}
	if r.Place != "" {
		text += ", " + d.Place(r.Place)
	}
	if r.Note != "" {
		text += ": " + r.Note
	}
	return text
}

// ways says how the system is worked, each matter with its reason.
func (d *dossier) ways() {
	ways := d.Look.System.Ways
	if len(ways) == 0 {
		return
	}
	d.sub(d.Say("school.title"))
	writeWays(d.paper, d.Speaker, ways)
}
