package site_test

import (
	"bufio"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"dusha/core/fault"
	"dusha/core/logbook"
	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
	"dusha/core/wetarea/wetareatest"
)

// Days of work: each file of testdata/days tells what is built where, in which air, and what is expected; a crew that does what
// Dusha asks, and nothing else, walks it from the first entry to the last. It overrides nothing and ticks nothing that it did
// not do: what it says is laid, weighed, read, waited for and looked at in the order and the air of the file. Files with a
// mistake do one thing otherwise and say what has to be said of it.
func TestDays(t *testing.T) {
	files, err := filepath.Glob("testdata/days/*.txt")
	if err != nil || len(files) == 0 {
		t.Fatal("no days", err)
	}
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txt"), func(t *testing.T) {
			t.Parallel()
			text, err := os.Open(file)
			if err != nil {
				t.Fatal(err)
			}
			defer text.Close()
			c := newCrew(t)
			lines := bufio.NewScanner(text)
			for lines.Scan() {
				line, _, _ := strings.Cut(lines.Text(), "#")
				if line = strings.TrimSpace(line); line != "" {
					c.line = line
					c.do(strings.Fields(line))
				}
			}
			c.honest()
		})
	}
}

// crew is who works by a file of days.
type crew struct {
	t    *testing.T
	line string
	site *site.Site
	now  time.Time
	n    int
	kept []json.RawMessage

	lead, second string
	of           system.System
	form         string
	typed        map[string]string
	choices      map[string]string
	air          map[string]float64
	texture      string
	expected     []string // deviations that are expected
	proof        string
	shares       map[string]float64 // of what is asked that is laid, by step
	off          map[string]float64 // how much too much of the first part is weighed, by step

	readOn func(faults fault.Faults) bool // reads figures that a card lacks off the pack
}

const dayArea = "019cb000-0000-7000-8000-00000000a1ea"

func newCrew(t *testing.T) *crew {
	c := &crew{
		t: t, site: site.Of(nil), now: time.Date(2026, 5, 4, 7, 0, 0, 0, time.UTC), texture: "fine", choices: map[string]string{},
		air: map[string]float64{"air": 20, "base": 19, "humidity": 55}, shares: map[string]float64{}, off: map[string]float64{},
		lead: "019cb000-0000-7000-8000-0000000001ea", second: "019cb000-0000-7000-8000-0000000002ea",
	}
	c.add("job.opened", map[string]any{"name": "Days", "time_zone": "UTC", "demo": true})
	c.add("person.joined", map[string]any{"person": c.lead, "role": "Crew lead"})
	c.add("person.joined", map[string]any{"person": c.second, "role": "Inspector"})
	return c
}

func (c *crew) fail(format string, args ...any) {
	c.t.Helper()
	c.t.Fatalf("%s: %s: %s", c.now.Format("02 15:04"), c.line, fmt.Sprintf(format, args...))
}

// add writes an entry a minute after the one before.
func (c *crew) add(kind string, body any) string {
	c.t.Helper()
	return c.mend("", kind, body)
}

// mend keeps an entry; where it corrects another one, with a reason.
func (c *crew) mend(corrects, kind string, body any) string {
	c.t.Helper()
	c.n++
	c.now = c.now.Add(time.Minute)
	e := map[string]any{
		"id": fmt.Sprintf("019cb000-0000-7000-8000-%012d", c.n), "jobId": "019cb000-0000-7000-8000-0000000000b0",
		"kind": kind, "at": c.now.Format(time.RFC3339), "by": c.lead, "body": body,
	}
	if !logbook.OfJob(logbook.Kind(kind)) {
		e["areaId"] = dayArea
	}
	if corrects != "" {
		e["corrects"], e["reason"] = corrects, "read on"
	}
	text, err := json.Marshal(e)
	if err != nil {
		c.fail("%v", err)
	}
	if parsed, err := logbook.Parse(text); err != nil {
		c.fail("%s is refused: %v %s", kind, err, text)
	} else if err := parsed.Unread(); err != nil {
		c.fail("%s cannot be read: %v", kind, err)
	}
	c.site.Add([][]byte{text})
	c.kept = append(c.kept, text)
	return fmt.Sprint(e["id"])
}

// keep writes the entries so far into the folder that DUSHA_DAYS_KEEP names, if it names one.
func (c *crew) keep(name string) {
	folder := os.Getenv("DUSHA_DAYS_KEEP")
	if folder == "" {
		return
	}
	text, err := json.Marshal(map[string]any{"now": c.now, "entries": c.kept})
	if err == nil {
		err = os.WriteFile(filepath.Join(folder, name+".json"), text, 0o600)
	}
	if err != nil {
		c.fail("%v", err)
	}
}

func (c *crew) area() *logbook.Area { return c.site.Area(dayArea) }
func (c *crew) look() logbook.Look  { return c.area().At(c.now) }

// do is one line of a file.
func (c *crew) do(words []string) {
	c.t.Helper()
	rest := words[1:]
	switch words[0] {
	case "place":
		shape := wetareatest.Shapes[strings.Join(rest, " ")]
		if shape.Form == "" {
			c.fail("no such place")
		}
		c.form, c.typed = shape.Form, maps.Clone(shape.Typed)
	case "survey": // one more answer
		c.typed[rest[0]] = strings.Join(rest[1:], " ")
	case "base":
		maps.Copy(c.typed, map[string]string{"patches": "1", "patches.1.surface": "all", "patches.1.material": rest[0], "patches.1.age": "400", "patches.1.moisture": "2", "patches.1.method": "carbide", "patches.1.soundness": "sound"})
	case "system":
		i := slices.IndexFunc(system.Samples(), func(s system.System) bool { return s.ID == "sample.system."+rest[0] })
		if i < 0 {
			c.fail("no such system")
		}
		c.of = system.Samples()[i]
	case "own": // a system of one's own, from its file
		text, err := os.ReadFile(filepath.Join("testdata/days", rest[0]))
		if err == nil {
			err = json.Unmarshal(text, &c.of)
		}
		if err == nil {
			err = c.of.Check()
		}
		if err != nil {
			c.fail("%v", err)
		}
	case "early_done":
		c.add("done", map[string]any{"step": rest[0], "answers": answersTo(stepOf(c.look(), rest[0]).Asks)})
	case "choose":
		c.choices[rest[0]] = rest[1]
	case "proof":
		c.proof = rest[0]
	case "air":
		for i := 0; i+1 < len(words); i += 2 {
			c.air[words[i]] = c.number(words[i+1])
		}
		if c.n > 3 { // at work already: somebody reads it
			c.readAir()
		}
	case "begin":
		c.begin()
	case "go":
		c.goTo(rest[len(rest)-1])
	case "keep": // the entries so far, for whoever goes on from there by hand
		c.keep(rest[0])
	case "wait":
		c.rest(time.Duration(c.number(rest[0])*60) * time.Minute)
	case "lay": // lay <step> <percent> % of what is asked, wherever it is next
		c.shares[rest[0]] = c.number(rest[1]) / 100
	case "early": // a step is laid before its turn
		s := stepOf(c.look(), rest[0])
		for _, w := range s.Works {
			if !w.Beds {
				c.layWork(c.look(), s, w)
				return
			}
		}
		c.layCoat(c.look(), s)
	case "misweigh": // misweigh <step> <percent>: more of the first part than was asked
		c.off[rest[0]] = c.number(rest[1]) / 100
	case "touch": // touch <step> without <state>: all but one is found
		found := []string{}
		for _, link := range stepOf(c.look(), rest[0]).After {
			found = append(found, slices.DeleteFunc(slices.Clone(link.States), func(state string) bool { return state == rest[2] })...)
		}
		c.add("touched", map[string]any{"step": rest[0], "found": found})
	case "look": // look <step> not <what was seen>
		l := c.look()
		i := slices.IndexFunc(l.Coats, func(coat logbook.CoatLook) bool { return coat.Step == rest[0] })
		c.add("film.looked", map[string]any{"step": rest[0], "surfaces": []string{l.Coats[i].Surfaces[0].Surface}, "fine": false, "note": strings.Join(rest[2:], " ")})
	case "expect":
		c.expect(rest)
	default:
		c.fail("what is that?")
	}
}

func (c *crew) number(word string) float64 {
	v, err := strconv.ParseFloat(word, 64)
	if err != nil {
		c.fail("%v", err)
	}
	return v
}

// begin surveys the place and accepts the plan.
func (c *crew) begin() {
	c.t.Helper()
	c.survey()
	c.plan("")
}

// survey measures the place.
func (c *crew) survey() {
	c.t.Helper()
	c.add("area.opened", map[string]any{"name": "Days"})
	asked, err := wetarea.Ask(c.form, c.typed)
	if err != nil || asked.Area == nil {
		c.fail("the survey is not complete: %v %v", err, asked.Form.Faults())
	}
	c.add("survey", wetarea.Survey{Form: c.form, Answers: asked.Form.Answers()})
}

// plan accepts the plan: with sheets of one's own where that of the film is named, else with samples.
func (c *crew) plan(own string) {
	c.t.Helper()
	if c.proof != "" {
		c.of.Proofs = []system.Proof{{Kind: c.proof, Reason: map[bool]string{true: "the client waives it in writing"}[c.proof == "none"]}}
	}
	film, _ := c.of.Membrane()
	membrane, known := sheet.Sample(film.Product)
	if !known {
		c.fail("no sheet of %s", film.Product)
	}
	library := sheet.Samples()
	if own != "" {
		membrane, _ = c.site.Job().Sheet(own)
		library = c.site.Job().Sheets()
	}
	used, left := c.of.Take(membrane, library, nil, own == "")
	for i := range used {
		if used[i].Outside {
			used[i].Reason, used[i].Person = "known from earlier jobs", c.lead
		}
	}
	body := map[string]any{"survey": c.look().SurveyID, "system": c.of, "used": used, "rules": rules.Generic(), "texture": c.texture, "choices": c.choices}
	if len(left) > 0 {
		body["left"] = left
	}
	c.add("plan", body)
	if c.area().Takeoff == nil {
		c.fail("no plan comes of it: %v", c.area().Deviations)
	}
	c.count()
}

// count counts what lies there: enough of everything.
func (c *crew) count() {
	for _, item := range c.area().Takeoff.Items {
		if item.Sheet != "" {
			c.add("stock.counted", map[string]any{"sheet": item.Sheet, "part": item.Part, "packs": []map[string]any{{"amount": 1000, "count": 10}}})
		}
	}
}

// rest lets time pass; somebody reads the air as often as a wait asks for it.
func (c *crew) rest(long time.Duration) {
	const stride = 5 * time.Hour
	for until := c.now.Add(long); c.now.Before(until); {
		c.now = minOf(until, c.now.Add(stride))
		c.readAir()
	}
}

func minOf(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

func (c *crew) readAir() {
	c.add("climate", map[string]any{"air_C": c.air["air"], "substrate_C": c.air["base"], "rh_percent": c.air["humidity"], "shut": true,
		"coldest_C": min(c.air["air"], c.air["base"]), "warmest_C": max(c.air["air"], c.air["base"]), "dampest_percent": c.air["humidity"], "driest_percent": c.air["humidity"]})
}

// goTo does what Dusha asks until a step is next, or nothing is left ("end").
func (c *crew) goTo(step string) {
	c.t.Helper()
	for range 700 {
		l := c.look()
		if l.Next.Step == step || step == "end" && l.Next.State == "finished" {
			return
		}
		if l.Next.State == "finished" {
			c.fail("all is finished, and %s never came", step)
		}
		c.serve(l)
	}
	c.fail("it does not come to %s, %d entries: %+v", step, c.n, c.look().Next)
}

func stepOf(l logbook.Look, id string) logbook.StepLook {
	for _, stage := range l.Stages {
		for _, s := range stage.Steps {
			if s.ID == id {
				return s
			}
		}
	}
	return logbook.StepLook{}
}

// serve does the one thing that is asked now.
func (c *crew) serve(l logbook.Look) {
	c.t.Helper()
	s := stepOf(l, l.Next.Step)
	for _, check := range s.Start {
		if check.Says == logbook.NotRead {
			c.look1(check)
			return
		}
		if check.Says != logbook.Go {
			c.fail("%s cannot start: %+v", s.ID, check)
		}
	}
	if b := s.Block; b != nil {
		c.unblock(s, *b, l)
		return
	}
	if s.OnlyIf != nil && len(s.Replies) == 0 {
		c.add("done", map[string]any{"step": s.ID, "answers": []map[string]any{{"question": s.OnlyIf.ID, "says": "yes"}}})
		return
	}
	for _, w := range s.Works {
		if !w.Beds && len(w.Laid) < len(w.Places) {
			c.layWork(l, s, w)
			return
		}
	}
	switch {
	case s.Coats() && s.Done < s.Of:
		c.layCoat(l, s)
	case s.Does == system.Place:
		var open []string
		for _, p := range l.Pieces {
			if p.Step == s.ID && !p.Bedded {
				open = append(open, p.ID)
			}
		}
		for piece := range slices.Chunk(open, 100) {
			c.add("bedded", map[string]any{"step": s.ID, "pieces": piece})
		}
	case s.Does == system.AcceptIt:
		c.accept(l, s)
	case s.Does == system.Sign:
		c.add("signed", map[string]any{"step": s.ID, "person": c.second, "role": "Inspector", "line": [][][2]int{{{1, 1}, {20, 20}, {40, 3}}}, "seen": c.site.Seen(dayArea, s.ID, c.second).Seen})
	case s.Does == system.PlanTest || s.Does == system.Test:
		c.water(l, s)
	case s.Does == system.SprayTest:
		c.now = c.now.Add(40 * time.Minute)
		c.add("sprayed", map[string]any{"step": s.ID, "surfaces": s.ToSpray, "minutes": 35, "L_per_min_m": 5, "front": "sound", "behind": "dry"})
	case s.Does == system.Milestone:
		c.until(s.OpensAt)
	case s.Repeats != nil && s.Repeats.Due != "" && !s.Repeats.Over: // it is due again, until its time is over
		if due, _ := time.Parse(time.RFC3339, s.Repeats.Due); c.now.Before(due) {
			over, err := time.Parse(time.RFC3339, s.Repeats.Until)
			if err == nil && over.Before(due) {
				due = over
			}
			c.rest(due.Sub(c.now))
			return
		}
		c.add("done", map[string]any{"step": s.ID})
	case s.Repeats != nil && s.Repeats.Until == "" && len(s.Repeats.Times) < 3:
		if n := len(s.Repeats.Times); n > 0 {
			last, _ := time.Parse(time.RFC3339, s.Repeats.Times[n-1])
			if c.now.Sub(last) < 4*time.Hour {
				c.rest(4 * time.Hour)
				return
			}
		}
		c.add("done", map[string]any{"step": s.ID})
	default:
		before := c.look().Next
		c.add("done", map[string]any{"step": s.ID, "answers": answersTo(s.Asks)})
		if after := c.look().Next; after.Step == before.Step {
			c.fail("%s is done and next again: %+v, open %+v", s.ID, after, stepOf(c.look(), s.ID).Open)
		}
	}
}

func answersTo(asks []system.Question) []map[string]any {
	list := []map[string]any{}
	for _, q := range asks {
		r := map[string]any{"question": q.ID}
		switch q.Kind {
		case "number":
			r["value"] = max(q.Least, q.Most/2)
		case "choice":
			r["choice"] = q.Choices[0]
		case "photo":
			r["photo"] = "019cb000-0000-7000-8000-0000000000ff"
		default:
			r["says"] = "yes"
		}
		list = append(list, r)
	}
	return list
}

// look1 looks at the one thing that is not known before a start.
func (c *crew) look1(check logbook.StartCheck) {
	c.t.Helper()
	if check.Remedy == "look.forecast" {
		c.add("forecast.read", map[string]any{"dry_until": c.now.Add(96 * time.Hour).Format(time.RFC3339), "coldest_C": 8, "wind_m_per_s": 2, "from": "the harbour board"})
		return
	}
	if check.Remedy != "look.air_and_base" {
		c.fail("not known, and nothing that a crew can read: %+v", check)
	}
	c.readAir()
}

// unblock does what lifts a block, or waits for what time lifts.
func (c *crew) unblock(s logbook.StepLook, b logbook.Block, l logbook.Look) {
	c.t.Helper()
	switch b.Kind {
	case "wait":
		if b.Says == logbook.Unknown {
			c.readAir()
			return
		}
		c.until(s.OpensAt)
	case "touch":
		found := []string{}
		for _, link := range s.After {
			found = append(found, link.States...)
		}
		c.add("touched", map[string]any{"step": s.ID, "found": found})
	case "permit":
		c.add("permit.given", map[string]any{"permit": s.Permit, "number": "P-17", "giver": "Safety office", "until": c.now.Add(10 * time.Hour).Format(time.RFC3339)})
	case "gas":
		c.add("gas.tested", map[string]any{"oxygen_percent": 20.8, "explosive_percent": 0})
	case "people", "licence":
		c.add("manned", map[string]any{"step": s.ID, "people": []string{c.lead, c.second}, "holder": c.lead, "licence": "L-204"})
	case "short":
		if b.Says != logbook.Unknown {
			c.fail("too little there: %+v", b)
		}
		c.count()
	case "base":
		c.add("accepted", map[string]any{"step": "substrate_accepted"})
	default:
		c.fail("%s is shut: %+v %v", s.ID, b, l.Next)
	}
}

// until waits for a moment, reading the air on the way.
func (c *crew) until(at string) {
	c.t.Helper()
	opens, err := time.Parse(time.RFC3339, at)
	if err != nil {
		c.rest(5 * time.Hour) // it cannot be told yet
		return
	}
	c.rest(max(opens.Sub(c.now)+time.Minute, time.Minute))
}

// share is how much of what is asked is laid in a step.
func (c *crew) share(step string) float64 {
	if own, is := c.shares[step]; is {
		return own
	}
	return 1
}

// weigh makes a bucket for some places where their product is mixed; "" where it is not.
func (c *crew) weigh(s logbook.StepLook, in logbook.CardInputs, places []string) (batch string) {
	c.t.Helper()
	in.Tool, in.Surfaces, in.Temp, in.Bucket, in.Resolution, in.CrewRate, in.Walk = "trowel", places, c.air["base"], 200, 1, 200, 0
	card, err := c.area().CardFor(in)
	if err != nil && c.readOn != nil && c.readOn(fault.Of(err)) {
		card, err = c.area().CardFor(in)
	}
	if err != nil {
		c.fail("no card for %s: %v", s.ID, err)
	}
	kg, parts := 0.0, map[string]float64{}
	for i, each := range card.Weigh {
		kg += card.Batches.Batches[i]
		for _, part := range each {
			parts[part.Part] += part.Mass
		}
	}
	body := map[string]any{"step": s.ID, "surfaces": places, "kg": kg, "temp_C": c.air["base"], "bucket_L": 200}
	if in.Layer != "" {
		body["layer"] = in.Layer
	}
	var weighed []map[string]any
	for _, name := range slices.Sorted(maps.Keys(parts)) {
		weighed = append(weighed, map[string]any{"part": name, "kg": parts[name] * (1 + c.off[s.ID])})
		delete(c.off, s.ID)
	}
	batch = fmt.Sprintf("019cb000-0000-7000-8000-%012d", 500000+c.n)
	body["batch"], body["parts"] = batch, weighed
	c.add("weighed", body)
	for _, mark := range []string{"contact", "mixing", "standing", "ready"} {
		c.add("marked", map[string]any{"batch": batch, "mark": mark})
	}
	return batch
}

func (c *crew) layWork(l logbook.Look, s logbook.StepLook, w logbook.WorkLook) {
	c.t.Helper()
	var open []string
	need := 0.0
	for _, p := range w.Places {
		if !slices.Contains(w.Laid, p.ID) {
			open = append(open, p.ID)
			need += p.Need
		}
	}
	body := map[string]any{"step": s.ID, "layer": w.ID, "coat": w.Coat, "surfaces": open}
	if w.Mixed && w.Need != nil {
		body["batch"] = c.weigh(s, logbook.CardInputs{Step: s.ID, Layer: w.Layer}, open)
	}
	if w.Unit == "kg" {
		body["kg"] = max(0.01, need*c.share(s.ID))
	}
	c.add("laid", body)
}

func (c *crew) layCoat(l logbook.Look, s logbook.StepLook) {
	c.t.Helper()
	i := slices.IndexFunc(l.Coats, func(coat logbook.CoatLook) bool { return coat.Step == s.ID })
	coat := l.Coats[i]
	var open []string
	need := 0.0
	for _, surface := range coat.Surfaces {
		if !surface.Laid {
			open = append(open, surface.Surface)
			need += surface.Mass
		}
	}
	body := map[string]any{"step": s.ID, "surfaces": open}
	if asked := c.area().Takeoff.Coats[coat.Number-1]; need > 0 && c.mixed(asked) {
		body["batch"] = c.weigh(s, logbook.CardInputs{Coat: coat.Number}, open)
	}
	if need == 0 {
		need = 10 // by feel: whatever it took
	}
	body["kg"] = need * c.share(s.ID)
	c.add("laid", body)
}

func (c *crew) mixed(coat takeoff.Coat) bool {
	of := c.area().Plan.Printings()[coat.Product]
	return len(of.Parts) > 1
}

// accept reads and looks at what a hold asks for, and signs it.
func (c *crew) accept(l logbook.Look, s logbook.StepLook) {
	c.t.Helper()
	for _, coat := range l.Coats {
		if slices.Contains(s.Accepts, coat.Step) {
			for _, surface := range coat.Surfaces {
				if c.check(coat, surface) {
					return
				}
			}
		}
	}
	c.add("accepted", map[string]any{"step": s.ID, "answers": answersTo(s.Asks)})
	if after := stepOf(c.look(), s.ID); after.Hold != "released" {
		c.fail("accepted, and %s is %s: short %q, gates %v, open %v, deviations %v", s.ID, after.Hold, after.Short, after.Gates, after.Open, c.area().Deviations)
	}
}

// check does the one thing that a surface of a coat is still asked for.
func (c *crew) check(coat logbook.CoatLook, surface logbook.SurfaceLook) (did bool) {
	c.t.Helper()
	if surface.Film.Says == "enough" {
		return false
	}
	at := surface.Unread.At
	if at == nil && (coat.By == "comb" || coat.By == "dry_film") {
		on, _ := c.area().SurfaceOf(surface.Surface)
		at, _ = func() (*wetarea.Point, bool) { m, is := on.Middle(); return &m, is }()
	}
	switch coat.By {
	case "comb":
		tooth := coat.Target * c.share(coat.Step)
		c.add("read", map[string]any{"step": coat.Step, "surface": surface.Surface, "along_mm": at[0], "up_mm": at[1], "last_wet_mm": tooth, "next_dry_mm": tooth + 0.01})
	case "dry_film":
		asked := c.area().Takeoff.Coats[coat.Number-1]
		of := c.area().Plan.Printings()[asked.Product]
		ratio, _ := of.Number("dry_to_wet")
		c.add("dry.read", map[string]any{"step": coat.Step, "surface": surface.Surface, "along_mm": at[0], "up_mm": at[1], "dry_mm": asked.Wet.Value * ratio.Value * float64(coat.Number) * 1.02})
	case "consumption":
		c.fail("%s of %s: %+v", surface.Surface, coat.Step, surface.ByMass)
	default:
		c.add("film.looked", map[string]any{"step": coat.Step, "surfaces": []string{surface.Surface}, "fine": true})
	}
	return true
}

// water plans, fills and reads a water test that loses what the pan loses.
func (c *crew) water(l logbook.Look, s logbook.StepLook) {
	c.t.Helper()
	if s.Does == system.PlanTest {
		asked, err := c.area().AskTest(dayTest(l))
		if err != nil || len(asked.Form.Faults()) > 0 {
			c.fail("the test cannot be planned: %v %v", err, asked.Form.Faults())
		}
		body := map[string]any{"step": s.ID, "answers": asked.Form.Answers()}
		if slices.Contains(l.System.Proofs, "bays") {
			body["bay"], body["bays"] = 1, 1
		}
		c.add("test.planned", body)
		return
	}
	test := l.Test
	if len(test.Runs) == 0 {
		c.add("test.looked", map[string]any{"step": s.ID, "outside": "dry"})
		confirmed := []string{}
		for _, q := range s.Asks {
			confirmed = append(confirmed, q.Line)
		}
		c.add("test.filled", map[string]any{"step": s.ID, "why": "filled", "confirmed": confirmed})
		return
	}
	c.until(test.NextAt)
	n := len(test.Runs[len(test.Runs)-1].Levels)
	lost := 0.02 * float64(n)
	body := map[string]any{"step": s.ID, "water_mm": 80 - lost, "pan_mm": 50 - lost, "outside": "dry"}
	if test.Chosen.Depth > 300 {
		body["water_C"] = 18
	}
	c.add("test.read", body)
}

// dayTest are the answers of a test's form.
func dayTest(l logbook.Look) map[string]string {
	return map[string]string{
		"depth": "40", "falls": "35", "dam": "90", "tap": "10", "standing": "0.2", "allowance": "30", "allowed_by": "Structural engineer", "allowed_from": "a letter",
		"goes_to": "foul drain, by hose", "tolerance": "0.05", "resolution": "0.1", "interval": "1", "hold": "24", "pan": "afloat", "evaporation": "0.02", "soak": "48",
		"from": "07:00", "to": "19:00", "base": "tight",
	}
}

// expect is what a file says has to be so.
func (c *crew) expect(words []string) {
	c.t.Helper()
	l := c.look()
	switch words[0] {
	case "next": // expect next <step> <state>
		if l.Next.Step != words[1] || len(words) > 2 && l.Next.State != words[2] {
			c.fail("next is %+v", l.Next)
		}
	case "short": // expect short <hold>: its film is not enough
		if s := stepOf(l, words[1]); s.Short == "" || s.Hold != "shut" {
			c.fail("it is %s, short %q", s.Hold, s.Short)
		}
	case "shut": // expect shut <step> <kind>
		if s := stepOf(l, words[1]); s.Block == nil || s.Block.Kind != words[2] {
			c.fail("what stands before it is %+v", s.Block)
		}
	case "finished":
		if l.Next.State != "finished" {
			c.fail("next is %+v", l.Next)
		}
	case "deviation":
		if !slices.ContainsFunc(l.Deviations, func(d logbook.Deviation) bool { return d.Key == "deviation."+words[1] }) {
			c.fail("deviations are %v", l.Deviations)
		}
		c.expected = append(c.expected, "deviation."+words[1])
	case "need": // expect need <product> <amount> within a hundredth
		need := 0.0
		for _, item := range c.area().Takeoff.Items {
			if item.Role == words[1] && item.Need != nil {
				need += item.Need.Value
			}
		}
		if want := c.number(words[2]); need < want*0.99 || need > want*1.01 {
			c.fail("it takes %v", need)
		}
	case "order": // the steps, one after the other
		var got []string
		for _, stage := range l.Stages {
			for _, s := range stage.Steps {
				got = append(got, s.ID)
			}
		}
		at := 0
		for _, want := range words[1:] {
			i := slices.Index(got[at:], want)
			if i < 0 {
				c.fail("the order is %v", got)
			}
			at += i + 1
		}
	case "due": // expect due <stage> <days after the last step>
		last := time.Time{}
		for _, stage := range l.Stages {
			for _, s := range stage.Steps {
				if at, err := time.Parse(time.RFC3339, s.Ended); err == nil && stage.Visit == "" && at.After(last) {
					last = at
				}
			}
		}
		for _, stage := range l.Stages {
			if stage.ID == words[1] {
				due, err := time.Parse(time.RFC3339, stage.Due)
				if days := due.Sub(last).Hours() / 24; err != nil || days < c.number(words[2])*0.999 || days > c.number(words[2])*1.001 || stage.Visit != "later" {
					c.fail("it is %s, due %s, %v days later", stage.Visit, stage.Due, days)
				}
			}
		}
	case "times": // expect times <step> <least> <most>: how often it was done
		if n := float64(len(stepOf(l, words[1]).Repeats.Times)); n < c.number(words[2]) || n > c.number(words[3]) {
			c.fail("%v times", n)
		}
	case "no": // expect no <step>
		if stepOf(l, words[1]).ID != "" {
			c.fail("there is one")
		}
	case "by": // expect by <step> <means>
		i := slices.IndexFunc(l.Coats, func(coat logbook.CoatLook) bool { return coat.Step == words[1] })
		if i < 0 || l.Coats[i].By != words[2] {
			c.fail("coats are %+v", l.Coats)
		}
	case "caution":
		if s := stepOf(l, words[1]); !slices.Contains(s.Cautions, words[2]) {
			c.fail("cautions are %v", s.Cautions)
		}
	case "clash":
		clashes := c.of.Clashes(c.area().Plan.Printings(), 24)
		if !slices.ContainsFunc(clashes, func(k system.Clash) bool { return k.Key == words[1] && len(k.Ways) == 2 }) {
			c.fail("clashes are %+v", clashes)
		}
	case "work": // expect work <step> <layer> <amount>, with waste
		works := c.area().Takeoff.WorksOf(words[1])
		i := slices.IndexFunc(works, func(w takeoff.Laying) bool { return w.ID == words[2] })
		if want := c.number(words[3]); i < 0 || works[i].Need == nil || *works[i].Need < want*0.99 || *works[i].Need > want*1.01 {
			for _, w := range works {
				c.t.Logf("%s %v", w.ID, w.Places)
				if w.Need != nil {
					c.t.Logf("  %v %s", *w.Need, w.Unit)
				}
			}
			c.fail("not so")
		}
	case "kg": // expect kg <step> <amount>: of a coat
		i := slices.IndexFunc(l.Coats, func(coat logbook.CoatLook) bool { return coat.Step == words[1] })
		if want := c.number(words[2]); i < 0 || l.Coats[i].Need < want*0.99 || l.Coats[i].Need > want*1.01 {
			for _, coat := range l.Coats {
				c.t.Logf("%s %v kg", coat.Step, coat.Need)
				for _, s := range coat.Surfaces {
					c.t.Logf("  %s %v m2", s.Surface, s.Area)
				}
			}
			c.fail("not so")
		}
	default:
		c.fail("what is expected?")
	}
}

// honest looks back: nothing was passed by name, and nothing deviates but what the file expects.
func (c *crew) honest() {
	c.t.Helper()
	if area := c.area(); area != nil {
		if len(area.Overrides) > 0 {
			c.t.Errorf("passed by name: %v", area.Overrides)
		}
		for _, d := range area.Deviations {
			if !slices.Contains(c.expected, d.Key) {
				c.t.Errorf("deviates: %+v", d)
			}
		}
	}
}
