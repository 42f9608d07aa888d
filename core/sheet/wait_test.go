package sheet_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"dusha/core/cure"
	"dusha/core/sheet"
)

// opens is when a least time of a sample is over by readings alone, h; Inf where it is not.
func opens(t *testing.T, system string, r cure.Readings) float64 {
	t.Helper()
	s, known := sheet.Sample("sample." + system)
	if !known {
		t.Fatal(system)
	}
	w, err := s.Wait("recoat", cure.Least, 0, 0)
	if err != nil {
		t.Fatal(err)
	}
	damp := 1.0
	if s.Law().Name == "moisture" {
		damp = -1
	}
	series, _ := r.Series(2000, 2000, cure.Side{Temp: -1, Humidity: damp}, s.Law().MindsOf("humidity"))
	hours, reached := w.Reached(series)
	if !reached {
		return math.Inf(1)
	}
	return hours
}

func randomReadings(random *rand.Rand) cure.Readings {
	var r cure.Readings
	at := 0.0
	for range 3 + random.IntN(6) {
		temp, rh := 6+random.Float64()*22, 35+random.Float64()*55
		shut := random.IntN(2) == 0
		r.Base = append(r.Base, cure.Point{At: at, Value: temp, Shut: shut})
		r.Air = append(r.Air, cure.Point{At: at, Value: temp + 2, Shut: shut})
		r.Humidity = append(r.Humidity, cure.Point{At: at, Value: rh, Shut: shut})
		at += 1 + random.Float64()*14
	}
	return r
}

func mapped(t cure.Track, f func(float64) float64) cure.Track {
	out := append(cure.Track{}, t...)
	for i := range out {
		out[i].Value = f(out[i].Value)
	}
	return out
}

var systems = []string{"flexible_cementitious", "acrylic_dispersion", "polyurethane", "pmma", "bitumen_solvent"}

func TestColderIsNeverSooner(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		r := randomReadings(random)
		colder := cure.Readings{
			Base: mapped(r.Base, func(v float64) float64 { return v - 3 }), Air: mapped(r.Air, func(v float64) float64 { return v - 3 }), Humidity: r.Humidity,
		}
		for _, system := range systems {
			if was, is := opens(t, system, r), opens(t, system, colder); is < was-1e-9 {
				t.Fatalf("%s: 3 K colder opens at %v h, not at %v: %+v", system, is, was, r)
			}
		}
	}
}

func TestDamperAndDrierAreNeverSooner(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for range 300 {
		r := randomReadings(random)
		damper, drier := r, r
		damper.Humidity = mapped(r.Humidity, func(v float64) float64 { return min(v+8, 100) })
		drier.Humidity = mapped(r.Humidity, func(v float64) float64 { return max(v-8, 5) })
		if was, is := opens(t, "acrylic_dispersion", r), opens(t, "acrylic_dispersion", damper); is < was-1e-9 {
			t.Fatalf("a drying film in damper air opens at %v h, not at %v", is, was)
		}
		if was, is := opens(t, "polyurethane", r), opens(t, "polyurethane", drier); is < was-1e-9 {
			t.Fatalf("moisture-curing resin in drier air opens at %v h, not at %v", is, was)
		}
	}
}

// Taking away a reading that is no colder and no slower than its neighbours opens nothing sooner, and
// without any reading of a kind that a law minds nothing opens.
func TestLessKnownIsNeverSooner(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	const fine = 0.01 // the line between two readings is taken in steps, which lie elsewhere
	taken := 0
	for range 400 {
		r := randomReadings(random)
		i := 1 + random.IntN(len(r.Base)-2)
		warm := r.Base[i].Value >= max(r.Base[i-1].Value, r.Base[i+1].Value)
		dry := r.Humidity[i].Value <= min(r.Humidity[i-1].Value, r.Humidity[i+1].Value)
		without := func(t cure.Track) cure.Track { return append(append(cure.Track{}, t[:i]...), t[i+1:]...) }
		less := cure.Readings{Base: without(r.Base), Air: without(r.Air), Humidity: without(r.Humidity)}
		for _, system := range []string{"flexible_cementitious", "pmma", "acrylic_dispersion"} {
			if !warm || system == "acrylic_dispersion" && !dry {
				continue
			}
			// A room that stays shut from the reading taken away says nothing any more.
			less.Base[i-1].Shut, less.Air[i-1].Shut, less.Humidity[i-1].Shut = false, false, false
			taken++
			if was, is := opens(t, system, r), opens(t, system, less); is < was*(1-fine) {
				t.Fatalf("%s: one reading fewer opens at %v h, not at %v: %+v", system, is, was, r)
			}
		}
		for _, none := range []cure.Readings{{Air: r.Air, Humidity: r.Humidity}, {Base: r.Base, Humidity: r.Humidity}, {Base: r.Base, Air: r.Air}} {
			if at := opens(t, "acrylic_dispersion", none); !math.IsInf(at, 1) {
				t.Fatalf("a kind of reading is missing, and it opens at %v h", at)
			}
		}
	}
	if taken < 50 {
		t.Errorf("%d readings were taken away", taken)
	}
}

// Laid later under the same sky, a film is never ready earlier.
func TestALaterStartNeverEndsEarlier(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	for range 300 {
		r := randomReadings(random)
		by := random.Float64() * 12
		later := func(t cure.Track) cure.Track {
			out := mapped(t, func(v float64) float64 { return v })
			for i := range out {
				out[i].At -= by
			}
			before := 0
			for before+1 < len(out) && out[before+1].At <= 0 {
				before++
			}
			return out[before:]
		}
		for _, system := range systems {
			was, is := opens(t, system, r), opens(t, system, cure.Readings{Base: later(r.Base), Air: later(r.Air), Humidity: later(r.Humidity)})
			const fine = 0.01 // the line between two readings is taken in steps, which lie elsewhere
			if is+by < was*(1-fine) {
				t.Fatalf("%s: laid %v h later it opens at %v h, not at %v: %+v", system, by, is+by, was, r)
			}
		}
	}
}

// One printed time, 8 h at 20 °C: at 5 °C resin takes 24.7 h, cement 19.4 h.
func TestTheEnergyIsThatOfTheChemistry(t *testing.T) {
	for chemistry, want := range map[string]float64{"pmma": 24.73, "cementitious_two_part": 19.43} {
		s := sheet.Sheet{Chemistry: chemistry, Numbers: map[string]sheet.Said{"recoat_20": {Value: 8, Unit: "h"}}}
		w, err := s.Wait("recoat", cure.Least, 0, 0)
		if err != nil {
			t.Fatal(err)
		}
		five := cure.Track{{At: 0, Value: 5}, {At: 5, Value: 5}, {At: 10, Value: 5}, {At: 15, Value: 5}, {At: 20, Value: 5}, {At: 25, Value: 5}}
		series, _ := cure.Readings{Base: five}.Series(100, 100, cure.Side{Temp: -1}, false)
		if got, reached := w.Reached(series); !reached || math.Abs(got-want) > 0.05 {
			t.Errorf("%s: %v h, want %v", chemistry, got, want)
		}
	}
}
