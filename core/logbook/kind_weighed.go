package logbook

import (
	"fmt"
	"math"
	"time"

	"dusha/core/fault"
	"dusha/core/mixing"
	"dusha/core/sheet"
)

const KindWeighed Kind = "weighed"

// Weighed begins a batch: what was weighed, for which surfaces, at which temperature.
type Weighed struct {
	Step     string       `json:"step"`
	Layer    string       `json:"layer,omitempty"` // of a work that is no coat of the film
	Batch    string       `json:"batch"`           // id of the batch, a UUID
	Surfaces []string     `json:"surfaces"`
	Kg       float64      `json:"kg"`
	Temp     float64      `json:"temp_C"`
	Bucket   float64      `json:"bucket_L"`
	Parts    []PartWeight `json:"parts"`
}

// PartWeight is one part as weighed.
type PartWeight struct {
	Part string  `json:"part"`
	Kg   float64 `json:"kg"`
	Code string  `json:"code,omitempty"` // batch code printed on the pack
}

func (b Weighed) check() error {
	if len(b.Parts) == 0 || len(b.Parts) > 12 {
		return fault.At("body.parts", "sheet.parts_out_of_range", "value", len(b.Parts))
	}
	for i, part := range b.Parts {
		path := fmt.Sprintf("body.parts.%d", i+1)
		if err := first(within(path+".kg", part.Kg, 0, mostKg), line(path+".code", part.Code, false)); err != nil {
			return err
		}
	}
	return first(name("body.step", b.Step), line("body.layer", b.Layer, false), id("body.batch", b.Batch), list("body.surfaces", b.Surfaces),
		within("body.kg", b.Kg, 0.001, mostKg), within("body.temp_C", b.Temp, coldest, hottest), within("body.bucket_L", b.Bucket, 0.1, 1000))
}

func (b Weighed) apply(a *Area, e settled) {
	if !a.step(e.Entry, b.Step) {
		return
	}
	if a.batchAt(b.Batch) >= 0 {
		a.deviate(e.Entry, "deviation.batch_twice", "batch", b.Batch)
		return
	}
	a.Batches = append(a.Batches, Batch{
		ID: b.Batch, Number: len(a.Batches) + 1, Step: b.Step, Layer: b.Layer, Kg: b.Kg, Temp: b.Temp, Bucket: b.Bucket,
		Surfaces: b.Surfaces, Parts: b.Parts, Weighed: e.when, Marks: map[string]time.Time{},
	})
	a.judgeRatio(e.Entry, b)
}

// judgeRatio says when the parts as weighed miss the ratio by more than the tolerance.
func (a *Area) judgeRatio(e Entry, body Weighed) {
	if a.Plan == nil || a.mixBy(body.Step, body.Layer) == byFeel {
		return
	}
	of := a.mixed(body.Step, body.Layer)
	want, err := RatioParts(of, body.Kg, body.Temp)
	if err != nil {
		return
	}
	tolerance := Tolerance(of, a.Plan.Rules)
	weighed := map[string]float64{}
	total := 0.0
	for _, part := range body.Parts {
		weighed[part.Part] += part.Kg
		total += part.Kg
	}
	for _, part := range of.Parts {
		share := want[part.ID] / body.Kg
		if total == 0 || math.Abs(weighed[part.ID]/total-share)/share > tolerance/100 {
			a.deviate(e, "deviation.ratio_missed", "part", part.Name, "kg", weighed[part.ID], "wanted", share*total, "tolerance", tolerance)
			return
		}
	}
}

// RatioParts splits a batch by the sheet's parts at a temperature, °C: kg by part id.
func RatioParts(s sheet.Sheet, kg, temp float64) (map[string]float64, error) {
	shares, err := s.PartSharesAt(temp)
	if err != nil {
		return nil, err
	}
	var components []mixing.Component
	for i, part := range s.Parts {
		components = append(components, mixing.Component{Name: part.ID, Parts: shares[i]})
	}
	masses, _, err := mixing.Split(kg, components)
	return masses, err
}

// air takes the temperature of air and base that was noted at the bucket.
func (b Weighed) air(a *Area, e settled) {
	a.base.add(reading{entry: e.ID, when: e.when, value: b.Temp})
	a.air.add(reading{entry: e.ID, when: e.when, value: b.Temp})
}

func (b Weighed) stepOf() string { return b.Step }

func (Weighed) worksBack() {}
