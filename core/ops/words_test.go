package ops_test

import (
	"encoding/json"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"dusha/core/rules"
	"dusha/core/sheet"
	"dusha/core/system"
	"dusha/core/system/systemtest"
	"dusha/core/takeoff"
	"dusha/core/wetarea"
)

// wordings are the places in the code where a key of the catalogue is given, with the
// prefix the page puts before it.
var wordings = []struct {
	pattern *regexp.Regexp
	prefix  string
}{
	{regexp.MustCompile(`fault\.At\([^,\n]+, "([a-z_]+\.[a-z_]+)"`), "fault."},
	{regexp.MustCompile(`"(deviation\.[a-z_]+)"`), ""},
	{regexp.MustCompile(`(?:text|words)\((?:"[a-z_]+", [^"\n]*(?:"(?:start|middle|end)", )?)?"((?:drawing|twin)\.[a-z_]+)"`), ""},
	{regexp.MustCompile(`"(next\.[a-z_]+)"`), ""},
	{regexp.MustCompile(`"(body\.[A-Za-z0-9_.]*[A-Za-z0-9_])"`), "field."},
	{regexp.MustCompile(`(?:Worked|Sum)\("(plan\.[a-z_.]*[a-z_])"`), ""},
	{regexp.MustCompile(`(?:Worked|Sum)\("[^"]+", (?:[^"\n]+, )?(?:"[a-z0-9/]+", )?"([a-z]+\.[a-z_0-9]+)"`), "rule."},
	{regexp.MustCompile(`Rounded\("([a-z_]+)"\)`), "rounding."},
}

// catalogue is what the page says, by key.
func catalogue(t *testing.T) map[string]string {
	t.Helper()
	text, err := os.ReadFile("../../web/src/words/en.json")
	if err != nil {
		t.Fatal(err)
	}
	var words map[string]string
	if err := json.Unmarshal(text, &words); err != nil {
		t.Fatal(err)
	}
	return words
}

// Every key the core gives has its words in the page's catalogue.
func TestEveryKeyHasItsWords(t *testing.T) {
	words := catalogue(t)
	found := 0
	for _, root := range []string{"..", "../../draw", "../../internal"} {
		err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			code, err := os.ReadFile(path)
			if err != nil {
				return err
			}
			for _, w := range wordings {
				for _, match := range w.pattern.FindAllStringSubmatch(string(code), -1) {
					found++
					if _, said := words[w.prefix+match[1]]; !said {
						t.Errorf("%s gives %s%s, which has no words", path, w.prefix, match[1])
					}
				}
			}
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	if found < 120 {
		t.Errorf("only %d keys found: the patterns no longer match the code", found)
	}
}

// Every question of a survey, every answer that can be picked, every gate and every number of
// a local-rules profile has its words.
func TestASurveyIsAskedInWords(t *testing.T) {
	words := catalogue(t)
	item := regexp.MustCompile(`^(pipes|zones|openings|niches|boxes|stations|drains|fittings|lines|levels|patches)\.\d+\.(.+)$`)
	wall := regexp.MustCompile(`^walls\.[a-z]+\.(\w+)$`)
	need := func(keys ...string) {
		for _, key := range keys {
			if _, is := words[key]; is {
				return
			}
		}
		t.Errorf("none of %v has words", keys)
	}
	seen := 0
	for _, form := range wetarea.Forms {
		need("form." + form)
		for _, typed := range surveys(form) {
			asked, err := wetarea.Ask(form, typed)
			if err != nil {
				t.Fatal(err)
			}
			for _, q := range asked.Form.Questions {
				seen++
				name := item.ReplaceAllString(wall.ReplaceAllString(q.ID, "walls.$1"), "$1.$2")
				need("ask."+name+".short", "ask."+name)
				if q.Kind == "length" {
					need("ask." + name + ".line") // from where, and which way
				}
				if q.Kind == "list" {
					need("ask." + q.ID + ".add")
					need("ask." + q.ID + ".item")
				}
				for _, option := range q.Options {
					if len(option) > 2 && !strings.Contains(option, ".") && !slices.Contains([]string{"floor", "soffit"}, option) {
						need("option."+name+"."+option, "option."+option)
					}
				}
			}
		}
	}
	if seen < 300 {
		t.Errorf("only %d questions were asked", seen)
	}
	for _, number := range rules.Order() {
		need("ask.numbers." + number + ".short")
	}
	for _, gate := range []string{"gap", "leak", "leak_unchecked", "too_young", "trapped_water", "surfacing", "weak", "bare_earth", "flexing", "from_behind", "salts", "contamination", "strip", "profile", "flatness", "low_upstand", "low_freeboard", "flat_fall", "level_misses", "closing"} {
		need("gate." + gate)
		need("gate." + gate + ".lift")
	}
}

// Every figure of a sheet and all that can be picked for it, every use, chemistry, school, tool and
// stop has its words.
func TestMaterialsAreSaidInWords(t *testing.T) {
	words := catalogue(t)
	need := func(keys ...string) {
		t.Helper()
		if !slices.ContainsFunc(keys, func(key string) bool { _, is := words[key]; return is }) {
			t.Errorf("none of %v has words", keys)
		}
	}
	numbers, options := sheet.FormNumbers()
	for _, name := range numbers {
		need("sheet." + name)
		for _, option := range options[name] {
			need("option."+name+"."+option, "option."+option)
		}
	}
	for _, role := range sheet.Roles {
		need("product." + role)
	}
	for _, chemistry := range sheet.Chemistries {
		need("chemistry." + chemistry)
	}
	for _, group := range sheet.Groups {
		need("sheet.group." + group)
	}
	for _, schools := range []map[string][]string{system.Schools, system.ReadWays} {
		for name, ways := range schools {
			need("school." + name)
			need("school." + name + ".mixed")
			for _, way := range ways {
				need("school." + name + "." + way)
				need("school." + name + "." + way + ".why")
			}
		}
	}
	for _, closing := range takeoff.Closings {
		need("option." + closing)
	}
	for _, s := range sheet.Samples() {
		for _, cleaning := range s.Cleaning() {
			need("cleaning." + cleaning)
		}
		for _, gear := range s.Gear() {
			need("gear." + gear)
		}
	}
	for _, each := range system.Samples() {
		film, _ := each.Membrane()
		for _, step := range systemtest.Built(film.Product).Order.Steps() {
			for _, tool := range step.Tools {
				need("tool." + tool)
			}
			for _, caution := range step.Cautions {
				need("caution." + caution)
				for _, gear := range sheet.Gear(caution) {
					need("gear." + gear)
				}
			}
		}
	}
	code, err := os.ReadFile("../choice/choice.go")
	if err != nil {
		t.Fatal(err)
	}
	stops := regexp.MustCompile(`stop\("([a-z_]+)"`).FindAllStringSubmatch(string(code), -1)
	for _, stop := range stops {
		need("stop." + stop[1])
	}
	for _, side := range []string{"negative", "positive", "submersion", "potable", "uv", "vapour"} {
		need("stop." + side)
		need("stop."+side+"_unrated", "stop."+side+"_unstated")
	}
	if len(stops) < 6 {
		t.Errorf("only %d stops found: the pattern no longer matches the code", len(stops))
	}
}

// surveys are forms that ask all there is to ask: lists with one item of each kind.
func surveys(form string) []map[string]string {
	base := map[string]string{
		"outline": "rectangle", "length": "3000", "width": "2000", "height": "2000", "walls.count": "4", "stations": "1", "freeboard": "100", "basin_depth": "1000",
		"diameter": "1800", "tank_height": "1500", "water_depth": "1400", "tray_depth": "200", "upstand": "150", "walls.a.length": "2000", "walls.b.length": "2000", "walls.c.length": "2000", "walls.d.length": "2000",
		"walls.b.corner": "internal", "walls.c.corner": "internal", "walls.d.corner": "internal",
		"walls.a.kind": "wall", "walls.b.kind": "threshold", "walls.c.kind": "wall", "walls.d.kind": "wall",
		"zones": "1", "openings": "1", "niches": "1", "boxes": "1", "drains": "1", "fittings": "1", "fittings.1.kind": "leg", "fittings.1.surface": "floor", "lines": "1", "lines.1.kind": "movement", "lines.1.surface": "floor",
		"patches": "1", "patches.1.surface": "wall.a", "patches.1.extent": "part", "patches.1.moisture": "3", "patches.1.water_side": "negative", "fall": "to_lay", "pipes.count": "1",
		"walls.a.height": "2000", "walls.b.height": "2000", "walls.c.height": "2000", "walls.d.height": "2000",
	}
	with := func(changes map[string]string) map[string]string {
		typed := maps.Clone(base)
		maps.Copy(typed, changes)
		return typed
	}
	return []map[string]string{
		base,
		with(map[string]string{"stations": ""}),
		with(map[string]string{"outline": "points", "points": ""}),
		with(map[string]string{"outline": "walls"}),
		with(map[string]string{"outline": "walls", "walls.a.length": "2030"}),
		with(map[string]string{"fall": "found", "levels": "1", "drains.1.kind": "channel", "fittings.1.surface": "wall.a", "lines.1.surface": "wall.a"}),
	}
}
