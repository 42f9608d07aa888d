package opcases

import (
	"cmp"
	"dusha/core/ops"

	"dusha/core/climate"
	"dusha/core/cure"
	"dusha/core/fault"
	"dusha/core/film"
	"dusha/core/watertest"
)

// Stages are the single rules of what follows the mixing: film, climate, cure and water
// test, in the form of the worked cases like Rules.
func Stages() []ops.Op {
	return []ops.Op{
		ops.Make("film.stats", "Judges the readings of a surface.", filmStats),
		ops.Make("film.k", "Factor of the one-sided tolerance statement.", filmK),
		ops.Make("film.dft", "Dry film predicted from the wet coats.", filmDry),
		ops.Make("film.topup", "How much more to lay where the film is thin.", filmTopUp),
		ops.Make("film.idw", "Film thickness at places of a map, from readings of the same surface.", filmMap),
		ops.Make("film.count", "How many readings are asked.", filmCount),
		ops.Make("climate.dew", "Dew point and margin of a reading.", dew),
		ops.Make("climate.start", "May work start, by dew.", func(in startIn) (climate.Started, error) { return mayStart(in) }),
		ops.Make("climate.drying_rate", "Rate of drying against the reference climate.", dryingRate),
		ops.Make("climate.humidity", "Absolute humidity and its factor for moisture-curing resin.", humidity),
		ops.Make("climate.published", "Values that psychrometric tables print.", published),
		ops.Make("cure.series", "Progress of a stage over a series of climate.", cureSeries),
		ops.Make("cure.window", "Where a window between earliest and latest stands.", cureWindow),
		ops.Make("watertest.judge", "Judges a water test.", func(in judgeIn) (watertest.Judged, error) { return in.Test.Judge() }),
		ops.Make("watertest.duration", "Least duration of a water test.", func(in durationIn) (watertest.Duration, error) { return in.Plan.Duration() }),
		ops.Make("watertest.gauge", "Coarsest gauge for a wished duration.", func(in gaugeIn) (watertest.Gauge, error) { return in.GaugeFor(in.Wished, in.Gauges) }),
		ops.Make("watertest.hours", "Hours still needed to decide.", stillNeeded),
		ops.Make("watertest.t", "Student's t, one-sided.", quantile),
		ops.Make("watertest.density", "Density of water and what a level swells.", density),
		ops.Make("watertest.fill", "Filling of a floor.", func(in fillIn) (watertest.Fill, error) { return in.Floor.Fill() }),
		ops.Make("watertest.tank_fill", "Staged filling of a tank.", func(in tankFillIn) (watertest.TankFill, error) {
			return watertest.FillTank(in.Area*in.Depth, in.Area, in.Depth, in.Tap, in.RateLimit)
		}),
		ops.Make("watertest.load", "Load of a depth of water.", load),
	}
}

type statsIn struct {
	Kind     string        `json:"kind,omitempty"`
	Readings [][2]*float64 `json:"readings_mm,omitempty" minimum:"0"` // [last wetted, next dry tooth or null]
	Teeth    []float64     `json:"gauge_teeth_mm,omitempty" maxItems:"200" minimum:"0"`
	LastWet  []float64     `json:"last_wetted_mm,omitempty"` // 0: none wet
	film.Asked
}

type statsOut struct {
	film.Verdict
	Brackets [][2]*float64 `json:"brackets_mm"`
}

func filmStats(in statsIn) (statsOut, error) {
	out := statsOut{Brackets: in.Readings}
	if len(in.Teeth) > 0 {
		out.Brackets = [][2]*float64{}
		for _, tooth := range in.LastWet {
			b, err := bracketOf(in.Teeth, tooth)
			if err != nil {
				return out, err
			}
			out.Brackets = append(out.Brackets, [2]*float64{&b.Lower, b.Upper})
		}
	}
	var readings []film.Bracket
	for _, pair := range out.Brackets {
		if pair[0] == nil {
			return out, fault.At("readings_mm", "film.no_tooth")
		}
		readings = append(readings, film.Bracket{Lower: *pair[0], Upper: pair[1]})
	}
	out.Verdict = film.Judge(readings, in.Asked)
	return out, nil
}

type kIn struct {
	Kind  string  `json:"kind,omitempty"`
	N     int     `json:"n" maximum:"100000"`
	P     float64 `json:"p" minimum:"0"`
	Gamma float64 `json:"gamma"`
}

type kOut struct {
	K float64 `json:"tolerance_k"`
}

func filmK(in kIn) (kOut, error) {
	if in.N < 2 {
		return kOut{}, fault.At("n", "number.too_small", "value", in.N, "least", 2)
	}
	if err := cmp.Or(aShare("p", in.P), aShare("gamma", in.Gamma)); err != nil {
		return kOut{}, err
	}
	return kOut{film.Factor(in.N, in.P, in.Gamma)}, nil
}

// aShare refuses what is no probability to reckon with.
func aShare(field string, value float64) error {
	const nextToNone = 1e-9
	switch {
	case !(value >= nextToNone):
		return fault.At(field, "number.too_small", "value", value, "least", nextToNone)
	case value > 1-nextToNone:
		return fault.At(field, "number.too_large", "value", value, "most", 1-nextToNone)
	}
	return nil
}

type dryIn struct {
	Kind  string      `json:"kind,omitempty"`
	Coats []film.Coat `json:"coats"`
}

type dryOut struct {
	Predicted float64 `json:"predicted_dft_mm"`
}

func filmDry(in dryIn) (dryOut, error) {
	if len(in.Coats) == 0 {
		return dryOut{}, fault.At("coats", "list.empty")
	}
	return dryOut{film.PredictDry(in.Coats)}, nil
}

type topUpIn struct {
	Kind string `json:"kind,omitempty"`
	film.Missing
	State    string         `json:"state"` // "wet" or "skinned"; a surface's own goes before it
	Surfaces []namedSurface `json:"surfaces"`
}

// NamedSurface is a deficient surface by its name.
type namedSurface struct {
	Name string `json:"name"`
	film.Deficient
}

type topUpOut struct {
	Surfaces []film.TopUp `json:"surfaces"`
	Total    float64      `json:"total_kg"`
}

func filmTopUp(in topUpIn) (topUpOut, error) {
	out := topUpOut{Surfaces: []film.TopUp{}}
	for _, s := range in.Surfaces {
		if s.State == "" {
			s.State = in.State
		}
		up, err := film.TopUpFor(s.Deficient, in.Missing)
		if err != nil {
			return out, err
		}
		out.Surfaces, out.Total = append(out.Surfaces, up), out.Total+up.Kg
	}
	return out, nil
}

type countIn struct {
	Kind   string    `json:"kind,omitempty"`
	PerM2  float64   `json:"per_m2" minimum:"0"`
	Groups []float64 `json:"surface_groups_m2" minimum:"0"`
	Runs   []float64 `json:"junction_runs_mm" minimum:"0"`
}

type mapIn struct {
	Kind     string    `json:"kind,omitempty"`
	Sampling float64   `json:"sampling_mm" minimum:"1" maximum:"100000"`
	Readings []mapRead `json:"readings" maxItems:"2000"`
	Points   []mapAt   `json:"points" maxItems:"2000"`
}

type mapAt struct {
	Surface string     `json:"surface" maxLength:"80"`
	At      [2]float64 `json:"at_mm" minimum:"-1000000" maximum:"1000000"`
}

type mapRead struct {
	mapAt
	Thickness float64 `json:"mm" minimum:"0" maximum:"100"`
}

type mapOut struct {
	Values []*float64 `json:"values_mm"` // null: not measured
}

func filmMap(in mapIn) (mapOut, error) {
	bySurface := map[string][]film.Sample{}
	for _, r := range in.Readings {
		bySurface[r.Surface] = append(bySurface[r.Surface], film.Sample{Along: r.At[0], Up: r.At[1], Thickness: r.Thickness})
	}
	out := mapOut{Values: []*float64{}}
	for _, p := range in.Points {
		out.Values = append(out.Values, film.At(bySurface[p.Surface], p.At[0], p.At[1], in.Sampling))
	}
	return out, nil
}

func filmCount(in countIn) (film.Count, error) {
	return film.ReadingsFor(in.Groups, in.Runs, in.PerM2), nil
}

type dewIn struct {
	Kind string `json:"kind,omitempty"`
	climate.Air
	Margin *float64 `json:"required_margin_K,omitempty" minimum:"0"` // left out: the guidance of ISO 8502-4
}

type dewOut struct {
	Refused  bool     `json:"refused"`
	Clamped  bool     `json:"clamped"`
	DewPoint *float64 `json:"dew_point_C"`
	Pressure *float64 `json:"es_hPa"`
	Margin   *float64 `json:"margin_K"`
	OK       *bool    `json:"ok"`
}

func dew(in dewIn) (dewOut, error) {
	used, clamped, err := climate.Humidity(in.Humidity)
	if err != nil {
		return dewOut{Refused: true}, nil //nolint // a refused reading is the answer here
	}
	point, pressure := climate.DewPoint(in.Temp, used), climate.Saturation(in.Temp)
	margin := in.Base - point
	wanted := climate.DewMargin
	if in.Margin != nil {
		wanted = *in.Margin
	}
	ok := margin >= wanted
	return dewOut{Clamped: clamped, DewPoint: &point, Pressure: &pressure, Margin: &margin, OK: &ok}, nil
}

type startIn struct {
	Kind string `json:"kind,omitempty"`
	climate.Start
}

func mayStart(in startIn) (climate.Started, error) {
	switch needed := max(1, in.RainSafe); {
	case in.Wanted != "dry" && in.Wanted != "damp" && in.Wanted != "ssd":
		return climate.Started{}, fault.At("wanted_state", "choice.unknown", "typed", fault.Short(in.Wanted))
	case in.Wanted == "dry" && len(in.Hours) == 0, in.Wanted != "dry" && len(in.Hours) < needed:
		return climate.Started{}, fault.At("hours", "climate.too_few_hours", "value", len(in.Hours), "least", needed)
	}
	for i := range in.Hours {
		used, _, err := climate.Humidity(in.Hours[i].Humidity)
		if err != nil {
			return climate.Started{}, err
		}
		in.Hours[i].Humidity = used
	}
	return climate.MayStart(in.Start), nil
}

type dryingIn struct {
	Kind        string   `json:"kind,omitempty"`
	Temp        float64  `json:"air_C"`
	Base        *float64 `json:"substrate_C,omitempty"` // the air's where not given
	Humidity    float64  `json:"rh_percent"`
	RefTemp     float64  `json:"ref_C"`
	RefHumidity float64  `json:"ref_rh_percent" minimum:"0"`
	FilmForming float64  `json:"film_forming_C"`
}

func (in dryingIn) air() (a, reference climate.Air) {
	return airOf(in.Temp, in.Base, in.Humidity), airOf(in.RefTemp, nil, in.RefHumidity)
}

func airOf(temp float64, base *float64, humidity float64) climate.Air {
	a := climate.Air{Temp: temp, Base: temp, Humidity: humidity}
	if base != nil {
		a.Base = *base
	}
	return a
}

type dryingOut struct {
	Rate float64 `json:"rate"`
	Raw  float64 `json:"raw_ratio"`
}

func dryingRate(in dryingIn) (out dryingOut, err error) {
	a, reference := in.air()
	if a.Humidity, _, err = climate.Humidity(a.Humidity); err != nil {
		return out, err
	}
	out.Rate, out.Raw = climate.DryingRate(a, reference, in.FilmForming)
	return out, nil
}

type humidityIn struct {
	Kind        string  `json:"kind,omitempty"`
	Temp        float64 `json:"air_C"`
	Humidity    float64 `json:"rh_percent"`
	RefTemp     float64 `json:"ref_C"`
	RefHumidity float64 `json:"ref_rh_percent" minimum:"0"`
}

type humidityOut struct {
	Vapour    float64 `json:"absolute_humidity_g_per_m3"`
	Reference float64 `json:"ref_absolute_humidity_g_per_m3"`
	Factor    float64 `json:"pu_humidity_factor"`
}

func humidity(in humidityIn) (humidityOut, error) {
	a, reference := airOf(in.Temp, nil, in.Humidity), airOf(in.RefTemp, nil, in.RefHumidity)
	return humidityOut{
		climate.Vapour(a.Temp, a.Humidity), climate.Vapour(reference.Temp, reference.Humidity), climate.HumidityFactor(a, reference),
	}, nil
}

type publishedIn struct {
	Kind     string  `json:"kind,omitempty"`
	Quantity string  `json:"quantity"`
	Temp     float64 `json:"air_C"`
	Humidity float64 `json:"rh_percent,omitempty"`
}

type publishedOut struct {
	Pressure float64  `json:"es_hPa"`
	DewPoint *float64 `json:"dew_point_C"`
	Vapour   *float64 `json:"absolute_humidity_g_per_m3"`
}

func published(in publishedIn) (publishedOut, error) {
	out := publishedOut{Pressure: climate.Saturation(in.Temp)}
	if in.Humidity > 0 {
		point, vapour := climate.DewPoint(in.Temp, in.Humidity), climate.Vapour(in.Temp, in.Humidity)
		out.DewPoint, out.Vapour = &point, &vapour
	}
	return out, nil
}

type seriesCureIn struct {
	Kind        string    `json:"kind,omitempty"`
	Law         string    `json:"law"` // "arrhenius", "drying" or "pu"
	Temp        []float64 `json:"temp_C"`
	Base        []float64 `json:"substrate_C,omitempty"`
	Humidity    []float64 `json:"rh_percent,omitempty"`
	Step        float64   `json:"step_h,omitempty" minimum:"0"` // 0: one hour
	Table       []timed   `json:"table,omitempty"`
	Default     float64   `json:"E_default_kJ_per_mol,omitempty" minimum:"0"`
	CountsFor   string    `json:"counts_for"`
	RefTemp     float64   `json:"ref_C,omitempty"`
	RefHumidity float64   `json:"ref_rh_percent,omitempty" minimum:"0"`
	FilmForming float64   `json:"film_forming_C,omitempty"`
	Needed      float64   `json:"needed_h,omitempty"`
	Wet         float64   `json:"wft_mm,omitempty" minimum:"0"`
	Nominal     float64   `json:"nominal_wft_mm,omitempty" minimum:"0"`
	Exponent    float64   `json:"thickness_exponent,omitempty" minimum:"0"`
	Shortest    float64   `json:"shortest_printed_h,omitempty" minimum:"0"`
	Band        bool      `json:"band,omitempty"`
}

type seriesCureOut struct {
	Progress float64  `json:"progress"`
	Reached  *float64 `json:"time_to_stage_h"`
	Needed   *float64 `json:"needed_h_for_this_film"`
	Early    *float64 `json:"early_h"`
	Late     *float64 `json:"late_h"`
}

// stretches makes a series of equal steps.
func stretches(temps, bases, humidities []float64, step float64) ([]cure.Stretch, error) {
	if step == 0 {
		step = 1
	}
	if len(temps) == 0 {
		return nil, fault.At("temp_C", "list.empty")
	}
	if len(bases) > 0 && len(bases) != len(temps) || len(humidities) > 0 && len(humidities) != len(temps) {
		return nil, fault.At("temp_C", "cure.series_of_unequal_length", "value", len(temps))
	}
	series := make([]cure.Stretch, len(temps))
	for i, temp := range temps {
		var base *float64
		if len(bases) > 0 {
			base = &bases[i]
		}
		rh := 0.0
		if len(humidities) > 0 {
			used, _, err := climate.Humidity(humidities[i])
			if err != nil {
				return nil, err
			}
			rh = used
		}
		series[i] = cure.Stretch{Hours: step, Air: airOf(temp, base, rh)}
	}
	return series, nil
}

func cureSeries(in seriesCureIn) (out seriesCureOut, err error) {
	series, err := stretches(in.Temp, in.Base, in.Humidity, in.Step)
	if err != nil {
		return out, err
	}
	reference := airOf(in.RefTemp, nil, in.RefHumidity)
	var wait cure.Wait
	switch in.Law {
	case "arrhenius":
		wait, err = cure.ByTable(table(in.Table, in.Default), in.CountsFor)
	case "pu":
		if len(in.Humidity) == 0 {
			return out, fault.At("rh_percent", "list.empty")
		}
		wait, err = cure.Moisture(table(in.Table, in.Default), in.CountsFor, reference)
	case "drying":
		if len(in.Humidity) == 0 {
			return out, fault.At("rh_percent", "list.empty")
		}
		film := cure.Drying{
			Needed: in.Needed, Reference: reference, FilmForming: in.FilmForming,
			Wet: in.Wet, Nominal: in.Nominal, Exponent: in.Exponent, Shortest: in.Shortest,
		}
		needed := film.ForThisFilm()
		out.Needed = &needed
		wait, err = film.Wait(in.CountsFor)
	default:
		err = fault.At("law", "choice.unknown", "typed", in.Law)
	}
	if err != nil {
		return out, err
	}
	out.Progress = wait.Progress(series, float64(len(series))*series[0].Hours)
	if hours, reached := wait.Reached(series); reached {
		out.Reached = &hours
	}
	if in.Band {
		out.Early, out.Late = wait.Band(series)
	}
	return out, nil
}

type windowIn struct {
	Kind     string    `json:"kind,omitempty"`
	Temp     []float64 `json:"temp_C"`
	Earliest []timed   `json:"earliest_table"`
	Latest   []timed   `json:"latest_table"`
	Default  float64   `json:"E_default_kJ_per_mol" minimum:"0"`
	Now      float64   `json:"now_h" minimum:"0"`
}

func cureWindow(in windowIn) (cure.Standing, error) {
	series, err := stretches(in.Temp, nil, nil, 1)
	if err != nil {
		return cure.Standing{}, err
	}
	earliest, err := cure.ByTable(table(in.Earliest, in.Default), cure.Least)
	if err != nil {
		return cure.Standing{}, err
	}
	w := cure.Window{Earliest: earliest}
	if len(in.Latest) > 0 {
		latest, err := cure.ByTable(table(in.Latest, in.Default), cure.Latest)
		if err != nil {
			return cure.Standing{}, err
		}
		w.Latest = &latest
		if _, opens, shuts, crossed := cure.Crossed(table(in.Earliest, in.Default), table(in.Latest, in.Default)); crossed {
			return cure.Standing{}, fault.At("latest_table", "sheet.latest_before_earliest", "value", shuts, "least", opens)
		}
	}
	return w.At(cure.Edges{Cold: series, Warm: series}, in.Now), nil
}

type judgeIn struct {
	Kind string `json:"kind,omitempty"`
	watertest.Test
}

type durationIn struct {
	Kind string `json:"kind,omitempty"`
	watertest.Plan
}

type gaugeIn struct {
	Kind string `json:"kind,omitempty"`
	watertest.Plan
	Wished float64   `json:"wished_h" minimum:"0"`
	Gauges []float64 `json:"gauges_mm" minimum:"0"`
}

type hoursIn struct {
	Kind string `json:"kind,omitempty"`
	watertest.Stand
	Water *watertest.Readings `json:"test,omitempty"` // readings instead of their figures
	Pan   *watertest.Pan      `json:"pan,omitempty"`
}

type hoursOut struct {
	watertest.StillNeeded
	Loss     float64 `json:"r_mm_per_h"`
	Scatter  float64 `json:"scatter_mm"`
	PanDoubt float64 `json:"pan_doubt_mm_per_h"`
}

func stillNeeded(in hoursIn) (out hoursOut, err error) {
	stand := in.Stand
	if in.Water != nil {
		test := watertest.Test{Water: *in.Water, Pan: in.Pan, RMax: in.RMax, Hold: in.Hold}
		judged, err := test.Judge()
		if err != nil {
			return out, err
		}
		stand = test.Standing(judged)
	}
	out.Loss, out.Scatter, out.PanDoubt = stand.Loss, stand.Scatter, stand.PanDoubt
	out.StillNeeded, err = stand.StillNeeded()
	return out, err
}

type tIn struct {
	Kind string  `json:"kind,omitempty"`
	P    float64 `json:"p" minimum:"0"`
	DOF  float64 `json:"dof"`
}

type tOut struct {
	T float64 `json:"t"`
}

func quantile(in tIn) (tOut, error) {
	if err := aShare("p", in.P); err != nil {
		return tOut{}, err
	}
	const leastFreedom = 0.1
	if in.DOF < leastFreedom {
		return tOut{}, fault.At("dof", "number.too_small", "value", in.DOF, "least", leastFreedom)
	}
	return tOut{watertest.Quantile(in.P, in.DOF)}, nil
}

type densityIn struct {
	Kind   string  `json:"kind,omitempty"`
	Temp   float64 `json:"temp_C"`
	First  float64 `json:"first_temp_C"`
	Height float64 `json:"h_mm" minimum:"0"`
}

type densityOut struct {
	Density    float64 `json:"rho_kg_per_m3"`
	Correction float64 `json:"correction_mm"`
}

func density(in densityIn) (densityOut, error) {
	return densityOut{watertest.Density(in.Temp), watertest.Swelling(in.Height, in.First, in.Temp)}, nil
}

type fillIn struct {
	Kind string `json:"kind,omitempty"`
	watertest.Floor
}

type tankFillIn struct {
	Kind      string  `json:"kind,omitempty"`
	Area      float64 `json:"plan_area_m2"`
	Depth     float64 `json:"depth_mm" minimum:"0"`
	Tap       float64 `json:"tap_L_per_min"`
	RateLimit float64 `json:"rate_limit_mm_per_h"`
}

type loadIn struct {
	Kind      string   `json:"kind,omitempty"`
	Depth     float64  `json:"depth_mm" minimum:"0"`
	Allowance *float64 `json:"allowance_kPa,omitempty" minimum:"0"`
}

type loadOut struct {
	Load float64 `json:"load_kPa"`
	Mass float64 `json:"load_kg_per_m2"`
	Stop bool    `json:"stop_ask_engineer"`
}

func load(in loadIn) (loadOut, error) {
	out := loadOut{Load: watertest.Load(in.Depth), Mass: watertest.LoadMass(in.Depth)}
	out.Stop = in.Allowance == nil || out.Load > *in.Allowance // nothing is filled without one
	return out, nil
}

// bracketOf reads the last wetted tooth on a gauge of the given teeth, mm in rising order
// and in uneven steps: 0 means that none was wetted.
func bracketOf(teeth []float64, lastWet float64) (film.Bracket, error) {
	if lastWet == 0 && len(teeth) > 0 {
		return film.Bracket{Upper: &teeth[0]}, nil
	}
	for i, tooth := range teeth {
		switch {
		case tooth != lastWet:
		case i == len(teeth)-1:
			return film.Bracket{Lower: tooth}, nil
		default:
			return film.Bracket{Lower: tooth, Upper: &teeth[i+1]}, nil
		}
	}
	return film.Bracket{}, fault.At("last_wet_mm", "film.no_such_tooth", "value", lastWet)
}
