package site_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"

	"dusha/core/logbook"
	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/demo"
)

var noon = time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)

// book is the hostel with what areas share and what works back on what was before: places of air, readings
// elsewhere, counted stock, overrides, corrections, what was taken back, leaks, and what cannot be read.
func book(t *testing.T) (made demo.Job, texts [][]byte) {
	t.Helper()
	made, err := demo.Make(noon, 5)
	if err != nil {
		t.Fatal(err)
	}
	texts = slices.Clone(made.Entries)
	n := 0
	add := func(after time.Duration, area string, kind logbook.Kind, body any, more ...string) string {
		n++
		id := fmt.Sprintf("019cb000-0000-7000-8000-%012d", n)
		e := map[string]any{"id": id, "jobId": made.ID, "kind": kind, "at": noon.Add(after).Format(time.RFC3339), "by": made.Named["lead"], "body": body}
		if area != "" {
			e["areaId"] = made.Areas[area]
		}
		for i := 0; i+1 < len(more); i += 2 {
			e[more[i]] = more[i+1]
		}
		text, err := json.Marshal(e)
		if err != nil {
			t.Fatal(err)
		}
		texts = append(texts, text)
		return id
	}
	climate := func(air, base float64) map[string]any {
		return map[string]any{"air_C": air, "substrate_C": base, "rh_percent": 60.0}
	}
	for _, area := range []string{"shower1", "shower2", "laundry"} {
		add(-50*time.Hour, area, logbook.KindAirPlace, map[string]any{"place": "Ground floor"})
	}
	add(-3*time.Hour, "", logbook.KindAirRead, map[string]any{"place": "Ground floor", "air_C": 16.0, "rh_percent": 62.0})
	add(-2*time.Hour, "laundry", logbook.KindClimate, climate(15, 12))
	wrong := add(-90*time.Minute, "shower2", logbook.KindClimate, climate(25, 24))
	add(time.Minute, "shower2", logbook.KindClimate, climate(17, 15), "corrects", wrong, "reason", "the wrong room")
	add(-26*time.Hour, "", logbook.KindStockCounted, map[string]any{"sheet": sheet.Samples()[0].ID, "packs": []map[string]any{{"amount": 20, "count": 1}}})
	for _, area := range []string{"shower1", "shower2"} {
		step := map[string]string{"shower1": "coat_1_accepted", "shower2": "coat_2"}[area]
		add(2*time.Minute, area, logbook.KindOverridden, map[string]any{"step": step, "person": made.Named["lead"], "reason": "the client insists"})
		add(4*time.Minute, area, logbook.KindLaid, map[string]any{"step": "coat_2", "surfaces": []string{"floor"}, "kg": 5.5})
		add(5*time.Minute, area, logbook.KindRead, map[string]any{"step": "coat_2", "surface": "floor", "along_mm": 900, "up_mm": 900, "last_wet_mm": 1.0, "next_dry_mm": 1.1})
	}
	leak := add(6*time.Minute, "shower2", logbook.KindLeakFound, map[string]any{"surface": "floor", "along_mm": 300, "up_mm": 300, "state": "damp"})
	add(7*time.Minute, "shower2", logbook.KindLeakPlugged, map[string]any{"leak": leak, "with": "plug"})
	read := add(8*time.Minute, "drying", logbook.KindRead, map[string]any{"step": "coat_2", "surface": "floor", "along_mm": 500, "up_mm": 500, "last_wet_mm": 0.3, "next_dry_mm": 0.4})
	add(9*time.Minute, "drying", logbook.KindRead, nil, "corrects", read, "reason", "read twice")
	add(10*time.Minute, "shower1", logbook.KindDone, map[string]any{"step": "prepare"}, "corrects", "019cb000-0000-7000-8000-0000000000ff", "reason", "of what is not there")
	early := add(40*time.Minute, "shower2", logbook.KindRead, map[string]any{"step": "coat_2", "surface": "floor", "along_mm": 700, "up_mm": 700, "last_wet_mm": 1.0, "next_dry_mm": 1.1})
	add(20*time.Minute, "shower2", logbook.KindRead, nil, "corrects", early, "reason", "by a clock that is behind")
	texts = append(texts, []byte(`{"id":"019cb000-0000-7000-8000-00000000aaaa","kind":"blessed"}`), []byte("no entry at all"))
	texts = append(texts, slices.Clone(texts[len(texts)/2])) // delivered twice
	return made, texts
}

// says is what a site shows of a job.
func says(t *testing.T, s *site.Site, made demo.Job, areas ...string) map[string]string {
	t.Helper()
	all := map[string]string{}
	keep := func(name string, value any) { all[name] = textOf(t, value) }
	now := noon.Add(30 * time.Minute)
	keep("materials", s.Materials("", now))
	for _, key := range areas {
		keep(key, s.LeanLook(made.Areas[key], now))
	}
	keep("warmer", s.LeanBoard(now.Add(8*time.Hour), 5))
	return all
}

func textOf(t *testing.T, value any) string {
	t.Helper()
	text, err := json.Marshal(value)
	if err != nil {
		t.Fatal(err)
	}
	return string(text)
}

func compare(t *testing.T, how string, got, want map[string]string) {
	t.Helper()
	for name := range got {
		if got[name] == want[name] {
			continue
		}
		at := 0
		for at < len(got[name]) && at < len(want[name]) && got[name][at] == want[name][at] {
			at++
		}
		t.Fatalf("%s: %s differs at %d:\n got ...%.300s\nwant ...%.300s", how, name, at, got[name][max(0, at-120):], want[name][max(0, at-120):])
	}
}

// Entry by entry in any order, a job is the same as loaded at once, and nothing that was asked in between
// stays in what is asked later.
func TestAppendedIsLoaded(t *testing.T) {
	made, texts := book(t)
	keys := slices.Sorted(maps.Keys(made.Areas))
	want := says(t, site.Read(texts), made, keys...)
	inOrder := slices.Clone(texts)
	slices.SortStableFunc(inOrder, func(a, b []byte) int { return logbook.ReadKept(a).When().Compare(logbook.ReadKept(b).When()) })
	areas := slices.Sorted(maps.Values(made.Areas))
	for n := range 100 {
		random := rand.New(rand.NewPCG(uint64(n), 9))
		order := slices.Clone(inOrder) // as a crew records, and as a server hands it out
		switch n % 3 {
		case 1:
			random.Shuffle(len(order), func(i, j int) { order[i], order[j] = order[j], order[i] })
		case 2: // two devices, one of them long without a signal
			cut := len(order) / 2
			random.Shuffle(20, func(i, j int) { order[cut+i], order[cut+j] = order[cut+j], order[cut+i] })
		}
		begun := len(order) * n / 100
		s := site.Read(order[:begun])
		for rest := order[begun:]; len(rest) > 0; {
			many := min(len(rest), 1+random.IntN(3))
			if random.IntN(8) == 0 {
				s.Look(areas[random.IntN(len(areas))], noon.Add(time.Duration(random.IntN(20))*time.Hour))
			}
			if random.IntN(20) == 0 {
				s.Board(noon, 3)
			}
			s.Add(rest[:many])
			rest = rest[many:]
			if random.IntN(20) > 0 {
				continue
			}
			area, now := logbook.ReadKept(order[len(order)-len(rest)-1]).AreaID, noon.Add(time.Hour)
			if area == "" {
				area = areas[0]
			}
			so := site.Read(order[:len(order)-len(rest)])
			compare(t, fmt.Sprintf("shuffle %d, %d loaded, %d left", n, begun, len(rest)), map[string]string{"look": textOf(t, s.LeanLook(area, now))}, map[string]string{"look": textOf(t, so.LeanLook(area, now))})
		}
		compare(t, fmt.Sprintf("shuffle %d, %d loaded", n, begun), says(t, s, made, "shower2", keys[n%len(keys)]), want)
	}
}

// What is left out again leaves nothing behind.
func TestRemovedWasNeverThere(t *testing.T) {
	made, texts := book(t)
	keys := slices.Sorted(maps.Keys(made.Areas))
	want := says(t, site.Read(made.Entries), made, keys...)
	s := site.Read(made.Entries)
	s.Board(noon, 0)
	var ids []string
	for _, text := range texts[len(made.Entries):] {
		s.Add([][]byte{text})
		if e := logbook.ReadKept(text); e.ID != "" && !strings.Contains(string(text), `"job.opened"`) && !known(made.Entries, e.ID) {
			ids = append(ids, e.ID)
		}
	}
	s.Board(noon, 0)
	s.Remove(append(ids, "")) // what has no id goes with it
	compare(t, "all taken back", says(t, s, made, keys...), want)
}

func known(texts [][]byte, id string) bool {
	return slices.ContainsFunc(texts, func(text []byte) bool { return strings.Contains(string(text), `"id":"`+id+`"`) })
}

// Two areas that were both passed by name, and take of one counted stock, do not ask each other for ever.
func TestAreasThatShareAStockAreFoldedOnce(t *testing.T) {
	made, texts := book(t)
	s := site.Read(texts)
	for _, key := range []string{"shower1", "shower2"} {
		if look := s.Look(made.Areas[key], noon.Add(time.Hour)); len(look.Deviations) == 0 {
			t.Errorf("%s: nothing was passed", key)
		}
	}
	if users := s.Users(made.Areas["shower2"]); len(users) != 1 || users[0] != s.Area(made.Areas["shower1"]) {
		t.Errorf("of the count took %d others", len(users))
	}
}

// A board in short says of each area what its look says.
func TestTheBoardSaysWhatTheLooksSay(t *testing.T) {
	_, texts := book(t)
	s := site.Read(texts)
	for _, after := range []time.Duration{0, 30 * time.Minute, 9 * time.Hour, 400 * time.Hour} {
		now := noon.Add(after)
		whole, lean := s.Board(now, 0), s.LeanBoard(now, 0)
		for i, line := range whole.Areas {
			look := s.Look(line.ID, now)
			got := map[string]string{"next": textOf(t, line.Next), "tide": textOf(t, line.Tide), "geometry": textOf(t, line.Geometry), "pieces": textOf(t, line.Pieces)}
			compare(t, line.Name, got, map[string]string{"next": textOf(t, look.Next), "tide": textOf(t, look.Tide), "geometry": textOf(t, look.Geometry), "pieces": textOf(t, look.Pieces)})
			for _, stage := range look.Stages {
				if stage.ID == look.Next.Stage && textOf(t, stage) != textOf(t, line.Stage) {
					t.Errorf("%s: the stage under way differs", line.Name)
				}
			}
			for _, coat := range look.Coats {
				if coat.Step == line.Coated && textOf(t, coat) != textOf(t, line.Coat) {
					t.Errorf("%s: its last coat differs", line.Name)
				}
				if coat.Used > 0 && line.Coated < coat.Step {
					t.Errorf("%s: last laid was %s, not %q", line.Name, coat.Step, line.Coated)
				}
			}
			if look.Sample != line.Sample || look.Planned != (look.Plan != nil) || lean.Areas[i].Geometry != nil || lean.Areas[i].Coat != nil || lean.Areas[i].Surveyed != (look.Geometry != nil) {
				t.Errorf("%s: %+v", line.Name, lean.Areas[i])
			}
		}
	}
}

// Between filling and signing, water stands where the test is.
func TestAreasUnderWater(t *testing.T) {
	made, err := demo.Make(noon, 5)
	if err != nil {
		t.Fatal(err)
	}
	var filled time.Time
	for _, text := range made.Entries {
		if e := logbook.ReadKept(text); e.Kind == logbook.KindTestFilled && e.AreaID == made.Areas["drying"] {
			filled = e.When()
		}
	}
	for after, want := range map[time.Duration]bool{-time.Second: false, time.Minute: true} {
		before := slices.DeleteFunc(slices.Clone(made.Entries), func(text []byte) bool { return logbook.ReadKept(text).When().After(filled.Add(after)) })
		s := site.Read(before)
		look := s.Look(made.Areas["drying"], filled.Add(after))
		for _, line := range s.LeanBoard(filled.Add(after), 0).Areas {
			if line.ID != made.Areas["drying"] {
				continue
			}
			if deep := line.Flood > 0; deep != want || deep && line.Flood != look.Test.Chosen.Depth {
				t.Errorf("%v after it is filled: %v mm of water", after, line.Flood)
			}
		}
	}
}
