package site_test

import (
	"bufio"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dusha/core/sheet"
	"dusha/core/site"
	"dusha/core/system"
)

// A pack's own sheet is typed in five minutes: what a system in an area stands still without is asked first, and with it alone,
// all else left for later, the plan is accepted and the work goes from the first step to the last, on a job that is no demo.
func TestWithWhatCannotWaitTheWorkGoesOn(t *testing.T) {
	const mostOfFilm, mostOfMixed, mostOfOther = 25, 11, 6
	for name, lines := range beginnings(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			c := newCrew(t)
			for _, line := range lines {
				c.line = line
				c.do(strings.Fields(line))
			}
			c.survey()
			film, _ := c.of.Membrane()
			chosen, err := c.of.Chosen(merged(c.of.FirstChoices(), c.choices))
			if err != nil {
				t.Fatal(err)
			}
			own := ""
			for _, p := range chosen.Products {
				like, known := sheet.Sample(p.Product)
				if !known {
					t.Fatalf("no sheet of %s", p.Product)
				}
				needs, err := c.site.Needs(dayArea, c.of.ID, like.ID)
				if err != nil {
					t.Fatal(err)
				}
				typed := map[string]string{"name": "Own " + like.Name}
				said := like.Typed()
				for _, need := range needs {
					typed[need] = said[need]
				}
				if slices.Contains(needs, "temp_range") {
					typed["temp_range"] = "-"
				}
				if typed["temp_range"] != "" && said["temp_least"] != "-" {
					typed["temp_range"] = strings.TrimSuffix(said["temp_least"], " °C") + " to " + said["temp_most"]
				}
				answers := len(typed)
				if p.Key == film.Key {
					typed["packs"], typed["packs.1.size"] = "1", said["packs.1.size"]
					answers++
				}
				most := mostOfOther
				switch {
				case p.Key == film.Key:
					most = mostOfFilm
				case len(like.Parts) > 1: // weighed and mixed like a film
					most = mostOfMixed
				}
				if p.Key == film.Key && !slices.Contains(needs, "base_state") { // a damp base is held against it
					t.Errorf("%s does not ask what base it wants: %v", like.ID, needs)
				}
				if answers > most {
					t.Errorf("%s asks %d answers: %v", like.ID, answers, needs)
				}
				id := "own." + strings.TrimPrefix(like.ID, "sample.")
				form, filled := sheet.Read(like, id, typed, needs...)
				if faults := form.Faults(); len(faults) > 0 {
					t.Fatalf("%s: %v", like.ID, faults)
				}
				c.add("sheet.added", map[string]any{"sheet": filled})
				if p.Key == film.Key {
					own = id
				}
			}
			asks := map[string]string{"choice.potable": "no", "choice.sun": "no", "choice.traffic": "none", "choice.damp": "no", "choice.open": "no", "choice.temp": "19"}
			tried, err := c.site.Try(dayArea, site.Choice{System: c.of.ID, Sheet: own, Texture: c.texture, Choices: c.choices, Typed: asks})
			if err != nil {
				t.Fatal(err)
			}
			for _, stop := range tried.Stops {
				if stop.Says == "not_known" {
					t.Errorf("stopped by what nobody was asked: %+v", stop)
				}
			}
			if tried.Plan == nil {
				t.Fatalf("no plan: %+v", tried.Refusal)
			}
			c.plan(own)
			if name == "fast_resin" { // what seals its chase wants it warmer
				c.goTo("finish_chase")
				c.do(strings.Fields("air 12 base 10 humidity 60"))
			}
			c.goTo("end")
			c.honest()
		})
	}
}

func merged(one, over map[string]string) map[string]string {
	all := maps.Clone(one)
	maps.Copy(all, over)
	return all
}

// beginnings are where each shipped system is laid and in which air: as in the days of work, else in a room.
func beginnings(t *testing.T) map[string][]string {
	t.Helper()
	begin := map[string][]string{}
	files, _ := filepath.Glob("testdata/days/*.txt")
	for _, file := range files {
		text, err := os.Open(file)
		if err != nil {
			t.Fatal(err)
		}
		var lines []string
		name := ""
		for scan := bufio.NewScanner(text); scan.Scan(); {
			words := strings.Fields(scan.Text())
			if len(words) == 0 || words[0] == "#" {
				continue
			}
			if words[0] == "begin" {
				break
			}
			if words[0] == "system" {
				name = words[1]
			}
			lines = append(lines, scan.Text())
		}
		text.Close()
		if name != "" && begin[name] == nil && !strings.Contains(file, "mistaken") {
			begin[name] = lines
		}
	}
	for _, s := range system.Samples() {
		name := strings.TrimPrefix(s.ID, "sample.system.")
		if begin[name] == nil {
			begin[name] = []string{"place L-shaped room with niche, window and bench", "base concrete", "system " + name, "air 20 base 19 humidity 55"}
		}
	}
	if len(begin) < 27 || !slices.Contains(slices.Collect(maps.Keys(begin)), "flexible_cementitious") {
		t.Fatalf("%d systems", len(begin))
	}
	return begin
}
