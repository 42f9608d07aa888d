// Package mixing splits the work into batches and says what to weigh.
//
// A batch of mass M holds M · part / Σ parts of each component (volume parts go through
// densities). It must be large enough for the scale to keep the ratio and small enough
// to be laid before the pot life ends and to leave room to stir.
package mixing

import (
	"math"
	"slices"

	"dusha/core/cure"
	"dusha/core/fault"
)

// Component is one part of a mix, itself a mix where Of is set.
type Component struct {
	Name    string      `json:"name"`
	Parts   float64     `json:"parts"`
	By      string      `json:"by,omitempty"` // "mass" (default) or "volume"
	Density float64     `json:"density_kg_per_L,omitempty"`
	Of      []Component `json:"of,omitempty"`
}

// share is the component's part of the mass, not yet divided by the sum.
func (c Component) share() float64 {
	if c.By == "volume" {
		return c.Parts * c.Density
	}
	return c.Parts
}

// Split gives the mass of each component of a batch, kg, and the litres of those that
// are measured by volume. A component that is itself a mix appears by its own parts.
func Split(batch float64, components []Component) (masses, volumes map[string]float64, err error) {
	masses, volumes = map[string]float64{}, map[string]float64{}
	return masses, volumes, split("components", batch, components, masses, volumes)
}

func split(field string, batch float64, components []Component, masses, volumes map[string]float64) error {
	sum := 0.0
	for _, c := range components {
		if !(c.share() > 0) || math.IsInf(c.share(), 0) {
			return fault.At(field, "mixing.part_not_positive", "name", c.Name)
		}
		sum += c.share()
	}
	if sum == 0 {
		return fault.At(field, "mixing.no_parts")
	}
	for _, c := range components {
		mass := batch * c.share() / sum
		if len(c.Of) > 0 {
			if err := split(field+"."+c.Name, mass, c.Of, masses, volumes); err != nil {
				return err
			}
			continue
		}
		masses[c.Name] += mass
		if c.By == "volume" {
			volumes[c.Name] += mass / c.Density
		}
	}
	return nil
}

// Least is the least batch, kg, that keeps the mass ratio inside a tolerance (percent)
// when each reading of a scale of resolution r (g) may be off by r/2:
// (r/2)(1/s_big + (1 + tol)/s_small)/tol, s_small the smallest and s_big the next smallest
// mass share; twice that when each part is weighed as a difference of two readings.
func Least(resolution float64, parts []float64, tolerance float64, asDifference bool) (float64, error) {
	if len(parts) < 2 {
		return 0, fault.At("parts", "mixing.too_few_parts")
	}
	if !(tolerance > 0) {
		return 0, fault.At("tolerance_percent", "number.not_positive", "value", tolerance)
	}
	shares, sum := slices.Sorted(slices.Values(parts)), 0.0
	for _, part := range parts {
		sum += part
	}
	if !(shares[0] > 0) {
		return 0, fault.At("parts", "mixing.part_not_positive")
	}
	tol := tolerance / 100
	least := resolution / 2000 * (sum/shares[1] + (1+tol)*sum/shares[0]) / tol
	if asDifference {
		least *= 2
	}
	return least, nil
}

// Limits are what bounds a batch from above.
type Limits struct {
	PotLife  float64  `json:"pot_life_min" minimum:"0"` // counts from first contact of the parts
	Mixing   float64  `json:"mixing_min" minimum:"0"`
	Standing float64  `json:"standing_min" minimum:"0"`
	Walk     float64  `json:"walk_min" minimum:"0"`
	CrewRate float64  `json:"crew_m2_per_h" minimum:"0"`
	PerM2    float64  `json:"kg_per_m2" minimum:"0"` // of one coat
	Bucket   float64  `json:"bucket_L" minimum:"0"`
	Density  float64  `json:"density_kg_per_L" minimum:"0"`
	Sheet    *float64 `json:"sheet_limit_kg" minimum:"0"` // the sheet's own greatest batch, if it states one
}

// Greatest is the largest batch and what sets it.
type Greatest struct {
	Usable   float64 `json:"usable_min"` // pot life − mixing − standing − walk
	ByTime   float64 `json:"by_time_kg"`
	ByBucket float64 `json:"by_bucket_kg"`
	Batch    float64 `json:"greatest_batch_kg"`
	Governs  string  `json:"governs"` // "time", "bucket" or "sheet"
}

// BucketFill is the share of a bucket that may be filled, so that there is room to stir.
const BucketFill = 0.6

// Greatest is the least of what can be laid in the usable time, what the bucket holds at
// 60 % of its volume, and the sheet's own limit; no usable time gives 0.
func (l Limits) Greatest() Greatest {
	g := Greatest{Usable: l.PotLife - l.Mixing - l.Standing - l.Walk, Governs: "time"}
	g.ByTime = max(0, g.Usable) / 60 * l.CrewRate * l.PerM2
	g.ByBucket = l.Bucket * BucketFill * l.Density
	g.Batch = g.ByTime
	if g.ByBucket < g.Batch {
		g.Batch, g.Governs = g.ByBucket, "bucket"
	}
	if l.Sheet != nil && *l.Sheet < g.Batch {
		g.Batch, g.Governs = *l.Sheet, "sheet"
	}
	return g
}

// PotLife is the time a mix stays usable at a temperature, min. Above the table's warmest
// entry it goes on shortening. energy is nil between the entries, where none is used.
func PotLife(table cure.Table, temp float64) (minutes float64, energy *float64, refused bool, err error) {
	minutes, inside, err := table.At(temp)
	if err != nil || inside {
		return minutes, nil, false, err
	}
	used := table.Used()
	_, _, refused = table.Fit()
	return minutes, &used, refused, nil
}

// Series is the work cut into batches.
type Series struct {
	Feasible bool      `json:"feasible"`
	Kits     int       `json:"kits,omitempty"`
	Batches  []float64 `json:"batches_kg"`
	Total    float64   `json:"total_kg"`
	Surplus  float64   `json:"surplus_kg"`
}

// Plan cuts a need into full batches and a rest. A rest below the least batch is evened
// out with the batch before it when half of their sum reaches the least batch, else it is
// raised to the least batch. All in kg.
func Plan(need, greatest, least float64) Series {
	if greatest <= 0 || need <= 0 {
		return Series{Feasible: need <= 0, Batches: []float64{}}
	}
	full := int(math.Floor(need/greatest + slack))
	s := Series{Feasible: true, Batches: slices.Repeat([]float64{greatest}, full)}
	rest := need - float64(full)*greatest
	if rest > slack {
		s.Batches = append(s.Batches, rest)
	}
	last := len(s.Batches) - 1
	if s.Batches[last] < least {
		if last > 0 && (s.Batches[last-1]+s.Batches[last])/2 >= least {
			half := (s.Batches[last-1] + s.Batches[last]) / 2
			s.Batches[last-1], s.Batches[last] = half, half
		} else {
			s.Batches[last] = least
		}
	}
	return s.summed(need)
}

// PlanKits is the same with kits that must not be split: as many whole kits a batch as
// the greatest batch holds, the last batch the kits that are left.
func PlanKits(need, greatest, kit float64) Series {
	perBatch := int(math.Floor(greatest/kit + slack))
	if perBatch < 1 {
		return Series{Batches: []float64{}}
	}
	s := Series{Feasible: true, Kits: int(math.Ceil(need/kit - slack))}
	for left := s.Kits; left > 0; left -= perBatch {
		s.Batches = append(s.Batches, float64(min(left, perBatch))*kit)
	}
	return s.summed(need)
}

// slack is far below a gram, so that a sum of floats that should be whole counts as whole.
const slack = 1e-9

func (s Series) summed(need float64) Series {
	for _, batch := range s.Batches {
		s.Total += batch
	}
	s.Surplus = s.Total - need
	if math.Abs(s.Surplus) < slack {
		s.Surplus = 0
	}
	return s
}

// Weighing is one part on the scale.
type Weighing struct {
	Part    string  `json:"part"`
	Name    string  `json:"name"`
	Kind    string  `json:"kind"` // "liquid" or "powder"
	Mass    float64 `json:"kg"`
	Scale   float64 `json:"scale_kg"`  // what the scale shows after it, without zeroing
	Volume  float64 `json:"volume_L"`  // what it adds to the bucket
	Reaches float64 `json:"reaches_L"` // level in the bucket after it
}

// Weigh rounds the parts to the scale, in pouring order, and adds up the readings.
func Weigh(masses map[string]float64, order []Weighing, resolution, density float64) []Weighing {
	weighed := slices.Clone(order)
	scale, level, batch := 0.0, 0.0, 0.0
	for _, part := range weighed { // in their order: a sum of floats depends on it
		batch += masses[part.Part]
	}
	for i := range weighed {
		w := &weighed[i]
		w.Mass = math.Round(masses[w.Part]*1000/resolution) * resolution / 1000
		scale += w.Mass
		w.Scale = math.Round(scale*1e6) / 1e6
		if i == len(weighed)-1 {
			w.Volume = batch/density - level // the last part fills up to the mixed volume
		} else {
			w.Volume *= masses[w.Part]
		}
		level += w.Volume
		w.Reaches = level
	}
	return weighed
}
