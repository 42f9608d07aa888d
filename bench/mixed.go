package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
	"dusha/core/wetarea"
	"dusha/demo"
)

// mixed is a job with one large area that is worked at with everything that is recorded there:
// weather, buckets with all their marks, what was laid, comb readings, pieces, holds.
type mixed struct {
	made  demo.Job
	area  string
	at    time.Time
	texts [][]byte
	count int
	err   error
}

// add writes an entry some time after the one before.
func (m *mixed) add(after time.Duration, kind logbook.Kind, body any) string {
	m.at = m.at.Add(after)
	m.count++
	id := fmt.Sprintf("019cb000-0000-7000-8000-%012d", m.count)
	entry := map[string]any{"id": id, "jobId": m.made.ID, "areaId": m.area, "kind": kind, "at": m.at.Format(time.RFC3339), "by": m.made.Named["lead"], "body": body}
	text, err := json.Marshal(entry)
	m.err = errors.Join(m.err, err)
	m.texts = append(m.texts, text)
	return id
}

// mixedJob makes the job of so many entries in an area of so many surfaces, the second coat begun.
func mixedJob(count, surfaces int) (*mixed, error) {
	made, err := demo.Make(now, 7)
	if err != nil {
		return nil, err
	}
	m := &mixed{made: made, area: "019cb000-0000-7000-8000-0000000000aa", at: now.Add(-20 * 24 * time.Hour)}
	for _, text := range made.Entries {
		e, err := logbook.Parse(text)
		if err != nil {
			return nil, err
		}
		if e.AreaID == "" && e.Kind != logbook.KindStockCounted {
			m.texts = append(m.texts, text)
		}
	}
	m.add(0, logbook.KindAreaOpened, map[string]any{"name": "Hall"})
	asked, err := wetarea.Ask("room", manySurfaces(surfaces-1, "300"))
	if err != nil || asked.Area == nil {
		return nil, fmt.Errorf("the hall cannot be read: %v", asked.Form.Faults())
	}
	m.add(time.Minute, logbook.KindSurvey, wetarea.Survey{Form: "room", Answers: asked.Form.Answers()})
	tried, err := site.Read(m.texts).Try(m.area, site.Choice{Sheet: sheet.Samples()[0].ID, Texture: "fine", Against: &logbook.Against{Reason: "measured", Person: made.Named["lead"]}})
	if err != nil || tried.Body == nil {
		return nil, fmt.Errorf("no plan: %v %v", err, tried.Refusal)
	}
	m.add(time.Minute, logbook.KindPlan, tried.Body)
	m.work(count, asked.Area)
	return m, m.err
}

func (m *mixed) work(count int, area *wetarea.Area) {
	climate := func(after time.Duration) {
		m.add(after, logbook.KindClimate, map[string]any{"air_C": 18, "substrate_C": 16.5, "rh_percent": 60, "shut": true})
	}
	folded := site.Read(m.texts).Area(m.area)
	for _, step := range folded.Order.Steps() {
		switch {
		case step.Said():
			m.add(time.Hour, logbook.KindDone, map[string]any{"step": step.ID, "confirmed": []string{"all"}})
		case step.Coats():
			if len(step.After) > 0 && len(step.After[0].States) > 0 {
				climate(12 * time.Hour)
				m.add(time.Minute, logbook.KindTouched, map[string]any{"step": step.ID, "found": step.After[0].States})
			}
			m.coat(step, count/2*step.Coat, area)
		case step.Lays():
			climate(time.Hour)
			for _, piece := range folded.Takeoff.Pieces {
				m.add(time.Minute, logbook.KindBedded, map[string]any{"step": step.ID, "pieces": []string{piece.ID}})
			}
		case step.Hold() && step.Does == system.AcceptIt:
			m.add(time.Hour, logbook.KindAccepted, map[string]any{"step": step.ID})
		}
		if len(m.texts) >= count {
			m.texts = m.texts[:count]
			return
		}
	}
}

// coat lays a coat surface by surface, a bucket each, and reads it until there are so many entries.
func (m *mixed) coat(step system.Step, until int, area *wetarea.Area) {
	each := max(1, (until-len(m.texts))/len(area.Surfaces)-9)
	for i, s := range area.Surfaces {
		if i%5 == 0 {
			m.add(time.Minute, logbook.KindClimate, map[string]any{"air_C": 18.5, "substrate_C": 17, "rh_percent": 58, "shut": true})
		}
		batch := fmt.Sprintf("019cb000-0000-7000-8000-%06d%06d", step.Coat, i+1)
		m.add(time.Minute, logbook.KindWeighed, map[string]any{"step": step.ID, "batch": batch, "surfaces": []string{s.ID}, "kg": 11.79, "temp_C": 17, "bucket_L": 30,
			"parts": []map[string]any{{"part": "a", "kg": 4.33, "code": "L-0711"}, {"part": "b", "kg": 7.46, "code": "P-2291"}}})
		for _, mark := range []string{"contact", "mixing", "standing", "ready"} {
			m.add(time.Minute, logbook.KindMarked, map[string]any{"batch": batch, "mark": mark})
		}
		m.add(5*time.Minute, logbook.KindLaid, map[string]any{"step": step.ID, "surfaces": []string{s.ID}, "kg": 11.6, "batch": batch})
		m.add(time.Minute, logbook.KindMarked, map[string]any{"batch": batch, "mark": "empty"})
		low, high := wetarea.Extent(slices.Concat(s.Outlines...))
		for n := 0; n < each; n++ {
			const across = 7
			p := wetarea.Point{low[0] + (high[0]-low[0])*(float64(n%across)+0.5)/across, low[1] + (high[1]-low[1])*(float64(n/across%across)+0.5)/across}
			if s.Contains(p) {
				m.add(10*time.Second, logbook.KindRead, map[string]any{"step": step.ID, "surface": s.ID, "along_mm": p[0], "up_mm": p[1], "last_wet_mm": 1.2, "next_dry_mm": 1.3})
			}
		}
	}
}

// folding measures reading, folding and looking at a job of 2,000 entries of all kinds of work over 40
// surfaces against decoding the same JSON, and one more entry on it.
func folding() error {
	const count, surfaces = 2000, 40
	m, err := mixedJob(count, surfaces)
	if err != nil {
		return err
	}
	whole := timed("reading, folding and looking at it", func() error {
		look := site.Read(m.texts).Look(m.area, m.at)
		if len(look.Coats) != 2 || len(look.Coats[0].Readings) < count/4 {
			return fmt.Errorf("the fold says %+v", look.Next)
		}
		return nil
	})
	title := fmt.Sprintf("A job of %d entries of all kinds over %d surfaces (limit: 2.5 times)", len(m.texts), surfaces)
	if err := compare(title, whole, decodedPlainly(m.texts)); err != nil {
		return err
	}
	return m.oneMore()
}

// oneMore measures one more entry of several kinds on a job that is kept folded, and the look after it.
func (m *mixed) oneMore() error {
	const limit = 0.010
	s := site.Read(m.texts)
	s.Look(m.area, m.at)
	var took []float64
	for i := range 3 * pairs {
		switch i % 3 {
		case 0:
			m.add(time.Minute, logbook.KindRead, map[string]any{"step": "coat_2", "surface": "floor", "along_mm": 900 + i, "up_mm": 1900, "last_wet_mm": 1.2, "next_dry_mm": 1.3})
		case 1:
			m.add(time.Minute, logbook.KindLaid, map[string]any{"step": "coat_2", "surfaces": []string{"floor"}, "kg": 1.5})
		default:
			m.add(time.Minute, logbook.KindClimate, map[string]any{"air_C": 18, "substrate_C": 17, "rh_percent": 60, "shut": true})
		}
		begin := time.Now()
		s.Add(m.texts[len(m.texts)-1:])
		s.Look(m.area, m.at)
		took = append(took, time.Since(begin).Seconds())
	}
	fmt.Printf("One more entry on %d, and the look after it (limit: %.1f ms here)\n  %.1f ms (quartiles %.1f to %.1f, of %d)\n", len(m.texts), 1000*scaledTo(limit, reference),
		1000*quantile(took, 0.5), 1000*quantile(took, 0.25), 1000*quantile(took, 0.75), len(took))
	if quantile(took, 0.5) > scaledTo(limit, reference) {
		return errors.New("one more entry takes too long")
	}
	return nil
}

// writeMixed writes the job of 2,000 entries for the page: its id, the area and the entries' texts.
func writeMixed(to io.Writer) error {
	const count, surfaces = 2000, 40
	m, err := mixedJob(count, surfaces)
	if err != nil {
		return err
	}
	texts := []json.RawMessage{}
	fresh := strings.NewReplacer(m.made.ID, "019cb000-0000-7000-8000-0000000000bb")
	for _, text := range m.texts { // a job of its own beside the hostel
		texts = append(texts, json.RawMessage(fresh.Replace(string(text))))
	}
	look := site.Read(m.texts).Look(m.area, m.at)
	step := look.Coats[len(look.Coats)-1].Step
	i := slices.IndexFunc(look.Stages, func(stage logbook.StageLook) bool {
		return slices.ContainsFunc(stage.Steps, func(s logbook.StepLook) bool { return s.ID == step })
	})
	return json.NewEncoder(to).Encode(map[string]any{"id": "019cb000-0000-7000-8000-0000000000bb", "area": m.area, "stage": look.Stages[i].ID, "entries": texts})
}
