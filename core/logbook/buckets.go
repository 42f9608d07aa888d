package logbook

import (
	"time"

	"dusha/core/mixing"
	"dusha/core/rules"
	"dusha/core/sheet"
)

// Batch is one bucket from the scale to its end.
type Batch struct {
	ID       string               `json:"id"`
	Number   int                  `json:"number"`
	Step     string               `json:"step"`
	Layer    string               `json:"layer"`
	Kg       float64              `json:"kg"`
	Temp     float64              `json:"temp_C"`
	Bucket   float64              `json:"bucket_L"`
	Surfaces []string             `json:"surfaces"`
	Parts    []PartWeight         `json:"parts"`
	Weighed  time.Time            `json:"weighed_at"`
	Marks    map[string]time.Time `json:"marks"`
}

// BatchLook is a bucket with its due times.
type BatchLook struct {
	Batch
	Phase    string            `json:"phase"` // "weighed", "contact", "mixing", "standing", "ready", "late", "empty" or "spoilt"
	Timers   []Timer           `json:"timers"`
	UseBy    string            `json:"use_by"` // RFC 3339, "" before the parts touch
	PotLife  float64           `json:"pot_life_min"`
	LiveNow  bool              `json:"live"`
	NextMark string            `json:"next_mark"` // the mark that comes next, "" at the end
	Weigh    []mixing.Weighing `json:"weigh"`     // the parts as they lie in the bucket
	MixMin   float64           `json:"mix_min"`
	StandMin float64           `json:"stand_min"`
}

// Timer is a due time worked out from an entry; nothing counts down in memory.
type Timer struct {
	Name string `json:"name"` // "mixing", "standing" or "use_by"
	From string `json:"from"`
	Due  string `json:"due"`
	Over bool   `json:"over"`
}

// batch works out where a bucket stands: each phase begins with its mark, and the due
// times follow from the marks and the sheet.
func (a *Area) batch(b Batch, now time.Time) BatchLook {
	l := BatchLook{Batch: b, Phase: "weighed", Timers: []Timer{}, Weigh: []mixing.Weighing{}}
	for _, mark := range Marks {
		if _, is := b.Marks[mark]; is {
			l.Phase = mark
		}
	}
	l.LiveNow = l.Phase != "empty" && l.Phase != "spoilt"
	l.NextMark = map[string]string{"weighed": "contact", "contact": "mixing", "mixing": "standing", "standing": "ready", "ready": "empty"}[l.Phase]
	if a.Plan == nil {
		return l
	}
	masses := map[string]float64{}
	for _, part := range b.Parts {
		masses[part.Part] += part.Kg
	}
	const gram = 1
	of := a.mixed(b.Step, b.Layer)
	if said, err := cardNumbers(of); err == nil {
		l.Weigh, l.MixMin, l.StandMin = inBucket(of, said, masses, gram), said["mix"], said["stand"]
	}
	for _, t := range []struct {
		mark    string
		minutes float64
	}{{"mixing", l.MixMin}, {"standing", l.StandMin}} {
		if from, began := b.Marks[t.mark]; began {
			l.Timers = append(l.Timers, timer(t.mark, from, minutesOf(t.minutes), now))
		}
	}
	if useBy, known := a.useBy(b); known {
		from := b.Marks[potLifeFrom(of)]
		l.PotLife = useBy.Sub(from).Minutes()
		l.UseBy = stamp(useBy)
		l.Timers = append(l.Timers, timer("use_by", from, useBy.Sub(from), now))
		if l.LiveNow && now.After(useBy) {
			l.Phase, l.NextMark = "late", "spoilt"
		}
	}
	return l
}

func timer(name string, from time.Time, length time.Duration, now time.Time) Timer {
	due := from.Add(length)
	return Timer{Name: name, From: from.UTC().Format(time.RFC3339Nano), Due: due.UTC().Format(time.RFC3339Nano), Over: !now.Before(due)}
}

// Tolerance is how far a part may be off its share, percent: the sheet's figure, else the
// local rule's.
func Tolerance(s sheet.Sheet, p rules.Profile) float64 {
	if said, err := s.Number("ratio_tolerance"); err == nil {
		return said.Value
	}
	said, err := p.Number("ratio_tolerance")
	if err != nil {
		return 2 // the domain's own default where neither says
	}
	return said.Value
}

// useBy is the end of a batch's pot life: it counts from the first contact of the parts, or from what its sheet says, at
// the temperature noted.
func (a *Area) useBy(b Batch) (time.Time, bool) {
	if a.Plan == nil {
		return time.Time{}, false
	}
	of := a.mixed(b.Step, b.Layer)
	contact, mixed := b.Marks[potLifeFrom(of)]
	if !mixed {
		return time.Time{}, false
	}
	minutes, _, _, err := mixing.PotLife(of.Table("pot_life"), b.Temp)
	if err != nil {
		return time.Time{}, false
	}
	return contact.Add(minutesOf(minutes)), true
}

// mixed is the printing of what a step's buckets are mixed of: of one of its layers, or of what it lays first.
func (a *Area) mixed(step, layer string) sheet.Sheet {
	s, _ := a.stepBy(step)
	if l, is := a.Plan.built.System.LayerOf(layer); is {
		if of, there := a.Plan.sheets[l.Product]; there {
			return of
		}
	}
	return a.sheetOf(s)
}

// byFeel is a way of mixing: the parts used are entered, no ratio is claimed.
const byFeel = "feel"

// mixBy is how what a step lays is mixed: "scale", "feel" or "none".
func (a *Area) mixBy(step, layer string) string {
	s, _ := a.stepBy(step)
	for _, id := range append([]string{layer}, s.Layers()...) {
		if l, is := a.Plan.built.System.LayerOf(id); is && l.Mix != nil {
			return l.Mix.By
		}
	}
	return "scale"
}

func minutesOf(m float64) time.Duration { return time.Duration(m * float64(time.Minute)) }
