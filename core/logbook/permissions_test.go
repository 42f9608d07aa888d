package logbook_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/film"
	"dusha/core/logbook"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/units"
	"dusha/core/wetarea"
)

// A permission is yes on what is there, fresh and agrees; no with what mends it; not known with the
// one thing to look at, which shuts like no. The table is printed into docs/permissions.md.
type permission struct {
	of, when string
	answer   func(t *testing.T) (says, key string)
	says     string
	key      string
}

const (
	yes     = "yes"
	no      = "no"
	unknown = "not_known"
)

// room is a new wet area of the hostel: a rectangle of 3.2 × 2.4 m with upstands, its base as it is
// said to be, with the sample system planned on it.
func room(t *testing.T, name string, patch map[string]string, changes ...func(*system.System)) *working {
	t.Helper()
	typed := map[string]string{
		"length": "3200", "width": "2400", "walls.a.height": "100", "walls.b.height": "100", "walls.c.height": "100", "walls.d.height": "100",
		"doorway.wall": "c", "doorway.from_left": "1000", "doorway.width": "900", "doorway.height": "2000", "doorway.water_stop": "20",
		"drain.from_d": "1600", "drain.from_a": "500", "drain.diameter": "110", "pipes.count": "0",
	}
	for field, text := range patch {
		typed["patches"], typed["patches.1."+field] = "1", text
	}
	return areaOf(t, "rectangle", typed, name, changes...)
}

// areaOf is an area of its own, surveyed and planned.
func areaOf(t *testing.T, form string, typed map[string]string, name string, changes ...func(*system.System)) *working {
	t.Helper()
	w := hostel(t)
	w.area = "019cb000-0000-7000-8000-0000000f0001"
	asked, err := wetarea.Ask(form, typed)
	if err != nil || asked.Area == nil {
		t.Fatal(err, asked.Form.Faults())
	}
	w.add(-72*time.Hour, "area.opened", map[string]any{"name": "A room of the table"})
	survey := w.add(-71*time.Hour, "survey", wetarea.Survey{Form: form, Answers: asked.Form.Answers()})
	w.add(-70*time.Hour, "plan", systemtest.Plan(survey, "sample."+name, changes...))
	return w
}

// sound is a base of which all is known.
func sound() map[string]string {
	return map[string]string{"surface": "all", "material": "concrete", "age": "400", "moisture": "3", "method": "carbide", "soundness": "sound"}
}

func base(changes ...string) map[string]string {
	p := sound()
	for i := 0; i+1 < len(changes); i += 2 {
		if p[changes[i]] = changes[i+1]; changes[i+1] == "" {
			delete(p, changes[i])
		}
	}
	return p
}

// passTo goes on by name with every step before one.
func (w *working) passTo(step string) *working {
	w.t.Helper()
	for _, s := range w.fold(w.texts).Order.Steps() {
		if s.ID == step {
			return w
		}
		w.add(-60*time.Hour, "overridden", map[string]any{"step": s.ID, "person": w.made.Named["lead"], "reason": "of the table"})
	}
	w.t.Fatalf("no step %s", step)
	return nil
}

// surfaces of the room.
var surfaces = []string{"floor", "wall.a", "wall.b", "wall.c", "wall.d"}

// coated has the first coat laid at noon, every step before passed by name, and looks at the second.
func coated(t *testing.T, name string) *working {
	w := room(t, name, sound()).passTo("coat_1")
	w.add(0, "laid", map[string]any{"step": "coat_1", "surfaces": surfaces, "kg": 20})
	w.add(time.Minute, "overridden", map[string]any{"step": "coat_1_accepted", "person": w.made.Named["lead"], "reason": "of the table"})
	return w
}

func (w *working) air(after time.Duration, air, base, humidity float64, more ...any) *working {
	body := map[string]any{"air_C": air, "substrate_C": base, "rh_percent": humidity}
	for i := 0; i+1 < len(more); i += 2 {
		body[more[i].(string)] = more[i+1]
	}
	w.add(after, "climate", body)
	return w
}

func (w *working) touched(after time.Duration) *working {
	w.add(after, "touched", map[string]any{"step": "coat_2", "found": []string{"firm", "no_tack", "no_transfer"}})
	return w
}

// counted has so much of everything that nothing is short.
func (w *working) countedAll(after time.Duration) *working {
	area := w.fold(w.texts)
	for _, item := range area.Takeoff.Items {
		w.add(after, "stock.counted", map[string]any{"sheet": item.Sheet, "part": item.Part, "packs": []map[string]any{{"amount": 100, "count": 10}}}, ofJob)
	}
	return w
}

// blocked is what a step's block says.
func blocked(w *working, step string, after time.Duration) (says, key string) {
	w.t.Helper()
	b := w.step(w.look(after), step).Block
	if b == nil {
		return yes, ""
	}
	if check, is := b.Args["check"].(string); is {
		return b.Says, b.Key + " of " + check
	}
	return b.Says, b.Key
}

// second asks whether the second coat may be laid so long after noon.
func second(system string, after time.Duration, with func(*working)) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := coated(t, system).countedAll(time.Minute)
		with(w)
		return blocked(w, "coat_2", after)
	}
}

// first asks whether the first coat may be begun at noon.
func first(system string, with func(*working)) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := room(t, system, sound()).passTo("coat_1").countedAll(-time.Hour)
		with(w)
		return blocked(w, "coat_1", 0)
	}
}

// firstOf asks the same of a system whose first coat is said otherwise.
func firstOf(name string, change func(*system.Step), with ...func(*working)) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := room(t, name, sound(), func(s *system.System) {
			own := system.Step{ID: "coat_1"}
			change(&own)
			if own.Face == mindsRainOf { // said of the layer, not of the step
				own.Face = ""
				film, _ := s.Film()
				i := slices.IndexFunc(s.Layers, func(l system.Layer) bool { return l.ID == film.ID })
				s.Layers[i].Coats = slices.Clone(s.Layers[i].Coats)
				s.Layers[i].Coats[0].Minds = []system.Minds{{What: "rain", Until: "wetted_through"}}
			}
			s.Stages = append(slices.Clip(s.Stages), system.Stage{ID: "coat", Steps: []system.Step{own}})
		}).passTo("coat_1").countedAll(-time.Hour)
		for _, each := range with {
			each(w)
		}
		return blocked(w, "coat_1", 0)
	}
}

const mindsRainOf = "minds rain"

func mindsRain(s *system.Step) { s.Face = mindsRainOf }

func permitted(kind string) func(*system.Step) { return func(s *system.Step) { s.Permit = kind } }

func warmAir(w *working) { w.air(-time.Hour, 18, 18, 55) }

// permit gives one that ends some time from noon.
func permit(kind string, ends time.Duration) func(*working) {
	return func(w *working) {
		warmAir(w)
		w.add(-3*time.Hour, "permit.given", map[string]any{"permit": kind, "number": "7", "giver": "Works safety office", "until": noon.Add(ends).Format(time.RFC3339)})
	}
}

func gas(at time.Duration, oxygen float64) func(*working) {
	return func(w *working) {
		w.add(at, "gas.tested", map[string]any{"oxygen_percent": oxygen, "explosive_percent": 0, "meter": "4-gas"})
	}
}

// manned names two who do it, and one who holds the licence.
func manned(licensed bool) func(*working) {
	return func(w *working) {
		warmAir(w)
		body := map[string]any{"step": "coat_1", "people": []string{w.made.Named["inspector"], w.made.Named["applicator"]}}
		if licensed {
			body["holder"], body["licence"] = w.made.Named["applicator"], "HB 12"
		}
		w.add(-time.Hour, "manned", body)
	}
}

// accepts asks whether the base may be accepted.
func accepts(system string, patch map[string]string, with ...func(*working)) func(*testing.T) (string, string) {
	return func(t *testing.T) (says, key string) {
		w := room(t, system, patch)
		for _, each := range with {
			each(w)
		}
		says = yes
		for _, gate := range w.step(w.look(0), "substrate_accepted").Gates {
			if gate.Hold && (says == yes || says == unknown && gate.Says == no) {
				says, key = gate.Says, gate.Key
			}
		}
		return says, key
	}
}

// combs asks what the film of the floor is, read at places (along, up) with teeth.
func combs(kg float64, with func(*working), teeth ...float64) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := room(t, "flexible_cementitious", sound()).passTo("coat_1")
		w.add(0, "laid", map[string]any{"step": "coat_1", "surfaces": surfaces, "kg": kg})
		places := [][2]float64{{400, 400}, {1200, 500}, {2000, 400}, {2800, 500}, {400, 1900}, {1200, 1800}, {2000, 1900}, {2800, 1800}, {1600, 1200}}
		for i, at := range places {
			w.add(time.Duration(i+1)*time.Minute, "read", map[string]any{"step": "coat_1", "surface": "floor", "along_mm": at[0], "up_mm": at[1], "last_wet_mm": teeth[i%len(teeth)], "next_dry_mm": teeth[i%len(teeth)] + 0.1})
		}
		for i, wall := range []string{"wall.a", "wall.b", "wall.c", "wall.d"} {
			for k, along := range []float64{200, 1000, 2100, 3000} {
				if along < 2300 || wall == "wall.a" || wall == "wall.c" {
					if wall == "wall.c" && along == 1000 {
						along = 700
					}
					w.add(time.Duration(20+4*i+k)*time.Minute, "read", map[string]any{"step": "coat_1", "surface": wall, "along_mm": along, "up_mm": 50, "last_wet_mm": 1.2, "next_dry_mm": 1.3})
				}
			}
		}
		if with != nil {
			with(w)
		}
		verdict := w.look(3 * time.Hour).Coats[0].Surfaces[0].Film.Says
		return map[string]string{film.Enough: yes, film.Thin: no, film.Thick: no, film.TooFew: unknown, film.NotKnown: unknown}[verdict], "film.says." + verdict
	}
}

// basin asks the verdict of a water test whose level falls so many mm an hour beside a pan.
func basin(hours int, loss float64, with func(w *working, hour int, body map[string]any)) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := filled(t)
		for hour := 0; hour <= hours; hour++ {
			body := map[string]any{"step": "test", "water_mm": 76 - (0.08+loss)*float64(hour), "pan_mm": 52 - 0.08*float64(hour), "outside": "dry"}
			if with != nil {
				with(w, hour, body)
			}
			w.add(time.Duration(hour)*time.Hour, "test.read", body)
		}
		return verdictOf(w, time.Duration(hours)*time.Hour)
	}
}

// tank asks the verdict of a tank that drinks 3 mm in its first days, read for so many hours.
func tank(soak string, hours int, again ...int) func(*testing.T) (string, string) {
	return func(t *testing.T) (string, string) {
		w := areaOf(t, "round_tank", map[string]string{"diameter": "1800", "tank_height": "1600", "water_depth": "1450"}, "flexible_cementitious")
		answers := map[string]units.Measure{}
		for id, text := range map[string]string{
			"tap": "10", "standing": "0", "allowance": "30", "allowed_by": "Engineer", "allowed_from": "letter", "goes_to": "garden", "tolerance": "0.05", "resolution": "0.1",
			"interval": "1", "hold": "24", "soak": soak, "pan": "afloat", "evaporation": "0.08",
		} {
			answers[id] = units.Measure{Typed: text}
		}
		w.add(-time.Hour, "test.planned", map[string]any{"step": "test_plan", "answers": answers})
		w.add(0, "test.filled", map[string]any{"step": "test", "why": "filled"})
		for hour := 0; hour <= hours; hour++ {
			drunk := 3 * (1 - math.Exp(-float64(hour)/9))
			w.read(time.Duration(hour)*time.Hour, 1450-0.08*float64(hour)-drunk, 52-0.08*float64(hour), "water_C", 15)
		}
		for _, more := range again { // filled again an hour later, and read for so many
			w.add(time.Duration(hours+1)*time.Hour, "test.filled", map[string]any{"step": "test", "why": "filled"})
			for hour := range more {
				w.read(time.Duration(hours+1+hour)*time.Hour, 1450-0.08*float64(hour), 52-0.08*float64(hour), "water_C", 15)
			}
			hours += more
		}
		return verdictOf(w, time.Duration(hours)*time.Hour)
	}
}

func verdictOf(w *working, after time.Duration) (string, string) {
	look := w.look(after).Test
	says := map[string]string{logbook.FindsHolds: yes, logbook.FindsLocalMet: yes, logbook.FindsLeaks: no}[look.Finding]
	if look.SoFar && says == yes || says == "" {
		says = unknown
	}
	return says, look.Reason.Key
}

func seen(at int, outside, damp string) func(*working, int, map[string]any) {
	return func(_ *working, hour int, body map[string]any) {
		if hour == at {
			body["outside"], body["where"] = outside, "ceiling below"
			if damp != "" {
				body["damp"] = damp
			}
		}
	}
}

// roof says that an area lies in the open.
func roof(w *working) { w.add(-3*time.Hour, "air.place", map[string]any{"place": "outside"}) }

// forecast is a room in the open whose weather ahead was read.
func forecast(dry time.Duration, coldest, wind float64) func(*working) {
	return func(w *working) {
		roof(w)
		w.air(-10*time.Minute, 18, 18, 55)
		w.add(-30*time.Minute, "forecast.read", map[string]any{"dry_until": noon.Add(dry).Format(time.RFC3339), "coldest_C": coldest, "wind_m_per_s": wind, "from": "the radio"})
	}
}

func permissions() []permission {
	h := time.Hour
	dispersion := func(w *working, air, base, humidity float64) {
		for at := time.Duration(0); at <= 8*h; at += 4 * h {
			w.air(at, air, base, humidity)
		}
		w.touched(8 * h)
	}
	leak := func(w *working) {
		w.add(-2*h, "leak.found", map[string]any{"surface": "floor", "along_mm": 500, "up_mm": 500, "state": "running"})
	}
	return []permission{
		// The base.
		{"the base is accepted", "all of it is known and fits", accepts("flexible_cementitious", sound()), yes, ""},
		{"the base is accepted", "nobody said what it is", accepts("flexible_cementitious", nil), unknown, "gate.unknown_base"},
		{"the base is accepted", "its age is not known", accepts("flexible_cementitious", base("age", "")), unknown, "gate.unknown_age"},
		{"the base is accepted", "it is younger than the rule asks", accepts("flexible_cementitious", base("age", "10")), no, "gate.too_young"},
		{"the base is accepted", "its moisture was not measured", accepts("flexible_cementitious", base("moisture", "", "method", "")), unknown, "gate.unknown_moisture"},
		{"the base is accepted", "it is damper than the sheet takes", accepts("flexible_cementitious", base("moisture", "9")), no, "gate.too_wet"},
		{"the base is accepted", "nobody tapped it", accepts("flexible_cementitious", base("soundness", "")), unknown, "gate.unknown_soundness"},
		{"the base is accepted", "it is hollow", accepts("flexible_cementitious", base("soundness", "hollow")), no, "gate.weak"},
		{"the base is accepted", "water from behind, and the system is rated for one side", accepts("flexible_cementitious", base("water_side", "negative", "head", "1000")), no, "gate.from_behind"},
		{"the base is accepted", "water from behind of a height that nobody knows", accepts("crystallising_slurry", base("water_side", "negative")), unknown, "gate.unknown_head"},
		{"the base is accepted", "a leak runs", accepts("flexible_cementitious", sound(), leak), no, "gate.leak"},
		{"the base is accepted", "only its floor is said", accepts("flexible_cementitious", base("surface", "floor")), unknown, "gate.unknown_base"},
		// Starting.
		{"may start", "base and air were read, inside the sheet's range", first("flexible_cementitious", func(w *working) { w.air(-h, 18, 18, 55) }), yes, ""},
		{"may start", "nothing was read", first("flexible_cementitious", func(w *working) {}), unknown, "why.start.not_read of start.base"},
		{"may start", "it was read three hours ago", first("flexible_cementitious", func(w *working) { w.air(-3*h, 18, 18, 55) }), unknown, "why.start.not_read of start.base"},
		{"may start", "the base is colder than the sheet lets", first("flexible_cementitious", func(w *working) { w.air(-h, 12, 3, 55) }), no, "why.start.low of start.base"},
		{"may start", "the base is hotter than the sheet lets", first("flexible_cementitious", func(w *working) { w.air(-h, 28, 41, 30) }), no, "why.start.high of start.base"},
		{"may start", "the air is colder than the sheet lets", first("flexible_cementitious", func(w *working) { w.air(-h, 2, 8, 55) }), no, "why.start.low of start.air"},
		{"may start", "the air is damper than the sheet lets", first("acrylic_dispersion", func(w *working) { w.air(-h, 18, 18, 88) }), no, "why.start.high of start.humidity"},
		{"may start", "the base lies too near the dew point", first("polyurethane", func(w *working) { w.air(-h, 20, 14, 62) }), no, "why.start.low of start.dew"},
		{"may start", "a dry base, well over the dew point", first("polyurethane", func(w *working) { w.air(-h, 20, 18, 50) }), yes, ""},
		{"may start", "a leak was found after the base was accepted", first("flexible_cementitious", func(w *working) { w.air(-h, 18, 18, 55); leak(w) }), no, "why.leak"},
		{"may start", "in the open, with no forecast", first("polyurethane", func(w *working) { roof(w); w.air(-10*time.Minute, 18, 18, 50) }), unknown, "why.start.not_read of start.rain"},
		{"may start", "in the open, read 40 min ago", first("polyurethane", func(w *working) {
			forecast(24*h, 8, 3)(w)
			w.add(0, "climate", nil, corrects(w.last("climate"), "wrong gauge"))
			w.air(-40*time.Minute, 18, 18, 50)
		}), unknown, "why.start.not_read of start.base"},
		{"may start", "in the open, dry until the film is rain-safe", first("polyurethane", forecast(30*h, 8, 3)), yes, ""},
		{"may start", "in the open, rain before the film is rain-safe", first("polyurethane", forecast(2*h, 8, 3)), no, "why.start.low of start.rain"},
		{"may start", "in the open, rain too soon for the sheet, and a system that minds it until the mat is through", firstOf("polyurethane", mindsRain, forecast(2*h, 8, 3)), yes, ""},
		{"may start", "the same, rain while it is laid", firstOf("polyurethane", mindsRain, forecast(10*time.Minute, 8, 3)), no, "why.start.low of start.rain"},
		{"may start", "hot work, no permit", firstOf("flexible_cementitious", permitted("hot_work"), warmAir), unknown, "why.permit"},
		{"may start", "hot work, a permit that runs", firstOf("flexible_cementitious", permitted("hot_work"), permit("hot_work", 6*h)), yes, ""},
		{"may start", "hot work, a permit that is over", firstOf("flexible_cementitious", permitted("hot_work"), permit("hot_work", -10*time.Minute)), no, "why.permit_over"},
		{"may start", "hot work, a permit of another kind", firstOf("flexible_cementitious", permitted("hot_work"), permit("confined_space", 6*h)), unknown, "why.permit"},
		{"may start", "a confined space, permit, no gas test", firstOf("flexible_cementitious", permitted("confined_space"), permit("confined_space", 6*h)), unknown, "why.gas"},
		{"may start", "a confined space, permit, a gas test of two hours ago", firstOf("flexible_cementitious", permitted("confined_space"), permit("confined_space", 6*h), gas(-2*h, 20.9)), unknown, "why.gas"},
		{"may start", "a confined space, permit, too little oxygen", firstOf("flexible_cementitious", permitted("confined_space"), permit("confined_space", 6*h), gas(-10*time.Minute, 18)), no, "why.gas_not_fine"},
		{"may start", "a confined space, permit and a fresh gas test", firstOf("flexible_cementitious", permitted("confined_space"), permit("confined_space", 6*h), gas(-10*time.Minute, 20.9)), yes, ""},
		{"may start", "two people asked, nobody named", firstOf("flexible_cementitious", func(s *system.Step) { s.People = 2 }, warmAir), unknown, "why.people"},
		{"may start", "two people asked and named", firstOf("flexible_cementitious", func(s *system.Step) { s.People = 2 }, manned(false)), yes, ""},
		{"may start", "a licence asked, none named", firstOf("flexible_cementitious", func(s *system.Step) { s.Licence = "Hot bitumen" }, manned(false)), unknown, "why.licence"},
		{"may start", "a licence asked and named", firstOf("flexible_cementitious", func(s *system.Step) { s.Licence = "Hot bitumen" }, manned(true)), yes, ""},
		{"may start", "in the open, frost ahead of a cement film", first("flexible_cementitious", forecast(60*h, -2, 3)), no, "why.start.low of start.frost"},
		{"may start", "in the open, wind ahead", first("polyurethane", forecast(60*h, 8, 14)), no, "why.start.high of start.wind"},
		// Waits.
		{"a wait is over", "cement, warm all the time, touched", second("flexible_cementitious", 8*h, func(w *working) { dispersion(w, 20, 20, 60) }), yes, ""},
		{"a wait is over", "nothing was read", second("flexible_cementitious", 8*h, func(w *working) { w.touched(8 * h) }), unknown, "why.wait_not_known"},
		{"a wait is over", "six minutes after the coat", second("flexible_cementitious", 6*time.Minute, func(w *working) { w.air(0, 20, 20, 60) }), no, "why.wait"},
		{"a wait is over", "cold all the time", second("flexible_cementitious", 8*h, func(w *working) { dispersion(w, 8, 8, 60) }), no, "why.wait"},
		{"a wait is over", "a reading of 60 days ago", second("flexible_cementitious", 8*h, func(w *working) { w.air(-60*24*h, 20, 20, 60); w.touched(8 * h) }), unknown, "why.wait_not_known"},
		{"a wait is over", "nobody touched it", second("flexible_cementitious", 8*h, func(w *working) { w.air(0, 20, 20, 60); w.air(4*h, 20, 20, 60); w.air(8*h, 20, 20, 60) }), unknown, "why.touch"},
		{"a wait is over", "touched, and it was tacky", second("flexible_cementitious", 8*h, func(w *working) {
			w.air(0, 20, 20, 60).air(4*h, 20, 20, 60).air(8*h, 20, 20, 60)
			w.add(8*h, "touched", map[string]any{"step": "coat_2", "found": []string{"firm"}})
		}), unknown, "why.touch"},
		{"a wait is over", "too late", second("flexible_cementitious", 60*h, func(w *working) {
			w.air(0, 20, 20, 60).air(20*h, 20, 20, 60).air(40*h, 20, 20, 60).air(59*h, 20, 20, 60)
		}), no, "why.late"},
		{"a wait is over", "the base froze meanwhile", second("flexible_cementitious", 40*h, func(w *working) {
			w.air(0, 6, 6, 60).air(5*h, 2, -1, 60).air(10*h, 20, 20, 60).air(15*h, 20, 20, 60).air(39*h, 20, 20, 60)
		}), no, "why.frost"},
		{"a wait is over", "a dispersion in dry air", second("acrylic_dispersion", 8*h, func(w *working) { dispersion(w, 20, 20, 50) }), yes, ""},
		{"a wait is over", "a dispersion at 99 % humidity", second("acrylic_dispersion", 8*h, func(w *working) { dispersion(w, 20, 20, 99) }), no, "why.wait"},
		{"a wait is over", "a dispersion with its base at the dew point", second("acrylic_dispersion", 8*h, func(w *working) { dispersion(w, 24, 12, 60) }), no, "why.wait"},
		{"a wait is over", "a dispersion, and only the bucket's temperature is known", second("acrylic_dispersion", 8*h, func(w *working) {
			w.add(-10*time.Minute, "weighed", map[string]any{"step": "coat_1", "batch": "019cb000-0000-7000-8000-0000000000ee", "surfaces": surfaces, "kg": 6.0, "temp_C": 20, "bucket_L": 20, "parts": []map[string]any{{"part": "a", "kg": 6.0}}})
			w.touched(8 * h)
		}), unknown, "why.wait_not_known"},
		{"a wait is over", "resin that takes moisture from the air, in dry cold air", second("polyurethane", 9*h, func(w *working) { dispersion(w, 20, 20, 20); w.air(9*h, 20, 20, 20) }), no, "why.wait"},
		{"a wait is over", "the same in damp warm air", second("polyurethane", 12*h, func(w *working) { dispersion(w, 22, 22, 75); w.air(12*h, 22, 22, 75).touched(12 * h) }), yes, ""},
		{"a wait is over", "a gap of nine hours in a room that was not shut", second("flexible_cementitious", 9*h, func(w *working) { w.air(0, 16, 16, 60); w.air(9*h, 16, 16, 60); w.touched(9 * h) }), no, "why.wait"},
		{"a wait is over", "the same, and a gauge remembered 16 °C", second("flexible_cementitious", 9*h, func(w *working) {
			w.air(0, 16, 16, 60)
			w.air(9*h, 16, 16, 60, "coldest_C", 16.0, "warmest_C", 17.0)
			w.touched(9 * h)
		}), yes, ""},
		// Film.
		{"a coat is enough", "places, teeth and mass agree", combs(20, nil, 1.2, 1.3, 1.2, 1.3), yes, "film.says.enough"},
		{"a coat is enough", "the mean is under the target", combs(16, nil, 1.0, 1.1), no, "film.says.thin"},
		{"a coat is enough", "one place under the least", combs(20, nil, 1.4, 1.4, 0.6, 1.4, 1.4, 1.4, 1.4, 1.4, 1.4), no, "film.says.thin"},
		{"a coat is enough", "thick in one place", combs(20, nil, 1.2, 1.3, 1.2, 1.3, 1.2, 1.3, 1.2, 1.3, 1.9), no, "film.says.thick"},
		{"a coat is enough", "thick here and thin there: thin comes first", combs(20, nil, 0.6, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.0, 1.9), no, "film.says.thin"},
		{"a coat is enough", "the mass is a fifth lower than the teeth", combs(18, nil, 1.2, 1.3, 1.2, 1.3), unknown, "film.says.not known"},
		{"a coat is enough", "the same, explained by name", combs(18, func(w *working) {
			w.add(2*h, "film.explained", map[string]any{"step": "coat_1", "why": "a bucket was weighed twice", "person": w.made.Named["lead"]})
		}, 1.2, 1.3, 1.2, 1.3), yes, "film.says.enough"},
		{"a coat is enough", "the mass makes less than the least", combs(6, nil, 1.2, 1.3, 1.2, 1.3), no, "film.says.thin"},
		{"a coat is enough", "every touch at one spot", func(t *testing.T) (string, string) {
			w := room(t, "flexible_cementitious", sound()).passTo("coat_1")
			w.add(0, "laid", map[string]any{"step": "coat_1", "surfaces": surfaces, "kg": 20})
			for i := range 12 {
				w.add(time.Duration(i+1)*time.Minute, "read", map[string]any{"step": "coat_1", "surface": "floor", "along_mm": 1600 + 10*i, "up_mm": 1200, "last_wet_mm": 1.2, "next_dry_mm": 1.3})
			}
			return map[string]string{film.TooFew: unknown}[w.look(h).Coats[0].Surfaces[0].Film.Says], "film.says.too few"
		}, unknown, "film.says.too few"},
		// Water test.
		{"a coat is enough", "its readings are older than the coat", combs(17, func(w *working) {
			for i, text := range w.texts { // the readings moved to five hours before the coat
				if e, err := logbook.Parse(text); err == nil && e.AreaID == w.area && e.Kind == "read" {
					w.texts[i] = []byte(strings.Replace(string(text), e.At, noon.Add(-5*h+time.Duration(i)*time.Second).Format(time.RFC3339), 1))
				}
			}
		}, 1.2), unknown, "film.says." + film.TooFew},
		{"the water test holds", "24 h beside a pan, dry outside", basin(24, 0, nil), yes, "test.why.holds"},
		{"the water test holds", "a leak of 0.5 mm/h", basin(24, 0.5, nil), no, "test.why.leaks"},
		{"the water test holds", "so far", basin(12, 0, nil), unknown, "test.why.too_short"},
		{"the water test holds", "wet outside", basin(24, 0, seen(10, "wet", "")), no, "test.why.wet_outside"},
		{"the water test holds", "damp outside at every look", basin(24, 0, func(w *working, hour int, body map[string]any) { seen(hour, "damp", "")(w, hour, body) }), no, "test.why.damp_outside"},
		{"the water test holds", "new damp at the last look", basin(24, 0, seen(24, "damp", "new")), unknown, "test.why.look_again"},
		{"the water test holds", "damp that was there before and has not grown", basin(24, 0, func(w *working, hour int, body map[string]any) {
			if hour == 0 {
				w.add(-time.Hour, "test.looked", map[string]any{"step": "test", "outside": "damp", "where": "old stain"})
			}
			seen(12, "damp", "as_before")(w, hour, body)
		}), yes, "test.why.holds"},
		{"the water test holds", "damp that has grown", basin(24, 0, seen(12, "damp", "grown")), no, "test.why.damp_outside"},
		{"the water test holds", "the level fell at once by 3 mm: a step, and a leak", basin(24, 0, func(_ *working, hour int, body map[string]any) {
			if hour >= 12 {
				body["water_mm"] = body["water_mm"].(float64) - 3
			}
		}), no, "test.why.leaks"},
		{"the water test holds", "an earlier run leaked and was not repaired", func(t *testing.T) (string, string) {
			w := filled(t)
			for hour := 0; hour <= 30; hour++ {
				w.read(time.Duration(hour)*time.Hour, 76-0.58*float64(hour), 52-0.08*float64(hour))
			}
			w.add(31*time.Hour, "test.filled", map[string]any{"step": "test", "why": "disturbed"})
			for hour := 0; hour <= 24; hour++ {
				w.read(time.Duration(32+hour)*time.Hour, 76-0.08*float64(hour), 52-0.08*float64(hour))
			}
			return verdictOf(w, 60*time.Hour)
		}, unknown, "test.why.not_repaired"},
		{"the water test holds", "a run was called off, with a photo why", func(t *testing.T) (string, string) {
			w := filled(t)
			run := w.last("test.filled")
			for hour := 0; hour <= 5; hour++ {
				w.read(time.Duration(hour)*time.Hour, 76-0.08*float64(hour), 52-0.08*float64(hour))
			}
			w.add(6*time.Hour, "test.filled", map[string]any{"step": "test", "why": "disturbed"})
			photo := map[string]any{"id": "019cb000-0000-7000-8000-0000000000aa", "sha256": strings.Repeat("a", 64)}
			w.add(6*time.Hour+time.Minute, "test.explained", map[string]any{"step": "test", "of": run, "why": "somebody pulled the plug", "person": w.made.Named["lead"], "photos": []any{photo}})
			for hour := 0; hour <= 24; hour++ {
				w.read(time.Duration(7+hour)*time.Hour, 76-0.08*float64(hour), 52-0.08*float64(hour))
			}
			return verdictOf(w, 40*time.Hour)
		}, yes, "test.why.holds"},
		{"the water test holds", "the pan that was planned was not read, and evaporation is typed", basin(24, 0.06, func(_ *working, _ int, body map[string]any) { body["pan_mm"] = nil }), unknown, "test.why.no_pan"},
		{"the water test holds", "a tank in its two days of soak", tank("48", 40), unknown, "test.why.soaking"},
		{"the water test holds", "a tank that drank and has stood for two days", tank("48", 76), yes, "test.why.holds"},
		{"the water test holds", "the same, filled again: it soaks again", tank("48", 76, 30), unknown, "test.why.soaking"},
		{"the water test holds", "the film was topped up after it", func(t *testing.T) (string, string) {
			w := filled(t)
			for hour := 0; hour <= 24; hour++ {
				w.read(time.Duration(hour)*h, 76-0.08*float64(hour), 52-0.08*float64(hour))
			}
			w.add(30*h, "laid", map[string]any{"step": "coat_2", "surfaces": []string{"floor"}, "kg": 1, "tops_up": film.Skinned})
			return verdictOf(w, 31*h)
		}, unknown, "test.why.film_changed"},
		{"the water test holds", "it was repaired after it", func(t *testing.T) (string, string) {
			w := filled(t)
			for hour := 0; hour <= 24; hour++ {
				w.read(time.Duration(hour)*h, 76-0.08*float64(hour), 52-0.08*float64(hour))
			}
			w.add(30*h, "test.repaired", map[string]any{"step": "test", "did": "sealed the drain"})
			return verdictOf(w, 31*h)
		}, unknown, "test.why.film_changed"},
		// Stock.
		{"material is there", "counted an hour ago", first("flexible_cementitious", func(w *working) { w.air(-h, 18, 18, 55) }), yes, ""},
		{"material is there", "never counted", func(t *testing.T) (string, string) {
			w := room(t, "flexible_cementitious", sound()).uncounted().passTo("coat_1").air(-h, 18, 18, 55)
			return blocked(w, "coat_1", 0)
		}, unknown, "why.not_counted"},
		{"material is there", "counted twenty days ago", func(t *testing.T) (string, string) {
			w := room(t, "flexible_cementitious", sound()).uncounted().passTo("coat_1").countedAll(-20*24*h).air(-h, 18, 18, 55)
			return blocked(w, "coat_1", 0)
		}, unknown, "why.not_counted"},
		{"material is there", "too little for the whole step", first("flexible_cementitious", func(w *working) {
			w.air(-h, 18, 18, 55)
			w.add(-30*time.Minute, "stock.counted", map[string]any{"sheet": "sample.flexible_cementitious", "packs": []map[string]any{{"amount": 5, "count": 1}}}, ofJob)
		}), no, "why.short"},
		{"material is there", "past its date", first("flexible_cementitious", func(w *working) {
			w.air(-h, 18, 18, 55)
			w.add(-30*time.Minute, "stock.counted", map[string]any{"sheet": "sample.flexible_cementitious", "packs": []map[string]any{{"amount": 20.4, "count": 9, "expires": "2025-01-01"}}}, ofJob)
		}), no, "why.short"},
		{"material is there", "opened six years ago", first("flexible_cementitious", func(w *working) {
			w.air(-h, 18, 18, 55)
			w.add(-30*time.Minute, "stock.counted", map[string]any{"sheet": "sample.flexible_cementitious", "packs": []map[string]any{{"amount": 20.4, "count": 9, "opened": "2020-01-01", "closing": "lid"}}}, ofJob)
		}), no, "why.short"},
		{"material is there", "another area took it", first("flexible_cementitious", func(w *working) {
			w.air(-h, 18, 18, 55)
			w.add(-30*time.Minute, "stock.counted", map[string]any{"sheet": "sample.flexible_cementitious", "packs": []map[string]any{{"amount": 20.4, "count": 2}}}, ofJob)
			own := w.area
			w.area = w.made.Areas["shower1"]
			w.add(-10*time.Minute, "laid", map[string]any{"step": "coat_2", "surfaces": []string{"floor"}, "kg": 30})
			w.area = own
		}), no, "why.short"},
	}
}

// last is the id of the last entry of a kind in the area.
func (w *working) last(kind logbook.Kind) string {
	w.t.Helper()
	for i := len(w.texts) - 1; i >= 0; i-- {
		e, err := logbook.Parse(w.texts[i])
		if err == nil && e.AreaID == w.area && e.Kind == kind && e.Corrects == "" {
			return e.ID
		}
	}
	w.t.Fatalf("no %s", kind)
	return ""
}

// sentences are the words of the page by key, each value by its name alone.
func sentences(t *testing.T) map[string]string {
	text, err := os.ReadFile(filepath.Join("..", "..", "web", "src", "words", "en.json"))
	if err != nil {
		t.Fatal(err)
	}
	said := map[string]string{}
	if err := json.Unmarshal(text, &said); err != nil {
		t.Fatal(err)
	}
	format := regexp.MustCompile(`\{(\w+):\w+\}`)
	for key, sentence := range said {
		said[key] = format.ReplaceAllString(sentence, "{$1}")
	}
	return said
}

func TestPermissions(t *testing.T) {
	rows := permissions()
	if len(rows) < 60 {
		t.Errorf("%d rows", len(rows))
	}
	for _, row := range rows {
		t.Run(row.of+"/"+row.when, func(t *testing.T) {
			says, key := row.answer(t)
			if says != row.says || key != row.key {
				t.Errorf("%s (%s), want %s (%s)", says, key, row.says, row.key)
			}
		})
	}
	var page strings.Builder
	page.WriteString("# Permissions\n\nWhat is missing, stale or contrary, and what is answered. Printed from the test's own data (`core/logbook/permissions_test.go`); what stands in braces is said with its value.\n")
	said := sentences(t)
	of := ""
	for _, row := range rows {
		if row.of != of {
			of = row.of
			fmt.Fprintf(&page, "\n## %s\n\n| where | answer | sentence |\n|---|---|---|\n", strings.ToUpper(of[:1])+of[1:])
		}
		key, check, _ := strings.Cut(row.key, " of ")
		sentence, known := said[key]
		sentence = strings.ReplaceAll(sentence, "{check}", said[check])
		if !known && row.key != "" {
			t.Errorf("%s, %s: %s has no words", row.of, row.when, row.key)
		}
		fmt.Fprintf(&page, "| %s | %s | %s |\n", row.when, strings.ReplaceAll(row.says, "_", " "), sentence)
	}
	file := filepath.Join("..", "..", "docs", "permissions.md")
	if os.Getenv("DUSHA_WRITE") != "" {
		if err := os.WriteFile(file, []byte(page.String()), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	kept, err := os.ReadFile(file)
	if err != nil || string(kept) != page.String() {
		t.Errorf("docs/permissions.md is stale (%v): DUSHA_WRITE=1 go test ./core/logbook -run TestPermissions", err)
	}
}
