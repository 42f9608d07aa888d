package sheet_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dusha/core/sheet"
)

// Whatever lays a product has the cautions of its chemistry, once each, and what is laid of another none.
func TestWhatIsLaidHasTheCautionsOfItsChemistry(t *testing.T) {
	of := map[string][]string{}
	for _, s := range sheet.Samples() {
		if s.Is() != "membrane" {
			continue
		}
		if len(s.Gear()) == 0 || len(s.Cleaning()) == 0 {
			t.Errorf("%s: nothing to wear, or no way to clean", s.Chemistry)
		}
		for _, step := range s.Work().Steps() {
			if !step.Lays() {
				continue
			}
			sorted := slices.Sorted(slices.Values(step.Cautions))
			if len(slices.Compact(slices.Clone(sorted))) != len(sorted) {
				t.Errorf("%s, %s: %v", s.Chemistry, step.ID, step.Cautions)
			}
			of[s.Chemistry+" "+string(step.Does)] = sorted
		}
	}
	for what, want := range map[string][]string{
		"polyurethane bed": {"fire", "solvent"}, "polyurethane coat": {"fire", "slips", "solvent"}, "pmma bed": {"fire", "peroxide", "solvent"},
		"cementitious_two_part bed": {"alkaline"}, "bitumen_felt coat": {"fire", "height", "hot_bitumen"},
	} {
		if !slices.Equal(of[what], want) {
			t.Errorf("%s: %v, want %v", what, of[what], want)
		}
	}
}

// A kind of membrane is a file of data: no code knows one by its name.
func TestNoCodeNamesAChemistry(t *testing.T) {
	for _, root := range []string{"../..", "../../web/src"} {
		err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil {
				return err
			}
			ending := filepath.Ext(path)
			if d.IsDir() && (d.Name() == "node_modules" || d.Name() == "web" && root == "../.." || strings.HasPrefix(d.Name(), ".") && len(d.Name()) > 2) {
				return filepath.SkipDir
			}
			if ending != ".go" && ending != ".ts" && ending != ".vue" || strings.HasSuffix(path, "_test.go") {
				return nil
			}
			code, err := os.ReadFile(path)
			for _, name := range sheet.Chemistries {
				for _, quote := range []string{`"`, "'", "`"} {
					if strings.Contains(string(code), quote+name+quote) {
						t.Errorf("%s names %s", path, name)
					}
				}
			}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
	}
}
