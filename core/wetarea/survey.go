package wetarea

import (
	"maps"
	"slices"

	"dusha/core/ask"
	"dusha/core/fault"
	"dusha/core/units"
)

// Survey is what was measured on site: a form and the answer to each of its questions,
// as typed and in mm. It is the body of a survey entry.
type Survey struct {
	Form    string                   `json:"form"` // one of Forms
	Answers map[string]units.Measure `json:"answers"`
	From    []string                 `json:"from,omitempty"` // surveys it was made from or chosen over
}

// Typed gives back what was typed, to read or change the survey again.
func (s Survey) Typed() map[string]string {
	typed := make(map[string]string, len(s.Answers))
	for id, answer := range s.Answers {
		typed[id] = answer.Typed
	}
	return typed
}

// Forms are the shapes that can be surveyed.
var Forms = []string{"rectangle", "room", "basin", "round_tank", "box_tank", "deck", "wall_run", "sunken"}

// Limits of what is still a wet area, mm.
const (
	leastSide, mostSide     = 300, 30000
	leastWall               = 20
	leastHeight, mostHeight = 20, 6000
	leastDoor, mostDoor     = 300, 5000
	leastStop, mostStop     = 5, 300
	leastBore, mostBore     = 5, 600
	leastDepth, mostDepth   = 50, 10000
	mostPipes               = 20
	mostItems               = 60
	mostWalls               = 200
)

// sketchHeight stands for a wall whose height is not known yet, in a sketch only.
const sketchHeight = 300

// Asked is a survey form as far as it has been typed.
type Asked struct {
	Form   *ask.Form
	Area   *Area // once all answers are there and fit together
	Sketch *Area // what can be drawn so far; nil before the plan is known
	Run    *Run  // walls laid one after the other, where they are asked so
}

// Ask reads a survey form: every question in walking order, with what was typed. Its faults
// name the field and the wall.
func Ask(form string, typed map[string]string) (Asked, error) {
	f := &ask.Form{Typed: typed}
	s := &site{f: f, shape: form}
	var sketch *Area
	var err error
	switch form {
	case "rectangle":
		sketch, err = s.rectangle()
	case "room", "deck", "sunken":
		sketch, err = s.plan()
	case "basin":
		sketch, err = s.basin()
	case "box_tank":
		sketch, err = s.boxTank()
	case "round_tank":
		sketch, err = s.roundTank()
	case "wall_run":
		sketch, err = s.wallRun()
	default:
		return Asked{}, fault.At("form", "survey.unknown_form", "typed", form)
	}
	if err != nil {
		s.reject(err)
	}
	asked := Asked{Form: f, Sketch: sketch, Run: s.run}
	if sketch == nil {
		return asked, nil
	}
	if s.run != nil && !s.run.Closed {
		sketch.Closing = s.run.Gap
	}
	s.fittings(sketch)
	sketch.origins = originsOf(f)
	if len(f.Faults()) == 0 {
		asked.Area = sketch
	}
	return asked, nil
}

// reject hangs a fault of the geometry on the question it came from; where its field is none,
// on the last one that was answered.
func (s *site) reject(err error) {
	for _, each := range fault.Of(err) {
		known := slices.ContainsFunc(s.f.Questions, func(q ask.Question) bool { return q.ID == each.Field })
		for i := len(s.f.Questions) - 1; i >= 0 && !known; i-- {
			if s.f.Questions[i].Fault == nil {
				each.Field, known = s.f.Questions[i].ID, true
			}
		}
		s.f.Reject(each)
	}
}

// Read gives the area of a survey that was kept.
func (s Survey) Read() (*Area, error) {
	asked, err := Ask(s.Form, s.Typed())
	if err != nil {
		return nil, err
	}
	if faults := asked.Form.Faults(); len(faults) > 0 {
		return nil, faults
	}
	for _, id := range slices.Sorted(maps.Keys(s.Answers)) {
		if read, ok := asked.Form.Answers()[id]; ok && read.Value != s.Answers[id].Value {
			return nil, fault.At("answers."+id, "survey.typed_and_value_differ", "typed", read.Typed, "value", s.Answers[id].Value)
		}
	}
	return asked.Area, nil
}
