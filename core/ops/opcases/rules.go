package opcases

import (
	"dusha/core/cure"
	"dusha/core/cutting"
	"dusha/core/fault"
	"dusha/core/mixing"
	"dusha/core/ops"
	"dusha/core/pressure"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// Rules are the single rules of the job, one operation each, in the form of the worked
// cases under core/testdata/vectors ("kind" and "shape" are theirs and read over).
func Rules() []ops.Op {
	return []ops.Op{
		ops.Make("wetarea.room", "Areas, junctions and corners of a room.", func(in roomIn) (wetarea.Takeoff, error) { return in.Room.Measure() }),
		ops.Make("wetarea.basin", "Areas, junctions and volumes of a basin.", func(in basinIn) (wetarea.BasinTakeoff, error) { return in.Basin.Measure() }),
		ops.Make("wetarea.round_tank", "Areas, junctions and volume of a round tank.", func(in roundIn) (wetarea.RoundTakeoff, error) { return in.RoundTank.Measure() }),
		ops.Make("wetarea.box_tank", "Areas, junctions and volume of a box tank.", func(in boxIn) (wetarea.BoxTakeoff, error) { return in.BoxTank.Measure() }),
		ops.Make("wetarea.screed", "Volume and thickness of a floor built to fall.", func(in screedIn) (wetarea.Screeded, error) { return in.Screed.Measure() }),
		ops.Make("wetarea.falls", "Falls of surveyed levels to their drain.", levels),
		ops.Make("pressure.judge", "Water pressure on both sides against the ratings.", judgePressure),
		ops.Make("pressure.movement", "Unbonded width over a moving joint.", func(in movementIn) (pressure.Unbonded, error) { return in.Movement.Width() }),
		ops.Make("pressure.elongation", "Least elongation for an unbonded width.", elongation),
		ops.Make("pressure.class", "Class of movement by elongation.", func(in classIn) (classOut, error) { return classOut{pressure.Class(in.Elongation)}, nil }),
		ops.Make("sheet.rate", "A printed rate as wet thickness and mixed mass.", func(in rateIn) (sheet.Reduced, error) { return in.Rate.Reduce() }),
		ops.Make("sheet.claim", "A sheet's rate against the thickness it states.", claim),
		ops.Make("takeoff.fillet", "What a fillet or bead takes.", func(in sectionIn) (takeoff.Fillet, error) { return in.Section.Measure() }),
		ops.Make("takeoff.primer", "What a primer takes.", func(in primerIn) (takeoff.Primed, error) { return in.Primer.Measure() }),
		ops.Make("takeoff.overlay", "How long an overlay can fall.", func(in overlayIn) (takeoff.Run, error) { return in.Overlay.Reach() }),
		ops.Make("takeoff.packs", "Packs that cover a need at least cost.", func(in packsIn) (takeoff.Choice, error) { return takeoff.ChoosePacks(in.Need, in.Packs) }),
		ops.Make("takeoff.coats", "Mass of all coats over an area.", coats),
		ops.Make("takeoff.coat_count", "How many coats a film takes.", countCoats),
		ops.Make("takeoff.need", "A need in packs of one size.", need),
		ops.Make("takeoff.bedding", "Material under and over a band.", bedding),
		ops.Make("cutting.strips", "Strips of a roll over a rectangle, in the better direction.", func(in stripsIn) (cutting.Laying, error) { return in.Field.Lay() }),
		ops.Make("cutting.floor", "Strips of a roll over any floor.", func(in floorIn) (cutting.Covered, error) { return in.Floor.Cover() }),
		ops.Make("mixing.additive", "What comes on top of a mix by volume.", func(in additiveIn) (mixing.Added, error) { return in.Additive.Measure() }),
		ops.Make("mixing.catalyst", "Share of a catalyst at a temperature.", catalyst),
		ops.Make("mixing.batch", "Masses of the parts of a batch.", batch),
		ops.Make("mixing.least_batch", "Least batch that a scale can keep in ratio.", leastBatch),
		ops.Make("mixing.greatest_batch", "Greatest batch by time, bucket and sheet.", func(in greatestIn) (mixing.Greatest, error) { return in.Limits.Greatest(), nil }),
		ops.Make("mixing.pot_life", "Pot life at a temperature.", potLife),
		ops.Make("mixing.series", "A need cut into batches.", series),
		ops.Make("cure.energy", "Activation energy of a table and a time predicted from it.", energy),
		ops.Make("cure.factor", "Time at one temperature over the time at another.", factor),
	}
}

type stripsIn struct {
	Kind string `json:"kind,omitempty"`
	cutting.Field
}

type floorIn struct {
	Kind string `json:"kind,omitempty"`
	cutting.Floor
}

type roomIn struct {
	Shape string `json:"shape,omitempty"`
	wetarea.Room
}

type basinIn struct {
	Shape string `json:"shape,omitempty"`
	wetarea.Basin
}

type roundIn struct {
	Shape string `json:"shape,omitempty"`
	wetarea.RoundTank
}

type boxIn struct {
	Shape string `json:"shape,omitempty"`
	wetarea.BoxTank
}

type screedIn struct {
	Model string `json:"model,omitempty"`
	wetarea.Screed
}

// levelsIn are surveyed heights of a floor against its drain, each straight from it.
type levelsIn struct {
	Model string        `json:"model,omitempty"`
	Drain wetarea.Point `json:"drain_mm"`
	Level float64       `json:"drain_level_mm"`
	Spots []struct {
		At    wetarea.Point `json:"at_mm"`
		Level float64       `json:"level_mm"`
	} `json:"spots"`
	Rule float64 `json:"rule_n"`
}

func levels(in levelsIn) (wetarea.Fallen, error) {
	var list []wetarea.Level
	for _, s := range in.Spots {
		list = append(list, wetarea.Level{Height: s.Level, Away: wetarea.DistanceToSegment(s.At, in.Drain, in.Drain)})
	}
	return wetarea.JudgeLevels(in.Level, in.Rule, list)
}

func judgePressure(in pressureIn) (pressure.Verdict, error) {
	for _, each := range []struct {
		field string
		value float64
		least float64
	}{{"factor", in.Factor, 1}, {"positive_head_m", in.PositiveHead, 0}, {"negative_head_m", in.NegativeHead, 0}} {
		if each.value < each.least {
			return pressure.Verdict{}, fault.At(each.field, "number.too_small", "value", each.value, "least", each.least)
		}
	}
	return in.Asked.Judge(), nil
}

type pressureIn struct {
	Kind string `json:"kind,omitempty"`
	pressure.Asked
}

type movementIn struct {
	Kind string `json:"kind,omitempty"`
	pressure.Movement
}

type elongationIn struct {
	Kind     string  `json:"kind,omitempty"`
	Movement float64 `json:"movement_mm" minimum:"0"`
	Unbonded float64 `json:"unbonded_mm"`
	Share    float64 `json:"share,omitempty"`
}

type elongationOut struct {
	Elongation float64 `json:"elongation_percent"`
}

func elongation(in elongationIn) (out elongationOut, err error) {
	out.Elongation, err = pressure.Elongation(in.Movement, in.Unbonded, in.Share)
	return out, err
}

type classIn struct {
	Kind       string  `json:"kind,omitempty"`
	Elongation float64 `json:"elongation_percent" minimum:"0"`
}

type classOut struct {
	Class string `json:"class"`
}

type rateIn struct {
	Kind string `json:"kind,omitempty"`
	sheet.Rate
}

// claimIn is a sheet's rate beside the thickness and density it states.
type claimIn struct {
	Kind     string   `json:"kind,omitempty"`
	Rate     float64  `json:"rate_kg_per_m2" minimum:"0"` // mixed, a coat
	Wet      *float64 `json:"stated_wft_mm,omitempty"`
	Dry      *float64 `json:"stated_dft_mm,omitempty"`
	DryToWet float64  `json:"dry_to_wet_f,omitempty"`
	Density  float64  `json:"density_kg_per_L"`
}

type claimOut struct {
	FromRate     float64 `json:"wft_from_rate_mm"`
	Stated       float64 `json:"wft_stated_mm"`
	Disagreement float64 `json:"disagreement_percent"` // of the stated thickness
	Contradicts  bool    `json:"contradicts"`
}

func claim(in claimIn) (out claimOut, err error) {
	reduced, err := sheet.Rate{Rate: in.Rate, Unit: "kg/m2", Coats: 1, Per: "coat", Basis: "wet", Density: in.Density}.Reduce()
	if err != nil {
		return out, err
	}
	out.FromRate = *reduced.WetPerCoat
	switch {
	case in.Wet != nil:
		out.Stated = *in.Wet
	case in.Dry != nil && in.DryToWet > 0:
		out.Stated = *in.Dry / in.DryToWet
	}
	if !(out.Stated > 0) {
		return out, fault.At("stated_wft_mm", "number.missing")
	}
	out.Disagreement, out.Contradicts = sheet.Disagreement([]sheet.Implied{
		{From: "wft", Low: out.Stated, High: out.Stated}, {From: "rate", Low: out.FromRate, High: out.FromRate},
	})
	return out, nil
}

type sectionIn struct {
	Kind string `json:"kind,omitempty"`
	takeoff.Section
}

type primerIn struct {
	Kind string `json:"kind,omitempty"`
	takeoff.Primer
}

type overlayIn struct {
	Kind string `json:"kind,omitempty"`
	takeoff.Overlay
}

// coatCountOut is how many coats a film takes.
type coatCountOut struct {
	WetTotal   float64 `json:"wet_total_mm"`
	Coats      int     `json:"coats"`
	WetPerCoat float64 `json:"wft_per_coat_mm"`
}

func countCoats(in coatCountIn) (coatCountOut, error) {
	wet, err := in.Film.Wet()
	if err != nil {
		return coatCountOut{}, err
	}
	if !(in.GreatestWet > 0) {
		return coatCountOut{}, fault.At("greatest_wft_per_coat_mm", "number.not_positive", "value", in.GreatestWet)
	}
	coats := system.CoatsFor(wet, in.GreatestWet, in.SheetCoats)
	return coatCountOut{WetTotal: wet, Coats: coats, WetPerCoat: wet / float64(coats)}, nil
}

type additiveIn struct {
	Kind string `json:"kind,omitempty"`
	mixing.Additive
}

type catalystIn struct {
	Kind  string        `json:"kind,omitempty"`
	Temp  float64       `json:"temp_C"`
	Resin float64       `json:"resin_kg" minimum:"0"`
	Table []mixing.Dose `json:"table" maxItems:"100"`
}

type catalystOut struct {
	Refused bool     `json:"refused"` // outside the table
	Percent *float64 `json:"percent,omitempty"`
	Grams   *float64 `json:"catalyst_g,omitempty"`
}

func catalyst(in catalystIn) (catalystOut, error) {
	percent, refused := mixing.Catalyst(in.Table, in.Temp)
	if refused {
		return catalystOut{Refused: true}, nil
	}
	const gramsPerPercent = 10 // of a kilogram
	grams := in.Resin * percent * gramsPerPercent
	return catalystOut{Percent: &percent, Grams: &grams}, nil
}

type packsIn struct {
	Kind  string         `json:"kind,omitempty"`
	Need  int            `json:"need_g" minimum:"0"`
	Packs []takeoff.Pack `json:"packs"`
}

type coatsIn struct {
	Kind string `json:"kind,omitempty"`
	takeoff.Film
	Area    float64 `json:"area_m2" minimum:"0"`
	Density float64 `json:"density_kg_per_L" minimum:"0"`
	Texture float64 `json:"texture_R_mm" minimum:"0"`
	Waste   float64 `json:"waste_percent" minimum:"0"`
	Fleece  *struct {
		WettingCoat float64 `json:"wft_of_wetting_coat_mm" minimum:"0"`
		ShareBelow  float64 `json:"share_below" minimum:"0"`
	} `json:"fleece,omitempty"`
}

type coatsOut struct {
	takeoff.Mass
	BelowFleece *float64 `json:"below_fleece_kg,omitempty"`
	AboveFleece *float64 `json:"above_fleece_kg,omitempty"`
}

func coats(in coatsIn) (out coatsOut, err error) {
	if out.Mass, err = takeoff.CoatMass(in.Area, in.Film, in.Density, in.Area*in.Texture, in.Waste); err != nil || in.Fleece == nil {
		return out, err
	}
	wetting, err := takeoff.CoatMass(in.Area, takeoff.Film{WetTotal: in.Fleece.WettingCoat}, in.Density, 0, 0)
	if err != nil {
		return out, err
	}
	below, above := takeoff.SplitOverFleece(wetting.Net, in.Fleece.ShareBelow)
	out.BelowFleece, out.AboveFleece = &below, &above
	return out, nil
}

type coatCountIn struct {
	Kind string `json:"kind,omitempty"`
	takeoff.Film
}

type needIn struct {
	Kind  string  `json:"kind,omitempty"`
	Need  float64 `json:"need_kg" minimum:"0"`
	Waste float64 `json:"waste_percent" minimum:"0"`
	Pack  int     `json:"pack_g"`
}

func need(in needIn) (takeoff.Purchase, error) { return takeoff.Buy(in.Need, in.Waste, in.Pack) }

type beddingIn struct {
	Kind   string  `json:"kind,omitempty"`
	Length float64 `json:"length_mm" minimum:"0"`
	Width  float64 `json:"width_mm" minimum:"0"`
	Margin float64 `json:"margin_mm" minimum:"0"`
	Below  float64 `json:"rate_below_kg_per_m2" minimum:"0"`
	Above  float64 `json:"rate_above_kg_per_m2" minimum:"0"`
	Waste  float64 `json:"waste_percent" minimum:"0"`
}

func bedding(in beddingIn) (takeoff.Bedding, error) {
	return takeoff.BedBand(in.Length, in.Width, in.Margin, in.Below, in.Above, in.Waste), nil
}

type batchIn struct {
	Kind       string             `json:"kind,omitempty"`
	Batch      float64            `json:"batch_kg" minimum:"0"`
	Components []mixing.Component `json:"components"`
}

type batchOut struct {
	Masses  map[string]float64 `json:"masses_kg"`
	Volumes map[string]float64 `json:"volumes_L"`
}

func batch(in batchIn) (batchOut, error) {
	masses, volumes, err := mixing.Split(in.Batch, in.Components)
	return batchOut{masses, volumes}, err
}

type leastIn struct {
	Kind         string    `json:"kind,omitempty"`
	Resolution   float64   `json:"scale_resolution_g" minimum:"0"`
	Parts        []float64 `json:"parts"`
	Tolerance    float64   `json:"tolerance_percent"`
	AsDifference bool      `json:"as_difference,omitempty"`
}

type leastOut struct {
	Least float64 `json:"least_batch_kg"`
}

func leastBatch(in leastIn) (leastOut, error) {
	least, err := mixing.Least(in.Resolution, in.Parts, in.Tolerance, in.AsDifference)
	return leastOut{least}, err
}

type greatestIn struct {
	Kind string `json:"kind,omitempty"`
	mixing.Limits
}

type potLifeIn struct {
	Kind    string  `json:"kind,omitempty"`
	Table   []timed `json:"table"`
	Default float64 `json:"E_default_kJ,omitempty" minimum:"0"`
	Temp    float64 `json:"temp_C"`
}

// timed is a printed time, in minutes for pot lives and hours for waits.
type timed struct {
	Temp    float64 `json:"temp_C"`
	Minutes float64 `json:"min,omitempty"`
	Hours   float64 `json:"h,omitempty"`
}

func table(entries []timed, energy float64) cure.Table {
	t := cure.Table{DefaultE: energy}
	if energy == 0 {
		t.DefaultE = cure.DefaultCementitious
	}
	for _, e := range entries {
		t.Entries = append(t.Entries, cure.Entry{Temp: e.Temp, Time: e.Minutes + e.Hours})
	}
	return t
}

type potLifeOut struct {
	Energy  *float64 `json:"E_kJ_per_mol"`
	Refused bool     `json:"refused"`
	Minutes float64  `json:"pot_life_min"`
}

func potLife(in potLifeIn) (out potLifeOut, err error) {
	out.Minutes, out.Energy, out.Refused, err = mixing.PotLife(table(in.Table, in.Default), in.Temp)
	return out, err
}

type seriesIn struct {
	Kind     string  `json:"kind,omitempty"`
	Need     float64 `json:"need_kg" minimum:"0"`
	Greatest float64 `json:"greatest_batch_kg" minimum:"0"`
	Least    float64 `json:"least_batch_kg,omitempty" minimum:"0"`
	Kit      float64 `json:"kit_kg,omitempty" minimum:"0"`
}

func series(in seriesIn) (mixing.Series, error) {
	const mostBatches, leastNeed = 10000, 0.001
	if in.Need < leastNeed {
		return mixing.Series{}, fault.At("need_kg", "number.too_small", "value", in.Need, "least", leastNeed)
	}
	if in.Greatest > 0 && in.Need/in.Greatest > mostBatches || in.Kit > 0 && in.Need/in.Kit > mostBatches {
		return mixing.Series{}, fault.At("need_kg", "mixing.too_many_batches", "most", mostBatches)
	}
	if in.Kit > 0 {
		return mixing.PlanKits(in.Need, in.Greatest, in.Kit), nil
	}
	return mixing.Plan(in.Need, in.Greatest, in.Least), nil
}

type energyIn struct {
	Kind      string  `json:"kind,omitempty"`
	Table     []timed `json:"table"`
	Default   float64 `json:"E_default_kJ_per_mol" minimum:"0"`
	Predict   float64 `json:"predict_C"`
	CountsFor string  `json:"counts_for"` // "minimum" or "latest"
}

type energyOut struct {
	Fit     *float64 `json:"E_kJ_per_mol"`
	Refused bool     `json:"refused"`
	Used    float64  `json:"E_used_kJ_per_mol"`
	Hours   float64  `json:"hours"`
}

func energy(in energyIn) (out energyOut, err error) {
	t := table(in.Table, in.Default)
	if in.CountsFor == "latest" {
		out.Hours, _, err = t.At(in.Predict)
	} else {
		out.Hours, err = t.Minimum(in.Predict)
	}
	if err != nil {
		return out, err
	}
	fit, found, refused := t.Fit()
	if found {
		out.Fit = &fit
	}
	out.Refused, out.Used = refused, t.Used()
	return out, nil
}

type factorIn struct {
	Kind   string  `json:"kind,omitempty"`
	Energy float64 `json:"E_kJ_per_mol" minimum:"0"`
	Temp   float64 `json:"temp_C"`
	Ref    float64 `json:"ref_C"`
}

type factorOut struct {
	Factor float64 `json:"time_factor"`
}

func factor(in factorIn) (factorOut, error) {
	return factorOut{cure.Factor(in.Energy, in.Temp, in.Ref)}, nil
}
