package sheet_test

import (
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"dusha/core/sheet"
	"dusha/core/substrate"
)

// room is where a figure will be used that nothing uses yet. The list only gets shorter.
var room = map[string]string{
	"crack_bridging": "choice, over cracks that move",
}

// A figure that is asked and used by nothing is a lie to whoever typed it: each one of the form is named by
// something beside the form.
func TestEachFigureIsUsed(t *testing.T) {
	var code strings.Builder
	err := filepath.WalkDir("..", func(path string, entry os.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, filepath.Join("sheet", "form.go")) || strings.Contains(path, "opcases") {
			return err
		}
		text, err := os.ReadFile(path)
		code.Write(text)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	systems, err := os.ReadFile(filepath.Join("..", "system", "samples.json"))
	if err != nil {
		t.Fatal(err)
	}
	schools, err := os.ReadFile(filepath.Join("..", "system", "samples_schools.json"))
	if err != nil {
		t.Fatal(err)
	}
	systems = append(systems, schools...)
	for _, of := range regexp.MustCompile(`"of": "[a-z_0-9]+\.([a-z_0-9]+)"`).FindAllStringSubmatch(string(systems), -1) {
		code.WriteString(`"` + of[1] + `"`) // what the layers of a system name
	}
	left := maps.Clone(room)
	said := regexp.MustCompile(`"[a-z_0-9. ]+"`).FindAllString(code.String(), -1)
	names, _ := sheet.FormNumbers()
	for _, name := range names {
		if material, on := strings.CutPrefix(name, "on_"); on && slices.Contains(substrate.Materials, material) {
			name = "on_" // asked of each material
		}
		stem := regexp.MustCompile(`(_[abc])?_(-10|0|10|20|30|a|b|c)$`).ReplaceAllString(name, "_") // times at temperatures, parts
		used := slices.ContainsFunc(said, func(text string) bool {
			plain := strings.Trim(text, `"`)
			return plain == name || plain == stem || plain == strings.TrimSuffix(stem, "_") || slices.Contains(strings.Fields(plain), name) || slices.Contains(strings.Fields(plain), strings.TrimSuffix(stem, "_"))
		})
		_, will := room[name]
		delete(left, name)
		if used == will {
			t.Errorf("%s: used is %v, and it stands in the list of what will be: %v", name, used, will)
		}
	}
	for name := range left {
		t.Errorf("%s is listed, and the form does not ask it", name)
	}
}
