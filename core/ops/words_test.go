package ops_test

import (
	"encoding/json"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
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
	{regexp.MustCompile(`(?:Worked|Sum)\("(plan\.[a-z_.]*[a-z_])"`), ""},
	{regexp.MustCompile(`(?:Worked|Sum)\("[^"]+", (?:[^"\n]+, )?(?:"[a-z0-9/]+", )?"([a-z]+\.[a-z_0-9]+)"`), "rule."},
	{regexp.MustCompile(`Rounded\("([a-z_]+)"\)`), "rounding."},
}

// Every key the core gives has its words in the page's catalogue.
func TestEveryKeyHasItsWords(t *testing.T) {
	text, err := os.ReadFile("../../web/src/words/en.json")
	if err != nil {
		t.Fatal(err)
	}
	var words map[string]string
	if err := json.Unmarshal(text, &words); err != nil {
		t.Fatal(err)
	}
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
