package logbook

import (
	"time"

	"dusha/core/system"
)

// surveying measures the area: done once the survey has no gap.
type surveying struct{ plainly }

func (surveying) by() []Kind { return []Kind{KindSurvey} }

func (surveying) progress(a *Area, _ system.Step) (done, of int) {
	return one(a.Geometry != nil && len(a.Geometry.Gaps) == 0), 1
}

func (surveying) worked(a *Area, _ system.Step) (began, ended time.Time) {
	at := a.whenOf(a.SurveyID)
	return at, at
}

func (surveying) figures() bool { return true }
