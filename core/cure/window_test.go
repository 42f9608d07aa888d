package cure_test

import (
	"math"
	"testing"

	"dusha/core/climate"
	"dusha/core/cure"
)

// The printed recoat times of a made-up sheet, h.
var table = cure.Table{Entries: []cure.Entry{{Temp: 10, Time: 10}, {Temp: 20, Time: 5}, {Temp: 30, Time: 3}}}

func steady(temp, hours float64) []cure.Stretch {
	return []cure.Stretch{{Hours: hours, Air: climate.Air{Temp: temp, Base: temp, Humidity: 50}}}
}

func wait(t *testing.T, counts string) cure.Wait {
	t.Helper()
	w, err := cure.ByTable(table, counts)
	if err != nil {
		t.Fatal(err)
	}
	return w
}

func TestAWaitIsThePrintedOneAtAPrintedTemperature(t *testing.T) {
	for temp, want := range map[float64]float64{10: 10, 20: 5, 30: 3, 40: 3} {
		if got, reached := wait(t, cure.Least).Reached(steady(temp, 100)); !reached || math.Abs(got-want) > 1e-9 {
			t.Errorf("at %v °C: %v h, want %v", temp, got, want)
		}
	}
	// A latest time goes on shortening in heat.
	if got, _ := wait(t, cure.Latest).When(steady(40, 100), 1); got >= 3 {
		t.Errorf("latest at 40 °C: %v h, want under the 3 h at 30 °C", got)
	}
	if _, reached := wait(t, cure.Least).Reached(steady(20, 4.9)); reached {
		t.Error("reached before its time")
	}
}

func TestPartsOfAWaitAddUp(t *testing.T) {
	// 5 h at 10 °C are half of it, 2.5 h at 20 °C the other half.
	series := append(steady(10, 5), steady(20, 10)...)
	if got, _ := wait(t, cure.Least).Reached(series); math.Abs(got-7.5) > 1e-9 {
		t.Errorf("%v h, want 7.5", got)
	}
	if got := wait(t, cure.Least).Progress(series, 6); math.Abs(got-0.7) > 1e-9 {
		t.Errorf("after 6 h %v, want 0.7", got)
	}
	early, late := wait(t, cure.Least).Band(steady(20, 100))
	if early == nil || late == nil || !(*early < 5 && 5 < *late) {
		t.Errorf("2 K off: %v to %v h, want 5 between them", early, late)
	}
}

func window(t *testing.T, lag float64) cure.Window {
	latest := cure.Table{Entries: []cure.Entry{{Temp: 10, Time: 48}, {Temp: 20, Time: 24}, {Temp: 30, Time: 12}}}
	last, err := cure.ByTable(latest, cure.Latest)
	if err != nil {
		t.Fatal(err)
	}
	return cure.Window{Earliest: wait(t, cure.Least), Latest: &last, Lag: lag}
}

func TestTheStatesOfAWindow(t *testing.T) {
	w, edges := window(t, 0), same(steady(20, 1000))
	// Opens at 5 h, shuts at 24; of the 19 h left three quarters are used at 19.25.
	for at, want := range map[float64]string{0: cure.TooEarly, 4.99: cure.TooEarly, 5: cure.Open, 19.2: cure.Open, 19.3: cure.Closing, 23.9: cure.Closing, 24.1: cure.TooLate} {
		s := w.At(edges, at)
		if s.State != want {
			t.Errorf("after %v h: %s, want %s", at, s.State, want)
		}
		if math.Abs(*s.Opens-5) > 1e-9 || math.Abs(*s.Closing-19.25) > 1e-9 || math.Abs(*s.Closes-24) > 1e-9 {
			t.Errorf("open %v, closing %v, shut %v", *s.Opens, *s.Closing, *s.Closes)
		}
	}
	for at, want := range map[float64]float64{2.5: 0.5, 10: 1, 19.25: 1, 24: 0.4, 30: 0.1} {
		if level, state := w.Over(edges).Level(at); math.Abs(level-want) > 1e-6 {
			t.Errorf("after %v h the tide is %v (%s), want %v", at, level, state, want)
		}
	}
}

// The least wait counts from the end of the coat, the longest from its beginning, and each
// from the side that is safe.
func TestAWindowTakesTheSafeSide(t *testing.T) {
	s := window(t, 2).At(same(steady(20, 1000)), 0)
	if math.Abs(*s.Opens-7) > 1e-9 || math.Abs(*s.Closes-24) > 1e-9 {
		t.Errorf("laid in 2 h: open from %v to %v h, want 7 to 24", *s.Opens, *s.Closes)
	}
	s = window(t, 0).At(cure.Edges{Cold: steady(18, 1000), Warm: steady(22, 1000)}, 0)
	if !(*s.Opens > 5 && *s.Closes < 24) {
		t.Errorf("2 K off either way: open from %v to %v h, want narrower than 5 to 24", *s.Opens, *s.Closes)
	}
	narrow := window(t, 30).At(same(steady(20, 1000)), 40)
	if narrow.State != cure.TooLate {
		t.Errorf("shut before it opened: %s", narrow.State)
	}
}

func TestAThickFilmDriesLonger(t *testing.T) {
	reference := climate.Air{Temp: 23, Base: 23, Humidity: 50}
	d := cure.Drying{Needed: 4, Reference: reference, Wet: 0.8, Nominal: 0.5, Exponent: 1.5}
	if got, want := d.ForThisFilm(), 4*math.Pow(1.6, 1.5); math.Abs(got-want) > 1e-9 {
		t.Errorf("1.6 times as thick: %v h, want %v", got, want)
	}
	d.Wet = 0.4
	if got := d.ForThisFilm(); got != 4 {
		t.Errorf("a thin film: %v h, want the printed 4", got)
	}
	w, err := d.Wait(cure.Least)
	if err != nil {
		t.Fatal(err)
	}
	if got, _ := w.Reached([]cure.Stretch{{Hours: 100, Air: climate.Air{Temp: 30, Base: 30, Humidity: 20}}}); got != 4 {
		t.Errorf("hot and dry: %v h, want no shorter than the printed 4", got)
	}
	if _, reached := w.Reached([]cure.Stretch{{Hours: 100, Air: climate.Air{Temp: 20, Base: 20, Humidity: 98}}}); reached {
		t.Error("a film dried in fog")
	}
	if _, err := (cure.Drying{Reference: reference}).Wait(cure.Least); err == nil {
		t.Error("a drying time of 0 passes")
	}
	moist, err := cure.Moisture(table, cure.Least, reference)
	if err != nil {
		t.Fatal(err)
	}
	dry, _ := moist.Reached([]cure.Stretch{{Hours: 1000, Air: climate.Air{Temp: 23, Base: 23, Humidity: 20}}})
	humid, _ := moist.Reached([]cure.Stretch{{Hours: 1000, Air: climate.Air{Temp: 23, Base: 23, Humidity: 80}}})
	if !(humid < dry) {
		t.Errorf("moisture-curing resin in humid air %v h, in dry air %v h", humid, dry)
	}
}

// same takes one series for both edges, where the climate is known.
func same(series []cure.Stretch) cure.Edges { return cure.Edges{Cold: series, Warm: series} }
