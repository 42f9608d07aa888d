package logbook_test

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"testing"
	"time"
)

// without takes away every entry of a kind, the area's and the job's.
func (w *working) without(kind string) *working {
	w.texts = slices.DeleteFunc(w.texts, func(text []byte) bool {
		var e struct{ AreaID, Kind string }
		if err := json.Unmarshal(text, &e); err != nil {
			w.t.Fatal(err)
		}
		return e.Kind == kind && (e.AreaID == "" || e.AreaID == w.area)
	})
	return w
}

// Taking away every reading of a kind that a permission needs never leaves yes.
func TestNothingIsPermittedOnNothing(t *testing.T) {
	h := time.Hour
	// A world that is permitted, asked with one thing more done to its book.
	for _, c := range []struct {
		of    string
		ask   func(with func(*working)) func(*testing.T) (string, string)
		world func(*working)
		needs []string
	}{
		{"may start", func(with func(*working)) func(*testing.T) (string, string) {
			return first("flexible_cementitious", with)
		},
			func(w *working) { w.air(-h, 18, 18, 55) }, []string{"climate", "stock.counted"}},
		{"may start in the open", func(with func(*working)) func(*testing.T) (string, string) { return first("polyurethane", with) },
			forecast(60*time.Hour, 8, 3), []string{"climate", "stock.counted", "forecast.read"}},
		{"a wait is over", func(with func(*working)) func(*testing.T) (string, string) {
			return second("flexible_cementitious", 8*h, with)
		}, func(w *working) { w.air(0, 20, 20, 55).air(4*h, 20, 20, 55).air(8*h, 20, 20, 55).touched(8 * h) }, []string{"climate", "touched", "stock.counted"}},
		{"a wait of a film that dries", func(with func(*working)) func(*testing.T) (string, string) {
			return second("acrylic_dispersion", 8*h, with)
		}, func(w *working) { w.air(0, 22, 21, 40).air(4*h, 22, 21, 40).air(8*h, 22, 21, 40).touched(8 * h) }, []string{"climate", "touched", "stock.counted"}},
		{"a coat is enough", func(with func(*working)) func(*testing.T) (string, string) { return combs(24, with, 1.2) },
			func(*working) {}, []string{"read", "laid"}},
		{"the water test holds", func(with func(*working)) func(*testing.T) (string, string) {
			return basin(24, 0, func(w *working, hour int, body map[string]any) {
				if hour == 24 { // the last reading is added afterwards, in the same book
					with(w)
				}
			})
		}, func(*working) {}, []string{"test.read"}},
	} {
		if says, key := c.ask(c.world)(t); says != yes {
			t.Errorf("%s: %s (%s) with all that it needs", c.of, says, key)
		}
		for _, kind := range c.needs {
			if says, _ := c.ask(func(w *working) { c.world(w); w.without(kind) })(t); says == yes {
				t.Errorf("%s without any %s: yes", c.of, kind)
			}
		}
	}
}

// A contrary reading never turns no into yes: colder air into a wait, a wet look into a test that
// leaks, a thin place into a film that is thin.
func TestAContraryReadingNeverTurnsNoIntoYes(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	h := time.Hour
	shut := 0
	for range 12 {
		temps := []float64{6 + 8*random.Float64(), 6 + 8*random.Float64(), 6 + 8*random.Float64()}
		world := func(w *working) {
			for i, temp := range temps {
				w.air(time.Duration(i)*4*h, temp+1, temp, 60)
			}
			w.touched(8 * h)
		}
		before, _ := second("flexible_cementitious", 9*h, world)(t)
		if before == yes {
			continue
		}
		shut++
		at, colder := time.Duration(random.IntN(8*60))*time.Minute, slices.Min(temps)-3*random.Float64()
		if after, _ := second("flexible_cementitious", 9*h, func(w *working) { world(w); w.air(at, colder+1, colder, 60) })(t); after == yes {
			t.Errorf("%v °C keep it shut, and %v °C at %v open it", temps, colder, at)
		}
	}
	if shut < 5 {
		t.Errorf("only %d worlds were shut", shut)
	}
	for name, c := range map[string]func(*testing.T) (string, string){
		"a leak, and damp below": basin(24, 0.5, seen(12, "wet", "")),
		"a thin film, and a place thinner still": combs(24, func(w *working) {
			w.add(2*h, "read", map[string]any{"step": "coat_1", "surface": "floor", "along_mm": 1600, "up_mm": 600, "last_wet_mm": 0.6, "next_dry_mm": 0.7})
		}, 1.2, 0.8),
	} {
		if says, key := c(t); says == yes {
			t.Errorf("%s: yes (%s)", name, key)
		}
	}
}
