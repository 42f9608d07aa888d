package logbook

import (
	"dusha/core/fault"
	"dusha/core/wetarea"
)

const KindSurvey Kind = "survey"

type surveyBody struct{ wetarea.Survey }

func (b surveyBody) check() error {
	const mostAnswers = 2000
	if len(b.Answers) > mostAnswers {
		return fault.At("body.answers", "list.too_long", "most", mostAnswers)
	}
	if b.Form == "" {
		return fault.At("body.form", "text.missing")
	}
	return nil
}

// apply has nothing left to do: which survey counts is settled before anything is read against it.
func (b surveyBody) apply(*Area, settled) {}

func (b surveyBody) under(a *Area) (string, bool) { return a.firstStep(), true }

func (b surveyBody) replaces() []string { return b.From }

func (surveyBody) still() {}

func (surveyBody) worksBack() {}
