package draw_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"reflect"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/ops"
	"dusha/core/ops/opcases"
	"dusha/draw"
)

// hostileFor is how long hostile inputs are tried; 0 tries a fixed number of them.
var hostileFor = flag.Duration("hostile", 0, "how long to try hostile inputs")

const (
	hostileInputs = 2000
	hangAfter     = 20 * time.Second
	mostAllocated = 256 << 20
	slowFuzz      = 2 * time.Second // only where time is what is looked for
)

// No input takes a door down: each operation answers, or says which field is at fault, with
// bounded memory. Inputs are made from the types of its schema and from worked cases with
// something hostile put into them.
func TestHostileInputsAreAnswered(t *testing.T) {
	h := newHostile(t)
	begin, worst := time.Now(), time.Duration(0)
	for n := 0; *hostileFor > 0 && time.Since(begin) < *hostileFor || *hostileFor == 0 && n < hostileInputs; n++ {
		name := h.names[n%len(h.names)]
		random := rand.New(rand.NewPCG(uint64(n), 20))
		if *hostileFor > 0 {
			random = rand.New(rand.NewPCG(uint64(n), uint64(begin.UnixNano())))
		}
		input := h.input(name, random)
		took, _ := h.try(t, name, input)
		if *hostileFor > 0 && took > slowFuzz {
			t.Errorf("%s took %v", name, took)
			keep(t, name, input)
		}
		worst = max(worst, took)
	}
	t.Logf("the slowest took %v, all %v", worst, time.Since(begin))
}

// all are the operations of the product and the single rules.
func all() ops.Table {
	table := opcases.Table()
	maps.Copy(table, draw.Table())
	return table
}

// Each was seen to bring a door down, to hang it, or to take the memory of the machine.
func TestInputsThatDidHarm(t *testing.T) {
	zeros := strings.Repeat("0,", 1_000_000) + "0"
	comb := func(teeth int) string { // a floor with as many corners, half of them reflex
		var points []string
		for i := teeth / 4; i > 0; i-- {
			x := i * 100
			points = append(points, fmt.Sprintf("[%d,1000],[%d,1000],[%d,50],[%d,50]", x, x-50, x-50, x-100))
		}
		return "[0,0],[" + fmt.Sprint(teeth/4*100) + ",0]," + strings.TrimSuffix(strings.Join(points, ","), fmt.Sprintf(",[%d,50]", 0)) + ",[0,50]"
	}
	steps := func(n, step int) string {
		var at []string
		for i := range n {
			at = append(at, fmt.Sprint((i+1)*step))
		}
		return strings.Join(at, ",")
	}
	many := func(n int, text string) string { return strings.TrimSuffix(strings.Repeat(text+",", n), ",") }
	rows := []struct{ name, op, in, field string }{
		{"a pack counted 9e15 times", "draw.shelf", `{"lines":[{"id":"a","title":"a","packs":[{"size":20,"count":9007199254740991}]}],"view":{"width":600,"height":400}}`, "lines.1.packs.1.count"},
		{"a stock of 200 lines of 10,000 packs", "draw.shelf", `{"lines":[{"id":"a","title":"a","unit":"kg","stock":[` + many(200, `{"amount":20,"count":10000}`) + `]}],"view":{"width":600,"height":400}}`, ""},
		{"a corner at 1e12", "cutting.floor", `{"vertices_mm":[[0,0],[1e12,0],[1e12,1e12],[0,1e12]],"direction":"x","roll_width_mm":1000,"lap_mm":50}`, "vertices_mm.2.1"},
		{"a corner at the last place that is taken", "cutting.floor", `{"vertices_mm":[[0,0],[1e6,0],[1e6,1e6],[0,1e6]],"direction":"x","roll_width_mm":1,"lap_mm":0.999}`, ""},
		{"a level of -1e300", "draw.levels", `{"test":{"runs":[{"at":"2026-03-04T12:00:00Z","levels":[{"at":"2026-03-04T12:00:00Z","water_mm":-1e300},{"at":"2026-03-04T13:00:00Z","water_mm":5}]}]},"now":"2026-03-04T14:00:00Z","view":{"width":600,"height":400}}`, "test.runs.1.levels.1.water_mm"},
		{"a level of a kilometre", "draw.levels", `{"test":{"runs":[{"at":"2026-03-04T12:00:00Z","levels":[{"at":"2026-03-04T12:00:00Z","water_mm":-1e6},{"at":"2026-03-04T13:00:00Z","water_mm":5}]}]},"now":"2026-03-04T14:00:00Z","view":{"width":600,"height":400}}`, ""},
		{"a test that will be decided in the year 9999", "draw.levels", `{"test":{"decides":"9999-12-31T23:59:59Z","runs":[{"at":"2026-03-04T12:00:00Z","levels":[{"at":"2026-03-04T12:00:00Z","water_mm":76},{"at":"2026-03-04T13:00:00Z","water_mm":75}]}]},"now":"2026-03-04T14:00:00Z","view":{"width":600,"height":400}}`, ""},
		{"a million zeros as entries", "logbook.job", `{"entries":[` + zeros + `],"now":"2026-03-04T12:00:00Z"}`, "entries"},
		{"a million zeros as a book to look at", "logbook.look", `{"entries":[` + zeros + `],"area":"a","now":"2026-03-04T12:00:00Z"}`, "entries"},
		{"60,000 zeros as entries", "logbook.job", `{"entries":[` + many(60_000, "0") + `],"now":"2026-03-04T12:00:00Z"}`, ""},
		{"200 corners and 500 drains", "wetarea.screed", `{"vertices_mm":[` + comb(200) + `],"drains_mm":[` + many(500, `[5,5]`) + `],"t0_mm":20,"slope_1_in_n":50}`, "drains_mm"},
		{"200 corners and as many drains as are taken", "wetarea.screed", `{"vertices_mm":[` + comb(200) + `],"drains_mm":[` + many(40, `[5,5]`) + `],"t0_mm":20,"slope_1_in_n":50}`, ""},
		{"200 keep-clears a run", "cutting.bands", `{"roll_mm":10000,"lap_mm":100,"min_piece_mm":300,"join_clear_mm":300,"runs":[` + many(1000, `{"length_mm":300000,"keep_clear_at_mm":[`+steps(200, 1500)+`]}`) + `]}`, ""},
		{"readings of 500,000 teeth", "film.stats", `{"gauge_teeth_mm":[` + many(500_000, "0.1") + `],"last_wetted_mm":[` + many(20_000, "0.1") + `]}`, "gauge_teeth_mm"},
		{"4 MB of CSV", "survey.rooms", `{"text":"` + strings.Repeat(`a,1,1,1\n`, 500_000) + `"}`, "text"},
		{"4 MB of corners", "survey.outline", `{"format":"csv","text":"` + strings.Repeat(`1,1\n`, 1_000_000) + `"}`, "text"},
		{"4 MB of sheets", "sheet.import", `{"format":"csv","known":[],"text":"id,like,name,revision,field,printed\n` + strings.Repeat(`a,b,c,d,e,f\n`, 350_000) + `"}`, ""},
		{"a factor of p = 2", "film.k", `{"n":5,"p":2,"gamma":0.95}`, "p"},
		{"a factor of gamma = 1", "film.k", `{"n":5,"p":0.9,"gamma":1}`, "gamma"},
		{"a share that is next to none", "watertest.t", `{"p":5e-324,"dof":5e-324}`, "p"},
		{"freedom that is next to none", "watertest.t", `{"p":0.95,"dof":5e-324}`, "dof"},
		{"no hours", "cure.series", `{"law":"arrhenius","temp_C":[],"table":[{"temp_C":20,"h":4}],"counts_for":"minimum"}`, "temp_C"},
		{"next to no need", "mixing.series", `{"need_kg":1e-300,"greatest_batch_kg":10}`, "need_kg"},
		{"an opening in no edge", "wetarea.room", `{"vertices_mm":[[0,0],[2000,0],[2000,2000],[0,2000]],"edges":[{"kind":"wall","height_mm":1},{"kind":"wall","height_mm":1},{"kind":"wall","height_mm":1},{"kind":"wall","height_mm":1}],"openings":[{"edge":9,"from_mm":1,"width_mm":2,"height_mm":2}]}`, "openings.1.edge"},
		{"a corner at 1e300", "wetarea.screed", `{"vertices_mm":[[0,0],[1e300,0],[1e300,1e300],[0,1e300]],"drains_mm":[[1,1]],"t0_mm":20,"slope_1_in_n":50}`, "vertices_mm.2.1"},
		{"a run before the first", "cut.start", `{"plan":[{"offcut":-1,"length_mm":1000,"pieces":[{"run":-1,"from_mm":0,"to_mm":10}]}],"marks":[{"id":"a","number":1}],"roll_mm":1000}`, "plan.1.pieces.1.run"},
	}
	h := newHostile(t)
	at := `"at":"2026-03-04T12:00:00Z","by":"01900000-0000-7000-8000-000000000001","jobId":"01900000-0000-7000-8000-000000000002"`
	packs := fmt.Sprintf(`{"id":"01900000-0000-7000-8000-0000000000aa",%s,"kind":"stock.counted","body":{"sheet":"sample.flexible_cementitious","packs":[%s]}}`, at, many(200, `{"amount":20.4,"count":10000}`))
	hostel := strings.TrimSuffix(string(h.good["sheet.library"][0]), "]}")
	renamed := make([]string, 50_000)
	for i := range renamed {
		renamed[i] = fmt.Sprintf(`{"id":"01900000-0000-7000-8000-%012d",%s,"kind":"job.renamed","body":{"name":"Name %d"}}`, i, at, i)
	}
	type row = struct{ name, op, in, field string }
	rows = append(rows,
		row{"a stock of 2,000,000 packs, in what there is to buy", "materials.list", hostel + "," + packs + `],"now":"2026-03-04T12:00:00Z"}`, ""},
		row{"a book of 50,000 entries", "logbook.job", `{"entries":[` + strings.Join(renamed, ",") + `],"now":"2026-03-04T12:00:00Z"}`, ""},
	)
	for _, row := range rows {
		t.Run(row.name, func(t *testing.T) {
			took, err := h.try(t, row.op, []byte(row.in))
			var faults fault.Faults
			if errors.As(err, &faults) && strings.HasPrefix(faults[0].Key, "json.") {
				t.Fatalf("refused for its shape: %v", err)
			}
			if row.field != "" && (!errors.As(err, &faults) || faults[0].Field != row.field) {
				t.Errorf("got %v, want a fault at %s", err, row.field)
			}
			if took > slowFuzz {
				t.Errorf("it took %v", took)
			}
		})
	}
}

type hostile struct {
	table ops.Table
	names []string
	good  map[string][][]byte // inputs that are fine, by operation
}

func newHostile(t *testing.T) hostile {
	t.Helper()
	h := hostile{table: all(), good: map[string][][]byte{}}
	h.names = h.table.Names()
	files, err := filepath.Glob("../core/testdata/vectors/*.json")
	if err != nil || len(files) == 0 {
		t.Fatalf("no worked cases: %v", err)
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var group struct {
			Cases []struct{ In json.RawMessage }
		}
		if err := json.Unmarshal(text, &group); err != nil {
			t.Fatal(err)
		}
		for _, c := range group.Cases {
			var k struct{ Kind, Shape, Model string }
			_ = json.Unmarshal(c.In, &k)
			op := opcases.Operations[strings.TrimSuffix(filepath.Base(file), ".json")+"/"+k.Kind+k.Shape+k.Model]
			h.good[op] = append(h.good[op], c.In)
		}
	}
	h.addPage(t)
	return h
}

// input is one for an operation: a good one with something hostile in it, or one made up from
// the operation's type.
func (h hostile) input(name string, random *rand.Rand) []byte {
	if good := h.good[name]; len(good) > 0 && random.IntN(4) > 0 {
		reader := json.NewDecoder(bytes.NewReader(good[random.IntN(len(good))]))
		reader.UseNumber()
		var value any
		if err := reader.Decode(&value); err == nil {
			for range 1 + random.IntN(3) {
				value = spoil(value, random)
			}
			if text, err := json.Marshal(value); err == nil {
				return text
			}
		}
	}
	text, err := json.Marshal(madeUp(h.table[name].In, random, 0))
	if err != nil {
		return []byte("null")
	}
	return text
}

var (
	numbers = []string{"0", "-1", "1", "0.5", "-0", "2", "3", "7", "100", "1000", "1e-300", "5e-324", "1e6", "1e9", "-1e9", "1e12", "1e15", "9007199254740991", "1e300", "-1e300", "1e308", "1.7976931348623157e308", "0.1", "99.999999999", "1e-9", "2147483648"}
	texts   = []string{"", " ", "0", "-1", "1e300", "floor", "wall.a", "\u0000", "\U0001f600", "NaN", "Infinity", "1/0", "2026-03-04T12:00:00Z", "9999-12-31T23:59:59Z", "0000-01-01T00:00:00Z", "01900000-0000-7000-8000-000000000001", "arrhenius", "csv", "dxf", "cement", "walls.a.height", "../../etc"}
)

func odd(random *rand.Rand) any {
	switch random.IntN(10) {
	case 0:
		return nil
	case 1:
		return []any{}
	case 2:
		return map[string]any{}
	case 3:
		return texts[random.IntN(len(texts))]
	case 4:
		return strings.Repeat("long ", 1<<random.IntN(16))
	case 5:
		deep := any(1)
		for range 1 << random.IntN(10) {
			deep = []any{deep}
		}
		return deep
	case 6:
		return random.IntN(2) == 0
	default:
		return json.Number(numbers[random.IntN(len(numbers))])
	}
}

// spoil changes one thing somewhere in a value: a leaf, the length of a list, a member.
func spoil(value any, random *rand.Rand) any {
	switch v := value.(type) {
	case map[string]any:
		if len(v) == 0 || random.IntN(30) == 0 {
			return odd(random)
		}
		keys := make([]string, 0, len(v))
		for key := range v {
			keys = append(keys, key)
		}
		slices.Sort(keys)
		key := keys[random.IntN(len(keys))]
		if random.IntN(30) == 0 {
			delete(v, key)
			return v
		}
		v[key] = spoil(v[key], random)
		return v
	case []any:
		switch {
		case len(v) == 0 || random.IntN(25) == 0:
			return odd(random)
		case random.IntN(12) == 0: // many times over
			var grown []any
			for range 1 << random.IntN(9) {
				grown = append(grown, v...)
				if len(grown) > 20_000 {
					break
				}
			}
			return grown
		case random.IntN(25) == 0:
			return v[:random.IntN(len(v))]
		}
		i := random.IntN(len(v))
		v[i] = spoil(v[i], random)
		return v
	case json.Number:
		if random.IntN(8) == 0 {
			return odd(random)
		}
		return json.Number(numbers[random.IntN(len(numbers))])
	case string:
		if random.IntN(2) == 0 {
			return texts[random.IntN(len(texts))]
		}
	}
	return odd(random)
}

// madeUp is a value of the shape of a type.
func madeUp(t reflect.Type, random *rand.Rand, depth int) any {
	const deepest = 7
	if depth > deepest || random.IntN(40) == 0 {
		return odd(random)
	}
	if t.Implements(reflect.TypeFor[json.Marshaler]()) && t.Kind() != reflect.Pointer {
		return odd(random)
	}
	switch t.Kind() {
	case reflect.Pointer:
		if random.IntN(3) == 0 {
			return nil
		}
		return madeUp(t.Elem(), random, depth)
	case reflect.Struct:
		out := map[string]any{}
		for i := range t.NumField() {
			f := t.Field(i)
			name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
			switch {
			case f.Anonymous && name == "":
				if inner, is := madeUp(f.Type, random, depth).(map[string]any); is {
					for key, value := range inner {
						out[key] = value
					}
				}
			case f.IsExported() && name != "-":
				out[name] = madeUp(f.Type, random, depth+1)
			}
		}
		return out
	case reflect.Slice:
		list := []any{}
		for range random.IntN(6) {
			list = append(list, madeUp(t.Elem(), random, depth+1))
		}
		return list
	case reflect.Array:
		list := []any{}
		for range t.Len() {
			list = append(list, madeUp(t.Elem(), random, depth+1))
		}
		return list
	case reflect.Map:
		out := map[string]any{}
		for range random.IntN(4) {
			out[texts[random.IntN(len(texts))]] = madeUp(t.Elem(), random, depth+1)
		}
		return out
	case reflect.String:
		return texts[random.IntN(len(texts))]
	case reflect.Bool:
		return random.IntN(2) == 0
	default:
		return json.Number(numbers[random.IntN(len(numbers))])
	}
}

// try runs one input and holds it against what every call must keep to.
func (h hostile) try(t *testing.T, name string, input []byte) (time.Duration, error) {
	t.Helper()
	guard := time.AfterFunc(hangAfter, func() {
		stacks := make([]byte, 1<<16)
		keep(t, name, input)
		panic(fmt.Sprintf("%s hangs on %.2000s\n%s", name, input, stacks[:runtime.Stack(stacks, true)]))
	})
	defer guard.Stop()
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	begin := time.Now()
	out, err := h.table.Call(name, input)
	took := time.Since(begin)
	runtime.ReadMemStats(&after)
	if allocated := after.TotalAlloc - before.TotalAlloc; allocated > mostAllocated {
		t.Errorf("%s allocated %d MB", name, allocated>>20)
		keep(t, name, input)
	}
	var faults fault.Faults
	switch {
	case err == nil && !json.Valid(out):
		t.Errorf("%s answers what is no JSON", name)
	case err == nil:
	case !errors.As(err, &faults) || len(faults) == 0:
		t.Errorf("%s fails otherwise than by a fault: %v", name, err)
	default:
		for _, f := range faults {
			if f.Field == "" || f.Key == "" || f.Key == "operation.broken" {
				t.Errorf("%s: %.300s", name, f)
				keep(t, name, input)
			}
		}
	}
	return took, err
}

// keep writes an input that did harm where it can be looked at.
func keep(t *testing.T, name string, input []byte) {
	folder := os.Getenv("DUSHA_HOSTILE")
	if folder == "" {
		return
	}
	file := filepath.Join(folder, fmt.Sprintf("%s-%x.json", name, rand.Uint32()))
	if err := os.WriteFile(file, input, 0o600); err == nil {
		t.Log("kept as " + file)
	}
}
