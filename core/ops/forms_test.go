package ops_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"dusha/core/rules"
	"dusha/core/sheet"
)

// formOut is what every form answers.
type formOut struct {
	Left      int    `json:"left"`
	Next      string `json:"next"`
	Questions []struct {
		ID    string `json:"id"`
		State string `json:"state"`
		Fault *struct {
			Key string `json:"key"`
		} `json:"fault"`
	} `json:"questions"`
}

// wrong lists what a form finds wrong, as "field: key".
func (f formOut) wrong() []string {
	list := []string{}
	for _, q := range f.Questions {
		if q.State == "wrong" {
			list = append(list, q.ID+": "+q.Fault.Key)
		}
	}
	return list
}

func sample(t *testing.T, id string) sheet.Sheet {
	t.Helper()
	s, known := sheet.Sample("sample." + id)
	if !known {
		t.Fatalf("no sample %s", id)
	}
	return s
}

type stockOut struct {
	formOut
	Body *struct {
		Sheet string `json:"sheet"`
		Part  string `json:"part"`
		Packs []struct {
			Amount  float64 `json:"amount"`
			Count   int     `json:"count"`
			Opened  string  `json:"opened"`
			Closing string  `json:"closing"`
			Checked string  `json:"checked"`
		} `json:"packs"`
	} `json:"body"`
}

// Packs alike on one line: sealed ones by number, opened ones with the day and how they were shut.
func TestStockIsCountedAsItLies(t *testing.T) {
	s := sample(t, "flexible_cementitious")
	count := func(typed map[string]string) stockOut {
		out, err := asked[stockOut](t, work, "stock.ask", map[string]any{"sheet": s, "typed": typed})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	kit, _ := s.Number("kit")
	out := count(map[string]string{"stock": "1 2", "stock.1.count": "3", "stock.2.amount": "6,5", "stock.2.count": "1", "stock.2.opened": "2026-01-02", "stock.2.closing": "lid", "stock.2.checked": "2026-02-01"})
	if out.Body == nil || len(out.Body.Packs) != 2 {
		t.Fatalf("%+v", out)
	}
	if p := out.Body.Packs[0]; p.Amount != kit.Value || p.Count != 3 || p.Opened != "" {
		t.Errorf("sealed packs hold a kit of %v: %+v", kit.Value, p)
	}
	if p := out.Body.Packs[1]; p.Amount != 6.5 || p.Closing != "lid" || p.Checked != "2026-02-01" {
		t.Errorf("the opened one: %+v", p)
	}
	for name, c := range map[string]struct {
		typed map[string]string
		wrong string
	}{
		"half a pack":      {map[string]string{"stock.1.count": "1.5"}, "stock.1.count: number.not_whole"},
		"no pack":          {map[string]string{"stock.1.count": "0"}, "stock.1.count: number.too_small"},
		"an empty one":     {map[string]string{"stock.1.count": "1", "stock.1.amount": "0"}, "stock.1.amount: number.too_small"},
		"a day of no year": {map[string]string{"stock.1.count": "1", "stock.1.opened": "last week"}, "stock.1.opened: date.unreadable"},
		"shut by a prayer": {map[string]string{"stock.1.count": "1", "stock.1.opened": "2026-01-02", "stock.1.closing": "prayer"}, "stock.1.closing: choice.unknown"},
	} {
		c.typed["stock"] = "1"
		if out := count(c.typed); out.Body != nil || !slices.Contains(out.wrong(), c.wrong) {
			t.Errorf("%s: %v, wanted %s", name, out.wrong(), c.wrong)
		}
	}
	// How an opened one was shut is asked before the count can be kept.
	if out := count(map[string]string{"stock": "1", "stock.1.count": "1", "stock.1.opened": "2026-01-02"}); out.Body != nil || out.Next != "stock.1.closing" {
		t.Errorf("next %q", out.Next)
	}
	if out := count(map[string]string{}); out.Body == nil || len(out.Body.Packs) != 0 {
		t.Error("nothing there is a count too")
	}
}

// A part that is bought by itself is counted in its own packs.
func TestAPartIsCountedInItsOwnPacks(t *testing.T) {
	for _, s := range sheet.Samples() {
		i := slices.IndexFunc(s.Packs, func(p sheet.Pack) bool { return p.Part != "" })
		if i < 0 {
			continue
		}
		part := s.Parts[slices.IndexFunc(s.Parts, func(p sheet.Part) bool { return p.ID == s.Packs[i].Part })].Name
		out, err := asked[stockOut](t, work, "stock.ask", map[string]any{"sheet": s, "part": part, "typed": map[string]string{"stock": "1", "stock.1.count": "2"}})
		if err != nil || out.Body == nil || out.Body.Part != part || out.Body.Packs[0].Amount != s.Packs[i].Size {
			t.Errorf("%s, %s: %+v, %v, a pack holds %v", s.Name, part, out.Body, err, s.Packs[i].Size)
		}
		return
	}
	t.Fatal("no sample is sold by part")
}

type filmOut struct {
	formOut
	Film struct {
		Wet *struct {
			Value float64 `json:"value"`
		} `json:"wet"`
	} `json:"film"`
	Typed map[string]string `json:"typed"`
	Old   *struct {
		Days float64 `json:"days"`
		Most float64 `json:"most"`
	} `json:"old"`
	Sheet *sheet.Sheet `json:"sheet"`
	Body  *struct {
		Kg   float64 `json:"kg"`
		Area float64 `json:"area_m2"`
	} `json:"body"`
}

// A patch on site gives the film that was really laid: 2.2 kg on 1.25 m² at 1.65 kg/L in one coat.
func TestATrialPatch(t *testing.T) {
	s := sample(t, "flexible_cementitious")
	try := func(kg, area string) filmOut {
		out, err := asked[filmOut](t, work, "trial.ask", map[string]any{"sheet": s, "typed": map[string]string{"trial.kg": kg, "trial.area": area}})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	out := try("2,2", "1.25")
	if want := 2.2 / 1.25 / 1.65; out.Body == nil || out.Film.Wet == nil || math.Abs(out.Film.Wet.Value-want) > 1e-9 {
		t.Errorf("%+v, wanted %v mm", out.Film.Wet, want)
	}
	if got := try("200", "1"); got.Body != nil || !slices.Contains(got.wrong(), "trial.kg: sheet.film_absurd") {
		t.Errorf("200 kg on a m²: %v", got.wrong())
	}
	if got := try("2.2", "0"); got.Body != nil || !slices.Contains(got.wrong(), "trial.area: number.too_small") {
		t.Errorf("on no area: %v", got.wrong())
	}
}

// A sheet that is typed as it is printed is read back as it was typed, and is told when it is old.
func TestASheetIsReadAndOld(t *testing.T) {
	like := sample(t, "flexible_cementitious")
	typed, err := asked[filmOut](t, work, "sheet.typed", map[string]any{"sheet": like})
	if err != nil || typed.Typed["name"] != like.Name || typed.Film.Wet == nil || typed.Old != nil {
		t.Fatalf("%v, %v", typed.Typed, err)
	}
	ask := func(change map[string]string, rules any) filmOut {
		printed := map[string]string{}
		for field, text := range typed.Typed {
			printed[field] = text
		}
		for field, text := range change {
			printed[field] = text
		}
		out, err := asked[filmOut](t, work, "sheet.ask", map[string]any{"sample": like.ID, "id": "own.slurry", "typed": printed, "today": "2026-11-25", "rules": rules})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	own := ask(map[string]string{"name": "Slurry as delivered"}, nil)
	if own.Sheet == nil || own.Sheet.ID != "own.slurry" || own.Sheet.Name != "Slurry as delivered" || own.Sheet.Sample || own.Left != 0 {
		t.Fatalf("%d left, %v, %+v", own.Left, own.wrong(), own.Sheet)
	}
	for name, said := range like.Numbers {
		if got := own.Sheet.Numbers[name]; got.Value != said.Value || got.Unit != said.Unit {
			t.Errorf("%s is read back as %v %s, it was %v %s", name, got.Value, got.Unit, said.Value, said.Unit)
		}
	}
	if out := ask(map[string]string{"wft_per_coat": "thick"}, nil); out.Sheet != nil || len(out.wrong()) != 1 {
		t.Errorf("a film in words: %v", out.wrong())
	}
	profile := rules.Generic()
	if out := ask(map[string]string{"printed": "2015-01-01"}, profile); out.Old == nil || out.Old.Days < out.Old.Most {
		t.Errorf("a printing of 2015 is not old: %+v", out.Old)
	}
	if out := ask(map[string]string{"printed": "2026-11-01"}, profile); out.Old != nil {
		t.Errorf("a printing of this month is old: %+v", out.Old)
	}
	refuse(t, "sheet.ask", `{"sample":"no.such","id":"own","typed":{}}`, "sample", "sheet.unknown")
}

// Sheets go out and come in again, as JSON and as CSV; what is known already is not new.
func TestSheetsGoOutAndIn(t *testing.T) {
	s := sample(t, "flexible_cementitious")
	s.ID, s.Product, s.CopiedFrom, s.Sample = "own.slurry", "own.slurry", s.ID, false
	for _, format := range []string{"json", "csv"} {
		out, err := asked[struct {
			Text string `json:"text"`
		}](t, work, "sheet.export", map[string]any{"format": format, "sheets": []sheet.Sheet{s}})
		if err != nil {
			t.Fatal(err)
		}
		take := func(known []sheet.Sheet) ([]sheet.Sheet, error) {
			in, err := asked[struct {
				Sheets []sheet.Sheet `json:"sheets"`
			}](t, work, "sheet.import", map[string]any{"format": format, "text": out.Text, "known": known})
			return in.Sheets, err
		}
		in, err := take([]sheet.Sheet{})
		if err != nil || len(in) != 1 {
			t.Fatalf("%s: %d, %v", format, len(in), err)
		}
		before, _ := json.Marshal(s)
		after, _ := json.Marshal(in[0])
		if string(before) != string(after) {
			t.Errorf("%s: came back as\n%s\nit went out as\n%s", format, after, before)
		}
		if again, err := take(in); err != nil || len(again) != 0 {
			t.Errorf("%s: %d are new the second time, %v", format, len(again), err)
		}
		other := s
		other.Name = "Another slurry"
		if _, err := take([]sheet.Sheet{other}); err == nil || !strings.Contains(err.Error(), "sheet.id_in_library") {
			t.Errorf("%s: another sheet under its id: %v", format, err)
		}
	}
	refuse(t, "sheet.import", `{"format":"pdf","text":"","known":[]}`, "format", "choice.unknown")
}

// Own rules: a changed number wants its source, an unchanged one keeps its own.
func TestRulesOfOnesOwn(t *testing.T) {
	shipped, err := asked[struct {
		Profiles []rules.Profile `json:"profiles"`
	}](t, work, "rules.shipped", map[string]any{})
	if err != nil || len(shipped.Profiles) < 3 {
		t.Fatalf("%d ship, %v", len(shipped.Profiles), err)
	}
	base := shipped.Profiles[0]
	type out struct {
		formOut
		Profile *rules.Profile `json:"profile"`
	}
	ask := func(typed map[string]string) out {
		got, err := asked[out](t, work, "rules.ask", map[string]any{"base": base, "id": "own", "typed": typed})
		if err != nil {
			t.Fatal(err)
		}
		return got
	}
	if got := ask(map[string]string{"profile_name": "Lake", "numbers.waste": "12"}); got.Profile != nil || got.Next != "source" {
		t.Errorf("a changed number without a source: next %q", got.Next)
	}
	got := ask(map[string]string{"profile_name": "Lake", "numbers.waste": "12", "source": "Agreement 7"})
	if got.Profile == nil || got.Profile.From != base.ID || got.Profile.Numbers["waste"].Says != "Agreement 7" || got.Profile.Numbers["waste"].Value != 12 {
		t.Fatalf("%+v, %v", got.Profile, got.wrong())
	}
	if other := got.Profile.Numbers["least_share"]; other != base.Numbers["least_share"] {
		t.Errorf("an unchanged number: %+v, it was %+v", other, base.Numbers["least_share"])
	}
	if got := ask(map[string]string{"profile_name": "Lake", "numbers.waste": "120"}); got.Profile != nil || !slices.Contains(got.wrong(), "numbers.waste: number.too_large") {
		t.Errorf("more waste than work: %v", got.wrong())
	}
}

// What is copied, mirrored and written out of a survey.
func TestRoundASurvey(t *testing.T) {
	whole := run(t, "survey.ask", `{"form":"rectangle","typed":{`+typedRoom+`}}`)
	survey, _ := json.Marshal(whole["survey"])
	if csv := run(t, "survey.table", fmt.Sprintf(`{"survey":%s}`, survey))["csv"].(string); !strings.Contains(csv, "surface,wall.a,wall") || strings.Count(csv, "\n") < 10 {
		t.Errorf("as CSV: %s", csv)
	}
	mirrored := run(t, "survey.mirror", `{"form":"rectangle","typed":{`+typedRoom+`}}`)["typed"].(map[string]any)
	if mirrored["doorway.from_left"] != "750" || mirrored["drain.from_d"] == "1200" && mirrored["walls.b.height"] != mirrored["walls.d.height"] {
		t.Errorf("in a mirror: %v", mirrored)
	}
	names := run(t, "area.names", `{"name":"Shower 2","count":2,"taken":["Shower 3"]}`)["names"]
	if fmt.Sprint(names) != "[Shower 4 Shower 5]" {
		t.Errorf("counted up: %v", names)
	}
	refuse(t, "area.names", `{"name":"Shower","count":0,"taken":[]}`, "count", "number.too_small")
	refuse(t, "area.names", `{"name":"Shower","count":101,"taken":[]}`, "count", "number.too_large")
	rooms := run(t, "survey.rooms", `{"text":"Shower 1,2400,1800,2100\nShower 2,2200,1700,2100\n"}`)["rooms"].([]any)
	if len(rooms) != 2 {
		t.Errorf("%d rooms", len(rooms))
	}
	outline := run(t, "survey.outline", `{"format":"csv","text":"0,0\n3000,0\n3000,2000\n0,2000\n"}`)["typed"].(map[string]any)
	if len(outline) == 0 {
		t.Error("an outline of four corners gives no answers")
	}
	refuse(t, "survey.outline", `{"format":"csv","text":"0,0\n3000,0\n"}`, "file", "outline.too_few_vertices")
}

// A tank of 1.2 m that is 1.8 m across holds π × 0.9² × the water over its floor.
func TestWaterUpToALevel(t *testing.T) {
	whole := run(t, "survey.ask", `{"form":"round_tank","typed":{"diameter":"1800","tank_height":"1600","water_depth":"1200"}}`)
	if whole["survey"] == nil {
		t.Fatalf("next %v", whole["next"])
	}
	survey, _ := json.Marshal(whole["survey"])
	for below, want := range map[float64]float64{0: math.Pi * 0.81 * 1200, 200: math.Pi * 0.81 * 1000} {
		got := run(t, "survey.volume", fmt.Sprintf(`{"survey":%s,"below_water_line_mm":%v}`, survey, below))["volume_L"].(float64)
		if math.Abs(got-want) > 1e-6*want {
			t.Errorf("%v mm below the water line: %v L, want %v", below, got, want)
		}
	}
}

// Systems come the best first, those that are stopped here last, and say why.
func TestSystemsAreRanked(t *testing.T) {
	book, _ := hostel(t, "cistern")
	type option struct {
		Sheet string `json:"sheet"`
		Stops []struct {
			Key string `json:"key"`
		} `json:"stops"`
	}
	out, err := asked[struct {
		formOut
		Options []option `json:"options"`
	}](t, work, "choice.rank", json.RawMessage(`{`+book+`,"texture":"fine","typed":{"drinking":"yes"}}`))
	if err != nil || len(out.Options) < 10 {
		t.Fatalf("%d options, %v", len(out.Options), err)
	}
	stopped := false
	for _, o := range out.Options {
		if stopped && len(o.Stops) == 0 {
			t.Errorf("%s stands behind a stopped one", o.Sheet)
		}
		stopped = stopped || len(o.Stops) > 0
	}
	if !stopped {
		t.Error("no system is stopped in a tank of drinking water")
	}
	refuse(t, "choice.rank", `{"entries":[],"area":"x","texture":"fine","typed":{}}`, "survey", "plan.no_survey")
}

// A reading of levels is held against the plan of its test before it is kept.
func TestAReadingIsChecked(t *testing.T) {
	book, _ := hostel(t, "shower1")
	refuse(t, "test.check", `{`+book+`,"now":"2026-03-04T12:00:00Z","reading":{"step":"no.such","water_mm":80}}`, "read_at", "watertest.not_filled")
}

// What a person wrote by hand is read like any other entry, or its field is named.
func TestAnEntryIsChecked(t *testing.T) {
	_, made := hostel(t, "shower1")
	for _, text := range made.Entries[:20] {
		out := run(t, "logbook.check", fmt.Sprintf(`{"entry":%s}`, text))
		if out["id"] == "" || out["kind"] == "" {
			t.Errorf("%s: %v", text, out)
		}
	}
	refuse(t, "logbook.check", `{"entry":{"kind":"reed"}}`, "id", "entry.not_an_id")
}
