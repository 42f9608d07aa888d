package logbook

import "dusha/core/fault"

const KindPapers Kind = "job.papers"

// Papers are how a job's papers and costs are written.
type Papers struct {
	Currency string `json:"currency"` // ISO 4217; "" while nobody said
	Language string `json:"language"` // BCP 47, of a language that is shipped; "" is English
}

func (b Papers) check() error {
	if c := b.Currency; c != "" && (len(c) != 3 || !only(c, letters[:26])) {
		return fault.At("body.currency", "entry.no_currency", "typed", fault.Short(c))
	}
	if l := b.Language; len(l) > 35 || !only(l, letters+"0123456789-") {
		return fault.At("body.language", "entry.no_language", "typed", fault.Short(l))
	}
	return nil
}

func (b Papers) keep(j *Job, _ settled) { j.Papers = b }
