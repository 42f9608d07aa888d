package logbook

import "slices"

const KindPatternKept Kind = "pattern.kept"

// PatternKept keeps a begun survey to begin other areas from.
type PatternKept struct {
	Name  string `json:"name"`
	Begun Begun  `json:"begun"`
}

func (b PatternKept) check() error { return first(name("body.name", b.Name), b.Begun.check()) }

func (b PatternKept) keep(j *Job, _ settled) {
	j.Patterns = append(slices.DeleteFunc(j.Patterns, func(p PatternKept) bool { return p.Name == b.Name }), b)
}
