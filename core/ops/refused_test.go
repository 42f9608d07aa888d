package ops_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"dusha/core/fault"
	"dusha/core/ops/opcases"
)

// Of a worked case these may be below nothing: temperatures, levels, losses, times from a beginning and places on a plan.
var signed = []string{
	"temp_C", "base_C", "predict_C", "ref_C", "air_C", "ref_C", "ref_substrate_C", "substrate_C", "film_forming_C", "first_temp_C", "level_mm", "levels_mm", "drain_mm", "at_mm",
	"vertices_mm", "corner_a_mm", "corner_b_mm", "keep_clear_at_mm", "r_mm_per_h", "t_h",
}

// A size, a mass, a time or a rate below nothing is refused by its field, in every operation that has a
// worked case.
func TestWhatCannotBeLessThanNothingIsRefused(t *testing.T) {
	table := opcases.Table()
	tried := 0
	for group, g := range readGroups(t) {
		for _, c := range g.Cases {
			var in map[string]any
			if err := json.Unmarshal(c.In, &in); err != nil {
				t.Fatal(err)
			}
			op := opcases.Operations[group+"/"+kindOf(c.In)]
			if op == "" || op == "watertest.t" || op == "climate.dew" || op == "climate.published" { // Student's t is even, a dew point says that it refuses
				continue
			}
			eachNumber(in, "", func(path string, value float64, set func(float64)) {
				if value <= 0 || slices.ContainsFunc(strings.Split(path, "."), func(part string) bool { return slices.Contains(signed, part) }) {
					return
				}
				set(-value)
				text, err := json.Marshal(in)
				if err != nil {
					t.Fatal(err)
				}
				set(value)
				tried++
				if _, err := table.Call(op, text); err == nil {
					t.Errorf("%s answers %s = %v", op, path, -value)
				} else if fieldOf(err) == "" {
					t.Errorf("%s, %s: %v names no field", op, path, err)
				}
			})
		}
	}
	if tried < 1000 {
		t.Errorf("only %d inputs were tried", tried)
	}
}

func fieldOf(err error) string {
	if list := fault.Of(err); len(list) > 0 {
		return list[0].Field
	}
	return ""
}

// eachNumber walks a decoded input.
func eachNumber(v any, path string, visit func(path string, value float64, set func(float64))) {
	walk := func(name string, e any, put func(float64)) {
		at := strings.TrimPrefix(path+"."+name, ".")
		if number, is := e.(float64); is {
			visit(at, number, put)
			return
		}
		eachNumber(e, at, visit)
	}
	switch v := v.(type) {
	case map[string]any:
		for name, e := range v {
			walk(name, e, func(n float64) { v[name] = n })
		}
	case []any:
		for i, e := range v {
			walk("n", e, func(n float64) { v[i] = n })
		}
	}
}

// Data that was left out says yes nowhere: it is asked for by its field, or the answer is no.
func TestWhatIsLeftOutIsNeverYes(t *testing.T) {
	table := opcases.Table()
	for name, c := range map[string]struct{ op, in, field string }{
		"a start without the state that is wanted": {"climate.start", `{"kind":"start","rain_safe_h":2,"hours":[{"air_C":15,"rh_percent":50,"substrate_C":15}]}`, "wanted_state"},
		"a start with two hours of eight": {"climate.start",
			`{"kind":"start","wanted_state":"damp","rain_safe_h":8,"hours":[{"air_C":15,"rh_percent":50,"substrate_C":15},{"air_C":15,"rh_percent":50,"substrate_C":15}]}`, "hours"},
		"pressure without its factor":   {"pressure.judge", `{"positive_head_m":1,"negative_head_m":0,"positive_rating_bar":1.5,"negative_rating_bar":null}`, "factor"},
		"drying without humidity":       {"cure.series", `{"kind":"series","law":"drying","counts_for":"minimum","temp_C":[20],"needed_h":4,"ref_C":20,"ref_rh_percent":50,"film_forming_C":5}`, "rh_percent"},
		"moisture curing without it":    {"cure.series", `{"kind":"series","law":"pu","counts_for":"minimum","temp_C":[20],"table":[{"temp_C":20,"h":6}],"ref_C":20,"ref_rh_percent":50}`, "rh_percent"},
		"a cure over no hours":          {"cure.series", `{"kind":"series","law":"arrhenius","counts_for":"minimum","temp_C":[],"table":[{"temp_C":20,"h":6}]}`, "temp_C"},
		"a window over no hours":        {"cure.window", `{"temp_C":[],"earliest_table":[{"temp_C":20,"h":6}],"now_h":1}`, "temp_C"},
		"no dry film out of no wet one": {"film.dft", `{"kind":"dft","coats":[]}`, "coats"},
		"a window that never opens":     {"cure.window", `{"temp_C":[20,20],"earliest_table":[{"temp_C":20,"h":6}],"latest_table":[{"temp_C":20,"h":6}],"now_h":1}`, "latest_table"},
	} {
		t.Run(name, func(t *testing.T) {
			answer, err := table.Call(c.op, []byte(c.in))
			if err == nil || fieldOf(err) != c.field {
				t.Errorf("%s, %v; want a fault at %s", fault.Short(string(answer)), err, c.field)
			}
		})
	}
	for name, c := range map[string]struct{ op, in, want string }{
		"no allowance for the load of a filling": {"watertest.fill",
			`{"kind":"fill","vertices_mm":[[0,0],[1000,0],[1000,1000],[0,1000]],"slope_1_in_n":0,"depth_over_highest_mm":40,"tap_L_per_min":10}`, `"stop_ask_engineer":true`},
		"no allowance for a load":            {"watertest.load", `{"kind":"load","depth_mm":40}`, `"stop_ask_engineer":true`},
		"a base at the dew point, no margin": {"climate.dew", `{"kind":"dew","air_C":20,"rh_percent":95,"substrate_C":20}`, `"ok":false`},
	} {
		t.Run(name, func(t *testing.T) {
			answer, err := table.Call(c.op, []byte(c.in))
			if err != nil || !strings.Contains(string(answer), c.want) {
				t.Errorf("%s, %v; want %s", answer, err, c.want)
			}
		})
	}
}
