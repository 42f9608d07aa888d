package logbook_test

import (
	"math"
	"testing"

	"dusha/core/fault"
	"dusha/core/logbook"
)

// cardOf is the bucket card of the first coat on the floor at a temperature.
func cardOf(t *testing.T, name string, temp float64) (logbook.Card, error) {
	t.Helper()
	w := room(t, name, sound())
	return w.fold(w.texts).CardFor(logbook.CardInputs{Coat: 1, Surfaces: []string{"floor"}, Temp: temp, Bucket: 30, Resolution: 1, CrewRate: 30, Walk: 1})
}

// A catalyst goes by the temperature: between two of the sheet's on a straight line, refused outside them; what is weighed is
// held against the share of its own temperature.
func TestTheCardOfACatalyst(t *testing.T) {
	for temp, share := range map[float64]float64{10: 4, 15: 3, 20: 2, 30: 1} {
		card, err := cardOf(t, "pmma", temp)
		if err != nil || len(card.Weigh) == 0 {
			t.Fatalf("%v °C: %v", temp, err)
		}
		kg := map[string]float64{}
		for _, part := range card.Weigh[0] {
			kg[part.Part] = part.Mass
		}
		if got := 100 * kg["b"] / kg["a"]; math.Abs(got-share) > 0.05 {
			t.Errorf("%v °C: %v parts of catalyst, want %v", temp, got, share)
		}
	}
	for _, temp := range []float64{9, 31} {
		if _, err := cardOf(t, "pmma", temp); err == nil || fault.Of(err)[0].Key != "mixing.catalyst_outside" || fault.Of(err)[0].Field != "temp_C" {
			t.Errorf("%v °C: %v", temp, err)
		}
	}
	for _, row := range []struct {
		temp     float64
		catalyst float64
		missed   bool
	}{{10, 0.04, false}, {10, 0.02, true}, {20, 0.02, false}, {20, 0.04, true}} {
		w := room(t, "pmma", sound()).passTo("coat_1")
		w.add(0, "weighed", map[string]any{"step": "coat_1", "batch": "019cb000-0000-7000-8000-00000000beef", "surfaces": []string{"floor"}, "kg": 1 + row.catalyst, "temp_C": row.temp, "bucket_L": 30,
			"parts": []map[string]any{{"part": "a", "kg": 1}, {"part": "b", "kg": row.catalyst}}})
		if got := w.deviates("deviation.ratio_missed"); got != row.missed {
			t.Errorf("%v kg of catalyst at %v °C: missed %v", row.catalyst, row.temp, got)
		}
	}
}

// What comes ready mixed is used out of its pail: no bucket bounds it, and a pail larger than a bucket is no hindrance.
func TestTheCardOfAReadyMixedPail(t *testing.T) {
	w := room(t, "polyurethane", sound()) // pails of 25 kg, more than the bucket takes
	in := logbook.CardInputs{Coat: 1, Surfaces: surfaces, Temp: 20, Bucket: 10, Resolution: 1, CrewRate: 60, Walk: 1}
	card, err := w.fold(w.texts).CardFor(in)
	if err != nil || !card.Batches.Feasible || math.Abs(card.Batches.Total-card.Need) > 1e-9 || card.Greatest.Governs == "bucket" {
		t.Errorf("%+v, %v", card.Batches, err)
	}
	in.CrewRate = 200
	if card, err = w.fold(w.texts).CardFor(in); err != nil || card.Greatest.Batch > 25+1e-9 || card.Greatest.Governs != "pack" {
		t.Errorf("a fast crew takes %+v, %v", card.Greatest, err)
	}
}

// What the system stirs in stands on the card of each bucket, by volume where its sheet doses it so.
func TestTheCardOfAnAdditive(t *testing.T) {
	card, err := cardOf(t, "polyurethane", 20)
	if err != nil {
		t.Fatal(err)
	}
	if n := len(card.Batches.Batches); n == 0 || len(card.Added) != 2*n {
		t.Fatalf("%d additives to %d buckets", len(card.Added), n)
	}
	first := card.Batches.Batches[0]
	for _, line := range card.Added[:2] {
		switch line.Key {
		case "accelerator": // 20 mL to the kilogram, 0.98 kg/L
			if line.ML == nil || math.Abs(*line.ML-20*first) > 1e-9 || math.Abs(line.Kg-0.020*0.98*first) > 1e-9 {
				t.Errorf("accelerator to %v kg: %+v", first, line)
			}
		case "thickener": // 15 g to the kilogram
			if line.ML != nil || math.Abs(line.Kg-0.015*first) > 1e-9 {
				t.Errorf("thickener to %v kg: %+v", first, line)
			}
		default:
			t.Errorf("%+v", line)
		}
	}
	if plain, err := cardOf(t, "flexible_cementitious", 20); err != nil || len(plain.Added) != 0 {
		t.Errorf("a mix without additives: %+v, %v", plain.Added, err)
	}
}

// A gauging liquid of two liquids is stirred before the powder goes in, for all buckets at once: emulsion 1 to water 3, 12.5 of
// powder to these 4.
func TestTheCardOfAGaugingLiquid(t *testing.T) {
	w := room(t, "crystallising_slurry", sound())
	card, err := w.fold(w.texts).CardFor(logbook.CardInputs{Coat: 1, Surfaces: surfaces, Temp: 18, Bucket: 10, Resolution: 1, CrewRate: 30, Walk: 1})
	if err != nil || card.Gauging == nil || len(card.Gauging.Parts) != 2 || len(card.Weigh) < 2 {
		t.Fatalf("%+v in %d buckets, %v", card.Gauging, len(card.Weigh), err)
	}
	g := card.Gauging
	if want := card.Batches.Total * 4 / 16.5; math.Abs(g.All-want) > 0.01 {
		t.Errorf("%v kg of it, want %v", g.All, want)
	}
	if want := card.Batches.Batches[0] * 4 / 16.5; math.Abs(g.Bucket-want) > 0.01 {
		t.Errorf("%v kg in the first bucket, want %v", g.Bucket, want)
	}
	if one, three := g.Parts[0].Kg, g.Parts[1].Kg; math.Abs(three-3*one) > 0.02 {
		t.Errorf("%v of emulsion to %v of water", one, three)
	}
	for _, name := range []string{"flexible_cementitious", "pmma", "polyurethane"} {
		if card, err := cardOf(t, name, 20); err != nil || card.Gauging != nil {
			t.Errorf("%s: %+v, %v", name, card.Gauging, err)
		}
	}
}
