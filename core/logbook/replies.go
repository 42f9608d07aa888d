package logbook

import (
	"slices"
	"strings"
	"time"

	"dusha/core/fault"
	"dusha/core/system"
)

// Reply is an answer to a question of a step.
type Reply struct {
	Question string   `json:"question"`         // its id
	Says     string   `json:"says,omitempty"`   // "yes", "no" or "not_here"
	Value    *float64 `json:"value,omitempty"`  // of a number, in the question's unit
	Choice   string   `json:"choice,omitempty"` // of a choice
	Photo    string   `json:"photo,omitempty"`  // id of its file
	Place    string   `json:"place,omitempty"`  // where: surface, junction, corner or fitting
	Note     string   `json:"note,omitempty"`
}

// Replied is a reply with who gave it, and when.
type Replied struct {
	Reply
	Entry string    `json:"entry"`
	By    string    `json:"by"`
	When  time.Time `json:"at"`
}

// What a reply may say.
const (
	SaysYes     = "yes"
	SaysNo      = "no"
	SaysNotHere = "not_here"
)

// OpenQuestion is a question of a step that keeps it from being done.
type OpenQuestion struct {
	system.Question
	Why string `json:"why"` // wording key: not answered, answered no, out of its range, not here though it has to be
}

func checkReplies(list []Reply) error {
	if len(list) > mostList {
		return fault.At("body.answers", "list.too_long", "most", mostList)
	}
	for _, r := range list {
		field := "body.answers." + fault.Short(r.Question)
		if r.Says != "" && !slices.Contains([]string{SaysYes, SaysNo, SaysNotHere}, r.Says) {
			return fault.At(field, "choice.unknown", "typed", fault.Short(r.Says))
		}
		if r.Says == "" && r.Value == nil && r.Choice == "" && r.Photo == "" {
			return fault.At(field, "text.missing")
		}
		if r.Value != nil {
			if err := within(field, *r.Value, -1e6, 1e6); err != nil {
				return err
			}
		}
		if r.Photo != "" {
			if err := id(field, r.Photo); err != nil {
				return err
			}
		}
		if err := first(name(field, r.Question), line(field, r.Choice, false), line(field, r.Place, false), line(field, r.Note, false)); err != nil {
			return err
		}
	}
	return nil
}

// questions are all that a step asks: whether it is needed at all, and what is asked of it.
func questions(s system.Step) []system.Question {
	if s.OnlyIf != nil {
		return append([]system.Question{*s.OnlyIf}, s.Asks...)
	}
	return s.Asks
}

// reply takes up answers to the questions of a step; confirmed are lines that were ticked.
func (a *Area) reply(e settled, s system.Step, answers []Reply, confirmed []string) {
	asked := questions(s)
	for _, line := range confirmed {
		if i := slices.IndexFunc(asked, func(q system.Question) bool { return q.Line == line }); i >= 0 {
			answers = append(slices.Clip(answers), Reply{Question: asked[i].ID, Says: SaysYes})
		}
	}
	for _, r := range answers {
		if !slices.ContainsFunc(asked, func(q system.Question) bool { return q.ID == r.Question }) {
			a.deviate(e.Entry, "deviation.unknown_question", "step", s.ID, "question", fault.Short(r.Question))
			continue
		}
		if a.Replies[s.ID] == nil {
			a.Replies[s.ID] = map[string]Replied{}
		}
		a.Replies[s.ID][r.Question] = Replied{r, e.ID, e.By, e.when}
	}
	clear(a.memo.ways)
}

// openQuestions are those of a step that keep it from being done.
func (a *Area) openQuestions(s system.Step) (list []OpenQuestion) {
	for _, q := range s.Asks {
		r, given := a.Replies[s.ID][q.ID]
		if why := unanswered(q, r.Reply, given); why != "" {
			list = append(list, OpenQuestion{q, why})
		}
	}
	return list
}

// unanswered says why a question stays open, as a wording key; "": it is answered.
func unanswered(q system.Question, r Reply, given bool) string {
	switch {
	case !given:
		return "asks.open"
	case r.Says == SaysNotHere && q.NA:
		return ""
	case r.Says == SaysNotHere:
		return "asks.has_to_be"
	case r.Says == SaysNo:
		return "asks.no"
	}
	switch q.Kind {
	case "number":
		if r.Value == nil {
			return "asks.open"
		}
		if *r.Value < q.Least || q.Most > 0 && *r.Value > q.Most {
			return "asks.out_of_range"
		}
	case "choice":
		if !slices.Contains(q.Choices, r.Choice) {
			return "asks.open"
		}
	case "photo":
		if strings.TrimSpace(r.Photo) == "" {
			return "asks.open"
		}
	default:
		if r.Says != SaysYes {
			return "asks.open"
		}
	}
	return ""
}

// dropped tells whether a step is not needed here: it is asked for, and somebody said no, or it would make good what was
// not missed.
func (a *Area) dropped(s system.Step) bool {
	if s.Mends != "" {
		return !a.called[s.ID] && !a.mending[s.ID]
	}
	return s.OnlyIf != nil && a.Replies[s.ID][s.OnlyIf.ID].Says == SaysNo
}

// undecided tells whether it is not known yet that a step is needed.
func (a *Area) undecided(s system.Step) bool {
	if s.OnlyIf == nil {
		return false
	}
	says := a.Replies[s.ID][s.OnlyIf.ID].Says
	return says != SaysYes && says != SaysNo
}

// saidDone says what was left open where a step was said to be done.
func (a *Area) saidDone(e Entry, s system.Step) {
	open := a.openQuestions(s)
	if len(open) == 0 {
		return
	}
	key, first := "deviation.done_unanswered", open[0]
	if i := slices.IndexFunc(open, func(q OpenQuestion) bool { return q.Why == "asks.no" }); i >= 0 {
		key, first = "deviation.done_with_no", open[i]
	}
	a.deviate(e, key, "step", s.ID, "question", first.Line)
}

// repliesLook are the answers of a step in the order of its questions.
func (a *Area) repliesLook(s system.Step) []Replied {
	list := []Replied{}
	for _, q := range questions(s) {
		if r, given := a.Replies[s.ID][q.ID]; given {
			list = append(list, r)
		}
	}
	return list
}
