package sheet_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dusha/core/sheet"
)

// Every chemistry says what to wear and how tools are cleaned.
func TestEachChemistrySaysItsGear(t *testing.T) {
	for _, s := range sheet.Samples() {
		if s.Is() == "membrane" && (len(s.Gear()) == 0 || len(s.Cleaning()) == 0) {
			t.Errorf("%s: nothing to wear, or no way to clean", s.Chemistry)
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
