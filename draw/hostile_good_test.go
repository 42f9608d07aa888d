package draw_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"dusha/demo"
)

// addPage adds what the page sends for the hostel, and holds that all of it is fine and that
// no operation is without.
func (h hostile) addPage(t *testing.T) {
	t.Helper()
	made, err := demo.Make(time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC), 5)
	if err != nil {
		t.Fatal(err)
	}
	const view, now = `"view":{"width":640,"height":560}`, `"now":"2026-03-04T12:00:00Z"`
	book := `"entries":[` + string(bytes.Join(made.Entries, []byte(","))) + `]`
	add := func(op, format string, args ...any) {
		h.good[op] = append(h.good[op], fmt.Appendf(nil, format, args...))
	}
	answer := func(op string, into any) {
		t.Helper()
		text, err := h.table.Call(op, h.good[op][len(h.good[op])-1])
		if err != nil {
			t.Fatal(err)
		}
		if err := json.Unmarshal(text, into); err != nil {
			t.Fatal(err)
		}
	}
	add("logbook.job", `{%s,%s}`, book, now)
	add("sheet.library", `{%s}`, book)
	add("estimate.ask", `{%s,%s,"typed":{"rate.hour":"60"}}`, book, now)
	add("logbook.check", `{"entry":%s}`, made.Entries[0])
	var library struct{ Sheets []json.RawMessage }
	answer("sheet.library", &library)
	membrane := library.Sheets[0]
	for _, area := range []string{"shower1", "drying", "cellar", "pool"} {
		if made.Areas[area] == "" {
			continue
		}
		of := book + fmt.Sprintf(`,"area":%q`, made.Areas[area])
		add("logbook.look", `{%s,%s}`, of, now)
		var look struct {
			Geometry, Plan, Survey, Tide, Rules, Test, System, Gates json.RawMessage
		}
		answer("logbook.look", &look)
		add("cut.layout", `{%s}`, of)
		add("plan.kept", `{%s}`, of)
		add("logbook.deviations", `{%s}`, of)
		add("film.figures", `{%s,"step":"coat_1","surface":"floor"}`, of)
		add("materials.list", `{%s,%s}`, of, now)
		add("choice.rank", `{%s,"texture":"fine","typed":{}}`, of)
		add("plan.try", `{%s,"sheet":"sample.flexible_cementitious","texture":"rough"}`, of)
		add("logbook.seen", `{%s}`, of)
		add("logbook.why", `{%s,"step":"coat_1","now":"2026-03-04T12:00:00Z"}`, of)
		if area == "shower1" {
			add("logbook.card", `{%s,"coat":2,"surfaces":["floor"],"temp_C":14.5,"bucket_L":30,"scale_g":20,"crew_m2_per_h":9,"walk_min":2}`, of)
		}
		var geometry struct{ Surfaces []struct{ ID string } }
		if err := json.Unmarshal(look.Geometry, &geometry); err != nil {
			t.Fatal(err)
		}
		first := geometry.Surfaces[0].ID
		add("draw.net", `{%s,%s,"layers":["dims","bands","patches"],"lit":[%q]}`, of, view, first)
		add("wetarea.middle", `{%s,"surface":%q}`, of, first)
		var middle struct {
			Along float64 `json:"along_mm"`
			Up    float64 `json:"up_mm"`
		}
		answer("wetarea.middle", &middle)
		add("wetarea.place", `{%s,"surface":%q,"along_mm":%v,"up_mm":%v}`, of, first, middle.Along, middle.Up)
		if string(look.Plan) != "null" {
			add("test.ask", `{%s,"typed":{"depth":"30"}}`, of)
		}
		add("survey.table", `{"survey":%s}`, look.Survey)
		add("survey.mirror", `%s`, typedForm(t, look.Survey))
		add("survey.reshape", `%s,"to":"room"}`, strings.TrimSuffix(typedForm(t, look.Survey), "}"))
		if string(look.Tide) != "null" {
			add("draw.tide", `{"tide":%s,%s,%s,"offset_min":60}`, look.Tide, view, now)
		}
		if string(look.Test) != "null" {
			var test struct{ Judged json.RawMessage }
			if err := json.Unmarshal(look.Test, &test); err != nil {
				t.Fatal(err)
			}
			add("draw.levels", `{"test":%s,%s,%s,"offset_min":60}`, look.Test, now, view)
			if len(test.Judged) > 4 {
				add("draw.scale", `{"judged":%s,"limit_mm_per_h":0.1,%s}`, test.Judged, view)
			}
			add("test.check", `{%s,"reading":{"step":"water_test","water_mm":100,"pan_mm":100,"read_at":"2026-03-04T11:59:00Z","outside":"dry","where":""},%s}`, of, now)
		}
		var materials struct{ Lines json.RawMessage }
		answer("materials.list", &materials)
		add("draw.shelf", `{"lines":%s,%s}`, materials.Lines, view)
		var choice struct {
			Options []struct {
				Build json.RawMessage `json:"build"`
			}
		}
		answer("choice.rank", &choice)
		add("draw.section", `{"layers":%s,%s}`, choice.Options[0].Build, view)
		var layout struct {
			Lists []struct {
				Bands, Wants json.RawMessage
				Width        float64 `json:"width_mm"`
			}
		}
		answer("cut.layout", &layout)
		for _, list := range layout.Lists {
			add("cutting.bands", `%s`, list.Bands)
			var cut struct{ Plan json.RawMessage }
			answer("cutting.bands", &cut)
			add("cut.start", `{"plan":%s,"marks":[],"roll_mm":10000}`, cut.Plan)
			var work json.RawMessage
			answer("cut.start", &work)
			add("cut.table", `{"wants":%s,"width_mm":120,"work":%s}`, list.Wants, work)
			add("draw.rolls", `{"work":%s,"wants":%s,%s}`, work, list.Wants, view)
			break
		}
	}
	for _, y := range []int{-300, 300} {
		add("draw.place", `{%s,"area":%q,"x":300,"y":%d}`, book, made.Areas["shower1"], y)
	}
	add("sheet.ask", `{"sample":"sample.flexible_cementitious","id":"own.1","typed":{"density":"1.6 kg/L"},"today":"2026-03-04"}`)
	add("sheet.typed", `{"sheet":%s,"today":"2026-03-04"}`, membrane)
	var typed struct{ Film json.RawMessage }
	answer("sheet.typed", &typed)
	add("draw.film", `{"film":%s,%s}`, typed.Film, view)
	add("sheet.export", `{"format":"json","sheets":[%s]}`, membrane)
	var exported struct{ Text string }
	answer("sheet.export", &exported)
	quoted, _ := json.Marshal(exported.Text)
	add("sheet.import", `{"format":"json","text":%s,"known":[]}`, quoted)
	add("system.library", `{%s}`, book)
	var systems struct{ Systems []json.RawMessage }
	answer("system.library", &systems)
	add("system.order", `{"system":%s,"sheets":{"membrane":%s}}`, systems.Systems[0], membrane)
	add("system.revise", `{%s,"system":%s,"acts":[{"does":"way","school":"base","way":"ssd"},{"does":"coats","layer":"film","coats":3}]}`, book, systems.Systems[0])
	add("system.blank", `{%s,"sheet":"sample.flexible_cementitious"}`, book)
	add("system.try", `{%s,"area":%q,"systems":[%s]}`, book, made.Areas["shower1"], systems.Systems[0])
	add("sheet.needs", `{%s,"area":%q,"sheet":"sample.flexible_cementitious"}`, book, made.Areas["shower1"])
	const days = `"now":"2026-03-04T12:00:00Z","midnights":["2026-03-04T00:00:00Z","2026-03-05T00:00:00Z","2026-03-06T00:00:00Z","2026-03-07T00:00:00Z"]`
	add("schedule.plan", `{%s,%s,"most_nodes":5,"slacks":true,"indoors_C":18,"held":[{"area":%q,"step":"coat_1","start":"2026-03-05T08:00:00Z"}]}`, book, days, made.Areas["shower1"])
	var planned struct {
		Rows    []json.RawMessage
		Problem json.RawMessage
	}
	answer("schedule.plan", &planned)
	add("schedule.mend", `{%s,%s,"most_nodes":5}`, book, days)
	add("schedule.keep", `{%s,%s,"most_nodes":5,"split":[{"area":%q,"step":"coat_1"}],"keep":{"what":"split","area":%q,"step":"coat_1"}}`, book, days, made.Areas["shower1"], made.Areas["shower1"])
	add("schedule.solve", `%s`, planned.Problem)
	rows, _ := json.Marshal(append([]json.RawMessage{}, planned.Rows...))
	add("schedule.table", `{"format":"ics","rows":%s,"crews":{},"offset_min":60,%s}`, rows, now)
	add("draw.days", `{"rows":%s,"crews":[{"id":"a","name":"Crew one"}],%s,"offset_min":60,"chain":[],%s}`, rows, now, view)
	add("system.changes", `{"before":%s,"after":%s}`, systems.Systems[0], systems.Systems[1])
	add("system.export", `{"systems":[%s]}`, systems.Systems[0])
	answer("system.export", &exported)
	file, _ := json.Marshal(exported.Text)
	add("system.import", `{"text":%s,"known":[]}`, file)
	add("trial.ask", `{"sheet":%s,"typed":{"trial.kg":"3","trial.area":"1"}}`, membrane)
	add("stock.ask", `{"sheet":%s,"typed":{"stock":"1","stock.1.count":"3"}}`, membrane)
	add("rules.ask", `{"base":{"id":"generic","name":"Generic","numbers":{}},"id":"own","typed":{"waste":"5"}}`)
	add("units.number", `{"field":"length","kind":"length","typed":"2,4 m","least":1,"most":10000}`)
	const room = `"typed":{"length":"2.4 m","width":"1,8 m","height":"2100","walls.a.height":"2100"}`
	add("survey.ask", `{"form":"rectangle",%s}`, room)
	add("draw.survey", `{"form":"rectangle",%s,%s}`, room, view)
	add("draw.run", `{"run":{"points_mm":[[0,0],[2400,0],[2400,1800]]},%s}`, view)
	add("survey.outline", `{"format":"csv","text":"0,0\n2000,0\n2000,1000\n0,1000\n"}`)
	add("survey.outline", `{"format":"dxf","text":"0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n70\n1\n10\n0\n20\n0\n10\n2000\n20\n0\n10\n2000\n20\n1000\n0\nENDSEC\n0\nEOF\n"}`)
	add("survey.rooms", `{"text":"name,length,width,height\nA,2400,1800,2100\n"}`)
	add("area.names", `{"name":"Shower 1","count":3,"taken":[]}`)
	for _, name := range h.names {
		if name == "rules.shipped" || name == "survey.volume" {
			continue // one asks for nothing; the other's water lies in no room of the hostel
		}
		fine := 0
		for _, in := range h.good[name] {
			if _, err := h.table.Call(name, in); err == nil {
				fine++
			} else if len(h.good[name]) < 5 {
				t.Logf("%s: %.300v", name, err)
			}
		}
		if fine == 0 {
			t.Errorf("no good input for %s", name)
		}
	}
}

// typedForm is a kept survey as its form was typed.
func typedForm(t *testing.T, survey json.RawMessage) string {
	t.Helper()
	var kept struct {
		Form    string
		Answers map[string]struct{ Typed string }
	}
	if err := json.Unmarshal(survey, &kept); err != nil {
		t.Fatal(err)
	}
	typed := map[string]string{}
	for field, answer := range kept.Answers {
		typed[field] = answer.Typed
	}
	text, err := json.Marshal(map[string]any{"form": kept.Form, "typed": typed})
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}
